package schema_test

import (
	"bytes"
	"fmt"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"amberseal/core/form"
	"amberseal/core/schema"
)

func ExampleRead() {
	title, fields, err := schema.Read([]byte(`{"title": "Booking", "type": "object", "required": ["day"], "properties": {"day": {"type": "string", "format": "date", "title": "Which day?"}}}`))
	fmt.Println(title, fields[0].Kind, fields[0].Label, fields[0].Required, err)
	// Output: Booking date Which day? true <nil>
}

// A form's schema takes what the form takes and refuses what it refuses, by a general-purpose validator; read back, it gives
// the same kinds.
func TestTheSchemaIsTheForm(t *testing.T) {
	f := form.Form{Fields: []form.Field{
		{Key: "name", Kind: form.ShortText, Label: "Name", Required: true, Longest: 5}, {Key: "day", Kind: form.Date, Label: "Day"}, {Key: "many", Kind: form.WholeNumber, Label: "How many", Min: "1", Max: "9"},
		{Key: "which", Kind: form.OneOf, Label: "Which", Choices: []form.Choice{{Value: "a", Label: "A"}, {Value: "b", Label: "B"}}},
		{Key: "rows", Kind: form.Rows, Label: "Rows", Most: 2, Fields: []form.Field{{Key: "what", Kind: form.ShortText, Label: "What"}}},
	}}
	data, err := schema.Write("Test", f)
	if err != nil {
		t.Fatal(err)
	}
	described, err := jsonschema.UnmarshalJSON(bytes.NewReader(data))
	if err != nil {
		t.Fatal(err)
	}
	c := jsonschema.NewCompiler()
	if err := c.AddResource("form.json", described); err != nil {
		t.Fatal(err)
	}
	s, err := c.Compile("form.json")
	if err != nil {
		t.Fatal(err)
	}
	for answers, fine := range map[string]bool{
		`{"name":"Ada","day":"2026-11-24","which":"a","rows":[{"what":"x"}]}`: true, `{"name":"Ada"}`: true,
		`{}`: false, `{"name":"Adamantine"}`: false, `{"name":"Ada","which":"c"}`: false, `{"name":"Ada","rows":[{},{},{}]}`: false, `{"name":"Ada","day":7}`: false,
	} {
		v, err := jsonschema.UnmarshalJSON(bytes.NewReader([]byte(answers)))
		if err != nil {
			t.Fatal(err)
		}
		if err := s.Validate(v); (err == nil) != fine {
			t.Errorf("%s: %v", answers, err)
		}
	}
	_, back, err := schema.Read(data)
	if err != nil || len(back) != len(f.Fields) {
		t.Fatal(back, err)
	}
	for i, x := range back {
		if x.Kind != f.Fields[i].Kind || x.Label != f.Fields[i].Label || x.Required != f.Fields[i].Required {
			t.Errorf("%s came back as %+v", f.Fields[i].Key, x)
		}
	}
}
