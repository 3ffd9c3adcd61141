package practice

import (
	"cmp"
	"fmt"
	"math/rand/v2"
	"slices"

	"palethicket/core/flora"
	"palethicket/core/weigh/evidence"
)

// typical is the share of a taxon's trees that show a state for it to be one of theirs.
const typical = 0.35

// words are the cards of the states that the taxa typically show, those that most show first.
func (t *Teacher) words(among flora.Among, taxa []string) ([]Card, error) {
	count := map[Card]int{}
	for _, name := range taxa {
		for _, c := range t.typicalOf(name) {
			count[c]++
		}
	}
	states := map[string]int{}
	for c := range count {
		states[c.Character]++
	}
	var out []Card
	for c := range count {
		if states[c.Character] > 1 { // else there is nothing to choose
			out = append(out, c)
		}
	}
	slices.SortFunc(out, func(a, b Card) int { return cmp.Or(cmp.Compare(count[b], count[a]), cmp.Compare(a.ID(), b.ID())) })
	return out, nil
}

// typicalOf are the words for what a taxon typically shows when it is grown.
func (t *Teacher) typicalOf(taxon string) (out []Card) {
	x := t.Flora.Taxon(taxon)
	for i := range t.Flora.Characters {
		c := &t.Flora.Characters[i]
		v := &x.Entry(c.ID).Cells[flora.Mature][flora.Breast]
		if c.Kind != evidence.Categorical || v.Knowledge != evidence.Known || PartOf(c.ID) == "" || len(c.States) < 2 {
			continue
		}
		for s, p := range v.Dist {
			if p >= typical && !nothing[c.States[s].ID] {
				out = append(out, Card{Kind: Word, Character: c.ID, State: c.States[s].ID})
			}
		}
	}
	return out
}

// nothing are states that say that there is nothing to see: they are among what is offered, and no cards
// of their own.
var nothing = map[string]bool{"none": true, "absent": true, "bare": true}

// PartOf is the part that a character shows in; "" where no drawing shows it.
func PartOf(character string) string {
	for _, part := range []string{"twig", "bark", "outline", "ground"} {
		if Shows(part, character) {
			return part
		}
	}
	return ""
}

// wordShown draws a tree that typically shows the state of a word: any of them, by the seed.
func (t *Teacher) wordShown(c Card, among flora.Among, seed uint64, oddness float64) (*Individual, error) {
	ch := t.Flora.Character(c.Character)
	if ch == nil || ch.State(c.State) < 0 || PartOf(c.Character) == "" {
		return nil, fmt.Errorf("the flora has no drawn state %s of %s", c.State, c.Character)
	}
	lines, err := t.book.List(among, nil)
	if err != nil {
		return nil, err
	}
	var of []string
	for _, l := range lines {
		if slices.Contains(t.typicalOf(l.Name), c) {
			of = append(of, l.Name)
		}
	}
	if len(of) == 0 {
		return nil, fmt.Errorf("no tree of this list typically has %s: %s", ch.Name, c.State)
	}
	r := rand.New(rand.NewPCG(seed, 61))
	const tries = 60
	for n := range uint64(tries) {
		card := c
		card.Taxon = of[r.IntN(len(of))]
		ind, err := t.shown(card, PartOf(c.Character), among, seed+2*n, oddness)
		if err != nil {
			return nil, err
		}
		if ind.Card = c; ind.Tree.Shows[c.Character].State != c.State && n < tries/2 {
			continue
		}
		ind = ind.with(c.State) // where chance would not have it, it is so all the same
		if tells, err := ind.tells(ch.States); err != nil || tells {
			return ind, err
		}
	}
	return nil, fmt.Errorf("no drawing tells %s %s from the others", ch.Name, c.State)
}

// JudgeWord says what the name of a state is worth.
func (t *Teacher) JudgeWord(ind *Individual, state, sure string) (*Verdict, error) {
	v := &Verdict{Verdict: NoIdea, Taxon: ""}
	if state == "" {
		return v, nil
	}
	if t.Flora.Character(ind.Character).State(state) < 0 {
		return nil, fmt.Errorf("%s has no state %q: choose one of those offered", ind.Character, state)
	}
	return v.settle(state == ind.State, Right, sure)
}

// settle fills in a verdict that is right or wrong.
func (v *Verdict) settle(right bool, verdict, sure string) (*Verdict, error) {
	chance, ok := Sureness[sure]
	if !ok {
		return nil, ErrSureness
	}
	outcome := 0.0
	if v.Verdict = Wrong; right {
		v.Verdict, v.True, outcome = verdict, true, 1
	}
	v.Brier = (chance - outcome) * (chance - outcome)
	return v, nil
}
