package exchange

import (
	"crypto/sha256"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"time"

	"github.com/oklog/ulid/v2"

	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
)

// Log makes a tree's id and log of what a file says of it. Its entries are of the day
// that the file says, and have no stamps: they come after what the book has. Ids follow from what
// is said, so that the same file read twice makes the same entries, and a book
// that passes over what it has is not doubled. The tree needs its date.
func (t *Tree) Log() (id string, log []logbook.Entry, err error) {
	at, day := t.Date.Add(12*time.Hour), t.Date
	n := 0
	add := func(e logbook.Entry, by string) (string, error) {
		n++
		e.By, e.Day = by, day.Format(time.DateOnly)
		body, err := json.Marshal(e)
		if err != nil {
			return "", err
		}
		e.ID = derived(at.Add(time.Duration(n)*time.Second), t.Tract, t.Tag, fmt.Sprint(n), string(body))
		log = append(log, e)
		return e.ID, nil
	}
	id = derived(at, t.Tract, t.Tag)
	if _, err := add(logbook.Entry{Kind: logbook.KindFacts, Facts: t.facts()}, t.Observer); err != nil {
		return "", nil, err
	}
	for _, l := range t.looks() {
		look, err := add(logbook.Entry{Kind: logbook.KindLook, From: l.From}, t.Observer)
		if err != nil {
			return "", nil, err
		}
		for i := range l.Scores {
			if _, err := add(logbook.Entry{Kind: logbook.KindScore, Look: look, Score: &l.Scores[i]}, t.Observer); err != nil {
				return "", nil, err
			}
		}
	}
	if t.Rank != "" {
		if !t.Named.IsZero() {
			day = t.Named
		}
		if t.Named.After(at) {
			at = t.Named.Add(12 * time.Hour)
		}
		naming := &logbook.Naming{Rank: t.Rank, Name: t.Name, Why: t.Why, Seen: t.Seen, Hedge: t.Hedge}
		if _, err := add(logbook.Entry{Kind: logbook.KindName, Name: naming}, or(t.NamedBy, t.Observer)); err != nil {
			return "", nil, err
		}
	}
	return id, log, nil
}

func (t *Tree) facts() *logbook.SetFacts {
	f := &logbook.SetFacts{Position: t.Position, Among: &logbook.Among{Region: t.Region, List: t.List}}
	set := func(to **string, value string) {
		if value != "" {
			*to = &value
		}
	}
	set(&f.Age, t.Age)
	set(&f.Vigour, t.Vigour)
	set(&f.Remarks, t.Remarks)
	if t.Height > 0 {
		f.Height = &t.Height
	}
	if r := t.Record; r != nil {
		if r.Extra != nil {
			f.Extra = r.Extra
		}
		set(&f.Foliage, r.Foliage)
		set(&f.Snow, r.Snow)
		if r.Beyond != nil {
			f.Beyond = &r.Beyond
		}
		if r.Flat {
			f.Flat = &r.Flat
		}
	}
	return f
}

// looks are those of the record, and one for a diameter that no look has.
func (t *Tree) looks() []record.Look {
	var looks []record.Look
	if t.Record != nil {
		looks = t.Record.Looks
	}
	for _, l := range looks {
		for _, s := range l.Scores {
			if s.Character == dbh {
				return looks
			}
		}
	}
	if t.DBH > 0 {
		looks = append(looks, record.Look{From: "tree", Scores: []record.Score{{Character: dbh, Value: &t.DBH}}})
	}
	return looks
}

const dbh = "form.dbh"

// derived is a ULID of a time, 1970 at the earliest, whose random part is a digest.
func derived(at time.Time, of ...string) string {
	sum := sha256.New()
	for _, part := range of {
		var size [8]byte
		binary.BigEndian.PutUint64(size[:], uint64(len(part)))
		sum.Write(size[:])
		sum.Write([]byte(part))
	}
	var id ulid.ULID
	if err := id.SetTime(uint64(max(at.UnixMilli(), 0))); err != nil {
		panic(err) // dates are checked when a line is read
	}
	copy(id[6:], sum.Sum(nil))
	return id.String()
}
