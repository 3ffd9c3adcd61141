package flora_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	files "palethicket/flora"
)

const outside = `
regions: [lantern-creek]
sources:
  our walk: {title: "What the crew saw along the creek"}
genera:
  - genus: Rosa
    english: rose
    family: Rosaceae
    sources: [our walk]
    taxa:
      - name: Rosa prima
        english: [first rose]
        abundance: {lantern-creek: common}
        status: native
        values: {twig.color: red, twig.arms: prickles}
      - name: Rosa altera
        english: [other rose]
        abundance: {lantern-creek: rare}
        status: native
        values: {twig.color: {value: olive, source: our walk}, twig.arms: prickles}
look-alikes:
  - {pair: [Rosa prima, Rosa altera], by: [twig.color], line: "One is red, the other olive."}
`

func TestAnOutsideFlora(t *testing.T) {
	f, err := flora.LoadOutside(files.Files, "roses.yaml", []byte(outside))
	require.NoError(t, err)
	require.Equal(t, []string{"Rosa altera", "Rosa prima"}, f.TaxonNames())
	require.Equal(t, []string{"lantern-creek"}, f.RegionIDs())
	require.Equal(t, "One is red, the other olive.", f.Apart("Rosa altera", "Rosa prima").Line)
	require.Equal(t, "our walk", f.Taxon("Rosa altera").Entry("twig.color").Source)
	p, err := f.Pool(flora.PoolKey{Among: flora.Among{Region: "lantern-creek"}, Age: flora.At(flora.AnyAge)})
	require.NoError(t, err)
	require.InDelta(t, 0.5/0.53, p.Model.Share()[1], 1e-12)

	for _, c := range []struct{ old, new, says string }{
		{"genera:", "gennera:", `roses.yaml:5: an outside flora: unknown key "gennera"; did you mean "genera"?`},
		{"sources: [our walk]", "sources: [our wlak]", `unknown source "our wlak"; did you mean "our walk"?`},
		{"{lantern-creek: rare}", "{british-isles: rare}", `unknown region "british-isles"`},
		{"by: [twig.color]", "by: [twig.colour]", `unknown character "twig.colour"`},
		{"Rosa altera]", "Rosa alterna]", `unknown taxon "Rosa alterna"; did you mean "Rosa altera"?`},
		{"twig.color: red", "twig.color: rad", `roses.yaml:15: twig.color: unknown state "rad"`},
	} {
		_, err := flora.LoadOutside(files.Files, "roses.yaml", []byte(strings.Replace(outside, c.old, c.new, 1)))
		require.ErrorContains(t, err, c.says)
	}
	_, err = flora.LoadOutside(files.Files, "roses.yaml", []byte("- a"))
	require.ErrorContains(t, err, "want keys and values")
	_, err = flora.LoadOutside(files.Files, "roses.yaml", []byte("genera: []"))
	require.ErrorContains(t, err, "the flora has no taxa")
}

func TestAListIsAPool(t *testing.T) {
	f := shipped(t)
	l := flora.List{Name: "pump house", Region: "british-isles", Abundance: map[string]string{
		"Acer pseudoplatanus": "common", "Platanus ×hispanica": "rare", "Quercus alba": "common"}}
	with, err := f.With(l)
	require.NoError(t, err)
	require.Equal(t, []string{"eastern-north-america", "british-isles", "continental-europe", "pump house"}, append(with.RegionIDs(), with.ListNames()...))
	p, err := with.Pool(flora.PoolKey{Among: flora.Among{List: "pump house"}, Age: flora.At(flora.AnyAge)})
	require.NoError(t, err)
	require.Len(t, p.Taxa, 3, "also those that the region does not have")
	i, ok := p.Find("Acer pseudoplatanus")
	require.True(t, ok)
	require.Equal(t, "sycamore", p.Called(i), "by the names of the list's region")
	require.InDelta(t, 0.5/1.03, p.Model.Share()[i], 1e-12)
	_, err = f.Pool(flora.PoolKey{Among: flora.Among{List: "pump house"}, Age: flora.At(flora.Mature)})
	require.ErrorContains(t, err, `unknown list "pump house"`, "the flora without it is as it was")

	whole := flora.Among{Region: "eastern-north-america"}
	own := flora.Among{Region: "british-isles", List: "pump house"}
	for said, want := range map[[2]string]flora.Among{{"", ""}: whole, {"british-isles", ""}: {Region: "british-isles"},
		{"", "pump house"}: own, {"eastern-north-america", "pump house"}: own, {"pump house", ""}: own} {
		got, err := with.Among(said[0], said[1])
		require.NoError(t, err)
		require.Equal(t, want, got, "%v", said)
	}
	var none *flora.NoSuch
	_, err = with.Among("british-isle", "")
	require.ErrorAs(t, err, &none)
	require.Equal(t, "region", none.Field)
	_, err = with.Among("", "pump hose")
	require.ErrorAs(t, err, &none)
	require.Equal(t, "list", none.Field)
	require.ErrorContains(t, err, `did you mean "pump house"?`)
	require.Equal(t, []flora.Among{whole, {Region: "british-isles"}, {Region: "continental-europe"}, own}, with.Amongs())

	var text strings.Builder
	require.NoError(t, l.WriteYAML(&text))
	again, err := flora.ReadListYAML(strings.NewReader(text.String()))
	require.NoError(t, err)
	require.Equal(t, l, again)
	text.Reset()
	require.NoError(t, l.WriteCSV(&text, f))
	require.True(t, strings.HasPrefix(text.String(), "taxon,abundance,english\nAcer pseudoplatanus,common,sycamore\n"), text.String())
	table, err := flora.ReadListCSV(strings.NewReader("\ufeff" + text.String()))
	require.NoError(t, err)
	require.Equal(t, l.Abundance, table)
}

func TestListsThatCannotBe(t *testing.T) {
	f := shipped(t)
	taxa := map[string]string{"Quercus alba": "common", "Acer rubrum": "rare"}
	for _, c := range []struct {
		list flora.List
		says string
	}{
		{flora.List{Name: " ", Region: "british-isles", Abundance: taxa}, "a list needs a name"},
		{flora.List{Name: "british-isles", Region: "british-isles", Abundance: taxa}, "cannot have the name of a region"},
		{flora.List{Name: "a", Region: "british-isle", Abundance: taxa}, `did you mean "british-isles"?`},
		{flora.List{Name: "a", Region: "british-isles"}, "at least two"},
		{flora.List{Name: "a", Region: "british-isles", Abundance: map[string]string{"Quercus alba": "comon", "Acer rubrun": "rare"}}, `Quercus alba: unknown abundance word "comon"; did you mean "common"?`},
		{flora.List{Name: "a", Region: "british-isles", Abundance: map[string]string{"Quercus alba": "common", "Acer rubrun": "rare"}}, `unknown taxon "Acer rubrun"; did you mean "Acer rubrum"?`},
	} {
		_, err := f.With(c.list)
		require.ErrorContains(t, err, c.says)
	}
	_, err := f.With(
		flora.List{Name: "a", Region: "british-isles", Abundance: taxa},
		flora.List{Name: "a", Region: "british-isles", Abundance: taxa},
	)
	require.ErrorContains(t, err, "stands twice")
	for text, says := range map[string]string{
		"":                                  "first line",
		"tree,abundance\n":                  `no column "taxon"`,
		"taxon,abundance\nAcer rubrum\n":    "line 2: 1 fields",
		"taxon,abundance\nA,rare\nA,rare\n": "line 3: A stands twice",
	} {
		_, err := flora.ReadListCSV(strings.NewReader(text))
		require.ErrorContains(t, err, says)
	}
}

func TestNamesAndStandingByRegion(t *testing.T) {
	f := shipped(t)
	rowan := f.Taxon("Sorbus aucuparia")
	require.Equal(t, "rowan", rowan.Called("british-isles"))
	require.Equal(t, "European mountain-ash", rowan.Called("eastern-north-america"))
	require.Equal(t, map[string]string{"british-isles": "native", "continental-europe": "native", "eastern-north-america": "planted"}, rowan.Status)
	require.True(t, f.Character("fruit.hanging").ShowsIn(1))
	require.False(t, f.Character("fruit.hanging").ShowsIn(6))
	require.True(t, f.Character("fruit.hanging").ShowsIn(0), "not known")
	require.True(t, f.Character("bark.texture").ShowsIn(6))
}
