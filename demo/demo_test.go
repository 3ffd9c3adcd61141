package demo_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/core/stand/worklist"
	"palethicket/core/tree/stamp"
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
	require.Len(t, by, 5, "three observers, a checker, and no name yet")
	for _, s := range []string{worklist.Named, worklist.Doubtful, worklist.Ready, worklist.Open} {
		require.GreaterOrEqual(t, status[s], 5, "%s in %v", s, status)
	}
	require.Positive(t, flagged, "some names that later looks contradict")
	visits, err := b.Visits(t.Context(), "")
	require.NoError(t, err)
	require.Len(t, visits, 13, "eleven, and one of each check")
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
		smooth := false
		for _, look := range v.Looks {
			if stamp.OfID(look.ID).Time().After(time.Date(2026, 11, 22, 0, 0, 0, 0, time.Local)) {
				continue // of a check cruise
			}
			for _, s := range look.Scores {
				scored[s.Character]++
				if s.Character == "bark.texture" && !look.Stranger && len(s.States) == 1 && s.States[0] == "smooth" {
					smooth = true
				}
			}
		}
		if smooth {
			byAge[v.Facts.Age] = append(byAge[v.Facts.Age], 1)
		}
		byAge["all "+v.Facts.Age] = append(byAge["all "+v.Facts.Age], 1)
	}
	for _, id := range demo.Planned() {
		require.GreaterOrEqual(t, scored[id], 2, id)
	}
	smooth := func(age string) float64 { return float64(len(byAge[age])) / float64(len(byAge["all "+age])) }
	require.Greater(t, smooth("young"), 1.5*smooth("mature"), "young bark is smooth (common practice)")
	require.Greater(t, smooth("young"), 1.5*smooth("old"))
}

// TestProof: sixty trees were seen in leaf, and two checks say something.
func TestProof(t *testing.T) {
	t.Parallel()
	b := demotest.New(t)
	spring, err := b.FieldAccuracy(t.Context(), "", "")
	require.NoError(t, err)
	require.Equal(t, 60, spring.Confirmed)
	require.Greater(t, spring.All.Of, 50)
	require.Greater(t, spring.All.P, 0.75)
	require.GreaterOrEqual(t, len(spring.Bins), 3, "a curve has points")
	require.Len(t, spring.ByObserver, 3)
	checks, err := b.Checks(t.Context())
	require.NoError(t, err)
	require.Len(t, checks, 2)
	for _, c := range checks {
		r, err := b.CheckResults(t.Context(), c.ID)
		require.NoError(t, err)
		require.Empty(t, r.Refused)
		require.Greater(t, r.Named, r.Plan.Trees*8/10)
		require.Greater(t, r.ByRank[1].Kappa, 0.6)
		require.Less(t, r.ByRank[0].Share.P, 1.0)
		require.NotEmpty(t, r.Characters)
	}
	shared, err := b.SharedPractice(t.Context())
	require.NoError(t, err)
	require.Len(t, shared, 3)
	for _, p := range append(shared, book.PracticeOf{Name: "Ilse Brandvold", Practised: *must(b.Practised(t.Context(), "Ilse Brandvold", 0))}) {
		require.Greater(t, p.Reviews, 80, p.Name)
		require.NotEmpty(t, p.Taken, p.Name)
		require.NotEmpty(t, p.Words, p.Name)
		require.Greater(t, p.Sure[0].N+p.Sure[1].N+p.Sure[2].N, 60, p.Name)
	}
}

func must[T any](x T, err error) T {
	if err != nil {
		panic(err)
	}
	return x
}
