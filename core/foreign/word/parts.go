package word

import (
	"bytes"
	"fmt"
	"maps"
	"path"
	"strings"

	"github.com/beevik/etree"
)

// relationship is how a part speaks of another (ISO/IEC 29500-2, 9.3).
type relationship struct {
	id, kind, target string
	external         bool
}

type relationships []relationship

func (rs relationships) byID(id string) (relationship, bool) {
	for _, r := range rs {
		if r.id == id {
			return r, true
		}
	}
	return relationship{}, false
}

// relsName is the part that holds another's relationships.
func relsName(part string) string { return path.Join(path.Dir(part), "_rels", path.Base(part)+".rels") }

func (f *File) relationships(part string) (relationships, error) {
	if rs, ok := f.rels[part]; ok {
		return rs, nil
	}
	name := relsName(part)
	if part == "" {
		name = "_rels/.rels"
	}
	rs, err := f.relationshipsIn(name, part)
	if err != nil {
		return nil, err
	}
	f.rels[part] = rs
	return rs, nil
}

// relationshipsIn are those that a part of the package says are another's.
func (f *File) relationshipsIn(name, part string) (relationships, error) {
	var rs relationships
	if f.members[name] != nil {
		d, err := f.parse(name)
		if err != nil {
			return nil, err
		}
		for _, e := range d.Root().ChildElements() {
			r := relationship{
				id: e.SelectAttrValue("Id", ""), kind: path.Base(e.SelectAttrValue("Type", "")), target: e.SelectAttrValue("Target", ""),
				external: strings.EqualFold(e.SelectAttrValue("TargetMode", ""), "External"),
			}
			if !r.external {
				r.target = inside(part, r.target)
			}
			rs = append(rs, r)
		}
	}
	return rs, nil
}

// inside is the name of a part that another speaks of.
func inside(from, target string) string {
	if strings.HasPrefix(target, "/") {
		return strings.TrimPrefix(path.Clean(target), "/")
	}
	return path.Join(path.Dir(from), target)
}

// contentTypes is what kind each part is of (ISO/IEC 29500-2, 10.1).
type contentTypes struct {
	tree     *etree.Document
	byName   map[string]string
	bySuffix map[string]string
}

const typesName = "[Content_Types].xml"

func (f *File) readTypes() error {
	d, err := f.parse(typesName)
	if err != nil {
		return err
	}
	f.types = contentTypes{d, map[string]string{}, map[string]string{}}
	for _, e := range d.Root().ChildElements() {
		kind := e.SelectAttrValue("ContentType", "")
		switch e.Tag {
		case "Override":
			f.types.byName[strings.ToLower(strings.TrimPrefix(e.SelectAttrValue("PartName", ""), "/"))] = kind
		case "Default":
			f.types.bySuffix[strings.ToLower(e.SelectAttrValue("Extension", ""))] = kind
		}
	}
	return nil
}

func (t contentTypes) of(name string) string {
	if kind, ok := t.byName[strings.ToLower(name)]; ok {
		return kind
	}
	return t.bySuffix[strings.ToLower(strings.TrimPrefix(path.Ext(name), "."))]
}

// read finds the parts with words.
func (f *File) read() error {
	if err := f.readTypes(); err != nil {
		return Unreadable{"This is no .docx file: " + lower(err.Error())}
	}
	package1, err := f.relationships("")
	if err != nil {
		return err
	}
	for _, r := range package1 {
		switch {
		case r.kind == "officeDocument" && !r.external && f.main == "":
			f.main = r.target
		case r.kind == "core-properties" && f.members[r.target] != nil:
			f.coreAt = r.target
		}
	}
	if f.main == "" {
		return Unreadable{"This is no .docx file: it names no document."}
	}
	switch kind := f.types.of(f.main); {
	case strings.Contains(kind, "macroEnabled"):
		return Unreadable{"The file holds macros. Save it as .docx without macros and bring it again."}
	case !strings.Contains(kind, "wordprocessingml") && kind != "application/xml":
		return Unreadable{"This is no word-processor document."}
	}
	for name := range f.members {
		kind := f.types.of(name)
		switch {
		case strings.Contains(kind, "vbaProject"):
			return Unreadable{"The file holds macros. Save it as .docx without macros and bring it again."}
		case strings.Contains(kind, "activeX"):
			return Unreadable{"The file holds controls that run programs. Take them out and bring it again."}
		}
	}
	if err := f.shut(); err != nil {
		return err
	}
	if err := f.clean(); err != nil {
		return err
	}
	if err := f.story(f.main, bodyStory); err != nil {
		return err
	}
	if root := f.stories[0].tree.Root(); root.FullTag() != "w:document" || root.SelectElement("w:body") == nil {
		return Unreadable{"This is no word-processor document: it has no body."}
	}
	rs, err := f.relationships(f.main)
	if err != nil {
		return err
	}
	for _, r := range rs {
		kind := map[string]storyKind{"header": headerStory, "footer": footerStory, "footnotes": notesStory, "endnotes": notesStory}[r.kind]
		if kind != "" && f.members[r.target] != nil {
			if err := f.story(r.target, kind); err != nil {
				return err
			}
		}
	}
	for _, r := range rs { // once the tables are known
		if err := f.aside(r); err != nil {
			return err
		}
	}
	if f.styles != nil {
		f.readListStyles(f.styles.Root())
	}
	if f.coreAt != "" {
		f.core, err = f.parse(f.coreAt)
	}
	return err
}

// aside reads a part that says how others look.
func (f *File) aside(r relationship) (err error) {
	into := map[string]**etree.Document{"styles": &f.styles, "numbering": &f.numbering, "theme": &f.theme, "settings": &f.settings}[r.kind]
	if into == nil || *into != nil || r.external || f.members[r.target] == nil {
		return nil
	}
	data, err := f.bytes(r.target)
	if err != nil {
		return err
	}
	if r.kind == "styles" {
		data = f.usedStyles(data)
	}
	*into, err = f.parsed(r.target, data)
	return err
}

// usedStyles leaves out the styles of tables that no table of the file has: some writers put a hundred of them into each file, nine
// tenths of all that is to be read. What is not written as is common stays.
func (f *File) usedStyles(data []byte) []byte {
	used := map[string]bool{}
	for _, s := range f.stories {
		for _, e := range s.tree.FindElements("//w:tblStyle") {
			used[attr(e, "val")] = true
		}
	}
	type style struct{ begin, end int }
	tables := map[string]style{}
	var order []string
	const opens, closes = "<w:style ", "</w:style>"
	for at := 0; ; {
		begin := bytes.Index(data[at:], []byte(opens))
		if begin < 0 {
			break
		}
		begin += at
		size := bytes.Index(data[begin:], []byte(closes))
		if size < 0 {
			break
		}
		at = begin + size + len(closes)
		head, _, _ := bytes.Cut(data[begin:at], []byte(">"))
		name := quoted(head, ` w:styleId="`)
		if quoted(head, ` w:type="`) == "table" && quoted(head, ` w:default="`) == "" && name != "" {
			tables[name] = style{begin, at}
			order = append(order, name)
		}
	}
	for name := range maps.Clone(used) { // those that others are made of are used too
		for range tables {
			s := tables[name]
			if name = quoted(data[s.begin:s.end], `<w:basedOn w:val="`); name == "" || used[name] {
				break
			}
			used[name] = true
		}
	}
	out, from := make([]byte, 0, len(data)), 0
	for _, name := range order {
		if s := tables[name]; !used[name] && s.begin >= from {
			out = append(out, data[from:s.begin]...)
			from = s.end
		}
	}
	return append(out, data[from:]...)
}

// quoted is the value behind some words, or nothing.
func quoted(data []byte, before string) string {
	_, rest, ok := bytes.Cut(data, []byte(before))
	if !ok {
		return ""
	}
	value, _, _ := bytes.Cut(rest, []byte(`"`))
	return string(value)
}

func lower(s string) string {
	if s == "" {
		return s
	}
	return strings.ToLower(s[:1]) + s[1:]
}

func (f *File) story(name string, kind storyKind) error {
	tree, err := f.parse(name)
	if err != nil {
		return err
	}
	if _, err := f.relationships(name); err != nil {
		return err
	}
	number(tree.Root(), kind)
	f.stories = append(f.stories, &story{name, kind, tree})
	return nil
}

// placeMark is an attribute by which each paragraph says where it stood in the file that was brought, also in copies of it. It is not
// written.
const placeMark = "_amberseal_place_"

// number marks the paragraphs of a part.
func number(root *etree.Element, kind storyKind) {
	before := map[storyKind]string{headerStory: "header, ", footerStory: "footer, ", notesStory: "notes, "}[kind]
	n := 0
	var walk func(e *etree.Element)
	walk = func(e *etree.Element) {
		for _, c := range e.ChildElements() {
			if c.Space == "w" && c.Tag == "p" {
				n++
				c.CreateAttr(placeMark, fmt.Sprintf("%sparagraph %d", before, n))
			}
			walk(c)
		}
	}
	walk(root)
}

// Place is where a paragraph stood in the file that was brought: “paragraph 4”, “header, paragraph 1”. It is empty for one that was made
// while the file was filled.
func Place(p *etree.Element) string { return p.SelectAttrValue(placeMark, "") }
