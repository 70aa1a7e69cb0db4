package typeset

// rowLines is a measured row.
type rowLines struct {
	row    *Row
	cells  []cellLines
	height float64
	entry  bool // holds an entry, so that it is never split
	filled bool // its colour is drawn already
}

// alone makes a row high enough for cells that would reach over the next ones.
func (m *rowLines) alone(t *Table) {
	for _, c := range m.cells {
		m.height = max(m.height, c.height+2*t.Pad+m.row.Above)
	}
}

// pairFrom is how many rows a table has at least whose first two, and last two, stand on one page.
const pairFrom = 4

// keeps reports whether a row stays on the page of the next one: where it is said, and so that no row stands alone at a
// table's beginning or end.
func (t *Table) keeps(i int) bool {
	return t.Rows[i].KeepNext || !t.Layout && len(t.Rows) >= pairFrom && (i == 0 || i == len(t.Rows)-2)
}

// together is how many rows from i on cells reach over.
func (t *Table) together(i int) int {
	end := i + 1
	for k := i; k < min(end, len(t.Rows)); k++ {
		for _, c := range t.Rows[k].Cells {
			end = max(end, k+c.Down)
		}
	}
	return min(end, len(t.Rows)) - i
}

// columns gives the left edge and width of each column.
func (f *flow) columns(t *Table, x, width float64) (xs, ws []float64) {
	xs = make([]float64, len(t.Columns))
	x, width = t.span(x, width)
	if t.Exact {
		x += t.Left
		for i, w := range t.Columns {
			xs[i] = x
			x += w
		}
		return xs, t.Columns
	}
	if ws = f.fitting(t, width).widths; ws != nil {
		for i, w := range ws {
			xs[i] = x
			x += w + t.Gap
		}
		return xs, ws
	}
	total := 0.0
	for _, c := range t.Columns {
		total += c
	}
	room := width - t.Gap*float64(len(t.Columns)-1)
	ws = make([]float64, len(t.Columns))
	for i, c := range t.Columns {
		xs[i], ws[i] = x, room*c/total
		x += ws[i] + t.Gap
	}
	return xs, ws
}

// span is where the table stands in a width.
func (t *Table) span(x, width float64) (float64, float64) {
	if t.Narrow <= 0 || t.Narrow >= width {
		return x, width
	}
	return x + width - t.Narrow, t.Narrow
}

// spanned is how many columns a cell covers that begins at a column.
func (c *Cell) spanned(at, columns int) int {
	return min(max(c.Span, 1), columns-at)
}

// measureRow cuts a row's cells into slices. A row that was only looked at is remembered until it is set.
func (f *flow) measureRow(t *Table, r *Row, ws []float64) rowLines {
	if m, ok := f.rows[r]; ok {
		delete(f.rows, r)
		return m
	}
	m := rowLines{row: r, cells: make([]cellLines, 0, len(r.Cells))}
	fit := f.fits[t]
	at := 0
	for i := range r.Cells {
		if at >= len(ws) {
			break
		}
		cell := &r.Cells[i]
		width := -t.Gap
		n := cell.spanned(at, len(ws))
		for _, w := range ws[at : at+n] {
			width += w + t.Gap
		}
		tail := 0.0
		if n == 1 && at < len(fit.tails) {
			tail = fit.tails[at]
		}
		at += n
		var c cellLines
		if cell.Turn != 0 {
			c, m.entry = f.measureTurned(cell, r.Least, 2*t.Pad+r.Above), true
		} else {
			c = f.measureCell(cell.Nodes, max(width-2*t.Inset, 1), fit.size, tail)
		}
		for _, node := range cell.Nodes {
			if _, ok := node.(*Entry); ok {
				m.entry = true
			}
		}
		m.cells = append(m.cells, c)
		if cell.Down <= 1 {
			m.height = max(m.height, c.height)
		}
	}
	f.overflows(t.Block)
	m.height = max(m.height+2*t.Pad+r.Above, r.Least)
	if r.Joined {
		m.height -= t.Pad
	}
	return m
}

func (f *flow) leastTable(t *Table) float64 {
	_, ws := f.columns(t, f.paper.Left, f.width())
	h := 0.0
	look := func(r *Row) float64 {
		m := f.measureRow(t, r, ws)
		f.rows[r] = m
		return m.height
	}
	if t.Header != nil {
		h += look(t.Header)
	}
	for i := range t.Rows {
		h += min(look(&t.Rows[i]), splitRoom)
		if i >= t.Headers && !t.keeps(i) {
			break
		}
	}
	return h
}

// mostHeader is the part of a page's height up to which a table's header is repeated: a higher one would leave no room for
// rows, and is set once.
const mostHeader = 0.4

func (f *flow) table(t *Table, rest []Node) {
	f.space(t.Before)
	_, ws := f.columns(t, f.paper.Left, f.width())
	parent := f.out.Root
	if !t.Layout {
		parent = parent.add("Table")
	}
	var header *headRows
	if (t.Header != nil || t.Headers > 0) && f.left() < f.leastTable(t) && !f.atTop() {
		f.newPage()
	}
	if t.Header != nil {
		header = f.headed(t, []*Row{t.Header}, ws, parent)
	}
	if t.Continued != nil {
		if header == nil {
			header = &headRows{}
		}
		header.continued = t.Continued
		header.height += height(f.lines(t.Continued, f.width())) + t.Continued.After
	}
	first := 0
	if t.Headers > 0 {
		first = min(max(t.Headers, t.together(t.Headers-1)+t.Headers-1), len(t.Rows))
		header = f.headed(t, pointers(t.Rows[:first]), ws, parent)
	}
	for i := first; i < len(t.Rows); i++ {
		if n := t.together(i); n > 1 {
			f.group(t, pointers(t.Rows[i:i+n]), ws, header, parent, false)
			i += n - 1
		} else {
			m := f.measureRow(t, &t.Rows[i], ws)
			f.begin(t, &m, parent, false)
			f.row(t, &m, header, f.kept(t, i, ws, rest))
		}
		if len(f.out.Pages) > MaxPages {
			return
		}
	}
	f.space(t.After)
}

func pointers(rows []Row) []*Row {
	out := make([]*Row, len(rows))
	for i := range rows {
		out[i] = &rows[i]
	}
	return out
}

// headRows are the rows that head a table.
type headRows struct {
	rows      []rowLines
	continued *Paragraph // over them
	height    float64
}

// headed sets the rows that head a table, and gives them where they are repeated.
func (f *flow) headed(t *Table, rows []*Row, ws []float64, parent *Element) *headRows {
	h := &headRows{rows: f.group(t, rows, ws, nil, parent, true)}
	for _, m := range h.rows {
		h.height += m.height
	}
	if h.height > (f.bottom-f.top)*mostHeader {
		return nil
	}
	return h
}

// group sets rows that cells reach over, on one page where they fit one; else each stands for itself.
func (f *flow) group(t *Table, of []*Row, ws []float64, header *headRows, parent *Element, heads bool) []rowLines {
	n := len(of)
	rows := make([]rowLines, n)
	for k := range rows {
		rows[k] = f.measureRow(t, of[k], ws)
		f.begin(t, &rows[k], parent, heads)
	}
	heights := func(from, to int) float64 {
		h := 0.0
		for _, m := range rows[from:to] {
			h += m.height
		}
		return h
	}
	for k := range rows {
		for c := range rows[k].cells {
			if end := min(k+of[k].Cells[c].Down, n); end > k+1 {
				rows[end-1].height += max(rows[k].cells[c].height+2*t.Pad-heights(k, end), 0)
			}
		}
	}
	rows[0].height += max(t.Least-heights(0, n), 0)
	full := f.bottom - f.top
	if header != nil {
		full -= header.height
	}
	total := heights(0, n)
	for k := range rows {
		total += f.owes(&rows[k])
	}
	if total > full {
		for k := range rows {
			rows[k].alone(t)
			f.row(t, &rows[k], header, 0)
		}
		return rows
	}
	if total > f.left()+0.01 {
		f.nextPage(t, header)
	}
	y := f.y
	for k := range rows { // the colours of all rows lie under what reaches into them
		if fill := rows[k].row.Fill; fill != nil {
			f.draw(&Box{X: f.paper.Left, Y: y, W: f.width(), H: rows[k].height, Colour: *fill})
			rows[k].filled = true
		}
		y += rows[k].height
	}
	for k := range rows {
		for c := range rows[k].cells {
			if end := min(k+of[k].Cells[c].Down, n); end > k+1 {
				rows[k].cells[c].reach = heights(k+1, end)
			}
		}
		f.whole(t, &rows[k], f.paper.Left, f.width())
	}
	return rows
}

// kept is the height of what must stay on the page of a row, after it.
func (f *flow) kept(t *Table, i int, ws []float64, rest []Node) float64 {
	h := 0.0
	for ; i < len(t.Rows) && t.keeps(i); i++ {
		if i+1 == len(t.Rows) {
			return h + t.After + f.leastOf(rest)
		}
		m := f.measureRow(t, &t.Rows[i+1], ws)
		f.rows[&t.Rows[i+1]] = m
		h += min(m.height, splitRoom)
	}
	return h
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
		if m.row.Cells[i].Covered {
			continue
		}
		if t.Layout {
			e = tr.add(unsaid) // keeps what flows down a column together, though its neighbour is drawn in between
		} else {
			e = tr.add("TD")
			if e.artifact {
				c.element = e
				continue
			}
			if header {
				e.Role, e.Scope = "TH", "Column"
			} else if m.row.Cells[i].Heads {
				e.Role, e.Scope = "TH", "Row"
			}
			e.Span, e.Down = m.row.Cells[i].Span, m.row.Cells[i].Down
		}
		c.element = e
	}
}

// splitRoom is the room at a page's foot from which a tall row is split rather than moved.
const splitRoom = 64

// row puts a row on the page, on the next one, or splits it between them. kept is the room needed below it.
func (f *flow) row(t *Table, m *rowLines, header *headRows, kept float64) {
	full := f.bottom - f.top
	if header != nil {
		full -= header.height
	}
	owed := f.owes(m)
	kept += owed
	if kept > 0 && m.height+kept > f.left()+0.01 && m.height+kept <= full && !f.atTop() {
		f.nextPage(t, header)
	}
	for m.height > f.left()+0.01 {
		if len(f.out.Pages) > MaxPages {
			return
		}
		atTop := f.atTop() || header != nil && f.y <= f.top+header.height+0.01
		if (m.row.Whole || owed > 0) && !atTop && m.height <= full {
			f.nextPage(t, header)
			continue
		}
		splits := !m.entry && atTop || !m.entry && f.left() >= splitRoom && (m.height > 1.5*splitRoom || m.height > full)
		if m.entry && atTop {
			break // taller than a page: it is drawn as far as there is paper
		}
		if splits && f.part(t, m, atTop) {
			return
		}
		f.nextPage(t, header)
	}
	f.whole(t, m, f.paper.Left, f.width())
}

// nextPage begins a page inside a table: its header is drawn again, as an artifact.
func (f *flow) nextPage(t *Table, header *headRows) {
	f.newPage()
	if header == nil {
		return
	}
	if p := header.continued; p != nil {
		for _, l := range f.lines(p, f.width()) {
			f.line(l, p, f.paper.Left, nil)
			f.y += l.height
		}
		f.y += p.After
	}
	for _, m := range header.rows {
		again := rowLines{row: m.row, height: m.height, cells: make([]cellLines, len(m.cells))}
		for i, c := range m.cells {
			again.cells[i] = cellLines{slices: c.slices, height: c.height, width: c.width, reach: c.reach}
		}
		f.whole(t, &again, f.paper.Left, f.width())
	}
}

// part draws as many slices of each cell as fit and keeps the rest in m. It reports
// whether nothing is left. At a page's top each cell gives at least one slice, so that it always ends.
func (f *flow) part(t *Table, m *rowLines, atTop bool) bool {
	around := 2*t.Pad + m.row.Above
	room := f.left() - around
	counts := make([]int, len(m.cells))
	some := false
	for i := range m.cells {
		counts[i] = m.cells[i].fittingSlices(room)
		some = some || counts[i] > 0
		if counts[i] == 0 && len(m.cells[i].slices) > 0 && !atTop {
			return false // a question stays with its answer
		}
	}
	head := rowLines{row: m.row, cells: make([]cellLines, len(m.cells))}
	rest := 0.0
	for i := range m.cells {
		c := &m.cells[i]
		n := counts[i]
		if !some && atTop && len(c.slices) > 0 {
			n = 1
		}
		head.cells[i] = c.take(n)
		head.height = max(head.height, head.cells[i].height)
		rest = max(rest, c.height)
	}
	if head.height > 0 {
		head.height += around
		f.whole(t, &head, f.paper.Left, f.width())
		for i := range m.cells { // lists and paragraphs that were begun go on
			m.cells[i].lists, m.cells[i].begun, m.cells[i].leaf = head.cells[i].lists, head.cells[i].begun, head.cells[i].leaf
		}
	}
	m.height = rest + around
	return rest == 0
}

// whole draws a row, or the part of one that fits, at the present y.
func (f *flow) whole(t *Table, m *rowLines, x, width float64) {
	top := f.y
	xs, ws := f.columns(t, x, width)
	x, width = t.span(x, width)
	if m.row.Fill != nil && !m.filled {
		f.draw(&Box{X: x, Y: top, W: width, H: m.height, Colour: *m.row.Fill})
	}
	f.placedAt(t.Block, x, top, width, m.height)
	at := 0
	for i := range m.cells {
		c := &m.cells[i]
		cell := &m.row.Cells[i]
		last := at + cell.spanned(at, len(xs)) - 1
		if cell.Fill != nil {
			f.draw(&Box{X: xs[at] - t.Gap/2, Y: top, W: xs[last] + ws[last] - xs[at] + t.Gap, H: m.height + c.reach, Colour: *cell.Fill})
		}
		if cell.Above != nil && c.element != nil {
			f.draw(&Box{X: xs[at], Y: top, W: xs[last] + ws[last] - xs[at], H: aboveRule, Colour: *cell.Above})
		}
		high := m.height + c.reach - 2*t.Pad - m.row.Above
		if f.y = top + t.Pad + m.row.Above; cell.Turn != 0 {
			f.turnedNodes(cell.Nodes, c.element, cell.Turn, cell.Stand, xs[at], f.y, xs[last]+ws[last]-xs[at], high)
		} else {
			f.y += shifted(cell.Stand, high-c.height)
			f.drawCell(c, xs[at]+t.Inset)
		}
		if cell.Edges != nil && !cell.Covered {
			f.ruled(xs[at], top, xs[last]+ws[last], top+m.height+c.reach, *cell.Edges)
		}
		if t.Grid != nil && !cell.Covered {
			f.edges(xs[at]-t.Gap/2, top, xs[last]+ws[last]-xs[at]+t.Gap, m.height+c.reach, *t.Grid)
		}
		at = last + 1
	}
	f.y = top + m.height
	f.noteRow(m)
	if e := m.row.Under; e.Width > 0 {
		f.draw(&Box{X: x, Y: f.y - e.Width, W: width, H: e.Width, Colour: e.Colour})
		return
	}
	if t.Line != nil && !m.row.Joined {
		f.draw(&Box{X: x, Y: f.y - 0.5, W: width, H: 0.5, Colour: *t.Line})
	}
}

// aboveRule is the thickness of a rule over a cell.
const aboveRule = 1.2

// edges draws hairlines around a cell.
func (f *flow) edges(x, y, w, h float64, c Colour) {
	const hair = 0.5
	f.draw(
		&Box{X: x, Y: y - hair/2, W: w, H: hair, Colour: c}, &Box{X: x, Y: y + h - hair/2, W: w, H: hair, Colour: c},
		&Box{X: x - hair/2, Y: y, W: hair, H: h, Colour: c}, &Box{X: x + w - hair/2, Y: y, W: hair, H: h, Colour: c},
	)
}
