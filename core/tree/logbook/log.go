package logbook

import (
	"bytes"
	"encoding/json"
	"errors"
	"slices"
	"time"

	"palethicket/core/tree/stamp"
)

// Log is a tree's entries in their order, and what stands after them.
type Log struct {
	Entries []Entry
	State
	at     map[string]int  // where an entry stands, by id
	undone map[string]bool // entries that count as never made
}

// NewLog replays entries, whatever order they come in.
func NewLog(entries []Entry) *Log {
	l := &Log{Entries: slices.Clone(entries)}
	for i := range l.Entries {
		l.Entries[i].stamped()
	}
	slices.SortStableFunc(l.Entries, Order)
	l.replay()
	return l
}

// Replay works out what stands after the entries, whatever order they come in.
// Of the scores of one character and zone in one look the last stands, until
// it is withdrawn; withdrawing a look takes its scores with it.
func Replay(entries []Entry) *State { return &NewLog(entries).State }

// Order compares entries by their stamps, and those of one stamp by id.
func Order(a, b Entry) int { return stamp.Compare(a.Stamp, b.Stamp, a.ID, b.ID) }

// Unreckoned is the entry without what a book works out for itself: how the tree stood when
// it was named.
func (e Entry) Unreckoned() Entry {
	if e.Name != nil {
		name := *e.Name
		name.Posterior, name.Leader = 0, ""
		e.Name = &name
	}
	return e
}

// Same says whether another entry says the same, wherever the order has the two. The
// visit of a look may have been filled in meanwhile.
func (e *Entry) Same(again *Entry) bool {
	was, is := e.Unreckoned(), again.Unreckoned()
	was.Stamp, was.Said, is.Stamp, is.Said = "", "", "", ""
	if is.Visit == "" {
		was.Visit = ""
	}
	a, errA := json.Marshal(was)
	b, errB := json.Marshal(is)
	return errors.Join(errA, errB) == nil && bytes.Equal(a, b)
}

// stamped gives an entry without a stamp that of its id.
func (e *Entry) stamped() {
	if e.Stamp == "" {
		e.Stamp = stamp.OfID(e.ID)
	}
}

// replay goes through all entries. Looks come first: a score is of its look wherever
// the order has the two.
func (l *Log) replay() {
	l.State = State{Facts: Facts{Snow: "none", Light: "good", Beyond: []string{}}, gone: map[string]bool{}}
	l.at = make(map[string]int, len(l.Entries))
	for i := range l.Entries {
		l.at[l.Entries[i].ID] = i
	}
	l.undone = l.findUndone()
	for i := range l.Entries { // a withdrawal wins wherever it stands
		if e := &l.Entries[i]; e.Kind == KindWithdraw && !l.undone[e.ID] {
			l.gone[e.Entry] = true
		}
	}
	for i := range l.Entries {
		if e := &l.Entries[i]; e.Kind == KindLook {
			l.apply(e)
		}
	}
	for i := range l.Entries {
		if e := &l.Entries[i]; e.Kind != KindLook {
			l.apply(e)
		}
	}
}

// findUndone finds what counts as never made: what an undoing names that was not
// itself undone. Each entry is decided once, so that a long chain of undoings takes no longer
// than as many other entries.
func (l *Log) findUndone() map[string]bool {
	undoings := map[string][]string{} // of each entry
	for i := range l.Entries {
		if e := &l.Entries[i]; e.Kind == KindUndo {
			undoings[e.Entry] = append(undoings[e.Entry], e.ID)
		}
	}
	undone := map[string]bool{}
	var decide func(id string) bool
	decide = func(id string) bool {
		is, decided := undone[id]
		if !decided {
			undone[id] = false // while its own undoings are decided: entries that undo each other undo nothing
			is = slices.ContainsFunc(undoings[id], func(u string) bool { return !decide(u) })
			undone[id] = is
		}
		return is
	}
	for i := range l.Entries {
		if e := &l.Entries[i]; e.Kind == KindUndo {
			decide(e.Entry)
		}
	}
	return undone
}

// Add puts an entry in its place. Where that is the end, as it mostly is, nothing
// before it is gone through again.
func (l *Log) Add(e Entry) {
	e.stamped()
	at, _ := slices.BinarySearchFunc(l.Entries, e, Order)
	l.Entries = slices.Insert(l.Entries, at, e)
	if at < len(l.Entries)-1 || e.Kind == KindUndo || e.Kind == KindLook && l.refersTo(e.ID) {
		l.replay()
		return
	}
	l.at[e.ID] = at
	l.apply(&l.Entries[at])
}

func (l *Log) refersTo(look string) bool {
	return slices.ContainsFunc(l.Entries, func(e Entry) bool { return e.Look == look })
}

// Find gives the entry with the id, or nil.
func (l *Log) Find(id string) *Entry {
	if at, ok := l.at[id]; ok {
		return &l.Entries[at]
	}
	return nil
}

// Latest is the stamp of the last entry, or the empty one.
func (l *Log) Latest() stamp.Stamp {
	if len(l.Entries) == 0 {
		return ""
	}
	return l.Entries[len(l.Entries)-1].Stamp
}

// At is when what an entry says was so: the day that it tells of, or its look does,
// at noon; else when it was entered.
func (l *Log) At(e *Entry) time.Time {
	day := e.Day
	if look := l.Find(e.Look); day == "" && look != nil {
		day = look.Day
	}
	if noon, err := time.ParseInLocation(time.DateOnly, day, time.Local); day != "" && err == nil {
		return noon.Add(12 * time.Hour)
	}
	return e.Stamp.Time()
}

// Stand says of each entry whether it stands: looks, scores, names and photographs
// that were not taken back or laid over, the rest while it is not undone.
func (l *Log) Stand() map[string]bool {
	ids := map[string]bool{}
	for i := range l.Entries {
		switch e := &l.Entries[i]; e.Kind {
		case KindScore, KindLook:
		case KindPhoto, KindName:
			ids[e.ID] = !l.undone[e.ID] && !l.gone[e.ID]
		default:
			ids[e.ID] = !l.undone[e.ID]
		}
	}
	for _, look := range l.Looks {
		ids[look.ID] = true
		for _, s := range look.Scores {
			ids[s.Entry] = true
		}
	}
	return ids
}
