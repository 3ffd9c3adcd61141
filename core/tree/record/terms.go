package record

import (
	"slices"

	"palethicket/core/flora"
)

// Term is a word of the format and how it is said to people.
type Term struct {
	ID    string
	Words string
	Hint  string // what it is, where the words alone do not say
}

// Terms are the words that one field may hold, in the order they are offered.
type Terms []Term

// IDs lists the words as the format writes them.
func (t Terms) IDs() []string {
	ids := make([]string, len(t))
	for i := range t {
		ids[i] = t[i].ID
	}
	return ids
}

func (t Terms) has(id string) bool {
	return slices.ContainsFunc(t, func(one Term) bool { return one.ID == id })
}

// Words says a word of the format; one that it does not know stands for itself.
func (t Terms) Words(id string) string {
	for i := range t {
		if t[i].ID == id {
			return t[i].Words
		}
	}
	return id
}

// The words of the format.
var (
	Froms = Terms{
		{"site", "Site", "the land it stands in"},
		{"tree", "This tree", "trunk, or a twig traced to it"},
		{"crown", "Crown", "from below or through glasses"},
		{"fallen", "Fallen twig", "picked up beneath it"},
		{"sapling", "Sapling beside it", "taken as its kind"},
		{"litter", "Ground below", "leaves and fruit on the ground"},
	}
	Certainties  = Terms{{ID: "sure", Words: "sure"}, {ID: "fair", Words: "fair"}, {ID: "guess", Words: "guess"}}
	Hows         = Terms{{ID: "caliper", Words: "by caliper"}, {ID: "ruler", Words: "by ruler"}, {ID: "eye", Words: "by eye"}}
	Visibilities = Terms{{ID: "clear", Words: "clear view"}, {ID: "partial", Words: "in part"}, {ID: "poor", Words: "hardly"}}
	Foliages     = Terms{{ID: "bare", Words: "bare"}, {ID: "needles", Words: "needles"}, {ID: "scale-leaves", Words: "scale leaves"},
		{ID: "broad-evergreen", Words: "broad evergreen leaves"}}
	Snows   = Terms{{ID: "none", Words: "no snow"}, {ID: "patchy", Words: "patchy snow"}, {ID: "deep", Words: "deep snow"}}
	Lights  = Terms{{ID: "good", Words: "good light"}, {ID: "poor", Words: "poor light"}}
	Beyonds = Terms{{ID: "hand", Words: "No twig"}, {ID: "crown", Words: "Crown hidden"}, {ID: "ground", Words: "Ground hidden"}}
	Ages    = terms(flora.AgeWords)
	Zones   = Terms{{ID: "base", Words: "base"}, {ID: "breast", Words: "breast height"}, {ID: "upper", Words: "upper trunk"}}
	Vigours = terms([]string{"thriving", "fair", "failing", "dead"})
	Harms   = Terms{{ID: "none"}, {ID: "scratch", Words: "a small scratch"}, {ID: "flake", Words: "a small flake of bark"},
		{ID: "twig", Words: "one cut twig"}}
	Sections = Terms{{ID: "setting", Words: "Site"}, {ID: "form", Words: "Outline"}, {ID: "bark", Words: "Bark"}, {ID: "twig", Words: "Twig"},
		{ID: "bud", Words: "Buds"}, {ID: "scar", Words: "Scars"}, {ID: "fruit", Words: "Fruit"}, {ID: "ground", Words: "On the ground"},
		{ID: "needle", Words: "Needles"}, {ID: "sign", Words: "Signs"}}
)

func terms(words []string) Terms {
	out := make(Terms, len(words))
	for i, w := range words {
		out[i] = Term{ID: w, Words: w}
	}
	return out
}

// Offered gives the certainty and the visibility that a score is offered first.
// In poor light nobody is sure at once or sees all there is (common practice).
func Offered(light string) (certainty, visibility string) {
	if light == "poor" {
		return "fair", "partial"
	}
	return "sure", "clear"
}
