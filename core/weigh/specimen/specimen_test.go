package specimen_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/specimen"
)

// drawn is how many specimens each check draws.
const drawn = 20_000

func wood(t *testing.T) *evidence.Model {
	known := func(v evidence.Value) evidence.Value { v.Knowledge = evidence.Known; return v }
	values := func(solid, lo, hi, scent, alternate float64) []evidence.Value {
		return []evidence.Value{
			known(evidence.Value{Dist: []float64{solid, 1 - solid}}),
			known(evidence.Value{Normals: []evidence.Component{evidence.RangeNormal(lo, hi)}}),
			known(evidence.Value{Chance: scent}),
			known(evidence.Value{Dist: []float64{alternate, 1 - alternate}}),
		}
	}
	m, err := evidence.NewModel([]evidence.Character{
		{ID: "pith", Kind: evidence.Categorical, States: []string{"solid", "chambered"}},
		{ID: "bud", Kind: evidence.Numeric},
		{ID: "scent", Kind: evidence.Sign},
		{ID: "pairs", Kind: evidence.Tally, States: []string{"alternate", "opposite"},
			Shapes: []evidence.Beta{{Alpha: 0.5, Beta: 9.5}, {Alpha: 6, Beta: 2}}},
	}, []evidence.Taxon{
		{Name: "cherry", Weight: 3, Values: values(0.9, 3, 5, 0.7, 1)},
		{Name: "maple", Weight: 1, Values: values(0.2, 6, 12, 0, 0.1)},
		{Name: "unknown", Weight: 1, Values: make([]evidence.Value, 4)},
	}, 0)
	require.NoError(t, err)
	return m
}

// near checks a share of drawn against a chance, within four standard errors.
func near(t *testing.T, chance float64, n int, what string) {
	require.InDelta(t, chance, float64(n)/drawn, 4*math.Sqrt(chance*(1-chance)/drawn)+1e-9, what)
}

// TestAnswersComeAsOftenAsTheModelSays draws each kind of score and counts:
// what is drawn and what is weighed are two pieces of code for one model.
func TestAnswersComeAsOftenAsTheModelSays(t *testing.T) {
	m := wood(t)
	q := make([]float64, m.Hypotheses())
	for _, asked := range []evidence.Score{
		{Character: 0, States: 1, Error: 0.1}, {Character: 2, Seen: true, Detect: 0.9, False: 0.02},
		{Character: 3, Pairs: 0, Nodes: 4}, {Character: 3, Pairs: 4, Nodes: 4}, {Character: 3, Pairs: 2, Nodes: 4},
	} {
		d := specimen.NewDrawer(m, rand.NewPCG(1, 2))
		m.Likelihood(q, &asked)
		for taxon := range m.Taxa() {
			count := 0
			for range drawn {
				got := asked
				if d.Score(taxon, &got); got == asked {
					count++
				}
			}
			near(t, q[taxon], count, m.Taxa()[taxon].Name+": "+m.Characters()[asked.Character].ID)
		}
	}
}

func TestMeasuresFallIntoTheirBins(t *testing.T) {
	m := wood(t)
	set := evidence.Setting{Spread: 0.1, Readings: 2}
	edges, rows := m.BinEdges(1, set), m.Outcomes(1, set)
	for taxon := range 2 {
		d := specimen.NewDrawer(m, rand.NewPCG(3, 4))
		counts := make([]int, evidence.Bins)
		for range drawn {
			s := evidence.Score{Character: 1, Spread: set.Spread, Readings: set.Readings}
			d.Score(taxon, &s)
			bin := 0
			for bin < len(edges) && s.Value > edges[bin] {
				bin++
			}
			counts[bin]++
		}
		for bin, n := range counts {
			// A bin's chance is its density at the middle; that is good to a fiftieth.
			require.InDelta(t, rows[bin][taxon], float64(n)/drawn, 0.02, "%s, bin %d", m.Taxa()[taxon].Name, bin)
		}
	}
}

func TestStrangersAreDrawnByShare(t *testing.T) {
	m := wood(t)
	for _, c := range []struct{ belongs, solid float64 }{
		{1, 0.2}, {0, (3*0.9 + 0.2 + (3*0.9+0.2)/4) / 5}, {0.5, 0.5*0.2 + 0.5*(3*0.9+0.2+(3*0.9+0.2)/4)/5},
	} {
		d := specimen.NewDrawer(m, rand.NewPCG(5, 6))
		count := 0
		for range drawn {
			look := evidence.Look{Belongs: c.belongs, Scores: []evidence.Score{{Character: 0}}}
			if d.Look(1, &look); look.Scores[0].States == 1 {
				count++
			}
		}
		near(t, c.solid, count, "solid pith on a maple's look")
	}
}

func TestTheSameSeedDrawsTheSame(t *testing.T) {
	m := wood(t)
	draw := func(seed uint64) (taxa []int) {
		d := specimen.NewDrawer(m, rand.NewPCG(seed, 0))
		for range 50 {
			taxa = append(taxa, d.Taxon())
		}
		return taxa
	}
	require.Equal(t, draw(7), draw(7))
	require.NotEqual(t, draw(7), draw(8))
}

func TestPick(t *testing.T) {
	sums := specimen.Cumulative([]float64{0.25, 0, 0.5, 0.25})
	require.Equal(t, []float64{0.25, 0.25, 0.75, 1}, sums)
	for u, want := range map[float64]int{0: 0, 0.2: 0, 0.25: 2, 0.7: 2, 0.9: 3} {
		require.Equal(t, want, specimen.Pick(sums, u), u)
	}
}
