package ground

import (
	"fmt"
	"maps"
	"math"
	"strings"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

	"amberseal/core/foreign"
)

// page is a page of the file.
type page struct {
	number int // its object in the file
	dict   types.Dict
	foreign.Extent
}

// seen is a place of the page as it is seen.
func (p page) seen(r [4]float64) Box {
	x0, y0 := p.point(r[0], r[1])
	x1, y1 := p.point(r[2], r[3])
	return Box{min(x0, x1), min(y0, y1), math.Abs(x1 - x0), math.Abs(y1 - y0)}
}

// point is a point of the page as it is seen, from the upper left corner.
func (p page) point(x, y float64) (float64, float64) {
	w, h := p.Box[2]-p.Box[0], p.Box[3]-p.Box[1]
	x, y = x-p.Box[0], y-p.Box[1]
	switch p.Turn {
	case 90:
		x, y = y, x
	case 180:
		x = w - x
	case 270:
		x, y = h-y, w-x
	default:
		y = h - y
	}
	return x * p.Unit, y * p.Unit
}

// matrix brings points of the page as it is seen, from its lower left corner, to its own.
func (p page) matrix() [6]float64 {
	u := 1 / p.Unit
	switch p.Turn {
	case 90:
		return [6]float64{0, u, -u, 0, p.Box[2], p.Box[1]}
	case 180:
		return [6]float64{-u, 0, 0, -u, p.Box[2], p.Box[3]}
	case 270:
		return [6]float64{0, -u, u, 0, p.Box[0], p.Box[3]}
	}
	return [6]float64{u, 0, 0, u, p.Box[0], p.Box[1]}
}

// inherited are entries that pages take from the nodes above them (ISO 32000-1, 7.7.3.4).
var inherited = []string{"Resources", "MediaBox", "CropBox", "Rotate"}

func (t *taking) pageTree() error {
	seen := map[int]bool{}
	var walk func(o types.Object, above types.Dict, depth int) error
	walk = func(o types.Object, above types.Dict, depth int) error {
		number := foreign.NumberOf(o)
		d := t.Dict(o)
		if d == nil || number == 0 || seen[number] || depth > maxDepth {
			return nil
		}
		seen[number] = true
		own := maps.Clone(above)
		for _, key := range inherited {
			if d[key] != nil {
				own[key] = d[key]
			}
		}
		if kids := t.Array(d["Kids"]); kids != nil {
			for _, k := range kids {
				if err := walk(k, own, depth+1); err != nil {
					return err
				}
			}
			return nil
		}
		if len(t.pages) >= MaxPages {
			return fmt.Errorf("the PDF has more than %d pages", MaxPages)
		}
		return t.addPage(number, d, own)
	}
	if err := walk(t.root["Pages"], types.Dict{}, 0); err != nil {
		return err
	}
	if len(t.pages) == 0 {
		return fmt.Errorf("the PDF has no pages")
	}
	return nil
}

func (t *taking) addPage(number int, d, above types.Dict) error {
	p := page{number: number, dict: maps.Clone(d)}
	for _, key := range inherited {
		if above[key] != nil {
			p.dict[key] = above[key]
		}
	}
	var err error
	if p.Extent, err = t.Extent(p.dict); err != nil {
		return fmt.Errorf("page %d of the PDF: %w", len(t.pages)+1, err)
	}
	t.pageOf[number] = len(t.pages)
	t.pages = append(t.pages, p)
	return nil
}

// page writes what stays of a page.
func (t *taking) page(i int) error {
	p, out := &t.pages[i], &t.out.Base.Pages[i]
	out.Width, out.Height = p.Size()
	out.Matrix = p.matrix()
	var b []byte
	for _, key := range []string{"MediaBox", "CropBox", "BleedBox", "TrimBox", "ArtBox", "Rotate", "UserUnit", "Group", "Tabs"} {
		if o := p.dict[key]; o != nil {
			b = t.write(append(append(append(b, " /"...), key...), ' '), t.Object(o), 0)
		}
	}
	out.Entries = string(b)
	out.Contents = t.contents(p.dict["Contents"])
	resources := t.Dict(p.dict["Resources"])
	out.Named = map[string]string{}
	for _, kind := range []string{"Font", "XObject", "Shading"} {
		if d := t.Dict(resources[kind]); d != nil {
			out.Named[kind] = string(t.entries(nil, d, 0))
		}
	}
	out.Resources = string(t.entries(nil, resources, 0, "Font", "XObject", "Shading"))
	t.notes(i)
	t.out.Rules = append(t.out.Rules, t.rules(*p))
	return nil
}

func (t *taking) contents(o types.Object) []int {
	all := t.Array(o)
	if all == nil {
		all = types.Array{o}
	}
	var out []int
	for _, c := range all {
		if number := foreign.NumberOf(c); number != 0 {
			if _, ok := t.Object(c).(types.StreamDict); ok {
				out = append(out, t.reserve(number))
			}
		}
	}
	return out
}

// notes keeps a page’s annotations that are no fields: links, and what people wrote on the page.
func (t *taking) notes(i int) {
	out := &t.out.Base.Pages[i]
	for _, o := range t.Array(t.pages[i].dict["Annots"]) {
		d := t.Dict(o)
		number := foreign.NumberOf(o)
		if d == nil || t.withheld[number] {
			continue
		}
		switch kind := t.Name(d["Subtype"]); kind {
		case "Widget": // of no field
			continue
		case "Link", "Text", "FreeText", "Line", "Square", "Circle", "Polygon", "PolyLine", "Highlight", "Underline", "Squiggly",
			"StrikeOut", "Stamp", "Caret", "Ink", "Popup":
		default:
			t.actions = true
			continue
		}
		n, ok := t.numbers[number]
		if !ok || number == 0 {
			if n = t.add(nil); number != 0 {
				t.numbers[number] = n
			}
		}
		body := t.entries([]byte("<<"), d, 0, "AA")
		t.out.Base.Objects[n-1].Body = append(body, ">>"...)
		out.Notes = append(out.Notes, n)
		if d["AA"] != nil {
			t.actions = true
		}
	}
}

// content is what a page paints, decoded.
func (t *taking) content(o types.Object) string {
	all := t.Array(o)
	if all == nil {
		all = types.Array{o}
	}
	var b strings.Builder
	for _, c := range all {
		if s, ok := t.Object(c).(types.StreamDict); ok && b.Len() < 8<<20 {
			if err := s.Decode(); err == nil {
				b.Write(s.Content)
				b.WriteByte('\n')
			}
		}
	}
	return b.String()
}
