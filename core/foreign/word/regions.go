package word

import (
	"github.com/beevik/etree"
)

// event is a mark that opens, parts or ends a region.
type event struct {
	mark
	line line
	at   int // which of the elements of its level it stands in
}

// region is what stands between a mark that opens and the one that ends it, at one level: in a line, among paragraphs and tables, or
// among the rows of a table.
type region struct {
	open, close event
	other       *event
}

// pairUp finds the outermost regions of one level in order, and the marks that have no partner there.
func pairUp(events []event) (regions []region, lone []event) {
	var stack []region
	for _, e := range events {
		switch {
		case e.opens():
			stack = append(stack, region{open: e})
		case e.verb == otherwise:
			if n := len(stack); n > 0 && stack[n-1].open.verb == when && stack[n-1].other == nil {
				other := e
				stack[n-1].other = &other
			} else {
				lone = append(lone, e)
			}
		case e.verb == end:
			n := len(stack)
			if n == 0 {
				lone = append(lone, e)
				continue
			}
			r := stack[n-1]
			r.close = e
			stack = stack[:n-1]
			if len(stack) == 0 {
				regions = append(regions, r)
			}
		}
	}
	for _, r := range stack {
		lone = append(lone, r.open)
		if r.other != nil {
			lone = append(lone, *r.other)
		}
	}
	return regions, lone
}

// inLine are the regions of a line, and the marks whose partners are elsewhere, in their order.
func (l line) inLine() ([]region, []event) {
	var events []event
	for _, m := range l.marks() {
		if m.opens() || m.verb == otherwise || m.verb == end {
			events = append(events, event{mark: m, line: l})
		}
	}
	return paired(events)
}

// paired are the outermost regions of a level, and the marks that have no partner there, both in order.
func paired(events []event) ([]region, []event) {
	if events == nil {
		return nil, nil
	}
	regions, lone := pairUp(events)
	return regions, inOrder(events, lone)
}

func inOrder(all, some []event) []event {
	var out []event
	for _, e := range all {
		for _, s := range some {
			if s.start == e.start && s.line.paragraph == e.line.paragraph {
				out = append(out, e)
			}
		}
	}
	return out
}

// blocks are the paragraphs, tables and controls of a body, cell, box or note.
func blocks(parent *etree.Element) []*etree.Element {
	var out []*etree.Element
	for _, e := range parent.ChildElements() {
		if e.Space == "w" && (e.Tag == "p" || e.Tag == "tbl" || e.Tag == "sdt" || e.Tag == "customXml" || e.Tag == "ins" ||
			e.Tag == "moveTo") {
			out = append(out, e)
		}
	}
	return out
}

// inner is the element whose children are the content of a block that is neither paragraph nor table.
func inner(e *etree.Element) *etree.Element {
	if e.Tag == "sdt" {
		return e.SelectElement("w:sdtContent")
	}
	return e
}

// amongBlocks are the regions among the blocks of one level, and the marks that have no partner in it.
func amongBlocks(all []*etree.Element) ([]region, []event) {
	var events []event
	for i, e := range all {
		switch e.Tag {
		case "p":
			_, lone := readLine(e).inLine()
			for _, x := range lone {
				x.at = i
				events = append(events, x)
			}
		case "tbl":
		default:
			if c := inner(e); c != nil {
				_, lone := amongBlocks(blocks(c))
				for _, x := range lone {
					x.at = i
					events = append(events, x)
				}
			}
		}
	}
	return paired(events)
}

// amongRows are the regions among the rows of a table: their marks stand in cells, alone or with other words.
func amongRows(rows []*etree.Element) ([]region, []event) {
	var events []event
	for i, row := range rows {
		for _, cell := range cells(row) {
			_, lone := amongBlocks(blocks(cell))
			for _, x := range lone {
				x.at = i
				events = append(events, x)
			}
		}
	}
	return paired(events)
}

// tableRows are a table's rows, those in controls too.
func tableRows(table *etree.Element) []*etree.Element { return within(table, "tr") }

func cells(row *etree.Element) []*etree.Element { return within(row, "tc") }

// within finds children by their tag, through the controls around them.
func within(parent *etree.Element, tag string) []*etree.Element {
	var out []*etree.Element
	for _, e := range parent.ChildElements() {
		switch {
		case e.Space == "w" && e.Tag == tag:
			out = append(out, e)
		case e.Space == "w" && (e.Tag == "sdt" || e.Tag == "sdtContent" || e.Tag == "customXml" || e.Tag == "ins"):
			out = append(out, within(e, tag)...)
		}
	}
	return out
}
