package word

import (
	"strings"

	"github.com/beevik/etree"

	"amberseal/core/ask/form"
)

// asTable puts a table in the place of a paragraph: of all answers, or of the rows of a group. It has the style of the file's tables.
func (w *filler) asTable(p *etree.Element, m mark) {
	var rows [][]string
	headed := false
	if m.verb == all {
		for _, x := range w.with.Facts.Form.Fields {
			if !x.Answered() || w.with.Facts.Answers[x.Key].Empty() {
				continue
			}
			rows = append(rows, []string{x.Label, w.with.Facts.Text(x)})
		}
	} else {
		key := w.groupOf(m.name)
		x, ok := w.with.Facts.Form.Field(key)
		if ok && x.Kind == form.Rows {
			rows, headed = w.groupTable(x)
		}
	}
	parent, at := p.Parent(), p.Index()
	parent.RemoveChildAt(at)
	if len(rows) > 0 {
		t := w.newTable(rows, headed)
		parent.InsertChildAt(at, t)
		at++
	}
	if next := nextElement(parent, at); next == nil || next.Tag != "p" { // two tables would become one, and a cell ends with a paragraph
		parent.InsertChildAt(at, etree.NewElement("w:p"))
	}
}

func nextElement(parent *etree.Element, at int) *etree.Element {
	for ; at < len(parent.Child); at++ {
		if e, ok := parent.Child[at].(*etree.Element); ok {
			return e
		}
	}
	return nil
}

func (w *filler) groupTable(x form.Field) (rows [][]string, headed bool) {
	var head []string
	var columns []form.Field
	for _, c := range x.Fields {
		if c.Answered() {
			head, columns = append(head, c.Label), append(columns, c)
		}
	}
	for _, row := range w.with.Facts.Answers[x.Key].Rows {
		cells := make([]string, len(columns))
		for i, c := range columns {
			cells[i] = w.with.Facts.Answer(c, row[c.Key], "")
		}
		rows = append(rows, cells)
	}
	if len(rows) == 0 {
		return nil, false
	}
	return append([][]string{head}, rows...), true
}

func (w *filler) newTable(rows [][]string, headed bool) *etree.Element {
	t := etree.NewElement("w:tbl")
	pr := t.CreateElement("w:tblPr")
	if style := w.tableStyle(); style != "" {
		pr.CreateElement("w:tblStyle").CreateAttr("w:val", style)
	}
	width := pr.CreateElement("w:tblW")
	width.CreateAttr("w:w", "5000")
	width.CreateAttr("w:type", "pct")
	if w.tableStyle() == "" {
		borders := pr.CreateElement("w:tblBorders")
		for _, side := range []string{"top", "bottom", "insideH"} {
			b := borders.CreateElement("w:" + side)
			b.CreateAttr("w:val", "single")
			b.CreateAttr("w:sz", "4")
			b.CreateAttr("w:space", "0")
			b.CreateAttr("w:color", "auto")
		}
	}
	grid := t.CreateElement("w:tblGrid")
	for range rows[0] {
		grid.CreateElement("w:gridCol")
	}
	for i, cells := range rows {
		row := t.CreateElement("w:tr")
		if headed && i == 0 {
			row.CreateElement("w:trPr").CreateElement("w:tblHeader")
		}
		for _, text := range cells {
			cell := row.CreateElement("w:tc")
			cell.CreateElement("w:tcPr").CreateElement("w:tcW").CreateAttr("w:type", "auto")
			run := cell.CreateElement("w:p").CreateElement("w:r")
			if headed && i == 0 {
				run.CreateElement("w:rPr").CreateElement("w:b")
			}
			write(run.CreateElement("w:t"), "", text, "")
		}
	}
	return t
}

// tableStyle is that of the file's first table.
func (w *filler) tableStyle() string {
	for _, t := range w.out.file.stories[0].tree.FindElements("//w:tbl/w:tblPr/w:tblStyle") {
		if s := strings.TrimSpace(attr(t, "val")); s != "" {
			return s
		}
	}
	return ""
}
