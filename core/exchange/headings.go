package exchange

import (
	"bytes"
	"errors"
	"fmt"
	"strings"
	"unicode"
	"unicode/utf8"

	"golang.org/x/text/encoding/charmap"
	unicode16 "golang.org/x/text/encoding/unicode"
)

// plainText gives a text file in UTF-8: one in UTF-16, as spreadsheets save "Unicode text", and one
// in Windows-1252, as older ones save CSV, are turned into it.
func plainText(file []byte) ([]byte, error) {
	switch {
	case bytes.HasPrefix(file, []byte("\xef\xbb\xbf")):
		file = file[3:]
	case bytes.HasPrefix(file, []byte("\xff\xfe")), bytes.HasPrefix(file, []byte("\xfe\xff")):
		decoded, err := unicode16.UTF16(unicode16.LittleEndian, unicode16.ExpectBOM).NewDecoder().Bytes(file)
		if err != nil {
			return nil, fmt.Errorf("it begins as UTF-16 text and does not go on so: %w", err)
		}
		file = decoded
	}
	if bytes.IndexByte(file, 0) >= 0 {
		return nil, errors.New("it is no text and no format that is read here; save the trees as a table (CSV or XLSX)")
	}
	if utf8.Valid(file) {
		return file, nil
	}
	return charmap.Windows1252.NewDecoder().Bytes(file)
}

// headMost is among how many of the first lines the headings are looked for.
const headMost = 12

// headed takes the headings from the lines: the one among the first whose cells name the most
// fields. What stands above it are titles; a second line of headings under it, as of units, goes
// with the first.
func (s *Sheet) headed() {
	if len(s.Rows) == 0 {
		return
	}
	best, most := 0, 1 // one word alone may be a title's
	for i := range min(len(s.Rows), headMost) {
		if n := guessed(s.Rows[i].Cells); n > most {
			best, most = i, n
		}
	}
	s.Columns = s.Rows[best].Cells
	s.Rows = s.Rows[best+1:]
	if len(s.Rows) > 1 && under(s.Columns, s.Rows[0].Cells) {
		for i, c := range s.Rows[0].Cells {
			if i >= len(s.Columns) {
				s.Columns = append(s.Columns, c)
				continue
			}
			if both := strings.TrimSpace(s.Columns[i] + " " + c); Guess(both) != "" || Guess(s.Columns[i]) == "" {
				s.Columns[i] = both
			}
		}
		s.Rows = s.Rows[1:]
	}
}

// guessed counts the cells that name a field.
func guessed(cells []string) (n int) {
	for _, c := range cells {
		if Guess(c) != "" {
			n++
		}
	}
	return n
}

// unitCells are what stands under a heading to say its unit.
var unitCells = map[string]bool{"in": true, "inches": true, "cm": true, "mm": true, "m": true, "ft": true, "feet": true, "meters": true,
	"metres": true, "code": true, "deg": true, "degrees": true, "no": true, "ddmmyyyy": true, "mmddyyyy": true}

// under says whether a line is a second one of headings: it has no figures, and says units or names
// fields together with the first.
func under(heads, cells []string) bool {
	units, more := 0, 0
	for i, c := range cells {
		if strings.ContainsFunc(c, unicode.IsDigit) {
			return false
		}
		if unitCells[letters(c)] {
			units++
		}
		if i < len(heads) && c != "" && Guess(heads[i]) == "" && Guess(heads[i]+" "+c) != "" {
			more++
		}
	}
	return units+more > 0
}
