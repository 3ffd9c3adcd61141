package book

import (
	"context"
	"errors"
	"fmt"
	"math"
	"time"

	"palethicket/core/day/light"
	"palethicket/core/day/weather"
	"palethicket/core/day/zone"
	"palethicket/core/flora"
)

// DayAsked is a day to be planned.
type DayAsked struct {
	Query
	Date  string      // as 2026-12-01; empty: today
	Start string      // as 08:30, by the time that is kept there
	End   string      // empty: half an hour before dusk
	Break float64     // minutes of rest in the middle of it
	Going bool        // it goes on from now; Date and Start say nothing then
	From  *[2]float64 // longitude and latitude of where it begins; nil: the middle of the trees
	To    *[2]float64 // of where it ends; nil: where it begins
	Snow  string      // none, patchy or deep: how it slows; empty: as the day's last visit says
	Now   weather.Now // what a station says, for a day that is today
	Crews int         // that share the work; 0: one
	Pin   []string    // ids of trees that are to be visited
	Drop  []string    // ids of trees that are not
	Order []string    // ids in the order that they are to be visited in: nothing is then chosen; one crew
}

// DayPlan is a day as it could be.
type DayPlan struct {
	Date  string     `json:"date"`
	Zone  string     `json:"zone,omitempty" doc:"Whose time it is, as America/Chicago; all times are by it; absent: the device's own"`
	Today bool       `json:"today" doc:"It is that day there"`
	Start time.Time  `json:"start"`
	End   time.Time  `json:"end"`
	Break float64    `json:"break_min" doc:"Minutes of rest in the middle of it"`
	Light DayLight   `json:"light"`
	From  [2]float64 `json:"from" doc:"Longitude and latitude of where it begins"`
	To    [2]float64 `json:"to" doc:"Of where it ends"`
	Snow  string     `json:"snow" doc:"What it reckons with"`
	Gates []DayGate  `json:"gates" doc:"Where one can come in"`
	Crews []CrewDay  `json:"crews"`
	Open  int        `json:"open" doc:"Trees that it chose from"`

	Unplaced []DayUnplaced `json:"unplaced" doc:"Open trees that it could not choose, as they have no position"`

	Says []string `json:"says" doc:"What is to be known of it"`
}

// DayUnplaced is an open tree without a position.
type DayUnplaced struct {
	ID    string `json:"id"`
	Tag   string `json:"tag"`
	Stand string `json:"stand"`
}

// DayLight is when it is light there; what does not happen is null.
type DayLight struct {
	Dawn    *time.Time `json:"dawn"`
	Sunrise *time.Time `json:"sunrise"`
	Sunset  *time.Time `json:"sunset"`
	Dusk    *time.Time `json:"dusk"`
	Says    string     `json:"says"`
}

// DayGate is where one can come into a tract.
type DayGate struct {
	Name string     `json:"name"`
	At   [2]float64 `json:"at"`
}

// CrewDay is the day of one crew.
type CrewDay struct {
	Stops   []DayStop `json:"stops"`
	Worth   float64   `json:"worth_bits"`
	Back    time.Time `json:"back"`
	WayBack string    `json:"way_back"`
	Why     string    `json:"why,omitempty" doc:"Of a day without stops: why there are none"`
}

// DayStop is a tree of the day.
type DayStop struct {
	Unsettled
	N       int       `json:"n"`
	Arrive  time.Time `json:"arrive"`
	Leave   time.Time `json:"leave"`
	Way     string    `json:"way" doc:"From the stop before, in a straight line, or to where a stream is crossed"`
	Metres  float64   `json:"metres"`
	Paces   int       `json:"paces" doc:"Of 0.8 m"`
	Worth   float64   `json:"worth_bits" doc:"What a visit is counted as"`
	Pinned  bool      `json:"pinned"`
	Over    bool      `json:"over" doc:"A stream is crossed or gone round on the way: the way says where to first"`
	Because string    `json:"because" doc:"Why it is in the day"`
	Rest    bool      `json:"rest" doc:"The break comes after it"`
}

// How a day is reckoned (common practice).
const (
	dayMargin   = 30 * time.Minute // before dusk
	settlingIn  = 2.0              // minutes at each tree, beside looking
	looksThere  = 3                // of the best one's length, that a visit takes
	writingName = 1.0              // bits that a name to be written down counts for
	paceLong    = 0.8              // m
	dayTrees    = 400              // trees that are chosen from, those worth most first
	confirming  = 1.0              // bits that seeing a winter's name in leaf or flower counts for
	lastChance  = 1.5              // how much more a look counts that the buds will take away
	dayRounds   = 150
)

// ErrNoPlaces is given for a day of trees without a position.
var ErrNoPlaces = errors.New("none of these open trees has a position: enter some first, or choose others")

// PlanDay plans a day: which open trees to visit, in which order, so that most is learned before dark. The same
// book and question give the same plan.
func (b *Book) PlanDay(ctx context.Context, a *DayAsked) (*DayPlan, error) {
	ground, err := b.land(ctx)
	if err != nil {
		return nil, err
	}
	p := &DayPlan{Crews: []CrewDay{}, Says: []string{}, Gates: []DayGate{}, Unplaced: []DayUnplaced{}, Break: a.Break}
	for _, g := range ground.Gates {
		p.Gates = append(p.Gates, DayGate{g.Name, g.At})
	}
	trees, err := b.dayTrees(ctx, a, p)
	if err != nil {
		return nil, err
	}
	p.Open = len(trees)
	if a.From != nil {
		p.From = *a.From
	} else {
		p.From = middleOf(trees)
	}
	if p.To = p.From; a.To != nil {
		p.To = *a.To
	}
	if err := b.dayTimes(a, p); err != nil {
		return nil, err
	}
	if err := b.dayWeather(ctx, a, p, trees); err != nil {
		return nil, err
	}
	if ground.Contours == 0 {
		p.Says = append(p.Says, "There are no contours: ways are reckoned as level.")
	}
	order, err := p.own(a, trees)
	if err != nil {
		return nil, err
	}
	if len(order) > 0 {
		crew, err := ordered(a, p, trees, order, ground)
		if err != nil {
			return nil, err
		}
		p.Crews = append(p.Crews, *crew)
		return p, nil
	}
	p.Crews, err = crewDays(ctx, a, p, trees, ground)
	return p, err
}

// middleOf is the middle of trees, on either side of the date line too.
func middleOf(trees []dayTree) (at [2]float64) {
	first := *trees[0].Lon
	for _, t := range trees {
		at[0] += math.Remainder(*t.Lon-first, 360) / float64(len(trees))
		at[1] += *t.Lat / float64(len(trees))
	}
	at[0] = math.Remainder(first+at[0], 360)
	return at
}

// dayOf is the day that is asked for, by the time that is kept at a place: today, unless it is said.
func (b *Book) dayOf(a *DayAsked, at [2]float64) (day time.Time, err error) {
	if !(math.Abs(at[1]) <= 90) || !(math.Abs(at[0]) <= 180) {
		return day, &FieldError{"from", light.ErrPlace.Error()}
	}
	there, err := zone.Of(at[1], at[0])
	if err != nil {
		return day, err
	}
	if a.Date == "" || a.Going {
		return b.now().In(there), nil
	}
	if day, err = time.ParseInLocation(time.DateOnly, a.Date, there); err != nil {
		return day, &FieldError{"date", fmt.Sprintf("%q is no day; write it as 2026-12-01", a.Date)}
	}
	return day, nil
}

// dayTimes finds when the day begins and ends, and when it is light.
func (b *Book) dayTimes(a *DayAsked, p *DayPlan) error {
	day, err := b.dayOf(a, p.From)
	if err != nil {
		return err
	}
	there := day.Location()
	p.Date, p.Today = day.Format(time.DateOnly), day.Format(time.DateOnly) == b.now().In(there).Format(time.DateOnly)
	if there != time.Local {
		p.Zone = there.String()
	}
	l, err := light.Of(p.From[1], p.From[0], day)
	if err != nil {
		return &FieldError{"from", err.Error()}
	}
	happens := func(t time.Time) *time.Time {
		if t.IsZero() {
			return nil
		}
		t = t.In(there)
		return &t
	}
	p.Light = DayLight{happens(l.Dawn), happens(l.Sunrise), happens(l.Sunset), happens(l.Dusk), l.Says}
	at := func(field, text string) (time.Time, error) {
		t, err := time.ParseInLocation("2006-01-02 15:04", p.Date+" "+text, there)
		if err != nil {
			return t, &FieldError{field, fmt.Sprintf("%q is no time; write it as 08:30", text)}
		}
		return t, nil
	}
	if a.Going {
		p.Start = day.Truncate(time.Minute)
	} else if p.Start, err = at("start", a.Start); err != nil {
		return err
	}
	if l.Says != "" {
		p.Says = append(p.Says, flora.UpperFirst(l.Says)+".")
	}
	last := l.Dusk.Add(-dayMargin).In(there)
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
	if a.Going && p.End.Before(p.Start) {
		p.Says = append(p.Says, "The day was to end at "+p.End.Format("15:04")+": go back.")
		p.End = p.Start
	} else if !p.End.After(p.Start) {
		ends, begins := p.End.Format("15:04"), p.Start.Format("15:04")
		return &FieldError{"start", fmt.Sprintf("the day would end at %s, before it begins at %s", ends, begins)}
	}
	if !l.Sunrise.IsZero() && p.Start.Before(l.Sunrise) {
		p.Says = append(p.Says, "It begins before sunrise: colors are not to be trusted till then.")
	}
	return nil
}
