package simulate

import (
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"regexp"
	"strconv"
	"strings"
	"sync/atomic"
	"time"

	"github.com/go-chi/chi/v5"
)

// streams are what the invented station measures, as SensorThings names it.
var streams = []struct {
	id                       int
	name, property, unit, in string
	of                       func(hour) float64
}{
	{1, "Air at the pump house", "Air temperature", "degree Celsius", "°C", func(h hour) float64 { return h.temp }},
	{2, "Snow at the pump house", "Snow depth", "centimetre", "cm", func(h hour) float64 { return h.snow }},
	{3, "Precipitation at the pump house", "Precipitation", "millimetre per hour", "mm/h", func(h hour) float64 { return h.rain }},
	{4, "Wind at the pump house", "Wind speed", "metre per second", "m/s", func(h hour) float64 { return h.wind }},
}

const mostObservations = 1000

// Station answers as a SensorThings service of hourly values.
func Station(o Options) http.Handler {
	o.fill("weather")
	var asked atomic.Int64
	r := chi.NewRouter()
	r.Use(func(next http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, req *http.Request) {
			switch o.fault("weather", int(asked.Add(1))) {
			case Unplugged:
				http.Error(w, "down", http.StatusServiceUnavailable)
			case Garbage:
				_, _ = w.Write([]byte("{\"value\": [{\"@iot.id\": 1, \"na")) // who asked may be gone
			case Slow:
				pause(req.Context(), 8*time.Second)
				next.ServeHTTP(w, req)
			default:
				next.ServeHTTP(w, req)
			}
		})
	})
	r.Get("/v1.1/Datastreams", func(w http.ResponseWriter, _ *http.Request) {
		list := []map[string]any{}
		for _, s := range streams {
			unit := s.in
			if o.Fault == WrongUnit {
				unit = "furlong"
			}
			list = append(list, map[string]any{"@iot.id": s.id, "name": s.name, "ObservedProperty": map[string]any{"name": s.property},
				"unitOfMeasurement": map[string]any{"name": s.unit, "symbol": unit}})
		}
		answer(w, map[string]any{"value": list})
	})
	r.Get("/v1.1/Datastreams({id})/Observations", func(w http.ResponseWriter, req *http.Request) { observations(w, req, &o) })
	return r
}

var since = regexp.MustCompile(`^phenomenonTime ge (\S+)$`)

func observations(w http.ResponseWriter, req *http.Request, o *Options) {
	id, err := strconv.Atoi(chi.URLParam(req, "id"))
	if err != nil || id < 1 || id > len(streams) {
		http.Error(w, "no such stream", http.StatusNotFound)
		return
	}
	s := streams[id-1]
	q := req.URL.Query()
	top, err := strconv.Atoi(q.Get("$top"))
	if err != nil || top < 1 || top > mostObservations {
		top = 100
	}
	now := o.Now().UTC().Truncate(time.Hour)
	row := func(t time.Time) map[string]any {
		return map[string]any{"phenomenonTime": t.Format(time.RFC3339), "result": s.of(weather(t))}
	}
	list := []map[string]any{}
	if strings.HasSuffix(q.Get("$orderby"), "desc") {
		for i := range top {
			list = append(list, row(now.Add(-time.Duration(i)*time.Hour)))
		}
		answer(w, map[string]any{"value": list})
		return
	}
	from := now.Add(-24 * time.Hour)
	if m := since.FindStringSubmatch(q.Get("$filter")); m != nil {
		if from, err = time.Parse(time.RFC3339, m[1]); err != nil {
			http.Error(w, "no such time", http.StatusBadRequest)
			return
		}
	}
	at := from.UTC().Truncate(time.Hour)
	for ; !at.After(now) && len(list) < top; at = at.Add(time.Hour) {
		list = append(list, row(at))
	}
	out := map[string]any{"value": list}
	if !at.After(now) {
		rest := url.Values{
			"$orderby": {"phenomenonTime asc"},
			"$top":     {fmt.Sprint(top)},
			"$filter":  {"phenomenonTime ge " + at.Format(time.RFC3339)},
		}
		out["@iot.nextLink"] = "http://" + req.Host + req.URL.Path + "?" + rest.Encode()
	}
	answer(w, out)
}

func answer(w http.ResponseWriter, body any) {
	w.Header().Set("Content-Type", "application/json")
	_ = json.NewEncoder(w).Encode(body) // who asked may be gone
}
