package book

import (
	"cmp"
	"context"
	"crypto/sha256"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/oklog/ulid/v2"

	"palethicket/core/tallysheet"
	"palethicket/core/tree/answer"
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
	Writer  string         `json:"writer,omitempty" doc:"Who wrote it, where that is not who keys it in" maxLength:"80"`
	Age     string         `json:"age,omitempty" doc:"Of the tree, as it was written" enum:"young,mature,old,"`
	Pairs   *int           `json:"pairs,omitempty" doc:"Nodes counted that show a pair" minimum:"0" maximum:"200"`
	Singles *int           `json:"singles,omitempty" doc:"Nodes counted that show one bud or twig" minimum:"0" maximum:"200"`
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
	r := &keyedRows{sheet: k, looks: map[string]string{}}
	counted := k.counted()
	for i, a := range k.Answers {
		row := layout.Row(a.Character)
		switch {
		case counted != nil && a.Character == counted.Character: // a count says more
			continue
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
		r.add(row.From, score)
	}
	if c := b.shelf.Load().flora.Character(arrangement); counted != nil && c == nil {
		wrong = append(wrong, &FieldError{"pairs", "this flora has no arrangement to count: leave pairs and singles empty"})
	} else if counted != nil {
		r.add(answer.From(c), counted)
	}
	if len(wrong) > 0 {
		return nil, wrong
	}
	if len(r.entries) == 0 {
		return nil, ErrNothingWritten
	}
	if k.Age != "" {
		r.entries = append(r.entries, logbook.Entry{ID: k.idOf("age"), Kind: logbook.KindFacts, By: k.By, Day: k.Day,
			Facts: &logbook.SetFacts{Age: &k.Age}})
	}
	return r.entries, nil
}

// arrangement is the character whose nodes a sheet has room to count.
const arrangement = "twig.arrangement"

// counted is the score of the nodes that were counted, or nil.
func (k *KeyedSheet) counted() *record.Score {
	if k.Pairs == nil && k.Singles == nil {
		return nil
	}
	count := func(n *int) int {
		if n == nil {
			return 0
		}
		return *n
	}
	pairs := count(k.Pairs)
	nodes := pairs + count(k.Singles)
	if nodes == 0 {
		return nil
	}
	return &record.Score{Character: arrangement, Pairs: &pairs, Nodes: &nodes}
}

// keyedRows are the looks and scores of a sheet.
type keyedRows struct {
	sheet   *KeyedSheet
	looks   map[string]string // by where they are from
	entries []logbook.Entry
}

func (r *keyedRows) add(from string, score *record.Score) {
	k := r.sheet
	if r.looks[from] == "" {
		r.looks[from] = k.idOf("look " + from)
		e := logbook.Entry{ID: r.looks[from], Kind: logbook.KindLook, By: k.By, From: from, Day: k.Day}
		if len(r.looks) == 1 {
			e.Note = k.note()
		}
		r.entries = append(r.entries, e)
	}
	r.entries = append(r.entries, logbook.Entry{ID: k.idOf("score " + score.Character), Kind: logbook.KindScore, By: k.By, Day: k.Day,
		Look: r.looks[from], Score: score})
}

// note is what was noted, and who wrote the sheet where somebody else keys it in.
func (k *KeyedSheet) note() string {
	writer := strings.TrimSpace(k.Writer)
	if writer == "" || writer == k.By {
		return k.Note
	}
	return strings.TrimSpace("Written by " + writer + ". " + k.Note)
}

// UndoKeyed undoes what somebody keyed in of one sheet, by the sheet's id: all of it. A tree that the sheet started, and nobody
// has looked at since, is set aside.
func (b *Book) UndoKeyed(ctx context.Context, sheetID, tree, by string) (*TreeView, error) {
	if err := checkID(sheetID); err != nil {
		return nil, err
	}
	k := &KeyedSheet{NewTree: NewTree{ID: sheetID}}
	made := map[string]bool{k.idOf("age"): true}
	for from := range record.Belonging {
		made[k.idOf("look "+from)] = true
	}
	return b.pressed(ctx, tree, func(s *sheet) error {
		undone := 0
		for _, e := range slices.Clone(s.log.Entries) {
			if !made[e.ID] || s.log.Undone(e.ID) {
				continue
			}
			undone++
			if err := b.enter(ctx, s, logbook.Entry{ID: newID(), Kind: logbook.KindUndo, By: by, Entry: e.ID}, ""); err != nil {
				return err
			}
		}
		if undone == 0 {
			return &FieldError{"id", "nothing of this sheet stands at " + s.tree.Tag + ": it was undone already, or keyed in for another tree"}
		}
		if s.tree.ID != sheetID || len(s.log.Looks) > 0 || len(s.log.Photos) > 0 || s.log.Name() != nil {
			return nil
		}
		aside := true
		return b.enter(ctx, s, logbook.Entry{ID: newID(), Kind: logbook.KindFacts, By: by, Facts: &logbook.SetFacts{Aside: &aside}}, "")
	})
}

// idOf is the id of a part of a sheet: the same for the same sheet.
func (k *KeyedSheet) idOf(part string) string {
	id := ulid.MustParseStrict(k.ID)
	sum := sha256.Sum256([]byte(k.ID + part))
	copy(id[6:], sum[:10])
	return id.String()
}
