package svg

import (
	"math"
	"slices"
	"strconv"
	"strings"
)

// outlines gathers paths as polygons in the plane of a matrix. A panic with a refusal ends what has too many points.
type outlines struct {
	m      matrix
	lines  [][]float64
	points *int
	x, y   float64 // the present point, before the matrix
	sx, sy float64 // where its outline begins
	open   bool
}

// take gives what was gathered, without outlines of a single point.
func (o *outlines) take() [][]float64 {
	out := slices.DeleteFunc(o.lines, func(l []float64) bool { return len(l) < 4 })
	o.lines, o.open = nil, false
	return out
}

func (o *outlines) put(x, y float64) {
	if *o.points++; *o.points > mostPoints {
		panic(refusal("it has too many points"))
	}
	px, py := o.m.point(x, y)
	if !(math.Abs(px) < 1e6 && math.Abs(py) < 1e6) {
		panic(refusal("it has points that are nowhere"))
	}
	last := len(o.lines) - 1
	o.lines[last] = append(o.lines[last], px, py)
	o.x, o.y = x, y
}

func (o *outlines) move(x, y float64) {
	o.lines = append(o.lines, nil)
	o.sx, o.sy, o.open = x, y, true
	o.put(x, y)
}

// begin goes on after an outline was closed: the next one begins where that did.
func (o *outlines) begin() {
	if !o.open {
		o.move(o.x, o.y)
	}
}

func (o *outlines) line(x, y float64) {
	o.begin()
	o.put(x, y)
}

func (o *outlines) close() {
	if o.open {
		o.put(o.sx, o.sy)
	}
	o.open = false
}

// chords is how many straight lines a curve becomes that is at most so long.
func chords(length float64) int { return min(4+int(math.Sqrt(length)), 64) }

func (o *outlines) cubic(x1, y1, x2, y2, x3, y3 float64) {
	o.begin()
	x0, y0 := o.x, o.y
	long := math.Hypot(x1-x0, y1-y0) + math.Hypot(x2-x1, y2-y1) + math.Hypot(x3-x2, y3-y2)
	n := chords(long * o.m.stretch())
	for i := 1; i <= n; i++ {
		t := float64(i) / float64(n)
		u := 1 - t
		o.put(u*u*u*x0+3*u*u*t*x1+3*u*t*t*x2+t*t*t*x3, u*u*u*y0+3*u*u*t*y1+3*u*t*t*y2+t*t*t*y3)
	}
}

func (o *outlines) quadratic(x1, y1, x2, y2 float64) {
	o.begin()
	x0, y0 := o.x, o.y
	o.cubic(x0+(x1-x0)*2/3, y0+(y1-y0)*2/3, x2+(x1-x2)*2/3, y2+(y1-y2)*2/3, x2, y2)
}

// arc goes along an ellipse (SVG 1.1, F.6).
func (o *outlines) arc(rx, ry, turn float64, large, sweep bool, x, y float64) {
	o.begin()
	x0, y0 := o.x, o.y
	rx, ry = math.Abs(rx), math.Abs(ry)
	if rx == 0 || ry == 0 || x0 == x && y0 == y {
		o.put(x, y)
		return
	}
	sin, cos := math.Sincos(turn * math.Pi / 180)
	dx, dy := (x0-x)/2, (y0-y)/2
	px, py := cos*dx+sin*dy, -sin*dx+cos*dy
	if over := px*px/(rx*rx) + py*py/(ry*ry); over > 1 {
		rx, ry = rx*math.Sqrt(over), ry*math.Sqrt(over)
	}
	root := math.Sqrt(max((rx*rx*ry*ry-rx*rx*py*py-ry*ry*px*px)/(rx*rx*py*py+ry*ry*px*px), 0))
	if large == sweep {
		root = -root
	}
	cx, cy := root*rx*py/ry, -root*ry*px/rx
	mx, my := cos*cx-sin*cy+(x0+x)/2, sin*cx+cos*cy+(y0+y)/2
	from := math.Atan2((py-cy)/ry, (px-cx)/rx)
	by := math.Atan2((-py-cy)/ry, (-px-cx)/rx) - from
	switch {
	case sweep && by < 0:
		by += 2 * math.Pi
	case !sweep && by > 0:
		by -= 2 * math.Pi
	}
	n := chords(max(rx, ry) * math.Abs(by) * o.m.stretch())
	for i := 1; i < n; i++ {
		s, c := math.Sincos(from + by*float64(i)/float64(n))
		o.put(mx+cos*rx*c-sin*ry*s, my+sin*rx*c+cos*ry*s)
	}
	o.put(x, y)
}

// arguments are how many numbers each command of a path takes.
var arguments = map[byte]int{'M': 2, 'L': 2, 'H': 1, 'V': 1, 'C': 6, 'S': 4, 'Q': 4, 'T': 2, 'A': 7, 'Z': 0}

// path draws the data of a path; what is wrong ends it, and what stands before that is drawn (SVG 1.1, 8.3 and F.2).
func (o *outlines) path(d string) {
	in := scanner{s: d}
	var command, before byte
	var cx, cy float64 // the last control point
	for {
		in.space()
		if in.at >= len(d) {
			return
		}
		if c := d[in.at]; c|0x20 >= 'a' && c|0x20 <= 'z' {
			command, in.at = c, in.at+1
		} else if command == 0 || command|0x20 == 'z' {
			return
		}
		upper := command &^ 0x20
		n, known := arguments[upper]
		if !known || before == 0 && upper != 'M' {
			return
		}
		var v [7]float64
		for i := range n {
			var ok bool
			if upper == 'A' && (i == 3 || i == 4) {
				v[i], ok = in.flag()
			} else {
				v[i], ok = in.number()
			}
			if !ok {
				return
			}
		}
		if command != upper { // from the present point
			switch upper {
			case 'H':
				v[0] += o.x
			case 'V':
				v[0] += o.y
			case 'A':
				v[5], v[6] = v[5]+o.x, v[6]+o.y
			default:
				for i := range n {
					v[i] += [2]float64{o.x, o.y}[i%2]
				}
			}
		}
		smooth := func(of string) (float64, float64) {
			if strings.IndexByte(of, before) < 0 {
				return o.x, o.y
			}
			return 2*o.x - cx, 2*o.y - cy
		}
		switch upper {
		case 'M':
			o.move(v[0], v[1])
			command -= 'M' - 'L' // what follows are lines
		case 'L':
			o.line(v[0], v[1])
		case 'H':
			o.line(v[0], o.y)
		case 'V':
			o.line(o.x, v[0])
		case 'C':
			cx, cy = v[2], v[3]
			o.cubic(v[0], v[1], v[2], v[3], v[4], v[5])
		case 'S':
			x1, y1 := smooth("CS")
			cx, cy = v[0], v[1]
			o.cubic(x1, y1, v[0], v[1], v[2], v[3])
		case 'Q':
			cx, cy = v[0], v[1]
			o.quadratic(v[0], v[1], v[2], v[3])
		case 'T':
			cx, cy = smooth("QT")
			o.quadratic(cx, cy, v[0], v[1])
		case 'A':
			o.arc(v[0], v[1], v[2], v[3] != 0, v[4] != 0, v[5], v[6])
		case 'Z':
			o.close()
		}
		before = upper
	}
}

// scanner reads the numbers of a list that may stand without anything between them.
type scanner struct {
	s  string
	at int
}

func (in *scanner) space() {
	for in.at < len(in.s) && strings.IndexByte(" \t\r\n\f,", in.s[in.at]) >= 0 {
		in.at++
	}
}

func (in *scanner) flag() (float64, bool) {
	in.space()
	if in.at < len(in.s) && (in.s[in.at] == '0' || in.s[in.at] == '1') {
		in.at++
		return float64(in.s[in.at-1] - '0'), true
	}
	return 0, false
}

func (in *scanner) number() (float64, bool) {
	in.space()
	start, i := in.at, in.at
	digits := func() {
		for i < len(in.s) && in.s[i] >= '0' && in.s[i] <= '9' {
			i++
		}
	}
	sign := func() {
		if i < len(in.s) && (in.s[i] == '-' || in.s[i] == '+') {
			i++
		}
	}
	sign()
	digits()
	if i < len(in.s) && in.s[i] == '.' {
		i++
		digits()
	}
	if end := i; i < len(in.s) && in.s[i]|0x20 == 'e' && i > start {
		i++
		sign()
		from := i
		if digits(); i == from {
			i = end // the e belongs to something else
		}
	}
	v, err := strconv.ParseFloat(in.s[start:i], 64)
	if err != nil || math.IsNaN(v) || math.IsInf(v, 0) {
		return 0, false
	}
	in.at = i
	return v, true
}

// numbers are those of a list, up to what is none.
func numbers(s string) []float64 {
	in := scanner{s: s}
	var out []float64
	for {
		v, ok := in.number()
		if !ok {
			return out
		}
		out = append(out, v)
		if in.at < len(s) && s[in.at] == '%' {
			in.at++
		}
	}
}

// transforms reads a list of them (SVG 1.1, 7.6); what is wrong ends it.
func transforms(s string) matrix {
	m := identity
	for {
		name, rest, ok := strings.Cut(s, "(")
		inside, behind, closed := strings.Cut(rest, ")")
		if !ok || !closed {
			return m
		}
		v := numbers(inside)
		for len(v) < 6 {
			v = append(v, math.NaN())
		}
		or := func(x, usual float64) float64 {
			if math.IsNaN(x) {
				return usual
			}
			return x
		}
		var next matrix
		switch strings.Trim(name, " \t\r\n,") {
		case "matrix":
			next = matrix{v[0], v[1], v[2], v[3], v[4], v[5]}
		case "translate":
			next = matrix{1, 0, 0, 1, v[0], or(v[1], 0)}
		case "scale":
			next = matrix{v[0], 0, 0, or(v[1], v[0]), 0, 0}
		case "rotate":
			sin, cos := math.Sincos(v[0] * math.Pi / 180)
			x, y := or(v[1], 0), or(v[2], 0)
			next = matrix{cos, sin, -sin, cos, x - cos*x + sin*y, y - sin*x - cos*y}
		case "skewX":
			next = matrix{1, 0, math.Tan(v[0] * math.Pi / 180), 1, 0, 0}
		case "skewY":
			next = matrix{1, math.Tan(v[0] * math.Pi / 180), 0, 1, 0, 0}
		default:
			return m
		}
		if math.IsNaN(next.a + next.b + next.c + next.d + next.e + next.f) {
			return m
		}
		m, s = m.after(next), behind
	}
}

// extent is that of polygons: left, upper, right and lower edge.
func extent(lines [][]float64) [4]float64 {
	box := [4]float64{math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)}
	for _, l := range lines {
		for i := 0; i+1 < len(l); i += 2 {
			box[0], box[1], box[2], box[3] = min(box[0], l[i]), min(box[1], l[i+1]), max(box[2], l[i]), max(box[3], l[i+1])
		}
	}
	return box
}
