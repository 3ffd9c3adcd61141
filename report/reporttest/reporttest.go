// Package reporttest reads PDFs back with Poppler's tools, for tests.
package reporttest

import (
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
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
