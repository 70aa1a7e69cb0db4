package fromword_test

import (
	"archive/zip"
	"bytes"
	"fmt"
	"slices"
	"strings"
	"testing"

	"amberseal/core/foreign/word"
	"amberseal/core/print/fromword"
	"amberseal/core/print/typeset"
)

const wordSpace = `xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main" ` +
	`xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"`

// file is a word-processor file with a body and a footer, as programs write them that are no word processor.
func file(t *testing.T, body, footer string) []byte {
	t.Helper()
	const packages = "http://schemas.openxmlformats.org/package/2006/"
	const office = "http://schemas.openxmlformats.org/officeDocument/2006/relationships/"
	const kind = "application/vnd.openxmlformats-officedocument.wordprocessingml."
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	for _, part := range []struct{ name, text string }{
		{"[Content_Types].xml", `<Types xmlns="` + packages + `content-types"><Default Extension="rels" ` +
			`ContentType="application/vnd.openxmlformats-package.relationships+xml"/>` +
			`<Override PartName="/word/document.xml" ContentType="` +
			kind + `document.main+xml"/><Override PartName="/word/footer1.xml" ContentType="` + kind + `footer+xml"/></Types>`},
		{"_rels/.rels", `<Relationships xmlns="` + packages + `relationships"><Relationship Id="r1" Type="` + office +
			`officeDocument" Target="word/document.xml"/></Relationships>`},
		{"word/_rels/document.xml.rels", `<Relationships xmlns="` + packages + `relationships"><Relationship Id="f1" Type="` + office +
			`footer" Target="footer1.xml"/></Relationships>`},
		{"word/footer1.xml", `<w:ftr ` + wordSpace + `><w:p>` + footer + `</w:p></w:ftr>`},
		{"word/document.xml", `<w:document ` + wordSpace + `><w:body>` + body + `</w:body></w:document>`},
	} {
		w, err := z.Create(part.name)
		if err == nil {
			_, err = w.Write([]byte(`<?xml version="1.0" encoding="UTF-8" standalone="yes"?>` + part.text))
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	if err := z.Close(); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

// feet are the words of each page that begin with “Page”.
func feet(t *testing.T, data []byte) (out []string) {
	t.Helper()
	f, err := word.Open(data)
	if err != nil {
		t.Fatal(err)
	}
	doc, findings := fromword.Bind(f.Unfilled(), nil, "en")
	if len(findings) > 0 {
		t.Errorf("%v", findings)
	}
	pages, err := typeset.Set(doc)
	if err != nil {
		t.Fatal(err)
	}
	for _, p := range pages.Pages {
		var said strings.Builder
		for _, item := range p.Items {
			if g, ok := item.(*typeset.Glyphs); ok {
				for _, x := range g.Glyphs {
					said.WriteString(string(g.Text[x.Start : x.Start+x.Count]))
				}
			}
		}
		at := strings.Index(said.String(), "Page ")
		if at < 0 {
			t.Fatalf("no page is numbered in %q", said.String())
		}
		foot, _, _ := strings.Cut(said.String()[at:], ".")
		out = append(out, foot)
	}
	return out
}

// The numbers of pages stand where the file holds none yet, begin where a section says, and are written as it says (ISO/IEC 29500-1,
// 17.16.5.46, 17.16.5.39, 17.6.12).
func TestNumbersOfPages(t *testing.T) {
	const footer = `<w:r><w:t xml:space="preserve">Page </w:t></w:r><w:fldSimple w:instr=" PAGE "/>` +
		`<w:r><w:t xml:space="preserve"> of </w:t></w:r>` +
		`<w:r><w:fldChar w:fldCharType="begin"/></w:r><w:r><w:instrText>NUMPAGES \* MERGEFORMAT</w:instrText></w:r>` +
		`<w:r><w:fldChar w:fldCharType="separate"/></w:r><w:r><w:t></w:t></w:r>` +
		`<w:r><w:fldChar w:fldCharType="end"/></w:r><w:r><w:t>.</w:t></w:r>`
	section := func(pages string) string {
		return `<w:sectPr><w:footerReference w:type="default" r:id="f1"/>` + pages + `</w:sectPr>`
	}
	const turn = `<w:p><w:r><w:t>words</w:t></w:r><w:r><w:br w:type="page"/></w:r><w:r><w:t>more</w:t></w:r></w:p>`
	ends := func(pages string) string { return `<w:p><w:pPr>` + section(pages) + `</w:pPr></w:p>` }
	for what, x := range map[string]struct {
		body string
		want []string
	}{
		"by themselves": {turn + section(""), []string{"Page 1 of 2", "Page 2 of 2"}},
		"from eleven, in Roman figures": {turn + section(`<w:pgNumType w:start="11" w:fmt="upperRoman"/>`),
			[]string{"Page XI of 2", "Page XII of 2"}},
		"three sections": {
			turn + ends(`<w:pgNumType w:fmt="lowerRoman"/>`) + turn + ends(`<w:pgNumType w:start="1"/>`) + turn + section(""),
			[]string{"Page i of 6", "Page ii of 6", "Page 1 of 6", "Page 2 of 6", "Page 3 of 6", "Page 4 of 6"}},
		"from nothing": {turn + section(`<w:pgNumType w:start="0"/>`), []string{"Page 0 of 2", "Page 1 of 2"}},
	} {
		if got := feet(t, file(t, x.body, footer)); !slices.Equal(got, x.want) {
			t.Errorf("%s: %s", what, fmt.Sprintf("%q, not %q", got, x.want))
		}
	}
}

// A cell has its own margins, whether all have the same or one alone has more (ISO/IEC 29500-1, 17.4.68).
func TestMarginsOfCells(t *testing.T) {
	set := func(first, others string) map[string][2]float64 {
		cell := func(name, margins string) string {
			return `<w:tc><w:tcPr><w:tcW w:w="2000" w:type="dxa"/>` + margins + `</w:tcPr><w:p><w:r><w:t>` + name +
				`</w:t></w:r></w:p></w:tc>`
		}
		body := `<w:tbl><w:tblGrid><w:gridCol w:w="2000"/><w:gridCol w:w="2000"/></w:tblGrid><w:tr>` +
			cell("a", first) + cell("b", others) + `</w:tr><w:tr>` + cell("c", others) + cell("d", others) +
			`</w:tr></w:tbl><w:p/><w:sectPr/>`
		f, err := word.Open(file(t, body, ""))
		if err != nil {
			t.Fatal(err)
		}
		doc, _ := fromword.Bind(f.Unfilled(), nil, "en")
		pages, err := typeset.Set(doc)
		if err != nil {
			t.Fatal(err)
		}
		at := map[string][2]float64{}
		for _, item := range pages.Pages[0].Items {
			if g, ok := item.(*typeset.Glyphs); ok && len(g.Glyphs) == 1 {
				at[string(g.Text[0])] = [2]float64{g.X, g.Y}
			}
		}
		return at
	}
	margins := func(top, left, bottom int) string {
		return fmt.Sprintf(
			`<w:tcMar><w:top w:w="%d" w:type="dxa"/><w:left w:w="%d" w:type="dxa"/><w:bottom w:w="%d" w:type="dxa"/></w:tcMar>`,
			top,
			left,
			bottom,
		)
	}
	moved := func(a, b map[string][2]float64, name string) string {
		return fmt.Sprintf("%.1f %.1f", b[name][0]-a[name][0], b[name][1]-a[name][1])
	}
	plain, all := set("", ""), set(margins(120, 308, 60), margins(120, 308, 60))
	for name, want := range map[string]string{"a": "10.0 6.0", "b": "10.0 6.0", "c": "10.0 15.0", "d": "10.0 15.0"} {
		if got := moved(plain, all, name); got != want {
			t.Errorf("where all have margins %s moves by %s, not %s", name, got, want)
		}
	}
	one := set(margins(120, 308, 60), "")
	for name, want := range map[string]string{"a": "10.0 6.0", "b": "0.0 0.0", "c": "0.0 9.0", "d": "0.0 9.0"} {
		if got := moved(plain, one, name); got != want {
			t.Errorf("where one has margins %s moves by %s, not %s", name, got, want)
		}
	}
}
