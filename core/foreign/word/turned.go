package word

import (
	"strconv"

	"github.com/beevik/etree"

	"amberseal/core/print/paper"
	"amberseal/core/words/phrase"
)

// table makes a table of rows where a row names the columns of a group, else a table of words.
func (t *turner) table(e *etree.Element) []paper.Block {
	all := tableRows(e)
	group := ""
	for _, row := range all {
		var found []string
		for _, p := range row.FindElements(".//w:p") {
			found = append(found, namesIn(p)...)
		}
		if g := t.names.Group(found); g != "" && group == "" {
			group = g
		}
	}
	if group != "" {
		return []paper.Block{t.lines(all, group)}
	}
	if len(e.FindElements(".//w:tbl")) > 0 {
		t.left("a table inside a table", e.FindElement(".//w:p"))
	}
	regions, _ := amongRows(all)
	grid := &paper.Grid{}
	for i, row := range all {
		r := paper.GridRow{}
		for _, x := range regions {
			switch {
			case i < x.open.at || i > x.close.at:
			case x.open.verb == rows:
				m, _ := t.names.Find(x.open.name)
				r.Each = m.Field()
			case x.other != nil && i >= x.other.at:
				r.When = "not (" + x.open.name + ")"
			default:
				r.When = x.open.name
			}
		}
		said := false
		for _, c := range cells(row) {
			cell := t.cell(c)
			said = said || len(cell.Body) > 0
			r.Cells = append(r.Cells, cell)
		}
		if marksOnly := r.When != "" || r.Each != ""; said || !marksOnly {
			grid.Rows = append(grid.Rows, r)
		}
	}
	if len(grid.Rows) == 0 {
		return nil
	}
	return []paper.Block{{ID: t.id(paper.FixedTable), Kind: paper.FixedTable, Settings: paper.Settings{Grid: grid}}}
}

// cell is the words of a cell.
func (t *turner) cell(c *etree.Element) paper.GridCell {
	var out paper.GridCell
	if pr := c.SelectElement("w:tcPr"); pr != nil {
		if n, err := strconv.Atoi(attr(pr.SelectElement("w:gridSpan"), "val")); err == nil && n > 1 {
			out.Span = n
		}
	}
	for _, p := range c.FindElements(".//w:p") {
		l := readLine(p)
		marks := l.marks()
		if len(marks) == 1 {
			if _, ok := t.alone(marks[0]); ok {
				t.left("a picture or code in a cell of a table", p)
				continue
			}
		}
		if words := t.phrase(l); len(words) > 0 {
			out.Body = append(out.Body, phrase.Paragraph{Spans: words})
		}
	}
	return out
}

// lines is the table of a group's rows; rows below it that say a number are its totals.
func (t *turner) lines(all []*etree.Element, group string) paper.Block {
	s := paper.Settings{Rows: group}
	behind := false
	for _, row := range all {
		var found []string
		var words []phrase.Phrase
		for _, p := range row.FindElements(".//w:p") {
			found = append(found, namesIn(p)...)
			if w := t.phrase(readLine(p)); len(w) > 0 {
				words = append(words, w)
			}
		}
		switch {
		case t.names.Group(found) == group:
			behind = true
		case behind && len(words) >= 2 && len(words[len(words)-1]) == 1 && words[len(words)-1][0].Field != "":
			s.Totals = append(s.Totals, paper.Total{Label: words[0], Field: words[len(words)-1][0].Field})
		case behind && len(words) > 0:
			t.left("a row below the rows of a group", row.FindElement(".//w:p"))
		}
	}
	return paper.Block{ID: t.id(paper.Lines), Kind: paper.Lines, Settings: s}
}
