package cruise_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/stand/cruise"
)

// words reads a name as "Genus species", each rank being a word of it.
func words(n cruise.Named, rank string) string {
	genus, _, _ := strings.Cut(n.Name, " ")
	switch {
	case rank == "species" && n.Rank == "species":
		return n.Name
	case rank == "genus" && n.Rank != "family":
		return genus
	case rank == "family":
		return map[string]string{"Quercus": "Fagaceae", "Acer": "Sapindaceae", "Fagaceae": "Fagaceae"}[genus]
	}
	return ""
}

func pair(i int, first, second cruise.Named) cruise.Pair {
	first.By, second.By = "Ines", "Tomasz"
	return cruise.Pair{Tree: fmt.Sprint(i), First: first, Others: []cruise.Named{first}, Second: second}
}

func TestResults(t *testing.T) {
	red, black := cruise.Named{Rank: "species", Name: "Quercus rubra"}, cruise.Named{Rank: "species", Name: "Quercus velutina"}
	oak, maple := cruise.Named{Rank: "genus", Name: "Quercus"}, cruise.Named{Rank: "species", Name: "Acer rubrum"}
	none := cruise.Named{}
	got := cruise.ResultsOf([]cruise.Pair{pair(1, red, red), pair(2, red, red), pair(3, red, black), pair(4, oak, red), pair(5, maple, maple),
		pair(6, maple, oak), pair(7, red, none)}, words)
	require.Equal(t, 7, got.Planned)
	require.Equal(t, 6, got.Named)
	species, genus, family := got.ByRank[0], got.ByRank[1], got.ByRank[2]
	require.Equal(t, [2]int{3, 4}, [2]int{species.Share.N, species.Share.Of}, "a genus and a species are not compared as species")
	require.Equal(t, [2]int{5, 6}, [2]int{genus.Share.N, genus.Share.Of})
	require.Equal(t, [2]int{5, 6}, [2]int{family.Share.N, family.Share.Of})
	require.InDelta(t, (5.0/6-22.0/36)/(1-22.0/36), genus.Kappa.Kappa, 1e-12)
	require.Equal(t, cruise.Cell{First: "Quercus rubra", Second: "Quercus rubra", N: 2}, got.Cells[0])
	require.Len(t, got.Observers, 2)
	require.Equal(t, 6, got.Observers[0].Trees)
}

// TestSeveral: of trees that three named, Fleiss's kappa is told; two people make none.
func TestSeveral(t *testing.T) {
	red, maple := cruise.Named{Rank: "species", Name: "Quercus rubra"}, cruise.Named{Rank: "species", Name: "Acer rubrum"}
	three := func(i int, a, b, c cruise.Named) cruise.Pair {
		a.By, b.By, c.By = "Ines", "Wenona", "Tomasz"
		return cruise.Pair{Tree: fmt.Sprint(i), First: b, Others: []cruise.Named{a, b}, Second: c}
	}
	got := cruise.ResultsOf(
		[]cruise.Pair{three(1, red, red, red), three(2, maple, maple, maple), three(3, red, red, maple), pair(4, red, red)},
		words,
	)
	require.Equal(t, 3, got.Several.People)
	require.Equal(t, 3, got.Several.Trees)
	po, pe := (1+1+1.0/3)/3, (5.0/9)*(5.0/9)+(4.0/9)*(4.0/9)
	require.InDelta(t, (po-pe)/(1-pe), got.Several.Kappa.Kappa, 1e-12)
	require.Nil(t, cruise.ResultsOf([]cruise.Pair{pair(4, red, red)}, words).Several)
}

func TestResultsOfNothing(t *testing.T) {
	got := cruise.ResultsOf(nil, words)
	require.True(t, math.IsNaN(got.ByRank[0].Kappa.Kappa))
	require.Error(t, got.ByRank[0].Why)
	half := cruise.ResultsOf([]cruise.Pair{pair(1, cruise.Named{Rank: "species", Name: "Acer rubrum"}, cruise.Named{})}, words)
	require.Equal(t, 0, half.Named)
	require.Empty(t, half.Observers)
}
