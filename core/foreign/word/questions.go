package word

import (
	"strings"

	"github.com/beevik/etree"

	"amberseal/core/ask/form"
	"amberseal/core/ask/formula"
	"amberseal/core/foreign/match"
)

// Questions makes a form of what is to be filled in a file: each name a question with a kind guessed from its words, those that stand
// together in a row of a table a group of rows, headings sections.
func (f *File) Questions() match.Asked {
	a := &asker{out: match.Asked{Matches: map[string]match.Match{}}, known: map[string]string{}, headings: f.headings()}
	for _, s := range f.stories {
		root := s.tree.Root()
		if s.kind == bodyStory {
			root = root.SelectElement("w:body")
		}
		a.level(root)
	}
	a.conditions()
	return a.out
}

type asker struct {
	out      match.Asked
	taken    []string
	known    map[string]string // key by plain name
	headings map[string]bool
	heading  string // that questions below it stand under, until it is a section
	formulas []string
}

// headings are the styles of headings.
func (f *File) headings() map[string]bool {
	out := map[string]bool{}
	if f.styles == nil {
		return out
	}
	for _, s := range f.styles.Root().SelectElements("w:style") {
		name := strings.ToLower(attr(s.SelectElement("w:name"), "val"))
		if strings.HasPrefix(name, "heading ") && name != "heading 1" || s.FindElement("w:pPr/w:outlineLvl") != nil && name != "title" {
			out[attr(s, "styleId")] = name != "heading 1"
		}
	}
	return out
}

func (a *asker) level(parent *etree.Element) {
	for _, e := range blocks(parent) {
		switch e.Tag {
		case "p":
			a.paragraph(e)
		case "tbl":
			a.table(e)
		default:
			if names := controlNames(e); e.Tag == "sdt" && len(names) > 0 {
				a.control(e, names[0])
			} else if c := inner(e); c != nil {
				a.level(c)
			}
		}
	}
	if parent.Tag == "footnotes" || parent.Tag == "endnotes" {
		for _, n := range parent.ChildElements() {
			a.level(n)
		}
	}
}

func (a *asker) paragraph(p *etree.Element) {
	l := readLine(p)
	marks := l.marks()
	if pr := p.SelectElement("w:pPr"); pr != nil && a.headings[attr(pr.SelectElement("w:pStyle"), "val")] && len(marks) == 0 {
		a.heading = strings.TrimSpace(l.text)
	}
	for _, m := range marks {
		switch m.verb {
		case put, encode:
			a.ask(m.name, kindOf(m), nil)
		case when:
			a.formulas = append(a.formulas, m.name)
		}
	}
	for _, c := range complexFields(p) {
		if name := mergeName(c.code); name != "" && !strings.HasPrefix(strings.TrimSpace(strings.ToUpper(c.code)), "DOCPROPERTY") {
			a.ask(name, "", nil)
		}
	}
	for _, e := range p.FindElements(".//w:fldSimple") {
		if name := mergeName(attr(e, "instr")); name != "" {
			a.ask(name, "", nil)
		}
	}
	for _, e := range p.FindElements(".//w:sdt") {
		if names := controlNames(e); len(names) > 0 {
			a.control(e, names[0])
		}
	}
	for _, d := range drawings(p) {
		if pr := d.FindElement(".//wp:docPr"); pr != nil {
			if m, ok := described(pr); ok {
				a.ask(m.name, pictureKind(m.name), nil)
			}
		}
	}
	for _, box := range boxes(p) {
		a.level(box)
	}
}

// kindOf is what the mark itself says of its kind.
func kindOf(m mark) form.Kind {
	if inMillimetres.MatchString(m.how) && m.verb == put {
		return pictureKind(m.name)
	}
	return ""
}

func pictureKind(name string) form.Kind {
	if strings.HasPrefix(match.Plain(name), "sign") || form.GuessKind(match.Label(name)) == form.Signature {
		return form.Signature
	}
	return form.Photo
}

// ask makes a question of a name that is none yet.
func (a *asker) ask(name string, kind form.Kind, choices []form.Choice) {
	plain := match.Plain(name)
	if plain == "" || strings.HasPrefix(name, "@") || match.Calculates(name) {
		return
	}
	if key, ok := a.known[plain]; ok {
		a.out.Matches[name] = match.Read(key)
		return
	}
	if a.heading != "" {
		key := form.KeyFor("about "+a.heading, a.taken) // a question of the same name keeps its own
		a.taken = append(a.taken, key)
		a.out.Fields = append(a.out.Fields, form.Field{Key: key, Kind: form.Section, Label: a.heading})
		a.heading = ""
	}
	x := a.field(name, kind, choices, &a.taken)
	a.out.Fields = append(a.out.Fields, x)
	a.known[plain] = x.Key
	a.out.Matches[name] = match.Read(x.Key)
}

func (a *asker) field(name string, kind form.Kind, choices []form.Choice, taken *[]string) form.Field {
	label := match.Label(name)
	x := form.Field{Label: label, Kind: kind}
	if kind == "" {
		if x.Kind = form.GuessKind(label); x.Kind == "" {
			x.Kind = form.ShortText
		}
	}
	x.Choices = choices
	x.Key = form.KeyFor(label, *taken)
	*taken = append(*taken, x.Key)
	return x
}

// table makes a group of a row that is to repeat: below a row of plain words, each of its cells a name. Other rows are read like text.
func (a *asker) table(t *etree.Element) {
	headed := false
	for _, row := range tableRows(t) {
		var names []string
		only := true
		filled := 0
		for _, c := range cells(row) {
			text := ""
			for _, p := range c.FindElements(".//w:p") {
				text += readLine(p).text
				names = append(names, namesIn(p)...)
			}
			if text = strings.TrimSpace(text); text != "" {
				filled++
				only = only && strings.HasPrefix(text, "{{") && strings.HasSuffix(text, "}}")
			}
		}
		if headed && only && len(names) > 1 && filled == len(names) && a.fresh(names) {
			a.group(names)
			continue
		}
		headed = len(names) == 0 && filled > 1
		for _, c := range cells(row) {
			a.level(c)
		}
	}
}

// fresh reports whether none of the names is a question already.
func (a *asker) fresh(names []string) bool {
	for _, n := range names {
		if a.known[match.Plain(n)] != "" || strings.HasPrefix(n, "@") {
			return false
		}
	}
	return true
}

func (a *asker) group(names []string) {
	label := "Lines"
	if stem, _, ok := strings.Cut(names[0], "."); ok {
		label = match.Label(stem)
	} else if a.heading != "" {
		label, a.heading = a.heading, ""
	}
	g := form.Field{Kind: form.Rows, Label: label, Key: form.KeyFor(label, a.taken)}
	a.taken = append(a.taken, g.Key)
	var taken []string
	for _, n := range names {
		last := n
		if i := strings.LastIndexByte(n, '.'); i >= 0 {
			last = n[i+1:]
		}
		x := a.field(last, "", nil, &taken)
		g.Fields = append(g.Fields, x)
		a.known[match.Plain(n)] = g.Key + "." + x.Key
		a.out.Matches[n] = match.Read(g.Key + "." + x.Key)
	}
	a.out.Fields = append(a.out.Fields, g)
}

// control makes a question of a content control; its kind is the control's.
func (a *asker) control(sdt *etree.Element, name string) {
	pr := sdt.SelectElement("w:sdtPr")
	kind, choices := form.Kind(""), []form.Choice(nil)
	switch {
	case pr.SelectElement("w:date") != nil:
		kind = form.Date
	case pr.SelectElement("w14:checkbox") != nil:
		kind = form.YesNo
	case pr.SelectElement("w:picture") != nil:
		kind = pictureKind(name)
	case pr.SelectElement("w:dropDownList") != nil || pr.SelectElement("w:comboBox") != nil:
		kind = form.OneOf
		var taken []string
		for _, item := range pr.FindElements("*/w:listItem") {
			label := attr(item, "displayText")
			if label == "" {
				label = attr(item, "value")
			}
			if label == "" || attr(item, "value") == "" {
				continue
			}
			value := form.KeyFor(label, taken)
			taken = append(taken, value)
			choices = append(choices, form.Choice{Value: value, Label: label})
		}
		if len(choices) == 0 {
			kind = ""
		}
	}
	a.ask(name, kind, choices)
}

// conditions makes questions of the names that only conditions speak of.
func (a *asker) conditions() {
	for _, src := range a.formulas {
		tree, err := formula.Parse(src)
		if err != nil {
			continue
		}
		for _, r := range tree.References() {
			kind := form.GuessKind(match.Label(r.Name))
			if strings.TrimSpace(src) == r.Name { // it is true or false
				kind = form.YesNo
			}
			a.ask(r.Name, kind, nil)
		}
	}
}
