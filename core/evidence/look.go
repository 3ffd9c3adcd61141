package evidence

import "math"

// Weigher works out what looks say. It keeps its buffers, so that weighing
// does not allocate; one goroutine uses one Weigher.
type Weigher struct {
	m       *Model
	q, prod []float64
}

// NewWeigher makes a Weigher for the model.
func NewWeigher(m *Model) *Weigher {
	return &Weigher{m: m, q: make([]float64, m.Hypotheses()), prod: make([]float64, m.Hypotheses())}
}

// foldEvery is how many scores are multiplied before the product is brought
// back to a common scale, well before a float64 can run out of exponent.
const foldEvery = 12

// Look writes ln L(t) for every hypothesis into dst, where
//
//	L(t) = a·Π q_t(o) + (1-a)·S,   S = Σ_s share(s)·Π q_s(o),
//
// and, into own, the share of L(t) that comes from the look being of this tree:
// a·Π q_t(o) / L(t). Both hold [Model.Hypotheses] numbers. skip is the index of
// a score to leave out, or -1.
func (w *Weigher) Look(dst, own []float64, look *Look, skip int) {
	scale := w.product(look.Scores, skip)
	stranger := 0.0
	for t, share := range w.m.share {
		stranger += share * w.prod[t]
	}
	a := look.Belongs
	for h, p := range w.prod {
		mine := a * p
		l := mine + (1-a)*stranger
		dst[h] = math.Log(l) + scale
		if l > 0 {
			own[h] = mine / l
		} else {
			own[h] = 0 // impossible either way; its posterior is 0
		}
	}
}

// product fills prod with Π q_h(o) over the scores and returns the ln of the
// factor that was taken out of all of them.
func (w *Weigher) product(scores []Score, skip int) (scale float64) {
	for h := range w.prod {
		w.prod[h] = 1
	}
	taken := 0
	for i := range scores {
		if i == skip {
			continue
		}
		w.m.Likelihood(w.q, &scores[i])
		q := w.q[:len(w.prod)]
		for h := range w.prod {
			w.prod[h] *= q[h]
		}
		if taken++; taken%foldEvery == 0 {
			scale += rescale(w.prod)
		}
	}
	return scale
}

func rescale(p []float64) float64 {
	top := 0.0
	for _, v := range p {
		top = max(top, v)
	}
	if top == 0 {
		return 0
	}
	for h := range p {
		p[h] /= top
	}
	return math.Log(top)
}
