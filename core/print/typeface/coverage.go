package typeface

import (
	"reflect"
	"unsafe"

	"github.com/go-text/typesetting/font"
	"github.com/go-text/typesetting/font/opentype/tables"
)

// mostListed is how many glyphs of a font's coverages are written out: one that was sent may name any number.
const mostListed = 1_000_000

// listCoverages writes out the ranges of glyphs that a font's lookups cover. The shaping library (typesetting 0.3.5, setDigest.addRange)
// loses ranges once one of its three filters is full, so that such lookups do nothing for many glyphs: Literata's kerning of To and We was
// one. Glyphs that are listed one by one are not lost. Its tables keep their coverage to themselves, which is why it is set from outside.
func listCoverages(f *font.Font) {
	l := lister{left: mostListed}
	for i := range f.GPOS.Lookups {
		for j, s := range f.GPOS.Lookups[i].Subtables {
			f.GPOS.Lookups[i].Subtables[j] = listed(&l, s)
		}
	}
	for i := range f.GSUB.Lookups {
		for j, s := range f.GSUB.Lookups[i].Subtables {
			f.GSUB.Lookups[i].Subtables[j] = listed(&l, s)
		}
	}
}

// lister writes coverages out while there are glyphs left.
type lister struct{ left int }

// listed is a subtable whose coverages are lists.
func listed[T any](l *lister, subtable T) T {
	l.list(reflect.ValueOf(&subtable).Elem())
	return subtable
}

var coverage = reflect.TypeFor[tables.Coverage]()

// list goes through what a value holds.
func (l *lister) list(v reflect.Value) {
	switch v.Kind() {
	case reflect.Interface:
		if v.IsNil() {
			return
		}
		held := v.Elem()
		if held.Kind() != reflect.Struct {
			return
		}
		if v.Type() == coverage {
			if ranges, ok := held.Interface().(tables.Coverage2); ok {
				if c, ok := l.glyphs(ranges); ok {
					v.Set(reflect.ValueOf(c))
				}
			}
			return
		}
		own := reflect.New(held.Type()).Elem()
		own.Set(held)
		l.list(own)
		v.Set(own)
	case reflect.Struct:
		for i := range v.NumField() {
			field := v.Field(i)
			if k := field.Kind(); k != reflect.Interface && k != reflect.Struct && k != reflect.Slice {
				continue
			}
			l.list(reflect.NewAt(field.Type(), unsafe.Pointer(field.UnsafeAddr())).Elem())
		}
	case reflect.Slice:
		if v.Type().Elem() == coverage {
			for i := range v.Len() {
				l.list(v.Index(i))
			}
		}
	}
}

// glyphs are those of ranges, in their order.
func (l *lister) glyphs(c tables.Coverage2) (out tables.Coverage1, ok bool) {
	for _, r := range c.Ranges {
		if r.EndGlyphID < r.StartGlyphID {
			return out, false
		}
		if l.left -= int(r.EndGlyphID-r.StartGlyphID) + 1; l.left < 0 {
			return out, false
		}
		for g := int(r.StartGlyphID); g <= int(r.EndGlyphID); g++ {
			out.Glyphs = append(out.Glyphs, tables.GlyphID(g))
		}
	}
	return out, true
}
