package web_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
)

// TestSumsOverHTTP: sums come out in the order asked, what is wrong with one is said beside the others, and
// each says how its inputs are written.
func TestSumsOverHTTP(t *testing.T) {
	t.Parallel()
	s := serve(t)
	all := get[[]book.SumAsked](t, s, "/api/sums")
	require.Len(t, all, 21)
	for _, sum := range all {
		require.NotEmpty(t, sum.Inputs, sum.ID)
		for _, in := range sum.Inputs {
			require.True(t, in.Example != "" || in.Kind == "word", "%s of %s", in.Name, sum.ID)
		}
	}
	status, text := s.send2(
		"POST",
		"/api/sums",
		`{"sums": [{"id": "a", "sum": "diameter-girth", "girth": "37 in"}, {"id": "b", "sum": "plot"}]}`,
	)
	require.Equal(t, 200, status, text)
	results := into[[]book.SumResult](t, text)
	require.InDelta(t, 29.91, *results[0].Value, 0.01)
	require.Contains(t, results[1].Error, "radius")
	status, _ = s.send2("POST", "/api/sums", `{"sums": 7}`)
	require.Equal(t, 422, status)
}
