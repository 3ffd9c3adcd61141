package record

import (
	"cmp"
	"fmt"
	"strconv"
	"strings"

	"palethicket/core/flora"
	"palethicket/core/measure"
	"palethicket/core/weigh/evidence"
)

// ReadTyped works out a measurement's value, unit, readings and means from what
// was written for it, if anything was. The error is a [*FieldError] of "typed".
func (s *Score) ReadTyped(c *flora.Character) error {
	if s.Typed == "" || c.Kind != evidence.Numeric {
		return nil
	}
	r, err := measure.Read(s.Typed)
	if err != nil {
		return &FieldError{"typed", err.Error()}
	}
	if r.Unit != "" {
		if _, err := conversion(r.Unit, c.Unit); err != nil {
			return &FieldError{"typed", fmt.Sprintf("%s: %v", c.Name, err)}
		}
		s.Unit = r.Unit
	}
	if s.Unit == c.Unit {
		s.Unit = ""
	}
	if r.ByEye {
		s.How = "eye"
	}
	if err := possible(c, r, s.Unit); err != nil {
		return &FieldError{"typed", err.Error()}
	}
	mean, n := r.Mean(), len(r.Values)
	s.Value, s.Readings = &mean, &n
	return nil
}

// possible refuses a reading that no tree has: a slip of the pen or of the unit.
func possible(c *flora.Character, r *measure.Readings, unit string) error {
	factor, err := measure.Factor(unit, c.Unit)
	if err != nil {
		return err
	}
	for _, v := range r.Values {
		if own := v * factor; own < c.Least || own > c.Most {
			return fmt.Errorf("%s cannot be %.4g %s; it is from %.4g to %.4g %s", c.Name, own, c.Unit, c.Least, c.Most, c.Unit)
		}
	}
	return nil
}

// Understood says what was made of a measure as it was written: "1/4 in = 6.35 mm, by
// ruler, 1 reading". Of other scores it says what they say.
func (s *Score) Understood(c *flora.Character) string {
	if s.Value == nil || c == nil {
		return s.Words(c)
	}
	written := s.Typed
	if _, err := strconv.ParseFloat(strings.Replace(written, ",", ".", 1), 64); written == "" || err == nil {
		written = strings.TrimSpace(fmt.Sprintf("%.4g %s", *s.Value, cmp.Or(s.Unit, c.Unit)))
	}
	says := []string{written}
	if factor, err := measure.Factor(cmp.Or(s.Unit, c.Unit), c.Unit); err == nil {
		if own := fmt.Sprintf("%.3g %s", *s.Value*factor, c.Unit); own != written {
			says[0] += " = " + own
		}
	}
	says = append(says, Hows.Words(cmp.Or(s.How, "ruler")))
	if n := s.Readings; n == nil || *n == 1 {
		says = append(says, "1 reading")
	} else if says = append(says, fmt.Sprintf("mean of %d readings", *n)); s.Typed != "" {
		if r, err := measure.Read(s.Typed); err == nil {
			says = append(says, strings.TrimRight(fmt.Sprintf("spread %.2g %s", r.Spread(), cmp.Or(s.Unit, c.Unit)), " "))
		}
	}
	if s.Certainty != "" && s.Certainty != "fair" {
		says = append(says, Certainties.Words(s.Certainty))
	}
	return strings.Join(says, ", ")
}

// What is said of a sign.
const (
	SeenWords    = "seen"
	NotSeenWords = "looked, not seen"
	NoPartWords  = "no such part"
)

// SignWords says whether a sign was seen.
func SignWords(seen bool) string {
	if seen {
		return SeenWords
	}
	return NotSeenWords
}

// american spells words as people read them; the ids of states, which files know, are spelled as they always were.
var american = strings.NewReplacer("-", " ", "grey", "gray", "sulphur", "sulfur")

// StateWords says a state's id.
func StateWords(id string) string { return american.Replace(id) }

// Words says what a score says. The character may be nil where the flora has it
// no longer; a value is then said in the unit it was written in.
func (s *Score) Words(c *flora.Character) string {
	says := s.said(c)
	if s.Zone != "" && s.Zone != flora.ZoneWords[flora.Breast] {
		says += " (" + Zones.Words(s.Zone) + ")"
	}
	if s.Certainty != "" && s.Certainty != "fair" {
		says += ", " + Certainties.Words(s.Certainty)
	}
	return says
}

func (s *Score) said(c *flora.Character) string {
	switch {
	case s.Nodes != nil && s.Pairs != nil:
		return fmt.Sprintf("%s in %s", count(*s.Pairs, "pair"), count(*s.Nodes, "node"))
	case s.Seen != nil:
		return SignWords(*s.Seen)
	case s.Value != nil:
		return s.measured(c)
	}
	states := make([]string, len(s.States))
	for i, id := range s.States {
		states[i] = StateWords(id)
	}
	return strings.Join(states, " or ")
}

// measured says a value, in the character's own unit too where it was written in
// another.
func (s *Score) measured(c *flora.Character) string {
	unit := s.Unit
	if unit == "" && c != nil {
		unit = c.Unit
	}
	says := strings.TrimSpace(fmt.Sprintf("%.4g %s", *s.Value, unit))
	if c != nil && unit != c.Unit {
		if factor, err := measure.Factor(unit, c.Unit); err == nil {
			says += fmt.Sprintf(" = %.3g %s", *s.Value*factor, c.Unit)
		}
	}
	if s.Readings != nil && *s.Readings > 1 {
		says += fmt.Sprintf(", mean of %d readings", *s.Readings)
		if r, err := measure.Read(s.Typed); err == nil {
			says += strings.TrimRight(fmt.Sprintf(", spread %.2g %s", r.Spread(), unit), " ")
		}
	}
	if s.How != "" && s.How != "ruler" {
		says += ", " + Hows.Words(s.How)
	}
	return says
}

func count(n int, noun string) string {
	if n == 1 {
		return "1 " + noun
	}
	return fmt.Sprintf("%d %ss", n, noun)
}
