package typeset

import (
	"slices"
	"unicode"

	"github.com/go-text/typesetting/di"
	"github.com/go-text/typesetting/shaping"

	"amberseal/core/print/typeset/bidi"
)

// passage breaks text into lines: quickly, or with care where the paragraph asks for it.
func (s *setter) passage(t passage) []line {
	if t.trimmed() == 0 {
		return []line{s.placed(s.blank(t), t, 0)}
	}
	direction := di.DirectionLTR
	if !plainLatin(t.shown) {
		t.levels = t.resolved()
		if bidi.Base(t.meant) == 1 {
			direction, t.backwards = di.DirectionRTL, true
		}
	}
	if t.p.rooms != nil {
		lines, _ := s.stretch(t, direction)
		return lines
	}
	var out []line
	for {
		part := t.cut(0, t.atOnce())
		lines, last := s.stretch(part, direction)
		if len(part.shown) == len(t.shown) {
			return append(out, lines...)
		}
		if last == 0 { // one line takes all of it
			last = len(part.shown)
		} else { // its end is where we stopped, and no line's
			lines = lines[:len(lines)-1]
		}
		out = append(out, lines...)
		t.before += len(lines)
		t = t.cut(last, len(t.shown))
	}
}

// At once so much of a passage is broken, since the time for a word that fits no line grows as the square of its letters, and of the runs
// in it where they change their direction.
const (
	mostAtOnce    = 5000 // characters
	mostTurns     = 200
	leastWithThem = 1000 // characters that are broken at once however often they turn
)

// atOnce is how much of a passage is broken at once: up to a space, where there is one.
func (t passage) atOnce() int {
	n, turns := len(t.shown), 0
	for i := 1; i < len(t.shown) && n == len(t.shown); i++ {
		if t.levels != nil && t.levels[i] != t.levels[i-1] {
			turns++
		}
		if i == mostAtOnce || turns > mostTurns && i >= leastWithThem {
			n = i
		}
	}
	if n == len(t.shown) {
		return n
	}
	for i := n; i > n/2; i-- {
		if t.meant[i-1] == ' ' {
			return i
		}
	}
	for n > 1 && unicode.Is(unicode.M, t.shown[n]) {
		n--
	}
	return n
}

// stretch breaks a stretch of a passage into lines, and says where the last of them begins.
func (s *setter) stretch(t passage, direction di.Direction) (lines []line, last int) {
	outs := roomless(t, s.shape(t, direction))
	ended := func(lines []line) ([]line, int) {
		if n := len(lines); n > 1 {
			return lines, lines[n-2].end - t.offset
		}
		return lines, 0
	}
	if t.p.Greedy && !t.backwards {
		if lines := s.greedy(t, outs); lines != nil {
			return ended(lines)
		}
	}
	if (t.p.Hyphens || t.p.Align == Justify || slices.Contains(t.shown, softHyphen)) && !t.backwards {
		if lines := s.careful(t, outs); lines != nil {
			return ended(lines)
		}
	}
	if !t.backwards && fits(outs, t.width) {
		return []line{s.line(t, outs)}, 0
	}
	config := shaping.WrapConfig{Direction: direction, BreakPolicy: shaping.WhenNecessary}
	noted := s.cut
	wrapped, _ := s.wrapper.WrapParagraphF(config, toFixed(t.width), t.shown, shaping.NewSliceIterator(outs))
	out := make([]line, 0, len(wrapped))
	for i, w := range wrapped {
		last = len(t.shown)
		for _, o := range w {
			last = min(last, o.Runes.Offset)
		}
		l := s.line(t, w)
		if i+1 < len(wrapped) {
			l.justify(t)
			s.noteCut(t, w)
		}
		out = append(out, l)
	}
	if s.cut != noted && !t.backwards && !t.p.Tabular {
		t.tight = true
		if lines := s.careful(t, outs); lines != nil {
			s.cut = noted
			return ended(lines)
		}
		t.torn = true
		if lines := s.careful(t, outs); lines != nil {
			return ended(lines)
		}
	}
	return out, last
}
