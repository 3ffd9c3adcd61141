package flora_test

import (
	"io/fs"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
	"palethicket/core/weigh/evidence"
	files "palethicket/flora"
)

func shipped(t *testing.T) *flora.Flora {
	t.Helper()
	f := floratest.Shipped(t)
	return f
}

// with gives the shipped characters and one genus file.
func with(t *testing.T, genus string) fs.FS {
	dir := fstest.MapFS{"rosa.yaml": {Data: []byte(genus)}}
	for _, name := range []string{"characters.yaml", "regions.yaml", "sources.yaml", "defaults.yaml"} {
		text, err := fs.ReadFile(files.Files, name)
		require.NoError(t, err)
		dir[name] = &fstest.MapFile{Data: text}
	}
	return dir
}

const rosa = `genus: Rosa
english: rose
family: Rosaceae
sources: [trelease]
taxa:
  - name: Rosa testa
    english: [test rose]
    abundance: {eastern-north-america: rare}
    status: native
    values:
      twig.arrangement: alternate
`

func TestLoadRefuses(t *testing.T) {
	for _, c := range []struct{ name, line, says string }{
		{"unknown character", "twig.colour: red", `rosa.yaml:12: unknown character "twig.colour"; did you mean "twig.color"?`},
		{"unknown state", "twig.color: {redd: often}", `rosa.yaml:12: twig.color: unknown state "redd"; did you mean "red"?`},
		{"unknown frequency", "twig.color: {red: offen}", `unknown frequency word "offen"; did you mean "often"?`},
		{"unknown sign word", "fruit.hanging: mostly", `rosa.yaml:12: fruit.hanging: unknown frequency word "mostly"`},
		{"ends swapped", "bud.length: [5, 2]", `rosa.yaml:12: bud.length: range has lo 5 > hi 2`},
		{"no width", "bud.length: [5, 5]", `range has no width`},
		{"not above 0", "bud.length: [0, 2]", `range starts at 0, want more than 0 mm`},
		{"one number", "bud.length: 5", `want a range [lo, hi] in mm`},
		{"words for numbers", "bud.length: [few, many]", `want two numbers in mm`},
		{"age where none", "bud.coat: {young: bare, mature: downy}", `bud.coat: does not vary by age`},
		{"no mature", "bark.color: {young: brown}", `values by age need at least young and mature`},
		{"zone where none", "bud.coat: {breast: bare, upper: downy}", `bud.coat: does not vary by zone`},
		{"no breast", "bark.color: {upper: brown}", `values by zone need breast`},
		{"unknown zone", "bark.color: {breast: brown, uper: white}", `unknown key "uper"; did you mean "upper"?`},
		{"unknown source", "bud.coat: {value: bare, source: trelese}", `unknown source "trelese"; did you mean "trelease"?`},
		{"twice", "twig.arrangement: opposite", `twig.arrangement: stands twice`},
		{"part it lacks", "bud.last-pair-close: often", `is written, but its twig.arrangement shows none of`},
	} {
		t.Run(c.name, func(t *testing.T) {
			_, err := flora.Load(with(t, rosa+"      "+c.line+"\n"))
			require.ErrorContains(t, err, c.says)
			require.ErrorContains(t, err, "rosa.yaml:")
		})
	}
}

func TestLoadRefusesHeads(t *testing.T) {
	for _, c := range []struct{ name, old, new, says string }{
		{"no family", "family: Rosaceae\n", "", "a genus file needs genus, english and family"},
		{"unknown key", "english: rose", "english: rose\nspecies: 2", `unknown key "species"`},
		{"abundance word", "rare", "scarce", `unknown abundance word "scarce"`},
		{"region", "eastern-north-america", "eastern-america", `did you mean "eastern-north-america"?`},
		{"status", "native", "wild", `unknown status "wild"`},
		{"source", "[trelease]", "[treleas]", `unknown source "treleas"`},
		{"no english name", "[test rose]", "[]", "Rosa testa: no English name"},
		{"not YAML", "genus: Rosa", "genus: [Rosa", "rosa.yaml"},
	} {
		t.Run(c.name, func(t *testing.T) {
			_, err := flora.Load(with(t, strings.Replace(rosa, c.old, c.new, 1)))
			require.ErrorContains(t, err, c.says)
		})
	}
}

// TestEveryErrorIsNamed loads a file with two mistakes: one run names both.
func TestEveryErrorIsNamed(t *testing.T) {
	_, err := flora.Load(with(t, rosa+"      bud.length: [5, 2]\n      bud.coat: bear\n"))
	require.ErrorContains(t, err, "rosa.yaml:12")
	require.ErrorContains(t, err, "rosa.yaml:13")
}

func TestMergeOrder(t *testing.T) {
	text := strings.Replace(
		rosa,
		"taxa:",
		"shared: {bud.coat: downy, twig.hair: sparse, fruit.hanging: often}\ngroups: {dog roses: {bud.coat: silky, twig.hair: downy}}\ntaxa:",
		1,
	)
	text = strings.Replace(text, "    english: [test", "    group: dog roses\n    english: [test", 1)
	f, err := flora.Load(with(t, text+"      bud.coat: bare\n"))
	require.NoError(t, err)
	says := func(id string) evidence.Value { return f.Taxa[0].Entry(id).Cells[flora.Mature][flora.Breast] }
	state := func(id, s string) float64 {
		for i, st := range f.Character(id).StateIDs() {
			if st == s {
				return says(id).Dist[i]
			}
		}
		return -1
	}
	require.Equal(t, 1.0, state("bud.coat", "bare"), "the taxon's own value stands")
	require.Equal(t, 1.0, state("twig.hair", "downy"), "the group's stands over the genus's")
	require.Equal(t, 0.6, says("fruit.hanging").Chance, "the genus's stands")
	require.Equal(t, 0.01, says("twig.milky-sap").Chance, "the defaults stand where nothing else does")
}

// TestFrequencies checks the weights before normalising: usually 0.85 and
// rarely 0.08.
func TestFrequencies(t *testing.T) {
	f, err := flora.Load(with(t, rosa+"      bud.coat: {bare: usually, downy: rarely}\n"))
	require.NoError(t, err)
	v := f.Taxa[0].Entry("bud.coat").Cells[flora.Mature][flora.Breast]
	require.InDelta(t, 0.85/0.93, v.Dist[0], 1e-12)
	require.InDelta(t, 1, sum(v.Dist), 1e-12)
}

func sum(p []float64) (s float64) {
	for _, v := range p {
		s += v
	}
	return s
}

// TestPartsThatAreNotThere follows "only": no acorn cup on a maple, but where
// the base is not known neither is the part.
func TestPartsThatAreNotThere(t *testing.T) {
	f := shipped(t)
	know := func(taxon, id string) evidence.Knowledge {
		return f.Taxon(taxon).Entry(id).Cells[flora.Mature][flora.Breast].Knowledge
	}
	require.Equal(t, evidence.Absent, know("Acer rubrum", "fruit.acorn-cup"))
	require.Equal(t, evidence.Known, know("Quercus alba", "fruit.acorn-cup"))
	require.Equal(t, evidence.Absent, know("Pinus strobus", "scar.bundles"))
	require.Equal(t, evidence.Absent, know("Quercus alba", "needle.bundle"))
	require.Equal(t, evidence.Absent, know("Quercus alba", "bud.last-pair-close"))
	require.Equal(t, evidence.Unknown, know("Ginkgo biloba", "fruit.husk-split"), "its fruit is not written")
}

func TestPool(t *testing.T) {
	f := shipped(t)
	p, err := f.Pool(flora.PoolKey{Among: flora.Among{Region: "eastern-north-america"}, Age: flora.At(flora.AnyAge)})
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(p.Taxa), 45)
	again, err := f.Pool(flora.PoolKey{Among: flora.Among{Region: "eastern-north-america"}, Age: flora.At(flora.AnyAge)})
	require.NoError(t, err)
	require.Same(t, p, again)
	_, err = f.Pool(flora.PoolKey{Among: flora.Among{Region: "eastern-america"}, Age: flora.At(flora.Mature)})
	require.ErrorContains(t, err, `did you mean "eastern-north-america"?`)

	breast, _ := p.Index("bark.texture", flora.Breast)
	upper, _ := p.Index("bark.texture", flora.Upper)
	require.NotEqual(t, breast, upper)
	same, _ := p.Index("bud.coat", flora.Upper)
	coat, _ := p.Index("bud.coat", flora.Breast)
	require.Equal(t, coat, same, "buds have no height on the trunk")
}

// TestAgesAreMixed checks 0.25 young, 0.60 mature and 0.15 old, on a tree
// whose leaves are held usually (0.85), often (0.60) and sometimes (0.30).
func TestAgesAreMixed(t *testing.T) {
	f := shipped(t)
	p, err := f.Pool(flora.PoolKey{Among: flora.Among{Region: "eastern-north-america"}, Age: flora.At(flora.AnyAge)})
	require.NoError(t, err)
	c, _ := p.Index("fruit.leaves-held", flora.Breast)
	beech, ok := p.Find("Fagus grandifolia")
	require.True(t, ok)
	require.InDelta(t, 0.25*0.85+0.60*0.60+0.15*0.30, p.Model.Taxa()[beech].Values[c].Chance, 1e-12)
}

// TestFlatPrior takes every tree as equally common.
func TestFlatPrior(t *testing.T) {
	p, err := shipped(t).Pool(flora.PoolKey{Among: flora.Among{Region: "eastern-north-america"}, Age: flora.At(flora.AnyAge), Flat: true})
	require.NoError(t, err)
	for _, s := range p.Model.Share() {
		require.InDelta(t, 1/float64(len(p.Taxa)), s, 1e-12)
	}
}
