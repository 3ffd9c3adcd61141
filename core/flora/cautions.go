package flora

import (
	"slices"
	"strings"
)

// Caution is a word that a taxon's cautions use, what it tells a forester, and
// the sections of characters at which the work meets it.
type Caution struct {
	Word, Says string
	Where      []string
}

// Cautions are in the order they are shown. They defer to local rules and to
// trained people; nothing here says that anything is safe.
var Cautions = []Caution{
	{
		"irritant",
		"can blister or irritate the skin, in winter too; do not handle bare-handed.",
		[]string{"bark", "twig", "bud", "scar", "fruit"},
	},
	{
		"toxic",
		"poisonous in part; smell, never taste, and wash your hands after handling twigs.",
		[]string{"twig", "bud", "scar", "fruit", "ground"},
	},
	{
		"dead-limbs",
		"limbs drop when dead or dying; look up before standing beneath, keep clear, and leave felling to trained people.",
		[]string{"form", "bark", "sign"},
	},
	{"thorns", "armed; mind your eyes and wear gloves.", []string{"twig", "bud", "scar"}},
	{
		"declining",
		"in decline; take no more than one twig, where that is allowed, and report signs of disease to the local forest-health office.",
		[]string{"twig", "bud", "scar", "sign"},
	},
	{"protected", "may be protected here; take nothing before you have asked.", []string{"twig", "bud", "scar"}},
}

func cautionWords() (words []string) {
	for _, c := range Cautions {
		words = append(words, c.Word)
	}
	return words
}

// Warnings is what the taxon's cautions say, in the order they are shown.
func (t *Taxon) Warnings() (says []string) {
	for _, c := range Cautions {
		if slices.Contains(t.Cautions, c.Word) {
			says = append(says, c.Says)
		}
	}
	return says
}

// UpperFirst begins a sentence with what may begin in a small letter.
func UpperFirst(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}
