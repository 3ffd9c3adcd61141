package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"strings"

	"palethicket/core/tree/logbook"
	"palethicket/core/tree/stamp"
)

// line is an entry as the table has it: its order stands in columns of its own, the
// rest in its body.
type line struct {
	Seq   int            `db:"seq"`
	Stamp string         `db:"stamp"`
	Said  sql.NullString `db:"said"`
	Tree  sql.NullString `db:"tree_id"`
	Body  string         `db:"body"`
}

func (l *line) entry() (e logbook.Entry, err error) {
	err = json.Unmarshal([]byte(l.Body), &e)
	e.Stamp, e.Said = stamp.Stamp(l.Stamp), l.Said.String
	return e, err
}

// bodyOf is what an entry says, without its order.
func bodyOf(e *logbook.Entry) ([]byte, error) {
	bare := *e
	bare.Stamp, bare.Said = "", ""
	return json.Marshal(bare)
}

// Log gives a tree and its log in its order, or [ErrNoTree]. An entry that cannot be
// read gives an [*Unreadable].
func (r Reader) Log(ctx context.Context, id string) (Tree, []logbook.Entry, error) {
	t, err := r.Tree(ctx, id)
	if err != nil {
		return t, nil, err
	}
	log, err := r.entries(ctx, "tree_id = ?", id)
	var unreadable *Unreadable
	if errors.As(err, &unreadable) {
		unreadable.Tag = t.Tag
	}
	return t, log, err
}

// About gives what was said of one thing that is no tree, in its order.
func (r Reader) About(ctx context.Context, about string) ([]logbook.Entry, error) {
	return r.entries(ctx, "about = ?", about)
}

func (r Reader) entries(ctx context.Context, where, of string) ([]logbook.Entry, error) {
	var lines []line
	if err := r.all(ctx, &lines, "SELECT seq, stamp, said, tree_id, body FROM entry WHERE "+where+" ORDER BY stamp, id", of); err != nil {
		return nil, fmt.Errorf("reading a log: %w", err)
	}
	log := make([]logbook.Entry, len(lines))
	for i := range lines {
		var err error
		if log[i], err = lines[i].entry(); err != nil {
			return nil, &Unreadable{of, fmt.Errorf("entry %d of its log: %w", i+1, err)}
		}
	}
	return log, nil
}

// Append adds an entry to a tree's log, or, for an entry about something else, to
// that of what it is about; tree is then empty. Adding the same entry again, as after
// a lost answer, changes nothing, and had says so; another entry of that id is
// [ErrIDTaken]. from is the import it came by, if it did.
func (t *Tx) Append(ctx context.Context, tree string, e *logbook.Entry, from string) (had bool, err error) {
	body, err := bodyOf(e)
	if err != nil {
		return false, err
	}
	switch old, was, err := t.find(ctx, e.ID); {
	case err == nil && was == tree && sameEntry(old, body):
		return true, nil
	case err == nil:
		return false, ErrIDTaken
	case !errors.Is(err, sql.ErrNoRows):
		return false, err
	}
	about, tract := e.About(), ""
	if name := e.Tract(); about != "" && name != "" {
		if tract, err = t.tractOf(ctx, name); err != nil {
			return false, err
		}
	}
	visit := ""
	if e.Kind == logbook.KindLook {
		visit = e.Visit
	}
	err = t.exec(ctx, `INSERT INTO entry (id, stamp, said, tree_id, about, tract_id, body, visit_id, added_by, away)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
		e.ID, e.Stamp, maybe(e.Said), maybe(tree), maybe(about), maybe(tract), string(body), maybe(visit), maybe(from), t.away)
	if err != nil || tree == "" {
		return false, err
	}
	return false, t.exec(ctx, "UPDATE tree SET version = version + 1 WHERE id = ?", tree)
}

// Bodies writes what entries say, as [Tx.AppendNew] keeps it, before a change begins.
func Bodies(log []logbook.Entry) ([]string, error) {
	out := make([]string, len(log))
	for i := range log {
		body, err := bodyOf(&log[i])
		if err != nil {
			return nil, err
		}
		out[i] = string(body)
	}
	return out, nil
}

// AppendNew adds the entries of a tree that is new in this change, all at once, with
// what [Bodies] made of them. It gives [ErrIDTaken] where another entry has one of their
// ids.
func (t *Tx) AppendNew(ctx context.Context, tree string, log []logbook.Entry, bodies []string, from string) error {
	const columns = "INSERT OR FAIL INTO entry (id, stamp, said, tree_id, body, visit_id, added_by, away) VALUES "
	// Where a line fails the whole change does: SQLite need not be able to take back part.
	for at := 0; at < len(log); at += appendMost {
		some := log[at:min(at+appendMost, len(log))]
		args := make([]any, 0, 8*len(some))
		for i := range some {
			e, visit := &some[i], ""
			if e.Kind == logbook.KindLook {
				visit = e.Visit
			}
			args = append(args, e.ID, e.Stamp, maybe(e.Said), tree, bodies[at+i], maybe(visit), maybe(from), t.away)
		}
		err := t.exec(ctx, columns+strings.TrimSuffix(strings.Repeat("(?,?,?,?,?,?,?,?),", len(some)), ","), args...)
		if taken(err) {
			return ErrIDTaken
		}
		if err != nil {
			return err
		}
	}
	return nil
}

// appendMost is how many entries go in with one statement.
const appendMost = 50

// find gives the body of an entry and the tree it is of, or [sql.ErrNoRows].
func (r Reader) find(ctx context.Context, id string) (body, tree string, err error) {
	var l line
	err = r.get(ctx, &l, "SELECT seq, stamp, said, tree_id, body FROM entry WHERE id = ?", id)
	return l.Body, l.Tree.String, err
}

// sameEntry compares what two entries say, however they are written.
func sameEntry(old string, body []byte) bool {
	if old == string(body) {
		return true
	}
	var was, is logbook.Entry
	return json.Unmarshal([]byte(old), &was) == nil && json.Unmarshal(body, &is) == nil && was.Same(&is)
}

// Restamp gives an entry another place in the order, and what books work out of it. Whoever
// asks what is new is told of it again.
func (t *Tx) Restamp(ctx context.Context, tree string, e *logbook.Entry) error {
	body, err := bodyOf(e)
	if err != nil {
		return err
	}
	err = t.exec(ctx, "UPDATE entry SET stamp = ?, said = ?, body = ?, seq = (SELECT max(seq) + 1 FROM entry) WHERE id = ?",
		e.Stamp, maybe(e.Said), string(body), e.ID)
	if err != nil || tree == "" {
		return err
	}
	return t.exec(ctx, "UPDATE tree SET version = version + 1 WHERE id = ?", tree)
}

// Change is an entry as others are told of it.
type Change struct {
	Seq   int
	Tree  string // empty: it is about something else
	Entry logbook.Entry
}

// Changes gives what the book got after its running number, of some tracts or of all,
// at most as many as asked for, and the last number that was looked at. Lists and
// moves are of every tract. While an import puts a file in, nothing after its first
// entry is given: it may yet be stopped.
func (r Reader) Changes(ctx context.Context, after int, tracts []string, most int) (changes []Change, last int, err error) {
	where, args := "", []any{after}
	if len(tracts) > 0 {
		where = ` AND (entry.tract_id IN (SELECT id FROM tract WHERE name IN (` + marks(len(tracts)) + `))
			OR entry.tree_id IN (SELECT tree.id FROM tree JOIN tract ON tract.id = tree.tract_id WHERE tract.name IN (` + marks(len(tracts)) + `))
			OR entry.tract_id IS NULL AND entry.tree_id IS NULL OR entry.body ->> '$.kind' = 'move')`
		args = append(append(args, anys(tracts)...), anys(tracts)...)
	}
	var lines []line
	err = r.all(ctx, &lines, `SELECT seq, stamp, said, tree_id, body FROM entry WHERE seq > ? AND seq < coalesce(
		(SELECT min(seq) FROM import JOIN entry ON entry.added_by = import.id WHERE import.ended IS NULL), 9e18)`+where+
		" ORDER BY seq LIMIT ?", append(args, most)...)
	if err != nil {
		return nil, 0, fmt.Errorf("reading what changed: %w", err)
	}
	changes, last = make([]Change, len(lines)), after
	for i := range lines {
		l := &lines[i]
		e, err := l.entry()
		if err != nil {
			return nil, 0, fmt.Errorf("reading entry %d: %w", l.Seq, err)
		}
		changes[i], last = Change{l.Seq, l.Tree.String, e}, l.Seq
	}
	return changes, last, nil
}
