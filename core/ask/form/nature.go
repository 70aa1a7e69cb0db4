package form

import (
	"encoding/json"
	"reflect"
	"slices"

	"amberseal/core/settings"
)

// Shape is what an answer is made of. Kinds of one shape differ in how they are asked and checked; who prints, describes or reads
// answers needs to know shapes only.
type Shape int

// The shapes.
const (
	Nothing  Shape = iota // the line takes no answer
	Words                 // Value.Text
	Figure                // Value.Number
	Day                   // Value.Date
	Moment                // Value.Date, with a time
	Hour                  // Value.Clock
	One                   // Value.Text, one of Field.Choices
	Several               // Value.List, some of Field.Choices
	Truth                 // Value.Yes
	Parts                 // Value.Parts
	Files                 // Value.Files
	Drawn                 // Value.Sign
	Repeated              // Value.Rows
)

// nature is all that is particular to a kind of field. The table of them in kinds.go is where a kind is made.
type nature struct {
	kind       Kind
	shape      Shape
	settings   []string // names that stand under the kind's in the format, besides those of every field
	read       func(c Circumstances, x Field, s string) (Value, string)
	sample     func(x Field, i int, kind SampleKind) Value
	check      func(c *designCheck, x Field, place string)
	calculable bool     // a formula can give its values
	outside    bool     // rows cannot ask for it
	formats    []string // of placeholders, besides the usual one
	described  Described
	room       Room
	share      float64 // of a table’s width beside others, usualShare when 0
	please     string  // said where a required answer is missing
}

// Described is what a JSON Schema says of answers of words (JSON Schema 2020-12, validation 6.3.3 and 7.3).
type Described struct{ Format, Pattern string }

// Room is the place for an answer on a copy that is filled by hand, in points.
type Room struct {
	Width, Height float64 // the whole width when 0; one line when 0
	Several       bool    // lines
	Hint          string  // date, time or both: the pattern that helps to write it
}

// natures are the table, and where each kind is in it.
var (
	natures []nature
	places  map[Kind]int
)

func init() {
	natures = table()
	places = make(map[Kind]int, len(natures))
	for i, n := range natures {
		places[n.kind] = i
	}
}

// nature of a kind; that of one which is not there has no answer.
func (k Kind) nature() *nature {
	if i, ok := places[k]; ok {
		return &natures[i]
	}
	return &nature{kind: k}
}

// Kinds lists every kind in the order in which they are offered.
func Kinds() []Kind {
	out := make([]Kind, len(natures))
	for i, n := range natures {
		out[i] = n.kind
	}
	return out
}

// Shape is what an answer of this kind is made of.
func (k Kind) Shape() Shape { return k.nature().shape }

// Shape is what the answer is made of.
func (v Value) Shape() Shape { return v.Kind.Shape() }

// Asks reports whether fields of this kind take an answer.
func (k Kind) Asks() bool { return k.Shape() != Nothing }

// Choosy reports whether fields of this kind have choices.
func (k Kind) Choosy() bool { return k.Shape() == One || k.Shape() == Several }

// Numeric reports whether answers of this kind are numbers.
func (k Kind) Numeric() bool { return k.Shape() == Figure }

// Filed reports whether answers of this kind are files.
func (k Kind) Filed() bool { return k.Shape() == Files }

// Calculable reports whether a formula can give values of this kind.
func (k Kind) Calculable() bool { return k.nature().calculable }

// InRows reports whether rows can ask for this kind.
func (k Kind) InRows() bool { return k.Asks() && !k.nature().outside }

// Has reports whether fields of this kind have a setting, by its name in the format.
func (k Kind) Has(setting string) bool { return slices.Contains(k.nature().settings, setting) }

// Formats lists the formats that placeholders of this kind can take; the first, "", is the usual one.
func (k Kind) Formats() []string { return append([]string{""}, k.nature().formats...) }

// Described is what a JSON Schema says of the kind's answers.
func (k Kind) Described() Described { return k.nature().described }

// Room is what a copy on paper leaves for an answer.
func (k Kind) Room() Room {
	r := k.nature().room
	if r.Height == 0 {
		r.Height = 19
	}
	return r
}

// usualShare is that of kinds which say nothing.
const usualShare = 1.8

// Share is how much of a table's width such answers want, beside others.
func (k Kind) Share() float64 {
	if s := k.nature().share; s > 0 {
		return s
	}
	return usualShare
}

// KindSettings tells the names of the settings in the format, and which of them each kind has.
func (Field) KindSettings() (reflect.Type, map[string][]string) {
	of := map[string][]string{}
	for _, n := range natures {
		of[string(n.kind)] = n.settings
	}
	return reflect.TypeFor[Settings](), of
}

// MarshalJSON writes the field with its settings under the name of its kind.
func (f Field) MarshalJSON() ([]byte, error) {
	type plain Field
	object, err := json.Marshal(plain(f))
	if err != nil {
		return nil, err
	}
	return settings.Append(object, string(f.Kind), f.Settings, f.Kind.nature().settings)
}

// UnmarshalJSON reads what MarshalJSON writes.
func (f *Field) UnmarshalJSON(data []byte) error {
	type plain Field
	if err := json.Unmarshal(data, (*plain)(f)); err != nil {
		return err
	}
	if f.Kind == "" {
		f.Kind = ShortText
	}
	return settings.Read(data, string(f.Kind), &f.Settings)
}

// String is the shape's name.
func (s Shape) String() string {
	return [...]string{"nothing", "words", "figure", "day", "moment", "hour", "one", "several", "truth", "parts", "files", "drawn",
		"repeated"}[s]
}
