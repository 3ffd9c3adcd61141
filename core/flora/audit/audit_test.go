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

// fault is a text of the flora's files with something else in its place, and what is to be said of it.
type fault struct{ file, old, new, says string }

// faulty is the flora with all of these faults.
func faulty(t *testing.T, faults []fault) *flora.Flora {
	t.Helper()
	whole, err := flora.ReadFolder(files.Files)
	require.NoError(t, err)
	for _, f := range faults {
		require.Contains(t, string(whole[f.file]), f.old)
		whole[f.file] = []byte(strings.Replace(string(whole[f.file]), f.old, f.new, 1))
	}
	dir := fstest.MapFS{}
	for name, text := range whole {
		dir[name] = &fstest.MapFile{Data: text}
	}
	f, err := flora.Load(dir)
	require.NoError(t, err)
	return f
}

func TestCheckFinds(t *testing.T) {
	t.Parallel()
	faults := []fault{
		{"fraxinus.yaml", "bud.color: {value: near-black, source: ward}", "bud.color: {brown: often, dark-brown: often, red-brown: sometimes, near-black: rarely}", "the line goes by bud.color"},
		{"look-alikes.yaml", "pair: [Carpinus betulus, Carpinus caroliniana]", "pair: [Carpinus betulus, Alnus glutinosa]", "Carpinus betulus and Carpinus caroliniana: are look-alikes"},
		{"ginkgo.yaml", "bud.shape: {dome: usually, cone: sometimes}", "bud.shape: {dome: rarely}", "the frequency words add up to 0.08"},
		{"acer.yaml", "note: the one maple here with leaflets", "source: silvics", "ground.leaf: shares nothing with the value of its group or genus"},
		{"ginkgo.yaml", "    height: [10, 25]\n", "", "Ginkgo biloba: no height is written"},
		{"rules.yaml", "Viburnum, Viscum]", "Viscum]", "is left out by the rule opposite-trees, which does not say so of Viburnum"},
		{"rules.yaml", "wrong: [Cornus alternifolia]", "wrong: []", "Cornus alternifolia: is taken in wrongly by the rule opposite-trees"},
		{"laburnum.yaml", "    poisonous: All parts are toxic, the seeds dangerously so.\n", "", "Laburnum anagyroides: is toxic or irritant, but not which parts"},
	}
	var says []string
	for _, f := range audit.Check(faulty(t, faults)) {
		says = append(says, f.About+": "+f.Words)
	}
	for _, f := range faults {
		require.Contains(t, strings.Join(says, "\n"), f.says)
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
