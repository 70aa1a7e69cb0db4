package word

import (
	"slices"
	"strings"

	"github.com/beevik/etree"

	"amberseal/core/ask/form"
	"amberseal/core/foreign/match"
	"amberseal/core/words/phrase"
)

// Inspection is what was found in a file.
type Inspection struct {
	match.Inspection
	notes []note
}

// note is where a finding stands, for the copy with comments.
type note struct {
	paragraph *etree.Element
	finding   int
}

// Inspect finds what is to be filled in a file and what is wrong with it. Places of findings are those of placeholders.
func (f *File) Inspect(names *match.Names, asked form.Form) Inspection {
	v := &inspector{names: names, form: asked, printed: map[string]bool{}}
	for _, s := range f.stories {
		v.begin(s)
		root := s.tree.Root()
		switch s.kind {
		case bodyStory:
			v.level(root.SelectElement("w:body"), "")
		case notesStory:
			for _, n := range root.ChildElements() {
				v.level(n, "")
			}
		default:
			v.level(root, "")
		}
		v.changes(root)
	}
	if f.core != nil {
		for _, e := range f.core.Root().ChildElements() {
			for _, m := range (line{text: e.Text()}).marks() {
				v.at = "the file’s " + e.Tag
				v.mark(nil, m, match.Property, "")
			}
		}
	}
	for _, x := range asked.Fields {
		if x.Answered() && !v.printed[x.Key] && !v.everything {
			v.out.Unprinted = append(v.out.Unprinted, x.Key)
		}
	}
	return v.out
}

type inspector struct {
	names      *match.Names
	form       form.Form
	out        Inspection
	story      string // in words, with a comma; empty for the body
	at         string
	printed    map[string]bool
	everything bool // all answers are printed
}

func (v *inspector) begin(s *story) {
	v.story = map[storyKind]string{headerStory: "header, ", footerStory: "footer, ", notesStory: "notes, "}[s.kind]
}

// level walks the blocks of one level. Marks that have no partner there are faults, unless the level is a cell's: its table looks for
// partners among its rows.
func (v *inspector) level(parent *etree.Element, group string) {
	if parent == nil {
		return
	}
	all := blocks(parent)
	regions, lone := amongBlocks(all)
	inside := func(i int) string {
		for _, r := range regions {
			if r.open.verb == rows && r.open.at < i && i < r.close.at {
				return v.groupOf(r.open.name, group)
			}
		}
		return group
	}
	cell := parent.Tag == "tc"
	for i, e := range all {
		v.block(e, inside(i), lone, cell)
	}
}

func (v *inspector) block(e *etree.Element, group string, lone []event, cell bool) {
	switch e.Tag {
	case "p":
		v.paragraph(e, group)
		for _, x := range lone {
			if x.line.paragraph == e && !cell {
				v.alone(x)
			}
		}
	case "tbl":
		v.table(e, group)
	case "sdt":
		v.control(e, group)
		if c := inner(e); c != nil {
			for _, b := range blocks(c) {
				v.block(b, group, lone, cell)
			}
		}
	default:
		for _, b := range blocks(e) {
			v.block(b, group, lone, cell)
		}
	}
}

func (v *inspector) table(t *etree.Element, group string) {
	all := tableRows(t)
	regions, lone := amongRows(all)
	for i, row := range all {
		own := group
		for _, r := range regions {
			if r.open.verb == rows && r.open.at <= i && i <= r.close.at {
				own = v.groupOf(r.open.name, group)
			}
		}
		if own == "" {
			var found []string
			for _, p := range row.FindElements(".//w:p") {
				found = append(found, namesIn(p)...)
			}
			for _, sdt := range row.FindElements(".//w:sdt") {
				found = append(found, controlNames(sdt)...)
			}
			if len(found) > 0 {
				own = v.names.Group(found)
			}
		}
		for _, c := range cells(row) {
			v.level(c, own)
			for _, x := range lone {
				if holds(c, x.line.paragraph) {
					v.aloneInCell(x)
				}
			}
		}
	}
}

func (v *inspector) groupOf(name, before string) string {
	m, _ := v.names.Find(name)
	if x, ok := v.form.Field(m.Field()); ok && x.Kind == form.Rows {
		return m.Field()
	}
	return before
}

func (v *inspector) paragraph(p *etree.Element, group string) {
	v.at = Place(p)
	here := v.at
	l := readLine(p)
	for _, m := range l.marks() {
		v.mark(p, m, "", group)
	}
	if l.open() >= 0 {
		v.fault(p, "word.braces-not-closed", "words", begin(l.text[l.open():]))
	}
	if regions, _ := l.inLine(); regions == nil && len(l.marks()) == 0 && strings.Contains(l.text, "}}") {
		v.fault(p, "word.braces-not-opened")
	}
	for _, c := range complexFields(p) {
		v.mergeField(p, c.code)
	}
	for _, e := range p.FindElements(".//w:fldSimple") {
		v.mergeField(p, attr(e, "instr"))
	}
	for _, e := range p.FindElements(".//w:sdt") {
		v.control(e, group)
	}
	for _, d := range drawings(p) {
		if pr := d.FindElement(".//wp:docPr"); pr != nil {
			if m, ok := described(pr); ok {
				v.picture(p, m)
			}
		}
	}
	for i, box := range boxes(p) {
		if i > 0 && box.Parent() != nil && holds(fallback(box), box) {
			continue // the same box for older readers
		}
		v.level(box, group)
	}
	v.at = here
}

// fallback is the element for older readers around another, or nil.
func fallback(e *etree.Element) *etree.Element {
	for ; e != nil; e = e.Parent() {
		if e.Space == "mc" && e.Tag == "Fallback" {
			return e
		}
	}
	return nil
}

func begin(s string) string {
	r := []rune(s)
	if len(r) > 24 {
		return string(r[:24]) + "…"
	}
	return s
}

func (v *inspector) fault(p *etree.Element, code string, values ...any) {
	v.out.Findings.Fault(v.at, code, values...)
	v.out.notes = append(v.out.notes, note{p, len(v.out.Findings) - 1})
}

func (v *inspector) notice(p *etree.Element, code string, values ...any) {
	v.out.Findings.Notice(v.at, code, values...)
	v.out.notes = append(v.out.notes, note{p, len(v.out.Findings) - 1})
}

func (v *inspector) add(x match.Placeholder) {
	x.Place = v.at
	v.out.Placeholders = append(v.out.Placeholders, x)
	for _, name := range x.Match.Fields() {
		v.printed[name] = true
		if i := strings.LastIndexByte(name, '.'); i >= 0 {
			v.printed[name[:i]] = true
		}
	}
}

// offer adds a placeholder with what it may have been meant for, which is printed nowhere until it is chosen.
func (v *inspector) offer(x match.Placeholder) {
	x.Place, x.How = v.at, match.NearLabel
	v.out.Placeholders = append(v.out.Placeholders, x)
}

// mark looks at what stands in double braces.
func (v *inspector) mark(p *etree.Element, m mark, kind match.Kind, group string) {
	switch m.verb {
	case when:
		v.add(match.Placeholder{Name: m.name, Kind: match.Condition, Match: match.Match{Formula: m.name}})
		for _, f := range v.form.CheckFormula(m.name, group) {
			f.Place = v.at
			v.out.Findings = append(v.out.Findings, f)
			v.out.notes = append(v.out.notes, note{p, len(v.out.Findings) - 1})
		}
	case rows:
		found, how := v.names.Find(m.name)
		v.add(match.Placeholder{Name: m.name, Kind: match.RepeatRows, Match: found, How: how})
		if x, ok := v.form.Field(found.Field()); !ok || x.Kind != form.Rows {
			v.fault(p, "word.no-group", "name", m.name)
		}
	case all:
		v.everything = true
		v.add(match.Placeholder{Name: string(all), Kind: match.Answers})
	case put, encode:
		if kind == "" {
			kind = match.Words
		}
		if m.verb == encode {
			kind = match.Code
		}
		v.value(p, m, kind, group)
	}
}

// value looks at a name that stands for a value.
func (v *inspector) value(p *etree.Element, m mark, kind match.Kind, group string) {
	found, how := v.names.Find(m.name)
	if near, ok := v.names.Nearly(m.name); how == match.None && ok {
		v.offer(match.Placeholder{Name: m.name, Format: m.how, Kind: kind, Match: near})
		v.fault(p, "word.nearly", "name", m.name, "field", v.form.LabelOf(near.Field()))
		return
	}
	v.add(match.Placeholder{Name: m.name, Format: m.how, Kind: kind, Match: found, How: how})
	switch {
	case m.name == "":
		v.fault(p, "word.braces-empty")
		return
	case how == match.None && match.Calculates(m.name):
		v.fault(p, "word.calculates", "name", m.name)
		return
	case how == match.None:
		v.fault(p, "word.no-match", "name", m.name)
		return
	}
	x, _ := v.form.Field(found.Field())
	switch {
	case m.how == "" || m.how == "upper" || kind == match.Code:
	case inMillimetres.MatchString(m.how) && (x.Kind == form.Photo || x.Kind == form.Signature):
	case m.how == "table" && x.Kind == form.Rows:
	default:
		scope := phrase.Scope{Form: v.form, Document: true, Paged: true, Rows: group, Correctable: true}
		for _, f := range found.As(m.how).Check(v.at, scope) {
			f.Place = v.at
			v.out.Findings = append(v.out.Findings, f)
			v.out.notes = append(v.out.notes, note{p, len(v.out.Findings) - 1})
		}
	}
}

func (v *inspector) alone(x event) {
	switch x.verb {
	case end:
		v.fault(x.line.paragraph, "word.end-without-beginning")
	case otherwise:
		v.fault(x.line.paragraph, "word.otherwise-alone")
	default:
		v.fault(x.line.paragraph, "word.no-end", "mark", string(x.verb)+" "+x.name)
	}
}

func (v *inspector) aloneInCell(x event) {
	if x.opens() || x.verb == end {
		v.fault(x.line.paragraph, "word.across-cells", "mark", strings.TrimSpace(string(x.verb)+" "+x.name))
		return
	}
	v.alone(x)
}

func (v *inspector) mergeField(p *etree.Element, instruction string) {
	name := mergeName(instruction)
	isProperty := strings.HasPrefix(strings.ToUpper(strings.TrimSpace(instruction)), "DOCPROPERTY")
	if name == "" || isProperty && slices.Contains(usualProperties, strings.ToLower(name)) {
		return
	}
	if isProperty { // what the file's own properties say is no sample
		v.foreign(p, name, match.Field, v.notice)
		return
	}
	v.foreign(p, name, match.Field, v.fault)
}

// foreign looks at a name that somebody else's tool has made. One without a match changes nothing: what stands there, which may be a
// sample, would go out as if it were an answer, unless somebody leaves it so on purpose.
func (v *inspector) foreign(p *etree.Element, name string, kind match.Kind, tell func(*etree.Element, string, ...any)) {
	found, how := v.names.Find(name)
	v.add(match.Placeholder{Name: name, Kind: kind, Match: found, How: how})
	if how == match.None {
		tell(p, "word.stays", "name", name)
	}
}

func (v *inspector) control(sdt *etree.Element, group string) {
	names := controlNames(sdt)
	if len(names) == 0 {
		return
	}
	p := sdt.FindElement(".//w:p")
	if p == nil {
		p = sdt
		for p != nil && p.Tag != "p" {
			p = p.Parent()
		}
	}
	name := names[0]
	for _, n := range names {
		if _, how := v.names.Find(n); how != match.None {
			name = n
			break
		}
	}
	if v.at == "" {
		v.at = v.story + "first paragraph"
	}
	v.foreign(p, name, match.Control, v.fault)
}

func (v *inspector) picture(p *etree.Element, m mark) {
	found, how := v.names.Find(m.name)
	v.add(match.Placeholder{Name: m.name, Kind: match.PictureOf, Match: found, How: how})
	if x, ok := v.form.Field(found.Field()); !ok || x.Kind != form.Photo && x.Kind != form.Signature {
		v.fault(p, "word.no-picture", "name", m.name)
	}
}

// changes says that tracked changes are printed as if they were accepted.
func (v *inspector) changes(root *etree.Element) {
	for _, tag := range []string{"ins", "del", "moveFrom", "moveTo"} {
		if e := root.FindElement(".//w:" + tag); e != nil {
			v.at = strings.TrimSuffix(v.story, ", ")
			if v.at == "" {
				v.at = "the document"
			}
			v.out.Findings.Notice(v.at, "word.tracked-changes")
			return
		}
	}
}
