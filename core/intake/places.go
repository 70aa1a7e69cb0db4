package intake

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"amberseal/core/form"
	"amberseal/core/formula"
	"amberseal/core/paper"
	"amberseal/core/phrase"
)

// Use is how a place uses a field.
type Use string

// The uses, in the order of a field's life.
const (
	Asked      Use = "asked"
	Calculates Use = "calculated" // in a formula that calculates another field
	Decides    Use = "condition"
	Prints     Use = "document"
	Mails      Use = "notice"
	Names      Use = "name" // in a title, file name or path
)

// Place is where a design refers to a field. Its path is that of findings.
type Place struct {
	Use   Use    `json:"use"`
	Path  string `json:"path"`
	Words string `json:"words"` // the place as people call it
	Fault bool   `json:"fault,omitempty"`
}

// Whereabouts is a field, or a name that has none, with all places that use it.
type Whereabouts struct {
	Name   string  `json:"name"`
	Label  string  `json:"label"`
	Fault  bool    `json:"fault,omitempty"` // something refers to it and it is not there, or it is printed nowhere
	Places []Place `json:"places"`
}

// spot is a place in the design that can be rewritten.
type spot struct {
	Place
	phrase  *phrase.Phrase
	formula *string
	rows    string // the rows in whose scope the formula stands
	list    *[]string
	all     bool // a table of all answers
}

// spots visits everything in the design that may refer to fields.
func (d *Design) spots(visit func(s spot)) {
	when := func(path, words string, src *string, rows string) {
		if *src != "" {
			visit(spot{Place: Place{Use: Decides, Path: path + "/when", Words: words + ", condition"}, formula: src, rows: rows})
		}
	}
	var fields func(list []form.Field, rows string)
	fields = func(list []form.Field, rows string) {
		for i := range list {
			x := &list[i]
			name := x.Key
			if rows != "" {
				name = rows + "." + x.Key
			}
			at, words := "form/fields/"+name, "“"+x.Label+"”"
			when(at, words, &x.When, rows)
			if x.RequiredWhen != "" {
				visit(spot{Place: Place{Use: Decides, Path: at + "/requiredWhen", Words: words + ", required when"}, formula: &x.RequiredWhen, rows: rows})
			}
			if x.Formula != "" {
				visit(spot{Place: Place{Use: Calculates, Path: at + "/formula", Words: words + ", formula"}, formula: &x.Formula, rows: rows})
			}
			fields(x.Fields, name)
		}
	}
	fields(d.Form.Fields, "")
	words := func(use Use, path, said string, p *phrase.Phrase) { spotPhrase(use, path, said, p, "", visit) }
	body := func(use Use, path, said string, b phrase.Body) { spotBody(use, path, said, b, "", visit) }
	for i := range d.Documents {
		x := &d.Documents[i]
		at := "documents/" + x.Key
		when(at, x.Name, &x.When, "")
		words(Names, at+"/title", x.Name+", title", &x.Title)
		words(Names, at+"/fileName", x.Name+", file name", &x.FileName)
		words(Names, at+"/subject", x.Name+", subject", &x.Subject)
		words(Names, at+"/keywords", x.Name+", keywords", &x.Keywords)
		words(Names, at+"/author", x.Name+", author", &x.Author)
		for _, names := range []*[]string{&x.Append, &x.Attach} {
			visit(spot{Place: Place{Use: Prints, Path: at, Words: x.Name + ", files"}, list: names})
		}
		words(Prints, at+"/header", x.Name+", header", &x.Header)
		words(Prints, at+"/footer", x.Name+", footer", &x.Footer)
		if x.First != nil {
			words(Prints, at+"/first", x.Name+", header of the first page", &x.First.Header)
			words(Prints, at+"/first", x.Name+", footer of the first page", &x.First.Footer)
		}
		if x.Protect != nil {
			words(Names, at+"/protect", x.Name+", password", &x.Protect.Password)
		}
		number := 0
		x.Walk(func(b *paper.Block, rows string) bool {
			number++
			spotBlock(b, at+"/blocks/"+b.ID, fmt.Sprintf("%s, line %d", x.Name, number), rows, visit)
			return true
		})
	}
	for i := range d.Notices {
		x := &d.Notices[i]
		at := "notices/" + x.Key
		when(at, x.Name, &x.When, "")
		words(Mails, at+"/to", x.Name+", to", &x.To)
		words(Mails, at+"/subject", x.Name+", subject", &x.Subject)
		body(Mails, at+"/message", x.Name+", message", x.Message)
	}
	for i := range d.Filings {
		x := &d.Filings[i]
		at := "filings/" + x.Key
		when(at, x.Name, &x.When, "")
		words(Names, at+"/path", x.Name+", path", &x.Path)
	}
	body(Mails, "opening/thanks", "Opening, words of thanks", d.Opening.Thanks)
	if d.Opening.OnePer != "" {
		one := []string{d.Opening.OnePer}
		visit(spot{Place: Place{Use: Decides, Path: "opening/onePer", Words: "Opening, one submission for each"}, list: &one})
		d.Opening.OnePer = strings.Join(one, "")
	}
}

// names lists the full names a spot refers to, each once.
func (s spot) names(f form.Form) []string {
	var out []string
	add := func(name string) {
		if !slices.Contains(out, name) {
			out = append(out, name)
		}
	}
	switch {
	case s.phrase != nil:
		for _, span := range *s.phrase {
			if span.Field != "" && !strings.HasPrefix(span.Field, "@") {
				add(span.Field)
			}
		}
	case s.formula != nil:
		tree, err := formula.Parse(*s.formula)
		if err != nil {
			return nil
		}
		for _, r := range tree.References() {
			full, _ := f.Resolve(r.Name, s.rows)
			add(full)
		}
	case s.list != nil:
		for _, name := range *s.list {
			add(name)
		}
	}
	return out
}

// Whereabouts lists every field with the places that use it, those with faults first.
func (d Design) Whereabouts() []Whereabouts {
	d = d.clone()
	out := []Whereabouts{}
	index := map[string]int{}
	add := func(name, label string) int {
		index[name] = len(out)
		out = append(out, Whereabouts{Name: name, Label: label, Places: []Place{}})
		return len(out) - 1
	}
	d.Form.Each(func(name string, x form.Field) {
		if x.Answered() {
			i := add(name, x.Label)
			out[i].Places = append(out[i].Places, Place{Use: Asked, Path: "form/fields/" + name, Words: "Form"})
		}
	})
	for _, c := range d.Form.Constants {
		add(c.Key, c.Label)
	}
	d.spots(func(s spot) {
		if s.all {
			for name, i := range index {
				if x, ok := d.Form.Field(name); ok && x.Kind != form.Hidden {
					out[i].Places = append(out[i].Places, s.Place)
				}
			}
			return
		}
		for _, name := range s.names(d.Form) {
			i, ok := index[name]
			if !ok {
				if s.formula != nil && d.isChoice(name) || headings(d.Form, name) {
					continue
				}
				i = add(name, name)
				out[i].Fault = true
			}
			place := s.Place
			place.Fault = out[i].Fault
			out[i].Places = append(out[i].Places, place)
		}
	})
	slices.SortStableFunc(out, func(a, b Whereabouts) int {
		return strings.Compare(strconv.FormatBool(b.Fault), strconv.FormatBool(a.Fault))
	})
	return out
}

// isChoice reports whether some field has a choice of this value: a bare word of a condition.
func (d Design) isChoice(name string) bool {
	found := false
	d.Form.Each(func(_ string, x form.Field) {
		found = found || slices.ContainsFunc(x.Choices, func(c form.Choice) bool { return c.Value == name })
	})
	return found
}

func headings(f form.Form, name string) bool {
	x, ok := f.Field(name)
	return ok && !x.Answered()
}
