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
	Page     Page          `json:"page"`
	Blocks   []Block       `json:"blocks"`
	Footer   phrase.Phrase `json:"footer"`
}

// Page is the paper and its margins.
type Page struct {
	Paper     string   `json:"paper,omitempty"` // A4 or Letter; the house's when empty
	Landscape bool     `json:"landscape,omitempty"`
	Margins   *Margins `json:"margins,omitempty"` // usual ones when absent
}

// Margins are millimetres.
type Margins struct {
	Top    float64 `json:"top"`
	Right  float64 `json:"right"`
	Bottom float64 `json:"bottom"`
	Left   float64 `json:"left"`
}

// UsualMargins are those of a document that says nothing else.
func UsualMargins() Margins { return Margins{20, 20, 22, 20} }

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
)

// BlockKinds lists the kinds in the order in which they are offered.
func BlockKinds() []BlockKind {
	return []BlockKind{Heading, Text, Answers, Picture, Rule, Space, Letterhead}
}

// Block is one line of a document's script. Which of the fields after When have meaning
// depends on the kind.
type Block struct {
	ID        string        `json:"id"`
	Kind      BlockKind     `json:"kind"`
	When      string        `json:"when,omitempty"`      // formula; printed always when empty
	Level     int           `json:"level,omitempty"`     // heading: 1 to 3
	Text      phrase.Phrase `json:"text,omitempty"`      // heading
	Body      phrase.Body   `json:"body,omitempty"`      // text
	Align     string        `json:"align,omitempty"`     // heading, picture: start, center, end
	Fields    []string      `json:"fields,omitempty"`    // answers: chosen keys; all when empty
	HideEmpty bool          `json:"hideEmpty,omitempty"` // answers: leave out what was not answered
	Headed    bool          `json:"headed,omitempty"`    // answers: a header row, repeated on each page
	Picture   string        `json:"picture,omitempty"`   // picture: its name
	Alt       string        `json:"alt,omitempty"`       // picture: what it shows
	Width     float64       `json:"width,omitempty"`     // picture: largest width in millimetres
	Height    float64       `json:"height,omitempty"`    // picture: largest height; space: height; millimetres
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
	if p := d.Page.Paper; p != "" && p != "A4" && p != "Letter" {
		l.Fault(place+"/page", "This paper size is not known.", "Choose A4 or Letter.")
	}
	if m := d.Page.Margins; m != nil && (min(m.Top, m.Right, m.Bottom, m.Left) < 0 || max(m.Left+m.Right, m.Top+m.Bottom) > 150) {
		l.Fault(place+"/page", "The margins leave no room for text.", "Make them smaller.")
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
