package identify

import (
	"slices"
	"strings"
)

// cautionFrom is the least posterior at which a tree's cautions are shown.
const cautionFrom = 0.05

// Caution is something to beware of, and where the work meets it.
type Caution struct {
	Words string   `json:"words"`
	Where []string `json:"where" doc:"Sections of characters at which it bites"`
}

// cautionWords are in the order they are shown. They defer to local rules and
// to trained people; nothing here says that anything is safe.
var cautionWords = []struct {
	word, says string
	where      []string
}{
	{"irritant", "can blister or irritate the skin, in winter too: do not handle it bare-handed.", []string{"bark", "twig", "bud", "scar", "fruit"}},
	{"toxic", "has poisonous parts: smell, never taste, and wash your hands after handling twigs.", []string{"twig", "bud", "scar", "fruit", "ground"}},
	{"dead-limbs", "drops limbs when dead or dying: look up before standing under it, keep clear, and leave felling to trained people.", []string{"form", "bark", "sign"}},
	{"thorns", "is armed: mind your eyes and wear gloves.", []string{"twig", "bud", "scar"}},
	{"declining", "is in decline: take no more than one twig, where that is allowed, and report signs of disease to the local forest-health office.", []string{"twig", "bud", "scar", "sign"}},
	{"protected", "may be protected here: take nothing before you have asked.", []string{"twig", "bud", "scar"}},
}

// cautions says what to beware of with the trees that are still in it.
func (a *answer) cautions() []Caution {
	out := []Caution{}
	for _, c := range cautionWords {
		var names []string
		for _, h := range a.st.Order() {
			if h == a.st.Unlisted() || a.st.Posterior[h] < cautionFrom {
				continue
			}
			if slices.Contains(a.Pool.Taxa[h].Cautions, c.word) {
				names = append(names, a.english(h))
			}
		}
		if len(names) > 0 {
			out = append(out, Caution{upperFirst(strings.Join(names, ", ")) + " " + c.says, c.where})
		}
	}
	return out
}

func upperFirst(s string) string { return strings.ToUpper(s[:1]) + s[1:] }
