package produce_test

import (
	"archive/zip"
	"bytes"
	"fmt"
	"io"
	"testing"
	"time"

	"amberseal/app/produce"
	"amberseal/core/ask/form"
	"amberseal/core/foreign/ground"
	"amberseal/core/intake"
	"amberseal/core/print/paper"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

// The agreement of two pages that the demo house has already, filled and set, its file read before.
func BenchmarkAgreement(b *testing.B) {
	d, f := facts(b, "hire-agreement", nil)
	for b.Loop() {
		compose(b, d, "typed", f)
	}
}

// The same when its file is read for the first time.
func BenchmarkAgreementFirst(b *testing.B) {
	d, f := facts(b, "hire-agreement", nil)
	data, err := pictures(paper.BroughtFile("hire-agreement.docx"))
	if err != nil {
		b.Fatal(err)
	}
	copies := make([][]byte, 200) // more than are kept read
	for i := range copies {
		copies[i] = marked(b, data, i)
	}
	i := 0
	find := func(string) ([]byte, error) { return copies[i%len(copies)], nil }
	for b.Loop() {
		i++
		if _, err := produce.Compose(d, "typed", f, find, produce.Apart{}); err != nil {
			b.Fatal(err)
		}
	}
}

// marked is a package with one part more, so that no two are equal.
func marked(b *testing.B, data []byte, n int) []byte {
	r, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		b.Fatal(err)
	}
	var out bytes.Buffer
	w := zip.NewWriter(&out)
	for _, f := range r.File {
		if err := w.Copy(f); err != nil {
			b.Fatal(err)
		}
	}
	part, err := w.Create("mark.txt")
	if err == nil {
		_, err = io.WriteString(part, fmt.Sprint(n))
	}
	if err == nil {
		err = w.Close()
	}
	if err != nil {
		b.Fatal(err)
	}
	return out.Bytes()
}

// A form of 60 fields, filled from what it was taken apart into.
func BenchmarkForm(b *testing.B) {
	var fields []form.Field
	for i := range 60 {
		fields = append(fields, form.Field{Key: fmt.Sprintf("f%d", i), Kind: form.ShortText, Label: fmt.Sprintf("Question %d", i)})
	}
	d := intake.New("Sixty", fields)
	h := house.New()
	blank, err := produce.Blank(d, h, true, pictures)
	if err != nil {
		b.Fatal(err)
	}
	g, err := ground.Take(blank)
	if err != nil || len(g.Fields) != 60 {
		b.Fatal(err, len(g.Fields))
	}
	kept, err := g.Encode()
	if err != nil {
		b.Fatal(err)
	}
	d.Documents = []paper.Document{{Key: "form", Name: "Form", File: "form.pdf"}}
	at := time.Unix(1e9, 0).UTC()
	f := phrase.Facts{House: h, Intake: d.Name, Form: d.Form, Answers: form.Sample(d.Form, form.MadeUp), Number: "S-1", Received: at,
		Made: at}
	find := func(string) ([]byte, error) { return kept, nil }
	for b.Loop() {
		if _, err := produce.Compose(d, "form", f, find, produce.Apart{}); err != nil {
			b.Fatal(err)
		}
	}
}
