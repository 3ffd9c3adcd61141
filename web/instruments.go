package web

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"

	"palethicket/book"
	"palethicket/core/day/season"
	"palethicket/core/day/weather"
	"palethicket/instrument"
)

// InstrumentState is how an instrument does, and what it read last.
type InstrumentState struct {
	book.Instrument
	Health string             `json:"health" enum:"well,connecting,unplugged,silent,garbled,no-fix,stale,jumped"`
	Says   string             `json:"says" doc:"In words, with what to do"`
	Last   *InstrumentReading `json:"last,omitempty" doc:"To be offered; absent: there is none"`
	Bad    int                `json:"bad" doc:"Lines that could not be read"`
}

// InstrumentReading is one that an instrument made. It is kept nowhere until somebody takes it.
type InstrumentReading struct {
	Serial int64     `json:"serial"`
	Kind   string    `json:"kind" enum:"diameter,height,range,position"`
	Text   string    `json:"text" doc:"As it was sent: 34.2 cm"`
	Angle  string    `json:"angle,omitempty"`
	At     time.Time `json:"at"`
	Lon    float64   `json:"lon,omitempty"`
	Lat    float64   `json:"lat,omitempty"`
	Within float64   `json:"within_m,omitempty"`
	HDOP   float64   `json:"hdop,omitempty"`
}

// InstrumentStates are all, as they are now.
type InstrumentStates struct {
	All []InstrumentState `json:"all"`
}

func (s *Server) instruments() InstrumentStates {
	out := InstrumentStates{All: []InstrumentState{}}
	if s.hub == nil {
		return out
	}
	states, _ := s.hub.States()
	for _, st := range states {
		one := InstrumentState{
			Instrument: book.Instrument{Name: st.Name, Kind: string(st.Kind), Address: st.Address, Baud: st.Baud},
			Health:     string(st.Health), Says: st.Says, Bad: st.Bad,
		}
		if r := st.Last; r != nil {
			one.Last = &InstrumentReading{r.Serial, r.Kind, r.Text, r.Angle, r.At, r.Lon, r.Lat, r.Within, r.HDOP}
		}
		out.All = append(out.All, one)
	}
	return out
}

// ReadingTaken is a reading that somebody takes.
type ReadingTaken struct {
	Serial int64 `json:"serial" doc:"Its running number"`
}

// instrumentsPut are those that are to be listened to.
type instrumentsPut struct {
	Body struct {
		Instruments []book.Instrument `json:"instruments" maxItems:"12"`
	}
}

// errNoInstruments is given where none can be listened to.
var errNoInstruments = errors.New("instruments are listened to at home, where the program runs")

// instrumentOperations name instruments and say what they read.
func (s *Server) instrumentOperations(api huma.API) {
	answer(s, api, operation(readers, inCheck, "list-instruments",
		"GET /api/instruments", "How the instruments do, and what each read last"),
		func(context.Context, *struct{}) (InstrumentStates, error) { return s.instruments(), nil })
	answer(s, api, operation(leads, inCheck, "put-instruments", "PUT /api/instruments", "Say which instruments there are, and where"),
		func(ctx context.Context, in *instrumentsPut) (InstrumentStates, error) {
			if s.hub == nil {
				return InstrumentStates{}, &book.FieldError{Field: "instruments", Message: errNoInstruments.Error()}
			}
			if err := s.book.PutInstruments(ctx, in.Body.Instruments); err != nil {
				return InstrumentStates{}, err
			}
			if err := s.book.Listen(ctx, s.hub); err != nil {
				return InstrumentStates{}, err
			}
			return s.instruments(), nil
		})
	do(s, api, operation(observers, inCheck, "take-reading", "POST /api/instruments/taken",
		"Take a reading, so that it is offered to nobody else: 409 where somebody took it already"),
		func(_ context.Context, in *answered[ReadingTaken]) error {
			if s.hub == nil || !s.hub.Take(in.Body.Serial) {
				return huma.Error409Conflict("this reading was taken already: read again")
			}
			return nil
		})
	huma.Register(api, operation(readers, inCheck, "watch-instruments", "GET /api/instruments/live",
		"How the instruments do, as server-sent events: all of them after each change"),
		func(context.Context, *struct{}) (*huma.StreamResponse, error) {
			if s.hub == nil {
				return nil, huma.Error404NotFound(errNoInstruments.Error())
			}
			changed, done, err := s.hub.Watch()
			if err != nil {
				return nil, huma.Error503ServiceUnavailable(err.Error())
			}
			return &huma.StreamResponse{Body: func(hc huma.Context) {
				defer done()
				s.live(hc, changed)
			}}, nil
		})
}

// How often a window is told: at most, and at least, so that one that left is noticed.
const (
	liveMost  = 250 * time.Millisecond
	liveLeast = 15 * time.Second
)

// live sends how the instruments do until the window goes or the hub is closed.
func (s *Server) live(hc huma.Context, changed <-chan struct{}) {
	r, w := humachi.Unwrap(hc)
	need := hc.Operation().Metadata[accessKey].(access)
	hc.SetHeader("Content-Type", "text/event-stream")
	hc.SetHeader("X-Accel-Buffering", "no")
	hc.SetStatus(http.StatusOK)
	to := http.NewResponseController(w)
	beat := time.NewTicker(liveLeast)
	defer beat.Stop()
	for {
		if s.guarded {
			if _, err := s.whoMay(r, need); err != nil {
				return // their account was closed, or they signed out
			}
		}
		text, err := json.Marshal(s.instruments())
		if err != nil {
			return
		}
		_ = to.SetWriteDeadline(time.Now().Add(streamPause)) // where it cannot be set, the server's own holds
		if _, err := fmt.Fprintf(w, "data: %s\n\n", text); err != nil {
			return
		}
		if err := to.Flush(); err != nil {
			return
		}
		select {
		case <-hc.Context().Done():
			return
		case <-s.hub.Closed():
			return
		case <-beat.C:
		case <-changed:
			time.Sleep(liveMost) // what comes meanwhile is told together
		}
	}
}

// air is what the book's weather station says now, in words and figures.
func (s *Server) air() (words string, now weather.Now) {
	if s.hub == nil {
		return "", now
	}
	states, _ := s.hub.States()
	for _, st := range states {
		if a := st.Air; a != nil {
			return fmt.Sprintf(
					"%s at %s: %s",
					st.Name,
					a.At.Local().Format("15:04"),
					a.Words,
				), weather.Now{
					Temp: a.Temp,
					Snow: a.Snow,
					Rain: a.Rain,
					Wind: a.Wind,
				}
		}
	}
	return "", now
}

// warmthEvery is how often a station's temperatures since January are asked for.
const warmthEvery = 3 * time.Hour

// KeepWarmth keeps the book's spring up with its weather station until ctx is done.
func KeepWarmth(ctx context.Context, b *book.Book, hub *instrument.Hub, log *slog.Logger) {
	for {
		wait := 10 * time.Second
		states, _ := hub.States()
		if i := slices.IndexFunc(states, func(st instrument.State) bool { return st.Kind == instrument.Weather && st.Air != nil }); i >= 0 {
			now := time.Now()
			temps, err := hub.Temperatures(ctx, states[i].Address, time.Date(now.Year(), 1, 1, 0, 0, 0, 0, now.Location()))
			hours := make([]season.Hour, len(temps))
			for j, o := range temps {
				hours[j] = season.Hour{At: o.At, Temp: o.Value}
			}
			if err == nil {
				err = b.Warmth(hours)
				wait = warmthEvery
			}
			if err != nil && ctx.Err() == nil {
				log.Warn("the station's temperatures since January could not be read", "error", err)
				wait = 10 * time.Minute
			}
		}
		select {
		case <-ctx.Done():
			return
		case <-time.After(wait):
		}
	}
}
