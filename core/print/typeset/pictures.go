package typeset

import "math"

// fit is the size of a picture in a width: at most what it asks for and what a page holds.
func (f *flow) fit(p *Picture, width float64) (w, h float64) {
	maxW, maxH := p.Width, p.Height
	if maxW <= 0 || maxW > width {
		maxW = width
	}
	full := f.bottom - f.top
	if maxH <= 0 || maxH > full {
		maxH = full
	}
	var pw, ph float64
	if p.Drawing != nil {
		pw, ph = p.Drawing.Width, p.Drawing.Height
	} else {
		pw, ph = float64(p.Image.Width), float64(p.Image.Height)
	}
	scale := math.Min(maxW/pw, maxH/ph)
	return pw * scale, ph * scale
}

// squeezed is how much smaller than it asks a picture may be printed before that is an overflow.
const squeezed = 0.8

func (f *flow) picture(p *Picture, rest []Node) {
	w, h := f.fit(p, f.width())
	if p.Width*squeezed > f.width() {
		f.over(p.Block, WidePicture, "")
	}
	f.space(p.Before)
	need := h
	if p.KeepNext {
		need += p.After + f.leastOf(rest)
	}
	if over := min(need, f.bottom-f.top) - f.left(); over > 0.01 {
		if p.Shrink > 0 && h-over >= h*p.Shrink {
			w, h = w*(h-over)/h, h-over
		} else {
			f.newPage()
		}
	}
	f.pictureAt(p, f.out.Root, f.paper.Left+shifted(p.Align, f.width()-w)+p.hung(w), w, h)
	f.placed(p.Block, f.y, h)
	f.y += h
	f.space(p.After)
}

// hung is how far a picture is moved out of the text, so that what is seen of it stands at the edge.
func (p *Picture) hung(w float64) float64 {
	if p.Hang <= 0 || p.Width <= 0 {
		return 0
	}
	by := p.Hang * w / p.Width
	switch p.Align {
	case Center:
		return 0
	case End:
		return by
	}
	return -by
}

// shifted is how far an alignment moves what leaves some room free.
func shifted(a Align, free float64) float64 {
	switch a {
	case Center:
		return free / 2
	case End:
		return free
	}
	return 0
}

func (f *flow) pictureAt(p *Picture, parent *Element, x, w, h float64) {
	if p.Ornament {
		parent = nil
	}
	e := parent.add("Figure")
	e.Alt, e.Page = p.Alt, f.page()
	e.BBox = &[4]float64{x, f.y, x + w, f.y + h}
	if d := p.Drawing; d != nil {
		f.drawing(d, e, x, w/d.Width)
		return
	}
	f.draw(&ImageAt{e, x, f.y, w, h, p.Image})
}

// drawing draws shapes, and the words on them.
func (f *flow) drawing(d *Drawing, e *Element, x, scale float64) {
	f.draw(&DrawingAt{e, x, f.y, scale, d})
	for i := range d.Labels {
		l := &d.Labels[i]
		at := f.short(&l.Words, l.Room*scale)
		for j := range at.pieces {
			g := at.pieces[j].glyphs
			g.Element = e
			g.X, g.Y = x+l.X*scale+at.pieces[j].x-shifted(l.Words.Align, at.width), f.y+l.Y*scale
			f.draw(&g)
		}
	}
}
