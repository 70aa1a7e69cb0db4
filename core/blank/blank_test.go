package blank_test

import (
	"errors"
	"fmt"
	"testing"

	"amberseal/core/ask/form"
	"amberseal/core/blank"
	"amberseal/core/print/typeset"
	"amberseal/core/words/house"
)

func nothing(string) ([]byte, error) { return nil, errors.New("there is none") }

func ExampleForm() {
	doc := blank.Form(
		"Booking", form.Form{Fields: []form.Field{{Key: "name", Kind: form.ShortText, Label: "Your name"}}}, house.New(), nothing,
	)
	for _, n := range doc.Body {
		if e, ok := n.(*typeset.Entry); ok {
			fmt.Println(e.Name, e.Label)
		}
	}
	// Output: name Your name
}

// Every field of every kind has its room on paper, under the name by which a filled copy is read; what is calculated and
// what is hidden has none.
func TestEveryQuestionHasItsRoom(t *testing.T) {
	fields := []form.Field{
		{
			Key:   "a",
			Kind:  form.LongText,
			Label: "A",
		}, {Key: "b", Kind: form.OneOf, Label: "B",
			Settings: form.Settings{Choices: []form.Choice{{Value: "x", Label: "X"}, {Value: "y", Label: "Y"}}}},
		{Key: "c", Kind: form.SeveralOf, Label: "C", Settings: form.Settings{Choices: []form.Choice{{Value: "x", Label: "X"}}}},
		{
			Key:   "d",
			Kind:  form.YesNo,
			Label: "D",
		}, {Key: "e", Kind: form.Name, Label: "E"}, {Key: "f", Kind: form.Signature, Label: "F"}, {Key: "g", Kind: form.Rating, Label: "G"},
		{Key: "h", Kind: form.Hidden, Label: "H"}, {Key: "i", Kind: form.Money, Label: "I", Formula: "1"},
		{
			Key:      "r",
			Kind:     form.Rows,
			Label:    "R",
			Settings: form.Settings{Most: 2, Fields: []form.Field{{Key: "k", Kind: form.ShortText, Label: "K"}}},
		},
	}
	entries := map[string]int{}
	var walk func(nodes []typeset.Node)
	walk = func(nodes []typeset.Node) {
		for _, n := range nodes {
			switch n := n.(type) {
			case *typeset.Entry:
				entries[n.Name]++
				if n.Label == "" {
					t.Errorf("%s says nothing to those who cannot see it", n.Name)
				}
			case *typeset.Table:
				for _, r := range n.Rows {
					for _, c := range r.Cells {
						walk(c.Nodes)
					}
				}
			}
		}
	}
	walk(blank.Form("All", form.Form{Fields: fields}, house.New(), nothing).Body)
	for name, want := range map[string]int{"a": 1, "b": 2, "c.x": 1, "d": 2, "e.given": 1, "e.family": 1, "f": 1, "g": 5, "h": 0, "i": 0} {
		if entries[name] != want {
			t.Errorf("%s has %d entries, want %d: %v", name, entries[name], want, entries)
		}
	}
	rows := 0
	for name, n := range entries {
		if len(name) > 2 && name[:1] == "r" {
			rows += n
		}
	}
	if rows != 2 {
		t.Errorf("the rows have %d entries: %v", rows, entries)
	}
}
