package e2e

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// TestTreesByTheirRoutes names trees as people of the four schools would
// ([TestKeyWalk] is the fifth) and counts what was pressed from the open tree on. An oak
// should take fewer than twenty.
func TestTreesByTheirRoutes(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	for _, c := range []struct {
		tag, route, genus string
		presses           []string
	}{
		{"LC-1601", "branching-first", "Quercus", []string{
			`[data-tally="single"]`, `[data-tally="single"]`, `[data-tally="single"]`, `[data-section="bud"]`,
			tile("bud.tip", "cluster-at-end"), tile("bud.color", "red-brown"), tile("bud.coat", "bare"), tile("bud.shape", "cone"),
			`[data-section="bark"]`, tile("bark.texture", "flat-ridges"), `[id="card-bark.pale-runs"] [data-seen="true"]`}},
		{"LC-1602", "bark-first", "Carya", []string{
			tile("bark.texture", "long-loose-plates"), tile("bark.color", "mid-grey"), `[data-section="bud"]`,
			tile("bud.tip", "true-end-bud"), tile("bud.shape", "egg"), tile("bud.scales", "few-overlapping"),
			`[data-section="scar"]`, tile("scar.bundles", "scattered"), tile("scar.shape", "heart")}},
		{"LC-1603", "twig-in-hand", "Juglans", []string{
			tile("bud.color", "tan"), tile("bud.coat", "downy"), `[data-section="scar"]`, `[id="card-scar.fringe"] [data-seen="true"]`,
			tile("scar.bundles", "three-groups"), `[data-section="twig"]`, tile("twig.pith", "chambered"), tile("twig.pith-color", "dark-brown")}},
		{"LC-1604", "outline-to-site", "Ulmus", []string{
			tile("form.crown", "vase"), `[data-section="bark"]`, tile("bark.texture", "mesh-ridges"), tile("bark.section", "pale-and-dark-bands"),
			`[data-section="bud"]`, tile("bud.tip", "side-bud-at-end"), tile("bud.stance", "tipped-aside"), tile("bud.scales", "many-overlapping")}},
	} {
		t.Run(c.route, func(t *testing.T) {
			t.Parallel()
			p := newPage(t, a, deskWidth, deskHeight)
			p.open("/")
			p.sees("Bluff ridge")
			p.eval(
				`(localStorage.setItem('palethicket.route', '` + c.route + `'), localStorage.setItem('palethicket.among', 'eastern-north-america\nLantern Creek'), '')`,
			)
			newTree(p, a, c.tag) // its last press says that a look is taken at the tree
			for _, css := range c.presses {
				p.press(css)
			}
			p.until(allSent)
			v := a.view(a.tree(c.tag))
			require.Contains(t, v.Result.Ranking[0].Taxon, c.genus)
			require.NotEqual(t, "undetermined", string(v.Result.Named.Rank))
			require.Less(t, 1+len(c.presses), 20)
			t.Logf("%s: %s in %d presses", c.route, v.Result.Named.Words, 1+len(c.presses))
		})
	}
}
