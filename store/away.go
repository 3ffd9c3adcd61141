package store

import (
	"context"
	"fmt"
	"strings"

	"palethicket/core/tree/logbook"
)

// What becomes of what was entered on a device.
const (
	atHome  = 0 // home has it
	waits   = 1 // to be told home
	refused = 2 // by home
	heard   = 3 // home told it, and may have lost it since
)

// Away has the book keep in mind which entries were made in it: those have to be told
// home. It is said once, before anything is entered.
func (s *Store) Away() {
	state := waits
	s.away = &state
}

// FromHome says that what this change adds came from home.
func (t *Tx) FromHome() { t.away = nil }

// Outgoing is an entry that was made on this device and that home does not have.
type Outgoing struct {
	Seq   int
	Tree  string // empty: it is about something else
	Tag   string
	Entry logbook.Entry
	Why   string // home refused it
}

// Waiting gives what waits to be told home of one person after a running number, oldest
// first, at most as many as asked for.
func (r Reader) Waiting(ctx context.Context, by string, after, most int) ([]Outgoing, error) {
	return r.outgoing(ctx, "away = ? AND coalesce(body ->> '$.by', '') = ? AND seq > ? ORDER BY seq LIMIT ?", waits, by, after, most)
}

// Heard gives what home told and may have lost since, as Waiting does; of everybody where
// that is said.
func (r Reader) Heard(ctx context.Context, by string, everybody bool, after, most int) ([]Outgoing, error) {
	return r.outgoing(ctx, "away = ? AND (? OR coalesce(body ->> '$.by', '') = ?) AND seq > ? ORDER BY seq LIMIT ?",
		heard, everybody, by, after, most)
}

// HomeHas says that home has entries that it told.
func (t *Tx) HomeHas(ctx context.Context, ids []string) error {
	return t.exec(ctx, "UPDATE entry SET away = NULL WHERE away = ? AND id IN ("+marks(len(ids))+")", append([]any{heard}, anys(ids)...)...)
}

// Refused gives what home refused, oldest first.
func (r Reader) Refused(ctx context.Context) ([]Outgoing, error) {
	return r.outgoing(ctx, "away = ? ORDER BY seq", refused)
}

// NotHome gives all that home does not have, oldest first.
func (r Reader) NotHome(ctx context.Context) ([]Outgoing, error) {
	return r.outgoing(ctx, "away IN (?, ?) ORDER BY seq", waits, refused)
}

func (r Reader) outgoing(ctx context.Context, where string, args ...any) ([]Outgoing, error) {
	var lines []struct {
		line
		Tag string `db:"tag"`
		Why string `db:"why"`
	}
	err := r.all(ctx, &lines, `SELECT seq, stamp, said, tree_id, body,
		coalesce((SELECT tag FROM tree WHERE tree.id = tree_id), '') AS tag,
		coalesce((SELECT why FROM refusal WHERE entry_id = entry.id), '') AS why FROM entry WHERE `+where, args...)
	if err != nil {
		return nil, fmt.Errorf("reading what home does not have: %w", err)
	}
	out := make([]Outgoing, len(lines))
	for i := range lines {
		e, err := lines[i].entry()
		if err != nil {
			return nil, fmt.Errorf("reading entry %d: %w", lines[i].Seq, err)
		}
		out[i] = Outgoing{lines[i].Seq, lines[i].Tree.String, lines[i].Tag, e, lines[i].Why}
	}
	return out, nil
}

// WaitingBy counts what waits of each person.
func (r Reader) WaitingBy(ctx context.Context) (map[string]int, error) {
	var rows []struct {
		By string `db:"by"`
		N  int    `db:"n"`
	}
	err := r.all(ctx, &rows, "SELECT coalesce(body ->> '$.by', '') AS by, count(*) AS n FROM entry WHERE away = ? GROUP BY 1", waits)
	if err != nil {
		return nil, fmt.Errorf("counting what home does not have: %w", err)
	}
	by := map[string]int{}
	for _, row := range rows {
		by[row.By] = row.N
	}
	return by, nil
}

// TakenHome says that home has entries.
func (t *Tx) TakenHome(ctx context.Context, ids []string) error {
	err := t.exec(
		ctx,
		"UPDATE entry SET away = ? WHERE away IS NOT NULL AND id IN ("+marks(len(ids))+")",
		append([]any{atHome}, anys(ids)...)...)
	if err != nil {
		return err
	}
	return t.exec(ctx, "DELETE FROM refusal WHERE entry_id IN ("+marks(len(ids))+")", anys(ids)...)
}

// RefusedHome says that home refused an entry, and why.
func (t *Tx) RefusedHome(ctx context.Context, id, why string) error {
	if err := t.exec(ctx, "UPDATE entry SET away = ? WHERE id = ?", refused, id); err != nil {
		return err
	}
	return t.exec(ctx, "INSERT INTO refusal VALUES (?, ?) ON CONFLICT (entry_id) DO UPDATE SET why = excluded.why", id, why)
}

// TellAgain has entries told home once more: those that were refused, or, as after home
// lost some, all that there are, others' too.
func (t *Tx) TellAgain(ctx context.Context, all bool) error {
	states := []any{waits, refused}
	if all {
		states = append(states, atHome)
	}
	where := "away IN (" + strings.TrimSuffix(strings.Repeat("?,", len(states)-1), ",") + ")"
	if err := t.exec(ctx, "UPDATE entry SET away = ? WHERE "+where, states...); err != nil {
		return err
	}
	if !all {
		return t.exec(ctx, "DELETE FROM refusal")
	}
	if err := t.exec(ctx, "UPDATE entry SET away = ? WHERE away IS NULL", heard); err != nil {
		return err
	}
	return t.exec(ctx, "UPDATE file SET waits = 1 WHERE length(name) = ?", digestLen)
}

// WaitingFile is a photograph whose file home does not have.
type WaitingFile struct {
	Photo  string `db:"id"`
	Tree   string `db:"tree_id"`
	Digest string `db:"digest"`
	Bytes  int    `db:"bytes"`
	By     string `db:"by"`
}

// WaitingFiles gives the photographs whose files wait to be sent, and whose entries home
// has.
func (r Reader) WaitingFiles(ctx context.Context) (files []WaitingFile, err error) {
	err = r.all(ctx, &files, `SELECT photo.id, photo.tree_id, digest, bytes, photo.by FROM file JOIN photo ON digest = file.name
		WHERE file.waits = 1 GROUP BY digest ORDER BY photo.id`)
	if err != nil {
		return nil, fmt.Errorf("listing photographs to be sent: %w", err)
	}
	return files, nil
}

// File gives a file that is kept in the book, as photographs are on a device.
func (r Reader) File(ctx context.Context, name string) (body []byte, err error) {
	return body, noRow(r.get(ctx, &body, "SELECT body FROM file WHERE name = ?", name), ErrNoPhoto)
}

// keepInBook keeps a file in the book of a device. What was put up here waits to be sent;
// its thumbnail need not be.
func (s *Store) keepInBook(ctx context.Context, name string, body []byte) error {
	return s.Write(ctx, func(t *Tx) error { return t.PutFile(ctx, name, body, len(name) == digestLen) })
}

// SentFile says that home has a file. Its thumbnail stays.
func (t *Tx) SentFile(ctx context.Context, name string) error {
	return t.exec(ctx, "UPDATE file SET waits = 0 WHERE name = ?", name)
}

// PutFile keeps a file in the book.
func (t *Tx) PutFile(ctx context.Context, name string, body []byte, waits bool) error {
	return t.exec(ctx, "INSERT INTO file (name, body, waits) VALUES (?, ?, ?) ON CONFLICT DO NOTHING", name, body, waits)
}

// digestLen is how long the name of a photograph's file is, without that of its thumbnail.
const digestLen = 64
