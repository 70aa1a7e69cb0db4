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
	if kind == code.Payment {
		var owed bool
		if words, alt, owed = b.payment(x); !owed {
			words = ""
		}
	}
	if words == "" {
		if slices.ContainsFunc(x.Text, func(s phrase.Span) bool { return s.Field == "@check" || s.Field == "@link" }) {
			b.shared.findings.Notice(
				b.place(x), "The code has no address to say: the house does not say where its pages are reached, or does not keep this document.",
				"Write the address of this program's pages under House.",
			)
		}
		b.missing(x, LeaveNothing, map[bool]float64{true: height, false: width}[kind.Flat()]*millimetre)
		return
	}
	symbol, err := code.Make(kind, words, 1)
	if err != nil {
		b.shared.findings.Fault(b.place(x), "The code cannot be made: "+err.Error()+".", "Change its words or its kind.")
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
	b.add(&typeset.Picture{
		Shrink: shrink,
		Block:  x.ID, Alt: b.facts.Locale().CodeOf(alt), Align: align(x.Align), Before: 4, After: 8,
		Drawing: &typeset.Drawing{Width: symbol.Width, Height: symbol.Height, Boxes: symbol.Boxes, Colour: black},
		Width:   width * millimetre, Height: map[bool]float64{true: height, false: width}[kind.Flat()] * millimetre,
	})
	if kind.Flat() {
		p := b.paragraph(x.ID, typeset.Plain, plain(words), 8.5, b.ink)
		p.Align, p.After = align(x.Align), 8
		b.add(p)
	}
}

// leastModule is the smallest module of a code in millimetres that it is shrunk to, which telephones read well; common practice.
// leastCode is the smallest part of its size.
const leastModule, leastCode = 0.4, 0.65

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
			b.shared.findings.Fault(
				b.place(x), "The payment code is for euros, and the house counts in "+b.facts.House.Currency+".",
				"Take the amount out of the code, or the code out of the document.",
			)
			return "", "", false
		}
	}
	words, err := t.Words()
	if err != nil {
		b.shared.findings.Notice(
			b.place(x), "The payment code cannot be made and is left out: "+err.Error()+".", "Mend the payee, the amount's field or the words.",
		)
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
func (x Block) checkCode(c checking) finding.List {
	at, f := c.at, c.scope.Form
	var l finding.List
	if x.Symbology == code.Payment {
		if _, err := x.transfer("the house").Words(); err != nil {
			l.Fault(at, "The payment code cannot be made: "+err.Error()+".", "Mend the payee.")
		}
		if field, ok := f.Field(x.Field); x.Field != "" && (!ok || field.Kind != form.Money) {
			l.Fault(
				at+"/field "+x.Field, "The payment’s amount is “"+x.Field+"”, which is no field for money.",
				"Choose a field for money, or let the payer write it.",
			)
		}
	} else if len(x.Text) == 0 {
		l.Fault(at, "The code has nothing to say.", "Write its words, or put a placeholder there.")
	}
	known := x.Symbology == ""
	for _, k := range code.Kinds() {
		known = known || k == x.Symbology
	}
	if !known {
		l.Fault(at, "There is no code called “"+string(x.Symbology)+"”.", "Choose one of the kinds.")
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
