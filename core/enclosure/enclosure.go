// Package enclosure is what a message or a filing carries: a document, files that were sent, a fixed file of the house, or the answers.
package enclosure

import (
	"fmt"
	"slices"
	"strings"

	"amberseal/core/ask/form"
	"amberseal/core/words/finding"
)

// Enclosure is one thing that is carried; one of Document, Files, House and Answers says which.
type Enclosure struct {
	Document string `json:"document,omitempty"` // key of a document of the intake
	As       Form   `json:"as,omitempty"`       // of a document; a PDF when empty
	Files    string `json:"files,omitempty"`    // name of a field: the files that were sent for it
	House    string `json:"house,omitempty"`    // name of a fixed file of the house
	Answers  bool   `json:"answers,omitempty"`  // the answers as JSON
	Link     *Link  `json:"link,omitempty"`     // a link goes instead of the file
}

// FixedFile is the name by which a fixed file of the house is asked for where pictures are.
func FixedFile(name string) string { return "fixed/" + name }

// FixedName is the file that a name means, if it means one.
func FixedName(name string) (string, bool) { return strings.CutPrefix(name, "fixed/") }

// Form is the form in which a document goes.
type Form string

// The forms.
const (
	PDF  Form = "pdf"
	DOCX Form = "docx" // ISO/IEC 29500
)

// Link is how long a link works.
type Link struct {
	Days     int `json:"days,omitempty"`     // 0 for ever
	Openings int `json:"openings,omitempty"` // 0 for any number
}

// Of makes enclosures of documents, by their keys.
func Of(documents ...string) []Enclosure {
	out := make([]Enclosure, len(documents))
	for i, key := range documents {
		out[i].Document = key
	}
	return out
}

// Documents lists the keys of the documents among enclosures.
func Documents(list []Enclosure) []string {
	out := []string{}
	for _, e := range list {
		if e.Document != "" && !slices.Contains(out, e.Document) {
			out = append(out, e.Document)
		}
	}
	return out
}

// Forms lists the forms in which a document goes, the PDF first.
func Forms(list []Enclosure, document string) (out []Form) {
	for _, form := range []Form{PDF, DOCX} {
		if slices.ContainsFunc(list, func(e Enclosure) bool { return e.Document == document && e.Form() == form }) {
			out = append(out, form)
		}
	}
	return out
}

// Form is the form in which a document goes.
func (e Enclosure) Form() Form {
	if e.As == "" {
		return PDF
	}
	return e.As
}

// Scope is what enclosures may speak of.
type Scope struct {
	Form      form.Form
	Documents []string // keys
}

// Check finds what cannot be carried.
func Check(place string, list []Enclosure, s Scope) finding.List {
	var l finding.List
	for i, e := range list {
		said := 0
		for _, on := range []bool{e.Document != "", e.Files != "", e.House != "", e.Answers} {
			if on {
				said++
			}
		}
		if said != 1 {
			l.Fault(fmt.Sprintf("%s/#%d", place, i+1), "enclosure.one-thing")
			continue
		}
		switch x, ok := s.Form.Field(e.Files); {
		case e.Document != "" && !slices.Contains(s.Documents, e.Document):
			l.Fault(place, "enclosure.document-is-gone", "key", e.Document)
		case e.Files != "" && !ok:
			l.Fault(place, "enclosure.field-is-gone", "field", e.Files)
		case e.Files != "" && x.Kind != form.Upload && x.Kind != form.Photo:
			l.Fault(place, "enclosure.field-without-files", "label", x.Label)
		}
		if e.Link != nil && (e.Link.Days < 0 || e.Link.Openings < 0) {
			l.Fault(place, "enclosure.link-below-nothing")
		}
	}
	return l
}

// Filled reports whether there is something to carry: made says which documents are made.
func (e Enclosure) Filled(f form.Form, answers form.Answers, made func(document string) bool) bool {
	switch {
	case e.Document != "":
		return made(e.Document)
	case e.Files != "":
		return len(Sent(f, answers, e.Files)) > 0
	}
	return true
}

// Sent are the files that were sent for a field, of a column those of all rows.
func Sent(f form.Form, answers form.Answers, field string) []form.File {
	rows, column := f.Column(field)
	if !column {
		return answers[field].Files
	}
	x, _ := f.Field(field)
	var all []form.File
	for _, row := range answers[rows].Rows {
		all = append(all, row[x.Key].Files...)
	}
	return all
}
