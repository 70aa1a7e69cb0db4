package word

import (
	"strings"

	"github.com/beevik/etree"

	"amberseal/core/ask/form"
	"amberseal/core/foreign/match"
)

// mergeName is the name in the code of a field that stands for a value: MERGEFIELD or DOCPROPERTY (ISO/IEC 29500-1, 17.16.5).
func mergeName(instruction string) string {
	words := strings.Fields(instruction)
	if len(words) < 2 || !strings.EqualFold(words[0], "MERGEFIELD") && !strings.EqualFold(words[0], "DOCPROPERTY") {
		return ""
	}
	if rest := strings.TrimSpace(instruction[strings.Index(instruction, words[0])+len(words[0]):]); strings.HasPrefix(rest, `"`) {
		name, _, _ := strings.Cut(rest[1:], `"`)
		return name
	}
	return words[1]
}

// usualProperties are those that every file has; they are no questions.
var usualProperties = []string{"title", "author", "subject", "keywords", "comments", "category", "company", "manager", "lastsavedby",
	"pages"}

// complexField is a field whose code and result lie between marks in runs (17.16.18).
type complexField struct {
	code             string
	begin, sep, last *etree.Element // the fldChar elements; sep may be nil
}

// complexFields are those of a paragraph that begin and end in it, the inner ones first.
func complexFields(p *etree.Element) []complexField {
	var out []complexField
	var open []complexField
	var walk func(e *etree.Element)
	walk = func(e *etree.Element) {
		for _, c := range e.ChildElements() {
			switch {
			case c.Tag == "txbxContent":
			case c.Space == "w" && c.Tag == "instrText":
				if n := len(open); n > 0 && open[n-1].sep == nil {
					open[n-1].code += c.Text()
				}
			case c.Space == "w" && c.Tag == "fldChar":
				n := len(open)
				switch attr(c, "fldCharType") {
				case "begin":
					open = append(open, complexField{begin: c})
				case "separate":
					if n > 0 {
						open[n-1].sep = c
					}
				case "end":
					if n > 0 {
						open[n-1].last = c
						out = append(out, open[n-1])
						open = open[:n-1]
					}
				}
			default:
				walk(c)
			}
		}
	}
	walk(p)
	return out
}

// fields fills the fields of a paragraph that stand for a value, and the controls in its line.
func (w *filler) fields(p *etree.Element) {
	for _, f := range complexFields(p) {
		if name := mergeName(f.code); name != "" {
			if text, ok := w.known(name); ok {
				f.set(text)
			}
		}
	}
	for _, e := range p.FindElements(".//w:fldSimple") {
		if name := mergeName(attr(e, "instr")); name != "" {
			if text, ok := w.known(name); ok {
				setSimple(e, text)
			}
		}
	}
	for _, e := range p.FindElements(".//w:sdt") {
		w.control(e)
	}
}

// known is the text for a name that somebody else's tool has made, where it has a match and is not left so.
func (w *filler) known(name string) (string, bool) {
	if m, how := w.with.Names.Find(name); how == match.None || m.Left() {
		return "", false
	}
	return w.text(name, "")
}

// set puts words in the place of a field, in the looks of its result.
func (f complexField) set(text string) {
	first, last := runOf(f.begin), runOf(f.last)
	if first == nil || last == nil || first.Parent() != last.Parent() {
		return
	}
	parent := first.Parent()
	run := etree.NewElement("w:r")
	looks := first
	if f.sep != nil {
		for i := runOf(f.sep).Index() + 1; i < last.Index(); i++ {
			if e, ok := parent.Child[i].(*etree.Element); ok && e.Tag == "r" && e.SelectElement("w:t") != nil {
				looks = e
				break
			}
		}
	}
	if pr := looks.SelectElement("w:rPr"); pr != nil {
		run.AddChild(pr.Copy())
	}
	t := run.CreateElement("w:t")
	at := first.Index()
	for i := last.Index(); i >= at; i-- {
		parent.RemoveChildAt(i)
	}
	parent.InsertChildAt(at, run)
	write(t, "", text, "")
}

// setSimple puts words in the place of a simple field.
func setSimple(e *etree.Element, text string) {
	parent, at := e.Parent(), e.Index()
	run := etree.NewElement("w:r")
	if r := e.SelectElement("w:r"); r != nil {
		if pr := r.SelectElement("w:rPr"); pr != nil {
			run.AddChild(pr.Copy())
		}
	}
	t := run.CreateElement("w:t")
	parent.RemoveChildAt(at)
	parent.InsertChildAt(at, run)
	write(t, "", text, "")
}

// controlNames are the names by which a content control says what belongs into it: its tag, then its title (17.5.2).
func controlNames(sdt *etree.Element) []string {
	pr := sdt.SelectElement("w:sdtPr")
	if pr == nil {
		return nil
	}
	var out []string
	for _, tag := range []string{"w:tag", "w:alias"} {
		if s := strings.TrimSpace(attr(pr.SelectElement(tag), "val")); s != "" {
			out = append(out, s)
		}
	}
	return out
}

// control fills a content control whose tag or title names a field; what stands in another one is filled like everything else.
func (w *filler) control(sdt *etree.Element) {
	pr, content := sdt.SelectElement("w:sdtPr"), sdt.SelectElement("w:sdtContent")
	if pr == nil || content == nil || sdt.Parent() == nil {
		return
	}
	for _, name := range controlNames(sdt) {
		m, how := w.with.Names.Find(name)
		if how == match.None || m.Left() {
			continue
		}
		x, _ := w.with.Facts.Form.Field(m.Field())
		switch {
		case pr.SelectElement("w15:repeatingSection") != nil && x.Kind == form.Rows:
			w.section(content, m.Field())
		case pr.SelectElement("w:picture") != nil:
			w.controlPicture(content, name)
		case pr.SelectElement("w14:checkbox") != nil:
			w.tick(pr.SelectElement("w14:checkbox"), content, m)
		default:
			text, _ := m.Text(w.with.Facts)
			w.say(pr, content, text)
		}
		// Without this, a reader would put back what its own data part says.
		for _, tag := range []string{"w:dataBinding", "w15:dataBinding", "w:showingPlcHdr"} {
			if e := pr.SelectElement(tag); e != nil {
				pr.RemoveChild(e)
			}
		}
		return
	}
	if len(blocks(content)) > 0 {
		w.level(content)
	}
}

// section repeats the item of a repeating section for each row.
func (w *filler) section(content *etree.Element, group string) {
	var items []*etree.Element
	for _, e := range content.ChildElements() {
		if e.Space == "w" && e.Tag == "sdt" {
			items = append(items, e)
		}
	}
	if len(items) == 0 {
		return
	}
	for _, e := range items[1:] {
		remove(e)
	}
	w.repeat(items[:1], group, func(one *etree.Element) {
		for _, item := range one.ChildElements() {
			c := item.SelectElement("w:sdtContent")
			if c == nil {
				continue
			}
			for _, row := range within(c, "tr") {
				w.rowCells(row)
			}
			w.level(c)
		}
	})
}

func (w *filler) controlPicture(content *etree.Element, name string) {
	for _, d := range drawings(content) {
		if pr := d.FindElement(".//wp:docPr"); pr != nil {
			pr.CreateAttr("descr", "{{"+name+"}}")
		}
	}
	w.pictures(content)
}

// tick sets a check box: to what the answer says, or to whether a formula holds.
func (w *filler) tick(box, content *etree.Element, m match.Match) {
	yes := false
	if m.Formula != "" {
		yes = w.with.Facts.Condition(m.Formula)
	} else if v := w.with.Facts.Answers[m.Field()]; v.Kind == form.YesNo || v.Kind == form.Consent {
		yes = v.Yes
	} else {
		yes = !v.Empty()
	}
	state, sign, value := "w14:uncheckedState", "☐", "0"
	if yes {
		state, sign, value = "w14:checkedState", "☒", "1"
	}
	checked := box.SelectElement("w14:checked")
	if checked == nil {
		checked = box.CreateElement("w14:checked")
	}
	checked.CreateAttr("w14:val", value)
	if s := box.SelectElement(state); s != nil {
		if r := character(s.SelectAttrValue("w14:val", "")); r != "" {
			sign = r
		}
	}
	if t := content.FindElement(".//w:t"); t != nil {
		setText(t, sign)
	} else if sym := content.FindElement(".//w:sym"); sym != nil {
		run := runOf(sym)
		remove(sym)
		if run != nil {
			setText(run.CreateElement("w:t"), sign)
		}
	}
}

// character is a sign by its number in sixteens.
func character(hex string) string {
	n := 0
	for _, r := range strings.ToLower(hex) {
		i := strings.IndexRune("0123456789abcdef", r)
		if i < 0 || n > 0x10FFFF {
			return ""
		}
		n = n*16 + i
	}
	if n == 0 {
		return ""
	}
	return string(rune(n))
}

// say puts words into a control in the looks of what stood there; the looks of its prompt are not those of an answer.
func (w *filler) say(pr, content *etree.Element, text string) {
	prompted := pr.SelectElement("w:showingPlcHdr") != nil
	p := content
	if len(blocks(content)) > 0 {
		p = content.FindElement(".//w:p")
		for _, e := range blocks(content) {
			if e != p && !holds(e, p) {
				remove(e)
			}
		}
	} else if c := content.SelectElement("w:tc"); c != nil { // the control is around a cell
		p = c.FindElement(".//w:p")
	}
	if p == nil {
		return
	}
	l := readLine(p)
	if len(l.pieces) == 0 {
		run := p.CreateElement("w:r")
		write(run.CreateElement("w:t"), "", text, "")
		return
	}
	if run := runOf(l.pieces[0].e); prompted && run != nil {
		if looks := run.SelectElement("w:rPr"); looks != nil {
			run.RemoveChild(looks)
			if own := pr.SelectElement("w:rPr"); own != nil {
				run.InsertChildAt(0, own.Copy())
			}
		}
	}
	l.put(0, len(l.text), text)
}
