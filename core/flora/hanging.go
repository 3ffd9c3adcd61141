package flora

import (
	"io/fs"
	"slices"
	"time"

	"palethicket/core/weigh/evidence"
)

const (
	phenologyFile = "phenology.yaml"
	kindOfFruit   = "fruit.kind"
	fruitSign     = "fruit.hanging"
	anyFruit      = "anything else" // the line of kinds of fruit without one
)

// hangs are the months, in order, for which phenology.yaml says how much fruit still hangs.
var hangs = []time.Month{time.September, time.October, time.November, time.December, time.January, time.February, time.March, time.April}

// hanging reads how much of each kind of fruit hangs in each month of what hangs at midwinter.
func (r *reader) hanging() {
	if _, err := fs.Stat(r.dir, phenologyFile); err != nil { // a flora may know no dates
		return
	}
	n := child(r.open(phenologyFile), "hanging")
	if n == nil {
		return
	}
	r.decode(n, &r.flora.Hanging)
	kinds := r.flora.Character(kindOfFruit)
	for kind, months := range r.flora.Hanging {
		if kind != anyFruit && (kinds == nil || kinds.State(kind) < 0) {
			r.fail(n, "hanging: %q is no kind of fruit", kind)
		}
		if len(months) != len(hangs) || slices.ContainsFunc(months, func(x float64) bool { return x < 0 }) {
			r.fail(n, "hanging: %s needs %d shares, September to April, 0 or more", kind, len(hangs))
		}
	}
	if len(r.flora.Hanging[anyFruit]) == 0 {
		r.fail(n, "hanging: there is no line %q", anyFruit)
	}
}

// Hang gives, under every hypothesis of the pool's model, how much more often than at midwinter
// fruit hangs in a month, as its kind keeps it; nil where nothing is known of the month.
func (p *Pool) Hang(month time.Month) []float64 {
	at := slices.Index(hangs, month)
	if at < 0 || p.flora.Hanging == nil {
		return nil
	}
	of := func(kind string) float64 {
		if line, ok := p.flora.Hanging[kind]; ok {
			return line[at]
		}
		return p.flora.Hanging[anyFruit][at]
	}
	i, _ := p.Index(kindOfFruit, Breast)
	c, _ := p.Character(i)
	out := make([]float64, p.Model.Hypotheses())
	for t := range out {
		out[t] = of(anyFruit)
		if t == len(p.Taxa) || p.Model.Taxa()[t].Values[i].Knowledge != evidence.Known {
			continue
		}
		out[t] = 0
		for s, x := range p.Model.Taxa()[t].Values[i].Dist {
			out[t] += x * of(c.States[s].ID)
		}
	}
	return out
}
