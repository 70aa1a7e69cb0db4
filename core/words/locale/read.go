package locale

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode"

	"github.com/bojanz/currency"
)

// ReadNumber turns digits as people of the language write them into plain ones with a point before decimals. A sign before
// decimals that is another language's is taken where it can mean nothing else (12.5 in German). What is no well-formed number
// of the language gives false.
func (l Locale) ReadNumber(s string) (string, bool) {
	s = strings.NewReplacer("\u2212", "-", "\u2013", "-", "\u00A0", " ", "\u202F", " ", "\u2009", " ", "’",
		"'").Replace(strings.TrimSpace(s))
	sign := ""
	if strings.HasPrefix(s, "-") || strings.HasPrefix(s, "+") {
		sign, s = strings.TrimPrefix(s[:1], "+"), strings.TrimSpace(s[1:])
	}
	decimal := l.DecimalSign()
	other := map[string]string{",": ".", ".": ","}[decimal]
	groups := []string{" ", "'"}
	if strings.Contains(l.Fixed(thousand, 0), other) {
		groups = append(groups, other)
	}
	whole, fraction, parted := strings.Cut(s, decimal)
	if plain, ok := ungrouped(whole, groups); ok && onlyDigits(fraction) && (!parted || fraction != "") {
		return sign + joined(plain, fraction), true
	}
	if whole, fraction, parted = strings.Cut(s, other); parted && onlyDigits(whole) && onlyDigits(fraction) && fraction != "" {
		return sign + joined(whole, fraction), true
	}
	return "", false
}

func joined(whole, fraction string) string {
	if whole == "" {
		whole = "0"
	}
	if fraction == "" {
		return whole
	}
	return whole + "." + fraction
}

func onlyDigits(s string) bool { return strings.Trim(s, "0123456789") == "" }

// ungrouped takes signs between groups of three digits out. A group never follows a 0 that stands alone.
func ungrouped(s string, groups []string) (string, bool) {
	if onlyDigits(s) {
		return s, true
	}
	for _, g := range groups {
		parts := strings.Split(s, g)
		if len(parts) < 2 || len(parts[0]) < 1 || len(parts[0]) > 3 || strings.HasPrefix(parts[0], "0") {
			continue
		}
		good := onlyDigits(parts[0])
		for _, p := range parts[1:] {
			good = good && len(p) == 3 && onlyDigits(p)
		}
		if good {
			return strings.Join(parts, ""), true
		}
	}
	return "", false
}

// money is what stands around an amount: a currency's sign, its ISO 4217 code or its usual letters.
var money = regexp.MustCompile(`^(?:\p{Sc}|[A-Z]{3}|zł|kr\.?|Fr\.?)\s*|\s*(?:\p{Sc}|[A-Z]{3}|zł|kr\.?|Fr\.?)$`)

// ReadAmount is ReadNumber for an amount of money (ISO 4217), with or without its currency. An amount of another currency is none.
func (l Locale) ReadAmount(s, code string) (string, bool) {
	s = strings.TrimSpace(strings.NewReplacer("\u00A0", " ", "\u202F", " ").Replace(s))
	for _, sign := range money.FindAllString(s, -1) {
		if !l.isSign(strings.TrimSpace(sign), code) {
			return "", false
		}
	}
	return l.ReadNumber(money.ReplaceAllString(s, ""))
}

// letters are the signs of currencies that people write with letters; from memory.
var letters = map[string]string{"zł": "PLN", "kr": "SEK NOK DKK ISK", "kr.": "SEK NOK DKK ISK", "Fr": "CHF", "Fr.": "CHF"}

// isSign reports whether people mean a currency by a sign: by its code, its letters, or its symbol, also where that is another's too.
func (l Locale) isSign(sign, code string) bool {
	if sign == code || slices.Contains(strings.Fields(letters[sign]), code) {
		return true
	}
	symbol, ok := currency.GetSymbol(code, currency.NewLocale(l.tag))
	return ok && strings.TrimLeftFunc(symbol, unicode.IsLetter) == sign && sign != ""
}

// ReadDay reads a day in the order of the language's figures, with the name of its month, or as year-month-day, and gives it as
// 2026-11-24. A year has four figures: which century is meant by two is not certain.
func (l Locale) ReadDay(s string) (string, bool) {
	parts := strings.FieldsFunc(s, func(r rune) bool { return unicode.IsSpace(r) || strings.ContainsRune(".,/-", r) })
	var figures []string
	month := 0
	for _, p := range parts {
		switch m := l.month(p); {
		case unicode.IsDigit([]rune(p)[0]):
			figures = append(figures, strings.TrimRight(p, "stndrhºª"))
		case m > 0 && month == 0:
			month = m
		case p == "de" || p == "of" || p == "the" || strings.EqualFold(p, "r"): // 24 de noviembre de 2026, 24 listopada 2026 r.
		default:
			return "", false
		}
	}
	numbers := make([]int, len(figures))
	for i, f := range figures {
		n, err := strconv.Atoi(f)
		if err != nil {
			return "", false
		}
		numbers[i] = n
	}
	if !slices.ContainsFunc(figures, func(f string) bool { return len(f) == 4 }) {
		return "", false
	}
	var y, d int
	switch {
	case month > 0 && len(numbers) == 2 && len(figures[0]) == 4:
		y, d = numbers[0], numbers[1]
	case month > 0 && len(numbers) == 2:
		y, d = numbers[1], numbers[0]
	case month > 0 || len(numbers) != 3:
		return "", false
	case len(figures[0]) == 4:
		y, month, d = numbers[0], numbers[1], numbers[2]
	case l.DatePattern()[0] == 'M':
		month, d, y = numbers[0], numbers[1], numbers[2]
	case l.DatePattern()[0] == 'D':
		d, month, y = numbers[0], numbers[1], numbers[2]
	default:
		return "", false
	}
	if y < 1000 {
		return "", false
	}
	t := time.Date(y, time.Month(month), d, 0, 0, 0, 0, time.UTC)
	if t.Year() != y || int(t.Month()) != month || t.Day() != d || y > 9999 {
		return "", false
	}
	return t.Format(time.DateOnly), true
}

// month is the number of a month by its name or what it is shortened to, or 0.
func (l Locale) month(s string) int {
	s = strings.ToLower(s)
	for _, names := range [][]string{l.dates.MonthsWide(), l.dates.MonthsAbbreviated()} {
		for i, name := range names {
			if strings.TrimSuffix(strings.ToLower(name), ".") == s {
				return i%12 + 1 // the lists may have an empty name before January's
			}
		}
	}
	return 0
}

var clock = regexp.MustCompile(`(?i)^(\d{1,2})(?:\s?[:.h]\s?(\d{2}))?(?::\d{2})?\s*(am|pm|a\.?\s?m\.?|p\.?\s?m\.?|uhr|h)?$`)

// ReadTime reads a time of day: 14:30, 14.30, 14 h 30, 2:30 pm, 14:30 Uhr. It gives 14:30.
func (l Locale) ReadTime(s string) (string, bool) {
	m := clock.FindStringSubmatch(strings.TrimSpace(s))
	if m == nil || m[2] == "" && m[3] == "" {
		return "", false
	}
	hour, _ := strconv.Atoi(m[1])
	minute, _ := strconv.Atoi(m[2])
	switch half := strings.ToLower(m[3] + " ")[0]; {
	case (half == 'a' || half == 'p') && (hour < 1 || hour > 12):
		return "", false
	case half == 'a':
		hour %= 12
	case half == 'p':
		hour = hour%12 + 12
	}
	if hour > 23 || minute > 59 {
		return "", false
	}
	return time.Date(1, 1, 1, hour, minute, 0, 0, time.UTC).Format("15:04"), true
}

// ReadMoment reads a day with its time and gives 2026-11-24T14:30.
func (l Locale) ReadMoment(s string) (string, bool) {
	for i, r := range s {
		if r != 'T' && r != ',' && !unicode.IsSpace(r) {
			continue
		}
		day, ok := l.ReadDay(s[:i])
		if !ok {
			continue
		}
		if at, ok := l.ReadTime(s[i+len(string(r)):]); ok {
			return day + "T" + at, true
		}
	}
	return "", false
}
