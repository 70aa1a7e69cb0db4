package pdf

import (
	"fmt"
	"slices"
	"strings"

	"amberseal/core/print/typeset"
)

// Interactive forms: ISO 32000-1 section 12.7.

// formField is a node of the field tree: a part of a name, with kids or with widgets.
type formField struct {
	part    string
	kids    []*formField
	widgets []formWidget
	ref     ref
}

type formWidget struct {
	typeset.Widget
	page int
}

func (f *formField) kid(part string) *formField {
	for _, k := range f.kids {
		if k.part == part {
			return k
		}
	}
	k := &formField{part: part}
	f.kids = append(f.kids, k)
	return k
}

// Flags of fields.
const (
	flagMultiline   = 1 << 12
	flagNoToggleOff = 1 << 14
	flagRadio       = 1 << 15
	flagCombo       = 1 << 17
)

// widgets adds a field for each entry, and gives the annotations of each page and the catalog's form.
func (w *writer) widgets(annotated [][]ref) string {
	root := &formField{}
	for i, sheet := range w.pages.Pages {
		for _, x := range sheet.Widgets {
			f := root
			for part := range strings.SplitSeq(x.Entry.Name, ".") {
				f = f.kid(part)
			}
			f.widgets = append(f.widgets, formWidget{Widget: x, page: i})
		}
	}
	if len(root.kids) == 0 {
		return ""
	}
	var top []ref
	for _, k := range root.kids {
		top = append(top, w.formField(k, 0, annotated))
	}
	font := w.add("<</Type /Font /Subtype /Type1 /BaseFont /Helvetica /Encoding /WinAnsiEncoding>>")
	form := w.add("<</Fields %v /NeedAppearances true /DA (/Helv 10 Tf 0 g) /DR <</Font <</Helv %s>>>>>>", top, font)
	return " /AcroForm " + form.String()
}

func (w *writer) formField(f *formField, parent ref, annotated [][]ref) ref {
	f.ref = w.reserve()
	up := ""
	if parent != 0 {
		up = " /Parent " + parent.String()
	}
	if len(f.widgets) == 0 {
		var kids []ref
		for _, k := range f.kids {
			kids = append(kids, w.formField(k, f.ref, annotated))
		}
		w.set(f.ref, "<</T %s%s /Kids %v>>", TextString(f.part), up, kids)
		return f.ref
	}
	e := f.widgets[0].Entry
	if e.Kind == typeset.ChoiceEntry {
		var kids []ref
		for i := range f.widgets {
			x := &f.widgets[i]
			r := w.reserve()
			kids = append(kids, r)
			w.widget(r, *x, " /Parent "+f.ref.String()+w.mark(x.Entry.Option, x.W, x.H), annotated)
		}
		w.set(
			f.ref, "<</T %s%s /FT /Btn /Ff %d /TU %s /V /Off /Kids %v>>", TextString(f.part), up, flagRadio|flagNoToggleOff,
			TextString(e.Label),
			kids,
		)
		return f.ref
	}
	what := ""
	switch e.Kind {
	case typeset.TickEntry:
		what = " /FT /Btn /V /Off" + w.mark("Yes", f.widgets[0].W, f.widgets[0].H)
	case typeset.MenuEntry:
		var options strings.Builder
		for _, o := range e.Options {
			fmt.Fprintf(&options, "[%s %s]", TextString(o[0]), TextString(o[1]))
		}
		what = fmt.Sprintf(" /FT /Ch /Ff %d /DA (/Helv 10 Tf 0 g) /V () /Opt [%s]", flagCombo, options.String())
	default:
		flags := 0
		if e.Several {
			flags = flagMultiline
		}
		what = fmt.Sprintf(" /FT /Tx /Ff %d /DA (/Helv 10 Tf 0 g) /V ()", flags)
	}
	w.widget(f.ref, f.widgets[0], fmt.Sprintf(" /T %s%s /TU %s%s", TextString(f.part), up, TextString(e.Label), what), annotated)
	return f.ref
}

// widget writes an annotation and ties it to its element, as links are.
func (w *writer) widget(r ref, x formWidget, entries string, annotated [][]ref) {
	y := w.pages.Pages[x.page].Height - x.Y
	w.set(r, "<</Type /Annot /Subtype /Widget /Rect [%s %s %s %s] /F 4 /P %s /StructParent %d%s>>",
		num(x.X), num(y-x.H), num(x.X+x.W), num(y), w.pageRefs[x.page], len(w.parents), entries)
	annotated[x.page] = append(annotated[x.page], r)
	w.content[x.Element] = append(w.content[x.Element], content{page: x.page, annotation: r})
	w.parents = append(w.parents, []*typeset.Element{x.Element})
}

// mark is the two looks of a tick: a cross, and nothing.
func (w *writer) mark(on string, width, height float64) string {
	box := fmt.Sprintf("/Type /XObject /Subtype /Form /BBox [0 0 %s %s]", num(width), num(height))
	cross := fmt.Sprintf(
		"1.2 w 1 J %s %s m %s %s l %s %s m %s %s l S", num(2), num(2), num(width-2), num(height-2), num(2), num(height-2), num(width-2),
		num(2),
	)
	yes, no := w.stream(box, []byte(cross)), w.stream(box, nil)
	return fmt.Sprintf(" /AS /Off /AP <</N <</%s %s /Off %s>>>>", Name(on), yes, no)
}

// Name escapes what cannot stand in a name (section 7.3.5).
func Name(s string) string {
	var b strings.Builder
	for _, c := range []byte(s) {
		if c <= ' ' || c > '~' || slices.Contains([]byte("#/()<>[]{}%"), c) {
			fmt.Fprintf(&b, "#%02X", c)
		} else {
			b.WriteByte(c)
		}
	}
	return b.String()
}
