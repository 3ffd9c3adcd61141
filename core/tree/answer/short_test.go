package answer

import (
	"encoding/json"
	"math"
	"strconv"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func TestNumbersAreWrittenToSixFigures(t *testing.T) {
	for _, x := range []float64{0, 1, 0.1, 0.5, 0.999999, 0.9999999, 0.01, 1e-5, 9.9999996e-6, 1e-59, 1e-61, 1e-300, 2.5, 9.99999, 12345} {
		holdsNumber(t, x)
	}
	rapid.Check(t, func(t *rapid.T) {
		holdsNumber(t, math.Pow(10, rapid.Float64Range(-70, 0.9).Draw(t, "exponent")))
	})
}

func holdsNumber(t require.TestingT, x float64) {
	text := appendNumber(nil, x)
	require.True(t, json.Valid(text), "%s", text)
	got, err := strconv.ParseFloat(string(text), 64)
	require.NoError(t, err)
	require.InDelta(t, x, got, 0.51e-5*x, "%s", text)
}

func TestStringsAreWrittenAsJSON(t *testing.T) {
	for _, s := range []string{"", "Acer rubrum", `a "tag"`, "line\nbreak", `back\slash`, "Platanus ×hispanica", "\x00"} {
		var got string
		require.NoError(t, json.Unmarshal(appendString(nil, s), &got))
		require.Equal(t, s, got)
	}
}
