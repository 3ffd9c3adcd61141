package lookalike_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
	"palethicket/core/flora/lookalike"
	"palethicket/core/tree/record"
)

func eastern(t *testing.T) *flora.Pool {
	f := floratest.Shipped(t)
	p, err := f.Pool(flora.PoolKey{Among: flora.Among{Region: "eastern-north-america"}, Age: flora.At(flora.Mature)})
	require.NoError(t, err)
	return p
}

func find(t *testing.T, p *flora.Pool, name string) int {
	i, ok := p.Find(name)
	require.True(t, ok, name)
	return i
}

// TestTwoStates works the divergence of two taxa by hand from their answers.
func TestTwoStates(t *testing.T) {
	p := eastern(t)
	a, b := find(t, p, "Juglans nigra"), find(t, p, "Juglans cinerea")
	const char = "scar.fringe"
	i, ok := p.Index(char, flora.Breast)
	require.True(t, ok)
	seen := func(taxon int) float64 {
		c := p.Model.Taxa()[taxon].Values[i].Chance
		return c*record.Detection["clear"] + (1-c)*record.FalseAlarm
	}
	x, y := seen(a), seen(b)
	want := ((x-y)*math.Log2(x/y) + (y-x)*math.Log2((1-x)/(1-y))) / 2
	require.Positive(t, want)
	table := lookalike.NewTable(p)
	require.InDelta(t, want, table.Of(char, a, b), 1e-9)
	require.Zero(t, table.Of("no.such", a, b))
}

func TestAPairIsOneSum(t *testing.T) {
	p := eastern(t)
	table := lookalike.NewTable(p)
	for _, names := range [][2]string{
		{"Quercus rubra", "Quercus velutina"}, {"Acer rubrum", "Acer saccharinum"}, {"Carya ovata", "Carya cordiformis"},
	} {
		a, b := find(t, p, names[0]), find(t, p, names[1])
		x, y := table.Between(a, b), table.Between(b, a)
		require.InDelta(t, x.Both, y.Both, 1e-9, "as far one way as the other")
		require.InDelta(t, x.Twig+x.Bark, x.Both, 1e-9)
		require.Positive(t, x.Both)
		require.NotEmpty(t, x.By)
		for i, w := range x.By {
			require.GreaterOrEqual(t, w.Bits, 0.0)
			if i > 0 {
				require.LessOrEqual(t, w.Bits, x.By[i-1].Bits, "the most first")
			}
		}
	}
	for _, w := range table.Between(0, 0).By {
		require.Zero(t, w.Bits, "a tree is its own double in all that is known of it")
	}
}

// TestNearest: what foresters take for each other (common practice) comes
// before what they do not.
func TestNearest(t *testing.T) {
	p := eastern(t)
	table := lookalike.NewTable(p)
	for _, c := range []struct{ name, genus string }{
		{"Quercus rubra", "Quercus"}, {"Carya glabra", "Carya"}, {"Fraxinus americana", "Fraxinus"},
		{"Ulmus americana", "Ulmus"}, {"Betula lenta", "Betula"},
	} {
		near := table.Nearest(find(t, p, c.name))
		require.GreaterOrEqual(t, len(near), 2)
		require.LessOrEqual(t, len(near), 5)
		require.Equal(t, c.genus, p.Model.Taxa()[near[0].B].Genus, c.name)
		for i := 1; i < len(near); i++ {
			require.GreaterOrEqual(t, near[i].Both, near[i-1].Both)
		}
	}
	for _, pair := range table.Nearest(find(t, p, "Pinus strobus")) {
		require.NotEqual(t, "Quercus", p.Model.Taxa()[pair.B].Genus, "nobody takes a pine for an oak")
	}
}
