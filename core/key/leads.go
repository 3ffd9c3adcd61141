package key

import (
	"math"

	"palethicket/core/flora"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/evidence"
)

// How a fair observer reads (record.md's words: fair, ruler, clear).
const (
	fairError  = 0.10
	ruler      = 0.10
	detect     = 0.95
	falseAlarm = 0.02
)

// column is what a character's answers say: the chance of each answer of each taxon, so that
// a taxon's sum to 1. A taxon that lacks the part is nil there.
type column struct {
	char    int // of the model
	flora   *flora.Character
	chance  [][]float64 // by taxon, by answer
	answers []int       // index of each answer's state; of a sign 0 seen, 1 not; of a measure of the bin
	edges   []float64   // of a measure: the bins' lower ends, but for the first
}

// niceLengths are where a measure is cut: figures that people can tell on a rule.
var niceLengths = []float64{1, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10, 12, 15, 20, 25, 30, 40, 50, 60, 80, 100, 120, 150, 200, 300, 500, 1000}

// columnOf lays a character out. nil: it says nothing of anybody.
func columnOf(p *flora.Pool, char int, weights []float64, e float64) *column {
	c, _ := p.Character(char)
	m := p.Model
	col := &column{char: char, flora: c, chance: make([][]float64, len(p.Taxa))}
	known := false
	for t := range p.Taxa {
		if k := m.Taxa()[t].Values[char].Knowledge; weights[t] > 0 && k == evidence.Known {
			known = true
		}
	}
	if !known {
		return nil
	}
	if c.Kind == evidence.Numeric {
		col.measured(m, weights, e)
		col.strays(weights, e)
		return col
	}
	scores := []evidence.Score{}
	if c.Kind == evidence.Sign {
		d, f := detect, falseAlarm
		if e == 0 {
			d, f = 1, 0
		}
		for _, seen := range []bool{true, false} {
			scores = append(scores, evidence.Score{Character: char, Seen: seen, Detect: d, False: f})
		}
	} else {
		for j := range c.States {
			scores = append(scores, evidence.Score{Character: char, States: 1 << j, Error: e})
		}
	}
	q := make([]float64, m.Hypotheses())
	for i := range scores {
		m.Likelihood(q, &scores[i])
		for t := range p.Taxa {
			if m.Taxa()[t].Values[char].Knowledge == evidence.Absent {
				continue
			}
			if col.chance[t] == nil {
				col.chance[t] = make([]float64, len(scores))
			}
			col.chance[t][i] = q[t]
		}
		col.answers = append(col.answers, i)
	}
	col.whole()
	col.strays(weights, e)
	return col
}

// belongs is the chance that what is looked at is of this tree.
func belongs(c *flora.Character) float64 {
	switch c.Reach {
	case "ground":
		return record.Belonging["litter"]
	case "crown":
		return record.Belonging["crown"]
	}
	return record.Belonging["tree"]
}

// strays takes in that what is looked at may be of another tree of the wood.
func (col *column) strays(weights []float64, e float64) {
	a := belongs(col.flora)
	if e == 0 {
		return
	}
	wood, total := make([]float64, len(col.answers)), 0.0
	for t, row := range col.chance {
		if row == nil {
			continue
		}
		total += weights[t]
		for i := range row {
			wood[i] += weights[t] * row[i]
		}
	}
	for _, row := range col.chance {
		for i := range row {
			row[i] = a*row[i] + (1-a)*wood[i]/total
		}
	}
}

// whole has each taxon's chances sum to 1.
func (col *column) whole() {
	for _, row := range col.chance {
		sum := 0.0
		for _, x := range row {
			sum += x
		}
		for i := range row {
			if sum > 0 {
				row[i] /= sum
			}
		}
	}
}

// measured lays a measure out in bins between figures that can be told on a rule.
func (col *column) measured(m *evidence.Model, weights []float64, e float64) {
	wood, variance := m.Wood(col.char)
	noise := ruler * ruler
	if e == 0 {
		noise = 0
	}
	lowest, highest := math.Exp(wood-2*math.Sqrt(variance+noise)), math.Exp(wood+2*math.Sqrt(variance+noise))
	for _, x := range niceLengths {
		if x > lowest && x < highest {
			col.edges = append(col.edges, x)
		}
	}
	bins := len(col.edges) + 1
	for i := range bins {
		col.answers = append(col.answers, i)
	}
	for t := range col.chance {
		v := &m.Taxa()[t].Values[col.char]
		if v.Knowledge == evidence.Absent {
			continue
		}
		row := make([]float64, bins)
		spread := binned(col.edges, wood, variance+noise)
		for i := range row {
			if row[i] = spread[i]; v.Knowledge == evidence.Known {
				row[i] = e * spread[i]
			}
		}
		if v.Knowledge == evidence.Known {
			for _, n := range v.Normals {
				for i, x := range binned(col.edges, n.Mean, n.Var+noise) {
					row[i] += (1 - e) * n.Weight * x
				}
			}
		}
		col.chance[t] = row
	}
	col.whole()
}

// binned is how much of a normal in ln x lies between edges.
func binned(edges []float64, mean, variance float64) []float64 {
	out := make([]float64, len(edges)+1)
	before := 0.0
	for i, x := range edges {
		upTo := 0.5
		if variance > 0 {
			upTo = 0.5 * math.Erfc(-(math.Log(x)-mean)/math.Sqrt(2*variance))
		} else if math.Log(x) <= mean {
			upTo = 0
		} else {
			upTo = 1
		}
		out[i] = upTo - before
		before = upTo
	}
	out[len(edges)] = 1 - before
	return out
}

// group is some of a character's answers, put into one lead.
type group struct {
	answers []int
	chance  []float64 // by the node's taxa
	mass    float64
}

// most is how many leads a question has.
const most = 4

// scarce is the share of a question's readers under which an answer gets no lead of its own.
const scarce = 0.02

// partings are ways to put a character's answers into leads at a node: into as many as say
// something, and fewer. Answers are joined in the order in which joining loses least (the
// agglomerative information bottleneck, Slonim & Tishby 1999, NIPS 12:617); those of a scale
// and of a measure only with their neighbours.
func (col *column) partings(taxa []int, p []float64) [][]group {
	var all []group
	for i := range col.answers {
		g := group{answers: []int{i}, chance: make([]float64, len(taxa))}
		for k, t := range taxa {
			g.chance[k] = col.of(t, i)
			g.mass += p[k] * g.chance[k]
		}
		all = append(all, g)
	}
	inRow := col.flora.Kind == evidence.Numeric || col.flora.Ordered
	var out [][]group
	for len(all) > 2 || len(all) == 2 && len(out) == 0 {
		rare := false
		for _, g := range all {
			rare = rare || g.mass < scarce
		}
		if len(all) <= most && !rare {
			out = append(out, clone(all))
		}
		if len(all) == 2 {
			break
		}
		i, j := cheapest(all, p, inRow)
		all = joined(all, i, j)
	}
	if len(all) == 2 && all[0].mass >= scarce && all[1].mass >= scarce && (len(out) == 0 || len(out[len(out)-1]) != 2) {
		out = append(out, clone(all))
	}
	return out
}

// of is the chance of an answer of a taxon; one that lacks the part could answer anything.
func (col *column) of(taxon, answer int) float64 {
	if col.chance[taxon] == nil {
		return 1 / float64(len(col.answers))
	}
	return col.chance[taxon][answer]
}

func clone(all []group) []group {
	out := make([]group, len(all))
	for i, g := range all {
		out[i] = group{append([]int(nil), g.answers...), append([]float64(nil), g.chance...), g.mass}
	}
	return out
}

// cheapest are the two groups that lose least when they are joined; rare ones are joined first.
func cheapest(all []group, p []float64, inRow bool) (a, b int) {
	a, b = 0, 1
	best := math.Inf(1)
	for i := range all {
		for j := i + 1; j < len(all); j++ {
			if inRow && j > i+1 {
				break
			}
			loss := lossOf(&all[i], &all[j], p)
			if min(all[i].mass, all[j].mass) < scarce {
				loss -= 10 // first
			}
			if loss < best {
				best, a, b = loss, i, j
			}
		}
	}
	return a, b
}

// lossOf is the information that joining two answers loses, in bits.
func lossOf(a, b *group, p []float64) float64 {
	loss := 0.0
	for k, w := range p {
		x, y := w*a.chance[k], w*b.chance[k]
		loss += xlog(x) + xlog(y) - xlog(x+y)
	}
	return loss - xlog(a.mass) - xlog(b.mass) + xlog(a.mass+b.mass)
}

func xlog(x float64) float64 {
	if x <= 0 {
		return 0
	}
	return x * math.Log2(x)
}

func joined(all []group, i, j int) []group {
	g := group{answers: append(append([]int(nil), all[i].answers...), all[j].answers...), mass: all[i].mass + all[j].mass}
	g.chance = make([]float64, len(all[i].chance))
	for k := range g.chance {
		g.chance[k] = all[i].chance[k] + all[j].chance[k]
	}
	var out []group
	for k := range all {
		switch k {
		case i:
			out = append(out, g)
		case j:
		default:
			out = append(out, all[k])
		}
	}
	return out
}

// gain is the information in bits that a question tells of which taxon it is.
func gain(all []group, p []float64) float64 {
	total := 0.0
	for i := range all {
		total -= xlog(all[i].mass)
		for k, w := range p {
			total += w * xlog(all[i].chance[k])
		}
	}
	return total
}
