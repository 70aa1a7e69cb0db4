package word_test

import (
	"fmt"
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
		"a way out":   {packed(t, map[string]string{"../evil": "x"}), "outside"},
		"a doctype":   {packed(t, map[string]string{"word/document.xml": `<!DOCTYPE x [<!ENTITY a "b">]><w:document/>`}), "document type"},
		"deep":        {packed(t, document(deep)), "nested"},
		"broken":      {packed(t, map[string]string{"word/document.xml": "<w:document><w:p>"}), "damaged"},
		"no body":     {packed(t, map[string]string{"word/document.xml": "<x/>"}), "no body"},
		"many cells":  {packed(t, document(manyCells())), "too many"},
		"macros":      {packed(t, map[string]string{"word/document.xml": "<x/>", "[Content_Types].xml": macroTypes}), "macros"},
		"from afar":   {packed(t, withExternal(document(p("x")))), "outside"},
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
