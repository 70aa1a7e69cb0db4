// Package produce makes the documents of submissions.
package produce

import (
	"amberseal/core/finding"
	"amberseal/core/intake"
	"amberseal/core/paper"
	"amberseal/core/pdf"
	"amberseal/core/phrase"
	"amberseal/core/typeset"
)

// Composed is a finished document.
type Composed struct {
	PDF        []byte
	Title      string
	FileName   string // without .pdf
	Pages      int
	Placements []typeset.Placement
	Findings   finding.List // what could not be printed as designed
}

// Compose makes one document of a design for the facts of one submission. It needs
// neither a server nor a database and may run on many goroutines.
func Compose(d intake.Design, key string, facts phrase.Facts, pictures paper.Pictures) (Composed, error) {
	design, ok := d.Document(key)
	if !ok {
		return Composed{}, NoDocument{key}
	}
	bound, findings := paper.Bind(design, facts, pictures)
	pages, err := typeset.Set(bound)
	if err != nil {
		return Composed{}, err
	}
	data, err := pdf.Write(pages, pdf.Properties{Author: facts.House.Name, Subject: d.Name, Made: facts.Made})
	if err != nil {
		return Composed{}, err
	}
	return Composed{data, bound.Title, design.FileName.Plain(facts), len(pages.Pages), pages.Placements, findings}, nil
}

// NoDocument is the error of asking for a document the design does not have.
type NoDocument struct{ Key string }

func (e NoDocument) Error() string { return "the intake has no document “" + e.Key + "”" }
