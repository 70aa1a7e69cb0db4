package web

import (
	"maps"
	"slices"
	"testing"

	"github.com/getkin/kin-openapi/openapi3"

	"amberseal/core/ask/form"
	"amberseal/core/print/paper"
	"amberseal/core/settings"
)

// The description of the API says of each kind what the tables of kinds say.
func TestKindsAreDescribed(t *testing.T) {
	doc, err := openapi3.NewLoader().LoadFromFile("api/openapi.yaml")
	if err != nil {
		t.Fatal(err)
	}
	for schema, x := range map[string]struct {
		kinds string
		of    settings.Kinded
	}{"Field": {"FieldKind", form.Field{}}, "Block": {"BlockKind", paper.Block{}}} {
		_, has := x.of.KindSettings()
		var named []string
		for _, k := range doc.Components.Schemas[x.kinds].Value.Enum {
			named = append(named, k.(string))
		}
		slices.Sort(named)
		if want := slices.Sorted(maps.Keys(has)); !slices.Equal(named, want) {
			t.Errorf("%s are %v, want %v", x.kinds, named, want)
		}
		for kind, want := range has {
			var names []string
			if p := doc.Components.Schemas[schema].Value.Properties[kind]; p != nil {
				names = slices.Sorted(maps.Keys(p.Value.Properties))
			}
			if want = slices.Sorted(slices.Values(want)); !slices.Equal(names, want) {
				t.Errorf("%s of kind %s is described with %v, want %v", schema, kind, names, want)
			}
		}
	}
}
