package typeset_test

import (
	"errors"
	"strings"
	"testing"

	"amberseal/core/print/typeset"
)

// A file of a few words that asks for the work of years ends with its place named, and one that nobody waits for ends at once.
func TestWorkHasAnEnd(t *testing.T) {
	note := &typeset.Note{Nodes: []typeset.Node{paragraph(strings.Repeat("words and words ", 700))}}
	var noted []typeset.Run
	for range 20_000 {
		noted = append(noted, typeset.Run{Text: "x ", Note: note})
	}
	bomb := paragraph("")
	bomb.Runs, bomb.Block = noted, "bomb"
	endless := paragraph(strings.Repeat("words ", 100_000))
	endless.Block = "bomb"
	for what, body := range map[string][]typeset.Node{"notes": {paragraph("a"), bomb}, "one paragraph": {paragraph("a"), endless}} {
		_, err := typeset.Set(&typeset.Document{Language: "en-GB", Page: a4, Body: body, Work: 500_000})
		if long, is := errors.AsType[typeset.TooLong](err); !is || long.Block != "bomb" {
			t.Errorf("%s: %v", what, err)
		}
	}
	done := make(chan struct{})
	close(done)
	left := &typeset.Document{Language: "en-GB", Page: a4, Done: done, Body: []typeset.Node{paragraph("a")}}
	if _, err := typeset.Set(left); !errors.Is(err, typeset.ErrStopped) {
		t.Errorf("stopped: %v", err)
	}
	if pages, err := typeset.Set(&typeset.Document{Language: "en-GB", Page: a4, Body: []typeset.Node{paragraph("a")}}); err != nil ||
		len(pages.Pages) != 1 {
		t.Errorf("afterwards: %v", err)
	}
}
