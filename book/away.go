package book

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"palethicket/store"
)

// A device works on a part of a book that it took along ([Book.Along]), and tells home
// what was entered meanwhile. What goes over the line, and when, is package away's.

// Unsent is an entry that was made on this device and that home does not have.
type Unsent struct {
	Sent
	Seq int // its running number here
	ID  string
	By  string
	Tag string // of its tree; empty: it is about something else
	Why string // home refused it

	kind string
}

func unsentOf(o store.Outgoing) (Unsent, error) {
	text, err := json.Marshal(o.Entry)
	if err != nil {
		return Unsent{}, fmt.Errorf("writing entry %s: %w", o.Entry.ID, err)
	}
	return Unsent{Sent{o.Tree, text}, o.Seq, o.Entry.ID, o.Entry.By, o.Tag, o.Why, string(o.Entry.Kind)}, nil
}

func unsent(in []store.Outgoing, err error) ([]Unsent, error) {
	if err != nil {
		return nil, err
	}
	out := make([]Unsent, len(in))
	for i := range in {
		if out[i], err = unsentOf(in[i]); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// Waiting gives what waits to be told home of one person after a running number, oldest
// first, at most as much as goes over the line at once.
func (b *Book) Waiting(ctx context.Context, by string, after int) ([]Unsent, error) {
	all, err := unsent(b.store.Waiting(ctx, by, after, MeetMost))
	return atOnce(all), err
}

// Heard gives what home told, and may have lost since, as Waiting does; of everybody where
// that is said.
func (b *Book) Heard(ctx context.Context, by string, everybody bool, after int) ([]Unsent, error) {
	all, err := unsent(b.store.Heard(ctx, by, everybody, after, MeetMost))
	return atOnce(all), err
}

// bytesAtOnce is how much of it is sent at once, unless one entry alone is more.
const bytesAtOnce = 2 << 20

// atOnce is as much of what is to be sent as goes over the line at once.
func atOnce(all []Unsent) []Unsent {
	bytes := 0
	for i := range all {
		if bytes += len(all[i].Entry); bytes > bytesAtOnce && i > 0 {
			return all[:i]
		}
	}
	return all
}

// HomeHas keeps what home answered to entries that it told itself before: those that it
// has again, or never will, are not told once more.
func (b *Book) HomeHas(ctx context.Context, met []Met) error {
	var has []string
	for _, m := range met {
		if !m.Later {
			has = append(has, m.ID)
		}
	}
	return b.store.Write(ctx, func(tx *store.Tx) error {
		for some := range slices.Chunk(has, 500) {
			if err := tx.HomeHas(ctx, some); err != nil {
				return err
			}
		}
		return nil
	})
}

// WaitingBy counts what waits to be told home, by who made it.
func (b *Book) WaitingBy(ctx context.Context) (map[string]int, error) { return b.store.WaitingBy(ctx) }

// Refusals gives what home refused, oldest first.
func (b *Book) Refusals(ctx context.Context) ([]Unsent, error) { return unsent(b.store.Refused(ctx)) }

// NotHome gives all that home does not have.
func (b *Book) NotHome(ctx context.Context) ([]Unsent, error) { return unsent(b.store.NotHome(ctx)) }

// Answered keeps what home answered to entries.
func (b *Book) Answered(ctx context.Context, met []Met) error {
	var taken []string
	for _, m := range met {
		if m.Answer != Refused {
			taken = append(taken, m.ID)
		}
	}
	return b.store.Write(ctx, func(tx *store.Tx) error {
		for some := range slices.Chunk(taken, 500) {
			if err := tx.TakenHome(ctx, some); err != nil {
				return err
			}
		}
		for _, m := range met {
			if m.Answer == Refused && !m.Later {
				if err := tx.RefusedHome(ctx, m.ID, m.Why); err != nil {
					return err
				}
			}
		}
		return nil
	})
}

// TellAgain has what home refused told once more, or, after home lost some of what it
// had, all that was made on this device.
func (b *Book) TellAgain(ctx context.Context, all bool) error {
	return b.store.Write(ctx, func(tx *store.Tx) error { return tx.TellAgain(ctx, all) })
}

// Hear takes in what home tells. Unlike what is told to home, it is of anybody, and its
// order is the one that counts. It gives the trees of which something did not fit, as the
// book lacks what it stands on: of one that was moved here from another tract, or of a
// visit to that. Their whole logs are to be asked for.
func (b *Book) Hear(ctx context.Context, told []Sent) (lacking []string, err error) {
	answers, err := b.meet(asProgram(ctx), told, "", true)
	if err != nil {
		return nil, err
	}
	for i, m := range answers {
		if m.Answer == Refused {
			lacking = append(lacking, told[i].Tree)
		}
	}
	slices.Sort(lacking)
	return slices.Compact(lacking), nil
}

// TakeOver takes in what another book on this device held and home does not have yet. It
// refuses where something would be left behind, as with a tract that is given back.
func (b *Book) TakeOver(ctx context.Context, held []Unsent) error {
	told := make([]Sent, len(held))
	for i := range held {
		told[i] = held[i].Sent
	}
	met, err := b.meet(ctx, told, "", false)
	if err != nil {
		return err
	}
	left, why := []string{}, ""
	for i, m := range met {
		if m.Answer == Refused {
			left, why = append(left, cmp.Or(held[i].Tag, "what is about no tree")), m.Why
		}
	}
	if len(left) == 0 {
		return nil
	}
	slices.Sort(left)
	return fmt.Errorf("not home yet, and with no place in what comes along: %s (%s); send it first, or save it to a file; "+
		"nothing was changed", strings.Join(slices.Compact(left), ", "), why)
}

// AfterCopy gives the place in home's running numbers that this book was made at.
func (b *Book) AfterCopy(ctx context.Context) (seq int, id string, err error) {
	return b.store.Last(ctx)
}

// Note keeps a word of the program's own in the book.
func (b *Book) Note(ctx context.Context, name, value string) error {
	return b.store.Write(ctx, func(tx *store.Tx) error { return tx.PutSetting(ctx, name, value) })
}

// Noted gives what was kept by [Book.Note], or "".
func (b *Book) Noted(ctx context.Context, name string) (string, error) {
	return b.store.Setting(ctx, name)
}

// ID is which book it is; a part has the id of the whole.
func (b *Book) ID() string { return b.id }

// WaitingFile is a photograph whose file home does not have.
type WaitingFile = store.WaitingFile

// WaitingFiles gives the photographs whose files are to be sent home.
func (b *Book) WaitingFiles(ctx context.Context) ([]WaitingFile, error) {
	return b.store.WaitingFiles(ctx)
}

// FileToSend gives a photograph's file.
func (b *Book) FileToSend(ctx context.Context, digest string) ([]byte, error) {
	return b.store.File(ctx, digest)
}

// SentFile says that home has a photograph's file.
func (b *Book) SentFile(ctx context.Context, digest string) error {
	return b.store.Write(ctx, func(tx *store.Tx) error { return tx.SentFile(ctx, digest) })
}

// Kind is what kind of entry it is.
func (u *Unsent) Kind() string { return u.kind }

// Version is the program's.
const Version = "1.0"

// Schema is the shape of the book's tables, as a number that grows.
func (b *Book) Schema(ctx context.Context) (int64, error) { return b.store.Schema(ctx) }

// KeepFile keeps a photograph's file that is to be sent home.
func (b *Book) KeepFile(ctx context.Context, digest string, body []byte) error {
	return b.store.Write(ctx, func(tx *store.Tx) error { return tx.PutFile(ctx, digest, body, true) })
}
