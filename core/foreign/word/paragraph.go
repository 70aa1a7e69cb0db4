package word

import (
	"strings"

	"github.com/beevik/etree"

	"amberseal/core/ask/form"
	"amberseal/core/foreign/match"
)

// paragraph fills one paragraph: regions in its line, values, fields and controls, pictures, and the text boxes in it.
func (w *filler) paragraph(p *etree.Element) {
	for {
		l := readLine(p)
		regions, _ := l.inLine()
		if len(regions) == 0 {
			break
		}
		w.inLine(l, regions[0])
	}
	l := readLine(p)
	marks := l.marks()
	for i := len(marks) - 1; i >= 0; i-- {
		if m := marks[i]; m.verb == all || m.verb == put && m.how == "table" {
			if l.text == l.text[m.start:m.end] || strings.TrimSpace(l.text) == l.text[m.start:m.end] {
				w.asTable(p, m)
				return
			}
		}
		w.value(l, marks[i])
		l = readLine(p)
	}
	w.fields(p)
	w.pictures(p)
	for _, box := range boxes(p) {
		w.level(box)
	}
}

// boxes are the text boxes of a paragraph. They stand there twice, for newer and older readers; both are filled.
func boxes(p *etree.Element) []*etree.Element {
	var out []*etree.Element
	var walk func(e *etree.Element)
	walk = func(e *etree.Element) {
		for _, c := range e.ChildElements() {
			if c.Space == "w" && c.Tag == "txbxContent" {
				out = append(out, c)
				continue
			}
			walk(c)
		}
	}
	walk(p)
	return out
}

// inLine decides about what stands between two marks of one line.
func (w *filler) inLine(l line, r region) {
	if r.open.verb == rows {
		w.repeatInLine(l, r)
		return
	}
	to := r.close.start // where what stands there on the condition ends
	if r.other != nil {
		to = r.other.start
	}
	if w.with.Facts.Condition(r.open.name) {
		l.cut(to, r.close.end)
		l = readLine(l.paragraph)
		l.cut(r.open.start, r.open.end)
		return
	}
	if r.other == nil {
		l.cut(r.open.start, r.close.end)
		return
	}
	l.cut(r.close.start, r.close.end)
	l = readLine(l.paragraph)
	l.cut(r.open.start, r.other.end)
}

// repeatInLine repeats a part of a line for each row.
func (w *filler) repeatInLine(l line, r region) {
	p := l.paragraph
	l.split(r.close.end)
	l = readLine(p)
	last := l.split(r.close.start)
	l = readLine(p)
	first := l.split(r.open.end)
	l = readLine(p)
	opening := l.split(r.open.start)
	group := w.groupOf(r.open.name)
	if first == nil || last == nil || opening == nil || first.Parent() != last.Parent() {
		l = readLine(p)
		l.cut(l.find(r.close.mark).start, l.find(r.close.mark).end)
		l = readLine(p)
		l.cut(r.open.start, r.open.end)
		return
	}
	var between []*etree.Element
	parent := first.Parent()
	for i := first.Index(); i < last.Index(); i++ {
		if e, ok := parent.Child[i].(*etree.Element); ok {
			between = append(between, e)
		}
	}
	l = readLine(p)
	closing := l.find(r.close.mark)
	l.cut(closing.start, closing.end)
	l = readLine(p)
	l.cut(r.open.start, r.open.end)
	if len(between) == 0 {
		return
	}
	w.repeat(between, group, func(one *etree.Element) { w.paragraph(one) })
}

// value puts a value in the place of its mark.
func (w *filler) value(l line, m mark) {
	switch m.verb {
	case encode:
		text, ok := w.text(m.name, "")
		if !ok {
			l.put(m.start, m.end, "["+m.name+"]")
			return
		}
		w.codePicture(l, m, text)
	case put:
		if x, v, ok := w.pictured(m.name); ok {
			w.putPicture(l, m, x, v)
			return
		}
		text, ok := w.text(m.name, m.how)
		if !ok {
			text = "[" + m.name + "]"
		}
		l.put(m.start, m.end, text)
	case all:
		l.put(m.start, m.end, "")
	default: // a mark without its partner: a finding says so
		l.put(m.start, m.end, "")
	}
}

// text is what stands for a name.
func (w *filler) text(name, how string) (string, bool) {
	m, found := w.with.Names.Find(name)
	if found == match.None {
		return "", false
	}
	if how != "" {
		m = m.As(how)
	}
	return m.Text(w.with.Facts)
}

// pictured is the answer for a name whose field is a picture or a signature.
func (w *filler) pictured(name string) (form.Field, form.Value, bool) {
	m, _ := w.with.Names.Find(name)
	x, ok := w.with.Facts.Form.Field(m.Field())
	if !ok || x.Kind != form.Photo && x.Kind != form.Signature {
		return x, form.Value{}, false
	}
	v := w.with.Facts.Answers[m.Field()]
	if rows, ok := w.with.Facts.Form.Column(m.Field()); ok {
		v = form.Value{}
		if all := w.with.Facts.Answers[rows].Rows; len(all) > 0 {
			v = all[0][x.Key]
		}
	}
	if v.Sign != nil && v.Sign.Typed != "" {
		return x, v, false // it is words
	}
	return x, v, true
}
