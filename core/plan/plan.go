// Package plan says what is to be done with a submission: which documents are made,
// which notices sent and what is filed, and what must be done before what.
package plan

import (
	"amberseal/core/intake"
	"amberseal/core/phrase"
)

// Kind is what sort of step it is.
type Kind string

// The kinds of step. Notices and filings wait for the documents they carry.
const (
	Document Kind = "document"
	Notice   Kind = "notice"
	Filing   Kind = "filing"
)

// Step is one thing to do. Needs are the keys of the documents that come first.
type Step struct {
	Kind  Kind
	Key   string
	Name  string
	Needs []string
}

// For plans a submission. A document whose condition does not hold is not made, and what
// would carry it goes without it; a filing of it falls away.
func For(d intake.Design, facts phrase.Facts) []Step {
	var steps []Step
	when := func(document string) bool {
		x, ok := d.Document(document)
		return ok && facts.Condition(x.When)
	}
	for _, x := range d.Documents {
		if facts.Condition(x.When) {
			steps = append(steps, Step{Kind: Document, Key: x.Key, Name: x.Name})
		}
	}
	for _, x := range d.Notices {
		if !facts.Condition(x.When) {
			continue
		}
		s := Step{Kind: Notice, Key: x.Key, Name: x.Name}
		for _, key := range x.Attach {
			if when(key) {
				s.Needs = append(s.Needs, key)
			}
		}
		steps = append(steps, s)
	}
	for _, x := range d.Filings {
		if facts.Condition(x.When) && when(x.Document) {
			steps = append(steps, Step{Kind: Filing, Key: x.Key, Name: x.Name, Needs: []string{x.Document}})
		}
	}
	return steps
}
