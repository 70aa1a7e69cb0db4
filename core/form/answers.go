package form

import (
	"encoding/json"
	"time"

	"github.com/cockroachdb/apd/v3"
)

// Value is one answer, typed by its field's kind. The zero Value is no answer.
type Value struct {
	Kind   Kind
	Text   string       // texts, email, phone, and the chosen value of OneOf
	Number *apd.Decimal // WholeNumber, Decimal, Money: exact
	Date   time.Time    // Date: midnight UTC of the day
	List   []string     // SeveralOf: the chosen values in the form's order
	Yes    bool         // YesNo
	set    bool
}

// Empty reports whether nothing was answered. A refused yes/no question was answered.
func (v Value) Empty() bool { return !v.set }

// MarshalJSON writes the form in which Check reads it back: numbers as exact decimal
// strings, dates as YYYY-MM-DD, several choices as an array.
func (v Value) MarshalJSON() ([]byte, error) {
	switch {
	case !v.set:
		return []byte("null"), nil
	case v.Kind == YesNo:
		return json.Marshal(v.Yes)
	case v.Kind == SeveralOf:
		return json.Marshal(v.List)
	case v.Kind == Date:
		return json.Marshal(v.Date.Format(time.DateOnly))
	case v.Kind.Numeric():
		return json.Marshal(v.Number.Text('f'))
	default:
		return json.Marshal(v.Text)
	}
}

// Answers are the typed answers by field key. Fields without an answer are absent.
type Answers map[string]Value

// Raw are answers as they come in, by field key.
type Raw map[string]json.RawMessage

// text, number, … make set values; Check and Sample are their only users.
func text(k Kind, s string) Value         { return Value{Kind: k, Text: s, set: true} }
func number(k Kind, d *apd.Decimal) Value { return Value{Kind: k, Number: d, set: true} }
func date(t time.Time) Value              { return Value{Kind: Date, Date: t, set: true} }
func several(values []string) Value       { return Value{Kind: SeveralOf, List: values, set: true} }
func yesNo(yes bool) Value                { return Value{Kind: YesNo, Yes: yes, set: true} }
