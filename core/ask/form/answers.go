package form

import (
	"encoding/json"
	"time"

	"github.com/cockroachdb/apd/v3"
)

// Value is one answer, typed by its field's kind. The zero Value is no answer.
type Value struct {
	Kind   Kind
	Text   string            // texts, email, web address, hidden, the chosen value of OneOf; a phone number in E.164
	Number *apd.Decimal      // WholeNumber, Decimal, Money, Rating: exact
	Date   time.Time         // Date: midnight UTC of the day; DateTime: the house's wall clock, in UTC
	Clock  time.Duration     // Time: since midnight
	List   []string          // SeveralOf: the chosen values in the form's order
	Yes    bool              // YesNo, Consent
	Parts  map[string]string // Name, Address
	Files  []File            // Upload, Photo
	Sign   *Mark             // Signature
	Rows   []Answers         // Rows: the answers of each row
	set    bool
}

// File is an uploaded file as an answer names it; its bytes are kept elsewhere.
type File struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	Type string `json:"type"` // media type, found out from the bytes
	Size int64  `json:"size"` // bytes
}

// Mark is a signature: drawn, typed or uploaded.
type Mark struct {
	Strokes [][]float64 `json:"strokes,omitempty"` // drawn: x, y, x, y, … of each stroke, y downwards
	Width   float64     `json:"width,omitempty"`   // of the box it was drawn in, in the strokes' unit
	Height  float64     `json:"height,omitempty"`
	Typed   string      `json:"typed,omitempty"`
	File    *File       `json:"file,omitempty"`
}

// Empty reports whether nothing was answered. A refused yes/no question was answered.
func (v Value) Empty() bool { return !v.set }

const (
	timeLayout   = "15:04"
	momentLayout = "2006-01-02T15:04"
)

// MarshalJSON writes the form in which Check reads it back: numbers as exact decimal
// strings, dates as YYYY-MM-DD, times as HH:MM, several choices as an array, names and
// addresses as objects of their parts, rows as an array of objects.
func (v Value) MarshalJSON() ([]byte, error) {
	if !v.set {
		return []byte("null"), nil
	}
	switch v.Shape() {
	case Truth:
		return json.Marshal(v.Yes)
	case Several:
		return json.Marshal(v.List)
	case Day:
		return json.Marshal(v.Date.Format(time.DateOnly))
	case Hour:
		return json.Marshal(time.Time{}.Add(v.Clock).Format(timeLayout))
	case Moment:
		return json.Marshal(v.Date.Format(momentLayout))
	case Parts:
		return json.Marshal(v.Parts)
	case Files:
		return json.Marshal(v.Files)
	case Drawn:
		return json.Marshal(v.Sign)
	case Repeated:
		return json.Marshal(v.Rows)
	case Figure:
		return json.Marshal(v.Number.Text('f'))
	}
	return json.Marshal(v.Text)
}

// Answers are the typed answers by field key. Fields without an answer are absent.
type Answers map[string]Value

// Raw are answers as they come in, by field key.
type Raw map[string]json.RawMessage

// Files lists every uploaded file among the answers, those of rows and signatures too.
func (a Answers) Files() []File {
	var out []File
	for _, v := range a {
		out = append(out, v.Files...)
		if v.Sign != nil && v.Sign.File != nil {
			out = append(out, *v.Sign.File)
		}
		for _, row := range v.Rows {
			out = append(out, row.Files()...)
		}
	}
	return out
}

// OnlyRow is a repeating group with one row.
func OnlyRow(row Answers) Value { return rowsOf([]Answers{row}) }

// text, number, … make set values.
func text(k Kind, s string) Value           { return Value{Kind: k, Text: s, set: true} }
func number(k Kind, d *apd.Decimal) Value   { return Value{Kind: k, Number: d, set: true} }
func date(k Kind, t time.Time) Value        { return Value{Kind: k, Date: t, set: true} }
func clock(d time.Duration) Value           { return Value{Kind: Time, Clock: d, set: true} }
func several(k Kind, values []string) Value { return Value{Kind: k, List: values, set: true} }
func yesNo(k Kind, yes bool) Value          { return Value{Kind: k, Yes: yes, set: true} }
func parts(k Kind, p map[string]string) Value {
	return Value{Kind: k, Parts: p, set: true}
}
func files(k Kind, f []File) Value { return Value{Kind: k, Files: f, set: true} }
func signed(m *Mark) Value         { return Value{Kind: Signature, Sign: m, set: true} }
func rowsOf(rows []Answers) Value  { return Value{Kind: Rows, Rows: rows, set: true} }
