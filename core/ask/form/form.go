// Package form is what is asked: the fields of an intake, which of them show, what the
// calculated ones are, how answers are checked, and made-up answers for proofs.
//
// In come a Form (plain data, its JSON is part of the design file), raw JSON answers and
// the circumstances of asking; out come typed Answers and findings. It never reads a
// clock, a file or the network, and it writes no text for documents: package phrase does.
package form

import (
	"slices"
	"strings"
)

// Choice is one of the answers of a choosing field. The value is what is kept,
// the label what people read.
type Choice struct {
	Value   string `json:"value"`
	Label   string `json:"label"`
	Picture string `json:"picture,omitempty"` // its name, where choices are shown as pictures
}

// Field is one line of the form. The key never changes by itself: a label may be rewritten and the field moved without breaking a
// document that prints it.
type Field struct {
	Key          string  `json:"key"`
	Kind         Kind    `json:"kind"`
	Label        string  `json:"label"`
	Help         string  `json:"help,omitempty"`
	Required     bool    `json:"required,omitempty"`
	When         string  `json:"when,omitempty"`         // formula; shown always when empty
	RequiredWhen string  `json:"requiredWhen,omitempty"` // formula; besides Required
	Formula      string  `json:"formula,omitempty"`      // the field is calculated, not asked
	Default      Default `json:"default,omitzero"`
	Unique       bool    `json:"unique,omitempty"`  // among this intake's submissions
	Message      string  `json:"message,omitempty"` // said instead of our own when the answer does not fit
	Width        string  `json:"width,omitempty"`   // "half" or "third" on a wide page

	Settings `json:"-"` // they stand under the name of the kind
}

// Settings are those of one kind or another; the table of kinds says which kind has which, and docs/fields.md.
type Settings struct {
	Choices []Choice `json:"choices,omitempty"`

	Placeholder string `json:"placeholder,omitempty"`
	Prefix      string `json:"prefix,omitempty"`
	Suffix      string `json:"suffix,omitempty"`
	Mask        string `json:"mask,omitempty"` // # a digit, A a letter, * either; other signs stand for themselves
	Min         string `json:"min,omitempty"`  // number, or day or time as it is answered, or @today
	Max         string `json:"max,omitempty"`
	Step        string `json:"step,omitempty"`
	Shortest    int    `json:"shortest,omitempty"` // characters
	Longest     int    `json:"longest,omitempty"`
	Pattern     string `json:"pattern,omitempty"` // regular expression of RE2 for the whole answer
	About       string `json:"about,omitempty"`   // "self" or "other", for browsers that may fill it in; guessed when empty

	Country  string   `json:"country,omitempty"`  // ISO 3166 code; the house's when empty
	Currency string   `json:"currency,omitempty"` // ISO 4217 code; the house's when empty
	Scale    int      `json:"scale,omitempty"`    // the highest, 5 when 0
	Parts    []string `json:"parts,omitempty"`    // which are asked; the usual ones when empty
	Accept   []string `json:"accept,omitempty"`   // kinds of file by their endings, such as pdf; any when empty
	Largest  int      `json:"largest,omitempty"`  // megabytes a file, 10 when 0
	Least    int      `json:"least,omitempty"`    // how many at least
	Most     int      `json:"most,omitempty"`     // and at most
	Picture  string   `json:"picture,omitempty"`  // its name
	Fields   []Field  `json:"fields,omitempty"`   // what each row asks
}

// Default is how an answer begins: as a value, or as what is known when it is asked.
type Default struct {
	Value string      `json:"value,omitempty"` // as an answer is kept; several choices are parted by commas
	From  DefaultFrom `json:"from,omitempty"`
	Name  string      `json:"name,omitempty"` // of the parameter of the form's address, for one from the link
}

// DefaultFrom is where the beginning of an answer comes from.
type DefaultFrom string

// Where it can come from.
const (
	FromToday  DefaultFrom = "today"
	FromNow    DefaultFrom = "now"
	FromPerson DefaultFrom = "person" // who is signed in
	FromLink   DefaultFrom = "link"   // a parameter of the form's address
)

// String says it in words; nothing for none.
func (d Default) String() string {
	switch d.From {
	case "":
		return d.Value
	case FromLink:
		return "the link’s " + d.Name
	case FromPerson:
		return "who is signed in"
	}
	return string(d.From)
}

// Constant is a number or text with a name, kept in one place and used in formulas.
type Constant struct {
	Key   string `json:"key"`
	Label string `json:"label"`
	Value string `json:"value"` // such as 0.10, 10% or words
}

// Form is the fields in the order in which they are asked.
type Form struct {
	Intro     string     `json:"intro,omitempty"` // shown above the first field
	Constants []Constant `json:"constants,omitempty"`
	Fields    []Field    `json:"fields"`

	Translations map[string]Texts `json:"translations,omitempty"` // by language: de, fr, …
}

// Calculated reports whether the field's value comes from its formula.
func (f Field) Calculated() bool { return f.Formula != "" }

// Answered reports whether the field can have a value: asked or calculated.
func (f Field) Answered() bool { return f.Kind.Asks() }

// Field finds a field by its name: its key, or ROWS.KEY for a field of rows.
func (f Form) Field(name string) (Field, bool) {
	for _, x := range f.Fields {
		if x.Key == name {
			return x, true
		}
		if rest, ok := strings.CutPrefix(name, x.Key+"."); ok && x.Kind == Rows {
			for _, column := range x.Fields {
				if column.Key == rest {
					return column, true
				}
			}
		}
	}
	return Field{}, false
}

// LabelOf is the label of a field, or its name where there is none.
func (f Form) LabelOf(name string) string {
	if x, ok := f.Field(name); ok && x.Label != "" {
		return x.Label
	}
	return name
}

// Constant finds a constant by its key.
func (f Form) Constant(key string) (Constant, bool) {
	i := slices.IndexFunc(f.Constants, func(c Constant) bool { return c.Key == key })
	if i < 0 {
		return Constant{}, false
	}
	return f.Constants[i], true
}

// Column reports whether the name is that of a field of rows, and gives the rows' key.
func (f Form) Column(name string) (rows string, ok bool) {
	for _, x := range f.Fields {
		if x.Kind == Rows && x.Key != name && strings.HasPrefix(name, x.Key+".") {
			if _, ok := f.Field(name); ok {
				return x.Key, true
			}
		}
	}
	return "", false
}

// RowsOf is the key of the rows whose fields are among the names, or empty.
func (f Form) RowsOf(names []string) string {
	for _, name := range names {
		if rows, ok := f.Column(name); ok {
			return rows
		}
	}
	return ""
}

// Each visits every field with its name, those of rows after the rows.
func (f Form) Each(visit func(name string, x Field)) {
	for _, x := range f.Fields {
		visit(x.Key, x)
		for _, column := range x.Fields {
			visit(x.Key+"."+column.Key, column)
		}
	}
}

// Names lists the names formulas can use, in the form's order.
func (f Form) Names() []string {
	var out []string
	f.Each(func(name string, x Field) {
		if x.Answered() {
			out = append(out, name)
		}
	})
	for _, c := range f.Constants {
		out = append(out, c.Key)
	}
	return out
}

// First finds the first field of the kind, for defaults such as whom to answer.
func (f Form) First(kind Kind) (Field, bool) {
	i := slices.IndexFunc(f.Fields, func(x Field) bool { return x.Kind == kind })
	if i < 0 {
		return Field{}, false
	}
	return f.Fields[i], true
}

// IsName reports whether a field asks for a person's name, as far as its kind and label tell.
func IsName(x Field) bool {
	return x.Kind == Name || x.Kind == ShortText && nameWords.MatchString(x.Label)
}

// ChoiceOf is the choice that words stand for: its value, or else its label; some programs that fill forms write that.
func (x Field) ChoiceOf(words string) (value string, ok bool) {
	for _, c := range x.Choices {
		if c.Value == words {
			return c.Value, true
		}
	}
	for _, c := range x.Choices {
		if c.Label == words {
			return c.Value, true
		}
	}
	return "", false
}

// ChoiceLabel is the choice's label for a value, or the value itself when no choice has it.
func (f Field) ChoiceLabel(value string) string {
	for _, c := range f.Choices {
		if c.Value == value {
			return c.Label
		}
	}
	return value
}
