// Package pdf writes set pages as a tagged PDF 1.7 file (ISO 32000-1:2008).
//
// In go typeset.Pages and the file's properties, out come bytes: subset embedded fonts,
// pictures, the structure tree with reading order, language and alternatives, links, and
// an outline. The same input gives the same bytes. It reads no clock and no files.
package pdf

import (
	"bytes"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"amberseal/core/print/typeface"
	"amberseal/core/print/typeset"
)

// Properties are what a reader shows about the file besides its title.
type Properties struct {
	Author   string
	Subject  string
	Keywords string
	Made     time.Time

	Fillable bool        // entries become fields of an interactive form
	Protect  *Protection // nil for a file that everybody may read and change
	Archival Archival    // never together with the two above
	Extended bool        // pages of others are added afterwards, for which nothing can be said
	Files    []File      // carried inside; of the archival levels only A-3b allows it
	Behind   *Behind     // never of an archival file: nothing is known of what it shows
}

// Write gives the file's bytes and uses the pages up: their items are gone afterwards. It fails on damaged fonts and
// pictures, and on properties that exclude each other. It is safe for many goroutines.
func Write(pages *typeset.Pages, p Properties) ([]byte, error) {
	if p.Archival != NotArchival && (p.Protect != nil || p.Fillable || p.Behind != nil) {
		return nil, errNotArchival
	}
	if len(p.Files) > 0 && (p.Archival == A1b || p.Archival == A2b) {
		return nil, errCarries
	}
	w := &writer{
		level:    p.Archival,
		flat:     p.Archival == A1b,
		fillable: p.Fillable,
		pages:    pages,
		fonts:    map[*typeface.Face]*fontUse{},
		images:   map[*typeset.Image]imageUse{},
		shadeOf:  map[string]int{},
		content:  map[*typeset.Element][]content{},
	}
	return w.write(p)
}

// moment writes a time (section 7.9.4).
func moment(t time.Time) string { return "D:" + t.UTC().Format("20060102150405") + "Z" }

const producer = "Amber Seal"

type writer struct {
	file
	level     Archival
	prefix    string // of the names of resources
	fillable  bool
	pages     *typeset.Pages
	fonts     map[*typeface.Face]*fontUse
	faces     []*typeface.Face // in order of first use
	images    map[*typeset.Image]imageUse
	imageList []*typeset.Image
	shades    []ref          // of gradients; S1 is the first
	shadeOf   map[string]int // by its dictionary
	pageRefs  []ref
	content   map[*typeset.Element][]content
	parents   [][]*typeset.Element // of page i: the element of each marked content
	behind    [2]laid              // the first page, and all others
	flat      bool                 // nothing is see-through
	shared    ref                  // the resources of all pages
	groups    []ref                // shapes that are painted together; T1 is the first
	alphas    []int                // opacities that are asked for, in hundredths
}

type imageUse struct {
	name string
	ref  ref
}

// content is where an element's marks stand: marked content, or a link's annotation.
type content struct {
	page, mcid int
	annotation ref
}

func (w *writer) write(p Properties) ([]byte, error) {
	if err := w.lay(p.Behind); err != nil {
		return nil, err
	}
	catalog, tree := w.reserve(), w.reserve()
	w.shared = w.reserve()
	for range w.pages.Pages {
		w.pageRefs = append(w.pageRefs, w.reserve())
	}
	streams := make([]ref, len(w.pages.Pages))
	for i := range w.pages.Pages {
		data, err := w.page(i)
		if err != nil {
			return nil, err
		}
		streams[i] = w.stream("", data)
		w.pages.Pages[i].Items = nil // what is written is let go, or a long document would lie in memory twice
	}
	named, err := w.resources()
	if err != nil {
		return nil, err
	}
	w.set(w.shared, "<<%s>>", named.join(nil))
	annotated := w.annotations()
	form := ""
	if p.Fillable {
		form = w.widgets(annotated)
	}
	for i, r := range w.pageRefs {
		annots := ""
		if len(annotated[i]) > 0 {
			annots = fmt.Sprintf(" /Annots %v", annotated[i])
		}
		w.set(r, "<</Type /Page /Parent %s /MediaBox [0 0 %s %s] /Resources %s /Contents %s /StructParents %d /Tabs /S%s>>",
			tree, num(w.pages.Pages[i].Width), num(w.pages.Pages[i].Height), w.shared, streams[i], i, annots)
	}
	w.set(tree, "<</Type /Pages /Count %d /Kids %v>>", len(w.pageRefs), w.pageRefs)
	structure := w.structure()
	carried := w.carry(p.Files, p.Made)
	outline := w.outline()
	archive := w.describe(p)
	w.set(
		catalog,
		"<</Type /Catalog /Pages %s /Lang %s /MarkInfo <</Marked true>> /StructTreeRoot %s /ViewerPreferences <</DisplayDocTitle "+
			"true>>%s%s%s%s>>",
		tree, TextString(w.pages.Language), structure, outline, form, archive, carried,
	)
	return w.finish(catalog, p)
}

// finish writes what readers show about the file, and gives its bytes.
func (w *writer) finish(catalog ref, p Properties) ([]byte, error) {
	made := moment(p.Made)
	entries := ""
	for _, e := range [][2]string{{"Title", w.pages.Title}, {"Author", p.Author}, {"Subject", p.Subject}, {"Keywords", p.Keywords}} {
		if e[1] != "" {
			entries += " /" + e[0] + " " + TextString(e[1])
		}
	}
	info := w.add("<<%s /Producer (%s) /CreationDate (%s) /ModDate (%s)>>", entries, producer, made, made)
	if p.Archival == A1b {
		return w.classic(catalog, info), nil
	}
	if p.Protect == nil {
		return w.bytes(catalog, info, nil)
	}
	l, err := newLocker(*p.Protect)
	if err != nil {
		return nil, err
	}
	return w.bytes(catalog, info, l)
}

// usualContent is how many bytes a page's content usually stays under.
const usualContent = 32 << 10

// page writes a page's content: runs of items that mean the same in one marked sequence.
func (w *writer) page(index int) ([]byte, error) {
	b := w.under(make([]byte, 0, usualContent), index)
	w.parents = append(w.parents, nil)
	items := w.pages.Pages[index].Items
	var colour typeset.Colour // black is the initial colour
	for i := 0; i < len(items); {
		e := typeset.ElementOf(items[i])
		if e == nil {
			if p := typeset.PaginationOf(items[i]); p != "" {
				b = append(append(append(b, "/Artifact <</Type /Pagination /Subtype /"...), p...), ">> BDC\n"...)
			} else {
				b = append(b, "/Artifact <</Type /Layout>> BDC\n"...)
			}
		} else {
			mcid := len(w.parents[index])
			w.parents[index] = append(w.parents[index], e)
			w.content[e] = append(w.content[e], content{page: index, mcid: mcid})
			b = append(append(b, '/'), e.Role...)
			b = strconv.AppendInt(append(b, " <</MCID "...), int64(mcid), 10)
			b = append(b, ">> BDC\n"...)
		}
		kind := typeset.PaginationOf(items[i])
		for ; i < len(items) && typeset.ElementOf(items[i]) == e && typeset.PaginationOf(items[i]) == kind; i++ {
			var err error
			if b, err = w.item(b, w.pages.Pages[index].Height, items[i], &colour); err != nil {
				return nil, err
			}
		}
		b = append(b, "EMC\n"...)
	}
	return b, nil
}

func (w *writer) item(b []byte, height float64, item typeset.Item, colour *typeset.Colour) ([]byte, error) {
	switch x := item.(type) {
	case *typeset.Glyphs:
		use := w.fonts[x.Face]
		if use == nil {
			var err error
			if use, err = newFontUse(x.Face, fmt.Sprintf("%sF%d", w.prefix, len(w.faces)+1)); err != nil {
				return nil, err
			}
			w.fonts[x.Face] = use
			w.faces = append(w.faces, x.Face)
		}
		b = fill(b, x.Colour, colour)
		return use.glyphs(b, x, height), nil
	case *typeset.Box:
		b = fill(b, x.Colour, colour)
		for _, v := range [4]float64{x.X, height - x.Y - x.H, x.W, x.H} {
			b = append(appendNum(b, v), ' ')
		}
		return append(b, "re f\n"...), nil
	case *typeset.DrawingAt:
		return w.drawing(b, x, height), nil
	case *typeset.ImageAt:
		use, ok := w.images[x.Image]
		if !ok {
			r, err := w.image(x.Image, w.level)
			if err != nil {
				return nil, err
			}
			use = imageUse{fmt.Sprintf("%sI%d", w.prefix, len(w.images)+1), r}
			w.images[x.Image] = use
			w.imageList = append(w.imageList, x.Image)
		}
		return fmt.Appendf(b, "q %s 0 0 %s %s %s cm /%s Do Q\n", num(x.W), num(x.H), num(x.X), num(height-x.Y-x.H), use.name), nil
	}
	return b, nil
}

func fill(b []byte, want typeset.Colour, have *typeset.Colour) []byte {
	if want == *have {
		return b
	}
	*have = want
	for _, v := range [3]uint8{want.R, want.G, want.B} {
		b = append(appendNum(b, float64(v)/255), ' ')
	}
	return append(b, "rg\n"...)
}

// resourceNames are entries of resources by the name of their dictionary (section 7.8.3).
type resourceNames map[string]string

// join are the dictionaries, with more entries before these.
func (r resourceNames) join(more map[string]string) string {
	var b strings.Builder
	for _, kind := range []string{"Font", "XObject", "Shading", "ExtGState"} {
		if all := more[kind] + r[kind]; all != "" {
			fmt.Fprintf(&b, " /%s <<%s>>", kind, all)
		}
	}
	return b.String()
}

// resources writes fonts, and gives the names by which pages speak of them, of pictures and of gradients.
func (w *writer) resources() (resourceNames, error) {
	out := resourceNames{}
	for _, face := range w.faces {
		use := w.fonts[face]
		font, err := use.write(&w.file, w.level)
		if err != nil {
			return nil, err
		}
		out["Font"] += fmt.Sprintf("/%s %s ", use.name, font)
	}
	for _, img := range w.imageList {
		out["XObject"] += fmt.Sprintf("/%s %s ", w.images[img].name, w.images[img].ref)
	}
	for i, g := range w.groups {
		out["XObject"] += fmt.Sprintf("/%sT%d %s ", w.prefix, i+1, g)
	}
	for _, n := range w.alphas {
		v := num(float64(n) / 100)
		out["ExtGState"] += fmt.Sprintf("/%sA%d <</ca %s /CA %s>> ", w.prefix, n, v, v)
	}
	for i, x := range w.behind {
		if x.ref != 0 {
			out["XObject"] += fmt.Sprintf("%s %s ", behindName(i), x.ref)
		}
	}
	for i, s := range w.shades {
		out["Shading"] += fmt.Sprintf("/%sS%d %s ", w.prefix, i+1, s)
	}
	return out, nil
}

// annotations adds the links of each page and ties them to their elements.
func (w *writer) annotations() [][]ref {
	out := make([][]ref, len(w.pages.Pages))
	parent := len(w.pages.Pages)
	for i, sheet := range w.pages.Pages {
		for _, l := range sheet.Links {
			y := sheet.Height - l.Y
			r := w.add(
				"<</Type /Annot /Subtype /Link /Rect [%s %s %s %s] /Border [0 0 0] /F 4 /StructParent %d /Contents %s %s>>",
				num(l.X), num(y-l.H), num(l.X+l.W), num(y), parent, TextString(l.Words), w.leads(l.Address),
			)
			out[i] = append(out[i], r)
			w.content[l.Element] = append(w.content[l.Element], content{page: i, annotation: r})
			w.parents = append(w.parents, []*typeset.Element{l.Element})
			parent++
		}
	}
	return out
}

// leads is where a link leads: out, or to a place of the document, the first page where that is not in it.
func (w *writer) leads(address string) string {
	name, inside := strings.CutPrefix(address, "#")
	if !inside {
		return fmt.Sprintf("/A <</S /URI /URI %s>>", TextString(asciiAddress(address)))
	}
	at := w.pages.Names[name]
	return fmt.Sprintf("/Dest [%s /XYZ 0 %s null]", w.pageRefs[at.Page], num(w.pages.Pages[at.Page].Height-at.Y))
}

// asciiAddress escapes what an address may not hold as it is (RFC 3986 section 2.1).
func asciiAddress(s string) string {
	var b bytes.Buffer
	for _, c := range []byte(s) {
		if c <= ' ' || c > '~' {
			fmt.Fprintf(&b, "%%%02X", c)
		} else {
			b.WriteByte(c)
		}
	}
	return b.String()
}

// structure writes the tree of elements and its parent tree (section 14.7).
func (w *writer) structure() ref {
	root := w.reserve()
	refs := map[*typeset.Element]ref{}
	top := w.element(w.pages.Root, root, refs)
	var nums bytes.Buffer
	for i, elements := range w.parents {
		if i >= len(w.pages.Pages) {
			fmt.Fprintf(&nums, "%d %s ", i, refs[elements[0]])
			continue
		}
		list := make([]ref, len(elements))
		for j, e := range elements {
			list[j] = refs[e]
		}
		fmt.Fprintf(&nums, "%d %s ", i, w.add("%v", list))
	}
	parentTree := w.add("<</Nums [%s]>>", nums.Bytes())
	w.set(root, "<</Type /StructTreeRoot /K [%s] /ParentTree %s /ParentTreeNextKey %d>>", top, parentTree, len(w.parents))
	return root
}

func (w *writer) element(e *typeset.Element, parent ref, refs map[*typeset.Element]ref) ref {
	r := w.reserve()
	refs[e] = r
	b := make([]byte, 0, 128)
	b = append(append(b, "<</Type /StructElem /S /"...), e.Role...)
	b = append(parent.write(append(b, " /P "...)), w.attributes(e)...)
	marks := w.content[e]
	if len(marks) > 0 { // marks on this page need say no more than their number (section 14.7.4.2)
		b = w.pageRefs[marks[0].page].write(append(b, " /Pg "...))
	}
	b = append(b, " /K ["...)
	for _, c := range marks {
		switch {
		case c.annotation != 0:
			b = w.pageRefs[c.page].write(append(b, "<</Type /OBJR /Pg "...))
			b = append(c.annotation.write(append(b, " /Obj "...)), ">> "...)
		case c.page == marks[0].page:
			b = append(strconv.AppendInt(b, int64(c.mcid), 10), ' ')
		default:
			b = w.pageRefs[c.page].write(append(b, "<</Type /MCR /Pg "...))
			b = strconv.AppendInt(append(b, " /MCID "...), int64(c.mcid), 10)
			b = append(b, ">> "...)
		}
	}
	for _, kid := range e.Kids {
		b = append(w.element(kid, r, refs).write(b), ' ')
	}
	b = append(bytes.TrimSuffix(b, []byte{' '}), "]>>"...)
	w.setBytes(r, b)
	return r
}

// printed are the roles of entries in a file that is not filled on screen (section 14.8.5.6).
var printed = map[typeset.EntryKind]string{
	typeset.TextEntry:   "tv",
	typeset.MenuEntry:   "tv",
	typeset.TickEntry:   "cb",
	typeset.ChoiceEntry: "rb",
}

// attributes are what an element says of itself besides its role (section 14.8.5).
func (w *writer) attributes(e *typeset.Element) string {
	more := ""
	if e.Role == "L" {
		numbering := "Disc"
		if e.Numbered {
			numbering = "Decimal"
		}
		more = " /A <</O /List /ListNumbering /" + numbering + ">>"
	}
	if e.Entry != nil && !w.fillable {
		more += " /A <</O /PrintField /Role /" + printed[e.Entry.Kind] + " /Desc " + TextString(e.Entry.Label) + ">>"
	}
	if e.Scope != "" || e.Span > 1 || e.Down > 1 {
		more += " /A <</O /Table"
		if e.Scope != "" {
			more += " /Scope /" + e.Scope
		}
		if e.Span > 1 {
			more += " /ColSpan " + strconv.Itoa(e.Span)
		}
		if e.Down > 1 {
			more += " /RowSpan " + strconv.Itoa(e.Down)
		}
		more += ">>"
	}
	if e.Lang != "" {
		more += " /Lang " + TextString(e.Lang)
	}
	if e.BBox != nil {
		h := w.pages.Pages[e.Page].Height
		more += fmt.Sprintf(
			" /Alt %s /A <</O /Layout /Placement /Block /BBox [%s %s %s %s]>>", TextString(e.Alt), num(e.BBox[0]), num(h-e.BBox[3]),
			num(e.BBox[2]), num(h-e.BBox[1]),
		)
	}
	return more
}

// outline writes the headings as bookmarks, nested by level (section 12.3.3).
func (w *writer) outline() string {
	heads := w.pages.Outline
	if len(heads) == 0 {
		return ""
	}
	root := w.reserve()
	refs := make([]ref, len(heads))
	for i := range heads {
		refs[i] = w.reserve()
	}
	parent := make([]int, len(heads)) // -1 is the root
	kids := map[int][]int{}
	for i := range heads {
		parent[i] = -1
		for j := i - 1; j >= 0; j-- {
			if heads[j].Level < heads[i].Level {
				parent[i] = j
				break
			}
		}
		kids[parent[i]] = append(kids[parent[i]], i)
	}
	for i, h := range heads {
		up := root
		if parent[i] >= 0 {
			up = refs[parent[i]]
		}
		siblings := kids[parent[i]]
		at := slices.Index(siblings, i)
		more := ""
		if at > 0 {
			more += " /Prev " + refs[siblings[at-1]].String()
		}
		if at+1 < len(siblings) {
			more += " /Next " + refs[siblings[at+1]].String()
		}
		if k := kids[i]; len(k) > 0 {
			more += fmt.Sprintf(" /First %s /Last %s /Count %d", refs[k[0]], refs[k[len(k)-1]], len(k))
		}
		w.set(
			refs[i], "<</Title %s /Parent %s /Dest [%s /XYZ 0 %s null]%s>>", TextString(h.Text), up, w.pageRefs[h.Page],
			num(w.pages.Pages[h.Page].Height-h.Y), more,
		)
	}
	top := kids[-1]
	w.set(root, "<</Type /Outlines /First %s /Last %s /Count %d>>", refs[top[0]], refs[top[len(top)-1]], len(heads))
	return " /Outlines " + root.String()
}
