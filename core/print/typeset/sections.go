package typeset

// begins begins a section: its pages have their own size, margins, columns and running words. rest is what follows.
func (f *flow) begins(s *Section, rest []Node) {
	before := f.section
	f.section, f.lists = s, nil
	clear(f.cache) // lines that were looked at for another width
	clear(f.rows)
	clear(f.fits)
	if s.Continues && len(f.out.Pages) > 0 && before.Page.Width == s.Page.Width && before.Page.Height == s.Page.Height {
		f.y = max(f.y, f.lowest)
		f.paper, f.column = s.columnPaper(0), 0
		f.fresh = f.fresh && f.atTop()
		if s.Columns > 1 {
			f.top = f.y
			f.balance(s, rest)
		}
		return
	}
	if f.atTop() && len(f.out.Pages) > 0 && len(f.sheet().Items) == 0 {
		f.out.Pages = f.out.Pages[:len(f.out.Pages)-1]
	}
	f.paper = s.columnPaper(0)
	f.freshPage()
	f.fresh = true
	f.balance(s, rest)
}

// columnPaper is the page with the margins of a column, counted from 0.
func (s *Section) columnPaper(i int) Page {
	p := s.Page
	if s.Columns < 2 {
		return p
	}
	if len(s.Widths) == s.Columns {
		for _, w := range s.Widths[:i] {
			p.Left += w[0] + w[1]
		}
		p.Right = p.Width - p.Left - s.Widths[i][0]
		return p
	}
	n := float64(s.Columns)
	w := (p.Width - p.Left - p.Right - s.Gap*(n-1)) / n
	p.Left += float64(i) * (w + s.Gap)
	p.Right = p.Width - p.Left - w
	return p
}

// turnTo goes to a column of the section, counted from 0.
func (f *flow) turnTo(column int) {
	f.paper, f.column = f.section.columnPaper(column), column
	if len(f.section.Widths) > 0 { // what was looked at in another width
		clear(f.cache)
		clear(f.rows)
		clear(f.fits)
	}
}

// newPage begins the next column, or where there is none a page.
func (f *flow) newPage() {
	if s := f.section; s.Columns > 1 && f.column+1 < s.Columns {
		f.footnotes()
		f.lowest = max(f.lowest, f.y)
		f.turnTo(f.column + 1)
		f.y, f.fresh = f.top, false
		if f.column+1 == s.Columns {
			f.bottom = f.foot
		}
		return
	}
	f.freshPage()
}

// balance ends the columns before the page does where all that is in them needs less.
func (f *flow) balance(s *Section, rest []Node) {
	if s.Columns < 2 || !s.Balanced {
		return
	}
	var inside []Node
	for _, n := range rest {
		if _, ok := n.(*Section); ok {
			break
		}
		inside = append(inside, n)
	}
	f.bare = true
	c := f.measureCell(inside, f.width(), 0, 0)
	f.bare = false
	tallest := 0.0
	for _, part := range c.slices {
		tallest = max(tallest, part.height)
	}
	if each := c.height/float64(s.Columns) + tallest; f.top+each < f.bottom {
		f.bottom = f.top + each
	}
}

// runningOf is what runs on a page, counted from 0.
func (f *flow) runningOf(page int) *Running {
	s := f.sections[page]
	switch {
	case s.First != nil && (page == 0 || f.sections[page-1] != s):
		return s.First
	case s.Even != nil && page%2 == 1:
		return s.Even
	}
	return &s.Running
}

// measuredNodes measures what runs on pages of a file that was brought.
func (f *flow) measuredNodes(nodes []Node, page string, pages int) cellLines {
	f.bare = true
	c := f.measureCell(countedNodes(nodes, page, pages), f.width(), 0, 0)
	f.bare = false
	return c
}

// runsNodes draws what runs on a page at a height.
func (f *flow) runsNodes(block string, e *Element, nodes []Node, y float64, pages int) {
	c := f.measuredNodes(nodes, f.number, pages)
	s := f.sheet()
	body := s.Items
	s.Items, f.y, c.element = nil, y, e
	f.drawCell(&c, f.paper.Left)
	f.placed(block, y, f.y-y)
	f.cover()
	s.Items = append(s.Items, body...) // it lies below the body
}

// countedNodes are nodes with the numbers of pages in their places.
func countedNodes(nodes []Node, page string, pages int) []Node {
	out := make([]Node, len(nodes))
	for i, n := range nodes {
		switch n := n.(type) {
		case *Paragraph:
			out[i] = counted(n, page, pages)
		case *Table:
			t := *n
			t.Rows = make([]Row, len(n.Rows))
			for r, row := range n.Rows {
				t.Rows[r] = row
				t.Rows[r].Cells = make([]Cell, len(row.Cells))
				for c, cell := range row.Cells {
					cell.Nodes = countedNodes(cell.Nodes, page, pages)
					t.Rows[r].Cells[c] = cell
				}
			}
			out[i] = &t
		default:
			out[i] = n
		}
	}
	return out
}
