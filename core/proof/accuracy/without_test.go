package accuracy_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora/floratest"
	"palethicket/core/proof/accuracy"
)

// TestStraysAreKnownByTheirGenus: with its own tree off the list a specimen may be said to
// be of its genus and not listed, hardly of another; with its tree on the list, never.
func TestStraysAreKnownByTheirGenus(t *testing.T) {
	f := floratest.Shipped(t)
	cases := append(read(t, "handbook.yaml"), read(t, "handbook-more.yaml")...)
	w, err := accuracy.JudgeWithout(f, cases)
	require.NoError(t, err)
	require.Equal(t, len(cases), w.Cases)
	require.Positive(t, w.Stray)
	require.LessOrEqual(t, w.Astray, w.Stray/2)
	require.LessOrEqual(t, w.Wrong, w.Cases/8)
	out, err := accuracy.Judge(f, cases)
	require.NoError(t, err)
	for _, o := range out {
		require.NotContains(t, o.Named, "perhaps", o.ID)
	}
}
