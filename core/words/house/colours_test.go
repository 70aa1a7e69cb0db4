package house_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"amberseal/core/words/house"
)

// The contrasts of what is derived from 200 accents of chance hold WCAG 2.2, 1.4.3: 4.5 to 1 for words.
func TestColours(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 7))
	for n := range 200 {
		h := house.New()
		h.Accent = fmt.Sprintf("#%06X", r.IntN(1<<24))
		c := h.Colours()
		for name, pair := range map[string][2]string{
			"words on white": {c.Words, "#FFFFFF"}, "dark on white": {c.Dark, "#FFFFFF"}, "label on white": {c.Label, "#FFFFFF"},
			"label on tint": {c.Label, c.Tint}, "ink on tint": {"#16262B", c.Tint}, "on the band": {c.On, c.Band},
		} {
			if got := house.Contrast(pair[0], pair[1]); got < 4.5 {
				t.Errorf("%d, accent %s: %s is %.2f (%s, %s)", n, h.Accent, name, got, pair[0], pair[1])
			}
		}
	}
	// Those of the demo's accent, as looks.md gives them, within what eyes tell apart.
	h := house.New()
	h.Accent = "#1F4F4A"
	if c := h.Colours(); c.Words != h.Accent || c.On != "#FFFFFF" || c.Label != "#58696A" || c.Dark != "#14332F" {
		t.Error(c)
	}
}
