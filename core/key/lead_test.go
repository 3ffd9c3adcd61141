package key_test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"go.yaml.in/yaml/v3"

	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
	"palethicket/core/key"
	files "palethicket/flora"
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

// TestFloraWithoutLeads: a flora of one's own, whose characters have no words for keys, makes a key too; what is worded is said so.
func TestFloraWithoutLeads(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	require.NoError(t, os.CopyFS(dir, files.Files))
	path := filepath.Join(dir, "characters.yaml")
	text, err := os.ReadFile(path)
	require.NoError(t, err)
	var sections map[string][]map[string]any
	require.NoError(t, yaml.Unmarshal(text, &sections))
	for _, all := range sections {
		for _, c := range all {
			delete(c, "lead")
			delete(c, "part")
			delete(c, "together")
			if c["id"] == "twig.arrangement" {
				c["lead"] = map[string]string{"opposite": "like two hands held out"}
			}
		}
	}
	text, err = yaml.Marshal(sections)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(path, text, 0o600))
	f, err := flora.Load(os.DirFS(dir))
	require.NoError(t, err)
	k := made(t, f, key.Asked{Among: flora.Among{Region: f.HomeRegion()}, Names: commonest(t, f, 30)})
	said := false
	for _, c := range k.Couplets {
		for _, l := range c.Leads {
			said = said || strings.Contains(l.Words, "like two hands held out")
		}
	}
	require.True(t, said)
}
