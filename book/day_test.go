package book_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
)

// TestDayWithoutPosition: an open tree of which nobody knows where it stands is listed beside the plan.
func TestDayWithoutPosition(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	placed, unplaced := started(t, b, "LC-1"), started(t, b, "LC-2")
	add(t, b, placed, book.Entry{Kind: "facts", Facts: &book.SetFacts{Position: &book.Position{Lon: -90.63, Lat: 43.57}}})
	plan, err := b.PlanDay(t.Context(), &book.DayAsked{Date: "2026-12-01", Start: "09:00"})
	require.NoError(t, err)
	require.Equal(t, []book.DayUnplaced{{ID: unplaced, Tag: "LC-2", Stand: slope}}, plan.Unplaced)
	require.Equal(t, placed, plan.Crews[0].Stops[0].ID)
}

// TestPastIsPast: buds that swelled in spring do not swell in summer or fall, and trees on both sides of the date line lie side by side.
func TestPastIsPast(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	east, west := started(t, b, "LC-1"), started(t, b, "LC-2")
	for tree, lon := range map[string]float64{east: 179.999, west: -179.999} {
		add(t, b, tree, book.Entry{Kind: "facts", Facts: &book.SetFacts{Position: &book.Position{Lon: lon, Lat: 43.57}}, Far: true})
	}
	for _, day := range []string{"2026-07-10", "2026-10-10"} {
		plan, err := b.PlanDay(t.Context(), &book.DayAsked{Date: day, Start: "09:00", End: "16:00"})
		require.NoError(t, err)
		require.InDelta(t, 180, max(plan.From[0], -plan.From[0]), 0.01)
		require.Len(t, plan.Crews[0].Stops, 2)
		for _, s := range plan.Crews[0].Stops {
			require.NotContains(t, s.Because, "swell")
			require.Less(t, s.Metres, 500.0)
		}
	}
}
