package agreement

import (
	"errors"
	"math"
)

// Kappa is agreement beyond chance: 1 is whole, 0 what chance gives.
type Kappa struct {
	Kappa    float64
	SE       float64 // its standard error; NaN where it has none
	Agreed   float64 // share of the cases that were called alike
	ByChance float64 // share that chance would have called alike
}

// Interval is where the kappa lies 95 times in 100, by its standard error and the normal distribution; at most 1.
func (k Kappa) Interval() (from, to float64) {
	const reach = 1.959963984540054
	return max(-1, k.Kappa-reach*k.SE), min(1, k.Kappa+reach*k.SE)
}

// ErrOneCategory is given where all was called one thing: agreement beyond chance then has no
// meaning.
var ErrOneCategory = errors.New("everything was called the same, so there is no agreement beyond chance to speak of")

// Cohen gives Cohen's kappa (1960, Educ. Psychol. Meas. 20:37) of a square table: how often the
// first called i what the second called j. Its standard error, for a kappa that is not
// nought, is that of Fleiss, Cohen & Everitt (1969, Psychol. Bull. 72:323, eq. 13).
func Cohen(table [][]int) (Kappa, error) {
	k, n := len(table), 0.0
	rows, cols := make([]float64, k), make([]float64, k)
	agreed := 0.0
	for i := range table {
		for j, c := range table[i] {
			rows[i] += float64(c)
			cols[j] += float64(c)
			n += float64(c)
		}
		agreed += float64(table[i][i])
	}
	if n == 0 {
		return Kappa{}, errors.New("nothing was named by both")
	}
	po, pe := agreed/n, 0.0
	for i := range table {
		rows[i], cols[i] = rows[i]/n, cols[i]/n
		pe += rows[i] * cols[i]
	}
	if pe > 1-1e-12 {
		return Kappa{Agreed: po, ByChance: pe, SE: math.NaN()}, ErrOneCategory
	}
	sum := 0.0
	for i := range table {
		for j, c := range table[i] {
			p := float64(c) / n
			if i == j {
				d := (1 - pe) - (rows[i]+cols[i])*(1-po)
				sum += p * d * d
			} else {
				d := cols[i] + rows[j]
				sum += p * (1 - po) * (1 - po) * d * d
			}
		}
	}
	last := po*pe - 2*pe + po
	variance := (sum - last*last) / (n * math.Pow(1-pe, 4))
	return Kappa{(po - pe) / (1 - pe), math.Sqrt(max(0, variance)), po, pe}, nil
}

// Fleiss gives Fleiss's kappa (1971, Psychol. Bull. 76:378) of cases that several people
// called something: how many called case i category j. Each case has the same number of
// people, two or more; who they are need not be the same. Its standard error is that of
// Fleiss, Nee & Landis (1979, Psychol. Bull. 86:974, eq. 12), for a kappa of nought.
func Fleiss(counts [][]int) (Kappa, error) {
	if len(counts) == 0 {
		return Kappa{}, errors.New("nothing was named by several")
	}
	people := 0
	for _, c := range counts[0] {
		people += c
	}
	n, m := float64(len(counts)), float64(people)
	p := make([]float64, len(counts[0]))
	agreed := 0.0
	for _, row := range counts {
		of, same := 0, 0.0
		for j, c := range row {
			of += c
			same += float64(c) * float64(c-1)
			p[j] += float64(c)
		}
		if of != people || people < 2 {
			return Kappa{}, errors.New("each tree must be named by the same number of people, two or more")
		}
		agreed += same / (m * (m - 1))
	}
	po, pe, pq, skew := agreed/n, 0.0, 0.0, 0.0
	for j := range p {
		p[j] /= n * m
		q := 1 - p[j]
		pe += p[j] * p[j]
		pq += p[j] * q
		skew += p[j] * q * (q - p[j])
	}
	if pe > 1-1e-12 {
		return Kappa{Agreed: po, ByChance: pe, SE: math.NaN()}, ErrOneCategory
	}
	se := math.Sqrt2 / (pq * math.Sqrt(n*m*(m-1))) * math.Sqrt(max(0, pq*pq-skew))
	return Kappa{(po - pe) / (1 - pe), se, po, pe}, nil
}
