package key_test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
	"palethicket/core/key"
	files "palethicket/flora"
)

// TestOwnWording: a state is said as the flora words it for leads.
func TestOwnWording(t *testing.T) {
	t.Parallel()
	a := key.Asked{Names: []string{"Acer rubrum", "Ulmus americana", "Quercus rubra", "Tilia americana", "Fraxinus americana", "Carya ovata"}, Taste: "twig"}
	f := floratest.Shipped(t)
	a.Among = flora.Among{Region: f.HomeRegion()}
	var first key.Lead
	for _, c := range made(t, f, a).Couplets {
		if len(first.States) == 0 {
			first = c.Leads[0]
		}
	}
	require.NotEmpty(t, first.States)
	dir := t.TempDir()
	require.NoError(t, os.CopyFS(dir, files.Files))
	path := filepath.Join(dir, "characters.yaml")
	text, err := os.ReadFile(path)
	require.NoError(t, err)
	at := "  - id: " + first.Character + "\n"
	require.Contains(t, string(text), at)
	worded := strings.Replace(string(text), at, at+"    lead: {"+first.States[0]+": like two hands held out}\n", 1)
	require.NoError(t, os.WriteFile(path, []byte(worded), 0o600))
	f, err = flora.Load(os.DirFS(dir))
	require.NoError(t, err)
	k := made(t, f, a)
	said := false
	for _, c := range k.Couplets {
		for _, l := range c.Leads {
			said = said || strings.Contains(l.Words, "like two hands held out")
		}
	}
	require.True(t, said)
}
