package e2e

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// TestKeysASheetIn keys in two trees of a tally sheet by the keyboard alone: a wrong letter is said and not taken, a
// reload loses nothing, no connection loses nothing, and pressing twice keeps a tree once. It says how long a tree took.
func TestKeysASheetIn(t *testing.T) {
	t.Parallel()
	a := newApp(t, true)
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/paper")
	p.press("[data-key-in]")
	p.until(`document.querySelector('[data-sheet-tag]') !== null`)
	p.clear("#sheet-tract")
	p.write("#sheet-tract", "Lantern Creek watershed forest")
	p.clear("#sheet-stand")
	p.write("#sheet-stand", "North cove")
	p.write("[data-sheet-tag]", "LC-9001\r")
	p.until(`document.activeElement.id === 'row-0'`)
	p.key("z")
	p.sees("There is no z here")
	p.until(`document.activeElement.id === 'row-0' && document.activeElement.value === ''`)
	p.key("\b")
	p.until(`document.activeElement.id === 'row-0' && !document.body.innerText.includes('There is no z here')`)
	rows := p.eval(`String(document.querySelectorAll('[data-row]').length)`)
	p.key("a")
	p.until(`document.activeElement.id === 'row-1'`)
	p.key("6\r")
	p.key("b+c")
	p.until(`document.activeElement.id === 'row-3' && document.querySelector('#row-2').value === 'b+c'`)
	p.open("/paper/key-in") // as after a battery that ran out
	p.until(`document.querySelector('#row-2')?.value === 'b+c' && document.querySelector('[data-sheet-tag]').value === 'LC-9001'`)
	p.offline(true)
	p.press("[data-sheet-keep]")
	p.sees("What you typed is still here")
	p.offline(false)
	p.eval(`(document.querySelector('[data-sheet-keep]').click(), document.querySelector('[data-sheet-keep]').click(), '')`)
	p.until(`document.querySelectorAll('[data-sheet-kept] li').length === 1`)
	require.Len(t, a.view(a.tree("LC-9001")).Looks, 1)
	p.until(`document.querySelector('[data-sheet-tag]').value === 'LC-9002' && document.activeElement.matches('[data-sheet-tag]')`)

	began := time.Now()
	p.key("\r")
	p.until(`document.activeElement.id === 'row-0'`)
	p.key("a6\ra")
	p.key(strings.Repeat(" ", 60)) // to the end, where a space keeps the tree
	p.until(`document.querySelectorAll('[data-sheet-kept] li').length === 2`)
	t.Logf("a sheet of %s rows: %.1f s of the program's own", rows, time.Since(began).Seconds())
	require.NotEmpty(t, a.view(a.tree("LC-9002")).Looks)
}

// followCode follows a label's code as a link, and types a tag.
func (p *page) followCode(id string) {
	p.t.Helper()
	there := fmt.Sprintf(`location.pathname === '/trees/%s'`, id)
	p.open("/t/" + id)
	p.patient(opening).until(there)
	p.patient(opening).sees("LC-612")
	p.follow("/t")
	p.write("[data-code-typed]", "lc-612\r")
	p.until(there)
}

// TestCodeOpensATree follows a label's code, starts what nobody has, and has a reader of codes hand one over.
func TestCodeOpensATree(t *testing.T) {
	t.Parallel()
	a := sharedApp(t)
	id := a.tree("LC-612")
	p := newPage(t, a, phoneWidth, phoneHeight)
	p.followCode(id)
	p.follow("/t/?tag=LC-9100&tract=Lantern+Creek+watershed+forest")
	p.press("[data-code-begin]")
	p.until(`document.querySelector('#new-tag')?.value === 'LC-9100'`)

	p.open("/t")
	p.eval(fmt.Sprintf(`(window.BarcodeDetector = class { async detect() { return [{rawValue: location.origin + '/t/%s'}] } },
		navigator.mediaDevices.getUserMedia = async () => document.createElement('canvas').captureStream(), '')`, id))
	p.press(`nav a[href="/worklist"]`)
	p.until(`location.pathname === '/worklist'`)
	p.eval(`(history.back(), '')`)
	p.press("[data-scan]")
	p.until(fmt.Sprintf(`location.pathname === '/trees/%s'`, id))
}

// TestCodeAway follows a label's code on a device without a signal.
func TestCodeAway(t *testing.T) {
	t.Parallel()
	a, folder := preparedDevice(t)
	id := a.tree("LC-612")
	p, _ := newDevice(t, a, folder, phoneWidth, phoneHeight)
	a.stop()
	p.followCode(id)
}
