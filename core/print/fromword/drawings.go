package fromword

import (
	"strconv"

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
	n, _ := strconv.ParseFloat(e.SelectAttrValue(key, ""), 64)
	return n / emu
}

// drawing reads a picture or box: what is in the line stays in it; what floats stands before the paragraph, at its side.
func (c *content) drawing(d *etree.Element) {
	frame := d.SelectElement("wp:inline")
	floats := frame == nil
	if floats {
		if frame = d.SelectElement("wp:anchor"); frame == nil {
			return
		}
	}
	extent := frame.SelectElement("wp:extent")
	w, h := emus(extent, "cx"), emus(extent, "cy")
	alt := ""
	if pr := frame.SelectElement("wp:docPr"); pr != nil {
		if alt = pr.SelectAttrValue("descr", ""); alt == "" {
			alt = pr.SelectAttrValue("title", "")
		}
	}
	if box := frame.FindElement(".//w:txbxContent"); box != nil {
		c.box(box, w)
		return
	}
	blip := frame.FindElement(".//a:blip")
	if blip == nil {
		switch data := frame.FindElement(".//a:graphicData"); {
		case data == nil:
		case data.FindElement("chart") != nil || contains(data, "chart"):
			c.b.lacks("fromword.chart")
		case contains(data, "diagram"):
			c.b.lacks("fromword.diagram")
		default:
			c.b.lacks("fromword.shape")
		}
		return
	}
	p := &typeset.Picture{Width: w, Height: h, Alt: alt}
	if p.Image = c.b.image(blip.SelectAttrValue("r:embed", "")); p.Image == nil {
		if p.Drawing = c.b.vector(blip.SelectAttrValue("r:embed", "")); p.Drawing == nil {
			c.b.lacks("fromword.picture")
			return
		}
	}
	if w <= 0 || h <= 0 {
		return
	}
	if p.Alt == "" {
		p.Alt = "Picture"
	}
	if !floats {
		c.picture(p)
		return
	}
	if pos := frame.FindElement("wp:positionH/wp:align"); pos != nil {
		p.Align = map[string]typeset.Align{"center": typeset.Center, "right": typeset.End, "outside": typeset.End}[pos.Text()]
	}
	c.b.lacks("fromword.floats")
	c.beside = append(c.beside, p)
}

func contains(e *etree.Element, word string) bool {
	uri := e.SelectAttrValue("uri", "")
	for i := 0; i+len(word) <= len(uri); i++ {
		if uri[i:i+len(word)] == word {
			return true
		}
	}
	return false
}

// box is a text box: a frame of its width before the paragraph.
func (c *content) box(content *etree.Element, w float64) {
	room := c.b.room()
	if w <= 0 || w > room {
		w = room
	}
	nodes := c.b.inside(content)
	if len(nodes) == 0 {
		return
	}
	hair := typeset.Edge{Width: 0.5}
	c.beside = append(c.beside, &typeset.Table{
		Layout: true, Exact: true, Columns: []float64{w}, Inset: 7.2, Pad: 3.6,
		Rows: []typeset.Row{{Cells: []typeset.Cell{{Nodes: nodes, Edges: &[4]typeset.Edge{hair, hair, hair, hair}}}}},
	})
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
	d, err := svg.Read(data)
	if err != nil {
		return nil
	}
	return d
}
