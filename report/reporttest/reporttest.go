// Package reporttest reads PDFs back with Poppler's tools, for tests.
package reporttest

import (
	"bytes"
	"compress/zlib"
	"fmt"
	"image"
	"image/png"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// tool runs one over a file; without it the test is skipped, or fails where make says that it must be there.
func tool(t testing.TB, file []byte, name string, args ...string) string {
	t.Helper()
	if _, err := exec.LookPath(name); err != nil {
		if os.Getenv("PT_E2E") != "" {
			t.Fatalf("%s is not there: run make tools", name)
		}
		t.Skipf("%s is not there: run make tools", name)
	}
	path := filepath.Join(t.TempDir(), "file.pdf")
	require.NoError(t, os.WriteFile(path, file, 0o600))
	for i, a := range args {
		if a == "FILE" {
			args[i] = path
		}
	}
	out, err := exec.Command(name, args...).Output()
	require.NoError(t, err)
	return string(out)
}

// Text is what a PDF says, laid out as on its pages.
func Text(t testing.TB, pdf []byte) string {
	t.Helper()
	return tool(t, pdf, "pdftotext", "-layout", "FILE", "-")
}

// Info is what pdfinfo says of a PDF: its pages, its title, and its size in points.
type Info struct {
	Pages      int
	Title      string
	Wide, High float64
}

var infoLine = regexp.MustCompile(`(?m)^(Title|Pages|Page size):\s+(.*)$`)

// About asks pdfinfo.
func About(t testing.TB, pdf []byte) Info {
	t.Helper()
	var out Info
	for _, m := range infoLine.FindAllStringSubmatch(tool(t, pdf, "pdfinfo", "FILE"), -1) {
		switch m[1] {
		case "Title":
			out.Title = m[2]
		case "Pages":
			n, err := strconv.Atoi(m[2])
			require.NoError(t, err)
			out.Pages = n
		default:
			size := regexp.MustCompile(`([\d.]+) x ([\d.]+)`).FindStringSubmatch(m[2])
			require.NotNil(t, size, m[2])
			out.Wide, _ = strconv.ParseFloat(size[1], 64)
			out.High, _ = strconv.ParseFloat(size[2], 64)
		}
	}
	return out
}

// Word is a word on a page and where it stands, in millimetres from the upper left corner.
type Word struct {
	Page                     int
	Left, Top, Right, Bottom float64
	Text                     string
}

const point = 25.4 / 72 // mm

var boxLine = regexp.MustCompile(`(?s)<page |<word xMin="([\d.-]+)" yMin="([\d.-]+)" xMax="([\d.-]+)" yMax="([\d.-]+)">(.*?)</word>`)

// Words are all words of a PDF.
func Words(t testing.TB, pdf []byte) (out []Word) {
	t.Helper()
	page := 0
	for _, m := range boxLine.FindAllStringSubmatch(tool(t, pdf, "pdftotext", "-bbox", "FILE", "-"), -1) {
		if m[1] == "" {
			page++
			continue
		}
		var at [4]float64
		for i := range at {
			at[i], _ = strconv.ParseFloat(m[i+1], 64)
		}
		out = append(out, Word{page, at[0] * point, at[1] * point, at[2] * point, at[3] * point, m[5]})
	}
	return out
}

// Inside holds that no word comes nearer to an edge of its page than so many millimetres.
func Inside(t testing.TB, pdf []byte, edge float64) {
	t.Helper()
	about := About(t, pdf)
	words := Words(t, pdf)
	require.NotEmpty(t, words)
	for _, w := range words {
		require.GreaterOrEqual(t, w.Left, edge, "%+v", w)
		require.GreaterOrEqual(t, w.Top, edge-1, "%+v", w)
		require.LessOrEqual(t, w.Right, about.Wide*point-edge, "%+v", w)
		require.LessOrEqual(t, w.Bottom, about.High*point-edge+2, "%+v", w)
	}
}

// Line is a straight stroke on a page, in millimetres from the lower left corner.
type Line struct{ X1, Y1, X2, Y2 float64 }

var (
	content = regexp.MustCompile(`(?s)stream\n(.*?)\nendstream`)
	stroke  = regexp.MustCompile(`(?m)^([\d.-]+) ([\d.-]+) m ([\d.-]+) ([\d.-]+) l S$`)
)

// Lines reads the strokes of a PDF's pages back from what is drawn there.
func Lines(t testing.TB, pdf []byte) (out []Line) {
	t.Helper()
	for _, s := range content.FindAllSubmatch(pdf, -1) {
		z, err := zlib.NewReader(bytes.NewReader(s[1]))
		if err != nil {
			continue // a font
		}
		text, err := io.ReadAll(z)
		if err != nil {
			continue
		}
		for _, m := range stroke.FindAllSubmatch(text, -1) {
			var at [4]float64
			for i := range at {
				at[i], err = strconv.ParseFloat(string(m[i+1]), 64)
				require.NoError(t, err)
			}
			out = append(out, Line{at[0] * point, at[1] * point, at[2] * point, at[3] * point})
		}
	}
	return out
}

// Codes reads the QR codes on a PDF's pages with an independent decoder (ZBar), of so many labels across and down a page: one
// at a time, as a telephone sees them. The labels begin so many millimetres from the page's edges.
func Codes(t testing.TB, pdf []byte, across, down int, edge float64) []string {
	t.Helper()
	folder := t.TempDir()
	tool(t, pdf, "pdftoppm", "-r", "150", "-gray", "-png", "FILE", filepath.Join(folder, "page"))
	pages, err := filepath.Glob(filepath.Join(folder, "*.png"))
	require.NoError(t, err)
	require.NotEmpty(t, pages)
	var labels []string
	for _, page := range pages {
		file, err := os.ReadFile(page)
		require.NoError(t, err)
		whole, err := png.Decode(bytes.NewReader(file))
		require.NoError(t, err)
		size, e := whole.Bounds().Size(), int(edge/25.4*150)
		wide, high := (size.X-2*e)/across, (size.Y-2*e)/down
		for i := range across * down {
			x, y := i%across, i/across
			part := whole.(interface {
				SubImage(image.Rectangle) image.Image
			}).SubImage(image.Rect(e+x*wide, e+y*high, e+(x+1)*wide, e+(y+1)*high))
			var out bytes.Buffer
			require.NoError(t, png.Encode(&out, part))
			labels = append(labels, fmt.Sprintf("%s-%03d.png", page, i))
			require.NoError(t, os.WriteFile(labels[len(labels)-1], out.Bytes(), 0o600))
		}
	}
	out, err := exec.Command("zbarimg", append([]string{"--raw", "-q", "-Sdisable", "-Sqrcode.enable"}, labels...)...).Output()
	if err != nil { // it says so where a label is empty, too
		require.NotEmpty(t, out, err)
	}
	return strings.Fields(string(out))
}
