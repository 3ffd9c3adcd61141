package report

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"maps"
	"strconv"
	"strings"

	"codeberg.org/go-pdf/fpdf"
)

// The program's own drawings are put into PDF as what they are, lines and fills. This reads as much of
// SVG and of its styles as they use (core/plate): paths, circles, words, groups, lenses.

// vector puts a drawing into a PDF.
type vector struct {
	solid bool // colours are mixed with the paper
	*fpdf.Fpdf
	x, y, scale float64
	rules       []rule
	vars        map[string]string
	stack       []group
	clips       map[string][3]float64 // circles, by id
	clip        string                // the clipPath that is being read
	text        *[3]float64           // where the words that come next go, and their size
}

// rule is one of the style sheet.
type rule struct {
	selector []string // of ancestors and the element itself, each as path or .class
	weight   int
	set      map[string]string
}

// group is an element while it is read.
type group struct {
	name    string
	classes []string
	style   map[string]string // what is inherited
	opacity float64
	undo    []func()
}

// putSVG draws an SVG of the program's own, as wide as wanted and no higher; it gives how wide and
// high it came out.
func (p *pdf) putSVG(svg []byte, x, y, wide, high float64) (w, h float64, err error) {
	v := &vector{Fpdf: p.Fpdf, solid: p.solid, x: x, y: y, vars: map[string]string{}, clips: map[string][3]float64{}}
	dec := xml.NewDecoder(bytes.NewReader(svg))
	for {
		token, err := dec.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return 0, 0, fmt.Errorf("reading a drawing: %w", err)
		}
		switch t := token.(type) {
		case xml.StartElement:
			if t.Name.Local == "svg" {
				if w, h, err = v.fit(attribute(t, "viewBox"), wide, high); err != nil {
					return 0, 0, err
				}
			}
			if t.Name.Local == "style" {
				var text string
				if err := dec.DecodeElement(&text, &t); err != nil {
					return 0, 0, fmt.Errorf("reading a drawing's styles: %w", err)
				}
				v.sheet(text)
				continue
			}
			v.open(t)
		case xml.EndElement:
			v.close()
		case xml.CharData:
			v.words(string(t))
		}
	}
	if !p.solid {
		p.SetAlpha(1, "Normal")
	}
	return w, h, nil
}

// fit finds the scale at which a view box fits.
func (v *vector) fit(box string, wide, high float64) (w, h float64, err error) {
	var n [4]float64
	if _, err := fmt.Sscan(box, &n[0], &n[1], &n[2], &n[3]); err != nil {
		return 0, 0, fmt.Errorf("reading how large a drawing is: %w", err)
	}
	v.scale = min(wide/n[2], high/n[3])
	v.x -= n[0] * v.scale
	v.y -= n[1] * v.scale
	return n[2] * v.scale, n[3] * v.scale, nil
}

func attribute(t xml.StartElement, name string) string {
	for _, a := range t.Attr {
		if a.Name.Local == name {
			return a.Value
		}
	}
	return ""
}

// sheet reads a style sheet.
func (v *vector) sheet(text string) {
	for block := range strings.SplitSeq(text, "}") {
		selectors, body, ok := strings.Cut(block, "{")
		if !ok {
			continue
		}
		set := declarations(body)
		for selector := range strings.SplitSeq(selectors, ",") {
			r := rule{selector: strings.Fields(selector), set: set}
			for _, s := range r.selector {
				if r.weight++; strings.HasPrefix(s, ".") {
					r.weight += 10
				}
			}
			if len(r.selector) == 1 && r.selector[0] == "svg" {
				for name, value := range set {
					v.vars["var("+name+")"] = value
				}
			}
			v.rules = append(v.rules, r)
		}
	}
}

func declarations(body string) map[string]string {
	out := map[string]string{}
	for d := range strings.SplitSeq(body, ";") {
		if name, value, ok := strings.Cut(d, ":"); ok {
			out[strings.TrimSpace(name)] = strings.TrimSpace(value)
		}
	}
	return out
}

// matches says whether a rule is for the innermost element.
func (v *vector) matches(r *rule) bool {
	at := len(v.stack) - 1
	if at < 0 || !v.stack[at].is(r.selector[len(r.selector)-1]) {
		return false
	}
	at--
	for i := len(r.selector) - 2; i >= 0; i-- {
		for at >= 0 && !v.stack[at].is(r.selector[i]) {
			at--
		}
		if at < 0 {
			return false
		}
		at--
	}
	return true
}

func (g *group) is(selector string) bool {
	class, ok := strings.CutPrefix(selector, ".")
	if !ok {
		return g.name == selector
	}
	for _, c := range g.classes {
		if c == class {
			return true
		}
	}
	return false
}

// open begins an element.
func (v *vector) open(t xml.StartElement) {
	g := group{name: t.Name.Local, classes: strings.Fields(attribute(t, "class")), style: map[string]string{}, opacity: 1}
	if n := len(v.stack); n > 0 {
		g.style, g.opacity = maps.Clone(v.stack[n-1].style), v.stack[n-1].opacity
	}
	v.stack = append(v.stack, g)
	top := &v.stack[len(v.stack)-1]
	own := map[string]string{}
	weight := map[string]int{}
	for i := range v.rules {
		if r := &v.rules[i]; v.matches(r) {
			for name, value := range r.set {
				if r.weight >= weight[name] {
					own[name], weight[name] = value, r.weight
				}
			}
		}
	}
	for _, name := range []string{"stroke-width", "font-size", "fill", "stroke", "opacity"} {
		if value := attribute(t, name); value != "" && own[name] == "" {
			own[name] = value
		}
	}
	maps.Copy(own, declarations(attribute(t, "style")))
	if o, ok := own["opacity"]; ok {
		top.opacity *= v.number(o)
		delete(own, "opacity")
	}
	maps.Copy(top.style, own)
	v.draw(t, top)
}

// draw draws an element, or gets ready for what is in it.
func (v *vector) draw(t xml.StartElement, g *group) {
	n := func(name string) float64 { return v.number(attribute(t, name)) }
	switch t.Name.Local {
	case "clipPath":
		v.clip = attribute(t, "id")
	case "circle":
		if v.clip != "" {
			v.clips[v.clip] = [3]float64{n("cx"), n("cy"), n("r")}
			return
		}
		v.paint(g, func(how string) { v.Circle(v.px(n("cx")), v.py(n("cy")), n("r")*v.scale, how) })
	case "rect":
		v.paint(g, func(how string) { v.Rect(v.px(n("x")), v.py(n("y")), n("width")*v.scale, n("height")*v.scale, how) })
	case "path":
		d := attribute(t, "d")
		v.paint(g, func(how string) {
			v.path(d)
			v.DrawPath(how)
		})
	case "text":
		v.text = &[3]float64{n("x"), n("y"), n("font-size")}
	case "g":
		if id, ok := strings.CutPrefix(attribute(t, "clip-path"), "url(#"); ok {
			c := v.clips[strings.TrimSuffix(id, ")")]
			v.ClipCircle(v.px(c[0]), v.py(c[1]), c[2]*v.scale, false)
			g.undo = append(g.undo, v.ClipEnd)
		}
		var turn, x, y float64
		if _, err := fmt.Sscanf(attribute(t, "transform"), "rotate(%f %f %f)", &turn, &x, &y); err == nil {
			v.TransformBegin()
			v.TransformRotate(-turn, v.px(x), v.py(y))
			g.undo = append(g.undo, v.TransformEnd)
		}
	}
}

// close ends an element.
func (v *vector) close() {
	if len(v.stack) == 0 {
		return
	}
	g := v.stack[len(v.stack)-1]
	v.stack = v.stack[:len(v.stack)-1]
	for i := len(g.undo) - 1; i >= 0; i-- {
		g.undo[i]()
	}
	switch g.name {
	case "clipPath":
		v.clip = ""
	case "text":
		v.text = nil
	}
}

func (v *vector) px(x float64) float64 { return v.x + x*v.scale }
func (v *vector) py(y float64) float64 { return v.y + y*v.scale }

// number reads a number, or the one that a name of the sheet stands for.
func (v *vector) number(text string) float64 {
	if named, ok := v.vars[text]; ok {
		text = named
	}
	x, err := strconv.ParseFloat(text, 64)
	if err != nil {
		return 0
	}
	return x
}

// color reads one; ok is false for none.
func (v *vector) color(text string) (r, g, b int, ok bool) {
	if named, is := v.vars[text]; is {
		text = named
	}
	hex, is := strings.CutPrefix(text, "#")
	if !is {
		return 0, 0, 0, false
	}
	if len(hex) == 3 {
		hex = string([]byte{hex[0], hex[0], hex[1], hex[1], hex[2], hex[2]})
	}
	n, err := strconv.ParseUint(hex, 16, 32)
	return int(n >> 16), int(n >> 8 & 255), int(n & 255), err == nil
}

// mixed is a colour as it comes out on white paper where nothing may shine through: in what is drawn once and shown
// in many places.
func (v *vector) mixed(r, g, b int, opacity float64) (int, int, int) {
	if !v.solid {
		return r, g, b
	}
	o := max(0, min(1, opacity))
	on := func(c int) int { return int(float64(c)*o + 255*(1-o)) }
	return on(r), on(g), on(b)
}

// paint fills and strokes as the styles say.
func (v *vector) paint(g *group, draw func(how string)) {
	how := ""
	if r, gr, b, ok := v.color(g.style["fill"]); ok {
		v.SetFillColor(v.mixed(r, gr, b, g.opacity))
		how = "F"
	}
	if r, gr, b, ok := v.color(g.style["stroke"]); ok {
		wide := 1.0
		if w := g.style["stroke-width"]; w != "" {
			wide = v.number(w)
		}
		v.SetDrawColor(v.mixed(r, gr, b, g.opacity))
		v.SetLineWidth(wide * v.scale)
		v.SetLineCapStyle("round")
		v.SetLineJoinStyle("round")
		how += "D"
	}
	if how == "" || g.opacity <= 0 {
		return
	}
	if !v.solid {
		v.SetAlpha(min(1, g.opacity), "Normal")
	}
	draw(how)
}

// words writes what stands in a text element, its middle at its place.
func (v *vector) words(text string) {
	if v.solid || v.text == nil || strings.TrimSpace(text) == "" {
		return
	}
	size := v.text[2] * v.scale
	if !v.solid {
		v.SetAlpha(1, "Normal")
	}
	v.SetFont("body", "", size/0.3528) // mm to points
	v.SetTextColor(40, 34, 28)
	v.Text(v.px(v.text[0])-v.GetStringWidth(text)/2, v.py(v.text[1]), text)
}

// path lays the d of a path.
func (v *vector) path(d string) {
	var at, quad [2]float64
	for op, n := range segments(d) {
		switch op {
		case 'M':
			at = [2]float64{n[0], n[1]}
			v.MoveTo(v.px(at[0]), v.py(at[1]))
		case 'L':
			at = [2]float64{n[0], n[1]}
			v.LineTo(v.px(at[0]), v.py(at[1]))
		case 'H', 'h', 'V', 'v':
			switch op {
			case 'H':
				at[0] = n[0]
			case 'h':
				at[0] += n[0]
			case 'V':
				at[1] = n[0]
			default:
				at[1] += n[0]
			}
			v.LineTo(v.px(at[0]), v.py(at[1]))
		case 'Q':
			quad = [2]float64{n[0], n[1]}
			v.CurveTo(v.px(quad[0]), v.py(quad[1]), v.px(n[2]), v.py(n[3]))
			at = [2]float64{n[2], n[3]}
		case 'C':
			v.CurveBezierCubicTo(v.px(n[0]), v.py(n[1]), v.px(n[2]), v.py(n[3]), v.px(n[4]), v.py(n[5]))
			at = [2]float64{n[4], n[5]}
		case 'Z':
			v.ClosePath()
		}
	}
}
