package answer

import (
	"cmp"
	"slices"

	"palethicket/core/weigh/nextlook"
)

// Plan is a look and, after each of its answers, the look that best follows.
type Plan struct {
	First   Next     `json:"first"`
	Bits    float64  `json:"bits"`    // expected of both looks together
	Seconds float64  `json:"seconds"` // expected for both, with turning to each
	Then    []Branch `json:"then"`
}

// Branch is an answer to the first look and what follows.
type Branch struct {
	Answer  string  `json:"answer"`
	Chance  float64 `json:"chance"`
	Leader  string  `json:"leader"`
	Settled bool    `json:"settled"`        // the leader can be named to species: stop there
	Next    string  `json:"next,omitempty"` // character to look at then
	Name    string  `json:"name,omitempty"`
	From    string  `json:"from,omitempty"`
}

// How wide the look ahead goes.
const (
	planFirst  = 8  // first looks tried
	planSecond = 12 // second looks tried after each answer

	negligible = 0.005 // bits still open after an answer, times its chance, for which no second look is sought
)

// ahead is a first look with what follows each of its answers, not yet in words.
type ahead struct {
	first         candidate
	bits, seconds float64
	then          []follow
}

// follow is an answer, who leads after it, and the second look: -1 where there is none.
type follow struct {
	answer, leader, second int
	chance                 float64
	settled                bool
}

// plan looks two ahead: of the best first looks, the one that with the best
// second look after each of its answers promises most per second. Two looks tell
// no more than is still open, so first looks that take too long for that are not
// worked out.
func (a *answer) plan() *Plan {
	seconds := a.best(planSecond)
	entropy := nextlook.Entropy(a.verdict.Posterior)
	var best *ahead
	rate := 0.0
	for _, f := range seconds[:min(planFirst, len(seconds))] {
		if entropy/a.seconds(f.char) <= rate {
			continue
		}
		if p := a.ahead(f, seconds); best == nil || p.bits/p.seconds > rate {
			best, rate = p, p.bits/p.seconds
		}
	}
	if best == nil {
		return nil
	}
	return a.spell(best)
}

// seconds is what a look takes with the turning to it, whatever harm it does.
func (a *answer) seconds(char int) float64 {
	c, _ := a.Pool.Character(char)
	return float64(c.Seconds + turning)
}

// ahead works one first look out.
func (a *answer) ahead(f candidate, seconds []candidate) *ahead {
	p := &ahead{first: f, bits: f.bits, seconds: a.seconds(f.char)}
	t := a.table(f.char)
	post, room := make([]float64, len(a.verdict.Posterior)), make([]int, 0, len(a.verdict.Posterior))
	for o := range t.Rows {
		after := follow{answer: o, chance: t.After(post, a.verdict.Posterior, o), second: -1}
		after.leader = top(post)
		after.settled = after.leader != a.verdict.Unlisted() && post[after.leader] >= a.engine.Bars.Species
		if !after.settled {
			if s, ok := a.second(post, after.chance, room, f.char, seconds); ok {
				after.second = s.char
				p.bits += after.chance * s.bits
				p.seconds += after.chance * a.seconds(s.char)
			}
		}
		p.then = append(p.then, after)
	}
	return p
}

// second is the best look for the posterior after an answer of some chance, other
// than the first. One that takes too long to be it, though it told all that is open, is not weighed.
func (a *answer) second(post []float64, chance float64, room []int, first int, among []candidate) (best candidate, ok bool) {
	support := nextlook.Support(room, post, nextlook.Coarse)
	entropy := nextlook.EntropyOver(post, support)
	if chance*entropy < negligible {
		return best, false
	}
	for _, s := range among {
		price := cost(a.Pool, s.char)
		if s.char == first || entropy/price <= best.rank {
			continue
		}
		bits := a.gain(a.kit.place[s.char], post, support)
		if r := bits / price; r > best.rank {
			best, ok = candidate{s.char, bits, r}, true
		}
	}
	return best, ok && best.bits > worthwhile*entropy
}

// spell says a plan in words, its likelier answers first.
func (a *answer) spell(p *ahead) *Plan {
	out := &Plan{First: a.describe(p.first), Bits: p.bits, Seconds: p.seconds, Then: []Branch{}}
	out.First.Separates, out.First.Answers = a.separates(p.first.char), a.answers(p.first.char)
	slices.SortStableFunc(p.then, func(x, y follow) int { return cmp.Compare(y.chance, x.chance) })
	for _, f := range p.then[:min(shownAnswers, len(p.then))] {
		b := Branch{
			Answer: a.answerWords(p.first.char, f.answer, f.answer),
			Chance: f.chance, Leader: a.english(f.leader), Settled: f.settled,
		}
		if f.second >= 0 {
			c, _ := a.Pool.Character(f.second)
			b.Next, b.Name, b.From = c.ID, c.Name, From(c)
		}
		out.Then = append(out.Then, b)
	}
	return out
}
