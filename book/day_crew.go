package book

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"time"

	"github.com/paulmach/orb"

	"palethicket/core/day/land"
	"palethicket/core/day/tour"
	"palethicket/core/day/weather"
	"palethicket/core/tree/record"
)

// crewDays plans the day of each crew.
func crewDays(ctx context.Context, a *DayAsked, p *DayPlan, trees []dayTree, ground *land.Land) ([]CrewDay, error) {
	places := p.between(trees, ground)
	d := &tour.Day{Minutes: p.End.Sub(p.Start).Minutes() - a.Break, Way: func(x, y int) float64 { return places.Way(x, y).Minutes }}
	for _, t := range trees {
		d.Stops = append(d.Stops, tour.Stop{ID: t.ID, Worth: t.worth, Minutes: t.minutes, Pinned: slices.Contains(a.Pin, t.ID)})
	}
	toward := func(i int) float64 {
		return math.Atan2(*trees[i].Lat-p.From[1], math.Remainder(*trees[i].Lon-p.From[0], 360)*math.Cos(p.From[1]*math.Pi/180))
	}
	plans, err := tour.Share(ctx, d, max(1, a.Crews), toward, 1, dayRounds)
	if err != nil {
		return nil, &FieldError{"start", err.Error()}
	}
	return each(plans, func(plan *tour.Plan) CrewDay {
		c := p.crew(a, trees, plan.Order, places)
		if len(plan.Order) == 0 {
			c.Why = whyNone(d)
		}
		return *c
	}), nil
}

// whyNone says why a crew has nothing to do.
func whyNone(d *tour.Day) string {
	start, end, near := len(d.Stops), len(d.Stops)+1, math.Inf(1)
	worth := false
	for i := range d.Stops {
		worth = worth || d.Stops[i].Worth > 0
		near = min(near, d.Way(start, i)+d.Stops[i].Minutes+d.Way(i, end))
	}
	switch {
	case math.IsInf(near, 1):
		return "A stream lies in the way of every tree, and nothing crosses it: draw its ford on the map, or begin elsewhere."
	case !worth:
		return "Nothing that can be reached would tell more at any of these trees."
	case near > d.Minutes:
		return fmt.Sprintf("The nearest of them takes %.0f minutes with the way there and back, and there are %.0f.",
			math.Ceil(near), math.Max(d.Minutes, 0))
	}
	return "The others have all there is to do."
}

// between gets the places of trees ready to be walked between; the start and the end come after them.
func (p *DayPlan) between(trees []dayTree, ground *land.Land) *land.Places {
	at := make([]orb.Point, len(trees), len(trees)+2)
	for i, t := range trees {
		at[i] = orb.Point{*t.Lon, *t.Lat}
	}
	return ground.Between(append(at, p.From, p.To), weather.Slower(p.Snow))
}

// own finds the trees of an order that somebody put them in. It says how many cannot be visited any more.
func (p *DayPlan) own(a *DayAsked, trees []dayTree) (order []int, err error) {
	for _, id := range a.Order {
		i := slices.IndexFunc(trees, func(t dayTree) bool { return t.ID == id })
		if slices.Contains(order, i) {
			return nil, &FieldError{"order", "a tree of it stands there twice"}
		}
		if i >= 0 {
			order = append(order, i)
		}
	}
	if n := len(a.Order) - len(order); n > 0 {
		says := "1 tree of your order is left out: it is no longer open, or has no position."
		if n > 1 {
			says = fmt.Sprintf("%d trees of your order are left out: they are no longer open, or have no position.", n)
		}
		p.Says = append(p.Says, says)
	}
	return order, nil
}

// ordered is a day in an order of somebody's own. It says so where that takes too long, and leaves nothing out.
func ordered(a *DayAsked, p *DayPlan, trees []dayTree, order []int, ground *land.Land) (*CrewDay, error) {
	places := p.between(trees, ground)
	for at, i := range append(slices.Clone(order), len(trees)+1) {
		before := len(trees)
		if at > 0 {
			before = order[at-1]
		}
		if math.IsInf(places.Way(before, i).Minutes, 1) {
			return nil, &FieldError{
				"order",
				"a stream lies in the way, and nothing crosses it: draw its ford on the map, or leave the tree out",
			}
		}
	}
	c := p.crew(a, trees, order, places)
	if c.Back.After(p.End) {
		p.Says = append(p.Says, "In this order it ends after "+p.End.Format("15:04")+": leave something out.")
	}
	return c, nil
}

// crew is the day of one crew: stops in their order, with the times that walking and looking take.
func (p *DayPlan) crew(a *DayAsked, trees []dayTree, order []int, places *land.Places) *CrewDay {
	out := &CrewDay{Stops: []DayStop{}}
	before, clock, rested := len(trees), p.Start, a.Break <= 0
	middle := p.Start.Add(p.End.Sub(p.Start) / 2)
	minutes := func(m float64) time.Duration { return time.Duration(m * float64(time.Minute)) }
	for k, i := range order {
		t, w := &trees[i], places.Way(before, i)
		clock = clock.Add(minutes(w.Minutes))
		out.Worth += t.worth
		out.Stops = append(out.Stops, DayStop{
			Unsettled: t.Unsettled,
			N:         k + 1,
			Arrive:    clock,
			Leave:     clock.Add(minutes(t.minutes)),
			Way:       wayWords(&w),
			Metres:    w.Metres,
			Paces:     int(math.Round(w.Metres / paceLong)),
			Worth:     t.worth,
			Pinned:    slices.Contains(a.Pin, t.ID),
			Over:      w.Over,
			Because:   t.because,
		})
		before, clock = i, clock.Add(minutes(t.minutes))
		if !rested && !clock.Before(middle) {
			out.Stops[k].Rest, rested, clock = true, true, clock.Add(minutes(a.Break))
		}
	}
	back := places.Way(before, len(trees)+1)
	out.Back, out.WayBack = clock.Add(minutes(back.Minutes)), wayWords(&back)
	return out
}

func wayWords(w *land.Way) string {
	if w.Over {
		return w.First.Words() + " to where the stream is crossed, then on"
	}
	return w.First.Words()
}

// land reads how the tracts lie.
func (b *Book) land(ctx context.Context) (*land.Land, error) {
	m, err := b.Map(ctx)
	if err != nil {
		return nil, err
	}
	var terrains []json.RawMessage
	for _, t := range m.Tracts {
		if t.Terrain != nil {
			terrains = append(terrains, t.Terrain)
		}
	}
	return land.Read(terrains)
}

// dayWeather finds which snow a day is reckoned with, and what to beware of.
func (b *Book) dayWeather(ctx context.Context, a *DayAsked, p *DayPlan, trees []dayTree) error {
	p.Snow = a.Snow
	if p.Today {
		presets, cautions := weather.Of(a.Now, p.From[1], p.From[0], b.now())
		for _, c := range cautions {
			p.Says = append(p.Says, string(c))
		}
		for _, s := range presets {
			if s.Field == "snow" {
				p.Snow = cmp.Or(p.Snow, s.Value)
			}
		}
	}
	if p.Snow == "" {
		visits, err := b.store.Visits(ctx, trees[0].Tract)
		if err != nil {
			return err
		}
		if len(visits) > 0 {
			p.Snow = visits[0].Snow
		}
	}
	if p.Snow = cmp.Or(p.Snow, "none"); p.Snow != "none" {
		p.Says = append(p.Says, record.Snows.Words(p.Snow)+" makes ways slower; litter and fallen twigs are hidden under it.")
	}
	return nil
}
