package demo

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"time"

	"github.com/oklog/ulid/v2"

	"palethicket/book"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/stamp"
)

// measureEvery is of how many trees the crew measured one.
const measureEvery = 11

// measured adds readings to the logs of some trees: heights by the hypsometer and by
// clinometer and tape, diameters by the girth, positions averaged.
func (c *crowd) measured(trees []book.TreeLog) error {
	n := 0
	for i := 0; i < len(trees); i += measureEvery {
		t := &trees[i]
		last := t.Log[len(t.Log)-1]
		w := writer{clock: last.Stamp.Time(), rng: c.ids}
		e, ok := c.reading(n, t)
		if !ok {
			continue
		}
		n++
		e.ID, e.By = w.id(), last.By
		e.Stamp = stamp.OfID(e.ID)
		if err := e.Fill(); err != nil {
			return fmt.Errorf("measuring %s: %w", t.Tree.Tag, err)
		}
		t.Log = append(t.Log, e)
	}
	return nil
}

func (c *crowd) reading(n int, t *book.TreeLog) (e logbook.Entry, ok bool) {
	given := func(pairs ...any) map[string]json.RawMessage {
		out := map[string]json.RawMessage{}
		for i := 0; i < len(pairs); i += 2 {
			out[pairs[i].(string)], _ = json.Marshal(pairs[i+1]) // texts and figures can be written
		}
		return out
	}
	far, steep := 18+8*c.rng.Float64(), 30+12*c.rng.Float64()
	switch n % 4 {
	case 0:
		return logbook.Entry{
			Kind: logbook.KindFacts,
			Measured: &logbook.Measured{Sum: "height-laser", Instrument: "Hypsometer", Given: given(
				"top_range", fmt.Sprintf("%.1f m", far/math.Cos(steep*math.Pi/180)), "top_angle", fmt.Sprintf("%.1f deg", steep),
				"base_range", fmt.Sprintf("%.1f m", far+0.1), "base_angle", fmt.Sprintf("%.1f deg", -3-2*c.rng.Float64()))},
		}, true
	case 1:
		return logbook.Entry{Kind: logbook.KindFacts, Measured: &logbook.Measured{Sum: "height-angles", Given: given(
			"distance", fmt.Sprintf("%.0f m", far), "along", "slope", "slope", fmt.Sprintf("%.0f %%", 5+25*c.rng.Float64()),
			"top", fmt.Sprintf("%.0f %%", 100*math.Tan(steep*math.Pi/180)), "base", fmt.Sprintf("%.0f %%", -10*c.rng.Float64()))}}, true
	case 2:
		looks := logbook.Replay(t.Log).Looks
		if len(looks) == 0 {
			return e, false
		}
		girth := 60 + 90*c.rng.Float64()
		return logbook.Entry{Kind: logbook.KindScore, Look: looks[0].ID, Measured: &logbook.Measured{Sum: "diameter-girth",
			Given: given("girth", fmt.Sprintf("%.1f cm", girth))}}, true
	}
	at := logbook.Replay(t.Log).Facts.Position
	if at == nil {
		return e, false
	}
	var places [][2]float64
	var hdop []float64
	for range 30 {
		places = append(
			places,
			[2]float64{math.Round((at.Lon+c.rng.NormFloat64()*3e-5)*1e7) / 1e7, math.Round((at.Lat+c.rng.NormFloat64()*2e-5)*1e7) / 1e7},
		)
		hdop = append(hdop, math.Round((0.8+0.6*c.rng.Float64())*10)/10)
	}
	return logbook.Entry{Kind: logbook.KindFacts, Measured: &logbook.Measured{Sum: "fix", Instrument: "Receiver at the belt",
		Given: given("positions", places, "hdop", hdop)}}, true
}

// sampled has the crew count from points in two stands: an angle count in the one, and
// circles of 0.04 ha in the other. What is counted is drawn by the stand's mix.
func (c *crowd) sampled(ctx context.Context, b *book.Book) error {
	for _, s := range []struct {
		stand          string
		points         int
		factor, radius string
		stems          func() int
	}{
		{"Upper slope", 8, "2 m2/ha", "", func() int { return 9 + c.rng.IntN(7) }},
		{"Creek bottom", 5, "", "11.28 m", func() int { return 8 + c.rng.IntN(9) }},
	} {
		st := c.woods.stand(s.stand)
		for n := range s.points {
			where, err := st.within(c.rng.Float64)
			if err != nil {
				return err
			}
			at := c.woods.Origin.point(where)
			day := time.Date(2026, 11, 20+n%2, 11, 0, n, 0, time.Local)
			p := book.Plot{
				ID:    ulid.MustNew(ulid.Timestamp(day), c.ids).String(),
				Tract: c.tract,
				Stand: s.stand,
				Name:  fmt.Sprintf("P%d", n+1),
				Day: day.Format(
					time.DateOnly,
				),
				Position:   &book.Position{Lon: at[0], Lat: at[1], Within: 4},
				Factor:     s.factor,
				Radius:     s.radius,
				Instrument: "Caliper",
				Stems:      []book.Stem{},
			}
			for range s.stems() {
				d := 12 + 30*math.Sqrt(c.rng.Float64())*c.rng.Float64() + 6*c.rng.Float64()
				stem := book.Stem{
					Taxon:      c.taxon(st),
					Diameter:   fmt.Sprintf("%.1f cm", d),
					Borderline: s.factor != "" && c.rng.IntN(12) == 0,
				}
				if c.rng.IntN(15) == 0 {
					stem.Taxon = ""
				}
				p.Stems = append(p.Stems, stem)
			}
			if err := b.PutPlot(ctx, p, "Tobias Okafor"); err != nil {
				return fmt.Errorf("counting from %s %s: %w", s.stand, p.Name, err)
			}
		}
	}
	return nil
}
