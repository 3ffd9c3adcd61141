package logbook

import (
	"fmt"

	"palethicket/core/tree/record"
)

// undoneWords say of an undoing that it would undo nothing.
const undoneWords = "it was undone already; nothing was changed"

// undoable says why an undoing cannot be added: it takes back what the same person
// did, once, and nothing that others did.
func (l *Log) undoable(e *Entry) error {
	wrong := func(format string, args ...any) error {
		return &record.FieldError{Field: "entry", Message: fmt.Sprintf(format, args...)}
	}
	old := l.Find(e.Entry)
	switch {
	case old == nil:
		return wrong("the tree has no such entry")
	case old.Kind == KindStart:
		return wrong("a tree that was started stays in the book; set it aside")
	case l.undone[old.ID]:
		return wrong(undoneWords)
	case old.By != e.By:
		return wrong("%s did this, and undoing takes back only what you did yourself; enter over it, or take it back", someone(old.By))
	}
	if old.Kind == KindLook {
		for i := range l.Entries {
			if o := &l.Entries[i]; o.Look == old.ID && o.By != e.By && !l.undone[o.ID] {
				return wrong("%s has entered something in this look since; take the look back instead", someone(o.By))
			}
		}
	}
	return nil
}

func someone(by string) string {
	if by == "" {
		return "somebody without a name"
	}
	return by
}

// Act is the last thing that somebody did to a tree and that can be undone.
type Act struct {
	By    string
	Entry string
}

// Acts gives the last act of everybody, in the order of the log.
func (l *Log) Acts() []Act {
	last := map[string]int{}
	for i := range l.Entries {
		if e := &l.Entries[i]; e.Kind != KindUndo && e.Kind != KindStart && !l.undone[e.ID] {
			last[e.By] = i
		}
	}
	acts := []Act{}
	for i := range l.Entries {
		if e := &l.Entries[i]; e.Kind != KindUndo && len(last) > 0 {
			if at, ok := last[e.By]; ok && at == i {
				acts = append(acts, Act{e.By, e.ID})
			}
		}
	}
	return acts
}

// Undone says whether an entry counts as never made.
func (l *Log) Undone(id string) bool { return l.undone[id] }

// Withdrawals lists the entries that take an entry back and were not undone.
func (l *Log) Withdrawals(id string) (entries []string) {
	for i := range l.Entries {
		if e := &l.Entries[i]; e.Kind == KindWithdraw && e.Entry == id && !l.undone[e.ID] {
			entries = append(entries, e.ID)
		}
	}
	return entries
}
