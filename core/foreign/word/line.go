package word

import (
	"strings"

	"github.com/beevik/etree"
)

// cut takes a range of the text out of the paragraph. The line is read anew afterwards.
func (l line) cut(from, to int) {
	for _, x := range l.pieces {
		a, b := max(from-x.start, 0), min(to-x.start, len(x.text))
		if a >= b {
			continue
		}
		if x.isText() {
			setText(x.e, x.text[:a]+x.text[b:])
		} else {
			remove(x.e)
		}
	}
}

func (x piece) isText() bool { return x.e.Space == "w" && x.e.Tag == "t" }

// put writes text in the place of a range, in the looks of where the range begins. Line breaks and tabs become those of the file.
func (l line) put(from, to int, text string) {
	for i := len(l.pieces) - 1; i >= 0; i-- {
		x := l.pieces[i]
		a, b := max(from-x.start, 0), min(to-x.start, len(x.text))
		switch {
		case a >= b:
		case !x.isText():
			remove(x.e)
		case x.start <= from:
			write(x.e, x.text[:a], text, x.text[b:])
		default:
			setText(x.e, x.text[b:])
		}
	}
}

// write sets a text element to what stands before, in and behind a value; the value may have several lines.
func write(e *etree.Element, before, value, behind string) {
	value = printable(value)
	if !strings.ContainsAny(value, "\n\t") {
		setText(e, before+value+behind)
		return
	}
	parent, at := e.Parent(), e.Index()
	setText(e, before)
	add := func(x *etree.Element) {
		at++
		parent.InsertChildAt(at, x)
	}
	part := func(s string) {
		if s != "" {
			t := etree.NewElement("w:t")
			setText(t, s)
			add(t)
		}
	}
	from := 0
	for i, r := range value {
		if r != '\n' && r != '\t' {
			continue
		}
		part(value[from:i])
		from = i + 1
		if r == '\n' {
			add(etree.NewElement("w:br"))
		} else {
			add(etree.NewElement("w:tab"))
		}
	}
	part(value[from:] + behind)
}

// setText keeps blanks at the text's ends (XML 1.0, 2.10).
func setText(e *etree.Element, s string) {
	e.SetText(s)
	if s != strings.TrimSpace(s) {
		e.CreateAttr("xml:space", "preserve")
	}
}

// printable leaves out what XML cannot hold (XML 1.0, 2.2).
func printable(s string) string {
	return strings.Map(func(r rune) rune {
		if r < ' ' && r != '\n' && r != '\t' || r == 0xFFFE || r == 0xFFFF || r == 0x2028 || r == 0x2029 {
			if r == 0x2028 || r == 0x2029 {
				return '\n'
			}
			return -1
		}
		return r
	}, s)
}

func remove(e *etree.Element) {
	if p := e.Parent(); p != nil {
		p.RemoveChild(e)
	}
}

// empty reports whether nothing is to be seen in a paragraph.
func (l line) empty() bool { return strings.TrimSpace(l.text) == "" }

// ends reports whether a section ends with the paragraph, so that it cannot go.
func endsSection(p *etree.Element) bool {
	pr := p.SelectElement("w:pPr")
	return pr != nil && pr.SelectElement("w:sectPr") != nil
}

// run is the run that holds an element, or nil.
func runOf(e *etree.Element) *etree.Element {
	for ; e != nil; e = e.Parent() {
		if e.Space == "w" && e.Tag == "r" {
			return e
		}
	}
	return nil
}

// split parts the runs of the line at a place, so that a range of it is whole runs. It gives the first run behind the place, or nil at
// the line's end.
func (l line) split(at int) *etree.Element {
	for _, x := range l.pieces {
		if x.start+len(x.text) <= at {
			continue
		}
		run := runOf(x.e)
		if run == nil {
			return nil
		}
		first := x.start == at
		for _, y := range l.pieces {
			if y.start < x.start && runOf(y.e) == run {
				first = false
			}
		}
		if first {
			return run
		}
		behind := run.Copy()
		run.Parent().InsertChildAt(run.Index()+1, behind)
		before := at - x.start
		index := indexIn(run, x.e)
		for i := len(run.Child) - 1; i > index; i-- {
			run.RemoveChildAt(i)
		}
		for i := index - 1; i >= 0; i-- {
			if e, ok := behind.Child[i].(*etree.Element); !ok || e.Tag != "rPr" {
				behind.RemoveChildAt(i)
			}
		}
		if x.isText() {
			setText(x.e, x.text[:before])
			if t := behind.SelectElement("w:t"); t != nil {
				setText(t, x.text[before:])
			}
		} else {
			remove(x.e)
		}
		return behind
	}
	return nil
}

// indexIn is the place among a run's children of the one that is, or holds, an element.
func indexIn(run, e *etree.Element) int {
	for e.Parent() != run {
		e = e.Parent()
	}
	return e.Index()
}
