package form

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net/mail"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"sync"
	"time"
	"unicode"
	"unicode/utf8"

	"github.com/bojanz/currency"
	"github.com/cockroachdb/apd/v3"
	"github.com/nyaruka/phonenumbers"
)

// Longest answers in characters (Unicode code points).
const (
	MaxShort = 1_000
	MaxLong  = 50_000
)

// Circumstances are what checking answers needs to know besides the form.
type Circumstances struct {
	Now      time.Time                         // as the house's clock shows it
	Country  string                            // ISO 3166: where telephone numbers without a country are
	Currency string                            // ISO 4217, of money that names none
	File     func(id string) (f File, ok bool) // an uploaded file; nil takes the answers' word for it
}

// read turns one raw answer into a value, or says what is wrong with it.
func (c Circumstances) read(x Field, raw json.RawMessage) (Value, string) {
	raw = bytes.TrimSpace(raw)
	if len(raw) == 0 || string(raw) == "null" {
		return Value{}, ""
	}
	switch x.Kind {
	case YesNo, Consent:
		return readYesNo(x, raw)
	case SeveralOf:
		return readSeveral(x, raw)
	case Name, Address:
		return readParts(x, raw)
	case Upload, Photo:
		return c.readFiles(x, raw)
	case Signature:
		return c.readSignature(raw)
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
	case WholeNumber, Decimal, Money, Rating:
		return c.readNumber(x, s)
	case Email:
		if !validEmail(s) {
			return Value{}, "This is not an email address. It should look like name@place.example."
		}
	case Phone:
		return c.readPhone(x, s)
	case WebAddress:
		return readWebAddress(s)
	case Date:
		t, err := time.Parse(time.DateOnly, s)
		if err != nil || t.Year() < 1 {
			return Value{}, "This is not a date. Write it as year-month-day, such as 2026-11-24."
		}
		return date(Date, t), ""
	case Time:
		return readTime(s)
	case DateTime:
		return readDateTime(s)
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
	return yesNo(x.Kind, yes), ""
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
func (c Circumstances) readNumber(x Field, s string) (Value, string) {
	if strings.Trim(s, "+-.0123456789") != "" || len(s) > 30 {
		return Value{}, "This is not a number. Write digits only, with a point before decimals."
	}
	d, _, err := apd.NewFromString(s)
	if err != nil {
		return Value{}, "This is not a number. Write digits only, with a point before decimals."
	}
	switch {
	case (x.Kind == WholeNumber || x.Kind == Rating) && d.Exponent < 0:
		return Value{}, "This must be a whole number, without decimals."
	case x.Kind == Rating && (d.Cmp(apd.New(1, 0)) < 0 || d.Cmp(apd.New(int64(x.HighestRating()), 0)) > 0):
		return Value{}, fmt.Sprintf("A rating is from 1 to %d.", x.HighestRating())
	case x.Kind == Money:
		most := 4
		if digits, ok := currency.GetDigits(c.currency(x)); ok {
			most = int(digits)
		}
		if int(-d.Exponent) > most {
			return Value{}, tooManyDecimals(most)
		}
	}
	return number(x.Kind, d), ""
}

func tooManyDecimals(most int) string {
	switch most {
	case 0:
		return "An amount of this currency has no decimals."
	case 2:
		return "An amount has at most two decimals."
	}
	return fmt.Sprintf("An amount has at most %d decimals.", most)
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
	const wrong = "This is not a telephone number. Write its digits, with + and the country’s code for another country."
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
	return text(Phone, phonenumbers.Format(n, phonenumbers.E164)), ""
}

func readWebAddress(s string) (Value, string) {
	const wrong = "This is not a web address. It should look like https://place.example."
	if !strings.Contains(s, "://") {
		s = "https://" + s
	}
	u, err := url.Parse(s)
	if err != nil || u.Scheme != "http" && u.Scheme != "https" || !strings.Contains(u.Hostname(), ".") || u.User != nil || strings.ContainsAny(s, " <>\"") {
		return Value{}, wrong
	}
	return text(WebAddress, s), ""
}

func readTime(s string) (Value, string) {
	t, err := time.Parse(timeLayout, s)
	if err != nil {
		t, err = time.Parse(time.TimeOnly, s)
	}
	if err != nil {
		return Value{}, "This is not a time. Write hours and minutes, such as 14:30."
	}
	return clock(time.Duration(t.Hour())*time.Hour + time.Duration(t.Minute())*time.Minute), ""
}

func readDateTime(s string) (Value, string) {
	s = strings.Replace(s, " ", "T", 1)
	t, err := time.Parse(momentLayout, s)
	if err != nil {
		t, err = time.Parse("2006-01-02T15:04:05", s)
	}
	if err != nil || t.Year() < 1 {
		return Value{}, "This is not a date with a time. Write it as 2026-11-24T14:30."
	}
	return date(DateTime, t.Truncate(time.Minute)), ""
}

// longestPart is how many characters a part of a name or address may have.
const longestPart = 200

func readParts(x Field, raw json.RawMessage) (Value, string) {
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
			return Value{}, fmt.Sprintf("A part is %d characters long; at most %d fit.", n, longestPart)
		}
		kept[part] = s
	}
	if len(kept) == 0 {
		return Value{}, ""
	}
	return parts(x.Kind, kept), ""
}

// incomplete says which part of an answer that must be given is missing.
func incomplete(x Field, v Value) string {
	for _, part := range x.AskedParts() {
		needed := part == "given" || part == "family" || part == "street" || part == "postcode" || part == "city"
		if needed && v.Parts[part] == "" {
			return "Please write the " + map[string]string{"given": "given name", "family": "family name", "street": "street", "postcode": "postcode", "city": "town"}[part] + "."
		}
	}
	return ""
}

func (c Circumstances) readFiles(x Field, raw json.RawMessage) (Value, string) {
	var given []json.RawMessage
	if json.Unmarshal(raw, &given) != nil {
		return Value{}, "This answer must be a list of uploaded files."
	}
	if n := len(given); n > x.MostFiles() {
		return Value{}, fmt.Sprintf("These are %d files; at most %d can be sent.", n, x.MostFiles())
	}
	var kept []File
	for _, g := range given {
		f, problem := c.readFile(g)
		if problem == "" {
			problem = x.FitsFile(f)
		}
		if problem != "" {
			return Value{}, problem
		}
		kept = append(kept, f)
	}
	if kept == nil {
		return Value{}, ""
	}
	return files(x.Kind, kept), ""
}

// readFile takes an upload's id, or the description that Check gives back.
func (c Circumstances) readFile(raw json.RawMessage) (File, string) {
	var f File
	if json.Unmarshal(raw, &f.ID) != nil && json.Unmarshal(raw, &f) != nil || f.ID == "" {
		return File{}, "An uploaded file is named by its id."
	}
	if c.File == nil {
		f.Name = clean(f.Name, false)
		return f, ""
	}
	kept, ok := c.File(f.ID)
	if !ok {
		return File{}, "One of the files is not there any more. Please upload it again."
	}
	return kept, ""
}

// endings of the kinds of file that uploads can be limited to, by their media type.
var endings = map[string][]string{
	"application/pdf": {"pdf"}, "image/jpeg": {"jpg", "jpeg"}, "image/png": {"png"}, "image/gif": {"gif"}, "image/webp": {"webp"}, "text/plain": {"txt"}, "text/csv": {"csv"},
	"application/vnd.openxmlformats-officedocument.wordprocessingml.document": {"docx"},
	"application/vnd.openxmlformats-officedocument.spreadsheetml.sheet":       {"xlsx"},
	"application/vnd.oasis.opendocument.text":                                 {"odt"}, "application/vnd.oasis.opendocument.spreadsheet": {"ods"},
	"application/zip": {"zip"}, "audio/mpeg": {"mp3"}, "video/mp4": {"mp4"},
}

// Endings lists the endings that uploads can be limited to.
func Endings() []string {
	var out []string
	for _, e := range endings {
		out = append(out, e...)
	}
	slices.Sort(out)
	return out
}

// FitsFile says why a file cannot be an answer of the field, or nothing.
func (f Field) FitsFile(x File) string {
	switch {
	case x.Size > f.LargestFile():
		return fmt.Sprintf("“%s” is too large; a file may have %d MB.", shorten(x.Name), f.LargestFile()>>20)
	case f.Kind == Photo && x.Type != "" && x.Type != "image/jpeg" && x.Type != "image/png":
		return fmt.Sprintf("“%s” is not a photo. Send a JPEG or PNG picture.", shorten(x.Name))
	case f.Kind == Upload && len(f.Accept) > 0 && x.Type != "":
		media, _, _ := strings.Cut(x.Type, ";")
		if !slices.ContainsFunc(endings[media], func(e string) bool { return slices.Contains(f.Accept, e) }) {
			return fmt.Sprintf("“%s” is not of a kind that can be sent here: %s.", shorten(x.Name), strings.Join(f.Accept, ", "))
		}
	}
	return ""
}

// Limits of a drawn signature.
const (
	maxStrokes = 500
	maxPoints  = 20_000
)

func (c Circumstances) readSignature(raw json.RawMessage) (Value, string) {
	const wrong = "This is not a signature. Draw it, type it or upload a picture of it."
	var given struct {
		Mark
		File json.RawMessage `json:"file"`
	}
	if json.Unmarshal(raw, &given) != nil {
		return Value{}, wrong
	}
	m := given.Mark
	m.Typed = clean(m.Typed, false)
	switch {
	case len(given.File) > 0 && string(given.File) != "null":
		f, problem := c.readFile(given.File)
		if problem == "" {
			problem = Field{Kind: Photo}.FitsFile(f)
		}
		if problem != "" {
			return Value{}, problem
		}
		return signed(&Mark{File: &f}), ""
	case m.Typed != "":
		if utf8.RuneCountInString(m.Typed) > longestPart {
			return Value{}, wrong
		}
		return signed(&Mark{Typed: m.Typed}), ""
	case len(m.Strokes) == 0:
		return Value{}, ""
	}
	points := 0
	for _, s := range m.Strokes {
		points += len(s)
		if len(s) < 2 || len(s)%2 != 0 || slices.ContainsFunc(s, func(v float64) bool { return v < -10_000 || v > 10_000 }) {
			return Value{}, wrong
		}
	}
	if len(m.Strokes) > maxStrokes || points > maxPoints || m.Width <= 0 || m.Height <= 0 || m.Width > 10_000 || m.Height > 10_000 {
		return Value{}, wrong
	}
	return signed(&Mark{Strokes: m.Strokes, Width: m.Width, Height: m.Height}), ""
}

// fits holds an answer against the field's own limits and says what is wrong.
func (c Circumstances) fits(x Field, v Value) string {
	problem := c.limit(x, v)
	if problem == "" {
		problem = shape(x, v)
	}
	if problem != "" && x.Message != "" {
		return x.Message
	}
	return problem
}

func (c Circumstances) limit(x Field, v Value) string {
	least, most := c.bound(x, x.Min), c.bound(x, x.Max)
	if !least.Empty() && order(v, least) < 0 {
		return "This must be " + least.plain() + " or " + later(x.Kind, "more", "later") + "."
	}
	if !most.Empty() && order(v, most) > 0 {
		return "This must be " + most.plain() + " or " + later(x.Kind, "less", "earlier") + "."
	}
	if x.Kind.Numeric() && x.Step != "" {
		return step(x, v, least)
	}
	return ""
}

func later(k Kind, number, day string) string {
	if k == Date || k == Time || k == DateTime {
		return day
	}
	return number
}

func step(x Field, v, least Value) string {
	by, _, err := apd.NewFromString(x.Step)
	if err != nil || by.Sign() <= 0 {
		return ""
	}
	from := new(apd.Decimal)
	if !least.Empty() {
		from = least.Number
	}
	rest := new(apd.Decimal)
	context := apd.BaseContext.WithPrecision(60)
	if _, err := context.Sub(rest, v.Number, from); err == nil {
		if _, err = context.Rem(rest, rest, by); err == nil && !rest.IsZero() {
			return "This must go in steps of " + x.Step + "."
		}
	}
	return ""
}

// bound reads a least or greatest value; @today stands for the day of answering.
func (c Circumstances) bound(x Field, s string) Value {
	if s == "" {
		return Value{}
	}
	if s == "@today" || s == "@now" {
		y, m, d := c.Now.Date()
		switch x.Kind {
		case Date:
			return date(Date, time.Date(y, m, d, 0, 0, 0, 0, time.UTC))
		case DateTime:
			return date(DateTime, time.Date(y, m, d, c.Now.Hour(), c.Now.Minute(), 0, 0, time.UTC))
		}
		return Value{}
	}
	x.Kind = map[bool]Kind{true: Decimal, false: x.Kind}[x.Kind.Numeric()]
	quoted, err := json.Marshal(s)
	if err != nil {
		return Value{}
	}
	v, _ := c.read(x, quoted)
	return v
}

// plain is a bound as a message says it.
func (v Value) plain() string {
	switch {
	case v.Number != nil:
		return v.Number.Text('f')
	case v.Kind == Date:
		return v.Date.Format(time.DateOnly)
	case v.Kind == DateTime:
		return v.Date.Format("2006-01-02 15:04")
	}
	return time.Time{}.Add(v.Clock).Format(timeLayout)
}

func order(v, bound Value) int {
	switch {
	case v.Number != nil && bound.Number != nil:
		return v.Number.Cmp(bound.Number)
	case v.Kind == Time && bound.Kind == Time:
		return int(v.Clock - bound.Clock)
	case v.Kind == bound.Kind && (v.Kind == Date || v.Kind == DateTime):
		return v.Date.Compare(bound.Date)
	}
	return 0
}

// patterns are compiled once; Go's engine runs in time linear to the answer.
var patterns sync.Map

func pattern(s string) (*regexp.Regexp, error) {
	if p, ok := patterns.Load(s); ok {
		return p.(*regexp.Regexp), nil
	}
	p, err := regexp.Compile(`^(?:` + s + `)$`)
	if err == nil {
		patterns.Store(s, p)
	}
	return p, err
}

// shape checks lengths, mask and pattern of texts.
func shape(x Field, v Value) string {
	if v.Text == "" || x.Kind.Choosy() {
		return ""
	}
	n := utf8.RuneCountInString(v.Text)
	switch {
	case x.Shortest > 0 && n < x.Shortest:
		return fmt.Sprintf("This is %d characters long; at least %d are needed.", n, x.Shortest)
	case x.Longest > 0 && n > x.Longest:
		return fmt.Sprintf("This is %d characters long; at most %d fit.", n, x.Longest)
	case x.Mask != "" && !fitsMask(x.Mask, v.Text):
		return "This should look like " + x.Mask + ", with a digit for # and a letter for A."
	}
	if x.Pattern != "" {
		if p, err := pattern(x.Pattern); err == nil && !p.MatchString(v.Text) {
			return "This does not have the form that is asked for."
		}
	}
	return ""
}

func fitsMask(mask, s string) bool {
	m, t := []rune(mask), []rune(s)
	if len(m) != len(t) {
		return false
	}
	for i, r := range m {
		switch {
		case r == '#' && unicode.IsDigit(t[i]), r == 'A' && unicode.IsLetter(t[i]), r == '*' && (unicode.IsDigit(t[i]) || unicode.IsLetter(t[i])):
		case r == '#', r == 'A', r == '*', r != t[i]:
			return false
		}
	}
	return true
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
		case unicode.IsControl(r):
			return -1
		}
		return r
	}, s)
	return strings.TrimSpace(s)
}

// validEmail accepts an addr-spec of RFC 5322 section 3.4.1 (and RFC 6531 for other scripts) as net/mail reads
// it, without display name or comments, at most 254 octets (RFC 3696 erratum 1690), with a dotted domain.
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
