// Package practice asks people for trees on drawn individuals, and judges what they say:
// a name is right as far as what was shown carries one, and beyond that it is too far even
// where it happens to be true.
//
//	practice.go   cards of trees, and the individuals they show
//	draw.go       the drawings of cards
//	word.go       cards of words: which state is this part?
//	pair.go       cards of look-alikes: which is which, and by what?
//	judge.go      what an answer is worth
//	progress.go   what is due, what is known, and whether "sure" is sure
//	session.go    which card is asked next
package practice

import (
	"cmp"
	"errors"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"

	"palethicket/core/flora"
	"palethicket/core/flora/handbook"
	"palethicket/core/plate"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/evidence"
)

// Kinds are the kinds of card: what is shown of a tree; word and pair cards.
var Kinds = []string{"twig", "bark", "outline", "ground", Word, Pair}

// The kinds that are not of one part of one tree.
const (
	Word = "word"
	Pair = "pair"
)

// shownBy says which characters a kind of card shows.
var shownBy = map[string][]string{
	"twig":    {"twig.", "bud.", "scar.", "needle.", "fruit.catkin"},
	"bark":    {"bark."},
	"outline": {"form."},
	"ground":  {"ground.leaf"},
}

// hidden are characters that no drawing shows.
var hidden = []string{"form.dbh", "twig.scent", "twig.milky-sap", "twig.wood-ridges", "bark.give", "bark.section", "bark.sheds-on-rub",
	"bark.under-color", "needle.pale-lines", "ground.leaf-edge", "ground.leaf-notches", "ground.leaf-base", "ground.leaf-feel",
	"ground.leaf-wet", "form.climbs"}

// Shows says whether a kind of card shows a character.
func Shows(kind, character string) bool {
	return !slices.Contains(hidden, character) &&
		slices.ContainsFunc(shownBy[kind], func(p string) bool { return strings.HasPrefix(character, p) })
}

// Card is what is learnt: one part of one kind of tree; the word for a state; or two trees that look
// alike.
type Card struct {
	Kind      string
	Taxon     string
	Other     string // of a pair, after Taxon in the alphabet
	Character string // of a word
	State     string // of a word
}

// ID writes a card on one line.
func (c Card) ID() string {
	switch c.Kind {
	case Word:
		return Word + ":" + c.Character + "=" + c.State
	case Pair:
		return Pair + ":" + c.Taxon + "|" + c.Other
	}
	return c.Kind + ":" + c.Taxon
}

// ParseCard reads what [Card.ID] wrote.
func ParseCard(id string) (Card, error) {
	kind, of, ok := strings.Cut(id, ":")
	if ok && slices.Contains(Kinds, kind) && of != "" {
		switch a, b, two := strings.Cut(of, map[string]string{Word: "=", Pair: "|"}[kind]); {
		case kind != Word && kind != Pair:
			return Card{Kind: kind, Taxon: of}, nil
		case !two || a == "" || b == "":
		case kind == Word:
			return Card{Kind: Word, Character: a, State: b}, nil
		case a < b:
			return Card{Kind: Pair, Taxon: a, Other: b}, nil
		}
	}
	return Card{}, fmt.Errorf("%q is no card: want a kind of %s and what it is of, as twig:Acer rubrum", id, strings.Join(Kinds, ", "))
}

// Teacher asks and judges by one flora. It is safe for use by several goroutines.
type Teacher struct {
	Flora  *flora.Flora
	engine *answer.Engine
	book   *handbook.Handbook
}

// NewTeacher makes one.
func NewTeacher(f *flora.Flora, e *answer.Engine, h *handbook.Handbook) *Teacher {
	return &Teacher{f, e, h}
}

// Deck gives the cards of some kinds of all trees of a region or list, or of those of it that are
// named, the commonest first. A tree of which a kind would show nothing has no such card; of one
// tree alone there are none, as it is always the answer.
func (t *Teacher) Deck(among flora.Among, kinds, only []string) ([]Card, error) {
	lines, err := t.book.List(among, nil)
	if err != nil {
		return nil, err
	}
	var taxa []string
	for _, l := range lines {
		if len(only) == 0 || slices.Contains(only, l.Name) {
			taxa = append(taxa, l.Name)
		}
	}
	if len(taxa) < 2 {
		return nil, ErrTooFew
	}
	parts := slices.DeleteFunc(slices.Clone(kinds), func(k string) bool { return k == Word || k == Pair })
	trees, err := t.treeCards(among, taxa, parts)
	if err != nil {
		return nil, err
	}
	out := [][]Card{trees}
	if slices.Contains(kinds, Word) {
		words, err := t.words(among, taxa)
		if err != nil {
			return nil, err
		}
		out = append(out, words)
	}
	if slices.Contains(kinds, Pair) {
		out = append(out, t.pairs(taxa))
	}
	deck := merged(out)
	if len(deck) == 0 {
		return nil, ErrNothingDrawn
	}
	return deck, nil
}

// ErrTooFew is given for a deck of less than two trees.
var ErrTooFew = errors.New("a deck of fewer than two trees asks nothing: add what they could be taken for")

// ErrNothingDrawn is given for a deck of which nothing can be shown.
var ErrNothingDrawn = errors.New("of these trees nothing of these kinds can be drawn: choose other kinds of card")

// merged mixes lists, each in its order, so that they end together.
func merged(lists [][]Card) []Card {
	type placed struct {
		Card
		at float64
	}
	var all []placed
	for _, l := range lists {
		for i, c := range l {
			all = append(all, placed{c, (float64(i) + 0.5) / float64(len(l))})
		}
	}
	slices.SortStableFunc(all, func(a, b placed) int { return cmp.Compare(a.at, b.at) })
	out := make([]Card, len(all))
	for i := range all {
		out[i] = all[i].Card
	}
	return out
}

// treeCards are the cards of one part of one tree.
func (t *Teacher) treeCards(among flora.Among, lines, kinds []string) ([]Card, error) {
	var out []Card
	for at := range len(lines) + apart*len(kinds) {
		for k, kind := range kinds { // another part of a tree comes some cards later
			i := at - apart*k
			if i < 0 || i >= len(lines) {
				continue
			}
			tree, err := t.book.Tree(lines[i], among.Region, flora.Mature, flora.Breast, 0)
			if err != nil {
				return nil, err
			}
			if known(tree.Shows, kind) >= leastShown[kind] {
				out = append(out, Card{Kind: kind, Taxon: lines[i]})
			}
		}
	}
	return out, nil
}

// apart is how many trees lie between two parts of one.
const apart = 7

// leastShown is how many characters must be known for a card to be fair.
var leastShown = map[string]int{"twig": 6, "bark": 2, "outline": 3, "ground": 1}

func known(shows plate.Shows, kind string) (n int) {
	for id := range shows {
		if Shows(kind, id) {
			n++
		}
	}
	return n
}

// Individual is one tree that a card shows.
type Individual struct {
	Card
	Part string // what is drawn of it: twig, bark, outline or ground
	Age  flora.Age
	Dim  bool        // it is shown in poor light, and read less surely
	Tree *plate.Tree // with only what the card shows; its name is hidden
	Rec  *record.Record

	Second *Individual // of a pair: the one that is shown second

	among  flora.Among
	values []handbook.PlateValue
}

// Individual draws the tree that a card shows with a seed: oddness 0 is a usual one, 1 one
// as odd as they come; grown trees mostly, for bark of any age.
func (t *Teacher) Individual(c Card, among flora.Among, seed uint64, oddness float64) (*Individual, error) {
	switch c.Kind {
	case Word:
		return t.wordShown(c, among, seed, oddness)
	case Pair:
		return t.pairShown(c, among, seed, oddness)
	}
	return t.shown(c, c.Kind, among, seed, oddness)
}

// shown draws a part of the tree of a card.
func (t *Teacher) shown(c Card, part string, among flora.Among, seed uint64, oddness float64) (*Individual, error) {
	if t.Flora.Taxon(c.Taxon) == nil {
		return nil, fmt.Errorf("the flora has no %s", c.Taxon)
	}
	r := rand.New(rand.NewPCG(seed, 16))
	age := flora.Mature
	if c.Kind == "bark" {
		age = []flora.Age{flora.Mature, flora.Mature, flora.Young, flora.Old}[r.IntN(4)]
	}
	values, err := t.book.Individual(c.Taxon, age, flora.Breast, seed|1, oddness)
	if err != nil {
		return nil, err
	}
	values = slices.DeleteFunc(values, func(v handbook.PlateValue) bool { return !Shows(part, v.Character) && v.Character != "needle.kept" })
	tree, err := t.book.Tree(c.Taxon, among.Region, age, flora.Breast, seed|1)
	if err != nil {
		return nil, err
	}
	tree.Shows, tree.English = handbook.ShowsOf(values), "a tree"
	out := &Individual{Card: c, Part: part, Age: age, Tree: tree, Rec: t.record(among, age, part, values), among: among, values: values}
	if out.Dim = oddness > dimFrom && r.IntN(3) == 0; out.Dim {
		for i := range out.Rec.Looks {
			for j := range out.Rec.Looks[i].Scores {
				out.Rec.Looks[i].Scores[j].Certainty = "fair"
			}
		}
	}
	return out, nil
}

// dimFrom is how well a card must be known for it to come in poor light now and then.
const dimFrom = 0.4

// record writes what is shown as a field record.
func (t *Teacher) record(among flora.Among, age flora.Age, kind string, values []handbook.PlateValue) *record.Record {
	rec := &record.Record{ID: "practice", Region: among.Region, List: among.List, Age: flora.AgeWords[age], Flat: true}
	looks := map[string]*record.Look{}
	for _, v := range values {
		if v.Character == "needle.kept" {
			rec.Foliage = v.State
		}
		if !Shows(kind, v.Character) || v.Character == "needle.kept" {
			continue
		}
		ch := t.Flora.Character(v.Character)
		s := record.Score{Character: v.Character, Value: v.Value, Seen: v.Seen, Certainty: "sure"}
		switch ch.Kind {
		case evidence.Tally, evidence.Categorical:
			s.States = []string{v.State}
		}
		from := answer.From(ch)
		if looks[from] == nil {
			looks[from] = &record.Look{From: from}
		}
		looks[from].Scores = append(looks[from].Scores, s)
	}
	for _, from := range record.Froms.IDs() {
		if l := looks[from]; l != nil {
			rec.Looks = append(rec.Looks, *l)
		}
	}
	return rec
}
