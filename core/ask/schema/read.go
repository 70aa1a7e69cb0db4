package schema

import (
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"amberseal/core/ask/form"
)

// source is a schema as it is read.
type source struct {
	Comment     string                     `json:"$comment"`
	Ref         string                     `json:"$ref"`
	Title       string                     `json:"title"`
	Description string                     `json:"description"`
	Type        json.RawMessage            `json:"type"`
	Format      string                     `json:"format"`
	Pattern     string                     `json:"pattern"`
	MinLength   int                        `json:"minLength"`
	MaxLength   int                        `json:"maxLength"`
	Minimum     json.Number                `json:"minimum"`
	Maximum     json.Number                `json:"maximum"`
	MultipleOf  json.Number                `json:"multipleOf"`
	Enum        []any                      `json:"enum"`
	OneOf       []source                   `json:"oneOf"`
	AnyOf       []source                   `json:"anyOf"`
	Const       any                        `json:"const"`
	Default     any                        `json:"default"`
	ReadOnly    bool                       `json:"readOnly"`
	Items       *source                    `json:"items"`
	MinItems    int                        `json:"minItems"`
	MaxItems    int                        `json:"maxItems"`
	Properties  map[string]json.RawMessage `json:"properties"`
	Required    []string                   `json:"required"`

	order []string
}

// UnmarshalJSON also keeps the order of the properties.
func (s *source) UnmarshalJSON(data []byte) error {
	if string(data) == "true" || string(data) == "false" {
		return nil // a schema may be a truth value
	}
	type plain source
	if err := json.Unmarshal(data, (*plain)(s)); err != nil {
		return err
	}
	var members struct {
		Properties json.RawMessage `json:"properties"`
	}
	if err := json.Unmarshal(data, &members); err != nil || members.Properties == nil {
		return err
	}
	dec := json.NewDecoder(strings.NewReader(string(members.Properties)))
	if _, err := dec.Token(); err != nil {
		return err
	}
	for dec.More() {
		name, err := dec.Token()
		if err != nil {
			return err
		}
		var skip json.RawMessage
		if err := dec.Decode(&skip); err != nil {
			return err
		}
		s.order = append(s.order, name.(string))
	}
	return nil
}

// reader makes fields; every key it gives is its own.
type reader struct {
	root  json.RawMessage
	taken []string
	depth int
}

// Read makes a form's title and fields of a JSON Schema of an object. Objects inside become sections, lists of
// objects become rows.
func Read(data []byte) (title string, fields []form.Field, err error) {
	var s source
	if err := json.Unmarshal(data, &s); err != nil {
		return "", nil, fmt.Errorf("this is not a JSON Schema: %w", err)
	}
	r := &reader{root: data}
	if s, err = r.resolve(s); err != nil {
		return "", nil, err
	}
	if len(s.order) == 0 {
		return "", nil, fmt.Errorf("this JSON Schema describes no object with properties")
	}
	fields, err = r.object(s, "")
	return s.Title, fields, err
}

// most levels and references that are followed.
const most = 32

func (r *reader) resolve(s source) (source, error) {
	for range most {
		if s.Ref == "" {
			return s, nil
		}
		path, ok := strings.CutPrefix(s.Ref, "#/")
		if !ok {
			return s, fmt.Errorf("the reference “%s” leads out of the schema; only references that begin with #/ can be followed", s.Ref)
		}
		at := r.root
		for part := range strings.SplitSeq(path, "/") {
			var members map[string]json.RawMessage
			part = strings.NewReplacer("~1", "/", "~0", "~").Replace(part)
			if json.Unmarshal(at, &members) != nil || members[part] == nil {
				return s, fmt.Errorf("the reference “%s” leads nowhere", s.Ref)
			}
			at = members[part]
		}
		found := source{}
		if err := json.Unmarshal(at, &found); err != nil {
			return s, fmt.Errorf("the schema at “%s” cannot be read: %w", s.Ref, err)
		}
		if found.Title == "" {
			found.Title = s.Title
		}
		s = found
	}
	return s, fmt.Errorf("the schema refers to itself")
}

func (r *reader) object(s source, prefix string) ([]form.Field, error) {
	if r.depth++; r.depth > most {
		return nil, fmt.Errorf("the schema is nested more than %d deep", most)
	}
	defer func() { r.depth-- }()
	var out []form.Field
	for _, name := range s.order {
		var p source
		if err := json.Unmarshal(s.Properties[name], &p); err != nil {
			return nil, fmt.Errorf("the property “%s” cannot be read: %w", name, err)
		}
		p, err := r.resolve(p)
		if err != nil {
			return nil, fmt.Errorf("the property “%s”: %w", name, err)
		}
		more, err := r.property(name, p, slices.Contains(s.Required, name), prefix)
		if err != nil {
			return nil, err
		}
		out = append(out, more...)
	}
	return out, nil
}

func (r *reader) key(name, prefix string) string {
	key := prefix + form.KeyFor(name, nil)
	if strings.Count(key, ".") == 0 && strings.Count(name, ".") == 1 && prefix == "" {
		section, rest, _ := strings.Cut(name, ".")
		key = form.KeyFor(section, nil) + "." + form.KeyFor(rest, nil) // written by Write
	}
	key = form.KeyFree(key, r.taken)
	r.taken = append(r.taken, key)
	return key
}

func (r *reader) property(name string, p source, required bool, prefix string) ([]form.Field, error) {
	x := form.Field{Label: p.Title, Help: p.Description, Required: required}
	if x.Label == "" {
		x.Label = words(name)
	}
	x.Kind = p.kind(x.Label)
	nested := len(p.order) > 0 && x.Kind.Shape() != form.Parts
	if nested && prefix == "" {
		section := r.key(name, "")
		inside, err := r.object(p, section+".")
		return append([]form.Field{{Key: section, Kind: form.Section, Label: x.Label}}, inside...), err
	}
	if nested {
		return r.object(p, prefix)
	}
	x.Key = r.key(name, prefix)
	switch x.Kind.Shape() {
	case form.One:
		x.Choices = p.choices()
	case form.Several:
		x.Choices = p.Items.choices()
	case form.Repeated:
		items, err := r.resolve(*p.Items)
		if err != nil {
			return nil, err
		}
		inner := &reader{root: r.root, depth: r.depth}
		if x.Fields, err = inner.object(items, ""); err != nil {
			return nil, err
		}
		x.Fields = slices.DeleteFunc(x.Fields, func(c form.Field) bool { return !c.Kind.InRows() })
		x.Least, x.Most = least(p.MinItems, required), p.MaxItems
		if x.Most == form.MaxRows {
			x.Most = 0
		}
	case form.Files:
		x.Least, x.Most = least(p.MinItems, required), p.MaxItems
	case form.Parts:
		x.Parts = p.order
	}
	p.limits(&x)
	return []form.Field{x}, nil
}

// least is how many are asked for at least; one is what “required” says already.
func least(n int, required bool) int {
	if required && n == 1 {
		return 0
	}
	return n
}

func (p source) limits(x *form.Field) {
	x.Min, x.Max, x.Step = p.Minimum.String(), p.Maximum.String(), p.MultipleOf.String()
	switch x.Kind {
	case form.WholeNumber, form.Decimal, form.Money:
	case form.Rating:
		if n, err := strconv.Atoi(x.Max); err == nil && n <= form.MaxScale {
			x.Scale = n
		}
		x.Min, x.Max, x.Step = "", "", ""
	default:
		x.Min, x.Max, x.Step = "", "", ""
	}
	if x.Kind == form.ShortText || x.Kind == form.LongText {
		x.Shortest, x.Longest = max(p.MinLength, 0), max(p.MaxLength, 0)
		if x.Longest >= form.MaxShort {
			x.Longest = 0
		}
		if x.Shortest == 1 {
			x.Shortest = 0 // required already
		}
		if pattern, ok := strings.CutPrefix(strings.TrimSuffix(p.Pattern, "$"), "^"); ok && strings.HasSuffix(p.Pattern, "$") {
			x.Pattern = strings.TrimSuffix(strings.TrimPrefix(pattern, "(?:"), ")")
			if !strings.HasPrefix(pattern, "(?:") {
				x.Pattern = pattern
			}
		}
	}
	if _, more, ok := strings.Cut(p.Comment, " {"); ok {
		var noted settings
		if json.Unmarshal([]byte("{"+more), &noted) == nil {
			noted.give(x)
		}
	}
	switch v := p.Default.(type) {
	case string:
		x.Default.Value = v
	case bool, float64:
		x.Default.Value = fmt.Sprint(v)
	}
}

// kind finds the kind of field: the one Write noted, else by type, format and the label's words.
func (p source) kind(label string) form.Kind {
	noted, _, _ := strings.Cut(p.Comment, " ")
	if k := form.Kind(noted); slices.Contains(form.Kinds(), k) && k.Asks() {
		return k
	}
	if len(p.choices()) > 0 {
		return form.OneOf
	}
	switch {
	case p.is("array"):
		switch {
		case p.Items == nil:
			return form.LongText
		case len(p.Items.choices()) > 0:
			return form.SeveralOf
		case len(p.Items.order) > 0 || p.Items.Ref != "":
			return form.Rows
		}
		return form.LongText
	case p.is("boolean"):
		return form.YesNo
	case p.is("integer"):
		return form.WholeNumber
	case p.is("number"):
		if form.GuessKind(label) == form.Money {
			return form.Money
		}
		return form.Decimal
	}
	switch p.Format {
	case "email", "idn-email":
		return form.Email
	case "date":
		return form.Date
	case "time":
		return form.Time
	case "date-time":
		return form.DateTime
	case "uri", "iri", "url":
		return form.WebAddress
	}
	if p.MaxLength > 300 {
		return form.LongText
	}
	switch k := form.GuessKind(label); k {
	case form.Phone, form.LongText, form.Email, form.Date, form.WebAddress:
		return k
	}
	return form.ShortText
}

func (p source) is(kind string) bool {
	var one string
	if json.Unmarshal(p.Type, &one) == nil {
		return one == kind
	}
	var several []string
	return json.Unmarshal(p.Type, &several) == nil && slices.Contains(several, kind)
}

// choices are those of an enum, or of constants with titles.
func (p *source) choices() []form.Choice {
	if p == nil {
		return nil
	}
	var out []form.Choice
	for _, v := range p.Enum {
		if s := fmt.Sprint(v); v != nil && s != "" {
			out = append(out, form.Choice{Value: s, Label: words(s)})
		}
	}
	for _, alternatives := range [][]source{p.OneOf, p.AnyOf} {
		for _, a := range alternatives {
			if a.Const == nil {
				continue
			}
			c := form.Choice{Value: fmt.Sprint(a.Const), Label: a.Title}
			if c.Label == "" {
				c.Label = words(c.Value)
			}
			out = append(out, c)
		}
	}
	return out
}

// words makes a label of a property's name: firstName and first_name are First name.
func words(name string) string {
	var b strings.Builder
	for i, r := range name {
		switch {
		case r == '_' || r == '-' || r == '.':
			b.WriteByte(' ')
		case i > 0 && r >= 'A' && r <= 'Z' && !strings.HasSuffix(b.String(), " ") && name[i-1] >= 'a' && name[i-1] <= 'z':
			b.WriteByte(' ')
			b.WriteRune(r + 'a' - 'A')
		default:
			b.WriteRune(r)
		}
	}
	s := strings.Join(strings.Fields(b.String()), " ")
	if s == "" {
		return name
	}
	return strings.ToUpper(s[:1]) + s[1:]
}
