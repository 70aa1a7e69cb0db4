package produce_test

import (
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
							"%s, %s, across %v: %+v leaves a page of %.0f × %.0f", look, name, across, p, c.Sheets[p.Page-1].Width, c.Sheets[p.Page-1].Height,
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
