package fromword

import (
	"github.com/beevik/etree"

	"amberseal/core/foreign/word"
	"amberseal/core/print/typeset"
)

// framed puts a paragraph into a frame that stands beside the next one without (17.3.1.11). It reports whether the paragraph asks for one.
func (b *binder) framed(p *etree.Element) bool {
	var fr *etree.Element
	if pr := p.SelectElement("w:pPr"); pr != nil {
		fr = pr.SelectElement("w:framePr")
	}
	if fr == nil || len(b.nested) > 0 {
		b.frame = ""
		return false
	}
	said := ""
	for _, a := range fr.Attr {
		said += a.Key + "=" + a.Value + ";"
	}
	if said != b.frame || len(b.floats) == 0 {
		b.frame = said
		b.floats = append(b.floats, b.frameOf(fr))
	}
	others, box := b.floats[:len(b.floats)-1], b.floats[len(b.floats)-1]
	before, at := b.nodes, b.at
	room := box.Width
	if room <= 0 {
		room = b.room()
	}
	b.nodes, b.nested, b.floats = nil, append(b.nested, room), nil
	b.paragraph(p)
	box.Nodes = append(box.Nodes, flowing(b.nodes)...)
	b.nodes, b.at, b.nested = before, at, b.nested[:len(b.nested)-1]
	b.floats, b.frame = append(others, box), said
	return true
}

// taken gives the frames that wait.
func (b *binder) taken() []*typeset.Float {
	out := b.floats
	b.floats, b.frame = nil, ""
	return out
}

func (b *binder) frameOf(fr *etree.Element) *typeset.Float {
	box := &typeset.Float{Block: b.at, Around: typeset.BothSides}
	at := func(key string) float64 { v, _ := measure(word.Attr(fr, key)); return v }
	box.Width, box.Height = bounded(at("w")), bounded(at("h"))
	if word.Attr(fr, "hRule") == "" || word.Attr(fr, "hRule") == "auto" {
		box.Height = 0
	}
	spot := func(anchor, x, align string, usual typeset.Origin) typeset.Spot {
		s := typeset.Spot{From: usual, At: at(x)}
		if o, ok := origins[word.Attr(fr, anchor)]; ok {
			s.From = o
		}
		if a, ok := sides[word.Attr(fr, align)]; ok {
			s.Align, s.Aligned = a, true
		}
		return s
	}
	box.X, box.Y = spot("hAnchor", "x", "xAlign", typeset.Beside), spot("vAnchor", "y", "yAlign", typeset.Beside)
	h, v := at("hSpace"), at("vSpace")
	box.Gaps = [4]float64{v, h, v, h}
	switch word.Attr(fr, "wrap") {
	case "notBeside", "none":
		box.Around = typeset.AboveBelow
	}
	if kind := word.Attr(fr, "dropCap"); kind == "drop" || kind == "margin" {
		box.X = typeset.Spot{}
		box.Gaps[1] = max(h, 2)
	}
	return box
}
