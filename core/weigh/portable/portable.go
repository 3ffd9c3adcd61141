// Package portable has the functions that weighing needs and that come out the same, bit
// for bit, on every machine and in a browser. Those of package math do not: where a
// processor has a faster way of its own they take it, and the last digit is another. A
// device and its server must show the same of one tree.
package portable

import "math"

// ln2 in two parts, so that a whole multiple of the first is exact.
const (
	ln2Hi = 6.93147180369123816490e-01
	ln2Lo = 1.90821492927058770002e-10
)

// Exp is e to the power of x: of FreeBSD's e_exp.c, as Go's math package has it, but
// without its assembly.
//
// Copyright (C) 2004 by Sun Microsystems, Inc. All rights reserved. Permission to use,
// copy, modify, and distribute this software is freely granted, provided that this notice
// is preserved.
func Exp(x float64) float64 {
	const (
		overflow  = 7.09782712893383973096e+02
		underflow = -7.45133219101941108420e+02
		nearZero  = 1.0 / (1 << 28)
		p1        = 1.66666666666666657415e-01
		p2        = -2.77777777770155933842e-03
		p3        = 6.61375632143793436117e-05
		p4        = -1.65339022054652515390e-06
		p5        = 4.13813679705723846039e-08
	)
	switch {
	case math.IsNaN(x):
		return x
	case x > overflow:
		return math.Inf(1)
	case x < underflow:
		return 0
	case -nearZero < x && x < nearZero:
		return 1 + x
	}
	k := int(float64(math.Log2E*x) + math.Copysign(0.5, x))
	hi := x - float64(float64(k)*ln2Hi)
	lo := float64(float64(k) * ln2Lo)
	r := hi - lo
	t := float64(r * r)
	c := r - float64(t*(p1+float64(t*(p2+float64(t*(p3+float64(t*(p4+float64(t*p5)))))))))
	y := 1 - ((lo - float64(r*c)/(2-c)) - hi)
	return math.Ldexp(y, k)
}

// Log is the natural logarithm of x: of FreeBSD's e_log.c, likewise.
//
// Copyright (C) 1993 by Sun Microsystems, Inc. All rights reserved. Developed at SunPro,
// a Sun Microsystems, Inc. business. Permission to use, copy, modify, and distribute this
// software is freely granted, provided that this notice is preserved.
func Log(x float64) float64 {
	const (
		l1 = 6.666666666666735130e-01
		l2 = 3.999999999940941908e-01
		l3 = 2.857142874366239149e-01
		l4 = 2.222219843214978396e-01
		l5 = 1.818357216161805012e-01
		l6 = 1.531383769920937332e-01
		l7 = 1.479819860511658591e-01
	)
	switch {
	case math.IsNaN(x) || math.IsInf(x, 1):
		return x
	case x < 0:
		return math.NaN()
	case x == 0:
		return math.Inf(-1)
	}
	f1, ki := math.Frexp(x)
	if f1 < math.Sqrt2/2 {
		f1 *= 2
		ki--
	}
	f, k := f1-1, float64(ki)
	s := f / (2 + f)
	s2 := float64(s * s)
	s4 := float64(s2 * s2)
	t1 := float64(s2 * (l1 + float64(s4*(l3+float64(s4*(l5+float64(s4*l7)))))))
	t2 := float64(s4 * (l2 + float64(s4*(l4+float64(s4*l6)))))
	half := float64(float64(0.5*f) * f)
	return float64(k*ln2Hi) - ((half - (float64(s*(half+t1+t2)) + float64(k*ln2Lo))) - f)
}

// Log2 is the logarithm of x to the base of 2; of a power of 2 it is exact.
func Log2(x float64) float64 {
	frac, k := math.Frexp(x)
	if frac == 0.5 {
		return float64(k - 1)
	}
	return float64(Log(frac)*(1/math.Ln2)) + float64(k)
}

// stirling are the coefficients of that series, of Bernoulli's numbers.
var stirling = [...]float64{1.0 / 12, -1.0 / 360, 1.0 / 1260, -1.0 / 1680, 1.0 / 1188, -691.0 / 360360}

// LogGamma is the logarithm of the gamma function of x > 0: by Stirling's series
// (Abramowitz and Stegun, Handbook of Mathematical Functions, 6.1.41), for small x of a
// larger one by the recurrence.
func LogGamma(x float64) float64 {
	const large = 12
	product := 1.0
	for ; x < large; x++ {
		product = float64(product * x)
	}
	z := float64(1 / (x * x))
	series := 0.0
	for i := len(stirling) - 1; i >= 0; i-- {
		series = stirling[i] + float64(z*series)
	}
	const halfLog2Pi = 0.91893853320467274178
	return float64((x-0.5)*Log(x)) - x + halfLog2Pi + series/x - Log(product)
}
