package web_test

import (
	"encoding/json"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
)

// TestPracticeOverHTTP: a card, its drawing and every other answer before it is named hide
// whose it is; what is not asked, or cannot be meant, is refused with a word.
func TestPracticeOverHTTP(t *testing.T) {
	t.Parallel()
	s := serve(t)
	who := "by=" + url.QueryEscape(`Wren <b>"Halloran"</b>`)
	ask := func() (c book.Card, text []byte) {
		status, text := s.send("POST", "/api/practice/cards?kind=twig&kind=bark&"+who, "")
		require.Equal(t, 200, status, string(text))
		require.NoError(t, json.Unmarshal(text, &c))
		return c, text
	}
	card, text := ask()
	_, _, drawing := s.fetch("/api/practice/cards/" + card.ID + "/drawing?" + who)
	for _, l := range get[[]book.TaxonLine](t, s, "/api/flora/taxa") {
		require.NotContains(t, string(text)+string(drawing), l.Name)
	}
	for path, want := range map[string]int{
		"/api/practice/cards/" + card.ID + "/drawing":                   404, // nobody's of no name
		"/api/practice/cards/nothing/drawing?" + who:                    404,
		"/api/practice/cards/" + card.ID + "/drawing?theme=neon&" + who: 422,
	} {
		status, text := s.send("GET", path, "")
		require.Equal(t, want, status, "%s: %s", path, text)
	}
	to := "/api/practice/cards/" + card.ID + "/answer?" + who
	for body, says := range map[string]string{
		`{"rank": "species", "name": "Quercus nulla", "sure": "sure", "seconds": 3}`: "choose a name from the list",
		`{"rank": "species", "name": "Acer rubrum", "seconds": 3}`:                   "say how sure",
		`{"rank": "kingdom", "name": "Plantae", "sure": "sure", "seconds": 3}`:       "rank",
		`{"seconds": -4}`: "seconds",
	} {
		status, text := s.send("POST", to, body)
		require.Equal(t, 422, status, string(text))
		require.Contains(t, string(text), says)
	}
	status, text := s.send("POST", to, `{"rank": "family", "name": "Sapindaceae", "sure": "fair", "seconds": 3}`)
	require.Equal(t, 200, status, string(text))
	var v book.CardVerdict
	require.NoError(t, json.Unmarshal(text, &v))
	require.NotEmpty(t, v.Taxon)
	status, text = s.send("POST", to, `{"seconds": 3}`)
	require.Equal(t, 404, status, string(text))
	require.Contains(t, string(text), "not being asked")
	status, _ = s.send("POST", "/api/practice/cards?kind=root&"+who, "")
	require.Equal(t, 422, status)
	require.Equal(t, 1, get[book.Practised](t, s, "/api/practice/figures?"+who).Reviews)
	_, _, table := s.fetch("/api/practice/answers.csv?" + who)
	require.Equal(t, 2, strings.Count(string(table), "\n"))
	kind, _, quiz := s.fetch("/api/practice/quiz.pdf?kind=twig&kind=bark&n=7&seed=3&" + who)
	require.Equal(t, "application/pdf", kind)
	require.Less(t, len(quiz), 2<<20)
	_, _, same := s.fetch("/api/practice/quiz.pdf?kind=twig&kind=bark&n=7&seed=3&" + who)
	require.InDelta(t, len(quiz), len(same), 64, "the same seed draws the same sheet")
	status, _ = s.send("DELETE", "/api/practice/answers?"+who, "")
	require.Equal(t, 204, status)
	require.Zero(t, get[book.Practised](t, s, "/api/practice/figures?"+who).Reviews)
}
