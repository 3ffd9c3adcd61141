package answer

import (
	"slices"
	"strings"

	"palethicket/core/flora"
)

// cautionFrom is the least posterior at which a tree's cautions are shown.
const cautionFrom = 0.05

// Caution is something to beware of, and where the work meets it.
type Caution struct {
	Words string   `json:"words"`
	Where []string `json:"where"` // sections of characters at which it bites
}

// cautions says what to beware of with the trees that are still in it.
func (a *answer) cautions() []Caution {
	out := []Caution{}
	for _, c := range flora.Cautions {
		var names []string
		for _, h := range a.verdict.Order() {
			if h == a.verdict.Unlisted() || a.verdict.Posterior[h] < cautionFrom {
				continue
			}
			if slices.Contains(a.Pool.Taxa[h].Cautions, c.Word) {
				names = append(names, a.english(h))
			}
		}
		if len(names) > 0 {
			out = append(out, Caution{flora.UpperFirst(strings.Join(names, ", ")) + ": " + c.Says, c.Where})
		}
	}
	return out
}
