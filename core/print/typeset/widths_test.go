package typeset_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"strings"
	"testing"

	"amberseal/core/print/typeset"
)

// set is the width in which a word is set when it has all the room it wants.
func set(t *testing.T, p typeset.Paragraph, word string) float64 {
	t.Helper()
	p.Runs = []typeset.Run{{Text: word}}
	p.Align, p.Indent = typeset.Start, 0
	w := 0.0
	for _, item := range layout(t, &p).Pages[0].Items {
		w += item.(*typeset.Glyphs).Width
	}
	return w
}

// No word and no amount is broken where other widths, smaller type down to 85 %, or a page on its side leave room for all: what a
// column needs is reckoned here from words that are set one by one.
func TestTablesBreakNothingThatFits(t *testing.T) {
	const seed = 20261127
	r := rand.New(rand.NewPCG(seed, 1))
	words := strings.Fields(
		"a bow of the Werkstättenverband Featherstonehaugh Unverkäuflich Braunschweig certificate string setup viola Geigenbauerin " +
			"2026-04-01 pernambuco ebony responsible",
	)
	amounts := strings.Fields("€9.50 €1,250.00 €99,999,990.00 12 0.75 12.25")
	paragraphs := func(text string, end bool) *typeset.Paragraph {
		p := paragraph(text)
		p.Size, p.Indent = 10, 6
		if end {
			p.Align, p.Tabular, p.Point = typeset.End, true, '.'
		}
		return p
	}
	seen := map[string]int{}
	tables := 300
	if os.Getenv("AMBERSEAL_THOROUGH") != "" {
		tables *= 20
	}
	for n := range tables {
		columns := 2 + r.IntN(11)
		table := &typeset.Table{Fit: []typeset.Fit{typeset.Content, typeset.Floored}[n%2], Gap: 6, Pad: 3}
		needs, asked := 0.0, []string{}
		ends := make([]bool, columns)
		longest := make([]float64, columns)
		for c := range columns {
			table.Columns = append(table.Columns, 1+float64(r.IntN(3)))
			ends[c] = r.IntN(3) == 0
		}
		for range 3 {
			var row typeset.Row
			for c := range columns {
				var text string
				if ends[c] {
					text = amounts[r.IntN(len(amounts))]
				} else {
					for range 1 + r.IntN(4) {
						text += words[r.IntN(len(words))] + " "
					}
				}
				p := paragraphs(strings.TrimSpace(text), ends[c])
				row.Cells = append(row.Cells, typeset.Cell{Nodes: []typeset.Node{p}})
				if ends[c] { // before its point and behind it, the widest of each
					longest[c] = max(longest[c], set(t, *p, text))
				}
				for _, w := range strings.Fields(text) {
					asked = append(asked, w)
					longest[c] = max(longest[c], set(t, *p, w))
				}
			}
			table.Rows = append(table.Rows, row)
		}
		for c := range columns {
			if ends[c] { // decimals may push each other: ample room for three of them
				longest[c] += 20
			}
			needs += longest[c] * 1.03
		}
		fixed := float64(columns)*12 + 6*float64(columns-1)
		upright, side := a4.Width-a4.Left-a4.Right, a4.Height-a4.Left-a4.Right
		pages := layout(t, table)
		turned := pages.Pages[len(pages.Pages)-1].Width > a4.Width
		smallest := 10.0
		for _, s := range pages.Pages {
			for _, item := range s.Items {
				if g, ok := item.(*typeset.Glyphs); ok {
					smallest = min(smallest, g.Size)
				}
			}
		}
		for _, o := range pages.Overflows {
			if needs*0.85+fixed <= side {
				t.Fatalf("table %d, %d columns: %q is broken, and it need not be", n, columns, o.Words)
			}
		}
		switch {
		case needs+fixed <= upright:
			seen["as it is"]++
			if turned || smallest < 10 {
				t.Errorf("table %d fits its page, but is turned %v, set at %.2f", n, turned, smallest)
			}
		case needs*0.85+fixed <= upright:
			seen["smaller"]++
			if turned || smallest < 8.5-0.01 {
				t.Errorf("table %d fits its page at 85 %%, but is turned %v, set at %.2f", n, turned, smallest)
			}
		case needs*0.85+fixed <= side:
			seen["turned"]++
		default:
			seen["too wide"]++
			continue
		}
		all := ""
		for _, s := range pages.Pages {
			all += " " + strings.Join(texts(s), " | ")
		}
		for _, a := range asked {
			if !strings.Contains(all, a) {
				t.Errorf("table %d: %s does not stand in one piece", n, a)
			}
		}
	}
	if len(seen) < 4 {
		t.Errorf("the tables try too little: %v", seen)
	}
}

// Decimal points of a column stand below each other, whatever stands behind them.
func TestDecimalPointsStandBelowEachOther(t *testing.T) {
	table := &typeset.Table{Columns: []float64{1, 1}, Fit: typeset.Content}
	for _, n := range []string{"1", "1.5", "0.75", "1,212.125", "–"} {
		p := paragraph(n)
		p.Align, p.Tabular, p.Point = typeset.End, true, '.'
		table.Rows = append(table.Rows, typeset.Row{Cells: append(cells("words"), typeset.Cell{Nodes: []typeset.Node{p}})})
	}
	var at []float64
	for _, item := range layout(t, table).Pages[0].Items {
		g := item.(*typeset.Glyphs)
		text := string(g.Text)
		if text == "words" || text == "–" {
			continue
		}
		x := g.X
		for _, glyph := range g.Glyphs {
			if c := g.Text[glyph.Start]; c == '.' {
				break
			}
			x += float64(glyph.Advance)
		}
		at = append(at, x)
	}
	for _, x := range at {
		if len(at) != 4 || math.Abs(x-at[0]) > 0.6 {
			t.Errorf("the points stand at %.2f", at)
		}
	}
}

// A table that is turned takes its heading along, and what follows stands upright again, with its footer on every page.
func TestAWideTableStandsOnItsSide(t *testing.T) {
	table := &typeset.Table{Fit: typeset.Content, Gap: 6}
	var row typeset.Row
	for i := range 11 {
		table.Columns = append(table.Columns, 1)
		row.Cells = append(row.Cells, cells(fmt.Sprintf("Geigenbau%d", i))...)
	}
	table.Rows = []typeset.Row{row}
	heading := paragraph("Heading")
	heading.Role, heading.KeepNext = typeset.Heading2, true
	pages, err := typeset.Set(
		&typeset.Document{
			Language: "en",
			Page:     a4,
			Running:  typeset.Running{Footer: []typeset.Paragraph{*paragraph("Foot")}},
			Body:     []typeset.Node{paragraph("before"), heading, table, paragraph("after")},
		},
	)
	if err != nil || len(pages.Pages) != 3 || len(pages.Overflows) > 0 {
		t.Fatal(err, len(pages.Pages), pages.Overflows)
	}
	for i, want := range []string{"before", "Heading", "after"} {
		s := pages.Pages[i]
		if side := s.Width > s.Height; side != (i == 1) || texts(s)[0] != want || !strings.Contains(strings.Join(texts(s), " "), "Foot") {
			t.Errorf("page %d is %.0f × %.0f and says %q", i+1, s.Width, s.Height, texts(s))
		}
		for _, item := range s.Items {
			if g := item.(*typeset.Glyphs); g.X+g.Width > s.Width-a4.Right+0.5 || g.Y > s.Height {
				t.Errorf("page %d: %q leaves it", i+1, string(g.Text))
			}
		}
	}
}

// What several characters show together is one picture (examples of Unicode Technical Standard #51), and none of it is lost.
func TestPicturesOfSeveralCharacters(t *testing.T) {
	for _, emoji := range []string{"🏳️‍🌈", "👍🏽", "1️⃣", "👨‍👩‍👧", "🇬🇧", "❤️", "👩🏽‍🔧"} {
		drawn, meant := 0, ""
		for _, item := range layout(t, paragraph("a "+emoji+" b")).Pages[0].Items {
			g := item.(*typeset.Glyphs)
			for _, x := range g.Glyphs {
				meant += string(g.Text[x.Start : x.Start+x.Count])
				if g.Face.Pictures && x.Advance > 0 {
					drawn++
				}
			}
		}
		if drawn != 1 || meant != "a "+emoji+" b" {
			t.Errorf("%s is drawn as %d pictures, read as %q", emoji, drawn, meant)
		}
	}
}

// No row stands alone at a table's beginning or end, wherever the page ends.
func TestNoRowStandsAlone(t *testing.T) {
	for before := 30; before < 60; before++ {
		table := &typeset.Table{Columns: []float64{1}}
		for i := range 6 {
			table.Rows = append(table.Rows, typeset.Row{Cells: cells(fmt.Sprintf("row %d", i))})
		}
		for _, s := range layout(t, paragraph(lines(before, "above")), table).Pages {
			if n := strings.Count(strings.Join(texts(s), " "), "row "); n == 1 || n == 5 {
				t.Errorf("after %d lines, %d of six rows stand on a page", before, n)
			}
		}
	}
}

// A picture that may shrink fills what is left of a page; one that would be too small goes on the next.
func TestPicturesShrinkAtAPagesFoot(t *testing.T) {
	for _, x := range []struct {
		space  float64
		pages  int
		height float64
	}{{500, 1, 150}, {590, 1, 128}, {680, 2, 150}} {
		p := &typeset.Picture{
			Drawing: &typeset.Drawing{Width: 10, Height: 10, Boxes: [][4]float64{{0, 0, 10, 10}}},
			Width:   150,
			Height:  150,
			Shrink:  0.7,
		}
		pages := layout(t, paragraph("above"), &typeset.Space{Height: x.space}, p)
		items := pages.Pages[len(pages.Pages)-1].Items
		d := items[len(items)-1].(*typeset.DrawingAt)
		if h := d.Scale * 10; len(pages.Pages) != x.pages || math.Abs(h-x.height) > 15 || d.Y+h > a4.Height-a4.Bottom+0.1 {
			t.Errorf("after %.0f: %d pages, %.1f high, ends at %.1f", x.space, len(pages.Pages), h, d.Y+h)
		}
	}
}
