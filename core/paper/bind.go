package paper

import (
	"strconv"
	"strings"

	"amberseal/core/finding"
	"amberseal/core/phrase"
	"amberseal/core/typeface"
	"amberseal/core/typeset"
)

// Pictures gives a picture's file by name.
type Pictures func(name string) ([]byte, error)

var (
	ink      = typeset.Colour{R: 0x16, G: 0x26, B: 0x2B}
	softInk  = typeset.Colour{R: 0x4A, G: 0x5B, B: 0x5F}
	hairline = typeset.Colour{R: 0xC4, G: 0xCD, B: 0xC9}
	unknown  = typeset.Colour{R: 0xA3, G: 0x26, B: 0x2A}
)

// binder carries what every block needs.
type binder struct {
	facts    phrase.Facts
	doc      Document
	pictures Pictures
	accent   typeset.Colour
	family   string
	style    style
	out      typeset.Document
	findings finding.List
}

// Bind puts the facts into the design. Blocks whose condition does not hold are left
// out. Findings say which pictures could not be printed; everything else is printed.
func Bind(d Document, facts phrase.Facts, pictures Pictures) (*typeset.Document, finding.List) {
	b := &binder{facts: facts, doc: d, pictures: pictures, accent: colour(facts.House.Accent), family: facts.House.Font, style: styleOf(d.Look)}
	b.out = typeset.Document{
		Title:    d.Title.Plain(facts),
		Language: facts.Locale().Tag(),
		Page:     d.Page.size(facts.House.Paper, styleOf(d.Look).margins),
	}
	b.ground()
	if b.out.Title == "" {
		b.out.Title = d.Name
	}
	for _, block := range d.Blocks {
		if facts.Condition(block.When) {
			b.block(block)
		}
	}
	if len(d.Footer) > 0 {
		p := b.paragraph("footer", typeset.Plain, d.Footer.Bind(facts), 8, softInk)
		p.Align = typeset.Center
		b.out.Footer = []typeset.Paragraph{*p}
	}
	return &b.out, b.findings
}

// pale and trialInk are what stands behind text and must not hide it.
var (
	pale     = typeset.Colour{R: 0xE6, G: 0xE9, B: 0xE7}
	trialInk = typeset.Colour{R: 0xF3, G: 0xD9, B: 0xD6}
)

// ground sets what lies behind the text: a colour, and words across the page. A trial's mark comes before a
// watermark.
func (b *binder) ground() {
	if b.doc.Page.Ground != "" {
		c := colour(b.doc.Page.Ground)
		b.out.Ground = &c
	}
	words, c := b.doc.Page.Watermark, pale
	if b.facts.Trial {
		words, c = b.facts.Locale().Trial(), trialInk
	}
	if words == "" {
		return
	}
	size := min(b.out.Page.Width, b.out.Page.Height) / max(float64(len([]rune(words))), 5) * 1.5
	p := b.paragraph("", typeset.Plain, []phrase.Run{{Text: words, Bold: true}}, size, c)
	b.out.Stamp = p
}

func (b *binder) add(n typeset.Node) { b.out.Body = append(b.out.Body, n) }

func (b *binder) block(x Block) {
	switch x.Kind {
	case Letterhead:
		b.style.letterhead(b, x)
	case Heading:
		b.heading(x.ID, x.Level, x.Text.Bind(b.facts), align(x.Align))
	case Text:
		b.text(x)
	case Answers:
		b.answers(x)
	case Picture:
		if img := b.image(x.Picture, "documents/"+b.doc.Key+"/blocks/"+x.ID); img != nil {
			b.add(&typeset.Picture{
				Block: x.ID, Image: img, Alt: x.Alt, Align: align(x.Align), Before: 4, After: 10,
				Width: x.Width * millimetre, Height: x.Height * millimetre,
			})
		}
	case Rule:
		b.add(&typeset.Rule{Block: x.ID, Thickness: 0.75, Colour: hairline, Before: 6, After: 10})
	case PageBreak:
		b.add(&typeset.Break{Block: x.ID})
	case Lines:
		b.lineTable(x)
	case Code:
		b.codeBlock(x)
	case Signature:
		b.signatureBlock(x)
	case Space:
		b.add(&typeset.Space{Block: x.ID, Height: x.Height * millimetre})
	}
}

func (b *binder) paragraph(block string, role typeset.Role, runs []phrase.Run, size float64, c typeset.Colour) *typeset.Paragraph {
	p := &typeset.Paragraph{Block: block, Role: role, Family: b.family, Size: size, Leading: b.style.leading}
	for _, r := range runs {
		t := typeset.Run{Text: r.Text, Style: typeface.Style{Bold: r.Bold, Italic: r.Italic}, Colour: c, Underline: r.Underline, Link: r.Link}
		switch {
		case r.Counter == "page":
			t.Counter = typeset.PageNumber
		case r.Counter == "pages":
			t.Counter = typeset.PageCount
		case r.Unknown:
			t.Colour, t.Style.Bold = unknown, true
		case r.Link != "":
			t.Colour = typeset.Colour{R: 0x1F, G: 0x4F, B: 0x8A}
		}
		p.Runs = append(p.Runs, t)
	}
	if len(p.Runs) == 0 {
		p.Runs = []typeset.Run{{Colour: c}}
	}
	return p
}

func (b *binder) heading(block string, level int, runs []phrase.Run, a typeset.Align) {
	level = min(max(level, 1), 3)
	look := b.style.headings[level-1]
	c := b.accent
	if b.style.plainHeading {
		c = ink
	}
	if b.style.centred && level == 1 {
		a = typeset.Center
	}
	for i := range runs {
		runs[i].Bold = true
	}
	p := b.paragraph(block, typeset.Role("H"+strconv.Itoa(level)), runs, look.size, c)
	p.Leading, p.Before, p.After, p.KeepNext, p.Align = 1.2, look.before, look.after, true, a
	b.add(p)
}

func (b *binder) text(x Block) {
	number := 0
	for _, para := range x.Body {
		role := typeset.Plain
		if para.List != "" {
			role = typeset.ListItem
		}
		p := b.paragraph(x.ID, role, para.Spans.Bind(b.facts), b.style.text, ink)
		p.After, p.Align = 7, align(para.Align)
		switch para.List {
		case "bullet":
			p.Marker, p.Indent, p.After = "•", 18, 2.5
		case "number":
			number++
			p.Marker, p.Indent, p.After = strconv.Itoa(number)+".", 18, 2.5
		}
		if para.List != "number" {
			number = 0
		}
		b.add(p)
	}
}

// image reads a picture, or notes why it is left out.
func (b *binder) image(name, place string) *typeset.Image {
	data, err := b.pictures(name)
	if err == nil {
		var img *typeset.Image
		if img, err = typeset.ReadImage(data); err == nil {
			return img
		}
	}
	b.findings.Fault(place, "The picture “"+name+"” cannot be printed: "+err.Error()+".", "Choose another.")
	return nil
}

func align(s string) typeset.Align {
	switch s {
	case "center":
		return typeset.Center
	case "end":
		return typeset.End
	}
	return typeset.Start
}

func colour(hex string) typeset.Colour {
	v, err := strconv.ParseUint(strings.TrimPrefix(hex, "#"), 16, 24)
	if err != nil {
		return ink
	}
	return typeset.Colour{R: uint8(v >> 16), G: uint8(v >> 8), B: uint8(v)}
}
