package logbook

import (
	"fmt"
	"slices"

	"palethicket/core/tree/record"
)

// Undo gives the entries, without ids, that undo the entry of this id:
// what was added is withdrawn, what was set is set back, what was withdrawn is
// put back. The log itself only grows.
func (l *Log) Undo(id string) ([]Entry, error) {
	at := slices.IndexFunc(l.Entries, func(e Entry) bool { return e.ID == id })
	if at < 0 {
		return nil, &record.FieldError{Field: "entry", Message: "the tree has no such entry"}
	}
	e := l.Entries[at]
	switch e.Kind {
	case KindFacts:
		return []Entry{{Kind: KindFacts, Facts: Replay(l.Entries[:at]).Facts.back(e.Facts)}}, nil
	case KindNote:
		return []Entry{{Kind: KindNote, Look: e.Look, Note: Replay(l.Entries[:at]).noteOf(e.Look)}}, nil
	case KindWithdraw:
		return putBack(l.Entries, Replay(l.Entries[:at]), &l.State, e.Entry)
	}
	if !l.has(id) {
		return nil, &record.FieldError{Field: "entry", Message: "it does not stand any more: it was taken back or scored again since"}
	}
	return []Entry{{Kind: KindWithdraw, Entry: id}}, nil
}

// back gives the facts that set again what p set otherwise.
func (f *Facts) back(p *SetFacts) *SetFacts {
	var out SetFacts
	was(&out.Age, p.Age, f.Age)
	was(&out.Foliage, p.Foliage, f.Foliage)
	was(&out.Snow, p.Snow, f.Snow)
	was(&out.Beyond, p.Beyond, f.Beyond)
	was(&out.Flat, p.Flat, f.Flat)
	was(&out.Light, p.Light, f.Light)
	was(&out.Among, p.Among, f.Among)
	was(&out.Height, p.Height, f.Height)
	was(&out.Vigour, p.Vigour, f.Vigour)
	was(&out.Remarks, p.Remarks, f.Remarks)
	was(&out.Aside, p.Aside, f.Aside)
	if p.Extra != nil {
		out.Extra = f.Extra
	}
	if p.Position != nil || p.Unplaced {
		out.Position, out.Unplaced = f.Position, f.Position == nil
	}
	return &out
}

func was[T any](to **T, set *T, before T) {
	if set != nil {
		*to = &before
	}
}

func (st *State) noteOf(look string) string {
	if l := st.look(look); l != nil {
		return l.Note
	}
	return ""
}

// putBack gives the entries that bring back what a withdrawal took: a look
// comes back as a new look with its scores.
func putBack(log []Entry, before, now *State, gone string) ([]Entry, error) {
	for _, l := range before.Looks {
		if l.ID == gone {
			return l.again(), nil
		}
		for _, s := range l.Scores {
			if s.Entry != gone {
				continue
			}
			if now.look(l.ID) == nil {
				return nil, &record.FieldError{Field: "entry", Message: "the look it was scored in was taken back too; put the look back first"}
			}
			return []Entry{{Kind: KindScore, Look: l.ID, Score: &s.Score}}, nil
		}
	}
	for _, e := range log {
		if e.ID == gone && e.Kind == KindName {
			return []Entry{{Kind: KindName, Name: e.Name}}, nil
		}
	}
	return nil, fmt.Errorf("putting back %s: %w", gone, ErrNoLook)
}

// again gives the entries of a look and its scores; the scores have no look yet,
// as the new look has no id.
func (l *Look) again() []Entry {
	out := []Entry{{Kind: KindLook, From: l.From, Note: l.Note}}
	for i := range l.Scores {
		out = append(out, Entry{Kind: KindScore, Score: &l.Scores[i].Score})
	}
	return out
}

// Number gives entries their ids from next, and the scores of a look that comes
// back its id.
func Number(entries []Entry, next func() string) {
	look := ""
	for i := range entries {
		e := &entries[i]
		e.ID = next()
		switch {
		case e.Kind == KindLook:
			look = e.ID
		case e.Kind == KindScore && e.Look == "":
			e.Look = look
		}
	}
}
