package typeset_test

import (
	"bufio"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"unicode"

	"github.com/go-text/typesetting/segmenter"

	"amberseal/core/print/typeset"
)

var a4 = typeset.Page{Width: 595, Height: 842, Top: 50, Right: 50, Bottom: 60, Left: 50}

func paragraph(text string) *typeset.Paragraph {
	return &typeset.Paragraph{Block: "p", Role: typeset.Plain, Size: 10, Leading: 1.4, Runs: []typeset.Run{{Text: text}}}
}

func ExampleSet() {
	pages, err := typeset.Set(&typeset.Document{
		Title: "Two lines", Language: "en-GB", Page: a4,
		Body: []typeset.Node{paragraph("One.\nTwo.")},
	})
	p := pages.Placements[0]
	fmt.Println(len(pages.Pages), p.Block, p.Page, p.H, err)
	// Output: 1 p 1 28 <nil>
}

// The cases are Unicode's LineBreakTest.txt, which the segmenter's module ships. The breaking
// of lines rests on it, so every case is checked here again. Unicode's file marks with × and ÷
// where a line must not and may break.
func TestLineBreaksAgainstUnicode(t *testing.T) {
	dir, err := exec.Command("go", "list", "-m", "-f", "{{.Dir}}", "github.com/go-text/typesetting").Output()
	if err != nil {
		t.Fatal(err)
	}
	file, err := os.Open(filepath.Join(strings.TrimSpace(string(dir)), "segmenter", "test", "LineBreakTest.txt"))
	if err != nil {
		t.Fatal(err)
	}
	defer file.Close()
	cases := 0
	for scan := bufio.NewScanner(file); scan.Scan(); {
		spec, _, _ := strings.Cut(scan.Text(), "#")
		if strings.TrimSpace(spec) == "" {
			continue
		}
		var text []rune
		var want, got []int
		for _, word := range strings.Fields(spec) {
			if word == "÷" && len(text) > 0 {
				want = append(want, len(text))
			} else if v, err := strconv.ParseUint(word, 16, 32); err == nil {
				text = append(text, rune(v))
			}
		}
		var seg segmenter.Segmenter
		seg.Init(text)
		for it := seg.LineIterator(); it.Next(); {
			l := it.Line()
			got = append(got, l.Offset+len(l.Text))
		}
		if fmt.Sprint(got) != fmt.Sprint(want) {
			t.Errorf("%s: breaks at %v, want %v", spec, got, want)
		}
		cases++
	}
	if cases < 10_000 {
		t.Fatalf("only %d cases", cases)
	}
}

func texts(s typeset.Sheet) []string {
	var out []string
	for _, item := range s.Items {
		if g, ok := item.(*typeset.Glyphs); ok {
			var b strings.Builder
			for _, x := range g.Glyphs {
				b.WriteString(string(g.Text[x.Start : x.Start+x.Count]))
			}
			out = append(out, b.String())
		}
	}
	return out
}

func TestNoLineLeavesTheColumn(t *testing.T) {
	for _, text := range []string{
		strings.Repeat("ordinary words of a sentence ", 60), strings.Repeat("x", 5000), strings.Repeat("ordinary العربية نص ", 80),
		strings.Repeat("שלום עולם ", 120), strings.Repeat("नमस्ते दुनिया ", 90), strings.Repeat("😀🎻", 400), strings.Repeat("Ωμέγα-", 300),
		"שלום Łódź", "🎻 שלום نور Łódź", "Łódź שלום abc",
	} {
		pages, err := typeset.Set(&typeset.Document{Language: "en", Page: a4, Body: []typeset.Node{paragraph(text)}})
		if err != nil {
			t.Fatal(err)
		}
		count := 0
		for _, s := range pages.Pages {
			for _, item := range s.Items {
				g := item.(*typeset.Glyphs)
				if g.X < a4.Left-0.01 || g.X+g.Width > a4.Width-a4.Right+0.6 {
					t.Fatalf("%.20s…: a run stands at %.1f to %.1f", text, g.X, g.X+g.Width)
				}
				for _, x := range g.Glyphs {
					count += int(x.Count)
					if r := g.Text[x.Start]; x.Count == 1 && unicode.IsLetter(r) && r < 0x600 && x.Advance <= 0 {
						t.Fatalf("%.20s…: the letter %c takes no room", text, r)
					}
				}
			}
		}
		if want := len([]rune(text)); count != want {
			t.Errorf("%.20s…: %d characters were set of %d", text, count, want)
		}
	}
}

func TestTablesRepeatTheirHeaderAndKeepEveryRow(t *testing.T) {
	table := &typeset.Table{Block: "t", Columns: []float64{1, 2}, Gap: 8, Pad: 3, Header: &typeset.Row{Cells: cells("Head", "Row")}}
	for i := range 200 {
		table.Rows = append(table.Rows, typeset.Row{Cells: cells(fmt.Sprintf("row-%d", i), strings.Repeat("word ", i%40))})
	}
	table.Rows = append(table.Rows, typeset.Row{Cells: cells("long", strings.Repeat("a very long answer ", 900))})
	pages, err := typeset.Set(&typeset.Document{Language: "en", Page: a4, Body: []typeset.Node{table}})
	if err != nil {
		t.Fatal(err)
	}
	all := ""
	for i, s := range pages.Pages {
		words := texts(s)
		if words[0] != "Head" {
			t.Errorf("page %d begins with %q", i+1, words[0])
		}
		first := s.Items[0].(*typeset.Glyphs)
		if (typeset.ElementOf(first) == nil) != (i > 0) {
			t.Errorf("page %d: the repeated header must be an artifact, the first must not", i+1)
		}
		all += strings.Join(words, " ") + " "
	}
	for i := range 200 {
		if strings.Count(all, fmt.Sprintf("row-%d ", i)) != 1 {
			t.Errorf("row %d stands %d times", i, strings.Count(all, fmt.Sprintf("row-%d ", i)))
		}
	}
	if n := strings.Count(all, "very"); n != 900 {
		t.Errorf("the long row has %d of its 900 parts", n)
	}
}

func cells(texts ...string) []typeset.Cell {
	var out []typeset.Cell
	for _, s := range texts {
		out = append(out, typeset.Cell{Nodes: []typeset.Node{paragraph(s)}})
	}
	return out
}

func TestHeadingsStayWithWhatFollows(t *testing.T) {
	for lines := 40; lines < 56; lines++ {
		heading := paragraph("Heading")
		heading.Role, heading.KeepNext = typeset.Heading1, true
		pages, err := typeset.Set(&typeset.Document{Language: "en", Page: a4, Body: []typeset.Node{
			paragraph(strings.TrimSuffix(strings.Repeat("line\n", lines), "\n")), heading, paragraph("one\ntwo\nthree"),
		}})
		if err != nil {
			t.Fatal(err)
		}
		for i, s := range pages.Pages {
			words := texts(s)
			if words[len(words)-1] == "Heading" {
				t.Errorf("after %d lines the heading is alone at the foot of page %d", lines, i+1)
			}
		}
	}
}

func TestTooManyPages(t *testing.T) {
	_, err := typeset.Set(&typeset.Document{Language: "en", Page: a4, Body: []typeset.Node{paragraph(strings.Repeat("x\n", 300_000))}})
	if _, ok := err.(typeset.TooLong); !ok {
		t.Errorf("got %v", err)
	}
}
