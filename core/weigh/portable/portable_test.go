package portable_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/weigh/portable"
)

// TestAgainstMath: they are those of Go's math package to the last digits.
func TestAgainstMath(t *testing.T) {
	t.Parallel()
	rng := rand.New(rand.NewPCG(1, 2))
	for range 200_000 {
		x := (rng.Float64() - 0.5) * 1400
		close(t, math.Exp(x), portable.Exp(x), "e^%g", x)
		p := math.Ldexp(rng.Float64(), rng.IntN(200)-100)
		close(t, math.Log(p), portable.Log(p), "ln %g", p)
		close(t, math.Log2(p), portable.Log2(p), "log2 %g", p)
		e := (rng.Float64() - 0.5) * 12
		require.InEpsilon(t, math.Erfc(e), portable.Erfc(e), 1e-13, "erfc %g", e)
		a := rng.Float64() * 200
		want, _ := math.Lgamma(a)
		require.InDelta(t, want, portable.LogGamma(a), 1e-13*max(1, math.Abs(want)), "lnΓ %g", a)
	}
	for _, x := range []float64{math.NaN(), math.Inf(1), math.Inf(-1), 0, -1, 1, 2, 800, -800, 1e-10} {
		close(t, math.Exp(x), portable.Exp(x), "e^%g", x)
		close(t, math.Log(x), portable.Log(x), "ln %g", x)
	}
	require.InEpsilon(t, -310*math.Ln10, portable.Log(1e-310), 1e-15, "so small that digits are missing")
	require.Equal(t, -3.0, portable.Log2(0.125))
}

// close is equal but for two units in the last place.
func close(t *testing.T, want, got float64, msg string, args ...any) {
	t.Helper()
	if want == got || math.IsNaN(want) && math.IsNaN(got) {
		return
	}
	require.InEpsilon(t, want, got, 5e-16, append([]any{msg}, args...)...)
}

func BenchmarkExp(b *testing.B) {
	for b.Loop() {
		portable.Exp(-3.7)
	}
}

func BenchmarkMathExp(b *testing.B) {
	for b.Loop() {
		math.Exp(-3.7)
	}
}
