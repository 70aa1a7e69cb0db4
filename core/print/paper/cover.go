package paper

import (
	"amberseal/core/print/typeset"
	"amberseal/core/words/finding"
)

// Shares of a cover's height: how far its colour reaches, and where its title ends.
const coverBand, coverTitle = 0.62, 0.57

// cover makes the first page of a document a cover: its title on the house's colour, or over a picture, and the house below. Elsewhere
// than at the beginning it is a heading.
func (b *binder) cover(x Block) {
	title := runs(x.Text.Bind(b.facts))
	if b.within != &b.shared.out.Body || len(b.shared.out.Body) > 0 {
		b.heading(x.ID, 1, title, typeset.Start)
		return
	}
	page := b.shared.out.Page
	high := page.Height * coverBand
	ground := &typeset.Float{Width: page.Width, Height: high, Ground: &typeset.Drawing{
		Width: page.Width, Height: high, Colour: b.band, Boxes: [][4]float64{{0, 0, page.Width, high}},
	}}
	ground.X, ground.Y = at(0, 0)
	b.add(ground)
	width := page.Width - page.Left - page.Right
	top := page.Top
	if x.Picture != "" {
		if p := b.art(x.Picture, b.place(x)); p != nil {
			p.Block, p.Alt, p.Width, p.Height = x.ID, x.Alt, width, high*0.5
			picture := &typeset.Float{Block: x.ID, Width: width, Nodes: []typeset.Node{p}}
			picture.X, picture.Y = typeset.Spot{From: typeset.Paper, At: page.Left}, typeset.Spot{From: typeset.Paper, At: top}
			b.add(picture)
		}
	}
	size := b.style.fixed(34)
	name := b.paragraph(x.ID, typeset.Heading1, title.bold(), size, b.on)
	name.Leading, name.Shrink = 1.12, 0.5
	words := []typeset.Node{name}
	if under := runs(x.Caption.Bind(b.facts)); len(under) > 0 {
		p := b.paragraph(x.ID, typeset.Plain, under, b.style.fixed(13), b.on)
		p.Before, p.Leading = 8, 1.35
		words = append(words, p)
	}
	box := &typeset.Float{Block: x.ID, Width: width, Height: high * 0.5, Nodes: words, Stand: typeset.End}
	box.X = typeset.Spot{From: typeset.Paper, At: page.Left}
	box.Y = typeset.Spot{From: typeset.Paper, At: page.Height*coverTitle - box.Height}
	b.add(box)
	logo := b.houseName(15, b.words, true)
	foot := &typeset.Float{Block: x.ID, Width: width, Nodes: logo.Nodes}
	foot.X = typeset.Spot{From: typeset.Paper, At: page.Left}
	foot.Y = typeset.Spot{From: typeset.Paper, At: page.Height*coverBand + b.style.fixed(34)}
	b.add(foot)
	b.add(&typeset.Break{Block: x.ID, Always: true})
	b.shared.out.First = &typeset.Running{}
}

func (x Block) checkCover(c checking) finding.List {
	var l finding.List
	if len(x.Text) == 0 {
		l.Notice(c.at, "paper.heading-empty")
	}
	switch {
	case x.Picture == "":
	case !c.exists(x.Picture):
		l.Fault(c.at, "paper.picture-is-gone", "picture", x.Picture)
	case x.Alt == "":
		l.Notice(c.at, "paper.picture-without-description")
	}
	return l
}
