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
			l.Fault("documents/"+d.Key+"/audience", "A document cannot be for “"+string(a)+"”.", "Write respondent, staff or both.")
		}
	}
	place := "documents/" + d.Key
	if d.Name == "" {
		l.Fault(place, "The document has no name.", "Write what people call it, such as Receipt.")
	}
	if len(d.Blocks) == 0 {
		l.Fault(place+"/blocks", "The document is empty.", "Add a line.")
	}
	blocks := 0
	d.Walk(func(*Block, string) bool { blocks++; return blocks <= MaxBlocks })
	if blocks > MaxBlocks {
		l.Fault(place+"/blocks", "The document has more than 2,000 blocks.", "Split it into several documents.")
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
			l.Notice(place+"/protect", "The protection protects nothing.", "Write a password, or take something away.")
		}
		if d.Archival != "" && d.Archival != NotArchival {
			l.Fault(place+"/archival", "A protected document cannot be archival.", "Take the protection away, or do not ask for an archival file.")
		}
	}
	if d.Archival != "" && !slices.Contains(ArchivalLevels(), d.Archival) {
		l.Fault(place+"/archival", "There is no archival level “"+string(d.Archival)+"”.", "Choose a-2b, a-1b, a-3b or none.")
	}
	if d.Carries() && (d.Archival == A1b || d.Archival == A2b) {
		l.Fault(place+"/archival", "Files of this archival level cannot carry answers or attachments.", "Choose PDF/A-3b, or carry nothing.")
	}
	l = append(l, d.Subject.Check(place+"/subject", once)...)
	l = append(l, d.Keywords.Check(place+"/keywords", once)...)
	l = append(l, d.Author.Check(place+"/author", once)...)
	for _, name := range slices.Concat(d.Append, d.Attach) {
		if x, ok := f.Field(name); !ok || !x.Kind.Filed() {
			l.Fault(place+"/field "+name, "The document takes the files of “"+name+"”, which asks for none.", "Choose a field for files or photos.")
		}
	}
	for _, name := range d.Append {
		if x, _ := f.Field(name); x.Kind == form.Upload && d.ArchivalLevel() != NotArchival {
			l.Notice(
				place+"/archival", "A document to which PDFs are added that were sent is not archival.",
				"Attach them instead, or do not ask for an archival file.",
			)
		}
	}
	if d.Archival == A1b && d.Page.Ground != "" {
		l.Notice(
			place+"/archival", "PDF/A-1b has no transparency: see-through pictures get a white ground.",
			"Choose PDF/A-2b, or leave the page white.",
		)
	}
	if d.Look != "" && !slices.Contains(Looks(), d.Look) {
		l.Fault(place, "There is no look called “"+string(d.Look)+"”.", "Choose one of "+listed(Looks())+".")
	}
	seen := map[string]bool{}
	number := 0
	d.Walk(func(b *Block, rows string) bool {
		number++
		if b.ID == "" || seen[b.ID] {
			l.Fault(place+"/blocks/#"+strconv.Itoa(number), "The block needs an id of its own.", "Give it one.")
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
		l.Fault(
			at+"/field "+b.Each, "The line is repeated for the rows of “"+b.Each+"”, which is no repeating group.",
			"Choose a repeating group, or print the line once.",
		)
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
		l.Fault(at, "What stands there when it is missing is not said.", "Leave space, nothing, or write words.")
	}
	if !slices.Contains(BlockKinds(), b.Kind) {
		l.Fault(at, "There is no kind of block called “"+string(b.Kind)+"”.", "Choose one of the kinds.")
	}
	if min(b.Width, b.Height) < 0 || max(b.Width, b.Height) > MaxSide {
		l.Fault(at, "The size is not one a page can have.", "Write millimetres, from 0 to 2,000.")
	}
	if !slices.Contains([]string{"", "rows", "none"}, b.Shading) {
		l.Fault(at, "There is no shading “"+b.Shading+"”.", "Choose rows or none.")
	}
	if !slices.Contains([]string{"", "rows", "grid", "none"}, b.Borders) {
		l.Fault(at, "There are no borders “"+b.Borders+"”.", "Choose rows, grid or none.")
	}
	return l
}

// checkFields finds names of the block's list that are no fields; said holds a % for the name.
func (b Block) checkFields(c checking, said string) finding.List {
	var l finding.List
	before, after, _ := strings.Cut(said, "%")
	for _, key := range b.Fields {
		if _, ok := c.scope.Form.Field(key); !ok {
			l.Fault(c.at+"/field "+key, before+key+after, "Take it out or ask for it in the form.")
		}
	}
	return l
}

func (b Block) checkPicture(c checking) finding.List {
	var l finding.List
	at, f := c.at, c.scope.Form
	if b.Field != "" {
		if x, ok := f.Field(b.Field); !ok || x.Kind != form.Photo && x.Kind != form.Signature {
			l.Fault(
				at+"/field "+b.Field, "The picture is that of “"+b.Field+"”, which asks for no picture.", "Choose a field for photos or a signature.",
			)
		}
		return l
	}
	switch {
	case b.Picture == "":
		l.Fault(at, "No picture is chosen.", "Choose one or remove the line.")
	case !c.exists(b.Picture):
		l.Fault(at, "The picture “"+b.Picture+"” is not there.", "Choose another.")
	case b.Alt == "":
		l.Notice(at, "The picture has no description.", "Say in a few words what it shows, for those who cannot see it.")
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
