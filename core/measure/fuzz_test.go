package measure_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/measure"
)

// FuzzRead: whatever is typed for a measurement is refused, or is finite lengths.
func FuzzRead(f *testing.F) {
	for _, text := range []string{"1/4 in", "¼ in", "5; 6; 5.5", "half a pencil", "60 ft", "1 1/2 \"", "3,5 mm", "-4 in", "1e999 m", "0/0 in"} {
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		r, err := measure.Read(text)
		require.Equal(t, err != nil, r == nil)
		if err != nil {
			return
		}
		require.NotEmpty(t, r.Values, text)
		for _, v := range r.Values {
			require.False(t, math.IsNaN(v) || math.IsInf(v, 0), text)
			require.GreaterOrEqual(t, v, 0.0, text)
		}
	})
}
