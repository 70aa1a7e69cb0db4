package typeset_test

import (
	"fmt"
	"math/rand/v2"
	"os"
	"strings"
	"testing"

	"amberseal/core/print/typeset"
)

// Words go around boxes: whatever stands where on a page, no word of a greedy paragraph lies on a box that words go around, none is lost,
// and their order stays.
func TestWordsAroundBoxes(t *testing.T) {
	seeds := uint64(200)
	if os.Getenv("AMBERSEAL_THOROUGH") != "" {
		seeds *= 20
	}
	for seed := range seeds {
		r := rand.New(rand.NewPCG(seed, 3))
		doc := &typeset.Document{Language: "en", Page: typeset.Page{Width: 595, Height: 842, Top: 72, Right: 72, Bottom: 72, Left: 72}}
		var want []string
		number := 0
		for i := range 2 + r.IntN(8) {
			var words []string
			for range 20 + r.IntN(160) {
				number++
				words = append(words, fmt.Sprintf("w%d", number))
			}
			want = append(want, words...)
			p := &typeset.Paragraph{
				Block: fmt.Sprintf("p%d", i), Role: typeset.Plain, Size: 11, Greedy: true, After: float64(r.IntN(12)),
				Indent: float64(r.IntN(3) * 18), Align: typeset.Align(r.IntN(4)), Runs: []typeset.Run{{Text: strings.Join(words, " ")}},
			}
			if r.IntN(2) == 0 {
				x := typeset.Spot{From: typeset.Origin(r.IntN(2)), Aligned: r.IntN(2) == 0, Align: typeset.Align(r.IntN(3))}
				x.At = float64(r.IntN(250))
				p.Floats = append(p.Floats, &typeset.Float{
					Block: "box", Width: 20 + float64(r.IntN(300)), Height: 10 + float64(r.IntN(150)), Gaps: [4]float64{0, 4, 0, 4}, X: x,
					Around: typeset.BothSides + typeset.Around(r.IntN(5)),
					Ground: &typeset.Drawing{Width: 10, Height: 10, Boxes: [][4]float64{{0, 0, 10, 10}}},
				})
			}
			doc.Body = append(doc.Body, p)
		}
		pages, err := typeset.Set(doc)
		if err != nil {
			t.Fatal(err)
		}
		var got []string
		for n, sheet := range pages.Pages {
			for _, item := range sheet.Items {
				g, ok := item.(*typeset.Glyphs)
				if !ok {
					continue
				}
				var said strings.Builder
				for _, glyph := range g.Glyphs {
					said.WriteString(string(g.Text[glyph.Start : glyph.Start+glyph.Count]))
				}
				got = append(got, strings.Fields(said.String())...)
				for _, box := range pages.Placements {
					across := g.X+0.5 < box.X+box.W && g.X+g.Width-4 > box.X
					if box.Block == "box" && box.Page == n+1 && across && g.Y > box.Y+0.5 && g.Y-5 < box.Y+box.H-0.5 {
						t.Fatalf("seed %d, page %d: %q at %.0f,%.0f (%.0f wide) lies on a box at %.0f,%.0f of %.0f × %.0f",
							seed, n+1, said.String(), g.X, g.Y, g.Width, box.X, box.Y, box.W, box.H)
					}
				}
			}
		}
		if strings.Join(got, " ") != strings.Join(want, " ") {
			t.Fatalf("seed %d: %d words of %d, or in another order", seed, len(got), len(want))
		}
	}
}
