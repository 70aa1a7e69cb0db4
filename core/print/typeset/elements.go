package typeset

import (
	"slices"
	"strings"
	"unicode"

	"amberseal/core/print/typeset/bidi"
)

// lists are the open lists of a place, the outermost first.
type lists []openList

type openList struct {
	list *Element
	body *Element // of its last item
}

// item begins a list item at a depth and gives the elements of its mark and of its words. A list inside another lies in
// the body of the item before it (ISO 32000-1 section 14.8.4.3.3); marks and numbers do not share a list.
func (l *lists) item(parent *Element, depth int, numbered bool) (label, body *Element) {
	depth = min(depth, len(*l))
	*l = (*l)[:min(len(*l), depth+1)]
	if len(*l) == depth+1 && (*l)[depth].list.Numbered != numbered {
		*l = (*l)[:depth]
	}
	if len(*l) == depth {
		up := parent
		if depth > 0 {
			up = (*l)[depth-1].body
		}
		list := up.add("L")
		list.Numbered = numbered
		*l = append(*l, openList{list: list})
	}
	last := &(*l)[depth]
	item := last.list.add("LI")
	label = item.add("Lbl")
	last.body = item.add("LBody")
	return label, last.body
}

// leaves give the element of a piece of a paragraph's lines.
type leaves func(*piece) *Element

// leaf makes the elements of a paragraph that is about to be drawn at x and the present y; what it gives knows the one
// of each piece. It sets a list item's mark and notes headings for the outline.
func (f *flow) leaf(p *Paragraph, parent *Element, l *lists, x, width float64) leaves {
	for _, name := range p.Names {
		if f.out.Names == nil {
			f.out.Names = map[string]Spotted{}
		}
		f.out.Names[name] = Spotted{f.page(), f.y}
	}
	if p.Role == ListItem {
		label, body := l.item(parent, p.Depth, strings.ContainsFunc(p.Marker, unicode.IsDigit))
		f.marker(p, label, x, width)
		return f.leafOf(body, p)
	}
	*l = nil
	if heading(p) && parent != nil && !parent.artifact {
		f.out.Outline = append(f.out.Outline, Heading{int(p.Role[1] - '0'), plainText(p.Runs), f.page(), f.y})
	}
	return f.leafOf(parent.add(string(p.Role)), p)
}

// leafOf gives a paragraph of plain words one element; one with links, or with words in another script, has a span or a link
// for each stretch of them.
func (f *flow) leafOf(e *Element, p *Paragraph) leaves {
	links := slices.ContainsFunc(p.Runs, func(r Run) bool { return r.Link != "" || r.Picture != nil })
	if !links && !f.speaks(p) {
		return func(*piece) *Element { return e }
	}
	made := make([]*Element, len(p.Runs))
	var last *Element
	run, lang := -1, ""
	return func(x *piece) *Element {
		switch {
		case p.Runs[x.run].Picture != nil:
			figure := e.add("Figure")
			figure.Alt, figure.Page, run = p.Runs[x.run].Picture.Alt, f.page(), -1
			return figure
		case p.Runs[x.run].Link != "": // a link that goes on over lines stays one
			if made[x.run] == nil {
				made[x.run] = e.add("Link")
			}
			last, run = made[x.run], -1
		case run >= 0 && lang == x.lang && (run == x.run || !links):
			run = x.run
		default:
			last = e.add("Span")
			last.Lang, run, lang = x.lang, x.run, x.lang
		}
		return last
	}
}

// markRoom is how far before an item's words its mark begins, markGap the least that a wide one leaves free.
const markRoom, markGap = 14, 4

// marker sets a list item's mark in its indent, on the line that comes next: before the words, which for those that run to
// the left is on the right.
func (f *flow) marker(p *Paragraph, label *Element, x, width float64) {
	mark := *p
	mark.Role, mark.Runs, mark.Indent, mark.Align = Plain, []Run{{Text: p.Marker, Colour: p.Runs[0].Colour}}, 0, Start
	if p.Mark != nil {
		mark.Runs[0] = *p.Mark
		mark.Runs[0].Text = p.Marker
	}
	if p.Greedy {
		f.hanging(p, &mark, label, x, width)
		return
	}
	wide := f.lines(&mark, width)[0].width
	room := max(min(markRoom, p.Indent), wide+markGap)
	at := x + p.Indent - room
	if bidi.Base([]rune(plainText(p.Runs))) == 1 {
		const rightToLeft = "\u200F" // a number has no direction of its own
		mark.Runs[0].Text = rightToLeft + p.Marker
		at = x + width - p.Indent
	}
	f.line(f.lines(&mark, room)[0], &mark, at, func(*piece) *Element { return label })
}

// line draws one line with its top at the present y.
func (f *flow) line(l line, p *Paragraph, x float64, leaf leaves) {
	s := f.sheet()
	base := f.y + l.ascent
	for i := range l.pieces {
		piece := &l.pieces[i]
		g := piece.glyphs
		r := p.Runs[piece.run]
		g.X, g.Y = x+piece.x, base-r.Rise
		if leaf != nil {
			g.Element = leaf(piece)
		}
		if p.Greedy && f.adorn(&g, &r, p, l, base) {
			continue
		}
		if r.Underline || r.Link != "" && r.Link[0] != '#' {
			s.Items = append(s.Items, &Box{X: g.X, Y: base + g.Size*0.12, W: g.Width, H: g.Size * 0.05, Colour: g.Colour})
		}
		s.Items = append(s.Items, &g)
		if r.Strike {
			s.Items = append(s.Items, &Box{X: g.X, Y: base - g.Size*0.27, W: g.Width, H: g.Size * 0.05, Colour: g.Colour})
		}
		if r.Link != "" && g.Element != nil && !g.Element.artifact {
			s.Links = append(s.Links, Link{g.Element, g.X, f.y, g.Width, l.height, r.Link, r.Text})
		}
	}
}
