package agreement_test

import (
	"encoding/json"
	"math"
	"math/rand/v2"
	"os"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/stand/agreement"
)

// TestCohenWorkedExample: Fleiss, Levin & Paik 2003, Statistical Methods for Rates and
// Proportions, 3rd ed., table 18.1: two judge 100 people psychotic, neurotic or organic;
// kappa 0.68 with a standard error of 0.087 (the table from memory).
func TestCohenWorkedExample(t *testing.T) {
	k, err := agreement.Cohen([][]int{{75, 1, 4}, {5, 4, 1}, {0, 0, 10}})
	require.NoError(t, err)
	require.InDelta(t, 0.68, k.Kappa, 0.005)
	require.InDelta(t, 0.087, k.SE, 0.001) // the book cuts its terms short on the way; 0.0877
	require.InDelta(t, 0.89, k.Agreed, 1e-12)
	require.InDelta(t, 0.66, k.ByChance, 1e-12)
	from, to := k.Interval()
	require.InDelta(t, 0.50, from, 0.01) // Fleiss, Levin & Paik 2003, Statistical Methods for Rates and Proportions, chapter 18: 0.68 ± 1.96 × 0.087
	require.InDelta(t, 0.85, to, 0.01)
}

// TestFleissWorkedExample: fourteen people put ten cases into five categories; kappa 0.210. The
// table stands in the encyclopedias' articles on Fleiss's kappa (from memory).
func TestFleissWorkedExample(t *testing.T) {
	k, err := agreement.Fleiss([][]int{{0, 0, 0, 0, 14}, {0, 2, 6, 4, 2}, {0, 0, 3, 5, 6}, {0, 3, 9, 2, 0}, {2, 2, 8, 1, 1},
		{7, 7, 0, 0, 0}, {3, 2, 6, 3, 0}, {2, 5, 3, 2, 2}, {6, 5, 2, 1, 0}, {0, 2, 2, 3, 7}})
	require.NoError(t, err)
	require.InDelta(t, 0.210, k.Kappa, 0.0005)
	require.InDelta(t, 0.378, k.Agreed, 0.0005)
	require.InDelta(t, 0.213, k.ByChance, 0.0005)
}

// TestAgainstLibraries holds both kappas, the error and Wilson's interval to statsmodels, and
// Cohen's kappa to scikit-learn too (scripts/reference-agreement.py).
func TestAgainstLibraries(t *testing.T) {
	file, err := os.ReadFile("testdata/agreement.json")
	require.NoError(t, err)
	var ref struct {
		Cohen []struct {
			Table              [][]int
			Kappa, SE, Sklearn float64
		}
		Fleiss []struct {
			Counts [][]int
			Kappa  float64
		}
		Wilson []struct {
			N, Of    int
			From, To float64
		}
	}
	require.NoError(t, json.Unmarshal(file, &ref))
	require.Len(t, ref.Cohen, 40)
	require.Len(t, ref.Fleiss, 40)
	require.Len(t, ref.Wilson, 60)
	for _, c := range ref.Cohen {
		k, err := agreement.Cohen(c.Table)
		require.NoError(t, err)
		require.InDelta(t, c.Kappa, k.Kappa, 1e-9)
		require.InDelta(t, c.Sklearn, k.Kappa, 1e-9)
		require.InDelta(t, c.SE, k.SE, 1e-9)
	}
	for _, c := range ref.Fleiss {
		k, err := agreement.Fleiss(c.Counts)
		require.NoError(t, err)
		require.InDelta(t, c.Kappa, k.Kappa, 1e-9)
	}
	for _, c := range ref.Wilson {
		s := agreement.ShareOf(c.N, c.Of)
		require.InDelta(t, c.From, s.From, 1e-9)
		require.InDelta(t, c.To, s.To, 1e-9)
	}
}

func TestNothingToAgreeOn(t *testing.T) {
	_, err := agreement.Cohen([][]int{{0, 0}, {0, 0}})
	require.Error(t, err)
	_, err = agreement.Cohen([][]int{{7, 0}, {0, 0}})
	require.ErrorIs(t, err, agreement.ErrOneCategory)
	_, err = agreement.Fleiss(nil)
	require.Error(t, err)
	_, err = agreement.Fleiss([][]int{{3, 0}, {2, 0}})
	require.ErrorContains(t, err, "same number")
	_, err = agreement.Fleiss([][]int{{3, 0}, {3, 0}})
	require.ErrorIs(t, err, agreement.ErrOneCategory)
	s := agreement.ShareOf(0, 0)
	require.True(t, math.IsNaN(s.P))
	require.Equal(t, 1.0, s.To)
}

// TestFleissError draws people who call things by chance: kappa over its error is then standard
// normal.
func TestFleissError(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 6))
	beyond := 0
	for range 2000 {
		counts := make([][]int, 60)
		for i := range counts {
			counts[i] = make([]int, 4)
			for range 3 {
				counts[i][[]int{0, 0, 0, 1, 1, 2, 3}[r.IntN(7)]]++
			}
		}
		k, err := agreement.Fleiss(counts)
		require.NoError(t, err)
		if math.Abs(k.Kappa/k.SE) > 1.96 {
			beyond++
		}
	}
	require.InDelta(t, 0.05, float64(beyond)/2000, 0.02)
}

// crewDrawn is a crew of five that names 200 trees, and what is so.
type crewDrawn struct {
	calls []agreement.Call
	truth []int
	wrong []float64 // share of the trees that each called otherwise than they were
}

const people, trees, kinds = 5, 200, 12

// drawCrew draws a wood of twelve kinds, some common and some rare, each with one that it is
// mistaken for first, and five people of unlike skill.
func drawCrew(r *rand.Rand, skills [people]float64) crewDrawn {
	d := crewDrawn{truth: make([]int, trees), wrong: make([]float64, people)}
	for i := range d.truth {
		k := 0
		for k < kinds-1 && r.Float64() > 0.25 {
			k++
		}
		d.truth[i] = k
		for o := range people {
			call := k
			if r.Float64() < skills[o] {
				if call = k ^ 1; r.Float64() < 0.3 {
					call = r.IntN(kinds)
				}
			}
			if call != k {
				d.wrong[o] += 1.0 / trees
			}
			d.calls = append(d.calls, agreement.Call{Case: i, Observer: o, Category: call})
		}
	}
	return d
}

// TestDrawnCrews holds what is found of drawn crews to what is so: each one's share of wrong
// names to 0.03 on the mean, and better than by counting whoever differs from most; and the trees
// are named better than by what most say.
func TestDrawnCrews(t *testing.T) {
	r := rand.New(rand.NewPCG(19, 79))
	var off, offMost, worst float64
	named, namedMost, within, crews := 0, 0, 0, 40
	for range crews {
		var skills [people]float64
		for o := range skills {
			skills[o] = 0.03 + 0.32*r.Float64()
		}
		d := drawCrew(r, skills)
		crew := agreement.Observers(d.calls, trees, people, kinds)
		most := mostSay(d.calls, r)
		for o := range people {
			found := math.Abs(crew.Wrong[o] - d.wrong[o])
			if off, worst = off+found, max(worst, found); found <= 0.03 {
				within++
			}
			differs := 0.0
			for _, c := range d.calls {
				if c.Observer == o && c.Category != most[c.Case] {
					differs += 1.0 / trees
				}
			}
			offMost += math.Abs(differs - d.wrong[o])
		}
		for i, is := range d.truth {
			if k, _ := crew.Is(i); k == is {
				named++
			}
			if most[i] == is {
				namedMost++
			}
		}
	}
	all := float64(crews * people)
	t.Logf("error rates off by %.4f on the mean, %.4f at worst, within 0.03 in %.3f; by what most say %.4f; trees named %.4f, by most %.4f",
		off/all, worst, float64(within)/all, offMost/all, float64(named)/float64(crews*trees), float64(namedMost)/float64(crews*trees))
	require.Less(t, off/all, 0.015)
	require.Greater(t, float64(within)/all, 0.95)
	require.Less(t, off, offMost)
	require.Greater(t, named, namedMost)
}

// mostSay is what most call each case, ties broken by chance.
func mostSay(calls []agreement.Call, r *rand.Rand) []int {
	votes := make([][]float64, trees)
	for i := range votes {
		votes[i] = make([]float64, kinds)
		for k := range votes[i] {
			votes[i][k] = r.Float64() / 2
		}
	}
	for _, c := range calls {
		votes[c.Case][c.Category]++
	}
	out := make([]int, trees)
	for i, v := range votes {
		for k := range v {
			if v[k] > v[out[i]] {
				out[i] = k
			}
		}
	}
	return out
}
