package formula

import (
	"slices"
	"strings"

	"github.com/cockroachdb/apd/v3"
)

// Basic is what a single value is.
type Basic int

// The types of single values. AnyType is one that is not known, or fits everywhere.
const (
	AnyType Basic = iota
	NumberType
	TextType
	TruthType
	DateType
	TimeType
	MomentType
)

var basicNames = []string{"any value", "a number", "a text", "true or false", "a day", "a time", "a day with its time"}

func (b Basic) String() string { return basicNames[b] }

// Type is what a name or a formula stands for.
type Type struct {
	Basic    Basic
	List     bool     // several values: the column of rows, or one value of several, such as several choices
	Rows     string   // the rows a column runs along, empty for what is no column
	Choices  []string // the only texts it can be; nil for any
	Maybe    bool     // an answer that may be missing
	Constant *apd.Decimal
}

// Names tells what a name stands for, and false for a name that does not exist.
type Names func(name string) (Type, bool)

// Check finds type errors, unknown names, divisions by zero and choices that do not
// exist, each with its column and a mend, and gives the formula's type. suggestions are the
// names there are. A warning is something that may go wrong with some answers.
func (t *Tree) Check(names Names, suggestions []string) (typ Type, faults, warnings []*Error) {
	c := &checker{src: t.source, names: names, suggestions: suggestions}
	typ = c.check(t.root)
	return typ, c.faults, c.warnings
}

type checker struct {
	src              string
	names            Names
	suggestions      []string
	faults, warnings []*Error
}

func (c *checker) fault(n node, code string, values ...any) {
	c.faults = append(c.faults, errorAt(c.src, n.span().Start, code, values...))
}

func (c *checker) text(n node) string { return c.src[n.span().Start:n.span().End] }

func (c *checker) check(n node) Type {
	switch n := n.(type) {
	case *literal:
		t := Type{Basic: n.value.basic()}
		t.Constant, _ = n.value.Decimal()
		return t
	case *reference:
		t, ok := c.names(n.name)
		if !ok {
			c.unknown(n)
		}
		return t
	case *unary:
		x := c.check(n.x)
		if n.sign == "not" {
			return along(x, TruthType)
		}
		c.want(n.x, x, NumberType)
		return along(x, NumberType)
	case *binary:
		return c.binary(n)
	case *call:
		return c.call(n)
	}
	return Type{}
}

func (c *checker) unknown(n *reference) {
	for _, s := range c.suggestions {
		if strings.HasSuffix(s, "."+n.name) {
			c.fault(n, "formula.asked-in-each-row", "name", n.name, "column1", s)
			return
		}
	}
	if near := Nearest(n.name, c.suggestions); near != "" {
		c.fault(n, "formula.no-such-field-but-another", "name", n.name, "near", near)
		return
	}
	c.fault(n, "formula.no-such-field", "name", n.name)
}

// want holds a type against the one that is needed.
func (c *checker) want(n node, got Type, needed Basic) {
	if needed == AnyType || got.Basic == AnyType || got.Basic == needed {
		return
	}
	if needed == DateType && got.Basic == MomentType || needed == TimeType && got.Basic == MomentType {
		return
	}
	code := "formula.of-another-kind"
	if needed == NumberType && got.Basic == TextType {
		code = "formula.text-for-a-number"
	}
	c.fault(n, code, "needed", needed, "part", c.text(n), "kind", got.Basic)
}

// along is the type of what is computed from a value: one for each row where that is a column.
func along(x Type, b Basic) Type { return Type{Basic: b, List: x.Rows != "", Rows: x.Rows} }

// together is the shape of what two values make: a column when one is, along the same rows.
func (c *checker) together(n node, x, y Type) Type {
	if x.Rows != "" && y.Rows != "" && x.Rows != y.Rows {
		c.fault(n, "formula.columns-of-different-rows")
	}
	if x.Rows == "" {
		x = y
	}
	return along(x, AnyType)
}

func (c *checker) binary(n *binary) Type {
	if n.sign == "=" || n.sign == "<>" {
		return c.equality(n)
	}
	x, y := c.check(n.x), c.check(n.y)
	switch n.sign {
	case "and", "or":
		t := c.together(n, x, y)
		t.Basic = TruthType
		return t
	case "<", "<=", ">", ">=":
		c.comparable(n, x, y)
		t := c.together(n, x, y)
		t.Basic = TruthType
		return t
	case "&":
		t := c.together(n, x, y)
		t.Basic = TextType
		return t
	}
	t := c.together(n, x, y)
	t.Basic = NumberType
	if dated := func(b Basic) bool { return b == DateType || b == MomentType }; n.sign == "+" || n.sign == "-" {
		switch {
		case dated(x.Basic) && dated(y.Basic) && n.sign == "+":
			c.fault(n, "formula.two-days-added")
			return t
		case dated(x.Basic) && dated(y.Basic):
			return t
		case dated(x.Basic):
			c.want(n.y, y, NumberType)
			t.Basic = x.Basic
			return t
		case dated(y.Basic) && n.sign == "+":
			c.want(n.x, x, NumberType)
			t.Basic = y.Basic
			return t
		}
	}
	c.want(n.x, x, NumberType)
	c.want(n.y, y, NumberType)
	if n.sign == "/" {
		c.divisor(n.y, y)
	}
	return t
}

func (c *checker) divisor(n node, t Type) {
	switch {
	case t.Constant != nil && t.Constant.IsZero():
		c.fault(n, "formula.divides-by-zero")
	case t.Constant == nil && t.Maybe:
		c.warnings = append(c.warnings, errorAt(c.src, n.span().Start, "formula.may-divide-by-zero", "part", c.text(n)))
	}
}

func (c *checker) comparable(n *binary, x, y Type) {
	a, b := x.Basic, y.Basic
	if a == AnyType || b == AnyType || a == b || a == DateType && b == MomentType || a == MomentType && b == DateType {
		if a == TruthType {
			c.fault(n, "formula.truth-has-no-order")
		}
		return
	}
	if a == NumberType || b == NumberType {
		other, t := n.y, y
		if b == NumberType {
			other, t = n.x, x
		}
		c.want(other, t, NumberType)
		return
	}
	c.fault(n.y, "formula.kinds-not-compared", "kind", a, "other", b)
}

// equality compares; a bare word beside a field with choices is one of its choices, so that
// “instrument is strings” can be written as it is said.
func (c *checker) equality(n *binary) Type {
	result := Type{Basic: TruthType}
	x, okX := c.side(n.x)
	y, okY := c.side(n.y)
	switch {
	case !okX && x.Choices == nil && okY && y.Choices != nil:
		c.choice(n.x, n.x.(*reference).name, y)
		return along(y, TruthType)
	case !okY && okX && x.Choices != nil:
		c.choice(n.y, n.y.(*reference).name, x)
		return along(x, TruthType)
	}
	for _, side := range []struct {
		ok bool
		n  node
	}{{okX, n.x}, {okY, n.y}} {
		if !side.ok {
			c.unknown(side.n.(*reference))
			return result
		}
	}
	for _, pair := range []struct {
		lit  node
		with Type
	}{{n.y, x}, {n.x, y}} {
		if l, ok := pair.lit.(*literal); ok && pair.with.Choices != nil && l.value.basic() == TextType {
			c.choice(l, l.value.String(), pair.with)
		}
	}
	a, b := x.Basic, y.Basic
	empty := func(n node) bool { l, ok := n.(*literal); return ok && l.value.blank() }
	if a != b && a != AnyType && b != AnyType && !(a == DateType && b == MomentType || a == MomentType && b == DateType) && !empty(n.x) &&
		!empty(n.y) {
		c.fault(n, "formula.kinds-never-equal", "kind", a, "other", b)
	}
	if x.List && y.List && (x.Rows == "" || y.Rows == "") {
		c.fault(n, "formula.two-lists-compared")
	}
	shape := c.together(n, x, y)
	result.List, result.Rows = shape.List, shape.Rows
	return result
}

func (c *checker) side(n node) (Type, bool) {
	if r, ok := n.(*reference); ok {
		return c.names(r.name)
	}
	return c.check(n), true
}

func (c *checker) choice(n node, value string, t Type) {
	if value == "" || slices.Contains(t.Choices, value) {
		return
	}
	if near := Nearest(value, t.Choices); near != "" {
		c.fault(n, "formula.no-such-choice-but-another", "value", value, "near", near)
		return
	}
	c.fault(n, "formula.no-such-choice", "value", value, "choices", strings.Join(t.Choices, ", "))
}

func (c *checker) call(n *call) Type {
	args := make([]Type, len(n.args))
	for i, x := range n.args {
		args[i] = c.check(x)
		if n.name != "if" {
			c.want(x, args[i], n.f.arg(i))
		}
	}
	t := Type{Basic: n.f.gives}
	switch {
	case n.name == "if":
		t = args[1]
		t.Choices, t.Constant = nil, nil
		if len(args) < 3 {
			t.Maybe = true
		} else {
			t.Maybe = t.Maybe || args[2].Maybe
			switch a, b := args[1].Basic, args[2].Basic; {
			case a == AnyType:
				t.Basic = b
			case b != AnyType && a != b:
				c.fault(n.args[2], "formula.two-kinds-of-if", "kind", a, "other", b)
			}
			t.List = t.List || args[2].List
			if t.Rows == "" {
				t.Rows = args[2].Rows
			}
		}
		if args[0].Rows != "" {
			t.List, t.Rows = true, args[0].Rows
		}
	case n.name == "min" || n.name == "max":
		t.Basic, t.Maybe = args[0].Basic, args[0].Maybe || args[0].List
		for i, a := range args[1:] {
			if a.Basic != AnyType && t.Basic != AnyType && a.Basic != t.Basic {
				c.fault(n.args[i+1], "formula.kinds-not-compared", "kind", t.Basic, "other", a.Basic)
			}
		}
	case n.name == "average":
		t.Maybe = true
	case n.f.each:
		if l, ok := n.args[len(args)-1].(*literal); ok && n.name == "contains" && args[0].Choices != nil {
			c.choice(l, l.value.String(), args[0])
		}
		maybe := false
		for _, a := range args {
			b := t.Basic
			t = c.together(n, t, a)
			t.Basic, maybe = b, maybe || a.Maybe
		}
		t.Maybe = maybe
		if args[0].Basic == MomentType && t.Basic == DateType {
			t.Basic = MomentType // a moment that is moved keeps its time
		}
	}
	return t
}

// Nearest is the candidate most like a word, or nothing when none is like it: at most a third
// of its letters differ (Levenshtein's distance).
func Nearest(word string, candidates []string) string {
	best, least := "", len(word)/3+1
	for _, c := range candidates {
		if d := distance(strings.ToLower(word), strings.ToLower(c)); d < least {
			best, least = c, d
		}
	}
	return best
}

func distance(a, b string) int {
	if len(a) > 64 || len(b) > 64 {
		return 64
	}
	row := make([]int, len(b)+1)
	for j := range row {
		row[j] = j
	}
	for i := 1; i <= len(a); i++ {
		before := row[0]
		row[0] = i
		for j := 1; j <= len(b); j++ {
			cost := before
			if a[i-1] != b[j-1] {
				cost++
			}
			before = row[j]
			row[j] = min(cost, row[j]+1, row[j-1]+1)
		}
	}
	return row[len(b)]
}
