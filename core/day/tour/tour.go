// Package tour plans which trees to visit in a day, and in which order: the orienteering problem (Golden, Levy & Vohra
// 1987, Naval Research Logistics 34:307), of the trees' worth and the minutes that walking and looking take.
//
//	tour.go     the plan, begun by insertion and made better by local search, as long as there is time
//	share.go    the plans of several crews
//	tobler.go   how long walking takes
package tour

import (
	"context"
	"errors"
	"math"
	"math/rand/v2"
	"slices"
)

// Stop is a tree that could be visited.
type Stop struct {
	ID      string
	Worth   float64 // what a visit is worth; 0 or more
	Minutes float64 // that it takes once there
	Pinned  bool    // it is to be visited whatever it is worth
}

// Day is what is to be planned. Way gives the minutes of walking from one place to another: places are the stops by their
// index, then the start and the end, len(Stops) and len(Stops)+1.
type Day struct {
	Stops   []Stop
	Minutes float64 // from leaving the start to being at the end
	Way     func(from, to int) float64
}

// Plan is an order of stops that fits into the day.
type Plan struct {
	Order   []int // indices of stops
	Worth   float64
	Minutes float64 // walking and looking, to the end
}

// ErrTooShort is given where not even the way from start to end fits, and ErrPinned where what is pinned does not.
var (
	ErrTooShort = errors.New("the way from the start to the end alone takes longer than there is time")
	ErrPinned   = errors.New("what is pinned does not fit into the time there is: unpin some of it, or begin earlier")
)

// solver is a plan while it is made better.
type solver struct {
	Day
	ways  [][]float64
	start int
	end   int
	rng   *rand.Rand
}

// Solve plans a day: it begins with the stops that are worth most for the time they add, and then takes some out and puts
// others in by chance, keeping what is better, rounds times or until ctx is done. The same seed and rounds give the same
// plan; it is whole whenever it is stopped.
func Solve(ctx context.Context, d *Day, seed uint64, rounds int) (*Plan, error) {
	s := d.solver(seed)
	if s.ways[s.start][s.end] > d.Minutes {
		return nil, ErrTooShort
	}
	best, err := s.pinned()
	if err != nil {
		return nil, err
	}
	s.fill(best)
	now := best.clone()
	for round := range rounds {
		if ctx.Err() != nil {
			break
		}
		try := now.clone()
		s.shake(try)
		s.shorten(try)
		if try.Minutes > s.Day.Minutes {
			continue // what is pinned alone, in a worse order
		}
		s.fill(try)
		// A plan that is worth less is gone on with now and then, seldom towards the end, so that one good plan does not hide another.
		warmth := 0.1 * now.Worth * (1 - float64(round)/float64(rounds))
		if better(try, now) || s.rng.Float64() < math.Exp((try.Worth-now.Worth)/max(warmth, 1e-9))*0.3 {
			now = try
		}
		if better(now, best) {
			best = now.clone()
		} else if s.rng.IntN(150) == 0 {
			now = best.clone()
		}
	}
	return best, nil
}

// solver gets a day ready, with all its ways.
func (d *Day) solver(seed uint64) *solver {
	n := len(d.Stops)
	s := &solver{Day: *d, start: n, end: n + 1, rng: rand.New(rand.NewPCG(seed, 9))}
	s.ways = make([][]float64, n+2)
	for i := range s.ways {
		s.ways[i] = make([]float64, n+2)
		for j := range s.ways[i] {
			if i != j {
				s.ways[i][j] = d.Way(i, j)
			}
		}
	}
	return s
}

func (p *Plan) clone() *Plan {
	return &Plan{Order: slices.Clone(p.Order), Worth: p.Worth, Minutes: p.Minutes}
}

// better says whether a plan is worth more, or as much in less time.
func better(a, b *Plan) bool {
	return a.Worth > b.Worth+1e-12 || a.Worth > b.Worth-1e-12 && a.Minutes < b.Minutes-1e-9
}

// pinned is a plan of what must be in it.
func (s *solver) pinned() (*Plan, error) {
	p := &Plan{Minutes: s.ways[s.start][s.end]}
	for i := range s.Stops {
		if s.Stops[i].Pinned {
			at, more := s.cheapest(p, i)
			s.insert(p, i, at, more)
		}
	}
	s.shorten(p)
	if p.Minutes > s.Day.Minutes {
		return nil, ErrPinned
	}
	return p, nil
}

// at is the place of a plan before its first stop (-1), of a stop, or after the last.
func (s *solver) at(p *Plan, i int) int {
	switch {
	case i < 0:
		return s.start
	case i >= len(p.Order):
		return s.end
	}
	return p.Order[i]
}

// cheapest finds where a stop adds least time, and how much.
func (s *solver) cheapest(p *Plan, stop int) (at int, more float64) {
	more = math.Inf(1)
	for i := 0; i <= len(p.Order); i++ {
		a, b := s.at(p, i-1), s.at(p, i)
		if m := s.ways[a][stop] + s.ways[stop][b] - s.ways[a][b]; m < more {
			at, more = i, m
		}
	}
	return at, more + s.Stops[stop].Minutes
}

func (s *solver) insert(p *Plan, stop, at int, more float64) {
	p.Order = slices.Insert(p.Order, at, stop)
	p.Worth += s.Stops[stop].Worth
	p.Minutes += more
}

// fill puts in what fits, what is worth most for its time first.
func (s *solver) fill(p *Plan) {
	in := make([]bool, len(s.Stops))
	for _, i := range p.Order {
		in[i] = true
	}
	for {
		stop, where, extra, rate := -1, 0, 0.0, 0.0
		for i := range s.Stops {
			if in[i] || s.Stops[i].Worth <= 0 {
				continue
			}
			at, more := s.cheapest(p, i)
			if p.Minutes+more > s.Day.Minutes+1e-9 {
				continue
			}
			if r := s.Stops[i].Worth / max(more, 1e-6); r > rate {
				stop, where, extra, rate = i, at, more, r
			}
		}
		if stop < 0 {
			return
		}
		s.insert(p, stop, where, extra)
		in[stop] = true
	}
}

// shake takes out a run of stops, or some by chance; what is pinned stays.
func (s *solver) shake(p *Plan) {
	if len(p.Order) == 0 {
		return
	}
	n := 1 + s.rng.IntN(max(1, min(8, (len(p.Order)+1)/2)))
	from := s.rng.IntN(len(p.Order))
	run := s.rng.IntN(2) == 0
	drop := map[int]bool{}
	for k := range n {
		i := (from + k) % len(p.Order)
		if !run {
			i = s.rng.IntN(len(p.Order))
		}
		if stop := p.Order[i]; !s.Stops[stop].Pinned {
			drop[stop] = true
		}
	}
	p.Order = slices.DeleteFunc(p.Order, func(i int) bool { return drop[i] })
	s.count(p)
	for range s.rng.IntN(3) { // and some in that nobody chose
		if i := s.rng.IntN(len(s.Stops)); !slices.Contains(p.Order, i) && s.Stops[i].Worth > 0 {
			at, more := s.cheapest(p, i)
			s.insert(p, i, at, more)
		}
	}
	s.fit(p)
}

// fit takes out what is worth least for the time it takes, until a plan fits; what is pinned stays.
func (s *solver) fit(p *Plan) {
	for s.shorten(p); p.Minutes > s.Day.Minutes; s.count(p) {
		least, rate := -1, math.Inf(1)
		for i, stop := range p.Order {
			a, b := s.at(p, i-1), s.at(p, i+1)
			takes := s.ways[a][stop] + s.ways[stop][b] - s.ways[a][b] + s.Stops[stop].Minutes
			if r := s.Stops[stop].Worth / max(takes, 1e-6) * (0.8 + 0.4*s.rng.Float64()); !s.Stops[stop].Pinned && r < rate {
				least, rate = i, r
			}
		}
		if least < 0 {
			return
		}
		p.Order = slices.Delete(p.Order, least, least+1)
	}
}

// count works out what a plan is worth and takes.
func (s *solver) count(p *Plan) {
	p.Worth, p.Minutes = 0, 0
	for i, stop := range p.Order {
		p.Worth += s.Stops[stop].Worth
		p.Minutes += s.Stops[stop].Minutes + s.ways[s.at(p, i-1)][stop]
	}
	p.Minutes += s.ways[s.at(p, len(p.Order)-1)][s.end]
}

// shorten turns runs round (2-opt) and moves single stops, until neither makes the way shorter. Walking up takes longer than
// walking down, so a run that is turned is counted anew.
func (s *solver) shorten(p *Plan) {
	for again := true; again; {
		again = s.turn(p) || s.move(p)
	}
}

func (s *solver) turn(p *Plan) (done bool) {
	for i := range p.Order {
		there, back := 0.0, 0.0 // of the run from i to j
		for j := i + 1; j < len(p.Order); j++ {
			there += s.ways[p.Order[j-1]][p.Order[j]]
			back += s.ways[p.Order[j]][p.Order[j-1]]
			a, b := s.at(p, i-1), s.at(p, j+1)
			was := s.ways[a][p.Order[i]] + there + s.ways[p.Order[j]][b]
			is := s.ways[a][p.Order[j]] + back + s.ways[p.Order[i]][b]
			if is < was-1e-9 {
				slices.Reverse(p.Order[i : j+1])
				p.Minutes += is - was
				return true
			}
		}
	}
	return false
}

func (s *solver) move(p *Plan) (done bool) {
	for i, stop := range p.Order {
		a, b := s.at(p, i-1), s.at(p, i+1)
		saved := s.ways[a][stop] + s.ways[stop][b] - s.ways[a][b]
		rest := &Plan{Order: slices.Delete(slices.Clone(p.Order), i, i+1)}
		at, more := s.cheapest(rest, stop)
		if more-s.Stops[stop].Minutes < saved-1e-9 {
			p.Order = slices.Insert(rest.Order, at, stop)
			p.Minutes += more - s.Stops[stop].Minutes - saved
			return true
		}
	}
	return false
}
