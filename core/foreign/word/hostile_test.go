package word_test

import (
	"archive/zip"
	"bytes"
	"fmt"
	"io"
	"strings"
	"testing"

	"amberseal/core/foreign/word"
)

func TestHostileFiles(t *testing.T) {
	deep := strings.Repeat("<w:sdt><w:sdtContent>", 300) + strings.Repeat("</w:sdtContent></w:sdt>", 300)
	for name, x := range map[string]struct {
		data []byte
		want string
	}{
		"nothing":  {nil, "no .docx"},
		"an older": {append([]byte{0xD0, 0xCF, 0x11, 0xE0}, make([]byte, 600)...), "older format"},
		"a bomb": {
			packed(t, map[string]string{"word/document.xml": strings.Repeat(" ", 30<<20)}), "far larger",
		},
		"a way out":  {packed(t, map[string]string{"../evil": "x"}), "outside"},
		"a doctype":  {packed(t, map[string]string{"word/document.xml": `<!DOCTYPE x [<!ENTITY a "b">]><w:document/>`}), "document type"},
		"deep":       {packed(t, document(deep)), "nested"},
		"broken":     {packed(t, map[string]string{"word/document.xml": "<w:document><w:p>"}), "damaged"},
		"no body":    {packed(t, map[string]string{"word/document.xml": "<x/>"}), "no body"},
		"many cells": {packed(t, document(manyCells())), "too many"},
		"macros":     {packed(t, map[string]string{"word/document.xml": "<x/>", "[Content_Types].xml": macroTypes}), "macros"},
		"from afar":  {packed(t, withExternal(document(p("x")))), "outside"},
		"from afar, by its header": {packed(t, related(document(p("x")), "word/_rels/header1.xml.rels", "image", "file:///etc/passwd",
			true)), "outside"},
		"from afar, by its theme": {packed(t, related(document(p("x")), "word/theme/_rels/theme1.xml.rels", "image", "//evil/x.png",
			true)), "outside"},
		"from afar, by a name of capitals": {packed(t, related(document(p("x")), "word/_rels/Document.XML.RELS", "image", "file:///x",
			true)), "outside"},
		"from afar, as a part": {packed(t, related(document(p("x")), "word/_rels/numbering.xml.rels", "image", "file:///etc/passwd",
			false)), "outside"},
		"a file in the file": {packed(t, related(document(p("x")), "word/_rels/document.xml.rels", "aFChunk", "inner.docx",
			false)), "another file"},
		"a file in its header": {packed(t, related(document(p("x")), "word/_rels/header1.xml.rels", "aFChunk", "inner.docx",
			false)), "another file"},
		"a workbook": {packed(t, related(document(p("x")), "word/charts/_rels/c.xml.rels", "package", "../x.xlsx",
			false)), "another file"},
		"a picture by a link": {packed(t, related(document(`<w:p><w:r><w:drawing><a:blip xmlns:a="http://schemas.openxmlformats.org/`+
			`drawingml/2006/main" xmlns:z="http://schemas.openxmlformats.org/officeDocument/2006/relationships" z:link="rId1"/>`+
			`</w:drawing></w:r></w:p>`), "word/_rels/document.xml.rels", "hyperlink", "file:///etc/passwd", true)), "outside"},
		"not a word1": {[]byte("{\\rtf1 hello}"), "no .docx"},
	} {
		t.Run(name, func(t *testing.T) {
			if _, err := word.Open(x.data); err == nil || !strings.Contains(err.Error(), x.want) {
				t.Errorf("%v, want “%s”", err, x.want)
			}
		})
	}
}

// manyCells is a table of half a million cells, each of its own, so that it does not pack like a bomb.
func manyCells() string {
	var b strings.Builder
	b.WriteString("<w:tbl>")
	for i := range 10_000 {
		b.WriteString("<w:tr>")
		for j := range 50 {
			fmt.Fprintf(&b, `<w:tc><w:p w:rsidR="%08X"/></w:tc>`, uint32(i*50+j)*2654435761)
		}
		b.WriteString("</w:tr>")
	}
	b.WriteString("</w:tbl>")
	return b.String()
}

const macroTypes = `<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ` +
	`ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/word/document.xml" ` +
	`ContentType="application/vnd.ms-word.document.macroEnabled.main+xml"/></Types>`

func withExternal(parts map[string]string) map[string]string {
	parts["word/_rels/document.xml.rels"] = `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">` +
		`<Relationship ` +
		`Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/image" Target="http://evil.example/x.png" ` +
		`TargetMode="External"/></Relationships>`
	return parts
}

// related adds a relationship to a package.
func related(parts map[string]string, at, kind, target string, external bool) map[string]string {
	mode := ""
	if external {
		mode = ` TargetMode="External"`
	}
	parts[at] = `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" ` +
		`Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/` + kind + `" Target="` + target + `"` + mode +
		`/></Relationships>`
	return parts
}

// Links that people follow stay in a file; what its settings name outside, such as the template that it was begun from, does not.
func TestWhatAFileNamesOutside(t *testing.T) {
	parts := related(
		document(`<w:p><w:hyperlink r:id="rId1" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships">`+
			`<w:r><w:t>our site</w:t></w:r></w:hyperlink></w:p>`),
		"word/_rels/document.xml.rels",
		"hyperlink",
		"https://house.example/",
		true,
	)
	parts = related(parts, "word/_rels/settings.xml.rels", "attachedTemplate", "file:///C:/Templates/Letter.dotx", true)
	parts["word/settings.xml"] = `<w:settings xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main" xmlns:r=` +
		`"http://schemas.openxmlformats.org/officeDocument/2006/relationships"><w:zoom w:percent="100"/><w:attachedTemplate r:id="rId1"/>` +
		`</w:settings>`
	const kind = "application/vnd.openxmlformats-"
	parts["[Content_Types].xml"] = `<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default ` +
		`Extension="rels" ContentType="` + kind + `package.relationships+xml"/>` +
		`<Override PartName="/word/document.xml" ContentType="` + kind +
		`officedocument.wordprocessingml.document.main+xml"/><Override PartName="/word/settings.xml" ContentType="` + kind +
		`officedocument.wordprocessingml.settings+xml"/></Types>`
	f, err := word.Open(packed(t, parts))
	if err != nil {
		t.Fatal(err)
	}
	data, err := f.Fill(word.Filling{}).Bytes()
	if err != nil {
		t.Fatal(err)
	}
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		t.Fatal(err)
	}
	var all strings.Builder
	for _, m := range z.File {
		r, err := m.Open()
		if err != nil {
			t.Fatal(err)
		}
		text, err := io.ReadAll(r)
		if err != nil {
			t.Fatal(err)
		}
		all.Write(text)
	}
	for words, want := range map[string]bool{
		"https://house.example/": true, "w:zoom": true, "Templates": false, "attachedTemplate": false,
	} {
		if strings.Contains(all.String(), words) != want {
			t.Errorf("%q is in the filled file: %v", words, !want)
		}
	}
}

// A file of a hundred pages is read in well under 200 ms.
func BenchmarkOpen(b *testing.B) {
	var body strings.Builder
	for i := range 4_500 {
		const clause = "Clause %d of the agreement says what {{player}} keeps and what the house mends, and by when."
		fmt.Fprintf(&body, `<w:p><w:r><w:t>`+clause+`</w:t></w:r></w:p>`, i)
	}
	data := packed(b, document(body.String()))
	for b.Loop() {
		if _, err := word.Open(data); err != nil {
			b.Fatal(err)
		}
	}
}
