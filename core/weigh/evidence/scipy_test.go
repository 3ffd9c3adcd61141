package evidence_test

import (
	"encoding/json"
	"os"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/weigh/evidence"
)

// fromSciPy is what scripts/reference-scipy.py wrote.
type fromSciPy struct {
	Tallies []struct {
		Alpha, Beta, Chance float64
		Pairs, Nodes        int
	}
	Measures []struct {
		Lo, Hi, Value, Spread, Density float64
		Readings                       int
	}
}

func readSciPy(t *testing.T) (ref fromSciPy) {
	raw, err := os.ReadFile("testdata/scipy.json")
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(raw, &ref))
	require.NotEmpty(t, ref.Tallies)
	require.NotEmpty(t, ref.Measures)
	return ref
}

// one gives the likelihood of a score under the only taxon of a pool.
func one(t *testing.T, c evidence.Character, v evidence.Value, s evidence.Score) float64 {
	m, err := evidence.NewModel([]evidence.Character{c}, []evidence.Taxon{{Name: "one", Weight: 1, Values: []evidence.Value{v}}}, 0)
	require.NoError(t, err)
	require.NoError(t, m.Check(&s))
	q := make([]float64, m.Hypotheses())
	m.Likelihood(q, &s)
	return q[0]
}

func TestTallyIsBetaBinomial(t *testing.T) {
	for _, r := range readSciPy(t).Tallies {
		c := evidence.Character{ID: "branch.arrangement", Kind: evidence.Tally, States: []string{"of one class"},
			Shapes: []evidence.Beta{{Alpha: r.Alpha, Beta: r.Beta}}}
		got := one(t, c, evidence.Value{Knowledge: evidence.Known, Dist: []float64{1}}, evidence.Score{Pairs: r.Pairs, Nodes: r.Nodes})
		require.InEpsilon(t, r.Chance, got, 1e-9, "%d of %d under %v, %v", r.Pairs, r.Nodes, r.Alpha, r.Beta)
	}
}

func TestMeasureIsLogNormal(t *testing.T) {
	for _, r := range readSciPy(t).Measures {
		v := evidence.Value{Knowledge: evidence.Known, Normals: []evidence.Component{evidence.RangeNormal(r.Lo, r.Hi)}}
		got := one(t, evidence.Character{ID: "bud.length", Kind: evidence.Numeric}, v,
			evidence.Score{Value: r.Value, Spread: r.Spread, Readings: r.Readings})
		require.InEpsilon(t, r.Density, got, 1e-9, "%v in %v to %v", r.Value, r.Lo, r.Hi)
	}
}
