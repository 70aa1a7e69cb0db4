// Package paper is the design of a document: its page and its blocks, in reading order.
//
// A Document is plain data, part of the design file. Bind puts the facts of one
// submission into it and gives a typeset.Document, ready to be set; where a picture is
// missing or a part cannot be printed, it says so in findings and leaves clean space.
// The package reads no files: pictures come in by a function.
package paper

import (
	"slices"
	"strconv"

	"regexp"

	"amberseal/core/code"
	"amberseal/core/finding"
	"amberseal/core/form"
	"amberseal/core/phrase"
)

// Document is one document an intake makes of each submission.
type Document struct {
	Key      string        `json:"key"`
	Name     string        `json:"name"`
	When     string        `json:"when,omitempty"` // formula; made always when empty
	Title    phrase.Phrase `json:"title"`          // the PDF's title
	FileName phrase.Phrase `json:"fileName"`       // without .pdf
	Look     Look          `json:"look,omitempty"`
	Page     Page          `json:"page"`
	Blocks   []Block       `json:"blocks"`
	Footer   phrase.Phrase `json:"footer"`
	Protect  *Protect      `json:"protect,omitempty"`
	Archival Archival      `json:"archival,omitempty"`
}

// Archival is the level of PDF/A a document declares.
type Archival string

// The levels; a document without one is A-2b, unless it is protected.
const (
	A1b         Archival = "a-1b"
	A2b         Archival = "a-2b"
	NotArchival Archival = "none"
)

// ArchivalLevels lists the levels.
func ArchivalLevels() []Archival { return []Archival{A2b, A1b, NotArchival} }

// ArchivalLevel is the level the file gets: an encrypted file is never archival (ISO 19005-1 section 6.1.3).
func (d Document) ArchivalLevel() Archival {
	switch {
	case d.Protect != nil:
		return NotArchival
	case d.Archival == "":
		return A2b
	}
	return d.Archival
}

// Protect is who may open the PDF and what a reader may do with it.
type Protect struct {
	Password phrase.Phrase `json:"password,omitempty"` // opens it; nothing lets everybody read it
	NoPrint  bool          `json:"noPrint,omitempty"`
	NoCopy   bool          `json:"noCopy,omitempty"`
	NoChange bool          `json:"noChange,omitempty"`
}

// BlockKind is what a block prints.
type BlockKind string

// The kinds of block.
const (
	Letterhead BlockKind = "letterhead" // the house's name, address and logo
	Heading    BlockKind = "heading"
	Text       BlockKind = "text"
	Answers    BlockKind = "answers" // a table of all answers or of chosen ones
	Picture    BlockKind = "picture"
	Rule       BlockKind = "rule"
	Space      BlockKind = "space"
	PageBreak  BlockKind = "page_break"
	Lines      BlockKind = "lines"     // a table of the rows of a repeating group, with totals
	Code       BlockKind = "code"      // QR, Data Matrix, Code 128 or EAN-13
	Signature  BlockKind = "signature" // a signature over a line, with name and day
)

// BlockKinds lists the kinds in the order in which they are offered.
func BlockKinds() []BlockKind {
	return []BlockKind{Heading, Text, Answers, Lines, Picture, Signature, Code, Rule, Space, PageBreak, Letterhead}
}

// Block is one line of a document's script. Which of the fields after When have meaning
// depends on the kind.
type Block struct {
	ID        string        `json:"id"`
	Kind      BlockKind     `json:"kind"`
	When      string        `json:"when,omitempty"`      // formula; printed always when empty
	Level     int           `json:"level,omitempty"`     // heading: 1 to 3
	Text      phrase.Phrase `json:"text,omitempty"`      // heading, code, signature
	Body      phrase.Body   `json:"body,omitempty"`      // text
	Align     string        `json:"align,omitempty"`     // heading, picture, code: start, center, end
	Fields    []string      `json:"fields,omitempty"`    // answers: chosen keys; all when empty
	HideEmpty bool          `json:"hideEmpty,omitempty"` // answers: leave out what was not answered
	Headed    bool          `json:"headed,omitempty"`    // answers: a header row, repeated on each page
	Picture   string        `json:"picture,omitempty"`   // picture: its name
	Alt       string        `json:"alt,omitempty"`       // picture: what it shows
	Width     float64       `json:"width,omitempty"`     // picture: largest width in millimetres
	Height    float64       `json:"height,omitempty"`    // picture: largest height; space, flat code: height; millimetres
	Rows      string        `json:"rows,omitempty"`      // lines: key of the repeating group
	Columns   []Column      `json:"columns,omitempty"`   // lines: all fields of the rows when empty
	Totals    []Total       `json:"totals,omitempty"`    // lines
	Code      code.Kind     `json:"code,omitempty"`      // code: its kind, QR when empty; Text is what it says, of a payment to the payee
	Payee     *Payee        `json:"payee,omitempty"`     // code: who gets a payment; Field is its amount, nothing lets the payer write it
	Field     string        `json:"field,omitempty"`     // signature, payment: key of the field; Text is the signer's name
	Missing   string        `json:"missing,omitempty"`   // signature: "space" (the usual), "nothing", or words
}

// Payee is who a payment code sends money to.
type Payee struct {
	Name    string `json:"name,omitempty"` // the house's when empty
	IBAN    string `json:"iban"`
	BIC     string `json:"bic,omitempty"`
	Purpose string `json:"purpose,omitempty"` // ISO 20022 code
}

// Usual is a document generated from nothing but the form: a letterhead, a heading, a
// sentence of thanks and every answer.
func Usual(key, name string, f form.Form) Document {
	thanks := phrase.Phrase{{Text: "Thank you. We have received what you sent us on "}, {Field: "@received"}, {Text: "; this is your copy."}}
	for _, x := range f.Fields {
		if form.IsName(x) {
			thanks[0].Text = ". We have received what you sent us on "
			thanks = append(phrase.Phrase{{Text: "Thank you, "}, {Field: x.Key, Empty: "and welcome"}}, thanks...)
			break
		}
	}
	return Document{
		Key: key, Name: name,
		Title:    phrase.Parse(name + " {{@number}}"),
		FileName: phrase.Parse(name + " {{@number}}"),
		Blocks: []Block{
			{ID: "letterhead", Kind: Letterhead},
			{ID: "heading", Kind: Heading, Level: 1, Text: phrase.Parse(name + " {{@number}}")},
			{ID: "thanks", Kind: Text, Body: phrase.Body{{Spans: thanks}}},
			{ID: "answers", Kind: Answers},
		},
		Footer: phrase.Parse("{{@house}} · {{@intake}} {{@number}} · page {{@page}} of {{@pages}}"),
	}
}

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
	place := "documents/" + d.Key
	if d.Name == "" {
		l.Fault(place, "The document has no name.", "Write what people call it, such as Receipt.")
	}
	if len(d.Blocks) == 0 {
		l.Fault(place+"/blocks", "The document is empty.", "Add a line.")
	}
	if len(d.Blocks) > MaxBlocks {
		l.Fault(place+"/blocks", "The document has more than 2,000 blocks.", "Split it into several documents.")
		return l
	}
	l = append(l, phrase.CheckCondition(place, d.When, f)...)
	l = append(l, d.Title.Check(place+"/title", f, false)...)
	l = append(l, d.FileName.Check(place+"/fileName", f, false)...)
	l = append(l, d.Footer.Check(place+"/footer", f, true)...)
	l = append(l, d.Page.check(place+"/page")...)
	if d.Protect != nil {
		l = append(l, d.Protect.Password.Check(place+"/protect", f, false)...)
		if p := d.Protect; len(p.Password) == 0 && !p.NoPrint && !p.NoCopy && !p.NoChange {
			l.Notice(place+"/protect", "The protection protects nothing.", "Write a password, or take something away.")
		}
		if d.Archival == A1b || d.Archival == A2b {
			l.Fault(place+"/archival", "A protected document cannot be archival.", "Take the protection away, or do not ask for an archival file.")
		}
	}
	if d.Archival != "" && !slices.Contains(ArchivalLevels(), d.Archival) {
		l.Fault(place+"/archival", "There is no archival level “"+string(d.Archival)+"”.", "Choose a-2b, a-1b or none.")
	}
	if d.Archival == A1b && d.Page.Ground != "" {
		l.Notice(place+"/archival", "PDF/A-1b has no transparency: see-through pictures get a white ground.", "Choose PDF/A-2b, or leave the page white.")
	}
	if d.Look != "" && !slices.Contains(Looks(), d.Look) {
		l.Fault(place, "There is no look called “"+string(d.Look)+"”.", "Choose ledger, letter or ticket.")
	}
	seen := map[string]bool{}
	for i, b := range d.Blocks {
		at := place + "/blocks/" + b.ID
		if b.ID == "" || seen[b.ID] {
			l.Fault(place+"/blocks/#"+strconv.Itoa(i+1), "The block needs an id of its own.", "Give it one.")
		}
		seen[b.ID] = true
		l = append(l, b.check(at, f, exists)...)
	}
	return l
}

func (b Block) check(at string, f form.Form, exists func(string) bool) finding.List {
	var l finding.List
	l = append(l, phrase.CheckCondition(at, b.When, f)...)
	switch b.Kind {
	case Heading:
		if len(b.Text) == 0 {
			l.Notice(at, "The heading is empty.", "Write it or remove the line.")
		}
		if b.Level < 1 || b.Level > 3 {
			l.Fault(at, "A heading has level 1, 2 or 3.", "Choose one.")
		}
		l = append(l, b.Text.Check(at, f, false)...)
	case Text:
		if len(b.Body) == 0 {
			l.Notice(at, "The text is empty.", "Write it or remove the line.")
		}
		l = append(l, b.Body.Check(at, f)...)
	case Answers:
		for _, key := range b.Fields {
			if _, ok := f.Field(key); !ok {
				l.Fault(at+"/field "+key, "The table prints “"+key+"”, which is no field.", "Take it out or ask for it in the form.")
			}
		}
	case Lines:
		l = append(l, b.checkLines(at, f)...)
	case Code:
		l = append(l, b.checkCode(at, f)...)
	case Signature:
		l = append(l, b.Text.Check(at, f, false)...)
		if x, ok := f.Field(b.Field); !ok || x.Kind != form.Signature {
			l.Fault(at, "The signature has no field.", "Choose the field that asks for it.")
		}
	case Picture:
		switch {
		case b.Picture == "":
			l.Fault(at, "No picture is chosen.", "Choose one or remove the line.")
		case !exists(b.Picture):
			l.Fault(at, "The picture “"+b.Picture+"” is not there.", "Choose another.")
		case b.Alt == "":
			l.Notice(at, "The picture has no description.", "Say in a few words what it shows, for those who cannot see it.")
		}
	}
	if !slices.Contains(BlockKinds(), b.Kind) {
		l.Fault(at, "There is no kind of block called “"+string(b.Kind)+"”.", "Choose one of the kinds.")
	}
	if min(b.Width, b.Height) < 0 || max(b.Width, b.Height) > MaxSide {
		l.Fault(at, "The size is not one a page can have.", "Write millimetres, from 0 to 2,000.")
	}
	return l
}
