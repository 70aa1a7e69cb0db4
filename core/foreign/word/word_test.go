package word_test

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"io"
	"os"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"amberseal/core/ask/form"
	"amberseal/core/foreign/match"
	"amberseal/core/foreign/word"
	"amberseal/core/words/finding"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

const space = `xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main" ` +
	`xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships" ` +
	`xmlns:wp="http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing" ` +
	`xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main" ` +
	`xmlns:pic="http://schemas.openxmlformats.org/drawingml/2006/picture" ` +
	`xmlns:w14="http://schemas.microsoft.com/office/word/2010/wordml" xmlns:w15="http://schemas.microsoft.com/office/word/2012/wordml" ` +
	`xmlns:mc="http://schemas.openxmlformats.org/markup-compatibility/2006"`

// packed makes a package of parts, with what every package has.
func packed(t testing.TB, parts map[string]string) []byte {
	t.Helper()
	all := map[string]string{
		"[Content_Types].xml": `<?xml version="1.0" encoding="UTF-8"?><Types ` +
			`xmlns="http://schemas.openxmlformats.org/package/2006/content-types">` +
			`<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>` +
			`<Default Extension="xml" ContentType="application/xml"/><Override PartName="/word/document.xml" ` +
			`ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>`,
		"_rels/.rels": `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" ` +
			`Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/>` +
			`</Relationships>`,
	}
	for name, text := range parts {
		all[name] = text
	}
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	for _, name := range slices.Sorted(func(yield func(string) bool) {
		for name := range all {
			if !yield(name) {
				return
			}
		}
	}) {
		w, err := z.Create(name)
		if err != nil {
			t.Fatal(err)
		}
		io.WriteString(w, all[name])
	}
	if err := z.Close(); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

func document(body string) map[string]string {
	return map[string]string{"word/document.xml": `<?xml version="1.0" encoding="UTF-8"?><w:document ` + space + `><w:body>` + body +
		`<w:sectPr/></w:body></w:document>`}
}

func p(words string) string {
	return `<w:p><w:r><w:t xml:space="preserve">` + words + `</w:t></w:r></w:p>`
}

func tr(words ...string) string {
	s := "<w:tr>"
	for _, x := range words {
		s += "<w:tc>" + p(x) + "</w:tc>"
	}
	return s + "</w:tr>"
}

func tbl(rows ...string) string {
	return "<w:tbl><w:tblPr/><w:tblGrid/>" + strings.Join(rows, "") + "</w:tbl>"
}

var asked = form.Form{Fields: []form.Field{
	{Key: "name", Kind: form.ShortText, Label: "Your name"},
	{Key: "day", Kind: form.Date, Label: "Day of the visit"},
	{Key: "age", Kind: form.WholeNumber, Label: "Age"},
	{Key: "note", Kind: form.LongText, Label: "Note"},
	{Key: "agreed", Kind: form.YesNo, Label: "Agreed"},
	{Key: "lines", Kind: form.Rows, Label: "Lines", Settings: form.Settings{Fields: []form.Field{
		{Key: "part", Kind: form.ShortText, Label: "Part"}, {Key: "count", Kind: form.WholeNumber, Label: "How many"},
	}}},
	{Key: "sign", Kind: form.Signature, Label: "Signature"},
	{Key: "photo", Kind: form.Photo, Label: "Photo"},
}}

const given = `{"name": "Łucja & Brzęk", "day": "2026-12-24", "age": 12, "note": "one\ntwo", "agreed": true,
	"lines": [{"part": "Bow", "count": 2}, {"part": "Bridge", "count": 5}],
	"sign": {"strokes": [[1, 1, 40, 20], [40, 1, 1, 20]], "width": 100, "height": 40}}`

func facts(t testing.TB, answers string) phrase.Facts {
	t.Helper()
	var raw form.Raw
	if err := json.Unmarshal([]byte(answers), &raw); err != nil {
		t.Fatal(err)
	}
	h := house.New()
	h.Name, h.Language = "House", "en-GB"
	now := time.Date(2026, 12, 1, 9, 0, 0, 0, time.UTC)
	checked := form.Check(asked, raw, h.Circumstances(now))
	if err := checked.Findings.Err(); err != nil {
		t.Fatal(err)
	}
	return phrase.Facts{House: h, Form: asked, Answers: checked.Answers, Number: "A-1", Received: now, Made: now}
}

// fill gives the words of the filled file's body, a paragraph a line and cells with bars.
func fill(t *testing.T, data []byte, answers string, chosen map[string]match.Match) (string, []byte) {
	t.Helper()
	f, err := word.Open(data)
	if err != nil {
		t.Fatal(err)
	}
	out, err := f.Fill(word.Filling{Names: match.For(asked, chosen), Facts: facts(t, answers)}).Bytes()
	if err != nil {
		t.Fatal(err)
	}
	if _, err := word.Open(out); err != nil {
		t.Fatalf("what was filled cannot be opened: %v", err)
	}
	return words(member(t, out, "word/document.xml")), out
}

func member(t *testing.T, data []byte, name string) string {
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

var tags = regexp.MustCompile(`<[^>]*>`)

func words(xml string) string {
	for _, x := range []struct{ from, to string }{
		{"</w:p></w:tc>", " | "}, {"</w:tr>", "\n"}, {"</w:p>", "\n"}, {"<w:br/>", "⏎"}, {"<w:tab/>", "→"}, {"<w:drawing", "▣<w:drawing"},
	} {
		xml = strings.ReplaceAll(xml, x.from, x.to)
	}
	text := tags.ReplaceAllString(xml[strings.Index(xml, "<w:body"):], "")
	text = strings.NewReplacer("&amp;", "&", "&lt;", "<", "&gt;", ">", "&quot;", `"`).Replace(text)
	return strings.TrimSpace(text)
}

func TestFill(t *testing.T) {
	for name, x := range map[string]struct{ body, want string }{
		"words by key, label and loosely": {
			p("{{name}}, {{ Your Name }}, {{YOUR-NAME}}, {{day|short}}, {{@number}}, {{nobody}}"),
			"Łucja & Brzęk, Łucja & Brzęk, Łucja & Brzęk, 24 Dec 2026, A-1, [nobody]",
		},
		"several lines": {p("{{note}}"), "one⏎two"},
		"upper case":    {p("{{name|upper}}"), "ŁUCJA & BRZĘK"},
		"runs that part the braces": {
			`<w:p><w:r><w:t>a {</w:t></w:r><w:proofErr w:type="spellStart"/><w:r><w:rPr><w:b/></w:rPr><w:t>{na</w:t></w:r>` +
				`<w:r><w:t>me}</w:t></w:r><w:proofErr w:type="spellEnd"/><w:r><w:t>} b</w:t></w:r></w:p>`, "a Łucja & Brzęk b",
		},
		"deleted words are not read": {
			`<w:p><w:r><w:t>{{na</w:t></w:r><w:del><w:r><w:delText>xx</w:delText></w:r></w:del><w:ins><w:r><w:t>me}}</w:t></w:r>` +
				`</w:ins></w:p>`,
			"Łucja & Brzękxx", // which stay deleted
		},
		"a condition in a line": {p("a{{when age &gt; 10}}b{{otherwise}}c{{end}}d"), "abd"},
		"its other side":        {p("a{{when age &lt; 10}}b{{otherwise}}c{{end}}d"), "acd"},
		"conditions in conditions": {
			p("{{when age &gt; 1}}x{{when age &gt; 99}}y{{otherwise}}z{{end}}w{{end}}"), "xzw",
		},
		"smart quotes": {p("{{when name = “Łucja &amp; Brzęk”}}yes{{end}}"), "yes"},
		"paragraphs": {p("{{when age &lt; 10}}") + p("gone") + tbl(tr("gone")) + p("{{otherwise}}") + p("stays") + p("{{end}}") +
			p("on"), "stays\non"},
		"words beside the marks": {
			p("before {{when age &lt; 10}}gone") + p("gone") + p("gone {{end}}after"), "before \nafter",
		},
		"marks in marks of paragraphs": {
			p("{{when age &gt; 1}}") + p("{{when age &gt; 99}}") + p("no") + p("{{end}}") + p("yes") + p("{{end}}"), "yes",
		},
		"a row repeats by itself": {
			tbl(tr("Part", "How many"), tr("{{part}}", "{{lines.count}}"), tr("Total", "{{age}}")),
			"Part | How many | \nBow | 2 | \nBridge | 5 | \nTotal | 12 |",
		},
		"rows by marks": {p("{{rows lines}}") + p("{{@row}}. {{part}}") + p("{{end}}"), "1. Bow\n2. Bridge"},
		"rows in a line": {
			p("Parts: {{rows lines}}{{part}} ({{count}}); {{end}}thanks"), "Parts: Bow (2); Bridge (5); thanks",
		},
		"rows of a table by marks": {
			tbl(tr("{{rows lines}}{{part}}", "a"), tr("", "{{count}}{{end}}"), tr("x", "y")),
			"Bow | a | \n | 2 | \nBridge | a | \n | 5 | \nx | y |",
		},
		"rows of a table on a condition": {
			tbl(tr("{{when age &lt; 10}}no", "no"), tr("no", "no{{end}}"), tr("x", "y")), "x | y |",
		},
		"a table of its own": {p("{{lines|table}}"), "Part | How many | \nBow | 2 | \nBridge | 5 |"},
		"an item of a list": {
			`<w:p><w:pPr><w:numPr><w:numId w:val="1"/></w:numPr></w:pPr><w:r><w:t>{{part}}</w:t></w:r></w:p>`, "Bow\nBridge",
		},
		"a control by its tag": {
			`<w:p><w:sdt><w:sdtPr><w:tag w:val="name"/><w:showingPlcHdr/></w:sdtPr><w:sdtContent><w:r><w:t>Click here</w:t></w:r>` +
				`</w:sdtContent>` +
				`</w:sdt></w:p>`, "Łucja & Brzęk",
		},
		"a box to tick": {
			`<w:p><w:sdt><w:sdtPr><w:alias w:val="Agreed"/><w14:checkbox><w14:checked w14:val="0"/></w14:checkbox></w:sdtPr>` +
				`<w:sdtContent><w:r>` +
				`<w:t>☐</w:t></w:r></w:sdtContent></w:sdt></w:p>`, "☒",
		},
		"a field of mail merge": {
			`<w:p><w:r><w:fldChar w:fldCharType="begin"/></w:r><w:r><w:instrText> MERGEFIELD "Your name" \* MERGEFORMAT </w:instrText>` +
				`</w:r><w:r>` +
				`<w:fldChar w:fldCharType="separate"/></w:r><w:r><w:t>«Your name»</w:t></w:r><w:r><w:fldChar w:fldCharType="end"/></w:r>` +
				`<w:fldSimple w:instr=" MERGEFIELD age "><w:r><w:t>«age»</w:t></w:r></w:fldSimple></w:p>`, "Łucja & Brzęk12",
		},
		"a signature": {p("Signed: {{sign|width 40 mm}}."), "Signed: ▣."},
		"a code":      {p("{{qr @number|25 mm}}"), "▣"},
	} {
		t.Run(name, func(t *testing.T) {
			if got, _ := fill(t, packed(t, document(x.body)), given, nil); got != x.want {
				t.Errorf("%q\nwant %q", got, x.want)
			}
		})
	}
}

func TestChosenMatches(t *testing.T) {
	chosen := map[string]match.Match{
		"client name": match.Read("{{name}} of {{@house}}"), "double": match.Read("=age * 2"), "place": match.Read("Tarn Hollow, upstairs"),
		"when": match.Read("day|iso"),
	}
	got, _ := fill(t, packed(t, document(p("{{Client Name}}; {{double}}; {{place}}; {{WHEN}}"))), given, chosen)
	if want := "Łucja & Brzęk of House; 24; Tarn Hollow, upstairs; 2026-12-24"; got != want {
		t.Errorf("%q, want %q", got, want)
	}
	// What was kept of a name that stands for itself is not called chosen; it holds when the question is called otherwise.
	kept := match.For(asked, map[string]match.Match{"Your name": match.Read("name"), "Age": match.Read("name")})
	if _, how := kept.Find("Your name"); how != match.SameLabel {
		t.Errorf("kept as it was: %q", how)
	}
	if m, how := kept.Find("Age"); how != match.Chosen || m.Field() != "name" {
		t.Errorf("chosen otherwise: %q %q", m.Field(), how)
	}
}

// A picture of the file is replaced in its box, keeping its proportions; without an answer it goes, and nothing else.
func TestPicturesOfTheFile(t *testing.T) {
	parts := document(`<w:p><w:r><w:t>a</w:t></w:r><w:r><w:drawing><wp:inline><wp:extent cx="2000000" cy="500000"/><wp:docPr id="1" ` +
		`name="x" ` +
		`descr="{{photo}}"/><a:graphic><a:graphicData uri="x"><pic:pic><pic:blipFill><a:blip r:embed="rId9"/></pic:blipFill><pic:spPr>` +
		`<a:xfrm>` +
		`<a:ext cx="2000000" cy="500000"/></a:xfrm></pic:spPr></pic:pic></a:graphicData></a:graphic></wp:inline></w:drawing></w:r>` +
		`<w:r><w:t>b</w:t></w:r></w:p>`)
	f, err := word.Open(packed(t, parts))
	if err != nil {
		t.Fatal(err)
	}
	if got, _ := fill(t, packed(t, parts), given, nil); got != "ab" {
		t.Errorf("without an answer: %q", got)
	}
	var picture bytes.Buffer
	if err := png.Encode(&picture, image.NewGray(image.Rect(0, 0, 100, 100))); err != nil {
		t.Fatal(err)
	}
	with := facts(t, given)
	photo, _ := form.Sample(asked, form.MadeUp)["photo"], 0
	with.Answers["photo"] = photo
	out, err := f.Fill(word.Filling{
		Names: match.For(asked, nil), Facts: with, Picture: func(string) ([]byte, error) { return picture.Bytes(), nil },
	}).Bytes()
	if err != nil {
		t.Fatal(err)
	}
	if got := member(t, out, "word/document.xml"); !strings.Contains(got, `<wp:extent cx="500000" cy="500000"/>`) ||
		!strings.Contains(got, `descr="Photo"`) {
		t.Errorf("%s", got)
	}
	if got := member(t, out, "word/media/filled1.png"); got != picture.String() {
		t.Error("the picture is not in the file")
	}
}

func inspect(t *testing.T, body string) word.Inspection {
	t.Helper()
	f, err := word.Open(packed(t, document(body)))
	if err != nil {
		t.Fatal(err)
	}
	return f.Inspect(match.For(asked, nil), asked)
}

func TestInspect(t *testing.T) {
	in := inspect(t, p("{{name}} and {{Your nmae}}")+tbl(tr("{{part}}"))+p("{{when age &gt; 3}}x{{end}} {{deposit}}"))
	var got []string
	for _, x := range in.Placeholders {
		got = append(got, fmt.Sprintf("%s (%s) at %s: %s, %s", x.Name, x.Kind, x.Place, x.Match.Field(), x.How))
	}
	want := []string{
		"name (words) at paragraph 1: name, same key", "Your nmae (words) at paragraph 1: name, nearly the same label",
		"part (words) at paragraph 2: lines.part, same key", "age > 3 (condition) at paragraph 3: , ", "deposit (words) at paragraph 3: , ",
	}
	if !slices.Equal(got, want) {
		t.Errorf("%q", got)
	}
	if !slices.Equal(in.Unprinted, []string{"day", "note", "agreed", "sign", "photo"}) {
		t.Errorf("printed nowhere: %q", in.Unprinted)
	}
}

// control is a content control with a sample in it.
func control(tag string) string {
	return `<w:p><w:sdt><w:sdtPr><w:tag w:val="` + tag +
		`"/></w:sdtPr><w:sdtContent><w:r><w:t>a sample</w:t></w:r></w:sdtContent></w:sdt></w:p>`
}

// Nothing uncertain is printed: what is nearly a name, and what looks like a formula, stand as they were written; a control without a match
// keeps its sample when somebody says so, and is a fault until then.
func TestWhatIsNotCertainIsNotPrinted(t *testing.T) {
	body := p("{{Your nmae}}, {{age * 2}}, {{=age}}, {{Not agreed}}") + control("nobody") + control("age")
	got, _ := fill(t, packed(t, document(body)), given, nil)
	if want := "[Your nmae], [age * 2], [=age], [Not agreed]\na sample\n12"; got != want {
		t.Errorf("%q, want %q", got, want)
	}
	f, err := word.Open(packed(t, document(body)))
	if err != nil {
		t.Fatal(err)
	}
	chosen := map[string]match.Match{"nobody": {}, "Your nmae": match.Read("name")}
	for _, x := range f.Inspect(match.For(asked, chosen), asked).Findings {
		if strings.Contains(x.Message, "nobody") || strings.Contains(x.Message, "nmae") {
			t.Errorf("what was confirmed is still told: %s", x.Message)
		}
	}
	if got, _ := fill(t, packed(t, document(body)), given, chosen); !strings.HasPrefix(got, "Łucja & Brzęk, ") ||
		!strings.Contains(got, "a sample") {
		t.Errorf("confirmed it reads %q", got)
	}
}

func TestFaults(t *testing.T) {
	for code, body := range map[string]string{
		"word.no-match": p("{{nobody}}"), "word.braces-not-closed": p("{{name"), "word.braces-not-opened": p("name}}"),
		"word.braces-empty": p("{{ }}"), "word.end-without-beginning": p("x{{end}}"), "word.no-end": p("{{when age &gt; 1}}") + p("x"),
		"word.otherwise-alone": p("{{otherwise}}"), "word.across-cells": p("{{when age &gt; 1}}") + tbl(tr("{{end}}")),
		"word.no-group": p("{{rows name}}x{{end}}"), "formula.no-such-field-but-another": p("{{when agee &gt; 1}}x{{end}}"),
		"word.nearly": p("{{Your nmae}}"), "word.calculates": p("{{age * 2}}"), "word.stays": control("nobody"),
		"phrase.format-unfitting": p("{{name|short}}"), "formula.ends-early": p("{{when age &gt;}}x{{end}}"),
	} {
		in := inspect(t, p("first")+body)
		i := slices.IndexFunc(in.Findings, func(f finding.Finding) bool { return f.Code == code })
		if i < 0 {
			t.Errorf("%s: %v", code, in.Findings)
		} else if f := in.Findings[i]; f.Place != "paragraph 2" && f.Place != "paragraph 3" || f.Level != finding.Fault {
			t.Errorf("%s at %q, %s", code, f.Place, f.Level)
		}
	}
}

func TestParts(t *testing.T) {
	parts := document(p("{{name}}"))
	parts["word/_rels/document.xml.rels"] = `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">` +
		`<Relationship ` +
		`Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/header" Target="header1.xml"/></Relationships>`
	parts["word/header1.xml"] = `<w:hdr ` + space + `>` + p("{{@number}}") + `</w:hdr>`
	parts["customXml/item1.xml"] = "<x>untouched</x>"
	data := packed(t, parts)
	_, out := fill(t, data, given, nil)
	if got := member(t, out, "word/header1.xml"); !strings.Contains(got, "A-1") {
		t.Errorf("header: %s", got)
	}
	raw := func(data []byte) []byte { // as it lies in the package
		z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
		if err != nil {
			t.Fatal(err)
		}
		for _, m := range z.File {
			if m.Name == "customXml/item1.xml" {
				r, err := m.OpenRaw()
				if err != nil {
					t.Fatal(err)
				}
				b, err := io.ReadAll(r)
				if err != nil {
					t.Fatal(err)
				}
				return b
			}
		}
		return nil
	}
	if a, b := raw(data), raw(out); a == nil || !bytes.Equal(a, b) {
		t.Error("a part that nobody touched was written anew")
	}
}

// A comment stands at the place of each finding, and the file is otherwise as it was.
func TestAnnotate(t *testing.T) {
	body := p("{{name}}") + p("{{nobody}}") + p("x{{end}}")
	out, n, err := word.Annotate(packed(t, document(body)), match.For(asked, nil), asked)
	if err != nil || n != 2 {
		t.Fatalf("%d notes, %v", n, err)
	}
	if got := words(member(t, out, "word/document.xml")); got != "{{name}}\n{{nobody}}\nx{{end}}" {
		t.Errorf("%q", got)
	}
	xml := member(t, out, "word/document.xml")
	for i, at := range []string{"{{nobody}}", "x{{end}}"} {
		mark := fmt.Sprintf(`<w:commentRangeStart w:id="%d"/>`, i)
		if !strings.Contains(xml[strings.LastIndex(xml[:strings.Index(xml, at)], "<w:p>"):strings.Index(xml, at)], mark) {
			t.Errorf("no comment %d at %s", i, at)
		}
	}
	if notes := member(t, out, "word/comments.xml"); !strings.Contains(notes, "Nothing is called “nobody”") {
		t.Errorf("%s", notes)
	}
	if again, m, err := word.Annotate(out, match.For(asked, nil), asked); err != nil || m != 2 ||
		strings.Count(member(t, again, "word/comments.xml"), "<w:comment ") != 4 {
		t.Errorf("of a file that has comments: %d, %v", m, err)
	}
}

func TestQuestions(t *testing.T) {
	body := p("{{client_name}}, {{Date of birth}}, {{@number}}, {{Client name}}") + p("{{sign|width 50 mm}} {{photo of it|width 50 mm}}") +
		tbl(tr("Part", "How many"), tr("{{part}}", "{{how many}}"), tr("Total", "{{total}}")) + p("{{when insured}}x{{end}}") +
		`<w:p><w:sdt><w:sdtPr><w:tag w:val="Colour"/><w:dropDownList><w:listItem w:displayText="Red" w:value="r"/><w:listItem ` +
		`w:displayText="Dark blue" w:value="b"/></w:dropDownList></w:sdtPr><w:sdtContent><w:r><w:t>x</w:t></w:r></w:sdtContent>` +
		`</w:sdt></w:p>`
	f, err := word.Open(packed(t, document(body)))
	if err != nil {
		t.Fatal(err)
	}
	got := f.Questions()
	var all []string
	for _, x := range got.Fields {
		line := fmt.Sprintf("%s %s", x.Key, x.Kind)
		for _, c := range x.Fields {
			line += fmt.Sprintf(" %s %s", c.Key, c.Kind)
		}
		for _, c := range x.Choices {
			line += " " + c.Label
		}
		all = append(all, line)
	}
	want := []string{
		"client_name name", "date_of_birth date", "sign signature", "photo_of_it photo", "lines rows part short_text how_many whole_number",
		"total money", "colour one_of Red Dark blue", "insured yes_no",
	}
	if !slices.Equal(all, want) {
		t.Errorf("%q\nwant %q", all, want)
	}
	// What it asks is matched with what it has become.
	if in := f.Inspect(match.For(form.Form{Fields: got.Fields}, got.Matches), form.Form{Fields: got.Fields}); in.Findings.Faults() > 0 {
		t.Error(in.Findings)
	}
}

// What docs/own-documents.md says of the syntax is so.
func TestThePageIsTrue(t *testing.T) {
	page, err := os.ReadFile("../../../docs/own-documents.md")
	if err != nil {
		t.Fatal(err)
	}
	line := regexp.MustCompile("(?m)^\\| `(.+)` \\| (.+) \\|$")
	seen := 0
	for _, m := range line.FindAllStringSubmatch(string(page), -1) {
		seen++
		said := strings.NewReplacer(`\|`, "|", "<", "&lt;", ">", "&gt;").Replace(m[1])
		got, _ := fill(t, packed(t, document(p(said))), strings.Replace(given, "Łucja & Brzęk", "Wanda", 1), nil)
		if got != m[2] {
			t.Errorf("%s is %q, the page says %q", m[1], got, m[2])
		}
	}
	if seen < 10 {
		t.Errorf("only %d lines were read", seen)
	}
}
