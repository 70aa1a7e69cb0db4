package typeset

import (
	"slices"
	"unicode"

	"github.com/go-text/typesetting/shaping"
)

// noteCut remembers the word inside which a line had to end.
func (s *setter) noteCut(t passage, w shaping.Line) {
	end := 0
	for _, o := range w {
		end = max(end, o.Runes.Offset+o.Runes.Count)
	}
	if end <= 0 || end >= len(t.shown) || !inWord(t.shown[end-1]) || !inWord(t.shown[end]) {
		return
	}
	from, to := end, end
	word := func(r rune) bool { return inWord(r) || addressSign(r) }
	for from > 0 && word(t.shown[from-1]) && end-from < 200 {
		from--
	}
	for to < len(t.shown) && word(t.shown[to]) && to-from < 200 {
		to++
	}
	s.cut = string(t.meant[from:to])
}

// mostLacking is how many letters without a face are named.
const mostLacking = 12

// lack remembers a letter that no face has; signs that are not seen are no loss.
func (s *setter) lack(r rune) {
	if unicode.IsGraphic(r) && !unicode.IsSpace(r) && len(s.lacking) < mostLacking && !slices.Contains(s.lacking, r) {
		s.lacking = append(s.lacking, r)
	}
}
