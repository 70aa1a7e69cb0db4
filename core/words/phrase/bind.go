package phrase

import (
	"bytes"
	"encoding/json"
	"maps"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/cockroachdb/apd/v3"

	"amberseal/core/ask/form"
	"amberseal/core/ask/formula"
	"amberseal/core/words/house"
	"amberseal/core/words/locale"
)

// Facts is all that placeholders can stand for.
type Facts struct {
	House    house.House
	Intake   string // the intake's name
	Form     form.Form
	Answers  form.Answers
	Number   string    // the submission's number
	Received time.Time // when the submission came in
	Made     time.Time // when this document or message is made
	Trial    bool      // it is a trial: documents carry a mark
	Revision int       // of the submission, 1 for the first
	Anew     bool      // a correction's days are worked out by its own day
	Link     string    // where the respondent reads the submission again, empty when there is no such place
	Correct  string    // where the respondent can correct it, empty when that is not allowed or not for who reads this
	Unbroken bool      // dates, times, numbers and telephone numbers get no-break spaces, for what is broken into lines
	Filed    string    // where what was filed first is opened, empty when there is no such place
	Language string    // that the respondent read the form in (BCP 47), empty for the house's
	Check    string    // where anybody can ask whether the document is genuine, empty when there is no such place

	each string     // the rows whose row these facts are about, the innermost
	row  int        // its number, from 1
	laid *form.Laid // all of those rows, for formulas
}

// Rows are the facts of each row of a repeating group: its answers are those of that row alone.
func (f Facts) Rows(key string) []Facts {
	rows := f.Answers[key].Rows
	now, received := f.Days()
	laid := f.Form.Lay(f.Answers, now, received)
	out := make([]Facts, len(rows))
	for i, row := range rows {
		one := f
		one.Answers = maps.Clone(f.Answers)
		one.Answers[key] = form.OnlyRow(row)
		one.each, one.row, one.laid = key, i+1, &laid
		out[i] = one
	}
	return out
}

// Run is bound text with one look.
type Run struct {
	Text string
	Style
	Counter string // "page" or "pages": filled when pages are known
	Unknown bool   // stands for a placeholder that has no field
	From    string // the placeholder that it stands for
}

// Locale is the house's.
func (f Facts) Locale() locale.Locale { return locale.For(f.House.Language) }

// Corrects reports whether these are the facts of a correction that a design does not speak of by itself, and should.
func (f Facts) Corrects(design any) bool {
	if f.Revision < 2 {
		return false
	}
	said, err := json.Marshal(design)
	return err == nil && !bytes.Contains(said, []byte(`"@revision"`))
}

// Text is a field's answer as people read it, in the field's usual format.
func (f Facts) Text(x form.Field) string {
	return f.Answer(x, f.Answers[x.Key], "")
}

// Condition reports whether a formula holds for the answers. An empty one always does,
// and so does one with a fault: what should perhaps be printed is better printed.
func (f Facts) Condition(src string) bool {
	if src == "" {
		return true
	}
	tree, err := formula.Parse(src)
	if err != nil {
		return true
	}
	v, err := tree.Evaluate(f.scope())
	return err != nil || v.Truth()
}

// Days are the moments that today() and received() stand for, by the house's clock. Today is that of making, but of a correction the day
// of the first arrival, by which its answers were worked out, unless its days are worked out anew.
func (f Facts) Days() (now, received time.Time) {
	now, received = f.Made.In(f.House.Location()), f.Received.In(f.House.Location())
	if f.Revision > 1 && !f.Anew {
		now = received
	}
	return now, received
}

// Shown tells by its path which fields show with the answers, as form.Form's Shown does: as they did when the answers came in, whenever
// this is made.
func (f Facts) Shown() func(path string) bool {
	now, received := f.Days()
	if f.Revision < 2 && !f.Received.IsZero() {
		now = received
	}
	return f.Form.Shown(f.Answers, now, received)
}

// scope is what formulas see: inside a row its own fields first.
func (f Facts) scope() formula.Scope {
	if f.each != "" {
		return f.laid.Row(f.each, f.row-1)
	}
	now, received := f.Days()
	return f.Form.Lay(f.Answers, now, received).Scope()
}

// Formula is the value of a formula as people read it, as money of the house with the format "money". A formula with a
// fault has none.
func (f Facts) Formula(src, format string) string {
	tree, err := formula.Parse(src)
	if err != nil {
		return ""
	}
	v, err := tree.Evaluate(f.scope())
	if err != nil || v.Empty() {
		return ""
	}
	if d, ok := v.Decimal(); ok {
		if format == "money" {
			return f.hold(f.Locale().Money(f.Locale().Rounded(d, f.House.Currency), f.House.Currency))
		}
		return f.hold(f.number(d, format))
	}
	if yes, ok := v.Bool(); ok {
		return f.yesNo(yes, Span{})
	}
	if day, ok := v.Day(); ok {
		return f.holdDay(f.day(day, format), format)
	}
	return v.String()
}

// Bind puts the facts in the place of placeholders. A placeholder without a field
// stands there in square brackets, marked unknown.
func (p Phrase) Bind(f Facts) []Run {
	runs := make([]Run, 0, len(p))
	for _, s := range p {
		if !f.Condition(s.When) {
			continue
		}
		r := Run{Text: s.Text, Style: s.Style}
		if s.Field != "" {
			r.From = s.Field
			bound, ok := f.placeholder(s)
			switch {
			case s.Field == "@page" || s.Field == "@pages":
				r.Text, r.Counter = "", s.Field[1:]
			case !ok:
				r.Text, r.Unknown = "["+s.Field+"]", true
			case bound == "":
				r.Text = s.Empty
			default:
				r.Text = bound
			}
		}
		if strings.HasPrefix(r.Link, "@") {
			if r.Link, _ = f.placeholder(Span{Field: r.Link}); r.Link == "" {
				continue // a link that leads nowhere is no link, and its words ask for a press
			}
		}
		if r.Text != "" || r.Counter != "" {
			runs = append(runs, r)
		}
	}
	return runs
}

// Plain is the bound phrase on one line, without looks, for subjects and file names.
func (p Phrase) Plain(f Facts) string {
	var b strings.Builder
	for _, r := range p.Bind(f) {
		b.WriteString(r.Text)
	}
	return strings.TrimSpace(strings.Map(oneLine, b.String()))
}

func oneLine(r rune) rune {
	if r < ' ' || r == 0x7F || r == '\u2028' || r == '\u2029' {
		return ' '
	}
	return r
}

// placeholder is the bound text of a placeholder, or false when it has no field.
func (f Facts) placeholder(s Span) (string, bool) {
	switch s.Field {
	case "@number":
		return f.Number, true
	case "@intake":
		return f.Intake, true
	case "@house":
		return f.House.Name, true
	case "@house_email":
		return f.House.Email, true
	case "@house_phone":
		return f.House.Phone, true
	case "@house_website":
		return f.House.Website, true
	case "@house_address":
		return strings.Join(f.House.Address, "\n"), true
	case "@received":
		return f.moment(f.Received, s.Format), true
	case "@today":
		return f.moment(f.Made, s.Format), true
	case "@year":
		return f.Received.In(f.House.Location()).Format("2006"), true
	case "@page", "@pages":
		return "", true
	case "@row":
		if f.row == 0 {
			return "", false
		}
		return strconv.Itoa(f.row), true
	case "@revision":
		return strconv.Itoa(max(f.Revision, 1)), true
	case "@link":
		return f.Link, true
	case "@correct":
		return f.Correct, true
	case "@check":
		return f.Check, true
	case "@filed":
		return f.Filed, true
	case "@answers":
		return "", true
	}
	if c, ok := f.Form.Constant(s.Field); ok {
		if d, _, err := apd.NewFromString(c.Value); err == nil && fraction.MatchString(c.Value) {
			return f.Locale().Number(d), true
		}
		return c.Value, true
	}
	x, ok := f.Form.Field(s.Field)
	if !ok || !x.Answered() {
		return "", false
	}
	if rows, ok := f.Form.Column(s.Field); ok {
		var all []string
		for _, row := range f.Answers[rows].Rows {
			if t := f.answer(x, row[x.Key], s); t != "" {
				all = append(all, t)
			}
		}
		return f.Locale().List(all), true
	}
	return f.answer(x, f.Answers[x.Key], s), true
}

// Answer is a value as people read it, in one of the field's formats.
func (f Facts) Answer(x form.Field, v form.Value, format string) string {
	return f.answer(x, v, Span{Format: format})
}

func (f Facts) answer(x form.Field, v form.Value, s Span) string {
	if v.Empty() {
		return ""
	}
	said := f.said(x, v, s)
	switch v.Shape() {
	case form.Day:
		return f.holdDay(said, s.Format)
	case form.Hour, form.Figure:
		return f.hold(said)
	}
	if v.Kind == form.Phone { // its groups stay together
		return f.hold(said)
	}
	return said
}

func (f Facts) said(x form.Field, v form.Value, s Span) string {
	format := s.Format
	switch v.Shape() {
	case form.Day:
		return f.day(v.Date, format)
	case form.Moment:
		if format != "" {
			return f.day(v.Date, format)
		}
		return f.hold(f.Locale().DateLong(v.Date)) + ", " + f.hold(f.Locale().Time(v.Date))
	case form.Hour:
		return f.Locale().Time(time.Time{}.Add(v.Clock))
	case form.Figure:
		return f.figure(x, v, format)
	case form.Truth:
		return f.yesNo(v.Yes, s)
	}
	return f.cased(f.words(x, v, format), format)
}

// figure writes a number, an amount or a rating.
func (f Facts) figure(x form.Field, v form.Value, format string) string {
	switch v.Kind {
	case form.Rating:
		return f.Locale().Of(int(mustInt(v)), x.HighestRating())
	case form.Money:
		if format == "plain" {
			return f.Locale().Fixed(v.Number, f.Locale().Digits(f.currency(x)))
		}
		return f.Locale().Money(v.Number, f.currency(x))
	}
	if Counts(format) {
		return affixed(x, f.Locale().Number(v.Number)+" "+f.Locale().Counted(v.Number, strings.Split(format, "/")))
	}
	return affixed(x, f.number(v.Number, format))
}

// Counts reports whether a format is the words that count a number, one for each plural form of the language, parted by strokes:
// player/players, gracz/gracze/graczy.
func Counts(format string) bool { return strings.Contains(format, "/") }

func (f Facts) number(d *apd.Decimal, format string) string {
	switch format {
	case "hundredths":
		return f.Locale().Fixed(d, 2)
	case "ungrouped":
		return f.Locale().Ungrouped(d)
	}
	return f.Locale().Number(d)
}

func (f Facts) yesNo(yes bool, s Span) string {
	switch {
	case yes && s.Yes != "":
		return s.Yes
	case yes:
		return f.Locale().Yes()
	case s.No != "":
		return s.No
	}
	return f.Locale().No()
}

func mustInt(v form.Value) int64 {
	n, err := v.Number.Int64()
	if err != nil {
		return 0
	}
	return n
}

func (f Facts) currency(x form.Field) string {
	if x.Currency != "" {
		return x.Currency
	}
	return f.House.Currency
}

// affixed puts what stands before and after a field's control around its number.
func affixed(x form.Field, s string) string {
	if x.Prefix != "" {
		s = x.Prefix + " " + s
	}
	if x.Suffix != "" {
		s += " " + x.Suffix
	}
	return s
}

func (f Facts) words(x form.Field, v form.Value, format string) string {
	switch v.Shape() {
	case form.One:
		return x.ChoiceLabel(v.Text)
	case form.Several:
		labels := make([]string, len(v.List))
		for i, c := range v.List {
			labels[i] = x.ChoiceLabel(c)
		}
		switch format {
		case "commas":
			return strings.Join(labels, ", ")
		case "lines":
			return strings.Join(labels, "\n")
		}
		return f.Locale().List(labels)
	case form.Words:
		if v.Kind == form.Phone {
			return locale.Phone(v.Text, f.House.CountryOrUsual())
		}
	case form.Parts:
		if v.Kind == form.Address {
			country := x.Country
			if country == "" {
				country = f.House.CountryOrUsual()
			}
			if slices.Contains(form.AddressParts, format) {
				return v.Parts[format]
			}
			return address(v.Parts, country, format)
		}
		if format == "given" || format == "family" {
			return v.Parts[format]
		}
		return form.JoinParts(v.Parts, form.NameParts, " ")
	case form.Files:
		names := make([]string, len(v.Files))
		for i, file := range v.Files {
			names[i] = file.Name
		}
		return strings.Join(names, ", ")
	case form.Drawn:
		if v.Sign.Typed != "" {
			return v.Sign.Typed
		}
		return f.Locale().Signed()
	case form.Repeated:
		return f.rows(x, v)
	}
	return v.Text
}

// Where countries write the postcode: after the town and its region, or on a line of its own below them; all others write it
// before the town. After the Universal Postal Union's S42 and its members' pages; from memory.
const (
	postcodeAfter = "US CA AU NZ IN ID PK BD NP LK MM SG TH TW KH"
	postcodeBelow = "GB IE IM JE GG ZA KE NG GH MT HK FK GI"
)

// address sets the parts in the lines of a letter, in the order of a country.
func address(parts map[string]string, country, format string) string {
	sep := "\n"
	if format == "line" {
		sep = ", "
	}
	join := func(parts ...string) string {
		return strings.Join(slices.DeleteFunc(parts, func(s string) bool { return s == "" }), " ")
	}
	town, region := join(parts["postcode"], parts["city"]), parts["region"]
	switch {
	case country != "" && strings.Contains(postcodeAfter, country):
		town = parts["city"]
		if region != "" && town != "" {
			town += ","
		}
		town, region = join(town, region, parts["postcode"]), ""
	case country != "" && strings.Contains(postcodeBelow, country):
		town, region = join(parts["city"]), join(region)
		lines := slices.DeleteFunc([]string{town, region, parts["postcode"]}, func(s string) bool { return s == "" })
		town, region = strings.Join(lines, sep), ""
	}
	return form.JoinParts(
		map[string]string{"street": parts["street"], "extra": parts["extra"], "city": town, "region": region, "country": parts["country"]},
		form.AddressParts, sep,
	)
}

// rows writes each row on a line of its own.
func (f Facts) rows(x form.Field, v form.Value) string {
	var lines []string
	for _, row := range v.Rows {
		var cells []string
		for _, column := range x.Fields {
			if s := f.Answer(column, row[column.Key], ""); s != "" {
				cells = append(cells, s)
			}
		}
		lines = append(lines, strings.Join(cells, " · "))
	}
	return strings.Join(lines, "\n")
}
