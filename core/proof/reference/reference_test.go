// Package reference sets the core against general statistics libraries and an
// open data set. The fixtures in testdata are made by scripts/reference-*;
// what made them is written inside.
package reference_test

import (
	"encoding/json"
	"math"
	"os"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/ranking"
)

// fitted is a classifier of another library: chances by feature, class, state.
type fitted struct {
	Prior    []float64
	Chances  [][][]float64
	Rows     [][]int     // states, -1 where missing
	LogProba [][]float64 `json:"log_proba"`
	Proba    [][]float64
}

func read(t testing.TB, name string, v any) {
	t.Helper()
	text, err := os.ReadFile("testdata/" + name)
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(text, v))
}

// classifier lays classes out as the taxa of a pool.
func classifier(t testing.TB, prior []float64, chances [][][]float64, unlisted float64) *evidence.Model {
	t.Helper()
	chars := make([]evidence.Character, len(chances))
	for f := range chars {
		chars[f] = evidence.Character{ID: string(rune('a' + f)), States: make([]string, len(chances[f][0]))}
	}
	taxa := make([]evidence.Taxon, len(prior))
	for c := range taxa {
		taxa[c].Weight = prior[c]
		for f := range chances {
			taxa[c].Values = append(taxa[c].Values, evidence.Value{Knowledge: evidence.Known, Dist: chances[f][c]})
		}
	}
	m, err := evidence.NewModel(chars, taxa, unlisted)
	require.NoError(t, err)
	return m
}

// look scores what a row does not miss, with error rate e.
func look(row []int, e float64) []evidence.Look {
	l := evidence.Look{Belongs: 1}
	for f, state := range row {
		if state >= 0 {
			l.Scores = append(l.Scores, evidence.Score{Character: f, States: 1 << state, Error: e})
		}
	}
	return []evidence.Look{l}
}

// TestCategoricalNB: one look that surely belongs, no errors and nothing
// unlisted is the plain categorical Bayes rule, which scikit-learn computes.
func TestCategoricalNB(t *testing.T) {
	var f fitted
	read(t, "sklearn.json", &f)
	r := ranking.NewRanker(classifier(t, f.Prior, f.Chances, 0))
	for i, row := range f.Rows {
		st := r.Rank(look(row, 0))
		for c, want := range f.LogProba[i] {
			require.InDelta(t, want, math.Log(st.Posterior[c]), 1e-9, "row %d, class %d", i, c)
		}
	}
}

// TestNaiveBayes: the same with values missing, against R's e1071 on its
// HouseVotes84 (Congressional Quarterly Almanac 1984; UCI repository).
func TestNaiveBayes(t *testing.T) {
	var f fitted
	read(t, "e1071.json", &f)
	r := ranking.NewRanker(classifier(t, f.Prior, f.Chances, 0))
	for i, row := range f.Rows {
		st := r.Rank(look(row, 0))
		for c, want := range f.Proba[i] {
			require.InEpsilon(t, want, st.Posterior[c], 1e-9, "row %d, class %d", i, c)
		}
	}
}
