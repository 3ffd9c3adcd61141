package book

import (
	"context"
	"fmt"
	"strings"
	"time"

	ics "github.com/arran4/golang-ical"

	"palethicket/store"
)

// calendarMost bounds a calendar: nobody comes back for more trees than this.
const calendarMost = 500

// ICalendar writes what to come back for as RFC 5545: for each open tree of the
// query its next event, as an all-day event over its days. The same tree keeps
// its UID, so that a calendar read again takes the new dates.
func (b *Book) ICalendar(ctx context.Context, q store.Query) (string, error) {
	list, err := b.Worklist(ctx, q, calendarMost, 0)
	if err != nil {
		return "", err
	}
	cal := ics.NewCalendarFor("-//Pale Thicket//Come back//EN")
	cal.SetMethod(ics.MethodPublish)
	cal.SetName("Trees to come back to")
	for i := range list.Trees {
		o := &list.Trees[i]
		if len(o.Back) == 0 {
			continue
		}
		if err := b.addEvent(cal, o); err != nil {
			return "", err
		}
	}
	return cal.Serialize(), nil
}

func (b *Book) addEvent(cal *ics.Calendar, o *Unsettled) error {
	e := o.Back[0]
	from, errFrom := time.Parse(time.DateOnly, e.From)
	to, errTo := time.Parse(time.DateOnly, e.To)
	if errFrom != nil || errTo != nil {
		return fmt.Errorf("tree %s: the days %q to %q are not dates", o.Tag, e.From, e.To)
	}
	var names []string
	for _, taxon := range o.Candidates {
		names = append(names, b.English(taxon, o.Region))
	}
	event := cal.AddEvent(o.ID + "-" + e.ID + "@palethicket")
	event.SetDtStampTime(b.now().UTC())
	event.SetAllDayStartAt(from)
	event.SetAllDayEndAt(to.AddDate(0, 0, 1)) // the end is not part of it
	event.SetSummary(fmt.Sprintf("%s: when %s", o.Tag, e.Words))
	event.SetDescription(fmt.Sprintf("%s, %s. Could be %s. Days from the flora's calendar, to a week or so.", o.Stand, o.Tract, strings.Join(names, " or ")))
	event.SetLocation(o.Stand + ", " + o.Tract)
	if o.Lat != nil && o.Lon != nil {
		event.SetGeo(*o.Lat, *o.Lon)
	}
	return nil
}

// English is what the people of a pool's region call a taxon.
func (b *Book) English(taxon, pool string) string {
	if t := b.Shelf().Flora.Taxon(taxon); t != nil {
		return t.Called(b.home(pool))
	}
	return "something not listed"
}
