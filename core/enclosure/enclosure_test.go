package enclosure_test

import (
	"slices"
	"testing"

	"amberseal/core/ask/form"
	"amberseal/core/enclosure"
)

var asked = form.Form{Fields: []form.Field{
	{Key: "name", Kind: form.ShortText, Label: "Name"}, {Key: "plan", Kind: form.Upload, Label: "Plan"},
	{Key: "items", Kind: form.Rows, Label: "Items", Settings: form.Settings{Fields: []form.Field{
		{Key: "what", Kind: form.ShortText, Label: "What"}, {Key: "photo", Kind: form.Photo, Label: "Photo"},
	}}},
}}

// What an enclosure is must be one thing that is there: a document of the intake, files of a field that takes some, a file of the house, or
// the answers.
func TestWhatCanBeCarried(t *testing.T) {
	s := enclosure.Scope{Form: asked, Documents: []string{"receipt"}}
	for _, c := range []struct {
		e      enclosure.Enclosure
		faults int
	}{
		{enclosure.Enclosure{Document: "receipt"}, 0}, {enclosure.Enclosure{Document: "receipt", As: enclosure.DOCX}, 0},
		{enclosure.Enclosure{Files: "plan"}, 0}, {enclosure.Enclosure{Files: "items.photo"}, 0}, {enclosure.Enclosure{House: "map.pdf"}, 0},
		{enclosure.Enclosure{Answers: true, Link: &enclosure.Link{Days: 3, Openings: 1}}, 0},
		{enclosure.Enclosure{}, 1}, {enclosure.Enclosure{Document: "receipt", Answers: true}, 1},
		{enclosure.Enclosure{Document: "gone"}, 1},
		{enclosure.Enclosure{Files: "gone"}, 1}, {enclosure.Enclosure{Files: "name"}, 1}, {enclosure.Enclosure{Files: "items"}, 1},
		{enclosure.Enclosure{Document: "receipt", Link: &enclosure.Link{Days: -1}}, 1},
		{enclosure.Enclosure{Document: "receipt", Link: &enclosure.Link{Openings: -1}}, 1},
	} {
		if l := enclosure.Check("notices/n/attach", []enclosure.Enclosure{c.e}, s); l.Faults() != c.faults {
			t.Errorf("%+v: %v", c.e, l)
		}
	}
}

// Files of a column are those of all rows, in their order, and nothing is carried where nothing is there.
func TestWhatIsCarried(t *testing.T) {
	answers := form.Load(asked, form.Raw{
		"plan": []byte(`[]`),
		"items": []byte(`[{"what":"a","photo":[{"id":"1","name":"1.jpg"}]},{"what":"b"},` +
			`{"what":"c","photo":[{"id":"2","name":"2.jpg"}]}]`),
	})
	var names []string
	for _, f := range enclosure.Sent(asked, answers, "items.photo") {
		names = append(names, f.Name)
	}
	if !slices.Equal(names, []string{"1.jpg", "2.jpg"}) {
		t.Errorf("of all rows %q were sent", names)
	}
	made := func(key string) bool { return key == "receipt" }
	for _, c := range []struct {
		e    enclosure.Enclosure
		want bool
	}{
		{enclosure.Enclosure{Document: "receipt"}, true}, {enclosure.Enclosure{Document: "sheet"}, false},
		{enclosure.Enclosure{Files: "plan"}, false}, {enclosure.Enclosure{Files: "items.photo"}, true},
		{enclosure.Enclosure{Answers: true}, true}, {enclosure.Enclosure{House: "map.pdf"}, true},
	} {
		if got := c.e.Filled(asked, answers, made); got != c.want {
			t.Errorf("%+v is filled: %v", c.e, got)
		}
	}
	list := []enclosure.Enclosure{{Document: "a", As: enclosure.DOCX}, {Files: "plan"}, {Document: "b"}, {Document: "a"}}
	if got := enclosure.Documents(list); !slices.Equal(got, []string{"a", "b"}) {
		t.Errorf("documents are %q", got)
	}
	if got := enclosure.Forms(list, "a"); !slices.Equal(got, []enclosure.Form{enclosure.PDF, enclosure.DOCX}) {
		t.Errorf("forms are %q", got)
	}
	if name, is := enclosure.FixedName(enclosure.FixedFile("map.pdf")); !is || name != "map.pdf" {
		t.Errorf("a fixed file is %q", name)
	}
	if _, is := enclosure.FixedName("bench.jpg"); is {
		t.Error("a picture is a fixed file")
	}
}
