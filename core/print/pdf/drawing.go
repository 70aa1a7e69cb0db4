package pdf

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"amberseal/core/print/typeset"
)

// pen is the width of a drawing's strokes in points.
const pen = 1.1

// drawing writes strokes with round ends; a stroke of one point is a dot.
func (w *writer) drawing(b []byte, x *typeset.DrawingAt, height float64) []byte {
	b = append(b, "q "...)
	for _, f := range x.Drawing.Shapes {
		b = w.shape(b, f, x, height)
	}
	c := x.Drawing.Colour
	b = fmt.Appendf(b, "%s w 1 J 1 j %s %s %s RG\n", num(pen), num(float64(c.R)/255), num(float64(c.G)/255), num(float64(c.B)/255))
	if len(x.Drawing.Boxes) > 0 {
		b = fmt.Appendf(b, "%s %s %s rg\n", num(float64(c.R)/255), num(float64(c.G)/255), num(float64(c.B)/255))
		for _, r := range x.Drawing.Boxes {
			for _, v := range [4]float64{x.X + r[0]*x.Scale, height - x.Y - (r[1]+r[3])*x.Scale, r[2] * x.Scale, r[3] * x.Scale} {
				b = append(appendNum(b, v), ' ')
			}
			b = append(b, "re "...)
		}
		b = append(b, "f\n"...)
	}
	for _, s := range x.Drawing.Strokes {
		b = stroke(b, s, x, height)
	}
	return append(b, "Q\n"...)
}

// shape writes a shape inside of its clips, with its opacity. Where a file may have none, or others keep that dictionary, what is
// see-through is mixed with white.
func (w *writer) shape(b []byte, f typeset.Shape, x *typeset.DrawingAt, height float64) []byte {
	seen := f.Opacity > 0 && f.Opacity < 1
	if seen && w.flat {
		f, seen = f.OnWhite(), false
	}
	alone := seen || len(f.Clips) > 0
	if alone {
		b = append(b, "q\n"...)
	}
	for _, c := range f.Clips {
		var drawn bool
		if b, drawn = outline(b, typeset.Shape{Outlines: c.Outlines}, x, height); !drawn {
			b = append(b, "0 0 0 0 re "...)
		}
		if c.EvenOdd {
			b = append(b, "W* n\n"...)
		} else {
			b = append(b, "W n\n"...)
		}
	}
	if seen {
		b = append(append(append(b, '/'), w.alpha(f.Opacity)...), " gs\n"...)
	}
	switch {
	case f.Group != nil && seen:
		b = w.group(b, f.Group, x, height)
	case f.Group != nil:
		for _, part := range f.Group {
			b = w.shape(b, part, x, height)
		}
	case f.Gradient != nil && f.Width == 0:
		b = w.shade(b, f, x, height)
	default:
		b = area(b, f, x, height)
	}
	if alone {
		b = append(b, "Q\n"...)
	}
	return b
}

// group paints shapes together, as a form object (section 8.10) that is a transparency group (section 11.6.6), so that what one of
// them covers does not show through.
func (w *writer) group(b []byte, shapes []typeset.Shape, x *typeset.DrawingAt, height float64) []byte {
	var content []byte
	for _, s := range shapes {
		content = w.shape(content, s, x, height)
	}
	w.groups = append(w.groups, w.stream(fmt.Sprintf(
		"/Type /XObject /Subtype /Form /BBox [%s %s %s %s] /Group <</S /Transparency /CS /DeviceRGB /I true>> /Resources %s", num(x.X-1),
		num(height-x.Y-x.Drawing.Height*x.Scale-1), num(x.X+x.Drawing.Width*x.Scale+1), num(height-x.Y+1), w.shared), content))
	return fmt.Appendf(b, "/%sT%d Do\n", w.prefix, len(w.groups))
}

// alpha is the name of a graphics state of an opacity (section 8.4.5), in steps of a hundredth.
func (w *writer) alpha(opacity float64) string {
	n := max(int(math.Round(opacity*100)), 1)
	if !slices.Contains(w.alphas, n) {
		w.alphas = append(w.alphas, n)
	}
	return fmt.Sprintf("%sA%d", w.prefix, n)
}

// stroke writes a pen's stroke as a curve through all of its points (Catmull–Rom, as the cubic curves of section 8.5.2.2).
func stroke(b []byte, s []float64, x *typeset.DrawingAt, height float64) []byte {
	n := len(s) / 2
	if n == 0 {
		return b
	}
	at := func(i int) (float64, float64) {
		i = min(max(i, 0), n-1)
		return s[2*i], s[2*i+1]
	}
	put := func(px, py float64) {
		b = append(appendNum(b, x.X+px*x.Scale), ' ')
		b = append(appendNum(b, height-x.Y-py*x.Scale), ' ')
	}
	put(at(0))
	b = append(b, "m "...)
	if n < 3 {
		put(at(n - 1))
		return append(b, "l S\n"...)
	}
	for i := range n - 1 {
		x0, y0 := at(i - 1)
		x1, y1 := at(i)
		x2, y2 := at(i + 1)
		x3, y3 := at(i + 2)
		put(x1+(x2-x0)/6, y1+(y2-y0)/6)
		put(x2-(x3-x1)/6, y2-(y3-y1)/6)
		put(x2, y2)
		b = append(b, "c "...)
	}
	return append(b, "S\n"...)
}

// area writes closed polygons (section 8.5.3.3), or the line along them (section 8.5.3.2).
func area(b []byte, f typeset.Shape, x *typeset.DrawingAt, height float64) []byte {
	paint := "rg"
	if f.Width > 0 {
		paint = "RG"
	}
	b = fmt.Appendf(b, "%s %s %s %s\n", num(float64(f.Colour.R)/255), num(float64(f.Colour.G)/255), num(float64(f.Colour.B)/255), paint)
	if f.Width > 0 {
		b = fmt.Appendf(b, "%s w %d J %d j\n", num(f.Width*x.Scale), f.Cap, f.Join)
		if len(f.Dash) > 0 { // section 8.4.3.6
			b = append(b, '[')
			for _, d := range f.Dash {
				b = append(appendNum(b, d*x.Scale), ' ')
			}
			b = fmt.Appendf(b, "] %s d\n", num(f.Phase*x.Scale))
		}
	}
	b, drawn := outline(b, f, x, height)
	switch {
	case !drawn:
	case f.Width > 0:
		b = append(b, "S\n"...)
	case f.EvenOdd:
		b = append(b, "f*\n"...)
	default:
		b = append(b, "f\n"...)
	}
	if len(f.Dash) > 0 {
		b = append(b, "[] 0 d\n"...)
	}
	return b
}

// outline writes the path of a shape and reports whether there is one.
func outline(b []byte, f typeset.Shape, x *typeset.DrawingAt, height float64) (_ []byte, drawn bool) {
	for _, outline := range f.Outlines {
		for i := 0; i+1 < len(outline); i += 2 {
			b = append(appendNum(b, x.X+outline[i]*x.Scale), ' ')
			b = append(appendNum(b, height-x.Y-outline[i+1]*x.Scale), ' ')
			if i == 0 {
				b = append(b, "m "...)
			} else {
				b = append(b, "l "...)
			}
			drawn = true
		}
		if n := len(outline); n > 1 && (f.Width == 0 || outline[0] == outline[n-2] && outline[1] == outline[n-1]) {
			b = append(b, "h\n"...)
		}
	}
	return b, drawn
}

// shade fills a shape with its gradient: inside its outline the gradient is painted in units of its own (ISO 32000-1 section
// 8.7.4.2). One whose units have no size is its first colour.
func (w *writer) shade(b []byte, f typeset.Shape, x *typeset.DrawingAt, height float64) []byte {
	g, s := f.Gradient, x.Scale
	m := g.Matrix
	if math.Abs(m[0]*m[3]-m[1]*m[2]) < 1e-9 || len(g.Stops) < 2 {
		return area(b, f, x, height)
	}
	b = append(b, "q\n"...)
	b, drawn := outline(b, f, x, height)
	if !drawn {
		return append(b, "Q\n"...)
	}
	rule := "W n"
	if f.EvenOdd {
		rule = "W* n"
	}
	b = append(append(b, rule...), '\n')
	for _, v := range [6]float64{s * m[0], -s * m[1], s * m[2], -s * m[3], x.X + s*m[4], height - x.Y - s*m[5]} {
		b = fmt.Appendf(b, "%.6f ", v)
	}
	dict := shading(g)
	n, ok := w.shadeOf[dict]
	if !ok {
		w.shades = append(w.shades, w.add("%s", dict))
		n = len(w.shades)
		w.shadeOf[dict] = n
	}
	return fmt.Appendf(b, "cm /%sS%d sh Q\n", w.prefix, n)
}

// shading is a gradient's dictionary: axial or radial (sections 8.7.4.5.3 and 8.7.4.5.4).
func shading(g *typeset.Gradient) string {
	kind, e := 2, g.Ends
	ends := fmt.Sprintf("%.6f %.6f %.6f %.6f", e[0], e[1], e[3], e[4])
	if g.Radial {
		kind, ends = 3, fmt.Sprintf("%.6f %.6f %.6f %.6f %.6f %.6f", e[0], e[1], e[2], e[3], e[4], e[5])
	}
	return fmt.Sprintf("<</ShadingType %d /ColorSpace /DeviceRGB /Coords [%s] /Extend [true true] /Function %s>>", kind, ends,
		blend(g.Stops))
}

// blend is the function from 0 to 1 that gives the colours: one that goes straight from stop to stop, joined where there are more than two
// (sections 7.10.3 and 7.10.4).
func blend(stops []typeset.Stop) string {
	last := stops[len(stops)-1]
	all := append(append([]typeset.Stop{{At: 0, Colour: stops[0].Colour}}, stops...), typeset.Stop{At: 1, Colour: last.Colour})
	var parts, bounds []string
	for i := 1; i < len(all); i++ {
		from, to := all[i-1], all[i]
		if to.At-from.At < 1e-6 {
			continue // nothing, or a sudden change
		}
		if len(parts) > 0 {
			bounds = append(bounds, num(from.At))
		}
		parts = append(parts, fmt.Sprintf("<</FunctionType 2 /Domain [0 1] /N 1 /C0 [%s] /C1 [%s]>>", levels(from.Colour),
			levels(to.Colour)))
	}
	if len(parts) == 1 {
		return parts[0]
	}
	return fmt.Sprintf("<</FunctionType 3 /Domain [0 1] /Functions [%s] /Bounds [%s] /Encode [%s]>>",
		strings.Join(parts, " "), strings.Join(bounds, " "), strings.TrimSpace(strings.Repeat("0 1 ", len(parts))))
}

func levels(c typeset.Colour) string {
	return num(float64(c.R)/255) + " " + num(float64(c.G)/255) + " " + num(float64(c.B)/255)
}
