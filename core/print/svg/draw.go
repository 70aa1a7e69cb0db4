package svg

import (
	"math"
	"slices"
	"strings"

	"amberseal/core/print/typeface"
	"amberseal/core/print/typeset"
)

// painter walks over a picture and gathers what it shows.
type painter struct {
	byID          map[string]*node
	own           map[string]typeface.Family
	width, height float64 // of the view, of which lengths may be parts of hundred
	shapes        []typeset.Shape
	points, seen  int
	setter        words
}

// state is what an element has from those that hold it.
type state struct {
	matrix  matrix
	values  map[string]string
	opacity float64
	clips   []typeset.Clip
	depth   int
	clip    *[][]float64 // gathers outlines instead of painting them
	rule    *bool        // whether they are taken by the even-odd rule
}

func (p *painter) kids(n *node, s state) {
	for _, k := range n.kids {
		p.element(k, s)
	}
}

// element paints an element and what it holds.
func (p *painter) element(n *node, s state) {
	if p.seen++; p.seen > mostElements {
		panic(refusal("it has too many elements"))
	}
	if s.depth++; s.depth > deepest {
		panic(refusal("its parts use each other in a circle"))
	}
	s.values = n.values(s.values)
	if s.values["display"] == "none" {
		return
	}
	if t := s.values["transform"]; t != "" {
		s.matrix = s.matrix.after(transforms(t))
	}
	switch n.name {
	case "defs", "symbol", "clipPath", "linearGradient", "radialGradient", "style", "marker", "pattern", "filter", "mask":
		return
	}
	p.refuses(s.values)
	s.clips = p.clipped(n, s)
	if o := share(s.values["opacity"], 1); o < 1 && s.clip == nil {
		defer p.together(len(p.shapes), o)
	}
	switch n.name {
	case "g", "a":
		p.kids(n, s)
	case "switch":
		if len(n.kids) > 0 {
			p.element(n.kids[0], s)
		}
	case "svg":
		p.nested(n, n, s)
	case "use":
		p.use(n, s)
	case "text":
		p.text(n, s)
	default:
		o := p.outlines(s.matrix)
		if closed, known := p.shape(n, o, s.values); known {
			p.paint(o, n, s, closed)
		}
	}
}

// together gives an opacity to what was painted since, as to one thing (SVG 1.1, 14.5).
func (p *painter) together(since int, opacity float64) {
	parts := p.shapes[since:]
	switch {
	case len(parts) == 0:
	case opacity < faintest:
		p.shapes = p.shapes[:since]
	case len(parts) == 1 && parts[0].Gradient == nil:
		if parts[0].Opacity > 0 {
			opacity *= parts[0].Opacity
		}
		parts[0].Opacity = opacity
	default:
		p.shapes = append(p.shapes[:since], typeset.Shape{Opacity: opacity, Group: slices.Clone(parts)})
	}
}

// faintest is the opacity below which nothing is seen: about one step of 255.
const faintest = 0.004

// refuses ends a picture that is made of what cannot be drawn.
func (p *painter) refuses(values map[string]string) {
	for key, why := range map[string]string{"filter": "it has a filter", "mask": "it has a mask"} {
		if v := values[key]; v != "" && v != "none" {
			panic(refusal(why))
		}
	}
	for _, key := range []string{"marker-start", "marker-mid", "marker-end"} {
		if v := values[key]; v != "" && v != "none" {
			panic(refusal("it holds marks on lines; draw them as paths"))
		}
	}
}

func (p *painter) outlines(m matrix) *outlines { return &outlines{m: m, points: &p.points} }

// nested shows a view in a part of the picture (SVG 1.1, 7.9); of says how large that is.
func (p *painter) nested(n, of *node, s state) {
	x, y := p.across(n.attr["x"], s), p.down(n.attr["y"], s)
	w, h := p.width, p.height
	if v := of.attr["width"]; v != "" {
		w = p.across(v, s)
	} else if v := n.attr["width"]; v != "" {
		w = p.across(v, s)
	}
	if v := of.attr["height"]; v != "" {
		h = p.down(v, s)
	} else if v := n.attr["height"]; v != "" {
		h = p.down(v, s)
	}
	s.matrix = s.matrix.after(matrix{a: 1, d: 1, e: x, f: y})
	if v := numbers(n.attr["viewBox"]); len(v) == 4 && v[2] > 0 && v[3] > 0 {
		if n.attr["overflow"] != "visible" {
			o := p.outlines(s.matrix)
			box(o, 0, 0, w, h)
			s.clips = append(s.clips[:len(s.clips):len(s.clips)], typeset.Clip{Outlines: o.take()})
		}
		s.matrix = s.matrix.after(fitted(v, w, h, n.attr["preserveAspectRatio"]))
		defer func(w, h float64) { p.width, p.height = w, h }(p.width, p.height)
		p.width, p.height = v[2], v[3]
	}
	p.kids(n, s)
}

// fitted brings a view into a box (SVG 1.1, 7.8).
func fitted(v []float64, w, h float64, how string) matrix {
	sx, sy := w/v[2], h/v[3]
	align, _, _ := strings.Cut(strings.TrimSpace(how), " ")
	if align != "none" {
		if sx = min(sx, sy); strings.Contains(how, "slice") {
			sx = max(w/v[2], h/v[3])
		}
		sy = sx
	}
	place := func(begin, end string, room float64) float64 {
		switch {
		case align == "none" || strings.Contains(align, begin):
			return 0
		case strings.Contains(align, end):
			return room
		}
		return room / 2
	}
	return matrix{sx, 0, 0, sy, place("xMin", "xMax", w-v[2]*sx) - v[0]*sx, place("YMin", "YMax", h-v[3]*sy) - v[1]*sy}
}

// use paints a part of the picture again (SVG 1.1, 5.6).
func (p *painter) use(n *node, s state) {
	part := p.byID[strings.TrimPrefix(n.attr["href"], "#")]
	if part == nil {
		return
	}
	s.matrix = s.matrix.after(matrix{a: 1, d: 1, e: p.across(n.attr["x"], s), f: p.down(n.attr["y"], s)})
	if part.name == "symbol" || part.name == "svg" {
		s.values = part.values(s.values)
		p.nested(part, n, s)
		return
	}
	p.element(part, s)
}

// clipped are the shapes inside of which an element is seen (SVG 1.1, 14.3). A clip that is not there hides nothing.
func (p *painter) clipped(n *node, s state) []typeset.Clip {
	m := reference.FindStringSubmatch(s.values["clip-path"])
	if m == nil || s.clip != nil {
		return s.clips
	}
	c := p.byID[m[1]]
	if c == nil || c.name != "clipPath" {
		return s.clips
	}
	inside := state{matrix: s.matrix, values: c.values(usualValues), opacity: 1, depth: s.depth}
	if t := inside.values["transform"]; t != "" {
		inside.matrix = inside.matrix.after(transforms(t))
	}
	if c.attr["clipPathUnits"] == "objectBoundingBox" {
		o := p.outlines(identity)
		if _, known := p.shape(n, o, s.values); !known {
			return s.clips
		}
		b := extent(o.take())
		inside.matrix = inside.matrix.after(matrix{b[2] - b[0], 0, 0, b[3] - b[1], b[0], b[1]})
	}
	var lines [][]float64
	var evenOdd bool
	inside.clip, inside.rule = &lines, &evenOdd
	p.kids(c, inside)
	clips := append(s.clips[:len(s.clips):len(s.clips)], typeset.Clip{Outlines: lines, EvenOdd: evenOdd})
	if strings.Contains(inside.values["clip-path"], "url(") && s.depth < deepest {
		s.depth++
		inside.clip = nil
		inside.depth, inside.clips = s.depth, clips
		return p.clipped(c, inside)
	}
	return clips
}

// across, down and along read lengths that may be parts of hundred of the view.
func (p *painter) across(v string, s state) float64 { return length(v, p.width, size(s.values)) }
func (p *painter) down(v string, s state) float64   { return length(v, p.height, size(s.values)) }
func (p *painter) along(v string, s state) float64 {
	return length(v, math.Hypot(p.width, p.height)/math.Sqrt2, size(s.values))
}

// shape draws the outline of a basic shape or a path (SVG 1.1, 9). Open ones have no corner where they end.
func (p *painter) shape(n *node, o *outlines, values map[string]string) (closed, known bool) {
	s := state{values: values}
	x := func(key string) float64 { return p.across(n.attr[key], s) }
	y := func(key string) float64 { return p.down(n.attr[key], s) }
	switch n.name {
	case "path":
		o.path(n.attr["d"])
	case "rect":
		rx, ry := n.attr["rx"], n.attr["ry"]
		if rx == "" || rx == "auto" {
			rx = ry
		}
		if ry == "" || ry == "auto" {
			ry = rx
		}
		w, h := x("width"), y("height")
		if w > 0 && h > 0 {
			rounded(o, x("x"), y("y"), w, h, min(max(p.across(rx, s), 0), w/2), min(max(p.down(ry, s), 0), h/2))
		}
	case "circle":
		if r := p.along(n.attr["r"], s); r > 0 {
			ellipse(o, x("cx"), y("cy"), r, r)
		}
	case "ellipse":
		if rx, ry := x("rx"), y("ry"); rx > 0 && ry > 0 {
			ellipse(o, x("cx"), y("cy"), rx, ry)
		}
	case "line":
		o.move(x("x1"), y("y1"))
		o.line(x("x2"), y("y2"))
	case "polyline", "polygon":
		v := numbers(n.attr["points"])
		for i := 0; i+1 < len(v); i += 2 {
			if i == 0 {
				o.move(v[0], v[1])
			} else {
				o.line(v[i], v[i+1])
			}
		}
		if n.name == "polygon" && len(v) > 3 {
			o.close()
		}
	default:
		return false, false
	}
	return n.name != "line", true
}

func box(o *outlines, x, y, w, h float64) {
	o.move(x, y)
	o.line(x+w, y)
	o.line(x+w, y+h)
	o.line(x, y+h)
	o.close()
}

func rounded(o *outlines, x, y, w, h, rx, ry float64) {
	if rx == 0 || ry == 0 {
		box(o, x, y, w, h)
		return
	}
	o.move(x+rx, y)
	o.line(x+w-rx, y)
	o.arc(rx, ry, 0, false, true, x+w, y+ry)
	o.line(x+w, y+h-ry)
	o.arc(rx, ry, 0, false, true, x+w-rx, y+h)
	o.line(x+rx, y+h)
	o.arc(rx, ry, 0, false, true, x, y+h-ry)
	o.line(x, y+ry)
	o.arc(rx, ry, 0, false, true, x+rx, y)
	o.close()
}

func ellipse(o *outlines, cx, cy, rx, ry float64) {
	o.move(cx+rx, cy)
	o.arc(rx, ry, 0, false, true, cx-rx, cy)
	o.arc(rx, ry, 0, false, true, cx+rx, cy)
	o.close()
}
