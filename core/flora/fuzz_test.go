package flora_test

import (
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	files "palethicket/flora"
)

// FuzzFlora reads whatever comes as a flora of one's own: it is refused with what is
// wrong, or can be ranked among.
func FuzzFlora(f *testing.F) {
	small := fstest.MapFS{} // what every flora rests on
	for _, name := range []string{"characters.yaml", "regions.yaml", "rules.yaml", "sources.yaml", "defaults.yaml"} {
		text, err := files.Files.ReadFile(name)
		require.NoError(f, err)
		small[name] = &fstest.MapFile{Data: text}
	}
	text, err := files.Files.ReadFile("celtis.yaml")
	require.NoError(f, err)
	genus := "genera:\n  - " + strings.ReplaceAll(strings.TrimSpace(string(text)), "\n", "\n    ") + "\n"
	_, err = flora.LoadOutside(small, "own.yaml", []byte(genus))
	require.NoError(f, err)
	f.Add([]byte(genus))
	f.Add([]byte("genera:\n  - taxa:\n      - name: Acer rubrum\n        values: {bud.length: [9, 2]}\n"))
	f.Add([]byte("a: &a [*a]\n"))
	f.Fuzz(func(t *testing.T, text []byte) {
		own, err := flora.LoadOutside(small, "own.yaml", text)
		require.Equal(t, err != nil, own == nil)
		if err != nil {
			return
		}
		if len(own.Taxa) < 5 { // laying a pool out takes longer than reading
			_, _ = own.Pool(flora.PoolKey{Among: flora.Among{Region: own.HomeRegion()}, Age: flora.At(flora.AnyAge)}) // refused, or there
		}
	})
}

// FuzzLists reads whatever comes as a list.
func FuzzLists(f *testing.F) {
	for _, text := range []string{"taxon,abundance\nAcer rubrum,common\n", "name: Avenue\nregion: eastern-north-america\ntaxa:\n  Acer rubrum: common\n",
		"Acer rubrum: common\n", "\ufeffTaxon;Abundance\n"} {
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		_, _ = flora.ReadListCSV(strings.NewReader(text))
		_, _ = flora.ReadListTable(strings.NewReader(text))
		l, err := flora.ReadListYAML(strings.NewReader(text))
		if err != nil {
			require.Zero(t, l.Name)
		}
	})
}
