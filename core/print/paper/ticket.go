package paper

import (
	"math"
	"slices"

	"amberseal/core/foreign"
	"amberseal/core/print/paper/code"
	"amberseal/core/print/typeset"
)

// A ticket's measures in millimetres, of one that is as wide as A4; on other paper they keep their proportion to its width.
const (
	ticketWide = 210.0
	ticketHigh = 100.0
	ticketBand = 23.0
	ticketGap  = 9.5
	ticketStub = 50.0
	ticketFoot = 7.0
)

// Papers that a ticket is drawn on: those at least so wide, and across; and sheets so high that it is a strip of them.
const (
	leastTicket = 130.0
	sheetHigh   = 240.0
)

// mostTerms is how many characters of words stand in a ticket at most; longer ones follow it.
const mostTerms = 420

// ticket is what is gathered for the parts of one.
type ticket struct {
	band, body, terms, stub []typeset.Node
	rest                    []Block
}

// ticketOpens sets what the document begins with as a ticket, and gives the blocks that follow it.
func (b *binder) ticketOpens(blocks []Block) []Block {
	page := b.shared.out.Page
	strip := page.Height >= sheetHigh*millimetre
	if b.doc.Page.Printed.files() { // the paper has a head of its own
		return blocks
	}
	if page.Width < leastTicket*millimetre || !strip && page.Width < page.Height {
		return blocks
	}
	by := min(page.Width/(ticketWide*millimetre), 1) * millimetre
	large := *b
	if !strip {
		large.style = b.style.scaled(max(math.Sqrt(page.Height/(ticketHigh*by)), 1))
	}
	t := large.opensWith(blocks, by)
	if len(t.body) == 0 {
		return blocks
	}
	if !strip && b.facts.Corrects(b.doc) { // it has no footer that could say so
		p := b.paragraph("", typeset.Plain, plain(b.facts.Locale().Replaces(b.facts.Revision)), b.style.fixed(8), b.ink)
		p.Family = labelFamily
		t.terms = append(t.terms, p)
	}
	high := ticketHigh * by
	if !strip {
		high = page.Height
	}
	first := page
	first.Top = 0
	if !strip {
		first.Bottom = 0
	}
	b.shared.out.Page, b.shared.out.Opening = first, nil
	b.add(b.drawn(t, by, high, strip))
	if strip {
		b.add(&typeset.Space{To: high + 9*millimetre})
		b.add(&typeset.Section{Page: page, Continues: true, Running: b.running(Running{b.doc.Header, b.doc.Footer})})
		b.shared.out.First = &typeset.Running{Footer: b.running(Running{Footer: b.opening().Footer}).Footer}
		return t.rest
	}
	b.shared.out.First = &typeset.Running{}
	following := b.inside(func(b *binder) { b.blocks(t.rest) })
	if len(following) > 0 {
		b.add(&typeset.Section{Page: page, Running: b.running(Running{b.doc.Header, b.doc.Footer})})
		*b.within = append(*b.within, following...)
	}
	return nil
}

// opening is what runs on the first page.
func (b *binder) opening() Running {
	if b.doc.First != nil {
		return *b.doc.First
	}
	return Running{b.doc.Header, b.doc.Footer}
}

// opensWith sorts what the document begins with: the house, the title and facts, a few words, and the first code there is. by is a
// millimetre of the ticket in points.
func (b *binder) opensWith(blocks []Block, by float64) ticket {
	var t ticket
	words, open, coded := 0, true, false
	small := *b
	small.style.text, small.style.leading = b.style.fixed(8), 1.35
	small.family, small.ink = labelFamily, softInk
	for _, x := range blocks {
		if x.Kind == Code && x.Symbology != code.Payment && x.Each == "" && !coded && b.facts.Condition(x.When) {
			x.Width = min(max(x.Width, 30), (ticketStub-2*ticketGap)*by/millimetre)
			x.Align = "center"
			if nodes := b.inside(func(b *binder) { b.once(x) }); len(nodes) > 0 {
				t.stub, coded = nodes, true
				continue
			}
		}
		if open = open && x.Each == ""; !open {
			t.rest = append(t.rest, x)
			continue
		}
		switch {
		case x.Kind == Letterhead && t.band == nil:
			t.band = b.ticketBand(x, by)
			t.body = append(t.body, b.inside(func(b *binder) { b.addressed(x) })...)
		case x.Kind == Heading && len(t.terms) == 0, x.Kind == Facts:
			sub := *b
			sub.inTicket = true
			if len(t.body) == 0 {
				t.body = append(t.body, b.label("", b.facts.Intake, b.labelInk))
			}
			t.body = append(t.body, sub.inside(func(b *binder) { b.block(x) })...)
		case x.Kind == Text && words+len(plainWords(x, b)) <= mostTerms:
			words += len(plainWords(x, b))
			t.terms = append(t.terms, small.inside(func(b *binder) { b.block(x) })...)
		case (x.Kind == Rule || x.Kind == Space) && len(t.terms) > 0:
			t.terms = append(t.terms, small.inside(func(b *binder) { b.block(x) })...)
		case x.Kind == Rule, x.Kind == Space:
			t.body = append(t.body, b.inside(func(b *binder) { b.block(x) })...)
		default:
			open = false
			t.rest = append(t.rest, x)
		}
	}
	if t.band == nil {
		t.band = b.ticketBand(Block{}, by)
	}
	t.stub = append(t.stub, b.stubWords()...)
	return t
}

func plainWords(x Block, b *binder) string {
	out := ""
	for _, p := range x.Body {
		out += p.Spans.Plain(b.facts)
	}
	return out
}

// stubWords are the number and the document's name under the code of a stub.
func (b *binder) stubWords() []typeset.Node {
	number := b.paragraph("", typeset.Plain, plain(b.facts.Number).bold(), b.style.fixed(11.5), b.ink)
	number.Before, number.After, number.Leading = 5, 3, 1.2
	name := b.label("", b.doc.Name, b.labelInk)
	for _, p := range []*typeset.Paragraph{number, name} {
		p.Align, p.Shrink = typeset.Center, leastAddress
	}
	return []typeset.Node{number, name}
}

// ticketBand is the house on its colour: its logo in one colour, or its name, running upwards.
func (b *binder) ticketBand(x Block, by float64) []typeset.Node {
	h := b.facts.House
	if h.Logo != "" {
		if p := b.art(h.Logo, "house/logo"); p != nil && b.upright(p) {
			p.Block, p.Alt, p.Align = x.ID, h.Name, typeset.Center
			p.Width, p.Height = (ticketBand-10)*by, 70*by
			return []typeset.Node{p}
		}
	}
	name := b.paragraph(x.ID, typeset.Plain, plain(h.Name).bold(), b.style.fixed(13), b.on)
	name.Align, name.Shrink, name.Leading = typeset.Center, leastAddress, 1.2
	return []typeset.Node{name}
}

// upright are logos turned on their side, in each of the two colours that stand on a house's: none where they cannot be told apart.
type upright map[typeset.Colour]*typeset.Image

var uprights = foreign.Kept[upright]{Most: 8 << 20, Open: func(data []byte) (upright, error) {
	img, err := logos.Get(data)
	out := upright{}
	if err != nil {
		return out, err
	}
	for _, c := range []typeset.Colour{white, usualInk} {
		if one, ok := img.OneColour(c); ok {
			out[c] = one.Upright()
		}
	}
	return out, nil
}}

// upright turns a logo on its side, in the colour of what stands on the house's. It reports whether it could.
func (b *binder) upright(p *typeset.Picture) bool {
	if p.Drawing != nil {
		d, ok := p.Drawing.OneColour(b.on)
		if ok {
			p.Drawing = d.Upright()
		}
		return ok
	}
	turned, err := uprights.Get(p.Image.Data)
	if err != nil || turned[b.on] == nil {
		return false
	}
	p.Image = turned[b.on]
	return true
}

// drawn is the ticket as one row that is as high as it must be, from the paper's edge to its other edge.
func (b *binder) drawn(t ticket, by, high float64, strip bool) *typeset.Table {
	page := b.shared.out.Page
	band, gap, stub := ticketBand*by, ticketGap*by, ticketStub*by
	fill := b.band
	cut := typeset.Edge{Width: 0.9, Colour: b.labelInk, Dashed: true}
	edges := func(left bool) *[4]typeset.Edge {
		var e [4]typeset.Edge
		if strip {
			e[2] = cut
		}
		if left {
			e[3] = cut
		}
		return &e
	}
	house := typeset.Cell{Nodes: t.band, Fill: &fill, Down: 2, Stand: typeset.Center, Edges: edges(false)}
	if _, ok := t.band[0].(*typeset.Paragraph); ok {
		house.Turn = 90
	}
	empty := func() typeset.Cell { return typeset.Cell{Down: 2, Edges: edges(false)} }
	tear := typeset.Cell{Down: 2, Edges: edges(true)}
	foot := append(slices.Clone(t.terms), &typeset.Space{Height: ticketFoot * by})
	return &typeset.Table{
		Layout: true, Exact: true, Left: -page.Left,
		Columns: []float64{band, gap, page.Width - band - 3*gap - stub, gap, gap * 0.6, stub - gap*0.2, gap * 0.6},
		Least:   high,
		Rows: []typeset.Row{
			{Above: ticketGap * by * 0.85, Cells: []typeset.Cell{
				house, empty(), {Nodes: t.body}, empty(), tear, {Nodes: t.stub, Down: 2, Edges: edges(false)}, empty(),
			}},
			{Cells: []typeset.Cell{
				{Covered: true}, {Covered: true}, {Nodes: foot, Stand: typeset.End, Edges: edges(false)}, {Covered: true}, {Covered: true},
				{Covered: true}, {Covered: true},
			}},
		},
	}
}
