package book

import (
	"context"
	"fmt"

	"palethicket/core/measure"
	"palethicket/core/measure/marked"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
)

// Marks are what was marked on a photograph, in parts of its width and height from the upper
// left corner.
type Marks struct {
	Photo string       `json:"photo" maxLength:"26" doc:"Its id"`
	Known string       `json:"known,omitempty" maxLength:"40" doc:"How long the first line is: 10 mm"`
	Lines []MarkedLine `json:"lines,omitempty" maxItems:"200"`
	Bends []MarkedBend `json:"bends,omitempty" maxItems:"200"`
	Tally [][2]float64 `json:"tally,omitempty" maxItems:"200" doc:"Counted things, numbered from 1"`
	What  string       `json:"what,omitempty" maxLength:"60" doc:"What is counted"`
}

// MarkedLine is a length that is read off.
type MarkedLine struct {
	From [2]float64 `json:"from"`
	To   [2]float64 `json:"to"`
	Of   string     `json:"of,omitempty" maxLength:"60" doc:"Id of the character that it is a measure of"`
}

// MarkedBend is an angle at its middle place.
type MarkedBend struct {
	At [3][2]float64 `json:"at"`
	Of string        `json:"of,omitempty" maxLength:"60"`
}

func (m *Marks) logged() *logbook.Marks {
	if m == nil {
		return nil
	}
	out := &logbook.Marks{Photo: m.Photo, Known: m.Known, What: m.What}
	for _, l := range m.Lines {
		out.Lines = append(out.Lines, logbook.Line{From: l.From, To: l.To, Of: l.Of})
	}
	for _, b := range m.Bends {
		out.Bends = append(out.Bends, logbook.Bend{At: [3]logbook.Spot{b.At[0], b.At[1], b.At[2]}, Of: b.Of})
	}
	for _, s := range m.Tally {
		out.Tally = append(out.Tally, s)
	}
	return out
}

func marksOf(m *logbook.Marks) *Marks {
	out := &Marks{Photo: m.Photo, Known: m.Known, What: m.What, Lines: []MarkedLine{}, Bends: []MarkedBend{}, Tally: [][2]float64{}}
	for _, l := range m.Lines {
		out.Lines = append(out.Lines, MarkedLine{l.From, l.To, l.Of})
	}
	for _, b := range m.Bends {
		out.Bends = append(out.Bends, MarkedBend{[3][2]float64{b.At[0], b.At[1], b.At[2]}, b.Of})
	}
	for _, s := range m.Tally {
		out.Tally = append(out.Tally, s)
	}
	return out
}

// ReadOff is what is read off marks, with its error.
type ReadOff struct {
	Lines   []string       `json:"lines" doc:"Of each line, in words; empty strings without a known length"`
	Bends   []string       `json:"bends"`
	Count   int            `json:"count"`
	Offered []OfferedScore `json:"offered" doc:"What could be scored in a look"`
	Wrong   string         `json:"wrong" doc:"Why lengths cannot be read off, or empty"`
}

// OfferedScore is a measure or count that a look could take.
type OfferedScore struct {
	Character string `json:"character"`
	Name      string `json:"name"`
	Typed     string `json:"typed" doc:"As it would be scored"`
	Words     string `json:"words" doc:"With its error"`
}

// PhotoMarks gives what was marked on a photograph last; nil: nothing was.
func (b *Book) PhotoMarks(ctx context.Context, id string) (*Marks, error) {
	p, err := b.store.Photo(ctx, id)
	if err != nil {
		return nil, err
	}
	s, err := b.open(ctx, b.store.Reader, p.Tree)
	if err != nil {
		return nil, err
	}
	if m := s.log.Marks[id]; m != nil {
		return marksOf(m), nil
	}
	return &Marks{Photo: id, Lines: []MarkedLine{}, Bends: []MarkedBend{}, Tally: [][2]float64{}}, nil
}

// ReadMarks reads lengths, angles and counts off marks, kept or not.
func (b *Book) ReadMarks(ctx context.Context, m *Marks) (*ReadOff, error) {
	p, err := b.store.Photo(ctx, m.Photo)
	if err != nil {
		return nil, err
	}
	pic := &marked.Picture{Wide: p.Width, High: p.Height}
	out := &ReadOff{
		Lines:   make([]string, len(m.Lines)),
		Bends:   make([]string, len(m.Bends)),
		Count:   len(m.Tally),
		Offered: []OfferedScore{},
	}
	if m.Known != "" {
		long, err := measure.Metres(m.Known)
		if err != nil || len(long) != 1 {
			return nil, &FieldError{"known", fmt.Sprintf("%q is no length; write it as 10 mm or 1/4 in", m.Known)}
		}
		pic.Known = long[0] * 1000
	}
	for _, l := range m.Lines {
		pic.Lines = append(pic.Lines, [2]marked.Point{l.From, l.To})
	}
	for _, a := range m.Bends {
		pic.Bends = append(pic.Bends, [3]marked.Point{a.At[0], a.At[1], a.At[2]})
	}
	lines, bends, err := pic.Read()
	if err != nil {
		out.Wrong = err.Error()
		return out, nil
	}
	b.readOff(out, m, lines, bends)
	return out, nil
}

// readOff says what was read off, and what of it could be scored.
func (b *Book) readOff(out *ReadOff, m *Marks, lines, bends []marked.Value) {
	by := map[string][]marked.Value{}
	var order []string
	take := func(of string, v marked.Value) {
		if of != "" && by[of] == nil {
			order = append(order, of)
		}
		by[of] = append(by[of], v)
	}
	for i, v := range lines {
		if out.Lines[i] = fmt.Sprintf("%.3g mm ± %.2g", v.Value, v.SD); i == 0 {
			out.Lines[i] = m.Known
			continue
		}
		take(m.Lines[i].Of, v)
	}
	for i, v := range bends {
		out.Bends[i] = fmt.Sprintf("%.0f° ± %.0f", v.Value, v.SD)
		take(m.Bends[i].Of, v)
	}
	b.offer(out, order, by)
	c := b.Flora().Character(m.What)
	if c == nil || len(m.Tally) == 0 || measure.IsLength(c.Unit) {
		return
	}
	typed := fmt.Sprint(len(m.Tally))
	score := record.Score{Character: m.What, Typed: typed}
	if score.ReadTyped(c) == nil {
		out.Offered = append(out.Offered, OfferedScore{m.What, c.Name, typed, typed + " counted"})
	}
}

// offer makes scores of what was read off of characters that are measured in lengths.
func (b *Book) offer(out *ReadOff, order []string, by map[string][]marked.Value) {
	f := b.Flora()
	for _, id := range order {
		c := f.Character(id)
		if c == nil {
			continue
		}
		v := marked.Joined(by[id])
		s := OfferedScore{
			Character: id,
			Name:      c.Name,
			Typed:     fmt.Sprintf("%.3g %s", v.Value, "mm"),
			Words:     fmt.Sprintf("%.3g mm ± %.2g", v.Value, v.SD),
		}
		if !measure.IsLength(c.Unit) {
			s.Typed, s.Words = fmt.Sprintf("%.3g", v.Value), fmt.Sprintf("%.0f ± %.0f %s", v.Value, v.SD, c.Unit)
		}
		score := record.Score{Character: id, Typed: s.Typed}
		if score.ReadTyped(c) == nil {
			out.Offered = append(out.Offered, s)
		}
	}
}
