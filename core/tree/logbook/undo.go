package logbook

import (
	"fmt"
	"slices"

	"palethicket/core/tree/record"
)

// undoneWords say of an undoing that it would undo nothing.
const undoneWords = "it was undone already; nothing was changed"

// withdrawn are the kinds of entries that can be taken back.
var withdrawn = []Kind{KindLook, KindScore, KindName, KindPhoto}

// Allows refuses an undoing of what somebody else did or of a tree's start, and a withdrawal of
// what is not taken back. It is asked of every entry that comes in, whichever way.
func (l *Log) Allows(e *Entry) error {
	wrong := func(format string, args ...any) error {
		return &record.FieldError{Field: "entry", Message: fmt.Sprintf(format, args...)}
	}
	old := l.Find(e.Entry)
	switch {
	case e.Kind == KindWithdraw && old != nil && !slices.Contains(withdrawn, old.Kind):
		return wrong("a %s entry is not taken back; enter over it, or undo it", old.Kind)
	case e.Kind != KindUndo:
		return nil
	case old == nil:
		return wrong("the tree has no such entry")
	case old.Kind == KindStart:
		return wrong("a tree that was started stays in the book; set it aside")
	case old.By != e.By:
		return wrong("%s did this, and undoing takes back only what you did yourself; enter over it, or take it back", someone(old.By))
	}
	return nil
}

// builtOn refuses the undoing of a look in which somebody else entered something since. It
// is asked of who can see that: books that hear of both in any order must come out the same.
func (l *Log) builtOn(e *Entry) error {
	for i := range l.Entries {
		if o := &l.Entries[i]; e.Kind == KindUndo && o.Look == e.Entry && o.By != e.By && !l.undone[o.ID] {
			return &record.FieldError{Field: "entry", Message: someone(o.By) +
				" has entered something in this look since; take the look back instead"}
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

// Stranded lists the scores that nobody took back and that count no more, as somebody else took
// back the look that they are in: perhaps elsewhere, while the score was made. By each stands who
// did. What its maker has scored again is not among them.
func (l *Log) Stranded() (scores []*Entry, by []string) {
	for i := range l.Entries {
		e := &l.Entries[i]
		if e.Kind != KindScore || l.undone[e.ID] || l.gone[e.ID] {
			continue
		}
		if took := l.takenBack(e.Look); took != nil && took.By != e.By && !l.scoredAgain(e) {
			scores, by = append(scores, e), append(by, took.By)
		}
	}
	return scores, by
}

// scoredAgain says whether somebody's later score of the same character stands.
func (l *Log) scoredAgain(e *Entry) bool {
	for _, look := range l.Looks {
		for i := range look.Scores {
			again := l.Find(look.Scores[i].Entry)
			if again.By == e.By && again.Stamp > e.Stamp && again.Score.Character == e.Score.Character {
				return true
			}
		}
	}
	return false
}

// takenBack is the entry that takes an entry back, or undoes it, and stands; nil: there is none.
func (l *Log) takenBack(id string) *Entry {
	for i := range l.Entries {
		if e := &l.Entries[i]; (e.Kind == KindWithdraw || e.Kind == KindUndo) && e.Entry == id && !l.undone[e.ID] {
			return e
		}
	}
	return nil
}
