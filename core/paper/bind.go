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

// millimetre in points.
const millimetre = 72 / 25.4

// sizes of papers in points: A4 by ISO 216, Letter by ANSI/ASME Y14.1.
var sizes = map[string][2]float64{
	"A4":     {210 * millimetre, 297 * millimetre},
	"Letter": {8.5 * 72, 11 * 72},
}

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
	out      typeset.Document
	findings finding.List
}

// Bind puts the facts into the design. Blocks whose condition does not hold are left
// out. Findings say which pictures could not be printed; everything else is printed.
func Bind(d Document, facts phrase.Facts, pictures Pictures) (*typeset.Document, finding.List) {
	b := &binder{facts: facts, doc: d, pictures: pictures, accent: colour(facts.House.Accent), family: facts.House.Font}
	b.out = typeset.Document{
		Title:    d.Title.Plain(facts),
		Language: facts.Locale().Tag(),
		Page:     d.Page.size(facts.House.Paper),
	}
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

func (p Page) size(usual string) typeset.Page {
	size, ok := sizes[p.Paper]
	if !ok {
		if size, ok = sizes[usual]; !ok {
			size = sizes["A4"]
		}
	}
	if p.Landscape {
		size[0], size[1] = size[1], size[0]
	}
	m := UsualMargins()
	if p.Margins != nil {
		m = *p.Margins
	}
	return typeset.Page{
		Width: size[0], Height: size[1],
		Top: m.Top * millimetre, Right: m.Right * millimetre, Bottom: m.Bottom * millimetre, Left: m.Left * millimetre,
	}
}

func (b *binder) add(n typeset.Node) { b.out.Body = append(b.out.Body, n) }

func (b *binder) block(x Block) {
	switch x.Kind {
	case Letterhead:
		b.letterhead(x)
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
	case Space:
		b.add(&typeset.Space{Block: x.ID, Height: x.Height * millimetre})
	}
}

func (b *binder) paragraph(block string, role typeset.Role, runs []phrase.Run, size float64, c typeset.Colour) *typeset.Paragraph {
	p := &typeset.Paragraph{Block: block, Role: role, Family: b.family, Size: size, Leading: 1.4}
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
	look := []struct{ size, before, after float64 }{{20, 14, 8}, {13.5, 16, 5}, {11, 12, 3}}[level-1]
	for i := range runs {
		runs[i].Bold = true
	}
	p := b.paragraph(block, typeset.Role("H"+strconv.Itoa(level)), runs, look.size, b.accent)
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
		p := b.paragraph(x.ID, role, para.Spans.Bind(b.facts), 10.5, ink)
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

// letterhead sets the logo or name on one side and the address on the other, over a rule
// in the house's colour.
func (b *binder) letterhead(x Block) {
	h := b.facts.House
	name := b.paragraph(x.ID, typeset.Plain, []phrase.Run{{Text: h.Name, Bold: true}}, 13, b.accent)
	name.Leading = 1.25
	first := typeset.Cell{Paragraphs: []typeset.Paragraph{*name}}
	if h.Logo != "" {
		if img := b.image(h.Logo, "house/logo"); img != nil {
			first.Picture = &typeset.Picture{Image: img, Width: 60 * millimetre, Height: 18 * millimetre, Alt: h.Name}
			first.Paragraphs = nil
		}
	}
	var lines []string
	for _, l := range append(append([]string{}, h.Address...), h.Phone, h.Email, h.Website) {
		if strings.TrimSpace(l) != "" {
			lines = append(lines, l)
		}
	}
	second := typeset.Cell{}
	if len(lines) > 0 {
		address := b.paragraph(x.ID, typeset.Plain, []phrase.Run{{Text: strings.Join(lines, "\n")}}, 8.5, softInk)
		address.Align = typeset.End
		second.Paragraphs = []typeset.Paragraph{*address}
	}
	b.add(&typeset.Table{Block: x.ID, Columns: []float64{55, 45}, Gap: 12, Layout: true, Rows: []typeset.Row{{Cells: []typeset.Cell{first, second}}}})
	b.add(&typeset.Rule{Block: x.ID, Thickness: 1.5, Colour: b.accent, Before: 8, After: 14})
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
