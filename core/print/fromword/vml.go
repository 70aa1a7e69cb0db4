package fromword

import (
	"strings"

	"github.com/beevik/etree"

	"amberseal/core/print/typeset"
)

// old is a drawing as older programs wrote it (ISO/IEC 29500-4, VML): a picture, a box, a line, or a word across the page.
func (c *content) old(x *etree.Element) {
	if c.coded() {
		return
	}
	found := false
	for _, e := range x.ChildElements() {
		if e.Space != "v" || e.Tag == "shapetype" {
			continue
		}
		found = c.oldShape(e) || found
	}
	if x.Tag == "object" && !found {
		c.b.lacks("fromword.object")
	}
}

// oldShape reads one shape and reports whether it says anything.
func (c *content) oldShape(e *etree.Element) bool {
	style := cssOf(e.SelectAttrValue("style", ""))
	box := &typeset.Float{Block: c.b.place(), Width: bounded(style.length("width")), Height: bounded(style.length("height"))}
	if v := e.SelectAttrValue("o:hr", ""); v == "t" || v == "true" {
		return true
	}
	placed := style["position"] == "absolute"
	switch {
	case e.FindElement("v:imagedata") != nil:
		p := c.b.image(e.FindElement("v:imagedata").SelectAttrValue("r:id", ""))
		if p == nil {
			c.b.lacks("fromword.picture")
			return true
		}
		if box.Width <= 0 || box.Height <= 0 {
			box.Width, box.Height = float64(p.Width)*0.75, float64(p.Height)*0.75
		}
		alt := e.SelectAttrValue("alt", "Picture")
		box.Picture = &typeset.Picture{Image: p, Width: box.Width, Height: box.Height, Alt: alt}
		if !placed {
			c.picture(box.Picture)
			return true
		}
	case e.FindElement("v:textpath") != nil:
		c.b.crossing(box, e, style)
	case e.Tag == "group":
		c.b.lacks("fromword.shape")
	default:
		c.b.oldOutline(box, e, style)
	}
	if content := e.FindElement("v:textbox/w:txbxContent"); content != nil {
		box.Inset = [4]float64{3.6, 7.2, 3.6, 7.2}
		if box.Width <= 0 || box.Width > c.b.room() {
			box.Width = c.b.room()
		}
		c.b.words(box, content)
	}
	if box.Picture == nil && box.Ground == nil && box.Sign == nil && len(box.Nodes) == 0 {
		return false
	}
	c.b.oldAnchor(box, e, style)
	if !placed {
		box.X, box.Y, box.Around = typeset.Spot{}, typeset.Spot{}, typeset.AboveBelow
	}
	c.floats = append(c.floats, box)
	return true
}

// css is a style in the manner of the web.
type css map[string]string

func cssOf(s string) css {
	out := css{}
	for part := range strings.SplitSeq(s, ";") {
		if name, value, ok := strings.Cut(part, ":"); ok {
			out[strings.TrimSpace(name)] = strings.TrimSpace(value)
		}
	}
	return out
}

// length is a length in points; numbers without a unit are pixels of 96 an inch.
func (c css) length(name string) float64 { return webLength(c[name]) }

func webLength(s string) float64 {
	if n, ok := figure(s); ok {
		return n * 0.75
	}
	v, _ := measure(strings.Replace(s, "px", "", 1))
	return v
}

// oldAnchor reads where an older shape stands.
func (b *binder) oldAnchor(box *typeset.Float, e *etree.Element, style css) {
	at := func(direction, offset, plain string, usual typeset.Origin) typeset.Spot {
		s := typeset.Spot{From: usual, At: style.length(offset) + style.length(plain)}
		if o, ok := origins[strings.TrimSuffix(style["mso-position-"+direction+"-relative"], "-area")]; ok {
			s.From = o
		}
		if a, ok := sides[style["mso-position-"+direction]]; ok {
			s.Align, s.Aligned = a, true
		}
		return s
	}
	x, y := at("horizontal", "margin-left", "left", typeset.Beside), at("vertical", "margin-top", "top", typeset.Beside)
	x.At, y.At = x.At+box.X.At, y.At+box.Y.At
	box.X, box.Y = x, y
	box.Behind = strings.HasPrefix(style["z-index"], "-")
	box.Gaps = [4]float64{0, 9, 0, 9}
	if w := e.FindElement("w10:wrap"); w != nil {
		switch w.SelectAttrValue("type", "") {
		case "square", "tight", "through":
			box.Around = typeset.BothSides
		case "topAndBottom":
			box.Around = typeset.AboveBelow
		}
	}
	b.local(box)
}

// crossing is a word across a box, such as a watermark.
func (b *binder) crossing(box *typeset.Float, e *etree.Element, style css) {
	path := e.FindElement("v:textpath")
	words := path.SelectAttrValue("string", "")
	if words == "" {
		return
	}
	c := webColour(e.SelectAttrValue("fillcolor", ""), typeset.Colour{R: 192, G: 192, B: 192})
	if fill := e.FindElement("v:fill"); fill != nil {
		c = *lighter(c, parted(fill.SelectAttrValue("opacity", "1")))
	}
	family := strings.Trim(cssOf(path.SelectAttrValue("style", ""))["font-family"], `"'`)
	box.Sign = &typeset.Run{Text: words, Colour: c}
	if family != "" {
		box.Sign.Family = b.family(family)
	}
	turn, _ := figure(style["rotation"])
	box.Turn = -turn // with the clock
}

// parted is a part of one: .5, or 32768f of 65536.
func parted(s string) float64 {
	if f, ok := strings.CutSuffix(s, "f"); ok {
		n, _ := figure(f)
		return n / 65536
	}
	n, ok := figure(s)
	if !ok {
		return 1
	}
	return n
}

// webColour reads #rrggbb, #rgb or a name, with what some programs write behind it.
func webColour(s string, usual typeset.Colour) typeset.Colour {
	s, _, _ = strings.Cut(s, " ")
	if hex, ok := strings.CutPrefix(s, "#"); ok {
		if len(hex) == 3 {
			hex = string([]byte{hex[0], hex[0], hex[1], hex[1], hex[2], hex[2]})
		}
		s = hex
	} else {
		s = colourNames[strings.ToLower(s)]
	}
	if c := colourOf(s); c != nil {
		return *c
	}
	return usual
}

// oldOutline draws a rectangle, an ellipse or a line.
func (b *binder) oldOutline(box *typeset.Float, e *etree.Element, style css) {
	kind := map[string]string{"rect": "rect", "roundrect": "roundRect", "oval": "ellipse", "line": "line", "shape": "rect"}[e.Tag]
	if kind == "" {
		b.lacks("fromword.shape")
		return
	}
	adjust := map[string]float64{}
	if v := e.SelectAttrValue("arcsize", ""); v != "" {
		adjust["adj"] = parted(v)
	}
	outlines, _ := preset(kind, box.Width, box.Height, adjust)
	if e.Tag == "line" {
		from, to := pair(e.SelectAttrValue("from", "0,0")), pair(e.SelectAttrValue("to", "0,0"))
		left, top := min(from[0], to[0]), min(from[1], to[1])
		box.X.At, box.Y.At = left, top
		box.Width, box.Height = max(from[0], to[0])-left, max(from[1], to[1])-top
		outlines = [][]float64{{from[0] - left, from[1] - top, to[0] - left, to[1] - top}}
	}
	no := func(key string) bool { v := e.SelectAttrValue(key, ""); return v == "f" || v == "false" }
	d := &typeset.Drawing{Width: max(box.Width, 0.1), Height: max(box.Height, 0.1)}
	white := typeset.Colour{R: 255, G: 255, B: 255}
	boxed := e.FindElement("v:textbox") != nil
	if e.Tag != "line" && !no("filled") && (e.Tag != "shape" || boxed) {
		d.Shapes = append(d.Shapes, typeset.Shape{Outlines: outlines, Colour: webColour(e.SelectAttrValue("fillcolor", ""), white)})
	}
	if !no("stroked") && (e.Tag != "shape" || boxed) {
		width := webLength(e.SelectAttrValue("strokeweight", "0.75pt"))
		d.Shapes = append(d.Shapes, typeset.Shape{
			Outlines: outlines, Width: max(width, 0.25), Colour: webColour(e.SelectAttrValue("strokecolor", ""), typeset.Colour{}),
		})
	}
	if len(d.Shapes) == 0 {
		if !boxed {
			b.lacks("fromword.shape")
		}
		return
	}
	box.Ground = d
}

// pair is two lengths.
func pair(s string) (out [2]float64) {
	x, y, _ := strings.Cut(s, ",")
	return [2]float64{webLength(strings.TrimSpace(x)), webLength(strings.TrimSpace(y))}
}
