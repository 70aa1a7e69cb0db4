package paper

import (
	"strconv"
	"strings"

	"amberseal/core/code"
	"amberseal/core/finding"
	"amberseal/core/form"
	"amberseal/core/phrase"
	"amberseal/core/typeset"
)

// Column is one of a line table.
type Column struct {
	Label string  `json:"label"`
	Field string  `json:"field"`           // key of a field of the rows; # counts the rows
	Share float64 `json:"share,omitempty"` // of the width; by the kind of answer when 0
}

// Total is a line under a line table: words, and a field whose value stands at the end.
type Total struct {
	Label phrase.Phrase `json:"label"`
	Field string        `json:"field"`
	Grand bool          `json:"grand,omitempty"` // set large, under a rule
}

// lineTable prints the rows of a repeating group with chosen columns and totals.
func (b *binder) lineTable(x Block) {
	rows, ok := b.facts.Form.Field(x.Rows)
	if !ok || rows.Kind != form.Rows {
		return
	}
	answers := b.facts.Answers[x.Rows].Rows
	if len(answers) == 0 && x.HideEmpty {
		return
	}
	columns := x.Columns
	if len(columns) == 0 {
		columns = UsualColumns(rows)
	}
	t := &typeset.Table{Block: x.ID, Gap: 10, Pad: 4.5, Before: 4, After: 6}
	if b.style.between {
		line := hairline
		t.Line = &line
	}
	words, numeric := make([]string, len(columns)), make([]bool, len(columns))
	fields := make([]form.Field, len(columns))
	for i, c := range columns {
		fields[i], _ = b.facts.Form.Field(x.Rows + "." + c.Field)
		words[i], numeric[i] = c.Label, c.Field == "#" || fields[i].Kind.Numeric() && fields[i].Kind != form.Rating
		width := c.Share
		switch {
		case width > 0:
		case c.Field == "#":
			width = 0.6
		default:
			width = share(fields[i].Kind)
		}
		t.Columns = append(t.Columns, width)
	}
	t.Header = b.header(words, numeric)
	for n, row := range answers {
		var cells []typeset.Cell
		for i, c := range columns {
			cell := typeset.Cell{}
			if c.Field == "#" {
				cell.Paragraphs = []typeset.Paragraph{*b.paragraph("", typeset.Plain, []phrase.Run{{Text: strconv.Itoa(n + 1)}}, 10, ink)}
			} else {
				cell = b.cells(fields[i], row[c.Field])[0]
			}
			for j := range cell.Paragraphs {
				p := &cell.Paragraphs[j]
				p.Size, p.Indent = 10, headedIndent
				if numeric[i] {
					p.Align = typeset.End
				}
			}
			cells = append(cells, cell)
		}
		t.Rows = append(t.Rows, typeset.Row{Cells: cells})
	}
	b.stripe(t)
	b.add(t)
	b.totals(x)
}

// totals stand at the end of the table's width, words and amounts on one line.
func (b *binder) totals(x Block) {
	if len(x.Totals) == 0 {
		return
	}
	t := &typeset.Table{Block: x.ID, Columns: []float64{62, 38}, Gap: 10, Pad: 3, After: 10}
	for _, total := range x.Totals {
		field, ok := b.facts.Form.Field(total.Field)
		if !ok {
			continue
		}
		label := b.paragraph("", typeset.Plain, total.Label.Bind(b.facts), b.style.text, softInk)
		value := b.paragraph("", typeset.Plain, []phrase.Run{{Text: b.facts.Text(field), Bold: total.Grand}}, b.style.text, ink)
		if total.Grand {
			label.Size, value.Size = b.style.text*1.2, b.style.text*1.2
			for i := range label.Runs {
				label.Runs[i].Style.Bold, label.Runs[i].Colour = true, ink
			}
		}
		label.Align, value.Align, value.Indent = typeset.End, typeset.End, headedIndent
		t.Rows = append(t.Rows, typeset.Row{Cells: []typeset.Cell{{Paragraphs: []typeset.Paragraph{*label}, Heads: true}, {Paragraphs: []typeset.Paragraph{*value}}}})
	}
	if len(t.Rows) > 0 {
		b.add(t)
	}
}

// UsualColumns are all fields of the rows that can stand in a column.
func UsualColumns(rows form.Field) []Column {
	var out []Column
	for _, x := range rows.Fields {
		if x.Kind != form.Hidden {
			out = append(out, Column{Label: x.Label, Field: x.Key})
		}
	}
	return out
}

// codeBlock draws a code of words.
func (b *binder) codeBlock(x Block) {
	words := x.Text.Plain(b.facts)
	width := x.Width
	kind := x.Code
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
	if kind == code.Payment {
		var owed bool
		if words, alt, owed = b.payment(x); !owed {
			return
		}
	}
	if words == "" {
		return // what has nothing to say leaves nothing
	}
	symbol, err := code.Make(kind, words, 1)
	if err != nil {
		b.findings.Fault("documents/"+b.doc.Key+"/blocks/"+x.ID, "The code cannot be made: "+err.Error()+".", "Change its words or its kind.")
		return
	}
	if kind.Flat() {
		if symbol, err = code.Make(kind, words, symbol.Width*height/width); err != nil {
			return
		}
	}
	black := typeset.Colour{}
	b.add(&typeset.Picture{
		Block: x.ID, Alt: b.facts.Locale().CodeOf(alt), Align: align(x.Align), Before: 4, After: 8,
		Drawing: &typeset.Drawing{Width: symbol.Width, Height: symbol.Height, Boxes: symbol.Boxes, Colour: black},
		Width:   width * millimetre, Height: map[bool]float64{true: height, false: width}[kind.Flat()] * millimetre,
	})
	if kind.Flat() {
		p := b.paragraph(x.ID, typeset.Plain, []phrase.Run{{Text: words}}, 8.5, ink)
		p.Align, p.After = align(x.Align), 8
		b.add(p)
	}
}

// signatureBlock sets a signature over a line with its signer's name and the day. Where it is missing it leaves clean
// space, nothing, or set words.
func (b *binder) signatureBlock(x Block) {
	v := b.facts.Answers[x.Field]
	name := x.Text.Plain(b.facts)
	field, _ := b.facts.Form.Field(x.Field)
	var picture *typeset.Picture
	switch {
	case v.Empty() && x.Missing == "nothing":
		return
	case v.Empty() && x.Missing != "" && x.Missing != "space":
		b.add(b.paragraph(x.ID, typeset.Plain, []phrase.Run{{Text: x.Missing, Italic: true}}, b.style.text, softInk))
	case v.Empty():
		b.add(&typeset.Space{Block: x.ID, Height: 18 * millimetre})
	case v.Sign.Typed != "":
		p := b.paragraph(x.ID, typeset.Plain, []phrase.Run{{Text: v.Sign.Typed, Italic: true}}, 17, ink)
		p.Before, p.KeepNext = 14, true
		b.add(p)
	default:
		if picture = b.signature(v.Sign, field.Label); picture != nil {
			picture.Block, picture.Before = x.ID, 10
			b.add(picture)
		}
	}
	b.add(&typeset.Rule{Block: x.ID, Thickness: 0.6, Colour: ink, Before: 2, After: 3})
	day := b.facts.Locale().DateLong(b.facts.Received.In(b.facts.House.Location()))
	if v.Empty() {
		day = ""
	}
	under := strings.Join(nonEmpty(name, day), ", ")
	if under == "" {
		under = field.Label
	}
	p := b.paragraph(x.ID, typeset.Plain, []phrase.Run{{Text: under}}, 9, softInk)
	p.After = 10
	b.add(p)
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

func joinLines(lines []string) string { return strings.Join(lines, "\n") }

// checkLines finds what is wrong with a line table.
func (x Block) checkLines(at string, f form.Form) finding.List {
	var l finding.List
	rows, ok := f.Field(x.Rows)
	if !ok || rows.Kind != form.Rows {
		l.Fault(at, "The line table has no rows.", "Choose the repeating group whose rows it prints.")
		return l
	}
	for _, c := range x.Columns {
		if _, ok := f.Field(x.Rows + "." + c.Field); !ok && c.Field != "#" {
			l.Fault(at+"/field "+c.Field, "The column “"+c.Label+"” prints “"+c.Field+"”, which is no field of the rows.", "Choose another field.")
		}
	}
	for _, t := range x.Totals {
		if field, ok := f.Field(t.Field); !ok || !field.Answered() {
			l.Fault(at+"/field "+t.Field, "A total prints “"+t.Field+"”, which is no field.", "Choose another field.")
		}
		l = append(l, t.Label.Check(at, f, false)...)
	}
	return l
}

// payment gives the words of a payment's code and what they say to those who cannot see it. Where nothing is owed,
// there is no code; what is wrong becomes a finding.
func (b *binder) payment(x Block) (words, alt string, owed bool) {
	t := x.transfer(b.facts.House.Name)
	t.Text = x.Text.Plain(b.facts)
	alt = strings.Join(nonEmpty(t.Name, t.IBAN, t.Text), ", ")
	if field, ok := b.facts.Form.Field(x.Field); ok {
		if t.Amount = b.facts.Answers[x.Field].Number; t.Amount == nil || t.Amount.Sign() <= 0 {
			return "", "", false
		}
		alt += ", " + b.facts.Text(field)
		if b.facts.House.Currency != "EUR" {
			b.findings.Fault("documents/"+b.doc.Key+"/blocks/"+x.ID, "The payment code is for euros, and the house counts in "+b.facts.House.Currency+".", "Take the amount out of the code, or the code out of the document.")
			return "", "", false
		}
	}
	words, err := t.Words()
	if err != nil {
		b.findings.Fault("documents/"+b.doc.Key+"/blocks/"+x.ID, "The payment code cannot be made: "+err.Error()+".", "Mend the payee, the amount's field or the words.")
		return "", "", false
	}
	return words, alt, true
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
func (x Block) checkCode(at string, f form.Form) finding.List {
	l := x.Text.Check(at, f, false)
	if x.Code == code.Payment {
		if _, err := x.transfer("the house").Words(); err != nil {
			l.Fault(at, "The payment code cannot be made: "+err.Error()+".", "Mend the payee.")
		}
		if field, ok := f.Field(x.Field); x.Field != "" && (!ok || field.Kind != form.Money) {
			l.Fault(at+"/field "+x.Field, "The payment’s amount is “"+x.Field+"”, which is no field for money.", "Choose a field for money, or let the payer write it.")
		}
	} else if len(x.Text) == 0 {
		l.Fault(at, "The code has nothing to say.", "Write its words, or put a placeholder there.")
	}
	known := x.Code == ""
	for _, k := range code.Kinds() {
		known = known || k == x.Code
	}
	if !known {
		l.Fault(at, "There is no code called “"+string(x.Code)+"”.", "Choose one of the kinds.")
	}
	return l
}
