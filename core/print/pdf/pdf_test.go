package pdf_test

import (
	"bytes"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"amberseal/core/print/pdf"
	"amberseal/core/print/typeset"
)

var page = typeset.Page{Width: 300, Height: 200, Top: 30, Right: 30, Bottom: 30, Left: 30}

func set(t testing.TB, body ...typeset.Node) *typeset.Pages {
	pages, err := typeset.Set(&typeset.Document{Title: "Test", Language: "en-GB", Page: page, Body: body})
	if err != nil {
		t.Fatal(err)
	}
	return pages
}

func words(text string) *typeset.Paragraph {
	return &typeset.Paragraph{Block: "p", Role: typeset.Plain, Size: 10, Leading: 1.4, Runs: []typeset.Run{{Text: text}}}
}

func ExampleWrite() {
	pages, _ := typeset.Set(&typeset.Document{Title: "Hello", Language: "en-GB", Page: page, Body: []typeset.Node{words("Hello")}})
	data, err := pdf.Write(pages, pdf.Properties{Author: "A house", Made: time.Unix(0, 0), Archival: pdf.A2b})
	fmt.Printf("%s %v %v\n", data[:8], bytes.Contains(data, []byte("<pdfaid:part>2</pdfaid:part>")), err)
	// Output: %PDF-1.7 true <nil>
}

// saved writes a file and gives its path; qpdf finds no fault with it.
func saved(t *testing.T, pages *typeset.Pages, p pdf.Properties) string {
	t.Helper()
	p.Made = time.Unix(1e9, 0)
	data, err := pdf.Write(pages, p)
	if err != nil {
		t.Fatal(err)
	}
	file := filepath.Join(t.TempDir(), "out.pdf")
	if err := os.WriteFile(file, data, 0o600); err != nil {
		t.Fatal(err)
	}
	if out, err := exec.Command("qpdf", "--check", file).CombinedOutput(); err != nil {
		t.Fatalf("%s", out)
	}
	return file
}

// plainContent is the file without compression, as qpdf writes it.
func plainContent(t *testing.T, file string) string {
	t.Helper()
	out, err := exec.Command("qpdf", "--qdf", "--object-streams=disable", file, "-").Output()
	if err != nil {
		t.Fatal(err)
	}
	return string(out)
}

func TestTheSameInputGivesTheSameBytes(t *testing.T) {
	var first []byte
	for range 3 {
		data, err := pdf.Write(set(t, words("One"), words("two")), pdf.Properties{Made: time.Unix(1e9, 0), Archival: pdf.A1b})
		if err != nil {
			t.Fatal(err)
		}
		if first != nil && !bytes.Equal(first, data) {
			t.Fatal("the bytes differ")
		}
		first = data
	}
}

func TestWhatExcludesEachOther(t *testing.T) {
	for name, p := range map[string]pdf.Properties{
		"protected and archival": {Archival: pdf.A2b, Protect: &pdf.Protection{NoPrint: true}},
		"fillable and archival":  {Archival: pdf.A1b, Fillable: true},
		"files in A-2b":          {Archival: pdf.A2b, Files: []pdf.File{{Name: "x"}}},
		"files in A-1b":          {Archival: pdf.A1b, Files: []pdf.File{{Name: "x"}}},
	} {
		if _, err := pdf.Write(set(t, words("x")), p); err == nil {
			t.Errorf("%s was written", name)
		}
	}
}

// Numbers that follow each other must be parted (ISO 32000-1 section 7.3.3): marks over letters move to and fro.
func TestNumbersAreParted(t *testing.T) {
	file := saved(t, set(t, words("e\u0301\u0323x\u0302 AVAT\u0301o \u0628\u0650\u0633\u0652\u0645")), pdf.Properties{})
	content := plainContent(t, file)
	for i := 1; i+1 < len(content); i++ {
		if content[i] == '-' && content[i-1] >= '0' && content[i-1] <= '9' && content[i+1] >= '0' && content[i+1] <= '9' &&
			strings.Contains(content[max(0, i-40):i], "[") &&
			!strings.Contains(content[max(0, i-40):i], "]") {
			t.Fatalf("…%s…", content[max(0, i-40):i+20])
		}
	}
}

func TestShapesAndCellsInTheFile(t *testing.T) {
	red := typeset.Colour{R: 255}
	drawing := &typeset.Drawing{Width: 100, Height: 50, Shapes: []typeset.Shape{
		{
			Outlines: [][]float64{{0, 0, 100, 0, 100, 50}},
			Colour:   red,
		}, {Outlines: [][]float64{{0, 0, 10, 10}}, Width: 2, Join: typeset.Round, Cap: typeset.Round},
		{Outlines: [][]float64{{0, 0, 9, 0, 9, 9, 0, 0}, {1, 1, 2, 1, 2, 2}}, EvenOdd: true},
	}, Labels: []typeset.Label{{X: 50, Y: 25, Words: *words("on it"), Room: 60}}}
	table := &typeset.Table{
		Columns: []float64{1, 1, 1},
		Rows: []typeset.Row{
			{Cells: []typeset.Cell{{Nodes: []typeset.Node{words("wide")}, Span: 2},
				{Nodes: []typeset.Node{words("one")}, Fill: &red, Down: 2}}},
			{Cells: []typeset.Cell{{Nodes: []typeset.Node{words("a")}}, {Nodes: []typeset.Node{words("b")}}, {Covered: true}}},
		},
		Grid: &red,
	}
	file := saved(
		t, set(t, &typeset.Picture{Drawing: drawing, Width: 100, Height: 50, Alt: "A drawing"}, table), pdf.Properties{Archival: pdf.A1b},
	)
	content := plainContent(t, file)
	for _, want := range []string{"1 0 0 rg", "h\nf\n", "2 w 1 J 1 j", "S\n", "h\nf*\n", "/ColSpan 2", "/RowSpan 2", "/Alt (A drawing)",
		"/BBox [ 30 120 130 170 ]"} {
		if !strings.Contains(content, want) && !strings.Contains(strings.Join(strings.Fields(content), " "), want) {
			t.Errorf("the file has no %q", want)
		}
	}
	text, err := exec.Command("pdftotext", file, "-").Output()
	if err != nil || !strings.Contains(string(text), "on it") || !strings.Contains(string(text), "wide") {
		t.Errorf("%s %v", text, err)
	}
}

func TestOutlineIsNestedByLevel(t *testing.T) {
	var body []typeset.Node
	for _, h := range []struct {
		role typeset.Role
		text string
	}{{typeset.Heading1, "One"}, {typeset.Heading2, "One A"}, {typeset.Heading3, "One A i"}, {typeset.Heading2, "One B"},
		{typeset.Heading1, "Two"}} {
		p := words(h.text)
		p.Role = h.role
		body = append(body, p, words("text"))
	}
	out, err := exec.Command("qpdf", "--json", "--json-key=outlines", saved(t, set(t, body...), pdf.Properties{})).Output()
	if err != nil {
		t.Fatal(err)
	}
	flat := strings.Join(strings.Fields(string(out)), "")
	order := []string{`"kids":[{`, `"title":"OneAi"`, `"title":"OneA"`, `"title":"OneB"`, `"title":"One"`, `"title":"Two"`}
	for _, want := range order {
		if !strings.Contains(flat, want) {
			t.Errorf("the outline has no %s: %s", want, flat)
		}
	}
	if strings.Count(flat, `"kids":[]`) != 3 {
		t.Error("other entries have entries below them:", flat)
	}
}
