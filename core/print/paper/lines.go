package paper

import (
	"slices"
	"strconv"
	"unicode/utf8"

	"github.com/cockroachdb/apd/v3"

	"amberseal/core/ask/form"
	"amberseal/core/print/typeset"
	"amberseal/core/words/finding"
	"amberseal/core/words/phrase"
)

// Column is one of a line table.
type Column struct {
	Label   string  `json:"label"`
	Field   string  `json:"field,omitempty"`   // key of a field of the rows; # counts the rows
	Formula string  `json:"formula,omitempty"` // instead of a field: worked out in each row
	Format  string  `json:"format,omitempty"`  // of a formula: money, hundredths, ungrouped
	Share   float64 `json:"share,omitempty"`   // of the width; when all are 0, widths follow what stands in the columns
	Align   string  `json:"align,omitempty"`   // start, center, end; by the kind of answer when empty
}

// Total is a line under a line table: words, and a field whose value stands at the end.
type Total struct {
	Label phrase.Phrase `json:"label"`
	Field string        `json:"field"`
	Grand bool          `json:"grand,omitempty"` // set large, under a rule
}

// Subtotal adds up columns after each run of rows that have the same answer in one of them.
type Subtotal struct {
	By string   `json:"by"` // key of a field of the rows
	Of []string `json:"of"` // keys of the fields that are added up
}

// lineColumn is a column as it is printed.
type lineColumn struct {
	Column
	field form.Field
	align typeset.Align
}

func (b *binder) lineColumns(x Block, rows form.Field) []lineColumn {
	columns := x.Columns
	if len(columns) == 0 {
		columns = UsualColumns(rows)
	}
	out := make([]lineColumn, len(columns))
	for i, c := range columns {
		field, _ := b.facts.Form.Field(x.Rows + "." + c.Field)
		numeric := c.Field == "#" || c.Formula != "" || field.Kind.Numeric() && field.Kind != form.Rating
		out[i] = lineColumn{Column: c, field: field, align: align(c.Align)}
		if c.Align == "" && numeric {
			out[i].align = typeset.End
		}
		switch {
		case c.Share > 0:
		case c.Field == "#":
			out[i].Share = 0.6
		default:
			out[i].Share = field.Kind.Share()
		}
	}
	return out
}

// lineTable prints the rows of a repeating group with chosen columns, subtotals and totals.
func (b *binder) lineTable(x Block) {
	rows, ok := b.facts.Form.Field(x.Rows)
	if !ok || rows.Kind != form.Rows {
		return
	}
	each := b.facts.Rows(x.Rows)
	if len(each) == 0 && (x.HideEmpty || x.Missing != nil) {
		if x.Missing != nil {
			b.missing(x, LeaveNothing, 18*millimetre)
		}
		return
	}
	columns := b.lineColumns(x, rows)
	t := b.newTable(x)
	t.Fit = typeset.Content
	if slices.ContainsFunc(x.Columns, func(c Column) bool { return c.Share > 0 }) {
		t.Fit = typeset.Floored
	}
	t.Gap, t.After = 10, b.grid()
	switch {
	case t.Grid != nil:
		t.Gap = 2
	case len(columns) > mostColumns:
		t.Gap = 4
	}
	words, aligns := make([]string, len(columns)), make([]typeset.Align, len(columns))
	for i, c := range columns {
		words[i], aligns[i] = c.Label, c.align
		t.Columns = append(t.Columns, c.Share)
	}
	inside := b.shades(x) || t.Grid != nil
	t.Header = b.header(words, aligns, inside)
	first := 0 // of the present run of equal answers
	for n, facts := range each {
		sub := *b
		sub.facts = facts
		t.Rows = append(t.Rows, sub.lineRow(columns, facts.Answers[x.Rows].Rows[0], n, inside))
		if s := x.Subtotal; s != nil && (n+1 == len(each) || b.grouping(x, each[n+1]) != b.grouping(x, facts)) {
			t.Rows[len(t.Rows)-1].KeepNext = true
			t.Rows = append(t.Rows, b.subtotal(x, columns, each[first:n+1]))
			first = n + 1
		}
	}
	b.stripe(t, x)
	if len(x.Totals) > 0 && len(t.Rows) > 0 { // totals alone on a page say nothing
		t.Rows[len(t.Rows)-1].KeepNext = true
	}
	b.add(t)
	b.totals(x)
}

// grouping is the answer by which a row is added up with its neighbours.
func (b *binder) grouping(x Block, row phrase.Facts) string {
	field, _ := b.facts.Form.Field(x.Rows + "." + x.Subtotal.By)
	return b.facts.Answer(field, row.Answers[x.Rows].Rows[0][x.Subtotal.By], "")
}

// point is the decimal point of the document's language.
func (b *binder) point() rune {
	if b.shared.point == 0 {
		b.shared.point, _ = utf8.DecodeRuneInString(b.facts.Locale().DecimalSign())
	}
	return b.shared.point
}

// lineSize is how much smaller than plain text the lines of a table are.
const lineSize = 10 / usualText

func (b *binder) lineRow(columns []lineColumn, row form.Answers, n int, inside bool) typeset.Row {
	cells := make([]typeset.Cell, 0, len(columns))
	for i, c := range columns {
		var cell typeset.Cell
		switch {
		case c.Formula != "":
			cell = b.lineCell(b.facts.Formula(c.Formula, c.Format))
		case c.Field == "#":
			cell = b.lineCell(strconv.Itoa(n + 1))
		default:
			cell = b.cells(c.field, row[c.Field])[0]
		}
		cells = append(cells, b.setLine(cell, c.align, b.inset(i, len(columns), inside)))
	}
	return typeset.Row{Cells: cells}
}

func (b *binder) lineCell(words string) typeset.Cell {
	return typeset.Cell{Nodes: []typeset.Node{b.paragraph("", typeset.Plain, plain(words), b.style.text, b.ink)}}
}

func (b *binder) setLine(cell typeset.Cell, a typeset.Align, inset float64) typeset.Cell {
	for _, n := range cell.Nodes {
		if p, ok := n.(*typeset.Paragraph); ok {
			p.Size, p.Indent, p.Align, p.Tabular = b.style.text*lineSize, inset, a, a == typeset.End
			if p.Tabular {
				p.Point = b.point()
			}
		}
	}
	return cell
}

// subtotal is the row under rows with the same answer: that answer, and the sums.
func (b *binder) subtotal(x Block, columns []lineColumn, rows []phrase.Facts) typeset.Row {
	row := typeset.Row{}
	for i, c := range columns {
		words := ""
		for _, key := range x.Subtotal.Of {
			if key == c.Field {
				words = b.sum(c.field, x.Rows, rows)
			}
		}
		if i == 0 && words == "" {
			words = b.facts.Locale().Subtotal(b.grouping(x, rows[0]))
		}
		side := c.align
		if i == 0 {
			side = typeset.End // beside the sums
		}
		inset := float64(headedIndent)
		if i == len(columns)-1 && !b.shades(x) && x.Borders != "grid" {
			inset = b.inset(i, len(columns), false) // below the figures
		}
		cell := b.setLine(b.lineCell(words), side, inset)
		if i == 0 {
			cell.Heads = true
			for span := 1; span < len(columns) && !x.Subtotal.sums(columns[span].Field); span++ {
				cell.Span = span + 1
			}
		}
		for _, n := range cell.Nodes {
			n.(*typeset.Paragraph).Runs[0].Style.Bold = true
		}
		if i == 0 || i >= row.Cells[0].Span {
			row.Cells = append(row.Cells, cell)
		}
	}
	row.Fill = b.shade()
	return row
}

func (s *Subtotal) sums(key string) bool {
	for _, k := range s.Of {
		if k == key {
			return true
		}
	}
	return false
}

// exact is decimal arithmetic with 34 digits, as in formulas.
var exact = apd.BaseContext.WithPrecision(34)

func (b *binder) sum(field form.Field, rows string, of []phrase.Facts) string {
	total, unit := apd.New(0, 0), form.Value{}
	for _, f := range of {
		v := f.Answers[rows].Rows[0][field.Key]
		if v.Number == nil {
			continue
		}
		unit = v
		if _, err := exact.Add(total, total, v.Number); err != nil {
			return ""
		}
	}
	if unit.Number == nil {
		return ""
	}
	unit.Number = total
	return b.facts.Answer(field, unit, "")
}

// totalsWidth is that of the words and amounts of totals, in points.
const totalsWidth = 190

// totals stand at the end of the table's width, words and amounts on one line.
func (b *binder) totals(x Block) {
	if len(x.Totals) == 0 {
		return
	}
	t := &typeset.Table{
		Block: x.ID, Columns: []float64{55, 45}, Fit: typeset.Floored, Pad: b.grid() / 2, After: 2 * b.grid(),
		Narrow: b.style.fixed(totalsWidth),
	}
	for i, total := range x.Totals {
		field, ok := b.facts.Form.Field(total.Field)
		if !ok {
			continue
		}
		amount := plain(b.facts.Text(field))
		if total.Grand {
			amount.bold()
		}
		size := b.style.text * lineSize
		label := b.paragraph("", typeset.Plain, total.Label.Bind(b.facts), size, b.ink)
		value := b.paragraph("", typeset.Plain, amount, size, b.ink)
		if total.Grand {
			label.Size, value.Size = b.style.text*1.1, b.style.text*1.1
			for i := range label.Runs {
				label.Runs[i].Style.Bold, label.Runs[i].Colour = true, b.ink
			}
		}
		value.Align, value.Tabular = typeset.End, true
		value.Indent = b.inset(1, 2, b.shades(x) || x.Borders == "grid") // below the figures
		head, amountCell := typeset.Cell{Nodes: []typeset.Node{label}, Heads: true}, typeset.Cell{Nodes: []typeset.Node{value}}
		if total.Grand {
			head.Above, amountCell.Above = &b.dark, &b.dark
		}
		t.Rows = append(t.Rows, typeset.Row{
			Cells:    []typeset.Cell{head, amountCell},
			KeepNext: i+1 < len(x.Totals),
		})
	}
	if len(t.Rows) > 0 {
		b.add(t)
	}
}

// UsualColumns are all fields of the rows that can stand in a column.
func UsualColumns(rows form.Field) []Column {
	var out []Column
	for _, x := range rows.Fields {
		if x.Kind != form.Hidden {
			out = append(out, Column{Label: x.Label, Field: x.Key})
		}
	}
	return out
}

// checkLines finds what is wrong with a line table.
func (x Block) checkLines(c checking) finding.List {
	at, scope := c.at, c.scope
	var l finding.List
	f := scope.Form
	rows, ok := f.Field(x.Rows)
	if !ok || rows.Kind != form.Rows {
		l.Fault(at, "paper.line-table-without-rows")
		return l
	}
	for _, c := range x.Columns {
		switch _, ok := f.Field(x.Rows + "." + c.Field); {
		case c.Formula != "":
			for _, p := range f.CheckFormula(c.Formula, x.Rows) {
				p.Place = at + "/formula"
				l = append(l, p)
			}
		case !ok && c.Field != "#":
			l.Fault(at+"/field "+c.Field, "paper.column-field-unknown", "label", c.Label, "field", c.Field)
		}
	}
	if s := x.Subtotal; s != nil {
		if _, ok := f.Field(x.Rows + "." + s.By); !ok {
			l.Fault(at+"/field "+s.By, "paper.subtotal-by-unknown", "by", s.By)
		}
		for _, key := range s.Of {
			if field, ok := f.Field(x.Rows + "." + key); !ok || !field.Kind.Numeric() {
				l.Fault(at+"/field "+key, "paper.subtotal-of-unknown", "key", key)
			}
		}
	}
	for _, t := range x.Totals {
		if field, ok := f.Field(t.Field); !ok || !field.Answered() {
			l.Fault(at+"/field "+t.Field, "paper.total-of-unknown", "field", t.Field)
		}
		l = append(l, t.Label.Check(at, scope)...)
	}
	return l
}
