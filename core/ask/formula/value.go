package formula

import (
	"slices"
	"strings"
	"time"

	"github.com/cockroachdb/apd/v3"
)

// Value is a number, a text, true or false, a day, a time of day, a moment, a list of
// values, the column of rows, or nothing (the zero Value: an answer that was not given).
type Value struct {
	v any // *apd.Decimal, string, bool, time.Time, clock, moment, []Value, column or nil
}

type (
	clock  time.Duration // since midnight
	moment struct{ time.Time }
	column []Value
)

// Number makes an exact number. Zero has no sign: accounts know no minus nothing.
func Number(d *apd.Decimal) Value {
	if d.Negative && d.IsZero() {
		d = new(apd.Decimal).Abs(d)
	}
	return Value{d}
}

// Whole makes a whole number.
func Whole(n int64) Value { return Value{apd.New(n, 0)} }

// Text makes a text.
func Text(s string) Value { return Value{s} }

// Bool makes true or false.
func Bool(b bool) Value { return Value{b} }

// Date makes a day, given as midnight UTC.
func Date(t time.Time) Value { return Value{t} }

// Time makes a time of day, as the time since midnight.
func Time(d time.Duration) Value { return Value{clock(d)} }

// Moment makes a day with its time, as the clock on the wall shows it, in UTC.
func Moment(t time.Time) Value { return Value{moment{t}} }

// List makes one value of several, such as several choices. In a comparison it equals a text when it contains it.
func List(items []Value) Value { return Value{items} }

// Column makes the values of a field in all rows. Operators and functions of single values work along it, row by row; as a
// condition it holds when some row does.
func Column(items []Value) Value { return Value{column(items)} }

// Texts makes a list of texts.
func Texts(items []string) Value {
	out := make([]Value, len(items))
	for i, s := range items {
		out[i] = Text(s)
	}
	return List(out)
}

// Empty reports whether the value is nothing.
func (v Value) Empty() bool { return v.v == nil }

// blank reports whether nothing is in the value: no answer, no text, no items.
func (v Value) blank() bool {
	switch x := v.v.(type) {
	case nil:
		return true
	case string:
		return strings.TrimSpace(x) == ""
	case []Value:
		return allBlank(x)
	case column:
		return allBlank(x)
	}
	return false
}

func allBlank(items []Value) bool {
	return !slices.ContainsFunc(items, func(v Value) bool { return !v.blank() })
}

// Truth reports whether a condition holds: true, a number but 0, any text, day or list, a column in which some row holds.
func (v Value) Truth() bool {
	switch x := v.v.(type) {
	case bool:
		return x
	case *apd.Decimal:
		return !x.IsZero()
	case column:
		return slices.ContainsFunc(x, Value.Truth)
	}
	return !v.blank()
}

// Decimal is the exact number, if the value is one.
func (v Value) Decimal() (*apd.Decimal, bool) {
	d, ok := v.v.(*apd.Decimal)
	return d, ok
}

// Day is the day, if the value is one or a moment of one.
func (v Value) Day() (time.Time, bool) {
	switch x := v.v.(type) {
	case time.Time:
		return x, true
	case moment:
		y, m, d := x.Date()
		return time.Date(y, m, d, 0, 0, 0, 0, time.UTC), true
	}
	return time.Time{}, false
}

// Clock is the time of day since midnight, if the value has one.
func (v Value) Clock() (time.Duration, bool) {
	switch x := v.v.(type) {
	case clock:
		return time.Duration(x), true
	case moment:
		return time.Duration(x.Hour())*time.Hour + time.Duration(x.Minute())*time.Minute + time.Duration(x.Second())*time.Second, true
	}
	return 0, false
}

// Items are the items of a list or a column.
func (v Value) Items() ([]Value, bool) {
	if c, ok := v.column(); ok {
		return c, true
	}
	l, ok := v.v.([]Value)
	return l, ok
}

func (v Value) column() ([]Value, bool) {
	c, ok := v.v.(column)
	return c, ok
}

// Bool is true or false, if the value is one of them.
func (v Value) Bool() (yes, ok bool) {
	yes, ok = v.v.(bool)
	return yes, ok
}

// String is the value as plain text: digits with a point, days as 2026-11-24, lists parted by
// commas.
func (v Value) String() string {
	switch x := v.v.(type) {
	case *apd.Decimal:
		return x.Text('f')
	case string:
		return x
	case bool:
		if x {
			return "true"
		}
		return "false"
	case time.Time:
		return x.Format(time.DateOnly)
	case clock:
		return time.Time{}.Add(time.Duration(x)).Format("15:04")
	case moment:
		return x.Format("2006-01-02 15:04")
	case []Value:
		return joined(x)
	case column:
		return joined(x)
	}
	return ""
}

func joined(items []Value) string {
	parts := make([]string, len(items))
	for i, item := range items {
		parts[i] = item.String()
	}
	return strings.Join(parts, ", ")
}

// basic is the type of a value as it came.
func (v Value) basic() Basic {
	switch x := v.v.(type) {
	case *apd.Decimal:
		return NumberType
	case string:
		return TextType
	case bool:
		return TruthType
	case time.Time:
		return DateType
	case clock:
		return TimeType
	case moment:
		return MomentType
	case []Value:
		return basicOf(x)
	case column:
		return basicOf(x)
	}
	return AnyType
}

func basicOf(items []Value) Basic {
	for _, item := range items {
		if !item.Empty() {
			return item.basic()
		}
	}
	return AnyType
}
