package typeset

import (
	"math"
	"testing"
)

// Widths of pairs of letters of 1,000 points in the faces that ship, as Chromium 156 measures them with and without kerning
// (CanvasRenderingContext2D.measureText, fontKerning).
func TestKerningAgainstChromium(t *testing.T) {
	s := testSetter("en-GB")
	for pair, want := range map[string]float64{
		"Ta": 1206, "To": 1252, "AV": 1360, "LT": 1253, "Te": 1185, "We": 1519, "Yo": 1205, "r.": 755,
		"VA": 1345, "av": 1089, "fo": 962, "ro": 1049,
	} {
		l := s.lines(&Paragraph{Family: "Literata", Size: 1000, Leading: 1, Runs: []Run{{Text: pair}}}, 9000)
		if got := l[0].width; math.Abs(got-want) > 1 {
			t.Errorf("%s is %.0f wide, Chromium's %.0f", pair, got, want)
		}
	}
}
