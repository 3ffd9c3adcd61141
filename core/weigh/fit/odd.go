package fit

import (
	"math"

	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/portable"
)

// Blend says how well some looks fit a tree that mixes the marks of several taxa: each
// score like one of them, whichever, as a further member of their genus may be. Of one
// taxon it is that taxon's own fit.
type Blend struct {
	Log float64 // Σ ln of the chances of what was scored
	// Odd is how far below its average that is, in standard deviations: 0 for what such a
	// tree usually shows, above 2 for what it hardly does.
	Odd float64
}

// Blend weighs the looks as if all of them were of this tree. There is at least one taxon.
func (j *Judge) Blend(looks []evidence.Look, taxa []int) Blend {
	log, mean, variance := 0.0, 0.0, 0.0
	for i := range looks {
		for k := range looks[i].Scores {
			q := j.ask(&looks[i].Scores[k], taxa[0])
			first, second := 0.0, 0.0 // moments of the log score
			for o := range q.n {
				p := q.blended(o, taxa)
				l := portable.Log(p)
				first, second = first+p*l, second+p*l*l
				if o == q.observed {
					log += l
				}
			}
			mean, variance = mean+first, variance+max(second-first*first, 0)
		}
	}
	out := Blend{Log: log}
	if variance > 1e-9 {
		out.Odd = (mean - log) / math.Sqrt(variance)
	}
	return out
}

// blended is the mean chance of an answer over taxa.
func (a *answers) blended(answer int, taxa []int) float64 {
	p := 0.0
	for _, t := range taxa {
		p += portable.Exp(a.logs[t*a.n+answer])
	}
	return p / float64(len(taxa))
}
