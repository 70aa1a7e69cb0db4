package word

import (
	"regexp"
	"slices"
	"strconv"
	"strings"

	"github.com/beevik/etree"

	"amberseal/core/ask/form"
	"amberseal/core/foreign/match"
	"amberseal/core/print/paper"
	"amberseal/core/words/phrase"
)

// Turned is a file as blocks of a designed document, as far as they reach.
type Turned struct {
	Blocks         []paper.Block
	Header, Footer phrase.Phrase
	Left           []string // what no block can hold, each with its place
}

// Turn reads a file into blocks: headings, text with its lists, tables of words and of rows, pictures, signatures, codes, with their
// conditions and repetitions.
func (f *File) Turn(names *match.Names, asked form.Form) Turned {
	t := &turner{file: f, names: names, form: asked, headings: f.levels()}
	for _, s := range f.stories {
		root := s.tree.Root()
		switch s.kind {
		case bodyStory:
			t.out.Blocks = t.level(root.SelectElement("w:body"))
		case headerStory:
			t.running(&t.out.Header, root)
		case footerStory:
			t.running(&t.out.Footer, root)
		default:
			if len(blocks(root)) > 0 && len(root.FindElements(".//w:t")) > 0 {
				t.left("notes", nil)
			}
		}
	}
	return t.out
}

type turner struct {
	file     *File
	names    *match.Names
	form     form.Form
	headings map[string]int // level by the style's id
	out      Turned
	number   int
}

// levels are the styles of headings.
func (f *File) levels() map[string]int {
	out := map[string]int{}
	if f.styles == nil {
		return out
	}
	for _, s := range f.styles.Root().SelectElements("w:style") {
		name := strings.ToLower(attr(s.SelectElement("w:name"), "val"))
		level := 0
		if n, ok := strings.CutPrefix(name, "heading "); ok {
			level, _ = strconv.Atoi(n)
			level++ // the title is the first
		}
		if name == "title" {
			level = 1
		}
		if level > 0 {
			out[attr(s, "styleId")] = min(level, 3)
		}
	}
	return out
}

func (t *turner) id(kind paper.BlockKind) string {
	t.number++
	return string(kind) + "-" + strconv.Itoa(t.number)
}

func (t *turner) left(what string, p *etree.Element) {
	if p != nil {
		if at := Place(p); at != "" {
			what += " (" + at + ")"
		}
	}
	if !slices.Contains(t.out.Left, what) {
		t.out.Left = append(t.out.Left, what)
	}
}

// stops part the words of a header, which stand at its left, middle and right.
var stops = regexp.MustCompile(`[\t\n]+`)

// running joins the words of a header or footer.
func (t *turner) running(to *phrase.Phrase, root *etree.Element) {
	for _, p := range root.FindElements(".//w:p") {
		words := t.phrase(readLine(p))
		if len(words) == 0 {
			continue
		}
		if len(*to) > 0 {
			*to = append(*to, phrase.Span{Text: " · "})
		}
		*to = append(*to, words...)
	}
	for i := range *to {
		(*to)[i].Text = stops.ReplaceAllString((*to)[i].Text, " · ")
	}
}

// level reads the blocks of one level; what stands between marks becomes a group of its own.
func (t *turner) level(parent *etree.Element) []paper.Block {
	if parent == nil {
		return nil
	}
	all := blocks(parent)
	regions, _ := amongBlocks(all)
	var out []paper.Block
	for i := 0; i < len(all); i++ {
		at := slices.IndexFunc(regions, func(r region) bool { return r.open.at == i && r.close.at > i })
		if at < 0 {
			out = t.join(out, t.block(all[i]))
			continue
		}
		r := regions[at]
		out = append(out, t.region(all, r)...)
		i = r.close.at
	}
	return out
}

// region makes groups of what stands between two marks: one that holds when the condition does, one for otherwise.
func (t *turner) region(all []*etree.Element, r region) []paper.Block {
	part := func(from, to int) (inside []paper.Block) {
		for i := from + 1; i < to; i++ {
			inside = t.join(inside, t.block(all[i]))
		}
		return inside
	}
	middle := r.close.at
	var otherwise []paper.Block
	if r.other != nil {
		middle = r.other.at
		otherwise = part(r.other.at, r.close.at)
	}
	first := part(r.open.at, middle)
	switch r.open.verb {
	case when:
		out := t.group(first, r.open.name, "")
		if len(otherwise) > 0 {
			out = append(out, t.group(otherwise, "not ("+r.open.name+")", "")...)
		}
		return out
	default:
		m, _ := t.names.Find(r.open.name)
		return t.group(first, "", m.Field())
	}
}

func (t *turner) group(inside []paper.Block, condition, each string) []paper.Block {
	if len(inside) == 0 {
		return nil
	}
	if len(inside) == 1 && inside[0].When == "" && inside[0].Each == "" {
		inside[0].When, inside[0].Each = condition, each
		return inside
	}
	return []paper.Block{{ID: t.id(paper.Group), Kind: paper.Group, When: condition, Each: each, Settings: paper.Settings{Blocks: inside}}}
}

// join adds blocks; paragraphs of text that follow each other are one.
func (t *turner) join(out, more []paper.Block) []paper.Block {
	for _, b := range more {
		if n := len(out); n > 0 && b.Kind == paper.Text && out[n-1].Kind == paper.Text && out[n-1].When == "" && out[n-1].Each == "" &&
			b.When == "" {
			out[n-1].Body = append(out[n-1].Body, b.Body...)
			continue
		}
		out = append(out, b)
	}
	return out
}

func (t *turner) block(e *etree.Element) []paper.Block {
	switch e.Tag {
	case "p":
		return t.paragraph(e)
	case "tbl":
		return t.table(e)
	}
	if c := inner(e); c != nil {
		return t.level(c)
	}
	return nil
}

func (t *turner) paragraph(p *etree.Element) []paper.Block {
	var out []paper.Block
	if p.FindElement(".//w:br[@w:type='page']") != nil {
		out = append(out, paper.Block{ID: t.id(paper.PageBreak), Kind: paper.PageBreak})
	}
	l := readLine(p)
	marks := l.marks()
	if len(marks) == 1 && strings.TrimSpace(l.text[:marks[0].start]+l.text[marks[0].end:]) == "" {
		if b, ok := t.alone(marks[0]); ok {
			return append(out, b)
		}
	}
	for _, d := range drawings(p) {
		pr := d.FindElement(".//wp:docPr")
		if pr != nil {
			if m, ok := described(pr); ok {
				if b, ok := t.alone(m); ok {
					out = append(out, b)
					continue
				}
			}
		}
		t.left("a picture", p)
	}
	for range boxes(p) {
		t.left("a text box", p)
	}
	words := t.phrase(l)
	if len(words) == 0 {
		return out
	}
	pr := p.SelectElement("w:pPr")
	style := ""
	if pr != nil {
		style = attr(pr.SelectElement("w:pStyle"), "val")
	}
	if level := t.headings[style]; level > 0 {
		return append(out, paper.Block{ID: t.id(paper.Heading), Kind: paper.Heading, Settings: paper.Settings{Level: level, Text: words}})
	}
	x := phrase.Paragraph{Spans: words}
	x.List, x.Depth = t.list(pr, style)
	if pr != nil {
		x.Align = alignments[attr(pr.SelectElement("w:jc"), "val")]
	}
	return append(out, paper.Block{ID: t.id(paper.Text), Kind: paper.Text, Settings: paper.Settings{Body: phrase.Body{x}}})
}

// alignments of paragraphs (17.18.44), by the names that blocks have for them.
var alignments = map[string]string{"center": "center", "right": "end", "end": "end", "both": "justify"}

// list is which kind of list a paragraph is an item of.
func (t *turner) list(pr *etree.Element, style string) (kind string, depth int) {
	var numbered *etree.Element
	if pr != nil {
		numbered = pr.SelectElement("w:numPr")
	}
	if numbered == nil && !t.file.listStyles[style] {
		return "", 0
	}
	kind = "bullet"
	if numbered != nil {
		depth, _ = strconv.Atoi(attr(numbered.SelectElement("w:ilvl"), "val"))
		if t.format(attr(numbered.SelectElement("w:numId"), "val"), depth) != "bullet" {
			kind = "number"
		}
	} else if strings.Contains(strings.ToLower(style), "number") {
		kind = "number"
	}
	return kind, min(depth, 3)
}

// format is how a list counts at a depth.
func (t *turner) format(id string, depth int) string {
	if t.file.numbering == nil {
		return "bullet"
	}
	root := t.file.numbering.Root()
	for _, n := range root.SelectElements("w:num") {
		if attr(n, "numId") != id {
			continue
		}
		of := attr(n.SelectElement("w:abstractNumId"), "val")
		for _, a := range root.SelectElements("w:abstractNum") {
			if attr(a, "abstractNumId") != of {
				continue
			}
			for _, l := range a.SelectElements("w:lvl") {
				if attr(l, "ilvl") == strconv.Itoa(depth) {
					return attr(l.SelectElement("w:numFmt"), "val")
				}
			}
		}
	}
	return "bullet"
}

// alone makes a block of a placeholder that stands alone in its paragraph and is no words.
func (t *turner) alone(m mark) (paper.Block, bool) {
	found, _ := t.names.Find(m.name)
	x, ok := t.form.Field(found.Field())
	switch {
	case m.verb == all:
		return paper.Block{ID: t.id(paper.Answers), Kind: paper.Answers}, true
	case m.verb == encode:
		return paper.Block{ID: t.id(paper.Code), Kind: paper.Code, Settings: paper.Settings{
			Text: t.words(found, mark{name: m.name}), Width: size(m.how, usualCode),
		}}, true
	case m.verb != put || !ok:
		return paper.Block{}, false
	case x.Kind == form.Rows:
		return paper.Block{ID: t.id(paper.Lines), Kind: paper.Lines, Settings: paper.Settings{Rows: x.Key}}, true
	case x.Kind == form.Signature:
		return paper.Block{ID: t.id(paper.Signature), Kind: paper.Signature, Settings: paper.Settings{Field: found.Field()}}, true
	case x.Kind == form.Photo:
		return paper.Block{ID: t.id(paper.Picture), Kind: paper.Picture, Settings: paper.Settings{
			Field: found.Field(), Width: size(m.how, usualPicture),
		}}, true
	}
	return paper.Block{}, false
}

// words are what stands for a placeholder; a name without a field stays as it is written.
func (t *turner) words(found match.Match, m mark) phrase.Phrase {
	switch {
	case found.Formula != "":
		t.left("the formula “"+found.Formula+"” in words", nil)
		return nil
	case len(found.Words) == 0:
		return phrase.Phrase{{Text: "[" + m.name + "]"}}
	}
	return slices.Clone(found.As(m.how).Words)
}

// phrase are the words of a line with its looks, placeholders and conditions.
func (t *turner) phrase(l line) phrase.Phrase {
	var out phrase.Phrase
	marks := l.marks()
	regions, _ := l.inLine()
	condition := func(at int) string {
		for _, r := range regions {
			if r.open.verb != when || at < r.open.end || at >= r.close.start {
				continue
			}
			if r.other != nil && at >= r.other.start {
				return "not (" + r.open.name + ")"
			}
			return r.open.name
		}
		return ""
	}
	add := func(s phrase.Span) {
		if n := len(out); n > 0 && s.Field == "" && out[n-1].Field == "" && out[n-1].Style == s.Style && out[n-1].When == s.When {
			out[n-1].Text += s.Text
			return
		}
		out = append(out, s)
	}
	plain := func(from, to int) {
		for _, x := range l.pieces {
			a, b := max(from, x.start), min(to, x.start+len(x.text))
			if a >= b || x.text == object {
				continue
			}
			for a < b { // a condition may begin inside of a piece
				end := b
				for _, m := range marks {
					if m.start > a && m.start < end {
						end = m.start
					}
				}
				add(phrase.Span{Text: x.text[a-x.start : end-x.start], Style: looksOf(x.e), When: condition(a)})
				a = end
			}
		}
	}
	at := 0
	for _, m := range marks {
		plain(at, m.start)
		at = m.end
		if m.verb != put {
			continue
		}
		found, _ := t.names.Find(m.name)
		for _, s := range t.words(found, m) {
			s.When = condition(m.start)
			if s.Field == "" {
				s.Style = phrase.Style{}
			}
			add(s)
		}
	}
	plain(at, len(l.text))
	return trimmed(out)
}

// trimmed is a phrase without blanks at its ends, or nothing where nothing else is in it.
func trimmed(p phrase.Phrase) phrase.Phrase {
	if len(p) > 0 && p[0].Field == "" {
		p[0].Text = strings.TrimLeft(p[0].Text, " \t\n")
	}
	if n := len(p); n > 0 && p[n-1].Field == "" {
		p[n-1].Text = strings.TrimRight(p[n-1].Text, " \t\n")
	}
	return slices.DeleteFunc(p, func(s phrase.Span) bool { return s.Field == "" && s.Text == "" })
}

// looksOf are the looks that a run has of its own.
func looksOf(e *etree.Element) phrase.Style {
	run := runOf(e)
	if run == nil {
		return phrase.Style{}
	}
	pr := run.SelectElement("w:rPr")
	on := func(tag string) bool {
		x := (*etree.Element)(nil)
		if pr != nil {
			x = pr.SelectElement("w:" + tag)
		}
		return x != nil && !slices.Contains([]string{"0", "false", "none"}, attr(x, "val"))
	}
	return phrase.Style{Bold: on("b"), Italic: on("i"), Underline: on("u"), Strike: on("strike"), SmallCaps: on("smallCaps")}
}
