package formula

import (
	"cmp"
	"fmt"
	"strings"
	"time"

	"github.com/cockroachdb/apd/v3"
	"golang.org/x/text/unicode/norm"
)

// Scope is what a formula is evaluated in.
type Scope struct {
	Values   func(name string) Value         // what names stand for
	Labels   func(name, value string) string // a choice's label by its field and value; nil gives the value
	Now      time.Time                       // for today() and now(), as the house's clock shows it
	Received time.Time                       // for received(), as Now; Now where it is zero
	Rows     string                          // the rows that the formula stands in one of, empty for none
	Row      int                             // which of them, from 0; functions of a whole column see all of them
	Own      func(name string) bool          // whether a name is of the row that is seen; nil where no row is
	Kept     *Kept                           // nil keeps nothing
}

// exact is 34 digits, half up: enough for any sum of money, and IEEE 754-2019
// decimal128's precision.
var exact = apd.BaseContext.WithPrecision(34)

func init() { exact.Rounding = apd.RoundHalfUp }

// Evaluate computes the formula. In arithmetic an answer that was not given counts as 0;
// in a comparison it equals only an empty text. Everything but the functions of a whole column
// works along columns, row by row. The error is an *Error with the column.
func (t *Tree) Evaluate(scope Scope) (Value, error) {
	s := state{src: t.source, Scope: scope, row: -1}
	return s.eval(t.root)
}

type state struct {
	src string
	Scope
	row int  // the row that is computed, -1 while whole columns are
	all bool // inside a function of a whole column
}

func (s *state) fault(n node, code string, values ...any) error {
	return errorAt(s.src, n.span().Start, code, values...)
}

func (s *state) eval(n node) (Value, error) {
	switch n := n.(type) {
	case *literal:
		return n.value, nil
	case *reference:
		return s.named(n.name), nil
	case *unary:
		return s.unary(n)
	case *binary:
		return s.binary(n)
	case *call:
		return s.call(n)
	}
	panic(fmt.Sprintf("formula: no such node %T", n))
}

// named is what a name stands for, in the row that is computed.
func (s *state) named(name string) Value {
	v := s.Values(name)
	if rows, _, ok := strings.Cut(name, "."); ok && rows == s.Rows && !s.all {
		v = at(v, s.Row)
	}
	if s.row >= 0 {
		v = at(v, s.row)
	}
	return v
}

// inRow computes a part of the formula for one row.
func (s state) inRow(n node, row int) (Value, error) {
	s.row = row
	return s.eval(n)
}

func (s *state) call(n *call) (Value, error) {
	if n.name == "if" {
		c, err := s.eval(n.args[0])
		if err != nil {
			return Value{}, err
		}
		if items, ok := c.column(); ok {
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
	if n.f.whole {
		return s.wholeColumn(n)
	}
	return s.do(n)
}

// do computes a function of what its arguments give.
func (s *state) do(n *call) (Value, error) {
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

// ifEach decides for each row, and computes there only the branch that is taken: what guards against a division by zero
// guards each row.
func (s *state) ifEach(n *call, conditions []Value) (Value, error) {
	out := make([]Value, len(conditions))
	for i, c := range conditions {
		branch := 2
		if c.Truth() {
			branch = 1
		}
		if branch >= len(n.args) {
			continue
		}
		v, err := s.inRow(n.args[branch], i)
		if err != nil {
			return Value{}, err
		}
		out[i] = v
	}
	return Column(out), nil
}

// at is the item of a column, or the same single value for each row.
func at(v Value, i int) Value {
	items, ok := v.column()
	if !ok {
		return v
	}
	if i < len(items) {
		return items[i]
	}
	return Value{}
}

// rowsOf is how many rows the values run along, or -1 when none is a column.
func rowsOf(values ...Value) int {
	n := -1
	for _, v := range values {
		if items, ok := v.column(); ok {
			n = max(n, len(items))
		}
	}
	return n
}

// each calls a function of single values, for every row where an argument is a column.
func (s *state) each(n *call, args []Value) (Value, error) {
	return s.along(func(v ...Value) (Value, error) { return n.f.do(s, n, v) }, args...)
}

func (s *state) unary(n *unary) (Value, error) {
	x, err := s.eval(n.x)
	if err != nil {
		return Value{}, err
	}
	return s.along(func(v ...Value) (Value, error) {
		if n.sign == "not" {
			return Bool(!v[0].Truth()), nil
		}
		d, err := s.number(n.x, v[0])
		if err != nil {
			return Value{}, err
		}
		return Number(new(apd.Decimal).Neg(d)), nil
	}, x)
}

// along computes with single values, or row by row where one of them is a column.
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
	return Column(out), nil
}

// junction is “and” or “or”. What the left side has decided is not computed again on the right, in each row.
func (s *state) junction(n *binary, x Value) (Value, error) {
	decided := func(v Value) bool { return v.Truth() == (n.sign == "or") }
	items, ok := x.column()
	if !ok {
		if decided(x) {
			return Bool(x.Truth()), nil
		}
		y, err := s.eval(n.y)
		if err != nil {
			return Value{}, err
		}
		return s.along(func(v ...Value) (Value, error) { return Bool(v[0].Truth()), nil }, y)
	}
	out := make([]Value, len(items))
	for i, item := range items {
		if !decided(item) {
			var err error
			if item, err = s.inRow(n.y, i); err != nil {
				return Value{}, err
			}
		}
		out[i] = Bool(item.Truth())
	}
	return Column(out), nil
}

func (s *state) binary(n *binary) (Value, error) {
	x, err := s.eval(n.x)
	if err != nil {
		return Value{}, err
	}
	if n.sign == "and" || n.sign == "or" {
		return s.junction(n, x)
	}
	y, err := s.eval(n.y)
	if err != nil {
		return Value{}, err
	}
	return s.along(func(v ...Value) (Value, error) {
		switch n.sign {
		case "=", "<>":
			return Bool(equal(v[0], v[1]) == (n.sign == "=")), nil
		case "<", "<=", ">", ">=":
			return s.order(n, v[0], v[1])
		case "&":
			return s.text(n, v[0].String()+v[1].String())
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
			return Value{}, s.fault(n.y, "formula.divides-by-zero")
		}
		if _, err = exact.Quo(out, a, b); err == nil {
			out.Reduce(out) // 10 / 4 is 2.5, not 2.5 with 32 zeros
		}
	}
	if err != nil {
		return Value{}, s.fault(n, "formula.number-too-large")
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
		return Value{}, false, s.fault(n, "formula.two-days-added")
	case both && n.sign == "-":
		return Value{}, false, s.fault(n, "formula.day-from-a-number")
	case both:
		a, x, y = b, y, x
	}
	by, err := s.whole(n.y, y)
	if err != nil {
		return Value{}, false, err
	}
	if n.sign == "-" {
		by = -by
	}
	if by < -4_000_000 || by > 4_000_000 {
		return Value{}, true, s.fault(n, "formula.day-too-far")
	}
	v, err := s.dated(n, a.AddDate(0, 0, by), x)
	return v, true, err
}

// dated is a day within the years people write, with the time of day of the value it was made from, if that has one.
func (s *state) dated(n node, t time.Time, from Value) (Value, error) {
	if t.Year() < 1 || t.Year() > 9999 {
		return Value{}, s.fault(n, "formula.day-too-far")
	}
	if m, ok := from.v.(moment); ok {
		return Moment(t.Add(m.Sub(m.Truncate(24 * time.Hour)))), nil
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
	return nil, s.fault(n, "formula.number-needed")
}

// text is a text that was put together, within what a text may be long.
func (s *state) text(n node, t string) (Value, error) {
	if len(t) > MaxText {
		return Value{}, s.fault(n, "formula.text-too-long")
	}
	return Text(t), nil
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
	return 0, s.fault(n, "formula.number-too-large")
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
			return Value{}, s.fault(other, "formula.number-needed")
		}
		return Value{}, s.fault(n.y, "formula.not-compared")
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
			return strings.Compare(norm.NFC.String(a), norm.NFC.String(b)), true
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
