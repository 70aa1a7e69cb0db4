package intake

import (
	"bytes"
	"encoding"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"reflect"
	"slices"
	"strings"
	"sync"

	"amberseal/core/words/phrase"
)

// Read reads a design, of this version of the format or an earlier one: the one way in, for files, imports, the API and the database.
// Names that the format does not have, names that stand twice and values of another sort are errors, to the innermost; the error is
// a Misread that says where.
func Read(data []byte) (Design, error) {
	var d Design
	head := struct {
		Version *int `json:"amberseal"`
	}{}
	err := json.Unmarshal(data, &head)
	var syntax *json.SyntaxError
	switch {
	case errors.As(err, &syntax):
		return d, misread(data, syntax.Offset-1, "", strings.TrimPrefix(syntax.Error(), "json: "))
	case err != nil || head.Version == nil:
		return d, misread(data, 0, "amberseal", `a design begins with { "amberseal": and the version of its format`)
	case *head.Version > Version || *head.Version < 1:
		return d, misread(data, 0, "amberseal", fmt.Sprintf("the design is of version %d of the format; this program reads up to version %d", *head.Version, Version))
	}
	if err := checkShape(data); err != nil {
		return d, err
	}
	type plain Design // which reads itself no more
	if err := json.Unmarshal(data, (*plain)(&d)); err != nil {
		return d, misread(data, 0, "", err.Error())
	}
	return d, nil
}

// UnmarshalJSON is Read.
func (d *Design) UnmarshalJSON(data []byte) (err error) {
	*d, err = Read(data)
	return err
}

// Misread is the error of a design that cannot be read.
type Misread struct {
	Line, Column int    // of the text that was read, from 1
	Path         string // of what stands there, such as documents[0].blocks[3].text; or empty
	Message      string
}

func (m Misread) Error() string {
	at := ""
	if m.Path != "" {
		at = " (" + m.Path + ")"
	}
	return fmt.Sprintf("line %d, column %d%s: %s", m.Line, m.Column, at, m.Message)
}

func misread(data []byte, offset int64, path, message string) Misread {
	before := data[:min(max(offset, 0), int64(len(data)))]
	return Misread{
		Line: bytes.Count(before, []byte("\n")) + 1, Column: len(before) - bytes.LastIndexByte(before, '\n'),
		Path: path, Message: message,
	}
}

// checkShape holds a text against the format: every name must be one of those of its place, once, and every value of its sort.
func checkShape(data []byte) error {
	w := &shape{data: data, dec: json.NewDecoder(bytes.NewReader(data))}
	w.dec.UseNumber()
	if err := w.value(reflect.TypeFor[Design]()); err != nil {
		return err
	}
	if _, err := w.dec.Token(); err != io.EOF {
		return misread(data, w.next(), "", "something follows after the design")
	}
	return nil
}

// shape walks over a text and the types that it is read into side by side.
type shape struct {
	data []byte
	dec  *json.Decoder
	path []step // to where it is
}

// step is a member of an object, or a place in a list.
type step struct {
	name  string
	index int
}

func (w *shape) where() string {
	var b strings.Builder
	for _, s := range w.path {
		switch {
		case s.name == "":
			fmt.Fprintf(&b, "[%d]", s.index)
		case b.Len() > 0:
			b.WriteString("." + s.name)
		default:
			b.WriteString(s.name)
		}
	}
	return b.String()
}

// wrong is the error of what stands at an offset.
func (w *shape) wrong(at int64, message string) error { return misread(w.data, at, w.where(), message) }

// next is where the next token begins.
func (w *shape) next() int64 {
	at := w.dec.InputOffset()
	for at < int64(len(w.data)) && strings.IndexByte(" \t\r\n,:", w.data[at]) >= 0 {
		at++
	}
	return at
}

// inside looks at what stands inside of where it is.
func (w *shape) inside(s step, t reflect.Type) error {
	w.path = append(w.path, s)
	err := w.value(t)
	w.path = w.path[:len(w.path)-1]
	return err
}

func (w *shape) value(t reflect.Type) error {
	for t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	at := w.next()
	token, err := w.dec.Token()
	if err != nil {
		return w.wrong(at, err.Error())
	}
	of := formOf(t)
	switch v := token.(type) {
	case json.Delim:
		switch {
		case v == '{' && (t.Kind() == reflect.Struct || t.Kind() == reflect.Map):
			return w.object(t, of)
		case v == '[' && t.Kind() == reflect.Slice:
			for i := 0; w.dec.More(); i++ {
				if err := w.inside(step{index: i}, t.Elem()); err != nil {
					return err
				}
			}
			_, err := w.dec.Token()
			return err
		case v == '{':
			return w.wrong(at, w.called()+" cannot be an object")
		}
		return w.wrong(at, w.called()+" cannot be a list")
	case string:
		if t.Kind() != reflect.String && !of.words {
			return w.wrong(at, w.called()+" cannot be words")
		}
		if of.named {
			if err := reflect.New(t).Interface().(encoding.TextUnmarshaler).UnmarshalText([]byte(v)); err != nil {
				return w.wrong(at, err.Error())
			}
		}
	case bool:
		if t.Kind() != reflect.Bool {
			return w.wrong(at, w.called()+" cannot be true or false")
		}
	case json.Number:
		if t.Kind() >= reflect.Int && t.Kind() <= reflect.Int64 {
			if _, err := v.Int64(); err != nil {
				return w.wrong(at, w.called()+" cannot be the number "+v.String())
			}
		} else if t.Kind() != reflect.Float64 && t.Kind() != reflect.Float32 {
			return w.wrong(at, w.called()+" cannot be a number")
		}
	}
	return nil // or null, as if it were not there
}

// called is the name of where it is.
func (w *shape) called() string {
	for i := len(w.path) - 1; i >= 0; i-- {
		if w.path[i].name != "" {
			return "“" + w.path[i].name + "”"
		}
	}
	return "a design"
}

func (w *shape) object(t reflect.Type, of *formOfType) error {
	seen := make([]string, 0, 8)
	for w.dec.More() {
		at := w.next()
		token, err := w.dec.Token()
		if err != nil {
			return w.wrong(at, err.Error())
		}
		name, _ := token.(string)
		inner, ok := of.members[name]
		if t.Kind() == reflect.Map {
			inner, ok = t.Elem(), true
		}
		w.path = append(w.path, step{name: name})
		switch {
		case !ok:
			return w.wrong(at, fmt.Sprintf("the format has no “%s” here", name))
		case slices.Contains(seen, name):
			return w.wrong(at, fmt.Sprintf("“%s” stands here twice", name))
		}
		seen = append(seen, name)
		if err := w.value(inner); err != nil {
			return err
		}
		w.path = w.path[:len(w.path)-1]
	}
	_, err := w.dec.Token()
	return err
}

// formOfType is what a text may have where a type is read.
type formOfType struct {
	members map[string]reflect.Type // of an object, letters' case and all
	words   bool                    // a string is read, too
	named   bool                    // it knows itself which strings there are
}

// forms keeps those of the types of the format, of which there are some dozens.
var forms sync.Map

func formOf(t reflect.Type) *formOfType {
	if of, ok := forms.Load(t); ok {
		return of.(*formOfType)
	}
	of := &formOfType{
		members: map[string]reflect.Type{}, words: t == reflect.TypeFor[phrase.Phrase]() || t == reflect.TypeFor[phrase.Body](),
		named: reflect.PointerTo(t).Implements(reflect.TypeFor[encoding.TextUnmarshaler]()),
	}
	if t.Kind() == reflect.Struct {
		addMembers(of.members, t)
	}
	forms.Store(t, of)
	return of
}

func addMembers(to map[string]reflect.Type, t reflect.Type) {
	for i := range t.NumField() {
		f := t.Field(i)
		tag, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		switch {
		case f.Anonymous && tag == "":
			addMembers(to, f.Type)
		case tag != "" && tag != "-":
			to[tag] = f.Type
		}
	}
}
