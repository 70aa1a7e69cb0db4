package word

import (
	"path"

	"github.com/beevik/etree"
)

// Part is a filled part with words in it, for whoever sets it.
type Part struct {
	Root *etree.Element
	name string
}

// Attr is an attribute of the word-processing namespace.
func Attr(e *etree.Element, key string) string { return attr(e, key) }

// Unfilled makes a file ready to be set as it is, with nothing filled in.
func (f *File) Unfilled() *Filled {
	x := &Filled{file: f, types: map[string]string{}, links: map[string]relationships{}}
	x.stories, x.core = f.stories, f.core
	return x
}

// Body is the part with the document's body.
func (x *Filled) Body() Part { return Part{x.stories[0].tree.Root(), x.stories[0].name} }

// Styles, Numbering, Theme and Settings are the roots of the parts that say how others look; nil where the file has none.
func (x *Filled) Styles() *etree.Element { return root(x.file.styles) }

// Numbering is the root of the part about numbers of lists.
func (x *Filled) Numbering() *etree.Element { return root(x.file.numbering) }

// Theme is the root of the theme.
func (x *Filled) Theme() *etree.Element { return root(x.file.theme) }

// Settings is the root of the settings.
func (x *Filled) Settings() *etree.Element { return root(x.file.settings) }

// Properties are the file's title and the like; nil where it has none.
func (x *Filled) Properties() *etree.Element { return root(x.core) }

func root(d *etree.Document) *etree.Element {
	if d == nil {
		return nil
	}
	return d.Root()
}

// Related is the part with words that another one speaks of by an id, such as a header.
func (x *Filled) Related(from Part, id string) (Part, bool) {
	r, ok := x.relation(from, id)
	if !ok {
		return Part{}, false
	}
	for _, s := range x.stories {
		if s.name == r.target {
			return Part{s.tree.Root(), s.name}, true
		}
	}
	return Part{}, false
}

// Notes is the part with the footnotes or endnotes.
func (x *Filled) Notes(kind string) (Part, bool) {
	rs, err := x.file.relationships(x.file.main)
	if err != nil {
		return Part{}, false
	}
	for _, r := range rs {
		if r.kind == kind {
			return x.Related(Part{nil, x.file.main}, r.id)
		}
	}
	return Part{}, false
}

func (x *Filled) relation(from Part, id string) (relationship, bool) {
	if r, ok := x.links[from.name].byID(id); ok {
		return r, true
	}
	rs, err := x.file.relationships(from.name)
	if err != nil {
		return relationship{}, false
	}
	return rs.byID(id)
}

// Address is where a link of a part leads.
func (x *Filled) Address(from Part, id string) string {
	r, ok := x.relation(from, id)
	if !ok || !r.external {
		return ""
	}
	return r.target
}

// Media is a picture that a part speaks of, and its name.
func (x *Filled) Media(from Part, id string) (data []byte, name string) {
	r, ok := x.relation(from, id)
	if !ok || r.external {
		return nil, ""
	}
	for _, a := range x.added {
		if a.name == r.target {
			return a.data, path.Base(a.name)
		}
	}
	data, err := x.file.bytes(r.target)
	if err != nil {
		return nil, path.Base(r.target)
	}
	return data, path.Base(r.target)
}

// Blocks are the paragraphs, tables and controls of a body, cell, box or note.
func Blocks(parent *etree.Element) []*etree.Element { return blocks(parent) }

// Inner is the element whose children are the content of a block that is neither paragraph nor table; it may be nil.
func Inner(e *etree.Element) *etree.Element { return inner(e) }

// Rows are a table's rows, those in controls too.
func Rows(table *etree.Element) []*etree.Element { return tableRows(table) }

// Cells are a row's cells, those in controls too.
func Cells(row *etree.Element) []*etree.Element { return cells(row) }
