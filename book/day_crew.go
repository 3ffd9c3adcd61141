package book

import (
	"cmp"
	"context"
	"encoding/json"
	"math"
	"slices"
	"time"

	"github.com/paulmach/orb"

	"palethicket/core/day/land"
	"palethicket/core/day/tour"
	"palethicket/core/day/weather"
	"palethicket/core/tree/record"
)

// crewDay plans the day of one crew, and gives the trees that it leaves to others.
func crewDay(ctx context.Context, a *DayAsked, p *DayPlan, trees []dayTree, ground *land.Land) (*CrewDay, []dayTree, error) {
	n := len(trees)
	d := &tour.Day{Minutes: p.End.Sub(p.Start).Minutes()}
	at := make([]orb.Point, n, n+2)
	for i, t := range trees {
		at[i] = orb.Point{*t.Lon, *t.Lat}
		d.Stops = append(d.Stops, tour.Stop{ID: t.ID, Worth: t.worth, Minutes: t.minutes, Pinned: slices.Contains(a.Pin, t.ID)})
	}
	at = append(at, p.From, p.To)
	places := ground.Between(at, weather.Slower(p.Snow))
	d.Way = func(x, y int) float64 { return places.Way(x, y).Minutes }
	plan, err := tour.Solve(ctx, d, 1, dayRounds)
	if err != nil {
		return nil, nil, &FieldError{"start", err.Error()}
	}
	out := &CrewDay{Stops: []DayStop{}, Worth: plan.Worth}
	before, clock := n, p.Start
	minutes := func(m float64) time.Duration { return time.Duration(m * float64(time.Minute)) }
	for k, i := range plan.Order {
		w := places.Way(before, i)
		clock = clock.Add(minutes(w.Minutes))
		out.Stops = append(out.Stops, DayStop{
			Unsettled: trees[i].Unsettled,
			N:         k + 1,
			Arrive:    clock,
			Leave:     clock.Add(minutes(d.Stops[i].Minutes)),
			Way:       wayWords(&w),
			Metres:    w.Metres,
			Paces:     int(math.Round(w.Metres / paceLong)),
			Worth:     d.Stops[i].Worth,
			Pinned:    d.Stops[i].Pinned,
			Over:      w.Over,
			Because:   trees[i].because,
		})
		before, clock = i, clock.Add(minutes(d.Stops[i].Minutes))
	}
	back := places.Way(before, n+1)
	out.Back, out.WayBack = clock.Add(minutes(back.Minutes)), wayWords(&back)
	var rest []dayTree
	for i := range trees {
		if !slices.Contains(plan.Order, i) {
			rest = append(rest, trees[i])
		}
	}
	return out, rest, nil
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
	today := p.Date == b.now().Format(time.DateOnly)
	p.Snow = a.Snow
	if today {
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
