package book

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"slices"
	"time"

	"github.com/paulmach/orb"
	"github.com/paulmach/orb/geojson"

	"palethicket/core/day/light"
	"palethicket/core/day/tour"
	"palethicket/core/stand/revisit"
	"palethicket/core/stand/worklist"
)

// DayAsked is a day to be planned.
type DayAsked struct {
	Query
	Date  string      // as 2026-12-01; empty: today
	Start string      // as 08:30, by the book's clock
	End   string      // empty: half an hour before dusk
	From  *[2]float64 // longitude and latitude of where it begins and ends; nil: the middle of the trees
	Crews int         // that share the work; 0: one
	Pin   []string    // ids of trees that are to be visited
	Drop  []string    // ids of trees that are not
}

// DayPlan is a day as it could be.
type DayPlan struct {
	Date  string     `json:"date"`
	Start time.Time  `json:"start"`
	End   time.Time  `json:"end"`
	Light DayLight   `json:"light"`
	From  [2]float64 `json:"from" doc:"Longitude and latitude of where it begins and ends"`
	Crews []CrewDay  `json:"crews"`
	Open  int        `json:"open" doc:"Trees that it chose from"`
	Says  []string   `json:"says" doc:"What is to be known of it"`
}

// DayLight is when it is light there; what does not happen is null.
type DayLight struct {
	Dawn    *time.Time `json:"dawn"`
	Sunrise *time.Time `json:"sunrise"`
	Sunset  *time.Time `json:"sunset"`
	Dusk    *time.Time `json:"dusk"`
	Says    string     `json:"says"`
}

// CrewDay is the day of one crew.
type CrewDay struct {
	Stops   []DayStop `json:"stops"`
	Worth   float64   `json:"worth_bits"`
	Back    time.Time `json:"back"`
	WayBack string    `json:"way_back"`
}

// DayStop is a tree of the day.
type DayStop struct {
	Unsettled
	N      int       `json:"n"`
	Arrive time.Time `json:"arrive"`
	Leave  time.Time `json:"leave"`
	Way    string    `json:"way" doc:"From the stop before, in a straight line"`
	Metres float64   `json:"metres"`
	Paces  int       `json:"paces" doc:"Of 0.8 m"`
	Worth  float64   `json:"worth_bits" doc:"What a visit is counted as"`
	Pinned bool      `json:"pinned"`
}

// How a day is reckoned (common practice).
const (
	dayMargin   = 30 * time.Minute // before dusk
	settlingIn  = 2.0              // minutes at each tree, beside looking
	looksThere  = 3                // of the best one's length, that a visit takes
	writingName = 1.0              // bits that a name to be written down counts for
	paceLong    = 0.8              // m
	dayTrees    = 400              // open trees that are chosen from, those worth most first
	dayRounds   = 150
)

// ErrNoPlaces is given for a day of trees without a position.
var ErrNoPlaces = errors.New("none of these open trees has a position: enter some first, or choose others")

// PlanDay plans a day: which open trees to visit, in which order, so that most is learnt before dark. The same
// book and question give the same plan.
func (b *Book) PlanDay(ctx context.Context, a *DayAsked) (*DayPlan, error) {
	trees, err := b.dayTrees(ctx, a)
	if err != nil {
		return nil, err
	}
	p := &DayPlan{Crews: []CrewDay{}, Says: []string{}, Open: len(trees)}
	if a.From != nil {
		p.From = *a.From
	} else {
		for _, t := range trees {
			p.From[0] += *t.Lon / float64(len(trees))
			p.From[1] += *t.Lat / float64(len(trees))
		}
	}
	if err := b.dayTimes(a, p); err != nil {
		return nil, err
	}
	ground, err := b.groundOf(ctx)
	if err != nil {
		return nil, err
	}
	if ground == nil {
		p.Says = append(p.Says, "There are no contours: ways are reckoned as level.")
	}
	for range max(1, a.Crews) {
		crew, rest, err := b.crewDay(ctx, a, p, trees, ground)
		if err != nil {
			return nil, err
		}
		p.Crews, trees = append(p.Crews, *crew), rest
	}
	return p, nil
}

// dayTrees are the open trees with a position that are not dropped; what is pinned is among them.
func (b *Book) dayTrees(ctx context.Context, a *DayAsked) ([]Unsettled, error) {
	q := a.Query
	q.Sort = "worth"
	list, err := b.Worklist(ctx, q, dayTrees, 0)
	if err != nil {
		return nil, err
	}
	trees := slices.DeleteFunc(list.Trees, func(t Unsettled) bool {
		return t.Lon == nil || t.Lat == nil || slices.Contains(a.Drop, t.ID)
	})
	for _, id := range a.Pin {
		if slices.ContainsFunc(trees, func(t Unsettled) bool { return t.ID == id }) {
			continue
		}
		lines, err := b.store.Lines(ctx, []string{id})
		if err != nil {
			return nil, err
		}
		if len(lines) == 0 || lines[0].Lon == nil {
			return nil, &FieldError{"pin", "a pinned tree is not in the book, or has no position"}
		}
		trees = append(trees, b.unsettled(lines[0]))
	}
	if len(trees) == 0 {
		return nil, ErrNoPlaces
	}
	return trees, nil
}

// dayTimes finds when the day begins and ends, and when it is light.
func (b *Book) dayTimes(a *DayAsked, p *DayPlan) error {
	now := b.now()
	day := now
	if a.Date != "" {
		var err error
		if day, err = time.ParseInLocation(time.DateOnly, a.Date, now.Location()); err != nil {
			return &FieldError{"date", fmt.Sprintf("%q is no day; write it as 2026-12-01", a.Date)}
		}
	}
	p.Date = day.Format(time.DateOnly)
	l, err := light.Of(p.From[1], p.From[0], day)
	if err != nil {
		return &FieldError{"from", err.Error()}
	}
	p.Light = DayLight{happens(l.Dawn), happens(l.Sunrise), happens(l.Sunset), happens(l.Dusk), l.Says}
	at := func(field, text string) (time.Time, error) {
		t, err := time.ParseInLocation("2006-01-02 15:04", p.Date+" "+text, now.Location())
		if err != nil {
			return t, &FieldError{field, fmt.Sprintf("%q is no time; write it as 08:30", text)}
		}
		return t, nil
	}
	if p.Start, err = at("start", a.Start); err != nil {
		return err
	}
	last := l.Dusk.Add(-dayMargin)
	switch {
	case a.End != "":
		if p.End, err = at("end", a.End); err != nil {
			return err
		}
		if !l.Dusk.IsZero() && p.End.After(last) {
			p.End = last
			p.Says = append(p.Says, "It ends half an hour before dusk, earlier than was asked for.")
		}
	case l.Dusk.IsZero():
		return &FieldError{"end", "say when the day ends: " + l.Says}
	default:
		p.End = last
	}
	if !p.End.After(p.Start) {
		return &FieldError{"start", fmt.Sprintf("the day would end at %s, before it begins", p.End.In(now.Location()).Format("15:04"))}
	}
	if !l.Sunrise.IsZero() && p.Start.Before(l.Sunrise) {
		p.Says = append(p.Says, "It begins before sunrise: colours are not to be trusted till then.")
	}
	return nil
}

func happens(t time.Time) *time.Time {
	if t.IsZero() {
		return nil
	}
	return &t
}

// crewDay plans the day of one crew, and gives the trees that it leaves to others.
func (b *Book) crewDay(ctx context.Context, a *DayAsked, p *DayPlan, trees []Unsettled, ground *ground) (*CrewDay, []Unsettled, error) {
	n := len(trees)
	d := &tour.Day{Minutes: p.End.Sub(p.Start).Minutes()}
	points := make([]orb.Point, n, n+2)
	for i, t := range trees {
		points[i] = orb.Point{*t.Lon, *t.Lat}
		d.Stops = append(d.Stops, tour.Stop{ID: t.ID, Worth: worthOf(&t), Minutes: minutesAt(&t), Pinned: slices.Contains(a.Pin, t.ID)})
	}
	from := orb.Point(p.From)
	points = append(points, from, from)
	heights := make([]float64, len(points))
	for i := range points {
		heights[i] = ground.height(points[i])
	}
	d.Way = func(x, y int) float64 {
		return tour.Minutes(revisit.WayTo(points[x], points[y]).Metres, heights[y]-heights[x], tour.Footing{Snow: 1})
	}
	plan, err := tour.Solve(ctx, d, 1, dayRounds)
	if err != nil {
		return nil, nil, &FieldError{"start", err.Error()}
	}
	out := &CrewDay{Stops: []DayStop{}, Worth: plan.Worth}
	at, before, clock := n, from, p.Start
	for k, i := range plan.Order {
		w := revisit.WayTo(before, points[i])
		clock = clock.Add(time.Duration(d.Way(at, i) * float64(time.Minute)))
		stop := DayStop{
			Unsettled: trees[i],
			N:         k + 1,
			Arrive:    clock,
			Way:       w.Words(),
			Metres:    w.Metres,
			Paces:     int(math.Round(w.Metres / paceLong)),
			Worth:     d.Stops[i].Worth,
			Pinned:    d.Stops[i].Pinned,
		}
		clock = clock.Add(time.Duration(d.Stops[i].Minutes * float64(time.Minute)))
		stop.Leave = clock
		out.Stops = append(out.Stops, stop)
		at, before = i, points[i]
	}
	out.Back = clock.Add(time.Duration(d.Way(at, n+1) * float64(time.Minute)))
	out.WayBack = revisit.WayTo(before, from).Words()
	var rest []Unsettled
	for i := range trees {
		if !slices.Contains(plan.Order, i) {
			rest = append(rest, trees[i])
		}
	}
	return out, rest, nil
}

// worthOf is what a visit to a tree is counted as, in bits: what its best look promises, or that a name is to be written.
func worthOf(t *Unsettled) float64 {
	if t.Status == worklist.Ready {
		return max(writingName, t.NextBits)
	}
	return t.NextBits
}

// minutesAt is how long a visit takes once there.
func minutesAt(t *Unsettled) float64 { return settlingIn + looksThere*float64(t.NextSeconds)/60 }

// ground is how high the land lies, by the contours of the tracts.
type ground struct {
	at   []orb.Point
	high []float64
}

// groundOf reads the contours; nil where there are none.
func (b *Book) groundOf(ctx context.Context) (*ground, error) {
	m, err := b.Map(ctx)
	if err != nil {
		return nil, err
	}
	g := &ground{}
	for _, t := range m.Tracts {
		var features geojson.FeatureCollection
		if t.Terrain == nil || json.Unmarshal(t.Terrain, &features) != nil {
			continue // it was checked when it was kept; without it ways are level
		}
		for _, f := range features.Features {
			high, ok := f.Properties["elevation_m"].(float64)
			if kind, _ := f.Properties["kind"].(string); !ok || kind != "contour" {
				continue
			}
			for _, p := range placesOf(f.Geometry) {
				g.at, g.high = append(g.at, p), append(g.high, high)
			}
		}
	}
	if len(g.at) == 0 {
		return nil, nil
	}
	return g, nil
}

func placesOf(g orb.Geometry) (out []orb.Point) {
	switch g := g.(type) {
	case orb.LineString:
		return g
	case orb.MultiLineString:
		for _, l := range g {
			out = append(out, l...)
		}
	}
	return out
}

// height is how high a place lies, in metres: between the two contours nearest to it, by how near each is.
func (g *ground) height(p orb.Point) float64 {
	if g == nil {
		return 0
	}
	scale := math.Cos(p[1] * math.Pi / 180)
	one, other := -1, -1
	near := func(i int) float64 { return math.Hypot((g.at[i][0]-p[0])*scale, g.at[i][1]-p[1]) }
	for i := range g.at {
		if one < 0 || near(i) < near(one) {
			one = i
		}
	}
	for i := range g.at {
		if g.high[i] != g.high[one] && (other < 0 || near(i) < near(other)) {
			other = i
		}
	}
	if other < 0 {
		return g.high[one]
	}
	a, z := near(one), near(other)
	return (g.high[one]*z + g.high[other]*a) / max(a+z, 1e-12)
}
