package nextlook_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/nextlook"
)

// TestQuinlan works the example of Quinlan 1986, "Induction of Decision Trees",
// Machine Learning 1:81 (from memory): fourteen Saturday mornings, nine of one
// class and five of the other, whose attributes gain 0.246, 0.029, 0.151 and
// 0.048 bits of 0.940.
func TestQuinlan(t *testing.T) {
	counts := []struct {
		attribute string
		p, n      []float64 // of each state among the nine and the five
		gain      float64
	}{
		{"outlook", []float64{2, 4, 3}, []float64{3, 0, 2}, 0.246},
		{"temperature", []float64{2, 4, 3}, []float64{2, 2, 1}, 0.029},
		{"humidity", []float64{3, 6}, []float64{4, 1}, 0.151},
		{"windy", []float64{3, 6}, []float64{3, 2}, 0.048},
	}
	var chars []evidence.Character
	taxa := []evidence.Taxon{{Name: "P", Weight: 9}, {Name: "N", Weight: 5}}
	for _, c := range counts {
		chars = append(chars, evidence.Character{ID: c.attribute, States: make([]string, len(c.p))})
		for i, k := range [][]float64{c.p, c.n} {
			dist := make([]float64, len(k))
			for s := range k {
				dist[s] = k[s] / taxa[i].Weight
			}
			taxa[i].Values = append(taxa[i].Values, evidence.Value{Knowledge: evidence.Known, Dist: dist})
		}
	}
	m, err := evidence.NewModel(chars, taxa, 0)
	require.NoError(t, err)
	require.InDelta(t, 0.940, nextlook.Entropy(m.Prior()), 0.0005)
	for i, c := range counts {
		require.InDelta(t, c.gain, nextlook.Gain(m, m.Prior(), i, nextlook.Setting{Belongs: 1}), 0.001, c.attribute)
	}
}

// TestAfter: the posterior after an answer is Bayes' rule, and the chances of
// all answers sum to 1.
func TestAfter(t *testing.T) {
	m, err := evidence.NewModel([]evidence.Character{{ID: "a", States: []string{"x", "y"}}}, []evidence.Taxon{
		{Name: "one", Weight: 1, Values: []evidence.Value{{Knowledge: evidence.Known, Dist: []float64{0.8, 0.2}}}},
		{Name: "two", Weight: 1, Values: []evidence.Value{{Knowledge: evidence.Known, Dist: []float64{0.4, 0.6}}}},
	}, 0)
	require.NoError(t, err)
	table := nextlook.NewTable(m, 0, nextlook.Setting{Belongs: 1})
	post := make([]float64, 3)
	x := table.After(post, m.Prior(), 0)
	require.InDelta(t, 0.6, x, 1e-12)
	require.InDelta(t, 2.0/3, post[0], 1e-12)
	require.InDelta(t, 0.4, table.After(post, m.Prior(), 1), 1e-12)
	require.InDelta(t, 0.25, post[0], 1e-12)
}

// TestSheetAgreesWithItsTables: laid out for few hypotheses, a look is worth
// what it is worth.
func TestSheetAgreesWithItsTables(t *testing.T) {
	known := func(dist ...float64) evidence.Value { return evidence.Value{Knowledge: evidence.Known, Dist: dist} }
	m, err := evidence.NewModel([]evidence.Character{{ID: "a", States: []string{"x", "y"}}, {ID: "b", States: []string{"x", "y", "z"}}},
		[]evidence.Taxon{
			{Name: "one", Weight: 1, Values: []evidence.Value{known(0.8, 0.2), known(0.1, 0.1, 0.8)}},
			{Name: "two", Weight: 1, Values: []evidence.Value{known(0.4, 0.6), known(0.5, 0.4, 0.1)}},
			{Name: "three", Weight: 1, Values: []evidence.Value{known(0.1, 0.9), known(0.3, 0.3, 0.4)}},
		}, 0.1)
	require.NoError(t, err)
	set := nextlook.Setting{Belongs: 0.9, Setting: evidence.Setting{Error: 0.1}}
	tables := []*nextlook.Table{nextlook.NewTable(m, 0, set), nextlook.NewTable(m, 1, set)}
	sheet := nextlook.NewSheet(tables)
	for _, posterior := range [][]float64{{0.25, 0.25, 0.4, 0.1}, {0.7, 0, 0.3, 0}, {0, 0, 1, 0}} {
		support := nextlook.Support(make([]int, 0, 4), posterior, nextlook.Fine)
		require.InDelta(t, nextlook.Entropy(posterior), nextlook.EntropyOver(posterior, support), 1e-12)
		for k, table := range tables {
			require.InDelta(t, table.Gain(posterior), sheet.Gain(k, posterior, support), 1e-12)
		}
	}
	require.Equal(t, []int{0, 2}, nextlook.Support(nil, []float64{0.7, 0, 0.3, 1e-6}, nextlook.Coarse))
}
