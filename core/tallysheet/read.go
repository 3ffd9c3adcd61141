package tallysheet

import (
	"fmt"
	"strings"

	"palethicket/core/tree/record"
)

// Blank says whether nothing was written, or that it could not be told.
func Blank(written string) bool { return strings.Trim(written, " ?-") == "" }

// Read is what was written in a row, as a score: letters, in any case, or a number in any unit of length. What is no letter of the row
// is refused, with those that are.
func (r *Row) Read(written string) (*record.Score, error) {
	written = strings.TrimSpace(written)
	s := &record.Score{Character: r.Character}
	if r.Kind == "numeric" {
		s.Typed = written
		return s, nil
	}
	letters := strings.Map(func(c rune) rune {
		if strings.ContainsRune(" ,/+", c) {
			return -1
		}
		return c
	}, strings.ToLower(written))
	for letters != "" {
		var letter string
		letter, letters = r.first(letters)
		box := r.box(letter)
		if box == nil {
			return nil, fmt.Errorf("%s has no %q; its letters are %s", r.Name, letter, r.letters())
		}
		if r.Kind != "sign" {
			s.States = append(s.States, box.State)
			continue
		}
		if seen := box.State == "seen"; s.Seen == nil || *s.Seen == seen {
			s.Seen = &seen
			continue
		}
		return nil, fmt.Errorf("%s was seen or was not: write y or n, or ?", r.Name)
	}
	return s, nil
}

// first parts the letters of the first answer from the rest.
func (r *Row) first(letters string) (letter, rest string) {
	wide := 1
	if len(r.Boxes) > 0 {
		wide = len(r.Boxes[0].Letter)
	}
	runes := []rune(letters)
	wide = min(wide, len(runes))
	return string(runes[:wide]), string(runes[wide:])
}

func (r *Row) box(letter string) *Box {
	for i := range r.Boxes {
		if r.Boxes[i].Letter == letter {
			return &r.Boxes[i]
		}
	}
	return nil
}

func (r *Row) letters() string {
	var out []string
	for _, b := range r.Boxes {
		out = append(out, b.Letter+" "+b.Words)
	}
	return strings.Join(out, ", ")
}

// Row is the row of a character, or nil.
func (s *Sheet) Row(character string) *Row {
	for i := range s.Rows {
		if s.Rows[i].Character == character {
			return &s.Rows[i]
		}
	}
	return nil
}
