package main

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"
)

// openIntake makes and opens an intake and gives its slug.
func (h *running) openIntake(name, questions string) string {
	h.t.Helper()
	var made struct {
		ID     int
		Design struct{ Slug string }
	}
	if status := h.call("POST", "/api/intakes", map[string]string{"name": name, "questions": questions}, &made); status != 201 {
		h.t.Fatal(status)
	}
	if status := h.call("PUT", fmt.Sprintf("/api/intakes/%d/opening", made.ID), map[string]bool{"open": true}, nil); status != 200 {
		h.t.Fatal(status)
	}
	return made.Design.Slug
}

func TestBadSubmissions(t *testing.T) {
	h := startProgram(t)
	for name, c := range map[string]struct {
		path, body, finding string
		status              int
	}{
		"missing":       {submissions, `{"answers":{}}`, "email", 422},
		"unknown":       {submissions, `{"answers":{"shoe_size":"44"}}`, "shoe_size", 422},
		"wrong type":    {submissions, `{"answers":{"players":{"a":[]}}}`, "players", 422},
		"no answers":    {submissions, `{}`, "name", 422},
		"null":          {submissions, `null`, "name", 422},
		"not JSON":      {submissions, `answers=1`, "", 400},
		"a list":        {submissions, `[1]`, "", 400},
		"nothing":       {submissions, ``, "", 400},
		"10 MB":         {submissions, `{"answers":{"name":"` + strings.Repeat("x", 10<<20) + `"}}`, "", 413},
		"no such form":  {"/api/public/intakes/nowhere/submissions", `{"answers":{}}`, "", 404},
		"odd slug":      {"/api/public/intakes/..%2f..%2fetc/submissions", `{"answers":{}}`, "", 404},
		"no such route": {"/api/public/whatever", `{}`, "", 404},
	} {
		var p problem
		if status := h.call("POST", c.path, c.body, &p); status != c.status || p.Message == "" {
			t.Errorf("%s: %d %+v, want %d", name, status, p, c.status)
		}
		if c.finding != "" &&
			!slices.ContainsFunc(p.Findings, func(f struct{ Path, Message string }) bool {
				return f.Path == c.finding &&
					f.Message != ""
			}) {
			t.Errorf("%s: no finding for %s in %+v", name, c.finding, p.Findings)
		}
	}
}

func TestHostileTextStaysText(t *testing.T) {
	h := startProgram(t)
	b := booking("evil@one.example")
	a := b["answers"].(map[string]any)
	a["name"] = "Eve\r\nBcc: victim@one.example\r\n\r\n../../etc/passwd <script>alert(1)</script> 🎻 שלום"
	b2 := map[string]any{
		"answers": map[string]any{
			"workshop": "../../../../tmp/evil\u0000/..\\x",
			"name":     a["name"],
			"email":    "evil@one.example",
			"address":  map[string]any{"street": a["name"], "postcode": "../x", "city": a["name"]},
			"lines":    []any{map[string]any{"part": a["name"], "quantity": 1, "price": "1.00"}},
		},
	}
	var r receipt
	if status := h.call("POST", submissions, b, nil); status != 201 {
		t.Fatal(status)
	}
	if status := h.call("POST", "/api/public/intakes/parts-order/submissions", b2, &r); status != 201 {
		t.Fatal(status)
	}
	soon(t, 15*time.Second, "both went out", func() bool { return len(h.mailTo("evil@one.example")) == 2 })
	for _, m := range h.mailTo("evil@one.example") {
		_, raw := h.try("GET", "/standin/mailbox/messages/"+m.ID, nil)
		head, body, _ := strings.Cut(string(raw), "\r\n\r\n")
		if strings.Contains(strings.ToLower(head), "\nbcc:") {
			t.Errorf("a header was injected:\n%s", head)
		}
		// Once in the plain text, where it is text, and escaped in the HTML.
		if strings.Count(body, "<script>") != 1 || !strings.Contains(body, "&lt;script&gt;") {
			t.Error("markup of an answer became markup of the message")
		}
	}
	if len(h.mailTo("victim@one.example")) > 0 {
		t.Error("a message went to an injected address")
	}
	soon(t, 10*time.Second, "the order is filed", func() bool {
		found := false
		filepath.Walk(filepath.Join(h.data, "cabinet"), func(path string, _ os.FileInfo, _ error) error {
			found = found || strings.Contains(path, r.Number)
			return nil
		})
		return found
	})
}

// Emoji and text that runs from right to left in every field that takes words, and the words come back from
// the respondent's document.
func TestEveryScriptInEveryField(t *testing.T) {
	h := startProgram(t)
	words := "🎻 שלום نور Łódź"
	answers := map[string]any{"email": "scripts@one.example", "instrument": "viola", "agree": true}
	answers["address"] = map[string]any{"street": words, "postcode": words, "city": words}
	answers["lines"] = []any{map[string]any{"work": "set_up", "note": words, "hours": "1", "rate": "48"}}
	answers["signature"] = map[string]any{"typed": words}
	for _, key := range []string{"name", "maker", "serial", "fault", "remarks"} {
		answers[key] = words
	}
	var r receipt
	if status := h.call("POST", "/api/public/intakes/repair-drop-off/submissions", map[string]any{"answers": answers}, &r); status != 201 {
		t.Fatal(status)
	}
	_, pdf := h.try("GET", r.Documents[0].Href, nil)
	file := filepath.Join(t.TempDir(), "r.pdf")
	if err := os.WriteFile(file, pdf, 0o600); err != nil {
		t.Fatal(err)
	}
	if out, err := exec.Command("qpdf", "--check", file).CombinedOutput(); err != nil {
		t.Errorf("%v %s", err, out)
	}
	text, err := exec.Command("pdftotext", file, "-").Output()
	if err != nil {
		t.Fatal(err)
	}
	for _, word := range strings.Fields(words) {
		if n := strings.Count(string(text), word); n < 6 {
			t.Errorf("%s stands %d times in the document, want 6 or more", word, n)
		}
	}
	soon(t, 20*time.Second, "the message came", func() bool { return len(h.mailTo("scripts@one.example")) == 1 })
	if m := h.mailTo("scripts@one.example")[0]; !strings.Contains(m.Subject, r.Number) {
		t.Errorf("the subject is %q", m.Subject)
	}
}
