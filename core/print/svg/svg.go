// Package svg reads SVG pictures, such as logos, into drawings.
//
// In goes a file (W3C, Scalable Vector Graphics 1.1: shapes, paths, strokes, groups, transforms and styles), out comes a
// typeset.Drawing of areas and lines, printed as sharp as text. Areas keep their gradients, but for those that repeat, and lines
// become the colour theirs begins with; what is see-through is mixed with white. Files may come from anywhere: scripts, links
// to other files, words and whatever refers to something else are refused, and no input makes it panic or run for long.
package svg

import (
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/color"
	"math"
	"slices"
	"strconv"
	"strings"

	"github.com/srwiley/oksvg"
	"github.com/srwiley/rasterx"
	"golang.org/x/image/math/fixed"

	"amberseal/core/print/typeset"
)

// Largest is how large a file may be, in bytes.
const Largest = 1 << 20

// Limits of what is drawn: points of polygons, and elements inside each other.
const mostPoints, mostElements, deepest = 200_000, 20_000, 64

// Is reports whether a file looks like an SVG picture.
func Is(data []byte) bool {
	head := data[:min(len(data), 2048)]
	return bytes.Contains(head, []byte("<svg"))
}

// Read makes a drawing of a file. The error says in plain words why it cannot be printed.
func Read(data []byte) (d *typeset.Drawing, err error) {
	if len(data) > Largest {
		return nil, errors.New("the SVG picture has more than 1 MB")
	}
	tree, err := read(data)
	if err == nil {
		err = tree.plain(tree.named(map[string]*node{}), viewOf(tree))
	}
	if err != nil {
		return nil, fmt.Errorf("the SVG picture cannot be printed: %w", err)
	}
	defer func() {
		if r := recover(); r != nil { // the reader met what it does not expect
			d, err = nil, errors.New("the SVG picture is damaged")
			if r == errTooMuch {
				err = errTooMuch
			}
		}
	}()
	var plain bytes.Buffer
	tree.write(&plain)
	icon, err := oksvg.ReadIconStream(&plain, oksvg.StrictErrorMode)
	if err != nil {
		return nil, fmt.Errorf("the SVG picture cannot be read: %w", err)
	}
	w, h := icon.ViewBox.W, icon.ViewBox.H
	if !(w > 0 && h > 0) || w > 1e6 || h > 1e6 || w/h > 1e3 || h/w > 1e3 {
		return nil, errors.New("the SVG picture has no usual size; give it a viewBox")
	}
	// The larger side has so many units that rounding and chords cannot be seen.
	scale := 2000 / math.Max(w, h)
	icon.SetTarget(0, 0, w*scale, h*scale)
	o := &outlines{}
	d = &typeset.Drawing{Width: w * scale, Height: h * scale}
	for i := range icon.SVGPaths {
		d.Shapes = append(d.Shapes, shapes(icon, &icon.SVGPaths[i], o)...)
	}
	if len(d.Shapes) == 0 {
		return nil, errors.New("the SVG picture is empty")
	}
	return d, nil
}

// viewOf is the part of the plane that a picture shows.
func viewOf(n *node) (v [4]float64) {
	for i, word := range strings.Fields(strings.ReplaceAll(n.attr["viewBox"], ",", " ")) {
		if x, err := strconv.ParseFloat(word, 64); err == nil && i < 4 {
			v[i] = x
		}
	}
	return v
}

var errTooMuch = errors.New("the SVG picture has too many points to be printed")

// shapes are a path's area and line, as far as it has them.
func shapes(icon *oksvg.SvgIcon, path *oksvg.SvgPath, o *outlines) []typeset.Shape {
	paint := paintOf(icon, *path)
	o.reset(matrixOf(icon, *path))
	path.Path.AddTo(o)
	lines := o.take()
	if len(lines) == 0 {
		return nil
	}
	var out []typeset.Shape
	m := o.m
	o.reset(matrix{a: 1, d: 1})
	path.Path.AddTo(o)
	gradient, repeats := gradientOf(path, m, extent(o.take()))
	if gradient != nil {
		paint.fill = &gradient.Stops[0].Colour
		if repeats {
			gradient = nil
		}
	}
	if paint.fill != nil {
		out = append(out, typeset.Shape{Outlines: lines, Colour: *paint.fill, Gradient: gradient, EvenOdd: !path.UseNonZeroWinding})
	}
	if width := path.LineWidth * m.stretch(); paint.line != nil && width > 0 {
		line := typeset.Shape{Outlines: lines, Colour: *paint.line, Width: width, Round: path.LineJoin == rasterx.Round}
		line.Dash, line.Phase = dashes(path, m.stretch())
		out = append(out, line)
	}
	return out
}

// dashes are those of a path's line, unless they are so short that nobody sees them (SVG 1.1 section 11.4).
func dashes(path *oksvg.SvgPath, stretch float64) (dash []float64, phase float64) {
	const shortest, most = 2, 16
	sum := 0.0
	for _, d := range path.Dash {
		if !(d >= 0 && d < 1e6) {
			return nil, 0
		}
		dash = append(dash, d*stretch)
		sum += d * stretch
	}
	if sum < shortest || len(dash) > most || math.Abs(path.DashOffset) > 1e6 {
		return nil, 0
	}
	return dash, max(path.DashOffset*stretch, 0)
}

// matrix maps a path's own units to the drawing's: x' = a·x + c·y + e, y' = b·x + d·y + f.
type matrix struct{ a, b, c, d, e, f float64 }

func (m matrix) point(p fixed.Point26_6) (x, y float64) {
	px, py := float64(p.X)/64, float64(p.Y)/64
	return m.a*px + m.c*py + m.e, m.b*px + m.d*py + m.f
}

// stretch is how much wider lines become.
func (m matrix) stretch() float64 { return math.Sqrt(math.Abs(m.a*m.d - m.b*m.c)) }

// The library keeps a path's transform and paints to itself; a triangle drawn in its style tells both.
const side = 100

var triangle = rasterx.Path{0, 0, 0, 1, side * 64, 0, 1, 0, side * 64, 4}

func matrixOf(icon *oksvg.SvgIcon, probe oksvg.SvgPath) matrix {
	probe.Path = triangle
	probe.SetFillColor(color.Black)
	w := &witness{}
	probe.DrawTransformed(rasterx.NewDasher(1, 1, w), 1, icon.Transform)
	if len(w.points) < 3 {
		panic("svg: the library draws no triangle")
	}
	x0, y0 := w.points[0][0], w.points[0][1]
	x1, y1, x2, y2 := w.points[1][0], w.points[1][1], w.points[2][0], w.points[2][1]
	return matrix{(x1 - x0) / side, (y1 - y0) / side, (x2 - x0) / side, (y2 - y0) / side, x0, y0}
}

func paintOf(icon *oksvg.SvgIcon, probe oksvg.SvgPath) *witness {
	probe.Path, probe.Dash = triangle, nil
	w := &witness{}
	probe.DrawTransformed(rasterx.NewDasher(1, 1, w), 1, icon.Transform)
	return w
}

// witness stands where the library expects a painter, and notes the first points and the paints.
type witness struct {
	points     [][2]float64
	ink        *typeset.Colour
	fill, line *typeset.Colour
}

func (w *witness) Start(a fixed.Point26_6) { w.Line(a) }
func (w *witness) Line(b fixed.Point26_6) {
	if len(w.points) < 3 {
		w.points = append(w.points, [2]float64{float64(b.X) / 64, float64(b.Y) / 64})
	}
}

// Draw paints an area or a line; only after an area the library sets the winding rule back.
func (w *witness) Draw() { w.line = w.ink }
func (w *witness) SetWinding(bool) {
	if w.line != nil {
		w.fill, w.line = w.line, nil
	}
}
func (w *witness) GetPathExtent() fixed.Rectangle26_6 { return fixed.Rectangle26_6{} }
func (w *witness) SetBounds(int, int)                 {}
func (w *witness) Clear()                             {}
func (w *witness) SetClip(image.Rectangle)            {}

// SetColor takes a colour, or the function of a gradient, of which it takes the beginning.
func (w *witness) SetColor(c any) {
	w.ink = nil
	switch c := c.(type) {
	case color.Color:
		w.ink = onWhite(c)
	case rasterx.ColorFunc:
		w.ink = onWhite(c(0, 0))
	}
}

// onWhite mixes a colour with white by how see-through it is; nothing is nil.
func onWhite(c color.Color) *typeset.Colour {
	r, g, b, a := c.RGBA()
	if a == 0 {
		return nil
	}
	over := func(v uint32) uint8 { return uint8((v + 0xFFFF - a) >> 8) }
	return &typeset.Colour{R: over(r), G: over(g), B: over(b)}
}

// outlines gathers a path as polygons; it is what the library draws paths into.
type outlines struct {
	m      matrix
	lines  [][]float64
	points int
}

func (o *outlines) reset(m matrix) { o.m, o.lines = m, nil }
func (o *outlines) take() [][]float64 {
	return slices.DeleteFunc(o.lines, func(l []float64) bool { return len(l) < 4 })
}

func (o *outlines) add(x, y float64) {
	if o.points++; o.points > mostPoints {
		panic(errTooMuch)
	}
	if !(math.Abs(x) < 1e6 && math.Abs(y) < 1e6) {
		panic("svg: a point that is nowhere")
	}
	last := len(o.lines) - 1
	o.lines[last] = append(o.lines[last], x, y)
}

// here is the last point.
func (o *outlines) here() (x, y float64) {
	l := o.lines[len(o.lines)-1]
	return l[len(l)-2], l[len(l)-1]
}

func (o *outlines) Start(a fixed.Point26_6) {
	o.lines = append(o.lines, nil)
	o.add(o.m.point(a))
}

func (o *outlines) Line(b fixed.Point26_6) { o.add(o.m.point(b)) }

// chords is how many straight lines a curve becomes that is at most so long.
func chords(length float64) int { return min(4+int(math.Sqrt(length)), 64) }

func (o *outlines) QuadBezier(b, c fixed.Point26_6) {
	x0, y0 := o.here()
	x1, y1 := o.m.point(b)
	x2, y2 := o.m.point(c)
	n := chords(math.Hypot(x1-x0, y1-y0) + math.Hypot(x2-x1, y2-y1))
	for i := 1; i <= n; i++ {
		t := float64(i) / float64(n)
		u := 1 - t
		o.add(u*u*x0+2*u*t*x1+t*t*x2, u*u*y0+2*u*t*y1+t*t*y2)
	}
}

func (o *outlines) CubeBezier(b, c, d fixed.Point26_6) {
	x0, y0 := o.here()
	x1, y1 := o.m.point(b)
	x2, y2 := o.m.point(c)
	x3, y3 := o.m.point(d)
	n := chords(math.Hypot(x1-x0, y1-y0) + math.Hypot(x2-x1, y2-y1) + math.Hypot(x3-x2, y3-y2))
	for i := 1; i <= n; i++ {
		t := float64(i) / float64(n)
		u := 1 - t
		o.add(u*u*u*x0+3*u*u*t*x1+3*u*t*t*x2+t*t*t*x3, u*u*u*y0+3*u*u*t*y1+3*u*t*t*y2+t*t*t*y3)
	}
}

// Stop closes the outline where the path says so.
func (o *outlines) Stop(closed bool) {
	if closed && len(o.lines) > 0 {
		l := o.lines[len(o.lines)-1]
		o.add(l[0], l[1])
	}
}
