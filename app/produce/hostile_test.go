package produce_test

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"os"
	"strings"
	"testing"

	"amberseal/app/produce"
	"amberseal/core/ask/form"
	"amberseal/core/intake"
	"amberseal/core/print/paper"
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
		"answers": {ID: "b", Kind: paper.Answers}, "lines": {ID: "b", Kind: paper.Lines, Settings: paper.Settings{Rows: "g"}}, "columns": {ID: "b", Kind: paper.Columns, Settings: paper.Settings{Sides: []paper.Side{{Blocks: []paper.Block{{ID: "in", Kind: paper.Lines, Settings: paper.Settings{Rows: "g"}}}}, {}}}},
	} {
		d.Documents[0].Blocks = []paper.Block{block}
		c, err := produce.Compose(d, "receipt", f, pictures, nil)
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
	if c, err := produce.Compose(d, "receipt", f, pictures, nil); err == nil || len(c.Findings) == 0 ||
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
			group.Blocks, paper.Block{ID: fmt.Sprintf("r%d", i), Kind: paper.Rule}, paper.Block{ID: fmt.Sprintf("b%d", i), Kind: paper.PageBreak},
		)
	}
	d.Documents[0].Blocks = []paper.Block{group}
	c, err := produce.Compose(d, "receipt", f, pictures, nil)
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
		"one pixel": encoded(t, image.NewGray(image.Rect(0, 0, 1, 1))), "30 megapixels": encoded(t, image.NewGray(image.Rect(0, 0, 6000, 5000))), "a line": encoded(t, image.NewGray(image.Rect(0, 0, 3000, 1))),
		"shapes":             []byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 30 20"><path d="M0 0h30v20z" fill="#1f4f4a"/><circle cx="9" cy="9" r="5" fill="none" stroke="#8a4b00" stroke-width="2"/></svg>`),
		"16 bits with alpha": encoded(t, deep), "palette with alpha": encoded(t, palette), "16 bits of grey": encoded(t, image.NewGray16(image.Rect(0, 0, 5, 5))), "progressive": progressive,
	} {
		for _, level := range []paper.Archival{paper.A1b, paper.A2b, paper.NotArchival} {
			d.Documents[0].Archival = level
			d.Documents[0].Page.Mark = &paper.Backing{Picture: "p", Width: 80, Place: "bottom_right"}
			d.Documents[0].Page.Backdrop = &paper.Backing{Picture: "p", Width: 60, Repeat: true}
			d.Documents[0].Blocks = []paper.Block{{ID: "p", Kind: paper.Picture, Settings: paper.Settings{Picture: "p", Alt: name, Height: 60}}}
			c, err := produce.Compose(d, "sampler", f, func(string) ([]byte, error) { return data, nil }, nil)
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
