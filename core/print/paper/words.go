package paper

import (
	"math"
	"slices"
	"strconv"

	"amberseal/core/print/typeface"
	"amberseal/core/print/typeset"
	"amberseal/core/words/phrase"
)

// runs are bound words.
type runs []phrase.Run

// plain are words in the look of their place.
func plain(words string) runs { return runs{{Text: words}} }

func (r runs) bold() runs {
	for i := range r {
		r[i].Bold = true
	}
	return r
}

func (r runs) italic() runs {
	for i := range r {
		r[i].Italic = true
	}
	return r
}

// isolated keeps answers from ordering the words around them (UAX 9, 2.4.2): where one is written from right to left, each that stands
// among other words is an isolate, so that the paragraph runs as its design does. An answer that stands alone runs as it does itself.
func (r runs) isolated() runs {
	if len(r) < 2 || !slices.ContainsFunc(r, func(x phrase.Run) bool { return x.From != "" && phrase.RightToLeft(x.Text) }) {
		return r
	}
	out := slices.Clone(r)
	for i := range out {
		if out[i].From != "" && out[i].Text != "" {
			out[i].Text = "\u2068" + out[i].Text + "\u2069"
		}
	}
	return out
}

func (b *binder) paragraph(block string, role typeset.Role, words runs, size float64, c typeset.Colour) *typeset.Paragraph {
	p := &typeset.Paragraph{Block: block, Role: role, Family: b.family, Size: size, Leading: b.style.leading}
	words = words.isolated()
	p.Runs = make([]typeset.Run, 0, max(len(words), 1))
	for _, r := range words {
		t := typeset.Run{
			Text: r.Text, Style: typeface.Style{Bold: r.Bold, Italic: r.Italic}, Colour: c, Size: r.Size,
			Underline: r.Underline, Strike: r.Strike, SmallCaps: r.SmallCaps, Link: r.Link,
		}
		switch {
		case r.Counter == "page":
			t.Counter = typeset.PageNumber
		case r.Counter == "pages":
			t.Counter = typeset.PageCount
		case r.Unknown:
			t.Colour, t.Style.Bold = unknown, true
		case r.Colour != "":
			t.Colour = colour(r.Colour)
		case r.Link != "":
			t.Colour = linkInk
		}
		p.Runs = append(p.Runs, t)
	}
	if len(p.Runs) == 0 {
		p.Runs = []typeset.Run{{Colour: c}}
	}
	return p
}

var linkInk = typeset.Colour{R: 0x1F, G: 0x4F, B: 0x8A}

func (b *binder) heading(block string, level int, words runs, a typeset.Align) {
	level = min(max(level, 1), 3)
	look := b.style.headings[level-1]
	c := b.words
	if b.style.plainHeading || b.style.inkTitle && level == 1 {
		c = b.ink
	}
	p := b.paragraph(block, typeset.Role("H"+strconv.Itoa(level)), words.bold(), look.size, c)
	if b.style.inkTitle && level == 1 { // the number is read, but does not shout
		for i, r := range words {
			if r.From == "@number" {
				p.Runs[i].Style.Bold, p.Runs[i].Colour = false, softInk
			}
		}
	}
	p.Leading, p.Before, p.After, p.KeepNext, p.Align = 1.2, look.before, look.after, true, a
	high := p.Before + look.size*p.Leading + p.After
	p.After += math.Ceil(high/b.grid())*b.grid() - high // what follows stands on the grid again
	b.shared.heading = ""
	for _, r := range words {
		b.shared.heading += r.Text
	}
	if name := b.listHeading(level, b.shared.heading); name != "" {
		p.Names = []string{name}
	}
	b.add(p)
}

// grid is half a line of text: paragraphs, rows and headings take whole numbers of it, so that words beside each other share their lines.
func (b *binder) grid() float64 { return b.style.text * b.style.leading / 2 }

// labelFamily is that of small words beside others.
const labelFamily = "IBM Plex Sans"

// label sets small words over what they name: capitals, a little apart.
func (b *binder) label(block, words string, c typeset.Colour) *typeset.Paragraph {
	p := b.paragraph(block, typeset.Plain, plain(words).bold(), 1, c)
	b.asLabel(p)
	return p
}

// asLabel sets a paragraph as a label is.
func (b *binder) asLabel(p *typeset.Paragraph) {
	const size, leading, apart = 6.8, 9.0, 0.09
	p.Size, p.Family, p.Leading = b.style.fixed(size), labelFamily, leading/size
	for i := range p.Runs {
		p.Runs[i].Caps, p.Runs[i].Spacing = true, p.Size*apart
	}
}

// listIndent is how far a list is set in from what holds it, in points.
const listIndent = 18

// body prints paragraphs and lists. Numbers count anew in each list: a list goes on over the lists inside it, and ends
// where plain words stand.
func (b *binder) body(block string, body phrase.Body) {
	var numbers [mostDepth]int
	for i, para := range body {
		words := para.Spans.Bind(b.facts)
		if len(words) == 0 && len(para.Spans) > 0 {
			continue // all of it stands there only on a condition that does not hold, or is an empty answer
		}
		role := typeset.Plain
		if para.List != "" {
			role = typeset.ListItem
		}
		p := b.paragraph(block, role, words, b.style.text, b.ink)
		p.After, p.Align, p.Running = b.grid(), align(para.Align), true
		if p.Align == typeset.Start || p.Align == typeset.Justify {
			p.Most = measure * b.style.text
		}
		p.Hyphens = p.Align == typeset.Justify || b.doc.Page.Type != nil && b.doc.Page.Type.Hyphens
		depth := min(max(para.Depth, 0), mostDepth-1)
		switch para.List {
		case "bullet":
			p.Marker = [mostDepth]string{"•", "–", "·"}[depth]
		case "number":
			numbers[depth]++
			p.Marker = ordinal(numbers[depth], depth)
		}
		if para.List == "" {
			depth = -1
		} else {
			p.Depth, p.Indent = depth, listIndent*float64(depth+1)
			if i+1 < len(body) && body[i+1].List != "" {
				p.After = 2.5
			}
		}
		for deeper := depth + 1; deeper < mostDepth; deeper++ {
			numbers[deeper] = 0
		}
		if para.List == "bullet" {
			numbers[depth] = 0
		}
		b.add(p)
	}
}

// measure is how long the lines of text are at most, in ems: some 75 characters, beyond which eyes lose the next line (common practice).
const measure = 37

// mostDepth is how deep lists lie in each other.
const mostDepth = 3

// ordinal counts with figures, letters, and small Roman figures from the outside in.
func ordinal(n, depth int) string {
	switch depth {
	case 1:
		letters := ""
		for ; n > 0; n = (n - 1) / 26 {
			letters = string(rune('a'+(n-1)%26)) + letters
		}
		return letters + "."
	case 2:
		roman := ""
		for _, r := range []struct {
			value int
			sign  string
		}{{1000, "m"}, {900, "cm"}, {500, "d"}, {400, "cd"}, {100, "c"}, {90, "xc"}, {50, "l"}, {40, "xl"}, {10, "x"}, {9, "ix"},
			{5, "v"}, {4, "iv"}, {1, "i"}} {
			for ; n >= r.value; n -= r.value {
				roman += r.sign
			}
		}
		return roman + "."
	}
	return strconv.Itoa(n) + "."
}
