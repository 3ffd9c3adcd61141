package instrument

import (
	"fmt"
	"time"

	"palethicket/core/measure/earth"
	"palethicket/instrument/nmea"
)

// What is asked of a receiver's fixes (common practice).
const (
	perHDOP    = 5.0                    // m of error for each unit of HDOP, where the receiver does not say
	walking    = 8.0                    // m/s that nobody afoot exceeds
	jitter     = 30.0                   // m that a fix under trees may wander at once
	settled    = 5                      // fixes in one new place after which it is believed
	staleAfter = 3 * time.Second        // that the receiver's own clock stands still
	epochHalf  = 500 * time.Millisecond // sentences of one fix come together
)

// track turns a receiver's sentences into fixes that can be offered.
type track struct {
	clock      time.Duration // of the receiver, at the last sentence that moved it
	moved      time.Time     // when that was, by our clock
	within     float64       // by its last GST
	withinAt   time.Duration
	last       *Reading // the last fix that was believed
	doubted    *Reading // one that jumped away
	inNewPlace int
}

// take takes a sentence in: a fix to be offered, or how the receiver does.
func (t *track) take(s *nmea.Sentence, now time.Time) (fix *Reading, health Health, says string) {
	switch s.Type {
	case "GST":
		t.within, t.withinAt = s.Within, s.Clock
		return nil, "", ""
	case "GSA":
		return nil, "", ""
	case "RMC":
		if !s.Fix {
			return nil, NoFix, "It has no fix: go where it sees more sky, and wait."
		}
		return nil, "", ""
	}
	if !s.Fix {
		t.last = nil
		return nil, NoFix, "It has no fix: go where it sees more sky, and wait."
	}
	if s.Quality == 6 {
		return nil, NoFix, "It reckons on from where it was: go where it sees more sky, and wait."
	}
	if s.Clock == t.clock && !t.moved.IsZero() {
		if now.Sub(t.moved) > staleAfter {
			return nil, Stale, fmt.Sprintf("It repeats a fix of %d s ago: switch it off and on.", int(now.Sub(t.moved).Seconds()))
		}
		return nil, "", ""
	}
	t.clock, t.moved = s.Clock, now
	return t.believe(t.reading(s, now))
}

func (t *track) reading(s *nmea.Sentence, now time.Time) *Reading {
	r := &Reading{Kind: "position", Lon: s.Lon, Lat: s.Lat, HDOP: s.HDOP, At: now, Text: fmt.Sprintf("%.6f, %.6f", s.Lat, s.Lon)}
	switch apart := t.withinAt - s.Clock; {
	case t.within > 0 && apart.Abs() <= time.Second+epochHalf:
		r.Within = t.within
	case s.HDOP > 0:
		r.Within = perHDOP * s.HDOP
	}
	return r
}

// believe holds a fix back that nobody could have walked to, until several say the same.
func (t *track) believe(r *Reading) (fix *Reading, health Health, says string) {
	if t.last == nil {
		t.last = r
		return r, Well, ""
	}
	far, elapsed := between(t.last, r), r.At.Sub(t.last.At).Seconds()
	if far <= jitter+walking*elapsed {
		t.last, t.doubted, t.inNewPlace = r, nil, 0
		return r, Well, ""
	}
	if t.doubted != nil && between(t.doubted, r) <= jitter {
		t.inNewPlace++
	} else {
		t.inNewPlace = 1
	}
	t.doubted = r
	if t.inNewPlace >= settled {
		t.last, t.doubted, t.inNewPlace = r, nil, 0
		return r, Well, ""
	}
	return nil, Jumped, fmt.Sprintf("It jumped %.0f m, which nobody walked: it is not believed until it stays there.", far)
}

// between is how far apart two fixes are, in metres.
func between(a, b *Reading) float64 {
	d, _, err := earth.Way(earth.Place{Lon: a.Lon, Lat: a.Lat}, earth.Place{Lon: b.Lon, Lat: b.Lat})
	if err != nil {
		return 1e7 // nearly at the other side of the earth
	}
	return d
}
