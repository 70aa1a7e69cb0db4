package intake

import (
	"bytes"
	"encoding"
	"encoding/json"
	"fmt"
	"io"
	"reflect"
	"slices"
	"strings"
	"sync"

	"amberseal/core/foreign/match"
	"amberseal/core/settings"
	"amberseal/core/words/phrase"
)

// shape is what a text may have at a place.
type shape struct {
	sort    sort
	members map[string]*shape  // of an object, letters' case and all
	kinds   []string           // of an object with settings: members of which only the one that its kind names may stand
	item    *shape             // of a list or a map
	words   bool               // of a list or object: a string is read, too
	names   func(string) error // of a text: which there are; any when nil
}

// sort is what kind of value it is.
type sort int

const (
	object sort = iota
	list
	mapping
	text
	flag
	integer
	decimal
)

// checkShape holds a text against a version of the format: every name must be one of those of its place, once, and every value of its
// sort.
func checkShape(data []byte, version int) error {
	w := &reading{data: data, dec: json.NewDecoder(bytes.NewReader(data))}
	w.dec.UseNumber()
	if err := w.value(shapeOf(version)); err != nil {
		return err
	}
	if _, err := w.dec.Token(); err != io.EOF {
		return misread(data, w.next(), "", "something follows after the design")
	}
	return nil
}

// reading walks over a text and its shape side by side.
type reading struct {
	data []byte
	dec  *json.Decoder
	path []step // to where it is
}

// step is a member of an object, or a place in a list.
type step struct {
	name  string
	index int
}

func (w *reading) where() string {
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
func (w *reading) wrong(at int64, message string) error {
	return misread(w.data, at, w.where(), message)
}

// next is where the next token begins.
func (w *reading) next() int64 {
	at := w.dec.InputOffset()
	for at < int64(len(w.data)) && strings.IndexByte(" \t\r\n,:", w.data[at]) >= 0 {
		at++
	}
	return at
}

func (w *reading) value(s *shape) error {
	at := w.next()
	token, err := w.dec.Token()
	if err != nil {
		return w.wrong(at, err.Error())
	}
	switch v := token.(type) {
	case json.Delim:
		return w.nested(at, v, s)
	case string:
		if s.sort != text && !s.words {
			return w.wrong(at, w.called()+" cannot be words")
		}
		if s.names != nil {
			if err := s.names(v); err != nil {
				return w.wrong(at, err.Error())
			}
		}
	case bool:
		if s.sort != flag {
			return w.wrong(at, w.called()+" cannot be true or false")
		}
	case json.Number:
		switch s.sort {
		case integer:
			if _, err := v.Int64(); err != nil {
				return w.wrong(at, w.called()+" cannot be the number "+v.String())
			}
		case decimal:
		default:
			return w.wrong(at, w.called()+" cannot be a number")
		}
	}
	return nil // or null, as if it were not there
}

func (w *reading) nested(at int64, begin json.Delim, s *shape) error {
	switch {
	case begin == '{' && (s.sort == object || s.sort == mapping):
		return w.object(s)
	case begin == '[' && s.sort == list:
		for i := 0; w.dec.More(); i++ {
			w.path = append(w.path, step{index: i})
			if err := w.value(s.item); err != nil {
				return err
			}
			w.path = w.path[:len(w.path)-1]
		}
		_, err := w.dec.Token()
		return err
	case begin == '{':
		return w.wrong(at, w.called()+" cannot be an object")
	}
	return w.wrong(at, w.called()+" cannot be a list")
}

// called is the name of where it is.
func (w *reading) called() string {
	for i := len(w.path) - 1; i >= 0; i-- {
		if w.path[i].name != "" {
			return "“" + w.path[i].name + "”"
		}
	}
	return "a design"
}

func (w *reading) object(s *shape) error {
	seen := make([]string, 0, 8)
	kind, own, ownAt := "", "", int64(0)
	for w.dec.More() {
		at := w.next()
		token, err := w.dec.Token()
		if err != nil {
			return w.wrong(at, err.Error())
		}
		name, _ := token.(string)
		inner, ok := s.members[name]
		if s.sort == mapping {
			inner, ok = s.item, true
		}
		w.path = append(w.path, step{name: name})
		switch {
		case !ok:
			return w.wrong(at, fmt.Sprintf("the format has no “%s” here", name))
		case slices.Contains(seen, name):
			return w.wrong(at, fmt.Sprintf("“%s” stands here twice", name))
		case own != "" && slices.Contains(s.kinds, name):
			return w.wrong(at, fmt.Sprintf("settings of “%s” and of “%s” cannot stand beside each other", own, name))
		case slices.Contains(s.kinds, name):
			own, ownAt = name, at
		}
		seen = append(seen, name)
		from := w.next()
		if err := w.value(inner); err != nil {
			return err
		}
		if name == "kind" && s.kinds != nil {
			_ = json.Unmarshal(w.data[from:w.dec.InputOffset()], &kind) // it was read as words
		}
		w.path = w.path[:len(w.path)-1]
	}
	if own != "" && own != kind {
		w.path = append(w.path, step{name: own})
		return w.wrong(ownAt, fmt.Sprintf("settings of “%s” stand beside the kind “%s”", own, kind))
	}
	_, err := w.dec.Token()
	return err
}

// shapes keeps those of the versions.
var shapes sync.Map

func shapeOf(version int) *shape {
	if s, ok := shapes.Load(version); ok {
		return s.(*shape)
	}
	s := describing{types: map[reflect.Type]*shape{}}.of(reflect.TypeFor[Design]())
	if version < Version {
		s = past(version)
	}
	shapes.Store(version, s)
	return s
}

// describing makes the shape of the format as this program has it from its types.
type describing struct{ types map[reflect.Type]*shape }

func (d describing) of(t reflect.Type) *shape {
	for t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	if s, ok := d.types[t]; ok {
		return s
	}
	s := &shape{}
	d.types[t] = s // before what is inside: blocks stand in blocks
	switch t.Kind() {
	case reflect.Struct:
		s.members = map[string]*shape{}
		d.members(s, t)
		s.words = t == reflect.TypeFor[match.Match]()
	case reflect.Slice:
		s.sort, s.item = list, d.of(t.Elem())
		s.words = t == reflect.TypeFor[phrase.Phrase]() || t == reflect.TypeFor[phrase.Body]()
	case reflect.Map:
		s.sort, s.item = mapping, d.of(t.Elem())
	case reflect.Bool:
		s.sort = flag
	case reflect.Int:
		s.sort = integer
	case reflect.Float64:
		s.sort = decimal
	default:
		s.sort = text
		if reflect.PointerTo(t).Implements(reflect.TypeFor[encoding.TextUnmarshaler]()) {
			s.names = func(v string) error {
				return reflect.New(t).Interface().(encoding.TextUnmarshaler).UnmarshalText([]byte(v))
			}
		}
	}
	return s
}

func (d describing) members(s *shape, t reflect.Type) {
	for i := range t.NumField() {
		f := t.Field(i)
		tag, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		switch {
		case f.Anonymous && tag == "":
			d.members(s, f.Type)
		case tag != "" && tag != "-":
			s.members[tag] = d.of(f.Type)
		}
	}
	kinded, ok := reflect.Zero(t).Interface().(settings.Kinded)
	if !ok {
		return
	}
	of, names := kinded.KindSettings()
	all := &shape{members: map[string]*shape{}}
	d.members(all, of)
	for kind, has := range names {
		own := &shape{members: map[string]*shape{}}
		for _, name := range has {
			own.members[name] = all.members[name]
		}
		s.members[kind], s.kinds = own, append(s.kinds, kind)
	}
}
