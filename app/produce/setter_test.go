package produce_test

import (
	"bytes"
	"errors"
	"os"
	"strings"
	"testing"

	"amberseal/app/produce"
	"amberseal/core/foreign/ground"
	"amberseal/core/foreign/word"
	"amberseal/core/print/paper"
)

// Another program sets the filled file: it gets what it is to set, and its pages carry the document's title, trial mark and protection. A
// stand-in gives a PDF as it would; adapter/libreoffice tries the real one.
func TestAnotherSetter(t *testing.T) {
	d, f := facts(t, "hire-agreement", nil)
	for i := range d.Documents {
		if d.Documents[i].Key == "typed" {
			d.Documents[i].Setter = paper.LibreOffice
		}
	}
	flat, err := os.ReadFile(forms + "flat.pdf")
	if err != nil {
		t.Fatal(err)
	}
	var got []byte
	apart := produce.Apart{Setter: func(docx []byte) ([]byte, error) {
		got = docx
		return ground.Keep(flat)
	}}
	f.Trial = true
	c, err := produce.Compose(d, "typed", f, pictures, apart)
	if err != nil {
		t.Fatal(err)
	}
	filled, err := word.Open(got)
	if err != nil {
		t.Fatal(err)
	}
	if said := filled.Unfilled().Body().Root; said == nil || !bytes.Contains(got, []byte("PK")) {
		t.Error("the setter got no file")
	}
	file := write(t, c)
	tool(t, "qpdf", "--check", file)
	words := tool(t, "pdftotext", file, "-")
	if theirs := tool(t, "pdftotext", forms+"flat.pdf", "-"); !strings.Contains(words, strings.Fields(theirs)[0]) {
		t.Error("the pages are not the setter's")
	}
	if reddish(t, file) == 0 {
		t.Error("the trial has no mark")
	}

	apart.Setter = func([]byte) ([]byte, error) { return nil, errors.New("it took longer than 60 seconds") }
	if _, err := produce.Compose(d, "typed", f, pictures, apart); err == nil || !strings.Contains(err.Error(), "60 seconds") {
		t.Errorf("a setter that fails: %v", err)
	}
	if c, err = produce.Compose(d, "typed", f, pictures, produce.Apart{}); err != nil {
		t.Fatal(err)
	}
	told := false
	for _, x := range c.Findings {
		told = told || x.Code == "produce.setter-not-here"
	}
	if !told || len(c.Placements) == 0 {
		t.Errorf("without it the file is not set here, or that is not said: %v", c.Findings)
	}
}
