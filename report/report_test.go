package report_test

import (
	"bytes"
	"encoding/xml"
	"errors"
	"io"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/demo/demotest"
	"palethicket/report"
)

func TestMain(m *testing.M) { demotest.Main(m) }

func demoReport(t *testing.T, stand string) *book.Report {
	t.Helper()
	r, err := demotest.New(t).Report(t.Context(), "Lantern Creek watershed forest", stand)
	require.NoError(t, err)
	return r
}

func TestReport(t *testing.T) {
	t.Parallel()
	r := demoReport(t, "North cove")
	require.Equal(t, 70, r.Composition.Trees)
	require.InDelta(t, 5.3, r.Hectares, 0.1)
	require.NotEmpty(t, r.Cautions)
	require.NotEmpty(t, r.Sources)
	total := 0
	for _, n := range r.Statuses {
		total += n
	}
	require.Equal(t, 70, total)

	var page bytes.Buffer
	require.NoError(t, report.HTML(&page, r))
	for _, part := range []string{"North cove, Lantern Creek", "What grows here", "Trees not settled", "Names and what they rest on", "Take care", "Sources", "<svg", "class=\"stand\"", "safe to eat"} {
		require.Contains(t, page.String(), part)
	}
	require.NotContains(t, page.String(), "ZgotmplZ", "nothing the template held for unsafe")

	var pdf bytes.Buffer
	require.NoError(t, report.PDF(&pdf, r, "A4"))
	require.True(t, bytes.HasPrefix(pdf.Bytes(), []byte("%PDF-1.")))
	require.Contains(t, pdf.String()[pdf.Len()-32:], "%%EOF")
}

// TestWhatPeopleWroteIsOnlyText: remarks cannot become markup.
func TestWhatPeopleWroteIsOnlyText(t *testing.T) {
	t.Parallel()
	r := demoReport(t, "")
	r.Remarks = `<script>alert(1)</script>`
	r.Names[0].Rests = `<img src=x onerror=alert(1)>`
	var page bytes.Buffer
	require.NoError(t, report.HTML(&page, r))
	require.NotContains(t, page.String(), "<script")
	require.NotContains(t, page.String(), "<img")
}

// TestEmptyBook: a report on nothing is a report still, well formed to its end.
func TestEmptyBook(t *testing.T) {
	t.Parallel()
	r, err := booktest.New(t).Report(t.Context(), "", "")
	require.NoError(t, err)
	var page, pdf bytes.Buffer
	require.NoError(t, report.HTML(&page, r))
	require.NoError(t, report.PDF(&pdf, r, "A4"))
	require.Contains(t, page.String(), "None: every tree has a name")
	d := xml.NewDecoder(&page)
	d.Strict, d.AutoClose, d.Entity = false, xml.HTMLAutoClose, xml.HTMLEntity
	for {
		_, err := d.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		require.NoError(t, err)
	}
}
