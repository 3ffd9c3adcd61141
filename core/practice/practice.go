// Package practice asks people for trees on drawn individuals, and judges what they say:
// a name is right as far as what was shown carries one, and beyond that it is too far even
// where it happens to be true.
//
//	practice.go   cards, and the individuals they show
//	judge.go      what an answer is worth
//	progress.go   what is due, what is known, and whether "sure" is sure
package practice

import (
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

// Kinds are the kinds of card: what is shown of a tree.
var Kinds = []string{"twig", "bark", "outline", "ground"}

// shownBy says which characters a kind of card shows.
var shownBy = map[string][]string{
	"twig":    {"twig.", "bud.", "scar.", "needle.", "fruit.catkin"},
	"bark":    {"bark."},
	"outline": {"form."},
	"ground":  {"ground.leaf"},
}

// hidden are characters that no drawing shows.
var hidden = []string{"form.dbh", "twig.scent", "twig.milky-sap", "twig.wood-ridges", "bark.give", "bark.section", "bark.sheds-on-rub",
	"bark.under-color", "needle.pale-lines"}

// Shows says whether a kind of card shows a character.
func Shows(kind, character string) bool {
	return !slices.Contains(hidden, character) &&
		slices.ContainsFunc(shownBy[kind], func(p string) bool { return strings.HasPrefix(character, p) })
}

// Card is what is learnt: one part of one kind of tree.
type Card struct {
	Kind  string
	Taxon string
}

// ID writes a card as one word.
func (c Card) ID() string { return c.Kind + ":" + c.Taxon }

// ParseCard reads what [Card.ID] wrote.
func ParseCard(id string) (Card, error) {
	kind, taxon, ok := strings.Cut(id, ":")
	if !ok || !slices.Contains(Kinds, kind) || taxon == "" {
		return Card{}, fmt.Errorf("%q is no card: want a kind of %s and a taxon, as twig:Acer rubrum", id, strings.Join(Kinds, ", "))
	}
	return Card{kind, taxon}, nil
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

// Deck gives the cards of some kinds of all trees of a region or list, the commonest first.
// A tree of which a kind would show nothing has no such card.
func (t *Teacher) Deck(among flora.Among, kinds []string) ([]Card, error) {
	lines, err := t.book.List(among, nil)
	if err != nil {
		return nil, err
	}
	var out []Card
	for at := range len(lines) + apart*len(kinds) {
		for k, kind := range kinds { // another part of a tree comes some cards later
			i := at - apart*k
			if i < 0 || i >= len(lines) {
				continue
			}
			tree, err := t.book.Tree(lines[i].Name, among.Region, flora.Mature, flora.Breast, 0)
			if err != nil {
				return nil, err
			}
			if known(tree.Shows, kind) >= leastShown[kind] {
				out = append(out, Card{kind, lines[i].Name})
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
	Age  flora.Age
	Tree *plate.Tree // with only what the card shows; its name is hidden
	Rec  *record.Record
}

// Individual draws the tree that a card shows with a seed: oddness 0 is a usual one, 1 one
// as odd as they come; grown trees mostly, for bark of any age.
func (t *Teacher) Individual(c Card, among flora.Among, seed uint64, oddness float64) (*Individual, error) {
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
	values = slices.DeleteFunc(values, func(v handbook.PlateValue) bool { return !Shows(c.Kind, v.Character) && v.Character != "needle.kept" })
	tree, err := t.book.Tree(c.Taxon, among.Region, age, flora.Breast, seed|1)
	if err != nil {
		return nil, err
	}
	tree.Shows, tree.English = handbook.ShowsOf(values), "a tree"
	return &Individual{c, age, tree, t.record(among, age, c.Kind, values)}, nil
}

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
