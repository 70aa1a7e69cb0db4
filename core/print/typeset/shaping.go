package typeset

import (
	"math"
	"slices"
	"sync"
	"unicode"

	"github.com/go-text/typesetting/di"
	"github.com/go-text/typesetting/font"
	"github.com/go-text/typesetting/font/opentype"
	"github.com/go-text/typesetting/language"
	"github.com/go-text/typesetting/segmenter"
	"github.com/go-text/typesetting/shaping"
	"golang.org/x/image/math/fixed"

	"amberseal/core/print/typeface"
	"amberseal/core/print/typeset/hyphen"
)

// setter shapes and breaks text. It is used by one goroutine at a time.
type setter struct {
	shaper   shaping.HarfbuzzShaper
	split    shaping.Segmenter
	wrapper  shaping.LineWrapper
	breaks   segmenter.Segmenter
	words    map[word]shaping.Output
	glyphs   []shaping.Glyph // of the passage at hand
	faces    map[*typeface.Face]*font.Face
	files    map[*font.Font]*typeface.Face
	rulers   map[rulerKey]*ruler
	lang     language.Language
	japanese bool               // the document's language
	hyphens  *hyphen.Hyphenator // nil for a language without patterns
	own      map[string]typeface.Family
	cut      string // a word that was broken since its room is too narrow, until somebody takes note
	lacking  []rune // letters that no face has, until somebody takes note
	work     int    // characters that may still be shaped
	done     <-chan struct{}
	closer   float64 // what part of their leading lines have: 1, or a little less
	bare     bool    // room at a cell's head and foot counts: what is measured is no cell
}

var setters = sync.Pool{New: func() any {
	s := &setter{
		words:  map[word]shaping.Output{},
		faces:  map[*typeface.Face]*font.Face{},
		files:  map[*font.Font]*typeface.Face{},
		rulers: map[rulerKey]*ruler{},
		closer: 1,
		work:   MostWork,
	}
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

// primary is a family's face in a style: the document's own families come before those that ship.
func (s *setter) primary(family string, style typeface.Style) *typeface.Face {
	if f, ok := s.own[family]; ok {
		return f.Face(style)
	}
	return typeface.Primary(family, style)
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
	var parts, out []shaping.Input
	for _, piece := range c.sequences(run) {
		if piece.Face != nil {
			parts = append(parts, piece)
		} else {
			parts = append(parts, slices.Clone(shaping.SplitByFace(piece, c))...)
		}
	}
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

// Characters that make one picture of several (Unicode Technical Standard #51, section 1.4).
const (
	joiner      = '\u200D'
	pictureSign = '\uFE0F'
	keycap      = '\u20E3'
)

// joins reports whether a character goes on the picture before it: a sign, a colour of skin, a keycap, or what is joined.
func joins(before, r rune) bool {
	return r == joiner || r == pictureSign || r == keycap || r >= 0x1F3FB && r <= 0x1F3FF || before == joiner
}

// sequences parts a run where several characters are one picture, which has one face.
func (c chain) sequences(run shaping.Input) []shaping.Input {
	text := run.Text[:run.RunEnd]
	var out []shaping.Input
	from := run.RunStart
	cut := func(to int, face *font.Face) {
		if to > from {
			piece := run
			piece.RunStart, piece.RunEnd, piece.Face = from, to, face
			out = append(out, piece)
		}
		from = to
	}
	for i := run.RunStart; i < run.RunEnd; {
		end := i + 1
		for end < run.RunEnd && joins(text[end-1], text[end]) {
			end++
		}
		if end > i+1 && typeface.Emoji().Has(text[i:i+1]) && !(text[end-1] == pictureSign && c.primary.Has(text[i:i+1])) {
			cut(i, nil)
			cut(end, c.s.face(typeface.Emoji()))
		}
		i = end
	}
	cut(run.RunEnd, nil)
	return out
}

// anyFace lets text be split by direction and script alone.
type anyFace struct{ face *font.Face }

func (a anyFace) ResolveFace(rune) *font.Face { return a.face }

// smallCapital is how large small capitals are beside the capitals; common practice where a face has none of its own.
const smallCapital = 0.78

// look is what shaping needs to know of the text at a place, and where that ends.
func (t passage) look(at, end int) (run, until int, size fixed.Int26_6) {
	run = t.run(at)
	until = min(end, t.bounds[run]-t.offset)
	for next := at + 1; t.levels != nil && next < until; next++ {
		if t.levels[next] != t.levels[at] {
			until = next
		}
	}
	for _, f := range t.fractions {
		switch start, stop := f[0]-t.offset, f[1]-t.offset; {
		case at < start:
			until = min(until, start)
		case at < stop:
			until = min(until, stop)
		}
	}
	r := &t.p.Runs[run]
	points := t.size
	if r.Size > 0 {
		points = r.Size
	}
	if r.SmallCaps && !t.small(run) {
		small := t.shown[at] != t.meant[at]
		next := at
		for next < until && (t.shown[next] != t.meant[next]) == small {
			next++
		}
		until = next
		if small {
			points *= smallCapital
		}
	}
	return run, until, fixed.I(int(math.Round(points * unit)))
}

// shape turns text into shaped runs, split by direction, script, style, size and face.
func (s *setter) shape(t passage, direction di.Direction) (outs []shaping.Output) {
	s.spend(len(t.shown))
	s.glyphs = s.glyphs[:0]
	base := shaping.Input{Text: t.shown, RunEnd: len(t.shown), Direction: direction, Size: fixed.I(int(t.size * unit)), Language: s.lang}
	var parts []shaping.Input
	if plainLatin(t.shown) {
		base.Script = language.Latin
		parts = []shaping.Input{base}
	} else {
		first := s.primary(t.p.Family, typeface.Style{})
		parts = slices.Clone(s.split.Split(base, anyFace{s.face(first)}))
	}
	for _, part := range parts {
		for at := part.RunStart; at < part.RunEnd; {
			run, end, size := t.look(at, part.RunEnd)
			style := t.p.Runs[run].Style
			style.Japanese = t.japanese || s.japanese
			piece := part
			piece.RunStart, piece.RunEnd, piece.Size = at, end, size
			if t.levels != nil {
				piece.Direction = di.Direction(t.levels[at] % 2)
			}
			r := &t.p.Runs[run]
			family := t.p.Family
			if r.Family != "" {
				family = r.Family
			}
			if !t.p.Greedy {
				piece.FontFeatures = t.features(run, at)
			} else {
				if piece.FontFeatures = unkerned; r.Kern {
					piece.FontFeatures = kernedOnly
				}
			}
			c := chain{s, s.primary(family, style), style}
			for _, in := range c.split(piece) {
				out := s.shaped(in)
				if r.Picture != nil || r.Spacing != 0 {
					widen(&out, r)
				}
				outs = append(outs, out)
			}
			at = end
		}
	}
	if slices.Contains(t.tabs, true) {
		if t.p.Greedy {
			stopTabs(t, outs)
		} else {
			stretchTabs(t, outs)
		}
	}
	return outs
}

// widen makes a picture's place as wide as the picture, and puts what a run asks for between its letters.
func widen(out *shaping.Output, r *Run) {
	for i := range out.Glyphs {
		g := &out.Glyphs[i]
		by := toFixed(r.Spacing)
		if r.Picture != nil {
			by = toFixed(r.Picture.Width) - g.Advance
			g.Width = 1
		}
		g.Advance += by
		out.Advance += by
	}
}

// word is a stretch of text that was shaped before: labels, headings and terms are the same on every document of an intake.
type word struct {
	text   string
	face   *font.Face
	size   fixed.Int26_6
	script language.Script
	lang   language.Language
	styled int // which features are asked for
}

// unkerned turns off what word processors do not do unless they are asked: kerning and ligatures.
var unkerned = []shaping.FontFeature{
	{Tag: opentype.MustNewTag("kern"), Value: 0}, {Tag: opentype.MustNewTag("liga"), Value: 0},
	{Tag: opentype.MustNewTag("clig"), Value: 0},
}

// kernedOnly turns off ligatures alone.
var kernedOnly = unkerned[1:]

// Limits of what is remembered: so many stretches, each of so many characters.
const mostWords, longestWord = 4096, 400

// shaped shapes a run, or takes it from memory. Only text whose shapes do not depend on what stands beside it is remembered:
// Latin, from left to right. The output is the caller's own until the next passage is shaped.
func (s *setter) shaped(in shaping.Input) shaping.Output {
	n := in.RunEnd - in.RunStart
	if n > longestWord || in.Direction != di.DirectionLTR || in.Script != language.Latin {
		out := s.shaper.ShapeNoExtents(in)
		markInk(out.Glyphs, in.Text)
		return out
	}
	key := word{string(in.Text[in.RunStart:in.RunEnd]), in.Face, in.Size, in.Script, in.Language, styled(in.FontFeatures)}
	known, ok := s.words[key]
	if !ok {
		alone := in
		alone.Text, alone.RunStart, alone.RunEnd = in.Text[in.RunStart:in.RunEnd], 0, n
		known = s.shaper.ShapeNoExtents(alone)
		markInk(known.Glyphs, alone.Text)
		if len(s.words) >= mostWords {
			clear(s.words)
		}
		s.words[key] = known
	}
	out := known
	at := len(s.glyphs)
	s.glyphs = append(s.glyphs, known.Glyphs...)
	out.Glyphs = s.glyphs[at:len(s.glyphs):len(s.glyphs)]
	out.Runes.Offset += in.RunStart
	for i := range out.Glyphs {
		out.Glyphs[i].ClusterIndex += in.RunStart
	}
	return out
}

// stretchTabs makes each tab as wide as is left to the next stop. Places are counted from the passage's beginning.
func stretchTabs(t passage, outs []shaping.Output) {
	stop := t.p.Tab
	if stop <= 0 {
		stop = 36
	}
	x := 0.0
	for i := range outs {
		for j := range outs[i].Glyphs {
			g := &outs[i].Glyphs[j]
			if t.tabs[g.TextIndex()] {
				wide := toFixed((math.Floor(x/stop)+1)*stop - x)
				outs[i].Advance += wide - g.Advance
				g.Advance, g.Width = wide, 1
			}
			x += points(g.Advance)
		}
	}
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
