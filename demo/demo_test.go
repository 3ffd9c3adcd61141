package demo_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/core/stand/worklist"
	"palethicket/demo"
	"palethicket/demo/demotest"
)

func TestMain(m *testing.M) { demotest.Main(m) }

// TestFill fills a book with the demo forest and holds it to its story: every
// kind of tree and every part of the book has something to show.
func TestFill(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	require.NoError(t, demo.Fill(t.Context(), b))
	require.NoError(t, demo.Fill(t.Context(), b), "a second time changes nothing")
	list, err := b.Trees(t.Context(), book.Query{}, 500, 0)
	require.NoError(t, err)
	lines := list.Trees
	require.Equal(t, 400, list.Total)
	stands, status, by, flagged := map[string]int{}, map[string]int{}, map[string]int{}, 0
	for _, l := range lines {
		stands[l.Stand]++
		status[l.Status]++
		by[l.GivenBy]++
		require.NotNil(t, l.Lon, l.Tag)
		if l.Doubt != "" && l.GivenPosterior > 0.3 {
			flagged++
		}
	}
	require.Len(t, stands, 6)
	require.Len(t, by, 4, "three observers, and no name yet")
	for _, s := range []string{worklist.Named, worklist.Doubtful, worklist.Ready, worklist.Open} {
		require.GreaterOrEqual(t, status[s], 5, "%s in %v", s, status)
	}
	require.Positive(t, flagged, "some names that later looks contradict")
	visits, err := b.Visits(t.Context(), "")
	require.NoError(t, err)
	require.Len(t, visits, 11)
	for _, v := range visits {
		require.Positive(t, v.Looks, "visit of %s", v.Day)
	}
	pictures := 0
	for _, l := range lines {
		photos, err := b.Photos(t.Context(), l.ID)
		require.NoError(t, err)
		pictures += len(photos)
	}
	require.Equal(t, 3, pictures)
	m, err := b.Map(t.Context())
	require.NoError(t, err)
	for _, s := range m.Stands {
		require.Greater(t, s.Hectares, 1.0, s.Name)
	}
	require.Greater(t, m.Tracts[0].Hectares, 100.0)
}

// TestTheForestIsDrawnFromItsFlora: what is scored in the drawn trees is what trees of
// their kind and age show: every character of a plan is scored somewhere, and the leader
// is what was drawn far more often than chance would have it.
func TestTheForestIsDrawnFromItsFlora(t *testing.T) {
	t.Parallel()
	b := demotest.New(t)
	list, err := b.Trees(t.Context(), book.Query{}, 500, 0)
	require.NoError(t, err)
	scored, byAge := map[string]int{}, map[string][]float64{}
	for _, l := range list.Trees {
		v, err := b.View(t.Context(), l.ID)
		require.NoError(t, err)
		require.Equal(t, book.Among{Region: "eastern-north-america", List: "Lantern Creek"}, v.Facts.Among)
		for _, look := range v.Looks {
			for _, s := range look.Scores {
				scored[s.Character]++
				if s.Character == "bark.texture" && !look.Stranger && len(s.States) == 1 && s.States[0] == "smooth" {
					byAge[v.Facts.Age] = append(byAge[v.Facts.Age], 1)
				}
			}
		}
		byAge["all "+v.Facts.Age] = append(byAge["all "+v.Facts.Age], 1)
	}
	for _, id := range demo.Planned() {
		require.GreaterOrEqual(t, scored[id], 2, id)
	}
	smooth := func(age string) float64 { return float64(len(byAge[age])) / float64(len(byAge["all "+age])) }
	require.Greater(t, smooth("young"), 1.5*smooth("mature"), "young bark is smooth (common practice)")
	require.Greater(t, smooth("mature"), smooth("old"))
}
