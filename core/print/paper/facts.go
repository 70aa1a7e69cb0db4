package paper

import (
	"slices"
	"strconv"

	"amberseal/core/print/typeset"
	"amberseal/core/words/finding"
	"amberseal/core/words/phrase"
)

// Tile is a fact that readers look for, under its label.
type Tile struct {
	Label  string        `json:"label"`
	Text   phrase.Phrase `json:"text"`
	Accent bool          `json:"accent,omitempty"` // the one that matters most
}

// mostTiles is how many tiles a block has at most, leastTile how wide one is at least, in millimetres: more stand in further rows.
const (
	mostTiles = 12
	leastTile = 34
)

// The room in a tile, in points.
const (
	tileInset = 7
	tilePad   = 6
	tileEdge  = 1.6
	tileLine  = 0.45
)

// facts prints labelled tiles between two hairlines; those whose answer is missing leave no hole.
func (b *binder) factTiles(x Block) {
	var shown []typeset.Cell
	var strong []bool
	for _, tile := range x.Tiles {
		words := runs(tile.Text.Bind(b.facts))
		if len(words) == 0 {
			continue
		}
		shown = append(shown, b.tile(tile, words))
		strong = append(strong, tile.Accent)
	}
	if len(shown) == 0 {
		return
	}
	if b.inTicket {
		b.add(largeTiles(x.ID, shown))
		return
	}
	page := b.shared.out.Page
	room := max(int((page.Width-page.Left-page.Right)/(leastTile*millimetre)), 1)
	rows := (len(shown) + room - 1) / room
	across := (len(shown) + rows - 1) / rows
	t := &typeset.Table{Block: x.ID, Layout: true, Pad: tilePad, Inset: tileInset, Before: 4, After: 14, Fit: typeset.Floored}
	for range across {
		t.Columns = append(t.Columns, 1)
	}
	for first := 0; first < len(shown); first += across {
		row := typeset.Row{Whole: true}
		for i := first; i < first+across; i++ {
			edges := [4]typeset.Edge{{Width: tileLine, Colour: hairline}, {}, {Width: tileLine, Colour: hairline}, {}}
			var cell typeset.Cell
			if i < len(shown) {
				cell = shown[i]
				switch {
				case strong[i]:
					fill := b.tint
					cell.Fill, edges[3] = &fill, typeset.Edge{Width: tileEdge, Colour: b.accent}
				case i > first:
					edges[3] = typeset.Edge{Width: tileLine, Colour: hairline}
				default:
					flush(cell)
				}
			}
			cell.Edges = &edges
			row.Cells = append(row.Cells, cell)
		}
		t.Rows = append(t.Rows, row)
	}
	b.add(t)
}

func (b *binder) tile(tile Tile, words runs) typeset.Cell {
	label := b.label("", tile.Label, b.labelInk)
	label.After, label.KeepNext = 1.5, true
	size, shrink := b.style.text, leastTileWords
	if b.inTicket {
		size, shrink = size*1.3, 0
	}
	value := b.paragraph("", typeset.Plain, words, size, b.ink)
	value.Leading, value.Shrink = 1.25, shrink
	value.Tabular = b.inTicket // it is made smaller where a word or an amount would be broken, and not before
	if tile.Accent && !b.inTicket {
		for i := range label.Runs {
			label.Runs[i].Colour = b.words
		}
		for i := range value.Runs {
			value.Runs[i].Style.Bold = true
		}
		value.Size = b.style.text * 1.25
		value.Leading = 1.1
	}
	return typeset.Cell{Nodes: []typeset.Node{label, value}}
}

// leastTileWords is down to what part of their size the words of a tile are set before they are broken.
const leastTileWords = 0.7

// largeTiles stand two beside each other, without rules.
func largeTiles(block string, cells []typeset.Cell) *typeset.Table {
	t := &typeset.Table{Block: block, Layout: true, Columns: []float64{1, 1}, Gap: 10, Pad: 3.5, After: 6}
	for pair := range slices.Chunk(cells, 2) {
		t.Rows = append(t.Rows, typeset.Row{Cells: pair})
	}
	return t
}

// flush lets the words of a cell begin at the edge of the text.
func flush(c typeset.Cell) {
	for _, n := range c.Nodes {
		if p, ok := n.(*typeset.Paragraph); ok {
			p.Indent = -tileInset
		}
	}
}

func (b Block) checkTiles(c checking) finding.List {
	var l finding.List
	if len(b.Tiles) == 0 {
		l.Notice(c.at, "paper.facts-empty")
	}
	if len(b.Tiles) > mostTiles {
		l.Fault(c.at, "paper.facts-many", "most", strconv.Itoa(mostTiles))
	}
	for _, t := range b.Tiles {
		l = append(l, t.Text.Check(c.at, c.scope)...)
	}
	return l
}
