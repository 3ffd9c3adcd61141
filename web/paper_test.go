package web_test

import (
	"net/url"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/report/reporttest"
)

// TestPaperOverHTTP prints each product on both papers, follows a printed code back, and says what cannot be.
func TestPaperOverHTTP(t *testing.T) {
	t.Parallel()
	s := forest(t)
	const stand = "tract=Lantern%20Creek%20watershed%20forest&stand=North%20cove"
	base := "&base=" + url.QueryEscape("https://book.example")
	for path, says := range map[string]string{
		"/api/paper/tally.pdf?trees=10":                                "Tally sheet",
		"/api/paper/gauge.pdf?factor=10%20ft2/ac":                      "10 ft²/ac",
		"/api/paper/tags.pdf?" + stand + base:                          "North cove",
		"/api/paper/tags.pdf?tag=LC-901&tag=LC-902" + base:             "LC-902",
		"/api/paper/cards.pdf?taxon=Acer%20rubrum&taxon=Acer%20nigrum": "Acer nigrum",
	} {
		for paper, wide := range map[string]float64{"A4": 595.28, "Letter": 612} {
			kind, _, pdf := s.fetch(path + "&paper=" + paper)
			require.Equal(t, "application/pdf", kind, path)
			require.InDelta(t, wide, reporttest.About(t, pdf).Wide, 0.1, path)
			require.Contains(t, reporttest.Text(t, pdf), says, path)
		}
	}
	_, _, pdf := s.fetch("/api/paper/tags.pdf?" + stand + base)
	trees := get[book.TreeList](t, s, "/api/trees?limit=200&"+stand).Trees
	codes := reporttest.Codes(t, pdf, 3, 8, 10)
	require.Len(t, codes, len(trees))
	found := get[book.CodeFound](t, s, "/api/code?code="+url.QueryEscape(codes[3]))
	require.Len(t, found.Trees, 1)
	require.Equal(t, "North cove", found.Trees[0].Stand)

	for path, says := range map[string]string{
		"/api/paper/tags.pdf?columns=12" + base:               "at most",
		"/api/paper/tags.pdf?tract=Nowhere" + base:            "no tree",
		"/api/paper/tags.pdf?base=javascript:alert(1)":        "https://book.example",
		"/api/paper/tags.pdf?tag=%20" + base:                  "tag",
		"/api/paper/gauge.pdf?factor=0":                       "factor",
		"/api/paper/gauge.pdf?factor=much":                    "factor",
		"/api/paper/cards.pdf?taxon=Acer%20rubrum":            "2 to 4",
		"/api/paper/cards.pdf?taxon=Acer%20rubrum&taxon=Wolf": "Wolf",
		"/api/paper/tally.pdf?trees=7":                        "1, 4 or 10",
		"/api/paper/tally.pdf?list=Nowhere":                   "Nowhere",
		"/api/paper/tally.pdf?paper=A9":                       "paper",
		"/api/code?code=%20":                                  "tag",
	} {
		status, text := s.send("GET", path, "")
		require.GreaterOrEqual(t, status, 400, path)
		require.Less(t, status, 500, path)
		require.Contains(t, string(text), says, path)
	}
}
