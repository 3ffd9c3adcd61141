// Package marked reads lengths, angles and counts off what was marked on a photograph: a known
// length gives the scale, in one plane square to the camera.
package marked

import (
	"errors"
	"fmt"
	"math"
	"slices"
)

// Point is a place on a photograph, in parts of its width and height from the upper left corner.
type Point [2]float64

// Picture is what was marked on one. Lines[0] is the known length.
type Picture struct {
	Wide, High int     // pixels
	Known      float64 // mm; 0: there is no scale
	Lines      [][2]Point
	Bends      [][3]Point
}

// Value is what was read off, and one standard deviation.
type Value struct {
	Value float64 // mm of a line, degrees of a bend
	SD    float64
}

// Errors of marking (common practice, from memory): a finger or pointer is off by some pixels
// of the picture as it is shown, and what lies out of the plane, or aslant, by some percent.
const (
	shown    = 1000.0 // pixels that the longer side is shown at
	pressOff = 2.0    // of those, at each end
	slant    = 0.03
)

// ErrShort is given for a known length too short to give a scale.
var ErrShort = errors.New("the known length is too short on the picture: mark a longer one, or come closer")

// Read reads off what was marked. Without a known length lines stay empty.
func (p *Picture) Read() (lines, bends []Value, err error) {
	long := float64(max(p.Wide, p.High))
	if long <= 0 {
		return nil, nil, errors.New("the picture has no size")
	}
	off := pressOff * long / shown // pixels of the file
	at := func(q Point) (x, y float64) { return q[0] * float64(p.Wide), q[1] * float64(p.High) }
	length := func(l [2]Point) float64 {
		x1, y1 := at(l[0])
		x2, y2 := at(l[1])
		return math.Hypot(x2-x1, y2-y1)
	}
	if p.Known > 0 && len(p.Lines) > 0 {
		known := length(p.Lines[0])
		if known < 10*off {
			return nil, nil, ErrShort
		}
		scale := p.Known / known
		scaleOff := math.Sqrt2 * off / known
		for i, l := range p.Lines {
			px := length(l)
			v := px * scale
			sd := math.Sqrt(math.Pow(math.Sqrt2*off*scale, 2) + math.Pow(v*scaleOff, 2) + math.Pow(v*slant, 2))
			if i == 0 {
				v, sd = p.Known, 0
			}
			lines = append(lines, Value{v, sd})
		}
	}
	for _, b := range p.Bends {
		x0, y0 := at(b[0])
		x1, y1 := at(b[1])
		x2, y2 := at(b[2])
		a, c := math.Hypot(x0-x1, y0-y1), math.Hypot(x2-x1, y2-y1)
		if a < off || c < off {
			return nil, nil, fmt.Errorf("the sides of an angle are too short: mark it further out")
		}
		turn := math.Abs(math.Atan2(y0-y1, x0-x1) - math.Atan2(y2-y1, x2-x1))
		if turn > math.Pi {
			turn = 2*math.Pi - turn
		}
		sd := math.Hypot(math.Sqrt2*off/a, math.Sqrt2*off/c) * 180 / math.Pi
		bends = append(bends, Value{turn * 180 / math.Pi, sd})
	}
	return lines, bends, nil
}

// Joined is the mean of several readings and its standard deviation: of their spread, or of
// their own errors where that is more.
func Joined(all []Value) Value {
	if len(all) == 0 {
		return Value{}
	}
	mean, own := 0.0, 0.0
	for _, v := range all {
		mean += v.Value / float64(len(all))
		own += v.SD * v.SD / float64(len(all)) / float64(len(all))
	}
	squares := 0.0
	for _, v := range all {
		squares += (v.Value - mean) * (v.Value - mean)
	}
	spread := 0.0
	if n := float64(len(all)); n > 1 {
		spread = math.Sqrt(squares / (n - 1) / n)
	}
	return Value{mean, slices.Max([]float64{math.Sqrt(own), spread})}
}
