package form

import (
	"fmt"
	"strconv"

	"github.com/bojanz/currency"
	"github.com/cockroachdb/apd/v3"

	"amberseal/core/ask/formula"
	"amberseal/core/words/finding"
)

// typed checks a formula, in the form or inside one of its rows, and gives the type of its result.
func (f Form) typed(src, rows string) (finding.List, formula.Type) {
	var l finding.List
	if src == unchosen {
		l.Fault("", "form.condition-not-chosen-yet")
		return l, formula.Type{}
	}
	tree, err := formula.Parse(src)
	if err != nil {
		l.Add(finding.Fault, err.(*formula.Error).Said)
		return l, formula.Type{}
	}
	t, faults, warnings := tree.Check(f.Types(rows), f.Names())
	for _, e := range faults {
		l.Add(finding.Fault, e.Said)
	}
	for _, e := range warnings {
		l.Add(finding.Notice, e.Said)
	}
	return l, t
}

// Types tells formulas what names stand for: in the form, or inside one of its rows.
func (f Form) Types(rows string) formula.Names {
	return func(name string) (formula.Type, bool) {
		if rows != "" {
			if x, ok := f.Field(rows + "." + name); ok && x.Answered() {
				return x.formulaType(), true
			}
		}
		if x, ok := f.Field(name); ok {
			if !x.Answered() {
				return formula.Type{}, false
			}
			t := x.formulaType()
			if of, ok := f.Column(name); ok {
				t.List, t.Rows, t.Maybe = true, of, true
			}
			return t, true
		}
		if c, ok := f.Constant(name); ok {
			v := c.formula()
			if d, ok := v.Decimal(); ok {
				return formula.Type{Basic: formula.NumberType, Constant: d}, true
			}
			return formula.Type{Basic: formula.TextType}, true
		}
		return formula.Type{}, false
	}
}

// decimals tells how many decimals names can have: in the form, or inside one of its rows.
func (f Form) decimals(rows string) func(name string) (int, bool) {
	return func(name string) (int, bool) {
		x, ok := f.Field(rows + "." + name)
		if rows == "" || !ok {
			x, ok = f.Field(name)
		}
		if !ok {
			c, _ := f.Constant(name)
			if d, ok := c.formula().Decimal(); ok {
				return formula.Places(d), true
			}
			return 0, false
		}
		switch x.Kind {
		case WholeNumber, Rating:
			return 0, true
		case Money:
			return x.digits(), true
		case Decimal:
			if step, _, err := apd.NewFromString(x.Step); err == nil && !x.Calculated() {
				return formula.Places(step), true
			}
		}
		return 0, false
	}
}

// digits is how many decimals an amount has: those of its currency (ISO 4217), of most of them two.
func (x Field) digits() int {
	if n, ok := currency.GetDigits(x.Currency); ok {
		return int(n)
	}
	return 2
}

func (x Field) formulaType() formula.Type {
	t := formula.Type{Basic: formula.TextType, Maybe: !x.Required}
	if x.Required && x.Kind.Numeric() {
		d, _, err := apd.NewFromString(x.Min)
		t.Maybe = x.Kind != Rating && (err != nil || d.Sign() <= 0)
	}
	switch x.Kind.Shape() {
	case Figure:
		t.Basic = formula.NumberType
	case Truth, Drawn:
		t.Basic = formula.TruthType
	case Day:
		t.Basic = formula.DateType
	case Hour:
		t.Basic = formula.TimeType
	case Moment:
		t.Basic = formula.MomentType
	case Repeated:
		t.Basic, t.List = formula.TruthType, true
	case Files:
		t.List = true
	case Words:
		if x.Kind == Hidden && x.Calculated() {
			t.Basic = formula.AnyType
		}
	case One, Several:
		t.List = x.Kind.Shape() == Several
		t.Choices = make([]string, len(x.Choices))
		for i, c := range x.Choices {
			t.Choices[i] = c.Value
		}
	}
	return t
}

// formula checks what calculates a field.
func (c *designCheck) formula(x Field, place, rows string) {
	l, t := c.f.typed(x.Formula, rows)
	for _, p := range l {
		p.Place = place + "/formula"
		c.l = append(c.l, p)
	}
	if l.Faults() > 0 {
		return
	}
	want := x.formulaType().Basic
	fits := t.Basic == formula.AnyType || want == formula.AnyType || t.Basic == want || want == formula.TextType ||
		want == formula.DateType && t.Basic == formula.MomentType || want == formula.MomentType && t.Basic == formula.DateType
	switch {
	case !x.Kind.Calculable():
		c.l.Fault(place, "form.kind-cannot-be-calculated")
	case !fits:
		c.l.Fault(place+"/formula", "form.formula-of-another-type", "type", t.Basic)
	case t.List && want != formula.TextType && want != formula.TruthType: // true where some row is
		c.l.Fault(place+"/formula", "form.formula-of-many-rows")
	}
	if x.Kind != Money {
		return
	}
	digits := x.digits()
	tree, err := formula.Parse(x.Formula)
	if err != nil {
		return
	}
	if n, ok := tree.Decimals(c.f.decimals(rows)); !ok || n > digits {
		round := "round(%s, " + strconv.Itoa(digits) + ")"
		c.l.Fault(place+"/formula", "form.amount-may-get-more-decimals", "round", fmt.Sprintf(round, "…"))
		c.l[len(c.l)-1].Write = fmt.Sprintf(round, x.Formula)
	}
}
