package ground

import (
	"math"
	"strconv"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

	"amberseal/core/print/pdf"
)

// rules finds the lines and boxes that a page draws along its edges (ISO 32000-1, 8.5).
func (t *taking) rules(p page) []Box {
	d := &drawn{page: p}
	t.follow(d, t.content(p.dict["Contents"]), t.Dict(p.dict["Resources"]), [6]float64{1, 0, 0, 1, 0, 0}, 0)
	return d.out
}

// drawn collects what a page draws.
type drawn struct {
	page page
	out  []Box
	seen map[Box]bool
}

// put notes a rule or box in the page’s own units.
func (d *drawn) put(m [6]float64, x0, y0, x1, y1 float64) {
	ax, ay := m[0]*x0+m[2]*y0+m[4], m[1]*x0+m[3]*y0+m[5]
	bx, by := m[0]*x1+m[2]*y1+m[4], m[1]*x1+m[3]*y1+m[5]
	box := d.page.seen([4]float64{ax, ay, bx, by})
	const thin, least, tenth = 1.5, 8, 10
	if box.W < least && box.H < least || len(d.out) >= maxRules || math.IsNaN(box.X+box.Y+box.W+box.H) {
		return
	}
	if box.W < least && box.H > thin*4 && box.W > thin || box.H < least && box.W > thin*4 && box.H > thin {
		return // neither a rule nor a box to write in
	}
	w, h := d.page.Size()
	if box.X < -1 || box.Y < -1 || box.X+box.W > w+1 || box.Y+box.H > h+1 || box.W > w*0.98 && box.H > h*0.98 {
		return
	}
	for _, v := range []*float64{&box.X, &box.Y, &box.W, &box.H} {
		*v = math.Round(*v*tenth) / tenth
	}
	if d.seen == nil {
		d.seen = map[Box]bool{}
	}
	if !d.seen[box] {
		d.seen[box] = true
		d.out = append(d.out, box)
	}
}

// times is one matrix after another.
func times(a, b [6]float64) [6]float64 {
	return [6]float64{
		a[0]*b[0] + a[1]*b[2], a[0]*b[1] + a[1]*b[3], a[2]*b[0] + a[3]*b[2], a[2]*b[1] + a[3]*b[3],
		a[4]*b[0] + a[5]*b[2] + b[4], a[4]*b[1] + a[5]*b[3] + b[5],
	}
}

// deepest is how deep form XObjects are followed.
const deepest = 4

// follow reads content for its paths.
func (t *taking) follow(d *drawn, content string, resources types.Dict, m [6]float64, depth int) {
	var (
		stack  [][6]float64
		args   []float64
		name   string
		path   [][4]float64
		x, y   float64
		begins [2]float64
	)
	arg := func(i int) float64 {
		if i += len(args); i >= 0 && i < len(args) {
			return args[i]
		}
		return 0
	}
	operators(content, func(op string, number float64, isNumber bool, isName bool) {
		switch {
		case isNumber:
			args = append(args, number)
			return
		case isName:
			name = op
			return
		}
		switch op {
		case "q":
			if len(stack) < 256 {
				stack = append(stack, m)
			}
		case "Q":
			if n := len(stack); n > 0 {
				m, stack = stack[n-1], stack[:n-1]
			}
		case "cm":
			m = times([6]float64{arg(-6), arg(-5), arg(-4), arg(-3), arg(-2), arg(-1)}, m)
		case "m":
			x, y = arg(-2), arg(-1)
			begins = [2]float64{x, y}
		case "l":
			path = append(path, [4]float64{x, y, arg(-2), arg(-1)})
			x, y = arg(-2), arg(-1)
		case "h":
			path = append(path, [4]float64{x, y, begins[0], begins[1]})
		case "c", "v", "y":
			x, y = arg(-2), arg(-1)
		case "re":
			path = append(path, [4]float64{arg(-4), arg(-3), arg(-4) + arg(-2), arg(-3) + arg(-1)})
		case "S", "s", "f", "F", "f*", "B", "B*", "b", "b*":
			for _, s := range path {
				d.put(m, s[0], s[1], s[2], s[3])
			}
			path = path[:0]
		case "n":
			path = path[:0]
		case "Do":
			x := t.Dict(resources["XObject"])[name]
			if form := t.Dict(x); depth < deepest && t.Name(form["Subtype"]) == "Form" {
				own := m
				if v := t.Numbers(form["Matrix"]); len(v) == 6 {
					own = times([6]float64(v), m)
				}
				inner := t.Dict(form["Resources"])
				if inner == nil {
					inner = resources
				}
				t.follow(d, t.content(x), inner, own, depth+1)
			}
		}
		args = args[:0]
	})
}

// operators reads a content stream’s numbers, names and operators; strings, dictionaries and pictures in it are passed over.
func operators(s string, visit func(word string, number float64, isNumber, isName bool)) {
	for i := 0; i < len(s); {
		switch c := s[i]; {
		case c <= ' ' || c == '[' || c == ']' || c == '{' || c == '}' || c == '>' || c == ')':
			i++
		case c == '%':
			for i < len(s) && s[i] != '\n' && s[i] != '\r' {
				i++
			}
		case c == '(':
			i = pdf.StringEnd(s, i)
		case c == '<':
			for i < len(s) && s[i] != '>' {
				i++
			}
		default:
			from := i
			for i++; i < len(s) && !delimits(s[i]); i++ {
			}
			word := s[from:i]
			if word[0] == '/' {
				visit(word[1:], 0, false, true)
				continue
			}
			if v, err := strconv.ParseFloat(word, 64); err == nil {
				visit("", v, true, false)
				continue
			}
			if word == "ID" { // a picture’s bytes follow, up to EI
				i = afterPicture(s, i)
			}
			visit(word, 0, false, false)
		}
	}
}

func delimits(c byte) bool {
	switch c {
	case '[', ']', '(', ')', '<', '>', '/', '%', '{', '}':
		return true
	}
	return c <= ' '
}

func afterPicture(s string, i int) int {
	for ; i+3 < len(s); i++ {
		if s[i] <= ' ' && s[i+1] == 'E' && s[i+2] == 'I' && delimits(s[i+3]) {
			return i + 3
		}
	}
	return len(s)
}
