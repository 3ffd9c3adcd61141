// Package station asks a weather and phenology station what it measured, by the OGC
// SensorThings API 1.1 (OGC 18-088): JSON over HTTP.
package station

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/url"
	"strings"
	"time"
)

// What is believed of a station: an answer of 4 MB, and 20 pages of observations.
const (
	mostBytes = 4 << 20
	mostPages = 20
	perPage   = 1000
	patience  = 5 * time.Second
)

// Property is what a station can measure.
type Property string

// The properties that are asked for.
const (
	AirTemperature Property = "air temperature" // °C
	SnowDepth      Property = "snow depth"      // cm
	Precipitation  Property = "precipitation"   // mm/h
	WindSpeed      Property = "wind speed"      // m/s
)

// units are the symbols that each property is taken in; another unit is not believed.
var units = map[Property][]string{
	AirTemperature: {"°C", "degC", "Cel"},
	SnowDepth:      {"cm"},
	Precipitation:  {"mm/h", "mm"},
	WindSpeed:      {"m/s"},
}

// ranges are what each property can be.
var ranges = map[Property][2]float64{AirTemperature: {-60, 60}, SnowDepth: {0, 1000}, Precipitation: {0, 300}, WindSpeed: {0, 120}}

// Observation is one value and when it was so.
type Observation struct {
	At    time.Time
	Value float64
}

// Client asks one station.
type Client struct {
	base string
	http http.Client
}

// New makes a client of the station at an address as http://127.0.0.1:8094, reached by a dialer.
func New(address string, by *net.Dialer) *Client {
	elsewhere := func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }
	return &Client{base: strings.TrimSuffix(address, "/") + "/v1.1", http: http.Client{Timeout: patience, CheckRedirect: elsewhere,
		Transport: &http.Transport{DialContext: by.DialContext, MaxIdleConns: 1, IdleConnTimeout: time.Minute}}}
}

// page is a page of a list.
type page[T any] struct {
	Value []T    `json:"value"`
	Next  string `json:"@iot.nextLink"`
}

type datastream struct {
	ID       json.Number `json:"@iot.id"`
	Name     string      `json:"name"`
	Property struct {
		Name string `json:"name"`
	} `json:"ObservedProperty"`
	Unit struct {
		Symbol string `json:"symbol"`
	} `json:"unitOfMeasurement"`
}

type observation struct {
	Time   string      `json:"phenomenonTime"`
	Result json.Number `json:"result"`
}

// Streams finds what the station measures: the id of each property's stream. One in another
// unit is left out, and said.
func (c *Client) Streams(ctx context.Context) (map[Property]string, error) {
	var list page[datastream]
	if err := c.get(ctx, c.base+"/Datastreams?$expand=ObservedProperty&$top=100", &list); err != nil {
		return nil, err
	}
	out := map[Property]string{}
	var strange []string
	for _, d := range list.Value {
		p := Property(strings.ToLower(d.Property.Name))
		known := units[p]
		if known == nil {
			continue
		}
		if !contains(known, d.Unit.Symbol) {
			strange = append(strange, fmt.Sprintf("%s in %q", p, d.Unit.Symbol))
			continue
		}
		out[p] = d.ID.String()
	}
	if len(out) == 0 && len(strange) > 0 {
		return nil, fmt.Errorf("the station measures %s; want °C, cm, mm/h and m/s", strings.Join(strange, ", "))
	}
	if len(out) == 0 {
		return nil, errors.New("the station measures nothing that is of use here")
	}
	return out, nil
}

func contains(all []string, one string) bool {
	for _, s := range all {
		if s == one {
			return true
		}
	}
	return false
}

// Latest gives the last value of a stream.
func (c *Client) Latest(ctx context.Context, p Property, stream string) (*Observation, error) {
	var list page[observation]
	q := url.Values{"$orderby": {"phenomenonTime desc"}, "$top": {"1"}}
	if err := c.get(ctx, c.base+"/Datastreams("+url.PathEscape(stream)+")/Observations?"+q.Encode(), &list); err != nil {
		return nil, err
	}
	if len(list.Value) == 0 {
		return nil, errors.New("the station has no value yet")
	}
	return list.Value[0].read(p)
}

// Since gives a stream's values from a moment on, oldest first. What cannot be read is left out.
func (c *Client) Since(ctx context.Context, p Property, stream string, from time.Time) ([]Observation, error) {
	q := url.Values{"$orderby": {"phenomenonTime asc"}, "$top": {fmt.Sprint(perPage)},
		"$filter": {"phenomenonTime ge " + from.UTC().Format(time.RFC3339)}}
	next := c.base + "/Datastreams(" + url.PathEscape(stream) + ")/Observations?" + q.Encode()
	var out []Observation
	for range mostPages {
		var list page[observation]
		if err := c.get(ctx, next, &list); err != nil {
			return nil, err
		}
		for _, o := range list.Value {
			if read, err := o.read(p); err == nil {
				out = append(out, *read)
			}
		}
		if next = list.Next; next == "" {
			return out, nil
		}
		if !strings.HasPrefix(next, c.base+"/") {
			return nil, errors.New("the station sends one elsewhere for the rest")
		}
	}
	return out, nil
}

func (o *observation) read(p Property) (*Observation, error) {
	first, _, _ := strings.Cut(o.Time, "/") // an interval counts from its start
	at, err := time.Parse(time.RFC3339, first)
	if err != nil {
		return nil, fmt.Errorf("%q is no time", o.Time)
	}
	v, err := o.Result.Float64()
	if r := ranges[p]; err != nil || !(v >= r[0] && v <= r[1]) {
		return nil, fmt.Errorf("%s of %s is no value that it could have", p, o.Result)
	}
	return &Observation{at, v}, nil
}

func (c *Client) get(ctx context.Context, address string, into any) (err error) {
	req, err := http.NewRequestWithContext(ctx, http.MethodGet, address, nil)
	if err != nil {
		return fmt.Errorf("asking the station: %w", err)
	}
	res, err := c.http.Do(req)
	if err != nil {
		return fmt.Errorf("asking the station: %w", err)
	}
	defer func() { err = errors.Join(err, res.Body.Close()) }()
	if res.StatusCode != http.StatusOK {
		return fmt.Errorf("the station answered %s", res.Status)
	}
	body, err := io.ReadAll(io.LimitReader(res.Body, mostBytes+1))
	if err != nil {
		return fmt.Errorf("reading the station's answer: %w", err)
	}
	if len(body) > mostBytes {
		return errors.New("the station's answer is longer than 4 MB")
	}
	if err := json.Unmarshal(body, into); err != nil {
		return fmt.Errorf("the station's answer is no SensorThings: %w", err)
	}
	return nil
}
