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
	return f.answer(x, f.Answers[x.Key], "")
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
	v, err := tree.Evaluate(func(name string) formula.Value { return f.value(name) })
	return err != nil || v.Truth()
}

func (f Facts) value(name string) formula.Value {
	v := f.Answers[name]
	switch {
	case v.Empty():
		return formula.Value{}
	case v.Kind.Numeric():
		return formula.Number(v.Number)
	case v.Kind == form.YesNo:
		return formula.Bool(v.Yes)
	case v.Kind == form.Date:
		return formula.Date(v.Date)
	case v.Kind == form.SeveralOf:
		return formula.List(v.List)
	}
	return formula.Text(v.Text)
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
	x, ok := f.Form.Field(s.Field)
	if !ok || !x.Kind.Asks() {
		return "", false
	}
	return f.answer(x, f.Answers[x.Key], s.Format), true
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

func (f Facts) answer(x form.Field, v form.Value, format string) string {
	if v.Empty() {
		return ""
	}
	var s string
	switch {
	case v.Kind == form.Date:
		return f.day(v.Date, format)
	case v.Kind == form.Money && format != "plain":
		return f.Locale().Money(v.Number, f.House.Currency)
	case v.Kind.Numeric():
		return f.Locale().Number(v.Number)
	case v.Kind == form.YesNo && v.Yes:
		s = f.Locale().Yes()
	case v.Kind == form.YesNo:
		s = f.Locale().No()
	case v.Kind == form.OneOf:
		s = x.ChoiceLabel(v.Text)
	case v.Kind == form.SeveralOf:
		labels := make([]string, len(v.List))
		for i, c := range v.List {
			labels[i] = x.ChoiceLabel(c)
		}
		s = f.Locale().List(labels)
	default:
		s = v.Text
	}
	switch format {
	case "upper":
		return strings.ToUpper(s)
	case "lower":
		return strings.ToLower(s)
	}
	return s
}
