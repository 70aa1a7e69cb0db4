package onpage

import (
	"fmt"
	"slices"
	"strings"

	"amberseal/core/ask/form"
	"amberseal/core/foreign/ground"
	"amberseal/core/foreign/match"
	"amberseal/core/print/paper"
	"amberseal/core/print/pdf"
	"amberseal/core/print/typeface"
	"amberseal/core/print/typeset"
)

// filling is what is filled into a field.
type filling struct {
	words string
	value form.Value // of the one field that the match speaks of
	field form.Field
	yes   bool // of a formula or an answer: it holds
	given bool // there is something to fill in
}

// filled finds what a field is to be filled with.
func (b *binder) filled(m ground.Meaning) filling {
	facts := b.facts
	key := m.Match.Field()
	if m.Match.Formula != "" {
		words, _ := m.Match.Text(facts)
		return filling{words: words, yes: facts.Condition(m.Match.Formula), given: true}
	}
	if rows, ok := facts.Form.Column(key); ok && m.Row >= 0 {
		all := facts.Rows(rows)
		if m.Row >= len(all) {
			return filling{}
		}
		facts = all[m.Row]
	}
	x, v := b.answer(facts, key)
	words, _ := m.Match.Text(facts)
	return filling{words: words, value: v, field: x, yes: v.Yes, given: words != "" || !v.Empty()}
}

// field fills a field, or keeps it as it looks.
func (b *binder) field(f ground.Field, m ground.Meaning) {
	if m.How == match.None {
		b.keep(f)
		return
	}
	fill := b.filled(m)
	switch f.Kind {
	case match.Tick:
		b.ticked(f, b.ticks(f, m, fill))
	case match.Radio:
		b.chosen(f, m, fill)
	default:
		b.written(f, m, fill)
	}
}

// keep lets a field that nothing is filled into look as it does.
func (b *binder) keep(f ground.Field) {
	for _, w := range f.Widgets {
		if look := w.Look; look.Object != 0 && !w.Hidden && !b.design.Fillable {
			b.out.Over.Fills = append(b.out.Over.Fills, pdf.Fill{Widget: w.Object, Page: w.Page, Look: look.Object, Place: look.Place})
		}
	}
}

// begin is the fill of a widget.
func begin(f ground.Field, w ground.Widget) pdf.Fill {
	return pdf.Fill{
		Widget: w.Object, Page: w.Page, Field: f.Object, FieldEntries: f.Entries, Entries: w.Entries, Looks: w.Looks, Rect: w.Rect,
	}
}

// ticks reports whether a box is ticked.
func (b *binder) ticks(f ground.Field, m ground.Meaning, fill filling) bool {
	v := fill.value
	switch {
	case m.Match.Formula != "":
		return fill.yes
	case v.Empty():
		return false
	case v.Shape() == form.Truth:
		return v.Yes
	case v.Shape() == form.One, v.Shape() == form.Several:
		return m.Choice != "" && (v.Text == m.Choice || slices.Contains(v.List, m.Choice))
	}
	return fill.words != ""
}

func (b *binder) ticked(f ground.Field, on bool) {
	value := "/Off"
	if on {
		value = "/" + pdf.Name(f.Widgets[0].State)
	}
	for _, w := range f.Widgets {
		b.state(f, w, on, value)
	}
}

// state shows a box or button as it is when it is on, or as nothing.
func (b *binder) state(f ground.Field, w ground.Widget, on bool, value string) {
	fill := begin(f, w)
	fill.Value = value
	fill.Looks = w.States + " /AS /Off"
	if on {
		fill.Looks = w.States + " /AS /" + pdf.Name(w.State)
	}
	if w.Hidden && !b.design.Fillable {
		return
	}
	look := w.Off
	if on {
		look = w.On
	}
	p := b.box(f, w)
	p.Cells, p.Line, p.Fill, p.Edge = 0, true, nil, typeset.Edge{}
	switch {
	case b.design.Fillable:
	case look.Object != 0:
		fill.Look, fill.Place = look.Object, look.Place
	default: // it has no look for the state
		p = b.box(f, w)
		p.Cells = 0
		if on {
			p.Picture = &typeset.Picture{Drawing: signs[paper.PutTick](w.W, w.H), Align: typeset.Center}
		}
		if on || p.Fill != nil || p.Edge.Width > 0 {
			fill.Element = &typeset.Element{Role: "Form"}
			p.Element = fill.Element
		}
	}
	b.out.Over.Fills = append(b.out.Over.Fills, fill)
	b.out.Places = append(b.out.Places, p)
}

// yesWords are how forms call their buttons for yes and no, in the five languages of the program.
var yesWords, noWords = []string{"yes", "ja", "oui", "sí", "si", "tak", "y", "j", "true", "1", "on"},
	[]string{"no", "nein", "non", "nie", "n", "false", "0", "off"}

// option finds the option of an answer.
func option(f ground.Field, fill filling) (ground.Option, bool) {
	v := fill.value
	switch {
	case v.Shape() == form.Truth && !v.Empty():
		if v.Yes {
			return f.Option(append([]string{fill.words}, yesWords...)...)
		}
		return f.Option(append([]string{fill.words}, noWords...)...)
	case v.Shape() == form.One && !v.Empty():
		return f.Option(v.Text, fill.field.ChoiceLabel(v.Text))
	}
	return f.Option(fill.words)
}

func (b *binder) chosen(f ground.Field, m ground.Meaning, fill filling) {
	state, ok := "", false
	if fill.given {
		var o ground.Option
		if o, ok = option(f, fill); ok {
			state = o.Value
		} else {
			b.notice(b.ground.Place(f), "ground.option-missing", "words", fill.words)
		}
	}
	value := "/Off"
	if ok {
		value = "/" + pdf.Name(state)
	}
	for _, w := range f.Widgets {
		b.state(f, w, ok && w.State == state, value)
	}
}

// written sets words or a picture in the box of a field.
func (b *binder) written(f ground.Field, m ground.Meaning, fill filling) {
	words, kept := fill.words, ""
	pictured := fill.value.Shape() == form.Drawn || fill.value.Shape() == form.Files && fill.field.Kind == form.Photo
	if f.Kind == match.List && fill.given {
		if o, ok := option(f, fill); ok {
			words, kept = o.Words, o.Value
		}
	}
	if f.Comb > 0 {
		words = b.packed(m, fill, words)
	}
	if !f.Lines {
		words = strings.Join(strings.FieldsFunc(words, func(r rune) bool { return r == '\n' || r == '\r' }), ", ")
	}
	if n := len([]rune(words)); f.Most > 0 && n > f.Most && !pictured {
		b.notice(b.ground.Place(f), "ground.too-long", "most", f.Most, "words", begins(words))
	}
	if kept == "" {
		kept = words
	}
	for _, w := range f.Widgets {
		if w.Hidden && !b.design.Fillable {
			continue
		}
		x := begin(f, w)
		x.Element = &typeset.Element{Role: "Form"}
		x.Value = pdf.TextString(kept)
		if pictured || f.Kind == match.Button || f.Kind == match.Signature {
			x.Value = ""
		}
		p := b.box(f, w)
		p.Element = x.Element
		if pictured {
			p.Cells = 0
			p = b.shown(p, fill.field, fill.value)
			// Readers put their own sign over a field that is to be signed.
			x.Fixed = f.Kind == match.Signature && (p.Picture != nil || p.Words != nil)
		} else if words != "" {
			p.Words = paragraphs(words, b.typeOf(w), ink(w.Ink))
		}
		if p.Picture == nil && p.Words == nil && p.Fill == nil && p.Edge.Width == 0 {
			if !b.design.Fillable {
				continue
			}
			x.Element, x.Looks = nil, ""
		}
		b.out.Over.Fills = append(b.out.Over.Fills, x)
		b.out.Places = append(b.out.Places, p)
	}
}

// packed are the letters of a row of boxes: of a day and of a number no signs between them.
func (b *binder) packed(m ground.Meaning, fill filling, words string) string {
	key := m.Match.Field()
	if key == "" || m.Match.Words[0].Format != "" || fill.value.Empty() {
		return words
	}
	switch fill.value.Shape() {
	case form.Day, form.Moment:
		pattern := strings.ToLower(b.facts.Locale().DatePattern())
		order := "ddmmyyyy"
		switch {
		case strings.HasPrefix(pattern, "y"):
			order = "yyyymmdd"
		case strings.HasPrefix(pattern, "m"):
			order = "mmddyyyy"
		}
		at := m.Match
		at.Words = slices.Clone(at.Words)
		at.Words[0].Format = order
		digits, _ := at.Text(b.facts)
		return digits
	case form.Words:
		if fill.value.Kind == form.Phone {
			return strings.Join(strings.Fields(words), "")
		}
	}
	return words
}

// box is the place of a widget with its ground and border.
func (b *binder) box(f ground.Field, w ground.Widget) typeset.Place {
	p := typeset.Place{
		Block: b.ground.Place(f), Page: w.Page, X: w.X, Y: w.Y, W: w.W, H: w.H, Turn: w.Turn, Line: !f.Lines, Cells: f.Comb,
		Stand: typeset.Center,
	}
	if f.Lines {
		p.Stand = typeset.Start
	}
	if w.Fill != nil {
		c := ink(*w.Fill)
		p.Fill = &c
	}
	if w.Border != nil && w.Rule > 0 {
		p.Edge = typeset.Edge{Width: w.Rule, Colour: ink(*w.Border)}
	}
	return p
}

func ink(c [3]uint8) typeset.Colour { return typeset.Colour{R: c[0], G: c[1], B: c[2]} }

// names of the fonts that every reader has (ISO 32000-1, 9.6.2.2), as resources of forms call them too.
var standard = []struct{ part, family string }{
	{"helv", "Liberation Sans"}, {"arial", "Liberation Sans"}, {"hebo", "Liberation Sans"}, {"times", "Liberation Serif"},
	{"tiro", "Liberation Serif"}, {"tibo", "Liberation Serif"}, {"cour", "Liberation Mono"}, {"cobo", "Liberation Mono"},
}

// typeOf is the type in which a widget is set: like that which its form asks for, else the house’s.
func (b *binder) typeOf(w ground.Widget) typeset.Paragraph {
	p := typeset.Paragraph{Family: b.facts.House.Font, Size: w.Size, Align: []typeset.Align{typeset.Start, typeset.Center,
		typeset.End}[w.Align%3]}
	name := w.Font
	if _, after, ok := strings.Cut(name, "+"); ok { // of a subset
		name = after
	}
	low := strings.ToLower(name)
	for _, s := range standard {
		if strings.Contains(low, s.part) {
			p.Family = s.family
			return p
		}
	}
	if base, _, _ := strings.Cut(name, "-"); base != "" {
		if family, same := typeface.Substitute(base); same {
			p.Family = family
		}
	}
	return p
}

func begins(words string) string {
	const most = 40
	if r := []rune(words); len(r) > most {
		return fmt.Sprintf("%s…", string(r[:most]))
	}
	return words
}
