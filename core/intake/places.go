package intake

import (
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	"amberseal/core/ask/form"
	"amberseal/core/ask/formula"
	"amberseal/core/enclosure"
	"amberseal/core/filing"
	"amberseal/core/print/paper"
	"amberseal/core/words/phrase"
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

// spot is a place in the design with what stands there: words, a formula, or a list of names; one of them.
type spot struct {
	Place
	phrase  phrase.Phrase
	formula string
	rows    string // the rows in whose scope the formula stands
	list    []string
	all     bool // a table of all answers
}

// inspect shows every place of the design that may refer to fields. Nothing is changed.
func (d Design) inspect(see func(s spot)) {
	w := walker{at: func(s spot) spot { see(s); return s }}
	w.design(&d)
}

// rewrite is the design with every such place as a function gives it back.
func (d Design) rewrite(to func(s spot) spot) Design {
	out := d.clone()
	w := walker{at: to, writes: true}
	w.design(&out)
	return out
}

// walker goes over a design. It writes back what it gets only where it writes.
type walker struct {
	at     func(s spot) spot
	writes bool
}

// formula visits a formula, if there is one.
func (w walker) formula(use Use, path, words string, src *string, rows string) {
	if *src == "" {
		return
	}
	if s := w.at(spot{Place: Place{Use: use, Path: path, Words: words}, formula: *src, rows: rows}); w.writes {
		*src = s.formula
	}
}

func (w walker) when(path, words string, src *string, rows string) {
	w.formula(Decides, path+"/when", words+", condition", src, rows)
}

// list visits a list of names.
func (w walker) list(place Place, names *[]string, all bool) {
	if s := w.at(spot{Place: place, list: *names, all: all}); w.writes {
		*names = s.list
	}
}

// name visits a single name; where it is taken out it becomes empty.
func (w walker) name(place Place, name *string) (kept bool) {
	if *name == "" {
		return true
	}
	list := []string{*name}
	w.list(place, &list, false)
	if w.writes {
		*name = strings.Join(list, "")
	}
	return len(list) > 0
}

// enclosures visits the fields whose files are carried; those that are taken out are carried no more.
func (w walker) enclosures(use Use, path, words string, list *[]enclosure.Enclosure) {
	kept := (*list)[:0]
	for _, e := range *list {
		if w.name(Place{Use: use, Path: path, Words: words}, &e.Files) || !w.writes {
			kept = append(kept, e)
		}
	}
	if w.writes {
		*list = kept
	}
}

// columns visits the fields that have a column; those that are taken out have none any more.
func (w walker) columns(place Place, all *[]filing.Column) {
	kept := (*all)[:0]
	for _, c := range *all {
		if strings.HasPrefix(c.Of, "@") || w.name(place, &c.Of) || !w.writes {
			kept = append(kept, c)
		}
	}
	if w.writes {
		*all = kept
	}
}

// phrase visits words and the conditions of parts of them; rows is the group in whose rows they stand.
func (w walker) phrase(use Use, path, said string, p *phrase.Phrase, rows string) {
	for i := range *p {
		w.when(path, said, &(*p)[i].When, rows)
	}
	if s := w.at(spot{Place: Place{Use: use, Path: path, Words: said}, phrase: *p}); w.writes {
		*p = s.phrase
	}
}

func (w walker) body(use Use, path, said string, b phrase.Body, rows string) {
	for i := range b {
		w.phrase(use, path, said, &b[i].Spans, rows)
	}
}

func (w walker) fields(list []form.Field, rows string) {
	for i := range list {
		x := &list[i]
		name := x.Key
		if rows != "" {
			name = rows + "." + x.Key
		}
		at, words := "form/fields/"+name, "“"+x.Label+"”"
		w.when(at, words, &x.When, rows)
		w.formula(Decides, at+"/requiredWhen", words+", required when", &x.RequiredWhen, rows)
		w.formula(Calculates, at+"/formula", words+", formula", &x.Formula, rows)
		w.fields(x.Fields, name)
	}
}

func (w walker) document(x *paper.Document) {
	at := "documents/" + x.Key
	w.when(at, x.Name, &x.When, "")
	for _, p := range []struct {
		name string
		of   *phrase.Phrase
	}{{"title", &x.Title}, {"fileName", &x.FileName}, {"subject", &x.Subject}, {"keywords", &x.Keywords}, {"author", &x.Author}} {
		w.phrase(Names, at+"/"+p.name, x.Name+", "+spaced(p.name), p.of, "")
	}
	for _, names := range []*[]string{&x.Append, &x.Attach} {
		w.list(Place{Use: Prints, Path: at, Words: x.Name + ", files"}, names, false)
	}
	w.phrase(Prints, at+"/header", x.Name+", header", &x.Header, "")
	w.phrase(Prints, at+"/footer", x.Name+", footer", &x.Footer, "")
	if x.First != nil {
		w.phrase(Prints, at+"/first", x.Name+", header of the first page", &x.First.Header, "")
		w.phrase(Prints, at+"/first", x.Name+", footer of the first page", &x.First.Footer, "")
	}
	if x.Protect != nil {
		w.phrase(Names, at+"/protect", x.Name+", password", &x.Protect.Password, "")
	}
	for i := range x.Signers {
		w.phrase(Names, at+"/signers", x.Name+", signer", &x.Signers[i].Name, "")
		w.phrase(Names, at+"/signers", x.Name+", signer’s address", &x.Signers[i].Email, "")
	}
	for _, name := range slices.Sorted(maps.Keys(x.Matches)) {
		m := x.Matches[name]
		words := fmt.Sprintf("%s, “%s”", x.Name, name)
		w.phrase(Prints, at+"/matches/"+name, words, &m.Words, "")
		w.formula(Prints, at+"/matches/"+name, words, &m.Formula, "")
		if w.writes {
			x.Matches[name] = m
		}
	}
	for i := range x.Marks {
		m := &x.Marks[i]
		path, words := at+"/marks/"+m.ID, fmt.Sprintf("%s, page %d", x.Name, m.Page)
		w.phrase(Prints, path+"/text", words, &m.Text, m.Each)
		w.when(path+"/when", words, &m.When, m.Each)
		if m.Field != "" {
			w.name(Place{Use: Prints, Path: path + "/field", Words: words}, &m.Field)
		}
		if m.Each != "" {
			w.name(Place{Use: Prints, Path: path + "/each", Words: words + ", rows"}, &m.Each)
		}
	}
	number := 0
	x.Walk(func(b *paper.Block, rows string) bool {
		number++
		w.block(b, at+"/blocks/"+b.ID, fmt.Sprintf("%s, line %d", x.Name, number), rows)
		return true
	})
}

func (w walker) design(d *Design) {
	w.fields(d.Form.Fields, "")
	for i := range d.Documents {
		w.document(&d.Documents[i])
	}
	for i := range d.Notices {
		x := &d.Notices[i]
		at := "notices/" + x.Key
		w.when(at, x.Name, &x.When, "")
		for _, p := range []struct {
			name string
			of   *phrase.Phrase
		}{{"to", &x.To}, {"copy", &x.Copy}, {"blindCopy", &x.BlindCopy}, {"replyTo", &x.ReplyTo}, {"senderName", &x.SenderName}} {
			w.phrase(Mails, at+"/"+p.name, x.Name+", "+spaced(p.name), p.of, "")
		}
		w.enclosures(Mails, at+"/attach", x.Name+", attached", &x.Attach)
		if x.Says("@answers") {
			w.list(Place{Use: Mails, Path: at + "/answers", Words: x.Name + ", table of answers"}, &x.Answers, len(x.Answers) == 0)
		}
		if x.Route != nil && !w.name(Place{Use: Decides, Path: at + "/route", Words: x.Name + ", address by an answer"}, &x.Route.Field) &&
			w.writes {
			x.Route = nil
		}
		if x.Delay != nil && !w.name(Place{Use: Decides, Path: at + "/delay", Words: x.Name + ", sent later"}, &x.Delay.Field) && w.writes {
			x.Delay = nil
		}
		w.phrase(Mails, at+"/subject", x.Name+", subject", &x.Subject, "")
		w.body(Mails, at+"/message", x.Name+", message", x.Message, "")
		for _, code := range slices.Sorted(maps.Keys(x.Translations)) {
			t, path, words := x.Translations[code], at+"/translations/"+code, x.Name+" in "+languageName(code)
			w.phrase(Mails, path+"/subject", words+", subject", &t.Subject, "")
			w.body(Mails, path+"/message", words+", message", t.Message, "")
			if w.writes {
				x.Translations[code] = t
			}
		}
	}
	for i := range d.Filings {
		x := &d.Filings[i]
		at := "filings/" + x.Key
		w.when(at, x.Name, &x.When, "")
		w.phrase(Names, at+"/path", x.Name+", path", &x.Path, "")
		w.enclosures(Prints, at+"/what", x.Name+", files", &x.What)
	}
	for i := range d.Registers {
		x := &d.Registers[i]
		at := "registers/" + x.Key
		w.when(at, x.Name, &x.When, "")
		w.columns(Place{Use: Prints, Path: at + "/columns", Words: x.Name + ", columns"}, &x.Columns)
	}
	w.body(Mails, "opening/thanks", "Opening, words of thanks", d.Opening.Thanks, "")
	w.name(Place{Use: Decides, Path: "opening/onePer", Words: "Opening, one submission for each"}, &d.Opening.OnePer)
	if d.Retention != nil {
		w.name(Place{Use: Decides, Path: "retention", Words: "Retention"}, &d.Retention.Field)
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
		for _, span := range s.phrase {
			if span.Field != "" && !strings.HasPrefix(span.Field, "@") {
				add(span.Field)
			}
		}
	case s.formula != "":
		tree, err := formula.Parse(s.formula)
		if err != nil {
			return nil
		}
		for _, r := range tree.References() {
			full, _ := f.Resolve(r.Name, s.rows)
			add(full)
		}
	case s.list != nil:
		for _, name := range s.list {
			add(name)
		}
	}
	return out
}

// Whereabouts lists every field with the places that use it, those with faults first.
func (d Design) Whereabouts() []Whereabouts {
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
	d.inspect(func(s spot) {
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
				if s.formula != "" && d.isChoice(name) || headings(d.Form, name) {
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
