package form

import (
	"regexp"
	"slices"
	"strings"
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
	{DateTime, regexp.MustCompile(`^\d{4}-\d\d-\d\d[T ]\d\d:\d\d`).MatchString},
	{Date, regexp.MustCompile(`^(\d{4}-\d{1,2}-\d{1,2}|\d{1,2}[./]\d{1,2}[./]\d{2,4}|\d{1,2}-\d{1,2}-\d{2,4})$`).MatchString},
	{Time, regexp.MustCompile(`^([01]?\d|2[0-3]):[0-5]\d(:[0-5]\d)?$`).MatchString},
	{YesNo, regexp.MustCompile(`^(?i:yes|no|true|false|y|n|ja|nein|oui|non|sí|tak|nie)$`).MatchString},
	{Money, regexp.MustCompile(`^[-+]?(?:[€$£¥]|EUR|USD|GBP|CHF|PLN)\s?[\d.,' ]+$|^[-+]?[\d.,' ]+\s?(?:[€$£¥]|EUR|USD|GBP|CHF|PLN|zł)$`).MatchString},
	{WholeNumber, regexp.MustCompile(`^[-+]?(0|[1-9]\d{0,14})$`).MatchString},
	{Decimal, regexp.MustCompile(`^[-+]?\d{1,15}[.,]\d{1,6}$`).MatchString},
	{Phone, regexp.MustCompile(`^\+?[\d ()/.-]{7,24}$`).MatchString},
}

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
	for _, k := range columnKinds {
		if !slices.ContainsFunc(values, func(v string) bool { return !k.fits(v) }) {
			x.Kind = k.kind
			if x.Kind == Decimal && GuessKind(label) == Money {
				x.Kind = Money
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
