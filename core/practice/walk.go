package practice

import (
	"cmp"
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"

	"palethicket/core/flora"
	"palethicket/core/flora/handbook"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/ranking"
)

// A walk goes through a wood that does not exist, made of what grows in a real one. What its trees
// are stays hidden until its end.

// WalkPart is something that can be looked at on a walk.
type WalkPart struct {
	ID      string
	Words   string
	From    string // the look of the record that it belongs to
	Reach   string // beyond which it cannot be had; "": always
	drawing string // "": it is told in words alone
	prefix  []string
}

// WalkParts are those of every tree, in the order that one comes to them.
var WalkParts = []WalkPart{
	{"site", "The ground it stands on", "site", "", "", []string{"setting."}},
	{"outline", "The whole tree, from a few steps off", "crown", "crown", "outline", []string{"form.", "fruit."}},
	{"bark", "The bark at breast height", "tree", "", "bark", []string{"bark.", "sign."}},
	{"ground", "Leaves and fruit on the ground", "litter", "ground", "leaf", []string{"ground.", "fruit."}},
	{"fallen", "A twig from the ground", "fallen", "ground", "twig", []string{"twig.", "bud.", "scar.", "needle."}},
	{"twig", "A twig of its own, in hand", "tree", "hand", "twig", []string{"twig.", "bud.", "scar.", "needle."}},
}

// PartNamed gives a part of the walk, or nil.
func PartNamed(id string) *WalkPart {
	for i := range WalkParts {
		if WalkParts[i].ID == id {
			return &WalkParts[i]
		}
	}
	return nil
}

// shows says whether a character is looked at with the part: of fruit what can be told from below, or what lies there.
func (p *WalkPart) shows(c *flora.Character) bool {
	if c.ID == "form.dbh" || c.ID == foliage || c.Section == "fruit" && c.Reach != p.Reach {
		return false
	}
	return slices.ContainsFunc(p.prefix, func(x string) bool { return strings.HasPrefix(c.ID, x) })
}

// foliage is judged at first sight of a tree.
const foliage = "needle.kept"

// WalkTree is one of the trees, with what is hidden of it.
type WalkTree struct {
	Taxon  string            `json:"taxon"`
	Age    string            `json:"age"`
	Seed   uint64            `json:"seed"`
	Odd    float64           `json:"odd"`
	X      float64           `json:"x"` // m
	Y      float64           `json:"y"`
	Snow   string            `json:"snow"`
	Beyond []string          `json:"beyond"`
	Other  map[string]string `json:"other"` // whose what lies below it is, by part, where it is another's
}

// Grows is how much of a wood one taxon is.
type Grows struct {
	Taxon string
	Share float64
}

// The bounds of a walk.
const (
	WalkLeast = 5
	WalkMost  = 20
)

// ErrNoWood is given for a wood in which nothing grows.
var ErrNoWood = errors.New("nothing is known to grow there: choose another stand, or a list")

// Wood draws the trees of a walk: of what grows in a real wood, some young, some odd, some with no
// twig in reach, and now and then with another's leaves or twigs below. oddness is 0 for usual trees.
func Wood(grows []Grows, n int, snow string, oddness float64, seed uint64) ([]WalkTree, error) {
	grows = slices.DeleteFunc(slices.Clone(grows), func(g Grows) bool { return g.Share <= 0 })
	if len(grows) == 0 {
		return nil, ErrNoWood
	}
	if n < WalkLeast || n > WalkMost {
		return nil, fmt.Errorf("a walk has %d to %d trees, not %d", WalkLeast, WalkMost, n)
	}
	r := rand.New(rand.NewPCG(seed, 20))
	draw := func() string {
		all := 0.0
		for _, g := range grows {
			all += g.Share
		}
		u := r.Float64() * all
		for _, g := range grows {
			if u -= g.Share; u < 0 {
				return g.Taxon
			}
		}
		return grows[len(grows)-1].Taxon
	}
	out := make([]WalkTree, n)
	for i := range out {
		t := WalkTree{
			Taxon:  draw(),
			Age:    []string{"mature", "mature", "mature", "old", "young"}[r.IntN(5)],
			Seed:   r.Uint64()>>1 | 1,
			Odd:    oddness,
			Snow:   snow,
			Beyond: []string{},
			Other:  map[string]string{},
		}
		angle := 2 * math.Pi * (float64(i) + 0.6*r.Float64()) / float64(n)
		off := 25 + 35*r.Float64()
		t.X, t.Y = off*math.Cos(angle), off*math.Sin(angle)
		if t.Age != "young" && r.Float64() < 0.4 {
			t.Beyond = append(t.Beyond, "hand")
		}
		if snow == "deep" {
			t.Beyond = append(t.Beyond, "ground")
		}
		for _, part := range []string{"ground", "fallen"} {
			if other := draw(); other != t.Taxon && r.Float64() > record.Belonging[PartNamed(part).From] {
				t.Other[part] = other
			}
		}
		out[i] = t
	}
	return out, nil
}

// Offered says whether a part of a tree can be looked at, and if not why.
func (t *WalkTree) Offered(p *WalkPart) (bool, string) {
	switch {
	case p.Reach == "ground" && t.Snow == "deep":
		return false, "deep snow lies on it"
	case p.Reach == "hand" && slices.Contains(t.Beyond, "hand"):
		return false, "no twig is in reach"
	}
	return true, ""
}

// Seen is what a look at a part shows.
type Seen struct {
	Part    *WalkPart
	Tree    *Individual // to be drawn, where the part has a drawing
	Words   []string    // what hand, nose and eye find beside it
	Seconds int         // that the look takes: of each of its characters, as the flora says
	values  []handbook.PlateValue
	Foreign bool // it is another tree's
}

// See looks at a part of a tree.
func (t *Teacher) See(w *WalkTree, part string, among flora.Among) (*Seen, error) {
	p := PartNamed(part)
	if p == nil {
		return nil, fmt.Errorf("there is no part %q: choose one of those offered", part)
	}
	if ok, why := w.Offered(p); !ok {
		return nil, fmt.Errorf("this cannot be looked at: %s", why)
	}
	taxon := cmp.Or(w.Other[part], w.Taxon)
	age := flora.Age(slices.Index(flora.AgeWords, w.Age))
	values, err := t.book.Individual(taxon, age, flora.Breast, w.Seed+uint64(len(part)), w.Odd)
	if err != nil {
		return nil, err
	}
	s := &Seen{Part: p, Foreign: taxon != w.Taxon}
	for _, v := range values {
		c := t.Flora.Character(v.Character)
		if c == nil || !p.shows(c) || slices.ContainsFunc(values, func(sign handbook.PlateValue) bool {
			return sign.Character == c.ShownBy && sign.Seen != nil && !*sign.Seen
		}) {
			continue
		}
		s.values = append(s.values, v)
		s.Seconds += c.Seconds
		if !drawnBy(p, v.Character) {
			s.Words = append(s.Words, valueWords(c, &v))
		}
	}
	if p.drawing != "" {
		tree, err := t.book.Tree(taxon, among.Region, age, flora.Breast, w.Seed+uint64(len(part)))
		if err != nil {
			return nil, err
		}
		shown := slices.DeleteFunc(
			slices.Clone(values),
			func(v handbook.PlateValue) bool { return !drawnBy(p, v.Character) && v.Character != foliage },
		)
		tree.Shows, tree.English = handbook.ShowsOf(shown), "a tree"
		s.Tree = &Individual{Card: Card{Kind: p.ID, Taxon: taxon}, Part: p.drawing, Age: age, Tree: tree}
	}
	return s, nil
}

// drawnBy says whether a part's drawing shows a character.
func drawnBy(p *WalkPart, character string) bool {
	kind := map[string]string{"twig": "twig", "bark": "bark", "outline": "outline", "leaf": "ground"}[p.drawing]
	return kind != "" && Shows(kind, character)
}

// valueWords says what is found of a character that no drawing shows.
func valueWords(c *flora.Character, v *handbook.PlateValue) string {
	says := ""
	switch {
	case v.Seen != nil && *v.Seen:
		says = "yes"
	case v.Seen != nil:
		says = "no"
	case v.Value != nil:
		says = fmt.Sprintf("%.3g %s", *v.Value, c.Unit)
	default:
		says = record.StateWords(cmp.Or(v.State, strings.Join(v.States, " or ")))
	}
	return flora.UpperFirst(c.Name) + ": " + says
}

// record is what the looks at some parts show, all of it scored as it is.
func (t *Teacher) walkRecord(w *WalkTree, parts []string, among flora.Among) (*record.Record, []*Seen, error) {
	rec := &record.Record{
		ID:     "walk",
		Region: among.Region,
		List:   among.List,
		Age:    w.Age,
		Snow:   w.Snow,
		Beyond: w.Beyond,
		Looks:  []record.Look{},
	}
	values, err := t.book.Individual(w.Taxon, flora.Age(slices.Index(flora.AgeWords, w.Age)), flora.Breast, w.Seed, 0)
	if err != nil {
		return nil, nil, err
	}
	for _, v := range values {
		if v.Character == foliage {
			rec.Foliage = v.State
		}
	}
	var all []*Seen
	for _, part := range parts {
		s, err := t.See(w, part, among)
		if err != nil {
			return nil, nil, err
		}
		all = append(all, s)
		look := record.Look{From: s.Part.From}
		for _, v := range s.values {
			look.Scores = append(look.Scores, t.scoreOf(&v))
		}
		if len(look.Scores) > 0 {
			rec.Looks = append(rec.Looks, look)
		}
	}
	return rec, all, nil
}

// scoreOf writes a value as it would be scored by who reads it right.
func (t *Teacher) scoreOf(v *handbook.PlateValue) record.Score {
	s := record.Score{Character: v.Character, Value: v.Value, Seen: v.Seen, Certainty: "fair"}
	if c := t.Flora.Character(v.Character); c.Kind == evidence.Tally || c.Kind == evidence.Categorical {
		s.States = []string{cmp.Or(v.State, firstOf(v.States))}
	}
	if v.Seen != nil || v.Value != nil {
		s.Certainty = ""
	}
	return s
}

func firstOf(states []string) string {
	if len(states) == 0 {
		return ""
	}
	return states[0]
}

// Ordered is the order that the core would have looked in.
type Ordered struct {
	Parts   []string
	Seconds int
	Name    answer.Name
}

// BestOrder looks at a tree as the core would: each time at the part with the look that tells most for
// its time, until a species is named, or nothing more can be looked at that would tell.
func (t *Teacher) BestOrder(w *WalkTree, among flora.Among) (*Ordered, error) {
	out := &Ordered{Parts: []string{}}
	for {
		rec, seen, err := t.walkRecord(w, out.Parts, among)
		if err != nil {
			return nil, err
		}
		res, err := t.engine.Identify(rec, answer.Usual)
		if err != nil {
			return nil, err
		}
		out.Seconds, out.Name = 0, res.Named
		for _, s := range seen {
			out.Seconds += s.Seconds
		}
		if res.Named.Rank == ranking.Species {
			return out, nil
		}
		part := t.nextPart(w, res, out.Parts)
		if part == "" {
			return out, nil
		}
		out.Parts = append(out.Parts, part)
	}
}

// nextPart is the part of the look that the core would take next; "" where it would take none.
func (t *Teacher) nextPart(w *WalkTree, res *answer.Result, had []string) string {
	for _, n := range res.Next {
		for i := range WalkParts {
			p := &WalkParts[i]
			if ok, _ := w.Offered(p); ok && p.shows(t.Flora.Character(n.Character)) && !slices.Contains(had, p.ID) && p.ID != "fallen" {
				return p.ID
			}
		}
	}
	for _, p := range WalkParts { // what the few best looks leave out
		if ok, _ := w.Offered(&p); ok && !slices.Contains(had, p.ID) {
			return p.ID
		}
	}
	return ""
}

// Walked is what somebody did at a tree of a walk.
type Walked struct {
	Parts  []string       // looked at, in their order
	Said   Said           // the name they gave; none: nothing
	Scores []record.Score // what they scored, by look
	From   []string       // the look of each score
}

// Account is how it went at one tree.
type Account struct {
	Verdict   *Verdict
	Seconds   int
	Best      *Ordered
	Misread   []Misread
	Nothing   []string // parts whose look told nothing
	Strangers []string // parts that were another tree's
	TakenFor  string   // a stranger whose name was given
}

// Misread is a score that is not what was shown.
type Misread struct {
	Character string
	Said, Was string
}

// tellsNothing is how few bits a look is worth for it to have told nothing.
const tellsNothing = 0.1

// Account says how it went at a tree.
func (t *Teacher) Account(w *WalkTree, did *Walked, among flora.Among) (*Account, error) {
	rec, seen, err := t.walkRecord(w, did.Parts, among)
	if err != nil {
		return nil, err
	}
	if did.Said.Sure == "" {
		did.Said.Sure = "fair"
	}
	out := &Account{}
	if out.Verdict, err = t.Judge(&Individual{Card: Card{Kind: walked, Taxon: w.Taxon}, Rec: rec, among: among}, did.Said); err != nil {
		return nil, err
	}
	for i, s := range seen {
		out.Seconds += s.Seconds
		if s.Foreign {
			out.Strangers = append(out.Strangers, did.Parts[i])
			if label := t.names(s.taxon(w), did.Said.Rank); label == did.Said.Name && label != t.names(w.Taxon, did.Said.Rank) {
				out.TakenFor = s.taxon(w)
			}
		}
		out.Misread = append(out.Misread, t.misread(s, did)...)
	}
	res, err := t.engine.Identify(rec, answer.Options{})
	if err != nil {
		return nil, err
	}
	for i, at := 0, 0; i < len(seen); i++ {
		if len(seen[i].values) == 0 {
			out.Nothing = append(out.Nothing, did.Parts[i])
			continue
		}
		if at < len(res.Looks) && math.Abs(res.Looks[at].Bits) < tellsNothing {
			out.Nothing = append(out.Nothing, did.Parts[i])
		}
		at++
	}
	out.Best, err = t.BestOrder(w, among)
	return out, err
}

func (s *Seen) taxon(w *WalkTree) string { return cmp.Or(w.Other[s.Part.ID], w.Taxon) }

// misread lists the scores of a part that are not what it showed.
func (t *Teacher) misread(s *Seen, did *Walked) (out []Misread) {
	for i := range did.Scores {
		sc := &did.Scores[i]
		if did.From[i] != s.Part.From {
			continue
		}
		k := slices.IndexFunc(s.values, func(v handbook.PlateValue) bool { return v.Character == sc.Character })
		if k < 0 || sameAs(&s.values[k], sc) {
			continue
		}
		c := t.Flora.Character(sc.Character)
		was := valueWords(c, &s.values[k])
		said := valueWords(c, &handbook.PlateValue{Character: sc.Character, States: sc.States, Value: sc.Value, Seen: sc.Seen})
		if _, words, ok := strings.Cut(was, ": "); ok {
			was = words
		}
		out = append(out, Misread{sc.Character, said, was})
	}
	return out
}

// readWithin is how far a measure may be off to count as read right.
const readWithin = 0.3

func sameAs(v *handbook.PlateValue, s *record.Score) bool {
	switch {
	case v.Seen != nil && s.Seen != nil:
		return *v.Seen == *s.Seen
	case v.Value != nil && s.Value != nil:
		return math.Abs(*v.Value-*s.Value) <= readWithin*max(*v.Value, *s.Value)
	case len(s.States) > 0:
		return slices.Contains(s.States, v.State) || slices.ContainsFunc(v.States, func(x string) bool { return slices.Contains(s.States, x) })
	}
	return true
}
