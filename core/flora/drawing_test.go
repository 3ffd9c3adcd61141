package flora_test

import (
	"maps"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
	files "palethicket/flora"
)

// TestDrawingValues: every taxon has them, each with a source, its own over its genus's.
func TestDrawingValues(t *testing.T) {
	t.Parallel()
	f := floratest.Shipped(t)
	for i := range f.Taxa {
		b := &f.Taxa[i].Build
		require.NotZero(t, b.Ranks*int(b.Internode)*int(b.Ridge)*int(b.Plate)*int(b.Limb), f.Taxa[i].Name)
		require.NotZero(t, b.Spread*b.Clear, f.Taxa[i].Name)
		require.Contains(t, f.Sources, b.Source, f.Taxa[i].Name)
	}
	require.InDelta(t, 55, f.Taxon("Quercus bicolor").Build.Limb, 0)
	require.InDelta(t, 82, f.Taxon("Quercus palustris").Build.Limb, 0)
	require.Equal(t, 5, f.Taxon("Quercus palustris").Build.Ranks, "as the genus")
	require.Equal(t, 2, f.Taxon("Ulmus americana").Build.Ranks)
}

// TestDrawingValuesRefused: what is wrong in them is said with file and line.
func TestDrawingValuesRefused(t *testing.T) {
	t.Parallel()
	whole, err := flora.ReadFolder(files.Files)
	require.NoError(t, err)
	for text, says := range map[string]string{
		"genera:\n  Quercus: {ranks: 50, source: harlow}":   "ranks is 50, want 2 to 8",
		"genera:\n  Quercuss: {ranks: 5}":                   "Quercuss: the flora has no such genus or taxon",
		"genera:\n  Quercus: {leaves: 5, source: harlow}":   "leaves",
		"genera:\n  Quercus: {limb: 50, source: hearsay}":   "hearsay",
		"genera:\n  Quercus: {limb: steep, source: harlow}": "drawing.yaml",
	} {
		dir := fstest.MapFS{}
		for name, body := range whole {
			dir[name] = &fstest.MapFile{Data: body}
		}
		maps.Copy(dir, fstest.MapFS{"drawing.yaml": {Data: []byte(text)}})
		_, err := flora.Load(dir)
		require.ErrorContains(t, err, says)
		require.ErrorContains(t, err, "drawing.yaml")
	}
}
