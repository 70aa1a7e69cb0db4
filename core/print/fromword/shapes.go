package fromword

import (
	"math"

	"github.com/beevik/etree"

	"amberseal/core/print/typeset"
)

// shape reads a drawn shape, and the words in it (20.1.2.2.33, and the extension of word processors for it).
func (b *binder) shape(box *typeset.Float, e *etree.Element) {
	pr := e.SelectElement("spPr")
	if pr == nil {
		return
	}
	style := e.SelectElement("style")
	fill, gradient := b.fill(pr, box.Width, box.Height)
	if fill == nil && gradient == nil && pr.SelectElement("a:noFill") == nil {
		fill = b.styled(style, "a:fillRef")
	}
	line := b.line(pr.SelectElement("a:ln"), style)
	if blip := pr.FindElement("a:blipFill"); blip != nil {
		b.pictured(box, pr, "")
	}
	outlines, known := outlinesOf(pr, box.Width, box.Height)
	if !known {
		b.lacks("fromword.shape")
	}
	turn(outlines, pr.SelectElement("a:xfrm"), box.Width, box.Height)
	d := &typeset.Drawing{Width: max(box.Width, 0.1), Height: max(box.Height, 0.1)}
	if fill != nil || gradient != nil {
		s := typeset.Shape{Outlines: closed(outlines), Gradient: gradient}
		if fill != nil {
			s.Colour = *fill
		}
		if len(s.Outlines) > 0 {
			d.Shapes = append(d.Shapes, s)
		}
	}
	if line != nil {
		line.Outlines = outlines
		d.Shapes = append(d.Shapes, *line)
		d.Shapes = append(d.Shapes, ends(pr.SelectElement("a:ln"), outlines, line)...)
	}
	if len(d.Shapes) > 0 {
		box.Ground = d
	}
	b.boxed(box, e)
}

// boxed reads the words of a shape, the room around them and where they stand.
func (b *binder) boxed(box *typeset.Float, e *etree.Element) {
	content := e.FindElement("txbx/w:txbxContent")
	if content == nil {
		return
	}
	box.Inset = [4]float64{3.6, 7.2, 3.6, 7.2}
	if pr := e.SelectElement("bodyPr"); pr != nil {
		for i, key := range []string{"tIns", "rIns", "bIns", "lIns"} {
			if pr.SelectAttr(key) != nil {
				box.Inset[i] = emus(pr, key)
			}
		}
		box.Stand = map[string]typeset.Align{"ctr": typeset.Center, "b": typeset.End}[pr.SelectAttrValue("anchor", "")]
		if pr.SelectElement("a:spAutoFit") != nil && box.Ground == nil {
			box.Height = 0
		}
		box.WordsTurn = upright[pr.SelectAttrValue("vert", "horz")]
	}
	b.words(box, content)
}

// fill is the ground of a shape: a colour or a gradient, nil for none.
func (b *binder) fill(e *etree.Element, w, h float64) (*typeset.Colour, *typeset.Gradient) {
	if solid := e.SelectElement("a:solidFill"); solid != nil {
		return b.colour(solid), nil
	}
	grad := e.SelectElement("a:gradFill")
	if grad == nil {
		return nil, nil
	}
	g := &typeset.Gradient{Matrix: [6]float64{1, 0, 0, 1, 0, 0}}
	for _, s := range grad.FindElements("a:gsLst/a:gs") {
		at := number(s, "pos")
		if c := b.colour(s); c != nil {
			g.Stops = append(g.Stops, typeset.Stop{At: at / 100_000, Colour: *c})
		}
	}
	if len(g.Stops) < 2 {
		return nil, nil
	}
	angle := 0.0
	if lin := grad.SelectElement("a:lin"); lin != nil {
		angle = number(lin, "ang")
	}
	sin, cos := math.Sincos(angle / 60_000 * math.Pi / 180)
	half := (math.Abs(w*cos) + math.Abs(h*sin)) / 2
	g.Ends = [6]float64{w/2 - half*cos, h/2 - half*sin, 0, w/2 + half*cos, h/2 + half*sin, 0}
	return nil, g
}

// styled is the colour that the theme gives a shape which names none (20.1.4.1.10 and 17).
func (b *binder) styled(style *etree.Element, ref string) *typeset.Colour {
	if style == nil {
		return nil
	}
	e := style.SelectElement(ref)
	if e == nil || e.SelectAttrValue("idx", "0") == "0" {
		return nil
	}
	return b.colour(e)
}

// line is how the outline of a shape is drawn; nil for none.
func (b *binder) line(ln, style *etree.Element) *typeset.Shape {
	out := &typeset.Shape{Width: 0.75}
	c := b.styled(style, "a:lnRef")
	if ln != nil {
		if w := emus(ln, "w"); w > 0 {
			out.Width = w
		}
		if ln.SelectElement("a:noFill") != nil {
			return nil
		}
		if own, _ := b.fill(ln, 1, 1); own != nil {
			c = own
		}
		if dash := ln.SelectElement("a:prstDash"); dash != nil {
			for _, n := range dashes[dash.SelectAttrValue("val", "")] {
				out.Dash = append(out.Dash, n*out.Width)
			}
		}
		if ln.SelectElement("a:round") != nil {
			out.Join, out.Cap = typeset.Round, typeset.Round
		}
	}
	if c == nil {
		return nil
	}
	out.Colour = *c
	return out
}

// dashes are how long dashes and gaps are, in widths of the line (20.1.10.48, with the lengths of its figures).
var dashes = map[string][]float64{
	"dot": {1, 3}, "sysDot": {1, 1}, "dash": {4, 3}, "sysDash": {3, 1}, "lgDash": {8, 3}, "dashDot": {4, 3, 1, 3},
	"sysDashDot": {3, 1, 1, 1}, "lgDashDot": {8, 3, 1, 3}, "lgDashDotDot": {8, 3, 1, 3, 1, 3}, "sysDashDotDot": {3, 1, 1, 1, 1, 1},
}

// ends are the arrows at a line's ends.
func ends(ln *etree.Element, outlines [][]float64, line *typeset.Shape) []typeset.Shape {
	if ln == nil || len(outlines) != 1 || len(outlines[0]) < 4 {
		return nil
	}
	o := outlines[0]
	n := len(o)
	var out []typeset.Shape
	arrow := func(tag string, x, y, fromX, fromY float64) {
		e := ln.SelectElement("a:" + tag)
		if e == nil || e.SelectAttrValue("type", "none") == "none" {
			return
		}
		l := math.Hypot(x-fromX, y-fromY)
		if l == 0 {
			return
		}
		dx, dy := (x-fromX)/l, (y-fromY)/l
		size := max(3*line.Width, 3)
		out = append(out, typeset.Shape{Colour: line.Colour, Outlines: [][]float64{{
			x, y, x - dx*size - dy*size/2, y - dy*size + dx*size/2, x - dx*size + dy*size/2, y - dy*size - dx*size/2,
		}}})
	}
	arrow("headEnd", o[0], o[1], o[2], o[3])
	arrow("tailEnd", o[n-2], o[n-1], o[n-4], o[n-3])
	return out
}

// colourNames are the colours that drawings name (20.1.10.47; the most used).
var colourNames = map[string]string{
	"black": "000000", "white": "FFFFFF", "red": "FF0000", "green": "008000", "blue": "0000FF", "yellow": "FFFF00", "gray": "808080",
	"grey": "808080", "silver": "C0C0C0", "orange": "FFA500", "purple": "800080", "navy": "000080", "teal": "008080", "maroon": "800000",
	"olive": "808000", "lime": "00FF00", "aqua": "00FFFF", "fuchsia": "FF00FF",
}

// schemeNames are how drawings speak of the theme's colours (20.1.10.54), by the usual map of a document.
var schemeNames = map[string]string{"bg1": "lt1", "tx1": "dk1", "bg2": "lt2", "tx2": "dk2"}

// colour reads the colour in an element, with what is done to it.
func (b *binder) colour(e *etree.Element) *typeset.Colour {
	for _, x := range e.ChildElements() {
		v := x.SelectAttrValue("val", "")
		switch x.Tag {
		case "schemeClr":
			if long, ok := schemeNames[v]; ok {
				v = long
			}
			v = b.theme[v]
		case "sysClr":
			v = x.SelectAttrValue("lastClr", "")
		case "prstClr":
			v = colourNames[v]
		case "srgbClr":
		default:
			continue
		}
		if c := colourOf(v); c != nil {
			return changed(*c, x)
		}
	}
	return nil
}

// changed is a colour made lighter, darker or paler (20.1.2.3). What can be seen through is mixed with white.
func changed(c typeset.Colour, e *etree.Element) *typeset.Colour {
	for _, x := range e.ChildElements() {
		n, ok := figure(x.SelectAttrValue("val", ""))
		if !ok {
			continue
		}
		n /= 100_000
		switch x.Tag {
		case "lumMod":
			c = lit(c, func(l float64) float64 { return l * n })
		case "lumOff":
			c = lit(c, func(l float64) float64 { return l + n })
		case "shade":
			c = *darker(c, n)
		case "tint", "alpha":
			c = *lighter(c, n)
		}
	}
	return &c
}

// lit changes how light a colour is, of hue, saturation and lightness.
func lit(c typeset.Colour, to func(float64) float64) typeset.Colour {
	r, g, b := float64(c.R)/255, float64(c.G)/255, float64(c.B)/255
	most, least := max(r, g, b), min(r, g, b)
	l := (most + least) / 2
	spread := most - least
	sat := 0.0
	if spread > 0 {
		sat = spread / (1 - math.Abs(2*l-1))
	}
	l = min(max(to(l), 0), 1)
	reach := (1 - math.Abs(2*l-1)) * sat
	scale := func(v float64) uint8 {
		at := 0.5
		if spread > 0 {
			at = (v - least) / spread
		}
		return uint8(math.Round(min(max(l-reach/2+at*reach, 0), 1) * 255))
	}
	return typeset.Colour{R: scale(r), G: scale(g), B: scale(b)}
}
