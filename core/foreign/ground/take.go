package ground

import (
	"bytes"
	"fmt"
	"slices"
	"strings"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/model"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

	"amberseal/core/foreign"
	"amberseal/core/print/pdf"
)

// Take takes a PDF apart. The error says in plain words why nothing can be printed over it.
func Take(data []byte) (g *Ground, err error) {
	defer func() {
		if p := recover(); p != nil { // the reading library trips over some damaged files
			g, err = nil, fmt.Errorf("the PDF is damaged: %v", p)
		}
	}()
	if !bytes.Contains(data[:min(len(data), 1024)], []byte("%PDF-")) {
		return nil, fmt.Errorf("the file is no PDF")
	}
	ctx, err := foreign.Open(data)
	if err != nil {
		if strings.Contains(err.Error(), "password") || bytes.Contains(data, []byte("/Encrypt")) {
			return nil, ErrProtected
		}
		return nil, err
	}
	if ctx.Encrypt != nil {
		return nil, ErrProtected
	}
	root, err := ctx.Catalog()
	if err != nil {
		return nil, fmt.Errorf("the PDF cannot be read: %w", err)
	}
	t := &taking{
		Objects: foreign.Objects{Context: ctx}, out: &Ground{}, root: root, numbers: map[int]int{}, withheld: map[int]bool{},
		pageOf:    map[int]int{},
		elementOf: map[int]int{},
	}
	if err := t.everything(); err != nil {
		return nil, err
	}
	return t.out, nil
}

// taking takes one file apart. Objects get new numbers in the order in which they are met.
type taking struct {
	foreign.Objects
	out       *Ground
	root      types.Dict
	numbers   map[int]int // new by old
	queue     []int       // old numbers of objects that are still to be written
	queued    []int       // and their new ones
	withheld  map[int]bool
	pages     []page
	pageOf    map[int]int // by the old number
	widgets   []widgetAt
	elements  []*holder
	elementOf map[int]int // in elements, by the old number
	actions   bool        // some were left behind
}

func (t *taking) everything() error {
	if err := t.pageTree(); err != nil {
		return err
	}
	acro := t.Dict(t.root["AcroForm"])
	if err := t.form(acro); err != nil {
		return err
	}
	base := &t.out.Base
	for i := range t.pages {
		p := &t.pages[i]
		base.Pages = append(base.Pages, pdf.BasePage{Object: t.add(nil)})
		t.numbers[p.number] = base.Pages[i].Object
	}
	t.holders()
	for i := range t.pages {
		if err := t.page(i); err != nil {
			return err
		}
	}
	t.looks()
	t.catalog()
	t.structure()
	if err := t.drain(); err != nil {
		return err
	}
	base.Lasting = len(base.Objects)
	t.fillable(acro)
	if err := t.drain(); err != nil {
		return err
	}
	if info := t.Dict(infoOf(t.Context)); info != nil {
		t.out.Title = strings.TrimSpace(t.Text(info["Title"]))
	}
	t.findings(acro)
	return nil
}

func infoOf(ctx *model.Context) types.Object {
	if ctx.Info == nil {
		return nil
	}
	return *ctx.Info
}

func (t *taking) findings(acro types.Dict) {
	l := &t.out.Findings
	if t.actions {
		l.Notice("", "ground.actions-left")
	}
	if acro != nil && acro["XFA"] != nil {
		l.Notice("", "ground.other-form-left")
	}
	if t.out.Base.Tree == nil {
		l.Notice("", "ground.untagged")
	}
	if names := t.strangers(); len(names) > 0 {
		l.Notice("", "ground.fonts-left", "names", strings.Join(names, ", "))
	}
}

// strangers are the fonts of the pages that are not in the file (ISO 32000-1, 9.9).
func (t *taking) strangers() (names []string) {
	const most = 12
	seen := map[int]bool{}
	var resources func(o types.Object, depth int)
	font := func(o types.Object) {
		f := t.Dict(o)
		if kids := t.Array(f["DescendantFonts"]); len(kids) > 0 {
			f = t.Dict(kids[0])
		}
		if f == nil || t.Name(f["Subtype"]) == "Type3" {
			return
		}
		d := t.Dict(f["FontDescriptor"])
		if d["FontFile"] != nil || d["FontFile2"] != nil || d["FontFile3"] != nil {
			return
		}
		if name := t.Name(f["BaseFont"]); name != "" && !slices.Contains(names, name) && len(names) < most {
			names = append(names, name)
		}
	}
	resources = func(o types.Object, depth int) {
		r := t.Dict(o)
		for _, f := range t.Dict(r["Font"]) {
			font(f)
		}
		for _, x := range t.Dict(r["XObject"]) {
			n := foreign.NumberOf(x)
			if depth > 4 || n == 0 || seen[n] {
				continue
			}
			seen[n] = true
			if s, ok := t.Object(x).(types.StreamDict); ok && t.Name(s.Dict["Subtype"]) == "Form" {
				resources(s.Dict["Resources"], depth+1)
			}
		}
	}
	for i := range t.pages {
		resources(t.pages[i].dict["Resources"], 0)
	}
	slices.Sort(names)
	return names
}

// catalog keeps what readers show beside the pages.
func (t *taking) catalog() {
	var b []byte
	for _, key := range []string{"Lang", "PageLabels", "OutputIntents", "OCProperties", "PageLayout", "Dests", "Outlines"} {
		if o := t.root[key]; o != nil {
			b = t.write(append(append(append(b, " /"...), key...), ' '), o, 0)
		}
	}
	if names := t.Dict(t.root["Names"]); names["Dests"] != nil {
		b = append(t.write(append(b, " /Names <</Dests "...), names["Dests"], 0), ">>"...)
	}
	t.out.Base.Catalog = string(b)
}
