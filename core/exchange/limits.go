package exchange

import (
	"errors"
	"fmt"
	"io"
)

// Limits of what is read, so that no file fills the memory: a sheet within them stays
// under 200 MB.
const (
	MaxBytes = 32 << 20 // of a file

	maxRows   = 200_000
	maxCols   = 200
	maxCells  = 4_000_000
	maxText   = 64 << 20  // bytes of all cells
	maxCell   = 64 << 10  // bytes of one
	maxLooks  = 200       // of one tree
	maxScores = 400_000   // of all trees
	maxItem   = 1 << 20   // bytes of one feature, record or waypoint
	maxBlank  = 1_000_000 // lines without anything in them
)

// errMuch is wrapped by every refusal of a file that holds too much.
var errMuch = errors.New("split the file, or leave out what is not about trees")

func tooMuch(format string, args ...any) error {
	return fmt.Errorf("%s: %w", fmt.Sprintf(format, args...), errMuch)
}

// room is what of the limits a sheet has taken.
type room struct{ cells, text, scores, blank int }

// take counts a line in, or refuses it.
func (s *Sheet) take(at string, cells []string) error {
	most := maxRows
	if s.Columns == nil { // titles and headings are among them still
		most += headMost
	}
	s.room.cells += len(cells)
	for _, c := range cells {
		if len(c) > maxCell {
			return tooMuch("%s has a cell of %d kB; at most %d kB are read", at, len(c)>>10, maxCell>>10)
		}
		s.room.text += len(c)
	}
	switch {
	case len(cells) > maxCols:
		return tooMuch("%s has %d columns; at most %d are read", at, len(cells), maxCols)
	case len(s.Rows) >= most:
		return tooMuch("there are more than %d lines", maxRows)
	case s.room.cells > maxCells:
		return tooMuch("there are more than %d million cells", maxCells/1_000_000)
	case s.room.text > maxText:
		return tooMuch("the cells hold more than %d MB of text", maxText>>20)
	}
	return nil
}

// takeScores counts the scores of a line in, or refuses them.
func (s *Sheet) takeScores(at string, looks, scores int) error {
	if s.room.scores += scores; s.room.scores > maxScores {
		return tooMuch("there are more than %d scores", maxScores)
	}
	if looks > maxLooks {
		return tooMuch("%s has %d looks; at most %d are read", at, looks, maxLooks)
	}
	return nil
}

// fence hands on a table's bytes while its records stay within bounds, so that a
// reader of records never holds one that does not.
type fence struct {
	from       io.Reader
	sep, quote byte // quote is 0 where none is used
	quoted     bool
	cols       int
	size       int
	lines      int
	err        error
}

func (f *fence) Read(p []byte) (int, error) {
	if f.err != nil {
		return 0, f.err
	}
	n, err := f.from.Read(p)
	for i, b := range p[:n] {
		if f.err = f.pass(b); f.err != nil {
			return i, f.err
		}
	}
	return n, err
}

func (f *fence) pass(b byte) error {
	f.size++
	switch {
	case f.quote != 0 && b == f.quote:
		f.quoted = !f.quoted
	case f.quoted:
	case b == f.sep:
		f.cols++
	case b == '\n':
		f.cols, f.size = 0, 0
		f.lines++
	}
	switch {
	case f.cols >= maxCols:
		return tooMuch("line %d has more than %d columns", f.lines+1, maxCols)
	case f.size > maxItem:
		return tooMuch("line %d is longer than %d MB", f.lines+1, maxItem>>20)
	case f.lines > maxLines:
		return tooMuch("there are more than %d million lines", maxLines/1_000_000)
	}
	return nil
}

// maxLines bounds a table's lines, those that are passed over among them.
const maxLines = 5_000_000
