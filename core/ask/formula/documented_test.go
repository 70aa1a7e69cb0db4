package formula_test

import (
	"os"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/cockroachdb/apd/v3"

	"amberseal/core/ask/formula"
)

func num(s string) formula.Value {
	d, _, err := apd.NewFromString(s)
	if err != nil {
		panic(err)
	}
	return formula.Number(d)
}

func day(s string) formula.Value {
	t, err := time.Parse(time.DateOnly, s)
	if err != nil {
		panic(err)
	}
	return formula.Date(t)
}

// documented are the answers that docs/formulas.md names.
var documented = map[string]formula.Value{
	"hours": num(
		"2.5",
	), "rate": num("48"), "days": num("31"), "instrument": formula.Text("viola"), "extras": formula.Texts([]string{"case", "bow"}),
	"name": formula.Text("Łucja"), "phone": {}, "from": day("2024-01-31"), "until": day("2024-03-01"),
	"visit": formula.Moment(time.Date(2026, 11, 24, 14, 30, 0, 0, time.UTC)), "agree": formula.Bool(true), "tax_rate": num("0.10"),
	"lines":       formula.List([]formula.Value{formula.Bool(true), formula.Bool(true), formula.Bool(true)}),
	"lines.hours": formula.Column([]formula.Value{num("2"), num("1.5"), num("0.25")}),
	"lines.rate":  formula.Column([]formula.Value{num("40"), num("60"), num("80")}),
	"lines.part":  formula.Column([]formula.Value{formula.Text("bridge"), formula.Text("pegs"), {}}),
}

var documentedTypes = map[string]formula.Type{
	"hours": {Basic: formula.NumberType}, "rate": {Basic: formula.NumberType}, "days": {Basic: formula.NumberType},
	"instrument": {
		Basic:   formula.TextType,
		Choices: []string{"violin", "viola", "cello"},
	}, "extras": {Basic: formula.TextType, List: true, Choices: []string{"case", "bow"}},
	"name": {Basic: formula.TextType}, "phone": {Maybe: true}, "from": {Basic: formula.DateType}, "until": {Basic: formula.DateType},
	"visit": {Basic: formula.MomentType}, "agree": {Basic: formula.TruthType}, "tax_rate": {Basic: formula.NumberType},
	"lines": {Basic: formula.TruthType, List: true}, "lines.hours": {Basic: formula.NumberType, List: true, Rows: "lines"},
	"lines.rate": {
		Basic: formula.NumberType,
		List:  true,
		Rows:  "lines",
	}, "lines.part": {Basic: formula.TextType, List: true, Rows: "lines", Choices: []string{"bridge", "pegs"}},
}

func scope() formula.Scope {
	return formula.Scope{
		Values: func(name string) formula.Value {
			if v, ok := documented[name]; ok {
				return v
			}
			return formula.Text(name) // a bare word is a choice
		},
		Labels: func(_, value string) string { return strings.ToUpper(value[:1]) + value[1:] },
		Now:    time.Date(2026, 11, 24, 9, 41, 0, 0, time.UTC),
	}
}

func types(name string) (formula.Type, bool) { t, ok := documentedTypes[name]; return t, ok }

// The examples of docs/formulas.md give what is written there, and the checker finds no fault in them.
func TestDocumentedExamples(t *testing.T) {
	page, err := os.ReadFile("../../../docs/formulas.md")
	if err != nil {
		t.Fatal(err)
	}
	examples, faults := 0, 0
	for line := range strings.Lines(string(page)) {
		cells := strings.Split(strings.Trim(strings.TrimSpace(line), "|"), "|")
		src := strings.Trim(strings.TrimSpace(cells[0]), "`")
		if len(cells) < 2 || !strings.HasPrefix(strings.TrimSpace(cells[0]), "`") {
			continue
		}
		tree, err := formula.Parse(src)
		if len(cells) == 3 {
			faults++
			checkFault(t, src, tree, err, strings.TrimSpace(cells[1]), strings.TrimSpace(cells[2]))
			continue
		}
		examples++
		if err != nil {
			t.Errorf("%s: %v", src, err)
			continue
		}
		if _, wrong, _ := tree.Check(types, []string{"lines.part"}); len(wrong) > 0 {
			t.Errorf("%s: the checker says %v", src, wrong[0])
		}
		v, err := tree.Evaluate(scope())
		if got := v.String(); err != nil || got != strings.TrimSpace(cells[1]) {
			t.Errorf("%s gives %q (%v), the page says %q", src, got, err, strings.TrimSpace(cells[1]))
		}
	}
	if examples < 50 || faults < 8 {
		t.Errorf("only %d examples and %d faults were read", examples, faults)
	}
}

func checkFault(t *testing.T, src string, tree *formula.Tree, err error, column, says string) {
	t.Helper()
	fault, _ := err.(*formula.Error)
	if err == nil {
		if _, wrong, _ := tree.Check(types, []string{"lines.part", "hours", "rate"}); len(wrong) == 1 {
			fault = wrong[0]
		}
	}
	if fault == nil || strconv.Itoa(fault.Column) != column || fault.Said.Message != "Column "+column+": "+says+"." {
		t.Errorf("%s: %v, the page says column %s: %s", src, fault, column, says)
	}
}

// Published worked examples. The sources are cited from memory, since nothing but package registries can be
// reached here; each number can be redone by hand.
func TestPublishedExamples(t *testing.T) {
	for src, want := range map[string]string{
		// IEEE 754-2019 section 4.3.1, roundTiesToEven, and 4.3.1 roundTiesToAway; the cases are those of the
		// General Decimal Arithmetic specification's table of rounding modes (ANSI X3.274).
		"round_half_even(0.5)": "0", "round_half_even(1.5)": "2", "round_half_even(2.5)": "2", "round_half_even(-1.5)": "-2",
		"round_half_even(1.1)": "1", "round_half_even(1.6)": "2",
		"round(0.5)": "1", "round(1.5)": "2", "round(2.5)": "3", "round(-0.5)": "-1", "round(-2.5)": "-3", "round(2.4)": "2",
		"round_up(1.1)": "2", "round_up(-1.1)": "-2", "round_up(-1.0)": "-1", "round_down(1.6)": "1", "round_down(-2.5)": "-2",
		"round_half_even(1.005, 2)": "1.00", "round(1.005, 2)": "1.01", // not representable in binary, the classic trap
		// OASIS OpenFormula 1.2: EDATE keeps to the end of a shorter month; NETWORKDAYS counts both ends; WORKDAY.
		"add_months(date(2006, 1, 31), 1)": "2006-02-28", "add_months(date(2004, 1, 31), 1)": "2004-02-29",
		"add_months(date(2024, 2, 29), 12)": "2025-02-28", "add_months(date(2026, 3, 31), -1)": "2026-02-28",
		"working_days(date(2026, 11, 21), date(2026, 11, 22))": "0", "working_days(date(2026, 11, 2), date(2026, 11, 30))": "21",
		"working_days(date(2026, 11, 24), date(2026, 11, 20))": "-3",
		"add_working_days(date(2026, 11, 21), 5)":              "2026-11-27", "add_working_days(date(2026, 11, 22), -1)": "2026-11-20",
		"add_working_days(date(2026, 11, 20), 10)": "2026-12-04",
		// Gregorian leap years: 2000 is one, 1900 is not (Inter gravissimas; ISO 8601-1).
		"days(date(2000, 2, 28), date(2000, 3, 1))": "2", "days(date(1900, 2, 28), date(1900, 3, 1))": "1",
		"days(date(2023, 1, 1), date(2024, 1, 1))": "365", "days(date(2024, 1, 1), date(2025, 1, 1))": "366",
		"days(date(1600, 1, 1), date(2026, 1, 1))": "155594",
		// The days on which Europe changes its clocks are whole days: 2026-03-29 and 2026-10-25.
		"days(date(2026, 3, 28), date(2026, 3, 30))": "2", "days(date(2026, 10, 24), date(2026, 10, 26))": "2",
		// ISO 8601 numbers days of the week from Monday: 2008-12-29 was one, 2009-01-04 a Sunday.
		"weekday(date(2008, 12, 29))": "1", "weekday(date(2009, 1, 4))": "7",
		// HMRC VAT guide (Notice 700): the VAT fraction of a price that includes 20 % is 1/6; of 5 %, 1/21.
		"round(120 / 6, 2)": "20.00", "round(120 - 120 / (1 + 20%), 2)": "20.00", "round(10.50 / 21, 2)": "0.50",
		"round(17.99 / 6, 2)": "3.00",
	} {
		v, err := mustParse(t, src).Evaluate(scope())
		if err != nil || v.String() != want {
			t.Errorf("%s = %s (%v), want %s", src, v, err, want)
		}
	}
}

func TestClauses(t *testing.T) {
	isField := func(name string) bool { _, ok := documentedTypes[name]; return ok }
	for src, want := range map[string]string{
		`instrument is viola and days > 30`: `and [{instrument = viola} {days > 30}]`,
		`phone is empty or not agree`:       `or [{phone empty } {agree no }]`,
		`extras contains "bow" and from >= date(2026, 1, 5) and rate <> -3`: `and [{extras contains bow} {from >= 2026-01-05} ` +
			`{rate <> -3}]`,
		`not (extras contains "bow")`: `and [{extras lacks bow}]`,
		`days > rate`:                 "", `days + 1 > 30`: "", `agree and (days = 1 or days = 2)`: "",
	} {
		join, clauses, ok := mustParse(t, src).Clauses(isField)
		got := ""
		if ok {
			var parts []string
			for _, c := range clauses {
				parts = append(parts, "{"+c.Field+" "+c.Is+" "+c.Value+"}")
			}
			got = join + " [" + strings.Join(parts, " ") + "]"
		}
		if got != want {
			t.Errorf("%s: %q, want %q", src, got, want)
		}
	}
}
