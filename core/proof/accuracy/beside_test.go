package accuracy_test

import (
	"os"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora/floratest"
	"palethicket/core/proof/accuracy"
)

// TestBeside: among all the trees there are, a specimen comes out as it does in its region;
// among those of the first list it is not named wrong, and what came out worse among all has
// a further tree to show for it.
func TestBeside(t *testing.T) {
	f := floratest.Shipped(t)
	cases := read(t, "handbook.yaml")
	var every []string
	for i := range f.Taxa {
		every = append(every, f.Taxa[i].Name)
	}
	same, err := accuracy.JudgeBeside(f, cases[:20], every)
	require.NoError(t, err)
	require.Len(t, same, 20)
	for _, b := range same {
		require.Equal(t, b.All, b.Fewer)
		require.Empty(t, b.New)
		require.False(t, b.Worse())
	}

	in, err := os.Open("testdata/first-list.txt")
	require.NoError(t, err)
	defer in.Close()
	first, err := accuracy.ReadTaxa(in)
	require.NoError(t, err)
	require.NotContains(t, first, "Pterocarya fraxinifolia")
	beside, err := accuracy.JudgeBeside(f, cases, first)
	require.NoError(t, err)
	worse := 0
	for _, b := range beside {
		require.True(t, b.Fewer.Right, b.Fewer.ID)
		if b.Worse() {
			worse++
			require.NotEmpty(t, b.New, b.All.ID)
			require.NotContains(t, first, b.New)
		}
	}
	require.Positive(t, worse)
	require.Less(t, worse*8, len(beside), "few came out worse")
}
