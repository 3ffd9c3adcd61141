package instrument

import (
	"context"
	"fmt"
	"strings"
	"time"

	"palethicket/instrument/station"
)

// How often a station is asked, and how old its word may be.
const (
	stationEvery = 5 * time.Minute
	stationOld   = 3 * time.Hour
)

// listenStation keeps up with a weather station.
func (l *listener) listenStation(ctx context.Context) {
	client := station.New(l.Address, dialer(l.hub.local))
	for ctx.Err() == nil {
		air, err := airNow(ctx, client, l.now())
		if ctx.Err() != nil {
			return
		}
		wait := stationEvery
		l.hub.tell(l, func(st *State) {
			switch {
			case err != nil:
				st.Air, wait = nil, lastRetry
				st.fare(Unplugged, "It does not answer as it should: "+err.Error()+". It is tried again.", l.now())
			case l.now().Sub(air.At) > stationOld:
				st.Air = nil
				st.fare(Stale, "Its last word is of "+air.At.Local().Format("2 Jan 15:04")+".", l.now())
			default:
				st.Air = air
				st.fare(Well, air.Words, l.now())
			}
		})
		select {
		case <-ctx.Done():
		case <-time.After(wait):
		}
	}
}

// airNow asks a station for what it measured last of each.
func airNow(ctx context.Context, client *station.Client, now time.Time) (*Air, error) {
	streams, err := client.Streams(ctx)
	if err != nil {
		return nil, err
	}
	air := &Air{}
	var says []string
	for _, ask := range []struct {
		of    station.Property
		into  **float64
		words string
	}{
		{station.AirTemperature, &air.Temp, "%.0f °C"},
		{station.SnowDepth, &air.Snow, "%.0f cm of snow"},
		{station.Precipitation, &air.Rain, "%.1f mm an hour"},
		{station.WindSpeed, &air.Wind, "wind %.0f m/s"},
	} {
		id, measures := streams[ask.of]
		if !measures {
			continue
		}
		o, err := client.Latest(ctx, ask.of, id)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", ask.of, err)
		}
		if o.At.After(now.Add(time.Hour)) {
			return nil, fmt.Errorf("%s is of %s, which is to come: its clock is wrong", ask.of, o.At.Format(time.DateTime))
		}
		*ask.into = &o.Value
		says = append(says, fmt.Sprintf(ask.words, o.Value))
		if o.At.After(air.At) {
			air.At = o.At
		}
	}
	air.Words = strings.Join(says, ", ")
	return air, nil
}

// Temperatures gives hourly air temperatures of the station at an address, from a moment on.
func (h *Hub) Temperatures(ctx context.Context, address string, from time.Time) ([]station.Observation, error) {
	client := station.New(address, dialer(h.local))
	streams, err := client.Streams(ctx)
	if err != nil {
		return nil, err
	}
	id, measures := streams[station.AirTemperature]
	if !measures {
		return nil, fmt.Errorf("the station at %s does not measure the air's temperature", address)
	}
	return client.Since(ctx, station.AirTemperature, id, from)
}
