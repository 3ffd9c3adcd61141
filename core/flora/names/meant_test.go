package names_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
	"palethicket/core/flora/names"
)

// TestMeant: a name is that of the trees of the region that is asked; one of several trees asks which;
// a genus goes by its own name; and what is misspelled is offered what it nearly is.
func TestMeant(t *testing.T) {
	t.Parallel()
	f := floratest.Shipped(t)
	for _, c := range []struct {
		region, typed string
		first         string
		clear         bool
		also          []string
	}{
		{"eastern-north-america", "beech", "Fagus grandifolia", true, nil},
		{"british-isles", "Beech", "Fagus sylvatica", true, nil},
		{"eastern-north-america", "sycamore", "Platanus occidentalis", true, nil},
		{"british-isles", "sycamore", "Acer pseudoplatanus", true, nil},
		{"eastern-north-america", "ironwood", "", false, []string{"Ostrya virginiana", "Carpinus caroliniana"}},
		{"eastern-north-america", "popple", "", false, []string{"Populus tremuloides", "Populus grandidentata"}},
		{"eastern-north-america", "cedar", "", false, []string{"Juniperus virginiana", "Thuja occidentalis"}},
		{"eastern-north-america", "oak", "Quercus", true, nil},
		{"eastern-north-america", "maples", "Acer", true, nil},
		{"eastern-north-america", "red oaks", "red oaks", true, nil},
		{"eastern-north-america", "Carya ovata", "Carya ovata", true, nil},
		{"eastern-north-america", "Betulaceae", "Betulaceae", true, nil},
		{"eastern-north-america", "maple of some kind", "Acer", true, nil},
		{"eastern-north-america", "sliver mapel", "", false, []string{"Acer saccharinum"}},
		{"eastern-north-america", "shagbrak", "", false, []string{"Carya ovata"}},
		{"eastern-north-america", "xyzzy", "", false, nil},
		{"eastern-north-america", "  ", "", false, nil},
	} {
		terms, clear, err := names.Meant(f, flora.Among{Region: c.region}, c.typed)
		require.NoError(t, err)
		require.Equal(t, c.clear, clear, "%s in %s: %v", c.typed, c.region, terms)
		if c.clear {
			require.Equal(t, c.first, terms[0].Name, c.typed)
		}
		var got []string
		for _, term := range terms[:min(4, len(terms))] {
			got = append(got, term.Name)
		}
		for _, name := range c.also {
			require.Contains(t, got, name, c.typed)
		}
		if !c.clear && c.also == nil {
			require.Empty(t, terms)
		}
	}
	_, _, err := names.Meant(f, flora.Among{Region: "atlantis"}, "oak")
	require.Error(t, err)
}
