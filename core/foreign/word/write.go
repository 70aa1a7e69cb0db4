package word

import (
	"archive/zip"
	"bytes"
	"io"
	"maps"
	"regexp"
	"slices"
	"strings"

	"github.com/beevik/etree"
)

var placeMarks = regexp.MustCompile(` ` + placeMark + `="[^"]*"`)

// Bytes writes the filled file. Parts that nobody touched are copied as they lie in the package.
func (x *Filled) Bytes() ([]byte, error) {
	changed := maps.Clone(x.file.cleaned)
	for _, s := range x.stories {
		data, err := s.tree.WriteToBytes()
		if err != nil {
			return nil, err
		}
		changed[s.name] = placeMarks.ReplaceAll(data, nil)
	}
	if x.core != nil {
		data, err := x.core.WriteToBytes()
		if err != nil {
			return nil, err
		}
		changed[x.file.coreAt] = data
	}
	for part, links := range x.links {
		data, err := x.file.withLinks(part, links)
		if err != nil {
			return nil, err
		}
		changed[relsName(part)] = data
	}
	if len(x.types) > 0 {
		data, err := x.file.withTypes(x.types)
		if err != nil {
			return nil, err
		}
		changed[typesName] = data
	}
	return x.file.pack(changed, x.added)
}

// pack writes a package with some parts changed and some added.
func (f *File) pack(changed map[string][]byte, more []added) ([]byte, error) {
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	for _, m := range f.zip.File {
		name := strings.TrimPrefix(m.Name, "/")
		data, ok := changed[name]
		if !ok {
			if err := z.Copy(m); err != nil {
				return nil, err
			}
			continue
		}
		delete(changed, name)
		if err := member(z, m.Name, data); err != nil {
			return nil, err
		}
	}
	for name, data := range changed { // relationships of a part that had none
		more = append(more, added{name, data})
	}
	slices.SortFunc(more, func(a, b added) int { return strings.Compare(a.name, b.name) })
	for _, a := range more {
		if err := member(z, a.name, a.data); err != nil {
			return nil, err
		}
	}
	if err := z.Close(); err != nil {
		return nil, err
	}
	return out.Bytes(), nil
}

func member(z *zip.Writer, name string, data []byte) error {
	w, err := z.Create(name)
	if err != nil {
		return err
	}
	_, err = io.Copy(w, bytes.NewReader(data))
	return err
}

const relationshipTypes = "http://schemas.openxmlformats.org/officeDocument/2006/relationships/"

// withLinks are a part's relationships with some more.
func (f *File) withLinks(part string, more relationships) ([]byte, error) {
	d := etree.NewDocument()
	if f.members[relsName(part)] != nil {
		data, err := f.bytes(relsName(part))
		if err != nil {
			return nil, err
		}
		if err := d.ReadFromBytes(data); err != nil {
			return nil, err
		}
	} else {
		d.CreateProcInst("xml", `version="1.0" encoding="UTF-8" standalone="yes"`)
		d.CreateElement("Relationships").CreateAttr("xmlns", "http://schemas.openxmlformats.org/package/2006/relationships")
	}
	kinds := relationshipTypes
	for _, e := range d.Root().ChildElements() { // a strict file has names of its own
		if t := e.SelectAttrValue("Type", ""); strings.HasPrefix(t, "http://purl.oclc.org/ooxml/officeDocument/relationships/") {
			kinds = "http://purl.oclc.org/ooxml/officeDocument/relationships/"
		}
	}
	for _, r := range more {
		e := d.Root().CreateElement("Relationship")
		if p := d.Root().Space; p != "" {
			e.Space = p
		}
		e.CreateAttr("Id", r.id)
		e.CreateAttr("Type", kinds+r.kind)
		e.CreateAttr("Target", "/"+r.target)
	}
	return d.WriteToBytes()
}

// withTypes are the package's content types with those of more endings.
func (f *File) withTypes(more map[string]string) ([]byte, error) {
	d := f.types.tree.Copy()
	var missing []string
	for ending := range more {
		if f.types.bySuffix[ending] == "" {
			missing = append(missing, ending)
		}
	}
	slices.Sort(missing)
	for _, ending := range missing {
		e := etree.NewElement("Default")
		e.Space = d.Root().Space
		e.CreateAttr("Extension", ending)
		e.CreateAttr("ContentType", more[ending])
		d.Root().InsertChildAt(0, e)
	}
	return d.WriteToBytes()
}

// properties fills and sets the file's properties (ISO/IEC 29500-2, 11).
func properties(root *etree.Element, with Filling) {
	w := &filler{with: with}
	for _, e := range root.ChildElements() {
		l := line{text: e.Text()}
		text := l.text
		marks := l.marks()
		for i := len(marks) - 1; i >= 0; i-- {
			m := marks[i]
			value, ok := "", false
			if m.verb == put {
				value, ok = w.text(m.name, m.how)
			}
			if !ok {
				value = "[" + m.name + "]"
			}
			text = text[:m.start] + value + text[m.end:]
		}
		if text != l.text {
			e.SetText(printable(text))
		}
	}
	set := func(space, tag, value string) {
		if value == "" {
			return
		}
		for _, e := range root.ChildElements() {
			if e.Tag == tag {
				e.SetText(printable(value))
				return
			}
		}
		if root.SelectAttr("xmlns:"+space) != nil {
			root.CreateElement(space + ":" + tag).SetText(printable(value))
		}
	}
	set("dc", "title", with.Title)
	set("dc", "creator", with.Author)
	set("dc", "subject", with.Subject)
	set("cp", "keywords", with.Keywords)
}

// isListed reports whether a paragraph is an item of a list, by itself or by its style.
func (f *File) isListed(p *etree.Element) bool {
	pr := p.SelectElement("w:pPr")
	if pr == nil {
		return false
	}
	if n := pr.SelectElement("w:numPr"); n != nil {
		return attr(n.SelectElement("w:numId"), "val") != "0"
	}
	return f.listStyles[attr(pr.SelectElement("w:pStyle"), "val")]
}

// readListStyles finds the styles whose paragraphs are items of lists.
func (f *File) readListStyles(styles *etree.Element) {
	f.listStyles = map[string]bool{}
	based := map[string]string{}
	for _, s := range styles.SelectElements("w:style") {
		id := attr(s, "styleId")
		based[id] = attr(s.SelectElement("w:basedOn"), "val")
		if n := s.FindElement("w:pPr/w:numPr/w:numId"); n != nil && attr(n, "val") != "0" {
			// A heading with a number is a heading: it repeats for nothing.
			f.listStyles[id] = s.FindElement("w:pPr/w:outlineLvl") == nil
		}
	}
	for id := range based {
		for at, steps := id, 0; at != "" && steps < 20; at, steps = based[at], steps+1 {
			if f.listStyles[at] {
				f.listStyles[id] = true
			}
		}
	}
}
