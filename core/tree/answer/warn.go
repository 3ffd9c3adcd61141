package answer

import (
	"fmt"
	"math"
	"math/bits"
	"slices"
	"strings"

	"palethicket/core/flora"
	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/portable"
)

// Warning is something that looks like a mistake, and why.
type Warning struct {
	Kind      string `json:"kind"`
	Look      int    `json:"look"` // index of the look it is about, or -1
	Character string `json:"character,omitempty"`
	Words     string `json:"words"`
}

func (a *answer) warnings() []Warning {
	out := a.strangers()
	out = append(out, a.neverTogether()...)
	out = append(out, a.olderBark()...)
	out = append(out, a.tooThick()...)
	return append(out, a.memoryRule()...)
}

func (a *answer) strangers() []Warning {
	out := []Warning{}
	for i, l := range a.Record.Looks {
		if len(l.Scores) > 0 && a.verdict.Belongs[i] < strangerBelow {
			out = append(out, Warning{Kind: "stranger", Look: i,
				Words: fmt.Sprintf(
					"What was scored %s hardly goes with the rest: it probably was of another tree, and counts for little.",
					fromPhrase[l.From],
				)})
		}
	}
	return out
}

var fromPhrase = map[string]string{"site": "of the site", "tree": "on this tree", "crown": "in the crown",
	"fallen": "on the fallen twig", "sapling": "on the sapling", "litter": "on the ground"}

// may says whether a taxon shows what was scored.
type may uint8

const (
	no may = iota
	perhaps
	yes
)

// shown says which taxa can show what was scored, mistakes aside.
func (a *answer) shown(s *evidence.Score) []may {
	m := a.Pool.Model
	out := make([]may, len(m.Taxa()))
	for t := range out {
		switch v := &m.Taxa()[t].Values[s.Character]; {
		case v.Knowledge == evidence.Unknown:
			out[t] = perhaps
		case v.Knowledge == evidence.Known && canShow(v, s, m.Characters()[s.Character].Kind):
			out[t] = yes
		}
	}
	return out
}

// rare is the least chance at which something counts as shown.
const rare = 0.015

// farOff is how many standard deviations from a range no specimen lies.
const farOff = 3.5

func canShow(v *evidence.Value, s *evidence.Score, kind evidence.Kind) bool {
	switch {
	case kind == evidence.Sign:
		return !s.Seen || v.Chance > rare
	case kind == evidence.Numeric:
		return slices.ContainsFunc(v.Normals, func(n evidence.Component) bool {
			noise := s.Spread * s.Spread / float64(s.Readings)
			return math.Abs(portable.Log(s.Value)-n.Mean) < farOff*math.Sqrt(n.Var+noise)
		})
	case kind == evidence.Tally && s.Nodes > 0:
		if s.Pairs == 0 { // broken twigs can hide every pair
			return true
		}
		return 1-v.Dist[0] > rare // anything but alternate
	}
	sum := 0.0
	for rest := s.States; rest != 0; rest &= rest - 1 {
		sum += v.Dist[bits.TrailingZeros64(rest)]
	}
	return sum > rare
}

// mostPairs bounds how many pairs of scores are warned of.
const mostPairs = 2

// neverTogether finds pairs of scores that some taxa show, but none both.
func (a *answer) neverTogether() []Warning {
	type scored struct {
		look  int
		id    string
		shown []may
	}
	var all []scored
	for i, l := range a.Record.Looks {
		for j, s := range l.Scores {
			sh := a.shown(&a.Looks[i].Scores[j])
			if slices.Contains(sh, yes) {
				all = append(all, scored{i, s.Character, sh})
			}
		}
	}
	out := []Warning{}
	for x := range all {
		for y := range x {
			if len(out) < mostPairs && all[x].id != all[y].id && !overlap(all[x].shown, all[y].shown) {
				out = append(out, Warning{Kind: "never-together", Look: all[x].look, Character: all[x].id,
					Words: fmt.Sprintf("No listed tree shows this %s together with this %s. Check both, and that both are of this tree.",
						a.nameOf(all[y].id), a.nameOf(all[x].id))})
			}
		}
	}
	return out
}

// overlap says whether some taxon can show both. One of which neither is known
// does not count: nothing would ever be warned of.
func overlap(a, b []may) bool {
	for t := range a {
		if a[t]+b[t] >= perhaps+yes && a[t] != no && b[t] != no {
			return true
		}
	}
	return false
}

func (a *answer) nameOf(id string) string {
	i, _ := a.Pool.Index(id, flora.Breast)
	c, _ := a.Pool.Character(i)
	return c.Name
}

// olderBark finds bark scored on a young tree that comes only with age on the
// taxon that would lead if the tree were mature.
func (a *answer) olderBark() []Warning {
	out := []Warning{}
	if a.Record.Age != flora.AgeWords[flora.Young] {
		return out
	}
	older := *a.Record
	older.Age = flora.AgeWords[flora.Mature]
	s, err := a.engine.Weigh(&older)
	if err != nil { // the record was read once already
		return out
	}
	defer s.Close()
	taxon := s.Pool.Taxa[s.bestListed()]
	e := taxon.Entry("bark.texture")
	for i, l := range a.Record.Looks {
		for j, sc := range l.Scores {
			if sc.Character != "bark.texture" {
				continue
			}
			at := &s.Looks[i].Scores[j]
			_, zone := s.Pool.Character(at.Character)
			young, mature := &e.Cells[flora.Young][zone], &e.Cells[flora.Mature][zone]
			if !canShow(young, at, evidence.Categorical) && canShow(mature, at, evidence.Categorical) {
				out = append(out, Warning{Kind: "older-bark", Look: i, Character: sc.Character,
					Words: fmt.Sprintf("Such bark comes with age on %s, but the tree is set down as young. Check the age.", taxon.Called(s.Pool.Region))})
			}
		}
	}
	return out
}

// tooThick finds a stem thicker than the leader ever grows.
func (a *answer) tooThick() []Warning {
	lead := a.bestListed()
	for i, l := range a.Record.Looks {
		for j, s := range l.Scores {
			if s.Character != "form.dbh" {
				continue
			}
			v := &a.Pool.Model.Taxa()[lead].Values[a.Looks[i].Scores[j].Character]
			if v.Knowledge != evidence.Known {
				continue
			}
			most := math.Inf(-1)
			for _, n := range v.Normals {
				most = max(most, n.Mean+farOff*math.Sqrt(n.Var))
			}
			if x := a.Looks[i].Scores[j].Value; portable.Log(x) > most {
				return []Warning{{Kind: "too-thick", Look: i, Character: s.Character,
					Words: fmt.Sprintf("A stem of %s is thicker than %s grows. Check the measure, and the name.", trim(x)+" cm", a.english(lead))}}
			}
		}
	}
	return nil
}

// memoryFrom is the posterior at which a tree outside the rule is spoken of.
const memoryFrom = 0.15

// memoryRule speaks up where the rule for opposite trees would mislead: opposite
// trees that it leaves out, and those of its genera that are not.
func (a *answer) memoryRule() []Warning {
	rule := a.engine.Flora.Rule("opposite-trees")
	if rule == nil {
		return nil
	}
	opposite := a.denies(rule)
	var names []string
	for _, h := range a.verdict.Order() {
		if h == a.verdict.Unlisted() || a.verdict.Posterior[h] < memoryFrom {
			continue
		}
		t := a.Pool.Taxa[h]
		if opposite && slices.Contains(rule.LeavesOut, t.Genus) || slices.Contains(rule.Wrong, t.Name) {
			names = append(names, a.Pool.Called(h))
		}
	}
	if len(names) == 0 {
		return nil
	}
	says := "is opposite too, though " + rule.Short + " leaves it out."
	if !opposite {
		says = "is not opposite, whatever " + rule.Short + " says."
	}
	return []Warning{{Kind: "memory-rule", Look: -1, Character: rule.Character,
		Words: flora.UpperFirst(strings.Join(names, ", ")) + " " + says}}
}

// denies says whether anything was scored that a rule's trees show.
func (a *answer) denies(rule *flora.Rule) bool {
	char, _ := a.Pool.Index(rule.Character, flora.Breast)
	against := uint64(1) << max(0, a.engine.Flora.Character(rule.Character).State(rule.Against))
	for i := range a.Looks {
		for _, s := range a.Looks[i].Scores {
			if s.Character == char && (s.Pairs > 0 || s.Nodes == 0 && s.States&against == 0) {
				return true
			}
		}
	}
	return false
}
