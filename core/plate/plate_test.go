package plate_test

import (
	"encoding/xml"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/plate"
)

// TestPath: numbers are written as short as SVG reads them, and parted where they must be.
func TestPath(t *testing.T) {
	t.Parallel()
	p := plate.NewPath(2).Move(plate.Point{X: 0.5, Y: -0.25}).Line(plate.Point{X: 10, Y: 2.001}).Close()
	require.Equal(t, "M.5-.25L10 2Z", p.String())
	require.Equal(t, "M0 0", plate.NewPath(1).Move(plate.Point{X: -0.01, Y: 0.04}).String())
	require.True(t, plate.NewPath(1).Empty())
}

// TestFrame: its up is along its angle, clockwise from the drawing's.
func TestFrame(t *testing.T) {
	t.Parallel()
	right := plate.Frame{At: plate.Point{X: 5, Y: 5}, Angle: plate.Radians(90)}
	up := right.Put(2, 0)
	require.InDelta(t, 7, up.X, 1e-9)
	require.InDelta(t, 5, up.Y, 1e-9)
	require.InDelta(t, 6, right.Put(0, 1).Y, 1e-9, "right of right is down")
}

// TestCanvas: what is drawn is XML whatever a tree is called, faint where nothing is known
// of it, and marked where what it shows differs.
func TestCanvas(t *testing.T) {
	t.Parallel()
	tree := &plate.Tree{English: `<b>"oak" & co`, Shows: plate.Shows{"bud.shape": {State: "egg"}}, Marked: []string{"bud.length"}}
	for _, theme := range append(plate.Themes, "no such theme") {
		c := plate.NewCanvas(tree, theme, 0, 0, 10, 10, "", plate.Describe(tree, "Twig", []string{"bud.shape", "twig.hair"}))
		c.Group("bud.shape", "")
		c.Path(plate.NewPath(1).Circle(plate.Point{X: 5, Y: 5}, 2), "", "#ff0000")
		c.End()
		c.Group("twig.hair", "hair")
		c.End()
		svg := string(c.Done())
		d := xml.NewDecoder(strings.NewReader(svg))
		for {
			_, err := d.Token()
			if err == io.EOF {
				break
			}
			require.NoError(t, err)
		}
		require.Contains(t, svg, "bud shape egg")
		require.Contains(t, svg, `data-of="bud.shape" class="marked"`)
		require.Contains(t, svg, `class="hair faint"`)
		require.Equal(t, theme == "paper", !strings.Contains(svg, "#ff0000"), theme)
	}
	require.Equal(t, "Bark of a tree: nothing of it is known", plate.Describe(&plate.Tree{English: "a tree"}, "Bark", nil))
}

// TestRand: chance hangs on the individual and the part, and on nothing else.
func TestRand(t *testing.T) {
	t.Parallel()
	one, other := &plate.Tree{Name: "Acer", Seed: 3}, &plate.Tree{Name: "Acer", Seed: 4}
	require.Equal(t, one.Rand("bark").Uint64(), one.Rand("bark").Uint64())
	require.NotEqual(t, one.Rand("bark").Uint64(), one.Rand("twig").Uint64())
	require.NotEqual(t, one.Rand("bark").Uint64(), other.Rand("bark").Uint64())
}
