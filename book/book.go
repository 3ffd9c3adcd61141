package book

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"reflect"
	"slices"
	"sync"
	"sync/atomic"
	"time"

	"github.com/oklog/ulid/v2"

	"palethicket/core/flora"
	"palethicket/core/flora/handbook"
	"palethicket/core/flora/names"
	"palethicket/core/stand/revisit"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/core/tree/stamp"
	"palethicket/store"
)

// Book is an open book and the flora it is read with. It is safe for use by
// several goroutines.
type Book struct {
	store    *store.Store
	base     *flora.Flora // without the book's own lists
	own      bool         // base is not the flora in the program: devices take it along
	calendar *revisit.Calendar
	shelf    atomic.Pointer[shelf]
	lists    sync.Mutex             // held while the lists change
	spring   atomic.Pointer[warmth] // how far it is, by a station; nil: by the calendar
	now      func() time.Time
	id       string // which book it is
	away     bool   // a part of it, on a device
	opened   string // stands in revisions: what is shown may change with the program

	clock    *stamp.Clock
	imports  sync.Map      // files being read in, by id
	added    sync.Map      // what stands add up to: [tract, stand] to *sums
	meeting  chan struct{} // held by the one that another book's entries are taken in for
	parts    parts
	pressing pressing
	weighing reweighing
	warming  sync.WaitGroup
	pictures pictures
	checks   checks // that go on
	walks    walks
	checked  bool   // somebody checks in it: what would not join the whole book is refused
	walk     string // it holds the trees of this walk; empty: real ones
	cool     context.CancelFunc

	background context.Context // done when the book is closed

	// Hidden names the book's own lists that it is served with others of the name of.
	Hidden []string
}

// Options say what a book is opened with.
type Options struct {
	Flora    *flora.Flora
	Own      bool // Flora is not the one in the program: devices take it along
	Calendar *revisit.Calendar
	Now      func() time.Time // nil: the clock
	Warm     bool             // work out in the background what the first presses need
	Away     bool             // it is a part that a device took along
}

// shelf is the flora with the book's lists, and what is worked out from it. It is
// made anew when a list changes.
type shelf struct {
	lists    []flora.List
	flora    *flora.Flora
	engine   *answer.Engine
	handbook *handbook.Handbook
	names    *names.Index
	basis    *bases
	alike    *alike
}

// Open opens the book at path, making it when there is none, and takes in its own
// lists. Standings of another flora, or of none, are worked out by
// [Book.WeighStale].
func Open(ctx context.Context, path string, opt Options) (*Book, error) {
	s, err := store.Open(ctx, path)
	if err != nil {
		return nil, err
	}
	b := newBook(s, opt)
	if b.away {
		s.Away()
		brought, err := b.floraAlong(ctx)
		if err != nil {
			return nil, errors.Join(err, s.Close())
		}
		if brought != nil {
			b.base = brought
		}
	}
	if err := b.begin(ctx); err != nil {
		return nil, errors.Join(err, s.Close())
	}
	if err := errors.Join(b.readChecks(ctx), b.readWalks(ctx)); err != nil {
		return nil, errors.Join(err, b.Close())
	}
	b.warming.Go(func() { b.clearImports(b.background) })
	if opt.Warm {
		b.warming.Go(func() { b.warm(b.background) })
	}
	return b, nil
}

func newBook(s *store.Store, opt Options) *Book {
	b := &Book{store: s, base: opt.Flora, own: opt.Own, calendar: opt.Calendar, now: opt.Now, opened: ulid.Make().String()[20:],
		meeting: make(chan struct{}, 1), parts: parts{making: make(chan struct{}, 1)}, away: opt.Away}
	if b.now == nil {
		b.now = time.Now
	}
	return b
}

// begin gets a book ready to be asked.
func (b *Book) begin(ctx context.Context) error {
	if err := b.setClock(ctx); err != nil {
		return err
	}
	if err := b.reload(ctx); err != nil {
		return err
	}
	background, cool := context.WithCancel(context.WithoutCancel(ctx))
	b.background, b.cool = background, cool
	b.weighing.work = func(progress func(done, left int)) error { return b.WeighStale(background, progress) }
	return nil
}

// setClock has the book stamp entries as the node that it is.
func (b *Book) setClock(ctx context.Context) error {
	id, err := b.store.Identity(ctx)
	b.id, b.clock = id.Book, stamp.NewClock(id.Node, func() time.Time { return b.now() })
	return err
}

// Close closes the book.
func (b *Book) Close() error {
	b.cool()
	b.warming.Wait()
	b.weighing.wait()
	b.parts.drop(time.Time{}, 0)
	return errors.Join(b.checks.close(), b.walks.close(), b.store.Close())
}

// warm reads what lists and sums ask for, and works out what the first press in each age
// needs, the home region first.
func (b *Book) warm(ctx context.Context) {
	if b.store.Warm(ctx) != nil {
		return // closed meanwhile
	}
	if _, err := b.Composition(ctx, "", ""); err != nil {
		return
	}
	sh := b.shelf.Load()
	for _, among := range sh.flora.Amongs() {
		if sh.engine.Warm(ctx, among) != nil {
			return // closed meanwhile: there is nothing to tell
		}
	}
}

// WarmHome works out what the first press on a tree of the home region needs.
func (b *Book) WarmHome(ctx context.Context) error {
	sh := b.shelf.Load()
	return sh.engine.Warm(ctx, flora.Among{Region: sh.flora.HomeRegion()})
}

// reload takes in the book's lists and bars.
func (b *Book) reload(ctx context.Context) error {
	lists, err := b.store.Lists(ctx)
	if err != nil {
		return err
	}
	lists = slices.DeleteFunc(lists, func(l flora.List) bool { // one that the book is served with hides its own of that name
		hidden := b.base.List(l.Name) != nil
		if hidden && b.shelf.Load() == nil {
			b.Hidden = append(b.Hidden, l.Name)
		}
		return hidden
	})
	bars, err := b.bars(ctx)
	if err != nil {
		return err
	}
	old := b.shelf.Load()
	if old != nil && old.basis.bars == bars && reflect.DeepEqual(old.lists, lists) {
		return nil
	}
	f, err := b.base.With(lists...)
	if err != nil {
		return fmt.Errorf("reading the book's lists: %w", err)
	}
	sh := &shelf{lists: lists, flora: f, handbook: handbook.New(f), basis: &bases{f, bars}, alike: &alike{}}
	if old != nil { // names do not hang on lists
		sh.engine, sh.names = old.engine.For(f, bars), old.names
	} else {
		sh.engine, sh.names = answer.NewEngine(f).For(f, bars), names.NewIndex(f)
	}
	b.shelf.Store(sh)
	return nil
}

// Flora is the flora as the book reads it, its own lists included.
func (b *Book) Flora() *flora.Flora { return b.shelf.Load().flora }

// FieldError says what is wrong with one field of what was sent to the book.
type FieldError struct{ Field, Message string }

func (e *FieldError) Error() string { return e.Field + ": " + e.Message }

// newID makes an id for what is entered now.
func newID() string { return ulid.Make().String() }

// checkID refuses what is not the id of a new thing.
func checkID(id string) error {
	if u, err := ulid.ParseStrict(id); err != nil || u.String() != id {
		return &FieldError{"id", "want a ULID of 26 characters"}
	}
	return nil
}

// checkDay refuses what is no day that is kept.
func checkDay(field, day string) error {
	if _, err := record.ParseDay(day); err != nil {
		return &FieldError{field, err.Error()}
	}
	return nil
}

// each turns every element of a list into another, and no list into an empty one.
func each[A, B any](in []A, turn func(A) B) []B {
	out := make([]B, len(in))
	for i := range in {
		out[i] = turn(in[i])
	}
	return out
}

// listed is a list that is never nil, so that pages always get one.
func listed[T any](in []T) []T {
	if in == nil {
		return []T{}
	}
	return in
}

// Served is what a book was served with last, so that commands read it alike.
type Served struct {
	Flora string   `json:"flora"` // path; empty: the flora in the program
	Lists []string `json:"lists"` // paths
}

const servedSetting = "served with"

// RememberServed keeps what the book is served with.
func (b *Book) RememberServed(ctx context.Context, with Served) error {
	text, err := json.Marshal(with)
	if err != nil {
		return err
	}
	return b.store.Write(ctx, func(tx *store.Tx) error { return tx.PutSetting(ctx, servedSetting, string(text)) })
}

// ServedWith reads from the book at path what it was served with last; the flora in
// the program where it never was, or there is no book yet.
func ServedWith(ctx context.Context, path string) (with Served, err error) {
	text, err := store.Peek(ctx, path, servedSetting)
	if err != nil || text == "" {
		return with, err
	}
	if err := json.Unmarshal([]byte(text), &with); err != nil {
		return with, fmt.Errorf("reading what %s was served with: %w", path, err)
	}
	return with, nil
}

// nameWords says a name that was given.
func (s *shelf) nameWords(rank, name string) string {
	switch {
	case rank == logbook.Undetermined:
		return logbook.Undetermined
	case rank == "genus":
		for i := range s.flora.Taxa {
			if t := &s.flora.Taxa[i]; t.Genus == name {
				return t.GenusEnglish + " (" + name + ")"
			}
		}
		return name
	case rank != "species":
		return name
	}
	return s.english(name, "")
}

// english is what the people of a region call a taxon.
func (s *shelf) english(taxon, region string) string {
	if t := s.flora.Taxon(taxon); t != nil {
		return t.Called(region)
	}
	return answer.UnlistedWords
}
