package form

import (
	"encoding/json"
	"regexp"
	"slices"
	"strings"
	"sync"
	"time"
	"unicode"
	"unicode/utf8"

	"github.com/cockroachdb/apd/v3"
	"golang.org/x/text/unicode/norm"

	"amberseal/core/words/locale"
)

// fits holds an answer against the field's own limits and says what is wrong.
func (c Circumstances) fits(x Field, v Value) string {
	problem := c.limit(x, v)
	if problem == "" {
		problem = c.shape(x, v)
	}
	if problem != "" && x.Message != "" {
		return x.Message
	}
	return problem
}

func (c Circumstances) limit(x Field, v Value) string {
	least, most := c.bound(x, x.Min, 0), c.bound(x, x.Max, 24*time.Hour-time.Minute)
	if !least.Empty() && order(v, least) < 0 {
		return c.say(
			told(x.Kind, "This must be %s or more.", "This must be %s or later.", "This must be at %s or later."),
			c.shown(x, least),
		)
	}
	if !most.Empty() && order(v, most) > 0 {
		return c.say(
			told(x.Kind, "This must be %s or less.", "This must be %s or earlier.", "This must be at %s or earlier."),
			c.shown(x, most),
		)
	}
	if x.Kind.Numeric() && x.Step != "" {
		return c.step(x, v, least)
	}
	return ""
}

// told is how a bound is told of numbers, days and times.
func told(k Kind, number, day, hour string) string {
	switch k.Shape() {
	case Day, Moment:
		return day
	case Hour:
		return hour
	}
	return number
}

func (c Circumstances) step(x Field, v, least Value) string {
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
			return c.say("This must go in steps of %s.", c.locale().Number(by))
		}
	}
	return ""
}

// bound reads a least or greatest value; @today stands for the day of answering, of a correction that of the first arrival, from its
// beginning or until its end where a time is asked, too.
func (c Circumstances) bound(x Field, s string, ofDay time.Duration) Value {
	if s == "" {
		return Value{}
	}
	if s == "@today" || s == "@now" {
		at := c.Now
		if !c.Received.IsZero() {
			at = c.Received
		}
		y, m, d := at.Date()
		switch x.Kind {
		case Date:
			return date(Date, time.Date(y, m, d, 0, 0, 0, 0, time.UTC))
		case DateTime:
			if s == "@today" {
				return date(DateTime, time.Date(y, m, d, 0, 0, 0, 0, time.UTC).Add(ofDay))
			}
			return date(DateTime, time.Date(y, m, d, at.Hour(), at.Minute(), 0, 0, time.UTC))
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

// locale is that of the language in which messages are said.
func (c Circumstances) locale() locale.Locale {
	language, _, _ := strings.Cut(c.Language, "-")
	if !slices.Contains(Languages(), language) {
		return locale.For("en-GB") // so that no English sentence holds a day of another language
	}
	return locale.For(c.Language)
}

// shown is a bound of a field as a message says it.
func (c Circumstances) shown(x Field, v Value) string {
	l := c.locale()
	switch {
	case v.Number != nil && x.Kind == Money:
		return l.Money(v.Number, c.currency(x))
	case v.Number != nil:
		return l.Number(v.Number)
	case v.Kind == Date:
		return l.DateLong(v.Date)
	case v.Kind == DateTime:
		return l.DateLong(v.Date) + ", " + l.Time(v.Date)
	}
	return l.Time(time.Time{}.Add(v.Clock))
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
func (c Circumstances) shape(x Field, v Value) string {
	if v.Text == "" || x.Kind.Choosy() {
		return ""
	}
	n := utf8.RuneCountInString(v.Text)
	switch {
	case x.Shortest > 0 && n < x.Shortest:
		return c.say("This is too short: %d of at least %d characters.", n, x.Shortest)
	case x.Longest > 0 && n > x.Longest:
		return c.say("This is too long: %d of at most %d characters.", n, x.Longest)
	case x.Mask != "" && !fitsMask(x.Mask, v.Text):
		return c.say("This should look like %s, with a digit for # and a letter for A.", x.Mask)
	}
	if x.Pattern != "" {
		if p, err := pattern(x.Pattern); err == nil && !p.MatchString(v.Text) {
			return c.say("This does not have the form that is asked for.")
		}
	}
	return ""
}

func digit(r rune) bool { return r >= '0' && r <= '9' }

func fitsMask(mask, s string) bool {
	m, t := []rune(norm.NFC.String(mask)), []rune(norm.NFC.String(s))
	if len(m) != len(t) {
		return false
	}
	for i, r := range m {
		switch {
		case r == '#' && digit(t[i]), r == 'A' && unicode.IsLetter(t[i]), r == '*' && (digit(t[i]) || unicode.IsLetter(t[i])):
		case r == '#', r == 'A', r == '*', r != t[i]:
			return false
		}
	}
	return true
}
