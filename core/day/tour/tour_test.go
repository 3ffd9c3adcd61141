package tour_test

import (
	"context"
	"fmt"
	"math"
	"math/bits"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"palethicket/core/day/tour"
)

// wood is trees on a slope, a start and an end.
func wood(r *rand.Rand, trees int, minutes float64) *tour.Day {
	d, _ := woodAround(r, trees, minutes)
	return d
}

// woodAround gives too in which direction from the start each tree lies.
func woodAround(r *rand.Rand, trees int, minutes float64) (*tour.Day, func(stop int) float64) {
	x, y, z := make([]float64, trees+2), make([]float64, trees+2), make([]float64, trees+2)
	d := &tour.Day{Minutes: minutes}
	for i := range x {
		x[i], y[i] = 900*r.Float64(), 900*r.Float64()
		z[i] = 0.15*x[i] + 30*math.Sin(y[i]/150)
		if i < trees {
			d.Stops = append(d.Stops, tour.Stop{ID: fmt.Sprint(i), Worth: 0.2 + 2*r.Float64()*r.Float64(), Minutes: 1 + 6*r.Float64()})
		}
	}
	d.Way = func(a, b int) float64 {
		return tour.Minutes(math.Hypot(x[a]-x[b], y[a]-y[b]), z[b]-z[a], tour.Footing{Snow: 1})
	}
	return d, func(i int) float64 { return math.Atan2(y[i]-y[trees], x[i]-x[trees]) }
}

// exact is the most that fits, by trying every set in every order (dynamic programming over sets).
func exact(d *tour.Day) float64 {
	n := len(d.Stops)
	best := 0.0
	least := make([][]float64, 1<<n) // minutes to have visited a set and stand at its last
	for set := range least {
		least[set] = make([]float64, n)
		for i := range least[set] {
			least[set][i] = math.Inf(1)
		}
	}
	for i := range n {
		least[1<<i][i] = d.Way(n, i) + d.Stops[i].Minutes
	}
	for set := 1; set < 1<<n; set++ {
		worth := 0.0
		for i := range n {
			if set>>i&1 == 1 {
				worth += d.Stops[i].Worth
			}
		}
		for last := range n {
			at := least[set][last]
			if at > d.Minutes {
				continue
			}
			if at+d.Way(last, n+1) <= d.Minutes {
				best = max(best, worth)
			}
			for rest := ^set & (1<<n - 1); rest != 0; rest &= rest - 1 {
				next := bits.TrailingZeros(uint(rest))
				least[set|1<<next][next] = min(least[set|1<<next][next], at+d.Way(last, next)+d.Stops[next].Minutes)
			}
		}
	}
	return best
}

// fits holds a plan to what it says of itself.
func fits(t *testing.T, d *tour.Day, p *tour.Plan) {
	t.Helper()
	n, worth, minutes, at := len(d.Stops), 0.0, 0.0, len(d.Stops)
	seen := map[int]bool{}
	for _, i := range p.Order {
		require.False(t, seen[i], "visited twice")
		seen[i] = true
		worth += d.Stops[i].Worth
		minutes += d.Way(at, i) + d.Stops[i].Minutes
		at = i
	}
	minutes += d.Way(at, n+1)
	require.InDelta(t, worth, p.Worth, 1e-9)
	require.InDelta(t, minutes, p.Minutes, 1e-6)
	require.LessOrEqual(t, minutes, d.Minutes+1e-6)
}

// TestExactOnTwelve: of twelve trees the plan is the best there is.
func TestExactOnTwelve(t *testing.T) {
	t.Parallel()
	for seed := range uint64(12) {
		d := wood(rand.New(rand.NewPCG(seed, 1)), 12, 60)
		p, err := tour.Solve(t.Context(), d, seed, 3000)
		require.NoError(t, err)
		fits(t, d, p)
		require.InDelta(t, exact(d), p.Worth, 1e-9, "seed %d", seed)
	}
}

// TestBetterThanNearestFirst: over twenty woods of 150 trees and five hours the plan gains 1.3 times as much as whoever goes to
// the nearest, or more.
func TestBetterThanNearestFirst(t *testing.T) {
	t.Parallel()
	plans, nearest := 0.0, 0.0
	for seed := range uint64(20) {
		d := wood(rand.New(rand.NewPCG(seed, 2)), 150, 300)
		p, err := tour.Solve(t.Context(), d, seed, 300)
		require.NoError(t, err)
		fits(t, d, p)
		plans, nearest = plans+p.Worth, nearest+tour.NearestFirst(d)
	}
	t.Logf("%.2f times what nearest-first gains", plans/nearest)
	require.Greater(t, plans, 1.3*nearest)
}

// TestPinnedAndStopped: what is pinned is in every plan; a plan that is stopped is whole; what cannot be is said.
func TestPinnedAndStopped(t *testing.T) {
	t.Parallel()
	d := wood(rand.New(rand.NewPCG(7, 3)), 40, 120)
	d.Stops[5].Pinned, d.Stops[5].Worth = true, 0
	d.Stops[30].Pinned = true
	stopped, stop := context.WithCancel(t.Context())
	stop()
	for _, ctx := range []context.Context{t.Context(), stopped} {
		p, err := tour.Solve(ctx, d, 1, 400)
		require.NoError(t, err)
		fits(t, d, p)
		require.Contains(t, p.Order, 5)
		require.Contains(t, p.Order, 30)
	}
	d.Minutes = 1
	_, err := tour.Solve(t.Context(), d, 1, 10)
	require.ErrorIs(t, err, tour.ErrTooShort)
	d.Minutes = d.Way(40, 41) + 0.5
	_, err = tour.Solve(t.Context(), d, 1, 10)
	require.ErrorIs(t, err, tour.ErrPinned)
	none, err := tour.Solve(t.Context(), &tour.Day{Minutes: 10, Way: func(int, int) float64 { return 1 }}, 1, 10)
	require.NoError(t, err)
	require.Empty(t, none.Order)
}

// TestTobler holds the hiking function to its published points: 6 km/h at −5 %, 5 km/h on the level; 0.6 of it off paths.
func TestTobler(t *testing.T) {
	t.Parallel()
	path := tour.Footing{Path: true}
	require.InDelta(t, 6.0, tour.Speed(-0.05, path)*60/1000, 1e-9)
	require.InDelta(t, 5.04, tour.Speed(0, path)*60/1000, 0.01)
	require.InDelta(t, 0.6, tour.Speed(0.1, tour.Footing{})/tour.Speed(0.1, path), 1e-12)
	require.Greater(t, tour.Minutes(100, 20, path), tour.Minutes(100, -20, path), "up takes longer than down")
	require.InDelta(t, 2*tour.Minutes(100, 0, path), tour.Minutes(100, 0, tour.Footing{Path: true, Snow: 2}), 1e-9)
	require.Zero(t, tour.Minutes(0, 0, path))
}

// BenchmarkFourHundred plans a day of 400 trees.
func BenchmarkFourHundred(b *testing.B) {
	d := wood(rand.New(rand.NewPCG(4, 4)), 400, 360)
	for b.Loop() {
		ctx, stop := context.WithTimeout(b.Context(), time.Second)
		p, err := tour.Solve(ctx, d, 1, 60)
		stop()
		require.NoError(b, err)
		b.ReportMetric(p.Worth/tour.NearestFirst(d), "×nearest")
	}
}

// TestCrewsShareTheWork: each crew has a day that fits, nobody visits what another does, all are out for
// about as long where there is enough for all, and together they gain no less than if one after the other
// took what is best for itself.
func TestCrewsShareTheWork(t *testing.T) {
	t.Parallel()
	for seed := range uint64(6) {
		for _, of := range []struct {
			trees, crews int
			minutes      float64
			all          bool // they get round
		}{{80, 6, 420, true}, {80, 2, 420, true}, {150, 3, 240, false}, {5, 6, 300, true}} {
			d, toward := woodAround(rand.New(rand.NewPCG(seed, 7)), of.trees, of.minutes)
			d.Stops[3].Pinned = true
			plans, err := tour.Share(t.Context(), d, of.crews, toward, 1, 60)
			require.NoError(t, err)
			require.Len(t, plans, of.crews)
			had, worth, longest, shortest := map[int]bool{}, 0.0, 0.0, math.Inf(1)
			for _, p := range plans {
				fits(t, d, p)
				for _, i := range p.Order {
					require.False(t, had[i])
					had[i] = true
				}
				worth, longest, shortest = worth+p.Worth, max(longest, p.Minutes), min(shortest, p.Minutes)
			}
			require.True(t, had[3], "pinned")
			if of.all {
				require.Len(t, had, of.trees)
			}
			if of.trees > 10*of.crews {
				require.Less(t, longest/shortest, 1.2, "%d trees, %d crews", of.trees, of.crews)
			}
			require.Greater(t, worth, 0.97*oneByOne(t, d, of.crews), "%d trees, %d crews", of.trees, of.crews)
		}
	}
}

// oneByOne is what crews gain of whom each takes what is best for itself of what is left.
func oneByOne(t *testing.T, d *tour.Day, crews int) (worth float64) {
	left := *d
	left.Stops = append([]tour.Stop{}, d.Stops...)
	for range crews {
		p, err := tour.Solve(t.Context(), &left, 1, 60)
		require.NoError(t, err)
		worth += p.Worth
		for _, i := range p.Order {
			left.Stops[i].Worth, left.Stops[i].Pinned = 0, false
		}
	}
	return worth
}
