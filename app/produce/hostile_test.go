package produce_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"amberseal/app/produce"
	"amberseal/core/ask/form"
	"amberseal/core/intake"
	"amberseal/core/print/paper"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

// wide is an intake with a repeating group of many columns, and that many rows of answers.
func wide(t *testing.T, columns, rows int) (intake.Design, form.Answers) {
	group := form.Field{Key: "g", Kind: form.Rows, Label: "Rows", Settings: form.Settings{Most: rows}}
	var lines []string
	for c := range columns {
		group.Fields = append(group.Fields, form.Field{Key: fmt.Sprintf("c%d", c), Kind: form.ShortText, Label: fmt.Sprintf("C%d", c)})
	}
	for r := range rows {
		var cells []string
		for c := range columns {
			cells = append(cells, fmt.Sprintf(`"c%d":"%d.%d"`, c, r, c))
		}
		lines = append(lines, "{"+strings.Join(cells, ",")+"}")
	}
	d := intake.New("Wide", []form.Field{group})
	checked := form.Check(d.Form, form.Raw{"g": []byte("[" + strings.Join(lines, ",") + "]")}, form.Circumstances{})
	if len(checked.Findings) > 0 {
		t.Fatal(checked.Findings[0])
	}
	return d, checked.Answers
}

func TestFiveHundredRowsOfFortyColumns(t *testing.T) {
	_, f := sampler(t)
	d, answers := wide(t, 40, 500)
	f.Form, f.Answers = d.Form, answers
	for name, block := range map[string]paper.Block{
		"answers": {ID: "b", Kind: paper.Answers}, "lines": {ID: "b", Kind: paper.Lines, Settings: paper.Settings{Rows: "g"}},
		"columns": {ID: "b", Kind: paper.Columns, Settings: paper.Settings{Sides: []paper.Side{{Blocks: []paper.Block{{ID: "in",
			Kind: paper.Lines, Settings: paper.Settings{Rows: "g"}}}}, {}}}},
	} {
		d.Documents[0].Blocks = []paper.Block{block}
		c, err := produce.Compose(d, "receipt", f, pictures, produce.Apart{})
		if err != nil {
			t.Fatal(name, err)
		}
		file := write(t, c)
		text := strings.Join(strings.Fields(tool(t, "mutool", "draw", "-F", "text", file)), "")
		for _, cell := range []string{"0.0", "249.20", "499.39"} {
			if !strings.Contains(text, cell) {
				t.Errorf("%s: the cell %s is not printed", name, cell)
			}
		}
	}
}

func TestRepetitionInsideRepetition(t *testing.T) {
	_, f := sampler(t)
	d, answers := wide(t, 1, 12)
	for _, key := range []string{"h", "i"} {
		again := d.Form.Fields[0]
		again.Key = key
		d.Form.Fields = append(d.Form.Fields, again)
		answers[key] = answers["g"]
	}
	f.Form, f.Answers = d.Form, answers
	line := paper.Block{
		ID:       "line",
		Kind:     paper.Text,
		Each:     "i",
		When:     `c0 <> "3.0"`,
		Settings: paper.Settings{Body: phrase.ParseBody("{{g.c0}} {{h.c0}} {{i.c0}};")},
	}
	d.Documents[0].Blocks = []paper.Block{
		{
			ID:   "g",
			Kind: paper.Group,
			Each: "g",
			Settings: paper.Settings{
				Blocks: []paper.Block{{ID: "h", Kind: paper.Group, Each: "h", Settings: paper.Settings{Blocks: []paper.Block{line}}}},
			},
		},
	}
	if l := d.Documents[0].Check(d.Form, exists); len(l) > 0 {
		t.Fatal(l)
	}
	text := strings.Join(strings.Fields(tool(t, "pdftotext", "-raw", write(t, compose(t, d, "receipt", f)), "-")), " ")
	if n := strings.Count(text, ";"); n != 12*12*11 || !strings.HasPrefix(text, "0.0 0.0 0.0; 0.0 0.0 1.0; 0.0 0.0 2.0; 0.0 0.0 4.0;") ||
		!strings.Contains(text, "11.0 11.0 11.0;") {
		t.Errorf("%d lines are printed: %.200s", n, text)
	}
	// Three levels of 100 rows would be a million lines.
	_, many := wide(t, 1, 100)
	for _, key := range []string{"g", "h", "i"} {
		f.Answers[key] = many["g"]
	}
	if c, err := produce.Compose(d, "receipt", f, pictures, produce.Apart{}); err == nil || len(c.Findings) == 0 ||
		c.Findings[0].Place != "documents/receipt/blocks/line" {
		t.Error("a million lines:", c.Pages, c.Findings, err)
	}
}

func TestTenThousandPages(t *testing.T) {
	_, f := sampler(t)
	d, answers := wide(t, 1, 500)
	f.Form, f.Answers = d.Form, answers
	group := paper.Block{ID: "g", Kind: paper.Group, Each: "g"}
	for i := range 20 {
		group.Blocks = append(
			group.Blocks, paper.Block{ID: fmt.Sprintf("r%d", i), Kind: paper.Rule},
			paper.Block{ID: fmt.Sprintf("b%d", i), Kind: paper.PageBreak},
		)
	}
	d.Documents[0].Blocks = []paper.Block{group}
	c, err := produce.Compose(d, "receipt", f, pictures, produce.Apart{})
	if err == nil || c.PDF != nil || len(c.Findings) != 1 || !strings.Contains(err.Error(), "more than 5000 pages") ||
		!strings.HasPrefix(c.Findings[0].Place, "documents/receipt/blocks/") {
		t.Error(c.Findings, err)
	}
}

// encoded is a PNG of a colour model and size.
func encoded(t *testing.T, img image.Image) []byte {
	var b bytes.Buffer
	if err := (&png.Encoder{CompressionLevel: png.BestSpeed}).Encode(&b, img); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

func TestPicturesOfAllSorts(t *testing.T) {
	d, f := sampler(t)
	progressive, err := os.ReadFile("testdata/progressive.jpg")
	if err != nil {
		t.Fatal(err)
	}
	deep := image.NewNRGBA64(image.Rect(0, 0, 40, 30))
	for i := range 40 {
		deep.SetNRGBA64(i, i%30, color.NRGBA64{R: 0xABCD, G: uint16(i * 1000), A: uint16(i * 1600)})
	}
	palette := image.NewPaletted(image.Rect(0, 0, 9, 9), color.Palette{color.Black, color.White, color.NRGBA{R: 200, A: 90}})
	palette.SetColorIndex(4, 4, 2)
	var files []string
	for name, data := range map[string][]byte{
		"one pixel":     encoded(t, image.NewGray(image.Rect(0, 0, 1, 1))),
		"30 megapixels": encoded(t, image.NewGray(image.Rect(0, 0, 6000, 5000))),
		"a line":        encoded(t, image.NewGray(image.Rect(0, 0, 3000, 1))),
		"shapes": []byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 30 20"><path d="M0 0h30v20z" ` +
			`fill="#1f4f4a"/><circle cx="9" cy="9" r="5" fill="none" stroke="#8a4b00" stroke-width="2"/></svg>`),
		"16 bits with alpha": encoded(t, deep), "palette with alpha": encoded(t, palette),
		"16 bits of grey": encoded(t, image.NewGray16(image.Rect(0, 0, 5, 5))), "progressive": progressive,
	} {
		for _, level := range []paper.Archival{paper.A1b, paper.A2b, paper.NotArchival} {
			d.Documents[0].Archival = level
			d.Documents[0].Page.Mark = &paper.Backing{Picture: "p", Width: 80, Place: "bottom_right"}
			d.Documents[0].Page.Backdrop = &paper.Backing{Picture: "p", Width: 60, Repeat: true}
			d.Documents[0].Blocks = []paper.Block{{ID: "p", Kind: paper.Picture,
				Settings: paper.Settings{Picture: "p", Alt: name, Height: 60}}}
			c, err := produce.Compose(d, "sampler", f, func(string) ([]byte, error) { return data, nil }, produce.Apart{})
			if err != nil || len(c.Findings) > 0 || c.Pages != 1 {
				t.Fatal(name, level, err, c.Findings, c.Pages)
			}
			file := write(t, c)
			if name != "30 megapixels" { // readers take long over it
				faultless(t, file)
			}
			if level == paper.A1b {
				files = append(files, file)
			}
		}
	}
	for i, valid := range preflight(t, files) {
		if !valid {
			t.Error(files[i])
		}
	}
}

func TestHostileAnswers(t *testing.T) {
	d := intake.New(
		"Hostile",
		[]form.Field{{Key: "a", Kind: form.LongText, Label: strings.Repeat("Label ", 40)}, {Key: "b", Kind: form.ShortText, Label: "B"}},
	)
	for _, answer := range []string{
		strings.Repeat("x", 5000), strings.Repeat("word ", 9000), strings.Repeat("\u200B", 300) + "x", "\u202Eevil\u202C",
		strings.Repeat("e\u0301\u0323\u0302", 200), "\uFFFD\uFFFE\U0010FFFF", strings.Repeat("👩‍👩‍👧‍👦", 100), "\u0600\u06DD\u2066x",
		"日本語のテキスト 한국어", strings.Repeat("\n", 400) + "end",
	} {
		raw, err := json.Marshal(answer)
		if err != nil {
			t.Fatal(err)
		}
		checked := form.Check(d.Form, form.Raw{"a": raw}, form.Circumstances{})
		if len(checked.Findings) > 0 {
			t.Fatal(checked.Findings)
		}
		answers := checked.Answers
		f := phrase.Facts{
			House:    house.New(),
			Intake:   d.Name,
			Form:     d.Form,
			Answers:  answers,
			Number:   "H-1",
			Received: time.Unix(1e9, 0),
			Made:     time.Unix(1e9, 0),
		}
		c, err := produce.Compose(d, "receipt", f, pictures, produce.Apart{})
		// Only the one word that no line can hold is a finding.
		if long := answer[0] == 'x'; err != nil || (len(c.Findings) == 1) != long {
			t.Fatalf("%.20q: %v %v", answer, err, c.Findings)
		}
		faultless(t, write(t, c))
	}
}

func TestPicturesThatCannotBePrinted(t *testing.T) {
	d, f := facts(t, "condition-report", nil)
	for name, data := range map[string][]byte{"empty": {}, "text": []byte("not a picture"),
		"cut": func() []byte { b, _ := pictures("bench.jpg"); return b[:90] }()} {
		c, err := produce.Compose(d, "report", f, func(p string) ([]byte, error) {
			if p == "bench.jpg" {
				return data, nil
			}
			return pictures(p)
		}, produce.Apart{})
		if err != nil || len(c.Findings) != 1 || c.Pages == 0 {
			t.Errorf("%s: %v %v", name, err, c.Findings)
			continue
		}
		faultless(t, write(t, c))
	}
}

// A document that may not be printed may not be printed well either.
func TestWhatMayNotBePrinted(t *testing.T) {
	d, f := facts(t, "repair-drop-off", nil)
	d.Documents[0].Protect = &paper.Protect{NoPrint: true}
	said := tool(t, "qpdf", "--show-encryption", write(t, compose(t, d, "receipt", f)))
	for _, want := range []string{"print low resolution: not allowed", "print high resolution: not allowed",
		"extract for any purpose: allowed"} {
		if !strings.Contains(said, want) {
			t.Errorf("qpdf does not say %q: %s", want, said)
		}
	}
}

// Letters of every script in use are printed; those that no font has are told, with the answer that has them.
func TestLettersWithoutAFaceAreTold(t *testing.T) {
	d := intake.New(
		"Letters",
		[]form.Field{{Key: "a", Kind: form.ShortText, Label: "Your name"}, {Key: "b", Kind: form.ShortText, Label: "Town"}},
	)
	for name, c := range map[string]struct{ answer, told string }{
		"chinese": {"王小明", ""}, "korean": {"김민준", ""}, "armenian": {"Արամ", ""}, "bengali": {"রবীন্দ্রনাথ", ""},
		"cuneiform": {"Enki 𒀭𒂗𒆠", "No font has “𒀭 𒂗 𒆠”, which the answer to “Your name” has; a box is printed instead."},
	} {
		raw, err := json.Marshal(c.answer)
		if err != nil {
			t.Fatal(err)
		}
		answers := form.Check(d.Form, form.Raw{"a": raw}, form.Circumstances{}).Answers
		f := phrase.Facts{
			House:    house.New(),
			Intake:   d.Name,
			Form:     d.Form,
			Answers:  answers,
			Number:   "L-1",
			Received: time.Unix(1e9, 0),
			Made:     time.Unix(1e9, 0),
		}
		made := compose(t, d, "receipt", f)
		told := ""
		for _, x := range made.Findings {
			told = x.Message
		}
		if told != c.told {
			t.Errorf("%s: told %q, want %q", name, told, c.told)
		}
		file := write(t, made)
		faultless(t, file)
		if text := tool(t, "pdftotext", "-enc", "UTF-8", file, "-"); !strings.Contains(text, c.answer) {
			t.Errorf("%s is read back as %q", name, text)
		}
		plain := filepath.Join(t.TempDir(), "plain.pdf")
		tool(t, "qpdf", "--qdf", "--object-streams=disable", file, plain)
		data, err := os.ReadFile(plain)
		if lang, ok := map[string]string{"chinese": "zh", "korean": "ko", "armenian": "hy", "bengali": "bn"}[name]; err != nil ||
			ok && !bytes.Contains(data, []byte("/Lang ("+lang+")")) {
			t.Errorf("%s is not said to be in %s: %v", name, lang, err)
		}
	}
}
