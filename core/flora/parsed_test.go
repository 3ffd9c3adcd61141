package flora_test

import (
	"io/fs"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
	files "palethicket/flora"
)

// parsed is the shipped flora, each file in its parsed form alone.
func parsed(t *testing.T) fstest.MapFS {
	t.Helper()
	out := fstest.MapFS{}
	names, err := fs.Glob(files.Files, "*.yaml")
	require.NoError(t, err)
	for _, name := range names {
		text, err := fs.ReadFile(files.Files, name)
		require.NoError(t, err)
		form, err := flora.Parse(text)
		require.NoError(t, err, name)
		out[name] = &fstest.MapFile{} // it is looked for, and not read
		out[name+flora.Parsed] = &fstest.MapFile{Data: form}
	}
	return out
}

// TestParsed: a flora whose files were parsed beforehand is the same, faults and their
// lines included.
func TestParsed(t *testing.T) {
	t.Parallel()
	want := floratest.Shipped(t)
	got, err := flora.Load(parsed(t))
	require.NoError(t, err)
	require.Equal(t, want.Taxa, got.Taxa)
	require.Equal(t, want.Characters, got.Characters)
	require.Equal(t, want.Alike, got.Alike)
	require.Equal(t, want.Digest, got.Digest)

	wrong := []byte("genus: Acer\nenglish: maple\nfamily: Sapindaceae\ntaxa:\n  - name: Acer rubrum\n    twig.arrangement: sideways\n")
	plain, form := parsed(t), parsed(t)
	plain["acer.yaml"] = &fstest.MapFile{Data: wrong}
	delete(plain, "acer.yaml"+flora.Parsed)
	made, err := flora.Parse(wrong)
	require.NoError(t, err)
	form["acer.yaml"+flora.Parsed] = &fstest.MapFile{Data: made}
	_, errPlain := flora.Load(plain)
	_, errForm := flora.Load(form)
	require.Error(t, errPlain)
	require.Equal(t, errPlain.Error(), errForm.Error())
}

// TestParsedCutShort: a parsed form that is cut short anywhere is refused, and nothing
// else happens.
func TestParsedCutShort(t *testing.T) {
	t.Parallel()
	cut := parsed(t)
	whole := cut["ostrya.yaml"+flora.Parsed].Data
	for n := 0; n < len(whole); n += 701 {
		cut["ostrya.yaml"+flora.Parsed] = &fstest.MapFile{Data: whole[:n]}
		_, err := flora.Load(cut)
		require.ErrorContains(t, err, "ostrya.yaml")
	}
}
