package phrase

import (
	"fmt"
	"slices"
	"strings"

	"amberseal/core/finding"
	"amberseal/core/form"
)

// Given is a placeholder for something the form does not ask.
type Given struct {
	Name  string `json:"name"`
	Label string `json:"label"`
	Date  bool   `json:"date,omitempty"`
}

// Givens lists them. @page and @pages mean something in a page's footer only.
func Givens() []Given {
	return []Given{
		{"@number", "number", false}, {"@received", "received on", true}, {"@today", "today", true},
		{"@year", "year received", false}, {"@intake", "intake", false}, {"@house", "house", false}, {"@house_email", "house’s email", false},
		{"@page", "page", false}, {"@pages", "pages", false},
	}
}

// Formats lists the formats a field's kind can take; the first, "", is the usual one.
func Formats(k form.Kind) []string {
	switch {
	case k == form.Date:
		return []string{"", "short", "iso"}
	case k == form.DateTime:
		return []string{"", "short", "iso", "time"}
	case k == form.Name:
		return []string{"", "given", "family", "upper", "lower"}
	case k == form.Address:
		return []string{"", "line", "upper", "lower"}
	case k == form.Time || k.Filed() || k == form.Signature || k == form.Rows:
		return []string{""}
	case k == form.Money:
		return []string{"", "plain"}
	case k.Numeric() || !k.Asks():
		return []string{""}
	}
	return []string{"", "upper", "lower"}
}

// Check finds placeholders that have no field and formats that do not fit, each at
// place/placeholder NAME. Counters of pages are allowed where paged says so.
func (p Phrase) Check(place string, f form.Form, paged bool) finding.List {
	var l finding.List
	for _, s := range p {
		if s.Link != "" && !strings.HasPrefix(s.Link, "https://") && !strings.HasPrefix(s.Link, "http://") && !strings.HasPrefix(s.Link, "mailto:") {
			l.Fault(place, "The link “"+s.Link+"” cannot be followed.", "Begin it with https:// or mailto:.")
		}
		if s.Field == "" {
			continue
		}
		at := place + "/placeholder " + s.Field
		formats, ok := formatsOf(s.Field, f)
		switch {
		case !ok:
			l.Fault(at, fmt.Sprintf("The placeholder “%s” has no field.", s.Field), "Choose a field for it, or ask for it in the form.")
		case !paged && (s.Field == "@page" || s.Field == "@pages"):
			l.Fault(at, "Pages can only be counted in a footer.", "Remove the placeholder.")
		case !slices.Contains(formats, s.Format):
			l.Fault(at, fmt.Sprintf("The format “%s” does not fit this field.", s.Format), "Choose another format.")
		}
	}
	return l
}

func formatsOf(name string, f form.Form) ([]string, bool) {
	for _, g := range Givens() {
		if g.Name == name {
			if g.Date {
				return []string{"", "short", "iso", "time"}, true
			}
			return []string{""}, true
		}
	}
	if _, ok := f.Constant(name); ok {
		return []string{""}, true
	}
	x, ok := f.Field(name)
	if !ok || !x.Answered() {
		return nil, false
	}
	return Formats(x.Kind), true
}

// Check finds the faults of every paragraph.
func (b Body) Check(place string, f form.Form) finding.List {
	var l finding.List
	for _, p := range b {
		l = append(l, p.Spans.Check(place, f, false)...)
	}
	return l
}

// CheckCondition finds the faults of a formula that decides whether something is shown.
func CheckCondition(place, src string, f form.Form) finding.List {
	var l finding.List
	if src == "" {
		return l
	}
	for _, p := range f.CheckFormula(src, "") {
		p.Place = place + "/when"
		l = append(l, p)
	}
	return l
}
