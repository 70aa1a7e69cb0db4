package intake_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"

	"amberseal/core/ask/form"
	"amberseal/core/intake"
	"amberseal/core/words/phrase"
)

// leaves visits every word, number and switch of a JSON value with its place; set changes it there.
func leaves(place string, value any, set func(any), visit func(place string, value any, set func(any))) {
	switch v := value.(type) {
	case map[string]any:
		for key, x := range v {
			leaves(place+"/"+key, x, func(to any) { v[key] = to }, visit)
		}
	case []any:
		for i, x := range v {
			leaves(fmt.Sprint(place, "/", i), x, func(to any) { v[i] = to }, visit)
		}
	default:
		visit(place, value, set)
	}
}

// Whatever one changes in a design, the difference is told; what is the same is told as the same.
func TestEveryChangeIsTold(t *testing.T) {
	for _, slug := range []string{"hire-agreement", "gift", "repair-drop-off"} {
		d := demo(t, slug)
		d.Opening = intake.Opening{
			From:    "2026-12-01T09:00",
			Until:   "2026-12-24T18:00",
			Limit:   40,
			OnePer:  "email",
			Sites:   []string{"https://www.place.example"},
			Onward:  "https://www.place.example/thanks",
			Shown:   d.Documents[0].Key,
			Correct: true,
			Invited: true,
			Guard:   "strict",
		}
		words := phrase.Body{{Spans: phrase.Phrase{{Text: "Thank you."}}}}
		d.Opening.Thanks, d.Opening.Paused = words, words
		d.Form.Intro, d.Form.Translations = "Welcome.", map[string]form.Texts{"de": {"intro": "Willkommen."}}
		whole := text(t, d)
		if said := intake.Compare(d, d); len(said) > 0 {
			t.Fatalf("%s: the same is told as different: %q", slug, said)
		}
		var tree any
		if err := json.Unmarshal([]byte(whole), &tree); err != nil {
			t.Fatal(err)
		}
		changed := 0
		leaves("", tree, nil, func(place string, value any, set func(any)) {
			switch v := value.(type) {
			case string:
				set(v + "x")
			case bool:
				set(!v)
			case float64:
				set(v + 1)
			}
			data, err := json.Marshal(tree)
			set(value)
			after, problem := intake.Read(data)
			if err != nil || problem != nil { // the version of the format, a kind of inline that is not there
				return
			}
			changed++
			said := intake.Compare(d, after)
			if back := intake.Compare(after, d); len(said) == 0 || len(back) == 0 {
				t.Errorf("%s: changing %s is not told: %q, back %q", slug, place, said, back)
			}
			for _, s := range said {
				if !strings.HasSuffix(s, ".") || strings.Contains(s, "%!") {
					t.Errorf("%s: %s is told as %q", slug, place, s)
				}
			}
		})
		if changed < 100 {
			t.Errorf("%s: only %d changes tried", slug, changed)
		}
	}
}

// Of two changes to the same field, and to the same document, both are told.
func TestNoChangeHidesAnother(t *testing.T) {
	d := demo(t, "repair-drop-off")
	whole := text(t, d)
	var tree map[string]any
	if err := json.Unmarshal([]byte(whole), &tree); err != nil {
		t.Fatal(err)
	}
	read := func() (intake.Design, bool) {
		data, err := json.Marshal(tree)
		if err != nil {
			t.Fatal(err)
		}
		x, err := intake.Read(data)
		return x, err == nil
	}
	tried := 0
	for _, x := range tree["form"].(map[string]any)["fields"].([]any) {
		f := x.(map[string]any)
		label := f["label"]
		f["label"] = fmt.Sprint(label, "!")
		called, _ := read()
		alone := len(intake.Compare(d, called))
		leaves("", f, nil, func(place string, value any, set func(any)) {
			v, ok := value.(string)
			if !ok || place == "/label" || place == "/key" || place == "/kind" {
				return
			}
			set(v + "x")
			both, ok := read()
			set(value)
			if said := intake.Compare(d, both); ok && len(said) <= alone {
				t.Errorf("besides the label %s of %s changed, and told is %q", place, f["key"], said)
			}
			tried++
		})
		f["label"] = label
	}
	if tried < 20 {
		t.Errorf("only %d changes were tried", tried)
	}
	other := d
	other.Documents = slices.Clone(d.Documents)
	x := &other.Documents[0]
	x.FileName, x.Blocks = phrase.Parse("other"), append(slices.Clone(x.Blocks[:1]), x.Blocks[2:]...)
	x.Blocks[0].Caption = phrase.Parse("other")
	said := strings.Join(intake.Compare(d, other), " ")
	for _, want := range []string{"file name", "line 1 (", "is another", "line 2 (", "is gone"} {
		if !strings.Contains(said, want) {
			t.Errorf("told is %q, without %q", said, want)
		}
	}
}

// A design of which lists are missing is written with empty ones, as its format says.
func TestMissingListsAreWritten(t *testing.T) {
	d, err := intake.Read(
		[]byte(
			`{"amberseal":1,"name":"N","slug":"n","form":{},"documents":[{"key":"d","name":"D","blocks":[{"id":"t","kind":"table"}]}],` +
				`"notices":[{"key":"n","name":"N"}]}`,
		),
	)
	if err != nil {
		t.Fatal(err)
	}
	if d.Whole(); strings.Contains(text(t, d), "null") {
		t.Error(text(t, d))
	}
}
