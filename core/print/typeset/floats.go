package typeset

import (
	"math"
	"slices"
)

// Float is a box that stands beside, over or behind the words of a greedy paragraph. What is in it is drawn from the back to the front:
// its ground, its picture, its parts, its nodes.
type Float struct {
	Block         string
	Ground        *Drawing
	Picture       *Picture // as large as the box
	Parts         []*Float // at places of the box
	Nodes         []Node
	Sign          *Run // one line across the box, as large as the box allows; an artifact
	Turn          float64
	Width, Height float64 // Width 0 is that of the nodes' longest line, Height 0 that of the nodes
	Inset         [4]float64
	Stand         Align   // of the nodes in the box
	WordsTurn     float64 // 90 for nodes that run upwards, -90 downwards
	X, Y          Spot
	Around        Around
	Behind        bool       // the words, where they are not around it
	Gaps          [4]float64 // that words around it leave free: top, right, bottom, left
}

// Spot is a place along one direction.
type Spot struct {
	From    Origin
	At      float64 // from the origin’s beginning, where Aligned is not set
	Aligned bool
	Align   Align // of the box in the origin
}

// Origin is what a spot is counted from.
type Origin int

// The origins. Across, Beside is the column or cell; downwards it is the paragraph’s first line.
const (
	Beside       Origin = iota
	Margins             // of the page: the room for text
	Paper               // the whole page
	BeforeMargin        // the margin at the left, or at the head
	BehindMargin        // the margin at the right, or at the foot
)

// Around is how words go around a box.
type Around int

// The ways.
const (
	Over       Around = iota // they do not
	BothSides                // on both its sides
	LeftSide                 // on its left alone
	RightSide                // on its right alone
	WiderSide                // where there is more room
	AboveBelow               // over and under it
)

// leastRoom is how wide the room beside a box is at least in which words stand.
const leastRoom = 36

// taken is room of a page, or of a cell, that words go around.
type taken struct{ left, top, right, bottom float64 }

// corner is where a box begins. left and width are the column’s, y is where the paragraph’s words begin.
func (f *flow) corner(b *Float, left, width, y, high float64) (float64, float64) {
	p := f.sections[f.page()].Page
	if f.paper.Width != p.Width { // a page on its side
		p = f.paper
	}
	across := [...][2]float64{{left, left + width}, {p.Left, p.Width - p.Right}, {0, p.Width}, {0, p.Left}, {p.Width - p.Right, p.Width}}
	down := [...][2]float64{{y, y}, {p.Top, p.Height - p.Bottom}, {0, p.Height}, {0, p.Top}, {p.Height - p.Bottom, p.Height}}
	return b.X.in(across[b.X.From], b.Width), b.Y.in(down[b.Y.From], high)
}

func (s Spot) in(origin [2]float64, size float64) float64 {
	if !s.Aligned {
		return origin[0] + s.At
	}
	return origin[0] + shifted(s.Align, origin[1]-origin[0]-size)
}

// inside measures a box’s nodes.
func (f *flow) inside(b *Float) (cellLines, float64) {
	if len(b.Nodes) == 0 {
		return cellLines{}, b.Height
	}
	bare := f.bare
	f.bare = true
	c := f.measureCell(b.Nodes, max(b.Width-b.Inset[1]-b.Inset[3], 1), 0, 0)
	f.bare = bare
	high := b.Height
	if high <= 0 {
		high = c.height + b.Inset[0] + b.Inset[2]
	}
	return c, high
}

// wide is a box with its width, which may be that of its nodes.
func (f *flow) wide(b *Float, room float64) *Float {
	if b.Width > 0 || len(b.Nodes) == 0 {
		return b
	}
	out := *b
	for _, n := range b.Nodes {
		if p, ok := n.(*Paragraph); ok {
			for _, l := range f.lines(p, endless) {
				out.Width = max(out.Width, l.width+p.Indent+p.Right)
			}
		}
	}
	out.Width = min(out.Width+b.Inset[1]+b.Inset[3]+0.5, room)
	return &out
}

// around is what words leave free of a box at a place of a column.
func (b *Float) around(x, y, high, left, width float64) taken {
	t := taken{x - b.Gaps[3], y - b.Gaps[0], x + b.Width + b.Gaps[1], y + high + b.Gaps[2]}
	switch wider := t.left-left > left+width-t.right; {
	case b.Around == AboveBelow:
		t.left, t.right = math.Inf(-1), math.Inf(1)
	case b.Around == LeftSide || b.Around == WiderSide && wider:
		t.right = math.Inf(1)
	case b.Around == RightSide || b.Around == WiderSide:
		t.left = math.Inf(-1)
	}
	return t
}

// floats draws the boxes of a paragraph of the body whose words begin at the present y.
func (f *flow) floats(p *Paragraph) {
	left, width := f.paper.Left, f.width()
	for _, b := range p.Floats {
		b = f.wide(b, width)
		c, high := f.inside(b)
		x, y := f.corner(b, left, width, f.y, high)
		if b.Y.From == Beside && b.Around != Over { // it stays on the page of its paragraph
			y = max(min(y, f.bottom-high), min(f.y, y))
		}
		f.box(b, &c, f.out.Root, x, y, high)
		f.placedAt(b.Block, x, y, b.Width, high)
		if b.Around != Over {
			f.taken = append(f.taken, b.around(x, y, high, left, width))
		}
	}
}

// alone draws a box that belongs to no paragraph.
func (f *flow) alone(b *Float) {
	b = f.wide(b, f.width())
	c, high := f.inside(b)
	x, y := f.corner(b, f.paper.Left, f.width(), f.y, high)
	back := f.y
	f.boxed(b, &c, f.out.Root, x, y, high)
	f.y = back
	f.placedAt(b.Block, x, y, b.Width, high)
}

// box draws a box in its layer: below what stands on the page already, among it, or on top of all that is still to come.
func (f *flow) box(b *Float, c *cellLines, parent *Element, x, y, high float64) {
	s := f.sheet()
	first, back := len(s.Items), f.y
	f.boxed(b, c, parent, x, y, high)
	f.y = back
	drawn := slices.Clone(s.Items[first:])
	switch {
	case b.Around != Over:
	case b.Behind:
		s.Items = slices.Insert(s.Items[:first], 0, drawn...)
	default:
		s.Items, f.above = s.Items[:first], append(f.above, drawn...)
	}
}

func (f *flow) boxed(b *Float, c *cellLines, parent *Element, x, y, high float64) {
	f.y = y
	if d := b.Ground; d != nil {
		f.draw(&DrawingAt{X: x, Y: y, Scale: 1, Drawing: d})
	}
	if p := b.Picture; p != nil {
		e := parent.add("Figure")
		e.Alt, e.Page, e.BBox = p.Alt, f.page(), &[4]float64{x, y, x + b.Width, y + high}
		if p.Drawing != nil {
			f.draw(&DrawingAt{e, x, y, b.Width / p.Drawing.Width, p.Drawing})
		} else {
			f.draw(&ImageAt{e, x, y, b.Width, high, p.Image})
		}
	}
	if b.Sign != nil {
		f.sign(b, x, y, high)
	}
	for _, part := range b.Parts {
		in, h := f.inside(part)
		f.boxed(part, &in, parent, x+part.X.At, y+part.Y.At, h)
	}
	if in := b.Inset; b.WordsTurn != 0 {
		f.turnedNodes(b.Nodes, parent.add("Div"), b.WordsTurn, b.Stand, x+in[3], y+in[0], b.Width-in[1]-in[3], high-in[0]-in[2])
	} else if len(b.Nodes) > 0 {
		c.element = parent.add("Div")
		f.y = y + b.Inset[0] + max(shifted(b.Stand, high-b.Inset[0]-b.Inset[2]-c.height), 0)
		f.drawCell(c, x+b.Inset[3])
	}
}

// sign sets one line across a box.
func (f *flow) sign(b *Float, x, y, high float64) {
	const trial = 100
	p := &Paragraph{Role: Plain, Runs: []Run{*b.Sign}, Size: trial, Leading: 1, Family: b.Sign.Family}
	p.Runs[0].Size = 0
	l := f.lines(p, endless)[0]
	if l.width <= 0 {
		return
	}
	p.Size = min(trial*b.Width/l.width, high)
	f.turned(f.lines(p, endless)[0], watermarkArtifact, x+b.Width/2, y+high/2, b.Turn*math.Pi/180)
}

// beside breaks a paragraph whose words begin at the present y and have boxes beside them. Words that run to the left, and what is not a
// greedy paragraph, stand under the boxes.
func (f *flow) beside(p *Paragraph, lines []line, left, width, y float64, all []taken) ([]line, float64) {
	l, r := left+p.Indent, left+width-p.Right
	lower := func() float64 {
		under := y
		for _, t := range all {
			if t.left < r && t.right > l && t.top < y+height(lines) {
				under = max(under, t.bottom)
			}
		}
		return under - y
	}
	if !slices.ContainsFunc(all, func(t taken) bool { return t.left < r && t.right > l && t.bottom > y && t.top < y+height(lines) }) {
		return lines, 0
	}
	if len(lines) == 0 || !p.Greedy {
		return lines, lower()
	}
	q := *p
	q.rooms = &rooms{taken: all, left: l, right: r, y: y, line: max(lines[0].height, 1)}
	if out := f.lines(&q, width); q.rooms.used == len(out) {
		if last := &out[len(out)-1]; last.height == 0 {
			last.height = last.held
		}
		return out, 0
	}
	return lines, lower()
}

// withFloats draws a paragraph’s boxes and breaks it beside them and others. One whose beginning does not fit goes to the next page first,
// with its boxes.
func (f *flow) withFloats(p *Paragraph, lines []line) []line {
	need := height(lines[:min(lonely, len(lines))])
	for _, b := range p.Floats {
		if b.Y.From == Beside && b.Around != Over {
			_, high := f.inside(f.wide(b, f.width()))
			need = max(need, min(b.Y.At+high, f.foot-f.top))
		}
	}
	if need > f.left()+0.01 && !f.atTop() && len(p.Floats) > 0 {
		f.newPage()
	}
	f.floats(p)
	var all []taken
	for _, t := range f.taken { // below the page’s foot nothing is taken
		if t.top < f.bottom {
			t.bottom = min(t.bottom, f.bottom)
			all = append(all, t)
		}
	}
	lines, down := f.beside(p, lines, f.paper.Left, f.width(), f.y, all)
	f.y = min(f.y+down, f.bottom)
	return lines
}

// under goes below the boxes that stand in the way of what is as wide as the text.
func (f *flow) under() {
	for again := true; again; {
		again = false
		for _, t := range f.taken {
			if t.top < f.y+1 && t.bottom > f.y && t.left < f.paper.Left+f.width() && t.right > f.paper.Left {
				f.y, again = min(t.bottom, f.bottom), t.bottom < f.bottom
			}
		}
	}
}

// rooms are where the lines of a paragraph stand that has boxes beside it.
type rooms struct {
	taken          []taken
	left, right, y float64
	line           float64 // height of a line, before it is known
	list           []room
	used           int // how many lines were set into them
}

// room is that of one line: how far in and how far down it begins, and whether the next one stands on its right.
type room struct {
	in, width, down float64
	goesOn          bool
}

// at is the room of a line, counted from 0.
func (r *rooms) at(i int) room {
	for len(r.list) <= i {
		r.next()
	}
	return r.list[i]
}

// next finds the rooms of one more height.
func (r *rooms) next() {
	down := 0.0
	for {
		free, under := [][2]float64{{r.left, r.right}}, math.Inf(1)
		for _, t := range r.taken {
			if t.top >= r.y+down+r.line-0.01 || t.bottom <= r.y+down+0.01 {
				continue
			}
			under = min(under, t.bottom)
			var left [][2]float64
			for _, s := range free {
				if t.left > s[0] {
					left = append(left, [2]float64{s[0], min(t.left, s[1])})
				}
				if t.right < s[1] {
					left = append(left, [2]float64{max(t.right, s[0]), s[1]})
				}
			}
			free = left
		}
		free = slices.DeleteFunc(free, func(s [2]float64) bool { return s[1]-s[0] < min(leastRoom, r.right-r.left) })
		if len(free) == 0 && !math.IsInf(under, 1) {
			down = under - r.y
			continue
		}
		if len(free) == 0 {
			free = [][2]float64{{r.left, r.right}}
		}
		for i, s := range free {
			r.list = append(r.list, room{in: s[0] - r.left, width: s[1] - s[0], down: down, goesOn: i+1 < len(free)})
		}
		r.y += down + r.line
		return
	}
}

// into moves a line to its room.
func (l *line) into(r room) {
	for i := range l.pieces {
		l.pieces[i].x += r.in
	}
	l.height, l.ascent = l.height+r.down, l.ascent+r.down
	if r.goesOn { // the line on its right takes it
		l.held, l.height = l.height, 0
	}
}

// behindText is the paragraph without the words before a place of its text, counted in characters. Its runs keep their numbers.
func (p *Paragraph) behindText(at int) *Paragraph {
	q := *p
	if at == 0 {
		return &q
	}
	q.Runs, q.First, q.Before, q.Marker, q.Floats, q.rooms = slices.Clone(p.Runs), 0, 0, "", nil, nil
	for i := range q.Runs {
		r := &q.Runs[i]
		text := []rune(r.Text)
		n := min(at, len(text))
		if at -= n; n > 0 {
			r.Text = string(text[n:])
		}
		if r.Text == "" {
			r.Picture, r.Note = nil, nil
		}
	}
	return &q
}

// cellFloats are the boxes of a paragraph in a cell, which begins at y and its words some room below, and its lines beside them and
// those before.
func (f *flow) cellFloats(p *Paragraph, lines []line, width, y, below float64, all *[]taken) ([]slice, []line) {
	var out []slice
	y += below
	for _, b := range p.Floats {
		b = f.wide(b, width)
		_, high := f.inside(b)
		out = append(out, slice{node: b, w: below})
		if b.Around != Over && b.Y.From == Beside {
			left := f.paper.Left // what is counted from the page stands in a header, which is as wide as the text
			x, top := f.corner(b, left, width, y, high)
			*all = append(*all, b.around(x-left, top, high, 0, width))
		}
	}
	lines, down := f.beside(p, lines, 0, width, y, *all)
	if down > 0 && len(lines) > 0 {
		lines = slices.Clone(lines)
		lines[0].height, lines[0].ascent = lines[0].height+down, lines[0].ascent+down
	}
	return out, lines
}
