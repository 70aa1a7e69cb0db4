package intake

import (
	"reflect"
	"strings"
)

// Whole makes lists that are missing empty ones, so that a design is written as its format says. It changes what the design
// holds in place.
func (d *Design) Whole() { whole(reflect.ValueOf(d).Elem()) }

func whole(v reflect.Value) {
	switch v.Kind() {
	case reflect.Pointer:
		if !v.IsNil() {
			whole(v.Elem())
		}
	case reflect.Slice:
		for i := range v.Len() {
			whole(v.Index(i))
		}
	case reflect.Struct:
		for i := range v.NumField() {
			field, tag := v.Field(i), v.Type().Field(i).Tag.Get("json")
			if !field.CanSet() || tag == "-" {
				continue
			}
			if field.Kind() == reflect.Slice && field.IsNil() && !strings.Contains(tag, ",omit") {
				field.Set(reflect.MakeSlice(field.Type(), 0, 0))
			}
			whole(field)
		}
	}
}
