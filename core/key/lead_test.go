package key_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
	"palethicket/core/key"
)

// TestLeadsAreWorded: people have written how a lead says each state that a key may ask for.
func TestLeadsAreWorded(t *testing.T) {
	t.Parallel()
	f := floratest.Shipped(t)
	for i := range f.Characters {
		c := &f.Characters[i]
		if c.Section == "setting" {
			continue
		}
		for _, s := range c.States {
			require.NotEmpty(t, s.Lead, "%s: %s", c.ID, s.ID)
			require.NotContains(t, s.Lead, "grey", "American spelling on paper")
		}
		switch {
		case len(c.States) > 0:
		case c.Unit != "":
			require.Contains(t, c.Lead["below"], "{}", c.ID)
			require.Contains(t, c.Lead["from"], "{}", c.ID)
		default:
			require.NotEmpty(t, c.Lead["seen"], c.ID)
			require.NotEmpty(t, c.Lead["not"], c.ID)
		}
	}
}

// TestLeadsAreShort: a lead is said in one breath.
func TestLeadsAreShort(t *testing.T) {
	t.Parallel()
	f := floratest.Shipped(t)
	k := made(t, f, key.Asked{Among: flora.Among{Region: f.HomeRegion()}, Names: commonest(t, f, 60)})
	words := 0
	for _, c := range k.Couplets {
		for _, l := range c.Leads {
			n := len(strings.Fields(l.Words))
			words += n
			require.LessOrEqual(t, n, 45, l.Words)
			require.NotContains(t, l.Words, "{}")
			require.NotContains(t, l.Words, "without with")
			require.NotContains(t, l.Words, "not without")
		}
	}
	require.Less(t, float64(words)/float64(2*len(k.Couplets)), 18.0)
}
