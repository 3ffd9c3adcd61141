package away

import (
	"context"
	"errors"
	"maps"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"time"

	"palethicket/book"
)

// met is how many of somebody's answers two books both knew, and when.
type met struct {
	count int
	at    time.Time
}

// newsAfter is how often home is asked for answers that were given elsewhere, where there are none to tell.
const newsAfter = 5 * time.Minute

// practise has home and the device know the same answers to cards, of everybody who is at work here.
// Answers are only ever added, so that it matters not which was told first, nor how often.
func (d *Device) practise(ctx context.Context) error {
	names, err := d.book.Practisers(ctx)
	if err != nil {
		return err
	}
	d.set(func() { names = append(names, slices.Collect(maps.Keys(d.persons))...) })
	slices.Sort(names)
	var wrong error
	for _, name := range slices.Compact(names) {
		token := d.token(name)
		if d.state.Guarded && token == "" {
			continue // they wait for them
		}
		if err := d.practiseOf(ctx, name, token); err != nil {
			wrong = errors.Join(wrong, d.ended(ctx, token, err))
		}
	}
	return wrong
}

func (d *Device) practiseOf(ctx context.Context, name, token string) error {
	if d.practised == nil {
		d.practised = map[string]met{}
	}
	answers, err := d.book.Answers(ctx, name)
	before := d.practised[name] // nothing, the first time that the program runs
	if err != nil || len(answers) == before.count && d.now().Sub(before.at) < newsAfter {
		return err
	}
	for some := range slices.Chunk(append(answers, book.PracticeAnswer{}), book.PracticeMost) {
		some = slices.DeleteFunc(some, func(a book.PracticeAnswer) bool { return a.ID == "" })
		theirs, err := d.home.practised(ctx, token, name, len(answers), some)
		var no *said
		if errors.As(err, &no) && no.Status == http.StatusNotFound {
			return nil // an older home knows of no practice
		}
		if err != nil {
			return err
		}
		if _, err := d.book.TakeAnswers(ctx, name, theirs); err != nil {
			return err
		}
	}
	if answers, err = d.book.Answers(ctx, name); err == nil {
		d.practised[name] = met{len(answers), d.now()}
	}
	return err
}

// practised tells home answers, and hears all that home has where that is another number than is known here.
func (h *home) practised(
	ctx context.Context,
	token, name string,
	have int,
	answers []book.PracticeAnswer,
) (theirs []book.PracticeAnswer, err error) {
	q := url.Values{"by": {name}, "have": {strconv.Itoa(have)}}
	return theirs, h.ask(ctx, http.MethodPost, "/api/practice/answers?"+q.Encode(), token, map[string]any{"answers": answers}, &theirs)
}
