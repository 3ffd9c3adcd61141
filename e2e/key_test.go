package e2e

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// TestKeyScores walks the key to what a tree could still be, a step back too: each answer is a score on the tree at once, and
// what was gone back from is none. A key of oaks is made from the flora's page.
func TestKeyScores(t *testing.T) {
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
	said := p.eval(`document.querySelector('[data-scored]').textContent.trim().split(' ')[0]`)
	require.Eventually(t, func() bool {
		looks := a.view(id).Looks
		return len(looks) == before+1 && fmt.Sprint(len(looks[before].Scores)) == said
	}, stuck, 100*time.Millisecond, "as many scores as the page says: %s", said)
	p.open("/flora")
	p.press("[data-key]")
	p.choose("[data-taste]", "genus")
	p.write("input[placeholder=Quercus]", "Quercus")
	p.press("[data-make-key]")
	p.patient(time.Minute).until(`document.querySelector('[data-couplet]') !== null`)
	require.Equal(t, "390", p.eval(`String(document.documentElement.scrollWidth)`))
}
