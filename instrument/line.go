package instrument

import (
	"bufio"
	"context"
	"errors"
	"io"
	"net"
	"os"
	"time"

	"palethicket/instrument/nmea"
	"palethicket/instrument/plain"
)

// How long an instrument is waited for.
const (
	dialPatience = 5 * time.Second
	firstRetry   = time.Second
	lastRetry    = 15 * time.Second
	quiet        = 6 * time.Second // after which a receiver that says nothing is silent; the others wait for a hand
)

// errCut is given for a line longer than any reading is.
var errCut = errors.New("a line without an end")

// hear reads lines until the way breaks or ctx ends, and gives each with what was wrong with it. What has no
// end of line is thrown away up to the next one.
func hear(ctx context.Context, from io.ReadCloser, line func(text string, err error)) error {
	stop := context.AfterFunc(ctx, func() { _ = from.Close() })
	defer stop()
	in := bufio.NewReaderSize(from, 2*nmea.Most)
	over := false
	for {
		text, err := in.ReadSlice('\n')
		switch {
		case errors.Is(err, bufio.ErrBufferFull):
			over = true
			continue
		case err != nil:
			return err
		case over:
			over = false
			line("", errCut)
		default:
			line(string(text), nil)
		}
	}
}

// line takes a line of an instrument in: a reading to be offered, or how it does.
func (l *listener) line(text string, err error) {
	now := l.now()
	if err == nil && l.Kind == Receiver {
		var s *nmea.Sentence
		s, err = nmea.Read(text)
		if errors.Is(err, nmea.ErrOther) {
			return
		}
		if err == nil {
			fix, health, says := l.track.take(s, now)
			l.hub.tell(l, func(st *State) { st.heard(fix, health, says, now) })
			return
		}
	}
	if err == nil {
		var r *plain.Reading
		if r, err = plain.Read(text); err == nil {
			reading := &Reading{Kind: r.Kind, Text: r.Text, Angle: r.Angle, At: now}
			l.hub.tell(l, func(st *State) { st.heard(reading, Well, "", now) })
			return
		}
	}
	l.hub.tell(l, func(st *State) {
		st.Bad++
		st.Last = nil // what it read before may have been meant to be replaced
		st.fare(Garbled, "Its last line could not be read: "+err.Error()+". Read again.", now)
	})
}

// heard takes in what a line that could be read said.
func (st *State) heard(r *Reading, health Health, says string, now time.Time) {
	switch {
	case r != nil:
		st.Last = r
		st.fare(Well, "", now)
	case health != "":
		st.Last = nil
		st.fare(health, says, now)
	case st.Health == Connecting || st.Health == Unplugged || st.Health == Silent || st.Health == Garbled:
		st.fare(Well, "It waits for its first reading.", now)
	}
}

func (st *State) fare(health Health, says string, now time.Time) {
	if st.Health != health {
		st.Since = now
	}
	st.Health, st.Says = health, says
}

// listenLines keeps up with an instrument that sends lines.
func (l *listener) listenLines(ctx context.Context) {
	pause := firstRetry
	for ctx.Err() == nil {
		way, err := dial(ctx, &l.Config, l.hub.local)
		if err == nil {
			pause = firstRetry
			l.track = track{}
			l.hub.tell(l, func(st *State) { st.fare(Well, "It waits for its first reading.", l.now()) })
			watching, done := context.WithCancel(ctx)
			go l.watchSilence(watching)
			err = hear(ctx, way, l.line)
			done()
			err = errors.Join(err, closed(way.Close()))
		}
		if ctx.Err() != nil {
			return
		}
		l.hub.tell(l, func(st *State) { st.lost(l, err) })
		select {
		case <-ctx.Done():
		case <-time.After(pause):
		}
		pause = min(2*pause, lastRetry)
	}
}

// closed leaves out that it was closed already.
func closed(err error) error {
	if errors.Is(err, net.ErrClosed) || errors.Is(err, os.ErrClosed) {
		return nil
	}
	return err
}

// lost says that the way to an instrument is not there; what it read is offered no more.
func (st *State) lost(l *listener, err error) {
	st.Last, st.Air = nil, nil
	says := "It does not answer at " + l.Address + ": is it on, and plugged in? It is tried again."
	switch {
	case errors.Is(err, io.EOF):
		says = "It broke off: is it on, and plugged in? It is tried again."
	case errors.Is(err, ErrOwn):
		says = "It is not called: " + ErrOwn.Error() + "."
	}
	st.fare(Unplugged, says, l.now())
}

// watchSilence says so where a receiver says nothing; the others speak when a hand presses them.
func (l *listener) watchSilence(ctx context.Context) {
	if l.Kind != Receiver {
		return
	}
	tick := time.NewTicker(time.Second)
	defer tick.Stop()
	for {
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
			l.hub.look(l)
		}
	}
}
