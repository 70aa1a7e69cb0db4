package typeset

import (
	"cmp"
	"math"
	"slices"
	"sync"
	"unicode"

	"github.com/go-text/typesetting/di"
	"github.com/go-text/typesetting/font"
	"github.com/go-text/typesetting/language"
	"github.com/go-text/typesetting/shaping"
	"golang.org/x/image/math/fixed"
	"golang.org/x/text/unicode/bidi"

	"amberseal/core/typeface"
)

// unit is how many shaping units make a point. Sizes are whole units, so that shaping is
// exact to 1/1024 point and a run of 100,000 characters does not overflow.
const unit = 16

// baseline is where letters stand in a line's slot, so that lines of equal height share it
// whatever their size.
const baseline = 0.735

// line is one line of a paragraph, from the line's left edge.
type line struct {
	pieces         []piece
	width          float64
	height, ascent float64 // of the line's slot, and of the baseline inside it
}

// piece is a shaped run on a line.
type piece struct {
	glyphs Glyphs
	x      float64
	run    int // index of the paragraph's run
}

// setter shapes and breaks text. It is used by one goroutine at a time.
type setter struct {
	shaper  shaping.HarfbuzzShaper
	split   shaping.Segmenter
	wrapper shaping.LineWrapper
	faces   map[*typeface.Face]*font.Face
	files   map[*font.Font]*typeface.Face
	lang    language.Language
}

var setters = sync.Pool{New: func() any {
	s := &setter{faces: map[*typeface.Face]*font.Face{}, files: map[*font.Font]*typeface.Face{}}
	s.shaper.SetFontCacheSize(32)
	return s
}}

func (s *setter) face(f *typeface.Face) *font.Face {
	if face, ok := s.faces[f]; ok {
		return face
	}
	face := font.NewFace(f.Font)
	s.faces[f] = face
	s.files[f.Font] = f
	return face
}

// chain resolves characters to faces for one style.
type chain struct {
	s       *setter
	primary *typeface.Face
	style   typeface.Style
}

func (c chain) ResolveFace(r rune) *font.Face {
	return c.s.face(typeface.For(r, c.primary, c.style))
}

// split gives each part of a run the face that has its characters. Spaces stay with the face
// before them, but not with that of pictures, whose space is as wide as a picture.
func (c chain) split(run shaping.Input) []shaping.Input {
	if c.primary.Has(run.Text[run.RunStart:run.RunEnd]) {
		run.Face = c.s.face(c.primary)
		return []shaping.Input{run}
	}
	parts := shaping.SplitByFace(run, c)
	var out []shaping.Input
	for _, part := range parts {
		if !c.s.files[part.Face.Font].Pictures {
			out = append(out, part)
			continue
		}
		for at := part.RunStart; at < part.RunEnd; {
			piece := part
			piece.RunStart = at
			space := part.Text[at] == ' '
			for at < part.RunEnd && (part.Text[at] == ' ') == space {
				at++
			}
			piece.RunEnd = at
			if space {
				piece.Face = c.s.face(c.primary)
			}
			out = append(out, piece)
		}
	}
	return out
}

// anyFace lets text be split by direction and script alone.
type anyFace struct{ face *font.Face }

func (a anyFace) ResolveFace(rune) *font.Face { return a.face }

// lines breaks a paragraph to a width.
func (s *setter) lines(p *Paragraph, width float64) []line {
	var text []rune
	var bounds []int // end of each run in text
	for _, r := range p.Runs {
		text = append(text, []rune(r.Text)...)
		bounds = append(bounds, len(text))
	}
	width = max(width-p.Indent, 1)
	var out []line
	for start := 0; ; {
		end := start
		for end < len(text) && text[end] != '\n' {
			end++
		}
		out = append(out, s.hardLine(p, text[start:end], start, bounds, width)...)
		if end >= len(text) {
			return out
		}
		start = end + 1
	}
}

// hardLine breaks text without newlines. offset is its place in the paragraph's text.
func (s *setter) hardLine(p *Paragraph, text []rune, offset int, bounds []int, width float64) []line {
	size := math.Round(p.Size*unit) / unit
	slot := size * p.Leading
	if len(text) == 0 {
		return []line{{height: slot, ascent: slot * baseline}}
	}
	direction := baseDirection(text)
	outs, runOf := s.shape(p, text, offset, bounds, direction, fixed.I(int(size*unit)))
	config := shaping.WrapConfig{Direction: direction, BreakPolicy: shaping.WhenNecessary}
	wrapped, _ := s.wrapper.WrapParagraphF(config, toFixed(width), text, shaping.NewSliceIterator(outs))
	out := make([]line, 0, len(wrapped))
	for _, w := range wrapped {
		out = append(out, s.line(p, text, w, runOf, direction, size, slot, width))
	}
	return out
}

// shape turns text into shaped runs, split by direction, script, style and face.
func (s *setter) shape(p *Paragraph, text []rune, offset int, bounds []int, direction di.Direction, size fixed.Int26_6) (outs []shaping.Output, runOf []int) {
	base := shaping.Input{Text: text, RunEnd: len(text), Direction: direction, Size: size, Language: s.lang}
	var parts []shaping.Input
	if plainLatin(text) {
		base.Script = language.Latin
		parts = []shaping.Input{base}
	} else {
		first := typeface.Primary(p.Family, typeface.Style{})
		parts = slices.Clone(s.split.Split(base, anyFace{s.face(first)}))
	}
	run := 0
	runOf = make([]int, len(text))
	for _, part := range parts {
		for at := part.RunStart; at < part.RunEnd; {
			run = runAt(bounds, offset+at)
			end := min(part.RunEnd, bounds[run]-offset)
			style := p.Runs[run].Style
			piece := part
			piece.RunStart, piece.RunEnd = at, end
			c := chain{s, typeface.Primary(p.Family, style), style}
			for _, in := range c.split(piece) {
				out := s.shaper.ShapeNoExtents(in)
				markInk(out.Glyphs, text)
				outs = append(outs, out)
				for i := in.RunStart; i < in.RunEnd; i++ {
					runOf[i] = run
				}
			}
			at = end
		}
	}
	return outs, runOf
}

// markInk gives glyphs that are no spaces a width of ink. The wrapper takes glyphs without one for
// spaces, which take no room at a line's end; asking the font for each outline's real extent would be
// slow and is not needed.
func markInk(glyphs []shaping.Glyph, text []rune) {
	for i := range glyphs {
		if !unicode.IsSpace(text[glyphs[i].TextIndex()]) {
			glyphs[i].Width = 1
		}
	}
}

// plainLatin reports whether all characters are Latin or common signs of one direction, for
// which there is nothing to split by direction and script.
func plainLatin(text []rune) bool {
	for _, r := range text {
		if r >= 0x250 && (r < 0x2010 || r > 0x201F) && r != '€' || r < ' ' {
			return false
		}
	}
	return true
}

// runAt finds the run that holds the text's index.
func runAt(bounds []int, index int) int {
	i, found := slices.BinarySearch(bounds, index)
	if found {
		i++
	}
	for i < len(bounds)-1 && bounds[i] <= index {
		i++
	}
	return i
}

func (s *setter) line(p *Paragraph, text []rune, w shaping.Line, runOf []int, direction di.Direction, size, slot, width float64) line {
	out := line{height: slot, ascent: slot * baseline}
	outputs := slices.Clone(w)
	slices.SortStableFunc(outputs, func(a, b shaping.Output) int { return cmp.Compare(a.VisualIndex, b.VisualIndex) })
	x := 0.0
	for _, o := range outputs {
		run := runOf[min(o.Runes.Offset, len(runOf)-1)]
		g := Glyphs{
			Face: s.files[o.Face.Font], Size: size, Colour: p.Runs[run].Colour,
			Text: text, Width: points(o.Advance), Backwards: o.Direction == di.DirectionRTL,
			Glyphs: make([]Glyph, len(o.Glyphs)),
		}
		last := -1
		for i, src := range o.Glyphs {
			dst := &g.Glyphs[i]
			*dst = Glyph{ID: uint16(src.GlyphID), Advance: float32(points(src.Advance)), DX: float32(points(src.XOffset)), DY: float32(points(src.YOffset)), Start: int32(src.TextIndex())}
			if src.TextIndex() != last {
				dst.Count = int32(src.RunesCount())
				last = src.TextIndex()
			}
		}
		out.pieces = append(out.pieces, piece{g, x, run})
		x += g.Width
	}
	out.width = x
	out.shift(p.Align, direction == di.DirectionRTL, width-x)
	for i := range out.pieces {
		if p.Align != End { // there the indent keeps text off the other edge
			out.pieces[i].x += p.Indent
		}
	}
	return out
}

// shift moves the line's pieces by what its alignment leaves free.
func (l *line) shift(a Align, backwards bool, free float64) {
	by := 0.0
	switch {
	case a == Center:
		by = free / 2
	case (a == End) != backwards:
		by = free
	}
	for i := range l.pieces {
		l.pieces[i].x += by
	}
}

// baseDirection is that of the first strong character (UAX #9 rules P2 and P3).
func baseDirection(text []rune) di.Direction {
	for _, r := range text {
		if r < 0x590 {
			if r >= 'A' {
				if p, _ := bidi.LookupRune(r); p.Class() == bidi.L {
					return di.DirectionLTR
				}
			}
			continue
		}
		switch p, _ := bidi.LookupRune(r); p.Class() {
		case bidi.L:
			return di.DirectionLTR
		case bidi.R, bidi.AL:
			return di.DirectionRTL
		}
	}
	return di.DirectionLTR
}

func points(v fixed.Int26_6) float64  { return float64(v) / (64 * unit) }
func toFixed(v float64) fixed.Int26_6 { return fixed.Int26_6(v * 64 * unit) }
