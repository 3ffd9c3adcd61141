// Package simulate serves instruments that do not exist, so that the program can be shown
// and tested without any: a satellite receiver, a caliper, a laser hypsometer and a weather
// station, with the faults that real ones have.
//
//	simulate.go   lines over TCP, and faults
//	lines.go      what receiver, caliper and hypsometer say
//	winter.go     a winter of invented weather; things.go serves it by SensorThings
package simulate

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"net"
	"net/http"
	"sync"
	"time"

	"palethicket/instrument"
)

// Fault is what goes wrong with an instrument.
type Fault string

// The faults there are.
const (
	NoFault   Fault = ""
	NoFix     Fault = "no-fix"
	StaleFix  Fault = "stale-fix"
	WildJump  Fault = "wild-jump"
	Checksum  Fault = "bad-checksum"
	HalfLine  Fault = "half-line"
	Garbage   Fault = "garbage"
	WrongUnit Fault = "wrong-unit"
	Unplugged Fault = "unplugged"
	Slow      Fault = "slow"
)

// Faults lists those that an instrument of a kind can have.
func Faults(kind instrument.Kind) []Fault {
	switch kind {
	case instrument.Receiver:
		return []Fault{NoFix, StaleFix, WildJump, Checksum, HalfLine, Garbage, Unplugged, Slow}
	case instrument.Weather:
		return []Fault{Unplugged, Garbage, WrongUnit, Slow}
	}
	return []Fault{Checksum, HalfLine, Garbage, WrongUnit, Unplugged, Slow}
}

// Options say how an instrument behaves.
type Options struct {
	Every  time.Duration    // between readings; 0: a second for a receiver, eight for the others
	Faults bool             // one after another, each for a while, and none between
	Fault  Fault            // this one all the time
	Seed   uint64           // of what is drawn
	Now    func() time.Time // nil: the clock
}

func (o *Options) fill(kind instrument.Kind) {
	if o.Now == nil {
		o.Now = time.Now
	}
	if o.Every == 0 {
		o.Every = 8 * time.Second
		if kind == instrument.Receiver {
			o.Every = time.Second
		}
	}
}

// faultFor is how many readings a fault lasts, and how many good ones come between.
const faultFor = 8

// fault is what is wrong at the nth reading.
func (o *Options) fault(kind instrument.Kind, n int) Fault {
	if o.Fault != NoFault || !o.Faults {
		return o.Fault
	}
	all := Faults(kind)
	if turn := n / faultFor; turn%2 == 1 {
		return all[turn/2%len(all)]
	}
	return NoFault
}

// Serve answers at a listener as an instrument of a kind, until ctx is done.
func Serve(ctx context.Context, ln net.Listener, kind instrument.Kind, o Options) error {
	o.fill(kind)
	if kind == instrument.Weather {
		return serveStation(ctx, ln, o)
	}
	says, known := speakers[kind]
	if !known {
		return errors.Join(fmt.Errorf("there is no %q to simulate; use gnss, caliper, hypsometer or weather", kind), ln.Close())
	}
	stop := context.AfterFunc(ctx, func() { _ = ln.Close() })
	defer stop()
	var wait sync.WaitGroup
	defer wait.Wait()
	for {
		conn, err := ln.Accept()
		if ctx.Err() != nil {
			return nil
		}
		if err != nil {
			return fmt.Errorf("simulating a %s: %w", kind, err)
		}
		wait.Go(func() { speak(ctx, conn, kind, says, o) })
	}
}

// speak sends readings down one connection until it breaks.
func speak(ctx context.Context, conn net.Conn, kind instrument.Kind, says speaker, o Options) {
	stop := context.AfterFunc(ctx, func() { _ = conn.Close() })
	defer stop()
	defer func() { _ = conn.Close() }() // nobody is left to be told
	rng := rand.New(rand.NewPCG(o.Seed, 1))
	for n := 0; ctx.Err() == nil; n++ {
		fault := o.fault(kind, n)
		if fault == Unplugged && n%faultFor == faultFor-1 {
			return
		}
		text := spoil(says(rng, fault, o.Now().UTC()), fault, rng)
		for _, piece := range pieces(text, fault) {
			if _, err := conn.Write([]byte(piece)); err != nil {
				return
			}
			if fault == Slow && !pause(ctx, o.Every/4) {
				return
			}
		}
		if !pause(ctx, o.Every) {
			return
		}
	}
}

// pause waits; false: ctx ended meanwhile.
func pause(ctx context.Context, d time.Duration) bool {
	select {
	case <-ctx.Done():
		return false
	case <-time.After(d):
		return true
	}
}

// pieces are what is sent at once.
func pieces(text string, fault Fault) []string {
	if fault != Slow {
		return []string{text}
	}
	third := len(text)/3 + 1
	return []string{text[:third], text[third:min(2*third, len(text))], text[min(2*third, len(text)):]}
}

// spoil damages what is sent.
func spoil(text string, fault Fault, rng *rand.Rand) string {
	switch fault {
	case Checksum:
		damaged, whole := []byte(text), true
		for i, c := range damaged { // a digit of each line changes on the way
			if whole && c >= '0' && c <= '8' {
				damaged[i]++
				whole = false
			}
			whole = whole || c == '\n'
		}
		return string(damaged)
	case HalfLine:
		return text[:len(text)/2] + "\r\n"
	case Garbage:
		noise := make([]byte, 20+rng.IntN(600))
		for i := range noise {
			noise[i] = byte(rng.IntN(256))
		}
		return string(noise) + "\r\n"
	}
	return text
}

// serveStation answers as a weather station.
func serveStation(ctx context.Context, ln net.Listener, o Options) error {
	srv := &http.Server{Handler: Station(o), ReadHeaderTimeout: 10 * time.Second}
	stop := context.AfterFunc(ctx, func() { _ = srv.Close() })
	defer stop()
	if err := srv.Serve(ln); !errors.Is(err, http.ErrServerClosed) {
		return fmt.Errorf("simulating a station: %w", err)
	}
	return nil
}
