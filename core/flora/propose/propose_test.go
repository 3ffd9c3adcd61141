package propose_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora/floratest"
	"palethicket/core/flora/propose"
)

// TestLines takes the lines of some pairs away: a line is proposed for each that is a look-alike, by characters that part it, with both names.
func TestLines(t *testing.T) {
	t.Parallel()
	f := floratest.Shipped(t)
	none, err := propose.Lines(f)
	require.NoError(t, err)
	require.Empty(t, none, "every pair of the flora has a line")
	f.Alike = nil
	all, err := propose.Lines(f)
	require.NoError(t, err)
	require.Greater(t, len(all), 500)
	seen := map[[2]string]bool{}
	for _, a := range all {
		require.False(t, seen[a.Pair])
		seen[a.Pair] = true
		require.NotEmpty(t, a.By)
		require.LessOrEqual(t, len(a.By), 3)
		require.Equal(t, 2, strings.Count(a.Line, ": "), a.Line)
		require.NotContains(t, a.Line, "…")
	}
}
