package report

import (
	"bytes"
	"encoding/xml"
	"errors"
	"io"
	"regexp"
	"testing"
	"time"

	"codeberg.org/go-pdf/fpdf"
	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
	"palethicket/core/flora/handbook"
	"palethicket/core/plate/sheet"
)

var numbers = regexp.MustCompile(`-?(\d+\.?\d*|\.\d+)`)

// TestDrawingsAreReadWhole: of every drawing of forty taxa each element is one that is drawn, every number
// of every path is taken, and the PDF is sound.
func TestDrawingsAreReadWhole(t *testing.T) {
	t.Parallel()
	f := floratest.Shipped(t)
	book := handbook.New(f)
	known := map[string]bool{
		"svg":      true,
		"title":    true,
		"style":    true,
		"g":        true,
		"path":     true,
		"circle":   true,
		"rect":     true,
		"clipPath": true,
		"text":     true,
	}
	p, err := newPDF("A4", "drawings", "drawings", time.Date(2026, 11, 29, 0, 0, 0, 0, time.UTC))
	require.NoError(t, err)
	p.AddPage()
	for i := range 40 {
		tree, err := book.Tree(f.Taxa[4*i%len(f.Taxa)].Name, "", flora.Mature, flora.Breast, uint64(i))
		require.NoError(t, err)
		for _, kind := range []string{"twig", "outline", "leaf", "fruit"} {
			svg, _, err := sheet.Draw(tree, kind, "breast", []string{"light", "paper"}[i%2])
			require.NoError(t, err)
			for dec := xml.NewDecoder(bytes.NewReader(svg)); ; {
				token, err := dec.Token()
				if errors.Is(err, io.EOF) {
					break
				}
				require.NoError(t, err)
				e, ok := token.(xml.StartElement)
				if !ok {
					continue
				}
				require.True(t, known[e.Name.Local], e.Name.Local)
				d := attribute(e, "d")
				read := 0
				for _, n := range segments(d) {
					read += len(n)
				}
				require.Equal(t, len(numbers.FindAllString(d, -1)), read, d)
			}
			_, _, err = p.putSVG(svg, 20, 20, 60, 100)
			require.NoError(t, err)
		}
	}
	require.NoError(t, p.Error())
	require.NoError(t, p.Output(io.Discard))
}

// TestPaths: numbers may stand without spaces.
func TestPaths(t *testing.T) {
	t.Parallel()
	type step struct {
		op byte
		n  []float64
	}
	var got []step
	for op, n := range segments("M1.5.25-3 4L2 3 4 5h0C1 2 3 4 5 6Q1 2 3-4ZM9 9") {
		got = append(got, step{op, n})
	}
	require.Equal(
		t,
		[]step{{'M', []float64{1.5, 0.25}}, {'L', []float64{-3, 4}}, {'L', []float64{2, 3}}, {'L', []float64{4, 5}}, {'h', []float64{0}},
			{'C', []float64{1, 2, 3, 4, 5, 6}}, {'Q', []float64{1, 2, 3, -4}}, {'Z', nil}, {'M', []float64{9, 9}}},
		got,
	)
}

// TestStyles: the rule that says most of an element counts, what is not said is inherited.
func TestStyles(t *testing.T) {
	t.Parallel()
	v := &vector{Fpdf: fpdf.New("P", "mm", "A4", ""), vars: map[string]string{}, clips: map[string][3]float64{}, scale: 1}
	v.AddPage()
	v.sheet(`svg{--ink:#102030;--faint:.4}path{fill:none;stroke:var(--ink)}.thin path,.thin{stroke-width:.16}.faint{opacity:var(--faint)}`)
	start := func(name string, attrs ...string) {
		e := xml.StartElement{Name: xml.Name{Local: name}}
		for i := 0; i < len(attrs); i += 2 {
			e.Attr = append(e.Attr, xml.Attr{Name: xml.Name{Local: attrs[i]}, Value: attrs[i+1]})
		}
		v.open(e)
	}
	start("svg")
	start("g", "class", "thin faint")
	start("path", "style", "fill:#fff", "d", "M0 0L1 1")
	top := v.stack[len(v.stack)-1]
	require.Equal(t, "#fff", top.style["fill"])
	require.Equal(t, ".16", top.style["stroke-width"])
	require.InDelta(t, 0.4, top.opacity, 1e-9)
	r, g, b, ok := v.color(top.style["stroke"])
	require.True(t, ok)
	require.Equal(t, [3]int{16, 32, 48}, [3]int{r, g, b})
	_, _, _, ok = v.color("none")
	require.False(t, ok)
}
