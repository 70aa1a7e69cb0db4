package typeset

// begins begins a section: its pages have their own size, margins and running words.
func (f *flow) begins(s *Section) {
	f.section, f.paper, f.lists = s, s.Page, nil
	clear(f.cache) // lines that were looked at for another width
	clear(f.rows)
	clear(f.fits)
	if f.atTop() && len(f.out.Pages) > 0 && len(f.sheet().Items) == 0 {
		f.out.Pages = f.out.Pages[:len(f.out.Pages)-1]
	}
	f.newPage()
	f.fresh = true
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
func (f *flow) measuredNodes(nodes []Node, page, pages int) cellLines {
	f.bare = true
	c := f.measureCell(countedNodes(nodes, page, pages), f.width(), 0, 0)
	f.bare = false
	return c
}

// runsNodes draws what runs on a page at a height.
func (f *flow) runsNodes(block string, nodes []Node, y float64, pages int) {
	c := f.measuredNodes(nodes, f.page()+1, pages)
	f.y = y
	f.drawCell(&c, f.paper.Left)
	f.placed(block, y, f.y-y)
}

// countedNodes are nodes with the numbers of pages in their places.
func countedNodes(nodes []Node, page, pages int) []Node {
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
