package logbook

import (
	"errors"
	"fmt"
	"slices"

	"github.com/oklog/ulid/v2"

	"palethicket/core/tree/record"
)

// Check says what is wrong with an entry's shape, as the field and the reason;
// what it says about trees is checked by [record.Resolve]. A case for each kind.
func (e *Entry) Check() error {
	if _, err := ulid.ParseStrict(e.ID); err != nil {
		return &record.FieldError{Field: "id", Message: "want a ULID of 26 characters"}
	}
	missing := func(field, what string) error {
		return &record.FieldError{Field: field, Message: fmt.Sprintf("a %s entry needs %s", e.Kind, what)}
	}
	switch e.Kind {
	case KindFacts:
		if e.Facts == nil {
			return missing("facts", "the facts it sets")
		}
		return e.Facts.Position.check()
	case KindLook:
		if e.From == "" {
			return missing("from", "where the look came from")
		}
	case KindScore:
		if e.Look == "" {
			return missing("look", "the look it belongs to")
		}
		if e.Score == nil {
			return missing("score", "the score")
		}
	case KindWithdraw:
		if e.Entry == "" {
			return missing("entry", "the entry it takes back")
		}
	case KindName:
		if e.Name == nil || e.Name.Name == "" && e.Name.Rank != Undetermined {
			return missing("name", "the name given")
		}
	case KindNote:
	default:
		return &record.FieldError{Field: "kind", Message: fmt.Sprintf("unknown kind %q; use one of %v", e.Kind, Kinds)}
	}
	return nil
}

// Undetermined is the rank of a tree that was looked at and left without a name.
const Undetermined = "undetermined"

// ErrNoLook is given by [Log.Undo] for a withdrawal whose look cannot be found, and
// stands in the [*record.FieldError] of a score whose look the tree does not have.
var ErrNoLook = errors.New("the tree has no such look")

// Fits says whether an entry can be added to what stands.
func (st *State) Fits(e *Entry) error {
	switch {
	case e.Kind == KindScore && st.look(e.Look) == nil:
		return &record.FieldError{Field: "look", Message: ErrNoLook.Error() + "; it may have been withdrawn"}
	case e.Kind == KindWithdraw && !st.has(e.Entry):
		return &record.FieldError{Field: "entry", Message: "nothing of that id stands in this tree; it may have been withdrawn already"}
	}
	return nil
}

func (st *State) has(id string) bool {
	return slices.ContainsFunc(st.Names, func(g Given) bool { return g.Entry == id && !g.Back }) ||
		slices.ContainsFunc(st.Looks, func(l Look) bool {
			return l.ID == id || slices.ContainsFunc(l.Scores, func(s Score) bool { return s.Entry == id })
		})
}
