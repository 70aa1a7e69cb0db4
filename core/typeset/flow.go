package typeset

import (
	"math"
	"slices"
	"strconv"

	"github.com/go-text/typesetting/language"
)

// MaxPages is how many pages a document may have; what would come after is left out and
// Set says so.
const MaxPages = 5_000

// TooLong is the error of a document that does not fit MaxPages.
type TooLong struct{}

func (TooLong) Error() string {
	return "the document would have more than " + strconv.Itoa(MaxPages) + " pages"
}

// flow fills pages from top to bottom.
type flow struct {
	*setter
	doc    *Document
	out    *Pages
	y      float64
	bottom float64 // where the body ends, above the footer
	cache  map[*Paragraph][]line
	rows   map[*Row]rowLines
	list   *Element // the open list, if the last paragraph was an item
}

// Set lays the document out. The error is TooLong or nil.
func Set(doc *Document) (*Pages, error) {
	s := setters.Get().(*setter)
	defer setters.Put(s)
	s.lang = language.NewLanguage(doc.Language)
	f := &flow{
		setter: s, doc: doc, cache: map[*Paragraph][]line{}, rows: map[*Row]rowLines{},
		out: &Pages{
			Title: doc.Title, Language: doc.Language, Width: doc.Page.Width, Height: doc.Page.Height,
			Root: &Element{Role: "Document"},
		},
	}
	f.bottom = doc.Page.Height - max(doc.Page.Bottom, f.footerHeight()+footerGap+18)
	f.newPage()
	for i, n := range doc.Body {
		f.node(n, doc.Body[i+1:])
		if len(f.out.Pages) > MaxPages {
			return nil, TooLong{}
		}
	}
	f.footers()
	return f.out, nil
}

func (f *flow) newPage() {
	f.out.Pages = append(f.out.Pages, Sheet{})
	f.y = f.doc.Page.Top
	if g := f.doc.Ground; g != nil {
		f.draw(&Box{W: f.doc.Page.Width, H: f.doc.Page.Height, Colour: *g})
	}
	f.stamp()
}

// stamp sets a line across the page, behind its text. It is an artifact.
func (f *flow) stamp() {
	p := f.doc.Stamp
	if p == nil {
		return
	}
	w, h := f.doc.Page.Width, f.doc.Page.Height
	turn := math.Atan2(h, w)
	diagonal := math.Hypot(w, h)
	lines := f.lines(p, diagonal)
	if len(lines) == 0 {
		return
	}
	l := lines[0]
	// The line's middle stands on the page's middle.
	start, drop := -l.width/2, l.ascent*0.35
	for i := range l.pieces {
		g := l.pieces[i].glyphs
		along := start + l.pieces[i].x - l.pieces[0].x
		g.X = w/2 + along*math.Cos(turn) + drop*math.Sin(turn)
		g.Y = h/2 - along*math.Sin(turn) + drop*math.Cos(turn)
		g.Turn = turn * 180 / math.Pi
		f.draw(&g)
	}
}

func (f *flow) sheet() *Sheet  { return &f.out.Pages[len(f.out.Pages)-1] }
func (f *flow) atTop() bool    { return f.y <= f.doc.Page.Top }
func (f *flow) left() float64  { return f.bottom - f.y }
func (f *flow) width() float64 { return f.doc.Page.Width - f.doc.Page.Left - f.doc.Page.Right }
func (f *flow) page() int      { return len(f.out.Pages) - 1 }
func (f *flow) draw(items ...Item) {
	s := f.sheet()
	s.Items = append(s.Items, items...)
}

// space leaves room, but none at a page's top and never beyond its foot.
func (f *flow) space(h float64) {
	if !f.atTop() {
		f.y = min(f.y+h, f.bottom)
	}
}

// placed notes where a block landed, joining its parts on the page.
func (f *flow) placed(block string, y, h float64) {
	if block == "" || h <= 0 {
		return
	}
	page := f.page() + 1
	if n := len(f.out.Placements); n > 0 {
		if p := &f.out.Placements[n-1]; p.Block == block && p.Page == page {
			p.H = max(p.Y+p.H, y+h) - p.Y
			return
		}
	}
	f.out.Placements = append(f.out.Placements, Placement{block, page, f.doc.Page.Left, y, f.width(), h})
}

func (f *flow) node(n Node, rest []Node) {
	if p, ok := n.(*Paragraph); !ok || p.Role != ListItem {
		f.list = nil
	}
	switch n := n.(type) {
	case *Paragraph:
		f.paragraph(n, rest)
	case *Table:
		f.table(n)
	case *Picture:
		f.picture(n)
	case *Entry:
		f.entry(n)
	case *Break:
		if !f.atTop() {
			f.placed(n.Block, f.y, 1)
			f.newPage()
		}
	case *Rule:
		f.space(n.Before)
		if f.left() < n.Thickness {
			f.newPage()
		}
		f.draw(&Box{X: f.doc.Page.Left, Y: f.y, W: f.width(), H: n.Thickness, Colour: n.Colour})
		f.placed(n.Block, f.y-2, n.Thickness+4)
		f.y += n.Thickness
		f.space(n.After)
	case *Space:
		y := f.y
		f.space(n.Height)
		f.placed(n.Block, y, f.y-y)
	}
}

// measured breaks a paragraph of the body once, also when it is asked for twice.
func (f *flow) measured(p *Paragraph) []line {
	if l, ok := f.cache[p]; ok {
		return l
	}
	l := f.lines(p, f.width())
	f.cache[p] = l
	return l
}

// leastOf is the height without which the next node should not begin on a page. What keeps with what
// follows it, such as a heading over a question over its answer, needs room for all of them.
func (f *flow) leastOf(rest []Node) float64 {
	if len(rest) == 0 {
		return 0
	}
	if p, ok := rest[0].(*Paragraph); ok && p.KeepNext {
		return min(p.Before+height(f.measured(p))+p.After+f.leastOf(rest[1:]), f.bottom-f.doc.Page.Top)
	}
	return f.least(rest[0])
}

func (f *flow) least(n Node) float64 {
	switch n := n.(type) {
	case *Paragraph:
		l := f.measured(n)
		return n.Before + height(l[:min(2, len(l))])
	case *Table:
		return n.Before + f.leastTable(n)
	case *Picture:
		_, h := f.fit(n, f.width())
		return n.Before + h
	case *Entry:
		return n.Before + n.Height
	}
	return 0
}

func height(lines []line) float64 {
	h := 0.0
	for _, l := range lines {
		h += l.height
	}
	return h
}

func (f *flow) paragraph(p *Paragraph, rest []Node) {
	lines := f.measured(p)
	delete(f.cache, p)
	f.space(p.Before)
	if p.KeepNext && len(rest) > 0 && !f.atTop() && height(lines)+p.After+f.leastOf(rest) > f.left() {
		f.newPage()
	}
	leaf := f.leaf(p)
	if p.Role == Heading1 || p.Role == Heading2 || p.Role == Heading3 {
		if height(lines) > f.left() {
			f.newPage()
		}
		f.out.Outline = append(f.out.Outline, Heading{int(p.Role[1] - '0'), plainText(p.Runs), f.page(), f.y})
	}
	for len(lines) > 0 {
		n := fitting(lines, f.left())
		switch rest := len(lines) - n; {
		case rest > 0 && n < 2 && !f.atTop(): // no lone line at the foot
			f.newPage()
			continue
		case rest == 1 && n > 2: // no lone line at the head
			n--
		case n == 0:
			n = 1
		}
		top := f.y
		for _, l := range lines[:n] {
			f.line(l, p, f.doc.Page.Left, leaf)
			f.y += l.height
		}
		f.placed(p.Block, top, f.y-top)
		if lines = lines[n:]; len(lines) > 0 {
			f.newPage()
		}
	}
	f.space(p.After)
}

// fitting counts the lines that fit a height.
func fitting(lines []line, room float64) int {
	h := 0.0
	for i, l := range lines {
		if h += l.height; h > room+0.01 {
			return i
		}
	}
	return len(lines)
}

// leaf makes the elements of a paragraph; the function gives the one of a run.
func (f *flow) leaf(p *Paragraph) func(run int) *Element {
	if p.Role == ListItem {
		if f.list == nil {
			f.list = f.out.Root.add("L")
		}
		item := f.list.add("LI")
		label := item.add("Lbl")
		f.marker(p, label)
		return leafOf(item.add("LBody"), p)
	}
	return leafOf(f.out.Root.add(string(p.Role)), p)
}

// leafOf gives a paragraph without links one element, and one with links a span or a link
// for each run, so that an element has kids or items and never both.
func leafOf(e *Element, p *Paragraph) func(run int) *Element {
	if !slices.ContainsFunc(p.Runs, func(r Run) bool { return r.Link != "" }) {
		return func(int) *Element { return e }
	}
	made := make([]*Element, len(p.Runs))
	return func(run int) *Element {
		if made[run] == nil {
			role := "Span"
			if p.Runs[run].Link != "" {
				role = "Link"
			}
			made[run] = e.add(role)
		}
		return made[run]
	}
}

// marker sets a list item's mark in its indent, on the line that comes next.
func (f *flow) marker(p *Paragraph, label *Element) {
	mark := *p
	mark.Runs, mark.Indent, mark.Align = []Run{{Text: p.Marker, Colour: p.Runs[0].Colour}}, 0, Start
	l := f.lines(&mark, p.Indent)
	if len(l) == 0 || f.left() < l[0].height {
		f.newPage()
	}
	f.line(l[0], &mark, f.doc.Page.Left+p.Indent-min(14, p.Indent), func(int) *Element { return label })
}

// line draws one line with its top at the present y.
func (f *flow) line(l line, p *Paragraph, x float64, leaf func(run int) *Element) {
	s := f.sheet()
	base := f.y + l.ascent
	for i := range l.pieces {
		piece := &l.pieces[i]
		g := piece.glyphs
		g.X, g.Y = x+piece.x, base
		if leaf != nil {
			g.Element = leaf(piece.run)
		}
		r := p.Runs[piece.run]
		if r.Underline || r.Link != "" {
			s.Items = append(s.Items, &Box{X: g.X, Y: base + g.Size*0.12, W: g.Width, H: g.Size * 0.05, Colour: g.Colour})
		}
		s.Items = append(s.Items, &g)
		if r.Link != "" && g.Element != nil {
			s.Links = append(s.Links, Link{g.Element, g.X, f.y, g.Width, l.height, r.Link})
		}
	}
}

// fit is the size of a picture in a width: at most what it asks for and what a page holds.
func (f *flow) fit(p *Picture, width float64) (w, h float64) {
	maxW, maxH := p.Width, p.Height
	if maxW <= 0 || maxW > width {
		maxW = width
	}
	full := f.bottom - f.doc.Page.Top
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

func (f *flow) picture(p *Picture) {
	w, h := f.fit(p, f.width())
	f.space(p.Before)
	if h > f.left()+0.01 {
		f.newPage()
	}
	x := f.doc.Page.Left
	switch p.Align {
	case Center:
		x += (f.width() - w) / 2
	case End:
		x += f.width() - w
	}
	f.pictureAt(p, f.out.Root, x, w, h)
	f.placed(p.Block, f.y, h)
	f.y += h
	f.space(p.After)
}

func (f *flow) pictureAt(p *Picture, parent *Element, x, w, h float64) {
	e := parent.add("Figure")
	e.Alt, e.Page = p.Alt, f.page()
	e.BBox = &[4]float64{x, f.y, x + w, f.y + h}
	if d := p.Drawing; d != nil {
		f.draw(&DrawingAt{e, x, f.y, w / d.Width, d})
		return
	}
	f.draw(&ImageAt{e, x, f.y, w, h, p.Image})
}

const footerGap = 10

func (f *flow) footerHeight() float64 {
	h := 0.0
	for i := range f.doc.Footer {
		p := f.counted(&f.doc.Footer[i], 1, 1)
		h += height(f.lines(p, f.width()))
	}
	return h
}

// footers draws the foot of each page, now that their number is known. It is an artifact.
func (f *flow) footers() {
	if len(f.doc.Footer) == 0 {
		return
	}
	all := f.out.Pages
	for i := range all {
		f.out.Pages = all[:i+1]
		f.y = f.bottom + footerGap
		for j := range f.doc.Footer {
			p := f.counted(&f.doc.Footer[j], i+1, len(all))
			for _, l := range f.lines(p, f.width()) {
				f.line(l, p, f.doc.Page.Left, nil)
				f.y += l.height
			}
		}
		f.placed("footer", f.bottom+footerGap, f.y-f.bottom-footerGap)
	}
	f.out.Pages = all
}

func (f *flow) counted(p *Paragraph, page, pages int) *Paragraph {
	q := *p
	q.Runs = slices.Clone(p.Runs)
	for i := range q.Runs {
		switch q.Runs[i].Counter {
		case PageNumber:
			q.Runs[i].Text = strconv.Itoa(page)
		case PageCount:
			q.Runs[i].Text = strconv.Itoa(pages)
		}
	}
	return &q
}
