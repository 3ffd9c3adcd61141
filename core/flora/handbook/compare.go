package handbook

import (
	"cmp"
	"fmt"
	"slices"

	"palethicket/core/flora"
	"palethicket/core/flora/lookalike"
	"palethicket/core/weigh/evidence"
)

// Beside is taxa side by side, in what they differ.
type Beside struct {
	Plates []Plate      `json:"plates"`
	Rows   []Difference `json:"rows" doc:"The characters that tell most, first"`
	Lines  []string     `json:"lines" doc:"What tells single pairs of them apart, where the flora has a line"`
}

// Difference is one character in which taxa differ.
type Difference struct {
	Character string   `json:"character"`
	Name      string   `json:"name"`
	From      string   `json:"section"`
	Bits      float64  `json:"bits" doc:"What it is worth between two of them, on average"`
	Words     []string `json:"words" doc:"What each taxon shows, in the order asked for"`
}

// differs is the worth in bits from which on a character is shown.
const differs = 0.5

// mostBeside is how many taxa fit beside each other.
const mostBeside = 4

// Beside compares two to four taxa of a pool.
func (b *Handbook) Beside(among flora.Among, names []string) (*Beside, error) {
	if len(names) < 2 || len(names) > mostBeside {
		return nil, fmt.Errorf("%d taxa to compare; want 2 to %d", len(names), mostBeside)
	}
	p, table, err := b.table(among)
	if err != nil {
		return nil, err
	}
	at := make([]int, len(names))
	out := &Beside{Rows: []Difference{}, Lines: []string{}}
	for i, name := range names {
		k, ok := p.Find(name)
		if !ok {
			known := make([]string, len(p.Taxa))
			for j, t := range p.Taxa {
				known[j] = t.Name
			}
			return nil, flora.UnknownWord("taxon", name, known)
		}
		at[i] = k
		plate, err := b.Plate(name, p.Region, flora.Mature, flora.Breast, 0)
		if err != nil {
			return nil, err
		}
		out.Plates = append(out.Plates, *plate)
	}
	for i := range b.flora.Characters {
		if d := difference(p, table, &b.flora.Characters[i], at); d.Bits >= differs {
			out.Rows = append(out.Rows, d)
		}
	}
	slices.SortStableFunc(out.Rows, func(x, y Difference) int { return cmp.Compare(y.Bits, x.Bits) })
	for i := range names {
		for j := range i {
			if alike := b.flora.Apart(names[j], names[i]); alike != nil {
				out.Lines = append(out.Lines, alike.Line)
			}
		}
	}
	return out, nil
}

func difference(p *flora.Pool, table *lookalike.Table, c *flora.Character, at []int) Difference {
	d := Difference{Character: c.ID, Name: c.Name, From: c.Section, Bits: table.Of(c.ID, at...)}
	for i := range at {
		v := &p.Taxa[at[i]].Entry(c.ID).Cells[flora.Mature][flora.Breast]
		words := Words(c, v)
		if v.Knowledge == evidence.Unknown {
			words = "not known"
		}
		d.Words = append(d.Words, words)
	}
	return d
}
