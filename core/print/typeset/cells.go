package typeset

// slice is the least part of a cell that stands on one page: a line, a picture, a row of a table, or empty room.
type slice struct {
	node   Node // nil for empty room
	line   line // of a paragraph
	row    *rowLines
	w      float64 // of a picture or an entry; how far below a box its paragraph begins
	height float64
	header bool // the row heads its table
}

// cellLines is a cell measured to its columns' width.
type cellLines struct {
	slices  []slice
	height  float64
	reach   float64 // how far it reaches below its row
	width   float64
	element *Element
	lists   lists
	begun   *Paragraph // the last one that was begun
	leaf    leaves     // of it
	tables  map[*Table]*Element
}

// measureCell cuts the nodes of a cell into slices. Room at its head and foot is left out, so that rows stand close. Words are
// set at a part of their size, numbers clear of the widest tail of their column; 0 for both leaves them as they are.
func (f *flow) measureCell(nodes []Node, width, size, tail float64) cellLines {
	c := cellLines{width: width}
	owed := 0.0
	spaced := f.bare || spacedCell(nodes)
	var all []taken
	put := func(before float64, parts ...slice) {
		if gap := owed + before; gap > 0 && (len(c.slices) > 0 || spaced) {
			c.slices = append(c.slices, slice{height: gap})
		}
		owed = 0
		c.slices = append(c.slices, parts...)
	}
	for _, n := range nodes {
		switch n := n.(type) {
		case *Paragraph:
			lines := f.lines(f.scaled(n, size, tail), width)
			if len(n.Floats) > 0 || len(all) > 0 {
				var parts []slice
				parts, lines = f.cellFloats(n, lines, width, c.to(), owed+n.Before, &all)
				c.slices = append(c.slices, parts...)
			}
			if n.Frame != nil && len(lines) > 0 {
				put(n.Before, slice{node: n, line: line{height: -1}, height: 0, w: height(lines)})
			}
			parts := make([]slice, len(lines))
			for i, l := range lines {
				parts[i] = slice{node: n, line: l, height: l.height}
			}
			before := n.Before
			if n.Frame != nil && len(lines) > 0 {
				before = 0 // it stands above the frame
			}
			put(before, parts...)
			owed = n.After
		case *Picture:
			w, h := f.fit(n, width)
			put(n.Before, slice{node: n, w: w, height: h})
			owed = n.After
		case *Entry:
			w := n.Width
			if w <= 0 || w > width {
				w = width
			}
			put(n.Before, slice{node: n, w: w, height: n.Height})
			owed = n.After
		case *Rule:
			put(n.Before, slice{node: n, w: n.wide(width), height: n.Thickness})
			owed = n.After
		case *Space:
			put(0, slice{node: n, height: n.Height})
		case *Table:
			put(n.Before, f.measureTable(n, width)...)
			owed = n.After
		}
	}
	if spaced && owed > 0 {
		c.slices = append(c.slices, slice{height: owed})
	}
	for _, t := range all {
		if under := t.bottom - c.to(); under > 0 && !f.bare {
			c.slices = append(c.slices, slice{height: under})
		}
	}
	c.height = c.to()
	return c
}

// to is how far down the slices reach.
func (c *cellLines) to() float64 {
	h := 0.0
	for _, s := range c.slices {
		h += s.height
	}
	return h
}

// spacedCell reports whether room at a cell's head and foot counts, as in files that were brought.
func spacedCell(nodes []Node) bool {
	if len(nodes) == 0 {
		return false
	}
	p, ok := nodes[len(nodes)-1].(*Paragraph)
	return ok && p.Greedy
}

// measureTable makes each row of a table inside a cell a slice.
func (f *flow) measureTable(t *Table, width float64) []slice {
	_, ws := f.columns(t, 0, width)
	var out []slice
	put := func(r *Row, header bool) {
		m := f.measureRow(t, r, ws)
		m.alone(t)
		if m.height > f.bottom-f.top { // taller than a page: its cells go one below the other, so that they can be split
			for _, c := range m.cells {
				out = append(out, c.slices...)
			}
			return
		}
		out = append(out, slice{node: t, row: &m, w: width, height: m.height, header: header})
	}
	if t.Header != nil {
		put(t.Header, true)
	}
	for i := range t.Rows {
		put(&t.Rows[i], false)
	}
	return out
}

// fittingSlices counts the slices that fit a height, so that no line is left alone and no heading parted from what it
// heads.
func (c *cellLines) fittingSlices(room float64) int {
	h, n := 0.0, 0
	for n < len(c.slices) && h+c.slices[n].height <= room+0.01 {
		h += c.slices[n].height
		n++
	}
	if n == len(c.slices) {
		return n
	}
	if p, ok := c.slices[n].node.(*Paragraph); ok && n > 2 && c.slices[n-1].node == p && c.slices[n-2].node == p &&
		(n+1 == len(c.slices) || c.slices[n+1].node != p) {
		n--
	}
	for n > 0 {
		if node := c.slices[n-1].node; node != nil && !keepsNext(node) {
			break
		}
		n--
	}
	return n
}

// keepsNext reports whether a node stays on the page of what follows.
func keepsNext(n Node) bool {
	switch n := n.(type) {
	case *Float:
		return true
	case *Paragraph:
		return n.KeepNext
	case *Picture:
		return n.KeepNext
	case *Rule:
		return n.KeepNext
	case *Space:
		return n.KeepNext
	}
	return false
}

// take parts the first n slices from the cell. Room at the head of what is left is dropped.
func (c *cellLines) take(n int) cellLines {
	if c.tables == nil {
		c.tables = map[*Table]*Element{} // shared by both parts
	}
	head := *c
	head.slices, c.slices = c.slices[:n], c.slices[n:]
	for len(c.slices) > 0 && c.slices[0].node == nil {
		c.slices = c.slices[1:]
	}
	head.height, c.height = 0, 0
	for _, s := range head.slices {
		head.height += s.height
	}
	for _, s := range c.slices {
		c.height += s.height
	}
	return head
}

// drawCell draws a cell's slices downwards from the present y. A cell without an element repeats what was said.
func (f *flow) drawCell(c *cellLines, x float64) {
	for i := range c.slices {
		s := &c.slices[i]
		y := f.y
		switch n := s.node.(type) {
		case *Paragraph:
			if s.line.height < 0 {
				f.frame(n, x, c.width, s.w, true, true)
				continue
			}
			f.line(s.line, n, x, f.cellLeaf(c, n, x))
			f.placedAt(n.Block, x, y, c.width, s.height)
		case *Picture:
			f.pictureAt(n, c.element, x+shifted(n.Align, c.width-s.w)+n.hung(s.w), s.w, s.height)
			f.placedAt(n.Block, x, y, c.width, s.height)
		case *Entry:
			f.entryAt(n, c.element, x, s.w)
		case *Rule:
			f.draw(&Box{X: x, Y: y, W: s.w, H: s.height, Colour: n.Colour})
			f.placedAt(n.Block, x, y-2, s.w, s.height+4)
		case *Space:
			f.placedAt(n.Block, x, y, c.width, s.height)
		case *Float:
			in, high := f.inside(n)
			left, top := f.corner(n, x, c.width, y+s.w, high)
			f.box(n, &in, c.element, left, top, high)
			f.placedAt(n.Block, left, top, n.Width, high)
		case *Table:
			f.begin(n, s.row, f.cellTable(c, n), s.header)
			f.whole(n, s.row, x, s.w)
		}
		f.y = y + s.height
	}
}

func (f *flow) cellLeaf(c *cellLines, p *Paragraph, x float64) leaves {
	if c.element == nil {
		return nil
	}
	if c.begun != p {
		c.begun, c.leaf = p, f.leaf(p, c.element, &c.lists, x, c.width)
	}
	return c.leaf
}

func (f *flow) cellTable(c *cellLines, t *Table) *Element {
	if t.Layout {
		return c.element
	}
	if c.tables == nil {
		c.tables = map[*Table]*Element{}
	}
	if c.tables[t] == nil {
		c.tables[t] = c.element.add("Table")
	}
	return c.tables[t]
}
