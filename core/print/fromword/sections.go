package fromword

import (
	"strconv"

	"github.com/beevik/etree"

	"amberseal/core/foreign/word"
	"amberseal/core/print/typeset"
)

// sectionsOf are the properties of a body's sections, in order: each stands at its section's end (17.6.17).
func sectionsOf(body *etree.Element) []*etree.Element {
	var out []*etree.Element
	out = append(out, body.FindElements(".//w:p/w:pPr/w:sectPr")...)
	if e := body.SelectElement("w:sectPr"); e != nil {
		out = append(out, e)
	}
	if len(out) == 0 {
		out = append(out, etree.NewElement("w:sectPr"))
	}
	return out
}

// begin makes the first section the document's own.
func (b *binder) begin(doc *typeset.Document) {
	b.running = map[string]typeset.Running{}
	s := b.section(b.sections[0])
	doc.Page, doc.Running, doc.First = s.Page, s.Running, s.First
	if s.Even != nil || s.Columns > 1 || s.From != nil || s.Numeral != nil {
		b.add(s)
	}
}

// next begins the section behind the present one. A continuous one goes on on the same page where its paper is the same.
func (b *binder) next() {
	if len(b.sections) < 2 {
		return
	}
	b.sections = b.sections[1:]
	before := b.page
	s := b.section(b.sections[0])
	if word.Attr(b.sections[0].SelectElement("w:type"), "val") == "continuous" && s.Page.Width == before.Width &&
		s.Page.Height == before.Height {
		s.Continues = true
		b.page.Top, b.page.Bottom = before.Top, before.Bottom
		s.Page = b.page
	}
	b.add(s)
}

// followed reports whether the section behind the present one goes on on its page: its columns end at the same height then.
func (b *binder) followed() bool {
	return len(b.sections) > 1 && word.Attr(b.sections[1].SelectElement("w:type"), "val") == "continuous"
}

// section reads paper, margins and what runs on the pages.
func (b *binder) section(e *etree.Element) *typeset.Section {
	p := typeset.Page{Width: 612, Height: 792, Top: 72, Right: 72, Bottom: 72, Left: 72}
	set := func(x *etree.Element, key string, into *float64) {
		if v, ok := measure(word.Attr(x, key)); ok {
			*into = v
		}
	}
	if x := e.SelectElement("w:pgSz"); x != nil {
		set(x, "w", &p.Width)
		set(x, "h", &p.Height)
	}
	header, footer, gutter := 36.0, 36.0, 0.0
	if x := e.SelectElement("w:pgMar"); x != nil {
		set(x, "top", &p.Top)
		set(x, "right", &p.Right)
		set(x, "bottom", &p.Bottom)
		set(x, "left", &p.Left)
		set(x, "header", &header)
		set(x, "footer", &footer)
		set(x, "gutter", &gutter)
	}
	p.Left += gutter
	p.Top, p.Bottom = max(p.Top, -p.Top), max(p.Bottom, -p.Bottom) // below 0 a header lies over the text
	p.Width, p.Height = min(max(p.Width, 72), 4000), min(max(p.Height, 72), 4000)
	if p.Width-p.Left-p.Right < 36 {
		p.Left, p.Right = 18, 18
	}
	b.page = p
	var widths [][2]float64
	columns, gap := 0, 36.0 // 720 twentieths of a point by themselves (17.6.4)
	if x := e.SelectElement("w:cols"); x != nil {
		columns, _ = strconv.Atoi(word.Attr(x, "num"))
		columns = min(columns, 12)
		set(x, "space", &gap)
		if own := x.SelectElements("w:col"); columns > 1 && len(own) > 0 {
			set(own[0], "space", &gap)
			widths = b.widths(own, p.Width-p.Left-p.Right)
		}
	}
	for _, x := range e.ChildElements() {
		if x.Tag != "headerReference" && x.Tag != "footerReference" {
			continue
		}
		part, ok := b.file.Related(b.file.Body(), x.SelectAttrValue("r:id", ""))
		if !ok {
			continue
		}
		kind := word.Attr(x, "type")
		r := b.running[kind]
		nodes := b.runs(part)
		if x.Tag == "headerReference" {
			r.Head = nodes
		} else {
			r.Foot = nodes
		}
		b.running[kind] = r
	}
	of := func(kind string) typeset.Running {
		r := b.running[kind]
		r.FromTop, r.FromFloor = header, footer
		if r.Head == nil {
			r.Head = []typeset.Node{}
		}
		return r
	}
	s := &typeset.Section{Page: p, Running: of("default"), Columns: columns, Gap: gap, Widths: widths, Balanced: b.followed()}
	if x := e.SelectElement("w:pgNumType"); x != nil { // 17.6.12
		if n, err := strconv.Atoi(word.Attr(x, "start")); err == nil {
			s.From = &n
		}
		if format := word.Attr(x, "fmt"); format != "" && format != "decimal" {
			s.Numeral = func(n int) string { return counted(n, format) }
		}
	}
	if x := e.SelectElement("w:titlePg"); x != nil && on(x) {
		first := of("first")
		s.First = &first
	}
	if b.odd {
		even := of("even")
		s.Even = &even
	}
	return s
}

// widths are those of columns that are not alike, each with the gap behind it; nil where they are alike or do not fit.
func (b *binder) widths(own []*etree.Element, room float64) (out [][2]float64) {
	sum, alike := 0.0, true
	for _, c := range own {
		w, ok := measure(word.Attr(c, "w"))
		gap, _ := measure(word.Attr(c, "space"))
		if !ok || w < 18 {
			return nil
		}
		alike = alike && (len(out) == 0 || w == out[0][0])
		out = append(out, [2]float64{w, gap})
		sum += w + gap
	}
	if alike || sum-out[len(out)-1][1] > room+1 {
		return nil
	}
	return out
}

// runs are the nodes of a header or footer.
func (b *binder) runs(part word.Part) []typeset.Node {
	before, nodes, at, page := b.part, b.nodes, b.at, b.page
	b.part, b.nodes = part, nil
	b.blocks(part.Root)
	out := flowing(b.nodes)
	b.part, b.nodes, b.at, b.page = before, nodes, at, page
	for _, n := range out {
		if p, ok := n.(*typeset.Paragraph); ok {
			p.Block = ""
		}
	}
	return out
}
