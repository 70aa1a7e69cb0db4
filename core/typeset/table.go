package typeset

// cellLines is a cell broken to its column's width.
type cellLines struct {
	lines   []line
	of      []*Paragraph // the paragraph each line belongs to
	leaf    map[*Paragraph]func(int) *Element
	picture *Picture
	pw, ph  float64
	height  float64
	element *Element
	entry   *Entry
	width   float64
}

// rowLines is a measured row.
type rowLines struct {
	row    *Row
	cells  []cellLines
	height float64
	entry  bool // holds an entry, so that it is never split
}

// columns gives the left edge and width of each column.
func (t *Table) columns(x, width float64) (xs, ws []float64) {
	total := 0.0
	for _, c := range t.Columns {
		total += c
	}
	room := width - t.Gap*float64(len(t.Columns)-1)
	for _, c := range t.Columns {
		w := room * c / total
		xs, ws = append(xs, x), append(ws, w)
		x += w + t.Gap
	}
	return xs, ws
}

// measureRow breaks a row's cells. A row that was only looked at is remembered until it is set.
func (f *flow) measureRow(t *Table, r *Row, ws []float64) rowLines {
	if m, ok := f.rows[r]; ok {
		delete(f.rows, r)
		return m
	}
	m := rowLines{row: r, cells: make([]cellLines, len(ws))}
	for i := range ws {
		if i >= len(r.Cells) {
			break
		}
		c := &m.cells[i]
		cell := &r.Cells[i]
		if cell.Picture != nil {
			c.picture = cell.Picture
			c.pw, c.ph = f.fit(cell.Picture, ws[i])
			c.height = c.ph
		}
		if cell.Entry != nil {
			c.entry, c.width, c.height = cell.Entry, ws[i], cell.Entry.Height
			m.entry = true
		}
		for j := range cell.Paragraphs {
			p := &cell.Paragraphs[j]
			for _, l := range f.lines(p, ws[i]) {
				c.lines, c.of = append(c.lines, l), append(c.of, p)
				c.height += l.height
			}
		}
		m.height = max(m.height, c.height)
	}
	m.height += 2 * t.Pad
	return m
}

func (f *flow) leastTable(t *Table) float64 {
	_, ws := t.columns(f.doc.Page.Left, f.width())
	h := 0.0
	look := func(r *Row) float64 {
		m := f.measureRow(t, r, ws)
		f.rows[r] = m
		return m.height
	}
	if t.Header != nil {
		h += look(t.Header)
	}
	if len(t.Rows) > 0 {
		h += min(look(&t.Rows[0]), splitRoom)
	}
	return h
}

func (f *flow) table(t *Table) {
	f.space(t.Before)
	xs, ws := t.columns(f.doc.Page.Left, f.width())
	parent := f.out.Root
	if !t.Layout {
		parent = parent.add("Table")
	}
	var header *rowLines
	if t.Header != nil {
		if f.left() < f.leastTable(t) && !f.atTop() {
			f.newPage()
		}
		m := f.measureRow(t, t.Header, ws)
		header = &m
		f.begin(t, header, parent, true)
		f.whole(t, header, xs)
	}
	for i := range t.Rows {
		m := f.measureRow(t, &t.Rows[i], ws)
		f.begin(t, &m, parent, false)
		f.row(t, &m, header, xs)
		if len(f.out.Pages) > MaxPages {
			return
		}
	}
	f.space(t.After)
}

// begin makes the elements of a row.
func (f *flow) begin(t *Table, m *rowLines, parent *Element, header bool) {
	tr := parent
	if !t.Layout {
		tr = parent.add("TR")
	}
	for i := range m.cells {
		c := &m.cells[i]
		e := tr
		if !t.Layout {
			e = tr.add("TD")
			if header {
				e.Role, e.Scope = "TH", "Column"
			} else if i < len(m.row.Cells) && m.row.Cells[i].Heads {
				e.Role, e.Scope = "TH", "Row"
			}
		}
		c.element = e
		c.leaf = map[*Paragraph]func(int) *Element{}
		for _, p := range c.of {
			if c.leaf[p] == nil {
				c.leaf[p] = leafOf(e.add(string(Plain)), p)
			}
		}
	}
}

// splitRoom is the room at a page's foot from which a tall row is split rather than moved.
const splitRoom = 64

// row puts a row on the page, on the next one, or splits it between them.
func (f *flow) row(t *Table, m *rowLines, header *rowLines, xs []float64) {
	full := f.bottom - f.doc.Page.Top
	if header != nil {
		full -= header.height
	}
	for m.height > f.left()+0.01 {
		splits := !m.entry && f.atTop() || !m.entry && f.left() >= splitRoom && (m.height > 1.5*splitRoom || m.height > full)
		if m.entry && f.atTop() {
			break // taller than a page: it is drawn as far as there is paper
		}
		if splits && f.part(t, m, xs) {
			return
		}
		f.nextPage(t, header, xs)
	}
	f.whole(t, m, xs)
}

// nextPage begins a page inside a table: its header is drawn again, as an artifact.
func (f *flow) nextPage(t *Table, header *rowLines, xs []float64) {
	f.newPage()
	if header == nil {
		return
	}
	again := rowLines{row: header.row, height: header.height, cells: make([]cellLines, len(header.cells))}
	for i, c := range header.cells {
		again.cells[i] = cellLines{lines: c.lines, of: c.of, height: c.height}
	}
	f.whole(t, &again, xs)
}

// part draws as many lines of each cell as fit and keeps the rest in m. It reports
// whether nothing is left.
func (f *flow) part(t *Table, m *rowLines, xs []float64) bool {
	room := f.left() - 2*t.Pad
	head := rowLines{row: m.row, cells: make([]cellLines, len(m.cells))}
	rest := 0.0
	for i := range m.cells {
		c := &m.cells[i]
		h := &head.cells[i]
		*h = *c
		if c.picture != nil && c.ph > room {
			h.picture = nil
		}
		n := fitting(c.lines, room)
		switch {
		case n == 0 && f.atTop() && len(c.lines) > 0:
			n = 1
		case len(c.lines)-n == 1 && n > 2: // no lone line at the head
			n--
		}
		h.lines, h.of = c.lines[:n], c.of[:n]
		h.height = height(h.lines)
		if h.picture != nil {
			h.height += c.ph
			c.picture = nil
		}
		c.lines, c.of = c.lines[n:], c.of[n:]
		c.height = height(c.lines)
		if c.picture != nil {
			c.height += c.ph
		}
		head.height = max(head.height, h.height)
		rest = max(rest, c.height)
	}
	if head.height > 0 {
		head.height += 2 * t.Pad
		f.whole(t, &head, xs)
	}
	m.height = rest + 2*t.Pad
	return rest == 0
}

// whole draws a row, or the part of one that fits, at the present y.
func (f *flow) whole(t *Table, m *rowLines, xs []float64) {
	top := f.y
	if m.row.Fill != nil {
		f.draw(&Box{X: f.doc.Page.Left, Y: top, W: f.width(), H: m.height, Colour: *m.row.Fill})
	}
	for i := range m.cells {
		c := &m.cells[i]
		f.y = top + t.Pad
		if c.picture != nil {
			f.pictureAt(c.picture, c.element, xs[i], c.pw, c.ph)
			f.y += c.ph
		}
		if c.entry != nil {
			f.entryAt(c.entry, c.element, xs[i], c.width)
		}
		for j, l := range c.lines {
			f.line(l, c.of[j], xs[i], c.leaf[c.of[j]])
			f.y += l.height
		}
	}
	f.y = top + m.height
	if t.Line != nil {
		f.draw(&Box{X: f.doc.Page.Left, Y: f.y - 0.5, W: f.width(), H: 0.5, Colour: *t.Line})
	}
	f.placed(t.Block, top, m.height)
}
