package fromword

import (
	"strings"

	"github.com/beevik/etree"

	"amberseal/core/print/svg"
	"amberseal/core/print/typeset"
)

// emu are the units of drawings in a point.
const emu = 12_700

func emus(e *etree.Element, key string) float64 {
	if e == nil {
		return 0
	}
	n, _ := figure(e.SelectAttrValue(key, ""))
	return n / emu
}

// widest is the longest side of a box, in points.
const widest = 5_000

func bounded(side float64) float64 { return min(max(side, 0), widest) }

// drawing reads a picture, box or shape: what is in the line stays in it, what floats is a box of the paragraph (20.4.2).
func (c *content) drawing(d *etree.Element) {
	if c.coded() {
		return
	}
	frame := d.SelectElement("wp:inline")
	floats := frame == nil
	if floats {
		if frame = d.SelectElement("wp:anchor"); frame == nil {
			return
		}
	}
	extent := frame.SelectElement("wp:extent")
	box := &typeset.Float{Block: c.b.place(), Width: emus(extent, "cx"), Height: emus(extent, "cy")}
	alt := ""
	if pr := frame.SelectElement("wp:docPr"); pr != nil {
		if alt = pr.SelectAttrValue("descr", ""); alt == "" {
			alt = pr.SelectAttrValue("title", "")
		}
	}
	box.Width, box.Height = bounded(box.Width), bounded(box.Height)
	data := frame.FindElement("a:graphic/a:graphicData")
	if data == nil {
		return
	}
	for _, e := range data.ChildElements() {
		c.b.drawn(box, e, alt)
	}
	if box.Picture == nil && box.Ground == nil && len(box.Parts) == 0 && len(box.Nodes) == 0 {
		c.b.undrawn(data.SelectAttrValue("uri", ""))
		return
	}
	if !floats {
		c.inLine(box, alt)
		return
	}
	c.b.anchored(box, frame)
	c.floats = append(c.floats, box)
}

// undrawn says what was left out of a drawing.
func (b *binder) undrawn(uri string) {
	switch {
	case strings.Contains(uri, "chart"):
		b.lacks("fromword.chart")
	case strings.Contains(uri, "diagram"):
		b.lacks("fromword.diagram")
	case !strings.Contains(uri, "picture"): // a picture has said so itself
		b.lacks("fromword.shape")
	}
}

// inLine puts a drawing into the line; words in it stand in a frame of its width before the paragraph.
func (c *content) inLine(box *typeset.Float, alt string) {
	switch {
	case box.Picture != nil && box.Width > 0 && box.Height > 0:
		box.Picture.Width, box.Picture.Height = box.Width, box.Height
		c.picture(box.Picture)
	case len(box.Nodes) == 0 && len(box.Parts) == 0:
		if alt == "" {
			alt = "Drawing"
		}
		c.picture(&typeset.Picture{Drawing: box.Ground, Width: box.Ground.Width, Height: box.Ground.Height, Alt: alt})
	default:
		box.Around = typeset.AboveBelow
		c.floats = append(c.floats, box)
	}
}

// anchored reads where a box floats and how words go around it.
func (b *binder) anchored(box *typeset.Float, frame *etree.Element) {
	box.X = b.spot(frame.SelectElement("wp:positionH"))
	box.Y = b.spot(frame.SelectElement("wp:positionV"))
	if v := frame.SelectAttrValue("simplePos", ""); v == "1" || v == "true" {
		at := frame.SelectElement("wp:simplePos")
		box.X = typeset.Spot{From: typeset.Paper, At: emus(at, "x")}
		box.Y = typeset.Spot{From: typeset.Paper, At: emus(at, "y")}
	}
	switch v := frame.SelectAttrValue("behindDoc", ""); v {
	case "1", "true":
		box.Behind = true
	}
	for i, key := range []string{"distT", "distR", "distB", "distL"} {
		box.Gaps[i] = emus(frame, key)
	}
	for _, e := range frame.ChildElements() {
		switch e.Tag {
		case "wrapSquare", "wrapTight", "wrapThrough":
			box.Around = map[string]typeset.Around{
				"left": typeset.LeftSide, "right": typeset.RightSide, "largest": typeset.WiderSide,
			}[e.SelectAttrValue("wrapText", "")]
			if box.Around == typeset.Over {
				box.Around = typeset.BothSides
			}
		case "wrapTopAndBottom":
			box.Around = typeset.AboveBelow
		}
	}
	b.local(box)
}

// local counts what stands in a cell or box from there.
func (b *binder) local(box *typeset.Float) {
	if len(b.nested) > 0 {
		box.X.From, box.Y.From = typeset.Beside, typeset.Beside
		if box.Y.Aligned {
			box.Y = typeset.Spot{}
		}
	}
}

// origins are what places are counted from (20.4.3.4 and 20.4.3.5). Pages are not parted into left and right ones.
var origins = map[string]typeset.Origin{
	"column": typeset.Beside, "character": typeset.Beside, "paragraph": typeset.Beside, "line": typeset.Beside,
	"text": typeset.Beside,
	"char": typeset.Beside, "margin": typeset.Margins, "page": typeset.Paper,
	"leftMargin": typeset.BeforeMargin, "insideMargin": typeset.BeforeMargin, "topMargin": typeset.BeforeMargin,
	"rightMargin": typeset.BehindMargin, "outsideMargin": typeset.BehindMargin, "bottomMargin": typeset.BehindMargin,
}

// sides are the words for where a box stands in its origin.
var sides = map[string]typeset.Align{
	"left": typeset.Start, "inside": typeset.Start, "top": typeset.Start, "center": typeset.Center,
	"right": typeset.End, "outside": typeset.End, "bottom": typeset.End,
}

func (b *binder) spot(e *etree.Element) (s typeset.Spot) {
	if e == nil {
		return s
	}
	s.From = origins[e.SelectAttrValue("relativeFrom", "")]
	if a := e.SelectElement("wp:align"); a != nil {
		s.Align, s.Aligned = sides[a.Text()]
		return s
	}
	if o := e.SelectElement("wp:posOffset"); o != nil {
		n, _ := figure(o.Text())
		s.At = n / emu
	}
	return s
}

// drawn puts a picture, a shape or a group of them into a box.
func (b *binder) drawn(box *typeset.Float, e *etree.Element, alt string) {
	switch e.Tag {
	case "pic":
		b.pictured(box, e, alt)
	case "wsp", "sp", "cxnSp":
		b.shape(box, e)
	case "wgp", "grpSp", "wpc":
		b.group(box, e, alt)
	}
}

// pictured reads a picture of a drawing.
func (b *binder) pictured(box *typeset.Float, e *etree.Element, alt string) {
	blip := e.FindElement(".//a:blip")
	if blip == nil {
		return
	}
	p := &typeset.Picture{Alt: alt}
	id := blip.SelectAttrValue("r:embed", "")
	if v := blip.FindElement(".//asvg:svgBlip"); v != nil {
		p.Drawing = b.vector(v.SelectAttrValue("r:embed", ""))
	}
	if p.Drawing == nil {
		if p.Image = b.image(id); p.Image == nil {
			p.Drawing = b.vector(id)
		}
	}
	if p.Image == nil && p.Drawing == nil {
		b.lacks("fromword.picture")
		return
	}
	if p.Alt == "" {
		p.Alt = "Picture"
	}
	box.Picture = p
}

// deepest is how many groups may lie in each other.
const deepest = 8

// group reads what is in a group, in its own units (20.1.7.5).
func (b *binder) group(box *typeset.Float, e *etree.Element, alt string) {
	if b.groups >= deepest {
		return
	}
	b.groups++
	defer func() { b.groups-- }()
	from, units := [2]float64{}, [2]float64{box.Width, box.Height}
	if x := e.FindElement("*/a:xfrm"); x != nil {
		from = [2]float64{emus(x.SelectElement("a:chOff"), "x"), emus(x.SelectElement("a:chOff"), "y")}
		if ext := x.SelectElement("a:chExt"); ext != nil {
			units = [2]float64{emus(ext, "cx"), emus(ext, "cy")}
		}
	}
	scale := [2]float64{1, 1}
	for i, size := range []float64{box.Width, box.Height} {
		if units[i] > 0 {
			scale[i] = size / units[i]
		}
	}
	for _, kid := range e.ChildElements() {
		x := kid.FindElement("*/a:xfrm")
		if x == nil {
			continue
		}
		off, ext := x.SelectElement("a:off"), x.SelectElement("a:ext")
		part := &typeset.Float{Width: bounded(emus(ext, "cx") * scale[0]), Height: bounded(emus(ext, "cy") * scale[1])}
		part.X.At, part.Y.At = (emus(off, "x")-from[0])*scale[0], (emus(off, "y")-from[1])*scale[1]
		b.drawn(part, kid, alt)
		if part.Picture != nil || part.Ground != nil || len(part.Parts) > 0 || len(part.Nodes) > 0 {
			box.Parts = append(box.Parts, part)
		}
	}
}

// words reads the text of a box.
func (b *binder) words(box *typeset.Float, content *etree.Element) {
	b.boxes++
	b.nested = append(b.nested, max(box.Width-box.Inset[1]-box.Inset[3], 12))
	before := b.nodes
	at := b.at
	b.nodes = nil
	b.blocks(content)
	box.Nodes = flowing(b.nodes)
	b.nodes, b.at = before, at
	b.nested = b.nested[:len(b.nested)-1]
	b.boxes--
}

// image is a picture of the part at hand; nil where it cannot be read.
func (b *binder) image(id string) *typeset.Image {
	data, _ := b.file.Media(b.part, id)
	if data == nil {
		return nil
	}
	img, err := typeset.ReadImage(data)
	if err != nil {
		return nil
	}
	return img
}

func (b *binder) vector(id string) *typeset.Drawing {
	data, _ := b.file.Media(b.part, id)
	if data == nil {
		return nil
	}
	d, err := svg.Read(data, nil)
	if err != nil {
		return nil
	}
	return d
}
