package fruit

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora/floratest"
	"palethicket/core/plate"
)

// TestEveryKind: each kind of fruit and each leaf of the flora is drawn, within its box,
// with a bar for its size.
func TestEveryKind(t *testing.T) {
	t.Parallel()
	f := floratest.Shipped(t)
	require.Len(t, kinds, len(f.Character("fruit.kind").States))
	require.Len(t, leaves, len(f.Character("ground.leaf").States))
	for _, s := range f.Character("fruit.kind").StateIDs() {
		require.Contains(t, kinds, s)
		svg := string(Draw(&plate.Tree{Shows: plate.Shows{"fruit.kind": {State: s}}}, "light"))
		require.GreaterOrEqual(t, strings.Count(svg, "<path"), 3, s)
		require.Contains(t, svg, " mm</text>", s)
	}
	for _, s := range f.Character("ground.leaf").StateIDs() {
		require.Contains(t, leaves, s)
		require.Greater(t, strings.Count(string(DrawLeaf(&plate.Tree{Shows: plate.Shows{"ground.leaf": {State: s}}}, "paper")), "<path"), 3, s)
	}
	nothing := string(Draw(&plate.Tree{English: "a tree"}, "light"))
	require.Contains(t, nothing, "nothing of it is known")
}

// TestAcornCups: the deeper the cup, the farther down its rim.
func TestAcornCups(t *testing.T) {
	t.Parallel()
	rim := func(cup string) float64 { // where the cup's outline begins
		svg := string(Draw(&plate.Tree{Shows: plate.Shows{"fruit.kind": {State: "acorn"}, "fruit.acorn-cup": {State: cup}}}, "light"))
		at := svg[strings.Index(svg, plate.Wash("brown")):]
		var x, y float64
		_, err := fmt.Sscanf(at[strings.Index(at, `d="M`):], `d="M%f %f`, &x, &y)
		require.NoError(t, err)
		return y
	}
	require.Less(t, rim("shallow-saucer"), rim("bowl-third"))
	require.Less(t, rim("bowl-third"), rim("deep-half"))
	require.InDelta(t, rim("bowl-third"), rim("on-long-stalk"), 0.001)
}
