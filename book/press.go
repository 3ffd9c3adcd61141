package book

import (
	"context"
	"errors"
	"fmt"
	"strings"

	"palethicket/core/tree/answer"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/store"
)

// The one way for a press: the tree's log is read once and replayed once, what is
// added is checked against it, the tree is weighed once, and entries and standing are
// written in one transaction. The answer is made from that same weighing.

// sheet is a tree being worked on: its line, its log, and, once it is weighed, what
// it comes to. It is for one goroutine, which closes it.
type sheet struct {
	*shelf
	tree  store.Tree
	log   *logbook.Log
	added []logbook.Entry

	weighed *answer.Weighing // nil until weighed, or where it cannot be
	fault   error            // why it cannot be weighed
}

// open reads a tree and its log.
func (b *Book) open(ctx context.Context, from store.Reader, id string) (*sheet, error) {
	t, entries, err := from.Log(ctx, id)
	var unreadable *store.Unreadable
	if errors.As(err, &unreadable) {
		return &sheet{shelf: b.shelf.Load(), tree: t, log: logbook.NewLog(nil), fault: err}, nil
	}
	if err != nil {
		return nil, err
	}
	return &sheet{shelf: b.shelf.Load(), tree: t, log: logbook.NewLog(entries)}, nil
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

// add checks an entry against what stands and takes it into the log. One that was
// sent again, as after a lost answer, changes nothing.
func (s *sheet) add(e logbook.Entry) error {
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
	if e.Kind == logbook.KindName { // it changes nothing of the evidence it stands on
		s.weigh()
		if err := s.stood(e.Name); err != nil {
			return err
		}
	}
	s.log.Add(e)
	s.added = append(s.added, e)
	if e.Kind != logbook.KindName && e.Kind != logbook.KindNote {
		s.weigh()
		return s.faultOf(&e)
	}
	return nil
}

// sentAgain takes over what the book wrote into an entry when it first came.
func sentAgain(e logbook.Entry, old *logbook.Entry) logbook.Entry {
	if e.Name != nil && old.Name != nil {
		name := *e.Name
		name.Posterior, name.Leader = old.Name.Posterior, old.Name.Leader
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
		s.log.Add(e)
	}
	s.added = append(s.added, entries...)
}

// write writes what was added to the tree, and where it now stands.
func (s *sheet) write(ctx context.Context, tx *store.Tx, from string) error {
	changed := false
	for i := range s.added {
		had, err := tx.Append(ctx, s.tree.ID, &s.added[i], from)
		if err != nil {
			return err
		}
		if !had {
			changed = true
			s.tree.Version++
		}
	}
	if !changed {
		return nil
	}
	return s.keep(ctx, tx)
}

// keep writes where the tree now stands.
func (s *sheet) keep(ctx context.Context, tx *store.Tx) error {
	s.weigh()
	return tx.KeepStanding(ctx, &s.tree, s.standing())
}

// press makes one change of a tree: change adds to its sheet what is to be added. It
// gives the tree as it then is, to be closed.
func (b *Book) press(ctx context.Context, id string, change func(*store.Tx, *sheet) error) (*sheet, error) {
	tx, err := b.store.Begin(ctx)
	if err != nil {
		return nil, err
	}
	s, err := b.open(ctx, tx.Reader, id)
	if err == nil && s.fault != nil {
		err = s.fault // its log cannot be read: nothing can be checked against it
	}
	if err == nil {
		err = change(tx, s)
	}
	if err == nil {
		err = s.write(ctx, tx, "")
	}
	if err == nil {
		err = tx.Commit()
	}
	if err != nil {
		if s != nil {
			s.close()
		}
		return nil, errors.Join(err, tx.Rollback())
	}
	s.weigh()
	return s, nil
}
