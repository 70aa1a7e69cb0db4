package typeset

import (
	"math"
	"slices"
	"strings"
	"unicode"

	"github.com/go-text/typesetting/di"
	"github.com/go-text/typesetting/shaping"
	"golang.org/x/image/math/fixed"

	"amberseal/core/print/typeset/bidi"
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
	held           float64 // its height, where another line stands on its right
	end            int     // of a greedy line: the place in the paragraph’s text behind it
}

// piece is a shaped run on a line.
type piece struct {
	glyphs Glyphs
	x      float64
	run    int    // index of the paragraph's run
	lang   string // of words in another script than the document's
}

// passage is text without newlines that is broken into lines: as it is shaped, with capitals for small ones, and as it is
// meant, which copying gives back. offset is its place in the paragraph's text, bounds the end of each run there.
type passage struct {
	p            *Paragraph
	shown, meant []rune
	tabs         []bool // which of its spaces are tabs, nil for none
	offset       int
	bounds       []int
	size         float64 // of the paragraph
	width        float64
	levels       []bidi.Level // of its characters; nil when all run to the right
	backwards    bool
	japanese     bool     // its words are Japanese, by their letters where the document's language does not say so
	tight        bool     // words that are wider than the room are parted by syllables and after the signs that addresses are made of
	torn         bool     // and, where that is not enough, between any letters
	before       int      // how many lines of the paragraph stand above it
	smalls       []bool   // which runs are set in small capitals of their face; nil for none
	fractions    [][2]int // where fractions stand in the paragraph's text
}

// small reports whether a run is set in small capitals of its face.
func (t passage) small(run int) bool { return t.smalls != nil && t.smalls[run] }

// room is where one of its lines stands, counted from 0.
func (t passage) room(i int) room {
	if t.p.rooms == nil {
		return room{width: t.width}
	}
	return t.p.rooms.at(t.before + i)
}

// cut is a part of the passage.
func (t passage) cut(from, to int) passage {
	t.shown, t.meant, t.offset = t.shown[from:to], t.meant[from:to], t.offset+from
	if t.tabs != nil {
		t.tabs = t.tabs[from:to]
	}
	if t.levels != nil {
		t.levels = t.levels[from:to]
	}
	return t
}

// run is the index of the run at a place of the passage.
func (t passage) run(at int) int { return runAt(t.bounds, t.offset+at) }

const noBreak = '\u00A0'

// least is down to how small a part of their size figures in a column are set rather than broken: a broken amount is a wrong one.
const leastFigures = 0.5

// lines breaks a paragraph to a width. Figures that are wider are set smaller, and so are lines that ask for it.
func (s *setter) lines(p *Paragraph, width float64) []line {
	noted := s.cut
	out := s.broken(p, width)
	least, whole := leastFigures, func(lines []line) bool { return !torn(lines) }
	switch {
	case p.Shrink > 0:
		least, whole = p.Shrink, func(lines []line) bool { return len(lines) <= p.asked() }
	case !p.Tabular:
		return out
	}
	if whole(out) {
		return out
	}
	smaller := *p
	for size := 0.95; size >= least-0.01; size -= 0.05 {
		smaller.Size = p.Size * size
		if lines := s.broken(&smaller, width); whole(lines) {
			s.cut = noted
			return lines
		}
	}
	if p.Tabular {
		s.cut = plainText(p.Runs)
	}
	return out
}

// asked is how many lines a paragraph has where the width breaks none.
func (p *Paragraph) asked() int {
	n := 1
	for _, r := range p.Runs {
		n += strings.Count(r.Text, "\n")
	}
	return n
}

// torn reports whether a line ends inside a word.
func torn(lines []line) bool {
	for _, l := range lines[:max(len(lines)-1, 0)] {
		end := int32(0)
		var text []rune
		for _, p := range l.pieces {
			text = p.glyphs.Text
			for _, g := range p.glyphs.Glyphs {
				end = max(end, g.Start+g.Count)
			}
		}
		if end > 0 && int(end) < len(text) && text[end-1] != ' ' && text[end] != ' ' {
			return true
		}
	}
	return false
}

// broken breaks a paragraph to a width, words that are wider between their letters.
func (s *setter) broken(p *Paragraph, width float64) []line {
	room := 0
	for i := range p.Runs {
		room += len(p.Runs[i].Text)
	}
	text := make([]rune, 0, room)
	bounds := make([]int, 0, len(p.Runs)) // end of each run in text
	for i := range p.Runs {
		for _, r := range p.Runs[i].Text {
			text = append(text, r)
		}
		bounds = append(bounds, len(text))
	}
	t := s.newPassage(p, text, bounds)
	if p.Most > 0 {
		width = min(width, p.Most+p.Indent)
	}
	t.width = max(width-p.Indent-p.Right, 1)
	var out []line
	for start := 0; ; {
		end := start
		for end < len(text) && text[end] != '\n' {
			end++
		}
		// The break is read as a space, so that words on both its sides stay apart.
		next := min(end+1, len(text))
		t.before = len(out)
		out = append(out, s.passage(t.cut(start, next))...)
		if end >= len(text) {
			return out
		}
		start = next
	}
}

// newPassage prepares text: small letters of small capitals are shaped as capitals where the face has no small ones, tabs and breaks are
// spaces.
func (s *setter) newPassage(p *Paragraph, text []rune, bounds []int) passage {
	t := passage{
		p:        p,
		shown:    text,
		meant:    text,
		bounds:   bounds,
		size:     math.Round(p.Size*unit) / unit,
		japanese: slices.ContainsFunc(text, kana),
	}
	if slices.ContainsFunc(text, func(r rune) bool { return r == '\t' || r == '\n' }) {
		t.meant = slices.Clone(text)
		t.tabs = make([]bool, len(text))
		for i, r := range text {
			if r == '\t' || r == '\n' {
				t.meant[i], t.tabs[i] = ' ', r == '\t'
			}
		}
		t.shown = t.meant
	}
	if slices.Contains(text, noBreak) { // it stretches, and is found, as any other space
		t.meant = slices.Clone(t.meant)
		for i, r := range t.meant {
			if r == noBreak {
				t.meant[i] = ' '
			}
		}
	}
	t.smalls = s.smallRuns(p)
	if p.Running {
		t.fractions = fractions(text)
	}
	for i, r := range p.Runs {
		if r.Picture != nil { // a space of its size stands for it
			t.shown = slices.Clone(t.shown)
			t.shown[bounds[i]-1] = noBreak
		}
		if !r.SmallCaps && !r.Caps || t.small(i) {
			continue
		}
		t.shown = slices.Clone(t.shown)
		for at := bounds[i] - len([]rune(r.Text)); at < bounds[i]; at++ {
			t.shown[at] = unicode.ToUpper(t.shown[at])
		}
	}
	return t
}

// kana reports whether a character is one of the syllables that only Japanese has.
func kana(r rune) bool { return r >= 0x3041 && r <= 0x30FF }

// trimmed is the length of a passage without the spaces at its end, which take no room. Tabs do.
func (t passage) trimmed() int {
	end := len(t.meant)
	for end > 0 && t.meant[end-1] == ' ' && (t.tabs == nil || !t.tabs[end-1]) {
		end--
	}
	return end
}

// fits reports whether shaped runs that all run to the right need no breaking.
func fits(outs []shaping.Output, width float64) bool {
	sum := fixed.Int26_6(0)
	for _, o := range outs {
		if o.Direction != di.DirectionLTR {
			return false
		}
		sum += o.Advance
	}
	return sum <= toFixed(width)
}

// blank is an empty line.
func (s *setter) blank(t passage) line {
	if t.p.Greedy {
		return s.naturally(t, nil)
	}
	slot := t.size * t.p.Leading * s.closer
	return line{height: slot, ascent: slot * baseline}
}

// addressSign reports whether an address may be parted after a sign.
func addressSign(r rune) bool { return strings.ContainsRune("@./_-?=&", r) }

// figures reports whether a sign stands between two figures: in a date or a number, which is not parted there.
func figures(before, after rune) bool { return unicode.IsDigit(before) && unicode.IsDigit(after) }

// inWord reports whether a character belongs to a word of a script that parts words by spaces.
func inWord(r rune) bool {
	return (unicode.IsLetter(r) || unicode.IsDigit(r)) &&
		!unicode.In(r, unicode.Han, unicode.Hiragana, unicode.Katakana, unicode.Thai, unicode.Lao, unicode.Khmer, unicode.Myanmar)
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

// line makes a line of shaped runs.
func (s *setter) line(t passage, w shaping.Line) line {
	p := t.p
	tallest := t.size
	for _, o := range w {
		if run := &p.Runs[t.run(o.Runes.Offset)]; run.Size > 0 {
			tallest = max(tallest, run.Size)
		}
	}
	slot := tallest * p.Leading * s.closer
	out := line{height: slot, ascent: slot * baseline}
	if p.Greedy {
		out = s.naturally(t, w)
	}
	outputs := w
	if t.levels != nil {
		outputs = slices.Clone(w)
		bidi.Order(outputs, func(o shaping.Output) bidi.Level { return t.levels[min(o.Runes.Offset, len(t.levels)-1)] })
	}
	x := 0.0
	for _, o := range outputs {
		run := t.run(min(o.Runes.Offset, len(t.meant)-1))
		g := Glyphs{
			Face: s.files[o.Face.Font], Size: float64(o.Size) / (64 * unit), Colour: p.Runs[run].Colour,
			Text: t.meant, Width: points(o.Advance), Backwards: o.Direction == di.DirectionRTL,
			Glyphs: make([]Glyph, 0, len(o.Glyphs)),
		}
		last := -1
		for _, src := range o.Glyphs {
			if directs(t.meant[src.TextIndex()]) {
				continue // it has done its work, and stands for nothing that is read
			}
			dst := Glyph{
				ID:      uint16(src.GlyphID),
				Advance: float32(points(src.Advance)),
				DX:      float32(points(src.XOffset)),
				DY:      float32(points(src.YOffset)),
				Start:   int32(src.TextIndex()),
			}
			if src.GlyphID == 0 {
				s.lack(t.meant[src.TextIndex()])
			}
			if src.TextIndex() != last {
				dst.Count = int32(src.RunesCount())
				last = src.TextIndex()
			}
			g.Glyphs = append(g.Glyphs, dst)
		}
		if len(g.Glyphs) == 0 {
			continue
		}
		lang := ""
		if end := min(o.Runes.Offset+o.Runes.Count, len(t.meant)); o.Runes.Offset < end && !plainLatin(t.meant[o.Runes.Offset:end]) {
			lang = s.foreign(t.meant[o.Runes.Offset:end])
		}
		out.pieces = append(out.pieces, piece{g, x, run, lang})
		x += g.Width
	}
	out.width = x
	out.shift(p.Align, t.backwards, t.width-x)
	indent := p.Indent
	if p.Greedy {
		if t.offset == 0 {
			indent += p.First
		}
	} else if p.Role == ListItem && t.backwards || p.Role != ListItem && p.Align == End { // it keeps text off the other edge
		indent = 0
	}
	for i := range out.pieces {
		out.pieces[i].x += indent
	}
	return out
}

// directs reports whether a character only says how others are ordered (UAX 9, section 2).
func directs(r rune) bool {
	return r >= 0x2066 && r <= 0x2069 || r >= 0x202A && r <= 0x202E || r == 0x200E || r == 0x200F || r == 0x061C
}

// widestSpace is up to how many ems a space may grow in a justified line; one that needs more is left as it is.
const widestSpace = 1.0

// justify gives what a line leaves free to its spaces; those at its end take no room.
func (l *line) justify(t passage) {
	free := t.width - l.width
	if t.p.Align != Justify || free == 0 {
		return
	}
	spaces := 0
	each := func(do func(i int, g *Glyph)) {
		for i := range l.pieces {
			glyphs := l.pieces[i].glyphs.Glyphs
			for j := range glyphs {
				if glyphs[j].Advance != 0 && glyphs[j].Count == 1 && t.meant[glyphs[j].Start] == ' ' {
					do(i, &glyphs[j])
				}
			}
		}
	}
	each(func(int, *Glyph) { spaces++ })
	if spaces == 0 || free/float64(spaces) > widestSpace*t.size {
		return
	}
	more := free / float64(spaces)
	each(func(i int, g *Glyph) {
		g.Advance += float32(more)
		l.pieces[i].glyphs.Width += more
		for k := i + 1; k < len(l.pieces); k++ {
			l.pieces[k].x += more
		}
	})
	if t.backwards { // the line was pushed to the right by what was free
		for i := range l.pieces {
			l.pieces[i].x -= free
		}
	}
	l.width += free
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

// resolved are the levels of the passage's characters; a tab parts what runs to one side from what runs to the other.
func (t passage) resolved() []bidi.Level {
	text := t.meant
	if t.tabs != nil {
		text = slices.Clone(text)
		for i, tab := range t.tabs {
			if tab {
				text[i] = '\t'
			}
		}
	}
	return bidi.Levels(text, bidi.Base(text))
}

func points(v fixed.Int26_6) float64  { return float64(v) / (64 * unit) }
func toFixed(v float64) fixed.Int26_6 { return fixed.Int26_6(v * 64 * unit) }
