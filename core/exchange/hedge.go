package exchange

import (
	"slices"
	"strings"

	"palethicket/core/tree/logbook"
)

// hedges are what a name is hedged by in files, beside it or within it: "Quercus cf. alba",
// "Quercus aff. alba" (akin to it, and not it perhaps), "white oak?".
var hedges = map[string]string{
	"cf": logbook.Cf, "cf.": logbook.Cf, "prob.": logbook.Cf, "probably": logbook.Cf,
	"aff": logbook.InDoubt, "aff.": logbook.InDoubt, "poss.": logbook.InDoubt, "possibly": logbook.InDoubt,
	"perhaps": logbook.InDoubt, "?": logbook.InDoubt,
}

// unhedged takes what hedges a name out of it. Of several the one of more doubt counts.
func unhedged(name string) (bare, hedge string) {
	words := strings.Fields(strings.ReplaceAll(name, "?", " ? "))
	words = slices.DeleteFunc(words, func(w string) bool {
		h := hedges[strings.ToLower(w)]
		if h != "" && hedge != logbook.InDoubt {
			hedge = h
		}
		return h != ""
	})
	return strings.Join(words, " "), hedge
}

// qualify reads what qualifies the name in a column of its own. What it says besides a
// hedge, and besides the group that a name is of, is kept among the remarks. A name that
// leaf, flower or fruit confirmed is hedged no more.
func (r *reader) qualify(t *Tree) {
	says := strings.TrimSpace(r.cells["qualifier"])
	rest, hedge := unhedged(says)
	if hedge != "" && t.Hedge != logbook.InDoubt {
		t.Hedge = hedge
	}
	if rest != "" && rest != t.Name {
		t.remark("qualifier in the file", says)
	}
	if t.Seen != "" || t.Rank == undetermined {
		t.Hedge = ""
	}
}
