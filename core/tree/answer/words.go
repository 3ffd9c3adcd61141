package answer

import (
	"fmt"
	"math"
	"strings"

	"palethicket/core/flora"
	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/ranking"
)

func (a *answer) genusEnglish(genus string) string {
	for _, t := range a.Pool.Taxa {
		if t.Genus == genus {
			return t.GenusEnglish
		}
	}
	return genus
}

// singular turns a group's name into that of one of its members.
func singular(group string) string {
	if stem, ok := strings.CutSuffix(group, "ies"); ok {
		return stem + "y"
	}
	return strings.TrimSuffix(group, "s")
}

func withArticle(noun string) string {
	if strings.ContainsRune("aeiou", rune(noun[0])) {
		return "an " + noun
	}
	return "a " + noun
}

// weightWords says in words how strongly a look speaks for one tree over
// another. The steps are those of Jeffreys 1961, "Theory of Probability",
// Appendix B: half a decimal place of the odds is 1.66 bits.
func weightWords(bits float64, lead, second string) string {
	to, over := lead, second
	if bits < 0 {
		to, over = second, lead
	}
	switch b := math.Abs(bits); {
	case b < 0.5:
		return fmt.Sprintf("Hardly tells %s from %s.", lead, second)
	case b < 1.66:
		return fmt.Sprintf("Leans to %s over %s.", to, over)
	case b < 3.32:
		return fmt.Sprintf("Speaks for %s over %s.", to, over)
	case b < 6.64:
		return fmt.Sprintf("Speaks strongly for %s over %s.", to, over)
	default:
		return fmt.Sprintf("All but settles it for %s over %s.", to, over)
	}
}

func fitWords(tail float64) string {
	switch {
	case tail >= 0.2:
		return "It looks as this tree usually does."
	case tail >= 0.05:
		return "It fits, with something a little odd."
	case tail >= 0.01:
		return "It fits poorly: check the odd scores."
	default:
		return "It hardly fits: check the scores, and think of something not listed."
	}
}

// RankWords says how far a name goes, or "" where there is none.
func RankWords(rank ranking.Rank) string {
	if ranking.DefaultBars.Of(rank) == 0 {
		return ""
	}
	return "to " + string(rank)
}

// Whose says in words whether a look was of this tree.
func (l *LookResult) Whose() string {
	if l.Stranger {
		return "probably another tree"
	}
	return "this tree's, " + Percent(l.Belongs)
}

// Percent says a chance as it is read aloud: 0.987 is 98 %, as a chance below a bar never reads
// as the bar, and nothing is 0 % or 100 % that is not so.
func Percent(p float64) string {
	switch {
	case p > 0.99 && p < 1:
		return ">99 %"
	case p > 0 && p < 0.01:
		return "<1 %"
	}
	return fmt.Sprintf("%.0f %%", math.Floor(100*p+1e-9))
}

// CountedState is the state of an arrangement that a count of pairs speaks for: any
// pair at all that of pairs, as broken twigs hide them (common practice).
func CountedState(c *flora.Character, pairs int) string {
	if pairs == 0 {
		return c.States[0].ID
	}
	best := 0
	for i, shape := range c.Pairs { // the state most of whose nodes show a pair
		if mean(shape) > mean(c.Pairs[best]) {
			best = i
		}
	}
	return c.States[best].ID
}

func mean(b evidence.Beta) float64 { return b.Alpha / (b.Alpha + b.Beta) }
