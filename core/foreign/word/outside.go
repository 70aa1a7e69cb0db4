package word

import (
	"fmt"
	"maps"
	"path"
	"slices"
	"strings"

	"github.com/beevik/etree"
)

// Whatever a file speaks of lies in it, and none of it is a whole file again: another program that sets it would open both, with the rights
// of the house. Links that people follow are the one exception.

// clickable are the elements that speak of a link which is followed by hand (ISO/IEC 29500-1, 17.16.22 and 20.1.2.2.23).
var clickable = []string{"hyperlink", "hlinkClick", "hlinkHover", "hlinkMouseOver"}

// settingsElements are those by which settings speak of something outside: what the file was written from, and whom a letter goes to. They
// are left out of what is written, as nothing here asks for them.
var settingsElements = []string{"w:attachedTemplate", "w:mailMerge", "w:saveThroughXslt"}

// shut looks at all relationships of the package, whoever's they are.
func (f *File) shut() error {
	for _, name := range slices.Sorted(maps.Keys(f.members)) {
		if !strings.HasSuffix(strings.ToLower(name), ".rels") {
			continue
		}
		part := path.Join(path.Dir(path.Dir(name)), strings.TrimSuffix(path.Base(name), path.Ext(name)))
		rs, err := f.relationshipsIn(name, part)
		if err != nil {
			return err
		}
		links := map[string]bool{}
		for _, r := range rs {
			switch kind := strings.ToLower(r.kind); {
			case kind == "afchunk" || kind == "subdocument" || kind == "package" || kind == "oleobject":
				return Unreadable{fmt.Sprintf("The file holds another file (%s). Paste what it shows as words or as a picture, and bring "+
					"it again.", path.Base(r.target))}
			case !r.external && strings.Contains(r.target, ":"),
				r.external && kind != "hyperlink" && !f.isSettings(part):
				return Unreadable{fmt.Sprintf("The file takes a part from outside (%s). Put it into the file itself.", r.target)}
			case r.external && kind == "hyperlink":
				links[r.id] = true
			}
		}
		if len(links) > 0 && f.members[part] != nil {
			if err := f.followed(part, links); err != nil {
				return err
			}
		}
	}
	return nil
}

// followed refuses a part that takes in what is written down as a link to be followed.
func (f *File) followed(part string, links map[string]bool) error {
	left := f.left // it is read again as a story, and counts once
	d, err := f.parse(part)
	if err != nil {
		return err
	}
	f.left = left
	var walk func(e *etree.Element) error
	walk = func(e *etree.Element) error {
		for _, a := range e.Attr {
			if a.Space == "r" && links[a.Value] && !slices.Contains(clickable, e.Tag) {
				return Unreadable{"The file takes a part from outside by a link. Put it into the file itself."}
			}
		}
		for _, c := range e.ChildElements() {
			if err := walk(c); err != nil {
				return err
			}
		}
		return nil
	}
	return walk(d.Root())
}

// isSettings reports whether a part is that of the settings.
func (f *File) isSettings(part string) bool {
	return strings.HasSuffix(f.types.of(part), "wordprocessingml.settings+xml")
}

// clean makes the parts that are written other than they lie in the package: settings without what they speak of outside.
func (f *File) clean() error {
	changed := map[string][]byte{}
	for name := range f.members {
		rels := relsName(name)
		if f.members[rels] == nil || !f.isSettings(name) {
			continue
		}
		links, err := f.parse(rels)
		if err != nil {
			return err
		}
		outside := false
		for _, e := range links.Root().ChildElements() {
			if strings.EqualFold(e.SelectAttrValue("TargetMode", ""), "External") {
				links.Root().RemoveChild(e)
				outside = true
			}
		}
		if !outside {
			continue
		}
		settings, err := f.parse(name)
		if err != nil {
			return err
		}
		for _, tag := range settingsElements {
			for _, e := range settings.Root().SelectElements(tag) {
				settings.Root().RemoveChild(e)
			}
		}
		for at, d := range map[string]*etree.Document{rels: links, name: settings} {
			if changed[at], err = d.WriteToBytes(); err != nil {
				return err
			}
		}
	}
	f.cleaned = changed
	return nil
}
