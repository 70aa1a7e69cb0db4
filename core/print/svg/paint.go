package svg

import (
	"math"
	"slices"
	"strings"

	"amberseal/core/print/typeset"
)

// paint fills and strokes what was outlined, as far as its values say so, or adds it to a clip.
func (p *painter) paint(o *outlines, n *node, s state, filled bool) {
	lines := o.take()
	if len(lines) == 0 || s.values["visibility"] == "hidden" || s.values["visibility"] == "collapse" {
		return
	}
	if s.clip != nil {
		*s.clip = append(*s.clip, lines...)
		*s.rule = *s.rule || s.values["clip-rule"] == "evenodd"
		return
	}
	box := func() [4]float64 { // in the shape's own units
		own := p.outlines(identity)
		if n == nil {
			return extent(lines)
		}
		p.shape(n, own, s.values)
		return extent(own.take())
	}
	if filled {
		fill := typeset.Shape{Outlines: areas(lines), EvenOdd: s.values["fill-rule"] == "evenodd", Clips: s.clips}
		if len(fill.Outlines) > 0 && p.inked(&fill, s, "fill", box) {
			p.shapes = append(p.shapes, fill)
		}
	}
	stretch := s.matrix.stretch()
	line := typeset.Shape{Outlines: lines, Width: p.along(s.values["stroke-width"], s) * stretch, Clips: s.clips}
	if line.Width > 0 && p.inked(&line, s, "stroke", box) {
		if line.Gradient != nil { // a line has one colour
			line.Colour, line.Gradient = line.Gradient.Stops[0].Colour, nil
		}
		line.Join = map[string]typeset.LineEnd{"round": typeset.Round, "bevel": typeset.Flat}[s.values["stroke-linejoin"]]
		line.Cap = map[string]typeset.LineEnd{"round": typeset.Round, "square": typeset.Flat}[s.values["stroke-linecap"]]
		line.Dash, line.Phase = p.dashes(s, stretch)
		p.shapes = append(p.shapes, line)
	}
}

// areas are the outlines that have one: a printer would draw the others as lines (ISO 32000-1, 8.5.3.3).
func areas(lines [][]float64) [][]float64 {
	flat := func(l []float64) bool {
		b := extent([][]float64{l})
		return b[2]-b[0] < 0.01 || b[3]-b[1] < 0.01
	}
	if !slices.ContainsFunc(lines, flat) {
		return lines
	}
	return slices.DeleteFunc(slices.Clone(lines), flat)
}

// framed hides what reaches out of a picture's view.
func framed(shapes []typeset.Shape, w, h float64) {
	frame := typeset.Clip{Outlines: [][]float64{{0, 0, w, 0, w, h, 0, h}}}
	for i := range shapes {
		s := &shapes[i]
		framed(s.Group, w, h)
		if s.Group != nil {
			continue
		}
		b := extent(s.Outlines)
		if out := s.Width / 2; b[0]-out < -1 || b[1]-out < -1 || b[2]+out > w+1 || b[3]+out > h+1 {
			s.Clips = append(s.Clips[:len(s.Clips):len(s.Clips)], frame)
		}
	}
}

// inked gives a shape its colour or gradient and its opacity, and reports whether there is anything to see.
func (p *painter) inked(shape *typeset.Shape, s state, key string, box func() [4]float64) bool {
	value := s.values[key]
	opacity := s.opacity * share(s.values[key+"-opacity"], 1)
	if m := reference.FindStringSubmatch(value); m != nil {
		switch server := p.byID[m[1]]; {
		case server != nil && strings.HasSuffix(server.name, "Gradient"):
			return p.gradient(shape, server, s, opacity, box)
		case server != nil && server.name == "pattern":
			panic(refusal("it holds a pattern"))
		}
		value = m[2] // what is painted where there is nothing of that name
	}
	c, ok := ink(value, s.values["color"])
	opacity *= float64(c.A) / 255
	shape.Colour, shape.Opacity = typeset.Colour{R: c.R, G: c.G, B: c.B}, opacity
	return ok && opacity > faintest
}

// dashes are those of a line, unless they are so short that nobody sees them (SVG 1.1, 11.4).
func (p *painter) dashes(s state, stretch float64) (dash []float64, phase float64) {
	const shortest, most = 2, 16
	sum := 0.0
	for _, word := range strings.FieldsFunc(s.values["stroke-dasharray"], func(r rune) bool { return r == ',' || r == ' ' }) {
		d := p.along(word, s) * stretch
		if !(d >= 0 && d < 1e6) || word == "none" {
			return nil, 0
		}
		dash, sum = append(dash, d), sum+d
	}
	if sum < shortest || len(dash) > most {
		return nil, 0
	}
	phase = p.along(s.values["stroke-dashoffset"], s) * stretch
	if len(dash)%2 == 1 {
		sum *= 2
	}
	if phase = math.Mod(phase, sum); phase < 0 {
		phase += sum
	}
	return dash, phase
}

// mostInherited is how many gradients may take from each other what they do not say.
const mostInherited = 8

// attribute is one of a gradient's, or of those that it names (SVG 1.1, 13.2).
func (p *painter) attribute(n *node, key string) (string, bool) {
	for range mostInherited {
		if v, ok := n.attr[key]; ok {
			return v, true
		}
		if n = p.byID[strings.TrimPrefix(n.attr["href"], "#")]; n == nil || !strings.HasSuffix(n.name, "Gradient") {
			break
		}
	}
	return "", false
}

// stops are those of a gradient, or of the nearest it names that has some.
func (p *painter) stops(n *node, s state, opacity float64) []typeset.Stop {
	for range mostInherited {
		var out []typeset.Stop
		for _, k := range n.kids {
			if k.name != "stop" {
				continue
			}
			v := k.values(map[string]string{"color": s.values["color"]})
			said := v["stop-color"]
			if said == "" {
				said = "#000000"
			}
			c, _ := ink(said, v["color"])
			at := share(k.attr["offset"], 0)
			if len(out) > 0 {
				at = max(at, out[len(out)-1].At)
			}
			out = append(out, typeset.Stop{At: at, Colour: typeset.Colour{R: c.R, G: c.G, B: c.B}.OnWhite(
				share(v["stop-opacity"], 1) * float64(c.A) / 255 * opacity)})
		}
		if len(out) > 0 {
			return out
		}
		if n = p.byID[strings.TrimPrefix(n.attr["href"], "#")]; n == nil {
			break
		}
	}
	return nil
}

// gradient fills a shape with one (SVG 1.1, 13.2); what is see-through in it is mixed with white.
func (p *painter) gradient(shape *typeset.Shape, n *node, s state, opacity float64, box func() [4]float64) bool {
	stops := p.stops(n, s, opacity)
	if len(stops) == 0 {
		return false
	}
	shape.Colour, shape.Opacity = stops[0].Colour, 1
	if spread, _ := p.attribute(n, "spreadMethod"); len(stops) < 2 || spread != "" && spread != "pad" {
		return true
	}
	units, _ := p.attribute(n, "gradientUnits")
	own, w, h := s.matrix, p.width, p.height
	if units != "userSpaceOnUse" {
		b := box()
		if !(b[2] > b[0] && b[3] > b[1]) {
			return true
		}
		own, w, h = own.after(matrix{b[2] - b[0], 0, 0, b[3] - b[1], b[0], b[1]}), 1, 1
	}
	if t, ok := p.attribute(n, "gradientTransform"); ok {
		own = own.after(transforms(t))
	}
	at := func(key, usual string, hundred float64) float64 {
		v, ok := p.attribute(n, key)
		if !ok {
			v = usual
		}
		return length(v, hundred, usualSize)
	}
	g := &typeset.Gradient{Radial: n.name == "radialGradient", Stops: stops, Matrix: [6]float64{own.a, own.b, own.c, own.d, own.e, own.f}}
	if g.Radial {
		cx, cy := at("cx", "50%", w), at("cy", "50%", h)
		r := at("r", "50%", math.Hypot(w, h)/math.Sqrt2)
		fx, fy := cx, cy
		if _, ok := p.attribute(n, "fx"); ok {
			fx = at("fx", "", w)
		}
		if _, ok := p.attribute(n, "fy"); ok {
			fy = at("fy", "", h)
		}
		g.Ends = [6]float64{fx, fy, 0, cx, cy, r}
	} else {
		g.Ends = [6]float64{at("x1", "0", w), at("y1", "0", h), 0, at("x2", "100%", w), at("y2", "0", h), 0}
	}
	for _, x := range append(g.Matrix[:], g.Ends[:]...) {
		if math.IsNaN(x) || math.Abs(x) > 1e6 {
			return true
		}
	}
	shape.Gradient = g
	return true
}
