package fromword

import (
	"strconv"
	"strings"

	"github.com/beevik/etree"
	"github.com/go-text/typesetting/font"

	"amberseal/core/foreign/word"
	"amberseal/core/print/typeface"
	"amberseal/core/print/typeset"
)

// level is one of a list's levels (17.9.6).
type level struct {
	format, text, suffix, align string
	start                       int
	legal                       bool // all numbers of the text in figures
	pPr, rPr                    *etree.Element
	restart                     int // after which level it begins anew; -1 for any higher one
}

// list is an abstract numbering.
type list struct {
	levels map[string]*level
	counts [9]int
	begun  [9]bool
}

// numbers are the file's numberings.
type numbers struct {
	lists  map[string]*list             // by abstract id
	of     map[string]string            // abstract id by number id
	own    map[string]map[string]*level // levels that a numbering has of its own
	starts map[string]map[int]int       // by number id and level: where it begins, once
	used   map[string]bool
}

func (b *binder) readNumbers(root *etree.Element) {
	b.numbers = numbers{map[string]*list{}, map[string]string{}, map[string]map[string]*level{}, map[string]map[int]int{},
		map[string]bool{}}
	if root == nil {
		return
	}
	linked := map[string]string{} // abstract id by the style that it is
	links := map[string]string{}
	for _, a := range root.SelectElements("w:abstractNum") {
		id := word.Attr(a, "abstractNumId")
		l := &list{levels: map[string]*level{}}
		for _, e := range a.SelectElements("w:lvl") {
			l.levels[word.Attr(e, "ilvl")] = readLevel(e)
		}
		b.numbers.lists[id] = l
		if s := word.Attr(a.SelectElement("w:styleLink"), "val"); s != "" {
			linked[s] = id
		}
		if s := word.Attr(a.SelectElement("w:numStyleLink"), "val"); s != "" {
			links[id] = s
		}
	}
	for id, s := range links {
		if of, ok := linked[s]; ok {
			b.numbers.lists[id] = b.numbers.lists[of]
		}
	}
	for _, n := range root.SelectElements("w:num") {
		id := word.Attr(n, "numId")
		b.numbers.of[id] = word.Attr(n.SelectElement("w:abstractNumId"), "val")
		for _, o := range n.SelectElements("w:lvlOverride") {
			at := word.Attr(o, "ilvl")
			if e := o.SelectElement("w:lvl"); e != nil {
				if b.numbers.own[id] == nil {
					b.numbers.own[id] = map[string]*level{}
				}
				b.numbers.own[id][at] = readLevel(e)
			}
			if v, err := strconv.Atoi(word.Attr(o.SelectElement("w:startOverride"), "val")); err == nil {
				if b.numbers.starts[id] == nil {
					b.numbers.starts[id] = map[int]int{}
				}
				if i, err := strconv.Atoi(at); err == nil {
					b.numbers.starts[id][i] = v
				}
			}
		}
	}
}

func readLevel(e *etree.Element) *level {
	l := &level{
		format: word.Attr(e.SelectElement("w:numFmt"), "val"), text: word.Attr(e.SelectElement("w:lvlText"), "val"), start: 1,
		suffix: word.Attr(e.SelectElement("w:suff"), "val"), align: word.Attr(e.SelectElement("w:lvlJc"), "val"),
		pPr: e.SelectElement("w:pPr"), rPr: e.SelectElement("w:rPr"), restart: -1,
	}
	if v, err := strconv.Atoi(word.Attr(e.SelectElement("w:start"), "val")); err == nil {
		l.start = v
	}
	if v, err := strconv.Atoi(word.Attr(e.SelectElement("w:lvlRestart"), "val")); err == nil {
		l.restart = v
	}
	if x := e.SelectElement("w:isLgl"); x != nil {
		l.legal = on(x)
	}
	return l
}

// at is the level of a numbering.
func (n numbers) at(num, ilvl string) *level {
	if l := n.own[num][ilvl]; l != nil {
		return l
	}
	if l := n.lists[n.of[num]]; l != nil {
		return l.levels[ilvl]
	}
	return nil
}

// next counts on and gives the mark of the next paragraph of a level.
func (n numbers) next(num, ilvl string) (*level, string) {
	l, lvl := n.lists[n.of[num]], n.at(num, ilvl)
	at, err := strconv.Atoi(ilvl)
	if l == nil || lvl == nil || err != nil || at < 0 || at > 8 {
		return nil, ""
	}
	if !n.used[num] {
		n.used[num] = true
		for i, v := range n.starts[num] {
			if i >= 0 && i < 9 {
				l.counts[i], l.begun[i] = v-1, true
			}
		}
	}
	for i := range at { // higher levels that were passed over count as begun
		if higher := n.at(num, strconv.Itoa(i)); higher != nil && !l.begun[i] {
			l.counts[i], l.begun[i] = higher.start, true
		}
	}
	if !l.begun[at] {
		l.counts[at], l.begun[at] = lvl.start-1, true
	}
	l.counts[at]++
	for i := at + 1; i < 9; i++ {
		if lower := n.at(num, strconv.Itoa(i)); lower == nil || lower.restart != 0 && (lower.restart < 0 || at < lower.restart) {
			l.begun[i] = false
		}
	}
	if lvl.format == "bullet" {
		return lvl, bullet(lvl.text)
	}
	var out strings.Builder
	for i := 0; i < len(lvl.text); i++ {
		if lvl.text[i] == '%' && i+1 < len(lvl.text) && lvl.text[i+1] >= '1' && lvl.text[i+1] <= '9' {
			k := int(lvl.text[i+1] - '1')
			format := "decimal"
			if of := n.at(num, strconv.Itoa(k)); of != nil && !(lvl.legal && k != at) {
				format = of.format
			}
			if lvl.legal {
				format = "decimal"
			}
			out.WriteString(counted(l.counts[k], format))
			i++
			continue
		}
		out.WriteByte(lvl.text[i])
	}
	return lvl, out.String()
}

// bullet is a mark in a face that is here: files name those of symbol fonts by private numbers.
func bullet(s string) string {
	var out strings.Builder
	for _, r := range s {
		switch {
		case r == 0xF0A7 || r == 0xF06E:
			r = '▪'
		case r == 0xF0D8:
			r = '➢'
		case r == 0xF0FC:
			r = '✓'
		case r == 0xF076:
			r = '❖'
		case r == 0xF0E8 || r == 0xF0E0:
			r = '→'
		case r == 0xF0A8:
			r = '□'
		case r >= 0xF000 && r <= 0xF0FF:
			r = '•'
		}
		out.WriteRune(r)
	}
	return out.String()
}

// counted writes a number (17.18.59); kinds that are rare are written in figures.
func counted(n int, format string) string {
	switch format {
	case "lowerLetter", "upperLetter":
		if n < 1 {
			return strconv.Itoa(n)
		}
		s := strings.Repeat(string(rune('a'+(n-1)%26)), min((n-1)/26+1, 20))
		if format == "upperLetter" {
			return strings.ToUpper(s)
		}
		return s
	case "lowerRoman":
		return strings.ToLower(roman(n))
	case "upperRoman":
		return roman(n)
	case "decimalZero":
		if n < 10 {
			return "0" + strconv.Itoa(n)
		}
	case "ordinal":
		return strconv.Itoa(n) + "."
	case "none":
		return ""
	}
	return strconv.Itoa(n)
}

func roman(n int) string {
	if n < 1 || n > 3999 {
		return strconv.Itoa(n)
	}
	var out strings.Builder
	for _, x := range []struct {
		n int
		s string
	}{{1000, "M"}, {900, "CM"}, {500, "D"}, {400, "CD"}, {100, "C"}, {90, "XC"}, {50, "L"}, {40, "XL"}, {10, "X"}, {9, "IX"}, {5, "V"},
		{4, "IV"},
		{1, "I"}} {
		for n >= x.n {
			out.WriteString(x.s)
			n -= x.n
		}
	}
	return out.String()
}

// numbered puts the mark of a list before a paragraph: as the mark of an item, or as the first words of a heading.
func (b *binder) numbered(x *typeset.Paragraph, s shape, c *content) {
	if s.num == "" || s.num == "0" {
		return
	}
	lvl, text := b.numbers.next(s.num, s.level)
	if lvl == nil || text == "" {
		return
	}
	l := c.base
	if c.mark.size > 0 {
		l = c.mark
	}
	l.underline = false
	b.read(&l, lvl.rPr)
	if lvl.format == "bullet" { // faces of symbols are not here; the mark was put into one that is
		l.family = c.base.family
	}
	mark := l.run(text)
	mark.Family = b.family(l.family)
	wide := width(mark)
	begin := s.left + s.first
	switch lvl.align {
	case "right", "end":
		begin -= wide
	case "center":
		begin -= wide / 2
	}
	words := begin + wide
	switch lvl.suffix {
	case "nothing":
	case "space":
		words += l.size * 0.25
	default:
		words = b.afterMark(x, s, begin+wide)
	}
	if x.Role != typeset.Plain {
		x.Runs = append([]typeset.Run{mark, {Text: "\t", Size: mark.Size, Family: mark.Family}}, x.Runs...)
		if lvl.suffix == "nothing" || lvl.suffix == "space" {
			x.Runs[1].Text = strings.Repeat(" ", len(lvl.suffix)/5%2) // “space” has five letters
		} else {
			x.Stops = append([]typeset.TabStop{{At: words}}, x.Stops...)
		}
		return
	}
	x.Role, x.Marker, x.Mark, x.Begin, x.First = typeset.ListItem, text, &mark, begin, words-s.left
	if n, err := strconv.Atoi(s.level); err == nil {
		x.Depth = n
	}
}

// afterMark is where words begin behind a mark and its tab: at the paragraph's edge, or at the next stop.
func (b *binder) afterMark(x *typeset.Paragraph, s shape, end float64) float64 {
	for _, t := range x.Stops {
		if t.At > end && (t.At < s.left || s.left <= end) {
			return t.At
		}
	}
	if s.left > end {
		return s.left
	}
	n := 0.0
	for n <= end {
		n += b.tab
	}
	return n
}

// width is how wide a run is in its face.
func width(r typeset.Run) float64 {
	f := typeface.Primary(r.Family, r.Style)
	face := font.NewFace(f.Font)
	w := 0.0
	for _, c := range r.Text {
		if g, ok := f.Font.NominalGlyph(c); ok {
			w += float64(face.HorizontalAdvance(g)) / float64(f.Upem) * r.Size
		} else {
			w += r.Size / 2
		}
	}
	return w
}
