package phrase

import (
	"slices"
	"strings"
	"time"

	"amberseal/core/ask/form"
)

func (f Facts) moment(t time.Time, format string) string {
	if t.IsZero() {
		return ""
	}
	return f.holdDay(f.day(t.In(f.House.Location()), format), format)
}

// digits makes a layout of a day’s format in digits.
var digits = strings.NewReplacer("dd", "02", "mm", "01", "yyyy", "2006", "yy", "06")

func (f Facts) day(t time.Time, format string) string {
	switch format {
	case "full":
		return f.Locale().DateFull(t)
	case "short":
		return f.Locale().DateShort(t)
	case "iso":
		return t.Format(time.DateOnly)
	case "time":
		return f.Locale().Time(t)
	}
	if slices.Contains(form.DayFormats, format) {
		return t.Format(digits.Replace(format))
	}
	return f.Locale().DateLong(t)
}

// hold keeps words on one line of a document.
func (f Facts) hold(s string) string {
	if !f.Unbroken {
		return s
	}
	return strings.ReplaceAll(s, " ", "\u00A0")
}

// holdDay keeps a day on one line, but for the day of the week before it.
func (f Facts) holdDay(s, format string) string {
	s = f.hold(s)
	if format == "full" {
		s = strings.Replace(s, "\u00A0", " ", 1)
	}
	return s
}
