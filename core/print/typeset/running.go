package typeset

import (
	"slices"
	"strconv"
	"strings"
)

// runningGap parts the body from what runs in the margins, and runningEdge keeps that off the paper's edge.
const (
	runningGap  = 10
	runningEdge = 18
)

// footerLine is how far above a footer its hairline lies.
const footerLine = 6

// bounds are where a page's body begins and ends: inside the margins, and clear of what runs in them.
func (f *flow) bounds(page int) (top, bottom float64) {
	r := f.runningOf(page)
	h := f.runningHeights(r)
	p := f.paper
	top, bottom = p.Top, p.Height-p.Bottom
	if r.Head != nil || r.Foot != nil {
		top, bottom = max(top, r.FromTop+h.header), min(bottom, p.Height-r.FromFloor-h.footer)
		if bottom-top < leastBody {
			top, bottom = min(p.Top, p.Height*0.1), max(p.Height-p.Bottom, p.Height*0.9)
		}
		return top, bottom
	}
	if h.header > 0 {
		top = max(top, runningEdge+h.header+runningGap)
	}
	if h.footer > 0 {
		bottom = min(bottom, p.Height-runningEdge-h.footer-runningGap)
	}
	if bottom-top < leastBody {
		f.over(map[bool]string{true: "header", false: "footer"}[h.header >= h.footer], TallRunning, "")
		// What runs in the margins fills the page: the body lies over it
		top, bottom = min(p.Top, p.Height*0.1), max(p.Height-p.Bottom, p.Height*0.9)
	}
	return top, bottom
}

// leastBody is the least height in points that a page leaves to its body.
const leastBody = 36

// runningHeights measures what runs once for all pages: numbers of pages do not make it higher.
func (f *flow) runningHeights(r *Running) runningHeights {
	key := runningOn{r, f.paper.Width}
	if h, ok := f.heights[key]; ok {
		return h
	}
	of := func(paragraphs []Paragraph) float64 {
		h := 0.0
		for i := range paragraphs {
			h += height(f.lines(counted(&paragraphs[i], "1", 1), f.width()))
		}
		return h
	}
	h := runningHeights{header: of(r.Header)}
	if r.Head != nil {
		h.header = f.measuredNodes(r.Head, "1", 1).height
	}
	f.lacks("header")
	h.footer = of(r.Footer)
	if r.Foot != nil {
		h.footer = f.measuredNodes(r.Foot, "1", 1).height
	}
	f.lacks("footer")
	f.cut = ""
	f.heights[key] = h
	return h
}

// running draws the header and footer of each page, now that their number is known. Pages are counted through, but where a section begins
// anew.
func (f *flow) running() {
	all := f.out.Pages
	n := 0
	for i := range all {
		f.out.Pages = all[:i+1]
		s := f.sections[i]
		if n++; s.From != nil && (i == 0 || f.sections[i-1] != s) {
			n = *s.From
		}
		if f.number = strconv.Itoa(n); s.Numeral != nil {
			f.number = s.Numeral(n)
		}
		if f.paper = f.sections[i].Page; all[i].Width != f.paper.Width {
			f.paper = f.paper.turned()
		}
		top, bottom := f.bounds(i)
		r := f.runningOf(i)
		h := f.runningHeights(r)
		if r.Head != nil || r.Foot != nil {
			f.runsNodes("header", headerArtifact, r.Head, r.FromTop, len(all))
			f.runsNodes("footer", footerArtifact, r.Foot, f.paper.Height-r.FromFloor-h.footer, len(all))
			continue
		}
		if s := f.sheet().strip; s > 0 {
			bottom = f.paper.Height - s - 2*runningGap - h.footer
		}
		f.runs("header", headerArtifact, r.Header, top-runningGap-h.header, len(all))
		if r.Line != nil && h.footer > 0 {
			f.draw(&Box{
				Element: footerArtifact, X: f.paper.Left, Y: bottom + runningGap - footerLine, W: f.width(), H: 0.45, Colour: *r.Line,
			})
		}
		f.runs("footer", footerArtifact, r.Footer, bottom+runningGap, len(all))
	}
	f.out.Pages = all
	f.cut, f.lacking = "", nil
}

func (f *flow) runs(block string, e *Element, paragraphs []Paragraph, y float64, pages int) {
	f.y = y
	for i := range paragraphs {
		p := counted(&paragraphs[i], f.number, pages)
		for _, l := range f.lines(p, f.width()) {
			f.line(l, p, f.paper.Left, func(*piece) *Element { return e })
			f.y += l.height
		}
	}
	f.placed(block, y, f.y-y)
}

// refers reports whether nodes hold the page of a place of the document.
func refers(nodes []Node) bool {
	return slices.ContainsFunc(nodes, func(n Node) bool {
		switch n := n.(type) {
		case *Paragraph:
			return slices.ContainsFunc(n.Runs, func(r Run) bool { return r.Counter == PageOfLink })
		case *Table:
			return slices.ContainsFunc(n.Rows, func(r Row) bool {
				return slices.ContainsFunc(r.Cells, func(c Cell) bool { return refers(c.Nodes) })
			})
		}
		return false
	})
}

// referred are nodes with the pages of the places that they lead to.
func referred(nodes []Node, places map[string]Spotted) []Node {
	out := make([]Node, len(nodes))
	for i, n := range nodes {
		out[i] = n
		if !refers(nodes[i : i+1]) {
			continue
		}
		switch n := n.(type) {
		case *Paragraph:
			p := *n
			p.Runs = slices.Clone(n.Runs)
			for k := range p.Runs {
				if r := &p.Runs[k]; r.Counter == PageOfLink {
					r.Text = strconv.Itoa(places[strings.TrimPrefix(r.Link, "#")].Page + 1)
				}
			}
			out[i] = &p
		case *Table:
			t := *n
			t.Rows = slices.Clone(n.Rows)
			for r := range t.Rows {
				t.Rows[r].Cells = slices.Clone(t.Rows[r].Cells)
				for c := range t.Rows[r].Cells {
					t.Rows[r].Cells[c].Nodes = referred(t.Rows[r].Cells[c].Nodes, places)
				}
			}
			out[i] = &t
		}
	}
	return out
}

func counted(p *Paragraph, page string, pages int) *Paragraph {
	q := *p
	q.Runs = slices.Clone(p.Runs)
	for i := range q.Runs {
		switch q.Runs[i].Counter {
		case PageNumber:
			q.Runs[i].Text = page
		case PageCount:
			q.Runs[i].Text = strconv.Itoa(pages)
		}
	}
	return &q
}
