package typeset

import "math"

// mostUpright is the part of a page's height up to which words that run upwards or downwards make a row higher.
const mostUpright = 0.5

// measureTurned measures a cell whose words run upwards or downwards: its row is as high as their longest line, where it says no height.
func (f *flow) measureTurned(cell *Cell, least, pad float64) cellLines {
	c := cellLines{}
	for _, n := range cell.Nodes {
		if p, ok := n.(*Paragraph); ok {
			for _, l := range f.lines(p, endless) {
				c.height = max(c.height, l.width+p.Indent+p.Right)
			}
		}
	}
	most := (f.bottom - f.top) * mostUpright
	if least > 0 {
		most = least - pad
	}
	c.height = min(c.height, most)
	return c
}

// turnedNodes draws paragraphs whose lines run upwards (a turn of 90 degrees) or downwards (of -90) in a box; stand is where they stand
// between its left and right edge, as they would between head and foot.
func (f *flow) turnedNodes(nodes []Node, parent *Element, turn float64, stand Align, x, y, w, h float64) {
	type set struct {
		p     *Paragraph
		lines []line
	}
	var all []set
	thick := 0.0
	for _, n := range nodes {
		if p, ok := n.(*Paragraph); ok {
			lines := f.lines(p, h)
			all = append(all, set{p, lines})
			thick += p.Before + height(lines) + p.After
		}
	}
	f.cut = ""
	across := max(shifted(stand, w-thick), 0)
	for _, s := range all {
		across += s.p.Before
		e := parent.add(string(s.p.Role))
		for _, l := range s.lines {
			start := 0.0
			if len(l.pieces) > 0 {
				start = l.pieces[0].x
			}
			base := across + l.ascent - l.ascent*0.35 // turned sets the middle of letters on its point
			along := start + l.width/2
			if turn > 0 {
				f.turned(l, e, x+base, y+h-along, math.Pi/2)
			} else {
				f.turned(l, e, x+w-base, y+along, -math.Pi/2)
			}
			across += l.height
		}
		across += s.p.After
		f.placedAt(s.p.Block, x, y, w, h)
	}
}
