package paper

import (
	"math"
	"slices"
	"strings"

	"amberseal/core/foreign"
	"amberseal/core/print/typeset"
)

// Look is how a document is dressed. Any look fits any document; changing it loses nothing.
type Look string

// The looks. Ledger is the usual one.
const (
	Ledger Look = "ledger" // labels over strong rules, totals beside their figures
	Letter Look = "letter" // a letter by DIN 5008: window, information, folds; no colour but the name's
	Ticket Look = "ticket" // a coloured band, large facts, a stub behind a perforation
	Plain  Look = "plain"  // for printed letter paper: ink alone, clear of what the paper shows
)

// Looks lists them in the order in which they are offered.
func Looks() []Look {
	out := make([]Look, len(looks))
	for i, l := range looks {
		out[i] = l.look
	}
	return out
}

// style is what a look is made of. Sizes are points.
type style struct {
	margins      Margins
	text         float64
	leading      float64
	label        float64 // of questions and header rows
	headings     [3]struct{ size, before, after float64 }
	plainHeading bool    // headings are ink, not the house's colour
	shaded       bool    // every other row is shaded
	between      bool    // hairlines between rows
	inkTitle     bool    // the title is ink, its number in the regular weight
	colourless   bool    // ink alone: the paper has its colours
	firstTop     float64 // millimetres above the first page's text, where no letter paper says so
	windowed     bool    // a letterhead that says to whom the document goes is a letter's
	letterhead   func(b *binder, x Block)
	opens        func(b *binder, blocks []Block) []Block // sets what a document begins with, and gives what follows
	across       []string                                // papers that lie across without being told
	small        float64                                 // what sizes that no design sets are multiplied by on small paper; 0 for 1
}

type headingSizes = [3]struct{ size, before, after float64 }

// looks are the table where a look is made; the first is the usual one.
var looks = []struct {
	look  Look
	style style
}{
	{Ledger, style{
		margins: Margins{17, 19, 20, 20}, text: 10.5, leading: 1.4, label: 8.5,
		headings: headingSizes{{22.5, 12, 8}, {13, 16, 5}, {10.5, 12, 3}},
		inkTitle: true, between: true, letterhead: (*binder).ledgerHead,
	}},
	{Letter, style{
		margins: Margins{25, 20, 25, 25}, text: 11, leading: 1.5, label: 8.5,
		headings:     headingSizes{{12.5, 14, 12}, {11.5, 16, 5}, {11, 12, 3}},
		plainHeading: true, between: true, windowed: true, letterhead: (*binder).letterHead,
	}},
	{Ticket, style{
		margins: Margins{14, 14, 16, 14}, text: 10.5, leading: 1.35, label: 8.5,
		headings: headingSizes{{26, 3, 10}, {13, 12, 4}, {11, 10, 3}},
		shaded:   true, inkTitle: true, letterhead: (*binder).ticketHead, opens: (*binder).ticketOpens,
		across: []string{"A5", "A6"},
	}},
	{Plain, style{
		margins: Margins{25, 20, 28, 25}, text: 10.5, leading: 1.45, label: 8.5, firstTop: 45,
		headings:   headingSizes{{16, 12, 8}, {12, 16, 5}, {10.5, 12, 3}},
		colourless: true, between: true, windowed: true, letterhead: func(*binder, Block) {},
	}},
}

func styleOf(l Look) style {
	for _, x := range looks {
		if x.look == l {
			return x.style
		}
	}
	return looks[0].style
}

// paper is the page, which lies across where the look wants it so.
func (s style) paper(p Page) Page {
	p.Landscape = p.Landscape || slices.Contains(s.across, p.Paper)
	return p
}

// leastSmall is down to how small the type of small paper is: 6.5 points for text, common practice on labels.
const leastSmall = 0.62

// on is the style for paper of a size: on paper smaller than the usual, type is smaller too, but by less than the paper is.
func (s style) on(paper typeset.Page) style {
	side := min(paper.Width, paper.Height) / millimetre
	s.small = max(min(math.Sqrt(side/usualSide), 1), leastSmall)
	return s.scaled(s.small)
}

// fixed is a size in points on the paper at hand.
func (s style) fixed(points float64) float64 { return points * s.small }

// nameOnly is the shorter side in millimetres below which a letterhead is the house's name or logo alone.
const nameOnly = 90

func (b *binder) tiny() bool {
	p := b.shared.out.Page
	return min(p.Width, p.Height) < nameOnly*millimetre
}

// scaled is the style with all sizes in proportion.
func (s style) scaled(by float64) style {
	s.text *= by
	s.label *= by
	for i := range s.headings {
		h := &s.headings[i]
		h.size, h.before, h.after = h.size*by, h.before*by, h.after*by
	}
	return s
}

func (b *binder) shade() *typeset.Colour {
	c := b.tint
	return &c
}

// newTable is a table with the block's borders, or those of the look.
func (b *binder) newTable(x Block) *typeset.Table {
	t := &typeset.Table{Block: x.ID, Pad: b.grid() / 2, After: 2 * b.grid()}
	if words := b.shared.heading; words != "" && b.within == &b.shared.out.Body {
		t.Continued = b.label("", b.facts.Locale().Continued(words), b.labelInk)
		t.Continued.After, t.Continued.Shrink = b.grid()/2, leastRunning
	}
	line := hairline
	switch {
	case x.Borders == "grid":
		t.Grid = &line
	case x.Borders == "rows", x.Borders == "" && b.style.between:
		t.Line = &line
	}
	return t
}

// shades reports whether every other row of the block's table is shaded.
func (b *binder) shades(x Block) bool {
	return x.Shading == "rows" || x.Shading == "" && b.style.shaded
}

// stripe shades every other row, where the block or the look asks for it.
func (b *binder) stripe(t *typeset.Table, x Block) {
	if !b.shades(x) {
		return
	}
	for i := range t.Rows {
		if i%2 == 0 {
			t.Rows[i].Fill = b.shade()
		}
	}
}

// logos are those of houses without their rims.
var logos = foreign.Kept[*typeset.Image]{Most: 8 << 20, Open: func(data []byte) (*typeset.Image, error) {
	img, err := typeset.ReadImage(data)
	if err != nil {
		return nil, err
	}
	return img.Trimmed(), nil
}}

// Logo is a house's logo without the rim that is seen through. The error says why it cannot be read; drawings are left to others.
func Logo(data []byte) (*typeset.Image, error) { return logos.Get(data) }

// houseName is the logo, or the name where there is none.
func (b *binder) houseName(size float64, c typeset.Colour, logo bool) typeset.Cell {
	h := b.facts.House
	if h.Logo != "" && logo {
		if p := b.art(h.Logo, "house/logo"); p != nil {
			if p.Image != nil {
				if trimmed, err := Logo(p.Image.Data); err == nil {
					p.Image = trimmed
				}
			}
			p.Width, p.Height, p.Alt = b.style.fixed(60*millimetre), b.style.fixed(15*millimetre), h.Name
			return typeset.Cell{Nodes: []typeset.Node{p}}
		}
	}
	name := b.paragraph("", typeset.Plain, plain(h.Name).bold(), b.style.fixed(size), c)
	name.Leading, name.Shrink = 1.25, leastAddress
	return typeset.Cell{Nodes: []typeset.Node{name}}
}

// head sets two cells beside each other.
func (b *binder) head(block string, shares []float64, cells ...typeset.Cell) {
	b.add(&typeset.Table{Block: block, Columns: shares, Fit: typeset.Floored, Gap: 12, Layout: true, Rows: []typeset.Row{{Cells: cells}}})
}

// leastAddress is down to what part of their size the lines of an address are set so that none is broken.
const leastAddress = 0.7

// ledgerHead sets the logo or name on one side and address and ways to reach the house on the other, in two columns over a rule in the
// house's colour.
func (b *binder) ledgerHead(x Block) {
	h := b.facts.House
	b.head(x.ID, []float64{52, 22, 26}, b.houseName(13, b.words, true), b.small(h.Address), b.small([]string{h.Phone, h.Email, h.Website}))
	b.add(&typeset.Rule{Block: x.ID, Thickness: 1.2, Colour: b.accent, Before: b.style.fixed(8), After: b.style.fixed(14)})
}

// small is a cell of small lines; those that are empty are left out.
func (b *binder) small(lines []string) typeset.Cell {
	lines = slices.DeleteFunc(slices.Clone(lines), func(l string) bool { return l == "" })
	if len(lines) == 0 || b.tiny() {
		return typeset.Cell{}
	}
	const size, leading = 7.5, 11
	p := b.paragraph("", typeset.Plain, plain(strings.Join(lines, "\n")), b.style.fixed(size), softInk)
	p.Family, p.Leading, p.Shrink = labelFamily, float64(leading)/size, leastAddress
	return typeset.Cell{Nodes: []typeset.Node{p}}
}

// letterHead sets the logo or name over the address, at the right, as on a letter's sheet.
func (b *binder) letterHead(x Block) {
	h := b.facts.House
	b.head(x.ID, []float64{50, 50}, typeset.Cell{}, b.houseName(14, b.words, true))
	if !b.tiny() {
		b.add(&typeset.Space{Block: x.ID, Height: b.style.fixed(6)})
	}
	b.head(x.ID, []float64{50, 22, 28}, typeset.Cell{}, b.small(h.Address), b.small([]string{h.Phone, h.Email, h.Website}))
	b.add(&typeset.Space{Block: x.ID, Height: b.style.fixed(4 * millimetre)})
}

// ticketHead sets the name on a band of the house's colour.
func (b *binder) ticketHead(x Block) {
	accent := b.band
	reach := slices.DeleteFunc([]string{b.facts.House.Phone, b.facts.House.Website}, func(l string) bool { return l == "" })
	address := b.paragraph("", typeset.Plain, plain(strings.Join(reach, "\n")), b.style.fixed(8.5), b.on)
	address.Align, address.Shrink = typeset.End, leastAddress
	row := typeset.Row{Fill: &accent, Cells: []typeset.Cell{b.houseName(14, b.on, false), {Nodes: []typeset.Node{address}}}}
	indent(row)
	b.add(
		&typeset.Table{
			Block:   x.ID,
			Columns: []float64{65, 35},
			Gap:     10,
			Pad:     b.style.fixed(7),
			Layout:  true,
			After:   b.style.fixed(10),
			Rows:    []typeset.Row{row},
		},
	)
}
