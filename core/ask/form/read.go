package form

import (
	"bytes"
	"encoding/json"
	"net/mail"
	"net/netip"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"

	"github.com/bojanz/currency"
	"github.com/cockroachdb/apd/v3"
	"github.com/nyaruka/phonenumbers"
	"golang.org/x/net/idna"
)

// Longest answers in characters (Unicode code points).
const (
	MaxShort = 1_000
	MaxLong  = 50_000
)

// Circumstances are what checking answers needs to know besides the form.
type Circumstances struct {
	Now      time.Time                         // as the house's clock shows it; of a correction the first arrival as a rule
	Received time.Time                         // when the answers came in first, as Now; zero where they have not
	Country  string                            // ISO 3166: where telephone numbers without a country are
	Currency string                            // ISO 4217, of money that names none
	Language string                            // BCP 47, of what is said to the respondent
	File     func(id string) (f File, ok bool) // an uploaded file; nil takes the answers' word for it
}

// read turns one raw answer into a value, or says what is wrong with it.
func (c Circumstances) read(x Field, raw json.RawMessage) (Value, string) {
	raw = bytes.TrimSpace(raw)
	if len(raw) == 0 || string(raw) == "null" {
		return Value{}, ""
	}
	n := x.Kind.nature()
	switch n.shape {
	case Truth:
		return c.readYesNo(x, raw)
	case Several:
		return c.readSeveral(x, raw)
	case Parts:
		return c.readParts(x, raw)
	case Files:
		return c.readFiles(x, raw)
	case Drawn:
		return c.readSignature(raw)
	}
	s, ok := scalar(raw, n.shape == Figure)
	if !ok {
		return Value{}, "This answer must be a " + plainKind(x.Kind) + "."
	}
	s = clean(s, n.room.Several)
	if s == "" {
		return Value{}, ""
	}
	most := MaxShort
	if n.room.Several {
		most = MaxLong
	}
	if n := utf8.RuneCountInString(s); n > most {
		return Value{}, c.say("This is too long: %d of at most %d characters.", n, most)
	}
	if n.read != nil {
		return n.read(c, x, s)
	}
	return text(x.Kind, s), ""
}

func readEmail(c Circumstances, x Field, s string) (Value, string) {
	if !validEmail(s) {
		return Value{}, c.say("This is not an email address. It should look like name@place.example.")
	}
	return text(x.Kind, s), ""
}

func readDay(c Circumstances, x Field, s string) (Value, string) {
	t, err := time.Parse(time.DateOnly, s)
	if err != nil || t.Year() < 1 {
		return Value{}, c.say("This is not a date. Write it as year-month-day, such as 2026-11-24.")
	}
	return date(x.Kind, t), ""
}

func (c Circumstances) readYesNo(x Field, raw json.RawMessage) (Value, string) {
	var yes bool
	if json.Unmarshal(raw, &yes) != nil {
		return Value{}, "This answer must be yes or no (true or false)."
	}
	return yesNo(x.Kind, yes), ""
}

func (c Circumstances) readSeveral(x Field, raw json.RawMessage) (Value, string) {
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
	return several(x.Kind, inOrder), ""
}

// readNumber takes plain digits with an optional sign and a decimal point; the page
// turns what people type in their language into this. Exponents and names such as
// NaN are refused, so that a short answer cannot stand for a huge number.
func (c Circumstances) readNumber(x Field, s string) (Value, string) {
	if strings.Trim(s, "+-.0123456789") != "" || len(s) > 30 {
		return Value{}, c.say("This is not a number. Write digits only, with a point before decimals.")
	}
	d, _, err := apd.NewFromString(s)
	if err != nil {
		return Value{}, c.say("This is not a number. Write digits only, with a point before decimals.")
	}
	switch {
	case (x.Kind == WholeNumber || x.Kind == Rating) && d.Exponent < 0:
		return Value{}, c.say("This must be a whole number, without decimals.")
	case x.Kind == Rating && (d.Cmp(apd.New(1, 0)) < 0 || d.Cmp(apd.New(int64(x.HighestRating()), 0)) > 0):
		return Value{}, c.say("A rating is from 1 to %d.", x.HighestRating())
	case x.Kind == Money:
		most := 4
		if digits, ok := currency.GetDigits(c.currency(x)); ok {
			most = int(digits)
		}
		if int(-d.Exponent) > most {
			return Value{}, c.tooManyDecimals(most)
		}
	}
	if d.IsZero() {
		d.Negative = false
	}
	return number(x.Kind, d), ""
}

func (c Circumstances) tooManyDecimals(most int) string {
	switch most {
	case 0:
		return c.say("An amount of this currency has no decimals.")
	case 2:
		return c.say("An amount has at most two decimals.")
	}
	return c.say("An amount has at most %d decimals.", most)
}

func (c Circumstances) currency(x Field) string {
	if x.Currency != "" {
		return x.Currency
	}
	return c.Currency
}

// readPhone keeps a number in the form of ITU-T E.164. A number counts as one when it is possible by its
// country's plan; whether somebody answers there cannot be known.
func (c Circumstances) readPhone(x Field, s string) (Value, string) {
	wrong := c.say("This is not a telephone number. Write its digits, with + and the country’s code for another country.")
	country := x.Country
	if country == "" {
		country = c.Country
	}
	if country == "" {
		country = "ZZ" // libphonenumber's region that is none: only numbers with + are understood
	}
	if strings.Trim(s, "+-./() \u00A00123456789") != "" {
		return Value{}, wrong
	}
	n, err := phonenumbers.Parse(s, country)
	if err != nil || !phonenumbers.IsPossibleNumber(n) {
		return Value{}, wrong
	}
	return text(x.Kind, phonenumbers.Format(n, phonenumbers.E164)), ""
}

func readWebAddress(c Circumstances, x Field, s string) (Value, string) {
	wrong := c.say("This is not a web address. It should look like https://place.example.")
	if !strings.Contains(s, "://") {
		s = "https://" + s
	}
	u, err := url.Parse(s)
	if err != nil || u.Scheme != "http" && u.Scheme != "https" || u.User != nil || strings.ContainsAny(s, " <>\"") ||
		strings.ContainsFunc(s, unprintable) {
		return Value{}, wrong
	}
	if port, err := strconv.Atoi(u.Port()); u.Port() != "" && (err != nil || port < 1 || port > 65535) {
		return Value{}, wrong
	}
	if ip, err := netip.ParseAddr(u.Hostname()); !(err == nil && (ip.Is6() || ip.Is4())) && !validHost(u.Hostname()) {
		return Value{}, wrong
	}
	return text(x.Kind, s), ""
}

func readTime(c Circumstances, _ Field, s string) (Value, string) {
	t, err := time.Parse(timeLayout, s)
	if err != nil {
		t, err = time.Parse(time.TimeOnly, s)
	}
	if err != nil {
		return Value{}, c.say("This is not a time. Write hours and minutes, such as 14:30.")
	}
	return clock(time.Duration(t.Hour())*time.Hour + time.Duration(t.Minute())*time.Minute), ""
}

func readDateTime(c Circumstances, x Field, s string) (Value, string) {
	s = strings.Replace(s, " ", "T", 1)
	t, err := time.Parse(momentLayout, s)
	if err != nil {
		t, err = time.Parse("2006-01-02T15:04:05", s)
	}
	if err != nil || t.Year() < 1 {
		return Value{}, c.say("This is not a date with a time. Write it as 2026-11-24T14:30.")
	}
	return date(x.Kind, t.Truncate(time.Minute)), ""
}

// longestPart is how many characters a part of a name or address may have.
const longestPart = 200

func (c Circumstances) readParts(x Field, raw json.RawMessage) (Value, string) {
	var given map[string]string
	if json.Unmarshal(raw, &given) != nil {
		return Value{}, "This answer must be an object of the parts " + strings.Join(x.AskedParts(), ", ") + "."
	}
	kept := map[string]string{}
	for part, s := range given {
		if !slices.Contains(x.AskedParts(), part) {
			return Value{}, "There is no part “" + shorten(part) + "”; the parts are " + strings.Join(x.AskedParts(), ", ") + "."
		}
		if s = clean(s, false); s == "" {
			continue
		}
		if n := utf8.RuneCountInString(s); n > longestPart {
			return Value{}, c.say("This is too long: %d of at most %d characters.", n, longestPart)
		}
		kept[part] = s
	}
	if len(kept) == 0 {
		return Value{}, ""
	}
	return parts(x.Kind, kept), ""
}

// Needed reports whether a part of a name or address must be given where the answer is required.
func Needed(part string) bool {
	return part == "given" || part == "family" || part == "street" || part == "postcode" || part == "city"
}

// incomplete says which part of an answer that must be given is missing.
func (c Circumstances) incomplete(x Field, v Value) string {
	for _, part := range x.AskedParts() {
		if Needed(part) && v.Parts[part] == "" {
			return c.say(map[string]string{
				"given": "Please write the given name.", "family": "Please write the family name.", "street": "Please write the street.",
				"postcode": "Please write the postcode.", "city": "Please write the town.",
			}[part])
		}
	}
	return ""
}

// scalar reads a JSON string, or a JSON number where numbers are asked.
func scalar(raw json.RawMessage, numeric bool) (string, bool) {
	if numeric && (raw[0] == '-' || raw[0] >= '0' && raw[0] <= '9') {
		return string(raw), true
	}
	if n := len(raw); n > 1 && raw[0] == '"' && raw[n-1] == '"' && bytes.IndexByte(raw, '\\') < 0 && utf8.Valid(raw) {
		return string(raw[1 : n-1]), true // most answers escape nothing
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
		case unicode.IsControl(r), turnsDirection(r), !lines && unseen(r):
			return -1
		}
		return r
	}, s)
	return strings.TrimSpace(s)
}

// turnsDirection tells the controls that show letters in another order than they stand (UAX #9, 2.1 to 2.5): in a name or a
// subject they only ever deceive. The marks that no letter shows differently for, U+200E and U+200F, may stay.
func turnsDirection(r rune) bool { return r >= 0x202A && r <= 0x202E || r >= 0x2066 && r <= 0x2069 }

// unseen tells signs without a width that no name or number needs: they make two that read alike different, and hide what they part. Those
// that join letters, U+200C and U+200D, stay.
func unseen(r rune) bool {
	return r == 0x200B || r >= 0x2060 && r <= 0x2064 || r == 0xFEFF || r == 0x180E || r == 0x00AD
}

// validEmail accepts an addr-spec of RFC 5322 section 3.4.1 (and RFC 6531 for other scripts) as net/mail reads
// it, without display name or comments, at most 254 octets (RFC 3696 erratum 1690), with at most 64 octets before the @
// (RFC 5321 section 4.5.3.1.1) and a dotted domain behind it.
func validEmail(s string) bool {
	if len(s) > 254 || strings.ContainsAny(s, " ()<>,;:\\\"[]") || strings.ContainsFunc(s, unprintable) {
		return false
	}
	a, err := mail.ParseAddress(s)
	if err != nil || a.Address != s || a.Name != "" {
		return false
	}
	local, domain, _ := strings.Cut(s, "@")
	return len(local) <= 64 && validHost(domain)
}

// unprintable tells signs that nobody sees: controls, and what turns the direction or joins letters.
func unprintable(r rune) bool {
	return unicode.IsControl(r) || unicode.Is(unicode.Cf, r) || r == utf8.RuneError
}

// validHost accepts a name of two labels or more, each of letters, digits and hyphens that do not stand at its ends and of at most
// 63 octets in the letters of the wire (RFC 1035 section 2.3.4, RFC 5890 for other scripts). The last label is no number, so that
// no address of figures passes for a name.
func validHost(host string) bool {
	wire, err := idna.Lookup.ToASCII(host)
	if err != nil || len(wire) > 253 {
		return false
	}
	labels := strings.Split(strings.ToLower(wire), ".")
	for _, label := range labels {
		if label == "" || len(label) > 63 || strings.HasPrefix(label, "-") || strings.HasSuffix(label, "-") ||
			strings.Trim(label, "abcdefghijklmnopqrstuvwxyz0123456789-") != "" {
			return false
		}
	}
	return len(labels) > 1 && strings.Trim(labels[len(labels)-1], "0123456789") != "" && len(labels[len(labels)-1]) > 1
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
