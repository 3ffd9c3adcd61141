package book

import (
	"context"
	"errors"
	"fmt"
	"io"
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"palethicket/core/exchange"
	"palethicket/core/flora"
	"palethicket/core/label"
	arithmetic "palethicket/core/measure/sums"
	"palethicket/core/stand/composition"
	"palethicket/core/stand/plots"
	"palethicket/core/tree/logbook"
	"palethicket/store"
)

// Plot is a sample point in a stand and what was counted from it.
type Plot struct {
	ID         string    `json:"id" minLength:"26" maxLength:"26" doc:"ULID, made by who enters the point"`
	Tract      string    `json:"tract" minLength:"1" maxLength:"80"`
	Stand      string    `json:"stand" minLength:"1" maxLength:"80"`
	Name       string    `json:"name" minLength:"1" maxLength:"40"`
	Day        string    `json:"day" format:"date"`
	Position   *Position `json:"position,omitempty"`
	Factor     string    `json:"factor,omitempty" maxLength:"40" doc:"Of an angle count: 2 m2/ha"`
	Radius     string    `json:"radius,omitempty" maxLength:"40" doc:"Of a fixed plot: 11.28 m"`
	Slope      string    `json:"slope,omitempty" maxLength:"40" doc:"Of the ground, as 20 %, where neither gauge nor tape allowed for it"`
	Stems      []Stem    `json:"stems" maxItems:"500"`
	Instrument string    `json:"instrument,omitempty" maxLength:"80"`
	Remarks    string    `json:"remarks,omitempty" maxLength:"2000"`
	Gone       bool      `json:"gone,omitempty" doc:"It was entered by mistake"`
	Far        bool      `json:"far,omitempty" writeOnly:"true" doc:"It is meant though it is far from the tract's trees; absent: refused"`
	Words      string    `json:"words,omitempty" readOnly:"true" doc:"What the point says by itself"`
}

// Stem is one that was counted: a tree of the book, or of a taxon, or not named.
type Stem struct {
	Tree       string `json:"tree,omitempty" maxLength:"26" doc:"Its id"`
	Tag        string `json:"tag,omitempty" maxLength:"40" doc:"Its tag, in the plot's tract; in place of the id"`
	Taxon      string `json:"taxon,omitempty" maxLength:"80" doc:"By any of its names, or a genus; absent: the tree's chances, or none"`
	Diameter   string `json:"diameter,omitempty" maxLength:"40" doc:"As written: 31 cm; absent: the tree's own, or not measured"`
	Borderline bool   `json:"borderline,omitempty" doc:"It counts half"`
}

// Estimated is a mean over points; the error and range are absent with one point.
type Estimated struct {
	Mean *float64 `json:"mean" doc:"null: it cannot be told"`
	SE   *float64 `json:"se,omitempty"`
	From *float64 `json:"from,omitempty" doc:"95 % by Student's t"`
	To   *float64 `json:"to,omitempty"`

	Words string `json:"words" doc:"12.0 ± 1.2, with the standard error"`
}

// PlotTaxon is what one taxon has.
type PlotTaxon struct {
	Taxon string    `json:"taxon" doc:"Empty: what is not named"`
	Words string    `json:"words"`
	Area  Estimated `json:"area_m2_ha"`
	Stems Estimated `json:"stems_ha"`
}

// PlotTally is what the points of a stand or tract add up to.
type PlotTally struct {
	Points     []Plot      `json:"points"`
	Area       Estimated   `json:"area_m2_ha"`
	Stems      Estimated   `json:"stems_ha"`
	Quadratic  *float64    `json:"quadratic_cm,omitempty" doc:"Mean diameter, of the stem of mean basal area"`
	Density    *float64    `json:"stand_density,omitempty" doc:"Reineke's index"`
	Unmeasured int         `json:"unmeasured" doc:"Stems without a diameter"`
	Taxa       []PlotTaxon `json:"taxa"`
	Needed10   int         `json:"needed_10" doc:"Points in all for ±10 % of the basal area; 0: it cannot be told"`
	Needed20   int         `json:"needed_20"`
	Says       []string    `json:"says"`
}

func figured(x float64) *float64 {
	if math.IsNaN(x) || math.IsInf(x, 0) {
		return nil
	}
	x = composition.Settled(x) // the same at home and on a device
	return &x
}

func estimated(e plots.Estimate) Estimated {
	out := Estimated{Mean: figured(e.Mean), SE: figured(e.SE), From: figured(e.From), To: figured(e.To)}
	switch {
	case out.Mean == nil:
		out.Words = "not known"
	case out.SE == nil:
		out.Words = fmt.Sprintf("%.*f", placesOf(e.Mean), e.Mean)
	default:
		out.Words = fmt.Sprintf("%.*f ± %.*f", placesOf(e.Mean), e.Mean, placesOf(e.Mean), e.SE)
	}
	return out
}

// placesOf is to how many places a figure per hectare is said.
func placesOf(x float64) int {
	if x >= 100 {
		return 0
	}
	return 1
}

// PutPlot keeps a sample point, in place of the one of that id if there is one.
func (b *Book) PutPlot(ctx context.Context, p Plot, by string) error {
	if err := cleanNames(nameField{"tract", &p.Tract, label.NameMost}, nameField{"stand", &p.Stand, label.NameMost},
		nameField{"name", &p.Name, label.TagMost}); err != nil {
		return err
	}
	if b.checked {
		return &FieldError{"kind", errNotJoined.Error()}
	}
	if err := there(ctx, b.store.Reader, &p.Tract, &p.Stand); err != nil {
		return err
	}
	if err := b.newPoint(ctx, &p); err != nil {
		return err
	}
	if p.Position != nil && !p.Far && !p.Gone {
		if err := b.atHand(ctx, p.Tract, "", (*logbook.Position)(p.Position)); err != nil {
			return err
		}
	}
	kept := &logbook.Plot{ID: p.ID, Tract: p.Tract, Stand: p.Stand, Name: p.Name, Day: p.Day, Position: (*logbook.Position)(p.Position),
		Factor: p.Factor, Radius: p.Radius, Slope: p.Slope, Instrument: p.Instrument, Remarks: p.Remarks,
		Gone: p.Gone}
	for i, s := range p.Stems {
		stem, err := b.stem(ctx, p.Tract, i, s)
		if err != nil {
			return err
		}
		kept.Stems = append(kept.Stems, stem)
	}
	e := logbook.Entry{ID: newID(), Kind: logbook.KindPlot, By: by, Plot: kept}
	if err := e.Check(); err != nil {
		return err
	}
	return b.store.Write(ctx, func(tx *store.Tx) error {
		log, err := tx.About(ctx, e.About())
		if err != nil {
			return err
		}
		if len(log) > 0 {
			again := e
			again.ID, again.By = log[len(log)-1].ID, log[len(log)-1].By
			if log[len(log)-1].Same(&again) {
				return nil // sent twice
			}
		}
		return b.enterAbout(ctx, tx, e, "")
	})
}

// ahead is how far the day of who entered it may be ahead of the book's: it is tomorrow on the other side of the earth.
const ahead = 15 * time.Hour

// toCome says whether a day is still to come everywhere.
func (b *Book) toCome(day string) bool { return day > b.now().UTC().Add(ahead).Format(time.DateOnly) }

// newPoint refuses a point of a day to come, and one with the name of another in its stand.
func (b *Book) newPoint(ctx context.Context, p *Plot) error {
	if p.Gone {
		return nil
	}
	if b.toCome(p.Day) {
		return &FieldError{"plot.day", p.Day + " is still to come: say when it was counted"}
	}
	others, err := b.store.Plots(ctx, p.Tract, p.Stand)
	if err != nil {
		return err
	}
	for i := range others {
		if o := &others[i]; o.ID != p.ID && label.Key(o.Name) == label.Key(p.Name) {
			return &FieldError{"plot.name", fmt.Sprintf("%s has a point %s already: change that one, or choose another name", p.Stand, o.Name)}
		}
	}
	return nil
}

// stem finds the tree or taxon that a counted stem names.
func (b *Book) stem(ctx context.Context, tract string, i int, s Stem) (logbook.Stem, error) {
	out := logbook.Stem{Tree: s.Tree, Diameter: s.Diameter, Borderline: s.Borderline}
	wrong := func(field, format string, args ...any) error {
		return &FieldError{fmt.Sprintf("plot.stems[%d].%s", i, field), fmt.Sprintf(format, args...)}
	}
	if s.Tag != "" && s.Tree == "" {
		t, err := b.store.TreeByTag(ctx, tract, s.Tag)
		if err != nil {
			return out, wrong("tag", "no tree of %s carries the tag %q", tract, s.Tag)
		}
		out.Tree = t.ID
	}
	if out.Tree != "" {
		if _, err := b.store.Tree(ctx, out.Tree); err != nil {
			return out, wrong("tree", "the book has no such tree")
		}
	}
	if s.Taxon == "" {
		return out, nil
	}
	sh := b.shelf.Load()
	if sh.flora.Taxon(s.Taxon) != nil || isGenus(sh.flora, s.Taxon) {
		out.Taxon = s.Taxon
		return out, nil
	}
	var whole []string
	for _, h := range sh.names.Search(s.Taxon).Hits {
		if h.Whole && strings.EqualFold(h.Name, strings.TrimSpace(s.Taxon)) && !slices.Contains(whole, h.Taxon) {
			whole = append(whole, h.Taxon)
		}
	}
	if len(whole) != 1 {
		return out, wrong("taxon", "%q is the name of %d trees of the flora; want that of one, or a genus", s.Taxon, len(whole))
	}
	out.Taxon = whole[0]
	return out, nil
}

func isGenus(f *flora.Flora, name string) bool {
	for i := range f.Taxa {
		if f.Taxa[i].Genus == name {
			return true
		}
	}
	return false
}

// Plots gives the sample points of a stand, a tract or the book, and what they add up to.
func (b *Book) Plots(ctx context.Context, tract, stand string) (t *PlotTally, err error) {
	snap, err := b.store.Snapshot(ctx)
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, snap.Close()) }()
	return b.plots(ctx, snap.Reader, tract, stand)
}

func (b *Book) plots(ctx context.Context, from store.Reader, tract, stand string) (*PlotTally, error) {
	kept, err := from.Plots(ctx, tract, stand)
	if err != nil {
		return nil, err
	}
	var trees []string
	for _, p := range kept {
		for _, s := range p.Stems {
			if s.Tree != "" {
				trees = append(trees, s.Tree)
			}
		}
	}
	names, dbh, err := from.Likely(ctx, trees, b.shelf.Load().bearers())
	if err != nil {
		return nil, err
	}
	var points []plots.Point
	for i := range kept {
		p, err := kept[i].Point()
		if err != nil {
			return nil, fmt.Errorf("reading the point %s: %w", kept[i].Name, err)
		}
		for j, s := range kept[i].Stems {
			switch {
			case s.Taxon != "":
				p.Stems[j].Names = map[string]float64{s.Taxon: 1}
			case s.Tree != "":
				p.Stems[j].Names = names[s.Tree]
			}
			if p.Stems[j].Diameter == 0 {
				p.Stems[j].Diameter = dbh[s.Tree]
			}
		}
		points = append(points, *p)
	}
	return b.tallied(kept, points), nil
}

func (b *Book) tallied(kept []logbook.Plot, points []plots.Point) *PlotTally {
	sh, t := b.shelf.Load(), plots.Of(points)
	out := &PlotTally{Points: []Plot{}, Taxa: []PlotTaxon{}, Says: []string{}, Unmeasured: t.Unmeasured}
	for i := range kept {
		out.Points = append(out.Points, plotOf(&kept[i], plots.Of(points[i:i+1])))
	}
	if t.Points == 0 {
		return out
	}
	out.Area, out.Stems, out.Quadratic = estimated(t.Area), estimated(t.Stems), figured(t.Quadratic)
	for _, x := range t.Taxa {
		words := "Not named"
		if x.Name != "" {
			words = flora.UpperFirst(sh.nameWords(sh.rankOf(x.Name), x.Name))
		}
		out.Taxa = append(out.Taxa, PlotTaxon{x.Name, words, estimated(x.Area), estimated(x.Stems)})
	}
	if q := out.Quadratic; q != nil {
		out.Density = figured(arithmetic.StandDensity(t.Stems.Mean, *q))
	}
	out.Needed10, out.Needed20 = t.Needed(0.10), t.Needed(0.20)
	out.Says = saysOf(t, out)
	return out
}

func saysOf(t *plots.Tally, out *PlotTally) []string {
	var says []string
	if t.Points == 1 {
		return []string{"One point does not tell how far off it is: count from two or more."}
	}
	says = append(says, fmt.Sprintf("%d points: %.1f m²/ha, give or take %.1f (standard error %.1f).", t.Points, t.Area.Mean,
		t.Area.To-t.Area.Mean, t.Area.SE))
	if more := out.Needed10 - t.Points; more > 0 {
		says = append(says, fmt.Sprintf("For ±10 %% at 95 %% count from %d more; for ±20 %% %s.", more, moreWords(out.Needed20-t.Points)))
	} else if out.Needed10 > 0 {
		says = append(says, "That is within 10 % of the basal area, 95 times in 100.")
	}
	if t.Unmeasured > 0 {
		says = append(says, fmt.Sprintf("%d stems have no diameter: what needs it cannot be told.", t.Unmeasured))
	}
	return says
}

func moreWords(n int) string {
	if n <= 0 {
		return "there are enough"
	}
	return fmt.Sprintf("from %d more", n)
}

// plotOf is a point as it is shown, with what it says by itself.
func plotOf(p *logbook.Plot, alone *plots.Tally) Plot {
	out := Plot{ID: p.ID, Tract: p.Tract, Stand: p.Stand, Name: p.Name, Day: p.Day, Position: (*Position)(p.Position), Factor: p.Factor,
		Radius: p.Radius, Slope: p.Slope, Stems: []Stem{}, Instrument: p.Instrument, Remarks: p.Remarks}
	for _, s := range p.Stems {
		out.Stems = append(out.Stems, Stem{Tree: s.Tree, Taxon: s.Taxon, Diameter: s.Diameter, Borderline: s.Borderline})
	}
	out.Words = fmt.Sprintf("%d stems", len(p.Stems))
	if a := figured(alone.Area.Mean); a != nil {
		out.Words += fmt.Sprintf(", %.1f m²/ha", *a)
	}
	if n := figured(alone.Stems.Mean); n != nil {
		out.Words += fmt.Sprintf(", %.0f stems/ha", *n)
	}
	return out
}

// PlotsCSV writes the counted stems of sample points, a line each; a point without stems has
// a line too.
func (b *Book) PlotsCSV(ctx context.Context, w io.Writer, tract, stand string) error {
	t, err := b.Plots(ctx, tract, stand)
	if err != nil {
		return err
	}
	rows := [][]string{
		{"tract", "stand", "point", "day", "lat", "lon", "factor", "radius", "slope", "tree", "taxon", "diameter", "borderline", "remarks"},
	}
	for _, p := range t.Points {
		lat, lon := "", ""
		if p.Position != nil {
			lat, lon = strconv.FormatFloat(p.Position.Lat, 'f', 6, 64), strconv.FormatFloat(p.Position.Lon, 'f', 6, 64)
		}
		head := []string{p.Tract, p.Stand, p.Name, p.Day, lat, lon, p.Factor, p.Radius, p.Slope}
		for _, s := range p.Stems {
			rows = append(
				rows,
				append(append([]string(nil), head...), s.Tree, s.Taxon, s.Diameter, strconv.FormatBool(s.Borderline), p.Remarks),
			)
		}
		if len(p.Stems) == 0 {
			rows = append(rows, append(append([]string(nil), head...), "", "", "", "", p.Remarks))
		}
	}
	if err := exchange.WriteTable(w, rows); err != nil {
		return fmt.Errorf("writing sample points: %w", err)
	}
	return nil
}
