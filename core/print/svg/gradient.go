package svg

import (
	"image/color"
	"math"
	"reflect"

	"github.com/srwiley/oksvg"
	"github.com/srwiley/rasterx"

	"amberseal/core/print/typeset"
)

// gradientOf is the gradient an area is filled with (SVG 1.1 section 13.2), or nil for a colour; repeats says that it does not
// end with its last stop. box is the path's own extent. The library keeps paints to itself, so that they are read by reflection; a
// test holds what is read against what the library paints.
func gradientOf(path *oksvg.SvgPath, m matrix, box [4]float64) (g *typeset.Gradient, repeats bool) {
	v := reflect.ValueOf(path).Elem().FieldByName("fillerColor")
	if !v.IsValid() || v.IsNil() || v.Elem().Type() != reflect.TypeFor[rasterx.Gradient]() {
		return nil, false
	}
	v = v.Elem()
	stops := v.FieldByName("Stops")
	if stops.Len() < 2 {
		return nil, false
	}
	repeats = rasterx.SpreadMethod(v.FieldByName("Spread").Uint()) != rasterx.PadSpread
	var p [5]float64
	for i := range p {
		p[i] = v.FieldByName("Points").Index(i).Float()
	}
	g = &typeset.Gradient{Radial: v.FieldByName("IsRadial").Bool(), Ends: [6]float64{p[0], p[1], 0, p[2], p[3], 0}}
	if g.Radial { // the library has its middle, its focus and its radius
		g.Ends = [6]float64{p[2], p[3], 0, p[0], p[1], p[4]}
	}
	for i := range stops.Len() {
		s := stops.Index(i)
		c, ok := opaque(s.FieldByName("StopColor"))
		at := min(max(s.FieldByName("Offset").Float(), 0), 1)
		if !ok || i > 0 && at < g.Stops[i-1].At {
			return nil, false
		}
		c.A = uint8(math.Round(255 * min(max(s.FieldByName("Opacity").Float()*path.FillOpacity, 0), 1)))
		stop := typeset.Stop{At: at, Colour: typeset.Colour{R: 255, G: 255, B: 255}}
		if mixed := onWhite(c); mixed != nil {
			stop.Colour = *mixed
		}
		g.Stops = append(g.Stops, stop)
	}
	t := v.FieldByName("Matrix")
	own := matrix{
		t.FieldByName("A").Float(),
		t.FieldByName("B").Float(),
		t.FieldByName("C").Float(),
		t.FieldByName("D").Float(),
		t.FieldByName("E").Float(),
		t.FieldByName("F").Float(),
	}
	if rasterx.GradientUnits(v.FieldByName("Units").Uint()) == rasterx.ObjectBoundingBox {
		own = matrix{box[2] - box[0], 0, 0, box[3] - box[1], box[0], box[1]}.after(own)
	}
	all := m.after(own)
	g.Matrix = [6]float64{all.a, all.b, all.c, all.d, all.e, all.f}
	for _, x := range append(g.Matrix[:], g.Ends[:]...) {
		if math.IsNaN(x) || math.Abs(x) > 1e6 {
			return nil, false
		}
	}
	return g, repeats
}

// opaque reads a colour without how see-through it is.
func opaque(v reflect.Value) (color.NRGBA, bool) {
	if v.IsNil() {
		return color.NRGBA{}, false
	}
	v = v.Elem()
	if t := v.Type(); t != reflect.TypeFor[color.NRGBA]() && t != reflect.TypeFor[color.RGBA]() {
		return color.NRGBA{}, false
	}
	return color.NRGBA{R: uint8(v.FieldByName("R").Uint()), G: uint8(v.FieldByName("G").Uint()), B: uint8(v.FieldByName("B").Uint())}, true
}

// after is the map that does first, then m.
func (m matrix) after(first matrix) matrix {
	return matrix{
		m.a*first.a + m.c*first.b, m.b*first.a + m.d*first.b, m.a*first.c + m.c*first.d, m.b*first.c + m.d*first.d,
		m.a*first.e + m.c*first.f + m.e, m.b*first.e + m.d*first.f + m.f,
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
