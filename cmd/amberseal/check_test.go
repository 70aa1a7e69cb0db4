package main

import (
	"bytes"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"amberseal/core/print/seal"
)

// genuine is what the house says of a document to anybody.
type genuine struct {
	House, Name, Number, Code, SHA256 string
	Revision, Latest, Pages, Size     int
}

// deposits is an intake whose document says where it can be checked, in words and in a code.
const deposits = `{"name": "Deposits", "questions": "", "design": {"amberseal": 1, "slug": "deposits", "name": "Deposits", "number": ` +
	`"D-{n}",
  "form": {"fields": [{"key": "what", "kind": "short_text", "label": "What"}]}, "opening": {"correct": true, "shown": "slip"},
  "documents": [{"key": "slip", "name": "Slip", "title": "Slip {{@number}}", "fileName": "Slip {{@number}}", "blocks": [
    {"id": "w", "kind": "text", "body": "{{what}}"}, {"id": "a", "kind": "text", "body": "Check: {{@check}}"}, {"id": "c", "kind": ` +
	`"code", "text": "{{@check}}", "width": 40}]}],
  "notices": [], "filings": []}}`

// The house knows a document by the code on it and by its bytes; a file that differs by one byte, a guessed code, a trial and a
// document that was replaced are told apart. zbarimg reads the code off the drawn page.
func TestADocumentIsProvenGenuine(t *testing.T) {
	h := startProgram(t, "--empty")
	h.signIn()
	var made struct{ ID int }
	if status := h.call("POST", "/api/intakes", deposits, &made); status != 201 {
		t.Fatal("the intake gives ", status)
	}
	var p problem
	if status := h.call("PUT", fmt.Sprintf("/api/intakes/%d/opening", made.ID), map[string]bool{"open": true}, &p); status != 200 {
		t.Fatal("opening gives ", status, p)
	}
	send := func(body string) (pdf []byte) {
		var r receipt
		if status := h.call("POST", "/api/public/intakes/deposits/submissions", body, &r); status != 201 || len(r.Documents) != 1 {
			t.Fatal("sending gives ", status, r)
		}
		_, pdf = h.try("GET", r.Documents[0].Href, nil)
		return pdf
	}
	pdf := send(`{"answers": {"what": "A violin"}}`)
	code := h.codeOf(t, pdf)
	var g genuine
	if status := h.call("GET", "/api/public/checks/"+strings.ToLower(strings.ReplaceAll(code, "-", "")), nil, &g); status != 200 ||
		g.Code != code ||
		g.Name != "Slip" ||
		g.Size != len(pdf) ||
		g.Pages != 1 {
		t.Errorf("by its code the document is %d %+v", status, g)
	}
	byFile := func(data []byte) (int, genuine) {
		var g genuine
		return h.call("POST", "/api/public/checks", string(data), &g, "Content-Type", "application/octet-stream"), g
	}
	if status, g := byFile(pdf); status != 200 || g.Code != code || g.Revision != g.Latest {
		t.Errorf("by its bytes the document is %d %+v", status, g)
	}
	for _, other := range [][]byte{append(bytes.Clone(pdf), '\n'), pdf[:len(pdf)-1],
		bytes.Replace(pdf, []byte("Slip"), []byte("Slap"), 1), {}, bytes.Repeat([]byte("x"), 3<<20)} {
		if status, _ := byFile(other); status != 404 {
			t.Errorf("a file of %d bytes that was not made here gives %d", len(other), status)
		}
	}
	for _, guess := range []string{"0000-0000-0000-0000", "x", "%00", "..%2F..%2Fapi", seal.Trial, strings.Repeat("A", 60)} {
		if status, answer := h.try("GET", "/api/public/checks/"+guess, nil); status != 404 {
			t.Errorf("the code %q gives %d %s", guess, status, answer)
		}
	}

	var list struct{ Entries []struct{ ID int } }
	h.call("GET", "/api/submissions", nil, &list)
	var s struct {
		Documents []struct{ Href, Check string }
	}
	h.call("GET", fmt.Sprintf("/api/submissions/%d", list.Entries[0].ID), nil, &s)
	if len(s.Documents) != 1 || s.Documents[0].Check != "/check/"+code {
		t.Errorf("the register shows %+v", s.Documents)
	}
	var r struct {
		Correct   string
		Documents []struct{ Href string }
	}
	if h.call("POST", "/api/public/intakes/deposits/submissions", `{"answers": {"what": "A viola"}}`, &r); r.Correct == "" {
		t.Fatal("it cannot be corrected")
	}
	token := r.Correct[strings.LastIndex(r.Correct, "=")+1:]
	var first genuine
	soon(t, 10*time.Second, "the second document is known", func() bool {
		_, pdf = h.try("GET", r.Documents[0].Href, nil)
		status, g := byFile(pdf)
		first = g
		return status == 200
	})
	send(`{"answers": {"what": "A viola and its bow"}, "correct": "` + token + `"}`)
	var after genuine
	if h.call("GET", "/api/public/checks/"+first.Code, nil, &after); after.Revision != 1 || after.Latest != 2 ||
		after.SHA256 != first.SHA256 {
		t.Errorf("after a correction the first document is %+v", after)
	}

	status, preview := h.try("POST", "/api/public/intakes/deposits/preview", []byte(`{"answers": {"what": "A trial"}}`))
	if status != 200 || !strings.HasSuffix(h.addressOn(t, preview), "/check/"+seal.Trial) {
		t.Errorf("a preview, %d, says it can be checked at %s", status, h.addressOn(t, preview))
	}
}

// codeOf is the code that a document says, which must lead to this house.
func (h *running) codeOf(t *testing.T, pdf []byte) string {
	t.Helper()
	code, ours := strings.CutPrefix(h.addressOn(t, pdf), h.url+"/check/")
	if tidy, ok := seal.Tidy(code); !ours || !ok || tidy != code {
		t.Fatalf("the document says %s", h.addressOn(t, pdf))
	}
	return code
}

// addressOn reads the address off the first page, as zbarimg sees it and as pdftotext does, which must be the same.
func (h *running) addressOn(t *testing.T, pdf []byte) string {
	t.Helper()
	file := filepath.Join(t.TempDir(), "document.pdf")
	if err := os.WriteFile(file, pdf, 0o600); err != nil {
		t.Fatal(err)
	}
	if out, err := exec.Command("pdftoppm", "-r", "150", "-png", "-singlefile", file, file).CombinedOutput(); err != nil {
		t.Fatalf("pdftoppm: %v %s", err, out)
	}
	seen, err := exec.Command("zbarimg", "--raw", "-q", file+".png").Output()
	if err != nil {
		t.Fatal("zbarimg: ", err)
	}
	words, err := exec.Command("pdftotext", "-raw", file, "-").Output()
	if err != nil {
		t.Fatal("pdftotext: ", err)
	}
	address := strings.TrimSpace(string(seen))
	if !strings.Contains(strings.Join(strings.Fields(string(words)), ""), "Check:"+address) {
		t.Errorf("the code says %s and the words %s", address, words)
	}
	return address
}
