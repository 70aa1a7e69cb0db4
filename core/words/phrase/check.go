package phrase

import (
	"regexp"
	"slices"
	"strings"

	"amberseal/core/ask/form"
	"amberseal/core/words/finding"
)

// Given is a placeholder for something the form does not ask.
type Given struct {
	Name  string `json:"name"`
	Label string `json:"label"`
	Date  bool   `json:"date,omitempty"`
}

// Givens lists them. @page and @pages mean something in a page's header and footer only, @row in what is repeated, @check in
// documents, @filed and @answers in messages.
func Givens() []Given {
	return []Given{
		{"@number", "number", false}, {"@received", "received on", true}, {"@today", "today", true},
		{"@year", "year received", false}, {"@intake", "intake", false}, {"@house", "house", false},
		{"@house_email", "house’s email", false}, {"@house_phone", "house’s telephone", false},
		{"@house_website", "house’s website", false}, {"@house_address", "house’s address", false},
		{"@revision", "revision", false}, {"@link", "link to read it again", false}, {"@correct", "link to correct it", false},
		{"@check", "check address", false}, {"@filed", "link to what was filed", false},
		{"@answers", "table of the answers", false},
		{"@page", "page", false}, {"@pages", "pages", false}, {"@row", "number of the row", false},
	}
}

// Scope is what words at a place may speak of.
type Scope struct {
	Form        form.Form
	Document    bool   // it is part of a document, which can be checked
	Correctable bool   // only who sent the answers reads it
	Message     bool   // it is part of a message
	Paged       bool   // pages are counted there
	Rows        string // the repeating group whose rows repeat the place, the innermost
}

// Check finds placeholders that have no field and formats that do not fit, each at
// place/placeholder NAME.
func (p Phrase) Check(place string, scope Scope) finding.List {
	var l finding.List
	for _, s := range p {
		l = append(l, CheckCondition(place, s.When, scope)...)
		if s.Colour != "" && !colour.MatchString(s.Colour) {
			l.Fault(place, "phrase.colour-unusable", "colour", s.Colour)
		}
		if s.Size != 0 && (s.Size < smallest || s.Size > largest) {
			l.Fault(place, "phrase.size")
		}
		l = append(l, scope.checkLink(place, s.Link)...)
		if s.Field == "" {
			continue
		}
		at := place + "/placeholder " + s.Field
		formats, ok := formatsOf(s.Field, scope.Form)
		switch {
		case !ok:
			l.Fault(at, "phrase.field-unknown", "field", s.Field)
		case !scope.Paged && (s.Field == "@page" || s.Field == "@pages"):
			l.Fault(at, "phrase.pages-counted-here")
		case !scope.Document && s.Field == "@check":
			l.Fault(at, "phrase.no-check-address-here")
		case !scope.Message && (s.Field == "@filed" || s.Field == "@answers"):
			l.Fault(at, "phrase.in-messages-only")
		case !scope.Correctable && s.Field == "@correct":
			l.Fault(at, "phrase.correction-for-others")
		case scope.Rows == "" && s.Field == "@row":
			l.Fault(at, "phrase.no-rows-here")
		case Counts(s.Format) && counted(s.Field, scope.Form):
		case !slices.Contains(formats, s.Format):
			l.Fault(at, "phrase.format-unfitting", "format", s.Format)
		}
	}
	return l
}

// Links are the placeholders that a link may lead to, instead of an address.
var Links = []string{"@link", "@correct", "@filed", "@check"}

func (scope Scope) checkLink(place, link string) finding.List {
	var l finding.List
	if slices.Contains(Links, link) {
		return Phrase{{Field: link}}.Check(place, scope)
	}
	for _, begins := range []string{"https://", "http://", "mailto:"} {
		if link == "" || strings.HasPrefix(link, begins) {
			return l
		}
	}
	l.Fault(place, "phrase.link-unusable", "link", link)
	return l
}

// counted reports whether a field is a number that words may count.
func counted(name string, f form.Form) bool {
	x, ok := f.Field(name)
	return ok && (x.Kind == form.WholeNumber || x.Kind == form.Decimal)
}

func formatsOf(name string, f form.Form) ([]string, bool) {
	for _, g := range Givens() {
		if g.Name == name {
			if g.Date {
				return slices.Concat([]string{"", "full", "short", "iso", "time"}, form.DayFormats), true
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
	return x.Kind.Formats(), true
}

// The heights of letters that a phrase may ask for, in points.
const smallest, largest = 4, 144

var colour = regexp.MustCompile(`^#[0-9A-Fa-f]{6}$`)

// Check finds the faults of every paragraph.
func (b Body) Check(place string, scope Scope) finding.List {
	var l finding.List
	for _, p := range b {
		l = append(l, p.Spans.Check(place, scope)...)
	}
	return l
}

// CheckCondition finds the faults of a formula that decides whether something is shown.
func CheckCondition(place, src string, scope Scope) finding.List {
	var l finding.List
	if src == "" {
		return l
	}
	for _, p := range scope.Form.CheckFormula(src, scope.Rows) {
		p.Place = place + "/when"
		l = append(l, p)
	}
	return l
}
