// Package paper is the design of a document: its page and its blocks, in reading order.
//
// A Document is plain data, part of the design file. Bind puts the facts of one
// submission into it and gives a typeset.Document, ready to be set; where a picture is
// missing or a part cannot be printed, it says so in findings and leaves clean space.
// The package reads no files: pictures come in by a function.
package paper

import (
	"amberseal/core/ask/form"
	"amberseal/core/foreign/match"
	"amberseal/core/print/paper/code"
	"amberseal/core/words/phrase"
)

// Document is one document an intake makes of each submission.
type Document struct {
	Key      string        `json:"key"`
	Name     string        `json:"name"`
	When     string        `json:"when,omitempty"`     // formula; made always when empty
	Audience []Audience    `json:"audience,omitempty"` // whom it is for; when empty, whoever the notices send it to
	Title    phrase.Phrase `json:"title"`              // the PDF's title
	FileName phrase.Phrase `json:"fileName"`           // without .pdf
	Look     Look          `json:"look,omitempty"`
	Page     Page          `json:"page"`
	Blocks   []Block       `json:"blocks"`
	Header   phrase.Phrase `json:"header,omitempty"`   // in the upper margin of each page
	Footer   phrase.Phrase `json:"footer"`             // in the lower margin
	First    *Running      `json:"first,omitempty"`    // on the first page instead
	Subject  phrase.Phrase `json:"subject,omitempty"`  // the PDF's; the intake's name when empty
	Keywords phrase.Phrase `json:"keywords,omitempty"` // the PDF's, parted by commas
	Author   phrase.Phrase `json:"author,omitempty"`   // the PDF's; the house's name when empty
	Data     bool          `json:"data,omitempty"`     // the file carries the answers as JSON, with their schema
	Append   []string      `json:"append,omitempty"`   // names of fields whose pictures and PDFs become pages at the end
	Attach   []string      `json:"attach,omitempty"`   // names of fields whose files the PDF carries as attachments
	Protect  *Protect      `json:"protect,omitempty"`
	Archival Archival      `json:"archival,omitempty"`
	Signers  []Signer      `json:"signers,omitempty"`

	// A document that the house has already is filled instead of made of blocks.
	File    string                 `json:"file,omitempty"`    // its name among the intake's files
	Matches map[string]match.Match `json:"matches,omitempty"` // what was chosen for its placeholders, by their names

	Setter Setter `json:"setter,omitempty"` // of a word-processor file; the program itself when empty

	// Of a PDF.
	Marks    []Mark `json:"marks,omitempty"`    // what is put on its pages besides
	Fillable bool   `json:"fillable,omitempty"` // its fields can still be filled; otherwise they become a part of the page
}

// Setter is what sets a word-processor file.
type Setter string

// LibreOffice sets files where it is installed, and takes a hundred times as long.
const LibreOffice Setter = "libreoffice"

// Brought reports whether the document is a file that the house has already.
func (d Document) Brought() bool { return d.File != "" }

// Signer is somebody who signs the document.
type Signer struct {
	Key   string        `json:"key"`
	Name  phrase.Phrase `json:"name"`
	Email phrase.Phrase `json:"email"`
	Order int           `json:"order,omitempty"` // those of one number sign in any order
}

// Audience is whom a document is for. Staff can always read it.
type Audience string

// The audiences.
const (
	Respondent Audience = "respondent"
	Staff      Audience = "staff"
)

// Audiences lists them.
func Audiences() []Audience { return []Audience{Respondent, Staff} }

// Running is what stands in the margins of a page.
type Running struct {
	Header phrase.Phrase `json:"header,omitempty"`
	Footer phrase.Phrase `json:"footer,omitempty"`
}

// Archival is the level of PDF/A a document declares.
type Archival string

// The levels; a document without one is A-2b, or A-3b where it carries files, unless it is protected.
const (
	A1b         Archival = "a-1b"
	A2b         Archival = "a-2b"
	A3b         Archival = "a-3b" // the only one whose files may carry others (ISO 19005-3 section 6.8)
	NotArchival Archival = "none"
)

// ArchivalLevels lists the levels.
func ArchivalLevels() []Archival { return []Archival{A2b, A1b, A3b, NotArchival} }

// Carries reports whether the file carries others.
func (d Document) Carries() bool { return d.Data || len(d.Attach) > 0 }

// ArchivalLevel is the level the file gets: an encrypted file is never archival (ISO 19005-1 section 6.1.3), and of letter paper nothing
// is known.
func (d Document) ArchivalLevel() Archival {
	switch {
	case d.Protect != nil, d.Page.Printed.files():
		return NotArchival
	case d.Archival == "" && d.Carries():
		return A3b
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
	Facts      BlockKind = "facts"   // labelled tiles of what readers look for
	Answers    BlockKind = "answers" // a table of all answers or of chosen ones
	Picture    BlockKind = "picture"
	Rule       BlockKind = "rule"
	Space      BlockKind = "space"
	PageBreak  BlockKind = "page_break"
	Lines      BlockKind = "lines"     // a table of the rows of a repeating group, with totals
	Code       BlockKind = "code"      // QR, Data Matrix, Code 128 or EAN-13
	Signature  BlockKind = "signature" // a signature over a line, with name and day
	FixedTable BlockKind = "table"     // cells of words
	Columns    BlockKind = "columns"   // blocks beside each other
	Group      BlockKind = "group"     // blocks that are shown or repeated together
	Graph      BlockKind = "chart"     // a chart of numbers
	Strip      BlockKind = "strip"     // tear-off stubs along the page's foot
	Cover      BlockKind = "cover"     // a page of its own at the beginning, with the title
	Contents   BlockKind = "contents"  // a table of the headings that follow, with their pages
)

// Block is one line of a document's script.
type Block struct {
	ID   string    `json:"id"`
	Kind BlockKind `json:"kind"`
	When string    `json:"when,omitempty"` // formula; printed always when empty
	Each string    `json:"each,omitempty"` // key of a repeating group: printed for each of its rows

	Settings `json:"-"` // they stand under the name of the kind
}

// Settings are those of one kind of block or another; the table of kinds says which kind has which. Lengths are millimetres.
type Settings struct {
	Level   int           `json:"level,omitempty"`   // 1 to 3; of contents the deepest that is listed
	Text    phrase.Phrase `json:"text,omitempty"`    // what a heading, code or stub says; of a signature the signer's name
	Body    phrase.Body   `json:"body,omitempty"`    // paragraphs
	CallOut bool          `json:"callOut,omitempty"` // they stand on the house's tint
	Ruled   bool          `json:"ruled,omitempty"`   // of a space: with lines to write on
	Align   string        `json:"align,omitempty"`   // start, center, end
	Caption phrase.Phrase `json:"caption,omitempty"` // words under it

	To        phrase.Body `json:"to,omitempty"`        // of a letterhead: to whom the document goes, a line each
	Tiles     []Tile      `json:"tiles,omitempty"`     // of facts; of a letterhead what stands beside the address
	Fields    []string    `json:"fields,omitempty"`    // chosen keys, of answers all when empty; of a chart those of numbers or ratings
	HideEmpty bool        `json:"hideEmpty,omitempty"` // leave out what was not answered
	Headed    bool        `json:"headed,omitempty"`    // a header row, repeated on each page
	Across    int         `json:"across,omitempty"`    // columns of answers, 1 or 2; photos beside each other
	Flat      bool        `json:"flat,omitempty"`      // without the headings of sections
	Shading   string      `json:"shading,omitempty"`   // rows, none; the look's when empty
	Borders   string      `json:"borders,omitempty"`   // rows, grid, none; the look's when empty
	Rows      string      `json:"rows,omitempty"`      // key of the repeating group
	Columns   []Column    `json:"columns,omitempty"`   // all fields of the rows when empty
	Totals    []Total     `json:"totals,omitempty"`    // under the rows
	Subtotal  *Subtotal   `json:"subtotal,omitempty"`  // among them
	Grid      *Grid       `json:"grid,omitempty"`      // cells of words
	Series    *Series     `json:"series,omitempty"`    // of numbers

	Picture   string    `json:"picture,omitempty"`   // its name; Field instead is that of an answer's photos
	Alt       string    `json:"alt,omitempty"`       // what it shows
	Width     float64   `json:"width,omitempty"`     // the largest
	Height    float64   `json:"height,omitempty"`    // the largest; of a space, a flat code and a strip the height
	Symbology code.Kind `json:"symbology,omitempty"` // QR when empty; Text is what it says, of a payment to the payee
	Payee     *Payee    `json:"payee,omitempty"`     // who gets a payment; Field is its amount, nothing lets the payer write it
	Field     string    `json:"field,omitempty"`     // name of the field that gives a picture, signature or amount
	Missing   *Missing  `json:"missing,omitempty"`   // what stands there when there is nothing to print
	Stubs     int       `json:"stubs,omitempty"`     // how many

	Blocks []Block `json:"blocks,omitempty"` // of a group
	Sides  []Side  `json:"sides,omitempty"`  // of columns
}

// Missing is what stands in the place of what is not there: room, nothing, or words.
type Missing struct {
	Leave Leave  `json:"leave,omitempty"`
	Words string `json:"words,omitempty"`
}

// Leave is what is left of what is not there, besides words.
type Leave string

// What can be left.
const (
	LeaveSpace   Leave = "space"
	LeaveNothing Leave = "nothing"
)

// Side is one of the columns of blocks beside each other.
type Side struct {
	Share  float64 `json:"share,omitempty"` // of the width; 1 when 0
	Blocks []Block `json:"blocks"`
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
	thanks := phrase.Phrase{{Text: "Thank you. We have received what you sent us on "}, {Field: "@received"},
		{Text: "; this is your copy."}}
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
			{ID: "heading", Kind: Heading, Settings: Settings{Level: 1, Text: phrase.Parse(name + " {{@number}}")}},
			{ID: "thanks", Kind: Text, Settings: Settings{Body: phrase.Body{{Spans: thanks}}}},
			{ID: "answers", Kind: Answers},
		},
		Footer: phrase.Parse("{{@house}} · {{@intake}} {{@number}} · page {{@page}} of {{@pages}}"),
	}
}

// Walk visits all blocks of the document, those inside others after the one that holds them, until visit says to stop.
// rows is the repeating group in whose rows a block stands, the innermost.
func (d *Document) Walk(visit func(b *Block, rows string) bool) { walk(d.Blocks, "", visit) }

func walk(blocks []Block, rows string, visit func(b *Block, rows string) bool) bool {
	for i := range blocks {
		b := &blocks[i]
		within := rows
		if b.Each != "" {
			within = b.Each
		}
		if !visit(b, within) || !walk(b.Blocks, within, visit) {
			return false
		}
		for j := range b.Sides {
			if !walk(b.Sides[j].Blocks, within, visit) {
				return false
			}
		}
	}
	return true
}
