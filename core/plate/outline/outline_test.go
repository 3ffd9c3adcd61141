package outline

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/plate"
)

func tree(crown, limbs string) *plate.Tree {
	return &plate.Tree{Name: "Acer", Age: "mature", Height: 20, Build: plate.OrdinaryBuild, Shows: plate.Shows{
		"form.crown": {State: crown}, "form.limbs": {State: limbs}, "form.habit": {State: "single-stem"}, "form.dbh": {Value: 40}}}
}

func grown(t *plate.Tree) *growth {
	g := newGrowth(t)
	g.grow()
	g.fit()
	return g
}

// extent gives how tall and how wide it stands, in m.
func (g *growth) extent() (tall, wide float64) {
	top, left, right := ground, g.x, g.x
	for _, s := range g.strokes {
		for _, q := range s.points {
			top, left, right = math.Min(top, q.Y), math.Min(left, q.X), math.Max(right, q.X)
		}
	}
	return (ground - top) / g.scale, (right - left) / g.scale
}

// lowest is how far down, as a share of the height, the ends of branches hang.
func (g *growth) lowest() float64 {
	low := 0
	for _, q := range g.ends {
		if ground-q.Y < 0.3*g.h {
			low++
		}
	}
	return float64(low) / float64(len(g.ends))
}

// TestCrowns: trees are as tall as they are said to be, and their crowns have their shapes.
func TestCrowns(t *testing.T) {
	t.Parallel()
	wide := map[string]float64{}
	for _, crown := range []string{"columnar", "conical", "rounded", "spreading", "flat-topped", "vase", "weeping", "ragged"} {
		g := grown(tree(crown, "ascending"))
		tall, w := g.extent()
		require.InDelta(t, 20, tall, 0.2, crown)
		wide[crown] = w
		require.Greater(t, len(g.strokes), 700, crown)
		require.Less(t, len(g.strokes), 5000, crown)
	}
	require.Less(t, wide["columnar"], 0.75*wide["rounded"])
	require.Greater(t, wide["spreading"], 1.2*wide["rounded"])
	require.Greater(t, grown(tree("weeping", "drooping")).lowest(), 3*grown(tree("vase", "ascending")).lowest()+0.05, "it hangs")
	down := func(limbs string) float64 { return grown(tree("conical", limbs)).lowest() }
	require.Greater(t, down("drooping"), down("ascending"))
}

// TestHabits: a clump has many stems from the ground, a tree one.
func TestHabits(t *testing.T) {
	t.Parallel()
	stems := func(habit string) (n int) {
		tr := tree("rounded", "ascending")
		tr.Shows["form.habit"] = plate.Shown{State: habit}
		for _, s := range grown(tr).strokes {
			if s.points[0].Y == ground && s.from > 0 {
				n++
			}
		}
		return n
	}
	require.Equal(t, 1, stems("single-stem"))
	require.Equal(t, 4, stems("many-stemmed-tree"))
	require.Greater(t, stems("shrub-clump"), 8)
	require.Greater(t, stems("thicket"), 8)
}

// TestSpray: the finer the twigs, the more there are and the thinner.
func TestSpray(t *testing.T) {
	t.Parallel()
	last, thick := math.MaxInt, 0.0
	for _, spray := range []string{"very-fine", "fine", "medium", "coarse", "very-coarse"} {
		tr := tree("rounded", "ascending")
		tr.Shows["form.spray"] = plate.Shown{State: spray}
		g := grown(tr)
		require.Less(t, len(g.ends), last, spray)
		require.Greater(t, g.spray.thick, thick, spray)
		last, thick = len(g.ends), g.spray.thick
	}
}

// TestDrawing: the same tree gives the same bytes, a person stands beside it, and it stays
// small enough.
func TestDrawing(t *testing.T) {
	t.Parallel()
	tr := tree("rounded", "ascending")
	svg := Draw(tr, "light")
	require.Equal(t, svg, Draw(tr, "light"))
	require.Contains(t, string(svg), "1.75 m")
	require.Contains(t, string(svg), "20 m tall")
	require.Less(t, len(svg), 150_000)
	require.Less(t, len(Small(tr, "light")), len(svg)/2)
	require.Contains(t, Describe(tr), "Outline, 20 m tall")
}

func BenchmarkDraw(b *testing.B) {
	t := tree("rounded", "ascending")
	for b.Loop() {
		Draw(t, "light")
	}
}
