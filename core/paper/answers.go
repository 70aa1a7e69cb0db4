package paper

import (
	"strconv"
	"strings"

	"amberseal/core/form"
	"amberseal/core/phrase"
	"amberseal/core/typeset"
)

// File is the name under which the pictures' function finds an uploaded file.
func File(id string) string { return "file/" + id }

// FileID is the id of the uploaded file that a name means, if it means one.
func FileID(name string) (string, bool) { return strings.CutPrefix(name, "file/") }

// answers prints each section of the form as a table under its heading, rows as tables of their own.
// What does not show with these answers is not printed. Where sections are printed under a heading of the
// design, they are one level lower.
func (b *binder) answers(x Block) {
	chosen := map[string]bool{}
	for _, key := range x.Fields {
		chosen[key] = true
	}
	shown := b.facts.Form.Shown(b.facts.Answers, b.facts.Made.In(b.facts.House.Location()))
	t := &answerTable{binder: b, block: x}
	for _, field := range b.facts.Form.Fields {
		switch {
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
		t.binder.heading(t.block.ID, 2, []phrase.Run{{Text: t.section}}, typeset.Start)
		t.section, t.under = "", true
	}
}

// subheading heads rows, one level below the section.
func (t *answerTable) subheading(words string) {
	level := 2
	if t.under {
		level = 3
	}
	t.binder.heading(t.block.ID, level, []phrase.Run{{Text: words}}, typeset.Start)
}

func (t *answerTable) flush() {
	if t.table != nil {
		t.stripe(t.table)
		t.add(t.table)
		t.table = nil
	}
}

// headedIndent keeps text off the edge of a header row's colour.
const headedIndent = 6

// indented reports whether text must keep off the edge of a colour.
func (t *answerTable) indented() bool { return t.block.Headed || t.style.shaded }

// row prints a question beside its answer; pictures and signatures stand where words would.
func (t *answerTable) row(field form.Field, v form.Value) {
	if t.table == nil {
		t.table = &typeset.Table{Block: t.block.ID, Columns: []float64{36, 64}, Gap: 14, Pad: 4.5, Before: 4, After: 10}
		if t.style.between {
			line := hairline
			t.table.Line = &line
		}
		if t.block.Headed {
			question, answer := t.facts.Locale().QuestionAnswer()
			t.table.Header = t.header([]string{question, answer}, nil)
		}
	}
	label := t.paragraph("", typeset.Plain, []phrase.Run{{Text: field.Label}}, t.style.label, softInk)
	label.Leading = t.style.leading * t.style.text / t.style.label // so that both columns share their baselines
	if t.indented() {
		label.Indent = headedIndent
	}
	head := typeset.Cell{Paragraphs: []typeset.Paragraph{*label}, Heads: true}
	for _, cell := range t.cells(field, v) {
		for i := range cell.Paragraphs {
			if t.indented() {
				cell.Paragraphs[i].Indent = headedIndent
			}
		}
		t.table.Rows = append(t.table.Rows, typeset.Row{Cells: []typeset.Cell{head, cell}})
		head = typeset.Cell{}
	}
}

// header is a row in the house's colour, where the look has one; columns of numbers stand at the end.
func (b *binder) header(words []string, numeric []bool) *typeset.Row {
	row := &typeset.Row{}
	c := ink
	if b.style.filled {
		dark := b.accent
		row.Fill, c = &dark, typeset.Colour{R: 0xFF, G: 0xFF, B: 0xFF}
	}
	for i, w := range words {
		p := b.paragraph("", typeset.Plain, []phrase.Run{{Text: w, Bold: true}}, b.style.label, c)
		p.Indent = headedIndent
		if numeric != nil && numeric[i] {
			p.Align = typeset.End
		}
		row.Cells = append(row.Cells, typeset.Cell{Paragraphs: []typeset.Paragraph{*p}})
	}
	return row
}

// cells is how an answer is printed: words, a signature, or one cell for each photo.
func (b *binder) cells(field form.Field, v form.Value) []typeset.Cell {
	if v.Kind == form.Signature && v.Sign.Typed == "" {
		if p := b.signature(v.Sign, field.Label); p != nil {
			return []typeset.Cell{{Picture: p}}
		}
	}
	if v.Kind == form.Photo {
		var out []typeset.Cell
		for i, f := range v.Files {
			if p := b.photo(f, field.Label+" "+strconv.Itoa(i+1)); p != nil {
				out = append(out, typeset.Cell{Picture: p})
			}
		}
		if len(out) > 0 {
			return out
		}
	}
	words, c := b.facts.Answer(field, v, ""), ink
	if words == "" {
		words, c = "–", softInk
	}
	p := b.paragraph("", typeset.Plain, []phrase.Run{{Text: words, Italic: v.Kind == form.Signature}}, b.style.text, c)
	return []typeset.Cell{{Paragraphs: []typeset.Paragraph{*p}}}
}

// signature is drawn as it was; an uploaded one is a picture.
func (b *binder) signature(m *form.Mark, label string) *typeset.Picture {
	if m.File != nil {
		p := b.photo(*m.File, label)
		if p != nil {
			p.Width, p.Height = 60*millimetre, 22*millimetre
		}
		return p
	}
	strokes, w, h := trim(m)
	return &typeset.Picture{Drawing: &typeset.Drawing{Width: w, Height: h, Strokes: strokes, Colour: ink}, Width: 60 * millimetre, Height: 18 * millimetre, Alt: label}
}

// trim moves the strokes into the corner and gives the size of what was drawn.
func trim(m *form.Mark) (strokes [][]float64, w, h float64) {
	x0, y0, x1, y1 := m.Width, m.Height, 0.0, 0.0
	for _, s := range m.Strokes {
		for i := 0; i+1 < len(s); i += 2 {
			x0, x1 = min(x0, s[i]), max(x1, s[i])
			y0, y1 = min(y0, s[i+1]), max(y1, s[i+1])
		}
	}
	const rim = 2
	for _, s := range m.Strokes {
		moved := make([]float64, len(s))
		for i := range s {
			moved[i] = s[i] - x0 + rim
			if i%2 == 1 {
				moved[i] = s[i] - y0 + rim
			}
		}
		strokes = append(strokes, moved)
	}
	return strokes, x1 - x0 + 2*rim, y1 - y0 + 2*rim
}

// photo is an uploaded picture, or nil where it cannot be printed; its name stands there then.
func (b *binder) photo(f form.File, alt string) *typeset.Picture {
	data, err := b.pictures(File(f.ID))
	if err != nil {
		return nil
	}
	img, err := typeset.ReadImage(data)
	if err != nil {
		return nil
	}
	return &typeset.Picture{Image: img, Width: 80 * millimetre, Height: 60 * millimetre, Alt: alt}
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
	t.lineTable(Block{ID: t.block.ID, Rows: field.Key})
}

// share is how much of a table's width a kind of answer wants.
func share(k form.Kind) float64 {
	switch k {
	case form.LongText, form.Address:
		return 4
	case form.ShortText, form.Name, form.Email, form.WebAddress, form.Upload:
		return 3
	case form.WholeNumber, form.YesNo, form.Consent, form.Rating, form.Time:
		return 1.2
	}
	return 1.8
}
