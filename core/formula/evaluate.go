package formula

import (
	"fmt"
	"strings"
	"time"

	"github.com/cockroachdb/apd/v3"
)

// Value is a number, a text, true or false, a date, a list of texts, or nothing (the zero
// Value: an answer that was not given).
type Value struct {
	v any // *apd.Decimal, string, bool, time.Time, []string or nil
}

// Number makes an exact number.
func Number(d *apd.Decimal) Value { return Value{d} }

// Text makes a text.
func Text(s string) Value { return Value{s} }

// Bool makes true or false.
func Bool(b bool) Value { return Value{b} }

// Date makes a day.
func Date(t time.Time) Value { return Value{t} }

// List makes a list of texts. A list equals a text when it contains it.
func List(items []string) Value { return Value{items} }

// Empty reports whether the value is nothing.
func (v Value) Empty() bool { return v.v == nil }

// Truth reports whether a condition holds: true, a number but 0, any text, day or list.
func (v Value) Truth() bool {
	switch x := v.v.(type) {
	case bool:
		return x
	case *apd.Decimal:
		return !x.IsZero()
	case nil:
		return false
	case string:
		return x != ""
	case []string:
		return len(x) > 0
	}
	return true
}

// Decimal is the exact number, if the value is one.
func (v Value) Decimal() (*apd.Decimal, bool) {
	d, ok := v.v.(*apd.Decimal)
	return d, ok
}

// Values gives the answers that names stand for.
type Values func(name string) Value

// exact is 34 digits, half up: enough for any sum of money, and IEEE 754-2019
// decimal128's precision.
var exact = apd.BaseContext.WithPrecision(34)

func init() { exact.Rounding = apd.RoundHalfUp }

// Evaluate computes the formula. In arithmetic an answer that was not given counts as 0;
// in a comparison it equals only an empty text. The error is an *Error with the column.
func (t *Tree) Evaluate(values Values) (Value, error) {
	s := state{t.source, values}
	return s.eval(t.root)
}

type state struct {
	src    string
	values Values
}

func (s *state) eval(n node) (Value, error) {
	switch n := n.(type) {
	case *literal:
		return n.value, nil
	case *reference:
		return s.values(n.name), nil
	case *unary:
		return s.unary(n)
	case *binary:
		return s.binary(n)
	}
	panic(fmt.Sprintf("formula: no such node %T", n))
}

func (s *state) unary(n *unary) (Value, error) {
	x, err := s.eval(n.x)
	if err != nil {
		return Value{}, err
	}
	if n.sign == "not" {
		return Bool(!x.Truth()), nil
	}
	d, err := s.number(n.x, x)
	if err != nil {
		return Value{}, err
	}
	return Number(new(apd.Decimal).Neg(d)), nil
}

func (s *state) binary(n *binary) (Value, error) {
	x, err := s.eval(n.x)
	if err != nil {
		return Value{}, err
	}
	if n.sign == "and" && !x.Truth() || n.sign == "or" && x.Truth() {
		return Bool(x.Truth()), nil
	}
	y, err := s.eval(n.y)
	if err != nil {
		return Value{}, err
	}
	switch n.sign {
	case "and", "or":
		return Bool(y.Truth()), nil
	case "=", "<>":
		return Bool(equal(x, y) == (n.sign == "=")), nil
	case "<", "<=", ">", ">=":
		return s.order(n, x, y)
	}
	return s.arithmetic(n, x, y)
}

func (s *state) arithmetic(n *binary, x, y Value) (Value, error) {
	a, err := s.number(n.x, x)
	if err != nil {
		return Value{}, err
	}
	b, err := s.number(n.y, y)
	if err != nil {
		return Value{}, err
	}
	out := new(apd.Decimal)
	switch n.sign {
	case "+":
		_, err = exact.Add(out, a, b)
	case "-":
		_, err = exact.Sub(out, a, b)
	case "*":
		_, err = exact.Mul(out, a, b)
	case "/":
		if b.IsZero() {
			return Value{}, errorAt(s.src, n.y.span().Start, "this divides by zero")
		}
		if _, err = exact.Quo(out, a, b); err == nil {
			out.Reduce(out) // 10 / 4 is 2.5, not 2.5 with 32 zeros
		}
	}
	if err != nil {
		return Value{}, errorAt(s.src, n.Start, "the number is too large")
	}
	return Number(out), nil
}

func (s *state) number(n node, v Value) (*apd.Decimal, error) {
	switch x := v.v.(type) {
	case *apd.Decimal:
		return x, nil
	case nil:
		return new(apd.Decimal), nil
	}
	return nil, errorAt(s.src, n.span().Start, "a number is needed here")
}

func (s *state) order(n *binary, x, y Value) (Value, error) {
	var c int
	switch a := x.v.(type) {
	case time.Time:
		b, ok := y.v.(time.Time)
		if !ok {
			return Bool(false), nil
		}
		c = a.Compare(b)
	case string:
		b, ok := y.v.(string)
		if !ok {
			return Value{}, errorAt(s.src, n.y.span().Start, "a text can only be compared with a text")
		}
		c = strings.Compare(a, b)
	default:
		if x.Empty() || y.Empty() {
			return Bool(false), nil
		}
		a1, err := s.number(n.x, x)
		if err != nil {
			return Value{}, err
		}
		b1, err := s.number(n.y, y)
		if err != nil {
			return Value{}, err
		}
		c = a1.Cmp(b1)
	}
	switch n.sign {
	case "<":
		return Bool(c < 0), nil
	case "<=":
		return Bool(c <= 0), nil
	case ">":
		return Bool(c > 0), nil
	}
	return Bool(c >= 0), nil
}

func equal(x, y Value) bool {
	switch a := x.v.(type) {
	case nil:
		return y.v == nil || y.v == ""
	case *apd.Decimal:
		b, ok := y.v.(*apd.Decimal)
		return ok && a.Cmp(b) == 0
	case time.Time:
		b, ok := y.v.(time.Time)
		return ok && a.Equal(b)
	case []string:
		b, ok := y.v.(string)
		for _, item := range a {
			if ok && item == b {
				return true
			}
		}
		return false
	}
	if y.v == nil {
		return x.v == ""
	}
	if _, ok := y.v.([]string); ok {
		return equal(y, x)
	}
	return x.v == y.v
}
