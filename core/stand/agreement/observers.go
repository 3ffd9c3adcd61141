package agreement

import (
	"math"
)

// Call is what one observer called one case, both counted from 0, as are the categories.
type Call struct {
	Case, Observer, Category int
}

// Crew is what observers are worth, found without anybody knowing the truth.
type Crew struct {
	// Wrong is which share of each observer's calls is probably another than the case is; NaN of
	// one who called nothing.
	Wrong []float64
	// Calls is, for each observer and what a case is, the chances of what they call it.
	Calls [][][]float64
	// Prior is how often a case is of each category.
	Prior []float64
	// Cases is, for each case, the chances of what it is.
	Cases [][]float64
	// Rounds is how many it took.
	Rounds int
}

// Is gives what a case most probably is, and the chance.
func (c *Crew) Is(i int) (category int, chance float64) {
	for k, p := range c.Cases[i] {
		if p > chance {
			category, chance = k, p
		}
	}
	return category, chance
}

// What stands behind each observer's row: with twelve trees of a kind it is a few calls, and
// without this one slip would say that they call half of them otherwise.
const (
	likeElse    = 20.0 // cases, called right as often as the observer is elsewhere, and else as the crew errs
	likeCrew    = 5.0  // cases, as right as the crew, in how often the observer is right
	crewRight   = 0.9  // what a crew is taken to be before anything is known (common practice)
	crewCases   = 10.0 // cases that this counts for
	evenCases   = 0.02 // of each category, so that nothing is impossible
	roundsMost  = 500
	settledAt   = 1e-9
	leastChance = 1e-300
)

// Observers finds what each observer errs by expectation and maximisation after Dawid &
// Skene (1979, Appl. Stat. 28:20), begun from what most say, each observer's rows drawn
// towards the crew's as there is little of them (their section on sparse data asks for such).
// Cases nobody called are of the prior.
func Observers(calls []Call, cases, observers, categories int) *Crew {
	c := &Crew{Wrong: make([]float64, observers), Prior: make([]float64, categories)}
	c.Cases = table(cases, categories)
	for _, call := range calls {
		c.Cases[call.Case][call.Category]++
	}
	for i := range c.Cases {
		normalise(c.Cases[i])
	}
	c.Calls = make([][][]float64, observers)
	was := math.Inf(-1)
	for c.Rounds = 1; c.Rounds <= roundsMost; c.Rounds++ {
		c.maximise(calls, observers, categories)
		now := c.expect(calls)
		if math.Abs(now-was) < settledAt*float64(len(calls)+1) {
			break
		}
		was = now
	}
	made := make([]float64, observers)
	for _, call := range calls {
		made[call.Observer]++
		c.Wrong[call.Observer] += 1 - c.Cases[call.Case][call.Category]
	}
	for o := range c.Wrong {
		c.Wrong[o] /= made[o]
	}
	return c
}

// maximise finds the prior and the observers' rows that fit what the cases are held to be.
func (c *Crew) maximise(calls []Call, observers, categories int) {
	for k := range c.Prior {
		c.Prior[k] = evenCases
	}
	for _, p := range c.Cases {
		for k := range p {
			c.Prior[k] += p[k]
		}
	}
	normalise(c.Prior)
	crew := table(categories, categories)
	own := make([][][]float64, observers)
	right, all := make([]float64, observers), make([]float64, observers)
	for o := range own {
		own[o] = table(categories, categories)
	}
	for _, call := range calls {
		o := call.Observer
		for k, p := range c.Cases[call.Case] {
			own[o][k][call.Category] += p
			all[o] += p
			if k == call.Category {
				right[o] += p
			} else {
				crew[k][call.Category] += p
			}
		}
	}
	for k := range crew { // how the crew errs, where it does
		for j := range crew[k] {
			if j != k {
				crew[k][j] += evenCases
			}
		}
		normalise(crew[k])
	}
	mean := (sum(right) + crewRight*crewCases) / (sum(all) + crewCases)
	for o := range own {
		skill := (right[o] + mean*likeCrew) / (all[o] + likeCrew)
		for k := range own[o] {
			for j := range own[o][k] {
				if j == k {
					own[o][k][j] += likeElse * skill
				} else {
					own[o][k][j] += likeElse * (1 - skill) * crew[k][j]
				}
			}
			normalise(own[o][k])
		}
	}
	c.Calls = own
}

// expect finds what the cases are, given the rows, and how well all fits.
func (c *Crew) expect(calls []Call) (fit float64) {
	logs := make([][]float64, len(c.Cases))
	for i := range logs {
		logs[i] = make([]float64, len(c.Prior))
		for k, p := range c.Prior {
			logs[i][k] = math.Log(max(p, leastChance))
		}
	}
	for _, call := range calls {
		for k := range c.Prior {
			logs[call.Case][k] += math.Log(max(c.Calls[call.Observer][k][call.Category], leastChance))
		}
	}
	for i, row := range logs {
		most := math.Inf(-1)
		for _, l := range row {
			most = max(most, l)
		}
		for k, l := range row {
			c.Cases[i][k] = math.Exp(l - most)
		}
		fit += most + math.Log(sum(c.Cases[i]))
		normalise(c.Cases[i])
	}
	return fit
}

func table(rows, cols int) [][]float64 {
	out := make([][]float64, rows)
	for i := range out {
		out[i] = make([]float64, cols)
	}
	return out
}

func normalise(p []float64) {
	whole := sum(p)
	for i := range p {
		if whole > 0 {
			p[i] /= whole
		} else {
			p[i] = 1 / float64(len(p))
		}
	}
}

func sum(p []float64) (all float64) {
	for _, x := range p {
		all += x
	}
	return all
}
