package logbook

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"github.com/oklog/ulid/v2"

	"palethicket/core/tree/record"
)

// needs is what an entry of each kind must say: the field, and what it is for.
var needs = map[Kind]struct {
	field, what string
	lacks       func(*Entry) bool
}{
	KindStart:    {"start", "where the tree stands", func(e *Entry) bool { return e.Start == nil }},
	KindMove:     {"move", "where the tree is", func(e *Entry) bool { return e.Move == nil }},
	KindFacts:    {"facts", "the facts it sets", func(e *Entry) bool { return e.Facts == nil }},
	KindLook:     {"from", "where the look came from", func(e *Entry) bool { return e.From == "" }},
	KindScore:    {"score", "the score", func(e *Entry) bool { return e.Score == nil }},
	KindPhoto:    {"photo", "the photograph", func(e *Entry) bool { return e.Photo == nil }},
	KindWithdraw: {"entry", "the entry it takes back", func(e *Entry) bool { return e.Entry == "" }},
	KindUndo:     {"entry", "the entry it undoes", func(e *Entry) bool { return e.Entry == "" }},
	KindName: {"name", "the name given", func(e *Entry) bool {
		return e.Name == nil || e.Name.Name == "" && e.Name.Rank != Undetermined
	}},
	KindNote:  {lacks: func(*Entry) bool { return false }},
	KindVisit: {"walk", "the visit", func(e *Entry) bool { return e.Walk == nil }},
	KindLand:  {"land", "the tract or stand", func(e *Entry) bool { return e.Land == nil || e.Land.Tract == "" }},
	KindPlot:  {"plot", "the sample point", func(e *Entry) bool { return e.Plot == nil }},
	KindMarks: {"marks", "what was marked", func(e *Entry) bool { return e.Marks == nil }},
	KindList:  {"list", "the list", func(e *Entry) bool { return e.List == nil || e.List.Name == "" }},
}

// Check says what is wrong with an entry's shape, as the field and the reason;
// what it says about trees is checked by [record.Resolve].
func (e *Entry) Check() error {
	if !isID(e.ID) {
		return &record.FieldError{Field: "id", Message: "want a ULID of 26 characters"}
	}
	need, known := needs[e.Kind]
	switch {
	case !known:
		return &record.FieldError{Field: "kind", Message: fmt.Sprintf("unknown kind %q; use one of %v", e.Kind, Kinds)}
	case e.Kind == KindScore && e.Look == "":
		return &record.FieldError{Field: "look", Message: "a score entry needs the look it belongs to"}
	case need.lacks(e):
		return &record.FieldError{Field: need.field, Message: fmt.Sprintf("a %s entry needs %s", e.Kind, need.what)}
	case e.Day != "":
		if _, err := record.ParseDay(e.Day); err != nil {
			return &record.FieldError{Field: "day", Message: err.Error()}
		}
	}
	if err := e.Measured.check(e); err != nil {
		return err
	}
	return e.checkKind()
}

// checkKind says what is wrong with what an entry of its kind says.
func (e *Entry) checkKind() error {
	switch e.Kind {
	case KindPlot:
		return e.Plot.check()
	case KindMarks:
		return e.Marks.check()
	case KindPhoto:
		return e.Photo.check()
	case KindName:
		return e.Name.check()
	case KindFacts:
		if _, object := e.Facts.Extra.(map[string]any); e.Facts.Extra != nil && !object && !rawObject(e.Facts.Extra) {
			return &record.FieldError{Field: "facts.extra", Message: "want an object of further fields"}
		}
		if deeper(e.Facts.Extra, extraDepth) {
			return &record.FieldError{Field: "facts.extra", Message: fmt.Sprintf("further fields are nested more than %d deep", extraDepth)}
		}
		return e.Facts.Position.check()
	}
	return nil
}

// extraDepth is how deep further fields may be nested: SQLite reads no JSON deeper than 1000.
const extraDepth = 20

// deeper says whether a value holds more than so many objects and arrays in one another.
func deeper(v any, most int) bool {
	if raw, is := v.(json.RawMessage); is {
		var read any
		if json.Unmarshal(raw, &read) != nil {
			return true
		}
		v = read
	}
	inside := func(v any) bool { return deeper(v, most-1) }
	switch v := v.(type) {
	case map[string]any:
		return most == 0 || slices.ContainsFunc(slices.Collect(maps.Values(v)), inside)
	case []any:
		return most == 0 || slices.ContainsFunc(v, inside)
	}
	return false
}

// check refuses a name of no rank, and what confirms nothing.
func (n *Naming) check() error {
	switch {
	case !slices.Contains(nameRanks, n.Rank):
		return &record.FieldError{Field: "name.rank", Message: fmt.Sprintf("%q is no rank of a name; use one of %v", n.Rank, nameRanks)}
	case n.Hedge != "" && !slices.Contains(Hedges, n.Hedge):
		return &record.FieldError{Field: "name.hedge", Message: fmt.Sprintf("%q hedges no name; use one of %v", n.Hedge, Hedges)}
	case n.Hedge != "" && (n.Seen != "" || n.Rank == Undetermined):
		return &record.FieldError{Field: "name.hedge", Message: "hedged is what a tree was named in winter"}
	case n.Seen == "":
		return nil
	case !slices.Contains(Confirms.IDs(), n.Seen):
		return &record.FieldError{Field: "name.seen", Message: fmt.Sprintf("%q confirms no name; use one of %v", n.Seen, Confirms.IDs())}
	case n.Rank == Undetermined:
		return &record.FieldError{Field: "name.seen", Message: "say which tree it was seen to be"}
	}
	return nil
}

// nameRanks are those that a name is given at.
var nameRanks = []string{"species", "group", "genus", "family", Undetermined}

// Confirms lists what a name is confirmed by, once winter is over.
var Confirms = record.Terms{
	{ID: "leaf", Words: "seen in leaf"}, {ID: "flower", Words: "seen in flower"}, {ID: "fruit", Words: "seen in fresh fruit"},
}

// How a name is hedged, as is common practice in collections.
const (
	Cf      = "cf." // probable and no more
	InDoubt = "?"
)

// Hedges lists how a name is hedged.
var Hedges = []string{Cf, InDoubt}

// digestLen is that of SHA-256 in hexadecimal.
const digestLen = 64

// check refuses a photograph whose file could not be found, or would be taken for
// something else: its digest names the file, its kind says what it is sent as.
func (p *Photo) check() error {
	switch {
	case len(p.Digest) != digestLen || strings.Trim(p.Digest, "0123456789abcdef") != "":
		return &record.FieldError{Field: "photo.digest", Message: "want SHA-256 in 64 hexadecimal digits"}
	case p.Kind != "image/jpeg" && p.Kind != "image/png":
		return &record.FieldError{Field: "photo.kind", Message: "want image/jpeg or image/png"}
	}
	return nil
}

// isID says whether a text is a ULID as it is written.
func isID(text string) bool {
	u, err := ulid.ParseStrict(text)
	return err == nil && u.String() == text
}

// rawObject says whether fields that came with a file are an object.
func rawObject(extra any) bool {
	raw, ok := extra.(json.RawMessage)
	return ok && len(raw) > 1 && raw[0] == '{'
}

// Undetermined is the rank of a tree that was looked at and left without a name.
const Undetermined = "undetermined"

// errNoLook stands in the [*record.FieldError] of what refers to a look that the
// tree does not have.
const errNoLook = "the tree has no such look"

// Fits says whether an entry that somebody now makes can be added to what stands.
func (l *Log) Fits(e *Entry) error {
	if err := l.Refers(e); err != nil {
		return err
	}
	switch {
	case e.Look != "" && l.look(e.Look) == nil:
		return &record.FieldError{Field: "look", Message: errNoLook + " any more; it was taken back"}
	case e.Kind == KindWithdraw && !l.has(e.Entry):
		return &record.FieldError{Field: "entry", Message: "nothing of that id stands in this tree; it may have been withdrawn already"}
	case e.Kind == KindUndo && l.undone[e.Entry]:
		return &record.FieldError{Field: "entry", Message: undoneWords}
	}
	if err := l.builtOn(e); err != nil {
		return err
	}
	return l.Allows(e)
}

// Refers says whether what an entry refers to is in the log, standing or not: what
// is asked of entries that were made elsewhere and come later.
func (l *Log) Refers(e *Entry) error {
	if begun := len(l.Entries) > 0; begun == (e.Kind == KindStart) {
		if begun {
			return &record.FieldError{Field: "kind", Message: "the tree was started already"}
		}
		return &record.FieldError{Field: "kind", Message: "the tree was not started yet"}
	}
	if e.Look != "" {
		if look := l.Find(e.Look); look == nil || look.Kind != KindLook {
			return &record.FieldError{Field: "look", Message: errNoLook}
		}
	}
	if e.Kind == KindMarks {
		if put := l.Find(e.Marks.Photo); put == nil || put.Kind != KindPhoto {
			return &record.FieldError{Field: "marks.photo", Message: "the tree has no such photograph"}
		}
	}
	if e.Kind == KindWithdraw || e.Kind == KindUndo {
		if l.Find(e.Entry) == nil {
			return &record.FieldError{Field: "entry", Message: "the tree has no such entry"}
		}
	}
	return nil
}

func (st *State) has(id string) bool {
	return slices.ContainsFunc(st.Names, func(g Given) bool { return g.Entry == id && !g.Back }) || slices.Contains(st.Photos, id) ||
		slices.ContainsFunc(st.Looks, func(l Look) bool {
			return l.ID == id || slices.ContainsFunc(l.Scores, func(s Score) bool { return s.Entry == id })
		})
}
