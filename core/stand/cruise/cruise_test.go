package cruise_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"palethicket/core/stand/cruise"
)

// TestNeeded holds the numbers to a table that much field work goes by: Krejcie & Morgan 1970
// (Educ. Psychol. Meas. 30:607), for a proportion of one half to within 0.05 at 95 %.
func TestNeeded(t *testing.T) {
	for _, c := range []struct {
		trees          int
		expected, half float64
		want           int
	}{
		{10, 0.5, 0.05, 10},
		{100, 0.5, 0.05, 80},
		{1000, 0.5, 0.05, 278},
		{4000, 0.5, 0.05, 351},
		{1_000_000, 0.5, 0.05, 384},
		{400, 0.9, 0.1, 32}, // by hand: n0 = 34.57; 34.57 / (1 + 33.57/400) = 31.9
		{14, 0.9, 0.01, 14}, // never more than there are
		{0, 0.9, 0.1, 0},    // an empty stand
		{1, 0.9, 0.5, 1},
	} {
		got, err := cruise.Needed(c.trees, c.expected, c.half)
		require.NoError(t, err)
		require.Equal(t, c.want, got, "%+v", c)
	}
	for _, bad := range [][2]float64{{0, 0.1}, {1, 0.1}, {0.9, 0}, {0.9, 0.6}, {math.NaN(), 0.1}, {0.9, math.NaN()}} {
		_, err := cruise.Needed(100, bad[0], bad[1])
		require.Error(t, err, "%v", bad)
	}
}

// TestHalfWidthHolds draws crews of a known agreement: the interval of a plan's size holds
// the stand's agreement about 95 times in 100.
func TestHalfWidthHolds(t *testing.T) {
	r := rand.New(rand.NewPCG(4, 4))
	const trees, agreed, half = 300, 240, 0.08
	n, err := cruise.Needed(trees, float64(agreed)/trees, half)
	require.NoError(t, err)
	require.LessOrEqual(t, cruise.HalfWidth(trees, n, float64(agreed)/trees), half)
	held := 0
	for range 2000 {
		hits := 0
		for _, i := range r.Perm(trees)[:n] {
			if i < agreed {
				hits++
			}
		}
		if math.Abs(float64(hits)/float64(n)-float64(agreed)/trees) <= half {
			held++
		}
	}
	require.InDelta(t, 0.95, float64(held)/2000, 0.025)
}

func TestDraw(t *testing.T) {
	var trees []cruise.Tree
	for i := range 60 {
		trees = append(trees, cruise.Tree{ID: fmt.Sprintf("%03d", i), Stratum: []string{"North", "North", "North", "South", "Cove"}[i%5]})
	}
	drawn, strata := cruise.Draw(trees, 10, 7)
	require.Len(t, drawn, 10)
	require.Equal(t, []cruise.Stratum{{"Cove", 12, 2}, {"North", 36, 6}, {"South", 12, 2}}, strata)
	slices.Reverse(trees)
	again, _ := cruise.Draw(trees, 10, 7)
	require.Equal(t, drawn, again, "the order they come in matters not")
	other, _ := cruise.Draw(trees, 10, 8)
	require.NotEqual(t, drawn, other)
	all, _ := cruise.Draw(trees, 99, 7)
	require.Len(t, all, 60)
	none, strata := cruise.Draw(nil, 5, 7)
	require.Empty(t, none)
	require.Empty(t, strata)
}

func TestDrawAnyStrata(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		strata := rapid.SliceOfN(rapid.IntRange(1, 30), 1, 8).Draw(t, "strata")
		var trees []cruise.Tree
		for s, n := range strata {
			for i := range n {
				trees = append(trees, cruise.Tree{ID: fmt.Sprintf("%d-%d", s, i), Stratum: fmt.Sprint(s)})
			}
		}
		n := rapid.IntRange(0, len(trees)+3).Draw(t, "n")
		drawn, counts := cruise.Draw(trees, n, rapid.Uint64().Draw(t, "seed"))
		require.Len(t, drawn, min(n, len(trees)))
		seen := map[string]bool{}
		for _, d := range drawn {
			require.False(t, seen[d.ID], "drawn twice")
			seen[d.ID] = true
		}
		for _, c := range counts {
			require.LessOrEqual(t, c.Drawn, c.Trees)
			if n >= 2*len(strata) && n <= len(trees) {
				require.InDelta(t, float64(n)*float64(c.Trees)/float64(len(trees)), c.Drawn, float64(len(strata)))
			}
		}
	})
}
