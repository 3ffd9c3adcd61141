package exchange

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"palethicket/core/tree/record"
)

// fact is a score as one line of a table: a measurement or fact, in Darwin Core.
type fact struct {
	record.Score
	look, from  string
	value, unit string
}

// eachScore hands on the scores of a tree.
func eachScore(t *Tree, use func(fact) error) error {
	if t.Record == nil {
		return nil
	}
	for i, l := range t.Record.Looks {
		for _, s := range l.Scores {
			f := fact{Score: s, look: strconv.Itoa(i + 1), from: l.From}
			f.value, f.unit = factValue(&s)
			if err := use(f); err != nil {
				return err
			}
		}
	}
	return nil
}

const either = " | "

func factValue(s *record.Score) (value, unit string) {
	switch {
	case s.Nodes != nil && s.Pairs != nil:
		return fmt.Sprintf("%d/%d", *s.Pairs, *s.Nodes), "pairs/nodes"
	case s.Value != nil:
		return strconv.FormatFloat(*s.Value, 'f', -1, 64), s.Unit
	case s.Seen != nil:
		return record.SignWords(*s.Seen), ""
	}
	return strings.Join(s.States, either), ""
}

// remarks holds what else a score says, so that it can be read back.
func (f *fact) remarks() string {
	parts := []string{"look=" + f.look, "from=" + f.from}
	add := func(key, value string) {
		if value != "" {
			parts = append(parts, key+"="+value)
		}
	}
	add("certainty", f.Certainty)
	add("zone", f.Zone)
	add("how", f.How)
	add("visibility", f.Visibility)
	if f.Readings != nil {
		add("readings", strconv.Itoa(*f.Readings))
	}
	return strings.Join(parts, "; ")
}

// parseFact reads a score back: the inverse of factValue and remarks.
func parseFact(character, value, unit, remarks string) (look int, from string, s record.Score, err error) {
	s = record.Score{Character: character}
	look, from = 1, "tree"
	for part := range strings.SplitSeq(remarks, ";") {
		key, v, _ := strings.Cut(strings.TrimSpace(part), "=")
		switch key {
		case "look":
			if look, err = strconv.Atoi(v); err != nil || look < 1 {
				return 0, "", s, fmt.Errorf("%q is no number of a look", v)
			}
		case "from":
			from = v
		case "certainty":
			s.Certainty = v
		case "zone":
			s.Zone = v
		case "how":
			s.How = v
		case "visibility":
			s.Visibility = v
		case "readings":
			n, err := strconv.Atoi(v)
			if err != nil {
				return 0, "", s, fmt.Errorf("%q is no number of readings", v)
			}
			s.Readings = &n
		}
	}
	return look, from, s, setValue(&s, value, unit)
}

func setValue(s *record.Score, value, unit string) error {
	switch {
	case unit == "pairs/nodes":
		var pairs, nodes int
		if _, err := fmt.Sscanf(value, "%d/%d", &pairs, &nodes); err != nil {
			return fmt.Errorf("%q is not pairs/nodes; write it as 4/6", value)
		}
		s.Pairs, s.Nodes = &pairs, &nodes
	case value == record.SeenWords || value == record.NotSeenWords:
		was := value == record.SeenWords
		s.Seen = &was
	default:
		if x, err := finite(value); err == nil {
			s.Value, s.Unit = &x, unit
			return nil
		}
		s.States = strings.Split(value, either)
	}
	return nil
}

// number reads a cell that is a figure and is written just so: 7, and not 007.
func number(c string) (float64, bool) {
	x, err := finite(c)
	if err != nil || strconv.FormatFloat(x, 'f', -1, 64) != c {
		return 0, false
	}
	return x, true
}

// plainNumber is a figure however many zeros end it: no spreadsheet takes it for a formula.
var plainNumber = regexp.MustCompile(`^-?\d+(\.\d+)?$`)
