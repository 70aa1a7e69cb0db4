package paper

import (
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/cockroachdb/apd/v3"

	"amberseal/core/finding"
	"amberseal/core/form"
	"amberseal/core/phrase"
	"amberseal/core/typeset"
)

// Column is one of a line table.
type Column struct {
	Label   string  `json:"label"`
	Field   string  `json:"field,omitempty"`   // key of a field of the rows; # counts the rows
	Formula string  `json:"formula,omitempty"` // instead of a field: worked out in each row
	Format  string  `json:"format,omitempty"`  // of a formula: money, hundredths
	Share   float64 `json:"share,omitempty"`   // of the width; by the kind of answer when 0
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
			out[i].Share = share(field.Kind)
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
	if len(each) == 0 && (x.HideEmpty || x.Missing != "") {
		if x.Missing != "" {
			b.missing(x, "nothing", 18*millimetre)
		}
		return
	}
	columns := b.lineColumns(x, rows)
	t := b.newTable(x)
	t.Gap, t.After = 10, 6
	if t.Grid != nil {
		t.Gap = 2
	}
	words, aligns := make([]string, len(columns)), make([]typeset.Align, len(columns))
	for i, c := range columns {
		words[i], aligns[i] = c.Label, c.align
		t.Columns = append(t.Columns, c.Share)
	}
	t.Header = b.header(words, aligns)
	first := 0 // of the present run of equal answers
	for n, facts := range each {
		sub := *b
		sub.facts = facts
		t.Rows = append(t.Rows, sub.lineRow(columns, facts.Answers[x.Rows].Rows[0], n))
		if s := x.Subtotal; s != nil && (n+1 == len(each) || b.grouping(x, each[n+1]) != b.grouping(x, facts)) {
			t.Rows[len(t.Rows)-1].KeepNext = true
			t.Rows = append(t.Rows, b.subtotal(x, columns, each[first:n+1]))
			first = n + 1
		}
	}
	b.widen(t, columns)
	b.stripe(t, x)
	if len(x.Totals) > 0 && len(t.Rows) > 0 { // totals alone on a page say nothing
		t.Rows[len(t.Rows)-1].KeepNext = true
	}
	b.add(t)
	b.totals(x)
}

// figureWidth is how wide figures are at most, as a part of their size: an estimate, since nothing is set yet.
const figureWidth = 0.6

// widen gives columns of numbers the room for their longest one, which must not be broken, at the cost of columns of words.
// It reckons with the width of the page; where numbers have room enough, the shares stay as they are.
func (b *binder) widen(t *typeset.Table, columns []lineColumn) {
	page := b.shared.out.Page
	room := page.Width - page.Left - page.Right - t.Gap*float64(len(columns)-1)
	total := 0.0
	for _, share := range t.Columns {
		total += share
	}
	needs, wanted, spare := make([]float64, len(columns)), 0.0, 0.0
	for i, c := range columns {
		width := room * t.Columns[i] / total
		if c.align != typeset.End {
			spare += width
			continue
		}
		longest := 0
		for _, r := range t.Rows {
			longest = max(longest, longestWord(r, i))
		}
		need := float64(longest)*figureWidth*b.style.text*lineSize + headedIndent
		if need > width {
			needs[i] = need
			wanted += need - width
		}
	}
	if wanted == 0 || spare == 0 {
		return
	}
	// Words keep at least half of what they had; numbers share what that gives.
	given := min(wanted, spare/2)
	for i := range columns {
		width := room * t.Columns[i] / total
		switch {
		case needs[i] > 0:
			width += (needs[i] - width) * given / wanted
		case columns[i].align != typeset.End:
			width -= width * given / spare
		}
		t.Columns[i] = width
	}
}

// longestWord counts the characters of the longest word in a row's column.
func longestWord(r typeset.Row, column int) int {
	at, longest := 0, 0
	for _, c := range r.Cells {
		if at == column && c.Span <= 1 {
			for _, n := range c.Nodes {
				if p, ok := n.(*typeset.Paragraph); ok {
					for _, word := range strings.FieldsFunc(p.Runs[0].Text, func(r rune) bool { return r == ' ' || r == '\n' }) {
						longest = max(longest, utf8.RuneCountInString(word))
					}
				}
			}
		}
		at += max(c.Span, 1)
	}
	return longest
}

// grouping is the answer by which a row is added up with its neighbours.
func (b *binder) grouping(x Block, row phrase.Facts) string {
	field, _ := b.facts.Form.Field(x.Rows + "." + x.Subtotal.By)
	return b.facts.Answer(field, row.Answers[x.Rows].Rows[0][x.Subtotal.By], "")
}

// lineSize is how much smaller than plain text the lines of a table are.
const lineSize = 10 / usualText

func (b *binder) lineRow(columns []lineColumn, row form.Answers, n int) typeset.Row {
	cells := make([]typeset.Cell, 0, len(columns))
	for _, c := range columns {
		var cell typeset.Cell
		switch {
		case c.Formula != "":
			cell = b.lineCell(b.facts.Formula(c.Formula, c.Format))
		case c.Field == "#":
			cell = b.lineCell(strconv.Itoa(n + 1))
		default:
			cell = b.cells(c.field, row[c.Field])[0]
		}
		cells = append(cells, b.setLine(cell, c.align))
	}
	return typeset.Row{Cells: cells}
}

func (b *binder) lineCell(words string) typeset.Cell {
	return typeset.Cell{Nodes: []typeset.Node{b.paragraph("", typeset.Plain, plain(words), b.style.text, b.ink)}}
}

func (b *binder) setLine(cell typeset.Cell, a typeset.Align) typeset.Cell {
	for _, n := range cell.Nodes {
		if p, ok := n.(*typeset.Paragraph); ok {
			p.Size, p.Indent, p.Align, p.Tabular = b.style.text*lineSize, headedIndent, a, a == typeset.End
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
		cell := b.setLine(b.lineCell(words), side)
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

// totals stand at the end of the table's width, words and amounts on one line.
func (b *binder) totals(x Block) {
	if len(x.Totals) == 0 {
		return
	}
	t := &typeset.Table{Block: x.ID, Columns: []float64{62, 38}, Gap: 10, Pad: 3, After: 10}
	for i, total := range x.Totals {
		field, ok := b.facts.Form.Field(total.Field)
		if !ok {
			continue
		}
		amount := plain(b.facts.Text(field))
		if total.Grand {
			amount.bold()
		}
		label := b.paragraph("", typeset.Plain, total.Label.Bind(b.facts), b.style.text, softInk)
		value := b.paragraph("", typeset.Plain, amount, b.style.text, b.ink)
		if total.Grand {
			label.Size, value.Size = b.style.text*1.2, b.style.text*1.2
			for i := range label.Runs {
				label.Runs[i].Style.Bold, label.Runs[i].Colour = true, b.ink
			}
		}
		label.Align, value.Align, value.Indent, value.Tabular = typeset.End, typeset.End, headedIndent, true
		t.Rows = append(t.Rows, typeset.Row{
			Cells:    []typeset.Cell{{Nodes: []typeset.Node{label}, Heads: true}, {Nodes: []typeset.Node{value}}},
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
func (x Block) checkLines(at string, scope phrase.Scope) finding.List {
	var l finding.List
	f := scope.Form
	rows, ok := f.Field(x.Rows)
	if !ok || rows.Kind != form.Rows {
		l.Fault(at, "The line table has no rows.", "Choose the repeating group whose rows it prints.")
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
			l.Fault(at+"/field "+c.Field, "The column “"+c.Label+"” prints “"+c.Field+"”, which is no field of the rows.", "Choose another field.")
		}
	}
	if s := x.Subtotal; s != nil {
		if _, ok := f.Field(x.Rows + "." + s.By); !ok {
			l.Fault(at+"/field "+s.By, "Subtotals stand where “"+s.By+"” changes, which is no field of the rows.", "Choose another field.")
		}
		for _, key := range s.Of {
			if field, ok := f.Field(x.Rows + "." + key); !ok || !field.Kind.Numeric() {
				l.Fault(at+"/field "+key, "Subtotals add up “"+key+"”, which is no field of the rows for numbers.", "Choose another field.")
			}
		}
	}
	for _, t := range x.Totals {
		if field, ok := f.Field(t.Field); !ok || !field.Answered() {
			l.Fault(at+"/field "+t.Field, "A total prints “"+t.Field+"”, which is no field.", "Choose another field.")
		}
		l = append(l, t.Label.Check(at, scope)...)
	}
	return l
}
