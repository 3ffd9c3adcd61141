package record

import (
	"encoding/json"
	"fmt"
	"strings"
	"time"

	"palethicket/core/measure"
)

// Record is one tree's looks.
type Record struct {
	ID       string      `json:"id" doc:"The tree's tag" maxLength:"80"`
	Region   string      `json:"region,omitempty" doc:"Region of the flora whose trees it could be"`
	List     string      `json:"list,omitempty" doc:"List of one's own that it is ranked among; absent: the whole region"`
	Age      string      `json:"age,omitempty" doc:"young, mature or old; absent: not judged"`
	Foliage  string      `json:"foliage,omitempty" doc:"bare (the default), needles, scale-leaves or broad-evergreen"`
	Flat     bool        `json:"flat,omitempty" doc:"Take every listed tree as equally common"`
	Snow     string      `json:"snow,omitempty" doc:"none, patchy or deep"`
	Beyond   []string    `json:"out_of_reach,omitempty" doc:"What cannot be looked at today: hand (no twig), crown, ground"`
	Date     string      `json:"date,omitempty"`
	Position *[2]float64 `json:"position,omitempty" doc:"longitude, latitude"`
	Observer string      `json:"observer,omitempty"`
	Note     string      `json:"note,omitempty"`
	Tract    string      `json:"tract,omitempty" doc:"Where it stands: the forest"`
	Stand    string      `json:"stand,omitempty" doc:"Where it stands: the part of the forest"`
	Looks    []Look      `json:"looks"`

	// Extra holds, as one JSON object, the fields that the format does not know, so
	// that who passes a record on loses nothing. Reading and writing them is up to
	// the caller.
	Extra json.RawMessage `json:"-"`
}

// Look is what was scored on one thing.
type Look struct {
	From   string  `json:"from"`
	Scores []Score `json:"scores"`
}

// Score is one answer. Which fields count follows from the character's kind.
type Score struct {
	Character  string   `json:"character" yaml:"character" maxLength:"60"`
	States     []string `json:"states,omitempty" yaml:"states" doc:"One or several of the character's states: one of these" maxItems:"64"`
	Typed      string   `json:"typed,omitempty" yaml:"typed" doc:"A measurement as written: 1/4 in, or 5; 6; 5.5" maxLength:"120"`
	Value      *float64 `json:"value,omitempty" yaml:"value" doc:"Measurement, mean of the readings"`
	Unit       string   `json:"unit,omitempty" yaml:"unit" doc:"mm, cm, m, in or ft; absent: the character's own unit"`
	Readings   *int     `json:"readings,omitempty" yaml:"readings" doc:"How many readings the value is the mean of"`
	How        string   `json:"how,omitempty" yaml:"how" doc:"caliper, ruler (the default) or eye"`
	Seen       *bool    `json:"seen,omitempty" yaml:"seen" doc:"For a sign: seen, or looked for and not seen"`
	Visibility string   `json:"visibility,omitempty" yaml:"visibility" doc:"clear (the default), partial or poor"`
	Pairs      *int     `json:"pairs,omitempty" yaml:"pairs" doc:"Nodes that show a pair"`
	Nodes      *int     `json:"nodes,omitempty" yaml:"nodes" doc:"Nodes counted"`
	Certainty  string   `json:"certainty,omitempty" yaml:"certainty" doc:"sure, fair (the default) or guess"`
	Zone       string   `json:"zone,omitempty" yaml:"zone" doc:"base, breast (the default) or upper"`
}

// ParseDate reads the date of a record: a day, or a day and time, as RFC 3339
// writes them.
func ParseDate(text string) (time.Time, error) {
	for _, layout := range []string{time.DateOnly, time.RFC3339} {
		if day, err := time.Parse(layout, text); err == nil {
			return day, nil
		}
	}
	return time.Time{}, fmt.Errorf("%q is not a date; write it as 2026-01-31", text)
}

// ParseDay reads a day as days are kept, from 1500 to 2200.
func ParseDay(text string) (time.Time, error) {
	day, err := time.Parse(time.DateOnly, text)
	switch {
	case err != nil:
		return day, fmt.Errorf("%q is not a day; write it as 2026-01-31", text)
	case day.Year() < firstYear || day.Year() > lastYear:
		return day, fmt.Errorf("days are kept from %d to %d, not %s", firstYear, lastYear, text)
	}
	return day, nil
}

// Years that a day can be of.
const firstYear, lastYear = 1500, 2200

// The words of the format and what they stand for.
var (
	// Belonging is the chance that what was looked at is of the tree.
	Belonging = map[string]float64{"tree": 0.99, "site": 0.99, "crown": 0.95, "fallen": 0.80, "sapling": 0.70, "litter": 0.60}
	// ErrorRate is the chance that a score of this certainty is wrong.
	ErrorRate = map[string]float64{"sure": 0.02, "fair": 0.10, "guess": 0.30}
	// Spread is the relative spread of one reading by this means.
	Spread = map[string]float64{"caliper": 0.03, "ruler": 0.10, "eye": 0.30}
	// Detection is the chance of seeing what is there.
	Detection = map[string]float64{"clear": 0.95, "partial": 0.60, "poor": 0.30}
)

// Parts are the sections of characters that each kind of look usually shows,
// those it shows best first.
var Parts = map[string][]string{
	"site":    {"setting", "form"},
	"tree":    {"bark", "twig", "bud", "scar", "form", "fruit", "needle", "sign"},
	"crown":   {"twig", "fruit", "form", "needle", "sign"},
	"fallen":  {"twig", "bud", "scar", "needle", "fruit"},
	"sapling": {"twig", "bud", "scar", "bark", "needle", "fruit"},
	"litter":  {"ground", "fruit"},
}

// Route is an order of work: which looks are taken first, and what of them is
// scored first. All routes rank alike.
type Route struct {
	ID       string   `json:"id"`
	Words    string   `json:"words"`
	From     []string `json:"from" doc:"Kinds of look, in order"`
	Sections []string `json:"sections" doc:"Sections of characters, in order"`
}

// Routes are the orders that practitioners keep to (common practice).
var Routes = []Route{
	{"branching-first", "Branching first", []string{"crown", "tree", "fallen", "sapling", "site", "litter"},
		[]string{"twig", "bud", "scar", "bark", "form", "fruit", "needle", "sign", "ground", "setting"}},
	{"bark-first", "Bark first", []string{"tree", "crown", "fallen", "sapling", "litter", "site"},
		[]string{"bark", "form", "sign", "fruit", "twig", "bud", "scar", "needle", "ground", "setting"}},
	{"twig-in-hand", "Twig in hand", []string{"tree", "fallen", "sapling", "crown", "litter", "site"},
		[]string{"bud", "scar", "twig", "needle", "fruit", "bark", "form", "sign", "ground", "setting"}},
	{"outline-to-site", "Outline to site", []string{"crown", "tree", "fallen", "sapling", "litter", "site"},
		[]string{"form", "bark", "twig", "bud", "scar", "needle", "fruit", "sign", "ground", "setting"}},
}

// FalseAlarm is the chance of "seeing" a sign that is not there.
const FalseAlarm = 0.02

// FieldError says what is wrong with one field of a record.
type FieldError struct {
	Field   string // as looks[0].scores[2].states[0]
	Message string
}

func (e *FieldError) Error() string { return e.Field + ": " + e.Message }

// Errors are all the things wrong with one record.
type Errors []*FieldError

func (e Errors) Error() string {
	lines := make([]string, len(e))
	for i, f := range e {
		lines[i] = f.Error()
	}
	return strings.Join(lines, "; ")
}

// problems gathers field errors.
type problems struct{ list Errors }

func (p *problems) add(field, format string, args ...any) {
	p.list = append(p.list, &FieldError{field, fmt.Sprintf(format, args...)})
}

func (p *problems) err() error {
	if len(p.list) == 0 {
		return nil
	}
	return p.list
}

// Centimetres gives the value of a score of a length whose character is in
// centimetres, or 0 where none was measured.
func Centimetres(s *Score) float64 {
	if s.Value == nil {
		return 0
	}
	factor, err := measure.Factor(s.Unit, "cm")
	if err != nil {
		return 0 // refused when it was entered
	}
	return *s.Value * factor
}
