// Package fromword turns a word-processor file into what typeset takes: styles, numbers, tables, sections and pictures become plain
// elements with exact sizes (ISO/IEC 29500-1, WordprocessingML).
//
// In goes a filled file, out come a typeset.Document and findings about what it cannot set. Blocks of the document are named like the
// paragraphs of an inspection, so that what was found can be shown where it landed. Bind may be called by many goroutines at once.
package fromword

import (
	"strconv"
	"strings"

	"github.com/beevik/etree"

	"amberseal/core/foreign/word"
	"amberseal/core/print/typeface"
	"amberseal/core/print/typeset"
	"amberseal/core/words/finding"
)

// Bind makes the document. own are the families that the house has of its own; language is the one that the file does not name.
func Bind(file *word.Filled, own map[string]typeface.Family, language string) (*typeset.Document, finding.List) {
	b := &binder{file: file, own: own, told: map[string]bool{}, lacking: map[string]bool{}, bookmarks: map[string]bool{}, part: file.Body()}
	b.base = looks{size: 10, family: "Times New Roman"}
	b.readTheme(file.Theme())
	b.readNumbers(file.Numbering())
	b.readStyles(file.Styles())
	b.readSettings(file.Settings())
	doc := &typeset.Document{Language: language, Families: own}
	if s := b.language(); s != "" {
		doc.Language = s
	}
	if p := file.Properties(); p != nil {
		if e := p.FindElement("title"); e != nil {
			doc.Title = e.Text()
		}
	}
	body := b.part.Root.SelectElement("w:body")
	b.sections = sectionsOf(body)
	for _, e := range body.FindElements(".//w:bookmarkStart") {
		b.bookmarks[word.Attr(e, "name")] = true
	}
	b.begin(doc)
	b.blocks(body)
	b.behind()
	doc.Body = b.nodes
	return doc, b.findings
}

type binder struct {
	file                *word.Filled
	part                word.Part
	own                 map[string]typeface.Family
	styles              map[string]*style
	usual               map[string]string // the default style of each kind
	base                looks
	basePara            *etree.Element
	major, minor        string
	theme               map[string]string
	numbers             numbers
	tab                 float64
	hyphens, odd, older bool             // whether words are parted, whether even pages differ, whether the file is of an older kind
	added               bool             // room after a paragraph and before the next is added up (17.15.3.21)
	inTable             []*etree.Element // styles of the table at hand
	nested              []float64        // widths of the cells that are being read
	page                typeset.Page
	sections            []*etree.Element // those still to come, the present one first
	running             map[string]typeset.Running
	nodes               []typeset.Node
	at                  string // where the paragraph at hand stood in the file
	told, lacking       map[string]bool
	bookmarks           map[string]bool  // of the body, by name
	floats              []*typeset.Float // frames that wait for their paragraph
	frame               string           // the frame at hand, as the file says it
	notes               []noted          // those that stand behind the text
	footnotes           int              // how many stand at the foot of their page
	boxes, groups       int              // how many text boxes and groups are open
	noteMark            string
	findings            finding.List
}

// noted is a note that the text speaks of.
type noted struct{ kind, id string }

func (b *binder) add(n typeset.Node) { b.nodes = append(b.nodes, n) }

// place is the block of the paragraph at hand.
func (b *binder) place() string { return b.at }

// lacks says once what cannot be set.
func (b *binder) lacks(code string) {
	if !b.lacking[code] {
		b.lacking[code] = true
		b.findings.Notice(b.at, code)
	}
}

// room is the width for text at the place at hand.
func (b *binder) room() float64 {
	if n := len(b.nested); n > 0 {
		return b.nested[n-1]
	}
	return b.page.Width - b.page.Left - b.page.Right
}

func (b *binder) readSettings(root *etree.Element) {
	b.tab, b.older = 36, true
	if root == nil {
		return
	}
	if v, ok := measure(word.Attr(root.SelectElement("w:defaultTabStop"), "val")); ok && v > 1 {
		b.tab = v
	}
	if e := root.SelectElement("w:autoHyphenation"); e != nil {
		b.hyphens = on(e)
	}
	if e := root.FindElement("w:compat/w:doNotUseHTMLParagraphAutoSpacing"); e != nil {
		b.added = on(e)
	}
	if e := root.SelectElement("w:evenAndOddHeaders"); e != nil {
		b.odd = on(e)
	}
	for _, e := range root.FindElements("w:compat/w:compatSetting") {
		if word.Attr(e, "name") == "compatibilityMode" {
			if n, err := strconv.Atoi(word.Attr(e, "val")); err == nil {
				b.older = n < 15
			}
		}
	}
}

// language is the one of the file's usual text.
func (b *binder) language() string {
	root := b.file.Styles()
	if root == nil {
		return ""
	}
	return word.Attr(root.FindElement("w:docDefaults/w:rPrDefault/w:rPr/w:lang"), "val")
}

// blocks goes over the blocks of one level.
func (b *binder) blocks(parent *etree.Element) {
	all := word.Blocks(parent)
	first := len(b.nodes)
	var before *typeset.Paragraph
	styleBefore, contextBefore := "", false
	for _, e := range all {
		switch e.Tag {
		case "p":
			if b.framed(e) {
				before = nil
				continue
			}
			at := len(b.nodes)
			s, _ := b.shaped(e)
			b.paragraph(e)
			for _, n := range b.nodes[at:] {
				if p, ok := n.(*typeset.Paragraph); ok {
					// Between paragraphs of one style there is no room where they ask for none (17.3.1.9).
					if before != nil && s.style == styleBefore {
						if contextBefore {
							before.After = 0
						}
						if s.contextual {
							p.Before = 0
						}
					}
					if before != nil && !b.added { // the larger of the two stands between paragraphs, as on web pages
						p.Before = max(p.Before-before.After, 0)
					}
					before = p
				} else {
					before = nil
				}
			}
			styleBefore, contextBefore = s.style, s.contextual
			if pr := e.SelectElement("w:pPr"); pr != nil && pr.SelectElement("w:sectPr") != nil {
				b.next()
				before = nil
			}
		case "tbl":
			b.table(e)
			before = nil
		default:
			if c := word.Inner(e); c != nil {
				b.blocks(c)
			}
			before = nil
		}
	}
	if len(b.floats) > 0 && len(all) > 0 { // frames at the end have a paragraph of their own
		b.add(&typeset.Paragraph{Role: typeset.Plain, Greedy: true, Size: 1, Leading: 1, Runs: []typeset.Run{{}}, Floats: b.taken()})
	}
	joinFrames(b.nodes[first:])
}

// joinFrames takes the rules out between paragraphs whose frames are the same: they stand in one (17.3.1.24).
func joinFrames(nodes []typeset.Node) {
	for i := 1; i < len(nodes); i++ {
		a, ok := nodes[i-1].(*typeset.Paragraph)
		p, ok2 := nodes[i].(*typeset.Paragraph)
		if !ok || !ok2 || a.Frame == nil || p.Frame == nil || a.Indent != p.Indent || a.Right != p.Right ||
			a.Frame.Edges[3] != p.Frame.Edges[3] || a.Frame.Edges[1] != p.Frame.Edges[1] {
			continue
		}
		fa, fp := *a.Frame, *p.Frame
		a.After -= ruled(&fa, 2)
		p.Before -= ruled(&fp, 0)
		fa.Gaps[2] = a.After + p.Before // the ground goes on between them
		fa.Edges[2], fp.Edges[0], fp.Gaps[0] = typeset.Edge{}, typeset.Edge{}, 0
		a.Frame, p.Frame = &fa, &fp
	}
}

// ruled is the room that a rule of a frame takes above or below the lines.
func ruled(f *typeset.Frame, side int) float64 {
	if f.Edges[side].Width <= 0 {
		return 0
	}
	return f.Edges[side].Width + f.Gaps[side]
}

// inside are the nodes of a cell or box.
func (b *binder) inside(parent *etree.Element) []typeset.Node {
	width := b.room()
	if parent.Tag == "tc" {
		if pr := parent.SelectElement("w:tcPr"); pr != nil {
			if v, ok := measure(word.Attr(pr.SelectElement("w:tcW"), "w")); ok && v > 12 &&
				word.Attr(pr.SelectElement("w:tcW"), "type") == "dxa" {
				width = min(width, v-10)
			}
		}
	}
	before := b.nodes
	b.nodes, b.nested = nil, append(b.nested, width)
	b.blocks(parent)
	out := b.nodes
	b.nodes, b.nested = before, b.nested[:len(b.nested)-1]
	return flowing(out)
}

// flowing leaves out what has no place in a cell.
func flowing(nodes []typeset.Node) []typeset.Node {
	out := nodes[:0]
	for _, n := range nodes {
		switch n.(type) {
		case *typeset.Break, *typeset.Section:
		default:
			out = append(out, n)
		}
	}
	return out
}

// behind sets the notes behind the text.
func (b *binder) behind() {
	if len(b.notes) == 0 {
		return
	}
	b.add(&typeset.Space{Height: 10})
	b.add(&typeset.Rule{Thickness: 0.5, After: 4})
	for i, n := range b.notes {
		for _, node := range b.noteNodes(n, strings.ToLower(roman(i+1))) {
			b.add(node)
		}
	}
}

// noteNodes are the nodes of a note, with its mark.
func (b *binder) noteNodes(n noted, mark string) []typeset.Node {
	part, ok := b.file.Notes(n.kind)
	if !ok {
		return nil
	}
	before, nodes, at, signed := b.part, b.nodes, b.at, b.noteMark
	b.part, b.nodes, b.noteMark = part, nil, mark
	for _, e := range part.Root.ChildElements() {
		if word.Attr(e, "id") == n.id {
			b.blocks(e)
		}
	}
	out := b.nodes
	b.part, b.nodes, b.at, b.noteMark = before, nodes, at, signed
	return out
}
