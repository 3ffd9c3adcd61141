package practice

import (
	"fmt"
	"slices"
	"strings"

	"palethicket/core/flora"
	"palethicket/core/flora/handbook"
)

// PairOf is the card of two look-alikes, or none where it would be one tree twice, or a genus taken
// as a whole beside one of its own.
func PairOf(a, b string) (Card, bool) {
	if a > b {
		a, b = b, a
	}
	of, _, whole := strings.Cut(a, " (")
	return Card{Kind: Pair, Taxon: a, Other: b}, a != b && a != "" && !(whole && strings.HasPrefix(b, of+" "))
}

// pairs are the cards of the look-alikes among the taxa, as the flora has lines for them.
func (t *Teacher) pairs(taxa []string) (out []Card) {
	for i, a := range taxa {
		for _, b := range taxa[:i] {
			if t.Flora.Apart(a, b) == nil {
				continue
			}
			if c, ok := PairOf(a, b); ok {
				out = append(out, c)
			}
		}
	}
	return out
}

// pairShown draws two trees of one part, which of them first by the seed: of the parts that show
// how they differ, the one that shows most.
func (t *Teacher) pairShown(c Card, among flora.Among, seed uint64, oddness float64) (*Individual, error) {
	for _, name := range []string{c.Taxon, c.Other} {
		if t.Flora.Taxon(name) == nil {
			return nil, fmt.Errorf("the flora has no %s", name)
		}
	}
	best, most := "twig", -1
	for _, part := range []string{"twig", "bark", "outline", "ground"} {
		if n := len(t.Telling(c, part)); n > most {
			best, most = part, n
		}
	}
	first, second := c.Taxon, c.Other
	if seed>>7&1 == 1 {
		first, second = second, first
	}
	show := func(taxon string, seed uint64) (*Individual, error) {
		return t.shown(Card{Kind: Pair, Taxon: taxon}, best, among, seed, oddness)
	}
	one, err := show(first, seed)
	if err != nil {
		return nil, err
	}
	two, err := show(second, seed+2)
	if err != nil {
		return nil, err
	}
	out := *one
	out.Card, out.Second = c, two
	return &out, nil
}

// Telling are the characters of a part in which two taxa usually differ.
func (t *Teacher) Telling(c Card, part string) []string {
	one, err := t.book.Plate(c.Taxon, "", flora.Mature, flora.Breast, 0)
	if err != nil || one == nil {
		return nil
	}
	two, err := t.book.Plate(c.Other, "", flora.Mature, flora.Breast, 0)
	if err != nil || two == nil {
		return nil
	}
	return slices.DeleteFunc(handbook.Differences(one.Shows, two.Shows), func(id string) bool { return !Shows(part, id) })
}

// Differ are the characters in which the two trees of a pair that are shown differ, of those that a card of its part shows.
func (t *Teacher) Differ(ind *Individual) []string {
	return slices.DeleteFunc(handbook.Differences(ind.values, ind.Second.values), func(id string) bool { return !Shows(ind.Part, id) })
}

// First is the taxon of a pair that is shown first.
func (ind *Individual) First() string {
	if ind.Second != nil && ind.Second.Taxon == ind.Taxon {
		return ind.Other
	}
	return ind.Taxon
}

// JudgePair says what it is worth to say which tree of a pair is shown first, and by what character
// one tells: right where the two that are shown differ in it; true by another, or by none, it is not
// far enough.
func (t *Teacher) JudgePair(ind *Individual, first, by, sure string) (*Verdict, error) {
	v := &Verdict{Verdict: NoIdea, Taxon: ind.First()}
	switch first {
	case "":
		return v, nil
	case ind.Taxon, ind.Other:
	default:
		return nil, fmt.Errorf("%q is neither of the two", first)
	}
	verdict := NotFar
	if slices.Contains(t.Differ(ind), by) {
		verdict = Right
	}
	return v.settle(first == ind.First(), verdict, sure)
}
