package away

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"time"

	"palethicket/book"
)

// How often home is looked for.
const (
	between  = 20 * time.Second // meetings
	settling = time.Second      // after a press, as more may follow
)

// Run meets home now and then, and soon after [Device.Nudge], until ctx is done.
func (d *Device) Run(ctx context.Context) {
	for ctx.Err() == nil {
		_ = d.Meet(ctx) // how it went stands in the status
		select {
		case <-ctx.Done():
			return
		case <-time.After(between):
		case <-d.nudge:
			time.Sleep(settling)
		}
	}
}

// Nudge says that there is something to tell, or that there is a connection.
func (d *Device) Nudge() {
	select {
	case d.nudge <- struct{}{}:
	default:
	}
}

// Meet tells home what was entered here, sends photographs, and hears what is new there.
// Whatever it was broken off by, the next goes on where it was.
func (d *Device) Meet(ctx context.Context) error {
	d.meeting.Lock()
	defer d.meeting.Unlock()
	d.set(func() { d.busy = true })
	err := d.meet(ctx)
	var far *unreachable
	d.set(func() {
		d.busy = false
		d.online, d.trouble = !errors.As(err, &far), ""
		if err != nil && d.online {
			d.trouble = err.Error()
		}
	})
	return err
}

func (d *Device) set(change func()) {
	d.mu.Lock()
	defer d.mu.Unlock()
	change()
}

func (d *Device) meet(ctx context.Context) error {
	p, err := d.home.program(ctx)
	switch {
	case err != nil:
		return err
	case p.Book != d.book.ID():
		return errors.New("another book is served there than the one that was taken along; what was entered here stays here")
	case p.LogVersion > book.LogVersion:
		return errors.New("home has a newer program: renew this one before it sends; what was entered here stays here")
	case p.LogVersion < book.LogVersion:
		return errors.New("home has an older program than this device: it has to be renewed there first; what was entered here stays here")
	}
	if err := d.book.HearProbably(ctx, p.Probably); err != nil {
		return err
	}
	if err := d.compareFlora(p.Flora); err != nil {
		return err
	}
	if err := d.hear(ctx); err != nil { // before telling, so that what home lost is told again
		return err
	}
	if err := d.tell(ctx); err != nil {
		return err
	}
	if err := d.remind(ctx); err != nil {
		return err
	}
	if err := d.sendFiles(ctx); err != nil {
		return err
	}
	if err := d.hear(ctx); err != nil {
		return err
	}
	if err := d.practise(ctx); err != nil {
		return err
	}
	var s state
	d.set(func() {
		d.state.Met = d.now().UTC().Format(time.RFC3339)
		s = d.state
	})
	return note(ctx, d.book, stateNote, s)
}

// compareFlora notices when home weighs names with something else than what came along.
func (d *Device) compareFlora(home string) error {
	here, err := d.book.FloraDigest()
	d.set(func() {
		d.flora = ""
		if here != home {
			d.flora = "home has another flora or another program by now: names may come out otherwise there, " +
				"until the program here is renewed or the tracts are taken along anew"
		}
	})
	return err
}

// hear takes in what is new at home. A home that is older than when it was met last, as
// one restored from a backup, is told everything of this device again.
func (d *Device) hear(ctx context.Context) error {
	for {
		var s state
		d.set(func() { s = d.state })
		token := d.ears()
		if s.Guarded && token == "" {
			return errors.New("nobody's time on this device still runs; sign in with a connection")
		}
		now, err := d.Status(ctx)
		if err != nil {
			return err
		}
		c, err := d.home.changes(ctx, token, &s, now.Count+len(now.Refused))
		if err = d.ended(ctx, token, err); err != nil {
			if d.ears() != token && d.ears() != "" {
				continue // with the ears of somebody else who is at work here
			}
			return err
		}
		if c.Lost {
			if err := d.book.TellAgain(ctx, true); err != nil {
				return err
			}
			d.set(func() { d.state.After, d.state.Heard = 0, "" })
			continue
		}
		if err := d.takeIn(ctx, token, c.Entries); err != nil || len(c.Entries) == 0 {
			return err
		}
		d.set(func() {
			d.state.After, d.state.Heard = c.Last, c.LastID
			s = d.state
		})
		if err := note(ctx, d.book, stateNote, s); err != nil {
			return err
		}
		if !c.More {
			return nil
		}
	}
}

// takeIn takes in what home told. Of a tree that something of did not fit, the whole log is
// asked for.
func (d *Device) takeIn(ctx context.Context, token string, told []book.Sent) error {
	lacking, err := d.book.Hear(ctx, told)
	if err != nil {
		return err
	}
	for _, id := range lacking {
		whole, err := d.home.tree(ctx, token, id)
		if err != nil {
			return err
		}
		left, err := d.book.Hear(ctx, whole.Entries)
		if err != nil {
			return err
		}
		if len(left) > 0 {
			d.set(func() { d.unfit = "some of what home tells does not fit here: take the tracts along anew" })
		}
	}
	return nil
}

// tell tells home what was entered here, each person's under their name.
func (d *Device) tell(ctx context.Context) error {
	by, err := d.book.WaitingBy(ctx)
	if err != nil {
		return err
	}
	names := make([]string, 0, len(by))
	for name := range by {
		names = append(names, name)
	}
	slices.Sort(names)
	var wrong error
	for _, name := range names {
		token := d.token(name)
		if d.state.Guarded && token == "" {
			continue // it waits for them
		}
		if err := d.tellOf(ctx, name, token); err != nil {
			wrong = errors.Join(wrong, d.ended(ctx, token, err))
			var far *unreachable
			if errors.As(err, &far) {
				return wrong
			}
		}
	}
	return wrong
}

func (d *Device) tellOf(ctx context.Context, name, token string) error {
	after := 0
	for {
		waiting, err := d.book.Waiting(ctx, name, after)
		if err != nil || len(waiting) == 0 {
			return err
		}
		met, err := d.say(ctx, token, waiting, false)
		if err != nil {
			return err
		}
		if err := d.book.Answered(ctx, met); err != nil {
			return err
		}
		after = waiting[len(met)-1].Seq // what is for later waits, and holds nothing up
	}
}

// remind tells home what it told itself and lost, as after it was restored from a copy: a
// lead's device all of it, anybody else's what is theirs.
func (d *Device) remind(ctx context.Context) error {
	type voice struct {
		name, token string
		everybody   bool
	}
	voices := []voice{{everybody: true}}
	if d.state.Guarded {
		voices = nil
		d.mu.Lock()
		for name, p := range d.persons {
			if d.needs(name) == "" {
				voices = append(voices, voice{name, p.Token, p.Role == book.Lead})
			}
		}
		d.mu.Unlock()
		slices.SortFunc(voices, func(a, b voice) int { return cmp.Compare(a.name, b.name) })
	}
	for _, v := range voices {
		for after := 0; ; {
			lost, err := d.book.Heard(ctx, v.name, v.everybody, after)
			if err != nil {
				return err
			}
			if len(lost) == 0 {
				break
			}
			met, err := d.say(ctx, v.token, lost, true)
			if err != nil {
				return d.ended(ctx, v.token, err)
			}
			if err := d.book.HomeHas(ctx, met); err != nil {
				return err
			}
			after = lost[len(met)-1].Seq
		}
	}
	return nil
}

// say tells home entries, and gives what it answered: of fewer where so many were too large
// for what lies between. One that alone is too large is refused.
func (d *Device) say(ctx context.Context, token string, entries []book.Unsent, again bool) ([]book.Met, error) {
	sent := make([]book.Sent, len(entries))
	for i := range entries {
		sent[i] = entries[i].Sent
	}
	met, err := d.home.tell(ctx, token, sent, again)
	var no *said
	if !errors.As(err, &no) || no.Status != http.StatusRequestEntityTooLarge {
		return met, err
	}
	if len(entries) > 1 {
		return d.say(ctx, token, entries[:len(entries)/2], again)
	}
	return []book.Met{{ID: entries[0].ID, Answer: book.Refused,
		Why: fmt.Sprintf("it has %d kB, and home, or what lies between, takes nothing so large", len(sent[0].Entry)>>10)}}, nil
}

// ended keeps in mind that home no longer takes the token of somebody: what they made
// waits until they sign in again.
func (d *Device) ended(ctx context.Context, token string, err error) error {
	var no *said
	if token == "" || !errors.As(err, &no) || no.Status != http.StatusUnauthorized {
		return err
	}
	d.mu.Lock()
	defer d.mu.Unlock()
	for name, p := range d.persons {
		if p.Token == token {
			p.Ended = fmt.Sprintf("home no longer takes what %s sends from this device; it waits until %s signs in here with a connection",
				name, name)
			d.persons[name] = p
		}
	}
	return errors.Join(err, note(ctx, d.book, personsNote, d.persons))
}

// pieceBytes is how much of a photograph is sent at once; a line that breaks loses no
// more than that.
const pieceBytes = 256 << 10

// sendFiles sends the files of photographs whose entries home has, from where they were
// broken off.
func (d *Device) sendFiles(ctx context.Context) error {
	files, err := d.book.WaitingFiles(ctx)
	if err != nil {
		return err
	}
	for _, f := range files {
		token := d.token(f.By)
		if d.state.Guarded && token == "" {
			continue
		}
		if err := d.sendFile(ctx, f, token); err != nil {
			return err
		}
	}
	return nil
}

func (d *Device) sendFile(ctx context.Context, f book.WaitingFile, token string) error {
	at, err := d.home.arriving(ctx, token, f.Photo)
	var no *said
	if errors.As(err, &no) && no.Status == http.StatusNotFound {
		return nil // its entry was refused, or is still to be told
	}
	if err != nil {
		return err
	}
	body, err := d.book.FileToSend(ctx, f.Digest)
	if err != nil {
		return err
	}
	for !at.Whole {
		if at.Bytes >= int64(len(body)) {
			return fmt.Errorf("home has more of a photograph of %d bytes than there is: %d", len(body), at.Bytes)
		}
		piece := body[at.Bytes:min(at.Bytes+pieceBytes, int64(len(body)))]
		if at, err = d.home.piece(ctx, token, f.Photo, at.Bytes, piece); err != nil {
			return err
		}
	}
	return d.book.SentFile(ctx, f.Digest)
}
