// Package form is what is asked: the fields of an intake, how their answers are
// checked, and made-up answers for proofs.
//
// In come a Form (plain data, its JSON is part of the design file) and raw JSON
// answers; out come typed Answers and findings. It never reads a clock, a file or
// the network, and it writes no text for documents: package phrase does.
package form

import (
	"regexp"
	"slices"
	"strconv"

	"amberseal/core/finding"
)

// Kind is what sort of answer a field takes.
type Kind string

// The kinds of field.
const (
	ShortText   Kind = "short_text"
	LongText    Kind = "long_text"
	WholeNumber Kind = "whole_number"
	Decimal     Kind = "decimal"
	Money       Kind = "money"
	Email       Kind = "email"
	Phone       Kind = "phone"
	Date        Kind = "date"
	OneOf       Kind = "one_of"
	SeveralOf   Kind = "several_of"
	YesNo       Kind = "yes_no"
	Section     Kind = "section" // a heading; it takes no answer
)

// Kinds lists every kind in the order in which they are offered.
func Kinds() []Kind {
	return []Kind{ShortText, LongText, WholeNumber, Decimal, Money, Email, Phone, Date, OneOf, SeveralOf, YesNo, Section}
}

// Asks reports whether fields of this kind take an answer.
func (k Kind) Asks() bool { return k != Section }

// Choosy reports whether fields of this kind have choices.
func (k Kind) Choosy() bool { return k == OneOf || k == SeveralOf }

// Numeric reports whether answers of this kind are numbers.
func (k Kind) Numeric() bool { return k == WholeNumber || k == Decimal || k == Money }

// Choice is one of the answers of a choosing field. The value is what is kept,
// the label what people read.
type Choice struct {
	Value string `json:"value"`
	Label string `json:"label"`
}

// Field is one line of the form. The key never changes by itself: a label may be
// rewritten and the field moved without breaking a document that prints it.
type Field struct {
	Key      string   `json:"key"`
	Kind     Kind     `json:"kind"`
	Label    string   `json:"label"`
	Help     string   `json:"help,omitempty"`
	Required bool     `json:"required,omitempty"`
	Choices  []Choice `json:"choices,omitempty"`
}

// Form is the fields in the order in which they are asked.
type Form struct {
	Intro  string  `json:"intro,omitempty"` // shown above the first field
	Fields []Field `json:"fields"`
}

// Field finds a field by its key.
func (f Form) Field(key string) (Field, bool) {
	i := slices.IndexFunc(f.Fields, func(x Field) bool { return x.Key == key })
	if i < 0 {
		return Field{}, false
	}
	return f.Fields[i], true
}

// First finds the first field of the kind, for defaults such as whom to answer.
func (f Form) First(kind Kind) (Field, bool) {
	i := slices.IndexFunc(f.Fields, func(x Field) bool { return x.Kind == kind })
	if i < 0 {
		return Field{}, false
	}
	return f.Fields[i], true
}

// IsName reports whether a field asks for a person's name, as far as its label tells.
func IsName(x Field) bool { return x.Kind == ShortText && nameWords.MatchString(x.Label) }

// ChoiceLabel is the choice's label for a value, or the value itself when no choice has it.
func (f Field) ChoiceLabel(value string) string {
	for _, c := range f.Choices {
		if c.Value == value {
			return c.Label
		}
	}
	return value
}

// MaxFields is how many lines a form may have.
const MaxFields = 20_000

var keyPattern = regexp.MustCompile(`^[a-z][a-z0-9_]{0,62}$`)

// CheckDesign finds what is wrong with the form itself, before anybody answers it.
// Places begin with form/fields/KEY, or form/fields/#N for a field without a usable key.
func (f Form) CheckDesign() finding.List {
	var l finding.List
	if len(f.Fields) > MaxFields {
		l.Fault("form/fields", "The form has more than 20,000 fields.", "Split it into several intakes.")
		return l
	}
	asked, seen := 0, make(map[string]bool, len(f.Fields))
	for i, x := range f.Fields {
		place := "form/fields/" + x.Key
		switch {
		case !keyPattern.MatchString(x.Key):
			place = "form/fields/#" + strconv.Itoa(i+1)
			l.Fault(place, "The key “"+x.Key+"” cannot be used.", "A key begins with a letter a to z and has only small letters, digits and underscores, at most 63.")
		case seen[x.Key]:
			l.Fault(place, "Two fields have the key “"+x.Key+"”.", "Give one of them another key.")
		}
		seen[x.Key] = true
		if !slices.Contains(Kinds(), x.Kind) {
			l.Fault(place, "There is no kind of field called “"+string(x.Kind)+"”.", "Choose one of the kinds.")
		}
		if x.Label == "" {
			l.Fault(place, "The field has no label.", "Write the question as people should read it.")
		}
		if x.Kind.Asks() {
			asked++
		}
		if x.Kind.Choosy() {
			checkChoices(&l, place, x.Choices)
		}
	}
	if asked == 0 {
		l.Fault("form/fields", "The form asks nothing yet.", "Type a question.")
	}
	return l
}

func checkChoices(l *finding.List, place string, choices []Choice) {
	if len(choices) == 0 {
		l.Fault(place, "There is nothing to choose from.", "Write at least one choice.")
	}
	seen := make(map[string]bool, len(choices))
	for _, c := range choices {
		if c.Value == "" || c.Label == "" {
			l.Fault(place, "A choice is empty.", "Write it or remove it.")
		} else if seen[c.Value] {
			l.Fault(place, "The choice “"+c.Label+"” stands twice.", "Remove one of them.")
		}
		seen[c.Value] = true
	}
}
