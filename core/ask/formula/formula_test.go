package formula_test

import (
	"errors"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/cockroachdb/apd/v3"

	"amberseal/core/ask/formula"
)

func ExampleParse() {
	tree, err := formula.Parse(`hours * rate > 100 and kind = "hire"`)
	if err != nil {
		panic(err)
	}
	v, err := tree.Evaluate(formula.Scope{Values: func(name string) formula.Value {
		switch name {
		case "hours":
			return formula.Number(apd.New(25, -1))
		case "rate":
			return formula.Number(apd.New(48, 0))
		}
		return formula.Text("hire")
	}})
	fmt.Println(v.Truth(), err, tree.Rename("kind", "sort"))
	// Output: true <nil> hours * rate > 100 and sort = "hire"
}

func values(name string) formula.Value {
	switch name {
	case "ten":
		return formula.Number(apd.New(10, 0))
	case "word":
		return formula.Text("abc")
	case "list":
		return formula.Texts([]string{"case", "bow"})
	case "yes":
		return formula.Bool(true)
	}
	return formula.Value{}
}

// Sums and quotients are exact decimals; the cases are arithmetic anybody can redo. 0.1 + 0.2
// and 1/3 at 34 digits are the classic examples of IEEE 754-2019 binary and decimal128.
func TestArithmetic(t *testing.T) {
	for src, want := range map[string]string{
		"0.1 + 0.2":           "0.3",
		"1 / 3":               "0.3333333333333333333333333333333333",
		"2 + 3 * 4":           "14",
		"(2 + 3) * 4":         "20",
		"10 - 4 - 3":          "3",
		"-ten + 1":            "-9",
		"- - 3":               "3",
		"nothing + 5":         "5",
		"19.99 × 3 − 0.97":    "59.00",
		"ten ÷ 4":             "2.5",
		"0.1 * 0.1 * 0.1":     "0.001",
		"999999999999.99 + 1": "1000000000000.99",
	} {
		v, err := mustParse(t, src).Evaluate(formula.Scope{Values: values})
		if err != nil {
			t.Errorf("%s: %v", src, err)
			continue
		}
		d, ok := v.Decimal()
		if !ok || d.Text('f') != want {
			t.Errorf("%s = %v, want %s", src, d, want)
		}
	}
}

func TestConditions(t *testing.T) {
	for src, want := range map[string]bool{
		`ten > 9.5`:                  true,
		`ten = 10.0`:                 true,
		`word = "abc" and ten <> 11`: true,
		`not yes or false`:           false,
		`not (yes and false)`:        true,
		`nothing = ""`:               true,
		`"" = nothing`:               true,
		`nothing > 0`:                false,
		`list = "bow"`:               true,
		`"case" = list`:              true,
		`list = "strap"`:             false,
		`word < "abd"`:               true,
		`yes`:                        true,
		`nothing`:                    false,
		`1 = 1 or 1 / 0 = 1`:         true,
		`word = "say ""abc"" twice" or ten ≥ 10`: true,
	} {
		v, err := mustParse(t, src).Evaluate(formula.Scope{Values: values})
		if err != nil || v.Truth() != want {
			t.Errorf("%s = %v %v, want %v", src, v.Truth(), err, want)
		}
	}
}

func TestFaultsNameTheColumn(t *testing.T) {
	for src, column := range map[string]int{
		"":                  1,
		"1 +":               4,
		"1 + * 2":           5,
		`"open`:             1,
		"(1 + 2":            7,
		"1 2":               3,
		"a = b = c":         7,
		"total(3)":          1,
		"1.2.3":             1,
		"żółć":              1,
		"and 3":             1,
		"ten / (5 - 5)":     8,
		`word * 2`:          1,
		`ten + "x"`:         7,
		`"ż" * ten`:         1,
		`word < ten`:        1,
		"1 § 2":             3,
		"round(1, 2, 3)":    1,
		"sum()":             1,
		"rownd(1)":          1,
		"date(2026, 2, 29)": 1,
		"today() + today()": 1,
		"5 % 2":             5,
		"ten > 3 § true":    9,
	} {
		tree, err := formula.Parse(src)
		if err == nil {
			_, err = tree.Evaluate(formula.Scope{Values: values})
		}
		var fault *formula.Error
		if !errors.As(err, &fault) || fault.Column != column {
			t.Errorf("%q: %v, want a fault at column %d", src, err, column)
		}
	}
}

func TestLimits(t *testing.T) {
	if _, err := formula.Parse(strings.Repeat("(", 70) + "1" + strings.Repeat(")", 70)); err == nil {
		t.Error("70 levels were accepted")
	}
	if _, err := formula.Parse(strings.Repeat("1+", 3000) + "1"); err == nil {
		t.Error("6,001 characters were accepted")
	}
	if _, err := formula.Parse(strings.Repeat("1+", 1000) + "1"); err != nil {
		t.Errorf("a long flat sum was refused: %v", err)
	}
}

func TestRenameLeavesTextsAlone(t *testing.T) {
	got := mustParse(t, `a + ab + a * 2 > 3 or "a" = a`).Rename("a", "longer")
	if want := `longer + ab + longer * 2 > 3 or "a" = longer`; got != want {
		t.Errorf("got %s, want %s", got, want)
	}
}

func mustParse(t *testing.T, src string) *formula.Tree {
	t.Helper()
	tree, err := formula.Parse(src)
	if err != nil {
		t.Fatalf("%s: %v", src, err)
	}
	return tree
}

func FuzzParse(f *testing.F) {
	for _, s := range []string{`a + 1`, `"x" = y`, `((1`, `not -3 and "" <> b`, `if(a is not empty, sum(a, 2), round(1.5, 1))`,
		`date(2026, 1, 31) + 10% & "x"`, `a contains "b"`} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, src string) {
		tree, err := formula.Parse(src)
		if err != nil {
			return
		}
		tree.Evaluate(formula.Scope{Values: values})
		tree.Check(func(string) (formula.Type, bool) { return formula.Type{}, true }, nil)
		if got := tree.Rename("never", "x"); got != src {
			t.Errorf("rename of nothing changed %q to %q", src, got)
		}
	})
}

// The most decimals that are reckoned are never fewer than a result has, for any values: what is counted on cannot break.
func TestDecimalsAreNeverMore(t *testing.T) {
	r := rand.New(rand.NewPCG(20261127, 3))
	places := map[string]int{"n": 0, "money": 2, "step": 1}
	of := func(name string) (int, bool) { n, ok := places[name]; return n, ok }
	for src, want := range map[string]int{
		"n * money": 2, "money + step": 2, "money * step": 3, "round(money * 0.075, 2)": 2, "money * 10%": 3, "-money": 2,
		"if(n > 1, money, step * step)": 2,
		"sum(money, 0.125)":             3, "round_up(money)": 0, "count(money) * 0.5": 1, "max(n, 3)": 0, "abs(step)": 1,
		"money / n": -1, "average(money, n)": -1, "money * other": -1,
	} {
		tree, err := formula.Parse(src)
		if err != nil {
			t.Fatal(src, err)
		}
		n, ok := tree.Decimals(of)
		if ok != (want >= 0) || ok && n != want {
			t.Errorf("%s has at most %d decimals (%v), not %d", src, n, ok, want)
		}
		for range 50 {
			values := map[string]formula.Value{}
			for name, most := range places {
				values[name] = formula.Number(apd.New(1+r.Int64N(100_000), int32(-most)))
			}
			v, err := tree.Evaluate(formula.Scope{Values: func(name string) formula.Value { return values[name] }})
			d, numeric := v.Decimal()
			if err != nil || !numeric || !ok {
				continue
			}
			if formula.Places(d) > n {
				t.Errorf("%s gives %s, of more than %d decimals", src, d, n)
			}
		}
	}
}

// What a function of a whole column gives is worked out once for all rows where no row has a part in it, and is the same as without.
func TestAWholeColumnIsWorkedOutOnce(t *testing.T) {
	const rows = 50
	asked := map[string]int{}
	number := func(n int64) formula.Value { return formula.Number(apd.New(n, 0)) }
	column := func(times int64) formula.Value {
		all := make([]formula.Value, rows)
		for i := range all {
			all[i] = number(times * int64(i+1))
		}
		return formula.Column(all)
	}
	kept := &formula.Kept{}
	for _, src := range []string{"q / sum(l.q * 2 + k)", "q + max(l.q) - min(l.q)", "count(l.q) * average(l.q)", "q * sum(l.q + q)",
		"if(sum(l.q) > q, sum(l.q), q)"} {
		tree, err := formula.Parse(src)
		if err != nil {
			t.Fatal(err)
		}
		clear(asked)
		for i := range rows {
			scope := formula.Scope{Rows: "l", Row: i, Own: func(name string) bool { return name == "q" }}
			scope.Values = func(name string) formula.Value {
				asked[name]++
				switch name {
				case "l.q":
					return column(3)
				case "k":
					return number(7)
				}
				return number(3 * int64(i+1))
			}
			want, wrong := tree.Evaluate(scope)
			before := asked["l.q"]
			scope.Kept = kept
			got, err := tree.Evaluate(scope)
			if err != nil || wrong != nil || got.String() != want.String() {
				t.Errorf("%s in row %d is %s, not %s: %v %v", src, i, got, want, err, wrong)
			}
			if looked := asked["l.q"] - before; i > 0 && looked > 0 != (src == "q * sum(l.q + q)") {
				t.Errorf("%s in row %d looks %d times at the column", src, i, looked)
			}
		}
	}
	// What hangs on a value that is being worked out is not kept.
	tree, err := formula.Parse("sum(l.q)")
	if err != nil {
		t.Fatal(err)
	}
	unsettled := &formula.Kept{}
	for _, want := range []string{"0", "3"} {
		got, err := tree.Evaluate(formula.Scope{Kept: unsettled, Values: func(string) formula.Value {
			if want == "0" {
				unsettled.Unsettled++
				return formula.Column(nil)
			}
			return formula.Column([]formula.Value{number(3)})
		}})
		if err != nil || got.String() != want {
			t.Errorf("it is %s, not %s: %v", got, want, err)
		}
	}
}
