// Package plots adds up what stands on sample points: angle counts (Bitterlich 1948) and
// plots of a fixed radius, by species with the doubt about names.
package plots

import (
	"cmp"
	"maps"
	"math"
	"slices"

	"gonum.org/v1/gonum/stat"
	"gonum.org/v1/gonum/stat/distuv"

	"palethicket/core/measure/sums"
)

// Stem is one that was counted.
type Stem struct {
	Diameter float64            // cm; 0: not measured
	Half     bool               // on the border: it counts half (common practice)
	Names    map[string]float64 // what it is by taxon, with the chance of each; the rest is not named
}

// Point is a sample point. Exactly one of Factor and Radius is more than 0.
type Point struct {
	Factor float64 // m²/ha that each stem of an angle count stands for
	Radius float64 // m
	Slope  float64 // rise over run of the ground that neither the gauge nor the tape allowed for; 0: it is level, or they did
	Stems  []Stem
}

// Estimate is a mean over the points with its standard error and its 95 % interval by
// Student's t. With one point there is a mean only: SE, From and To are NaN.
type Estimate struct {
	Mean, SE, From, To float64
}

// Taxon is what one taxon has; Name is empty for what is not named.
type Taxon struct {
	Name  string
	Area  Estimate // m²/ha
	Stems Estimate // per hectare
}

// Tally is what the points of a stand add up to.
type Tally struct {
	Points     int
	Area       Estimate // m²/ha
	Stems      Estimate // per hectare; NaN where a counted stem has no diameter
	Quadratic  float64  // mean diameter in cm, of the stem of mean basal area; NaN likewise
	Unmeasured int      // stems without a diameter
	Taxa       []Taxon  // the greatest basal area first
	CV         float64  // of the points' basal areas, as a share; NaN of one point
}

// weights gives what a stem stands for at a point: basal area in m²/ha, and stems per
// hectare (NaN where that needs its diameter and there is none).
func (p *Point) weights(s *Stem) (area, stems float64) {
	share := 1 / math.Cos(math.Atan(p.Slope)) // what is reached on a slope is less on the map
	if s.Half {
		share /= 2
	}
	g := math.Pi * s.Diameter * s.Diameter / 40000 // m²
	if p.Factor > 0 {
		if g == 0 {
			return share * p.Factor, math.NaN()
		}
		return share * p.Factor, share * p.Factor / g
	}
	each := share * 1e4 / (math.Pi * p.Radius * p.Radius)
	if g == 0 {
		return math.NaN(), each
	}
	return each * g, each
}

// Of adds points up.
func Of(points []Point) *Tally {
	n := len(points)
	t := &Tally{Points: n, Quadratic: math.NaN(), CV: math.NaN()}
	area, stems := make([]float64, n), make([]float64, n)
	type column struct{ area, stems []float64 }
	by := map[string]*column{}
	of := func(name string) *column {
		if by[name] == nil {
			by[name] = &column{make([]float64, n), make([]float64, n)}
		}
		return by[name]
	}
	for i := range points {
		for j := range points[i].Stems {
			s := &points[i].Stems[j]
			if s.Diameter == 0 {
				t.Unmeasured++
			}
			a, k := points[i].weights(s)
			area[i] += a
			stems[i] += k
			rest := 1.0
			for _, name := range slices.Sorted(maps.Keys(s.Names)) { // sums are then the same every time
				p, c := s.Names[name], of(name)
				c.area[i] += p * a
				c.stems[i] += p * k
				rest -= p
			}
			if rest > 1e-9 {
				c := of("")
				c.area[i] += rest * a
				c.stems[i] += rest * k
			}
		}
	}
	t.Area, t.Stems = estimate(area), estimate(stems)
	if t.Stems.Mean > 0 {
		t.Quadratic = math.Sqrt(4*t.Area.Mean/(math.Pi*t.Stems.Mean)) * 100
	}
	if n > 1 && t.Area.Mean > 0 {
		t.CV = stat.StdDev(area, nil) / t.Area.Mean
	}
	for name, c := range by {
		t.Taxa = append(t.Taxa, Taxon{name, estimate(c.area), estimate(c.stems)})
	}
	slices.SortFunc(t.Taxa, func(a, b Taxon) int {
		return cmp.Or(cmp.Compare(b.Area.Mean, a.Area.Mean), cmp.Compare(b.Stems.Mean, a.Stems.Mean), cmp.Compare(a.Name, b.Name))
	})
	return t
}

// estimate is the mean over points as a simple random sample.
func estimate(x []float64) Estimate {
	if len(x) == 0 {
		return Estimate{}
	}
	mean, sd := stat.MeanStdDev(x, nil)
	if len(x) == 1 {
		return Estimate{mean, math.NaN(), math.NaN(), math.NaN()}
	}
	se := sd / math.Sqrt(float64(len(x)))
	half := se * distuv.StudentsT{Mu: 0, Sigma: 1, Nu: float64(len(x) - 1)}.Quantile(0.975)
	return Estimate{mean, se, max(0, mean-half), mean + half}
}

// Needed is how many points in all give the basal area within a share of itself, 95 times in 100. 0: one point does not tell.
func (t *Tally) Needed(within float64) int {
	if math.IsNaN(t.CV) || within <= 0 {
		return 0
	}
	return sums.PointsNeeded(t.CV, within)
}
