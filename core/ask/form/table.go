package form

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"
)

// FromTable makes a field of each column of a table: its label is the header, its kind is guessed from the
// values below it, and from the label where there are none.
func FromTable(header []string, rows [][]string) []Field {
	fields := []Field{}
	var taken []string
	for i, label := range header {
		label = clean(label, false)
		if label == "" {
			continue
		}
		var values []string
		for _, row := range rows {
			if i < len(row) {
				if v := clean(row[i], true); v != "" {
					values = append(values, v)
				}
			}
		}
		x := fromColumn(label, values)
		x.Key = KeyFor(x.Label, taken)
		x.Required = x.Required || len(values) > 1 && len(values) == len(rows)
		fields, taken = append(fields, x), append(taken, x.Key)
	}
	return fields
}

// columnKinds are tried in order; the first that every value of a column fits wins.
var columnKinds = []struct {
	kind Kind
	fits func(string) bool
}{
	{Email, validEmail},
	{WebAddress, regexp.MustCompile(`^(?i:https?://|www\.)\S+$`).MatchString},
	{DateTime, isDateTime},
	{Date, isDay},
	{Time, regexp.MustCompile(`^([01]?\d|2[0-3]):[0-5]\d(:[0-5]\d)?$`).MatchString},
	{YesNo, regexp.MustCompile(`^(?i:yes|no|true|false|y|n|ja|nein|oui|non|sí|tak|nie)$`).MatchString},
	{
		Money,
		regexp.MustCompile(`^[-+]?(?:[€$£¥]|EUR|USD|GBP|CHF|PLN)\s?[\d.,' ]+$|^[-+]?[\d.,' ` +
			`]+\s?(?:[€$£¥]|EUR|USD|GBP|CHF|PLN|zł)$`).MatchString,
	},
	{WholeNumber, regexp.MustCompile(`^[-+]?(0|[1-9]\d{0,14})$`).MatchString},
	{Decimal, regexp.MustCompile(`^[-+]?(\d{1,15}([.,]\d{1,6})?|\d{1,3}([,.'  ]\d{3})+([.,]\d{1,6})?)$`).MatchString},
	{Phone, isPhone},
}

var dayParts = regexp.MustCompile(`^(?:(\d{4})[-./](\d{1,2})[-./](\d{1,2})|(\d{1,2})[-./](\d{1,2})[-./](\d{2}|\d{4}))$`)

// isDay reports whether a cell is a day that there is, in one of the usual orders.
func isDay(s string) bool {
	m := dayParts.FindStringSubmatch(s)
	if m == nil {
		return false
	}
	n := func(i int) int { v, _ := strconv.Atoi(m[i]); return v } // digits only
	there := func(year, month, day int) bool {
		t := time.Date(year, time.Month(month), day, 0, 0, 0, 0, time.UTC)
		return month >= 1 && month <= 12 && t.Day() == day && int(t.Month()) == month
	}
	if m[1] != "" {
		return there(n(1), n(2), n(3))
	}
	return there(n(6), n(5), n(4)) || there(n(6), n(4), n(5)) && strings.Contains(s, "/")
}

var clockPart = regexp.MustCompile(`^(.+?)(?:T|,? +)(?:[01]?\d|2[0-3]):[0-5]\d(?::[0-5]\d(?:\.\d+)?)?(?:Z|[+-]\d\d:?\d\d)?$`)

func isDateTime(s string) bool {
	m := clockPart.FindStringSubmatch(s)
	return m != nil && isDay(m[1])
}

var phoneSigns = regexp.MustCompile(`^\+?[\d ()/.-]{7,24}$`)

// isPhone reports whether a cell may be a telephone number: one has up to 15 digits (ITU-T E.164 section 6).
func isPhone(s string) bool {
	digits := 0
	for _, r := range s {
		if r >= '0' && r <= '9' {
			digits++
		}
	}
	return phoneSigns.MatchString(s) && !dayParts.MatchString(s) && digits >= 7 && digits <= 15
}

// grouped are whole numbers with signs between their thousands.
var grouped = regexp.MustCompile(`^[-+]?\d{1,3}([,.'  ]\d{3})*$`)

// The most different values that are taken for choices, and how often each must occur on average.
const (
	mostGuessedChoices = 12
	choiceRepeats      = 3
)

func fromColumn(label string, values []string) Field {
	x, ok := FromQuestion(label, nil)
	if !ok || x.Kind == Section {
		x = Field{Label: label, Kind: ShortText}
	}
	if len(values) == 0 {
		return x
	}
	x.Choices = nil
	said := GuessKind(label)
	every := func(fits func(string) bool) bool {
		return !slices.ContainsFunc(values, func(v string) bool { return !fits(v) })
	}
	switch {
	case clues[0].words.MatchString(label) && every(func(v string) bool { return !validEmail(v) }): // a code, though it has digits only
		x.Kind = ShortText
		return x
	case said == WholeNumber && every(grouped.MatchString):
		x.Kind = WholeNumber
		return x
	}
	for _, k := range columnKinds {
		if every(k.fits) {
			x.Kind = k.kind
			if said == Money && (x.Kind == Decimal || x.Kind == WholeNumber) || said == Decimal && x.Kind == WholeNumber {
				x.Kind = said
			}
			return x
		}
	}
	var distinct []string
	longest := 0
	for _, v := range values {
		longest = max(longest, utf8.RuneCountInString(v))
		if !slices.Contains(distinct, v) && len(distinct) <= mostGuessedChoices {
			distinct = append(distinct, v)
		}
	}
	switch {
	case longest > 120 || slices.ContainsFunc(values, func(v string) bool { return strings.Contains(v, "\n") }):
		x.Kind = LongText
	case len(distinct) <= mostGuessedChoices && len(values) >= choiceRepeats*len(distinct):
		x.Kind = OneOf
		slices.Sort(distinct)
		var taken []string
		for _, v := range distinct {
			c := Choice{Value: KeyFor(v, taken), Label: v}
			x.Choices, taken = append(x.Choices, c), append(taken, c.Value)
		}
	default:
		x.Kind = ShortText
	}
	return x
}

// Watched lists the names that some rule of the form reads, so that a page need not ask for a check after
// every answer.
func (f Form) Watched() []string {
	out := []string{}
	add := func(name string) {
		if !slices.Contains(out, name) {
			out = append(out, name)
		}
	}
	uses := f.ruleReferences()
	f.Each(func(name string, _ Field) {
		if slices.Contains(uses, name) {
			add(name)
		}
	})
	return out
}
