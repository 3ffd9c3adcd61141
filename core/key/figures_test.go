package key_test

import (
	"fmt"
	"os"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
	"palethicket/core/key"
)

// TestFigures prints what docs/keys.md has: PT_KEYS=1 go test ./core/key -run Figures -v
func TestFigures(t *testing.T) {
	if os.Getenv("PT_KEYS") == "" {
		t.Skip("PT_KEYS=1 measures")
	}
	f := floratest.Shipped(t)
	for _, n := range []int{12, 30, 60, 97, 1000} {
		a := key.Asked{Among: flora.Among{Region: f.HomeRegion()}, Names: commonest(t, f, n)}
		began := time.Now()
		k := made(t, f, a)
		took := time.Since(began)
		m, err := key.Measure(t.Context(), f, k, a, 1000, 7)
		require.NoError(t, err)
		under := 0
		for _, s := range m.Taxa {
			if s.Right < 0.5 {
				under++
			}
		}
		fmt.Printf("| %d | %d (%.2f) | %.1f s | %.3f | %.2f | %.2f | %.2f | %d | %d |\n", len(k.Taxa), len(k.Couplets),
			float64(len(k.Couplets))/float64(len(k.Taxa)), took.Seconds(), m.Right, m.Single, m.Couplets, m.Couplets/m.Bits, m.Longest, under)
	}
}

// commonest are the home region's commonest trees.
func commonest(t testing.TB, f *flora.Flora, n int) (names []string) {
	t.Helper()
	p, err := f.Pool(flora.PoolKey{Among: flora.Among{Region: f.HomeRegion()}, Age: flora.At(flora.Mature)})
	require.NoError(t, err)
	for _, x := range p.Taxa {
		names = append(names, x.Name)
	}
	slices.SortStableFunc(names, func(a, b string) int {
		i, _ := p.Find(a)
		j, _ := p.Find(b)
		return int((p.Model.Share()[j] - p.Model.Share()[i]) * 1e9)
	})
	return names[:min(n, len(names))]
}
