package names_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora/floratest"
	"palethicket/core/flora/names"
)

func index(t *testing.T) *names.Index {
	f := floratest.Shipped(t)
	return names.NewIndex(f)
}

func found(a names.Found) (taxa []string) {
	for _, h := range a.Hits {
		taxa = append(taxa, h.Taxon)
	}
	return taxa
}

// TestOneNameForSeveralTrees goes through the words that the trade knows to
// mean different trees (common practice).
func TestOneNameForSeveralTrees(t *testing.T) {
	ix := index(t)
	for word, trees := range map[string][]string{
		"sycamore":    {"Platanus occidentalis", "Acer pseudoplatanus"},
		"ironwood":    {"Carpinus caroliniana", "Ostrya virginiana"},
		"poplar":      {"Populus tremuloides", "Liriodendron tulipifera", "Populus alba", "Populus nigra"},
		"elder":       {"Sambucus nigra", "Sambucus canadensis"},
		"cedar":       {"Juniperus virginiana", "Thuja occidentalis"},
		"swamp maple": {"Acer rubrum", "Acer saccharinum"},
		"linden":      {"Tilia americana", "Tilia cordata", "Tilia ×europaea"},
		"plane":       {"Platanus ×hispanica", "Acer pseudoplatanus"},
		"service":     {"Amelanchier (serviceberries)", "Sorbus torminalis"},
		"whitewood":   {"Tilia americana", "Liriodendron tulipifera"},
		"lime":        {"Tilia americana", "Tilia ×europaea", "Tilia cordata"},
		"bird cherry": {"Prunus avium", "Prunus padus"},
		"ash":         {"Fraxinus excelsior", "Fraxinus americana", "Zanthoxylum americanum"},
	} {
		a := ix.Search(word)
		require.Subset(t, found(a), trees, word)
		require.Contains(t, a.Ambiguous, word)
		require.Contains(t, a.Ambiguous, "Say which.")
	}
	require.Contains(t, ix.Search("sycamore").Ambiguous, "Acer pseudoplatanus (the British Isles)")
	require.Contains(t, ix.Search("sycamore").Ambiguous, "Platanus occidentalis (eastern North America)")
	for _, word := range []string{"buttonwood", "white walnut", "Acer rubrum", "hackberry"} {
		a := ix.Search(word)
		require.NotEmpty(t, a.Hits, word)
		if word != "hackberry" {
			require.Empty(t, a.Ambiguous, word)
		}
	}
}

func TestNamesOfEveryKind(t *testing.T) {
	ix := index(t)
	for _, c := range []struct {
		query, taxon string
		kind         names.Kind
	}{
		{"Quercus alba", "Quercus alba", names.Scientific},
		{"quercus", "Quercus alba", names.Scientific},
		{"Betula verrucosa", "Betula pendula", names.Older},
		{"Quercus prinus", "Quercus montana", names.Older},
		{"hop-hornbeam", "Ostrya virginiana", names.English},
		{"hop hornbeam", "Ostrya virginiana", names.English},
		{"shagbarc hickory", "Carya ovata", names.English},
		{"Qercus rubra", "Quercus rubra", names.Scientific},
		{"butternutt", "Juglans cinerea", names.English},
		{"platanus hispanica", "Platanus ×hispanica", names.Scientific},
		{"guelder", "Viburnum opulus", names.English},
	} {
		a := ix.Search(c.query)
		require.Contains(t, found(a), c.taxon, c.query)
		for _, h := range a.Hits {
			if h.Taxon == c.taxon {
				require.Equal(t, c.kind, h.Kind, c.query)
			}
		}
	}
	require.Equal(t, "Quercus alba", ix.Search("white oak").Hits[0].Taxon, "the very name comes first")
	require.Empty(t, ix.Search("").Hits)
	require.Empty(t, ix.Search("zzzzzz").Hits)
}

func TestTheMemoryRuleLeavesTreesOut(t *testing.T) {
	ix := index(t)
	for _, query := range []string{"opposite trees", "maple, ash, dogwood"} {
		r := ix.Search(query).Rule
		require.NotNil(t, r, query)
		require.Subset(t, r.LeftOut, []string{"Aesculus glabra", "Sambucus nigra", "Viburnum lentago", "Catalpa speciosa",
			"Staphylea trifolia", "Euonymus europaeus", "Ligustrum vulgare", "Lonicera maackii"}, "common practice")
		require.Equal(t, []string{"Cornus alternifolia"}, r.Wrong)
		require.NotContains(t, r.LeftOut, "Acer rubrum")
	}
	require.Nil(t, ix.Search("oak").Rule)
}

// TestForgiving: letters that changed places, and a word too few.
func TestForgiving(t *testing.T) {
	ix := index(t)
	for query, want := range map[string]string{"red oka": "Quercus rubra", "shagabrk": "Carya ovata", "sugr mapel": "Acer saccharum"} {
		hits := ix.Search(query).Hits
		require.True(t, slices.ContainsFunc(hits, func(h names.Hit) bool { return h.Taxon == want }), "%s finds %v", query, hits)
	}
	require.Greater(t, len(ix.Search("oak").Hits), 12)
	require.NotContains(t, ix.Search("oak").Ambiguous, "Quercus")
	require.Empty(t, ix.Search("qqqq").Hits)
}
