package logbook

import (
	"fmt"
	"slices"

	"palethicket/core/measure"
	"palethicket/core/stand/plots"
	"palethicket/core/tree/record"
)

// Plot is a sample point in a stand and what was counted from it, as it was written: an
// angle count by a factor, or a plot of a fixed radius.
type Plot struct {
	ID         string    `json:"id"`
	Tract      string    `json:"tract"`
	Stand      string    `json:"stand"`
	Name       string    `json:"name"`
	Day        string    `json:"day"`
	Position   *Position `json:"position,omitempty"`
	Factor     string    `json:"factor,omitempty"` // 2 m2/ha
	Radius     string    `json:"radius,omitempty"` // 11.28 m
	Slope      string    `json:"slope,omitempty"`  // 20 %: of the ground, where neither gauge nor tape allowed for it
	Stems      []Stem    `json:"stems,omitempty"`
	Instrument string    `json:"instrument,omitempty"`
	Remarks    string    `json:"remarks,omitempty"`
	Gone       bool      `json:"gone,omitempty"` // entered by mistake
}

// Stem is one that was counted. It is a tree of the book, or of a taxon, or not named.
type Stem struct {
	Tree       string `json:"tree,omitempty"`     // id
	Taxon      string `json:"taxon,omitempty"`    // of the flora, or a genus
	Diameter   string `json:"diameter,omitempty"` // 31 cm; empty: not measured
	Borderline bool   `json:"borderline,omitempty"`
}

// stemsMost is how many stems a point can have.
const stemsMost = 500

// Point reads a plot's figures; the stems have no names yet. What cannot be read is named
// by its field.
func (p *Plot) Point() (*plots.Point, error) {
	wrong := func(field, format string, args ...any) error {
		return &record.FieldError{Field: "plot." + field, Message: fmt.Sprintf(format, args...)}
	}
	out := &plots.Point{}
	switch {
	case (p.Factor == "") == (p.Radius == ""):
		return nil, wrong("factor", "say the factor of an angle count (2 m2/ha) or the radius of a fixed plot (11.28 m), one of the two")
	case p.Factor != "":
		k, err := measure.ReadFactor(p.Factor)
		if err != nil {
			return nil, wrong("factor", "%v", err)
		}
		if k > 60 {
			return nil, wrong("factor", "%g m²/ha is no factor that is used", k)
		}
		out.Factor = k
	default:
		r, err := measure.Metres(p.Radius)
		if err != nil {
			return nil, wrong("radius", "%v", err)
		}
		if len(r) != 1 || r[0] < 0.5 || r[0] > 100 {
			return nil, wrong("radius", "want one radius from 0.5 m to 100 m")
		}
		out.Radius = r[0]
	}
	if p.Slope != "" {
		s, err := measure.ReadSlope(p.Slope)
		if err != nil {
			return nil, wrong("slope", "%v", err)
		}
		out.Slope = s.Tan
	}
	if len(p.Stems) > stemsMost {
		return nil, wrong("stems", "there are %d; one point has %d at most", len(p.Stems), stemsMost)
	}
	for i := range p.Stems {
		s := &p.Stems[i]
		d, err := s.centimetres()
		if err != nil {
			return nil, wrong(fmt.Sprintf("stems[%d].diameter", i), "%v", err)
		}
		out.Stems = append(out.Stems, plots.Stem{Half: s.Borderline, Diameter: d})
	}
	return out, nil
}

// centimetres is a stem's diameter, the mean of its readings; 0: not measured.
func (s *Stem) centimetres() (float64, error) {
	if s.Diameter == "" {
		return 0, nil
	}
	d, err := measure.Metres(s.Diameter)
	if err != nil {
		return 0, err
	}
	mean := 0.0
	for _, v := range d {
		mean += v / float64(len(d))
	}
	if mean < 0.01 || mean > 5 {
		return 0, fmt.Errorf("no stem is %.3g cm thick", mean*100)
	}
	return mean * 100, nil
}

// check refuses a plot that does not say where and when, or whose figures cannot be read.
func (p *Plot) check() error {
	if !isID(p.ID) {
		return &record.FieldError{Field: "plot.id", Message: "want a ULID of 26 characters"}
	}
	if p.Tract == "" || p.Stand == "" || p.Name == "" {
		return &record.FieldError{Field: "plot.name", Message: "a plot needs its tract, its stand and a name"}
	}
	if _, err := record.ParseDay(p.Day); err != nil {
		return &record.FieldError{Field: "plot.day", Message: err.Error()}
	}
	if err := p.Position.check(); err != nil {
		return &record.FieldError{Field: "plot.position", Message: err.Error()}
	}
	trees := map[string]bool{}
	for i := range p.Stems {
		if id := p.Stems[i].Tree; id != "" && trees[id] {
			return &record.FieldError{Field: fmt.Sprintf("plot.stems[%d].tree", i), Message: "this tree is counted already"}
		} else if id != "" {
			trees[id] = true
		}
	}
	_, err := p.Point()
	return err
}

// Marks are what was marked on a photograph, in parts of its width and height from the upper
// left corner, so that they stand on it at any size.
type Marks struct {
	Photo string `json:"photo"`           // id of the photograph
	Known string `json:"known,omitempty"` // how long the first line is, as it was written: 10 mm
	Lines []Line `json:"lines,omitempty"` // lengths; the first is what Known says
	Bends []Bend `json:"bends,omitempty"` // angles
	Tally []Spot `json:"tally,omitempty"` // counted things, numbered from 1
	What  string `json:"what,omitempty"`  // what is counted
}

// Spot is a place on a photograph.
type Spot [2]float64

// Line is a length that is read off.
type Line struct {
	From Spot   `json:"from"`
	To   Spot   `json:"to"`
	Of   string `json:"of,omitempty"` // what it is: a character's id, or words
}

// Bend is an angle at its middle place.
type Bend struct {
	At [3]Spot `json:"at"`
	Of string  `json:"of,omitempty"`
}

// marksMost is how many of each a photograph can have.
const marksMost = 200

func (m *Marks) check() error {
	if m.Photo == "" {
		return &record.FieldError{Field: "marks.photo", Message: "say which photograph"}
	}
	if len(m.Lines) > marksMost || len(m.Bends) > marksMost || len(m.Tally) > marksMost {
		return &record.FieldError{Field: "marks", Message: fmt.Sprintf("mark %d of each at most", marksMost)}
	}
	var all []Spot
	for _, l := range m.Lines {
		all = append(all, l.From, l.To)
	}
	for _, b := range m.Bends {
		all = append(all, b.At[:]...)
	}
	if slices.ContainsFunc(append(all, m.Tally...), func(s Spot) bool {
		return !(s[0] >= 0 && s[0] <= 1 && s[1] >= 0 && s[1] <= 1)
	}) {
		return &record.FieldError{Field: "marks", Message: "a mark lies beside the photograph"}
	}
	if m.Known != "" {
		if len(m.Lines) == 0 {
			return &record.FieldError{Field: "marks.known", Message: "mark the known length first"}
		}
		if long, err := measure.Metres(m.Known); err != nil || len(long) != 1 {
			return &record.FieldError{Field: "marks.known", Message: fmt.Sprintf("%q is no length; write it as 10 mm or 1/4 in", m.Known)}
		}
	}
	return nil
}
