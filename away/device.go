package away

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"sync"
	"time"

	"palethicket/book"
)

// Device is a part of a book, away from home.
type Device struct {
	book *book.Book
	home *home
	now  func() time.Time

	meeting   sync.Mutex     // one at a time
	practised map[string]met // how far home and this device know each one's answers
	nudge     chan struct{}

	mu      sync.Mutex // of what follows
	state   state
	persons map[string]person
	online  bool
	trouble string // what went wrong when it met home last
	unfit   string // home tells something that the book cannot take in
	flora   string // why names may come out otherwise here than at home
	busy    bool
}

// state is what a device keeps in mind of home.
type state struct {
	Since   string   `json:"since"` // when it was taken along
	Tracts  []string `json:"tracts"`
	Photos  bool     `json:"photos"` // whole photographs came with it
	Guarded bool     `json:"guarded"`
	After   int      `json:"after"` // home's running number that was heard last, and its entry
	Heard   string   `json:"heard"`
	Met     string   `json:"met"`
	Device  string   `json:"device"` // what its owner calls it
}

// person is one of the crew who is at work on this device.
type person struct {
	Role  string `json:"role"`
	Token string `json:"token"`
	Until string `json:"until"`
	Ended string `json:"ended,omitempty"` // what home said of the token
}

// Names of what is kept in the book.
const (
	stateNote   = "away"
	personsNote = "away persons"
)

// ErrNotAlong is given by [Open] for a book that no device took along.
var ErrNotAlong = errors.New("nothing was taken along on this device")

// Taken is what a device is told when it takes a part of a book along.
type Taken struct {
	Tracts  []string `json:"tracts"`
	Photos  bool     `json:"photos"`
	Guarded bool     `json:"guarded"`
	Device  string   `json:"device"`
	Name    string   `json:"name" doc:"Who takes it along; empty where nobody signs in"`
	Role    string   `json:"role"`
	Token   string   `json:"token"`
	Until   string   `json:"until"`
	Hash    string   `json:"hash" doc:"Of their password, so that they can sign in again without a signal"`
}

// Begin makes a device of a part of a book that just came, and gives the session of
// whoever took it along.
func Begin(ctx context.Context, b *book.Book, t Taken, now time.Time) (session string, err error) {
	after, heard, err := b.AfterCopy(ctx)
	if err != nil {
		return "", err
	}
	s := state{Since: now.UTC().Format(time.RFC3339), Tracts: t.Tracts, Photos: t.Photos, Guarded: t.Guarded, After: after, Heard: heard,
		Met: now.UTC().Format(time.RFC3339), Device: t.Device}
	if err := note(ctx, b, stateNote, s); err != nil || !t.Guarded {
		return "", err
	}
	if err := note(ctx, b, personsNote, map[string]person{t.Name: {Role: t.Role, Token: t.Token, Until: t.Until}}); err != nil {
		return "", err
	}
	return b.EnrollHashed(ctx, t.Name, t.Role, t.Hash)
}

func note(ctx context.Context, b *book.Book, name string, value any) error {
	text, err := json.Marshal(value)
	if err != nil {
		return err
	}
	return b.Note(ctx, name, string(text))
}

// Open takes up a book that was taken along from the server at base.
func Open(ctx context.Context, b *book.Book, base string, client *http.Client, now func() time.Time) (*Device, error) {
	d := &Device{book: b, home: &home{base, client}, now: now, nudge: make(chan struct{}, 1), busy: true, persons: map[string]person{}}
	for name, into := range map[string]any{stateNote: &d.state, personsNote: &d.persons} {
		text, err := b.Noted(ctx, name)
		if err != nil {
			return nil, err
		}
		if text == "" && name == stateNote {
			return nil, ErrNotAlong
		}
		if text == "" {
			continue
		}
		if err := json.Unmarshal([]byte(text), into); err != nil {
			return nil, fmt.Errorf("reading what was taken along: %w", err)
		}
	}
	return d, nil
}

// Guarded says whether the crew sign in.
func (d *Device) Guarded() bool { return d.state.Guarded }

// Status is how a device stands.
type Status struct {
	Device   bool            `json:"device" doc:"False at home: there is nothing else to say"`
	Name     string          `json:"name" doc:"What its owner calls the device"`
	Version  string          `json:"version" doc:"Of the program"`
	Since    string          `json:"since" doc:"When it was taken along"`
	Tracts   []string        `json:"tracts"`
	Photos   bool            `json:"photos" doc:"Photographs came along whole"`
	Met      string          `json:"met" doc:"When it met home last"`
	Online   bool            `json:"online" doc:"Home answered when it was asked last"`
	Busy     bool            `json:"busy" doc:"It is meeting home just now"`
	Trouble  string          `json:"trouble" doc:"What went wrong then, beside home being out of reach"`
	Waiting  []WaitingOf     `json:"waiting" doc:"What home does not have yet, by who made it"`
	Count    int             `json:"count" doc:"All of it, photographs too"`
	Pictures int             `json:"pictures" doc:"Photographs whose files wait"`
	Refused  []RefusedByHome `json:"refused"`
}

// WaitingOf counts what waits of one person.
type WaitingOf struct {
	By    string `json:"by"`
	Count int    `json:"count"`
	Needs string `json:"needs" doc:"What it waits for other than for home, in words; empty: nothing"`
}

// RefusedByHome is an entry that home would not have; it stays here.
type RefusedByHome struct {
	ID   string `json:"id"`
	Tree string `json:"tree" doc:"Empty: it is about something else"`
	Tag  string `json:"tag"`
	By   string `json:"by"`
	Kind string `json:"kind"`
	Why  string `json:"why"`
}

// Status says how the device stands.
func (d *Device) Status(ctx context.Context) (*Status, error) {
	by, err := d.book.WaitingBy(ctx)
	if err != nil {
		return nil, err
	}
	files, err := d.book.WaitingFiles(ctx)
	if err != nil {
		return nil, err
	}
	refusals, err := d.book.Refusals(ctx)
	if err != nil {
		return nil, err
	}
	d.mu.Lock()
	defer d.mu.Unlock()
	s := &Status{
		Device:   true,
		Name:     d.state.Device,
		Version:  book.Version,
		Since:    d.state.Since,
		Tracts:   d.state.Tracts,
		Photos:   d.state.Photos,
		Met:      d.state.Met,
		Online:   d.online,
		Busy:     d.busy,
		Trouble:  cmp.Or(d.trouble, d.unfit, d.flora),
		Waiting:  []WaitingOf{},
		Refused:  []RefusedByHome{},
		Pictures: len(files),
		Count:    len(files),
	}
	for name, n := range by {
		s.Count += n
		s.Waiting = append(s.Waiting, WaitingOf{name, n, d.needs(name)})
	}
	slices.SortFunc(s.Waiting, func(a, b WaitingOf) int { return cmp.Compare(a.By, b.By) })
	for _, r := range refusals {
		s.Refused = append(s.Refused, RefusedByHome{r.ID, r.Tree, r.Tag, r.By, r.Kind(), r.Why})
	}
	return s, nil
}

// needs says what the entries of somebody wait for.
func (d *Device) needs(name string) string {
	if !d.state.Guarded {
		return ""
	}
	p, ok := d.persons[name]
	switch {
	case !ok:
		return fmt.Sprintf("waits until %s signs in on this device with a connection", cmp.Or(name, "whoever made it"))
	case p.Ended != "":
		return p.Ended
	} // whether its time is over, home says: the clock here may be wrong
	return ""
}

// token is one that may send for somebody; empty where there is none.
func (d *Device) token(name string) string {
	d.mu.Lock()
	defer d.mu.Unlock()
	if d.needs(name) != "" {
		return ""
	}
	return d.persons[name].Token
}

// ears is a token to hear with: of anybody who may.
func (d *Device) ears() string {
	d.mu.Lock()
	names := make([]string, 0, len(d.persons))
	for name := range d.persons {
		names = append(names, name)
	}
	d.mu.Unlock()
	slices.Sort(names)
	for _, name := range names {
		if t := d.token(name); t != "" {
			return t
		}
	}
	return ""
}

// signInPatience is how long home may take to answer who signs in: then the device answers itself.
const signInPatience = 15 * time.Second

// SignIn has one of the crew sign in at home and be at work on this device from then on.
// Where home cannot be reached it gives [ErrOutOfReach].
func (d *Device) SignIn(ctx context.Context, name, password string) error {
	ctx, cancel := context.WithTimeout(ctx, signInPatience)
	defer cancel()
	t, role, err := d.home.signIn(ctx, name, password, d.state.Device)
	var no *said
	var far *unreachable
	switch {
	case errors.As(err, &far):
		return ErrOutOfReach
	case errors.As(err, &no) && no.Status == http.StatusUnauthorized:
		return book.ErrWrongPassword
	case err != nil:
		return err
	}
	if _, err := d.book.Enroll(ctx, t.Whose, role, password); err != nil {
		return err
	}
	d.mu.Lock()
	d.persons[t.Whose] = person{Role: role, Token: t.Token, Until: t.Until}
	kept := note(ctx, d.book, personsNote, d.persons)
	d.mu.Unlock()
	d.Nudge()
	return kept
}

// SignOut ends the session at home of who signs out here, where home can be reached: the page
// asks there too.
func (d *Device) SignOut(ctx context.Context) {
	ctx, cancel := context.WithTimeout(ctx, signInPatience)
	defer cancel()
	_ = d.home.ask(ctx, http.MethodDelete, "/api/session", "", nil, nil) // it ends by itself else
}

// ErrOutOfReach is given where something needs home, and home cannot be reached.
var ErrOutOfReach = errors.New("this needs a connection to home: whoever has not signed in on this device before does so there once")

// Held is everything that was made here and that home does not have, as a file.
type Held struct {
	book.Meeting
	Book  string            `json:"book" doc:"Which book it belongs to"`
	From  string            `json:"from" doc:"What the device is called"`
	Files map[string][]byte `json:"files,omitempty" doc:"Photographs by digest, in base 64"`
}

// Held gives it.
func (d *Device) Held(ctx context.Context) (*Held, error) {
	all, err := d.book.NotHome(ctx)
	if err != nil {
		return nil, err
	}
	files, err := d.book.WaitingFiles(ctx)
	if err != nil {
		return nil, err
	}
	h := &Held{Meeting: book.Meeting{Version: book.LogVersion, Entries: []book.Sent{}}, Book: d.book.ID(), From: d.state.Device,
		Files: map[string][]byte{}}
	for _, u := range all {
		h.Entries = append(h.Entries, u.Sent)
	}
	for _, f := range files {
		if h.Files[f.Digest], err = d.book.FileToSend(ctx, f.Digest); err != nil {
			return nil, err
		}
	}
	return h, nil
}

// Carry takes over from one book on a device into another, that takes its place, what home
// does not have yet, and who is at work on it. It gives how many entries that were.
func Carry(ctx context.Context, from, to *book.Book) (int, error) {
	held, err := from.NotHome(ctx)
	if err != nil {
		return 0, err
	}
	if err := to.TakeOver(ctx, held); err != nil {
		return 0, err
	}
	files, err := from.WaitingFiles(ctx)
	if err != nil {
		return 0, err
	}
	for _, f := range files {
		body, err := from.FileToSend(ctx, f.Digest)
		if err == nil {
			err = to.KeepFile(ctx, f.Digest, body)
		}
		if err != nil {
			return 0, err
		}
	}
	return len(held), carryPersons(ctx, from, to)
}

// carryPersons takes over who is at work on a device. Whoever has a fresher token in the new book
// keeps that.
func carryPersons(ctx context.Context, from, to *book.Book) error {
	before, err := personsIn(ctx, from)
	if err != nil {
		return err
	}
	now, err := personsIn(ctx, to)
	if err != nil {
		return err
	}
	for name, p := range before {
		if has, ok := now[name]; !ok || has.Until < p.Until {
			now[name] = p
		}
	}
	return note(ctx, to, personsNote, now)
}

func personsIn(ctx context.Context, b *book.Book) (map[string]person, error) {
	out := map[string]person{}
	text, err := b.Noted(ctx, personsNote)
	if err != nil || text == "" {
		return out, err
	}
	if err := json.Unmarshal([]byte(text), &out); err != nil {
		return nil, fmt.Errorf("reading who is at work on this device: %w", err)
	}
	return out, nil
}
