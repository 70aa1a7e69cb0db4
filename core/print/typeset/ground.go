package typeset

import "math"

// backdrop draws a picture behind the text, once or as tiles that begin at its place and cover the page.
func (f *flow) backdrop(b *Backdrop) {
	if b.Width < 1 || b.Height < 1 {
		return
	}
	put := func(x, y float64) {
		if b.Drawing != nil {
			f.draw(&DrawingAt{X: x, Y: y, Scale: b.Width / b.Drawing.Width, Drawing: b.Drawing})
			return
		}
		f.draw(&ImageAt{X: x, Y: y, W: b.Width, H: b.Height, Image: b.Image})
	}
	if !b.Repeat {
		put(b.X, b.Y)
		return
	}
	back := func(at, step float64) float64 { return at - math.Ceil(at/step)*step }
	for y := back(b.Y, b.Height); y < f.paper.Height; y += b.Height {
		for x := back(b.X, b.Width); x < f.paper.Width; x += b.Width {
			put(x, y)
		}
	}
}

// stamp sets a line across the page, behind its text. It is an artifact.
func (f *flow) stamp() {
	p := f.doc.Stamp
	if p == nil {
		return
	}
	w, h := f.paper.Width, f.paper.Height
	if lines := f.lines(p, math.Hypot(w, h)); len(lines) > 0 {
		f.turned(lines[0], watermarkArtifact, w/2, h/2, math.Atan2(h, w))
	}
}

// turned draws a line about a point, which its middle stands on, by an angle against the clock.
func (f *flow) turned(l line, e *Element, x, y, turn float64) {
	start, drop := -l.width/2, l.ascent*0.35
	sin, cos := math.Sincos(turn)
	for i := range l.pieces {
		g := l.pieces[i].glyphs
		along := start + l.pieces[i].x - l.pieces[0].x
		g.Element = e
		g.X, g.Y = x+along*cos+drop*sin, y-along*sin+drop*cos
		g.Turn = turn * 180 / math.Pi
		f.draw(&g)
	}
}
