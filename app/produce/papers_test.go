package produce_test

import (
	"math"
	"slices"
	"strconv"
	"strings"
	"testing"

	"amberseal/core/print/paper"
)

// Every kind of block in every look fits every paper, upright and across, down to a label: nothing leaves the page, and nothing
// is lost. A strip is as high as the paper allows.
func TestEveryBlockOnEveryPaper(t *testing.T) {
	d, f := sampler(t)
	doc := &d.Documents[0]
	for _, look := range paper.Looks() {
		for _, name := range paper.Papers() {
			for _, across := range []bool{false, true} {
				doc.Look, doc.Page.Paper, doc.Page.Landscape = look, name, across
				c := compose(t, d, "sampler", f)
				if c.Pages > 120 {
					t.Errorf("%s, %s: %d pages", look, name, c.Pages)
				}
				placed := map[string]bool{}
				for _, p := range c.Placements {
					placed[p.Block] = true
					if p.X < -0.01 || p.Y < -0.01 || p.X+p.W > c.Sheets[p.Page-1].Width+0.01 || p.Y+p.H > c.Sheets[p.Page-1].Height+1 {
						t.Errorf(
							"%s, %s, across %v: %+v leaves a page of %.0f × %.0f", look, name, across, p, c.Sheets[p.Page-1].Width,
							c.Sheets[p.Page-1].Height,
						)
					}
				}
				for _, p := range c.Placements {
					if p.Block == "head" && p.H > c.Sheets[0].Height*0.4 {
						t.Errorf("%s, %s, across %v: the letterhead takes %.0f of %.0f points", look, name, across, p.H, c.Sheets[0].Height)
					}
				}
				for _, block := range []string{"strip", "photos", "pairs", "c2c", "lines", "each"} {
					if block != "each" && !placed[block] {
						t.Errorf("%s, %s: %s is placed nowhere", look, name, block)
					}
				}
				if look != paper.Letter || across {
					continue
				}
				text := strings.Join(strings.Fields(tool(t, "pdftotext", "-raw", write(t, c), "-")), "")
				for _, words := range []string{"Everykindofblock", "thelastlinestaysasitis", "Crackinthetableclosed", "Nophotosweresent"} {
					if !strings.Contains(strings.ReplaceAll(strings.ToLower(text), "\u00AD", ""), strings.ToLower(words)) {
						t.Errorf("%s, %s: %q is lost", look, name, words)
					}
				}
			}
		}
	}
}

// Sizes of ISO 216, ISO 269 and ANSI/ASME Y14.1, as their tables give them: an A size is half the one before, cut to
// whole millimetres; pdfinfo measures what came out.
func TestPapers(t *testing.T) {
	for name, want := range map[string]string{"A3": "841.89 x 1190.55", "A4": "595.276 x 841.89", "A5": "419.528 x 595.276",
		"A6": "297.638 x 419.528", "B5": "498.898 x 708.661", "Letter": "612 x 792", "Legal": "612 x 1008", "Tabloid": "792 x 1224",
		"DL": "311.811 x 623.622", "C6": "323.15 x 459.213"} {
		d, f := facts(t, "gift", nil)
		d.Documents[0].Page.Paper = name
		if info := tool(t, "pdfinfo", write(t, compose(t, d, "letter", f))); !strings.Contains(info, "Page size:       "+want) {
			t.Errorf("%s: pdfinfo does not say %s: %s", name, want, info)
		}
	}
	// ISO 216: each size is the one before it cut in two, down to whole millimetres.
	for series, size := range map[string][2]int{"A": {297, 420}, "B": {250, 353}} {
		for n := map[string]int{"A": 3, "B": 4}[series]; slices.Contains(paper.Papers(), series+strconv.Itoa(n)); n++ {
			d, f := facts(t, "gift", nil)
			d.Documents[0].Page.Paper = series + strconv.Itoa(n)
			c := compose(t, d, "letter", f)
			if w, h := c.Sheets[0].Width*25.4/72, c.Sheets[0].Height*25.4/72; math.Abs(w-float64(size[0])) > 0.01 ||
				math.Abs(h-float64(size[1])) > 0.01 {
				t.Errorf("%s%d is %.2f × %.2f, not %v", series, n, w, h, size)
			}
			size = [2]int{size[1] / 2, size[0]}
		}
	}
}
