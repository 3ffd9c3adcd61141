package book

import (
	"cmp"
	"context"
	"crypto/sha256"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/oklog/ulid/v2"

	"palethicket/core/tallysheet"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/store"
)

// KeyedSheet is one tree of a tally sheet, as it was keyed in: letters, and nothing else.
type KeyedSheet struct {
	NewTree
	Route   string         `json:"route" doc:"Of the sheet" maxLength:"40"`
	Room    int            `json:"room" doc:"How many trees the sheet has room for: 1, 4 or 10"`
	Code    string         `json:"code" doc:"That stands at the foot of the sheet" maxLength:"8"`
	Day     string         `json:"day,omitempty" doc:"When it was written, as 2026-11-29; absent: today" maxLength:"10"`
	Note    string         `json:"note,omitempty" maxLength:"2000"`
	Again   bool           `json:"again,omitempty" doc:"Another look, though the tree has these answers for that day; absent: refused"`
	Answers []KeyedAnswers `json:"answers" maxItems:"200"`
}

// KeyedAnswers is what stands in one row.
type KeyedAnswers struct {
	Character string `json:"character" maxLength:"60"`
	Written   string `json:"written" maxLength:"40" doc:"Its letters, or a number"`
}

// ErrNothingWritten is given for a sheet without an answer.
var ErrNothingWritten = &FieldError{"answers", "nothing was keyed in: write at least one letter"}

// KeyIn enters one tree of a tally sheet: all of it or nothing. A tree of the tract that has the tag already gets the looks; else it is
// started. Sent again, it changes nothing.
func (b *Book) KeyIn(ctx context.Context, k *KeyedSheet) (*TreeView, error) {
	at, err := placeOf(k.Tag, k.Tract, k.Stand)
	if err != nil {
		return nil, err
	}
	if err := checkID(k.ID); err != nil {
		return nil, err
	}
	entries, err := b.keyed(k)
	if err != nil {
		return nil, err
	}
	return b.began(ctx, func(tx *store.Tx) (*sheet, error) { return b.keyInto(ctx, tx, k, at, entries) })
}

func (b *Book) keyInto(ctx context.Context, tx *store.Tx, k *KeyedSheet, at logbook.Place, entries []logbook.Entry) (*sheet, error) {
	s, err := b.keyedTree(ctx, tx, k, at)
	if err != nil {
		return nil, err
	}
	s.added = nil // it is written already
	if !k.Again && s.keyedBefore(entries, b.today()) {
		return s, &FieldError{"again", s.tree.Tag + " already has all these answers for that day. Was this sheet keyed in before?"}
	}
	for i := range entries {
		if err := b.enter(ctx, s, entries[i], ""); err != nil {
			return s, s.inRow(&entries[i], err)
		}
	}
	return s, b.write(ctx, tx, s, "")
}

// keyedBefore says whether the same person's looks of the same day have all scores of a sheet, under other ids.
func (s *sheet) keyedBefore(entries []logbook.Entry, today string) bool {
	key := func(e *logbook.Entry, day string, sc record.Score) string {
		if sc.Typed != "" { // what was made of it was added since
			sc.Value, sc.Readings, sc.How, sc.Unit = nil, nil, "", ""
		}
		text, _ := json.Marshal(sc) // a score can be written
		return e.By + cmp.Or(e.Day, day) + string(text)
	}
	has, looks := map[string]bool{}, map[string]*logbook.Entry{}
	for _, l := range s.log.Looks {
		e := s.log.Find(l.ID)
		for i := range l.Scores {
			has[key(e, s.log.At(e).Local().Format(time.DateOnly), l.Scores[i].Score)] = true
		}
	}
	scores := 0
	for i := range entries {
		e := &entries[i]
		switch {
		case s.log.Find(e.ID) != nil: // sent again
			return false
		case e.Kind == logbook.KindLook:
			looks[e.ID] = e
		case e.Kind == logbook.KindScore && looks[e.Look] != nil:
			if scores++; !has[key(looks[e.Look], today, *e.Score)] {
				return false
			}
		}
	}
	return scores > 0
}

// inRow says in which row of a sheet it is that something is wrong.
func (s *sheet) inRow(e *logbook.Entry, err error) error {
	fields := FieldsOf(err)
	if len(fields) == 0 || e.Score == nil {
		return err
	}
	c := s.flora.Character(e.Score.Character)
	return &FieldError{"answers." + c.ID, c.Name + ": " + fields[0].Message}
}

// keyedTree opens the tree that has the tag, or starts one: a tree that was set aside leaves its tag free.
func (b *Book) keyedTree(ctx context.Context, tx *store.Tx, k *KeyedSheet, at logbook.Place) (*sheet, error) {
	if err := settle(ctx, tx.Reader, &at.Tract, &at.Stand, k.New); err != nil {
		return nil, err
	}
	has, err := tx.TreeByTag(ctx, at.Tract, at.Tag)
	if err == nil {
		s, err := b.open(ctx, tx.Reader, has.ID)
		if err != nil || !s.log.Facts.Aside {
			return s, err
		}
		s.close()
	} else if !errors.Is(err, store.ErrNoTree) {
		return nil, err
	}
	s, err := b.start(ctx, tx, k.NewTree, at)
	if err == nil {
		s.begun = true
	}
	return s, err
}

// keyed reads a sheet into the looks and scores that it is, with ids that follow from the sheet's own. Whatever is wrong
// with any row is said at once.
func (b *Book) keyed(k *KeyedSheet) ([]logbook.Entry, error) {
	layout, err := b.TallySheet(Among{Region: k.Region, List: k.List}, k.Route, k.Room)
	if err != nil {
		return nil, err
	}
	if k.Code != layout.Code {
		return nil, &FieldError{
			"code",
			fmt.Sprintf("this sheet is %s, and what was chosen is %s: its letters differ; choose the list, the route "+
				"and the number of trees that stand on it", k.Code, layout.Code),
		}
	}
	var wrong FieldErrors
	var out []logbook.Entry
	look := map[string]string{}
	for i, a := range k.Answers {
		row := layout.Row(a.Character)
		switch {
		case row == nil:
			wrong = append(wrong, &FieldError{fmt.Sprintf("answers[%d]", i), "the sheet has no row of " + a.Character})
			continue
		case tallysheet.Blank(a.Written):
			continue
		}
		score, err := row.Read(a.Written)
		if err != nil {
			wrong = append(wrong, &FieldError{fmt.Sprintf("answers[%d].written", i), err.Error()})
			continue
		}
		if look[row.From] == "" {
			look[row.From] = k.idOf("look " + row.From)
			e := logbook.Entry{ID: look[row.From], Kind: logbook.KindLook, By: k.By, From: row.From, Day: k.Day}
			if len(look) == 1 {
				e.Note = k.Note
			}
			out = append(out, e)
		}
		out = append(out, logbook.Entry{ID: k.idOf("score " + a.Character), Kind: logbook.KindScore, By: k.By, Day: k.Day,
			Look: look[row.From], Score: score})
	}
	if len(wrong) > 0 {
		return nil, wrong
	}
	if len(out) == 0 {
		return nil, ErrNothingWritten
	}
	return out, nil
}

// idOf is the id of a part of a sheet: the same for the same sheet.
func (k *KeyedSheet) idOf(part string) string {
	id := ulid.MustParseStrict(k.ID)
	sum := sha256.Sum256([]byte(k.ID + part))
	copy(id[6:], sum[:10])
	return id.String()
}
