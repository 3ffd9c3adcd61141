package web_test

import (
	"bytes"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/report/reporttest"
)

// TestKeyOverHTTP makes keys of a list, a stand and what a tree could still be, as figures, as a
// page and on both papers; what cannot be is said with its field.
func TestKeyOverHTTP(t *testing.T) {
	t.Parallel()
	s := forest(t)
	const stand = "tract=Lantern%20Creek%20watershed%20forest&stand=North%20cove"
	k := get[book.Key](t, s, "/api/key?"+stand)
	require.Contains(t, k.Title, "North cove")
	require.Greater(t, len(k.Couplets), 5)
	tree := get[book.TreeList](t, s, "/api/trees?status=open").Trees[0].ID
	left := get[book.Key](t, s, "/api/key?tree="+tree)
	require.Less(t, len(left.Taxa), len(k.Taxa)+30)
	require.NotEmpty(t, left.Taxa)

	for paper, wide := range map[string]float64{"A4": 595.28, "Letter": 612} {
		kind, _, pdf := s.fetch("/api/key.pdf?" + stand + "&paper=" + paper)
		require.Equal(t, "application/pdf", kind)
		about := reporttest.About(t, pdf)
		require.InDelta(t, wide, about.Wide, 0.1)
		require.Equal(t, k.Title, about.Title)
		require.Less(t, len(pdf), 2<<20)
		require.False(t, bytes.Contains(pdf, []byte("not embedded")))
		text := reporttest.Text(t, pdf)
		for _, c := range k.Couplets {
			for _, l := range c.Leads {
				for _, word := range strings.Fields(l.Words) {
					require.Contains(t, text, word)
				}
				if l.To > 0 {
					require.Contains(t, text, strconv.Itoa(l.To))
				}
			}
		}
	}
	_, _, page := s.fetch("/api/key.html?" + stand)
	require.Contains(t, string(page), `id="n1"`)
	require.Contains(t, string(page), "data:image/")
	for path, says := range map[string]string{
		"/api/key?list=Nowhere":                                       "Nowhere",
		"/api/key?region=atlantis":                                    "atlantis",
		"/api/key?taste=genus":                                        "genus",
		"/api/key?taste=genus&genus=Palma":                            "no tree",
		"/api/key?tree=01ARZ3NDEKTSV4RRFFQ69G5FAV":                    "no such tree",
		"/api/key?taste=sweet":                                        "taste",
		"/api/key?tract=Lantern%20Creek%20watershed%20forest&stand=X": "no tree",
		"/api/key.pdf?paper=A9":                                       "paper",
	} {
		status, text := s.send("GET", path, "")
		require.GreaterOrEqual(t, status, 400, path)
		require.Contains(t, string(text), says, path)
	}
}
