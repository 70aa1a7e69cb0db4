package paper

import (
	"errors"
	"slices"
	"strings"

	"amberseal/core/ask/form"
	"amberseal/core/print/typeset"
	"amberseal/core/words/phrase"
)

// filesOf are the files that were sent for fields; made-up ones are left out.
func filesOf(facts phrase.Facts, names []string) []form.File {
	var out []form.File
	b := binder{facts: facts}
	for _, name := range names {
		_, values := b.valuesOf(name)
		for _, v := range values {
			for _, f := range v.Files {
				if f.ID != form.SampleFile {
					out = append(out, f)
				}
			}
		}
	}
	return out
}

// Attachments are the files that the document carries for these answers.
func (d Document) Attachments(facts phrase.Facts) []form.File { return filesOf(facts, d.Attach) }

// pdfType is the media type of PDFs (RFC 8118).
const pdfType = "application/pdf"

// Annexes are the PDFs that were sent, whose pages are added to the document for these answers.
func (d Document) Annexes(facts phrase.Facts) []form.File {
	return slices.DeleteFunc(filesOf(facts, d.Append), func(f form.File) bool { return f.Type != pdfType })
}

// appended prints the pictures that were sent as pages of their own, each under its name.
func (b *binder) appended() {
	for _, f := range filesOf(b.facts, b.doc.Append) {
		if f.Type == pdfType {
			continue
		}
		img, err := b.appendable(f)
		if err != nil {
			b.shared.findings.Notice("documents/"+b.doc.Key, "paper.pdf-not-printed", "name", f.Name, "reason", err.Error())
			continue
		}
		title := b.paragraph("", typeset.Plain, plain(f.Name), b.style.label, softInk)
		title.KeepNext, title.After = true, 6
		b.add(&typeset.Break{})
		b.add(title)
		b.add(&typeset.Picture{Image: img, Alt: f.Name})
	}
}

func (b *binder) appendable(f form.File) (*typeset.Image, error) {
	if !strings.HasPrefix(f.Type, "image/") {
		return nil, errors.New("it is neither a picture nor a PDF")
	}
	data, err := b.pictures(File(f.ID))
	if err != nil {
		return nil, err
	}
	return typeset.ReadImage(data)
}
