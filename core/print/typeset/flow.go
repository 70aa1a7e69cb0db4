package typeset

import (
	"slices"
	"strings"

	"github.com/go-text/typesetting/language"

	"amberseal/core/print/typeset/hyphen"
)

// flow fills pages from top to bottom.
type flow struct {
	*setter
	doc         *Document
	paper       Page // of the present page: the document’s, or that on its side
	out         *Pages
	y           float64
	top, bottom float64     // of the body on the present page, or of its columns
	foot        float64     // of the body on the present page
	column      int         // of the section’s, counted from 0
	lowest      float64     // how far down the columns before it reach
	notes       []cellLines // at the foot of the page or column
	notePaper   Page        // of them
	behind      []Node      // notes that are too long for a page’s foot
	cache       map[*Paragraph][]line
	rows        map[*Row]rowLines
	lists       lists // open in the body
	heights     map[runningOn]runningHeights
	fits        map[*Table]fittedTo
	section     *Section // that of the present page
	opening     *Section // that of the first page, where it has its own
	sections    []*Section
	taken       []taken // of the page, by boxes that words go around
	above       []Item  // that lie over all else on the page
	number      string  // of the page whose header and footer are drawn
	fresh       bool    // the page was begun on purpose: room above its first paragraph stays
}

// runningHeights are those of a header and a footer.
type runningHeights struct{ header, footer float64 }

// runningOn is what runs on pages of a width.
type runningOn struct {
	running *Running
	width   float64
}

// A document whose last page has so little on it is set again with so much less leading, and less room between its parts, and stays so
// where that saves the page; common practice.
const (
	fewLines     = 80 // points: five lines
	closeLeading = 0.97
	closeSpaces  = 0.9
)

// Set lays the document out. The error is TooLong, ErrStopped or nil.
func Set(doc *Document) (*Pages, error) {
	out, few, err := set(doc, 1)
	if err == nil && refers(doc.Body) { // on which page a place is, is known when all are set
		numbered := *doc
		numbered.Body = referred(doc.Body, out.Names)
		doc = &numbered
		out, few, err = set(doc, 1)
	}
	if err != nil || !few || !doc.Closer {
		return out, err
	}
	closer, _, err := set(doc, closeLeading)
	if err != nil || len(closer.Pages) >= len(out.Pages) {
		return out, nil
	}
	if refers(doc.Body) {
		numbered := *doc
		numbered.Body = referred(doc.Body, closer.Names)
		if closer, _, err = set(&numbered, closeLeading); err != nil {
			return out, nil
		}
	}
	return closer, nil
}

// set lays the document out with a part of its leading, and reports whether there are but few lines on the last of several pages.
func set(doc *Document, leading float64) (out *Pages, few bool, err error) {
	s := setters.Get().(*setter)
	s.lang = language.NewLanguage(doc.Language)
	s.hyphens, s.japanese = hyphen.For(doc.Language), strings.HasPrefix(doc.Language, "ja")
	s.cut, s.lacking, s.own, s.closer = "", nil, doc.Families, leading
	s.work, s.done = MostWork, doc.Done
	if doc.Work > 0 {
		s.work = doc.Work
	}
	var at Node
	defer func() {
		switch p := recover(); {
		case p == nil:
		case p == ErrStopped:
			out, err = nil, ErrStopped
		default:
			long, is := p.(TooLong)
			if !is {
				panic(p)
			}
			if at != nil {
				long.Block = at.block()
			}
			out, err = nil, long
		}
	}()
	f := &flow{
		setter: s, doc: doc, paper: doc.Page, fits: map[*Table]fittedTo{}, cache: map[*Paragraph][]line{}, rows: map[*Row]rowLines{},
		heights: map[runningOn]runningHeights{},
		out: &Pages{
			Title: doc.Title, Language: doc.Language,
			Root: &Element{Role: "Document"},
		},
	}
	f.section = &Section{Page: doc.Page, Running: doc.Running, First: doc.First}
	if doc.Opening != nil {
		f.section.Page, f.paper, f.opening = *doc.Opening, *doc.Opening, f.section
	}
	f.freshPage()
	f.fresh = true
	side := f.sideways()
	for i, n := range doc.Body {
		at = n
		if section, ok := n.(*Section); ok {
			f.begins(section, doc.Body[i+1:])
			continue
		}
		f.turn(side[i])
		f.node(n, doc.Body[i+1:])
		if len(f.out.Pages) > MaxPages {
			return nil, false, TooLong{Block: n.block()}
		}
	}
	for i, n := range f.behind {
		f.node(n, f.behind[i+1:])
	}
	few = len(f.out.Pages) > 1 && f.y-f.top <= fewLines && f.sheet().strip == 0
	f.footnotes()
	f.cover()
	f.running()
	f.out.Root.settle()
	s.closer, s.work, s.done = 1, MostWork, nil
	setters.Put(s) // only one that came through: a damaged font may have left it in any state
	return f.out, few, nil
}

func (f *flow) freshPage() {
	if len(f.out.Pages) > MaxPages+1 { // a single node may go on for ever
		panic(TooLong{})
	}
	f.footnotes()
	f.cover()
	if f.section.Columns > 1 {
		f.turnTo(0)
	}
	if f.opening != nil && f.section == f.opening && len(f.out.Pages) == 1 {
		f.section = &Section{Page: f.doc.Page, Running: f.doc.Running}
		f.paper.Top, f.paper.Bottom = f.doc.Page.Top, f.doc.Page.Bottom
	}
	f.lowest = 0
	f.sections, f.fresh = append(f.sections[:len(f.out.Pages)], f.section), false
	f.out.Pages = append(f.out.Pages, Sheet{Width: f.paper.Width, Height: f.paper.Height})
	f.top, f.bottom = f.bounds(f.page())
	f.y, f.foot = f.top, f.bottom
	if g := f.doc.Ground; g != nil {
		f.draw(&Box{W: f.paper.Width, H: f.paper.Height, Colour: *g})
	}
	for i := range f.doc.Backdrop {
		f.backdrop(&f.doc.Backdrop[i])
	}
	f.stamp()
}

// cover ends a page: what lies over all else is drawn.
func (f *flow) cover() {
	if len(f.above) > 0 {
		f.draw(f.above...)
	}
	f.above, f.taken = nil, nil
}

func (f *flow) sheet() *Sheet  { return &f.out.Pages[len(f.out.Pages)-1] }
func (f *flow) atTop() bool    { return f.y <= f.top }
func (f *flow) left() float64  { return f.bottom - f.y }
func (f *flow) width() float64 { return f.paper.Width - f.paper.Left - f.paper.Right }
func (f *flow) page() int      { return len(f.out.Pages) - 1 }
func (f *flow) draw(items ...Item) {
	s := f.sheet()
	s.Items = append(s.Items, items...)
}

// space leaves room, but none at a page's top and never beyond its foot.
func (f *flow) space(h float64) {
	if f.closer < 1 {
		h *= closeSpaces
	}
	if !f.atTop() {
		f.y = min(f.y+h, f.bottom)
	}
}

// placed notes where a block landed in the width of the text.
func (f *flow) placed(block string, y, h float64) {
	f.placedAt(block, f.paper.Left, y, f.width(), h)
}

// placedAt joins a block's parts on the page.
func (f *flow) placedAt(block string, x, y, w, h float64) {
	if block == "" || h <= 0 {
		return
	}
	page := f.page() + 1
	if n := len(f.out.Placements); n > 0 {
		if p := &f.out.Placements[n-1]; p.Block == block && p.Page == page && p.X == x {
			p.H = max(p.Y+p.H, y+h) - p.Y
			return
		}
	}
	f.out.Placements = append(f.out.Placements, Placement{block, page, x, y, w, h})
}

// overflows notes what did not fit while a block was measured.
func (f *flow) overflows(block string) {
	if f.cut != "" {
		f.over(block, WideWord, f.cut)
		f.cut = ""
	}
	f.lacks(block)
}

// lacks notes the letters of a block that no face has.
func (f *flow) lacks(block string) {
	for _, r := range f.lacking {
		i := slices.IndexFunc(f.out.Overflows, func(x Overflow) bool { return x.Block == block && x.What == NoLetter })
		switch {
		case i < 0:
			f.out.Overflows = append(f.out.Overflows, Overflow{block, NoLetter, string(r)})
		case !strings.ContainsRune(f.out.Overflows[i].Words, r):
			f.out.Overflows[i].Words += " " + string(r)
		}
	}
	f.lacking = nil
}

func (f *flow) over(block string, what Overflowing, words string) {
	o := Overflow{block, what, words}
	if !slices.ContainsFunc(f.out.Overflows, func(x Overflow) bool { return x.Block == block && x.What == what }) {
		f.out.Overflows = append(f.out.Overflows, o)
	}
}

func (f *flow) node(n Node, rest []Node) {
	if p, ok := n.(*Paragraph); !ok || p.Role != ListItem {
		f.lists = nil
	}
	if _, ok := n.(*Paragraph); !ok && len(f.taken) > 0 {
		f.under()
	}
	switch n := n.(type) {
	case *Paragraph:
		f.paragraph(n, rest)
	case *Table:
		f.table(n, rest)
	case *Picture:
		f.picture(n, rest)
	case *Entry:
		f.entry(n)
	case *Break:
		if !f.atTop() || n.Always {
			f.placed(n.Block, f.y, 1)
			if n.Column {
				f.newPage()
			} else {
				f.freshPage()
			}
		}
		f.fresh = true
	case *Rule:
		f.space(n.Before)
		need := n.Thickness
		if n.KeepNext {
			need += n.After + f.leastOf(rest)
		}
		if f.left() < need && !f.atTop() {
			f.newPage()
		}
		f.draw(&Box{X: f.paper.Left, Y: f.y, W: n.wide(f.width()), H: n.Thickness, Colour: n.Colour})
		f.placed(n.Block, f.y-2, n.Thickness+4)
		f.y += n.Thickness
		f.space(n.After)
	case *Float:
		f.alone(n)
	case *Space:
		if n.To > 0 {
			f.y = max(f.y, min(n.To, f.bottom))
			return
		}
		if n.KeepNext && n.Height+f.leastOf(rest) > f.left() && !f.atTop() {
			f.newPage()
		}
		y := f.y
		if n.KeepNext {
			f.y = min(f.y+n.Height, f.bottom)
		} else {
			f.space(n.Height)
		}
		f.placed(n.Block, y, f.y-y)
	case *Strip:
		f.strip(n)
	}
}

// wide is how much of a width the rule takes.
func (r *Rule) wide(width float64) float64 {
	if r.Width > 0 {
		return min(r.Width, width)
	}
	return width
}

// measured breaks a paragraph of the body once, also when it is asked for twice.
func (f *flow) measured(p *Paragraph) []line {
	if l, ok := f.cache[p]; ok {
		return l
	}
	l := f.lines(p, f.width())
	f.overflows(p.Block)
	f.cache[p] = l
	return l
}

// leastOf is the height without which the next node should not begin on a page. What keeps with what
// follows it, such as a heading over a question over its answer, needs room for all of them.
func (f *flow) leastOf(rest []Node) float64 {
	if len(rest) == 0 {
		return 0
	}
	with := func(h float64) float64 { return min(h+f.leastOf(rest[1:]), f.bottom-f.top) }
	switch n := rest[0].(type) {
	case *Paragraph:
		if l := f.measured(n); n.KeepNext || n.KeepEnd && len(l) < 2*lonely {
			return with(n.Before + height(l) + n.After)
		}
	case *Picture:
		if n.KeepNext {
			return with(f.least(n) + n.After)
		}
	case *Rule:
		if n.KeepNext {
			return with(n.Before + n.Thickness + n.After)
		}
	case *Space:
		if n.KeepNext {
			return with(n.Height)
		}
	}
	return f.least(rest[0])
}

// lonely is how many lines of a paragraph stand together at least at the foot and at the head of a page.
const lonely = 2

func (f *flow) least(n Node) float64 {
	switch n := n.(type) {
	case *Paragraph:
		l := f.measured(n)
		return n.Before + height(l[:min(lonely, len(l))])
	case *Table:
		return n.Before + f.leastTable(n)
	case *Picture:
		_, h := f.fit(n, f.width())
		if n.Shrink > 0 {
			h *= n.Shrink
		}
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
	lines, width := f.measured(p), f.width()
	delete(f.cache, p)
	if p.Greedy && f.fresh && f.atTop() {
		f.y = min(f.y+p.Before, f.bottom)
	} else {
		f.space(p.Before)
	}
	f.fresh = false
	if p.Whole && height(lines) > f.left() && height(lines) <= f.bottom-f.top && !f.atTop() {
		f.newPage()
	}
	if p.KeepNext && len(rest) > 0 && !f.atTop() && height(lines)+p.After+f.leastOf(rest) > f.left() {
		f.newPage()
	}
	if heading(p) && height(lines) > f.left() && !f.atTop() {
		f.newPage()
	}
	kept := 0.0 // what must stand below the last line
	if p.KeepEnd && len(rest) > 0 {
		kept = p.After + f.leastOf(rest)
	}
	if len(p.Floats) > 0 || len(f.taken) > 0 {
		lines = f.withFloats(p, lines)
	}
	end := 0 // of the words that stand already
	var leaf leaves
	first := true
	for len(lines) > 0 {
		if f.width() != width && (first || end > 0) { // the next column is wider, or not as wide
			p, end, width = p.behindText(end), 0, f.width()
			lines = f.lines(p, width)
		}
		n := f.fittingNoted(p, lines)
		if n == len(lines) && kept > 0 && height(lines)+kept > f.left() && (!f.atTop() || n >= 2*lonely) {
			n = max(n-lonely, 0)
		}
		switch rest := len(lines) - n; {
		case p.Loose && n == 0 && !f.atTop():
			f.newPage()
			continue
		case p.Loose && n > 0:
		case rest > 0 && n < lonely && !f.atTop(): // no lone line at the foot
			f.newPage()
			continue
		case rest == 1 && n > lonely: // no lone line at the head
			n--
		case n == 0:
			n = 1
		}
		for n > 1 && n < len(lines) && lines[n-1].height == 0 { // words on both sides of a box stay together
			n--
		}
		if leaf == nil {
			leaf = f.leaf(p, f.out.Root, &f.lists, f.paper.Left, f.width())
		}
		top := f.y
		f.frame(p, f.paper.Left, f.width(), height(lines[:n]), first, n == len(lines))
		first = false
		for _, l := range lines[:n] {
			f.line(l, p, f.paper.Left, leaf)
			f.y += l.height
		}
		f.placed(p.Block, top, f.y-top)
		f.note(p, lines[:n])
		end = lines[n-1].end
		if lines = lines[n:]; len(lines) > 0 {
			f.newPage()
		}
	}
	f.space(p.After)
}

func heading(p *Paragraph) bool {
	return p.Role == Heading1 || p.Role == Heading2 || p.Role == Heading3
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
