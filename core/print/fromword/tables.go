package fromword

import (
	"strconv"
	"strings"

	"github.com/beevik/etree"

	"amberseal/core/foreign/word"
	"amberseal/core/print/typeset"
)

// grid is a table being read.
type grid struct {
	b       *binder
	style   *style
	looks   uint64 // which of the style's parts apply (17.4.56)
	borders map[string]typeset.Edge
	inset   [4]float64 // of cells: top, right, bottom, left
	rows    []*etree.Element
	columns int
	every   [4]float64 // the margins that every cell has, the same above and below, and at both sides
}

// Bits of a table's look (17.7.6.7).
const (
	firstRow    = 0x0020
	lastRow     = 0x0040
	firstColumn = 0x0080
	lastColumn  = 0x0100
	noRowBands  = 0x0200
)

func (b *binder) table(t *etree.Element) {
	pr := t.SelectElement("w:tblPr")
	g := &grid{b: b, borders: map[string]typeset.Edge{}, inset: [4]float64{0, 5.4, 0, 5.4}, rows: word.Rows(t)}
	if len(g.rows) == 0 {
		return
	}
	id := ""
	if pr != nil {
		id = word.Attr(pr.SelectElement("w:tblStyle"), "val")
	}
	if g.style = b.of(id, "table"); g.style != nil {
		for _, e := range g.style.chain {
			g.properties(e.SelectElement("w:tblPr"))
		}
	}
	g.looks = firstRow | firstColumn
	g.properties(pr)
	if pr != nil {
		g.looked(pr.SelectElement("w:tblLook"))
	}
	before := b.inTable
	b.inTable = nil
	if g.style != nil {
		b.inTable = g.style.chain
	}
	every := g.common()
	out := &typeset.Table{Pad: min(every[0], every[2]), Inset: min(every[1], every[3])}
	g.every = [4]float64{out.Pad, out.Inset, out.Pad, out.Inset}
	g.widths(t, pr, out)
	g.fill(out)
	b.inTable = before
	if len(out.Rows) > 0 {
		b.add(out)
	}
}

// properties reads the borders and margins of a table or of a style.
func (g *grid) properties(pr *etree.Element) {
	if pr == nil {
		return
	}
	if e := pr.SelectElement("w:tblBorders"); e != nil {
		for _, x := range e.ChildElements() {
			g.borders[side(x.Tag)] = g.b.edge(x)
		}
	}
	if e := pr.SelectElement("w:tblCellMar"); e != nil {
		margins(e, &g.inset)
	}
}

// side is a side's name; files of the strict kind say start and end.
func side(s string) string {
	switch s {
	case "start":
		return "left"
	case "end":
		return "right"
	}
	return s
}

func (g *grid) looked(e *etree.Element) {
	if e == nil {
		return
	}
	if v, err := strconv.ParseUint(word.Attr(e, "val"), 16, 32); err == nil {
		g.looks = v
	}
	for key, bit := range map[string]uint64{
		"firstRow": firstRow, "lastRow": lastRow, "firstColumn": firstColumn, "lastColumn": lastColumn, "noHBand": noRowBands,
	} {
		switch word.Attr(e, key) {
		case "1", "true", "on":
			g.looks |= bit
		case "0", "false", "off":
			g.looks &^= bit
		}
	}
}

// widths finds where the table stands and how wide its columns are.
func (g *grid) widths(t, pr *etree.Element, out *typeset.Table) {
	room := g.b.room()
	var cols []float64
	sum := 0.0
	if e := t.SelectElement("w:tblGrid"); e != nil {
		for _, c := range e.SelectElements("w:gridCol") {
			v, _ := measure(word.Attr(c, "w"))
			cols = append(cols, v)
			sum += v
		}
	}
	most := 0
	for _, row := range g.rows {
		n := 0
		for _, c := range word.Cells(row) {
			n += spans(c)
		}
		most = max(most, n+skips(row, "gridBefore")+skips(row, "gridAfter"))
	}
	var asked, indent float64
	fixed, scaled, align := false, false, ""
	if pr != nil {
		asked = g.share(pr.SelectElement("w:tblW"), room)
		scaled = word.Attr(pr.SelectElement("w:tblW"), "type") == "pct"
		fixed = word.Attr(pr.SelectElement("w:tblLayout"), "type") == "fixed"
		indent, _ = measure(word.Attr(pr.SelectElement("w:tblInd"), "w"))
		align = word.Attr(pr.SelectElement("w:jc"), "val")
	}
	if own := g.preferred(most, room); own != nil && !fixed { // cells say better than a grid how wide they are
		cols, sum = own, total(own)
	}
	out.Exact = true
	switch {
	case len(cols) < most || sum < 20 || !fixed && asked == 0 && equal(cols) && sum < room*0.3:
		cols = make([]float64, most)
		for i := range cols {
			cols[i] = 1
		}
		out.Fit, out.Columns, out.Exact = typeset.Content, cols, false
		g.columns = most
		return
	case asked > 0 && (scaled || !fixed) && asked != sum:
		for i := range cols {
			cols[i] *= asked / sum
		}
		sum = asked
	}
	out.Columns, g.columns = cols, len(cols)
	switch align {
	case "center":
		out.Left = (room - sum) / 2
	case "right", "end":
		out.Left = room - sum
	default:
		out.Left = indent
		if g.b.older && len(g.b.nested) == 0 { // words, not rules, stand at the text's edge
			out.Left -= g.inset[3]
		}
	}
}

func total(list []float64) float64 {
	sum := 0.0
	for _, v := range list {
		sum += v
	}
	return sum
}

func equal(list []float64) bool {
	for _, v := range list {
		if v != list[0] {
			return false
		}
	}
	return true
}

// preferred are the widths that the cells of a row without spans ask for; nil where none says all.
func (g *grid) preferred(columns int, room float64) []float64 {
	for _, row := range g.rows {
		cells := word.Cells(row)
		if len(cells) != columns {
			continue
		}
		var out []float64
		for _, c := range cells {
			w := 0.0
			if pr := c.SelectElement("w:tcPr"); pr != nil {
				w = g.share(pr.SelectElement("w:tcW"), room)
			}
			if w <= 0 {
				break
			}
			out = append(out, w)
		}
		if len(out) == columns {
			return out
		}
	}
	return nil
}

// share reads a width: in points, or as a part of the room (17.18.90); 0 for none.
func (g *grid) share(e *etree.Element, room float64) float64 {
	v := word.Attr(e, "w")
	if p, ok := strings.CutSuffix(v, "%"); ok {
		n, _ := figure(p)
		return n / 100 * room
	}
	switch word.Attr(e, "type") {
	case "pct":
		n, _ := figure(v)
		return n / 5000 * room
	case "auto", "nil":
		return 0
	}
	n, _ := measure(v)
	return n
}

func spans(cell *etree.Element) int {
	if pr := cell.SelectElement("w:tcPr"); pr != nil {
		if n, err := strconv.Atoi(word.Attr(pr.SelectElement("w:gridSpan"), "val")); err == nil && n > 0 && n < 200 {
			return n
		}
	}
	return 1
}

func skips(row *etree.Element, tag string) int {
	if pr := row.SelectElement("w:trPr"); pr != nil {
		if n, err := strconv.Atoi(word.Attr(pr.SelectElement("w:"+tag), "val")); err == nil && n > 0 && n < 200 {
			return n
		}
	}
	return 0
}

// fill makes the rows.
func (g *grid) fill(out *typeset.Table) {
	open := map[int]*typeset.Cell{} // by column: the cell that reaches down to here
	where := map[int][2]int{}
	for i, row := range g.rows {
		r := typeset.Row{}
		if pr := row.SelectElement("w:trPr"); pr != nil {
			if e := pr.SelectElement("w:trHeight"); e != nil {
				r.Least, _ = measure(word.Attr(e, "val"))
			}
			if e := pr.SelectElement("w:cantSplit"); e != nil {
				r.Whole = on(e)
			}
			if e := pr.SelectElement("w:tblHeader"); e != nil && on(e) && out.Headers == i {
				out.Headers = i + 1
			}
		}
		at := 0
		for range skips(row, "gridBefore") {
			r.Cells = append(r.Cells, typeset.Cell{})
			at++
		}
		for _, c := range word.Cells(row) {
			n := spans(c)
			if at+n > g.columns {
				n = max(g.columns-at, 1)
			}
			if at >= g.columns {
				break
			}
			cell, goesOn := g.cell(c, i, at, n)
			if goesOn && open[at] != nil {
				pos := where[at]
				out.Rows[pos[0]].Cells[pos[1]].Down = max(out.Rows[pos[0]].Cells[pos[1]].Down, 1) + 1
				cell = typeset.Cell{Covered: true, Span: n}
			} else {
				open[at], where[at] = &cell, [2]int{i, len(r.Cells)}
			}
			r.Cells = append(r.Cells, cell)
			at += n
		}
		for ; at < g.columns; at++ {
			r.Cells = append(r.Cells, typeset.Cell{})
		}
		out.Rows = append(out.Rows, r)
	}
	settle(out.Rows)
	for i := range out.Rows {
		r := &out.Rows[i]
		for _, c := range r.Cells {
			if c.Edges != nil && !c.Covered {
				r.Above = max(r.Above, c.Edges[0].Width)
				if i == len(g.rows)-1 {
					out.After = max(out.After, c.Edges[2].Width)
				}
			}
		}
	}
}

// cell makes a cell, and tells whether it goes on one that stands above.
func (g *grid) cell(c *etree.Element, row, at, span int) (typeset.Cell, bool) {
	out := typeset.Cell{Span: span}
	pr := c.SelectElement("w:tcPr")
	edges := [4]typeset.Edge{
		g.pick(row == 0, "top", "insideH"), g.pick(at+span >= g.columns, "right", "insideV"),
		g.pick(row == len(g.rows)-1, "bottom", "insideH"), g.pick(at == 0, "left", "insideV"),
	}
	before := g.b.inTable
	if g.style != nil {
		for _, part := range g.parts(row, at, span) {
			for _, e := range g.style.chain {
				for _, x := range e.SelectElements("w:tblStylePr") {
					if word.Attr(x, "type") == part {
						g.b.inTable = append(g.b.inTable[:len(g.b.inTable):len(g.b.inTable)], x)
						g.dress(&out, &edges, x.SelectElement("w:tcPr"))
					}
				}
			}
		}
	}
	goesOn := false
	if pr != nil {
		g.dress(&out, &edges, pr)
		if m := pr.SelectElement("w:vMerge"); m != nil {
			goesOn = word.Attr(m, "val") != "restart"
		}
	}
	out.Edges = &edges
	if !goesOn {
		out.Nodes = g.b.inside(c)
		more := g.own(c)
		for i := range more {
			more[i] -= g.every[i]
		}
		roomier(out.Nodes, more)
	}
	g.b.inTable = before
	return out, goesOn
}

func (g *grid) pick(outer bool, at, between string) typeset.Edge {
	if outer {
		return g.borders[at]
	}
	return g.borders[between]
}

// dress puts a cell's properties over what is known.
func (g *grid) dress(out *typeset.Cell, edges *[4]typeset.Edge, pr *etree.Element) {
	if pr == nil {
		return
	}
	if e := pr.SelectElement("w:shd"); e != nil {
		out.Fill = g.b.shade(e)
	}
	if e := pr.SelectElement("w:tcBorders"); e != nil {
		for _, x := range e.ChildElements() {
			for i, name := range []string{"top", "right", "bottom", "left"} {
				if side(x.Tag) == name {
					edges[i] = g.b.edge(x)
				}
			}
		}
	}
	if e := pr.SelectElement("w:textDirection"); e != nil {
		out.Turn = upright[word.Attr(e, "val")]
	}
	switch word.Attr(pr.SelectElement("w:vAlign"), "val") {
	case "center":
		out.Stand = typeset.Center
	case "bottom":
		out.Stand = typeset.End
	}
}

// upright is by how much words are turned (17.18.93, and the names that files of the strict kind and text boxes use).
var upright = map[string]float64{
	"btLr": 90, "lr": 90, "vert270": 90, "tbRl": -90, "rl": -90, "tbRlV": -90, "tbLrV": -90, "vert": -90, "eaVert": -90,
}

// settle decides between the rules of neighbours: the heavier one is drawn, of equal ones the darker (17.4.66). Both have it then, so that
// it is there too where a page ends between them.
func settle(rows []typeset.Row) {
	win := func(a, b *typeset.Edge) {
		light := func(c typeset.Colour) int { return int(c.R) + int(c.B) + 2*int(c.G) }
		if b.Width > a.Width || b.Width == a.Width && light(b.Colour) < light(a.Colour) {
			*a = *b
		}
		*b = *a
	}
	above := map[int]*typeset.Cell{} // by the column that a cell begins at
	for i := range rows {
		at := 0
		var before *typeset.Cell
		now := map[int]*typeset.Cell{}
		for k := range rows[i].Cells {
			c := &rows[i].Cells[k]
			span := max(c.Span, 1)
			up := above[at]
			switch {
			case c.Covered:
				if up != nil && max(up.Span, 1) == span {
					now[at] = up
				}
				before = nil
			case c.Edges == nil:
				before = nil
			default:
				if before != nil && before.Down <= 1 && c.Down <= 1 {
					win(&c.Edges[3], &before.Edges[1])
				}
				if up != nil && max(up.Span, 1) == span {
					win(&c.Edges[0], &up.Edges[2])
				}
				before, now[at] = c, c
			}
			at += span
		}
		above = now
	}
}

// parts are the parts of the table style that hold for a cell, the weakest first (17.7.6).
func (g *grid) parts(row, at, span int) []string {
	var out []string
	if g.looks&noRowBands == 0 {
		i := row
		if g.looks&firstRow != 0 {
			i--
		}
		if i >= 0 {
			out = append(out, []string{"band1Horz", "band2Horz"}[i%2])
		}
	}
	if g.looks&firstColumn != 0 && at == 0 {
		out = append(out, "firstCol")
	}
	if g.looks&lastColumn != 0 && at+span >= g.columns {
		out = append(out, "lastCol")
	}
	if g.looks&firstRow != 0 && row == 0 {
		out = append(out, "firstRow")
	}
	if g.looks&lastRow != 0 && row == len(g.rows)-1 {
		out = append(out, "lastRow")
	}
	return out
}
