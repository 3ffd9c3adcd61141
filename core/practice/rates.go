package practice

import "maps"

// Rates are somebody's own chances of misreading what they look at, by how sure they say they are.
type Rates map[string]float64

// usualFor is how many answers the usual rate counts for beside one's own: few answers say little.
const usualFor = 20

// RatesOf finds them from answers to word cards, of which it is known what was shown, each drawn towards
// the usual rate (the mean of a beta posterior). Answers that it was not known are no misreadings. It
// says on how many answers they rest.
func RatesOf(reviews []Review, usual map[string]float64) (Rates, int) {
	n, wrong := map[string]int{}, map[string]int{}
	all := 0
	for i := range reviews {
		c, err := ParseCard(reviews[i].Card)
		if err != nil || c.Kind != Word || PartOf(c.Character) == "" || reviews[i].Verdict == NoIdea {
			continue
		}
		all++
		n[reviews[i].Sure]++
		if reviews[i].Verdict == Wrong {
			wrong[reviews[i].Sure]++
		}
	}
	out := maps.Clone(usual)
	for sure, rate := range usual {
		out[sure] = (float64(wrong[sure]) + usualFor*rate) / (float64(n[sure]) + usualFor)
	}
	return out, all
}
