package main

import (
	"fmt"
	"net/url"
	"strings"
	"testing"
	"time"
)

// All lists of the workshop, read page by page, give each line once; a cursor of another list or of none is refused with its own problem.
func TestListsArePagedByCursors(t *testing.T) {
	h := startProgram(t)
	h.signIn()
	const intakes, sent = 230, 70
	for i := range intakes - 6 { // six are the demo's
		body := map[string]string{"name": fmt.Sprintf("Ward %d", i), "questions": "Your name\n"}
		if status := h.call("POST", "/api/intakes", body, nil); status != 201 {
			t.Fatal(status)
		}
	}
	for i := range sent - 30 { // thirty are the demo's
		body := fmt.Sprintf(`{"answers":{"name":"N%d","email":"n@n.example","room":"loft","day":"2026-12-26","time":"morning",`+
			`"players":2,"rules":true}}`, i)
		if status := h.call("POST", submissions, body, nil); status != 201 {
			t.Fatal(status)
		}
	}
	lists := map[string]int{"intakes": intakes, "people": 5, "submissions": sent, "messages": -1, "filings": -1, "invitations": 0}
	read := func(list, cursor string) (ids []int, next string) {
		var page struct {
			Entries []struct{ ID int }
			Next    string
		}
		if status := h.call("GET", "/api/"+list+"?cursor="+url.QueryEscape(cursor), nil, &page); status != 200 {
			t.Fatal(list, status)
		}
		for _, e := range page.Entries {
			ids = append(ids, e.ID)
		}
		return ids, page.Next
	}
	soon(t, time.Minute, "everything is filed", func() bool {
		ids, next := read("filings", "")
		if next == "" {
			return false
		}
		more, _ := read("filings", next)
		return len(ids)+len(more) >= sent
	})
	cursors := map[string]string{}
	for list, want := range lists {
		seen := map[int]bool{}
		for cursor := ""; ; {
			ids, next := read(list, cursor)
			for _, id := range ids {
				if seen[id] {
					t.Errorf("%s: line %d comes twice", list, id)
				}
				seen[id] = true
			}
			if next == "" {
				break
			}
			cursors[list], cursor = next, next
		}
		if want >= 0 && len(seen) != want {
			t.Errorf("%s: %d lines came, there are %d", list, len(seen), want)
		}
	}
	for list := range lists {
		for of, cursor := range cursors {
			if of != list {
				refuseCursor(t, h, list, cursor)
			}
		}
		for _, cursor := range []string{"x", "W10", "WyJub3doZXJlIiwxXQ", "2000", strings.Repeat("a", 300)} {
			refuseCursor(t, h, list, cursor)
		}
	}
	if len(cursors) < 4 {
		t.Errorf("only %d lists had a second page", len(cursors))
	}
}

func refuseCursor(t *testing.T, h *running, list, cursor string) {
	t.Helper()
	var p struct{ Type string }
	status := h.call("GET", "/api/"+list+"?cursor="+url.QueryEscape(cursor), nil, &p)
	if status != 422 || !strings.HasSuffix(p.Type, "/cursor") {
		t.Errorf("%s took the cursor %q: %d %s", list, cursor, status, p.Type)
	}
}
