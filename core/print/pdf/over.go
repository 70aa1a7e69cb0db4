package pdf

import (
	"bytes"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	"amberseal/core/print/typeface"
	"amberseal/core/print/typeset"
)

// Over is what is written over a base besides pages.
type Over struct {
	Base     *Base
	Fills    []Fill
	Fillable bool // fields stay, with what was filled in; otherwise they become a part of their page
}

// Fill is a widget that was filled, or one that becomes a part of its page as it is.
type Fill struct {
	Widget  int              // its object
	Page    int              // counted from 0
	Element *typeset.Element // that of the items which show it; nil where a look of the base does
	Look    int              // a form XObject of the base that is painted; 0 for none
	Place   [6]float64       // the matrix that brings the look to its place on the page

	// Of files that stay fillable.
	Fixed        bool       // it becomes a part of its page all the same, and the field goes
	Field        int        // its object; the widget’s own where the field has no other
	FieldEntries string     // of the field besides its value
	Entries      string     // of the widget besides its state and look; empty where it is the field itself
	Looks        string     // entries of its looks and state, where they stay
	Rect         [4]float64 // of the page
	Value        string     // written out
}

// WriteOver writes set pages over those of a base, the first over the first; there are as many. Words that show a field take the
// field's place in the structure, all others stand at its end. It uses the pages up, as Write does.
func WriteOver(pages *typeset.Pages, p Properties, over Over) ([]byte, error) {
	w := &overWriter{
		writer: writer{
			prefix: over.Base.prefix(), pages: pages, fonts: map[*typeface.Face]*fontUse{}, images: map[*typeset.Image]imageUse{},
			shadeOf: map[string]int{}, content: map[*typeset.Element][]content{}, flat: true,
		},
		Over: over, fill: map[*typeset.Element]*Fill{}, shown: map[int]int{}, looks: map[int]ref{},
		mixed: map[int]ref{},
	}
	return w.write(p)
}

// prefix begins the names of resources that are added: no name of the base begins so.
func (b *Base) prefix() string {
	prefix := "As"
	for i := 0; i < len(b.Pages); i++ {
		for _, all := range b.Pages[i].Named {
			if strings.Contains(all, "/"+prefix) {
				prefix, i = prefix+"s", -1
				break
			}
		}
	}
	return prefix
}

// watermark is what typeset calls what lies across pages.
const watermark = "Watermark"

type overWriter struct {
	writer
	Over
	fill   map[*typeset.Element]*Fill
	shown  map[int]int // the marked content that shows a widget
	marked [][]string  // of page i: what each marked content that was added belongs to
	added  [][]*typeset.Element
	looks  map[int]ref // of widgets that stay fields
	own    ref         // the resources of all that is added
	mixed  map[int]ref // of page i: what is mixed with what it shows
}

func (w *overWriter) write(p Properties) ([]byte, error) {
	n := w.Base.Lasting
	if w.Fillable {
		n = len(w.Base.Objects)
	}
	w.objects = make([]object, n, n+64)
	for i, o := range w.Base.Objects[:n] {
		w.objects[i] = object{body: o.Body, stream: o.Stream}
	}
	for i := range w.Fills {
		if f := &w.Fills[i]; f.Element != nil {
			w.fill[f.Element] = f
		}
	}
	for _, x := range w.Base.Pages {
		w.pageRefs = append(w.pageRefs, ref(x.Object))
	}
	w.own = w.reserve()
	streams := make([]ref, len(w.Base.Pages))
	for i := range w.Base.Pages {
		data, err := w.page(i)
		if err != nil {
			return nil, err
		}
		if len(data) > 0 {
			streams[i] = w.stream("", data)
		}
		w.pages.Pages[i].Items = nil
	}
	named, err := w.resources()
	if err != nil {
		return nil, err
	}
	w.set(w.own, "<<%s /ExtGState <</%sG <</BM /Multiply>>>>>>", named.join(nil), w.prefix)
	catalog, tree, before := w.reserve(), w.reserve(), w.stream("", []byte("q\n"))
	for i := range w.Base.Pages {
		w.sheet(i, tree, before, streams[i], named)
	}
	w.set(tree, "<</Type /Pages /Count %d /Kids %v>>", len(w.pageRefs), w.pageRefs)
	entries := w.Base.Catalog
	if t := w.Base.Tree; t != nil {
		w.tree(t)
		entries += fmt.Sprintf(" /StructTreeRoot %d 0 R /MarkInfo <</Marked true>>", t.Object)
	}
	if w.Fillable && len(w.Base.Fields) > 0 {
		entries += " /AcroForm " + w.form().String()
	}
	p.Archival = NotArchival
	w.set(catalog, "<</Type /Catalog /Pages %s /ViewerPreferences <</DisplayDocTitle true>> /Metadata %s%s%s>>", tree,
		w.rawStream("/Type /Metadata /Subtype /XML", xmp(w.pages.Title, p, false)), entries, w.carry(p.Files, p.Made))
	return w.finish(catalog, p)
}

// page writes what is added to a page, and the looks of fields that stay fields.
func (w *overWriter) page(index int) ([]byte, error) {
	x, sheet := w.Base.Pages[index], &w.pages.Pages[index]
	w.marked, w.added = append(w.marked, nil), append(w.added, nil)
	matrix := appendMatrix(nil, x.Matrix)
	b := append(append([]byte("q "), matrix...), " cm\n"...)
	empty := len(b)
	var colour typeset.Colour // black is the initial colour
	for i := 0; i < len(sheet.Items); {
		e := typeset.ElementOf(sheet.Items[i])
		f := w.fill[e]
		to, ink := &b, &colour
		var alone []byte
		var fresh typeset.Colour
		kind := typeset.PaginationOf(sheet.Items[i])
		field := f != nil && w.Fillable && !f.Fixed
		alongside := kind == watermark // mixed with what the page shows, which it must not hide
		if field {                     // the look of a field is a drawing by itself
			alone = append(append([]byte("/Tx BMC q "), matrix...), " cm\n"...)
			to, ink = &alone, &fresh
		} else if *to = w.mark(*to, index, e, f); alongside {
			alone = fmt.Appendf(nil, "/%sG gs\n", w.prefix)
			to, ink = &alone, &fresh
		}
		for ; i < len(sheet.Items) && typeset.ElementOf(sheet.Items[i]) == e && typeset.PaginationOf(sheet.Items[i]) == kind; i++ {
			var err error
			if *to, err = w.item(*to, sheet.Height, sheet.Items[i], ink); err != nil {
				return nil, err
			}
		}
		if field {
			w.looks[f.Widget] = w.stream(fmt.Sprintf("/Type /XObject /Subtype /Form /BBox [%s] /Resources %s", rect(f.Rect), w.own),
				append(alone, "Q EMC\n"...))
			continue
		}
		if alongside {
			box := fmt.Sprintf("/Type /XObject /Subtype /Form /BBox [0 0 %s %s] /Resources %s", num(sheet.Width), num(sheet.Height), w.own)
			w.mixed[index] = w.stream(box, alone)
			b = fmt.Appendf(b, "/%sW Do\n", w.prefix)
		}
		if w.Base.Tree != nil {
			b = append(b, "EMC\n"...)
		}
	}
	b = append(b, "Q\n"...)
	painted := len(b) > empty+2
	if !painted {
		b = b[:0]
	}
	if !w.Fillable {
		for i := range w.Fills {
			if f := &w.Fills[i]; f.Page == index && f.Element == nil && f.Look != 0 {
				b = w.mark(b, index, nil, f)
				b = append(appendMatrix(append(b, "q "...), f.Place), fmt.Sprintf(" cm /%sL%d Do Q\n", w.prefix, f.Look)...)
				if w.Base.Tree != nil {
					b = append(b, "EMC\n"...)
				}
			}
		}
	}
	return b, nil
}

// mark begins marked content, where the base has a structure.
func (w *overWriter) mark(b []byte, page int, e *typeset.Element, f *Fill) []byte {
	if w.Base.Tree == nil {
		return b
	}
	n := len(w.Base.Pages[page].Marked) + len(w.marked[page])
	role := "Form"
	switch {
	case f != nil:
		holder := w.holder(f.Widget)
		if holder == 0 {
			return append(b, "/Artifact BMC\n"...)
		}
		w.shown[f.Widget] = n
		w.marked[page], w.added[page] = append(w.marked[page], ref(holder).String()), append(w.added[page], nil)
	case e == nil:
		return append(b, "/Artifact BMC\n"...)
	default:
		role = e.Role
		w.marked[page], w.added[page] = append(w.marked[page], ""), append(w.added[page], e)
		w.content[e] = append(w.content[e], content{page: page, mcid: n})
	}
	return fmt.Appendf(b, "/%s <</MCID %d>> BDC\n", role, n)
}

// holder is the element of the structure that holds a widget, or 0.
func (w *overWriter) holder(widget int) int {
	for _, e := range w.Base.Tree.Elements {
		for _, k := range e.Kids {
			if k.Widget == widget {
				return e.Object
			}
		}
	}
	return 0
}

// sheet writes a page's dictionary.
func (w *overWriter) sheet(index int, tree, before, stream ref, named resourceNames) {
	x := w.Base.Pages[index]
	contents := make([]ref, 0, len(x.Contents)+2)
	for _, c := range x.Contents {
		contents = append(contents, ref(c))
	}
	mine := maps.Clone(x.Named)
	if mine == nil {
		mine = map[string]string{}
	}
	if stream != 0 {
		contents = append(append(slices.Insert(contents, 0, before), w.stream("", []byte("\nQ\n"))), stream)
	}
	for i := range w.Fills {
		if f := &w.Fills[i]; f.Page == index && f.Element == nil && f.Look != 0 && !w.Fillable {
			if entry := fmt.Sprintf(" /%sL%d %d 0 R", w.prefix, f.Look, f.Look); !strings.Contains(mine["XObject"], entry) {
				mine["XObject"] += entry
			}
		}
	}
	if r, ok := w.mixed[index]; ok {
		mine["XObject"] += fmt.Sprintf(" /%sW %s", w.prefix, r)
	}
	notes := slices.Clone(x.Notes)
	if w.Fillable {
		for _, n := range x.Widgets {
			if !w.fixed(n) {
				notes = append(notes, n)
			}
		}
	}
	annots := ""
	if len(notes) > 0 {
		refs := make([]ref, len(notes))
		for i, n := range notes {
			refs[i] = ref(n)
		}
		annots = fmt.Sprintf(" /Annots %v", refs)
	}
	parents := ""
	if w.Base.Tree != nil {
		parents = fmt.Sprintf(" /StructParents %d", x.Parents)
	}
	w.set(w.pageRefs[index], "<</Type /Page /Parent %s%s /Resources <<%s%s>> /Contents %v%s%s>>", tree, x.Entries, x.Resources,
		named.join(mine), contents, annots, parents)
}

// tree writes what of the structure is written anew: what holds fields, what was added, and the tree of parents.
func (w *overWriter) tree(t *BaseTree) {
	refs := map[*typeset.Element]ref{}
	up, top := ref(t.Object), t.Top
	if top.Object != 0 {
		up = ref(top.Object)
	}
	var more []string
	for _, e := range w.pages.Root.Kids {
		if w.fill[e] == nil {
			more = append(more, w.element(e, up, refs).String())
		}
	}
	for _, e := range t.Elements {
		w.holding(e, nil)
	}
	kids := t.Kids
	if top.Object != 0 {
		w.holding(top, more)
	} else {
		kids = append(slices.Clone(kids), more...)
	}
	var nums bytes.Buffer
	nums.WriteString(t.Parents)
	for i, x := range w.Base.Pages {
		all := slices.Clone(x.Marked)
		for j, m := range w.marked[i] {
			if e := w.added[i][j]; e != nil {
				m = refs[e].String()
			}
			all = append(all, m)
		}
		fmt.Fprintf(&nums, " %d %s", x.Parents, w.add("%v", all))
	}
	w.set(ref(t.Object), "<</Type /StructTreeRoot%s /K %v /ParentTree %s /ParentTreeNextKey %d>>", t.Entries, kids,
		w.add("<</Nums [%s]>>", sorted(nums.String())), t.Next)
}

// holding writes an element of the base that holds fields, and more.
func (w *overWriter) holding(e BaseElement, more []string) {
	var kids []string
	printed := ""
	for _, k := range e.Kids {
		switch mcid, ok := w.shown[k.Widget]; {
		case k.Widget == 0:
			kids = append(kids, k.Body)
		case w.Fillable && !w.fixed(k.Widget):
			kids = append(kids, fmt.Sprintf("<</Type /OBJR /Pg %s /Obj %d 0 R>>", w.pageRefs[k.Page], k.Widget))
		case ok:
			kids = append(kids, fmt.Sprintf("<</Type /MCR /Pg %s /MCID %d>>", w.pageRefs[k.Page], mcid))
			fallthrough
		default:
			printed = " /A <</O /PrintField /Role /tv>>" // section 14.8.5.6
		}
	}
	if strings.Contains(e.Entries, "/A ") {
		printed = ""
	}
	w.set(ref(e.Object), "<<%s%s /K %v>>", e.Entries, printed, append(kids, more...))
}

// sorted are the pairs of a number tree in the order of their numbers, as section 7.9.7 asks.
func sorted(pairs string) string {
	type pair struct {
		key  int
		body string
	}
	var all []pair
	words := strings.Fields(pairs) // a number and a reference
	for i := 0; i+3 < len(words); i += 4 {
		key, err := strconv.Atoi(words[i])
		if err == nil {
			all = append(all, pair{key, strings.Join(words[i:i+4], " ")})
		}
	}
	slices.SortFunc(all, func(a, b pair) int { return a.key - b.key })
	var b strings.Builder
	for _, p := range all {
		b.WriteString(p.body)
		b.WriteByte(' ')
	}
	return b.String()
}

// form writes the interactive form with what was filled in.
func (w *overWriter) form() ref {
	for i := range w.Fills {
		f := &w.Fills[i]
		if f.Field == 0 || f.Fixed {
			continue
		}
		value, looks := "", f.Looks
		if f.Value != "" {
			value = " /V " + f.Value
		}
		if r, ok := w.looks[f.Widget]; ok {
			looks = fmt.Sprintf(" /AP <</N %s>>", r)
		}
		if f.Field == f.Widget {
			w.set(ref(f.Field), "<<%s%s%s>>", f.FieldEntries, value, looks)
			continue
		}
		w.set(ref(f.Field), "<<%s%s>>", f.FieldEntries, value)
		w.set(ref(f.Widget), "<<%s%s>>", f.Entries, looks)
	}
	var fields []ref
	for _, f := range w.Base.Fields {
		if !w.fixed(f) {
			fields = append(fields, ref(f))
		}
	}
	return w.add("<</Fields %v%s>>", fields, w.Base.Form)
}

// fixed reports whether a widget, or the field that is one, becomes a part of its page although the others stay.
func (w *overWriter) fixed(widget int) bool {
	return slices.ContainsFunc(w.Fills, func(f Fill) bool { return f.Fixed && f.Widget == widget })
}

func rect(r [4]float64) string {
	return num(r[0]) + " " + num(r[1]) + " " + num(r[2]) + " " + num(r[3])
}

// appendMatrix writes a matrix with more decimals than a place needs, since it is multiplied.
func appendMatrix(b []byte, m [6]float64) []byte {
	for i, v := range m {
		if i > 0 {
			b = append(b, ' ')
		}
		b = strconv.AppendFloat(b, v, 'f', -1, 32)
	}
	return b
}
