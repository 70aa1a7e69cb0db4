package intake

import (
	"fmt"
	"slices"
	"strings"

	"amberseal/core/ask/form"
	"amberseal/core/ask/formula"
	"amberseal/core/words/phrase"
)

// Mend says what becomes of a place when the field it uses is removed: another field, fixed words, or nothing.
type Mend struct {
	Path string `json:"path"`
	Do   string `json:"do"`             // "field", "text" or "remove"
	With string `json:"with,omitempty"` // the other field's name, or the words
}

// Remove gives the design without a field, each place that used it mended as said; a place that is not
// named is removed.
func (d Design) Remove(name string, mends []Mend) (Design, error) {
	x, ok := d.Form.Field(name)
	if !ok {
		return d, fmt.Errorf("there is no field “%s”", name)
	}
	gone := func(n string) bool { return n == name || x.Kind == form.Rows && strings.HasPrefix(n, name+".") }
	out := d.rewrite(func(s spot) spot {
		if strings.HasPrefix(s.Path, "form/fields/"+name+"/") || !slices.ContainsFunc(s.names(d.Form), gone) {
			return s
		}
		m := Mend{Do: "remove"}
		if i := slices.IndexFunc(mends, func(m Mend) bool { return m.Path == s.Path }); i >= 0 {
			m = mends[i]
		}
		return s.mended(d.Form, gone, m)
	})
	retranslate(out.Form.Translations, func(n string) (string, bool) { return n, !gone(n) })
	rows, _ := d.Form.Column(name)
	key := strings.TrimPrefix(name, rows+".")
	out.Form.Fields = slices.DeleteFunc(out.Form.Fields, func(f form.Field) bool { return rows == "" && f.Key == name })
	for i := range out.Form.Fields {
		if g := &out.Form.Fields[i]; g.Key == rows && rows != "" {
			g.Fields = slices.DeleteFunc(g.Fields, func(f form.Field) bool { return f.Key == key })
		}
	}
	return out, nil
}

// mended is the place without the names that are gone.
func (s spot) mended(f form.Form, gone func(string) bool, m Mend) spot {
	switch {
	case s.phrase != nil:
		var kept phrase.Phrase
		for _, span := range s.phrase {
			switch {
			case !gone(span.Field):
			case m.Do == "field":
				span.Field, span.Format = m.With, ""
			case m.Do == "text":
				span = phrase.Span{Text: m.With, When: span.When, Style: span.Style}
			default:
				continue
			}
			kept = append(kept, span)
		}
		s.phrase = kept
	case s.formula != "":
		if m.Do == "remove" {
			s.formula = ""
			return s
		}
		tree, err := formula.Parse(s.formula)
		if err != nil {
			return s
		}
		s.formula = tree.Replace(func(name string) string {
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
		var kept []string
		for _, n := range s.list {
			switch {
			case !gone(n):
				kept = append(kept, n)
			case m.Do == "field":
				kept = append(kept, m.With)
			}
		}
		s.list = kept
	}
	return s
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
			if p.Use != Asked && !strings.HasPrefix(p.Path, "form/fields/"+name+"/") &&
				!strings.HasPrefix(p.Path, "form/fields/"+name+".") &&
				!slices.Contains(out, p) &&
				!d.prints(p) {
				out = append(out, p)
			}
		}
	}
	return out
}

// prints reports whether the place is a table of all answers, which loses nothing with a field.
func (d Design) prints(p Place) bool {
	all := false
	d.inspect(func(s spot) { all = all || s.all && s.Path == p.Path })
	return all
}
