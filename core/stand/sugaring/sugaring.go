// Package sugaring says which trees of a stand could be tapped for sap: maples by the chance of
// the name, and taps by diameter. Common practice, from memory of extension bulletins for the
// north-eastern United States: one tap from 10 inches (25.4 cm), two from 18 (45.7 cm), never more,
// none in a tree that fails. Whether to tap is the owner's to decide.
package sugaring

import (
	"cmp"
	"math"
	"slices"
)

// One and Two are from which diameter a tree bears one tap, and two, in cm.
const (
	One = 25.4
	Two = 45.7
)

// Tree is one that might be tapped.
type Tree struct {
	ID, Tag  string
	Diameter float64            // cm; 0: not measured
	Failing  bool               // dying, dead
	Names    map[string]float64 // chances by taxon
}

// Maple is a tree that could be one.
type Maple struct {
	Tree
	Sugar float64 // chance that it is one of the sweet ones
	Maple float64 // that it is any maple
	Taps  int     // that its diameter bears; 0 where it is not measured, too thin, or fails
	Why   string  // why there is none
}

// sweet are the maples that are usually tapped: sugar and black.
var sweet = []string{"Acer saccharum", "Acer nigrum"}

// least is the chance of being a maple under which a tree is not spoken of.
const least = 0.05

// Of lists the maples of a stand, the surest and thickest first, and the taps to be expected:
// each tree's by the chance that it is a sugar or black maple.
func Of(trees []Tree, isMaple func(taxon string) bool) (maples []Maple, expected float64) {
	for _, t := range trees {
		m := Maple{Tree: t}
		for name, p := range t.Names {
			if isMaple(name) {
				m.Maple += p
			}
			if slices.Contains(sweet, name) {
				m.Sugar += p
			}
		}
		if m.Maple < least {
			continue
		}
		switch {
		case t.Failing:
			m.Why = "it fails"
		case t.Diameter == 0:
			m.Why = "its diameter is not measured"
		case t.Diameter < One:
			m.Why = "it is thinner than 25.4 cm (10 in)"
		case t.Diameter < Two:
			m.Taps = 1
		default:
			m.Taps = 2
		}
		expected += m.Sugar * float64(m.Taps)
		maples = append(maples, m)
	}
	slices.SortFunc(maples, func(a, b Maple) int {
		return cmp.Or(cmp.Compare(math.Round(20*b.Sugar), math.Round(20*a.Sugar)), cmp.Compare(b.Taps, a.Taps),
			cmp.Compare(b.Diameter, a.Diameter), cmp.Compare(a.Tag, b.Tag))
	})
	return maples, expected
}
