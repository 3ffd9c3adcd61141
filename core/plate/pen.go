package plate

import (
	"math"
	"strconv"
)

// Point is a place on a drawing; y runs down.
type Point struct{ X, Y float64 }

// Add, Sub and Times are those of vectors.
func (p Point) Add(q Point) Point           { return Point{p.X + q.X, p.Y + q.Y} }
func (p Point) Sub(q Point) Point           { return Point{p.X - q.X, p.Y - q.Y} }
func (p Point) Times(k float64) Point       { return Point{p.X * k, p.Y * k} }
func (p Point) Length() float64             { return Hypot(p.X, p.Y) }
func (p Point) To(q Point, t float64) Point { return Point{p.X + (q.X-p.X)*t, p.Y + (q.Y-p.Y)*t} }

// Frame is a place to draw at, with its own up: u runs along the up direction, v to its
// right, both in the drawing's unit.
type Frame struct {
	At    Point
	Angle float64 // of up, clockwise from the drawing's, in radians
}

// Put gives a place of the frame on the drawing.
func (f Frame) Put(u, v float64) Point {
	s, c := math.Sincos(f.Angle)
	return Point{f.At.X + u*s + v*c, f.At.Y - u*c + v*s}
}

// Path is the d of an SVG path while it is written.
type Path struct {
	b      []byte
	places int // decimals
}

// NewPath begins a path written with some decimals.
func NewPath(decimals int) *Path { return &Path{places: decimals} }

func (p *Path) String() string { return string(p.b) }

// Empty says whether nothing was written.
func (p *Path) Empty() bool { return len(p.b) == 0 }

func (p *Path) num(x float64) {
	k := math.Pow10(p.places)
	x = math.Round(x*k) / k
	if x == 0 {
		x = 0 // no minus
	}
	if n := len(p.b); n > 0 && x >= 0 && (p.b[n-1] == '.' || '0' <= p.b[n-1] && p.b[n-1] <= '9') {
		p.b = append(p.b, ' ')
	}
	from := len(p.b)
	p.b = strconv.AppendFloat(p.b, x, 'f', -1, 64)
	if text := p.b[from:]; len(text) > 1 && text[0] == '0' && text[1] == '.' { // .5 says as much as 0.5
		p.b = append(p.b[:from], text[1:]...)
	} else if len(text) > 2 && text[0] == '-' && text[1] == '0' && text[2] == '.' {
		p.b = append(p.b[:from+1], text[2:]...)
	}
}

func (p *Path) op(c byte, points ...Point) *Path {
	p.b = append(p.b, c)
	for _, q := range points {
		p.num(q.X)
		p.num(q.Y)
	}
	return p
}

// Move, Line, Quad and Cubic are M, L, Q and C; Close is Z.
func (p *Path) Move(q Point) *Path        { return p.op('M', q) }
func (p *Path) Line(q Point) *Path        { return p.op('L', q) }
func (p *Path) Quad(c, q Point) *Path     { return p.op('Q', c, q) }
func (p *Path) Cubic(a, b, q Point) *Path { return p.op('C', a, b, q) }
func (p *Path) Close() *Path              { p.b = append(p.b, 'Z'); return p }

// Segment is a line of its own.
func (p *Path) Segment(a, b Point) *Path { return p.Move(a).Line(b) }

// Poly is straight lines through points.
func (p *Path) Poly(points []Point, closed bool) *Path {
	for i, q := range points {
		if i == 0 {
			p.Move(q)
		} else {
			p.Line(q)
		}
	}
	if closed {
		p.Close()
	}
	return p
}

// Curve is a smooth line through points (Catmull and Rom's, as cubics).
func (p *Path) Curve(points []Point, closed bool) *Path {
	n := len(points)
	at := func(i int) Point {
		if closed {
			return points[(i+n)%n]
		}
		return points[max(0, min(n-1, i))]
	}
	last := n - 1
	if closed {
		last = n
	}
	p.Move(points[0])
	for i := range last {
		a, b := at(i), at(i+1)
		p.Cubic(a.Add(b.Sub(at(i-1)).Times(1.0/6)), b.Sub(at(i+2).Sub(a).Times(1.0/6)), b)
	}
	if closed {
		p.Close()
	}
	return p
}

// Dot is one as large as the pen is wide.
func (p *Path) Dot(q Point) *Path {
	p.Move(q)
	p.b = append(p.b, "h0"...)
	return p
}

// Circle is one of four arcs.
func (p *Path) Circle(c Point, r float64) *Path { return p.Ellipse(c, r, r) }

// Ellipse is one of four arcs.
func (p *Path) Ellipse(c Point, a, b float64) *Path {
	const k = 0.5523 // how far a quarter's handles reach
	at := func(x, y float64) Point { return Point{c.X + a*x, c.Y + b*y} }
	return p.Move(at(1, 0)).Cubic(at(1, k), at(k, 1), at(0, 1)).Cubic(at(-k, 1), at(-1, k), at(-1, 0)).
		Cubic(at(-1, -k), at(-k, -1), at(0, -1)).Cubic(at(k, -1), at(1, -k), at(1, 0)).Close()
}
