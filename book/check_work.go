package book

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"palethicket/core/stand/cruise"
	"palethicket/core/tree/logbook"
	"palethicket/store"
)

// While somebody checks, all that they ask is answered by a book that holds the trees of the
// plan and nothing of what others made of them. So no page, file, report, history or search can
// tell them: what is not in a book does not come out of it.

// checks are the check cruises that go on.
type checks struct {
	planning sync.Mutex
	mu       sync.Mutex
	byName   map[string]*checking
}

// checking is one of them. Its book is opened when it is first asked.
type checking struct {
	id, checker string

	mu   sync.Mutex // held while the book is opened
	use  sync.RWMutex
	book *Book
	over bool
	last atomic.Int64 // trees that were named when they were counted last
}

func (c *checks) of(name string) *checking {
	c.mu.Lock()
	defer c.mu.Unlock()
	return c.byName[AccountKey(name)]
}

func (c *checks) put(w *checking) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.byName == nil {
		c.byName = map[string]*checking{}
	}
	c.byName[AccountKey(w.checker)] = w
}

func (c *checks) end(name string) {
	c.mu.Lock()
	defer c.mu.Unlock()
	delete(c.byName, AccountKey(name))
}

// close closes the books that checks are worked in.
func (c *checks) close() (err error) {
	c.mu.Lock()
	defer c.mu.Unlock()
	for _, w := range c.byName {
		err = errors.Join(err, w.close())
	}
	return err
}

// close closes the book once nobody uses it.
func (w *checking) close() error {
	w.use.Lock()
	defer w.use.Unlock()
	w.over = true
	if w.book == nil {
		return nil
	}
	return w.book.Close()
}

// readChecks finds the check cruises that go on.
func (b *Book) readChecks(ctx context.Context) error {
	kept, err := b.store.CheckCruises(ctx)
	if err != nil {
		return err
	}
	for _, c := range kept {
		if c.Ended == nil {
			b.checks.put(&checking{id: c.ID, checker: c.Checker})
		}
	}
	return nil
}

// CheckOf is the id of the check that somebody is at; empty where they are at none.
func (b *Book) CheckOf(name string) string {
	if w := b.checks.of(name); w != nil {
		return w.id
	}
	return ""
}

// Checking gives the book that somebody works in while they check, and a function to be called
// when they have done with it; nil where they check nothing.
func (b *Book) Checking(ctx context.Context, name string) (*Book, func(), error) {
	w := b.checks.of(name)
	if w == nil {
		return nil, nil, nil
	}
	w.use.RLock()
	work, err := w.opened(ctx, b)
	if err != nil || work == nil {
		w.use.RUnlock()
		return nil, nil, err
	}
	return work, w.use.RUnlock, nil
}

// opened gives the book, opening it where it is not; nil once the check is over.
func (w *checking) opened(ctx context.Context, b *Book) (*Book, error) {
	w.mu.Lock()
	defer w.mu.Unlock()
	if w.over {
		return nil, nil
	}
	if w.book == nil {
		work, err := b.openBeside(context.WithoutCancel(ctx), b.store.Beside("checks", w.id+".db"))
		if err != nil {
			return nil, fmt.Errorf("opening the book that is checked in: %w", err)
		}
		work.checked = true
		w.book = work
	}
	return w.book, nil
}

// named counts the trees that the checker named so far. Who asks may be at work in the book already, and
// somebody may be waiting to end it: then the last count is given, as nobody waits twice for one book.
func (w *checking) named(ctx context.Context, b *Book) (int, error) {
	if !w.use.TryRLock() {
		return int(w.last.Load()), nil
	}
	defer w.use.RUnlock()
	work, err := w.opened(ctx, b)
	if err != nil || work == nil {
		return 0, err
	}
	n := 0
	err = work.store.EachTree(ctx, store.Query{}, func(l *store.Line) error {
		if l.GivenRank != "" {
			n++
		}
		return nil
	})
	w.last.Store(int64(n))
	return n, err
}

// makeCheckBook makes the book that a check is worked in.
func (b *Book) makeCheckBook(ctx context.Context, id string, plan *CheckPlan) (work *Book, err error) {
	path, err := b.store.MakeBeside("checks", id+".db")
	if err != nil {
		return nil, err
	}
	work, err = b.openBeside(context.WithoutCancel(ctx), path)
	if err != nil {
		return nil, err
	}
	err = work.store.Write(ctx, func(tx *store.Tx) error {
		for _, t := range plan.Drawn {
			if err := b.copyBare(ctx, work, tx, t); err != nil {
				return fmt.Errorf("tree %s: %w", t.Tag, err)
			}
		}
		return nil
	})
	if err != nil {
		return nil, errors.Join(err, work.Close())
	}
	work.checked = true
	return work, nil
}

// errNotJoined is given to a checker for what would not join the book.
var errNotJoined = errors.New("while a check goes on its trees are only looked at and named: " +
	"start, move, rank among others or set aside once it is finished")

// joinable refuses what would be taken in a check and then not join the book.
func (b *Book) joinable(e *logbook.Entry) error {
	if b.checked && !joins(e) && e.Kind != logbook.KindVisit { // looks bring their visit; it becomes the check's own
		return &FieldError{"kind", errNotJoined.Error()}
	}
	return nil
}

// copyLists gives a book beside this one its lists.
func (b *Book) copyLists(ctx context.Context, to *store.Store) error {
	lists, err := b.store.Lists(ctx)
	if err != nil {
		return err
	}
	return to.Write(ctx, func(tx *store.Tx) error {
		for i := range lists {
			if err := tx.PutList(ctx, lists[i]); err != nil {
				return err
			}
		}
		return nil
	})
}

// copyBare starts a tree in a book that is checked in: its tag, its place and what it is ranked
// among.
func (b *Book) copyBare(ctx context.Context, work *Book, tx *store.Tx, t CheckTree) error {
	was, err := b.open(ctx, b.store.Reader, t.ID)
	if err != nil {
		return err
	}
	defer was.close()
	among := was.among()
	s := work.sheet(
		store.Tree{ID: t.ID, Tag: was.tree.Tag, Region: among.Region, List: among.List, Tract: was.tree.Tract, Stand: was.tree.Stand},
		nil,
	)
	defer s.close()
	e := logbook.Entry{ID: t.ID, Kind: logbook.KindStart, Start: &logbook.Start{
		Place: logbook.Place{Tag: was.tree.Tag, Tract: was.tree.Tract, Stand: was.tree.Stand}, Among: among}}
	s.stamp(&e, "")
	s.extend(e)
	if at := was.log.Facts.Position; at != nil {
		s.extend(logbook.Entry{ID: newID(), Kind: logbook.KindFacts, Facts: &logbook.SetFacts{Position: at}})
	}
	return work.write(ctx, tx, s, "")
}

// FinishCheck ends a check: what the checker entered joins the book as a visit of its own, and
// both are held side by side. by is who ends it, lead whether they are a lead.
func (b *Book) FinishCheck(ctx context.Context, id, by string, lead bool) (*CheckCruise, error) {
	kept, err := b.store.CheckCruise(ctx, id)
	if err != nil {
		return nil, err
	}
	work := b.checks.of(kept.Checker)
	switch {
	case kept.Ended != nil || work == nil || work.id != id:
		return nil, ErrNoCheck
	case !lead && AccountKey(by) != AccountKey(kept.Checker):
		return nil, ErrNotYours
	}
	return b.finishCheck(ctx, &kept, work, b.now())
}

// HoldCheck plans a check, has work do the checker's part in the book it is worked in, and ends it
// at a moment of the past: what is drawn for the demo goes the way that a checker goes.
func (b *Book) HoldCheck(
	ctx context.Context, n NewCheck, by string, planned, ended time.Time, work func(*Book, []CheckTree) error,
) (*CheckCruise, error) {
	c, err := b.planCheck(ctx, n, by, planned)
	if err != nil {
		return nil, err
	}
	w := b.checks.of(n.Checker)
	if err := work(w.book, c.Plan.Drawn); err != nil {
		return nil, err
	}
	kept, err := b.store.CheckCruise(ctx, c.ID)
	if err != nil {
		return nil, err
	}
	return b.finishCheck(ctx, &kept, w, ended)
}

func (b *Book) finishCheck(ctx context.Context, kept *store.CheckCruise, work *checking, at time.Time) (*CheckCruise, error) {
	c, err := b.checkOf(ctx, kept)
	if err != nil {
		return nil, err
	}
	book, err := work.opened(ctx, b)
	if err != nil {
		return nil, err
	}
	work.use.Lock() // nothing is entered meanwhile
	if work.over {  // it was ended twice at once
		work.use.Unlock()
		return nil, ErrNoCheck
	}
	came, err := b.join(ctx, book, &c.Plan)
	if err == nil {
		var text []byte
		if text, err = json.Marshal(came); err == nil {
			said := string(text)
			err = b.store.Write(ctx, func(tx *store.Tx) error {
				return tx.EndCheckCruise(ctx, kept.ID, at.UTC().Format(time.RFC3339), &said)
			})
		}
	}
	work.over = err == nil
	work.use.Unlock()
	if err != nil {
		return nil, fmt.Errorf("joining what was checked: %w", err)
	}
	b.checks.end(kept.Checker)
	if err := work.close(); err != nil {
		return nil, err
	}
	return b.Check(ctx, kept.ID)
}

// join tells the book what was entered in a check, and says what came of it. Doing it again
// changes nothing.
func (b *Book) join(ctx context.Context, work *Book, plan *CheckPlan) (*checked, error) {
	came := &checked{Refused: []string{}}
	chars := map[string]*cruise.Scored{}
	var entries []Sent
	day := ""
	for _, t := range plan.Drawn {
		was, err := b.open(ctx, b.store.Reader, t.ID)
		if err != nil {
			return nil, err
		}
		made, err := work.open(ctx, work.store.Reader, t.ID)
		if err != nil {
			return nil, err
		}
		came.Pairs = append(came.Pairs, pairOf(t, was.log, made.log, plan))
		countSame(chars, was, made, plan.Checker)
		for i := range made.log.Entries {
			e := made.log.Entries[i]
			if !joins(&e) || e.Kind == logbook.KindFacts && e.Facts.Position != nil && e.By == "" { // its place came from the book
				continue
			}
			if on := made.log.At(&e).Local().Format(time.DateOnly); day == "" || on < day {
				day = on
			}
			if e.Kind == logbook.KindLook {
				e.Visit = plan.Visit
			}
			if err := b.takePhoto(ctx, work, &e); err != nil {
				return nil, err
			}
			text, err := json.Marshal(e)
			if err != nil {
				return nil, err
			}
			entries = append(entries, Sent{Tree: t.ID, Entry: text})
		}
	}
	for _, c := range chars {
		came.Characters = append(came.Characters, *c)
	}
	slices.SortFunc(came.Characters, func(a, b cruise.Scored) int { return cmp.Compare(a.Character, b.Character) })
	if len(entries) == 0 {
		return came, nil
	}
	return came, b.tell(ctx, entries, plan, day, came)
}

// tell has the book take in what was entered, the visit first.
func (b *Book) tell(ctx context.Context, entries []Sent, plan *CheckPlan, day string, came *checked) error {
	tract := plan.Drawn[0].Tract
	visit := Visit{ID: plan.Visit, Tract: tract, Day: day, Crew: plan.Checker, Snow: "none", Remarks: "Check cruise: " + plan.Name}
	if err := b.PutVisit(ctx, visit, plan.Checker); err != nil {
		return err
	}
	for some := range slices.Chunk(entries, MeetMost) {
		met, err := b.Meet(ctx, &Meeting{Version: LogVersion, Entries: some}, "")
		if err != nil {
			return err
		}
		for _, m := range met {
			if m.Answer == Refused {
				came.Refused = append(came.Refused, m.Why)
			}
		}
	}
	return nil
}

// joins says whether an entry of a check joins the book: what the checker saw, and not that a
// tree was started, placed or set aside.
func joins(e *logbook.Entry) bool {
	switch e.Kind {
	case logbook.KindLook, logbook.KindScore, logbook.KindNote, logbook.KindName, logbook.KindPhoto, logbook.KindWithdraw, logbook.KindUndo:
		return true
	case logbook.KindFacts:
		return e.Facts.Aside == nil && e.Facts.Among == nil
	}
	return false
}

// takePhoto copies the file of a photograph that was taken in a check.
func (b *Book) takePhoto(ctx context.Context, work *Book, e *logbook.Entry) (err error) {
	if e.Kind != logbook.KindPhoto {
		return nil
	}
	_, file, err := work.store.PhotoFile(ctx, e.ID, false)
	if errors.Is(err, ErrNoPhoto) {
		return nil // it was taken back
	}
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, file.Close()) }()
	copied, err := b.store.Receive(file)
	if err != nil {
		return err
	}
	_, err = b.keepPhoto(ctx, copied, false)
	return errors.Join(err, copied.Close())
}

func byPlace(a, b CheckTree) int {
	return cmp.Or(strings.Compare(a.Tract, b.Tract), strings.Compare(a.Stand, b.Stand), strings.Compare(a.Tag, b.Tag))
}

// openBeside opens a book that works beside this one, with its flora.
func (b *Book) openBeside(ctx context.Context, path string) (*Book, error) {
	_, err := os.Stat(path)
	fresh := errors.Is(err, fs.ErrNotExist)
	s, err := store.Open(ctx, path)
	if err != nil {
		return nil, err
	}
	out := newBook(s, Options{Flora: b.base, Own: b.own, Calendar: b.calendar, Now: b.now})
	out.shelf.Store(b.shelf.Load()) // what was worked out from the flora is shared
	if fresh {
		err = b.copyLists(ctx, s)
	}
	if err := errors.Join(err, out.begin(ctx)); err != nil {
		return nil, errors.Join(err, s.Close())
	}
	return out, nil
}

// seen is what somebody scored of a tree, the first of each character.
func seen(log *logbook.Log, whose func(by string) bool) map[string]logbook.Score {
	out := map[string]logbook.Score{}
	for _, l := range log.Looks {
		for _, s := range l.Scores {
			if e := log.Find(s.Entry); e != nil && whose(e.By) {
				if _, had := out[s.Character]; !had {
					out[s.Character] = s
				}
			}
		}
	}
	return out
}
