package e2e

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// TestKeyHandsOver walks the key to what a tree could still be, a step back too, and hands what was
// chosen over to the tree; a key of oaks is made from the flora's page.
func TestKeyHandsOver(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	id := a.tree("LC-612")
	p := newPage(t, a, phoneWidth, phoneHeight)
	p.open("/trees/" + id + "/story")
	before := len(a.view(id).Looks)
	p.press("[data-key-of-tree]")
	p.press("[data-lead]")
	p.press("[data-key-back]")
	p.sees("could still be")
	for range 16 {
		if p.eval(`String(document.querySelector('[data-key-end]') !== null)`) == "true" {
			break
		}
		p.press("[data-lead]")
	}
	p.press("[data-hand-over]")
	p.sees("is ranked by them too")
	looks := a.view(id).Looks
	require.Len(t, looks, before+1)
	require.NotEmpty(t, looks[before].Scores)
	p.open("/flora")
	p.press("[data-key]")
	p.choose("[data-taste]", "genus")
	p.write("input[placeholder=Quercus]", "Quercus")
	p.press("[data-make-key]")
	p.patient(time.Minute).until(`document.querySelector('[data-couplet]') !== null`)
	require.Equal(t, "390", p.eval(`String(document.documentElement.scrollWidth)`))
}
