package match

import (
	"strings"
	"unicode"

	"amberseal/core/ask/form"
	"amberseal/core/words/finding"
)

// Placeholder is something in a file that is to be filled.
type Placeholder struct {
	Name   string
	Format string // what the file asks for; in a word-processor file what follows the bar
	Kind   Kind
	Place  string // “paragraph 4”, “header, paragraph 1”, “page 2, field 14”
	Match  Match
	How    How
}

// Kind is in which way a file asks to be filled.
type Kind string

// The kinds. The first nine are those of word-processor files, the others those of forms.
const (
	Words      Kind = "words"
	Code       Kind = "code"
	Condition  Kind = "condition"
	RepeatRows Kind = "rows"
	Answers    Kind = "answers"
	PictureOf  Kind = "picture"
	Control    Kind = "control"
	Field      Kind = "field"
	Property   Kind = "property"
	Text       Kind = "text"
	Tick       Kind = "tick"
	Radio      Kind = "radio"
	List       Kind = "list"
	Button     Kind = "button"
	Signature  Kind = "signature"
)

// Inspection is what was found in a file.
type Inspection struct {
	Placeholders []Placeholder
	Findings     finding.List
	Unprinted    []string // names of the form's fields that stand nowhere
}

// Asked is a form made of what a file is to be filled with.
type Asked struct {
	Fields  []form.Field
	Matches map[string]Match // which question each name of the file has become
}

// Label is a name as a question: “first_day” is “First day”.
func Label(name string) string {
	s := strings.Join(strings.FieldsFunc(name, func(r rune) bool { return unicode.IsSpace(r) || r == '_' || r == '.' }), " ")
	if s == strings.ToUpper(s) {
		s = strings.ToLower(s)
	}
	r := []rune(s)
	if len(r) > 0 {
		r[0] = unicode.ToUpper(r[0])
	}
	return string(r)
}
