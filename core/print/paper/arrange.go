package paper

import (
	"amberseal/core/print/typeset"
)

// mostSides is how many columns of blocks stand beside each other, mostStubs how many stubs a strip has.
const mostSides, mostStubs = 4, 24

// columns sets blocks beside each other. They are read one column after the other.
func (b *binder) columns(x Block) {
	t := &typeset.Table{Block: x.ID, Layout: true, Gap: 18, Before: 8, After: 8}
	var row typeset.Row
	for _, side := range x.Sides[:min(len(x.Sides), mostSides)] {
		share := side.Share
		if share <= 0 {
			share = 1
		}
		t.Columns = append(t.Columns, share)
		row.Cells = append(row.Cells, typeset.Cell{Nodes: b.inside(func(b *binder) { b.blocks(side.Blocks) })})
	}
	if len(row.Cells) > 0 {
		t.Rows = []typeset.Row{row}
		b.add(t)
	}
}

// usualStrip is the height of a strip's stubs in millimetres, where the design says none.
const usualStrip = 60

// strip prints tear-off stubs along the page's foot.
func (b *binder) strip(x Block) {
	height := x.Height
	if height <= 0 {
		height = usualStrip
	}
	words := b.paragraph(x.ID, typeset.Plain, runs(x.Text.Bind(b.facts)), 10*b.style.text/usualText, b.ink)
	words.Leading, words.Align = 1.25, typeset.Center
	b.add(&typeset.Strip{Block: x.ID, Stubs: min(max(x.Stubs, 1), mostStubs), Height: height * millimetre, Words: *words, Line: softInk})
}

// usualText is the size in points that fixed sizes are in proportion to.
const usualText = 10.5
