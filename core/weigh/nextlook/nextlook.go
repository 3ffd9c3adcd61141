package nextlook

import "palethicket/core/weigh/evidence"

// Setting is how the look would be taken.
type Setting struct {
	Belongs float64 // chance that what is looked at is of this tree
	// There is the chance, under every hypothesis, that the tree has what is looked at; nil: what
	// the model says of taxa without the part.
	There []float64
	evidence.Setting
}

// Gain is the expected information in bits, 0 or more and at most the entropy
// of the posterior, of scoring the character in a look of its own. A character
// that no taxon of the pool knows has no gain.
func Gain(m *evidence.Model, posterior []float64, char int, set Setting) float64 {
	return NewTable(m, char, set).Gain(posterior)
}

// wood is the chance of the answer from a stranger of the same wood.
func wood(m *evidence.Model, row []float64) float64 {
	sum := 0.0
	for t, share := range m.Share() {
		sum += share * row[t]
	}
	return sum
}

// Entropy of a distribution, in bits.
func Entropy(p []float64) float64 {
	h := 0.0
	for _, v := range p {
		h -= timesLog(v)
	}
	return h
}

// EntropyOver is the entropy, in bits, of what lies in the support.
func EntropyOver(p []float64, support []int) float64 {
	h := 0.0
	for _, i := range support {
		h -= timesLog(p[i])
	}
	return h
}
