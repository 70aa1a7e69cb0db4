// Package settings writes and reads things of many kinds whose settings stand under the name of their kind in JSON:
//
//	{"key": "fee", "kind": "money", "money": {"min": "0", "currency": "EUR"}}
//
// In come plain structs, out goes JSON and back. What a kind cannot have is neither written nor read.
package settings

import (
	"bytes"
	"encoding/json"
	"reflect"
	"slices"
	"strings"
)

// Kinded is a thing with settings. Its zero value tells which names its settings have in the format, and which of them each kind has.
type Kinded interface {
	KindSettings() (settings reflect.Type, of map[string][]string)
}

// Append puts settings under the name of the kind at the end of a JSON object; nothing where there are none. has are the names that the
// kind has.
func Append(object []byte, kind string, settings any, has []string) ([]byte, error) {
	v, out := reflect.ValueOf(settings), []byte{}
	for i := range v.NumField() {
		name, omits, _ := strings.Cut(v.Type().Field(i).Tag.Get("json"), ",")
		if !slices.Contains(has, name) || omits != "" && empty(v.Field(i)) {
			continue
		}
		value, err := json.Marshal(v.Field(i).Interface())
		if err != nil {
			return nil, err
		}
		out = append(append(append(out, `,"`+name+`"`...), ':'), value...)
	}
	if len(out) == 0 {
		return object, nil
	}
	out[0] = '{'
	object = append(bytes.TrimSuffix(object, []byte("}")), `,"`+kind+`":`...)
	return append(append(object, out...), '}', '}'), nil
}

// empty tells values that encoding/json leaves out under omitempty or omitzero.
func empty(v reflect.Value) bool {
	if k := v.Kind(); k == reflect.Slice || k == reflect.Map {
		return v.Len() == 0
	}
	return v.IsZero()
}

// Read reads what stands in a JSON object under the name of the kind into settings, a pointer to a struct.
func Read(object []byte, kind string, settings any) error {
	var members map[string]json.RawMessage
	if err := json.Unmarshal(object, &members); err != nil {
		return err
	}
	if own, ok := members[kind]; ok {
		return json.Unmarshal(own, settings)
	}
	return nil
}
