// Package revisit says when a tree that winter left undetermined is worth coming
// back to: when its candidates' buds swell, when they flower, when their leaves
// open. Dates stand in phenology.yaml for one place of each region and are moved
// to the tree's by Hopkins's law (Hopkins 1918, Monthly Weather Review,
// Supplement 9: four days for each degree of latitude, five degrees of longitude
// or 400 feet).
package revisit

import (
	"cmp"
	"fmt"
	"io/fs"
	"math"
	"slices"
	"strings"
	"time"

	"go.yaml.in/yaml/v3"
)

// File is the name of the calendar among the flora's files.
const File = "phenology.yaml"

// fallback is the line of the calendar for taxa without one.
const fallback = "anything else"

// Event is something to come back for.
type Event struct {
	ID       string   `json:"id" enum:"swell,flower,leaf"`
	Words    string   `json:"words"`
	From     string   `json:"from" doc:"Day, as 2027-04-20" format:"date"`
	To       string   `json:"to" format:"date"`
	Windows  []Window `json:"windows" doc:"Each candidate's own days"`
	Separate bool     `json:"separate" doc:"The first two candidates' days do not meet, so that the date itself tells them apart"`
}

// Window is one candidate's days.
type Window struct {
	Taxon string `json:"taxon"`
	From  string `json:"from" format:"date"`
	To    string `json:"to" format:"date"`
}

// events are what to come back for, in the order they come.
var events = []struct{ id, words string }{
	{"swell", "buds swell"}, {"flower", "it flowers"}, {"leaf", "leaves open"},
}

// span is a first and a last day of the year.
type span struct{ from, to int }

// calendar is one region's dates.
type calendar struct {
	Lat      float64                      `yaml:"lat"`
	Lon      float64                      `yaml:"lon"`
	North    float64                      `yaml:"days_per_degree_north"`
	East     float64                      `yaml:"days_per_degree_east"`
	Up       float64                      `yaml:"days_per_100_m"`
	Altitude float64                      `yaml:"altitude_m"`
	Months   []float64                    `yaml:"usual_temp_c"`
	Dates    map[string]map[string]string `yaml:"dates"`
	spans    map[string]map[string]span
}

// Calendar holds the dates of each region.
type Calendar struct {
	regions map[string]*calendar
}

// Load reads the calendar from the flora's files.
func Load(files fs.FS) (*Calendar, error) {
	text, err := fs.ReadFile(files, File)
	if err != nil {
		return nil, fmt.Errorf("reading the calendar: %w", err)
	}
	var body struct {
		Regions map[string]*calendar `yaml:"regions"`
	}
	if err := yaml.Unmarshal(text, &body); err != nil {
		return nil, fmt.Errorf("reading %s: %w", File, err)
	}
	for region, c := range body.Regions {
		if err := c.read(); err != nil {
			return nil, fmt.Errorf("reading %s: %s: %w", File, region, err)
		}
	}
	return &Calendar{body.Regions}, nil
}

func (c *calendar) read() error {
	c.spans = map[string]map[string]span{}
	for taxon, dates := range c.Dates {
		c.spans[taxon] = map[string]span{}
		for _, e := range events {
			s, err := parseSpan(dates[e.id])
			if err != nil {
				return fmt.Errorf("%s: %s: %w", taxon, e.id, err)
			}
			c.spans[taxon][e.id] = s
		}
	}
	if c.spans[fallback] == nil {
		return fmt.Errorf("there is no line %q", fallback)
	}
	return nil
}

// parseSpan reads "5 Apr to 25 Apr". A span that ends before it begins runs over
// the new year.
func parseSpan(text string) (span, error) {
	from, to, _ := strings.Cut(text, " to ")
	a, errA := time.Parse("2 Jan 2006", from+" 2001") // a year without a leap day
	b, errB := time.Parse("2 Jan 2006", to+" 2001")
	if errA != nil || errB != nil {
		return span{}, fmt.Errorf("%q is not a span of days; write it as 5 Apr to 25 Apr", text)
	}
	s := span{a.YearDay(), b.YearDay()}
	if s.to < s.from {
		s.from -= 365
	}
	return s, nil
}

// Months are a region's usual mean temperatures, January first, in °C.
func (c *Calendar) Months(region string) (out [12]float64, err error) {
	r := c.regions[region]
	if r == nil || len(r.Months) != len(out) {
		return out, fmt.Errorf("%s has no usual_temp_c of twelve months for %s", File, region)
	}
	return [12]float64(r.Months), nil
}

// Site is where a tree stands. Without a position the region's own place is
// taken; without an altitude, its altitude.
type Site struct {
	Region   string
	Position *[2]float64 // longitude, latitude in degrees
	Altitude *float64    // metres
	Ahead    int         // days that spring is ahead there, by its warmth
	AheadIn  int         // in which year
}

// Events gives what to come back for after a day, soonest first, for the
// candidates, best first. Windows that have passed are those of the next year.
func (c *Calendar) Events(site Site, candidates []string, after time.Time) []Event {
	region := c.regions[site.Region]
	if region == nil || len(candidates) == 0 {
		return []Event{}
	}
	shift := region.shift(site)
	var out []Event
	for _, e := range events {
		out = append(out, region.event(e.id, e.words, candidates, shift, &site, after))
	}
	slices.SortStableFunc(out, func(a, b Event) int { return cmp.Compare(a.From, b.From) })
	return out
}

// shift is by how many days things come later at the site.
func (c *calendar) shift(site Site) int {
	days := 0.0
	if p := site.Position; p != nil {
		days += (p[1]-c.Lat)*c.North + (p[0]-c.Lon)*c.East
	}
	if site.Altitude != nil {
		days += (*site.Altitude - c.Altitude) / 100 * c.Up
	}
	return int(math.Round(days))
}

func (c *calendar) event(id, words string, candidates []string, shift int, site *Site, after time.Time) Event {
	e := Event{ID: id, Words: words}
	first, last := math.MaxInt, math.MinInt
	spans := make([]span, len(candidates))
	for i, taxon := range candidates {
		s := c.spans[c.line(taxon)][id]
		spans[i] = span{s.from + shift, s.to + shift}
		first, last = min(first, spans[i].from), max(last, spans[i].to)
	}
	year := after.Year()
	if year == site.AheadIn { // next year's warmth nobody knows
		first, last = first-site.Ahead, last-site.Ahead
		for i := range spans {
			spans[i].from, spans[i].to = spans[i].from-site.Ahead, spans[i].to-site.Ahead
		}
	}
	if day(year, last).Before(after.Truncate(24 * time.Hour)) {
		if year == site.AheadIn {
			unshifted := *site
			unshifted.AheadIn = 0
			return c.event(id, words, candidates, shift, &unshifted, time.Date(year+1, 1, 1, 0, 0, 0, 0, time.UTC))
		}
		year++
	}
	e.From, e.To = date(year, first), date(year, last)
	for i, taxon := range candidates {
		e.Windows = append(e.Windows, Window{taxon, date(year, spans[i].from), date(year, spans[i].to)})
	}
	e.Separate = len(spans) > 1 && (spans[0].to < spans[1].from || spans[1].to < spans[0].from)
	return e
}

// line is where a taxon's dates stand: its own, its genus's, or the fallback.
func (c *calendar) line(taxon string) string {
	genus, _, _ := strings.Cut(taxon, " ")
	for _, name := range []string{taxon, genus} {
		if _, ok := c.spans[name]; ok {
			return name
		}
	}
	return fallback
}

// day is a day of an ordinary year put into another; days before the first are of
// the year before.
func day(year, yearDay int) time.Time {
	d := time.Date(2001, time.January, yearDay, 0, 0, 0, 0, time.UTC)
	return time.Date(year+d.Year()-2001, d.Month(), d.Day(), 0, 0, 0, 0, time.UTC)
}

func date(year, yearDay int) string { return day(year, yearDay).Format(time.DateOnly) }
