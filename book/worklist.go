package book

import (
	"context"
	"slices"
	"time"

	"palethicket/core/stand/revisit"
	"palethicket/core/tree/logbook"
	"palethicket/store"
)

// Unsettled is a tree that is still to be settled.
type Unsettled struct {
	store.Line
	Look string          `json:"look" doc:"The one look worth most, in words; empty: nothing that can be reached would help"`
	Home bool            `json:"home" doc:"The look needs a twig in hand: take one home where collecting is allowed"`
	Back []revisit.Event `json:"back" doc:"What to come back for, soonest first"`
}

// OpenList is a page of the worklist.
type OpenList struct {
	Trees []Unsettled `json:"trees"`
	Total int         `json:"total"`
	Home  int         `json:"home" doc:"How many of the page need a twig in hand"`
}

// openStatuses are those of the worklist.
var openStatuses = []string{StatusDoubtful, StatusReady, StatusOpen, StatusUnscored}

// Worklist gives the trees that are not settled, those first whose best look is
// worth most. Without a status of theirs it takes all of them.
func (b *Book) Worklist(ctx context.Context, q store.Query, limit, offset int) (*OpenList, error) {
	q.Status = slices.DeleteFunc(slices.Clone(q.Status), func(s string) bool { return !slices.Contains(openStatuses, s) })
	if len(q.Status) == 0 {
		q.Status = openStatuses
	}
	if q.Sort == "" {
		q.Sort = "worth"
	}
	lines, total, err := b.Store.Trees(ctx, q, limit, offset)
	if err != nil {
		return nil, err
	}
	out := &OpenList{Trees: []Unsettled{}, Total: total}
	for _, l := range lines {
		o := b.open(l)
		if o.Home {
			out.Home++
		}
		out.Trees = append(out.Trees, o)
	}
	return out, nil
}

func (b *Book) open(l store.Line) Unsettled {
	o := Unsettled{Line: l, Home: l.NextReach == "hand", Back: b.comeBack(&l, b.now())}
	if c := b.Shelf().Flora.Character(l.NextCharacter); c != nil {
		o.Look = c.Name + ": " + c.Look
	}
	return o
}

// comeBack says when a tree is worth coming back to after a day.
func (b *Book) comeBack(l *store.Line, after time.Time) []revisit.Event {
	site := revisit.Site{Region: b.home(l.Region)}
	if l.Lon != nil && l.Lat != nil {
		site.Position = &logbook.Position{Lon: *l.Lon, Lat: *l.Lat}
	}
	return b.Calendar.Events(site, l.Candidates, after)
}

// home is the region whose trees a pool's are.
func (b *Book) home(pool string) string {
	if l := b.Shelf().Flora.List(pool); l != nil {
		return l.Region
	}
	return pool
}
