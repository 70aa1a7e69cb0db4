package annex

import (
	"errors"
	"fmt"
	"maps"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

	"amberseal/core/foreign"
)

// Limits of what a page paints.
const (
	mostPixels = 100_000_000 // of one picture
	deepest    = 60          // things in things
)

// aside are entries of things that are painted which paint nothing: files, remarks, and pictures that lie elsewhere (ISO 32000-2, 14.3.2,
// 14.5, 14.7, 14.13, 8.9.5.4, 8.10.4).
var aside = []string{"AF", "EF", "Metadata", "PieceInfo", "OPI", "Ref", "Alternates", "LastModified", "StructParent", "StructParents",
	"Measure", "PtData"}

// painted goes through all that pages paint, takes out what paints nothing, and finds what cannot be added.
type painted struct {
	foreign.Objects
	seen map[int]bool
}

// page looks at a page with all its entries.
func (p *painted) page(page types.Dict) error {
	if _, err := p.Extent(page); err != nil {
		return err
	}
	if d := p.Dict(page["Resources"]); d != nil {
		if err := p.resources(d); err != nil {
			return err
		}
	}
	for _, key := range []string{"Resources", "Contents", "Group"} {
		if err := p.thing(page[key], 0); err != nil {
			return err
		}
	}
	return nil
}

// resources are kept by a list; what stretches of a page belong to is no part of what it paints.
func (p *painted) resources(d types.Dict) error {
	strip(d, "ExtGState", "ColorSpace", "Pattern", "Shading", "XObject", "Font", "ProcSet", "Properties")
	if named := p.Dict(d["Properties"]); named != nil {
		empty := types.Dict{}
		for name := range named {
			empty[name] = types.Dict{}
		}
		d["Properties"] = empty
	}
	return nil
}

// thing goes through one thing, each once.
func (p *painted) thing(o types.Object, depth int) error {
	if number := foreign.NumberOf(o); number != 0 {
		if p.seen[number] {
			return nil
		}
		p.seen[number] = true
	}
	if depth > deepest {
		return errors.New("its things lie in each other too deeply")
	}
	switch x := p.Object(o).(type) {
	case types.Array:
		for _, o := range x {
			if err := p.thing(o, depth+1); err != nil {
				return err
			}
		}
	case types.StreamDict:
		if x.Dict["F"] != nil || x.Dict["FFilter"] != nil {
			return errors.New("a part of it lies in another file")
		}
		if w, h := p.Number(x.Dict["Width"]), p.Number(x.Dict["Height"]); w*h > mostPixels || w < 0 || h < 0 {
			return fmt.Errorf("a picture in it has %.0f × %.0f points", w, h)
		}
		for _, key := range aside {
			x.Dict.Delete(key)
		}
		return p.entries(x.Dict, depth)
	case types.Dict:
		if x["Type"] != nil || x["PatternType"] != nil || x["ShadingType"] != nil { // else it holds names that anybody gave
			for _, key := range aside {
				x.Delete(key)
			}
		}
		return p.entries(x, depth)
	}
	return nil
}

func (p *painted) entries(d types.Dict, depth int) error {
	if r := p.Dict(d["Resources"]); r != nil {
		if err := p.resources(r); err != nil {
			return err
		}
	}
	for key, o := range maps.Clone(d) {
		if of := p.Dict(o); of != nil && (of["EF"] != nil || files[p.Name(of["Type"])]) {
			d.Delete(key)
			continue
		}
		if err := p.thing(o, depth+1); err != nil {
			return err
		}
	}
	return nil
}

// files are the types of what speaks of a file, holds one, or does something.
var files = map[string]bool{"Filespec": true, "F": true, "EmbeddedFile": true, "Action": true}
