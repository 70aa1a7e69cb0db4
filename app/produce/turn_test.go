package produce_test

import (
	"slices"
	"strings"
	"testing"

	"amberseal/app/produce"
	"amberseal/core/print/paper"
)

// A file that is turned into a designed document says the same words: held against the PDF of the file itself.
func TestTurnedDocumentsSayTheSame(t *testing.T) {
	d, f := facts(t, "hire-agreement", nil)
	x, left, err := produce.Turn(d, "typed", pictures)
	if err != nil || len(left) != 1 || !strings.HasPrefix(left[0], "a picture or code in a cell of a table") {
		t.Fatal(left, err)
	}
	x.Key = "turned"
	if l := x.Check(d.Form, exists); l.Faults() > 0 {
		t.Fatal(l)
	}
	d.Documents = append(d.Documents, x)
	for _, guardian := range []bool{true, false} {
		if !guardian {
			delete(f.Answers, "guardian")
		}
		said := func(key string) []string {
			text := tool(t, "pdftotext", write(t, compose(t, d, key, f)), "-")
			words := strings.FieldsFunc(text, func(r rune) bool { return strings.ContainsRune(" \n\f\t\u00A0·_", r) })
			slices.Sort(words)
			return slices.Compact(words) // what runs on each page is said as often as there are pages
		}
		was, is := said("typed"), said("turned")
		for _, w := range was {
			if !slices.Contains(is, w) && w != "2" {
				t.Errorf("“%s” is not said any more", w)
			}
		}
		for _, w := range is {
			if !slices.Contains(was, w) && w != "3" {
				t.Errorf("“%s” was not said before", w)
			}
		}
	}
	kinds := map[paper.BlockKind]int{}
	for _, b := range x.Blocks {
		kinds[b.Kind]++
	}
	if kinds[paper.Heading] < 8 || kinds[paper.FixedTable] != 2 || kinds[paper.Group] != 1 {
		t.Error(kinds)
	}
}
