// Package schema says a form as a JSON Schema (draft 2020-12), and makes fields of one.
//
// Write's schema describes the answers object that the form takes and keeps; only what must
// always be answered is required in it, since conditions belong to the form. Read takes any
// schema of an object. Neither reads a file or follows a reference outside the schema.
package schema

import (
	"encoding/json"
	"strconv"

	"amberseal/core/ask/form"
)

// Dialect is the draft that is written.
const Dialect = "https://json-schema.org/draft/2020-12/schema"

// node is a schema as it is written; the order of its members is that of the fields here.
type node struct {
	Schema      string          `json:"$schema,omitempty"`
	Comment     string          `json:"$comment,omitempty"` // the field's kind, for reading it back
	Title       string          `json:"title,omitempty"`
	Description string          `json:"description,omitempty"`
	Type        any             `json:"type,omitempty"`
	Format      string          `json:"format,omitempty"`
	Pattern     string          `json:"pattern,omitempty"`
	MinLength   int             `json:"minLength,omitempty"`
	MaxLength   int             `json:"maxLength,omitempty"`
	Minimum     json.Number     `json:"minimum,omitempty"`
	Maximum     json.Number     `json:"maximum,omitempty"`
	MultipleOf  json.Number     `json:"multipleOf,omitempty"`
	Const       any             `json:"const,omitempty"`
	OneOf       []node          `json:"oneOf,omitempty"`
	Default     json.RawMessage `json:"default,omitempty"`
	ReadOnly    bool            `json:"readOnly,omitempty"`
	Items       *node           `json:"items,omitempty"`
	UniqueItems bool            `json:"uniqueItems,omitempty"`
	MinItems    int             `json:"minItems,omitempty"`
	MaxItems    int             `json:"maxItems,omitempty"`
	Properties  *properties     `json:"properties,omitempty"`
	Required    []string        `json:"required,omitempty"`
	Additional  *bool           `json:"additionalProperties,omitempty"`
}

// properties keep the order of the form.
type properties struct {
	names []string
	nodes []node
}

func (p *properties) add(name string, n node) {
	p.names, p.nodes = append(p.names, name), append(p.nodes, n)
}

// MarshalJSON writes an object in the order of the form.
func (p *properties) MarshalJSON() ([]byte, error) {
	out := []byte{'{'}
	for i, name := range p.names {
		if i > 0 {
			out = append(out, ',')
		}
		key, err := json.Marshal(name)
		if err != nil {
			return nil, err
		}
		value, err := json.Marshal(p.nodes[i])
		if err != nil {
			return nil, err
		}
		out = append(append(append(out, key...), ':'), value...)
	}
	return append(out, '}'), nil
}

// Write gives the JSON Schema of the form's answers, indented.
func Write(title string, f form.Form) ([]byte, error) {
	n := object(f.Fields)
	n.Schema, n.Title, n.Description = Dialect, title, f.Intro
	return json.MarshalIndent(n, "", "  ")
}

func object(fields []form.Field) node {
	no := false
	n := node{Type: "object", Properties: &properties{}, Additional: &no}
	always := map[string]bool{"": true} // whether what stands under the present page and section always shows
	page, section := "", ""
	for _, x := range fields {
		switch x.Kind {
		case form.Page:
			page, section = x.Key, ""
			always[page] = x.When == ""
		case form.Section:
			section = x.Key
			always[section] = x.When == ""
		}
		if !x.Answered() {
			continue
		}
		n.Properties.add(x.Key, property(x))
		must := x.Required || x.Kind == form.Rows && x.Least > 0
		if must && !x.Calculated() && x.When == "" && always[page] && always[section] {
			n.Required = append(n.Required, x.Key)
		}
	}
	return n
}

// comment notes the kind, and settings that a schema has no words for, for reading them back.
func comment(x form.Field) string {
	more := settingsOf(x)
	if more == (settings{}) {
		return string(x.Kind)
	}
	text, err := json.Marshal(more)
	if err != nil {
		return string(x.Kind)
	}
	return string(x.Kind) + " " + string(text)
}

// visible is the pattern of a text in which something stands.
const visible = `\S`

// Addresses of mail and web have patterns rather than formats: “email” and “uri” refuse other scripts, which the form takes (RFC
// 6531, RFC 3987), and “idn-email” and “iri” are unknown to many validators.
const digits = `^[+-]?(?:[0-9]+\.?[0-9]*|\.[0-9]+)$`

func property(x form.Field) node {
	n := node{Comment: comment(x), Title: x.Label, Description: x.Help, Type: "string", Default: x.DefaultRaw(), ReadOnly: x.Calculated()}
	described := x.Kind.Described()
	n.Format, n.Pattern = described.Format, described.Pattern
	switch x.Kind.Shape() {
	case form.Figure:
		n.Type = []string{"number", "string"}
		if x.Kind != form.Decimal && x.Kind != form.Money {
			n.Type = []string{"integer", "string"}
		}
	case form.One:
		n.Type, n.OneOf = nil, choices(x)
	case form.Several:
		n.Type, n.Items, n.UniqueItems = "array", &node{OneOf: choices(x)}, true
	case form.Truth:
		n.Type = "boolean"
		if x.Required && x.Kind == form.Consent {
			n.Const = true
		}
	case form.Parts:
		no := false
		n.Type, n.Properties, n.Additional = "object", &properties{}, &no
		for _, part := range x.AskedParts() {
			p := node{Type: "string", MaxLength: 200}
			if x.Required && form.Needed(part) {
				p.Pattern = visible
				n.Required = append(n.Required, part)
			}
			n.Properties.add(part, p)
		}
	case form.Files:
		n.Type, n.Items, n.MaxItems = "array", &node{Type: []string{"string", "object"}, Description: "the id of an upload"}, x.MostFiles()
		n.MinItems = x.Least
		if x.Required {
			n.MinItems = max(n.MinItems, 1)
		}
	case form.Drawn:
		n.Type = "object"
	case form.Repeated:
		row := object(x.Fields)
		n.Type, n.Items, n.MinItems, n.MaxItems = "array", &row, x.Least, x.MostRows()
		if x.Required {
			n.MinItems = max(n.MinItems, 1)
		}
	}
	limits(&n, x)
	return n
}

// limits adds what holds an answer in; lengths are counted in characters in both worlds.
func limits(n *node, x form.Field) {
	switch x.Kind {
	case form.ShortText, form.LongText:
		n.MinLength, n.MaxLength = x.Shortest, x.Longest
		if n.MaxLength == 0 {
			n.MaxLength = form.MaxShort
			if x.Kind == form.LongText {
				n.MaxLength = form.MaxLong
			}
		}
		if p, ok := ecma(x.Pattern); ok && x.Pattern != "" {
			n.Pattern = "^(?:" + p + ")$"
		}
		if x.Mask != "" {
			n.Pattern = masked(x.Mask)
		}
	case form.WholeNumber, form.Decimal, form.Money:
		n.Minimum, n.Maximum = json.Number(x.Min), json.Number(x.Max)
		if x.Min == "" || x.Min == "0" {
			n.MultipleOf = json.Number(x.Step)
		}
	case form.Rating:
		n.Minimum, n.Maximum = "1", json.Number(strconv.Itoa(x.HighestRating()))
	}
	if x.Required && n.Type == "string" && n.MinLength == 0 {
		n.MinLength = 1
	}
}

func choices(x form.Field) []node {
	out := make([]node, len(x.Choices))
	for i, c := range x.Choices {
		out[i] = node{Const: c.Value, Title: c.Label}
	}
	return out
}
