package logbook

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"

	"palethicket/core/measure"
	"palethicket/core/measure/sums"
	"palethicket/core/tree/record"
)

// Measured is how a height, a diameter or a position was come by: the readings, as they were
// written or as an instrument sent them. What the entry then says is worked out from them,
// so that a changed reading changes it.
type Measured struct {
	// Sum is which one was done with the readings; empty: what the entry says was read off.
	Sum string `json:"sum,omitempty"`
	// Given are the sum's inputs by name, as they were written, and how each was measured.
	Given map[string]json.RawMessage `json:"given,omitempty"`
	// Instrument is what read it, as "hypsometer H1"; empty: a person.
	Instrument string `json:"instrument,omitempty"`
	// Photo is the photograph that it was read off; empty: the tree itself.
	Photo string `json:"photo,omitempty"`
}

// diameter is the character that a measured diameter is a score of.
const diameter = "form.dbh"

// Fills says what of a tree a sum's result is: height, diameter or position; else empty.
func Fills(sum string) string {
	switch {
	case strings.HasPrefix(sum, "height-"):
		return "height"
	case strings.HasPrefix(sum, "diameter-"):
		return "diameter"
	case sum == "fix":
		return "position"
	}
	return ""
}

// Work does the sum. What is wrong with an input is named as it stands in the entry.
func (m *Measured) Work() (*sums.Result, error) {
	asked := map[string]json.RawMessage{"sum": quoted(m.Sum)}
	for name, given := range m.Given {
		asked[name] = given
	}
	res := sums.Do(asked)
	if res.Error == "" {
		return res, nil
	}
	if at, says, ok := strings.Cut(res.Error, ": "); ok && m.Given[at] != nil {
		return nil, &record.FieldError{Field: "measured.given." + at, Message: says}
	}
	return nil, &record.FieldError{Field: "measured", Message: res.Error}
}

func quoted(text string) json.RawMessage {
	raw, _ := json.Marshal(text) // a text can be written
	return raw
}

// Fill works out of an entry's readings what it says: a height in its facts, a position
// there, or a diameter in its score. An entry without a sum stays as it is.
func (e *Entry) Fill() error {
	if e.Measured == nil || e.Measured.Sum == "" {
		return nil
	}
	res, err := e.Measured.Work()
	if err != nil {
		return err
	}
	what := Fills(e.Measured.Sum)
	switch {
	case what == "diameter" && e.Kind == KindScore:
		typed := fmt.Sprintf("%.4g cm", *res.Value)
		read, err := measure.Read(typed)
		if err != nil {
			return &record.FieldError{Field: "measured", Message: err.Error()}
		}
		value, one := read.Mean(), 1
		score := record.Score{Character: diameter, Typed: typed, Value: &value, Readings: &one, How: "caliper"}
		if e.Score != nil {
			score.Certainty = e.Score.Certainty
		}
		e.Score = &score
	case what == "height" && e.Kind == KindFacts:
		high := math.Round(*res.Value*100) / 100
		e.Facts = e.Facts.with(func(f *SetFacts) { f.Height = &high })
	case what == "position" && e.Kind == KindFacts:
		at := &Position{Lon: res.Parts["lon"], Lat: res.Parts["lat"], Within: math.Round(*res.Value*10) / 10} // half of the fixes
		e.Facts = e.Facts.with(func(f *SetFacts) { f.Position = at })
	default:
		return &record.FieldError{
			Field:   "measured.sum",
			Message: fmt.Sprintf("%s gives nothing that a %s entry says", e.Measured.Sum, e.Kind),
		}
	}
	return nil
}

// with is a copy of facts that are set, changed.
func (f *SetFacts) with(change func(*SetFacts)) *SetFacts {
	out := SetFacts{}
	if f != nil {
		out = *f
	}
	change(&out)
	return &out
}

// check refuses readings that no sum can be done with, and what says other than they do.
func (m *Measured) check(e *Entry) error {
	switch {
	case m == nil:
		return nil
	case e.Kind != KindFacts && e.Kind != KindScore:
		return &record.FieldError{Field: "measured", Message: "only facts and scores are measured"}
	case m.Sum == "":
		return nil
	}
	again := *e
	if err := again.Fill(); err != nil {
		return err
	}
	if e.Kind == KindFacts && (!same(again.Facts.Height, e.Facts.Height) || !same(again.Facts.Position, e.Facts.Position)) ||
		e.Kind == KindScore && (again.Score.Typed != e.Score.Typed || !same(again.Score.Value, e.Score.Value)) {
		return &record.FieldError{Field: "measured", Message: "what it says is not what its readings give"}
	}
	return nil
}

func same[T comparable](a, b *T) bool {
	return a == nil && b == nil || a != nil && b != nil && *a == *b
}

// Words says how it was come by, to stand after what was measured.
func (m *Measured) Words() string {
	var says []string
	for name, given := range m.Given {
		if text := strings.Trim(string(given), `"`); !strings.HasSuffix(name, "_by") && len(text) < longReadings {
			says = append(says, strings.ReplaceAll(name, "_", " ")+" "+text)
		} else if !strings.HasSuffix(name, "_by") {
			says = append(says, fmt.Sprintf("%d %s", strings.Count(text, ",")+1, name))
		}
	}
	slices.Sort(says)
	out := strings.Join(says, ", ")
	if m.Sum != "" {
		if s := sums.ByID(m.Sum); s != nil {
			out = s.Words + " from " + out
		}
	}
	if m.Instrument != "" {
		out = strings.TrimPrefix(out+", by "+m.Instrument, ", ")
	}
	if m.Photo != "" {
		out = strings.TrimPrefix(out+", off a photograph", ", ")
	}
	return out
}

// longReadings is how long readings are that are counted rather than written out.
const longReadings = 80

// Readings are the entries that stand of what was measured, by what they fill: the last of
// each. A height that was written later, without readings, has none.
func (l *Log) Readings() map[string]*Entry {
	out := map[string]*Entry{}
	stands := l.Stand()
	for i := range l.Entries {
		e := &l.Entries[i]
		if !stands[e.ID] {
			continue
		}
		put := func(what string) {
			if e.Measured != nil {
				out[what] = e
			} else {
				delete(out, what)
			}
		}
		switch {
		case e.Kind == KindFacts && e.Facts.Height != nil:
			put("height")
		case e.Kind == KindFacts && (e.Facts.Position != nil || e.Facts.Unplaced):
			put("position")
		case e.Kind == KindScore && e.Score.Character == diameter:
			put("diameter")
		}
	}
	return out
}
