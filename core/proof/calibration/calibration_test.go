package calibration_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
	"palethicket/core/proof/calibration"
	"palethicket/core/weigh/evidence"
)

func model(t *testing.T, age flora.Age) *evidence.Model {
	f := floratest.Shipped(t)
	p, err := f.Pool(flora.PoolKey{Among: flora.Among{Region: "eastern-north-america"}, Age: flora.At(age)})
	require.NoError(t, err)
	return p.Model
}

// TestPosteriorsComeTrue draws specimens of the whole flora: in every tenth of
// probability the share that was right lies within its binomial interval, 99 % for all twenty together (Bonferroni).
func TestPosteriorsComeTrue(t *testing.T) {
	for _, age := range []flora.Age{flora.Mature, flora.AnyAge} {
		r, err := calibration.Run(t.Context(), model(t, age), 20000, 1, nil)
		require.NoError(t, err)
		require.Equal(t, 20000, r.Specimens)
		for i, k := range r.Tenths {
			require.NotZero(t, k.N)
			lo, hi := k.Interval(1 - 0.01/20)
			require.True(
				t,
				lo <= k.Came() && k.Came() <= hi,
				"tenth %d: said %.4f, came %.4f of %d, interval %.4f to %.4f",
				i,
				k.Said(),
				k.Came(),
				k.N,
				lo,
				hi,
			)
		}
		require.InDelta(t, 0.95, float64(r.InCredible)/20000, 0.03)
	}
}

// TestIntervalIsNarrow: 560 of 1000 that were said to be even chances lie
// outside, by the usual approximation of the binomial.
func TestIntervalIsNarrow(t *testing.T) {
	k := calibration.Tenth{N: 1000, Sum: 500, True: 560}
	lo, hi := k.Interval(0.99)
	require.InDelta(t, 0.459, lo, 0.002) // 0.5 ± 2.576·sqrt(0.25/1000)
	require.InDelta(t, 0.541, hi, 0.002)
	require.Greater(t, k.Came(), hi)
}

func TestSameSeedSameReport(t *testing.T) {
	m := model(t, flora.Mature)
	a, err := calibration.Run(t.Context(), m, 1200, 7, nil)
	require.NoError(t, err)
	b, err := calibration.Run(t.Context(), m, 1200, 7, nil)
	require.NoError(t, err)
	for i := range a.Tenths {
		require.Equal(t, a.Tenths[i].N, b.Tenths[i].N)
		require.Equal(t, a.Tenths[i].True, b.Tenths[i].True)
		require.InDelta(t, a.Tenths[i].Sum, b.Tenths[i].Sum, 1e-6, "batches may be added in any order")
	}
}

func TestStops(t *testing.T) {
	ctx, stop := context.WithCancel(t.Context())
	r, err := calibration.Run(ctx, model(t, flora.Mature), 1_000_000, 1, func(done int) {
		if done >= 1000 {
			stop()
		}
	})
	require.ErrorIs(t, err, context.Canceled)
	require.Less(t, r.Specimens, 10_000)
}
