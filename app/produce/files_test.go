package produce_test

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"amberseal/app/produce"
	"amberseal/core/ask/form"
	"amberseal/core/foreign/annex"
	"amberseal/core/print/paper"
	"amberseal/core/words/phrase"
)

// A document that carries its answers with their schema, and the files that were sent: poppler takes them out again, and a
// general-purpose validator of JSON Schema finds the answers valid.
func TestTheFileCarriesAnswersAndUploads(t *testing.T) {
	d, f := sampler(t)
	photo, err := pictures("bench.jpg")
	if err != nil {
		t.Fatal(err)
	}
	note := []byte("%PDF-1.4 not looked into")
	f.Answers["papers"] = form.Load(d.Form, form.Raw{"papers": []byte(`[{"id":"a","name":"Crack & seam.jpg","type":"image/jpeg",` +
		`"size":9},{"id":"a","name":"Crack & seam.jpg","type":"image/jpeg","size":9},{"id":"n","name":"Zażółć.pdf",` +
		`"type":"application/pdf","size":9}]`)})["papers"]
	doc := &d.Documents[0]
	doc.Data, doc.Attach, doc.Append = true, []string{"papers"}, []string{"papers"}
	doc.Keywords, doc.Subject, doc.Author = phrase.Parse("repair, {{name}}"), phrase.Parse("About {{@number}}"), phrase.Parse("The bench")
	if l := doc.Check(d.Form, exists); l.Faults() > 0 {
		t.Fatal(l)
	}
	read := func(name string) ([]byte, error) {
		switch name {
		case paper.File("a"):
			return photo, nil
		case paper.File("n"):
			return note, nil
		}
		return pictures(name)
	}
	c, err := produce.Compose(d, "sampler", f, read, produce.Apart{})
	if err != nil || len(c.Findings) != 1 || !strings.Contains(c.Findings[0].Message, "“Zażółć.pdf” is not added as pages") {
		t.Fatal(err, c.Findings)
	}
	file := write(t, c)
	faultless(t, file)
	info := tool(t, "pdfinfo", file)
	for _, want := range []string{"Author:          The bench", "Subject:         About S-001",
		"Keywords:        repair, Aoife Brannigan", "Pages:           6"} {
		if !strings.Contains(info, want) {
			t.Errorf("pdfinfo has no %q:\n%s", want, info)
		}
	}
	if meta := tool(t, "pdfinfo", "-meta", file); !strings.Contains(meta, "<pdfaid:part>3</pdfaid:part>") ||
		!strings.Contains(meta, "<pdf:Keywords>repair, Aoife Brannigan</pdf:Keywords>") {
		t.Error(meta)
	}
	dir := t.TempDir()
	tool(t, "pdfdetach", "-saveall", "-o", dir, file)
	for name, want := range map[string][]byte{"Crack & seam.jpg": photo, "2 Crack & seam.jpg": photo, "Zażółć.pdf": note} {
		if got, err := os.ReadFile(filepath.Join(dir, name)); err != nil || !bytes.Equal(got, want) {
			t.Errorf("%s is not what was sent: %d bytes, %v", name, len(got), err)
		}
	}
	open := func(name string) any {
		in, err := os.Open(filepath.Join(dir, name))
		if err != nil {
			t.Fatal(err)
		}
		defer in.Close()
		v, err := jsonschema.UnmarshalJSON(in)
		if err != nil {
			t.Fatal(err)
		}
		return v
	}
	compiler := jsonschema.NewCompiler()
	if err := compiler.AddResource("answers.schema.json", open("answers.schema.json")); err != nil {
		t.Fatal(err)
	}
	described, err := compiler.Compile("answers.schema.json")
	if err != nil {
		t.Fatal(err)
	}
	answers := open("answers.json")
	if err := described.Validate(answers); err != nil {
		t.Error(err)
	}
	answers.(map[string]any)["sound"] = "loud"
	if described.Validate(answers) == nil {
		t.Error("the schema takes anything")
	}
	doc.Archival = paper.A2b
	if l := doc.Check(d.Form, exists); l.Faults() != 1 {
		t.Error("PDF/A-2b must not carry files:", l)
	}
	if _, err := produce.Compose(d, "sampler", f, read, produce.Apart{}); err == nil {
		t.Error("a PDF/A-2b file with others inside was made")
	}
}

// PDFs that were sent become pages at the end: the document keeps its structure, its attachments and its words; what the
// others hold besides their pages is left behind. What cannot be read is a finding, and the document is made all the same.
func TestPDFsThatWereSentBecomePages(t *testing.T) {
	d, f := sampler(t)
	h, hf := facts(t, "repair-drop-off", nil)
	foreign, err := produce.Blank(h, hf.House, true, pictures) // with form fields, structure and an outline of its own
	if err != nil {
		t.Fatal(err)
	}
	doc := &d.Documents[0]
	doc.Append, doc.Attach, doc.Data = []string{"papers"}, []string{"papers"}, true
	f.Answers["papers"] = form.Load(d.Form, form.Raw{"papers": []byte(`[{"id":"n","name":"Note.pdf","type":"application/pdf",` +
		`"size":9}]`)})["papers"]
	sent := foreign
	read := func(name string) ([]byte, error) {
		if name == paper.File("n") {
			return sent, nil
		}
		return pictures(name)
	}
	if l := doc.Check(d.Form, exists); len(l) != 1 || !strings.Contains(l[0].Message, "is not archival") {
		t.Error(l)
	}
	alone, err := produce.Compose(d, "sampler", f, read, produce.Apart{})
	if err != nil || len(alone.Findings) != 1 {
		t.Fatal(alone.Findings, err)
	}
	c, err := produce.Compose(d, "sampler", f, read, produce.Apart{Join: annex.Join})
	if err != nil || len(c.Findings) > 0 {
		t.Fatal(c.Findings, err)
	}
	file := write(t, c)
	tool(t, "qpdf", "--check", file)
	pages := func(file string) int {
		for line := range strings.Lines(tool(t, "pdfinfo", file)) {
			if n, ok := strings.CutPrefix(line, "Pages:"); ok {
				v, err := strconv.Atoi(strings.TrimSpace(n))
				if err != nil {
					t.Fatal(err)
				}
				return v
			}
		}
		return 0
	}
	blank := filepath.Join(t.TempDir(), "blank.pdf")
	if err := os.WriteFile(blank, foreign, 0o600); err != nil {
		t.Fatal(err)
	}
	if got, want := pages(file), alone.Pages+pages(blank); got != want || c.Pages != want {
		t.Errorf("%d pages (%d told), want %d", got, c.Pages, want)
	}
	text := tool(t, "pdftotext", file, "-")
	if !strings.Contains(text, "Every kind of block") || !strings.Contains(text, "What is wrong with it?") {
		t.Errorf("the text of one of both is gone: %.3000s", text)
	}
	if got, want := tool(t, "pdfinfo", "-struct", file), tool(t, "pdfinfo", "-struct", write(t, alone)); strings.Count(
		got,
		"\n",
	) != strings.Count(
		want,
		"\n",
	) {
		t.Error("the document’s structure is another")
	}
	if list := tool(t, "pdfdetach", "-list", file); !strings.Contains(list, "answers.json") || !strings.Contains(list, "Note.pdf") {
		t.Errorf("its attachments are %s", list)
	}
	plain, err := exec.Command("qpdf", "--qdf", "--object-streams=disable", file, "-").Output()
	if err != nil {
		t.Fatal(err)
	}
	if bytes.Contains(plain, []byte("/AcroForm")) || bytes.Contains(plain, []byte("/Widget")) ||
		bytes.Contains(plain, []byte("<pdfaid:part>")) {
		t.Error("fields of the other came along, or the file calls itself archival")
	}
	for name, data := range map[string][]byte{
		"text": []byte("no PDF"), "cut": foreign[:len(foreign)/2],
		"huge number": []byte("%PDF-1.7\n2147483647 0 obj<<>>endobj\ntrailer<</Size 2147483648/Root 2147483647 0 R>>"),
	} {
		sent = data
		c, err := produce.Compose(d, "sampler", f, read, produce.Apart{Join: annex.Join})
		if err != nil || c.Findings.Faults() != 1 || c.PDF == nil || c.Pages != alone.Pages {
			t.Errorf("%s: %v %v", name, c.Findings, err)
		}
	}
}
