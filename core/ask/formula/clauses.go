package formula

import "strings"

// Clause is one comparison of a condition that can be said as a sentence: “instrument is
// strings”.
type Clause struct {
	Field string `json:"field"`
	Is    string `json:"is"`              // =, <>, <, <=, >, >=, contains, lacks, empty, filled, yes, no
	Value string `json:"value,omitempty"` // a text or a number as it is written in the formula, without quotes
}

// Clauses takes a condition apart into comparisons of one field with one value, all joined by
// “and” or all by “or”. isField tells names of fields from bare words that are choices. ok is false for a
// formula that is more than that.
func (t *Tree) Clauses(isField func(name string) bool) (join string, clauses []Clause, ok bool) {
	join = "and"
	if b, is := t.root.(*binary); is && b.sign == "or" {
		join = "or"
	}
	ok = split(t.root, join, isField, &clauses)
	return join, clauses, ok
}

func split(n node, join string, isField func(string) bool, out *[]Clause) bool {
	if b, ok := n.(*binary); ok && b.sign == join {
		return split(b.x, join, isField, out) && split(b.y, join, isField, out)
	}
	c, ok := clause(n, isField)
	if ok {
		*out = append(*out, c)
	}
	return ok
}

func clause(n node, isField func(string) bool) (Clause, bool) {
	switch n := n.(type) {
	case *reference:
		return Clause{Field: n.name, Is: "yes"}, true
	case *unary:
		c, ok := clause(n.x, isField)
		opposite := map[string]string{"yes": "no", "empty": "filled", "contains": "lacks"}[c.Is]
		if n.sign != "not" || !ok || opposite == "" {
			return Clause{}, false
		}
		c.Is = opposite
		return c, true
	case *call:
		ref, ok := n.args0()
		switch {
		case ok && n.name == "empty":
			return Clause{Field: ref, Is: "empty"}, true
		case ok && n.name == "contains":
			v, ok := constant(n.args[1], isField)
			return Clause{ref, "contains", v}, ok
		}
	case *binary:
		ref, ok := n.x.(*reference)
		if !ok || !strings.Contains("= <> < <= > >=", n.sign) {
			return Clause{}, false
		}
		v, ok := constant(n.y, isField)
		if v == "" && ok {
			return Clause{ref.name, map[string]string{"=": "empty", "<>": "filled"}[n.sign], ""}, n.sign == "=" || n.sign == "<>"
		}
		return Clause{ref.name, n.sign, v}, ok
	}
	return Clause{}, false
}

func (n *call) args0() (string, bool) {
	if len(n.args) == 0 {
		return "", false
	}
	ref, ok := n.args[0].(*reference)
	if !ok {
		return "", false
	}
	return ref.name, true
}

// constant is a value written out: a text, a number, true, false, a day, or a bare word that is a choice.
func constant(n node, isField func(string) bool) (string, bool) {
	switch n := n.(type) {
	case *literal:
		return n.value.String(), true
	case *reference:
		return n.name, !isField(n.name)
	case *unary:
		if l, ok := n.x.(*literal); ok && n.sign == "-" {
			return "-" + l.value.String(), true
		}
	case *call:
		if n.name == "date" {
			if v, err := (&Tree{root: n}).Evaluate(Scope{}); err == nil {
				return v.String(), true
			}
		}
	}
	return "", false
}
