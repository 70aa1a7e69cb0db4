package paper

import (
	"regexp"
	"slices"
	"strconv"
	"strings"

	"amberseal/core/ask/form"
	"amberseal/core/words/finding"
	"amberseal/core/words/phrase"
)

var hex = regexp.MustCompile(`^#[0-9A-Fa-f]{6}$`)

// Limits of a design.
const (
	MaxBlocks = 2_000
	MaxSide   = 2_000 // millimetres
)

// Check finds what is wrong with the design. Places begin with documents/KEY. exists
// says whether a picture of a name is there.
func (d Document) Check(f form.Form, exists func(picture string) bool) finding.List {
	var l finding.List
	for _, a := range d.Audience {
		if !slices.Contains(Audiences(), a) {
			l.Fault("documents/"+d.Key+"/audience", "paper.audience-unknown", "value", a)
		}
	}
	place := "documents/" + d.Key
	if d.Name == "" {
		l.Fault(place, "paper.no-name")
	}
	switch {
	case d.Brought():
		l = append(l, d.checkBrought(f, exists)...)
	case len(d.Blocks) == 0:
		l.Fault(place+"/blocks", "paper.document-empty")
	}
	blocks := 0
	d.Walk(func(*Block, string) bool { blocks++; return blocks <= MaxBlocks })
	if blocks > MaxBlocks {
		l.Fault(place+"/blocks", "paper.too-many-blocks")
		return l
	}
	once, paged := phrase.Scope{Form: f, Document: true}, phrase.Scope{Form: f, Document: true, Paged: true}
	l = append(l, phrase.CheckCondition(place, d.When, once)...)
	l = append(l, d.Title.Check(place+"/title", once)...)
	l = append(l, d.FileName.Check(place+"/fileName", once)...)
	l = append(l, d.Header.Check(place+"/header", paged)...)
	l = append(l, d.Footer.Check(place+"/footer", paged)...)
	if d.First != nil {
		l = append(l, d.First.Header.Check(place+"/first", paged)...)
		l = append(l, d.First.Footer.Check(place+"/first", paged)...)
	}
	l = append(l, d.Page.check(place+"/page", exists)...)
	if d.Protect != nil {
		l = append(l, d.Protect.Password.Check(place+"/protect", once)...)
		if p := d.Protect; len(p.Password) == 0 && !p.NoPrint && !p.NoCopy && !p.NoChange {
			l.Notice(place+"/protect", "paper.protection-protects-nothing")
		}
		if d.Archival != "" && d.Archival != NotArchival {
			l.Fault(place+"/archival", "paper.archival-protected")
		}
	}
	if d.Archival != "" && !slices.Contains(ArchivalLevels(), d.Archival) {
		l.Fault(place+"/archival", "paper.archival-unknown", "archival", d.Archival)
	}
	if d.Carries() && (d.Archival == A1b || d.Archival == A2b) {
		l.Fault(place+"/archival", "paper.archival-with-files")
	}
	l = append(l, d.Subject.Check(place+"/subject", once)...)
	l = append(l, d.Keywords.Check(place+"/keywords", once)...)
	l = append(l, d.Author.Check(place+"/author", once)...)
	for _, name := range slices.Concat(d.Append, d.Attach) {
		if x, ok := f.Field(name); !ok || !x.Kind.Filed() {
			l.Fault(place+"/field "+name, "paper.files-of-no-question", "name", name)
		}
	}
	for _, name := range d.Append {
		if x, _ := f.Field(name); x.Kind == form.Upload && d.ArchivalLevel() != NotArchival {
			l.Notice(place+"/archival", "paper.archival-with-pages")
		}
	}
	if d.Page.Printed.files() && d.Archival != "" && d.Archival != NotArchival {
		l.Notice(place+"/archival", "paper.archival-printed")
	}
	if d.Archival == A1b && d.Page.Ground != "" {
		l.Notice(place+"/archival", "paper.archival-transparency")
	}
	if d.Look != "" && !slices.Contains(Looks(), d.Look) {
		l.Fault(place, "paper.look-unknown", "look", d.Look, "looks", listed(Looks()))
	}
	seen := map[string]bool{}
	number := 0
	d.Walk(func(b *Block, rows string) bool {
		number++
		if b.ID == "" || seen[b.ID] {
			l.Fault(place+"/blocks/#"+strconv.Itoa(number), "paper.block-id")
		}
		seen[b.ID] = true
		l = append(l, b.check(checking{place + "/blocks/" + b.ID, phrase.Scope{Form: f, Document: true, Rows: rows}, exists})...)
		return true
	})
	return l
}

// checking is where a block is checked, and what with.
type checking struct {
	at     string // its place
	scope  phrase.Scope
	exists func(picture string) bool
}

func (b Block) check(c checking) finding.List {
	var l finding.List
	at, scope, f := c.at, c.scope, c.scope.Form
	if g, ok := f.Field(b.Each); b.Each != "" && (!ok || g.Kind != form.Rows) {
		l.Fault(at+"/field "+b.Each, "paper.repeated-for-no-rows", "each", b.Each)
	}
	l = append(l, phrase.CheckCondition(at, b.When, scope)...)
	l = append(l, b.Text.Check(at, scope)...)
	l = append(l, b.Body.Check(at, scope)...)
	l = append(l, b.Caption.Check(at, scope)...)
	if check := b.Kind.nature().check; check != nil {
		l = append(l, check(b, c)...)
	}
	if m := b.Missing; m != nil && (m.Leave == "") == (m.Words == "") ||
		m != nil && m.Words == "" && m.Leave != LeaveSpace && m.Leave != LeaveNothing {
		l.Fault(at, "paper.missing-unsaid")
	}
	if !slices.Contains(BlockKinds(), b.Kind) {
		l.Fault(at, "paper.kind-unknown", "kind", b.Kind)
	}
	if min(b.Width, b.Height) < 0 || max(b.Width, b.Height) > MaxSide {
		l.Fault(at, "paper.block-size")
	}
	if !slices.Contains([]string{"", "rows", "none"}, b.Shading) {
		l.Fault(at, "paper.shading-unknown", "shading", b.Shading)
	}
	if !slices.Contains([]string{"", "rows", "grid", "none"}, b.Borders) {
		l.Fault(at, "paper.borders-unknown", "borders", b.Borders)
	}
	return l
}

// checkFields finds names of the block's list that are no fields, and says so by the code.
func (b Block) checkFields(c checking, code string) finding.List {
	var l finding.List
	for _, key := range b.Fields {
		if _, ok := c.scope.Form.Field(key); !ok {
			l.Fault(c.at+"/field "+key, code, "field", key)
		}
	}
	return l
}

func (b Block) checkPicture(c checking) finding.List {
	var l finding.List
	at, f := c.at, c.scope.Form
	if b.Field != "" {
		if x, ok := f.Field(b.Field); !ok || x.Kind != form.Photo && x.Kind != form.Signature {
			l.Fault(at+"/field "+b.Field, "paper.picture-field-unknown", "field", b.Field)
		}
		return l
	}
	switch {
	case b.Picture == "":
		l.Fault(at, "paper.no-picture-chosen")
	case !c.exists(b.Picture):
		l.Fault(at, "paper.picture-is-gone", "picture", b.Picture)
	case b.Alt == "":
		l.Notice(at, "paper.picture-without-description")
	}
	return l
}

// listed writes names beside each other.
func listed[T ~string](names []T) string {
	out := make([]string, len(names))
	for i, n := range names {
		out[i] = string(n)
	}
	return strings.Join(out, ", ")
}
