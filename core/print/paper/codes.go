package paper

import (
	"slices"
	"strings"

	"amberseal/core/ask/form"
	"amberseal/core/print/paper/code"
	"amberseal/core/print/typeset"
	"amberseal/core/words/finding"
	"amberseal/core/words/phrase"
)

// codeBlock draws a code of words.
func (b *binder) codeBlock(x Block) {
	words := x.Text.Plain(b.facts)
	width := x.Width
	kind := x.Symbology
	if kind == "" {
		kind = code.QR
	}
	if width <= 0 {
		width = map[bool]float64{true: 60, false: 30}[kind.Flat()]
	}
	height := x.Height
	if height <= 0 {
		height = 16
	}
	alt := words
	var to code.Transfer
	if kind == code.Payment {
		var owed bool
		if to, words, alt, owed = b.payment(x); !owed {
			words = ""
		}
	}
	if words == "" {
		if slices.ContainsFunc(x.Text, func(s phrase.Span) bool { return s.Field == "@check" || s.Field == "@link" }) {
			b.shared.findings.Notice(b.place(x), "paper.code-without-address")
		}
		b.missing(x, LeaveNothing, map[bool]float64{true: height, false: width}[kind.Flat()]*millimetre)
		return
	}
	symbol, err := code.Make(kind, words, 1)
	if err != nil {
		b.shared.findings.Fault(b.place(x), "paper.code-unmade", "reason", err.Error())
		return
	}
	if kind.Flat() {
		if symbol, err = code.Make(kind, words, symbol.Width*height/width); err != nil {
			return
		}
	}
	if nodes := *b.within; len(nodes) > 0 { // a page with nothing but a code says nothing
		if p, ok := nodes[len(nodes)-1].(*typeset.Paragraph); ok {
			p.KeepEnd = true
		}
	}
	shrink := 0.0
	if !kind.Flat() {
		shrink = min(max(leastModule/(width/symbol.Width), leastCode), 1)
	}
	black := typeset.Colour{}
	quiet := symbol.Width // how wide the edge is that has no modules
	for _, box := range symbol.Boxes {
		quiet = min(quiet, box[0])
	}
	picture := &typeset.Picture{
		Shrink: shrink, Hang: quiet / symbol.Width * width * millimetre,
		Block: x.ID, Alt: b.facts.Locale().CodeOf(alt), Align: align(x.Align), Before: 4, After: 8,
		Drawing: &typeset.Drawing{Width: symbol.Width, Height: symbol.Height, Boxes: symbol.Boxes, Colour: black},
		Width:   width * millimetre, Height: map[bool]float64{true: height, false: width}[kind.Flat()] * millimetre,
	}
	room := b.shared.out.Page.Width - b.shared.out.Page.Left - b.shared.out.Page.Right - picture.Width
	if kind == code.Payment && picture.Align == typeset.Start && b.within == &b.shared.out.Body && room >= leastDetails {
		b.payable(x, picture, room, to)
		return
	}
	caption := runs(x.Caption.Bind(b.facts))
	if len(caption) > 0 {
		picture.KeepNext, picture.After = true, 3
	}
	b.add(picture)
	if kind.Flat() {
		p := b.paragraph(x.ID, typeset.Plain, plain(words), 8.5, b.ink)
		p.Align, p.After, p.KeepNext = align(x.Align), 8, len(caption) > 0
		b.add(p)
	}
	if len(caption) > 0 {
		p := b.paragraph(x.ID, typeset.Plain, caption, b.style.fixed(8), softInk)
		p.Family, p.Align, p.After, p.Leading = labelFamily, align(x.Align), 8, 1.35
		b.add(p)
	}
}

// leastDetails is how wide the room beside a payment's code is at least for what it says, in points.
const leastDetails = 190

// payable sets a payment's code beside what it says, for those who pay without scanning it.
func (b *binder) payable(x Block, picture *typeset.Picture, room float64, to code.Transfer) {
	how, name, reference := b.facts.Locale().Payable()
	head := b.label("", how, b.labelInk)
	head.After = 3
	details := &typeset.Table{Layout: true, Columns: []float64{1, 1}, Fit: typeset.Content, Gap: 10, Pad: 1}
	for _, line := range [][2]string{{name, to.Name}, {"IBAN", grouped(to.IBAN)}, {reference, to.Text}} {
		if line[1] == "" {
			continue
		}
		label := b.paragraph("", typeset.Plain, plain(line[0]), b.style.label, b.labelInk)
		label.Family, label.Leading = labelFamily, b.style.leading*b.style.text/b.style.label
		value := b.paragraph("", typeset.Plain, plain(line[1]), b.style.text, b.ink)
		details.Rows = append(details.Rows, typeset.Row{Cells: []typeset.Cell{
			{Nodes: []typeset.Node{label}}, {Nodes: []typeset.Node{value}},
		}})
	}
	b.add(&typeset.Table{
		Block: x.ID, Layout: true, Exact: true, Columns: []float64{picture.Width + 14, room - 14}, Before: 4, After: 8,
		Rows: []typeset.Row{{Whole: true, Cells: []typeset.Cell{
			{Nodes: []typeset.Node{picture}}, {Nodes: []typeset.Node{head, details}, Stand: typeset.Center},
		}}},
	})
}

// grouped is an IBAN as it is printed: in groups of four (ISO 13616-1, 4.3).
func grouped(iban string) string {
	iban = strings.ReplaceAll(iban, " ", "")
	var out strings.Builder
	for i, r := range iban {
		if i > 0 && i%4 == 0 {
			out.WriteRune('\u00A0')
		}
		out.WriteRune(r)
	}
	return out.String()
}

// leastModule is the smallest module of a code in millimetres that it is shrunk to, which telephones read well; common practice.
// leastCode is the smallest part of its size.
const leastModule, leastCode = 0.4, 0.65

// payment gives the words of a payment's code and what they say to those who cannot see it. Where nothing is owed,
// there is no code; what is wrong becomes a finding.
func (b *binder) payment(x Block) (t code.Transfer, words, alt string, owed bool) {
	t = x.transfer(b.facts.House.Name)
	t.Text = x.Text.Plain(b.facts)
	alt = strings.Join(nonEmpty(t.Name, t.IBAN, t.Text), ", ")
	if field, ok := b.facts.Form.Field(x.Field); ok {
		if t.Amount = b.facts.Answers[x.Field].Number; t.Amount == nil || t.Amount.Sign() <= 0 {
			return t, "", "", false
		}
		alt += ", " + b.facts.Text(field)
		if b.facts.House.Currency != "EUR" {
			b.shared.findings.Fault(b.place(x), "paper.payment-in-euros", "currency", b.facts.House.Currency)
			return t, "", "", false
		}
	}
	words, err := t.Words()
	if err != nil {
		b.shared.findings.Notice(b.place(x), "paper.payment-left-out", "reason", err.Error())
		return t, "", "", false
	}
	return t, words, alt, true
}

func (x Block) transfer(house string) code.Transfer {
	var t code.Transfer
	if p := x.Payee; p != nil {
		t = code.Transfer{Name: p.Name, IBAN: p.IBAN, BIC: p.BIC, Purpose: p.Purpose}
	}
	if t.Name == "" {
		t.Name = house
	}
	return t
}

// checkCode finds codes that can never be made.
func (x Block) checkCode(c checking) finding.List {
	at, f := c.at, c.scope.Form
	var l finding.List
	if x.Symbology == code.Payment {
		if _, err := x.transfer("the house").Words(); err != nil {
			l.Fault(at, "paper.payment-unmade", "reason", err.Error())
		}
		if field, ok := f.Field(x.Field); x.Field != "" && (!ok || field.Kind != form.Money) {
			l.Fault(at+"/field "+x.Field, "paper.payment-amount-unknown", "field", x.Field)
		}
	} else if len(x.Text) == 0 {
		l.Fault(at, "paper.code-says-nothing")
	}
	known := x.Symbology == ""
	for _, k := range code.Kinds() {
		known = known || k == x.Symbology
	}
	if !known {
		l.Fault(at, "paper.code-kind-unknown", "symbology", x.Symbology)
	}
	return l
}

func nonEmpty(words ...string) []string {
	var out []string
	for _, w := range words {
		if w != "" {
			out = append(out, w)
		}
	}
	return out
}
