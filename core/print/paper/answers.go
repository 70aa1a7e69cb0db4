package paper

import (
	"strconv"

	"amberseal/core/ask/form"
	"amberseal/core/print/typeset"
)

// answers prints each section of the form as a table under its heading, rows as tables of their own.
// What does not show with these answers is not printed. Where sections are printed under a heading of the
// design, they are one level lower.
func (b *binder) answers(x Block) {
	chosen := map[string]bool{}
	for _, key := range x.Fields {
		chosen[key] = true
	}
	shown := b.facts.Shown()
	t := &answerTable{binder: b, block: x}
	for _, field := range b.facts.Form.Fields {
		switch {
		case x.Flat && (field.Kind == form.Section || field.Kind == form.Page):
		case field.Kind == form.Section || field.Kind == form.Page && field.Label != "":
			t.flush()
			t.section = field.Label
		case !field.Answered() || field.Kind == form.Hidden && !chosen[field.Key]:
		case len(chosen) > 0 && !chosen[field.Key], !shown(field.Key):
		case b.facts.Answers[field.Key].Empty() && x.HideEmpty:
		case field.Kind == form.Rows && !b.facts.Answers[field.Key].Empty():
			t.rows(field, b.facts.Answers[field.Key].Rows)
		default:
			t.heading()
			t.row(field, b.facts.Answers[field.Key])
		}
	}
	t.flush()
}

// answerTable gathers the rows of one section.
type answerTable struct {
	*binder
	block   Block
	section string // its heading, until it is printed
	under   bool   // a section's heading was printed
	table   *typeset.Table
}

// heading prints the section's heading before its first answer.
func (t *answerTable) heading() {
	if t.section != "" {
		t.binder.heading(t.block.ID, t.level(), plain(t.section), typeset.Start)
		t.section, t.under = "", true
	}
}

// level of a section's heading: one below that of the heading over the answers.
func (t *answerTable) level() int { return max(t.shared.level+1, 2) }

// subheading heads rows, one level below the section.
func (t *answerTable) subheading(words string) {
	level := t.level()
	if t.under {
		level++
	}
	t.binder.heading(t.block.ID, level, plain(words), typeset.Start)
}

func (t *answerTable) flush() {
	if t.table == nil {
		return
	}
	if t.block.Across == 2 {
		t.pair()
	}
	t.stripe(t.table, t.block)
	t.add(t.table)
	t.table = nil
}

// headedIndent keeps text off the edge of a header row's colour.
const headedIndent = 6

// indented reports whether text must keep off the edge of a colour or a border.
func (t *answerTable) indented() bool {
	return t.shades(t.block) || t.block.Borders == "grid"
}

// row prints a question beside its answer; pictures and signatures stand where words would. In two columns the question
// stands over its answer, beside the next pair.
func (t *answerTable) row(field form.Field, v form.Value) {
	if t.table == nil {
		t.table = t.newTable(t.block)
		t.table.Columns, t.table.Gap, t.table.Fit = []float64{36, 64}, 14, typeset.Floored
		if t.block.Headed && t.block.Across != 2 {
			question, answer := t.facts.Locale().QuestionAnswer()
			t.table.Header = t.header([]string{question, answer}, nil, t.indented())
		}
	}
	label := t.paragraph("", typeset.Plain, plain(field.Label), t.style.label, t.labelInk)
	label.Family = labelFamily
	if t.block.Across != 2 {
		label.Leading = t.style.leading * t.style.text / t.style.label // so that both columns share their baselines
	}
	if t.runsLong(field, v) {
		t.below(label, t.cells(field, v))
		return
	}
	head := typeset.Cell{Nodes: []typeset.Node{label}, Heads: true}
	for _, cell := range t.cells(field, v) {
		row := typeset.Row{Cells: []typeset.Cell{head, cell}}
		if t.indented() {
			indent(row)
		}
		t.table.Rows = append(t.table.Rows, row)
		head = typeset.Cell{}
	}
}

// longAnswer is from how many characters on an answer stands under its question: beside it, it would run down more than four lines.
const longAnswer = 240

// runsLong reports whether an answer is too long to stand beside its question.
func (t *answerTable) runsLong(field form.Field, v form.Value) bool {
	return field.Kind == form.LongText && t.block.Across != 2 && !t.block.Headed && len([]rune(v.Text)) > longAnswer
}

// below prints an answer under its question, at the text's full measure.
func (t *answerTable) below(label *typeset.Paragraph, answer []typeset.Cell) {
	for _, n := range answer[0].Nodes {
		if p, ok := n.(*typeset.Paragraph); ok {
			p.Most = measure * t.style.text
		}
	}
	question := typeset.Row{Joined: true, KeepNext: true, Cells: []typeset.Cell{{Nodes: []typeset.Node{label}, Heads: true, Span: 2}}}
	row := typeset.Row{Cells: []typeset.Cell{{Nodes: answer[0].Nodes, Span: 2}}}
	if t.indented() {
		indent(question)
		indent(row)
	}
	t.table.Rows = append(t.table.Rows, question, row)
}

// indent keeps a row's words off the edge of a colour.
func indent(row typeset.Row) {
	for _, c := range row.Cells {
		for _, n := range c.Nodes {
			if p, ok := n.(*typeset.Paragraph); ok {
				p.Indent = headedIndent
			}
		}
	}
}

// pair sets the table's questions over their answers, two pairs beside each other. It is an arrangement, not a table.
func (t *answerTable) pair() {
	pairs := []typeset.Cell{}
	for _, row := range t.table.Rows {
		if len(row.Cells[0].Nodes) == 0 && len(pairs) > 0 { // another photo of the same answer
			last := &pairs[len(pairs)-1]
			last.Nodes = append(last.Nodes, row.Cells[1].Nodes...)
			continue
		}
		row.Cells[0].Nodes[0].(*typeset.Paragraph).KeepNext = true
		pairs = append(pairs, typeset.Cell{Nodes: append(row.Cells[0].Nodes, row.Cells[1].Nodes...)})
	}
	t.table.Columns, t.table.Layout, t.table.Gap, t.table.Fit = []float64{1, 1}, true, 18, typeset.Shares
	t.table.Continued = nil
	t.table.Rows = nil
	for i := 0; i < len(pairs); i += 2 {
		t.table.Rows = append(t.table.Rows, typeset.Row{Cells: pairs[i:min(i+2, len(pairs))]})
	}
}

// headRule is the thickness of the rule under a header row.
const headRule = 1.2

// inset is how far the words of a cell stand from its edge: the first and the last ones at the edge of the text where nothing is filled.
func (b *binder) inset(i, of int, inside bool) float64 {
	if !inside && (i == 0 || i == of-1) {
		return 0
	}
	return headedIndent
}

// header is a row of labels over a strong rule; columns of numbers stand at the end. Inside, words keep off the edge.
func (b *binder) header(words []string, aligns []typeset.Align, inside bool) *typeset.Row {
	row := &typeset.Row{Under: typeset.Edge{Width: headRule, Colour: b.dark}, Least: 3 * b.grid()}
	for i, w := range words {
		p := b.label("", w, b.labelInk)
		p.Indent = b.inset(i, len(words), inside)
		if aligns != nil {
			p.Align = aligns[i]
		}
		row.Cells = append(row.Cells, typeset.Cell{Nodes: []typeset.Node{p}})
	}
	return row
}

// cells is how an answer is printed: words, a signature, or one cell for each photo.
func (b *binder) cells(field form.Field, v form.Value) []typeset.Cell {
	if v.Kind == form.Signature && v.Sign.Typed == "" {
		if p := SignatureOf(v.Sign, field.Label, b.pictures); p != nil {
			return []typeset.Cell{{Nodes: []typeset.Node{p}}}
		}
	}
	if v.Kind == form.Photo {
		var out []typeset.Cell
		for i, f := range v.Files {
			if p := PhotoOf(f, field.Label+" "+strconv.Itoa(i+1), b.pictures); p != nil {
				out = append(out, typeset.Cell{Nodes: []typeset.Node{p}})
			}
		}
		if len(out) > 0 {
			return out
		}
	}
	if v.Kind == form.Rating && v.Number != nil {
		return []typeset.Cell{b.rating(field, v)}
	}
	words, c := b.facts.Answer(field, v, ""), b.ink
	if words == "" {
		words, c = "–", softInk
	}
	said := plain(words)
	if v.Kind == form.Signature {
		said.italic()
	}
	p := b.paragraph("", typeset.Plain, said, b.style.text, c)
	for i := range p.Runs {
		p.Runs[i].Link = reached(v)
	}
	return []typeset.Cell{{Nodes: []typeset.Node{p}}}
}

// The boxes of a rating, in points.
const ratingBox, ratingGap = 7.0, 2.0

// mostBoxes is up to what scale a rating is drawn.
const mostBoxes = 10

// rating is a bar of boxes, as many as the scale has, with the words beside it.
func (b *binder) rating(field form.Field, v form.Value) typeset.Cell {
	words := b.paragraph("", typeset.Plain, plain(b.facts.Answer(field, v, "")), b.style.text, b.ink)
	scale := field.HighestRating()
	given, err := v.Number.Int64()
	if err != nil || scale > mostBoxes {
		return typeset.Cell{Nodes: []typeset.Node{words}}
	}
	bar := &typeset.Drawing{Width: float64(scale)*(ratingBox+ratingGap) - ratingGap, Height: ratingBox}
	for i := range scale {
		c := b.tint
		if int64(i) < given {
			c = b.words
		}
		left := float64(i) * (ratingBox + ratingGap)
		bar.Shapes = append(bar.Shapes, typeset.Shape{Colour: c, Outlines: [][]float64{
			{left, 0, left + ratingBox, 0, left + ratingBox, ratingBox, left, ratingBox},
		}})
	}
	picture := &typeset.Picture{Drawing: bar, Width: bar.Width, Height: bar.Height, Ornament: true}
	return typeset.Cell{Nodes: []typeset.Node{&typeset.Table{
		Layout: true, Exact: true, Columns: []float64{bar.Width + 10, 120}, Rows: []typeset.Row{{Cells: []typeset.Cell{
			{Nodes: []typeset.Node{picture}, Stand: typeset.Center}, {Nodes: []typeset.Node{words}},
		}}},
	}}}
}

// reached is the address that leads to what an answer names: a message (RFC 6068), a page or a call (RFC 3966), else empty.
func reached(v form.Value) string {
	switch v.Kind {
	case form.Email:
		return "mailto:" + v.Text
	case form.WebAddress:
		return v.Text
	case form.Phone:
		return "tel:" + v.Text
	}
	return ""
}

// mostColumns is how many columns of rows fit beside each other; more are printed row by row.
const mostColumns = 7

// rows prints a repeating group as a table, numbers at the end of their columns.
func (t *answerTable) rows(field form.Field, rows []form.Answers) {
	t.heading()
	t.flush()
	var columns []form.Field
	wide := false
	for _, c := range field.Fields {
		if c.Kind == form.Hidden {
			continue
		}
		columns = append(columns, c)
		wide = wide || c.Kind == form.Photo || c.Kind == form.Signature
	}
	if len(columns) > mostColumns || wide {
		for i, row := range rows {
			t.subheading(field.Label + " " + strconv.Itoa(i+1))
			for _, c := range columns {
				if v := row[c.Key]; !v.Empty() || !t.block.HideEmpty {
					t.row(c, v)
				}
			}
			t.flush()
		}
		return
	}
	t.subheading(field.Label)
	t.lineTable(Block{ID: t.block.ID, Settings: Settings{Rows: field.Key, Shading: t.block.Shading, Borders: t.block.Borders}})
}
