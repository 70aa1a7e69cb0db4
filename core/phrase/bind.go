package phrase

import (
	"strings"
	"time"

	"amberseal/core/form"
	"amberseal/core/formula"
	"amberseal/core/house"
	"amberseal/core/locale"
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
}

// Run is bound text with one look.
type Run struct {
	Text                    string
	Bold, Italic, Underline bool
	Link                    string
	Counter                 string // "page" or "pages": filled when pages are known
	Unknown                 bool   // stands for a placeholder that has no field
}

// Locale is the house's.
func (f Facts) Locale() locale.Locale { return locale.For(f.House.Language) }

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
	v, err := tree.Evaluate(f.Form.Scope(f.Answers, f.Made.In(f.House.Location())))
	return err != nil || v.Truth()
}

// Bind puts the facts in the place of placeholders. A placeholder without a field
// stands there in square brackets, marked unknown.
func (p Phrase) Bind(f Facts) []Run {
	runs := make([]Run, 0, len(p))
	for _, s := range p {
		r := Run{Text: s.Text, Bold: s.Bold, Italic: s.Italic, Underline: s.Underline, Link: s.Link}
		if s.Field != "" {
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
	case "@received":
		return f.moment(f.Received, s.Format), true
	case "@today":
		return f.moment(f.Made, s.Format), true
	case "@year":
		return f.Received.In(f.House.Location()).Format("2006"), true
	case "@page", "@pages":
		return "", true
	}
	if c, ok := f.Form.Constant(s.Field); ok {
		return c.Value, true
	}
	x, ok := f.Form.Field(s.Field)
	if !ok || !x.Answered() {
		return "", false
	}
	if rows, ok := f.Form.Column(s.Field); ok {
		var all []string
		for _, row := range f.Answers[rows].Rows {
			if t := f.Answer(x, row[x.Key], s.Format); t != "" {
				all = append(all, t)
			}
		}
		return f.Locale().List(all), true
	}
	return f.Answer(x, f.Answers[x.Key], s.Format), true
}

func (f Facts) moment(t time.Time, format string) string {
	if t.IsZero() {
		return ""
	}
	return f.day(t.In(f.House.Location()), format)
}

func (f Facts) day(t time.Time, format string) string {
	switch format {
	case "short":
		return f.Locale().DateShort(t)
	case "iso":
		return t.Format(time.DateOnly)
	case "time":
		return f.Locale().Time(t)
	}
	return f.Locale().DateLong(t)
}

// Answer is a value as people read it, in one of the field's formats.
func (f Facts) Answer(x form.Field, v form.Value, format string) string {
	if v.Empty() {
		return ""
	}
	switch {
	case v.Kind == form.Date:
		return f.day(v.Date, format)
	case v.Kind == form.DateTime && format != "":
		return f.day(v.Date, format)
	case v.Kind == form.DateTime:
		return f.Locale().DateLong(v.Date) + ", " + f.Locale().Time(v.Date)
	case v.Kind == form.Time:
		return f.Locale().Time(time.Time{}.Add(v.Clock))
	case v.Kind == form.Money && format != "plain":
		return f.Locale().Money(v.Number, f.currency(x))
	case v.Kind == form.Rating:
		return f.Locale().Of(int(mustInt(v)), x.HighestRating())
	case v.Kind.Numeric():
		return affixed(x, f.Locale().Number(v.Number))
	}
	return cased(f.words(x, v, format), format)
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
	switch v.Kind {
	case form.YesNo, form.Consent:
		if v.Yes {
			return f.Locale().Yes()
		}
		return f.Locale().No()
	case form.OneOf:
		return x.ChoiceLabel(v.Text)
	case form.SeveralOf:
		labels := make([]string, len(v.List))
		for i, c := range v.List {
			labels[i] = x.ChoiceLabel(c)
		}
		return f.Locale().List(labels)
	case form.Phone:
		return f.Locale().Phone(v.Text)
	case form.Name:
		if format == "given" || format == "family" {
			return v.Parts[format]
		}
		return form.JoinParts(v.Parts, form.NameParts, " ")
	case form.Address:
		return address(v.Parts, format)
	case form.Upload, form.Photo:
		names := make([]string, len(v.Files))
		for i, file := range v.Files {
			names[i] = file.Name
		}
		return strings.Join(names, ", ")
	case form.Signature:
		if v.Sign.Typed != "" {
			return v.Sign.Typed
		}
		return f.Locale().Signed()
	case form.Rows:
		return f.rows(x, v)
	}
	return v.Text
}

// address sets the parts in the lines of a letter: postcode and town share one.
func address(parts map[string]string, format string) string {
	sep := "\n"
	if format == "line" {
		sep = ", "
	}
	town := strings.TrimSpace(parts["postcode"] + " " + parts["city"])
	return form.JoinParts(map[string]string{"street": parts["street"], "extra": parts["extra"], "city": town, "region": parts["region"], "country": parts["country"]}, form.AddressParts, sep)
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

func cased(s, format string) string {
	switch format {
	case "upper":
		return strings.ToUpper(s)
	case "lower":
		return strings.ToLower(s)
	}
	return s
}
