package twig

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/plate"
)

func tree(shows plate.Shows, build plate.Build) *plate.Tree {
	return &plate.Tree{Name: "Acer", English: "a tree", Shows: shows, Build: build, Height: 12}
}

func state(s string) plate.Shown { return plate.Shown{State: s} }

// TestArrangement: pairs stand crosswise, whorls by three, and single buds in the ranks
// that leaves stand in.
func TestArrangement(t *testing.T) {
	t.Parallel()
	around := func(arrangement string, ranks int) [][]float64 {
		b := plate.OrdinaryBuild
		b.Ranks = ranks
		out := [][]float64{}
		for _, n := range newTwig(tree(plate.Shows{"twig.arrangement": state(arrangement)}, b)).nodes {
			out = append(out, n.around)
		}
		return out
	}
	for i, pair := range around("opposite", 2) {
		require.Len(t, pair, 2)
		require.InDelta(t, 0.5, pair[1]-pair[0], 1e-9, "face to face")
		require.InDelta(t, 0.25*float64(i%2), pair[0], 1e-9, "crosswise to the pair before")
	}
	for _, whorl := range around("whorled", 2) {
		require.Len(t, whorl, 3)
	}
	for ranks, turn := range map[int]float64{2: 0.5, 3: 1.0 / 3, 5: 0.4} {
		nodes := around("alternate", ranks)
		for i := 1; i < len(nodes); i++ {
			require.Len(t, nodes[i], 1)
			d := math.Abs(nodes[i][0] - nodes[i-1][0])
			require.InDelta(t, turn, min(d, 1-d), 0.0001+b2f(ranks == 5)*0.2001, "%d ranks", ranks)
		}
	}
	sub := newTwig(tree(plate.Shows{"twig.arrangement": state("subopposite")}, plate.OrdinaryBuild)).nodes
	require.Greater(t, sub[1].at, sub[0].at, "one a little above the other")
	require.Less(t, sub[1].at-sub[0].at, 6.0)
}

func b2f(b bool) float64 {
	if b {
		return 1
	}
	return 0
}

// TestLengths: thickness, the end bud and the way between nodes are true to scale, in mm.
func TestLengths(t *testing.T) {
	t.Parallel()
	for _, mm := range []float64{2, 4, 8} {
		b := plate.OrdinaryBuild
		b.Internode = 4 * mm
		w := newTwig(tree(plate.Shows{"twig.diameter": {Value: mm}, "bud.length": {Value: 2 * mm}, "bud.shape": state("egg")}, b))
		middle := (w.nodes[len(w.nodes)-2].at + w.nodes[len(w.nodes)-1].at) / 2
		require.InDelta(t, mm, 2*w.half(middle), 0.12*mm, "thickness")
		require.InDelta(t, 4*mm, w.nodes[len(w.nodes)-1].at-w.nodes[len(w.nodes)-2].at, mm, "internode")
		d := &budDrawing{twig: w, f: plate.Frame{}, l: w.bud, shape: "egg"}
		require.InDelta(t, 2*mm, d.put(0, 0).Sub(d.put(1, 0)).Length(), 1e-9, "end bud")
	}
	spindle, egg := profile("spindle", 0.3), profile("egg", 0.3)
	require.Less(t, 2.5*spindle, egg, "a spindle is slim")
}

var data = regexp.MustCompile(`<g data-of="([^"]+)" class="[^"]*">((?:<path[^>]*/>)*)</g>`)

// paths counts what is drawn for a character.
func paths(svg []byte, of string) (n int) {
	for _, m := range data.FindAllStringSubmatch(string(svg), -1) {
		if m[1] == of {
			n += strings.Count(m[2], "<path")
		}
	}
	return n
}

// TestCounts: the end bud under its lens has the scales that were counted, and the leaf
// scar the bundle traces.
func TestCounts(t *testing.T) {
	t.Parallel()
	for _, n := range []float64{4, 6, 12, 20} {
		scales := "many-overlapping"
		if n < 6 {
			scales = "few-overlapping"
		}
		svg := Part(
			tree(plate.Shows{"bud.scales": state(scales), "bud.scale-count": {Value: n}, "bud.length": {Value: 6}}, plate.OrdinaryBuild),
			"light",
			Bud,
		)
		require.Equal(t, int(n), paths(svg, "bud.scales"))
	}
	for bundles, n := range map[string]int{"one": 1, "two": 2, "three": 3, "five": 5, "seven-or-so": 7, "three-groups": 12, "ring-of-many": 12} {
		svg := string(Part(tree(plate.Shows{"scar.shape": state("shield"), "scar.bundles": state(bundles)}, plate.OrdinaryBuild), "light", Scar))
		traces := svg[strings.Index(svg, `data-of="scar.bundles"`):]
		traces = traces[:strings.Index(traces, "</g>")]
		require.Equal(t, n, strings.Count(traces, "h0"), bundles)
	}
}

// TestStance: side buds stand off at the angle of their stance.
func TestStance(t *testing.T) {
	t.Parallel()
	for stance, degrees := range map[string][2]float64{"pressed": {0, 15}, "spreading": {35, 60}} {
		require.GreaterOrEqual(t, Stance(stance), degrees[0])
		require.LessOrEqual(t, Stance(stance), degrees[1])
	}
	lean := func(stance string) float64 { // of the first bud in profile: its tip against its foot
		w := newTwig(
			tree(plate.Shows{"bud.stance": state(stance), "twig.arrangement": state("opposite"), "bud.length": {Value: 10}}, plate.OrdinaryBuild),
		)
		w.c = plate.NewCanvas(w.Tree, "light", 0, 0, Width, Height, "", "")
		w.oneBud(node{at: 40}, 0)
		n := numbers(regexp.MustCompile(` d="([^"]*)"`).FindStringSubmatch(string(w.c.Done()))[1])
		foot, tip := plate.Point{X: n[0], Y: n[1]}, plate.Point{X: n[0], Y: math.Inf(1)}
		for i := 0; i+1 < len(n); i += 2 {
			if n[i+1] < tip.Y {
				tip = plate.Point{X: n[i], Y: n[i+1]}
			}
		}
		return math.Atan2(tip.X-foot.X, foot.Y-tip.Y) * 180 / math.Pi
	}
	require.Less(t, lean("pressed"), lean("spreading")-15)
}

func numbers(d string) (out []float64) {
	for _, s := range regexp.MustCompile(`-?\d*\.?\d+`).FindAllString(d, -1) {
		x, _ := strconv.ParseFloat(s, 64)
		out = append(out, x)
	}
	return out
}

// TestDrawing: the same tree gives the same bytes, another individual others; what is not
// known is faint and what differs is marked; it stays small.
func TestDrawing(t *testing.T) {
	t.Parallel()
	shows := plate.Shows{"twig.diameter": {Value: 4}, "twig.color": state("red"), "bud.length": {Value: 7}, "twig.hair": state("velvety")}
	one := tree(shows, plate.OrdinaryBuild)
	require.Equal(t, Draw(one, "dark"), Draw(one, "dark"))
	other := tree(shows, plate.OrdinaryBuild)
	other.Seed = 7
	require.NotEqual(t, Draw(one, "dark"), Draw(other, "dark"))
	svg := string(Draw(one, "light"))
	require.Contains(t, svg, `data-of="bud.scales" class="scales thin faint"`)
	require.Contains(t, svg, fmt.Sprintf("style=\"fill:%s\"", plate.Wash("red")))
	require.NotContains(t, svg, " marked\"")
	one.Marked = []string{"bud.length"}
	require.Contains(t, string(Draw(one, "light")), `data-of="bud.shape" class="budbody faint marked"`)
	require.NotContains(t, string(Draw(one, "paper")), plate.Wash("red"), "plain black on paper")
	require.Less(t, len(svg), 40_000)
	require.Contains(t, Describe(one), "twig diameter 4, twig color red")
}

func BenchmarkDraw(b *testing.B) {
	t := tree(
		plate.Shows{"twig.arrangement": state("opposite"), "bud.scales": state("many-overlapping"), "twig.hair": state("downy")},
		plate.OrdinaryBuild,
	)
	for b.Loop() {
		Draw(t, "light")
	}
}
