package key

import (
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
)

// TestRareTreesAreSaid: a lead says what the rare trees of its side show too, or somebody at one of them would find it in neither.
func TestRareTreesAreSaid(t *testing.T) {
	t.Parallel()
	c := &flora.Character{ID: "bark.texture", States: []flora.State{{ID: "smooth"}, {ID: "blocks"}, {ID: "scales"}}}
	col := &column{flora: c, shows: [][]float64{{1, 0, 0}, {0, 0.9, 0.1}, nil}}
	require.Equal(t, uint64(0b011), col.likely(&node{taxa: []int{0, 1, 2}, weight: []float64{0.97, 0.01, 0.02}}))
}

// TestListsDropRepeats: what phrases of a list begin or end with alike is said once.
func TestListsDropRepeats(t *testing.T) {
	t.Parallel()
	for want, words := range map[string][]string{
		"with three or five bundle scars":                            {"with three bundle scars", "with five bundle scars"},
		"in long or broad flat-topped ridges":                        {"in long ridges", "in broad flat-topped ridges"},
		"with pointed or rounded lobes":                              {"with pointed lobes", "with rounded lobes"},
		"red, brown or gray":                                         {"red", "brown", "gray"},
		"climbing by forked tendrils or old leafstalks":              {"climbing by forked tendrils", "climbing by old leafstalks"},
		"smooth or in small scales":                                  {"smooth", "in small scales"},
		"without thorns or ending in thorns":                         {"without thorns", "ending in thorns"},
		"with two faint lines or without lines":                      {"with two faint lines", "without lines"},
		"with a ring of bundle scars or many scattered bundle scars": {"with a ring of bundle scars", "with many scattered bundle scars"},
		"with three bundle scars, five bundle scars or bundle scars in three groups": {"with three bundle scars", "with five bundle scars",
			"with bundle scars in three groups"},
	} {
		require.Equal(t, want, orList(withoutRepeats(words)))
	}
}

// TestArrangementWithoutATwig: with a twig in hand anybody can tell how buds stand; up in the crown not always.
func TestArrangementWithoutATwig(t *testing.T) {
	t.Parallel()
	f := floratest.Shipped(t)
	seen := func(taste string) float64 {
		a := Asked{Among: flora.Among{Region: f.HomeRegion()}, Taste: taste}
		p, err := a.pool(f)
		require.NoError(t, err)
		weights, err := a.chosen(p)
		require.NoError(t, err)
		at, _ := p.Index(arrangement, flora.Breast)
		red, _ := p.Find("Acer rubrum")
		return columnOf(p, at, weights, a.observer()).seen[red]
	}
	require.InDelta(t, 1, seen("whole"), 1e-9)
	require.InDelta(t, f.Character(arrangement).Told, seen("no-twig"), 1e-9)
	require.InDelta(t, f.Character(arrangement).Told, seen("afar"), 1e-9)
}
