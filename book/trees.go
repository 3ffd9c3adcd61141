package book

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/oklog/ulid/v2"

	"palethicket/core/tree/answer"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/store"
)

// TreeView is a tree with all that stands of it and what it comes to.
type TreeView struct {
	Tree   store.Tree       `json:"tree"`
	Facts  logbook.Standing `json:"facts"`
	Looks  []LookView       `json:"looks"`
	Names  []NameView       `json:"names" doc:"Names given and not taken back, newest first"`
	Notes  []string         `json:"notes"`
	Doubt  string           `json:"doubt" doc:"Why the evidence does not carry the last name given, or empty"`
	Result answer.Result    `json:"result"`
	Last   time.Time        `json:"last" doc:"When the last entry was made"`
}

// LookView is a look, its scores and what came of it.
type LookView struct {
	ID     string      `json:"id"`
	From   string      `json:"from"`
	Note   string      `json:"note"`
	Scores []ScoreView `json:"scores"`
	answer.LookResult
}

// ScoreView is a score that stands.
type ScoreView struct {
	Entry string `json:"entry" doc:"Id of the entry that made it, for withdrawing it"`
	record.Score
}

// NameView is a name given and how the tree stood then.
type NameView struct {
	Entry string `json:"entry" doc:"Id of the entry that gave it, for taking it back"`
	logbook.Naming
	By string    `json:"by"`
	At time.Time `json:"at"`
}

// NewTree starts a tree.
type NewTree struct {
	ID     string `json:"id" doc:"ULID, made by who starts the tree" minLength:"26" maxLength:"26"`
	Tag    string `json:"tag" doc:"What is written on its tag" minLength:"1" maxLength:"40" pattern:"\\S"`
	Tract  string `json:"tract" minLength:"1" maxLength:"80" pattern:"\\S"`
	Stand  string `json:"stand" minLength:"1" maxLength:"80" pattern:"\\S"`
	Region string `json:"region,omitempty" default:"eastern-north-america"`
}

// AddTree starts a tree. Starting the same tree again changes nothing.
func (b *Book) AddTree(ctx context.Context, n NewTree) error {
	if _, err := ulid.ParseStrict(n.ID); err != nil {
		return &record.FieldError{Field: "id", Message: "want a ULID of 26 characters"}
	}
	if _, err := record.Resolve(b.Shelf().Flora, &record.Record{Region: n.Region}); err != nil {
		return err
	}
	t := store.Tree{ID: n.ID, Tag: strings.TrimSpace(n.Tag), Region: n.Region, Tract: strings.TrimSpace(n.Tract), Stand: strings.TrimSpace(n.Stand)}
	first, err := b.weather(ctx, t.Tract)
	if err != nil {
		return err
	}
	return b.Store.AddTree(ctx, t, first...)
}

// weather is what the day's visit to a tract says of the snow, so that it is
// entered once a day and not at every tree.
func (b *Book) weather(ctx context.Context, tract string) ([]logbook.Entry, error) {
	visits, err := b.Store.Visits(ctx, tract)
	if err != nil || len(visits) == 0 {
		return nil, err
	}
	today := visits[0] // the latest
	if today.Day != b.now().Format(time.DateOnly) || today.Snow == "" || today.Snow == "none" {
		return nil, nil
	}
	return []logbook.Entry{{ID: newID(), Kind: logbook.KindFacts, By: today.Crew, Facts: &logbook.Facts{Snow: &today.Snow}}}, nil
}

// MoveTree gives a tree another tag or stand, and notes where it was.
func (b *Book) MoveTree(ctx context.Context, id, tag, tract, stand, by string) error {
	t, err := b.Store.Tree(ctx, id)
	if err != nil {
		return err
	}
	if t.Tag == tag && t.Tract == tract && t.Stand == stand {
		return nil
	}
	if err := b.Store.MoveTree(ctx, id, tag, tract, stand); err != nil {
		return err
	}
	return b.Store.Append(ctx, id, nil, &logbook.Entry{ID: newID(), Kind: logbook.KindNote, By: by,
		Note: fmt.Sprintf("Was %s in %s, %s.", t.Tag, t.Stand, t.Tract)})
}

// AddEntry adds an entry to a tree's log once it is checked against the tree as
// it stands. Adding it again, as after a lost answer, changes nothing.
func (b *Book) AddEntry(ctx context.Context, tree string, e *logbook.Entry) error {
	if err := e.Check(); err != nil {
		return err
	}
	return b.Store.Append(ctx, tree, b.allow, e)
}

// allow lets an entry in. One that was sent again was checked when it first
// came.
func (b *Book) allow(t store.Tree, log []logbook.Entry, e *logbook.Entry) error {
	if sent(log, e) {
		return nil
	}
	return b.checkEntry(t, log, e)
}

// Undo undoes an entry of a tree by further entries.
func (b *Book) Undo(ctx context.Context, tree, entry, by string) error {
	log, err := b.Store.Entries(ctx, tree)
	if err != nil {
		return err
	}
	undo, err := logbook.Undo(log, entry)
	if err != nil {
		return err
	}
	ids := ulid.Monotonic(ulid.DefaultEntropy(), 0)
	now := ulid.Timestamp(b.now())
	logbook.Number(undo, func() string { return ulid.MustNew(now, ids).String() })
	added := make([]*logbook.Entry, len(undo))
	for i := range undo {
		undo[i].By, added[i] = by, &undo[i]
	}
	return b.Store.Append(ctx, tree, nil, added...)
}

// sent says whether the log already has the entry, and takes over what the
// book wrote into it then.
func sent(log []logbook.Entry, e *logbook.Entry) bool {
	for _, old := range log {
		if old.ID == e.ID && old.Kind == e.Kind {
			if e.Name != nil && old.Name != nil {
				e.Name.Posterior, e.Name.Leader = old.Name.Posterior, old.Name.Leader
			}
			return true
		}
	}
	return false
}

// checkEntry refuses an entry that does not fit the tree as it stands.
func (b *Book) checkEntry(t store.Tree, log []logbook.Entry, e *logbook.Entry) error {
	before := logbook.Replay(log)
	if err := before.Fits(e); err != nil {
		return err
	}
	switch e.Kind {
	case logbook.KindScore:
		return b.checkRecord("score", &record.Record{Region: t.Region,
			Looks: []record.Look{{From: "tree", Scores: []record.Score{*e.Score}}}})
	case logbook.KindLook:
		return b.checkRecord("from", &record.Record{Region: t.Region, Looks: []record.Look{{From: e.From}}})
	case logbook.KindFacts:
		return b.checkRecord("facts", logbook.Replay([]logbook.Entry{*e}).Record(t.Tag, t.Region))
	case logbook.KindName:
		return b.checkName(t, before, e.Name)
	}
	return nil
}

// checkRecord checks a small record made from an entry, and names the wrong
// field as it stands in the entry.
func (b *Book) checkRecord(field string, rec *record.Record) error {
	_, err := record.Resolve(b.Shelf().Flora, rec)
	var errs record.Errors
	if errors.As(err, &errs) {
		for _, e := range errs {
			e.Field = fieldInEntry(field, e.Field)
		}
	}
	return err
}

// fieldInEntry turns a field of the small record made from an entry into the
// entry's own: looks[0].scores[0].value is score.value.
func fieldInEntry(entry, field string) string {
	if _, rest, ok := strings.Cut(field, "scores[0]"); ok {
		return entry + rest
	}
	if strings.HasPrefix(field, "looks[0]") {
		return entry
	}
	return entry + "." + field
}

// checkName refuses a name that is not of the pool, and writes down how the
// tree stood when it was named.
func (b *Book) checkName(t store.Tree, st *logbook.State, n *logbook.Naming) error {
	rec := st.Record(t.Tag, t.Region)
	res, err := b.engine().Identify(rec, answer.Options{})
	if err != nil {
		return err
	}
	n.Leader, n.Posterior = res.Ranking[0].Taxon, 0
	if n.Rank == "undetermined" {
		return nil
	}
	share, err := b.engine().Share(res, rec.Region, n.Rank, n.Name)
	if err != nil {
		return &record.FieldError{Field: "name.name", Message: err.Error()}
	}
	n.Posterior = share
	return nil
}

// View replays a tree's log and weighs what stands.
func (b *Book) View(ctx context.Context, id string, opt answer.Options) (*TreeView, error) {
	t, log, err := b.tree(ctx, id)
	if err != nil {
		return nil, err
	}
	st := logbook.Replay(log)
	rec := st.Record(t.Tag, t.Region)
	res, err := b.engine().Identify(rec, opt)
	if err != nil {
		return nil, fmt.Errorf("tree %s: %w", t.Tag, err)
	}
	v := &TreeView{Tree: t, Facts: st.Facts, Looks: []LookView{}, Names: []NameView{}, Notes: st.Notes, Result: *res, Last: st.Last}
	if v.Notes == nil {
		v.Notes = []string{}
	}
	for i, l := range st.Looks {
		lv := LookView{ID: l.ID, From: l.From, Note: l.Note, Scores: []ScoreView{}, LookResult: res.Looks[i]}
		for _, sc := range l.Scores {
			lv.Scores = append(lv.Scores, ScoreView{sc.Entry, sc.Score})
		}
		v.Looks = append(v.Looks, lv)
	}
	for i := len(st.Names) - 1; i >= 0; i-- {
		if n := st.Names[i]; !n.Back {
			v.Names = append(v.Names, NameView{n.Entry, n.Naming, n.By, n.At})
		}
	}
	if len(v.Names) > 0 {
		v.Doubt = b.Shelf().doubt(st, res, rec.Region, &v.Names[0].Naming)
	}
	return v, nil
}

// Record gives what stands of a tree as a field record.
func (b *Book) Record(ctx context.Context, id string) (*record.Record, error) {
	t, log, err := b.tree(ctx, id)
	if err != nil {
		return nil, err
	}
	return logbook.Replay(log).Record(t.Tag, t.Region), nil
}

func (b *Book) tree(ctx context.Context, id string) (store.Tree, []logbook.Entry, error) {
	t, err := b.Store.Tree(ctx, id)
	if err != nil {
		return t, nil, err
	}
	log, err := b.Store.Entries(ctx, id)
	return t, log, err
}
