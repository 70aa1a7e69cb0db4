package paper

import (
	"math"
	"strings"
	"unicode/utf8"

	"amberseal/core/print/typeset"
	"amberseal/core/words/finding"
)

// sheet is where a letter's parts stand so that it folds into an envelope and its address is seen in the window. Millimetres from the
// paper's upper left corner.
type sheet struct {
	head    float64 // the logo
	sender  float64 // the foot of the sender's line, 0 for none
	address [4]float64
	beside  [3]float64 // the information block: from the left, from the top, its width
	text    float64    // the first line below them
	folds   []float64
	hole    float64
}

// The sheets. DIN 5008:2020, form B: an address of 27.3 mm by 80 mm under 17.7 mm for notes and the sender's line, 25 mm from the left and
// 45 mm from the head; information at 125 mm, 50 mm down; text from 98.46 mm; folds at 105 and 210 mm, a hole at 148.5 mm (its values
// from memory). North American: what the window of a No. 10 envelope (4 1/2 by 1 1/8 inches, 7/8 from its left, 1/2 from its foot) shows of
// a sheet folded in three, wherever the sheet slips to; common practice.
var (
	din5008 = sheet{
		head: 15, sender: 61.5, address: [4]float64{25, 62.7, 80, 27.3}, beside: [3]float64{125, 50, 75}, text: 98.46,
		folds: []float64{105, 210}, hole: 148.5,
	}
	number10 = sheet{
		head: 13, address: [4]float64{25.4, 63.5, 80, 17}, beside: [3]float64{125, 48, 70}, text: 96,
		folds: []float64{93.1, 186.3}, hole: 139.7,
	}
)

// sheetOf is the sheet of a paper, nil for one that no window is made for.
func sheetOf(p typeset.Page) *sheet {
	for _, x := range []struct {
		paper string
		sheet *sheet
	}{{"A4", &din5008}, {"Letter", &number10}} {
		size := papers[x.paper]
		if near(p.Width, size[0]*millimetre) && near(p.Height, size[1]*millimetre) {
			return x.sheet
		}
	}
	return nil
}

func near(a, b float64) bool { return a-b < 0.5 && b-a < 0.5 }

// letterheadBlock prints who the document is from, and where it says so to whom it goes.
func (b *binder) letterheadBlock(x Block) {
	first := b.within == &b.shared.out.Body && len(b.shared.out.Body) == 0
	if s := sheetOf(b.shared.out.Page); b.style.windowed && first && s != nil && len(x.To) > 0 {
		b.letterSheet(x, s)
		return
	}
	b.style.letterhead(b, x)
	b.addressed(x)
}

// addressed prints to whom the document goes, and what stands beside that, below the letterhead.
func (b *binder) addressed(x Block) {
	if to := b.lines(x); to != "" {
		p := b.paragraph(x.ID, typeset.Plain, plain(to), b.style.text, b.ink)
		p.After = 14
		b.add(p)
	}
	if len(x.Tiles) > 0 {
		b.factTiles(x)
	}
}

// lines are those of an address: of answers that are there.
func (b *binder) lines(x Block) string {
	var out []string
	for _, line := range x.To {
		var words strings.Builder
		for _, r := range line.Spans.Bind(b.facts) {
			words.WriteString(r.Text)
		}
		for l := range strings.SplitSeq(words.String(), "\n") {
			if l = strings.TrimSpace(l); l != "" {
				out = append(out, l)
			}
		}
	}
	return strings.Join(out, "\n")
}

// at is a place of the first page, in millimetres.
func at(x, y float64) (across, down typeset.Spot) {
	return typeset.Spot{From: typeset.Paper, At: x * millimetre}, typeset.Spot{From: typeset.Paper, At: y * millimetre}
}

// letterSheet sets logo, sender, address and information on their places, with the marks where the sheet is folded and punched.
func (b *binder) letterSheet(x Block, s *sheet) {
	put := func(left, top, width, high float64, nodes ...typeset.Node) *typeset.Float {
		box := &typeset.Float{Block: x.ID, Nodes: nodes, Width: width * millimetre, Height: high * millimetre}
		box.X, box.Y = at(left, top)
		b.add(box)
		return box
	}
	if printed := b.style.colourless; !printed { // else the paper shows them
		name := b.houseName(14, b.words, true)
		put(s.beside[0], s.head, s.beside[2], 0, name.Nodes...)
		b.marks(s)
		b.shared.letter = true
	}
	h := b.facts.House
	if s.sender > 0 && b.shared.letter {
		const size, leading = 6.8, 9.5
		words := strings.Join(nonEmpty(append([]string{h.Name}, h.Address...)...), " · ")
		p := b.paragraph("", typeset.Plain, plain(words), size, softInk)
		p.Family, p.Leading, p.Shrink = labelFamily, leading/size, leastSender
		line := &typeset.Rule{Thickness: 0.45, Colour: hairline, Before: 1.5}
		put(s.address[0], s.sender-(leading+2)/millimetre, s.address[2], 0, p, line).Block = ""
	}
	if to := b.lines(x); to != "" {
		size, leading := addressSize(to, s.address[2]*millimetre, s.address[3]*millimetre, b.style.text)
		p := b.paragraph("", typeset.Plain, plain(to), size, b.ink)
		p.Leading = leading / size
		put(s.address[0], s.address[1], s.address[2], s.address[3], p)
	}
	if t := b.particulars(x); t != nil {
		put(s.beside[0], s.beside[1], s.beside[2], 0, t)
	}
	b.add(&typeset.Space{Block: x.ID, To: s.text * millimetre})
}

// addressSize is the largest size, with its leading, at which an address fits its field: a letter is reckoned at six tenths of the size,
// more than all but capitals take, so that lines that go on are counted too.
func addressSize(to string, width, high, usual float64) (size, leading float64) {
	const letter, least = 0.6, 5.0
	for size = usual; ; size -= 0.25 {
		lines := 0
		for line := range strings.SplitSeq(to, "\n") {
			lines += max(int(math.Ceil(float64(utf8.RuneCountInString(line))*letter*size/width)), 1)
		}
		leading = min(high/float64(lines), addressLeading)
		if leading >= size*1.15 || size <= least {
			return size, leading
		}
	}
}

// addressLeading is from line to line of an address, where it has room; leastSender is down to what part of their size lines of an address
// are set so that none is broken.
const addressLeading, leastSender = 14.5, 0.6

// marks are short lines at the paper's left edge: where the sheet is folded, and in its middle where it is punched.
func (b *binder) marks(s *sheet) {
	const from, fold, hole, thin = 1.5, 3.5, 5.5, 0.35
	d := &typeset.Drawing{Width: hole * millimetre, Height: b.shared.out.Page.Height, Colour: softInk}
	for _, y := range s.folds {
		d.Boxes = append(d.Boxes, [4]float64{from * millimetre, y*millimetre - thin/2, fold * millimetre, thin})
	}
	d.Boxes = append(d.Boxes, [4]float64{from * millimetre, s.hole*millimetre - thin/2, hole * millimetre, thin})
	mark := &typeset.Float{Ground: d, Width: d.Width, Height: d.Height}
	mark.X, mark.Y = at(0, 0)
	b.add(mark)
}

// particulars are small labels with what they name beside them.
func (b *binder) particulars(x Block) *typeset.Table {
	const size, leading = 9.0, 13.0
	t := &typeset.Table{Layout: true, Columns: []float64{1, 2.4}, Gap: 8}
	for _, tile := range x.Tiles {
		words := runs(tile.Text.Bind(b.facts))
		if len(words) == 0 {
			continue
		}
		label := b.paragraph("", typeset.Plain, plain(tile.Label), size-0.5, b.labelInk)
		label.Family, label.Leading, label.Shrink = labelFamily, leading/label.Size, leastSender
		value := b.paragraph("", typeset.Plain, words, size, b.ink)
		value.Leading, value.Shrink = leading/size, leastSender
		for i := range value.Runs {
			value.Runs[i].Style.Bold = value.Runs[i].Style.Bold || tile.Accent
		}
		t.Rows = append(t.Rows, typeset.Row{Cells: []typeset.Cell{{Nodes: []typeset.Node{label}}, {Nodes: []typeset.Node{value}}}})
	}
	if len(t.Rows) == 0 {
		return nil
	}
	return t
}

// letterRunning is what runs on a letter's pages: at the foot of the first the house's particulars, at the head of later ones who writes,
// and what.
func (b *binder) letterRunning(out *typeset.Document, design, first Running) {
	nodes := func(paragraphs []typeset.Paragraph, a typeset.Align) []typeset.Node {
		var list []typeset.Node
		for i := range paragraphs {
			paragraphs[i].Align = a
			list = append(list, &paragraphs[i])
		}
		return list
	}
	h := b.facts.House
	own := b.running(first)
	line := func() *typeset.Rule { return &typeset.Rule{Thickness: 0.45, Colour: hairline, After: footGap} }
	foot := &typeset.Table{Layout: true, Columns: []float64{1, 1, 1}, Gap: 12, Rows: []typeset.Row{{Cells: []typeset.Cell{
		b.small([]string{h.Name, h.Registration}), b.small([]string{h.Phone, h.Email, h.Website}),
		{Nodes: nodes(own.Footer, typeset.Start)},
	}}}}
	out.First = &typeset.Running{
		Head: nodes(own.Header, typeset.Start), Foot: []typeset.Node{line(), foot}, FromTop: edge, FromFloor: edge,
	}
	later := b.running(design)
	who := b.paragraph("", typeset.Plain, plain(h.Name+" · "+out.Title), b.style.fixed(8), softInk)
	who.Family, who.Shrink, who.After = labelFamily, leastRunning, footGap
	head := append([]typeset.Node{who}, nodes(later.Header, typeset.Start)...)
	out.Running = typeset.Running{
		Head: append(head, line()), Foot: append([]typeset.Node{line()}, nodes(later.Footer, typeset.Start)...), FromTop: edge + 6,
		FromFloor: edge,
	}
}

// edge is how far from the paper's edge running words stand, footGap how far from their rule, in points.
const edge, footGap = 24, 5

func (x Block) checkLetterhead(c checking) finding.List {
	l := x.To.Check(c.at, c.scope)
	for _, t := range x.Tiles {
		l = append(l, t.Text.Check(c.at, c.scope)...)
	}
	return l
}
