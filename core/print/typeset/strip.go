package typeset

import "math"

// stubEdge keeps a stub's words off its cutting marks.
const stubEdge = 8

// strip sets stubs along the paper's lower edge, with what runs in the lower margin above them. The first stub's words
// are read; the others repeat them and are artifacts, like the cutting marks.
func (f *flow) strip(s *Strip) {
	page := f.paper
	h := min(s.Height, f.bottom-f.top)
	above := page.Height - h - 3*runningGap - f.runningHeights(f.runningOf(f.page())).footer
	if f.y > above && !f.atTop() {
		f.newPage()
	}
	stubs := max(s.Stubs, 1)
	width := f.width() / float64(stubs)
	room := h - 2*stubEdge
	lines := f.lines(&s.Words, room)
	if height(lines) > width-stubEdge || f.cut != "" {
		f.over(s.Block, SmallStub, plainText(s.Words.Runs))
	}
	f.cut = ""
	top := page.Height - h
	f.dashes(page.Left, top, f.width(), 0, s.Line)
	element := f.out.Root.add(string(Plain))
	for stub := range stubs {
		x := page.Left + width*float64(stub)
		if stub > 0 {
			f.dashes(x, top, 0, h, s.Line)
		}
		middle := x + width/2 - height(lines)/2
		for _, l := range lines {
			if middle+l.height > x+width {
				break // what does not fit its stub would be cut off with the next one
			}
			f.turned(l, element, middle+l.height/2, top+h/2, math.Pi/2)
			middle += l.height
		}
		element = nil
	}
	f.placed(s.Block, top, h)
	f.sheet().strip = h
	f.y = f.bottom
}

// dashes draws a cutting mark to the right or downwards.
func (f *flow) dashes(x, y, w, h float64, c Colour) {
	const dash, gap, hair = 4, 3, 0.6
	for at := 0.0; at < max(w, h); at += dash + gap {
		if w > 0 {
			f.draw(&Box{X: x + at, Y: y - hair/2, W: min(dash, w-at), H: hair, Colour: c})
		} else {
			f.draw(&Box{X: x - hair/2, Y: y + at, W: hair, H: min(dash, h-at), Colour: c})
		}
	}
}
