package typeset

import (
	"cmp"
	"math"
	"slices"
)

// Fit is how a table finds its columns' widths.
type Fit int

// The ways. Tables that fit their content break no word and no amount where other widths, then smaller type, then a page on
// its side can help.
const (
	Shares  Fit = iota // by Table.Columns alone
	Floored            // by Table.Columns, but no column narrower than its longest word
	Content            // between the longest word and the longest line of each column, as CSS 2.2 section 17.5.2.2 lays tables out
)

// leastType is down to how small a part of its size a table's type is set rather than a word broken.
const leastType = 0.85

// fitted is how a table is set in a width.
type fitted struct {
	widths []float64 // of the columns, without the gaps; nil where they go by shares
	size   float64   // of its type, as a part of what it asks for
	tails  []float64 // of each column: the widest part of a number behind its decimal point, at full size
	narrow int       // how many columns are narrower than a word or a number in them, still
}

// extent is what the words of a column ask for, in points at full size.
type extent struct {
	least  float64 // the longest word
	pieces float64 // the longest part of one, where addresses are parted after their signs
	most   float64 // the longest line
	head   float64 // of numbers: the widest part before the decimal point
	tail   float64
	inset  float64 // what keeps the words off their column's edges, whatever their size
	ends   bool    // its numbers stand at the end: it takes no more than it needs
}

// need is the least width of a column at a size of its type.
func (e extent) need(size float64, pieces bool) float64 {
	least := e.least
	if pieces {
		least = e.pieces
	}
	return e.inset + size*max(least, e.head+e.tail)
}

// fitting is how a table is set in a width of the present page.
func (f *flow) fitting(t *Table, width float64) fitted {
	if t.Fit == Shares {
		return fitted{}
	}
	if known, ok := f.fits[t]; ok && known.width == width {
		return known.fitted
	}
	out := f.ladder(t, width)
	f.fits[t] = fittedTo{width, out}
	return out
}

// fittedTo is a table's fit to a width.
type fittedTo struct {
	width float64
	fitted
}

// ladder takes the first measure that helps: columns, then smaller type, then the breaks of addresses.
func (f *flow) ladder(t *Table, width float64) fitted {
	columns := f.extents(t)
	out := fitted{tails: make([]float64, len(columns))}
	for i, c := range columns {
		out.tails[i] = c.tail
	}
	room := width - t.Gap*float64(len(columns)-1)
	for _, pieces := range []bool{false, true} {
		for out.size = 1; out.size > leastType-0.01; out.size -= 0.05 {
			if out.widths = t.divide(columns, room, out.size, pieces); out.widths != nil {
				return out
			}
		}
	}
	out.size, out.widths = leastType, squeeze(columns, room)
	for i, c := range columns {
		if out.widths[i] < c.need(leastType, true)-0.01 {
			out.narrow++
		}
	}
	return out
}

// divide gives columns what they need of a room, and shares the rest; nil where they need more.
func (t *Table) divide(columns []extent, room, size float64, pieces bool) []float64 {
	out := make([]float64, len(columns))
	sum := 0.0
	for i, c := range columns {
		out[i] = c.need(size, pieces)
		sum += out[i]
	}
	if sum > room+0.01 {
		return nil
	}
	if t.Fit == Floored {
		return t.floored(out, room)
	}
	wish, all := make([]float64, len(columns)), 0.0
	for i, c := range columns {
		wish[i] = max(min(c.inset+size*c.most, room)-out[i], 0)
		all += wish[i]
	}
	free := room - sum
	if all > free {
		for i := range out {
			out[i] += free * wish[i] / all
		}
		return out
	}
	words := 0.0 // what is left over goes to the columns of words, or to all
	for i := range out {
		out[i] += wish[i]
		if !columns[i].ends {
			words += out[i]
		}
	}
	over, none := free-all, words == 0
	for i := range out {
		switch {
		case none:
			out[i] += over / float64(len(out))
		case !columns[i].ends:
			out[i] += over * out[i] / words
		}
	}
	return out
}

// floored shares a room by the table's shares, but gives no column less than its floor.
func (t *Table) floored(floors []float64, room float64) []float64 {
	out := slices.Clone(floors)
	held := make([]bool, len(out)) // at its floor
	for {
		free, total := room, 0.0
		for i := range out {
			if held[i] {
				free -= floors[i]
			} else {
				total += t.Columns[i]
			}
		}
		again := false
		for i := range out {
			if held[i] {
				continue
			}
			if out[i] = free * t.Columns[i] / total; out[i] < floors[i] {
				out[i], held[i], again = floors[i], true, true
			}
		}
		if !again {
			return out
		}
	}
}

// mostNumbers is the part of a table's width that numbers are given before words that must be broken anyway.
const mostNumbers = 0.7

// squeeze divides too little room: numbers come first, since a broken one is a wrong one, and of the rest the columns that need
// most are cut first.
func squeeze(columns []extent, room float64) []float64 {
	needs, numbers := make([]float64, len(columns)), 0.0
	for i, c := range columns {
		needs[i] = c.need(leastType, true)
		if c.ends {
			numbers += needs[i]
		}
	}
	out := make([]float64, len(columns))
	level := func(ends bool, room float64) (used float64) {
		var order []int
		for i, c := range columns {
			if c.ends == ends {
				order = append(order, i)
			}
		}
		slices.SortFunc(order, func(a, b int) int { return cmp.Compare(needs[a], needs[b]) })
		for n, i := range order {
			out[i] = min(needs[i], (room-used)/float64(len(order)-n))
			used += out[i]
		}
		return used
	}
	words := level(false, room-min(numbers, mostNumbers*room))
	level(true, room-words)
	return out
}

// extents measures what stands in a table's columns. Cells that cover several columns share out what they need beyond them.
func (f *flow) extents(t *Table) []extent {
	out := make([]extent, len(t.Columns))
	type wide struct {
		at, span int
		extent
	}
	var spanning []wide
	row := func(r *Row, header bool) {
		at := 0
		for i := range r.Cells {
			if at >= len(out) {
				return
			}
			cell := &r.Cells[i]
			span := cell.spanned(at, len(out))
			e := f.extentOf(t, cell.Nodes, header)
			if span > 1 {
				spanning = append(spanning, wide{at, span, e})
			} else {
				out[at].join(e)
			}
			at += span
		}
	}
	if t.Header != nil {
		row(t.Header, true)
	}
	for i := range t.Rows {
		row(&t.Rows[i], false)
	}
	for _, w := range spanning {
		inside := t.Gap * float64(w.span-1)
		var least, pieces, most float64
		for _, c := range out[w.at : w.at+w.span] {
			least, pieces, most = least+c.need(1, false), pieces+c.need(1, true), most+c.inset+c.most
		}
		share := func(need, has float64) float64 { return max(need+w.inset-inside-has, 0) / float64(w.span) }
		for i := w.at; i < w.at+w.span; i++ {
			out[i].least += share(w.least, least)
			out[i].pieces += share(w.pieces, pieces)
			out[i].most += share(w.most, most)
		}
	}
	return out
}

// join takes over what another cell of the column asks for.
func (e *extent) join(o extent) {
	e.least, e.pieces, e.most = max(e.least, o.least), max(e.pieces, o.pieces), max(e.most, o.most)
	e.head, e.tail = max(e.head, o.head), max(e.tail, o.tail)
	e.inset, e.ends = max(e.inset, o.inset), e.ends || o.ends
}

// extentOf is what a cell asks for.
func (f *flow) extentOf(t *Table, nodes []Node, header bool) extent {
	var out extent
	for _, n := range nodes {
		switch n := n.(type) {
		case *Paragraph:
			e := f.asked(n)
			e.inset = n.Indent + 2*t.Inset
			if n.Align == End {
				e.inset += n.Indent // they keep off the edge where they end; the other is as far
				e.ends = !header
			}
			out.join(e)
		case *Picture:
			out.join(extent{most: n.Width, inset: 2 * t.Inset})
		}
	}
	return out
}

// scaled is a paragraph at a part of its size, its numbers kept off the end so that their decimal points stand below each other.
func (f *flow) scaled(p *Paragraph, size, tail float64) *Paragraph {
	if size == 0 {
		size = 1
	}
	pad := 0.0
	if p.Point != 0 && tail > 0 {
		pad = max((tail-f.asked(p).tail)*size, 0)
	}
	if size == 1 && pad == 0 {
		return p
	}
	out := *p
	out.Size, out.Indent = p.Size*size, p.Indent+pad
	if size != 1 {
		out.Runs = slices.Clone(p.Runs)
		for i := range out.Runs {
			out.Runs[i].Size *= size
			out.Runs[i].Spacing *= size
		}
	}
	return &out
}

// leastTurned is the width from which a page may be turned, half a North American letter: labels, cards and envelopes have one
// way up.
const leastTurned = 139 * 72 / 25.4

// turns reports whether a table of the body is set on a page on its side, which one that only arranges never is: no other measure helps,
// and that one leaves at most half as many columns too narrow.
func (f *flow) turns(t *Table) bool {
	upright := f.doc.Page
	if t.Layout || t.Fit == Shares || upright.Width >= upright.Height || upright.Width < leastTurned {
		return false
	}
	across := func(p Page) float64 { return p.Width - p.Left - p.Right }
	narrow := f.fitting(t, across(upright)).narrow
	return narrow > 0 && f.ladder(t, across(upright.turned())).narrow <= narrow/2
}

// turned is the page on its side; its margins stay on their sides of the text.
func (p Page) turned() Page {
	p.Width, p.Height = p.Height, p.Width
	return p
}

// sideways marks the nodes of the body that stand on pages on their side: tables that need it, what is kept with them before,
// and what is kept with their last rows.
func (f *flow) sideways() []bool {
	out := make([]bool, len(f.doc.Body))
	for i, n := range f.doc.Body {
		t, ok := n.(*Table)
		if !ok || !f.turns(t) {
			continue
		}
		out[i] = true
		for k := i - 1; k >= 0 && keepsNext(f.doc.Body[k]); k-- {
			out[k] = true
		}
		if i+1 < len(out) && len(t.Rows) > 0 && t.Rows[len(t.Rows)-1].KeepNext {
			out[i+1] = true
		}
	}
	return out
}

// turn begins a page upright or on its side, where the present one is not so.
func (f *flow) turn(side bool) {
	paper := f.section.Page
	if side {
		paper = paper.turned()
	}
	if math.Abs(paper.Width-f.paper.Width) < 0.01 && math.Abs(paper.Height-f.paper.Height) < 0.01 {
		return
	}
	f.paper = paper
	clear(f.cache) // lines that were looked at for the other width
	clear(f.rows)
	if f.atTop() && len(f.out.Pages) > 0 { // nothing but the ground is on it
		f.out.Pages = f.out.Pages[:len(f.out.Pages)-1]
	}
	f.freshPage()
}
