package word

import (
	"archive/zip"
	"bytes"
	"encoding/xml"
	"fmt"
	"strings"
)

// Beginning is a word-processor file being made for somebody to go on with: everything in it has a named style, so that its looks are
// changed in one place.
type Beginning struct {
	body   strings.Builder
	accent string
	family string
}

// Begin begins a file in a house's colour (#RRGGBB) and font.
func Begin(accent, family string) *Beginning {
	if accent = strings.TrimPrefix(accent, "#"); len(accent) != 6 {
		accent = "1F4F4A"
	}
	return &Beginning{accent: strings.ToUpper(accent), family: family}
}

// The named styles.
const (
	TitleStyle   = "Title"
	SectionStyle = "Section"
	TextStyle    = "Text"
	LabelStyle   = "Label"
	AnswerStyle  = "Answer"
	HeadStyle    = "RowHead"
	TotalStyle   = "Total"
	MarkStyle    = "Mark" // of lines that only say what is printed
)

// Paragraph adds words in a style; an empty one is text.
func (b *Beginning) Paragraph(style, words string) {
	if style == "" {
		style = TextStyle
	}
	fmt.Fprintf(&b.body, `<w:p><w:pPr><w:pStyle w:val="%s"/></w:pPr>%s</w:p>`, style, runs(words))
}

// Break begins a new page.
func (b *Beginning) Break() { b.body.WriteString(`<w:p><w:r><w:br w:type="page"/></w:r></w:p>`) }

// Table adds rows of cells, each row in the style of its name; the first of several styles is that of the head.
func (b *Beginning) Table(shares []int, rows ...Row) {
	b.body.WriteString(`<w:tbl><w:tblPr><w:tblStyle w:val="Answers"/><w:tblW w:w="5000" w:type="pct"/><w:tblLook w:val="0000"/>` +
		`</w:tblPr><w:tblGrid>`)
	sum := 0
	for _, s := range shares {
		sum += s
	}
	const width = 9_360 // twentieths of a point between the margins
	for _, s := range shares {
		fmt.Fprintf(&b.body, `<w:gridCol w:w="%d"/>`, width*s/max(sum, 1))
	}
	b.body.WriteString(`</w:tblGrid>`)
	for _, r := range rows {
		b.body.WriteString(`<w:tr>`)
		if r.Head {
			b.body.WriteString(`<w:trPr><w:cantSplit/><w:tblHeader/></w:trPr>`)
		}
		for i, c := range r.Cells {
			fmt.Fprintf(&b.body, `<w:tc><w:tcPr><w:tcW w:w="%d" w:type="dxa"/></w:tcPr>`, width*shares[i]/max(sum, 1))
			b.Paragraph(c.Style, c.Words)
			b.body.WriteString(`</w:tc>`)
		}
		b.body.WriteString(`</w:tr>`)
	}
	b.body.WriteString(`</w:tbl>`)
	b.Paragraph(MarkStyle, "") // without it the next table would go on in this one
}

// Row is a row of a table.
type Row struct {
	Head  bool
	Cells []CellWords
}

// CellWords are the words of a cell and their style.
type CellWords struct{ Style, Words string }

func runs(words string) string {
	var out strings.Builder
	for i, line := range strings.Split(words, "\n") {
		out.WriteString("<w:r>")
		if i > 0 {
			out.WriteString("<w:br/>")
		}
		out.WriteString(`<w:t xml:space="preserve">`)
		_ = xml.EscapeText(&out, []byte(printable(line))) // a builder takes all
		out.WriteString("</w:t></w:r>")
	}
	return out.String()
}

const mainSpace = "http://schemas.openxmlformats.org/wordprocessingml/2006/main"

// Bytes gives the file; footer stands at the foot of each page.
func (b *Beginning) Bytes(title, footer string) ([]byte, error) {
	var text strings.Builder
	_ = xml.EscapeText(&text, []byte(printable(title)))
	const types = "application/vnd.openxmlformats-officedocument.wordprocessingml."
	const package1 = "http://schemas.openxmlformats.org/package/2006/"
	head := xml.Header
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	for _, m := range []struct{ name, text string }{
		{typesName, head + `<Types xmlns="` + package1 + `content-types"><Default Extension="rels" ` +
			`ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ` +
			`ContentType="application/xml"/>` +
			`<Override PartName="/word/document.xml" ContentType="` + types + `document.main+xml"/>` +
			`<Override PartName="/word/styles.xml" ContentType="` + types + `styles+xml"/>` +
			`<Override PartName="/word/settings.xml" ContentType="` + types + `settings+xml"/>` +
			`<Override PartName="/word/footer1.xml" ContentType="` + types + `footer+xml"/>` +
			`<Override PartName="/docProps/core.xml" ContentType="application/vnd.openxmlformats-package.core-properties+xml"/></Types>`},
		{"_rels/.rels", head + `<Relationships xmlns="` + package1 + `relationships"><Relationship Id="rId1" Type="` + relationshipTypes +
			`officeDocument" Target="word/document.xml"/><Relationship Id="rId2" Type="` + package1 +
			`relationships/metadata/core-properties" Target="docProps/core.xml"/></Relationships>`},
		{"word/_rels/document.xml.rels", head + `<Relationships xmlns="` + package1 + `relationships"><Relationship Id="rId1" Type="` +
			relationshipTypes + `styles" Target="styles.xml"/><Relationship Id="rId2" Type="` + relationshipTypes +
			`settings" Target="settings.xml"/><Relationship Id="rId3" Type="` + relationshipTypes + `footer" Target="footer1.xml"/>` +
			`</Relationships>`},
		{"word/document.xml", head + `<w:document xmlns:w="` + mainSpace + `" xmlns:r="` + strings.TrimSuffix(relationshipTypes, "/") +
			`"><w:body>` +
			b.body.String() + `<w:sectPr><w:footerReference w:type="default" r:id="rId3"/><w:pgSz w:w="11906" w:h="16838"/><w:pgMar ` +
			`w:top="1134" ` +
			`w:right="1273" w:bottom="1134" w:left="1273" w:header="567" w:footer="567" w:gutter="0"/></w:sectPr></w:body></w:document>`},
		{"word/footer1.xml", head + `<w:ftr xmlns:w="` + mainSpace + `"><w:p><w:pPr><w:pStyle w:val="Label"/></w:pPr>` + runs(footer) +
			`</w:p></w:ftr>`},
		{"word/settings.xml", head + `<w:settings xmlns:w="` + mainSpace + `"><w:defaultTabStop w:val="720"/><w:compat><w:compatSetting ` +
			`w:name="compatibilityMode" w:uri="http://schemas.microsoft.com/office/word" w:val="15"/></w:compat></w:settings>`},
		{"word/styles.xml", head + b.styles()},
		{"docProps/core.xml", head + `<cp:coreProperties xmlns:cp="` + package1 + `metadata/core-properties" ` +
			`xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:title>` + text.String() + `</dc:title></cp:coreProperties>`},
	} {
		if err := member(z, m.name, []byte(m.text)); err != nil {
			return nil, err
		}
	}
	err := z.Close()
	return out.Bytes(), err
}

// styles are the named styles; sizes are half points, room is twentieths of a point.
func (b *Beginning) styles() string {
	var out strings.Builder
	fmt.Fprintf(&out, `<w:styles xmlns:w="%s"><w:docDefaults><w:rPrDefault><w:rPr><w:rFonts w:ascii="%s" w:hAnsi="%s" w:cs="%s"/>`+
		`<w:sz w:val="21"/></w:rPr></w:rPrDefault><w:pPrDefault><w:pPr><w:spacing w:after="0" w:line="259" w:lineRule="auto"/></w:pPr>`+
		`</w:pPrDefault></w:docDefaults>`, mainSpace, b.family, b.family, b.family)
	style := func(id, name, based, paragraph, run string) {
		fmt.Fprintf(&out, `<w:style w:type="paragraph" w:styleId="%s"><w:name w:val="%s"/>`, id, name)
		if based != "" {
			fmt.Fprintf(&out, `<w:basedOn w:val="%s"/>`, based)
		}
		fmt.Fprintf(&out, `<w:qFormat/><w:pPr>%s</w:pPr><w:rPr>%s</w:rPr></w:style>`, paragraph, run)
	}
	colour := `<w:color w:val="` + b.accent + `"/>`
	const soft = `<w:color w:val="56686A"/><w:sz w:val="18"/>`
	style(TextStyle, "Text", "", `<w:spacing w:after="120"/>`, "")
	style(TitleStyle, "Title", "", `<w:keepNext/><w:spacing w:after="240"/><w:outlineLvl w:val="0"/>`, `<w:b/>`+colour+`<w:sz w:val="40"/>`)
	style(SectionStyle, "Section", "", `<w:keepNext/><w:spacing w:before="280" w:after="80"/><w:outlineLvl w:val="1"/>`,
		`<w:b/>`+colour+`<w:sz w:val="25"/>`)
	style(LabelStyle, "Label", "", `<w:spacing w:before="40" w:after="40"/>`, soft)
	style(AnswerStyle, "Answer", "", `<w:spacing w:before="40" w:after="40"/>`, "")
	style(HeadStyle, "Row head", LabelStyle, `<w:keepNext/>`, `<w:b/>`)
	style(TotalStyle, "Total", AnswerStyle, `<w:spacing w:before="80"/>`, `<w:b/>`)
	style(MarkStyle, "Mark", "", "", `<w:color w:val="8A4B00"/><w:sz w:val="16"/>`)
	out.WriteString(`<w:style w:type="table" w:styleId="Answers"><w:name w:val="Answers"/><w:tblPr><w:tblBorders><w:bottom ` +
		`w:val="single" ` +
		`w:sz="4" w:space="0" w:color="BCC8C4"/><w:insideH w:val="single" w:sz="4" w:space="0" w:color="BCC8C4"/></w:tblBorders>` +
		`<w:tblCellMar><w:left w:w="0" w:type="dxa"/><w:right w:w="115" w:type="dxa"/></w:tblCellMar></w:tblPr></w:style></w:styles>`)
	return out.String()
}
