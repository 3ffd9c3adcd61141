package audit_test

import (
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/flora/audit"
	"palethicket/core/flora/floratest"
	files "palethicket/flora"
)

func TestTheFloraIsClean(t *testing.T) {
	t.Parallel()
	f := floratest.Shipped(t)
	for _, finding := range audit.Check(f) {
		t.Errorf("%s: %s", finding.About, finding.Words)
	}
}

// edited is the shipped flora with one file changed.
func edited(t *testing.T, file, old, new string) *flora.Flora {
	t.Helper()
	whole, err := flora.ReadFolder(files.Files)
	require.NoError(t, err)
	dir := fstest.MapFS{}
	for name, text := range whole {
		dir[name] = &fstest.MapFile{Data: text}
	}
	text := string(dir[file].Data)
	require.Contains(t, text, old)
	dir[file] = &fstest.MapFile{Data: []byte(strings.Replace(text, old, new, 1))}
	f, err := flora.Load(dir)
	require.NoError(t, err)
	return f
}

func TestCheckFinds(t *testing.T) {
	t.Parallel()
	for _, c := range []struct{ name, file, old, new, says string }{
		{"a line the values deny", "fraxinus.yaml", "bud.color: {value: near-black, source: ward}", "bud.color: {brown: often, dark-brown: often, red-brown: sometimes, near-black: rarely}", "the line goes by bud.color"},
		{"a pair without a line", "look-alikes.yaml", "pair: [Carpinus betulus, Carpinus caroliniana]", "pair: [Carpinus betulus, Alnus glutinosa]", "Carpinus betulus and Carpinus caroliniana: are look-alikes"},
		{"weak words", "ginkgo.yaml", "bud.shape: {dome: usually, cone: sometimes}", "bud.shape: {dome: rarely}", "the frequency words add up to 0.08"},
		{"a value against the genus", "acer.yaml", "note: the one maple here with leaflets", "source: silvics", "ground.leaf: shares nothing with the value of its group or genus"},
		{"no height", "ginkgo.yaml", "    height: [10, 25]\n", "", "Ginkgo biloba: no height is written"},
		{"a genus the rule forgets", "rules.yaml", "Viburnum, Viscum]", "Viscum]", "is left out by the rule opposite-trees, which does not say so of Viburnum"},
		{"a dogwood it takes in", "rules.yaml", "wrong: [Cornus alternifolia]", "wrong: []", "Cornus alternifolia: is taken in wrongly by the rule opposite-trees"},
		{"not which parts", "laburnum.yaml", "    poisonous: All parts are toxic, the seeds dangerously so.\n", "", "Laburnum anagyroides: is toxic or irritant, but not which parts"},
	} {
		t.Run(c.name, func(t *testing.T) {
			var says []string
			for _, f := range audit.Check(edited(t, c.file, c.old, c.new)) {
				says = append(says, f.About+": "+f.Words)
			}
			require.Contains(t, strings.Join(says, "\n"), c.says)
		})
	}
}

func TestCoverageGoesByKind(t *testing.T) {
	t.Parallel()
	f := floratest.Shipped(t)
	for _, c := range audit.Cover(f) {
		require.GreaterOrEqual(t, c.Known, audit.Wanted[c.Kind], c.Taxon)
	}
	kinds := map[string]audit.Kind{}
	for _, c := range audit.Cover(f) {
		kinds[c.Taxon] = c.Kind
	}
	require.Equal(t, audit.Tree, kinds["Quercus alba"])
	require.Equal(t, audit.Tree, kinds["Larix laricina"], "bare in winter")
	require.Equal(t, audit.Shrub, kinds["Cornus sericea"])
	require.Equal(t, audit.Evergreen, kinds["Ilex aquifolium"])
	require.Equal(t, audit.Vine, kinds["Vitis (wild grapes)"])
}
