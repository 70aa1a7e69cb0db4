package formula

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/cockroachdb/apd/v3"
	"golang.org/x/text/cases"
	"golang.org/x/text/language"
	"golang.org/x/text/unicode/norm"
)

// function is one that formulas can call.
type function struct {
	least, most int
	each        bool // takes single values; along rows it is called for each
	whole       bool // sees whole columns, also inside a row
	args        []Basic
	gives       Basic
	usage, does string
	do          func(s *state, n *call, args []Value) (Value, error)
}

const many = 64

func (f *function) takes() string {
	switch {
	case f.most == 0:
		return "nothing"
	case f.most == many:
		return fmt.Sprintf("%d or more values", f.least)
	case f.least == f.most && f.least == 1:
		return "one value"
	case f.least == f.most:
		return fmt.Sprintf("%d values", f.least)
	}
	return fmt.Sprintf("%d or %d values", f.least, f.most)
}

// arg is the type of an argument; the last one stands for those that follow.
func (f *function) arg(i int) Basic {
	if len(f.args) == 0 {
		return AnyType
	}
	return f.args[min(i, len(f.args)-1)]
}

// Help describes a function for people.
type Help struct {
	Name  string `json:"name"`
	Usage string `json:"usage"`
	Does  string `json:"does"`
}

// Functions lists what formulas can call, in the order of their names.
func Functions() []Help {
	out := make([]Help, 0, len(functions))
	for _, name := range FunctionNames() {
		out = append(out, Help{name, functions[name].usage, functions[name].does})
	}
	return out
}

// FunctionNames lists the functions' names in order.
func FunctionNames() []string { return slices.Sorted(maps.Keys(functions)) }

// functions is filled by init, since “if” and the parser refer to each other through it.
var functions map[string]*function

func init() {
	number, date, texts, truth := []Basic{NumberType}, []Basic{DateType}, []Basic{TextType}, []Basic{AnyType}
	functions = map[string]*function{
		"if": {2, 3, false, false, []Basic{AnyType, AnyType, AnyType}, AnyType, `if(days > 30, 10, 0)`,
			"the second value where the condition holds, else the third", nil},

		"sum": {1, many, false, true, number, NumberType, `sum(lines.amount)`, "the sum of a column or of several values", fold("sum")},
		"average": {1, many, false, true, number, NumberType, `average(lines.rating)`, "the mean of those that were answered",
			fold("average")},
		"min": {1, many, false, true, truth, AnyType, `min(lines.rate)`, "the smallest, or the earliest day", extreme(-1)},
		"max": {1, many, false, true, truth, AnyType, `max(lines.rate)`, "the largest, or the latest day", extreme(1)},
		"count": {1, many, false, true, truth, NumberType, `count(lines)`, "how many rows there are, or how many were answered; of " +
			"conditions, how many hold", count},

		"round": {1, 2, true, false, number, NumberType, `round(total, 2)`, "rounded to decimals, halves up (away from zero)",
			rounded(apd.RoundHalfUp)},
		"round_half_even": {1, 2, true, false, number, NumberType, `round_half_even(total, 2)`,
			"rounded to decimals, halves to the even digit", rounded(apd.RoundHalfEven)},
		"round_up":   {1, 2, true, false, number, NumberType, `round_up(hours, 0)`, "rounded away from zero", rounded(apd.RoundUp)},
		"round_down": {1, 2, true, false, number, NumberType, `round_down(hours, 0)`, "rounded towards zero", rounded(apd.RoundDown)},
		"abs":        {1, 1, true, false, number, NumberType, `abs(balance)`, "the number without its sign", abs},
		"number": {1, 1, true, false, texts, NumberType, `number(size)`, "a text of digits as a number, such as a choice’s value",
			toNumber},

		"upper":  {1, 1, true, false, truth, TextType, `upper(name)`, "in capitals", mapped(cases.Upper(language.Und).String)},
		"lower":  {1, 1, true, false, truth, TextType, `lower(name)`, "in small letters", mapped(cases.Lower(language.Und).String)},
		"trim":   {1, 1, true, false, truth, TextType, `trim(name)`, "without spaces at both ends", mapped(strings.TrimSpace)},
		"length": {1, 1, true, false, truth, NumberType, `length(remarks)`, "how many characters", length},
		"join": {2, many, false, true, truth, TextType, `join(", ", street, town)`, "the values that are not empty, with the first " +
			"between them", join},
		"contains": {2, 2, true, false, truth, TruthType, `contains(extras, "case")`, "whether a list has the value, or a text has " +
			"the words", contains},
		"label": {1, 1, true, false, truth, TextType, `label(instrument)`, "a choice in the words people read", label},
		"empty": {1, 1, true, false, truth, TruthType, `empty(phone)`, "whether nothing was answered", empty},

		"today": {0, 0, false, false, nil, DateType, `today()`, "the day on which the answers are checked", today},
		"now":   {0, 0, false, false, nil, MomentType, `now()`, "the day and time at which the answers are checked", now},
		"received": {
			0,
			0,
			false,
			false,
			nil,
			DateType,
			`received()`,
			"the day on which the answers came in first; today where they have not",
			received,
		},
		"date": {3, 3, true, false, number, DateType, `date(2026, 11, 24)`, "a day of its year, month and day", makeDate},
		"days": {2, 2, true, false, date, NumberType, `days(from, until)`, "the days from one day to another",
			between(daysBetween)},
		"months": {2, 2, true, false, date, NumberType, `months(from, until)`, "the full months from one day to another",
			between(months)},
		"years": {2, 2, true, false, date, NumberType, `years(born, today())`, "the full years from one day to another",
			between(func(a, b time.Time) int64 { return months(a, b) / 12 })},
		"working_days": {2, 2, true, false, date, NumberType, `working_days(from, until)`,
			"the days from Monday to Friday, the first and the last counted", between(workingDays)},
		"add_days": {2, 2, true, false, []Basic{DateType, NumberType}, DateType, `add_days(today(), 14)`,
			"the day so many days later", moved(func(t time.Time, n int) time.Time { return t.AddDate(0, 0, n) })},
		"add_months": {2, 2, true, false, []Basic{DateType, NumberType}, DateType, `add_months(from, 3)`,
			"the same day so many months later, or the last of that month", moved(addMonths)},
		"add_working_days": {2, 2, true, false, []Basic{DateType, NumberType}, DateType, `add_working_days(today(), 5)`,
			"the day so many days from Monday to Friday later", moved(addWorkingDays)},
		"year": {1, 1, true, false, date, NumberType, `year(born)`, "the year of a day",
			part(func(t time.Time) int { return t.Year() })},
		"month": {1, 1, true, false, date, NumberType, `month(born)`, "the month of a day, 1 to 12",
			part(func(t time.Time) int { return int(t.Month()) })},
		"day": {1, 1, true, false, date, NumberType, `day(born)`, "the day of the month",
			part(func(t time.Time) int { return t.Day() })},
		"weekday": {1, 1, true, false, date, NumberType, `weekday(visit)`, "the day of the week: 1 is Monday, 7 is Sunday (ISO 8601)",
			part(weekday)},
		"hour": {1, 1, true, false, []Basic{TimeType}, NumberType, `hour(visit_time)`, "the hour of a time, 0 to 23",
			clockPart(time.Hour, 24)},
		"minute": {1, 1, true, false, []Basic{TimeType}, NumberType, `minute(visit_time)`, "the minute of a time, 0 to 59",
			clockPart(time.Minute, 60)},
	}
}

// flat are the values that were answered, lists opened.
func flat(args []Value) []Value {
	var out []Value
	for _, a := range args {
		if items, ok := a.Items(); ok {
			out = append(out, flat(items)...)
		} else if !a.Empty() {
			out = append(out, a)
		}
	}
	return out
}

func fold(what string) func(*state, *call, []Value) (Value, error) {
	return func(s *state, n *call, args []Value) (Value, error) {
		total := new(apd.Decimal)
		values := flat(args)
		for _, v := range values {
			d, err := s.number(n.args[0], v)
			if err != nil {
				return Value{}, err
			}
			if _, err := exact.Add(total, total, d); err != nil {
				return Value{}, s.fault(n, "formula.number-too-large")
			}
		}
		if what == "sum" {
			return Number(total), nil
		}
		if len(values) == 0 {
			return Value{}, nil
		}
		if _, err := exact.Quo(total, total, apd.New(int64(len(values)), 0)); err != nil {
			return Value{}, s.fault(n, "formula.number-too-large")
		}
		total.Reduce(total)
		return Number(total), nil
	}
}

func extreme(sign int) func(*state, *call, []Value) (Value, error) {
	return func(s *state, n *call, args []Value) (Value, error) {
		var best Value
		for _, v := range flat(args) {
			if best.Empty() {
				best = v
				continue
			}
			c, ok := compare(v, best)
			if !ok {
				return Value{}, s.fault(n, "formula.values-of-several-kinds")
			}
			if c*sign > 0 {
				best = v
			}
		}
		return best, nil
	}
}

func count(_ *state, _ *call, args []Value) (Value, error) {
	n := 0
	for _, v := range flat(args) {
		if yes, ok := v.Bool(); ok && yes || !ok && !v.blank() {
			n++
		}
	}
	return Whole(int64(n)), nil
}

// maxDecimals is how many decimals a number is rounded to at most.
const maxDecimals = 20

func rounded(how apd.Rounder) func(*state, *call, []Value) (Value, error) {
	return func(s *state, n *call, args []Value) (Value, error) {
		if args[0].Empty() {
			return Value{}, nil
		}
		d, err := s.number(n.args[0], args[0])
		if err != nil {
			return Value{}, err
		}
		digits := 0
		if len(args) > 1 {
			if digits, err = s.whole(n.args[1], args[1]); err != nil {
				return Value{}, err
			}
			if digits < -maxDecimals || digits > maxDecimals {
				return Value{}, s.fault(n.args[1], "formula.too-many-decimals", "most", maxDecimals)
			}
		}
		c := *exact
		c.Rounding = how
		out := new(apd.Decimal)
		if _, err := c.Quantize(out, d, int32(-digits)); err != nil {
			return Value{}, s.fault(n, "formula.number-too-large")
		}
		if out.IsZero() && !d.IsZero() && how == apd.RoundUp {
			// The library gives 0 where all digits lie far behind the place; away from zero is one of the place (IEEE 754-2019, 4.3.1).
			out.SetFinite(1, int32(-digits))
			out.Negative = d.Negative
		}
		if out.Exponent > 0 { // tens and hundreds are written with their zeros
			if _, err := c.Quantize(out, out, 0); err != nil {
				return Value{}, s.fault(n, "formula.number-too-large")
			}
		}
		return Number(out), nil
	}
}

func abs(s *state, n *call, args []Value) (Value, error) {
	d, err := s.number(n.args[0], args[0])
	if err != nil {
		return Value{}, err
	}
	return Number(new(apd.Decimal).Abs(d)), nil
}

func toNumber(s *state, n *call, args []Value) (Value, error) {
	if args[0].blank() || args[0].basic() == NumberType {
		return args[0], nil
	}
	text := strings.TrimSpace(args[0].String())
	d, _, err := apd.NewFromString(text)
	if err != nil || len(text) > 30 || strings.Trim(text, "+-.0123456789") != "" {
		return Value{}, s.fault(n.args[0], "formula.not-a-number", "text", text)
	}
	return Number(d), nil
}

func mapped(f func(string) string) func(*state, *call, []Value) (Value, error) {
	return func(_ *state, _ *call, args []Value) (Value, error) { return Text(f(args[0].String())), nil }
}

func length(_ *state, _ *call, args []Value) (Value, error) {
	return Whole(int64(utf8.RuneCountInString(args[0].String()))), nil
}

func join(s *state, n *call, args []Value) (Value, error) {
	var parts []string
	for _, v := range flat(args[1:]) {
		if !v.blank() {
			parts = append(parts, v.String())
		}
	}
	return s.text(n, strings.Join(parts, args[0].String()))
}

func contains(_ *state, _ *call, args []Value) (Value, error) {
	if _, ok := args[0].Items(); ok {
		return Bool(!args[1].blank() && equal(args[0], args[1])), nil
	}
	fold := func(v Value) string { return norm.NFC.String(cases.Fold().String(v.String())) }
	words := fold(args[1])
	return Bool(words != "" && strings.Contains(fold(args[0]), words)), nil
}

func label(s *state, n *call, args []Value) (Value, error) {
	ref, ok := n.args[0].(*reference)
	if !ok || s.Labels == nil {
		return Text(args[0].String()), nil
	}
	if items, ok := args[0].Items(); ok {
		labels := make([]string, len(items))
		for i, v := range items {
			labels[i] = s.Labels(ref.name, v.String())
		}
		return Texts(labels), nil
	}
	if args[0].Empty() {
		return Value{}, nil
	}
	return Text(s.Labels(ref.name, args[0].String())), nil
}

func empty(_ *state, _ *call, args []Value) (Value, error) { return Bool(args[0].blank()), nil }

func today(s *state, _ *call, _ []Value) (Value, error) {
	day, _ := Moment(s.Now).Day()
	return Date(day), nil
}

func received(s *state, _ *call, _ []Value) (Value, error) {
	at := s.Received
	if at.IsZero() {
		at = s.Now
	}
	day, _ := Moment(at).Day()
	return Date(day), nil
}

func now(s *state, _ *call, _ []Value) (Value, error) { return Moment(s.Now), nil }

func makeDate(s *state, n *call, args []Value) (Value, error) {
	var part [3]int
	for i, a := range args {
		if a.Empty() {
			return Value{}, nil
		}
		var err error
		if part[i], err = s.whole(n.args[i], a); err != nil {
			return Value{}, err
		}
	}
	t := time.Date(part[0], time.Month(part[1]), part[2], 0, 0, 0, 0, time.UTC)
	if t.Year() != part[0] || int(t.Month()) != part[1] || t.Day() != part[2] {
		return Value{}, s.fault(n, "formula.no-such-day")
	}
	return s.dated(n, t, Value{})
}

// dayOf is an argument as a day; given is false for one that was not answered.
func (s *state) dayOf(n *call, args []Value, i int) (t time.Time, given bool, err error) {
	if args[i].blank() {
		return t, false, nil
	}
	t, ok := args[i].Day()
	if !ok {
		return t, false, s.fault(n.args[i], "formula.day-needed")
	}
	return t, true, nil
}

// between counts from one day to another; a day that was not given gives nothing.
func between(count func(from, to time.Time) int64) func(*state, *call, []Value) (Value, error) {
	return func(s *state, n *call, args []Value) (Value, error) {
		from, given, err := s.dayOf(n, args, 0)
		if err != nil || !given {
			return Value{}, err
		}
		to, given, err := s.dayOf(n, args, 1)
		if err != nil || !given {
			return Value{}, err
		}
		return Whole(count(from, to)), nil
	}
}

// months counts full months: the last one is full when the day of the month is reached.
func months(from, to time.Time) int64 {
	sign := int64(1)
	if to.Before(from) {
		from, to, sign = to, from, -1
	}
	n := int64(to.Year()-from.Year())*12 + int64(to.Month()-from.Month())
	if to.Day() < from.Day() {
		n--
	}
	return sign * n
}

// workingDays counts days from Monday to Friday, both ends included; backwards it is negative.
func workingDays(from, to time.Time) int64 {
	sign := int64(1)
	if to.Before(from) {
		from, to, sign = to, from, -1
	}
	days := daysBetween(from, to) + 1
	n := days / 7 * 5
	for i, w := int64(0), weekday(from); i < days%7; i++ {
		if (w-1+int(i))%7 < 5 {
			n++
		}
	}
	return sign * n
}

func weekday(t time.Time) int { return (int(t.Weekday())+6)%7 + 1 }

func moved(move func(t time.Time, n int) time.Time) func(*state, *call, []Value) (Value, error) {
	return func(s *state, n *call, args []Value) (Value, error) {
		t, given, err := s.dayOf(n, args, 0)
		if err != nil || !given {
			return Value{}, err
		}
		by, err := s.whole(n.args[1], args[1])
		if err != nil {
			return Value{}, err
		}
		if by < -200_000 || by > 200_000 {
			return Value{}, s.fault(n, "formula.day-too-far")
		}
		return s.dated(n, move(t, by), args[0])
	}
}

func addMonths(t time.Time, n int) time.Time {
	first := time.Date(t.Year(), t.Month()+time.Month(n), 1, 0, 0, 0, 0, time.UTC)
	last := first.AddDate(0, 1, -1).Day()
	return first.AddDate(0, 0, min(t.Day(), last)-1)
}

// addWorkingDays begins at a weekend's nearest working day on the side it comes from.
func addWorkingDays(t time.Time, n int) time.Time {
	if n == 0 {
		return t
	}
	step := 1
	if n < 0 {
		step, n = -1, -n
	}
	for weekday(t) > 5 {
		t = t.AddDate(0, 0, -step)
	}
	t = t.AddDate(0, 0, n/5*7*step)
	for left := n % 5; left > 0; {
		t = t.AddDate(0, 0, step)
		if weekday(t) <= 5 {
			left--
		}
	}
	return t
}

func part(f func(time.Time) int) func(*state, *call, []Value) (Value, error) {
	return func(s *state, n *call, args []Value) (Value, error) {
		t, given, err := s.dayOf(n, args, 0)
		if err != nil || !given {
			return Value{}, err
		}
		return Whole(int64(f(t))), nil
	}
}

func clockPart(unit time.Duration, modulus int64) func(*state, *call, []Value) (Value, error) {
	return func(s *state, n *call, args []Value) (Value, error) {
		if args[0].blank() {
			return Value{}, nil
		}
		d, ok := args[0].Clock()
		if !ok {
			return Value{}, s.fault(n.args[0], "formula.time-needed")
		}
		return Whole(int64(d/unit) % modulus), nil
	}
}
