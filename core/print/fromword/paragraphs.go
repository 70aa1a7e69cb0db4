package fromword

import (
	"strings"

	"github.com/beevik/etree"

	"amberseal/core/foreign/word"
	"amberseal/core/print/typeset"
)

// shape is how a paragraph stands, gathered like its looks.
type shape struct {
	align                   string
	left, right, first      float64
	before, after           float64
	line                    typeset.LineHeight
	keepNext, whole, breaks bool
	loose, contextual, bidi bool
	unparted                bool // its words are not parted
	stops                   []typeset.TabStop
	frame                   *typeset.Frame
	outline                 int // 1 for the highest heading, 0 for none
	num, level              string
	style                   string
}

// form puts a w:pPr over what is known.
func (b *binder) form(s *shape, pr *etree.Element) {
	if pr == nil {
		return
	}
	if n := pr.SelectElement("w:numPr"); n != nil {
		if e := n.SelectElement("w:numId"); e != nil {
			s.num = word.Attr(e, "val")
		}
		if e := n.SelectElement("w:ilvl"); e != nil {
			s.level = word.Attr(e, "val")
		}
		if lvl := b.numbers.at(s.num, s.level); lvl != nil {
			b.form(s, lvl.pPr)
		} else if s.num == "0" {
			s.left, s.first = 0, 0
		}
	}
	for _, e := range pr.ChildElements() {
		if e.Space == "w" {
			b.formOne(s, e)
		}
	}
}

func (b *binder) formOne(s *shape, e *etree.Element) {
	v := word.Attr(e, "val")
	switch e.Tag {
	case "jc":
		s.align = v
	case "ind":
		s.indents(e)
	case "spacing":
		s.spacing(e)
	case "contextualSpacing":
		s.contextual = on(e)
	case "keepNext":
		s.keepNext = on(e)
	case "keepLines":
		s.whole = on(e)
	case "pageBreakBefore":
		s.breaks = on(e)
	case "widowControl":
		s.loose = !on(e)
	case "bidi":
		s.bidi = on(e)
	case "suppressAutoHyphens":
		s.unparted = on(e)
	case "outlineLvl":
		if len(v) == 1 && v[0] >= '0' && v[0] < '9' {
			s.outline = int(v[0]-'0') + 1
		} else {
			s.outline = 0
		}
	case "tabs":
		s.tabs(e)
	case "shd":
		if c := b.shade(e); c != nil {
			s.framed().Fill = c
		}
	case "pBdr":
		for i, side := range []string{"top", "right", "bottom", "left"} {
			if x := e.SelectElement("w:" + side); x != nil {
				s.framed().Edges[i] = b.edge(x)
				if gap, ok := measure(word.Attr(x, "space") + "pt"); ok {
					s.framed().Gaps[i] = gap
				}
			}
		}
	}
}

func (s *shape) framed() *typeset.Frame {
	f := typeset.Frame{}
	if s.frame != nil {
		f = *s.frame // those of a style are shared
	}
	s.frame = &f
	return s.frame
}

func (s *shape) indents(e *etree.Element) {
	for _, key := range []string{"left", "start"} {
		if v, ok := measure(word.Attr(e, key)); ok {
			s.left = v
		}
	}
	for _, key := range []string{"right", "end"} {
		if v, ok := measure(word.Attr(e, key)); ok {
			s.right = v
		}
	}
	if v, ok := measure(word.Attr(e, "firstLine")); ok {
		s.first = v
	}
	if v, ok := measure(word.Attr(e, "hanging")); ok {
		s.first = -v
	}
}

// usualGap is what “automatic” spacing is: that of a web page's paragraph (17.3.1.33; the amount is common practice).
const usualGap = 14

func (s *shape) spacing(e *etree.Element) {
	for key, into := range map[string]*float64{"before": &s.before, "after": &s.after} {
		if v, ok := measure(word.Attr(e, key)); ok {
			*into = v
		}
		if auto := word.Attr(e, key+"Autospacing"); auto == "1" || auto == "true" || auto == "on" {
			*into = usualGap
		}
	}
	v, ok := measure(word.Attr(e, "line"))
	if !ok || v <= 0 {
		return
	}
	switch word.Attr(e, "lineRule") {
	case "exact":
		s.line = typeset.LineHeight{Rule: typeset.Exactly, Value: v}
	case "atLeast":
		s.line = typeset.LineHeight{Rule: typeset.AtLeast, Value: v}
	default:
		s.line = typeset.LineHeight{Value: v / 12} // 240ths of a line
	}
}

func (s *shape) tabs(e *etree.Element) {
	s.stops = append([]typeset.TabStop(nil), s.stops...)
	for _, t := range e.SelectElements("w:tab") {
		at, ok := measure(word.Attr(t, "pos"))
		if !ok {
			continue
		}
		for i := 0; i < len(s.stops); i++ {
			if d := s.stops[i].At - at; d > -0.1 && d < 0.1 {
				s.stops = append(s.stops[:i], s.stops[i+1:]...)
				i--
			}
		}
		stop := typeset.TabStop{At: at}
		switch word.Attr(t, "val") {
		case "clear", "bar":
			continue
		case "center":
			stop.Align = typeset.Center
		case "right", "end":
			stop.Align = typeset.End
		case "decimal":
			stop.Point = '.'
		}
		stop.Leader = map[string]rune{"dot": '.', "middleDot": '·', "hyphen": '-', "underscore": '_', "heavy": '_'}[word.Attr(t, "leader")]
		i := 0
		for i < len(s.stops) && s.stops[i].At < at {
			i++
		}
		s.stops = append(s.stops[:i], append([]typeset.TabStop{stop}, s.stops[i:]...)...)
	}
}

// edge is a rule; widths are eighths of a point (17.18.2).
func (b *binder) edge(e *etree.Element) typeset.Edge {
	v := word.Attr(e, "val")
	if v == "" || v == "nil" || v == "none" {
		return typeset.Edge{}
	}
	n, ok := measure(word.Attr(e, "sz"))
	width := n * twips / 8
	if !ok || width <= 0 {
		width = 0.5
	}
	out := typeset.Edge{Width: min(width, 12), Dashed: strings.HasPrefix(v, "dash") || strings.HasPrefix(v, "dot"), Double: v == "double"}
	if out.Double {
		out.Width *= 3
	}
	if c := b.themed(e, "color", "themeColor"); c != nil {
		out.Colour = *c
	}
	return out
}

// shaped gathers how a paragraph stands and looks.
func (b *binder) shaped(p *etree.Element) (shape, looks) {
	pr := p.SelectElement("w:pPr")
	s, l := shape{level: "0"}, b.base
	b.form(&s, b.basePara)
	if b.inTable != nil {
		for _, e := range b.inTable {
			b.form(&s, e.SelectElement("w:pPr"))
			b.read(&l, e.SelectElement("w:rPr"))
		}
	}
	id := ""
	if pr != nil {
		id = word.Attr(pr.SelectElement("w:pStyle"), "val")
	}
	st := b.of(id, "paragraph")
	if st != nil {
		s.style = st.id
		for _, e := range st.chain {
			b.form(&s, e.SelectElement("w:pPr"))
		}
		b.runLooks(&l, st)
		if n, ok := strings.CutPrefix(st.name, "heading "); ok && s.outline == 0 && len(n) == 1 && n[0] >= '1' && n[0] <= '9' {
			s.outline = int(n[0] - '0')
		}
		if st.name == "title" && s.outline == 0 {
			s.outline = 1
		}
	}
	b.form(&s, pr)
	return s, l
}

// paragraph makes the nodes of a paragraph: one, and where pages break in it or pictures stand beside it, more.
func (b *binder) paragraph(p *etree.Element) {
	b.at = word.Place(p)
	s, l := b.shaped(p)
	if s.breaks {
		b.add(&typeset.Break{})
	}
	c := &content{b: b, base: l}
	if pr := p.SelectElement("w:pPr"); pr != nil {
		c.mark = l
		b.read(&c.mark, pr.SelectElement("w:rPr"))
	}
	c.walk(p, l, "")
	if len(c.parts) == 0 {
		c.parts = [][]typeset.Run{nil}
	}
	for i, runs := range c.parts {
		x := b.set(s, runs, c)
		if i == 0 {
			x.Names = bookmarked(p)
			x.Floats = append(b.taken(), c.floats...)
		}
		if i > 0 {
			b.add(&typeset.Break{Always: true, Column: i <= len(c.columns) && c.columns[i-1]})
			x.Before, x.Marker = 0, ""
			if len(runs) == 0 {
				continue // the break was the paragraph's end
			}
		}
		if i+1 < len(c.parts) {
			x.After = 0
			if len(runs) == 0 && i == 0 && x.Marker == "" && len(x.Floats) == 0 {
				continue
			}
		}
		b.add(x)
	}
}

func (b *binder) set(s shape, runs []typeset.Run, c *content) *typeset.Paragraph {
	x := &typeset.Paragraph{
		Block: b.place(), Role: typeset.Plain, Runs: runs, Size: c.base.size, Greedy: true, Leading: 1.2, Indent: s.left, Right: s.right,
		First: s.first, Before: s.before, After: s.after, Line: s.line, KeepNext: s.keepNext, Whole: s.whole, Loose: s.loose,
		Stops: s.stops,
		Frame: s.frame, Tab: b.tab, Family: b.family(c.base.family), Hyphens: b.hyphens && !s.unparted,
	}
	if s.frame != nil {
		x.Before, x.After = x.Before+ruled(s.frame, 0), x.After+ruled(s.frame, 2)
	}
	switch s.align {
	case "center":
		x.Align = typeset.Center
	case "right", "end":
		x.Align = typeset.End
	case "both", "distribute", "lowKashida", "mediumKashida", "highKashida", "thaiDistribute":
		x.Align = typeset.Justify
	}
	if len(runs) == 0 { // an empty line is as high as its mark
		mark := c.mark
		if mark.size == 0 {
			mark = c.base
		}
		r := mark.run("")
		r.Family, r.Picture = b.family(r.Family), nil
		x.Runs = []typeset.Run{r}
		x.Size = mark.size
	}
	switch {
	case s.outline > 0:
		x.Role = []typeset.Role{typeset.Heading1, typeset.Heading2, typeset.Heading3}[min(s.outline, 3)-1]
		if len(runs) == 0 {
			x.Role = typeset.Plain
		}
	}
	b.numbered(x, s, c)
	return x
}
