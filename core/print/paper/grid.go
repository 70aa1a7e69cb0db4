package paper

import (
	"slices"
	"strconv"

	"amberseal/core/ask/form"
	"amberseal/core/print/typeset"
	"amberseal/core/words/finding"
	"amberseal/core/words/phrase"
)

// Grid is a table of fixed cells.
type Grid struct {
	Shares []float64 `json:"shares,omitempty"` // of the width, one for each column; equal when empty
	Header bool      `json:"header,omitempty"` // the first row heads the columns and is repeated on each page
	Rows   []GridRow `json:"rows"`
}

// GridRow is a row of a fixed table.
type GridRow struct {
	When  string     `json:"when,omitempty"` // formula; printed always when empty
	Each  string     `json:"each,omitempty"` // key of a repeating group: printed for each of its rows
	Cells []GridCell `json:"cells"`
}

// GridCell is words in a fixed table.
type GridCell struct {
	Body  phrase.Body `json:"body"`
	Span  int         `json:"span,omitempty"`  // columns it covers; 1 when 0
	Down  int         `json:"down,omitempty"`  // rows it covers, from its own downwards; 1 when 0
	Align string      `json:"align,omitempty"` // of all its words: start, center, end; that of each paragraph when empty
	Shade string      `json:"shade,omitempty"` // colour #RRGGBB behind it
}

// Columns is how many columns the table has: the most that a row's cells cover.
func (g *Grid) Columns() int {
	n := 1
	var above reach
	for _, r := range g.Rows {
		n = max(n, len(above.place(r.Cells)))
	}
	return min(n, mostGridColumns)
}

// reach is how many rows more each column is covered by cells above.
type reach []int

// place puts a row's cells into the columns that are free. It gives for each column the index of the cell that covers it, or
// -1 where one of a row above does.
func (above *reach) place(cells []GridCell) []int {
	var columns []int
	free := func(at int) bool { return at >= len(*above) || (*above)[at] == 0 }
	next := make(reach, 0, len(*above))
	put := func(cell, rows int) {
		columns = append(columns, cell)
		next = append(next, rows)
	}
	fill := func() { // columns that are covered from above
		for !free(len(columns)) {
			put(-1, (*above)[len(columns)]-1)
		}
	}
	for i, c := range cells {
		fill()
		for range min(max(c.Span, 1), mostGridColumns) {
			put(i, max(c.Down, 1)-1)
		}
	}
	fill()
	*above = next
	return columns
}

// Limits of a fixed table.
const mostGridColumns, mostGridRows = 40, 1_000

func (g *Grid) check(at string, scope phrase.Scope) finding.List {
	var l finding.List
	if g == nil || len(g.Rows) == 0 {
		l.Fault(at, "paper.table-without-rows")
		return l
	}
	covered := 0
	var above reach
	for i, r := range g.Rows {
		where := at + "/row " + strconv.Itoa(i+1)
		within := scope
		if r.Each != "" {
			within.Rows = r.Each
			if x, ok := scope.Form.Field(r.Each); !ok || x.Kind != form.Rows {
				l.Fault(where+"/field "+r.Each, "paper.row-repeated-for-no-rows", "each", r.Each)
			}
		}
		l = append(l, phrase.CheckCondition(where, r.When, within)...)
		n := len(above.place(r.Cells))
		for _, c := range r.Cells {
			if c.Span < 0 || c.Down < 0 || max(c.Span, c.Down) > mostGridRows {
				l.Fault(where, "paper.cell-too-wide")
			}
			l = append(l, c.Body.Check(where, within)...)
			if c.Shade != "" && !hex.MatchString(c.Shade) {
				l.Fault(where, "paper.cell-colour-unusable")
			}
		}
		if i > 0 && n != covered {
			l.Notice(where, "paper.row-of-other-width", "count", n, "covered", covered)
		}
		covered = n
	}
	if covered > mostGridColumns || len(g.Rows) > mostGridRows {
		l.Fault(at, "paper.table-too-large")
	}
	if len(g.Shares) > 0 && len(g.Shares) != g.Columns() ||
		slices.ContainsFunc(g.Shares, func(s float64) bool { return s <= 0 || s > 1000 }) {
		l.Fault(at, "paper.widths-and-columns", "columns", g.Columns())
	}
	return l
}

// fixedTable prints a table of fixed cells.
func (b *binder) fixedTable(x Block) {
	if x.Grid == nil || len(x.Grid.Rows) == 0 {
		return
	}
	t := b.newTable(x)
	t.Inset, t.Gap, t.Fit = headedIndent, 0, typeset.Floored
	t.Columns = x.Grid.Shares
	if len(t.Columns) != x.Grid.Columns() {
		t.Columns = slices.Repeat([]float64{1}, x.Grid.Columns())
	}
	var above reach
	for i, r := range x.Grid.Rows {
		if i == 0 && x.Grid.Header {
			row := b.gridHeader(r)
			t.Header = &row
			continue
		}
		if r.Each == "" {
			b.gridRow(t, r, &above)
			continue
		}
		for _, facts := range b.facts.Rows(r.Each) {
			sub := *b
			sub.facts = facts
			sub.gridRow(t, r, &above)
		}
	}
	b.stripe(t, x)
	if len(t.Rows) > 0 || t.Header != nil {
		b.add(t)
	}
}

func (b *binder) gridRow(t *typeset.Table, r GridRow, above *reach) {
	if !b.facts.Condition(r.When) || len(t.Rows) >= mostNodes {
		return
	}
	row := b.gridCells(r)
	var cells []typeset.Cell
	last := -1
	for _, cell := range above.place(r.Cells) {
		switch {
		case cell < 0:
			cells = append(cells, typeset.Cell{Covered: true})
		case cell != last:
			cells = append(cells, row.Cells[cell])
			last = cell
		}
	}
	row.Cells = cells
	t.Rows = append(t.Rows, row)
}

func (b *binder) gridCells(r GridRow) typeset.Row {
	var row typeset.Row
	for _, c := range r.Cells {
		cell := typeset.Cell{Span: c.Span, Down: c.Down, Nodes: b.inside(func(b *binder) { b.body("", c.Body) })}
		for _, n := range cell.Nodes {
			p, ok := n.(*typeset.Paragraph)
			if !ok {
				continue
			}
			if c.Align != "" {
				p.Align = align(c.Align)
			}
			if p.Tabular = p.Align == typeset.End; p.Tabular {
				p.Point = b.point()
			}
		}
		if c.Shade != "" {
			shade := colour(c.Shade)
			cell.Fill = &shade
		}
		row.Cells = append(row.Cells, cell)
	}
	return row
}

// gridHeader is a header row like that of other tables.
func (b *binder) gridHeader(r GridRow) typeset.Row {
	row := b.gridCells(r)
	for i := range row.Cells {
		row.Cells[i].Down = 0 // the header is one row, or it could not be repeated
	}
	row.Under = typeset.Edge{Width: headRule, Colour: b.dark}
	for _, cell := range row.Cells {
		for _, n := range cell.Nodes {
			p, ok := n.(*typeset.Paragraph)
			if !ok {
				continue
			}
			p.Tabular, p.Point = false, 0 // words that head numbers are none
			b.asLabel(p)
			for i := range p.Runs {
				p.Runs[i].Style.Bold, p.Runs[i].Colour = true, b.labelInk
			}
		}
	}
	return row
}
