// Package enclosure is what a message or a filing carries: a document, files that were sent, a fixed file of the house, or the answers.
package enclosure

import "slices"

// Enclosure is one thing that is carried; one of Document, Files, House and Answers says which.
type Enclosure struct {
	Document string `json:"document,omitempty"` // key of a document of the intake
	As       Form   `json:"as,omitempty"`       // of a document; a PDF when empty
	Files    string `json:"files,omitempty"`    // name of a field: the files that were sent for it
	House    string `json:"house,omitempty"`    // name of a fixed file of the house
	Answers  bool   `json:"answers,omitempty"`  // the answers as JSON
	Link     *Link  `json:"link,omitempty"`     // a link goes instead of the file
}

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
