package word

import (
	"path"
	"strconv"

	"github.com/beevik/etree"

	"amberseal/core/ask/form"
	"amberseal/core/foreign/match"
)

// Annotate writes a copy of a file with a comment at the place of each finding (ISO/IEC 29500-1, 17.13.4), and tells how many there are.
// What was found outside of the body, where no comment can stand, is said at the body's first paragraph.
func Annotate(data []byte, names *match.Names, asked form.Form) (copied []byte, notes int, err error) {
	f, err := Open(data) // one of its own: the trees are changed
	if err != nil {
		return nil, 0, err
	}
	found := f.Inspect(names, asked)
	a := &annotator{f: f, texts: etree.NewDocument(), name: path.Dir(f.main) + "/comments.xml"}
	if err := a.existing(); err != nil {
		return nil, 0, err
	}
	body := f.stories[0].tree.Root().SelectElement("w:body")
	first := body.FindElement(".//w:p")
	if first == nil {
		first = etree.NewElement("w:p")
		body.InsertChildAt(0, first)
	}
	for _, n := range found.notes {
		x := found.Findings[n.finding]
		words, at := x.Message, n.paragraph
		if x.Mend != "" {
			words += " " + x.Mend
		}
		if at == nil || !holds(body, at) {
			words, at = x.Place+": "+words, first
		}
		a.add(at, words)
	}
	out, err := a.write()
	return out, len(found.notes), err
}

type annotator struct {
	f     *File
	texts *etree.Document
	name  string // of the part with comments
	fresh bool   // the file had none
	next  int
}

// existing reads the comments that the file has.
func (a *annotator) existing() error {
	rs, err := a.f.relationships(a.f.main)
	if err != nil {
		return err
	}
	for _, r := range rs {
		if r.kind != "comments" || a.f.members[r.target] == nil {
			continue
		}
		a.name = r.target
		if a.texts, err = a.f.parse(r.target); err != nil {
			return err
		}
		for _, e := range a.texts.Root().ChildElements() {
			if n, err := strconv.Atoi(attr(e, "id")); err == nil {
				a.next = max(a.next, n+1)
			}
		}
		return nil
	}
	a.fresh = true
	a.texts.CreateProcInst("xml", `version="1.0" encoding="UTF-8" standalone="yes"`)
	w := &filler{out: &Filled{file: a.f}}
	a.texts.CreateElement("w:comments").CreateAttr("xmlns:w", w.space("w"))
	return nil
}

// add puts a comment on a paragraph.
func (a *annotator) add(p *etree.Element, words string) {
	id := strconv.Itoa(a.next)
	a.next++
	c := a.texts.Root().CreateElement("w:comment")
	c.CreateAttr("w:id", id)
	c.CreateAttr("w:author", "Amber Seal")
	c.CreateAttr("w:initials", "AS")
	setText(c.CreateElement("w:p").CreateElement("w:r").CreateElement("w:t"), printable(words))
	at := 0
	if pr := p.SelectElement("w:pPr"); pr != nil {
		at = pr.Index() + 1
	}
	begins := etree.NewElement("w:commentRangeStart")
	begins.CreateAttr("w:id", id)
	p.InsertChildAt(at, begins)
	p.CreateElement("w:commentRangeEnd").CreateAttr("w:id", id)
	p.CreateElement("w:r").CreateElement("w:commentReference").CreateAttr("w:id", id)
}

func (a *annotator) write() ([]byte, error) {
	changed := map[string][]byte{}
	body, err := a.f.stories[0].tree.WriteToBytes()
	if err != nil {
		return nil, err
	}
	changed[a.f.main] = placeMarks.ReplaceAll(body, nil)
	texts, err := a.texts.WriteToBytes()
	if err != nil {
		return nil, err
	}
	if !a.fresh {
		changed[a.name] = texts
		return a.f.pack(changed, nil)
	}
	links, err := a.f.withLinks(a.f.main, relationships{{id: "rIdNotes", kind: "comments", target: a.name}})
	if err != nil {
		return nil, err
	}
	changed[relsName(a.f.main)] = links
	types := a.f.types.tree.Copy()
	e := types.Root().CreateElement("Override")
	e.Space = types.Root().Space
	e.CreateAttr("PartName", "/"+a.name)
	e.CreateAttr("ContentType", "application/vnd.openxmlformats-officedocument.wordprocessingml.comments+xml")
	if changed[typesName], err = types.WriteToBytes(); err != nil {
		return nil, err
	}
	return a.f.pack(changed, []added{{a.name, texts}})
}
