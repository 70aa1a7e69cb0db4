package typeset

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
)

// A passage that is broken stretch by stretch is broken as any other: all of it is there, in its order, no line is wider than the room, and
// each line of plain words took as many of them as fit. So it is where one word fills pages, and where the direction turns at each letter.
func TestLongPassagesAreBrokenAsShortOnes(t *testing.T) {
	const seed = 20261201
	r := rand.New(rand.NewPCG(seed, 1))
	s := testSetter("en-GB")
	random := func(letters int) string {
		var b strings.Builder
		for b.Len() < letters {
			for range 1 + r.IntN(9) {
				b.WriteByte(byte('a' + r.IntN(26)))
			}
			b.WriteByte(' ')
		}
		return strings.TrimSpace(b.String())
	}
	set := func(text string, width float64) []line {
		return s.lines(&Paragraph{Role: Plain, Size: 10, Leading: 1.4, Runs: []Run{{Text: text}}}, width)
	}
	for _, x := range []struct {
		text  string
		words bool
	}{
		{random(4990), true}, {random(5010), true}, {random(23_000), true}, {random(6000) + "\n" + random(9000), false},
		{strings.Repeat("x", 12_000), false}, {random(3000) + " " + strings.Repeat("y", 7000) + " " + random(3000), false},
		{strings.Repeat("\u202ba\u202cb", 5000), false}, {strings.Repeat("مح ", 3000), false}, {strings.Repeat("e\u0301", 6000), false},
	} {
		for _, width := range []float64{110, 300, 500} {
			name := fmt.Sprintf("%.12q of %d, %.0f points wide", x.text, len(x.text), width)
			lines := set(x.text, width)
			var all strings.Builder
			for i, l := range lines {
				all.WriteString(meant(l))
				if l.width > width+1 { // a hyphen is reckoned before it is set
					t.Errorf("%s: line %d is %.1f wide", name, i+1, l.width)
				}
			}
			want := strings.NewReplacer(" ", "", "\n", "", "\u202b", "", "\u202c", "").Replace(x.text)
			if got := strings.ReplaceAll(all.String(), " ", ""); got != want {
				t.Errorf("%s: of %d letters %d stand there, or in another order", name, len(want), len(got))
			}
			loose := 0
			for i := 0; x.words && i+1 < len(lines); i++ {
				next, _, _ := strings.Cut(wordsOf(lines[i+1]), " ")
				if n := len(set(wordsOf(lines[i])+" "+next, width)); n != 2 {
					loose++
				}
			}
			if loose > len(lines)/500 { // where a word fits but for a hair
				t.Errorf("%s: %d of %d lines could have taken another word", name, loose, len(lines))
			}
		}
	}
}

// meant is what a line says, in the order in which it is read.
func meant(l line) string {
	type letters struct {
		at   int
		text string
	}
	var all []letters
	for _, p := range l.pieces {
		for _, g := range p.glyphs.Glyphs {
			all = append(all, letters{int(g.Start), string(p.glyphs.Text[g.Start : g.Start+g.Count])})
		}
	}
	slices.SortStableFunc(all, func(a, b letters) int { return a.at - b.at })
	var b strings.Builder
	for _, x := range all {
		b.WriteString(x.text)
	}
	return b.String()
}
