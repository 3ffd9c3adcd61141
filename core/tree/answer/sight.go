package answer

import (
	"math"

	"palethicket/core/flora"
	"palethicket/core/weigh/nextlook"
)

// A look may find nothing: the part is not there, or nobody can tell. What follows reckons with
// that, and keeps looks that help nobody out of the advice.

// gain is what one of the kit's looks promises, in bits: nothing where one cannot tell.
func (a *answer) gain(i int, posterior []float64, support []int) float64 {
	c, _ := a.Pool.Character(a.kit.chars[i])
	if a.kit.shown[i] != nil {
		return c.Told * a.table(a.kit.chars[i]).Gain(posterior)
	}
	return c.Told * a.kit.sheet.Gain(i, posterior, support)
}

// support are the hypotheses that have a say.
func (a *answer) support() []int {
	return nextlook.Support(make([]int, 0, len(a.verdict.Posterior)), a.verdict.Posterior, nextlook.Fine)
}

// answerable is the chance that one of the kit's looks has an answer.
func (a *answer) answerable(i int, posterior []float64, support []int) float64 {
	c, _ := a.Pool.Character(a.kit.chars[i])
	there := a.kit.in(a.Pool, i, a.month).there
	if there == nil || c.ShownBy != "" && a.sight(c) == seen {
		return c.Told
	}
	sum := 0.0
	for _, h := range support {
		sum += posterior[h] * there[h]
	}
	return c.Told * sum
}

// sight is what is known of the sign that a character is shown by.
type sight int

const (
	unlooked sight = iota
	seen
	notSeen
)

// sight says whether the sign was seen on the tree, by itself or by what it shows.
func (a *answer) sight(c *flora.Character) (of sight) {
	if c.ShownBy == "" {
		return unlooked
	}
	for i := range a.Record.Looks {
		for j := range a.Record.Looks[i].Scores {
			s := &a.Record.Looks[i].Scores[j]
			switch {
			case s.Character == c.ShownBy && s.Seen != nil && *s.Seen:
				return seen
			case s.Character == c.ShownBy:
				of = notSeen
			case s.Character != c.ID && a.engine.Flora.Character(s.Character).ShownBy == c.ShownBy:
				return seen
			}
		}
	}
	return of
}

// arrangement is the character that is counted again where one look says opposite and another
// alternate: both cannot be true of one tree.
const arrangement = "twig.arrangement"

// countAgain puts the arrangement first where looks at it exclude each other.
func (a *answer) countAgain(cs []candidate, posterior []float64, n int) []candidate {
	char, ok := a.Pool.Index(arrangement, flora.Breast)
	if !ok || !a.excluded(char) {
		return cs
	}
	i := a.kit.place[char]
	bits := a.gain(i, posterior, nextlook.Support(make([]int, 0, len(posterior)), posterior, nextlook.Fine))
	return insert(cs, candidate{char, bits, math.Inf(1)}, n)
}

// excluded says whether two scores of an arrangement leave nothing that is true of both.
func (a *answer) excluded(char int) bool {
	const all = ^uint64(0)
	both := all
	for i := range a.Record.Looks {
		for _, s := range a.Looks[i].Scores {
			if s.Character != char {
				continue
			}
			claim := s.States
			if s.Nodes > 0 {
				claim = a.countedAs(s.Pairs, s.Nodes)
			}
			both &= claim
		}
	}
	return both == 0
}

// mostly is the share of nodes from which a count speaks for pairs, and below which against.
const mostly = 0.7

// countedAs is what a count of pairs among nodes is a claim of: nothing where it is mixed.
func (a *answer) countedAs(pairs, nodes int) (claim uint64) {
	share := float64(pairs) / float64(nodes)
	c := a.engine.Flora.Character(arrangement)
	for i, s := range c.States {
		paired := s.ID == "opposite" || s.ID == "whorled"
		if share >= mostly && paired || share <= 1-mostly && s.ID == "alternate" || share < mostly && share > 1-mostly {
			claim |= 1 << i
		}
	}
	return claim
}

// leavesName says whether a tree that is named to species keeps its name whatever a look shows.
func (a *answer) leavesName(char int, posterior []float64, support []int) bool {
	t, lead := a.table(char), top(posterior)
	for _, row := range t.Rows {
		chance := 0.0
		for _, h := range support {
			chance += posterior[h] * row[h]
		}
		if chance > unlikely && posterior[lead]*row[lead] < a.engine.Bars.Species*chance {
			return false
		}
	}
	return true
}

// unlikely is the chance below which nobody looks for an answer: one time in twenty.
const unlikely = 0.05

// likely is the chance of an answer below which a look is more likely to find nothing.
const likely = 0.5

// unlessVain puts looks that probably find nothing among the others, but for those beside
// which another of at least half their gain a minute has an answer.
func unlessVain(cs, vain []candidate, n int) []candidate {
	best := 0.0 // of those that probably find something
	if len(cs) > 0 {
		best = cs[0].rank
	}
	for _, k := range vain {
		if best == 0 || best < k.rank/2 {
			cs = insert(cs, k, n)
		}
	}
	return cs
}
