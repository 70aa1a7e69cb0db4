package typeset

// adorn draws what lies behind a piece of a greedy paragraph, what leads to a tab stop, and a picture that stands in the line. It
// reports whether there is nothing else to draw.
func (f *flow) adorn(g *Glyphs, r *Run, p *Paragraph, l line, base float64) bool {
	if r.Fill != nil {
		f.draw(&Box{X: g.X, Y: f.y, W: g.Width, H: l.height, Colour: *r.Fill})
	}
	if pic := r.Picture; pic != nil {
		y := base - pic.Height
		if g.Element != nil && g.Element.Role == "Figure" {
			g.Element.BBox = &[4]float64{g.X, y, g.X + pic.Width, base}
		}
		if pic.Drawing != nil {
			f.draw(&DrawingAt{g.Element, g.X, y, pic.Width / pic.Drawing.Width, pic.Drawing})
		} else {
			f.draw(&ImageAt{g.Element, g.X, y, pic.Width, pic.Height, pic.Image})
		}
		return true
	}
	f.leaders(g, p, base)
	return false
}

// leaders draws dots, dashes or a rule to a tab stop.
func (f *flow) leaders(g *Glyphs, p *Paragraph, base float64) {
	if len(p.Stops) == 0 {
		return
	}
	x := 0.0
	for _, glyph := range g.Glyphs {
		wide := float64(glyph.Advance)
		if glyph.Count == 1 && g.Text[glyph.Start] == ' ' && wide > g.Size*0.6 {
			f.leader(p.leading(g.X+x+wide-f.paper.Left), g, g.X+x, wide, base)
		}
		x += wide
	}
}

// leading is the leader of the stop that words behind a tab stand at.
func (p *Paragraph) leading(end float64) rune {
	for _, s := range p.Stops {
		if s.At >= end-0.5 {
			return s.Leader
		}
	}
	return 0
}

func (f *flow) leader(r rune, g *Glyphs, x, wide, base float64) {
	size := g.Size
	switch r {
	case '.', '·':
		for at := x + size*0.1; at+size*0.12 < x+wide-size*0.05; at += size * 0.28 {
			f.draw(&Box{X: at, Y: base - size*0.07, W: size * 0.07, H: size * 0.07, Colour: g.Colour})
		}
	case '-':
		for at := x; at+size*0.3 < x+wide; at += size * 0.5 {
			f.draw(&Box{X: at, Y: base - size*0.25, W: size * 0.3, H: size * 0.06, Colour: g.Colour})
		}
	case '_':
		f.draw(&Box{X: x, Y: base + size*0.1, W: wide, H: size * 0.05, Colour: g.Colour})
	}
}

// frame draws the ground and rules around a part of a paragraph.
func (f *flow) frame(p *Paragraph, x, width, high float64, first, last bool) {
	fr := p.Frame
	if fr == nil {
		return
	}
	left := x + min(p.Indent, p.Indent+p.First) - fr.Gaps[3]
	right := x + width - p.Right + fr.Gaps[1]
	top, bottom := f.y, f.y+high
	if first {
		top -= fr.Gaps[0]
	}
	if last {
		bottom += fr.Gaps[2]
	}
	if fr.Fill != nil {
		f.draw(&Box{X: left, Y: top, W: right - left, H: bottom - top, Colour: *fr.Fill})
	}
	edges := fr.Edges
	if !first {
		edges[0] = Edge{}
	}
	if !last {
		edges[2] = Edge{}
	}
	f.ruled(left, top, right, bottom, edges)
}

// ruled draws rules around a box, their middles on its edges.
func (f *flow) ruled(left, top, right, bottom float64, edges [4]Edge) {
	for i, e := range edges {
		if e.Width <= 0 {
			continue
		}
		half := e.Width / 2
		b := Box{X: left - half, W: right - left + e.Width, H: e.Width, Colour: e.Colour}
		switch i {
		case 0:
			b.Y = top - half
		case 2:
			b.Y = bottom - half
		case 1:
			b = Box{X: right - half, Y: top - half, W: e.Width, H: bottom - top + e.Width, Colour: e.Colour}
		case 3:
			b = Box{X: left - half, Y: top - half, W: e.Width, H: bottom - top + e.Width, Colour: e.Colour}
		}
		f.rule(b, e, i%2 == 0)
	}
}

// rule draws one rule: whole, double or dashed.
func (f *flow) rule(b Box, e Edge, across bool) {
	switch {
	case e.Double:
		one, two := b, b
		if across {
			one.H, two.H = b.H/3, b.H/3
			two.Y += b.H * 2 / 3
		} else {
			one.W, two.W = b.W/3, b.W/3
			two.X += b.W * 2 / 3
		}
		f.draw(&one, &two)
	case e.Dashed:
		dash := max(3*e.Width, 2)
		length := b.W
		if !across {
			length = b.H
		}
		for at := 0.0; at < length; at += 2 * dash {
			d := b
			if across {
				d.X, d.W = b.X+at, min(dash, length-at)
			} else {
				d.Y, d.H = b.Y+at, min(dash, length-at)
			}
			f.draw(&d)
		}
	default:
		f.draw(&b)
	}
}

// hanging sets a mark where a greedy paragraph's first line begins, on the baseline of the words beside it. Its words begin at the
// paragraph's edge, or at the next stop where the mark is wider than the room before it.
func (f *flow) hanging(p, mark *Paragraph, label *Element, x, width float64) {
	mark.First, mark.Right, mark.Stops, mark.Frame, mark.Greedy = 0, 0, nil, nil, true
	l := f.lines(mark, endless)[0]
	if words := f.lines(p, width); len(words) > 0 {
		l.ascent = words[0].ascent
	}
	f.line(l, mark, x+p.Begin, func(*piece) *Element { return label })
}
