package fromword

import (
	"strconv"
	"strings"

	"github.com/beevik/etree"

	"amberseal/core/foreign/word"
	"amberseal/core/print/typeset"
)

// content gathers the runs of a paragraph.
type content struct {
	b       *binder
	base    looks // the paragraph's
	mark    looks // of its mark
	parts   [][]typeset.Run
	columns []bool           // whether the break behind a part is one of columns
	floats  []*typeset.Float // pictures, boxes and shapes that stand beside the words
	fields  []*field
}

// field is one that is open: its code, and whether its result is being read.
type field struct {
	code   string
	result bool
	shown  bool // something was put in its place already
}

func (c *content) add(r typeset.Run) {
	if len(c.parts) == 0 {
		c.parts = [][]typeset.Run{nil}
	}
	i := len(c.parts) - 1
	if n := len(c.parts[i]); n > 0 && r.Picture == nil && r.Counter == typeset.NoCounter {
		last := &c.parts[i][n-1]
		if last.Picture == nil && last.Counter == typeset.NoCounter && alike(*last, r) {
			last.Text += r.Text
			return
		}
	}
	c.parts[i] = append(c.parts[i], r)
}

func alike(a, b typeset.Run) bool {
	a.Text, b.Text = "", ""
	if a.Fill != nil && b.Fill != nil && *a.Fill == *b.Fill {
		a.Fill, b.Fill = nil, nil
	}
	return a == b
}

// text adds words in some looks.
func (c *content) text(s string, l looks, link string) {
	if s == "" || l.hidden || c.coded() {
		return
	}
	r := l.run(s)
	r.Family, r.Link = c.b.family(l.family), link
	if link == "" {
		r.Link = c.address()
	}
	if n := len(c.fields); n > 0 {
		f := c.fields[n-1]
		switch name, _, _ := strings.Cut(strings.TrimSpace(f.code), " "); strings.ToUpper(name) {
		case "PAGE":
			r.Counter = typeset.PageNumber
		case "NUMPAGES", "SECTIONPAGES":
			r.Counter = typeset.PageCount
		}
		if r.Counter != typeset.NoCounter {
			if f.shown {
				return
			}
			f.shown, r.Text = true, "1"
		}
	}
	c.add(r)
}

// coded reports whether the code of a field is being read.
func (c *content) coded() bool {
	for _, f := range c.fields {
		if !f.result {
			return true
		}
	}
	return false
}

// address is where a field around the words leads.
func (c *content) address() string {
	for _, f := range c.fields {
		if rest, ok := strings.CutPrefix(strings.TrimSpace(f.code), "HYPERLINK"); ok && f.result {
			_, quoted, _ := strings.Cut(rest, `"`)
			address, _, ok := strings.Cut(quoted, `"`)
			switch local := strings.Contains(rest[:max(strings.Index(rest, `"`), 0)], `\l`); {
			case ok && local:
				return c.b.within(address)
			case ok:
				return leads(address)
			}
		}
	}
	return ""
}

// leads is an address that a PDF may lead to, or nothing.
func leads(address string) string {
	for _, scheme := range []string{"http://", "https://", "mailto:"} {
		if strings.HasPrefix(strings.ToLower(address), scheme) {
			return address
		}
	}
	return ""
}

// within is a link to a bookmark of the body, or nothing where there is none.
func (b *binder) within(name string) string {
	if name == "" || !b.bookmarks[name] {
		return ""
	}
	return "#" + name
}

// bookmarked are the bookmarks that begin in a paragraph, or just before it.
func bookmarked(p *etree.Element) (names []string) {
	for _, e := range p.SelectElements("w:bookmarkStart") {
		names = append(names, word.Attr(e, "name"))
	}
	if parent := p.Parent(); parent != nil {
		for i := p.Index() - 1; i >= 0; i-- {
			e, ok := parent.Child[i].(*etree.Element)
			if ok && e.Tag != "bookmarkStart" && e.Tag != "bookmarkEnd" {
				break
			}
			if ok && e.Tag == "bookmarkStart" {
				names = append(names, word.Attr(e, "name"))
			}
		}
	}
	return names
}

// walk goes over what stands in a paragraph.
func (c *content) walk(e *etree.Element, l looks, link string) {
	for _, x := range e.ChildElements() {
		if x.Space == "mc" && x.Tag == "AlternateContent" {
			c.alternate(x, l, link)
			continue
		}
		if x.Space == "m" {
			c.b.lacks("fromword.equation")
			for _, t := range x.FindElements(".//m:t") {
				c.text(t.Text(), l, link)
			}
			continue
		}
		if x.Space != "w" {
			continue
		}
		switch x.Tag {
		case "r":
			c.run(x, l, link)
		case "hyperlink":
			to := leads(c.b.file.Address(c.b.part, x.SelectAttrValue("r:id", "")))
			if to == "" {
				to = c.b.within(word.Attr(x, "anchor"))
			}
			c.walk(x, l, to)
		case "fldSimple":
			c.fields = append(c.fields, &field{code: word.Attr(x, "instr"), result: true})
			c.walk(x, l, link)
			c.ended(l, link)
		case "ins", "moveTo", "smartTag", "customXml", "sdtContent", "bdo", "dir":
			c.walk(x, l, link)
		case "sdt":
			if inner := x.SelectElement("w:sdtContent"); inner != nil {
				c.walk(inner, l, link)
			}
		case "object", "pict":
			c.old(x)
		}
	}
}

func (c *content) alternate(x *etree.Element, l looks, link string) {
	for _, e := range x.ChildElements() {
		if e.Tag == "Fallback" || e.Tag == "Choice" && understood(e.SelectAttrValue("Requires", "")) {
			c.inRun(e, l, link)
			return
		}
	}
}

// understood reports whether all names that a choice needs are read here (ISO/IEC 29500-3, 9.3).
func understood(names string) bool {
	for name := range strings.FieldsSeq(names) {
		switch name {
		case "wps", "wpg", "wpc", "wp14", "w14", "w15", "a14":
		default:
			return false
		}
	}
	return true
}

// run reads one run.
func (c *content) run(r *etree.Element, l looks, link string) {
	pr := r.SelectElement("w:rPr")
	if pr != nil {
		if s := c.b.styles[word.Attr(pr.SelectElement("w:rStyle"), "val")]; s != nil {
			c.b.runLooks(&l, s)
		}
		c.b.read(&l, pr)
	}
	c.inRun(r, l, link)
}

func (c *content) inRun(r *etree.Element, l looks, link string) {
	for _, x := range r.ChildElements() {
		if x.Space == "mc" && x.Tag == "AlternateContent" {
			c.alternate(x, l, link)
			continue
		}
		if x.Space != "w" {
			continue
		}
		switch x.Tag {
		case "t":
			c.text(x.Text(), l, link)
		case "tab", "ptab":
			c.text("\t", l, link)
		case "br":
			switch word.Attr(x, "type") {
			case "page", "column":
				if !c.coded() {
					c.columns = append(c.columns, word.Attr(x, "type") == "column")
					if len(c.parts) == 0 {
						c.parts = append(c.parts, nil)
					}
					c.parts = append(c.parts, nil)
				}
			default:
				c.text("\n", l, link)
			}
		case "cr":
			c.text("\n", l, link)
		case "noBreakHyphen":
			c.text("\u2011", l, link)
		case "softHyphen":
			c.text("\u00AD", l, link)
		case "sym":
			if n, err := strconv.ParseUint(word.Attr(x, "char"), 16, 32); err == nil {
				c.text(bullet(string(rune(n))), l, link)
			}
		case "fldChar":
			c.fieldSign(x, l, link)
		case "instrText":
			if n := len(c.fields); n > 0 && !c.fields[n-1].result {
				c.fields[n-1].code += x.Text()
			}
		case "drawing":
			c.drawing(x)
		case "pict", "object":
			c.old(x)
		case "footnoteReference", "endnoteReference":
			c.note(x, l)
		case "footnoteRef", "endnoteRef":
			c.text(c.b.noteMark, l, link)
		}
	}
}

func (c *content) fieldSign(x *etree.Element, l looks, link string) {
	n := len(c.fields)
	switch word.Attr(x, "fldCharType") {
	case "begin":
		c.fields = append(c.fields, &field{})
	case "separate":
		if n > 0 {
			c.fields[n-1].result = true
		}
	case "end":
		if n > 0 {
			c.ended(l, link)
		}
	}
}

// ended closes a field. The number of a page stands there also where the file holds none: programs that write files leave it to who prints.
func (c *content) ended(l looks, link string) {
	last := len(c.fields) - 1
	f := c.fields[last]
	switch name, _, _ := strings.Cut(strings.TrimSpace(f.code), " "); strings.ToUpper(name) {
	case "PAGE", "NUMPAGES", "SECTIONPAGES":
		if !f.shown {
			f.result = true
			c.text("1", l, link)
		}
	}
	c.fields = c.fields[:last]
}

// note puts a number where a note is spoken of; notes stand behind the text.
func (c *content) note(x *etree.Element, l looks) {
	kind := strings.TrimSuffix(x.Tag, "Reference") + "s"
	n := noted{kind, word.Attr(x, "id")}
	l.raised = "superscript"
	if kind == "footnotes" && c.b.boxes == 0 && c.b.part.Root == c.b.file.Body().Root { // a page’s foot belongs to the body
		c.b.footnotes++
		mark := strconv.Itoa(c.b.footnotes)
		c.text(mark, l, "")
		if last := len(c.parts) - 1; last >= 0 && len(c.parts[last]) > 0 {
			c.parts[last][len(c.parts[last])-1].Note = &typeset.Note{Nodes: flowing(c.b.noteNodes(n, mark))}
		}
		return
	}
	c.b.notes = append(c.b.notes, n)
	mark := strings.ToLower(roman(len(c.b.notes)))
	c.text(mark, l, "")
	if kind == "footnotes" {
		c.b.lacks("fromword.footnotes-behind")
	}
}

// picture puts a picture into the line; one that is wider or higher than the room is made to fit.
func (c *content) picture(p *typeset.Picture) {
	if c.coded() {
		return
	}
	if room := c.b.room(); p.Width > room {
		p.Height, p.Width = p.Height*room/p.Width, room
	}
	if high := c.b.page.Height - c.b.page.Top - c.b.page.Bottom - 20; p.Height > high {
		p.Width, p.Height = p.Width*high/p.Height, high
	}
	c.add(typeset.Run{Text: "\uFFFC", Picture: p})
}
