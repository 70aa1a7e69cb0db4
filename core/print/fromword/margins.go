package fromword

import (
	"github.com/beevik/etree"

	"amberseal/core/foreign/word"
	"amberseal/core/print/typeset"
)

// margins reads those of cells: above, right, below, left (17.4.42, 17.4.68).
func margins(e *etree.Element, into *[4]float64) {
	for _, x := range e.ChildElements() {
		if v, ok := measure(word.Attr(x, "w")); ok {
			for i, name := range []string{"top", "right", "bottom", "left"} {
				if side(x.Tag) == name {
					into[i] = v
				}
			}
		}
	}
}

// own are a cell's margins: the table's, but for those that it has itself.
func (g *grid) own(c *etree.Element) [4]float64 {
	out := g.inset
	if pr := c.SelectElement("w:tcPr"); pr != nil {
		if e := pr.SelectElement("w:tcMar"); e != nil {
			margins(e, &out)
		}
	}
	return out
}

// common are the margins that no cell is without: what is more is a cell's own.
func (g *grid) common() [4]float64 {
	out, any := g.inset, false
	for _, row := range g.rows {
		for _, c := range word.Cells(row) {
			m := g.own(c)
			for i := range out {
				if out[i] = min(out[i], m[i]); !any {
					out[i] = m[i]
				}
			}
			any = true
		}
	}
	return out
}

// roomier gives the words of a cell the room that it has around them beyond the table's.
func roomier(nodes []typeset.Node, more [4]float64) {
	for i, n := range nodes {
		p, ok := n.(*typeset.Paragraph)
		if !ok {
			continue
		}
		p.Indent, p.Right = p.Indent+more[3], p.Right+more[1]
		if i == 0 {
			p.Before += more[0]
		}
		if i == len(nodes)-1 {
			p.After += more[2]
		}
	}
}
