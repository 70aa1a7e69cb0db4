package paper

import (
	"amberseal/core/print/typeset"
)

// signLine is how long the line under a signature is, in millimetres.
const signLine = 70

// signatureBlock sets a signature over a line with its signer's name and the day, all on one page with the end of the words
// before. Where it is missing it leaves clean
// space, nothing, or set words.
func (b *binder) signatureBlock(x Block) {
	v := b.facts.Answers[x.Field]
	name := x.Text.Plain(b.facts)
	field, _ := b.facts.Form.Field(x.Field)
	var picture *typeset.Picture
	switch {
	case v.Empty() && x.Missing != nil && x.Missing.Leave == LeaveNothing:
		return
	case v.Empty():
		b.keepEnd()
		b.missing(x, LeaveSpace, 18*millimetre)
		b.keepNext()
	case v.Sign.Typed != "":
		p := b.paragraph(x.ID, typeset.Plain, plain(v.Sign.Typed).italic(), 17, b.ink)
		p.Before, p.KeepNext = 14, true
		b.keepEnd()
		b.add(p)
	default:
		if picture = SignatureOf(v.Sign, field.Label, b.pictures); picture != nil {
			picture.Block, picture.Before, picture.KeepNext = x.ID, 10, true
			b.keepEnd()
			b.add(picture)
		}
	}
	b.add(&typeset.Rule{Block: x.ID, Thickness: 0.6, Width: signLine * millimetre, Colour: b.ink, KeepNext: true, Before: 2, After: 3})
	day := b.facts.Locale().DateLong(b.facts.Received.In(b.facts.House.Location()))
	if v.Empty() {
		day = ""
	}
	under := runs{{Text: name, From: x.Field}, {Text: ", "}, {Text: day, From: "@received"}}
	switch {
	case name == "" && day == "":
		under = plain(field.Label)
	case name == "" || day == "":
		under = plain(name + day)
	}
	p := b.paragraph(x.ID, typeset.Plain, under, 9, softInk)
	p.After = 10
	b.add(p)
}

// keepEnd keeps the end of the words before on the page of what follows: a signature alone on a page signs nothing.
func (b *binder) keepEnd() {
	if n := len(*b.within); n > 0 {
		if p, ok := (*b.within)[n-1].(*typeset.Paragraph); ok {
			p.KeepEnd = true
		}
	}
}

// keepNext keeps what was added last on the page of what follows.
func (b *binder) keepNext() {
	n := len(*b.within)
	if n == 0 {
		return
	}
	switch x := (*b.within)[n-1].(type) {
	case *typeset.Space:
		x.KeepNext = true
	case *typeset.Paragraph:
		x.KeepNext = true
	}
}
