package paper

import (
	"strconv"

	"amberseal/core/print/typeset"
	"amberseal/core/words/finding"
)

// contents are the headings of a document as they are bound, for the table of them that may stand before.
type contents struct {
	deepest  int // of the headings that are listed; 0 where there is no table
	headings []listedHeading
	table    *typeset.Table
	block    string
}

// listedHeading is a heading, and the name by which its place is found.
type listedHeading struct {
	level int
	words string
	name  string
}

// usualDeepest is the level of headings that a table of contents lists where it says nothing.
const usualDeepest = 2

// contentsBlock leaves the place of the table of contents, which is filled when all headings are known.
func (b *binder) contentsBlock(x Block) {
	c := &b.shared.contents
	if c.table != nil {
		return // one is enough
	}
	if title := runs(x.Text.Bind(b.facts)); len(title) > 0 {
		b.heading(x.ID, 2, title, typeset.Start)
	}
	c.deepest, c.block = usualDeepest, x.ID
	if x.Level > 0 {
		c.deepest = x.Level
	}
	c.table = &typeset.Table{Block: x.ID, Layout: true, Columns: []float64{12, 1}, Gap: 10, Pad: b.grid() / 4, After: 2 * b.grid()}
	line := hairline
	c.table.Line = &line
	b.add(c.table)
}

// listHeading notes a heading behind the table of contents, and gives the name of its place.
func (b *binder) listHeading(level int, words string) (name string) {
	c := &b.shared.contents
	if c.table == nil || level > c.deepest || words == "" || b.within != &b.shared.out.Body {
		return ""
	}
	name = "heading-" + strconv.Itoa(len(c.headings)+1)
	c.headings = append(c.headings, listedHeading{level, words, name})
	return name
}

// contentsIndent is how far a heading is set in from the one above it, in points.
const contentsIndent = 12

// fillContents lists the headings with their pages, each a link to its place.
func (b *binder) fillContents() {
	c := &b.shared.contents
	if c.table == nil {
		return
	}
	for _, h := range c.headings {
		title := b.paragraph("", typeset.Plain, plain(h.words), b.style.text, b.ink)
		title.Indent = float64(max(h.level-1, 0)) * contentsIndent
		page := b.paragraph("", typeset.Plain, plain("0"), b.style.text, b.ink)
		page.Align, page.Tabular = typeset.End, true
		title.Runs[0].Style.Bold = h.level == 1
		for _, p := range []*typeset.Paragraph{title, page} {
			p.Runs[0].Link = "#" + h.name
		}
		page.Runs[0].Counter = typeset.PageOfLink
		c.table.Rows = append(c.table.Rows, typeset.Row{Cells: []typeset.Cell{
			{Nodes: []typeset.Node{title}}, {Nodes: []typeset.Node{page}},
		}})
	}
}

func (x Block) checkContents(c checking) finding.List {
	var l finding.List
	if x.Level < 0 || x.Level > 3 {
		l.Fault(c.at, "paper.heading-level")
	}
	return l
}
