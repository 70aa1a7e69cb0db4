package form

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net/mail"
	"slices"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"

	"github.com/cockroachdb/apd/v3"

	"amberseal/core/finding"
)

// Longest answers in characters (Unicode code points).
const (
	MaxShort = 1_000
	MaxLong  = 50_000
)

// Check reads raw answers against the form. It returns every answer that could be
// understood and a finding for each that could not; a finding's place is the field's
// key. Line breaks and control characters in one-line answers become spaces, so that
// an answer can go into a subject or a file name. Keys the form does not have are
// findings: nothing that was typed is dropped in silence.
func Check(f Form, raw Raw) (Answers, finding.List) {
	answers := make(Answers, len(raw))
	var l finding.List
	known := make(map[string]bool, len(f.Fields))
	for _, x := range f.Fields {
		if !x.Kind.Asks() {
			continue
		}
		known[x.Key] = true
		v, problem := read(x, raw[x.Key])
		switch {
		case problem != "":
			l.Fault(x.Key, problem, "")
		case !v.Empty():
			answers[x.Key] = v
		case x.Required:
			l.Fault(x.Key, missing(x), "")
		}
	}
	var strange []string
	for key := range raw {
		if !known[key] {
			strange = append(strange, key)
		}
	}
	slices.Sort(strange)
	for _, key := range strange {
		l.Fault(shorten(key), "This form has no field of this name.", "Leave it out.")
	}
	return answers, l
}

// Load reads answers that were checked when they were accepted; whatever the form
// no longer understands is left out.
func Load(f Form, raw Raw) Answers {
	answers, _ := Check(f, raw)
	return answers
}

func missing(x Field) string {
	if x.Kind == YesNo {
		return "Please agree to this to go on."
	}
	if x.Kind.Choosy() {
		return "Please choose."
	}
	return "Please answer this question."
}

// read turns one raw answer into a value, or says what is wrong with it.
func read(x Field, raw json.RawMessage) (Value, string) {
	raw = bytes.TrimSpace(raw)
	if len(raw) == 0 || string(raw) == "null" {
		return Value{}, ""
	}
	switch x.Kind {
	case YesNo:
		return readYesNo(x, raw)
	case SeveralOf:
		return readSeveral(x, raw)
	}
	s, ok := scalar(raw, x.Kind.Numeric())
	if !ok {
		return Value{}, "This answer must be a " + plainKind(x.Kind) + "."
	}
	s = clean(s, x.Kind == LongText)
	if s == "" {
		return Value{}, ""
	}
	most := MaxShort
	if x.Kind == LongText {
		most = MaxLong
	}
	if n := utf8.RuneCountInString(s); n > most {
		return Value{}, fmt.Sprintf("This is %d characters long; at most %d fit.", n, most)
	}
	switch x.Kind {
	case WholeNumber, Decimal, Money:
		return readNumber(x.Kind, s)
	case Email:
		if !validEmail(s) {
			return Value{}, "This is not an email address. It should look like name@place.example."
		}
	case Phone:
		if !validPhone(s) {
			return Value{}, "This is not a telephone number. Write its digits, with + and the country’s code if you can."
		}
	case Date:
		t, err := time.Parse(time.DateOnly, s)
		if err != nil || t.Year() < 1 {
			return Value{}, "This is not a date. Write it as year-month-day, such as 2026-11-24."
		}
		return date(t), ""
	case OneOf:
		if !slices.ContainsFunc(x.Choices, func(c Choice) bool { return c.Value == s }) {
			return Value{}, "This is not one of the choices."
		}
	}
	return text(x.Kind, s), ""
}

func readYesNo(x Field, raw json.RawMessage) (Value, string) {
	var yes bool
	if json.Unmarshal(raw, &yes) != nil {
		return Value{}, "This answer must be yes or no (true or false)."
	}
	if x.Required && !yes {
		return Value{}, missing(x)
	}
	return yesNo(yes), ""
}

func readSeveral(x Field, raw json.RawMessage) (Value, string) {
	var chosen []string
	if json.Unmarshal(raw, &chosen) != nil {
		return Value{}, "This answer must be a list of choices."
	}
	for _, c := range chosen {
		if !slices.ContainsFunc(x.Choices, func(k Choice) bool { return k.Value == c }) {
			return Value{}, "“" + shorten(c) + "” is not one of the choices."
		}
	}
	if len(chosen) == 0 {
		return Value{}, ""
	}
	var inOrder []string
	for _, k := range x.Choices {
		if slices.Contains(chosen, k.Value) {
			inOrder = append(inOrder, k.Value)
		}
	}
	return several(inOrder), ""
}

// readNumber takes plain digits with an optional sign and a decimal point; the page
// turns what people type in their language into this. Exponents and names such as
// NaN are refused, so that a short answer cannot stand for a huge number.
func readNumber(k Kind, s string) (Value, string) {
	if strings.Trim(s, "+-.0123456789") != "" || len(s) > 30 {
		return Value{}, "This is not a number. Write digits only, with a point before decimals."
	}
	d, _, err := apd.NewFromString(s)
	if err != nil {
		return Value{}, "This is not a number. Write digits only, with a point before decimals."
	}
	if k == WholeNumber {
		if d.Exponent < 0 {
			return Value{}, "This must be a whole number, without decimals."
		}
	}
	if k == Money && d.Exponent < -4 {
		return Value{}, "An amount has at most four decimals."
	}
	return number(k, d), ""
}

// scalar reads a JSON string, or a JSON number where numbers are asked.
func scalar(raw json.RawMessage, numeric bool) (string, bool) {
	if numeric && (raw[0] == '-' || raw[0] >= '0' && raw[0] <= '9') {
		return string(raw), true
	}
	var s string
	err := json.Unmarshal(raw, &s)
	return s, err == nil
}

// clean trims an answer, keeps it valid UTF-8, and takes out control characters:
// all of them in one-line answers, all but line breaks and tabs in long ones.
func clean(s string, lines bool) string {
	s = strings.ToValidUTF8(s, "\uFFFD")
	s = strings.ReplaceAll(s, "\r\n", "\n")
	s = strings.Map(func(r rune) rune {
		switch {
		case r == '\n' || r == '\t' || r == '\r' || r == '\u2028' || r == '\u2029':
			if !lines {
				return ' '
			}
			if r == '\t' {
				return r
			}
			return '\n'
		case unicode.IsControl(r):
			return -1
		}
		return r
	}, s)
	return strings.TrimSpace(s)
}

// validEmail accepts an addr-spec of RFC 5322 section 3.4.1 as net/mail reads it,
// without display name or comments, at most 254 octets (RFC 3696 erratum 1690), with a
// dotted domain.
func validEmail(s string) bool {
	if len(s) > 254 || strings.ContainsAny(s, " ()<>,;:\\\"[]") {
		return false
	}
	a, err := mail.ParseAddress(s)
	if err != nil || a.Address != s || a.Name != "" {
		return false
	}
	_, domain, _ := strings.Cut(s, "@")
	labels := strings.Split(domain, ".")
	return len(labels) > 1 && !slices.Contains(labels, "")
}

func validPhone(s string) bool {
	digits := 0
	for i, r := range s {
		switch {
		case unicode.IsDigit(r):
			digits++
		case r == '+' && i == 0, strings.ContainsRune(" -./()\u00A0", r):
		default:
			return false
		}
	}
	// ITU-T E.164 allows 15 digits; extensions and dialling prefixes get a little room.
	return digits >= 4 && digits <= 20
}

func plainKind(k Kind) string {
	if k.Numeric() {
		return "number"
	}
	return "text"
}

func shorten(s string) string {
	s = clean(s, false)
	if r := []rune(s); len(r) > 60 {
		return string(r[:60]) + "…"
	}
	return s
}
