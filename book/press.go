package book

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"palethicket/core/tree/answer"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/core/tree/stamp"
	"palethicket/store"
)

// The one way for a press: the tree's log is read once and replayed once, what is
// added is checked against it, the tree is weighed once, and entries and standing are
// written in one transaction. The answer is made from that same weighing.

// sheet is a tree being worked on: its line, its log, and, once it is weighed, what
// it comes to. It is for one goroutine, which closes it.
type sheet struct {
	*shelf
	clock *stamp.Clock
	tree  store.Tree
	log   *logbook.Log
	added []logbook.Entry
	begun bool // the book has its line
	aside bool // it was set aside when it was opened

	must []func(*store.Tx) error // what has to hold in the book, or be kept in it too, when it is written

	bodies    []string        // what is added as the store keeps it, once it is written
	merging   bool            // what is added was made elsewhere
	restamped []logbook.Entry // entries of the log that got an earlier place in the order

	weighed *answer.Weighing // nil until weighed, or where it cannot be
	stands  *store.Standing  // nil until worked out
	fault   error            // why it cannot be weighed
}

// open reads a tree and its log.
func (b *Book) open(ctx context.Context, from store.Reader, id string) (*sheet, error) {
	t, entries, err := from.Log(ctx, id)
	var unreadable *store.Unreadable
	if err != nil && !errors.As(err, &unreadable) {
		return nil, err
	}
	s := b.sheet(t, entries)
	s.begun = true
	if err != nil {
		s.fault = err
	}
	return s, nil
}

func (b *Book) sheet(t store.Tree, log []logbook.Entry) *sheet {
	return &sheet{shelf: b.shelf.Load(), clock: b.clock, tree: t, log: logbook.NewLog(log)}
}

// read opens a tree and weighs it as it stands.
func (b *Book) read(ctx context.Context, from store.Reader, id string) (*sheet, error) {
	s, err := b.open(ctx, from, id)
	if err != nil {
		return nil, err
	}
	s.weigh()
	return s, nil
}

// readable is read for what cannot be told of a tree that cannot be weighed.
func (b *Book) readable(ctx context.Context, from store.Reader, id string) (*sheet, error) {
	s, err := b.read(ctx, from, id)
	if err == nil && s.fault != nil {
		return nil, s.unreadable()
	}
	return s, err
}

func (s *sheet) close() {
	if s.weighed != nil {
		s.weighed.Close()
	}
}

func (s *sheet) unreadable() error {
	var already *store.Unreadable
	if errors.As(s.fault, &already) {
		return s.fault
	}
	return &store.Unreadable{Tag: s.tree.Tag, Err: s.fault}
}

// weigh ranks the tree as its log stands.
func (s *sheet) weigh() {
	if s.fault != nil || s.weighed != nil {
		return
	}
	s.weighed, s.fault = s.engine.Weigh(s.log.Record(s.tree.Tag, s.tree.Started()))
}

// among is what the tree is ranked among.
func (s *sheet) among() logbook.Among { return s.log.Among(s.tree.Started()) }

// add checks an entry that somebody made against what stands and takes it into the
// log. One that was sent again, as after a lost answer, changes nothing. seen is the
// last that they had seen of the tree where it waited to be sent; one that comes at
// once is later than all there is.
func (s *sheet) add(e logbook.Entry, seen stamp.Stamp) error {
	if err := e.Fill(); err != nil {
		return err
	}
	if err := e.Check(); err != nil {
		return err
	}
	if err := s.complete(&e); err != nil {
		return err
	}
	if old := s.log.Find(e.ID); old != nil {
		if old.Kind != e.Kind {
			return store.ErrIDTaken
		}
		s.added = append(s.added, sentAgain(e, old)) // the store compares them
		return nil
	}
	if err := s.log.Fits(&e); err != nil {
		return err
	}
	s.stamp(&e, seen)
	if e.Kind == logbook.KindName { // it changes nothing of the evidence it stands on
		s.weigh()
		if err := s.stood(e.Name); err != nil {
			return err
		}
		e.Name.Knew = s.log.Known(seen)
	}
	s.log.Add(e)
	s.added = append(s.added, e)
	if weighs(e.Kind) {
		s.unweigh()
		s.weigh()
		return s.faultOf(&e)
	}
	return nil
}

// weighs says whether an entry can change what the evidence says.
func weighs(kind logbook.Kind) bool {
	switch kind {
	case logbook.KindName, logbook.KindNote, logbook.KindMove, logbook.KindPhoto, logbook.KindMarks:
		return false
	}
	return true
}

// stamp gives an entry its place in the order.
func (s *sheet) stamp(e *logbook.Entry, seen stamp.Stamp) {
	now := s.clock.Now()
	made := stamp.OfID(e.ID).Time()
	if made.After(now.Add(store.Ahead)) {
		e.Said = made.Format(time.RFC3339)
	}
	if seen == "" {
		e.Stamp = s.clock.After(s.log.Latest())
		return
	}
	if made.After(now) {
		made = now
	}
	e.Stamp = seen.After(made, s.clock.Node)
}

// sentAgain takes over what the book wrote into an entry when it first came.
func sentAgain(e logbook.Entry, old *logbook.Entry) logbook.Entry {
	e.Stamp, e.Said = old.Stamp, old.Said
	if e.Visit == "" {
		e.Visit = old.Visit
	}
	if e.Name != nil && old.Name != nil {
		name := *e.Name
		name.Posterior, name.Leader, name.Knew = old.Name.Posterior, old.Name.Leader, old.Name.Knew
		e.Name = &name
	}
	return e
}

// complete works out what follows from what an entry says.
func (s *sheet) complete(e *logbook.Entry) error {
	if e.Kind == logbook.KindScore {
		if c := s.flora.Character(e.Score.Character); c != nil {
			score := *e.Score
			if err := score.ReadTyped(c); err != nil {
				return inEntry("score.", err)
			}
			e.Score = &score
		}
	}
	if e.Kind == logbook.KindFacts && e.Facts.Among != nil && *e.Facts.Among != (logbook.Among{}) {
		among, err := s.flora.Among(e.Facts.Among.Region, e.Facts.Among.List)
		if err != nil {
			return &FieldError{"facts.among", err.Error()}
		}
		facts := *e.Facts
		facts.Among = &logbook.Among{Region: among.Region, List: among.List}
		e.Facts = &facts
	}
	return nil
}

// inEntry says where in the entry a field of one of its parts stands.
func inEntry(part string, err error) error {
	var field *record.FieldError
	if errors.As(err, &field) {
		return &FieldError{part + field.Field, field.Message}
	}
	return err
}

// stood refuses a name that nothing the tree could be has, and writes into one how
// the tree stood when it was named.
func (s *sheet) stood(n *logbook.Naming) error {
	if s.fault != nil {
		return s.unreadable()
	}
	res := s.weighed.Result(answer.Options{})
	n.Leader, n.Posterior = res.Ranking[0].Taxon, 0
	if n.Rank == logbook.Undetermined {
		return nil
	}
	p, err := s.weighed.Posterior(rankOf(n.Rank), n.Name)
	if err != nil && n.Seen != "" && s.called(n.Rank, n.Name) {
		return nil // spring may say what winter did not list
	}
	if err != nil {
		return &FieldError{"name.name", err.Error()}
	}
	n.Posterior = p
	return nil
}

// faultOf gives what is wrong with the entry just added, named as it stands in the
// entry: looks[0].scores[0].value is score.value. What was wrong with the tree before
// is no fault of the entry's: it is taken, and the tree stays unreadable.
func (s *sheet) faultOf(e *logbook.Entry) error {
	var errs record.Errors
	if !errors.As(s.fault, &errs) {
		return nil
	}
	prefix, part := s.wherein(e)
	var own record.Errors
	for _, err := range errs {
		if rest, ok := strings.CutPrefix(err.Field, prefix); ok && (prefix != "" || !strings.HasPrefix(err.Field, "looks")) {
			own = append(own, &record.FieldError{Field: strings.TrimSuffix(part+rest, "."), Message: err.Message})
		}
	}
	if len(own) == 0 {
		return nil
	}
	return own
}

// wherein is where the record made of the log has what an entry added, and what the
// entry calls that part.
func (s *sheet) wherein(e *logbook.Entry) (prefix, part string) {
	for i, l := range s.log.Looks {
		if l.ID == e.ID {
			return fmt.Sprintf("looks[%d].", i), ""
		}
		for j, sc := range l.Scores {
			if sc.Entry == e.ID {
				return fmt.Sprintf("looks[%d].scores[%d].", i, j), "score."
			}
		}
	}
	if e.Kind == logbook.KindFacts {
		return "", "facts."
	}
	return "nowhere", "" // a withdrawal can only take faults away
}

// extend takes entries into the log that follow from what stands and need no check.
func (s *sheet) extend(entries ...logbook.Entry) {
	for _, e := range entries {
		if e.Stamp == "" {
			e.Stamp = s.clock.After(s.log.Latest())
		}
		s.log.Add(e)
		s.added = append(s.added, e)
	}
}

// unweigh has the tree weighed again, as what it is weighed by changed.
func (s *sheet) unweigh() {
	s.close()
	s.weighed, s.stands = nil, nil
}

// write writes what was added to the tree, and where it now stands.
func (b *Book) write(ctx context.Context, tx *store.Tx, s *sheet, from string) error {
	for _, must := range s.must {
		if err := must(tx); err != nil {
			return err
		}
	}
	changed, err := b.append(ctx, tx, s, from)
	if err != nil || !changed {
		return err
	}
	return s.keep(ctx, tx)
}

// append writes what was added to the tree, its line first where the book has none,
// and what follows from it for the tree's place and photographs.
func (b *Book) append(ctx context.Context, tx *store.Tx, s *sheet, from string) (changed bool, err error) {
	for i := range s.added {
		if err := mayAdd(ctx, s.added[i].Kind); err != nil {
			return false, err
		}
	}
	if s.begun {
		changed, err = b.appendMore(ctx, tx, s, from)
	} else {
		changed, err = true, b.appendNew(ctx, tx, s, from)
	}
	if err != nil || !changed {
		return changed, err
	}
	if slices.ContainsFunc(s.added, func(e logbook.Entry) bool {
		return e.Kind == logbook.KindPhoto || e.Kind == logbook.KindWithdraw || e.Kind == logbook.KindUndo
	}) {
		if err := b.showPhotos(ctx, tx, s); err != nil {
			return false, err
		}
	}
	return changed, s.settle(ctx, tx)
}

// appendMore is append for a tree that the book has.
func (b *Book) appendMore(ctx context.Context, tx *store.Tx, s *sheet, from string) (changed bool, err error) {
	for i := range s.added {
		e := &s.added[i]
		if err := b.giveVisit(ctx, tx, s, e, from); err != nil {
			return false, err
		}
		had, err := tx.Append(ctx, s.tree.ID, e, from)
		if err != nil {
			return false, err
		}
		if !had {
			changed = true
			s.tree.Version++
		}
	}
	return changed, nil
}

// appendNew is append for a tree that is new.
func (b *Book) appendNew(ctx context.Context, tx *store.Tx, s *sheet, from string) error {
	at := s.log.Place
	s.tree.Tag, s.tree.Tract, s.tree.Stand, s.tree.Version = at.Tag, at.Tract, at.Stand, len(s.added)
	if err := tx.AddTree(ctx, &s.tree, from); err != nil {
		return err
	}
	s.begun = true
	for i := range s.added {
		if err := b.giveVisit(ctx, tx, s, &s.added[i], from); err != nil {
			return err
		}
	}
	bodies, err := s.written()
	if err != nil {
		return err
	}
	return tx.AppendNew(ctx, s.tree.ID, s.added, bodies, from)
}

// written is what is added as the store keeps it: written beforehand, but for looks,
// which may have got their visit since.
func (s *sheet) written() (bodies []string, err error) {
	if s.bodies == nil {
		return store.Bodies(s.added)
	}
	for i := range s.added {
		if s.added[i].Kind != logbook.KindLook {
			continue
		}
		again, err := store.Bodies(s.added[i : i+1])
		if err != nil {
			return nil, err
		}
		s.bodies[i] = again[0]
	}
	return s.bodies, nil
}

// showPhotos keeps the lines of photographs that were put up, and which of the tree's are
// shown.
func (b *Book) showPhotos(ctx context.Context, tx *store.Tx, s *sheet) error {
	for i := range s.added {
		if e := &s.added[i]; e.Kind == logbook.KindPhoto {
			if err := tx.AddPhoto(ctx, photoLine(s.tree.ID, e)); err != nil {
				return err
			}
		}
	}
	return tx.ShowPhotos(ctx, s.tree.ID, s.log.Photos)
}

// settle keeps where the tree is after its log.
func (s *sheet) settle(ctx context.Context, tx *store.Tx) error {
	at := s.log.Place
	if at.Tag == s.tree.Tag && at.Tract == s.tree.Tract && at.Stand == s.tree.Stand {
		return nil
	}
	if err := tx.MoveTree(ctx, s.tree.ID, at.Tag, at.Tract, at.Stand); err != nil {
		return err
	}
	moved, err := tx.Tree(ctx, s.tree.ID)
	s.tree.Tag, s.tree.Tract, s.tree.Stand, s.tree.SameTag = moved.Tag, moved.Tract, moved.Stand, moved.SameTag
	return err
}

// keep writes where the tree now stands.
func (s *sheet) keep(ctx context.Context, tx *store.Tx) error {
	s.settleStanding()
	return tx.KeepStanding(ctx, &s.tree, s.stands)
}

func (s *sheet) settleStanding() {
	s.weigh()
	if s.stands == nil {
		s.stands = s.standing()
	}
}

// press makes one change of a tree: change adds to its sheet what is to be added. It
// gives the tree as it then is, to be closed. The tree is weighed before others are kept
// waiting; only where it changed meanwhile is it done again while they wait.
func (b *Book) press(ctx context.Context, id string, change func(*sheet) error) (s *sheet, err error) {
	b.pressing.begin()
	defer b.pressing.end()
	defer func() {
		if err != nil && s != nil {
			s.close()
			s = nil
		}
	}()
	if s, err = b.changed(ctx, b.store.Reader, id, change); err != nil {
		return s, err
	}
	err = b.store.Write(ctx, func(tx *store.Tx) error {
		now, err := tx.Version(ctx, id)
		if err != nil {
			return err
		}
		if now != s.tree.Version || s.shelf != b.shelf.Load() {
			s.close()
			if s, err = b.changed(ctx, tx.Reader, id, change); err != nil {
				return err
			}
		}
		return b.write(ctx, tx, s, "")
	})
	if err == nil {
		s.weigh()
	}
	return s, err
}

// changed opens a tree, adds what a change adds, and works out where the tree then stands.
func (b *Book) changed(ctx context.Context, from store.Reader, id string, change func(*sheet) error) (*sheet, error) {
	s, err := b.open(ctx, from, id)
	if err != nil {
		return nil, err
	}
	if s.fault != nil { // its log cannot be read: nothing can be checked against it
		return s, s.fault
	}
	if err := change(s); err != nil {
		return s, err
	}
	s.settleStanding()
	return s, nil
}
