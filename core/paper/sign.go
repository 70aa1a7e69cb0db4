package paper

import (
	"strings"

	"amberseal/core/typeset"
)

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
	case v.Empty():
		b.missing(x, "space", 18*millimetre)
	case v.Sign.Typed != "":
		p := b.paragraph(x.ID, typeset.Plain, plain(v.Sign.Typed).italic(), 17, b.ink)
		p.Before, p.KeepNext = 14, true
		b.add(p)
	default:
		if picture = b.signature(v.Sign, field.Label); picture != nil {
			picture.Block, picture.Before = x.ID, 10
			b.add(picture)
		}
	}
	b.add(&typeset.Rule{Block: x.ID, Thickness: 0.6, Colour: b.ink, Before: 2, After: 3})
	day := b.facts.Locale().DateLong(b.facts.Received.In(b.facts.House.Location()))
	if v.Empty() {
		day = ""
	}
	under := strings.Join(nonEmpty(name, day), ", ")
	if under == "" {
		under = field.Label
	}
	p := b.paragraph(x.ID, typeset.Plain, plain(under), 9, softInk)
	p.After = 10
	b.add(p)
}
