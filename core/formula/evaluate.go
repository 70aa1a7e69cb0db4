package formula

import (
	"cmp"
	"fmt"
	"strings"
	"time"

	"github.com/cockroachdb/apd/v3"
)

// Scope is what a formula is evaluated in.
type Scope struct {
	Values func(name string) Value         // what names stand for
	Labels func(name, value string) string // a choice's label by its field and value; nil gives the value
	Now    time.Time                       // for today() and now(), as the house's clock shows it
}

// exact is 34 digits, half up: enough for any sum of money, and IEEE 754-2019
// decimal128's precision.
var exact = apd.BaseContext.WithPrecision(34)

func init() { exact.Rounding = apd.RoundHalfUp }

// Evaluate computes the formula. In arithmetic an answer that was not given counts as 0;
// in a comparison it equals only an empty text. Lists (the columns of rows) are computed
// item by item. The error is an *Error with the column.
func (t *Tree) Evaluate(scope Scope) (Value, error) {
	s := state{t.source, scope}
	return s.eval(t.root)
}

type state struct {
	src string
	Scope
}

func (s *state) fault(n node, message string) error { return errorAt(s.src, n.span().Start, message) }

func (s *state) eval(n node) (Value, error) {
	switch n := n.(type) {
	case *literal:
		return n.value, nil
	case *reference:
		return s.Values(n.name), nil
	case *unary:
		return s.unary(n)
	case *binary:
		return s.binary(n)
	case *call:
		return s.call(n)
	}
	panic(fmt.Sprintf("formula: no such node %T", n))
}

func (s *state) call(n *call) (Value, error) {
	if n.name == "if" {
		c, err := s.eval(n.args[0])
		if err != nil {
			return Value{}, err
		}
		if items, ok := c.Items(); ok {
			return s.ifEach(n, items)
		}
		if c.Truth() {
			return s.eval(n.args[1])
		}
		if len(n.args) < 3 {
			return Value{}, nil
		}
		return s.eval(n.args[2])
	}
	args := make([]Value, len(n.args))
	for i, x := range n.args {
		v, err := s.eval(x)
		if err != nil {
			return Value{}, err
		}
		args[i] = v
	}
	if n.f.each {
		return s.each(n, args)
	}
	return n.f.do(s, n, args)
}

// ifEach decides for each row.
func (s *state) ifEach(n *call, conditions []Value) (Value, error) {
	branches := make([]Value, 2)
	for i := range branches {
		if i+1 < len(n.args) {
			v, err := s.eval(n.args[i+1])
			if err != nil {
				return Value{}, err
			}
			branches[i] = v
		}
	}
	out := make([]Value, len(conditions))
	for i, c := range conditions {
		b := branches[1]
		if c.Truth() {
			b = branches[0]
		}
		out[i] = at(b, i)
	}
	return List(out), nil
}

// at is the item of a list, or the same single value for each row.
func at(v Value, i int) Value {
	items, ok := v.Items()
	if !ok {
		return v
	}
	if i < len(items) {
		return items[i]
	}
	return Value{}
}

// rowsOf is how many rows the values run along, or -1 when none is a list.
func rowsOf(values ...Value) int {
	n := -1
	for _, v := range values {
		if items, ok := v.Items(); ok {
			n = max(n, len(items))
		}
	}
	return n
}

// each calls a function of single values, for every row where an argument is a list.
func (s *state) each(n *call, args []Value) (Value, error) {
	rows := rowsOf(args...)
	if rows < 0 {
		return n.f.do(s, n, args)
	}
	out := make([]Value, rows)
	row := make([]Value, len(args))
	for i := range out {
		for k, a := range args {
			row[k] = at(a, i)
		}
		v, err := n.f.do(s, n, row)
		if err != nil {
			return Value{}, err
		}
		out[i] = v
	}
	return List(out), nil
}

func (s *state) unary(n *unary) (Value, error) {
	x, err := s.eval(n.x)
	if err != nil {
		return Value{}, err
	}
	if n.sign == "not" {
		return Bool(!x.Truth()), nil
	}
	return s.along(func(v ...Value) (Value, error) {
		d, err := s.number(n.x, v[0])
		if err != nil {
			return Value{}, err
		}
		return Number(new(apd.Decimal).Neg(d)), nil
	}, x)
}

// along computes with single values, or row by row where one of them is a list.
func (s *state) along(do func(v ...Value) (Value, error), values ...Value) (Value, error) {
	rows := rowsOf(values...)
	if rows < 0 {
		return do(values...)
	}
	out := make([]Value, rows)
	row := make([]Value, len(values))
	for i := range out {
		for k, v := range values {
			row[k] = at(v, i)
		}
		v, err := do(row...)
		if err != nil {
			return Value{}, err
		}
		out[i] = v
	}
	return List(out), nil
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
	}
	return s.along(func(v ...Value) (Value, error) {
		switch n.sign {
		case "<", "<=", ">", ">=":
			return s.order(n, v[0], v[1])
		case "&":
			return Text(v[0].String() + v[1].String()), nil
		}
		return s.arithmetic(n, v[0], v[1])
	}, x, y)
}

func (s *state) arithmetic(n *binary, x, y Value) (Value, error) {
	if n.sign == "+" || n.sign == "-" {
		if v, ok, err := s.days(n, x, y); ok || err != nil {
			return v, err
		}
	}
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
			return Value{}, s.fault(n.y, "this divides by zero")
		}
		if _, err = exact.Quo(out, a, b); err == nil {
			out.Reduce(out) // 10 / 4 is 2.5, not 2.5 with 32 zeros
		}
	}
	if err != nil {
		return Value{}, s.fault(n, "the number is too large")
	}
	return Number(out), nil
}

// days moves a day by a number of days, or counts the days between two.
func (s *state) days(n *binary, x, y Value) (Value, bool, error) {
	a, dated := x.Day()
	b, both := y.Day()
	switch {
	case !dated && !both:
		return Value{}, false, nil
	case dated && both && n.sign == "-":
		return Whole(daysBetween(b, a)), true, nil
	case dated && both:
		return Value{}, false, s.fault(n, "two days cannot be added")
	case both && n.sign == "-":
		return Value{}, false, s.fault(n, "a day cannot be taken from a number")
	case both:
		a, y = b, x
	}
	by, err := s.whole(n.y, y)
	if err != nil {
		return Value{}, false, err
	}
	if n.sign == "-" {
		by = -by
	}
	v, err := s.day(n, a, by)
	return v, true, err
}

// day is a day moved by some days, within the years people write.
func (s *state) day(n node, t time.Time, by int) (Value, error) {
	if by < -4_000_000 || by > 4_000_000 {
		return Value{}, s.fault(n, "the day is too far away")
	}
	return s.dated(n, t.AddDate(0, 0, by))
}

func (s *state) dated(n node, t time.Time) (Value, error) {
	if t.Year() < 1 || t.Year() > 9999 {
		return Value{}, s.fault(n, "the day is too far away")
	}
	return Date(t), nil
}

func daysBetween(from, to time.Time) int64 { return (to.Unix() - from.Unix()) / 86_400 }

func (s *state) number(n node, v Value) (*apd.Decimal, error) {
	switch x := v.v.(type) {
	case *apd.Decimal:
		return x, nil
	case nil:
		return new(apd.Decimal), nil
	}
	return nil, s.fault(n, "a number is needed here")
}

// whole is a number without its decimals, small enough to count with.
func (s *state) whole(n node, v Value) (int, error) {
	d, err := s.number(n, v)
	if err != nil {
		return 0, err
	}
	var cut apd.Decimal
	truncated := *exact
	truncated.Rounding = apd.RoundDown
	if _, err := truncated.RoundToIntegralValue(&cut, d); err == nil {
		if i, err := cut.Int64(); err == nil && i > -1<<31 && i < 1<<31 {
			return int(i), nil
		}
	}
	return 0, s.fault(n, "the number is too large")
}

func (s *state) order(n *binary, x, y Value) (Value, error) {
	if x.Empty() || y.Empty() {
		return Bool(false), nil
	}
	c, ok := compare(x, y)
	if !ok {
		if x.basic() == NumberType || y.basic() == NumberType {
			other := n.y
			if y.basic() == NumberType {
				other = n.x
			}
			return Value{}, s.fault(other, "a number is needed here")
		}
		return Value{}, s.fault(n.y, "these two cannot be compared")
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

// compare orders two values of one type; a day and a moment compare as moments.
func compare(x, y Value) (int, bool) {
	switch a := x.v.(type) {
	case *apd.Decimal:
		if b, ok := y.v.(*apd.Decimal); ok {
			return a.Cmp(b), true
		}
	case string:
		if b, ok := y.v.(string); ok {
			return strings.Compare(a, b), true
		}
	case clock:
		if b, ok := y.v.(clock); ok {
			return cmp.Compare(a, b), true
		}
	}
	a, ok1 := instant(x)
	b, ok2 := instant(y)
	return a.Compare(b), ok1 && ok2
}

func instant(v Value) (time.Time, bool) {
	switch x := v.v.(type) {
	case time.Time:
		return x, true
	case moment:
		return x.Time, true
	}
	return time.Time{}, false
}

func equal(x, y Value) bool {
	if items, ok := x.Items(); ok {
		if _, both := y.Items(); both {
			return false
		}
		if y.blank() {
			return x.blank()
		}
		for _, item := range items {
			if equal(item, y) {
				return true
			}
		}
		return false
	}
	if _, ok := y.Items(); ok {
		return equal(y, x)
	}
	if x.Empty() || y.Empty() {
		return x.blank() && y.blank()
	}
	if a, ok := x.v.(bool); ok {
		b, ok := y.v.(bool)
		return ok && a == b
	}
	c, ok := compare(x, y)
	return ok && c == 0
}
