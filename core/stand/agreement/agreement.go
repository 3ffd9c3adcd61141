// Package agreement says how far people who name the same trees agree, and what each of
// them is worth.
//
//	agreement.go  shares with their intervals
//	kappa.go      agreement beyond chance, of two and of more
//	observers.go  what each observer errs, where nobody knows the truth
package agreement

import "math"

// z is the standard normal quantile of 0.975.
const z = 1.959963984540054

// Share is how many of n were so, with Wilson's 95 % interval.
type Share struct {
	N, Of    int
	P        float64 // NaN where Of is 0
	From, To float64
}

// ShareOf is n of so many. The interval is Wilson's score interval (Wilson 1927, J. Am. Stat.
// Assoc. 22:209); of nothing it is from 0 to 1.
func ShareOf(n, of int) Share {
	if of <= 0 {
		return Share{P: math.NaN(), To: 1}
	}
	p, k := float64(n)/float64(of), float64(of)
	mid := (p + z*z/(2*k)) / (1 + z*z/k)
	half := z / (1 + z*z/k) * math.Sqrt(p*(1-p)/k+z*z/(4*k*k))
	return Share{n, of, p, max(0, mid-half), min(1, mid+half)}
}
