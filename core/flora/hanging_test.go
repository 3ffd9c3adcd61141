package flora_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
)

// TestFruitFallsThroughTheWinter: what is read from fruit on the tree is there less and less often,
// but for cones; what lies below is there as it was.
func TestFruitFallsThroughTheWinter(t *testing.T) {
	p, err := floratest.Shipped(t).Pool(flora.PoolKey{Among: flora.Among{Region: "eastern-north-america"}, Age: flora.At(flora.Mature)})
	require.NoError(t, err)
	there := func(character, taxon string, month time.Month) float64 {
		char, ok := p.Index(character, flora.Breast)
		require.True(t, ok)
		at, ok := p.Find(taxon)
		require.True(t, ok)
		if of := p.There(char, true, month); of != nil {
			return of[at]
		}
		return 1
	}
	for _, taxon := range []string{"Acer negundo", "Quercus alba", "Fraxinus americana"} {
		midwinter := there("fruit.kind", taxon, 0)
		require.Equal(t, midwinter, there("fruit.kind", taxon, time.January))
		require.Equal(t, midwinter, there("fruit.kind", taxon, time.July), "nothing is said of summer")
		require.Greater(t, there("fruit.kind", taxon, time.October), midwinter)
		require.Less(t, there("fruit.kind", taxon, time.March), midwinter)
		require.LessOrEqual(t, there("fruit.kind", taxon, time.September), 1.0)
	}
	require.InDelta(t, there("fruit.kind", "Larix laricina", time.October), there("fruit.kind", "Larix laricina", time.April), 1e-12)
	require.Equal(t, there("ground.fruit", "Quercus alba", time.October), there("ground.fruit", "Quercus alba", time.March))
}
