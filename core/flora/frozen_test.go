package flora_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
)

// TestFrozen: a flora that was frozen and thawed is the same, its lists included.
func TestFrozen(t *testing.T) {
	t.Parallel()
	l := floratest.Shipped(t).RegionList("eastern-north-america")
	l.Name = "North cove"
	want, err := floratest.Shipped(t).With(l)
	require.NoError(t, err)
	text, err := want.Freeze()
	require.NoError(t, err)
	got, err := flora.Thaw(text)
	require.NoError(t, err)
	require.Equal(t, want.Taxa, got.Taxa)
	require.Equal(t, want.Characters, got.Characters)
	require.Equal(t, want.Sources, got.Sources)
	require.Equal(t, want.Alike, got.Alike)
	require.Equal(t, want.Rules, got.Rules)
	require.Equal(t, want.Regions, got.Regions)
	require.Equal(t, want.Remarks, got.Remarks)
	require.Equal(t, want.Digest, got.Digest)
	require.Equal(t, want.Amongs(), got.Amongs())
	require.Equal(t, want.List(l.Name), got.List(l.Name))
	require.NotNil(t, got.Taxon("Acer rubrum"))
	_, err = got.Pool(flora.PoolKey{Among: flora.Among{Region: l.Region, List: l.Name}, Age: flora.At(flora.AnyAge)})
	require.NoError(t, err)
}

// TestFrozenCutShort: what is cut short anywhere is refused, and nothing else happens.
func TestFrozenCutShort(t *testing.T) {
	t.Parallel()
	text, err := floratest.Shipped(t).Freeze()
	require.NoError(t, err)
	for n := 0; n < len(text); n += len(text)/50 + 1 {
		_, err := flora.Thaw(text[:n])
		require.ErrorContains(t, err, "thawing the flora")
	}
}

func BenchmarkThaw(b *testing.B) {
	text, err := floratest.Shipped(b).Freeze()
	require.NoError(b, err)
	b.ReportMetric(float64(len(text))/1e6, "MB")
	for b.Loop() {
		_, err := flora.Thaw(text)
		require.NoError(b, err)
	}
}
