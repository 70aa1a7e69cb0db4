package typeset

import (
	"unicode"
	"unicode/utf8"

	"github.com/go-text/typesetting/di"
	"github.com/go-text/typesetting/language"
	"github.com/go-text/typesetting/shaping"
	"golang.org/x/image/math/fixed"

	"amberseal/core/print/typeface"
)

// kerned is how much wider than the sum of its letters a word may be.
const kerned = 1.01

// asked measures a paragraph by the advances of its letters: shaping it again for this would cost as much as setting it.
func (s *setter) asked(p *Paragraph) extent {
	var out extent
	word, piece, line := 0.0, 0.0, 0.0
	endPiece := func() { out.pieces, piece = max(out.pieces, piece), 0 }
	endWord := func() {
		endPiece()
		out.least, word = max(out.least, word), 0
	}
	before, last := rune(0), rune(0)
	for i := range p.Runs {
		r := &p.Runs[i]
		size := p.Size
		if r.Size > 0 {
			size = r.Size
		}
		rule := s.ruler(s.primary(p.Family, r.Style), r.Style, p.Tabular)
		for at, c := range r.Text {
			switch {
			case c == '\n':
				endWord()
				out.most, line = max(out.most, line), 0
			case c == ' ' || c == '\t' || c == softHyphen:
				endWord()
			case last == '-' && unicode.IsLetter(c):
				endWord()
			case addressSign(last) && inWord(c) && !figures(before, c) || last == noBreak && !p.Tabular:
				endPiece()
			case c >= 0x250 && unicode.IsLetter(c) && !inWord(c): // scripts without spaces
				endWord()
			}
			before, last = last, c
			w := rule.advance(c) * size
			if r.SmallCaps || r.Caps {
				w = rule.advance(unicode.ToUpper(c)) * size
			}
			w += r.Spacing
			line += w
			if c != ' ' && c != '\t' && c != '\n' && c != softHyphen {
				word, piece = word+w, piece+w
			}
			if p.Point != 0 && at == pointAt(r.Text, p.Point) && i == len(p.Runs)-1 {
				out.head = line - w
			}
		}
	}
	endWord()
	out.most = max(out.most, line)
	if p.Point != 0 {
		if out.head == 0 { // no decimals: the point would stand behind the last figure
			out.head = line
		}
		out.head *= kerned
		out.tail = max(line*kerned-out.head, 0)
	}
	out.least, out.pieces, out.most = out.least*kerned, out.pieces*kerned, out.most*kerned
	return out
}

// pointAt is where the decimals of a number begin, or -1.
func pointAt(text string, point rune) int {
	for i := len(text); i > 0; {
		r, n := utf8.DecodeLastRuneInString(text[:i])
		i -= n
		if r != point {
			continue
		}
		before, _ := utf8.DecodeLastRuneInString(text[:i])
		after, _ := utf8.DecodeRuneInString(text[i+n:])
		if unicode.IsDigit(before) && unicode.IsDigit(after) {
			return i
		}
		return -1
	}
	return -1
}

// ruler knows the advances of a face's letters, as parts of their size.
type ruler struct {
	setter  *setter
	face    *typeface.Face
	style   typeface.Style
	figure  float64 // of tabular figures; 0 where they are not asked for
	letters [128]float64
	others  map[rune]float64
}

type rulerKey struct {
	face    *typeface.Face
	tabular bool
}

// mostOthers bounds what a ruler remembers.
const mostOthers = 4096

func (s *setter) ruler(face *typeface.Face, style typeface.Style, tabular bool) *ruler {
	key := rulerKey{face, tabular}
	if r, ok := s.rulers[key]; ok {
		return r
	}
	r := &ruler{setter: s, face: face, style: style, others: map[rune]float64{}}
	if tabular {
		r.figure = s.figure(face)
	}
	for c := range r.letters {
		r.letters[c] = r.measure(rune(c))
	}
	s.rulers[key] = r
	return r
}

// figure is the advance of a face's tabular figures.
func (s *setter) figure(face *typeface.Face) float64 {
	const size = 100
	out := s.shaper.ShapeNoExtents(shaping.Input{
		Text: []rune{'0'}, RunEnd: 1, Direction: di.DirectionLTR, Face: s.face(face), Size: fixed.I(size),
		Script: language.Latin, Language: s.lang, FontFeatures: tabular,
	})
	return float64(out.Advance) / 64 / size
}

func (r *ruler) advance(c rune) float64 {
	switch {
	case c >= 0 && int(c) < len(r.letters):
		return r.letters[c]
	case c == noBreak:
		return r.letters[' ']
	}
	w, ok := r.others[c]
	if !ok {
		if len(r.others) >= mostOthers {
			clear(r.others)
		}
		w = r.measure(c)
		r.others[c] = w
	}
	return w
}

func (r *ruler) measure(c rune) float64 {
	if r.figure > 0 && c >= '0' && c <= '9' {
		return r.figure
	}
	if unicode.Is(unicode.M, c) || unicode.Is(unicode.Cf, c) || unicode.IsControl(c) {
		return 0
	}
	face := typeface.For(c, r.face, r.style)
	glyph, ok := face.Font.NominalGlyph(c)
	if !ok {
		return 1
	}
	return float64(r.setter.face(face).HorizontalAdvance(glyph)) / float64(face.Upem)
}
