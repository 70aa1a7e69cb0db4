package formula_test

import (
	"fmt"
	"math/big"
	"math/rand/v2"
	"os"
	"strings"
	"testing"

	"github.com/cockroachdb/apd/v3"

	"amberseal/core/ask/formula"
)

// writer writes formulas of chance together with what they come to by the standard library's rational numbers, which share no
// code with ours.
type writer struct{ *rand.Rand }

var given = map[string]string{"hours": "2.75", "rate": "48", "lines.price": "0.05", "owed": "-120.40"}

func (w writer) number() (string, *big.Rat) {
	text := fmt.Sprint(w.IntN(2000))
	if w.IntN(2) == 0 {
		text += fmt.Sprintf(".%0*d", 1+w.IntN(3), w.IntN(10))
	}
	if w.IntN(4) == 0 {
		names := []string{"hours", "rate", "owed"}
		text = names[w.IntN(len(names))]
	}
	value, ok := given[text]
	if !ok {
		value = text
	}
	r, ok := new(big.Rat).SetString(value)
	if !ok {
		panic(text)
	}
	return text, r
}

// sum is arithmetic; the strength of what was written last says whether it needs parentheses.
func (w writer) sum(depth int) (text string, value *big.Rat, strength int) {
	if depth == 0 {
		text, value = w.number()
		return text, value, 3
	}
	switch w.IntN(7) {
	case 0:
		text, value, strength = w.sum(depth - 1)
		if strength < 3 {
			text = "(" + text + ")"
		}
		return "-" + text, new(big.Rat).Neg(value), 2
	case 1:
		yes, no := w.truth(depth - 1)
		a, av, _ := w.sum(depth - 1)
		b, bv, _ := w.sum(depth - 1)
		if !no {
			bv = av
		}
		return fmt.Sprintf("if(%s, %s, %s)", yes, a, b), bv, 3
	case 2:
		a, av, _ := w.sum(depth - 1)
		b, bv, _ := w.sum(depth - 1)
		if av.Cmp(bv) < 0 {
			av = bv
		}
		return "max(" + a + ", " + b + ")", av, 3
	}
	a, av, as := w.sum(depth - 1)
	b, bv, bs := w.sum(depth - 1)
	op := "+-*"[w.IntN(3)]
	strength = map[byte]int{'+': 0, '-': 0, '*': 1}[op]
	if as < strength || w.IntN(5) == 0 {
		a = "(" + a + ")"
	}
	if bs <= strength || w.IntN(5) == 0 || strings.HasPrefix(b, "-") {
		b = "(" + b + ")"
	}
	value = new(big.Rat)
	switch op {
	case '+':
		value.Add(av, bv)
	case '-':
		value.Sub(av, bv)
	default:
		value.Mul(av, bv)
	}
	gap := strings.Repeat(" ", w.IntN(2))
	return a + gap + string(op) + gap + b, value, strength
}

// truth is a condition, and whether it does not hold.
func (w writer) truth(depth int) (text string, not bool) {
	if depth == 0 || w.IntN(3) == 0 {
		a, av, _ := w.sum(depth)
		b, bv, _ := w.sum(depth)
		c := av.Cmp(bv)
		ops := []string{"=", "<>", "<", ">", "<=", ">="}
		holds := []bool{c == 0, c != 0, c < 0, c > 0, c <= 0, c >= 0}
		i := w.IntN(len(ops))
		return "(" + a + " " + ops[i] + " " + b + ")", !holds[i]
	}
	a, an := w.truth(depth - 1)
	b, bn := w.truth(depth - 1)
	switch w.IntN(3) {
	case 0:
		return "not (" + a + ")", !an
	case 1:
		return "(" + a + " and " + b + ")", an || bn
	}
	return "(" + a + " or " + b + ")", an && bn
}

// Arithmetic and conditions of chance come to what rational numbers come to, digit for digit as long as they have at most
// 34 digits; renamed there and back they are the same text, and renamed once they mean the same.
func TestFormulasOfChance(t *testing.T) {
	scope := func(renamed string) formula.Scope {
		return formula.Scope{Values: func(name string) formula.Value {
			if name == renamed {
				name = "rate"
			}
			d, _, err := apd.NewFromString(given[name])
			if err != nil {
				return formula.Value{}
			}
			return formula.Number(d)
		}}
	}
	exact := 0
	for seed := range uint64(4000) {
		w := writer{rand.New(rand.NewPCG(seed, 1))}
		src, want, _ := w.sum(1 + w.IntN(5))
		if len(src) > 2000 {
			continue
		}
		tree := mustParse(t, src)
		v, err := tree.Evaluate(scope(""))
		if err != nil {
			t.Fatalf("%s: %v", src, err)
		}
		d, ok := v.Decimal()
		got, parsed := new(big.Rat).SetString(d.Text('f'))
		if !ok || !parsed {
			t.Fatalf("%s = %v", src, v)
		}
		if digits := strings.TrimLeft(strings.Map(func(r rune) rune {
			if r < '0' || r > '9' {
				return -1
			}
			return r
		}, d.Text('f')), "0"); len(digits) < 30 {
			exact++
			if got.Cmp(want) != 0 {
				t.Fatalf("%s = %s, want %s", src, d.Text('f'), want.FloatString(20))
			}
		}
		anew := tree.Rename("rate", "price_each")
		again, err := mustParse(t, anew).Evaluate(scope("price_each"))
		if err != nil || again.String() != v.String() {
			t.Fatalf("%s means %v, renamed to %s it means %v %v", src, v, anew, again, err)
		}
		if back := mustParse(t, anew).Rename("price_each", "rate"); back != src {
			t.Fatalf("%s renamed there and back is %s", src, back)
		}
	}
	if exact < 3000 {
		t.Errorf("only %d were compared", exact)
	}
}

// TestColumnsByRow: what is computed along columns and added up is the sum of what the same formula comes to in each row
// alone. A row alone knows no columns, so that the two ways share only the operators of single values.
func TestColumnsByRow(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 27))
	parts := []string{"bridge", "pegs", "", "Bridge plate"}
	conditions := []string{
		`C.part = "bridge"`, `C.part is not pegs`, `C.part is empty`, `not (C.part is empty)`, `C.part contains "RIDGE"`, `C.rate = 40`,
		`C.rate > 40 and C.hours > 1`,
		`C.rate > 40 or C.urgent`, `not C.urgent`, `C.urgent = true`, `not (C.rate > 40)`, `C.rate > 0 and 100 / C.rate > 2`,
		`C.part & "x" = "pegsx"`, `if(C.urgent, C.rate, C.hours) > 1`,
	}
	formulas := 3_000
	if os.Getenv("AMBERSEAL_THOROUGH") != "" {
		formulas *= 20
	}
	for range formulas {
		when := conditions[r.IntN(len(conditions))]
		if r.IntN(2) == 0 {
			when = "(" + when + ") " + []string{"and", "or"}[r.IntN(2)] + " (" + conditions[r.IntN(len(conditions))] + ")"
		}
		src := "if(" + when + ", C.rate * C.hours, if(C.rate > 0, 1 / C.rate, 0))"
		rows := make([]map[string]formula.Value, r.IntN(4))
		total := new(apd.Decimal)
		some := false
		for i := range rows {
			rows[i] = map[string]formula.Value{
				"rate":   formula.Whole(int64(r.IntN(3) * 20)),
				"hours":  formula.Whole(int64(r.IntN(3))),
				"urgent": formula.Bool(r.IntN(2) == 0),
			}
			if p := parts[r.IntN(len(parts))]; p != "" {
				rows[i]["part"] = formula.Text(p)
			}
			alone := formula.Scope{Values: func(name string) formula.Value {
				if v, ok := rows[i][name]; ok || name == "part" {
					return v
				}
				return formula.Text(name)
			}}
			d, _ := value(t, strings.ReplaceAll(src, "C.", ""), alone).Decimal()
			if _, err := apd.BaseContext.WithPrecision(34).Add(total, total, d); err != nil {
				t.Fatal(err)
			}
			some = some || value(t, strings.ReplaceAll(when, "C.", ""), alone).Truth()
		}
		all := formula.Scope{Values: func(name string) formula.Value {
			column, ok := strings.CutPrefix(name, "lines.")
			if !ok {
				return formula.Text(name)
			}
			items := make([]formula.Value, len(rows))
			for i, row := range rows {
				items[i] = row[column]
			}
			return formula.Column(items)
		}}
		got, ok := value(t, "sum("+strings.ReplaceAll(src, "C.", "lines.")+")", all).Decimal()
		if !ok || got.Cmp(total) != 0 {
			t.Fatalf("sum of %s over %v is %s; row by row %s", src, rows, got, total)
		}
		if holds := value(t, strings.ReplaceAll(when, "C.", "lines."), all).Truth(); holds != some {
			t.Fatalf("%s over %v holds: %v; in some row: %v", when, rows, holds, some)
		}
	}
}

func value(t *testing.T, src string, scope formula.Scope) formula.Value {
	t.Helper()
	tree, err := formula.Parse(src)
	if err != nil {
		t.Fatalf("%s: %v", src, err)
	}
	v, err := tree.Evaluate(scope)
	if err != nil {
		t.Fatalf("%s: %v", src, err)
	}
	return v
}
