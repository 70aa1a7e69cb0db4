package intake

import (
	"encoding/json"
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
	words := func(use Use, path, said string, p *phrase.Phrase) {
		visit(spot{Place: Place{Use: use, Path: path, Words: said}, phrase: p})
	}
	body := func(use Use, path, said string, b phrase.Body) {
		for i := range b {
			words(use, path, said, &b[i].Spans)
		}
	}
	for i := range d.Documents {
		x := &d.Documents[i]
		at := "documents/" + x.Key
		when(at, x.Name, &x.When, "")
		words(Names, at+"/title", x.Name+", title", &x.Title)
		words(Names, at+"/fileName", x.Name+", file name", &x.FileName)
		words(Prints, at+"/footer", x.Name+", footer", &x.Footer)
		if x.Protect != nil {
			words(Names, at+"/protect", x.Name+", password", &x.Protect.Password)
		}
		for j := range x.Blocks {
			b := &x.Blocks[j]
			place, said := at+"/blocks/"+b.ID, fmt.Sprintf("%s, line %d", x.Name, j+1)
			when(place, said, &b.When, "")
			words(Prints, place, said, &b.Text)
			body(Prints, place, said, b.Body)
			d.blockNames(b, place, said, visit)
			if b.Kind == "answers" {
				visit(spot{Place: Place{Use: Prints, Path: place, Words: said + ", answers"}, list: &b.Fields, all: len(b.Fields) == 0})
			}
		}
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

// blockNames visits the names a block holds besides its words: of rows and their columns, of totals, of a signature.
func (d *Design) blockNames(b *paper.Block, place, said string, visit func(s spot)) {
	one := func(name string) (string, bool) {
		list := []string{name}
		visit(spot{Place: Place{Use: Prints, Path: place, Words: said}, list: &list})
		return strings.Join(list, ""), len(list) > 0
	}
	rows := b.Rows
	if rows != "" {
		b.Rows, _ = one(rows)
	}
	var columns []paper.Column
	for _, c := range b.Columns {
		if c.Field != "#" {
			name, kept := one(rows + "." + c.Field)
			if !kept || !strings.HasPrefix(name, b.Rows+".") {
				continue // gone, or no longer one of the rows
			}
			c.Field = strings.TrimPrefix(name, b.Rows+".")
		}
		columns = append(columns, c)
	}
	b.Columns = columns
	var totals []paper.Total
	for _, t := range b.Totals {
		name, kept := one(t.Field)
		if !kept {
			continue
		}
		t.Field = name
		totals = append(totals, t)
	}
	b.Totals = totals
	for i := range b.Totals {
		visit(spot{Place: Place{Use: Prints, Path: place, Words: said}, phrase: &b.Totals[i].Label})
	}
	if b.Field != "" {
		b.Field, _ = one(b.Field)
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
	var out []Whereabouts
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

// clone is a deep copy, by way of the file format.
func (d Design) clone() Design {
	var out Design
	data, err := json.Marshal(d)
	if err == nil {
		err = json.Unmarshal(data, &out)
	}
	if err != nil {
		panic(err) // a design always marshals
	}
	return out
}

// Rename gives the design with a field under another name, rewritten wherever it is used: formulas, conditions,
// documents, notices and names. Names are KEY, or ROWS.KEY; a name with other rows, or with none, also moves the
// field there. The error says why the name cannot be had.
func (d Design) Rename(from, to string) (Design, error) {
	out := d.clone()
	x, ok := out.Form.Field(from)
	if !ok {
		return d, fmt.Errorf("there is no field “%s”", from)
	}
	if _, taken := out.Form.Field(to); taken && from != to {
		return d, fmt.Errorf("another field has the key “%s”", to)
	}
	fromRows, _ := out.Form.Column(from)
	toRows, toKey := "", to
	if rows, key, parted := strings.Cut(to, "."); parted {
		if g, ok := out.Form.Field(rows); ok && g.Kind == form.Rows {
			toRows, toKey = rows, key
		}
	}
	if toRows != "" && !x.Kind.InRows() {
		return d, fmt.Errorf("rows cannot hold this kind of line")
	}
	renamed := func(name string) string {
		if name == from {
			return to
		}
		if rest, ok := strings.CutPrefix(name, from+"."); ok && x.Kind == form.Rows {
			return to + "." + rest
		}
		return name
	}
	before := out.Form
	out.spots(func(s spot) {
		rows := s.rows
		if rows == from {
			rows = to
		}
		// A formula that moves with its field stands in the other rows' scope from now on.
		if strings.HasPrefix(s.Path, "form/fields/"+from+"/") {
			rows = toRows
		}
		s.rewrite(before, renamed, rows)
	})
	retranslate(out.Form.Translations, func(name string) (string, bool) { return renamed(name), true })
	x.Key = toKey
	if fromRows == toRows {
		replaceField(out.Form.Fields, fromRows, from, x)
		return out, nil
	}
	out.Form.Fields = moveField(out.Form.Fields, fromRows, from, toRows, x)
	return out, nil
}

// retranslate moves the translations of fields to their new names, and drops those of fields that go.
func retranslate(all map[string]form.Texts, to func(name string) (string, bool)) {
	for language, texts := range all {
		moved := form.Texts{}
		for place, words := range texts {
			name, rest, _ := strings.Cut(place, "/")
			if name, kept := to(name); kept {
				if rest != "" {
					name += "/" + rest
				}
				moved[name] = words
			}
		}
		all[language] = moved
	}
}

// rewrite replaces names; rows is the scope the formula will stand in.
func (s spot) rewrite(f form.Form, renamed func(string) string, rows string) {
	switch {
	case s.phrase != nil:
		for i := range *s.phrase {
			(*s.phrase)[i].Field = renamed((*s.phrase)[i].Field)
		}
	case s.formula != nil:
		tree, err := formula.Parse(*s.formula)
		if err != nil {
			return
		}
		*s.formula = tree.Replace(func(name string) string {
			full, ok := f.Resolve(name, s.rows)
			if !ok {
				return name
			}
			to := renamed(full)
			if bare, ok := strings.CutPrefix(to, rows+"."); ok && rows != "" && (full != name || to != full) {
				return bare
			}
			if to == full && full != name && rows == s.rows {
				return name
			}
			return to
		})
	case s.list != nil:
		for i := range *s.list {
			(*s.list)[i] = renamed((*s.list)[i])
		}
	}
}

func replaceField(fields []form.Field, rows, name string, by form.Field) {
	for i := range fields {
		switch {
		case rows != "" && fields[i].Key == rows:
			replaceField(fields[i].Fields, "", strings.TrimPrefix(name, rows+"."), by)
		case rows == "" && fields[i].Key == name:
			fields[i] = by
		}
	}
}

// moveField takes a field out of its rows to the line after them, or into the end of others.
func moveField(fields []form.Field, fromRows, from, toRows string, x form.Field) []form.Field {
	key := strings.TrimPrefix(from, fromRows+".")
	var out []form.Field
	for _, f := range fields {
		if fromRows == "" && f.Key == from {
			continue
		}
		if f.Key == toRows && toRows != "" {
			f.Fields = append(slices.Clone(f.Fields), x)
		}
		if f.Key == fromRows && fromRows != "" {
			f.Fields = slices.DeleteFunc(slices.Clone(f.Fields), func(c form.Field) bool { return c.Key == key })
		}
		out = append(out, f)
		if f.Key == fromRows && fromRows != "" && toRows == "" {
			out = append(out, x)
		}
	}
	return out
}

// Mend says what becomes of a place when the field it uses is removed: another field, fixed words, or nothing.
type Mend struct {
	Path string `json:"path"`
	Do   string `json:"do"`             // "field", "text" or "remove"
	With string `json:"with,omitempty"` // the other field's name, or the words
}

// Remove gives the design without a field, each place that used it mended as said; a place that is not
// named is removed.
func (d Design) Remove(name string, mends []Mend) (Design, error) {
	out := d.clone()
	x, ok := out.Form.Field(name)
	if !ok {
		return d, fmt.Errorf("there is no field “%s”", name)
	}
	gone := func(n string) bool { return n == name || x.Kind == form.Rows && strings.HasPrefix(n, name+".") }
	before := out.Form
	out.spots(func(s spot) {
		if strings.HasPrefix(s.Path, "form/fields/"+name+"/") || !slices.ContainsFunc(s.names(before), gone) {
			return
		}
		m := Mend{Do: "remove"}
		if i := slices.IndexFunc(mends, func(m Mend) bool { return m.Path == s.Path }); i >= 0 {
			m = mends[i]
		}
		s.mend(before, gone, m)
	})
	retranslate(out.Form.Translations, func(n string) (string, bool) { return n, !gone(n) })
	rows, _ := before.Column(name)
	key := strings.TrimPrefix(name, rows+".")
	out.Form.Fields = slices.DeleteFunc(out.Form.Fields, func(f form.Field) bool { return rows == "" && f.Key == name })
	for i := range out.Form.Fields {
		if g := &out.Form.Fields[i]; g.Key == rows && rows != "" {
			g.Fields = slices.DeleteFunc(g.Fields, func(f form.Field) bool { return f.Key == key })
		}
	}
	return out, nil
}

func (s spot) mend(f form.Form, gone func(string) bool, m Mend) {
	switch {
	case s.phrase != nil:
		var kept phrase.Phrase
		for _, span := range *s.phrase {
			switch {
			case !gone(span.Field):
			case m.Do == "field":
				span.Field, span.Format = m.With, ""
			case m.Do == "text":
				span = phrase.Span{Text: m.With, Bold: span.Bold, Italic: span.Italic, Underline: span.Underline, Link: span.Link}
			default:
				continue
			}
			kept = append(kept, span)
		}
		*s.phrase = kept
	case s.formula != nil:
		if m.Do == "remove" {
			*s.formula = ""
			return
		}
		tree, err := formula.Parse(*s.formula)
		if err != nil {
			return
		}
		*s.formula = tree.Replace(func(name string) string {
			full, _ := f.Resolve(name, s.rows)
			if !gone(full) {
				return name
			}
			if m.Do == "field" {
				return strings.TrimPrefix(m.With, s.rows+".")
			}
			return literal(m.With)
		})
	case s.list != nil:
		*s.list = slices.DeleteFunc(*s.list, func(n string) bool { return gone(n) && m.Do != "field" })
		for i := range *s.list {
			if gone((*s.list)[i]) {
				(*s.list)[i] = m.With
			}
		}
	}
}

// literal writes words as a formula's text, or as a number where they are one.
func literal(s string) string {
	if tree, err := formula.Parse(s); err == nil && len(tree.References()) == 0 {
		if v, err := tree.Evaluate(formula.Scope{}); err == nil {
			if _, ok := v.Decimal(); ok {
				return "(" + s + ")"
			}
		}
	}
	return `"` + strings.ReplaceAll(s, `"`, `""`) + `"`
}

// Uses lists the places that use a field, for whoever wants to remove it.
func (d Design) Uses(name string) []Place {
	out := []Place{}
	for _, w := range d.Whereabouts() {
		if w.Name != name && !strings.HasPrefix(w.Name, name+".") {
			continue
		}
		for _, p := range w.Places {
			if p.Use != Asked && !strings.HasPrefix(p.Path, "form/fields/"+name+"/") && !strings.HasPrefix(p.Path, "form/fields/"+name+".") && !slices.Contains(out, p) && !d.prints(p) {
				out = append(out, p)
			}
		}
	}
	return out
}

// prints reports whether the place is a table of all answers, which loses nothing with a field.
func (d Design) prints(p Place) bool {
	all := false
	d.spots(func(s spot) { all = all || s.all && s.Path == p.Path })
	return all
}
