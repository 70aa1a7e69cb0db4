package produce_test

import (
	"bytes"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"amberseal/app/produce"
	"amberseal/core/form"
	"amberseal/core/paper"
	"amberseal/core/phrase"
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
	f.Answers["papers"] = form.Load(d.Form, form.Raw{"papers": []byte(`[{"id":"a","name":"Crack & seam.jpg","type":"image/jpeg","size":9},{"id":"a","name":"Crack & seam.jpg","type":"image/jpeg","size":9},{"id":"n","name":"Zażółć.pdf","type":"application/pdf","size":9}]`)})["papers"]
	doc := &d.Documents[0]
	doc.Data, doc.Attach, doc.Append = true, []string{"papers"}, []string{"papers"}
	doc.Keywords, doc.Subject, doc.Author = phrase.Parse("repair, {{name}}"), phrase.Parse("About {{@number}}"), phrase.Parse("The bench")
	if l := doc.Check(d.Form, exists); len(l) > 0 {
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
	c, err := produce.Compose(d, "sampler", f, read)
	if err != nil || len(c.Findings) != 1 || !strings.Contains(c.Findings[0].Message, "“Zażółć.pdf” is not printed as a page") {
		t.Fatal(err, c.Findings)
	}
	file := write(t, c)
	faultless(t, file)
	info := tool(t, "pdfinfo", file)
	for _, want := range []string{"Author:          The bench", "Subject:         About S-001", "Keywords:        repair, Aoife Brannigan", "Pages:           6"} {
		if !strings.Contains(info, want) {
			t.Errorf("pdfinfo has no %q:\n%s", want, info)
		}
	}
	if meta := tool(t, "pdfinfo", "-meta", file); !strings.Contains(meta, "<pdfaid:part>3</pdfaid:part>") || !strings.Contains(meta, "<pdf:Keywords>repair, Aoife Brannigan</pdf:Keywords>") {
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
	if _, err := produce.Compose(d, "sampler", f, read); err == nil {
		t.Error("a PDF/A-2b file with others inside was made")
	}
}
