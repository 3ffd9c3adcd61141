package key

import (
	"cmp"
	"fmt"
	"math/bits"
	"slices"
	"strings"

	"palethicket/core/flora"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/evidence"
)

// title says what a key is of.
func (g *grower) title() string {
	if g.asked.Title != "" {
		return g.asked.Title
	}
	of := g.asked.List
	if of == "" {
		of = g.flora.RegionWords(g.pool.Region)
	}
	if g.taste.ID == "genus" {
		of = g.asked.Genus + ", " + of
	}
	return fmt.Sprintf("Key to the leafless trees of %s: %s, %s", of, g.taste.Words, Ages[cmp.Or(g.asked.Age, "mature")])
}

// says is what is to be known of a key.
func (g *grower) says(k *Key) []string {
	out := []string{}
	if len(k.Couplets) == 0 {
		return append(out, "There is nothing to ask: it ends at once.")
	}
	return append(out,
		fmt.Sprintf("%d trees, %d couplets.", len(k.Taxa), len(k.Couplets)),
		"Read both leads. Follow the one with more marks that fit. If they tie, the first mark decides.",
		"A tree that is not listed here comes out wrong. Check what confirms a name.",
		"It names trees. It does not say that anything is safe to eat. Local rules and trained people come first.")
}

// mark writes one side of a half: its first answers, or the others. likely are the answers that the trees of that side show.
func (h *half) mark(rest bool, likely uint64) Mark {
	c, answers := h.col.flora, h.answers
	if rest {
		answers = h.col.all() &^ h.answers
	}
	m := Mark{Character: c.ID}
	switch c.Kind {
	case evidence.Sign:
		seen := answers&(1<<isSeen) != 0
		if m.Seen, m.Words = &seen, leadWords(c, "not"); seen {
			m.Words, m.Shows = leadWords(c, "seen"), "seen"
		}
	case evidence.Numeric:
		below := answers&1 == 1
		cut := bits.OnesCount64(answers)
		if !below {
			cut = len(h.col.edges) + 1 - cut
		}
		at := h.col.edges[cut-1]
		figure := fmt.Sprintf("%g %s", at, c.Unit)
		if !below {
			m.From, m.Words = &at, strings.Replace(leadWords(c, "from"), "{}", figure, 1)
		} else {
			m.Below, m.Words = &at, strings.Replace(leadWords(c, "below"), "{}", figure, 1)
		}
	default:
		for i := range c.States {
			if answers>>i&1 == 1 {
				m.States = append(m.States, c.States[i].ID)
			}
		}
		m.Words, _ = h.col.said(answers, likely)
		m.Shows = m.States[0]
		if l := likely & answers; l != 0 {
			m.Shows = c.States[bits.TrailingZeros64(l)].ID
		}
	}
	return m
}

// saidMost is how many states a mark names: more are a heap.
const saidMost = 3

// said says states: by the name that they have together, or each by its own, where they are few. A heap is said by those that
// the trees at hand show, or, where those are many too, as not the others.
func (col *column) said(answers uint64, likely uint64) (words string, few bool) {
	c := col.flora
	if c.Kind == evidence.Sign {
		return leadWords(c, "seen"), true
	}
	begin := c.Part
	if begin == "" && c.States[0].Lead == "" {
		begin = c.Name // of a flora that has no words for keys
	}
	part := func(words string) (string, bool) { return strings.TrimSpace(begin + " " + words), true }
	shown, rest := likely&answers, col.all()&^answers
	if one := bits.OnesCount64(shown) == 1; one && c.Kind != evidence.Tally || shown != 0 && named(c, shown) != "" {
		answers = shown
	}
	switch {
	case named(c, answers) != "":
		return part(named(c, answers))
	case bits.OnesCount64(answers) <= 2:
		return part(col.listed(answers))
	case shown != 0 && bits.OnesCount64(shown) <= saidMost:
		return part(col.listed(shown))
	case named(c, rest) != "":
		return part(negated(named(c, rest)))
	case bits.OnesCount64(rest) <= 2:
		return part(negated(col.listed(rest)))
	}
	words, _ = part(col.listed(answers))
	return words, false
}

// named is what states are called together; empty: they have no such name.
func named(c *flora.Character, answers uint64) string {
	for i := range c.Together {
		if bitsOf(c, c.Together[i].States) == answers {
			return c.Together[i].Words
		}
	}
	return ""
}

func bitsOf(c *flora.Character, states []string) (set uint64) {
	for _, s := range states {
		set |= 1 << c.State(s)
	}
	return set
}

// listed names states one by one.
func (col *column) listed(answers uint64) string {
	var words []string
	for i := range col.flora.States {
		if answers>>i&1 == 1 {
			words = append(words, stateWords(&col.flora.States[i]))
		}
	}
	return orList(withoutRepeats(words))
}

// withoutRepeats says once what all phrases of a list end with, where they begin alike too, and what a phrase begins with as the
// one before does: with three or five bundle scars.
func withoutRepeats(words []string) (out []string) {
	same := len(words) > 1
	for _, w := range words {
		same = same && first(w) == first(words[0]) && slices.Contains(linking, first(w))
	}
	tail := ""
	for same && !slices.ContainsFunc(words, func(w string) bool { return !strings.HasSuffix(w, " "+longer(words[0], tail)) }) {
		tail = longer(words[0], tail)
	}
	for i, w := range words {
		if short := strings.TrimSuffix(w, " "+tail); tail != "" && i < len(words)-1 && !slices.Contains(linking, last(short)) {
			w = short
		}
		for before := words[max(0, i-1)]; i > 0 && first(w) == first(before) && slices.Contains(linking, first(w)); {
			_, w, _ = strings.Cut(w, " ")
			_, before, _ = strings.Cut(before, " ")
		}
		out = append(out, w)
	}
	return out
}

func first(words string) string { return strings.Fields(words + " .")[0] }

func last(words string) string { return words[strings.LastIndex(words, " ")+1:] }

// longer is the end of some words, one word more than it was.
func longer(words, tail string) string {
	return strings.TrimSpace(last(strings.TrimSuffix(strings.TrimSuffix(words, tail), " ")) + " " + tail)
}

var linking = []string{"with", "without", "in", "of", "smelling", "climbing", "by"}

// leadWords is how a lead says what is seen of a sign or a measure; in a flora that has no words for keys by its name.
func leadWords(c *flora.Character, what string) string {
	plain := map[string]string{"seen": ": seen", "not": ": not seen", "below": " mostly under {}", "from": " mostly over {}"}
	return cmp.Or(c.Lead[what], c.Name+plain[what])
}

// stateWords is a state as a lead says it.
func stateWords(s *flora.State) string { return cmp.Or(s.Lead, record.StateWords(s.ID)) }

// negated says the opposite: with scales, without scales; smooth, not smooth.
func negated(words string) string {
	if rest, ok := strings.CutPrefix(words, "without "); ok {
		return "with " + rest
	}
	if rest, ok := strings.CutPrefix(words, "with "); ok {
		return "without " + rest
	}
	return "not " + words
}

// joined makes one sentence of what marks say.
func joined(words []string) string {
	out := make([]string, len(words))
	for i, w := range words {
		out[i] = strings.ToLower(w[:1]) + w[1:]
	}
	return flora.UpperFirst(strings.Join(out, "; "))
}
