package book

import (
	"context"
	"encoding/json"
	"time"

	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/store"
)

// conditions are what somebody said of a visit at one of its trees. They hold for the next
// trees, in the same tract on the same day, until they are said otherwise.
type conditions struct {
	Tract string    `json:"tract"`
	Day   string    `json:"day"`
	Snow  *string   `json:"snow,omitempty"`
	Light *string   `json:"light,omitempty"`
	Reach *[]string `json:"out_of_reach,omitempty"`
}

func conditionsSetting(by string) string { return "visit of " + AccountKey(by) }

// conditionsOf gives what somebody last said of today's visit to a tract.
func (b *Book) conditionsOf(ctx context.Context, from store.Reader, tract, by string) (c conditions, err error) {
	text, err := from.Setting(ctx, conditionsSetting(by))
	if err != nil || text == "" {
		return conditions{}, err
	}
	if err := json.Unmarshal([]byte(text), &c); err != nil || c.Tract != tract || c.Day != b.today() {
		return conditions{}, nil // of another visit
	}
	return c, nil
}

func (b *Book) today() string { return b.now().Format(time.DateOnly) }

// saysOfVisit is to be kept for the next trees where an entry says something of the visit.
func (b *Book) saysOfVisit(ctx context.Context, s *sheet, e *logbook.Entry) {
	f := e.Facts
	if e.Kind != logbook.KindFacts || f == nil || f.Snow == nil && f.Light == nil && f.Beyond == nil {
		return
	}
	now := s.log.Facts // all that the visit is like here
	c := conditions{Tract: s.tree.Tract, Day: b.today(), Snow: &now.Snow, Light: &now.Light, Reach: &now.Beyond}
	s.must = append(s.must, func(tx *store.Tx) error {
		text, err := json.Marshal(c)
		if err != nil {
			return err
		}
		return tx.PutSetting(ctx, conditionsSetting(e.By), string(text))
	})
}

// asBefore is what is so of today's visit by what was said at other trees, where a tree does
// not say the same; nil where it does.
func (b *Book) asBefore(ctx context.Context, from store.Reader, s *sheet, by string) ([]logbook.Entry, error) {
	c, err := b.conditionsOf(ctx, from, s.tree.Tract, by)
	if err != nil {
		return nil, err
	}
	now := &s.log.Facts
	var set logbook.SetFacts
	if c.Snow != nil && *c.Snow != now.Snow {
		set.Snow = c.Snow
	}
	if c.Light != nil && *c.Light != now.Light {
		set.Light = c.Light
	}
	if c.Reach != nil && !sameWords(*c.Reach, now.Beyond) {
		set.Beyond = c.Reach
	}
	if set.Snow == nil && set.Light == nil && set.Beyond == nil {
		return nil, nil
	}
	return []logbook.Entry{{ID: newID(), Kind: logbook.KindFacts, By: by, Facts: &set}}, nil
}

// sameWords says whether two sets of words are the same.
func sameWords(a, b []string) bool {
	in := map[string]bool{}
	for _, w := range a {
		in[w] = true
	}
	for _, w := range b {
		if !in[w] {
			return false
		}
		delete(in, w)
	}
	return len(in) == 0
}

// enterLook has a look that is the first of somebody's visit to a tree say what the visit is
// like, as it was said at the trees before.
func (b *Book) enterLook(ctx context.Context, s *sheet, e *logbook.Entry) error {
	if e.Kind != logbook.KindLook || e.Day != "" || s.log.Find(e.ID) != nil {
		return nil
	}
	today := b.today()
	for i := range s.log.Entries {
		old := &s.log.Entries[i]
		if old.Kind == logbook.KindLook && old.By == e.By && old.Stamp.Time().Local().Format(time.DateOnly) == today {
			return nil
		}
	}
	before, err := b.asBefore(ctx, b.store.Reader, s, e.By)
	if err != nil || len(before) == 0 {
		return err
	}
	return s.add(before[0], "")
}

// weather is what the day's visit to a tract says of the snow, so that it is
// entered once a day and not at every tree.
func (b *Book) weather(ctx context.Context, from store.Reader, s *sheet, _ string) ([]logbook.Entry, error) {
	visits, err := from.Visits(ctx, s.tree.Tract)
	if err != nil || len(visits) == 0 {
		return nil, err
	}
	today := visits[0] // the latest
	if today.Day != b.today() || today.Snow == "" || today.Snow == "none" {
		return nil, nil
	}
	return []logbook.Entry{{ID: newID(), Kind: logbook.KindFacts, By: today.Crew, Facts: &logbook.SetFacts{Snow: &today.Snow}}}, nil
}

// greenScored is the foliage that goes without saying once something was scored that only green
// leaves show; empty: nothing was.
func (s *sheet) greenScored() string {
	for _, l := range s.log.Looks {
		for _, sc := range l.Scores {
			if c := s.flora.Character(sc.Character); c != nil && record.OnlyGreen(c) {
				return c.Only.States[0]
			}
		}
	}
	return ""
}
