package produce_test

import (
	"bytes"
	"encoding/xml"
	"image"
	"image/color"
	"image/png"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"amberseal/app/produce"
	"amberseal/core/ask/form"
	"amberseal/core/print/paper"
	"amberseal/core/words/phrase"
)

// preflight asks Apache PDFBox which of the files are valid PDF/A-1b, in their order.
func preflight(t *testing.T, files []string) []bool {
	t.Helper()
	list := filepath.Join(t.TempDir(), "list")
	if err := os.WriteFile(list, []byte(strings.Join(files, "\n")), 0o600); err != nil {
		t.Fatal(err)
	}
	var jars []string
	for _, name := range []string{"preflight", "pdfbox2", "fontbox2", "xmpbox", "commons-logging", "jaxb-api", "javax.activation"} {
		jars = append(jars, "/usr/share/java/"+name+".jar")
	}
	tool(t, "java", "-cp", strings.Join(jars, ":"), "org.apache.pdfbox.preflight.Validator_A1b", "xml", "group", list)
	data, err := os.ReadFile(list + ".preflight.xml")
	var said struct {
		Files []struct {
			Name   string `xml:"name,attr"`
			Valid  bool   `xml:"isValid"`
			Faults []struct {
				Code string `xml:"code"`
				Text string `xml:"details"`
			} `xml:"errors>error"`
		} `xml:"preflight"`
	}
	if err == nil {
		err = xml.Unmarshal(data, &said)
	}
	if err != nil || len(said.Files) != len(files) {
		t.Fatalf("%v %s", err, data)
	}
	valid := make([]bool, len(files))
	for i, f := range said.Files {
		valid[i] = f.Valid
		if f.Name != filepath.Base(files[i]) {
			t.Fatalf("%s stands for %s", f.Name, files[i])
		}
		if !f.Valid {
			t.Logf("%s: %v", f.Name, f.Faults)
		}
	}
	return valid
}

func seeThrough(t *testing.T) []byte {
	t.Helper()
	m := image.NewNRGBA64(image.Rect(0, 0, 40, 20))
	for x := range 40 {
		for y := range 20 {
			m.SetNRGBA64(x, y, color.NRGBA64{R: uint16(x * 1600), G: 30000, B: uint16(y * 3000), A: uint16(x * 1600)})
		}
	}
	var b bytes.Buffer
	if err := png.Encode(&b, m); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

// inks is a JPEG in CMYK, as Ghostscript makes them: all cyan.
func inks(t *testing.T) []byte {
	t.Helper()
	file := filepath.Join(t.TempDir(), "inks.jpg")
	tool(t, "gs", "-q", "-sDEVICE=jpegcmyk", "-r72", "-g40x20", "-o", file, "-c", "1 0 0 0 setcmykcolor 0 0 40 20 rectfill showpage")
	data, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	return data
}

// Every document in every look is PDF/A-1b when asked to be, also where the answers are hard; the same validator
// refuses the level it does not know.
func TestArchivalA1b(t *testing.T) {
	dir := t.TempDir()
	var files []string
	add := func(name string, c produce.Composed, err error) {
		if err != nil {
			t.Fatal(name, err)
		}
		files = append(files, filepath.Join(dir, name+".pdf"))
		if err := os.WriteFile(files[len(files)-1], c.PDF, 0o600); err != nil {
			t.Fatal(err)
		}
		faultless(t, files[len(files)-1])
	}
	for _, slug := range slugs(t) {
		d, f := facts(t, slug, nil)
		for i := range d.Documents {
			doc := &d.Documents[i]
			if doc.OnPages() {
				continue // nothing is claimed of what others made
			}
			doc.Page.Printed = nil
			doc.Archival, doc.Data = paper.A1b, false
			for _, look := range paper.Looks() {
				if doc.Brought() && look != paper.Looks()[0] {
					continue // a look dresses blocks
				}
				doc.Look = look
				for name, answers := range map[string]form.Answers{"given": f.Answers, "longest": form.Sample(d.Form, form.Longest)} {
					g := f
					g.Answers = answers
					c, err := produce.Compose(d, doc.Key, g, pictures, produce.Apart{})
					add(strings.Join([]string{slug, doc.Key, string(look), name}, "-"), c, err)
				}
			}
		}
	}
	d, f := facts(t, "repair-drop-off", nil)
	f.Trial = true
	d.Documents[0].Archival, d.Documents[0].Data = paper.A1b, false
	d.Documents[0].Title = phrase.Phrase{{Text: "Réceipt <&> (נור) \\ 🎻"}}
	d.Documents[0].Blocks = []paper.Block{
		{
			ID:       "words",
			Kind:     paper.Text,
			Settings: paper.Settings{Body: phrase.Body{{Spans: phrase.Phrase{{Text: "🎻 \uE000 نور الحداد สวัสดี דנה office"}}}}},
		},
		{ID: "picture", Kind: paper.Picture, Settings: paper.Settings{Picture: "through.png"}},
		{ID: "inks", Kind: paper.Picture, Settings: paper.Settings{Picture: "inks.jpg"}},
	}
	see := func(name string) ([]byte, error) {
		if name == "inks.jpg" {
			return inks(t), nil
		}
		return seeThrough(t), nil
	}
	hard, err := produce.Compose(d, d.Documents[0].Key, f, see, produce.Apart{})
	add("hard", hard, err)
	d.Documents[0].Archival = paper.A2b
	other, err := produce.Compose(d, d.Documents[0].Key, f, see, produce.Apart{})
	add("other-level", other, err)
	if bytes.Contains(hard.PDF, []byte("/DeviceCMYK")) || bytes.Contains(other.PDF, []byte("/DeviceCMYK")) {
		t.Error("an archival file has colours that its intent does not cover")
	}
	if !bytes.HasPrefix(hard.PDF, []byte("%PDF-1.4")) || bytes.Contains(hard.PDF, []byte("/SMask")) ||
		!bytes.Contains(other.PDF, []byte("/SMask")) {
		t.Error("the level does not decide about the version and transparency")
	}
	// Ghostscript stops at the first error, and says nothing when there is none.
	if said := tool(t, "gs", append([]string{"-q", "-dPDFSTOPONERROR", "-dNOPAUSE", "-dBATCH", "-sDEVICE=nullpage"},
		files...)...); said != "" {
		t.Error("Ghostscript:", said)
	}
	for i, valid := range preflight(t, files) {
		if last := i == len(files)-1; valid == last {
			t.Errorf("%s: valid PDF/A-1b is %v", files[i], valid)
		}
	}
}

// No validator here knows PDF/A-2b; what ISO 19005-2 asks of a file is looked for piece by piece: metadata that says the
// level and what the information dictionary says (6.6), an output intent (6.2.3), no glyph 0 shown (6.2.11.8).
func TestArchivalA2bIsUsual(t *testing.T) {
	d, f := facts(t, "repair-drop-off", nil)
	d.Documents[0].Blocks = append(
		d.Documents[0].Blocks,
		paper.Block{
			ID:       "words",
			Kind:     paper.Text,
			Settings: paper.Settings{Body: phrase.Body{{Spans: phrase.Phrase{{Text: "missing \uE000 here"}}}}},
		},
	)
	c := compose(t, d, "receipt", f)
	file := write(t, c)
	faultless(t, file)
	meta := tool(t, "pdfinfo", "-meta", file)
	for _, want := range []string{"<pdfaid:part>2</pdfaid:part><pdfaid:conformance>A</pdfaid:conformance>", c.Title,
		"Tarn Hollow Instrument Works", "2026-11-24T09:41:00Z"} {
		if !strings.Contains(meta, want) {
			t.Errorf("the metadata does not say %q: %s", want, meta)
		}
	}
	plain := filepath.Join(t.TempDir(), "plain.pdf")
	tool(t, "qpdf", "--qdf", "--object-streams=disable", file, plain)
	data, err := os.ReadFile(plain)
	if err != nil || !bytes.Contains(data, []byte("/GTS_PDFA1")) {
		t.Error("there is no output intent", err)
	}
	for _, shown := range regexp.MustCompile(`(?s)\[[^\]]*\] TJ`).FindAll(data, -1) {
		for _, hex := range regexp.MustCompile(`<([0-9A-Fa-f]+)>`).FindAllSubmatch(shown, -1) {
			for i := 0; i+4 <= len(hex[1]); i += 4 {
				if string(hex[1][i:i+4]) == "0000" {
					t.Fatal("glyph 0 is shown")
				}
			}
		}
	}
	if text := tool(t, "pdftotext", file, "-"); !strings.Contains(text, "missing \uE000 here") {
		t.Error("a character without a glyph is not read back")
	}
	d.Documents[0].Archival = paper.NotArchival
	if c := compose(t, d, "receipt", f); bytes.Contains(c.PDF, []byte("<pdfaid:")) {
		t.Error("a file that is not archival says that it is")
	}
	d.Documents[0].Archival, d.Documents[0].Protect = paper.A2b, &paper.Protect{NoCopy: true}
	if l := d.Documents[0].Check(d.Form, func(string) bool { return true }); l.Faults() != 1 ||
		!strings.Contains(l.Err().Error(), "cannot be archival") {
		t.Error("a protected archival document is not refused:", l)
	}
}

// A drawing with gradients and dashes is archival too, on the page and as a watermark; its gradients are written once however often
// it is drawn.
func TestDrawingsAreArchival(t *testing.T) {
	const logo = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 60 30"><defs><linearGradient id="a"><stop offset="0" ` +
		`stop-color="#C0673F"/><stop offset="0.4" stop-color="#E2931A"/><stop offset="1" stop-color="#1F4F8A" ` +
		`stop-opacity="0.5"/></linearGradient>
	  <radialGradient id="b"><stop offset="0" stop-color="#fff"/><stop offset="1" stop-color="#17593E"/></radialGradient></defs>
	  <rect width="30" height="30" rx="4" fill="url(#a)"/><circle cx="45" cy="15" r="14" fill="url(#b)" stroke="#000" ` +
		`stroke-dasharray="3 2"/></svg>`
	d, f := facts(t, "gift", nil)
	doc := &d.Documents[0]
	doc.Archival, doc.Page.Mark = paper.A1b, &paper.Backing{Picture: "logo.svg"}
	for _, id := range []string{"one", "two"} {
		doc.Blocks = append(
			doc.Blocks,
			paper.Block{ID: id, Kind: paper.Picture, Settings: paper.Settings{Picture: "logo.svg", Alt: "A logo", Width: 40}},
		)
	}
	c, err := produce.Compose(d, doc.Key, f, func(name string) ([]byte, error) {
		if name == "logo.svg" {
			return []byte(logo), nil
		}
		return pictures(name)
	}, produce.Apart{})
	if err != nil || len(c.Findings) > 0 {
		t.Fatal(c.Findings, err)
	}
	file := write(t, c)
	faultless(t, file)
	tool(t, "gs", "-q", "-dBATCH", "-dNOPAUSE", "-dPDFSTOPONERROR", "-sDEVICE=nullpage", file)
	if valid := preflight(t, []string{file}); !valid[0] {
		t.Error("PDFBox Preflight finds it no PDF/A-1b")
	}
	plain := tool(t, "qpdf", "--qdf", "--object-streams=disable", file, "-")
	if n := strings.Count(plain, "/ShadingType"); n != 4 || // two, and two pale ones
		strings.Count(plain, " sh Q") < 6 || !strings.Contains(plain, "] 0 d") {
		t.Errorf("%d gradients are drawn %d times", n, strings.Count(plain, " sh Q"))
	}
}
