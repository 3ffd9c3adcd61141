package tour

import (
	"cmp"
	"context"
	"errors"
	"math"
	"slices"
)

// Share plans the day of several crews, who share the stops so that they are out for about as long:
// those that lie in one direction go to one crew, whoever is out longest gives to whoever is out
// shortest, and what nobody has goes to who has time for it. toward gives the direction of a stop
// from the start, in radians. Each plan fits into the day; none is better for one crew alone.
func Share(ctx context.Context, d *Day, crews int, toward func(stop int) float64, seed uint64, rounds int) ([]*Plan, error) {
	if crews < 2 {
		plan, err := Solve(ctx, d, seed, rounds)
		return []*Plan{plan}, err
	}
	parts := d.sectors(crews, toward)
	plans := make([]*Plan, crews)
	for c := range plans {
		plan, err := d.part(ctx, parts[c], seed, rounds)
		if errors.Is(err, ErrPinned) { // who has more time takes it
			plan, err = d.part(ctx, slices.DeleteFunc(parts[c], func(i int) bool { return d.Stops[i].Pinned }), seed, rounds)
		}
		if err != nil {
			return nil, err
		}
		plans[c] = plan
	}
	s := d.solver(seed)
	for c := range plans { // each once more, with what nobody has
		own := slices.Concat(plans[c].Order, d.without(plans))
		if again, err := d.part(ctx, own, seed, rounds); err == nil && better(again, plans[c]) {
			plans[c] = again
		}
	}
	s.spread(plans)
	s.level(plans)
	if slices.ContainsFunc(d.without(plans), func(i int) bool { return d.Stops[i].Pinned }) {
		return nil, ErrPinned
	}
	return plans, nil
}

// without are the stops that are in no plan.
func (d *Day) without(plans []*Plan) (rest []int) {
	in := make([]bool, len(d.Stops))
	for _, p := range plans {
		for _, i := range p.Order {
			in[i] = true
		}
	}
	for i := range in {
		if !in[i] {
			rest = append(rest, i)
		}
	}
	return rest
}

// sectors parts the stops by their direction, so that each part takes about as long: its looking, and
// the way from each to the next.
func (d *Day) sectors(crews int, toward func(int) float64) [][]int {
	order := make([]int, len(d.Stops))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(toward(a), toward(b)) })
	gap, widest := 0, -1.0 // the round begins where nothing lies
	for k := range order {
		g := toward(order[k]) - toward(order[(k+len(order)-1)%len(order)])
		if g = math.Mod(g+2*math.Pi, 2*math.Pi); g > widest {
			gap, widest = k, g
		}
	}
	order = slices.Concat(order[gap:], order[:gap])
	takes, all := make([]float64, len(order)), 0.0
	for k, i := range order {
		takes[k] = d.Stops[i].Minutes
		if k > 0 {
			takes[k] += min(d.Way(order[k-1], i), d.Minutes)
		}
		all += takes[k]
	}
	parts, so := make([][]int, crews), 0.0
	for k, i := range order {
		at := min(crews-1, int(so/all*float64(crews)))
		parts[at], so = append(parts[at], i), so+takes[k]
	}
	return parts
}

// part plans a day of some of the stops, and says it in those of the whole.
func (d *Day) part(ctx context.Context, of []int, seed uint64, rounds int) (*Plan, error) {
	place := func(i int) int {
		if i < len(of) {
			return of[i]
		}
		return i - len(of) + len(d.Stops)
	}
	own := &Day{Minutes: d.Minutes, Way: func(from, to int) float64 { return d.Way(place(from), place(to)) }}
	for _, i := range of {
		own.Stops = append(own.Stops, d.Stops[i])
	}
	plan, err := Solve(ctx, own, seed, rounds)
	if err != nil {
		return nil, err
	}
	for k := range plan.Order {
		plan.Order[k] = place(plan.Order[k])
	}
	return plan, nil
}

// spread gives what nobody has to the crew for whom it is worth most for its time; what is pinned first.
func (s *solver) spread(plans []*Plan) {
	left := s.without(plans)
	for {
		crew, stop, where, extra, rate := -1, -1, 0, 0.0, 0.0
		for c, p := range plans {
			for _, i := range left {
				if s.Stops[i].Worth <= 0 && !s.Stops[i].Pinned {
					continue
				}
				at, more := s.cheapest(p, i)
				r := s.Stops[i].Worth / max(more, 1e-6)
				if s.Stops[i].Pinned {
					r += 1e6
				}
				if p.Minutes+more <= s.Day.Minutes+1e-9 && r > rate {
					crew, stop, where, extra, rate = c, i, at, more, r
				}
			}
		}
		if crew < 0 {
			return
		}
		s.insert(plans[crew], stop, where, extra)
		left = slices.DeleteFunc(left, func(i int) bool { return i == stop })
	}
}

// enough is how many minutes fewer the longest day must become for a stop to change crews.
const enough = 0.5

// level has who is out longest give one stop after the other to another crew, as long as the
// longer of the two days becomes shorter by it.
func (s *solver) level(plans []*Plan) {
	for range 2 * len(s.Stops) {
		long := 0
		for c := range plans {
			if plans[c].Minutes > plans[long].Minutes {
				long = c
			}
		}
		to, least := -1, plans[long].Minutes-enough
		var giver, taker *Plan
		for c, p := range plans {
			for k, stop := range plans[long].Order {
				if c == long {
					break
				}
				less, more := plans[long].clone(), p.clone()
				less.Order = slices.Delete(less.Order, k, k+1)
				s.count(less)
				at, extra := s.cheapest(more, stop)
				if s.insert(more, stop, at, extra); max(less.Minutes, more.Minutes) < least {
					to, giver, taker, least = c, less, more, max(less.Minutes, more.Minutes)
				}
			}
		}
		if to < 0 {
			return
		}
		s.shorten(giver)
		s.shorten(taker)
		plans[long], plans[to] = giver, taker
	}
}
