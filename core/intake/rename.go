package intake

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"amberseal/core/ask/form"
	"amberseal/core/ask/formula"
)

// clone is a deep copy, by way of the file format.
func (d Design) clone() Design {
	type plain Design // a copy is not read as what comes from outside
	var out plain
	data, err := json.Marshal(d)
	if err == nil {
		err = json.Unmarshal(data, &out)
	}
	if err != nil {
		panic(err) // a design always marshals
	}
	return Design(out)
}

// Rename gives the design with a field under another name, rewritten wherever it is used: formulas, conditions,
// documents, notices and names. Names are KEY, or ROWS.KEY; a name with other rows, or with none, also moves the
// field there. The error says why the name cannot be had.
func (d Design) Rename(from, to string) (Design, error) {
	x, ok := d.Form.Field(from)
	if !ok {
		return d, fmt.Errorf("there is no field “%s”", from)
	}
	if _, taken := d.Form.Field(to); taken && from != to {
		return d, fmt.Errorf("another field has the key “%s”", to)
	}
	fromRows, _ := d.Form.Column(from)
	toRows, toKey := "", to
	if rows, key, parted := strings.Cut(to, "."); parted {
		if g, ok := d.Form.Field(rows); ok && g.Kind == form.Rows {
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
	out := d.rewrite(func(s spot) spot {
		rows := s.rows
		if rows == from {
			rows = to
		}
		// A formula that moves with its field stands in the other rows' scope from now on.
		if strings.HasPrefix(s.Path, "form/fields/"+from+"/") {
			rows = toRows
		}
		return s.renamed(d.Form, renamed, rows)
	})
	x, _ = out.Form.Field(from) // with its own formulas rewritten
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

// renamed is the place with other names; rows is the scope the formula will stand in.
func (s spot) renamed(f form.Form, to func(string) string, rows string) spot {
	switch {
	case s.phrase != nil:
		for i := range s.phrase {
			s.phrase[i].Field = to(s.phrase[i].Field)
		}
	case s.formula != "":
		tree, err := formula.Parse(s.formula)
		if err != nil {
			return s
		}
		s.formula = tree.Replace(func(name string) string {
			full, ok := f.Resolve(name, s.rows)
			if !ok {
				return name
			}
			to := to(full)
			if bare, ok := strings.CutPrefix(to, rows+"."); ok && rows != "" && (full != name || to != full) {
				return bare
			}
			if to == full && full != name && rows == s.rows {
				return name
			}
			return to
		})
	case s.list != nil:
		for i := range s.list {
			s.list[i] = to(s.list[i])
		}
	}
	return s
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
