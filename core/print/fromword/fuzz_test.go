package fromword_test

import (
	"archive/zip"
	"bytes"
	"io"
	"os"
	"strings"
	"testing"

	"amberseal/core/foreign/word"
	"amberseal/core/print/fromword"
	"amberseal/core/print/pdf"
	"amberseal/core/print/typeset"
)

// with gives a package with another body.
func with(t testing.TB, data []byte, body string) []byte {
	t.Helper()
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		t.Fatal(err)
	}
	var out bytes.Buffer
	w := zip.NewWriter(&out)
	for _, m := range z.File {
		if m.Name != "word/document.xml" {
			if err := w.Copy(m); err != nil {
				t.Fatal(err)
			}
			continue
		}
		part, err := w.Create(m.Name)
		if err != nil {
			t.Fatal(err)
		}
		if _, err := io.WriteString(part, body); err != nil {
			t.Fatal(err)
		}
	}
	if err := w.Close(); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

func member(t testing.TB, data []byte, name string) string {
	t.Helper()
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		t.Fatal(err)
	}
	r, err := z.Open(name)
	if err != nil {
		t.Fatal(err)
	}
	text, err := io.ReadAll(r)
	if err != nil {
		t.Fatal(err)
	}
	return string(text)
}

// Whatever stands in a body, it is refused or set; nothing panics or goes on for ever.
func FuzzSet(f *testing.F) {
	base, err := os.ReadFile("../../../e2e/files/thanks.docx") // small, so that much is tried
	if err != nil {
		f.Fatal(err)
	}
	for _, name := range []string{"python-grid", "pandoc-lists", "python-headers", "office-table"} {
		data, err := os.ReadFile("testdata/" + name + ".docx")
		if err != nil {
			f.Fatal(err)
		}
		body := member(f, data, "word/document.xml")
		end := strings.Index(body, "</w:tr>")
		if end < 0 || end > 9_000 {
			end = min(len(body), 3_000)
		}
		f.Add(body[:end]) // broken off: it is refused, and its pieces are tried elsewhere
	}
	for _, inside := range []string{
		`<w:p><w:pPr><w:jc w:val="both"/><w:tabs><w:tab w:val="right" w:pos="9000" w:leader="dot"/></w:tabs><w:ind w:left="720" ` +
			`w:hanging="360"/>` +
			`</w:pPr><w:r><w:rPr><w:sz w:val="20"/></w:rPr><w:t>a</w:t><w:tab/><w:t>b</w:t><w:br w:type="page"/></w:r></w:p>`,
		`<w:tbl><w:tblPr><w:tblW w:w="5000" w:type="pct"/></w:tblPr><w:tblGrid><w:gridCol w:w="900"/><w:gridCol w:w="900"/>` +
			`</w:tblGrid><w:tr>` +
			`<w:tc><w:tcPr><w:gridSpan w:val="2"/><w:vMerge w:val="restart"/></w:tcPr><w:p/></w:tc></w:tr><w:tr><w:tc><w:tcPr>` +
			`<w:vMerge/></w:tcPr>` +
			`<w:p/></w:tc><w:tc><w:p><w:r><w:t>x</w:t></w:r></w:p></w:tc></w:tr></w:tbl>`,
		`<w:p><w:pPr><w:pBdr><w:top w:val="double" w:sz="4"/></w:pBdr><w:spacing w:line="1" w:lineRule="exact"/><w:sectPr><w:pgSz ` +
			`w:w="9" w:h="9"/>` +
			`<w:pgMar w:top="-900"/></w:sectPr></w:pPr></w:p><w:p><w:r><w:fldChar w:fldCharType="begin"/><w:instrText>PAGE</w:instrText>` +
			`</w:r></w:p>`,
		`<w:p><w:r><w:drawing><wp:anchor distL="9" behindDoc="0"><wp:positionH relativeFrom="margin"><wp:align>right</wp:align>` +
			`</wp:positionH><wp:positionV relativeFrom="paragraph"><wp:posOffset>9</wp:posOffset></wp:positionV><wp:extent cx="900000" ` +
			`cy="900000"/><wp:wrapSquare wrapText="bothSides"/><a:graphic><a:graphicData><wps:wsp><wps:spPr><a:xfrm rot="900" flipH="1"/>` +
			`<a:prstGeom prst="star5"/><a:ln w="9"><a:solidFill><a:srgbClr val="102030"/></a:solidFill></a:ln></wps:spPr><wps:txbx>` +
			`<w:txbxContent><w:p><w:r><w:t>a</w:t></w:r></w:p></w:txbxContent></wps:txbx><wps:bodyPr vert="vert270"/></wps:wsp>` +
			`</a:graphicData></a:graphic></wp:anchor></w:drawing><w:t>some words beside it</w:t></w:r></w:p>`,
		`<w:p><w:pPr><w:framePr w:w="900" w:wrap="around" w:dropCap="drop"/></w:pPr><w:r><w:t>A</w:t></w:r></w:p><w:p><w:r><w:pict>` +
			`<v:rect style="position:absolute;width:90pt;height:9pt;rotation:45"><v:textpath string="x"/></v:rect></w:pict></w:r></w:p>` +
			`<w:sectPr><w:cols w:num="2"><w:col w:w="900" w:space="9"/><w:col w:w="3000"/></w:cols></w:sectPr>`,
	} {
		f.Add(`<w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main" ` +
			`xmlns:wp="http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing" ` +
			`xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main" xmlns:v="urn:schemas-microsoft-com:vml" ` +
			`xmlns:wps="http://schemas.microsoft.com/office/word/2010/wordprocessingShape"><w:body>` + inside + `</w:body></w:document>`)
	}
	f.Fuzz(func(t *testing.T, body string) {
		file, err := word.Open(with(t, base, body))
		if err != nil {
			return
		}
		doc, _ := fromword.Bind(file.Unfilled(), nil, "en")
		pages, err := typeset.Set(doc)
		if err != nil {
			return
		}
		if _, err := pdf.Write(pages, pdf.Properties{}); err != nil {
			t.Fatal(err)
		}
	})
}
