package pdf

import (
	"bytes"
	"encoding/binary"
	"encoding/xml"
	"errors"
	"fmt"
	"math"
	"strings"
	"sync"

	"amberseal/core/print/typeset"
)

// Archival is the level of PDF/A a file declares.
type Archival string

// The levels. A-1b is PDF 1.4 without transparency (ISO 19005-1:2005), A-2b is PDF 1.7 (ISO 19005-2:2011), A-3b is A-2b
// with files inside (ISO 19005-3:2012).
const (
	NotArchival Archival = ""
	A1b         Archival = "a-1b"
	A2b         Archival = "a-2b"
	A3b         Archival = "a-3b"
)

func (a Archival) part() int {
	switch a {
	case A1b:
		return 1
	case A3b:
		return 3
	}
	return 2
}

// errNotArchival: ISO 19005-1 section 6.1.3 forbids encryption; a form's appearance would be the reader's.
var errNotArchival = errors.New("a protected or fillable file cannot be archival")

// describe adds the metadata and, to archival files, the output intent, and gives the catalog's entries (ISO 19005-2 sections
// 6.2.3 and 6.6).
func (w *writer) describe(p Properties) string {
	metadata := w.rawStream("/Type /Metadata /Subtype /XML", xmp(w.pages.Title, p, w.accessible(p)))
	if p.Archival == NotArchival {
		return " /Metadata " + metadata.String()
	}
	profile := w.rawStream("/N 3 /Filter /FlateDecode", sRGB())
	return fmt.Sprintf(
		" /Metadata %s /OutputIntents [<</Type /OutputIntent /S /GTS_PDFA1 /OutputConditionIdentifier (sRGB) /Info (sRGB IEC 61966-2-1) "+
			"/DestOutputProfile %s>>]",
		metadata, profile,
	)
}

// accessible reports whether the file can say that it is PDF/UA-1 (ISO 14289-1): it has a title, headings that skip no level
// (section 7.4.2) and words for each picture (7.3). What is not a matter of the design always holds.
func (w *writer) accessible(p Properties) bool {
	level, ok := 0, w.pages.Title != "" && w.pages.Language != "" && p.Archival != A1b && !p.Extended
	var visit func(e *typeset.Element)
	visit = func(e *typeset.Element) {
		switch e.Role {
		case "Figure":
			ok = ok && e.Alt != ""
		case "H1", "H2", "H3":
			n := int(e.Role[1] - '0')
			ok = ok && n <= level+1
			level = n
		}
		for _, k := range e.Kids {
			visit(k)
		}
	}
	visit(w.pages.Root)
	return ok
}

// uaSchema describes pdfuaid to readers of PDF/A, which must know each property (ISO 19005-2 section 6.6.2.3.3).
const uaSchema = `<rdf:Description rdf:about="" xmlns:pdfaExtension="http://www.aiim.org/pdfa/ns/extension/" ` +
	`xmlns:pdfaSchema="http://www.aiim.org/pdfa/ns/schema#" xmlns:pdfaProperty="http://www.aiim.org/pdfa/ns/property#">` +
	`<pdfaExtension:schemas><rdf:Bag><rdf:li rdf:parseType="Resource">` +
	`<pdfaSchema:schema>PDF/UA identification ` +
	`schema</pdfaSchema:schema><pdfaSchema:namespaceURI>http://www.aiim.org/pdfua/ns/id/</pdfaSchema:namespaceURI>` +
	`<pdfaSchema:prefix>pdfuaid</pdfaSchema:prefix>` +
	`<pdfaSchema:property><rdf:Seq><rdf:li ` +
	`rdf:parseType="Resource"><pdfaProperty:name>part</pdfaProperty:name><pdfaProperty:valueType>Integer</pdfaProperty:valueType>` +
	`<pdfaProperty:category>internal</pdfaProperty:category><pdfaProperty:description>The part of ISO 14289 that the file conforms ` +
	`to</pdfaProperty:description></rdf:li></rdf:Seq></pdfaSchema:property>` +
	`</rdf:li></rdf:Bag></pdfaExtension:schemas></rdf:Description>` + "\n"

// conformance is that of an archival level: A for whole structure and texts of all letters, U where some picture has no words.
func (a Archival) conformance(accessible bool) string {
	switch {
	case a == A1b:
		return "B"
	case accessible:
		return "A"
	}
	return "U"
}

// xmp says again what the information dictionary says (ISO 16684-1; ISO 19005-1 table 1), and the levels.
func xmp(title string, p Properties, accessible bool) []byte {
	var b bytes.Buffer
	b.WriteString("<?xpacket begin=\"\uFEFF\" id=\"W5M0MpCehiHzreSzNTczkc9d\"?>\n" +
		`<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">` +
		`<rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:xmp="http://ns.adobe.com/xap/1.0/" ` +
		`xmlns:pdf="http://ns.adobe.com/pdf/1.3/" xmlns:pdfaid="http://www.aiim.org/pdfa/ns/id/" ` +
		`xmlns:pdfuaid="http://www.aiim.org/pdfua/ns/id/">` + "\n")
	if p.Archival != NotArchival {
		fmt.Fprintf(
			&b, "<pdfaid:part>%d</pdfaid:part><pdfaid:conformance>%s</pdfaid:conformance>\n", p.Archival.part(),
			p.Archival.conformance(accessible),
		)
	}
	if accessible {
		b.WriteString("<pdfuaid:part>1</pdfuaid:part>\n")
	}
	list := func(name, open, shut, text string) {
		if text == "" {
			return
		}
		fmt.Fprintf(&b, "<dc:%s>%s", name, open)
		xml.EscapeText(&b, []byte(text)) // writing to a buffer cannot fail
		fmt.Fprintf(&b, "%s</dc:%s>\n", shut, name)
	}
	const open, shut = `<rdf:Alt><rdf:li xml:lang="x-default">`, `</rdf:li></rdf:Alt>`
	list("title", open, shut, title)
	list("creator", `<rdf:Seq><rdf:li>`, `</rdf:li></rdf:Seq>`, p.Author)
	list("description", open, shut, p.Subject)
	if p.Keywords != "" {
		b.WriteString("<pdf:Keywords>")
		xml.EscapeText(&b, []byte(p.Keywords)) // writing to a buffer cannot fail
		b.WriteString("</pdf:Keywords>\n")
	}
	made := p.Made.UTC().Format("2006-01-02T15:04:05Z")
	fmt.Fprintf(
		&b, "<xmp:CreateDate>%s</xmp:CreateDate><xmp:ModifyDate>%s</xmp:ModifyDate><pdf:Producer>%s</pdf:Producer>\n", made, made, producer,
	)
	b.WriteString("</rdf:Description>\n")
	if accessible && p.Archival != NotArchival {
		b.WriteString(uaSchema)
	}
	b.WriteString("</rdf:RDF></x:xmpmeta>\n<?xpacket end=\"r\"?>")
	return b.Bytes()
}

// sRGB is our own small profile, deflated: three primaries and one curve (ICC.1:2001-04, which PDF 1.4 reads).
// The primaries are those of IEC 61966-2-1 brought to the white D50 by Bradford's matrix; the curve is that standard's.
var sRGB = sync.OnceValue(func() []byte {
	text := func(s string) []byte { return append([]byte(s), 0) }
	fixed := func(b []byte, values ...float64) []byte {
		for _, v := range values {
			b = binary.BigEndian.AppendUint32(b, uint32(int32(math.Round(v*65536))))
		}
		return b
	}
	white := []float64{0.9642, 1, 0.8249}
	xyz := func(v ...float64) []byte { return fixed([]byte("XYZ \x00\x00\x00\x00"), v...) }
	const name = "sRGB"
	desc := append(binary.BigEndian.AppendUint32([]byte("desc\x00\x00\x00\x00"), uint32(len(name)+1)), text(name)...)
	desc = append(desc, make([]byte, 4+4+2+1+67)...) // no name in Unicode or ScriptCode
	const steps = 256
	curve := binary.BigEndian.AppendUint32([]byte("curv\x00\x00\x00\x00"), steps)
	for i := range steps {
		v := float64(i) / (steps - 1)
		if v <= 0.04045 {
			v /= 12.92
		} else {
			v = math.Pow((v+0.055)/1.055, 2.4)
		}
		curve = binary.BigEndian.AppendUint16(curve, uint16(math.Round(v*65535)))
	}
	tags := []struct {
		names string // of four letters each
		data  []byte
	}{
		{"desc", desc},
		{"cprt", append([]byte("text\x00\x00\x00\x00"), text("No copyright, use freely")...)},
		{"wtpt", xyz(white...)},
		{"rXYZ", xyz(0.43607, 0.22249, 0.01392)},
		{"gXYZ", xyz(0.38515, 0.71687, 0.09708)},
		{"bXYZ", xyz(0.14307, 0.06061, 0.71410)},
		{"rTRCgTRCbTRC", curve},
	}
	count := 0
	for _, t := range tags {
		count += len(t.names) / 4
	}
	table := binary.BigEndian.AppendUint32(nil, uint32(count))
	var data []byte
	for _, t := range tags {
		at := 128 + 4 + 12*count + len(data)
		for i := 0; i < len(t.names); i += 4 {
			table = append(table, t.names[i:i+4]...)
			table = binary.BigEndian.AppendUint32(table, uint32(at))
			table = binary.BigEndian.AppendUint32(table, uint32(len(t.data)))
		}
		data = append(data, t.data...)
		data = append(data, strings.Repeat("\x00", -len(t.data)&3)...)
	}
	head := binary.BigEndian.AppendUint32(nil, uint32(128+len(table)+len(data)))
	head = append(head, "\x00\x00\x00\x00\x02\x10\x00\x00mntrRGB XYZ "...)
	for _, v := range []uint16{2026, 1, 1, 0, 0, 0} { // a fixed day: the same bytes always
		head = binary.BigEndian.AppendUint16(head, v)
	}
	head = append(head, "acsp"...)
	head = append(head, make([]byte, 68-len(head))...)
	head = fixed(head, white...)
	head = append(head, make([]byte, 128-len(head))...)
	return deflate(append(append(head, table...), data...))
})
