// Package fill reads what was typed into documents that people bring back: the fields of a PDF
// form, as answers to the form it is a blank copy of.
//
// A PDF may come from anybody: it is opened as package foreign does, the depth and number of its fields are limited, and a
// panic of the reader is an error. The package writes no files.
package fill

import (
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"strconv"
	"strings"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

	"amberseal/core/ask/form"
	"amberseal/core/foreign"
	"amberseal/core/words/locale"
)

// MaxBytes is how large a copy that is brought back may be.
const MaxBytes = foreign.MaxBytes

// Limits of a form that is read.
const (
	maxDepth  = 16
	maxFields = 50_000
)

// ErrNoForm is the error of a PDF without fields.
var ErrNoForm = errors.New("the PDF has no fields to fill")

// Values reads the fields of a PDF form: what is typed or chosen, by full name. A box that is not
// ticked has no value.
func Values(data []byte) (values map[string]string, err error) {
	defer func() {
		if p := recover(); p != nil {
			values, err = nil, fmt.Errorf("the PDF is damaged: %v", p)
		}
	}()
	ctx, err := foreign.Open(data)
	if err != nil {
		return nil, err
	}
	root, err := ctx.Catalog()
	if err != nil {
		return nil, fmt.Errorf("the PDF cannot be read: %w", err)
	}
	r := &reader{Objects: foreign.Objects{Context: ctx}, out: map[string]string{}}
	acro := r.Dict(root["AcroForm"])
	if acro == nil {
		return nil, ErrNoForm
	}
	fields := r.Array(acro["Fields"])
	if len(fields) == 0 {
		return nil, ErrNoForm
	}
	for _, f := range fields {
		if err := r.field(f, "", "", 0); err != nil {
			return nil, err
		}
	}
	return r.out, nil
}

type reader struct {
	foreign.Objects
	out   map[string]string
	count int
}

// field walks a node of the field tree; the kind of field is inherited.
func (r *reader) field(o types.Object, prefix, kind string, depth int) error {
	if r.count++; r.count > maxFields || depth > maxDepth {
		return fmt.Errorf("the PDF has more than %d fields, or they are nested more than %d deep", maxFields, maxDepth)
	}
	d := r.Dict(o)
	if d == nil {
		return nil
	}
	name := prefix
	if t := r.Text(d["T"]); t != "" {
		if name != "" {
			name += "."
		}
		name += t
	}
	if ft := r.Name(d["FT"]); ft != "" {
		kind = ft
	}
	if v := r.value(d["V"], kind); v != "" && (kind != "Btn" || v != "Off") { // only buttons have that state (ISO 32000-1, 12.7.4.2)
		r.out[name] = v
	}
	for _, k := range r.Array(d["Kids"]) {
		kid := r.Dict(k)
		if kid == nil || kid["T"] == nil && kid["Kids"] == nil {
			continue // a widget of this field
		}
		if err := r.field(k, name, kind, depth+1); err != nil {
			return err
		}
	}
	return nil
}

func (r *reader) value(o types.Object, kind string) string {
	if kind == "Btn" {
		if n := r.Name(o); n != "" {
			return n
		}
	}
	if chosen := r.Array(o); len(chosen) > 0 {
		o = chosen[0]
	}
	return r.Text(o)
}

// Answers turns the values of a blank copy's fields into raw answers. Numbers, days and times are read as people of the
// language write them, amounts in the house's currency where the field has none; what is none of these, or not certain, stays as it was
// typed, so that its fault is told.
func Answers(f form.Form, values map[string]string, l locale.Locale, currency string) form.Raw {
	a := &answering{values, l, currency}
	return a.fields(f.Fields, "")
}

type answering struct {
	values   map[string]string
	locale   locale.Locale
	currency string
}

func (a *answering) fields(fields []form.Field, at string) form.Raw {
	raw := form.Raw{}
	for _, x := range fields {
		if !x.Kind.Asks() || x.Calculated() {
			continue
		}
		if v := a.answer(x, at+x.Key); v != nil {
			if text, err := json.Marshal(v); err == nil {
				raw[x.Key] = text
			}
		}
	}
	return raw
}

func (a *answering) answer(x form.Field, name string) any {
	s := strings.TrimSpace(strings.ReplaceAll(a.values[name], "\r\n", "\n"))
	s = strings.ReplaceAll(s, "\r", "\n")
	switch x.Kind.Shape() {
	case form.Several:
		var chosen []string
		for _, c := range x.Choices {
			if a.values[name+"."+c.Value] != "" {
				chosen = append(chosen, c.Value)
			}
		}
		if chosen == nil {
			return nil
		}
		return chosen
	case form.Truth:
		if x.Kind == form.Consent {
			return s != ""
		}
		if s == "" {
			return nil
		}
		return s == "yes"
	case form.Parts:
		parts := map[string]string{}
		for _, p := range x.AskedParts() {
			if v := strings.TrimSpace(a.values[name+"."+p]); v != "" {
				parts[p] = v
			}
		}
		if len(parts) == 0 {
			return nil
		}
		return parts
	case form.Repeated:
		return a.rows(x, name)
	case form.Drawn:
		if s == "" {
			return nil
		}
		return map[string]string{"typed": s}
	case form.Files:
		return nil // files cannot be typed
	}
	if s == "" {
		return nil
	}
	read := map[form.Shape]func(string) (string, bool){
		form.Figure: a.locale.ReadNumber, form.Day: a.locale.ReadDay, form.Hour: a.locale.ReadTime, form.Moment: a.locale.ReadMoment,
		form.One: x.ChoiceOf,
	}[x.Kind.Shape()]
	switch {
	case x.Kind == form.Money:
		read = func(s string) (string, bool) { return a.locale.ReadAmount(s, cmp.Or(x.Currency, a.currency)) }
	case x.Kind == form.Rating:
		read = nil
	}
	if read != nil {
		if v, ok := read(s); ok {
			return v
		}
	}
	return s
}

func (a *answering) rows(x form.Field, name string) any {
	var rows []form.Raw
	for i := range x.MostRows() {
		row := a.fields(x.Fields, name+"."+strconv.Itoa(i)+".")
		for _, column := range x.Fields {
			if column.Kind == form.Consent && string(row[column.Key]) == "false" {
				delete(row, column.Key) // a box that is not ticked does not make a row
			}
		}
		if len(row) > 0 {
			rows = append(rows, row)
		}
	}
	if rows == nil {
		return nil
	}
	return rows
}
