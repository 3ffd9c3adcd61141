package ranking_test

import (
	"fmt"
	"log"

	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/ranking"
)

// Two trees of a wood, one twig with chambered pith, and a chance of one in five
// that the twig was another tree's.
func ExampleRanker() {
	pith := evidence.Character{ID: "twig.pith", Kind: evidence.Categorical, States: []string{"solid", "chambered"}}
	shows := func(solid, chambered float64) []evidence.Value {
		return []evidence.Value{{Knowledge: evidence.Known, Dist: []float64{solid, chambered}}}
	}
	m, err := evidence.NewModel([]evidence.Character{pith}, []evidence.Taxon{
		{Name: "Juglans nigra", Genus: "Juglans", Weight: 1, Values: shows(0.02, 0.98)},
		{Name: "Quercus rubra", Genus: "Quercus", Weight: 3, Values: shows(0.999, 0.001)},
	}, 0.001)
	if err != nil {
		log.Fatal(err)
	}
	twig := evidence.Look{Belongs: 0.8, Scores: []evidence.Score{{Character: 0, States: 1 << 1, Error: 0.03}}}
	v := ranking.NewRanker(m).Rank([]evidence.Look{twig})
	fmt.Printf("%s %.2f\n", m.Taxa()[v.Leader()].Name, v.Posterior[v.Leader()])
	// Output: Juglans nigra 0.78
}
