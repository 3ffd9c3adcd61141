package evidence_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/weigh/evidence"
)

// pith, width, fuzz and pairs are one character of each kind.
var kinds = []evidence.Character{
	{ID: "pith", Kind: evidence.Categorical, States: []string{"solid", "chambered", "hollow"}},
	{ID: "width", Kind: evidence.Numeric},
	{ID: "fuzz", Kind: evidence.Sign},
	{ID: "pairs", Kind: evidence.Tally, States: []string{"alternate", "opposite"},
		Shapes: []evidence.Beta{{Alpha: 0.1, Beta: 19.9}, {Alpha: 19.9, Beta: 0.1}}},
}

const (
	pith = iota
	width
	fuzz
	pairs
)

func known(dist ...float64) evidence.Value {
	return evidence.Value{Knowledge: evidence.Known, Dist: dist}
}

func wide(lo, hi float64) evidence.Value {
	return evidence.Value{Knowledge: evidence.Known, Normals: []evidence.Component{evidence.RangeNormal(lo, hi)}}
}

func shown(p float64) evidence.Value {
	return evidence.Value{Knowledge: evidence.Known, Chance: p}
}

// pool has a taxon that knows everything, one that knows nothing but is
// common, and one without the parts.
func pool(t *testing.T) *evidence.Model {
	none := evidence.Value{Knowledge: evidence.Absent}
	m, err := evidence.NewModel(kinds, []evidence.Taxon{
		{Name: "walnut", Weight: 1, Values: []evidence.Value{known(0.1, 0.9, 0), wide(4, 8), shown(0.8), known(1, 0)}},
		{Name: "ash", Weight: 2, Values: []evidence.Value{known(1, 0, 0), wide(5, 10), shown(0.1), known(0, 1)}},
		{Name: "unknown", Weight: 4, Values: make([]evidence.Value, 4)},
		{Name: "without", Weight: 1, Values: []evidence.Value{none, none, none, none}},
	}, 0.02)
	require.NoError(t, err)
	return m
}

func likelihood(m *evidence.Model, s evidence.Score) []float64 {
	q := make([]float64, m.Hypotheses())
	m.Likelihood(q, &s)
	return q
}

func TestShares(t *testing.T) {
	m := pool(t)
	require.InDeltaSlice(t, []float64{0.125, 0.25, 0.5, 0.125}, m.Share(), 1e-15)
	require.InDeltaSlice(t, []float64{0.1225, 0.245, 0.49, 0.1225, 0.02}, m.Prior(), 1e-15)
	require.InDelta(t, 0.375, m.KnownShare(pith), 1e-15)
	require.InDelta(t, 0.5, m.KnownShare(fuzz), 1e-15, "what has no such part is known not to show it")
	require.True(t, m.Lacks(pith))
	require.False(t, m.Lacks(fuzz))
}

// TestOneState works "chambered pith, one chance in ten misread" by hand.
func TestOneState(t *testing.T) {
	q := likelihood(pool(t), evidence.Score{Character: pith, States: 0b010, Error: 0.1})
	walnut := 0.9*0.9 + 0.1*(0.1/2) // right, or solid taken for chambered
	ash := 0.1 * 0.5
	wood := (walnut + 2*ash) / 3
	require.InDeltaSlice(t, []float64{walnut, ash, wood, 0.1 * wood, 0.5*wood + 0.5/3}, q, 1e-15)
}

func TestConfusionSaysWhatItIsTakenFor(t *testing.T) {
	chars := []evidence.Character{kinds[pith]}
	chars[0].Confusion = [][]float64{{0, 0, 1}, {1, 0, 0}, {0, 1, 0}}
	m, err := evidence.NewModel(chars, []evidence.Taxon{{Name: "ash", Weight: 1, Values: []evidence.Value{known(1, 0, 0)}}}, 0)
	require.NoError(t, err)
	require.InDelta(t, 0.2, likelihood(m, evidence.Score{States: 0b100, Error: 0.2})[0], 1e-15)
	require.InDelta(t, 0, likelihood(m, evidence.Score{States: 0b010, Error: 0.2})[0], 1e-15)
}

func TestSigns(t *testing.T) {
	q := likelihood(pool(t), evidence.Score{Character: fuzz, Seen: false, Detect: 0.9, False: 0.02})
	require.InDelta(t, 1-(0.8*0.9+0.2*0.02), q[0], 1e-15)
	require.InDelta(t, 1-0.02, q[3], 1e-15, "no part, no sign")
	seen := likelihood(pool(t), evidence.Score{Character: fuzz, Seen: true, Detect: 0.9, False: 0.02})
	for h := range q {
		require.InDelta(t, 1, q[h]+seen[h], 1e-12, "seen or not seen")
	}
}

func TestTallyMatchesThePlainClaim(t *testing.T) {
	m := pool(t)
	for _, c := range []struct {
		name         string
		pairs, nodes int
		leader       int
	}{{"all pairs", 12, 12, 1}, {"no pairs", 0, 12, 0}, {"one bud lost", 11, 12, 1}} {
		q := likelihood(m, evidence.Score{Character: pairs, Pairs: c.pairs, Nodes: c.nodes})
		require.Greater(t, q[c.leader], 10*q[1-c.leader], c.name)
	}
}

// TestOutcomesAreAllThereIs: whatever a taxon is, one of the answers is given.
func TestOutcomesAreAllThereIs(t *testing.T) {
	m := pool(t)
	set := evidence.Setting{Error: 0.15, Spread: 0.1, Readings: 1, Detect: 0.9, False: 0.02}
	for c := range kinds {
		rows := m.Outcomes(c, set)
		for h := range 2 {
			sum := 0.0
			for _, row := range rows {
				sum += row[h]
			}
			require.InDelta(t, 1, sum, 1e-9, "%s of %s", kinds[c].ID, m.Taxa()[h].Name)
		}
	}
	edges := m.BinEdges(width, set)
	require.Len(t, edges, evidence.Bins-1)
	require.IsIncreasing(t, edges)
}

func TestLookWithoutAScore(t *testing.T) {
	m := pool(t)
	w := evidence.NewWeigher(m)
	scores := []evidence.Score{
		{Character: pith, States: 1, Error: 0.1}, {Character: width, Value: 6, Spread: 0.05, Readings: 2},
		{Character: fuzz, Detect: 0.9, False: 0.02}, {Character: pairs, Pairs: 3, Nodes: 4},
	}
	weigh := func(look evidence.Look, skip int) (dst, own []float64) {
		dst, own = make([]float64, m.Hypotheses()), make([]float64, m.Hypotheses())
		w.Look(dst, own, &look, skip)
		return dst, own
	}
	for skip := range scores {
		rest := append(append([]evidence.Score{}, scores[:skip]...), scores[skip+1:]...)
		dst, own := weigh(evidence.Look{Belongs: 0.7, Scores: scores}, skip)
		want, wantOwn := weigh(evidence.Look{Belongs: 0.7, Scores: rest}, -1)
		for h := range dst { // but for a common factor
			require.InDelta(t, want[h]/want[0], dst[h]/dst[0], 1e-12)
			require.InDelta(t, wantOwn[h], own[h], 1e-12)
		}
	}
}

// TestLookByHand: L(t) = a·q_t + (1-a)·Σ share·q.
func TestLookByHand(t *testing.T) {
	m := pool(t)
	s := evidence.Score{Character: pith, States: 2, Error: 0.1}
	q := likelihood(m, s)
	stranger := evidence.Stranger(m.Share(), q[:4], []float64{1, 1, 1, 1})
	require.InDelta(t, 0.125*q[0]+0.25*q[1]+0.5*q[2]+0.125*q[3], stranger, 1e-15)
	dst, own := make([]float64, 5), make([]float64, 5)
	evidence.NewWeigher(m).Look(dst, own, &evidence.Look{Belongs: 0.6, Scores: []evidence.Score{s}}, -1)
	for h := range q {
		l := 0.6*q[h] + 0.4*stranger
		require.InDelta(t, l/(0.6*q[0]+0.4*stranger), dst[h]/dst[0], 1e-12)
		require.InDelta(t, 0.6*q[h]/l, own[h], 1e-12)
	}
}

func TestCheckSaysWhatIsWrong(t *testing.T) {
	m := pool(t)
	for _, c := range []struct {
		s    evidence.Score
		says string
	}{
		{evidence.Score{Character: 4}, "character 4 of 4"},
		{evidence.Score{Character: pith}, "pith: states 0, want at least one of 3"},
		{evidence.Score{Character: pith, States: 0b1000}, "pith: states 1000"},
		{evidence.Score{Character: pith, States: 1, Error: 1.5}, "pith: error rate 1.5"},
		{evidence.Score{Character: width, Value: -1, Readings: 1}, "width: value -1"},
		{evidence.Score{Character: width, Value: math.Inf(1), Readings: 1}, "width: value +Inf"},
		{evidence.Score{Character: width, Value: math.NaN(), Readings: 1}, "width: value NaN"},
		{evidence.Score{Character: width, Value: 4}, "of 0 readings"},
		{evidence.Score{Character: fuzz, Detect: 2}, "fuzz: detection 2"},
		{evidence.Score{Character: pairs, Pairs: 5, Nodes: 4}, "pairs: 5 pairs among 4 nodes"},
	} {
		require.ErrorContains(t, m.Check(&c.s), c.says)
	}
}

func TestNewModelSaysWhatIsWrong(t *testing.T) {
	with := func(change func(*evidence.Taxon)) []evidence.Taxon {
		x := evidence.Taxon{Name: "ash", Weight: 1, Values: []evidence.Value{known(1, 0, 0), wide(5, 10), shown(0.1), known(0, 1)}}
		change(&x)
		return []evidence.Taxon{x}
	}
	for _, c := range []struct {
		taxa     []evidence.Taxon
		unlisted float64
		says     string
	}{
		{nil, 0, "at least one taxon"},
		{with(func(*evidence.Taxon) {}), 1, "want 0 ≤ u < 1"},
		{with(func(x *evidence.Taxon) { x.Weight = 0 }), 0, "ash: weight 0"},
		{with(func(x *evidence.Taxon) { x.Values = x.Values[:2] }), 0, "ash: 2 values for 4 characters"},
		{with(func(x *evidence.Taxon) { x.Values[pith] = known(1) }), 0, "ash: pith: 1 chances for 3 states"},
		{with(func(x *evidence.Taxon) { x.Values[width] = known() }), 0, "ash: width: a known measurement needs a range"},
	} {
		_, err := evidence.NewModel(kinds, c.taxa, c.unlisted)
		require.ErrorContains(t, err, c.says)
	}
}
