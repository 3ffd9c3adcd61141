package fit

import (
	"math"

	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/portable"
)

// Fit says how well some looks fit what a tree is taken for.
type Fit struct {
	Log float64 // Σ ln of the chances of what was scored
	// Odd is how far that lies below its average, in standard deviations: 0 for what such a
	// tree usually shows, above 2 for what it hardly does.
	Odd float64
}

// Alone is how well the looks, all of this tree, fit taxon t. Nothing is drawn for it.
func (j *Judge) Alone(looks []evidence.Look, t int) Fit { return j.Piecemeal(looks, []int{t}) }

// Piecemeal is how well the looks fit a tree of which each score is like that of one of
// several taxa, whichever shows it most: what a further member of their genus may be. There
// is at least one taxon.
func (j *Judge) Piecemeal(looks []evidence.Look, taxa []int) Fit {
	log, mean, variance := 0.0, 0.0, 0.0
	for i := range looks {
		for k := range looks[i].Scores {
			q := j.ask(&looks[i].Scores[k], taxa[0])
			for _, t := range taxa {
				if own := q.of(t); own[q.observed] > q.logs[q.observed] {
					q.logs = own
				}
			}
			first, second := moments(q.logs)
			log += q.logs[q.observed]
			mean, variance = mean+first, variance+max(second-first*first, 0)
		}
	}
	out := Fit{Log: log}
	if variance > 1e-9 {
		out.Odd = (mean - log) / math.Sqrt(variance)
	}
	return out
}

// moments are the first two of a log score, over the answers of a taxon.
func moments(logs []float64) (first, second float64) {
	for _, l := range logs {
		p := portable.Exp(l)
		first, second = first+p*l, second+p*l*l
	}
	return first, second
}

// of gives ln q of each answer for a hypothesis.
func (a *answers) of(h int) []float64 { return a.logs[h*a.n : (h+1)*a.n] }
