package book

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"math/rand/v2"
	"slices"
	"sync"
	"time"

	"palethicket/core/flora"
	"palethicket/core/practice"
	"palethicket/core/tree/logbook"
	"palethicket/store"
)

// A walk has trees that do not exist scored at the desk. They are kept in a book of their own beside
// this one, so that nothing of them is counted with real ones; what they are is kept here, and told to
// nobody before the walk is ended.

// Errors of walks; who gives them.
var (
	ErrNoWalk = store.ErrNoWalk // whatever is asked of one
	// ErrWalked is given for what only goes while a walk goes on.
	ErrWalked = errors.New("this walk is ended: its account says what the trees were")
	// ErrWalking is given for the account of a walk that goes on.
	ErrWalking = errors.New("this walk goes on: end it to hear what its trees are")
)

// NewPracticeWalk is a walk to be begun.
type NewPracticeWalk struct {
	Among
	Tract string `json:"tract,omitempty"`
	Stand string `json:"stand,omitempty" doc:"Whose trees it is made of; absent: those of the tract, or of the region or list"`
	Trees int    `json:"trees" minimum:"5" maximum:"20"`
	Snow  string `json:"snow" enum:"none,deep"`
	Odd   bool   `json:"odd" doc:"With odd individuals; else usual ones"`
}

// PracticeWalk is a walk as it is shown: nothing tells what its trees are.
type PracticeWalk struct {
	ID    string         `json:"id"`
	Made  string         `json:"made" doc:"What it is made of, in words"`
	Begun time.Time      `json:"begun"`
	Ended *time.Time     `json:"ended"`
	Snow  string         `json:"snow"`
	Trees []PracticeTree `json:"trees"`
}

// PracticeTree is one of its trees.
type PracticeTree struct {
	ID      string         `json:"id" doc:"Its tree at the desk"`
	N       int            `json:"n"`
	X       float64        `json:"x_m" doc:"East of the middle"`
	Y       float64        `json:"y_m" doc:"North of it"`
	Age     string         `json:"age"`
	Seconds int            `json:"seconds" doc:"That were spent on looking at it"`
	Named   string         `json:"named" doc:"What it was named, in words; empty: nothing"`
	Parts   []PracticePart `json:"parts"`
}

// PracticePart is a part of a tree that can be looked at.
type PracticePart struct {
	ID      string   `json:"id"`
	Words   string   `json:"words"`
	From    string   `json:"from" doc:"The look at the desk that it is scored in"`
	Not     string   `json:"not" doc:"Why it cannot be looked at; empty: it can"`
	Seconds int      `json:"seconds" doc:"What a look takes"`
	Looked  bool     `json:"looked"`
	Drawn   bool     `json:"drawn" doc:"There is a drawing of it"`
	Says    []string `json:"says" doc:"Once it was looked at: what no drawing shows"`
}

// walkKept is what is kept of a walk.
type walkKept struct {
	NewPracticeWalk
	Made  string              `json:"made"`
	Begun time.Time           `json:"begun"`
	Trees []practice.WalkTree `json:"hidden"`
	IDs   []string            `json:"ids"`
	Parts [][]string          `json:"parts"` // looked at, by tree
}

// walks are the walks whose trees may be asked for at the desk.
type walks struct {
	mu   sync.Mutex
	of   map[string]string    // the walk of a tree
	whom map[string]string    // who goes a walk
	open map[string]*walkBook // their books
	asks int                  // how often one was asked for
}

// walkBook is the book of a walk while it is open.
type walkBook struct {
	book *Book
	uses int  // how many use it now
	over bool // closed by the last of them
	last int  // when it was asked for last, by the count of walks.asks
}

const (
	// walksKept is how many of somebody's walks are kept.
	walksKept = 10
	// walksOpen is how many walks' books are open at once, of everybody together: each takes some 40 MB.
	walksOpen = 4
)

func (w *walks) put(id, by string, trees []string) {
	w.mu.Lock()
	defer w.mu.Unlock()
	if w.of == nil {
		w.of, w.whom, w.open = map[string]string{}, map[string]string{}, map[string]*walkBook{}
	}
	w.whom[id] = by
	for _, t := range trees {
		w.of[t] = id
	}
}

// drop forgets a walk and closes its book.
func (w *walks) drop(id string) (err error) {
	w.mu.Lock()
	defer w.mu.Unlock()
	if old := w.open[id]; old != nil && old.uses == 0 {
		err = old.book.Close()
	} else if old != nil {
		old.over = true
	}
	delete(w.open, id)
	delete(w.whom, id)
	maps.DeleteFunc(w.of, func(_, of string) bool { return of == id })
	return err
}

func (w *walks) close() (err error) {
	w.mu.Lock()
	defer w.mu.Unlock()
	for _, b := range w.open {
		err = errors.Join(err, b.book.Close())
	}
	return err
}

// spare closes the books that were asked for longest ago until so many are left, but for those in
// use. The walks are locked.
func (w *walks) spare(left int) (err error) {
	for len(w.open) > left {
		oldest := ""
		for id, b := range w.open {
			if b.uses == 0 && (oldest == "" || b.last < w.open[oldest].last) {
				oldest = id
			}
		}
		if oldest == "" {
			return err
		}
		err = errors.Join(err, w.open[oldest].book.Close())
		delete(w.open, oldest)
	}
	return err
}

func (b *Book) readWalks(ctx context.Context) error {
	kept, err := b.store.Walks(ctx, "*")
	if err != nil {
		return err
	}
	for i := range kept {
		w, err := walkOf(&kept[i])
		if err != nil {
			return err
		}
		b.walks.put(kept[i].ID, kept[i].By, w.IDs)
	}
	return nil
}

func walkOf(kept *store.Walk) (*walkKept, error) {
	w := &walkKept{}
	if err := json.Unmarshal([]byte(kept.Body), w); err != nil {
		return nil, fmt.Errorf("reading walk %s: %w", kept.ID, err)
	}
	return w, nil
}

// Walking gives the book that a tree of somebody's walk is kept in, and a function to be called when
// they have done with it; nil for any other tree. anybody says that nobody signs in, so that a walk
// is whose it is by their word.
func (b *Book) Walking(ctx context.Context, tree, by string, anybody bool) (*Book, func(), error) {
	b.walks.mu.Lock()
	defer b.walks.mu.Unlock()
	id, ok := b.walks.of[tree]
	if !ok || !anybody && b.walks.whom[id] != by {
		return nil, nil, nil
	}
	w, err := b.walkBook(ctx, id)
	if err != nil {
		return nil, nil, err
	}
	b.walks.asks++
	w.uses, w.last = w.uses+1, b.walks.asks
	return w.book, func() {
		b.walks.mu.Lock()
		defer b.walks.mu.Unlock()
		if w.uses--; w.over && w.uses == 0 {
			_ = w.book.Close() // nobody asks for it again
		}
	}, nil
}

// walkBook opens the book of a walk. The walks are locked.
func (b *Book) walkBook(ctx context.Context, id string) (*walkBook, error) {
	if b.walks.open[id] == nil {
		if err := b.walks.spare(walksOpen - 1); err != nil {
			return nil, fmt.Errorf("closing the book of a walk: %w", err)
		}
		path, err := b.store.MakeBeside("walks", id+".db")
		if err != nil {
			return nil, err
		}
		work, err := b.openBeside(context.WithoutCancel(ctx), path)
		if err != nil {
			return nil, fmt.Errorf("opening the book of a walk: %w", err)
		}
		work.walk = id
		b.walks.open[id] = &walkBook{book: work}
	}
	return b.walks.open[id], nil
}

// BeginWalk begins a walk.
func (b *Book) BeginWalk(ctx context.Context, n NewPracticeWalk, by string) (*PracticeWalk, error) {
	sh := b.shelf.Load()
	among, err := sh.flora.Among(n.Region, n.List)
	if err != nil {
		return nil, amongError(err)
	}
	n.Region, n.List = among.Region, among.List
	grows, made, err := b.growsIn(ctx, &n)
	if err != nil {
		return nil, err
	}
	oddness := 0.0
	if n.Odd {
		oddness = 0.5
	}
	w := &walkKept{NewPracticeWalk: n, Made: made, Begun: b.now().UTC().Truncate(time.Second), Parts: make([][]string, n.Trees)}
	if w.Trees, err = practice.Wood(grows, n.Trees, n.Snow, oddness, rand.Uint64()); err != nil {
		return nil, wrapWood(err)
	}
	id := newID()
	for range w.Trees {
		w.IDs = append(w.IDs, newID())
	}
	b.walks.put(id, by, w.IDs)
	work, done, err := b.Walking(ctx, w.IDs[0], by, false)
	if err != nil {
		return nil, err
	}
	defer done()
	if err := b.plant(asProgram(ctx), work, w, by); err != nil {
		return nil, err
	}
	if err := b.keepWalk(ctx, id, by, w, nil); err != nil {
		return nil, err
	}
	return b.PracticeWalk(ctx, id, by)
}

func wrapWood(err error) error {
	if errors.Is(err, practice.ErrNoWood) {
		return ErrNothingGrows
	}
	return &FieldError{"trees", err.Error()}
}

// growsIn is what a walk is made of, and that in words.
func (b *Book) growsIn(ctx context.Context, n *NewPracticeWalk) (grows []practice.Grows, made string, err error) {
	sh := b.shelf.Load()
	if n.Tract == "" && n.Stand == "" {
		lines, err := sh.handbook.List(flora.Among(n.Among), nil)
		if err != nil {
			return nil, "", err
		}
		pool, err := sh.flora.Pool(flora.PoolKey{Among: flora.Among(n.Among), Age: flora.At(flora.Mature)})
		if err != nil {
			return nil, "", err
		}
		for _, l := range lines {
			if at, ok := pool.Find(l.Name); ok {
				grows = append(grows, practice.Grows{Taxon: l.Name, Share: pool.Model.Taxa()[at].Weight})
			}
		}
		return grows, logbook.Among(n.Among).Words(sh.flora), nil
	}
	c, err := b.Composition(ctx, n.Tract, n.Stand)
	if err != nil {
		return nil, "", err
	}
	for _, s := range c.Shares {
		if s.Stems >= growsThere && sh.flora.Taxon(s.Taxon) != nil {
			grows = append(grows, practice.Grows{Taxon: s.Taxon, Share: s.Stems})
		}
	}
	made = n.Stand
	if made == "" {
		made = n.Tract
	}
	return grows, made, nil
}

// plant starts the trees of a walk at the desk: their tags, ages, and what snow and reach keep.
func (b *Book) plant(ctx context.Context, work *Book, w *walkKept, by string) error {
	return work.store.Write(ctx, func(tx *store.Tx) error {
		for i := range w.Trees {
			t := &w.Trees[i]
			at := logbook.Place{Tag: fmt.Sprint(i + 1), Tract: "A walk", Stand: "A stand that does not exist"}
			among := logbook.Among(w.Among)
			s := work.sheet(store.Tree{ID: w.IDs[i], Tag: at.Tag, Region: among.Region, List: among.List, Tract: at.Tract, Stand: at.Stand}, nil)
			e := logbook.Entry{ID: w.IDs[i], Kind: logbook.KindStart, By: by, Start: &logbook.Start{Place: at, Among: among}}
			s.stamp(&e, "")
			green, err := b.foliageOf(t)
			if err != nil {
				return err
			}
			s.extend(e, logbook.Entry{ID: newID(), Kind: logbook.KindFacts, By: by,
				Facts: &logbook.SetFacts{Age: &t.Age, Snow: &t.Snow, Beyond: &t.Beyond, Foliage: &green}})
			err = work.write(ctx, tx, s, "")
			s.close()
			if err != nil {
				return err
			}
		}
		return nil
	})
}

// foliageOf is what is green on a tree in winter: anybody sees it from afar.
func (b *Book) foliageOf(t *practice.WalkTree) (string, error) {
	values, err := b.shelf.Load().handbook.Individual(t.Taxon, flora.Mature, flora.Breast, t.Seed, 0)
	if err != nil {
		return "", err
	}
	for _, v := range values {
		if v.Character == "needle.kept" {
			return v.State, nil
		}
	}
	return "bare", nil
}

func (b *Book) keepWalk(ctx context.Context, id, by string, w *walkKept, ended *string) error {
	text, err := json.Marshal(w)
	if err != nil {
		return err
	}
	var dropped []string
	err = b.store.Write(ctx, func(tx *store.Tx) error {
		if err := tx.PutWalk(ctx, &store.Walk{ID: id, By: by, Body: string(text), Ended: ended}); err != nil {
			return err
		}
		old, err := tx.Walks(ctx, by)
		if err != nil {
			return err
		}
		for _, o := range old[min(walksKept, len(old)):] {
			if err := tx.DropWalk(ctx, o.ID); err != nil {
				return err
			}
			dropped = append(dropped, o.ID)
		}
		return nil
	})
	for _, old := range dropped {
		err = errors.Join(err, b.walks.drop(old), b.store.DropBeside("walks", old+".db"))
	}
	return err
}

// PracticeWalks lists somebody's walks, the latest first.
func (b *Book) PracticeWalks(ctx context.Context, by string) ([]PracticeWalk, error) {
	kept, err := b.store.Walks(ctx, by)
	if err != nil {
		return nil, err
	}
	out := []PracticeWalk{}
	for i := range kept {
		w, err := b.walkShown(ctx, &kept[i])
		if err != nil {
			return nil, err
		}
		out = append(out, *w)
	}
	return out, nil
}

// PracticeWalk gives one of somebody's.
func (b *Book) PracticeWalk(ctx context.Context, id, by string) (*PracticeWalk, error) {
	kept, err := b.store.Walk(ctx, id, by)
	if err != nil {
		return nil, err
	}
	return b.walkShown(ctx, &kept)
}

func (b *Book) walkShown(ctx context.Context, kept *store.Walk) (*PracticeWalk, error) {
	w, err := walkOf(kept)
	if err != nil {
		return nil, err
	}
	out := &PracticeWalk{ID: kept.ID, Made: w.Made, Begun: w.Begun, Snow: w.Snow, Trees: []PracticeTree{}}
	if kept.Ended != nil {
		at, err := time.Parse(time.RFC3339, *kept.Ended)
		if err != nil {
			return nil, fmt.Errorf("reading when walk %s ended: %w", kept.ID, err)
		}
		out.Ended = &at
	}
	_, teacher := b.teacher()
	for i := range w.Trees {
		t, err := b.walkTree(ctx, teacher, kept, w, i)
		if err != nil {
			return nil, err
		}
		out.Trees = append(out.Trees, *t)
	}
	return out, nil
}

func (b *Book) walkTree(ctx context.Context, teacher *practice.Teacher, kept *store.Walk, w *walkKept, i int) (*PracticeTree, error) {
	hidden := &w.Trees[i]
	out := &PracticeTree{ID: w.IDs[i], N: i + 1, X: hidden.X, Y: hidden.Y, Age: hidden.Age, Parts: []PracticePart{}}
	work, done, err := b.Walking(ctx, w.IDs[i], kept.By, false)
	if err == nil && work != nil {
		defer done()
	}
	if err != nil {
		return nil, err
	}
	if work != nil {
		s, err := work.open(ctx, work.store.Reader, w.IDs[i])
		if err != nil {
			return nil, err
		}
		defer s.close()
		if n := s.log.Name(); n != nil {
			out.Named = s.nameWords(n.Rank, n.Name)
		}
	}
	for k := range practice.WalkParts {
		p := &practice.WalkParts[k]
		part := PracticePart{ID: p.ID, Words: p.Words, From: p.From, Looked: slices.Contains(w.Parts[i], p.ID), Says: []string{}}
		if ok, why := hidden.Offered(p); !ok {
			part.Not = why
			out.Parts = append(out.Parts, part)
			continue
		}
		seen, err := teacher.See(hidden, p.ID, flora.Among(w.Among))
		if err != nil {
			return nil, err
		}
		part.Seconds = b.usualSeconds(p.ID)
		if part.Looked {
			out.Seconds += seen.Seconds
			part.Seconds, part.Drawn, part.Says = seen.Seconds, seen.Tree != nil, listed(seen.Words)
		}
		out.Parts = append(out.Parts, part)
	}
	return out, nil
}

// usualSeconds is what a look at a part takes, about: what it takes of one tree would tell which it is.
func (b *Book) usualSeconds(part string) int {
	return map[string]int{"site": 15, "outline": 60, "bark": 150, "ground": 60, "fallen": 300, "twig": 300}[part]
}

// LookOnWalk looks at a part of a tree of a walk that goes on; its time is spent once.
func (b *Book) LookOnWalk(ctx context.Context, id, by string, n int, part string) (*PracticeWalk, error) {
	kept, w, err := b.walkGoing(ctx, id, by, n)
	if err != nil {
		return nil, err
	}
	_, teacher := b.teacher()
	if _, err := teacher.See(&w.Trees[n-1], part, flora.Among(w.Among)); err != nil {
		return nil, &FieldError{"part", err.Error()}
	}
	if !slices.Contains(w.Parts[n-1], part) {
		w.Parts[n-1] = append(w.Parts[n-1], part)
		if err := b.keepWalk(ctx, id, by, w, kept.Ended); err != nil {
			return nil, err
		}
	}
	return b.PracticeWalk(ctx, id, by)
}

// walkGoing is a walk that goes on, and has such a tree.
func (b *Book) walkGoing(ctx context.Context, id, by string, n int) (*store.Walk, *walkKept, error) {
	kept, err := b.store.Walk(ctx, id, by)
	if err != nil {
		return nil, nil, err
	}
	w, err := walkOf(&kept)
	switch {
	case err != nil:
		return nil, nil, err
	case kept.Ended != nil:
		return nil, nil, ErrWalked
	case n < 1 || n > len(w.Trees):
		return nil, nil, ErrNoTree
	}
	return &kept, w, nil
}

// DrawOnWalk draws a part that was looked at.
func (b *Book) DrawOnWalk(ctx context.Context, id, by string, n int, part, theme string) (*Picture, error) {
	kept, err := b.store.Walk(ctx, id, by)
	if err != nil {
		return nil, err
	}
	w, err := walkOf(&kept)
	if err != nil {
		return nil, err
	}
	if n < 1 || n > len(w.Trees) || !slices.Contains(w.Parts[n-1], part) {
		return nil, ErrNoPlate
	}
	_, teacher := b.teacher()
	seen, err := teacher.See(&w.Trees[n-1], part, flora.Among(w.Among))
	if err != nil || seen.Tree == nil {
		return nil, errors.Join(ErrNoPlate, err)
	}
	return drawPlate(seen.Tree.Tree, seen.Tree.Part, flora.ZoneWords[flora.Breast], theme)
}
