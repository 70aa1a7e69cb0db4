package typeset

import (
	"math"
	"slices"
	"unicode"

	"github.com/go-text/typesetting/di"
	"github.com/go-text/typesetting/shaping"

	"amberseal/core/print/typeset/bidi"
)

// opportunity is a place where a line may end.
type opportunity struct {
	at     int     // the next line begins here
	end    int     // this line ends here: spaces before at hang over
	width  float64 // of all text before end, and of the hyphen
	begins float64 // of all text before at
	spaces int     // before end
	hyphen bool
	torn   bool // between the letters of a word that fits no line
}

// hyphenWidth is how wide a hyphen is about, in ems.
const hyphenWidth = 0.33

// softHyphen is what a hyphen at a line's end means (ISO 32000-1 section 14.8.2.2.3).
const softHyphen = '\u00AD'

// careful breaks a passage that runs to the right so that its lines are as even as can be, after D. E. Knuth and M. F.
// Plass, “Breaking Paragraphs into Lines” (1981): of all ways to break it that fits, the one with the least sum of
// demerits. It gives nil where no way fits or part of the text runs to the left.
func (s *setter) careful(t passage, outs []shaping.Output) []line {
	for _, o := range outs {
		if o.Direction != di.DirectionLTR {
			return nil
		}
	}
	places := s.opportunities(t, outs)
	best := fewestDemerits(places, t.width, t.p.Align == Justify, spaceWidth(t, outs))
	if best == nil {
		return nil
	}
	return s.ended(t, best)
}

// ended makes the lines that end at the places; the last place is the text's end.
func (s *setter) ended(t passage, best []opportunity) []line {
	var lines []line
	whole := t
	from := 0
	for i, o := range best {
		if t.width = whole.room(i).width; from == 0 && t.offset == 0 && t.p.Greedy {
			t.width -= t.p.First
		}
		part := t.cut(from, o.at)
		if o.hyphen {
			if n := len(part.shown); n > 0 && part.shown[n-1] == softHyphen {
				part = part.cut(0, n-1)
			}
			part = part.hyphenated()
		}
		l := s.blank(part)
		if part.trimmed() > 0 {
			l = s.line(part, roomless(part, s.shape(part, di.DirectionLTR)))
		}
		if i+1 < len(best) {
			l.justify(part)
		}
		l.end = t.offset + o.at
		lines = append(lines, s.placed(l, whole, i))
		from = o.at
	}
	return lines
}

// roomless takes the room from the spaces at a line's end.
func roomless(t passage, outs []shaping.Output) []shaping.Output {
	end := t.trimmed()
	for i := range outs {
		for j := range outs[i].Glyphs {
			if g := &outs[i].Glyphs[j]; g.TextIndex() >= end {
				outs[i].Advance -= g.Advance
				g.Advance = 0
			}
		}
	}
	return outs
}

// hyphenated is the passage with a hyphen at its end, which copying gives back as a soft one.
func (t passage) hyphenated() passage {
	t.shown = append(append(make([]rune, 0, len(t.shown)+1), t.shown...), '-')
	t.meant = append(append(make([]rune, 0, len(t.meant)+1), t.meant...), softHyphen)
	if t.tabs != nil {
		t.tabs = append(append(make([]bool, 0, len(t.tabs)+1), t.tabs...), false)
	}
	if t.levels != nil {
		t.levels = append(append(make([]bidi.Level, 0, len(t.levels)+1), t.levels...), t.levels[len(t.levels)-1])
	}
	return t
}

// spaceWidth is how wide the passage's first space is, or a quarter em.
func spaceWidth(t passage, outs []shaping.Output) float64 {
	for _, o := range outs {
		for _, g := range o.Glyphs {
			if t.meant[g.TextIndex()] == ' ' {
				return points(g.Advance)
			}
		}
	}
	return t.size / 4
}

// opportunities lists where lines may end, by Unicode's rules (UAX #14) and between the syllables of words.
func (s *setter) opportunities(t passage, outs []shaping.Output) []opportunity {
	before := make([]float64, len(t.shown)+1) // width of the text before each character
	for _, o := range outs {
		for _, g := range o.Glyphs {
			n := max(g.RunesCount(), 1)
			for i := range n { // characters of one glyph share it
				if at := g.TextIndex() + i + 1; at < len(before) {
					before[at] += points(g.Advance) / float64(n)
				}
			}
		}
	}
	spaces := make([]int, len(before))
	for i, r := range t.meant {
		before[i+1] += before[i]
		spaces[i+1] = spaces[i]
		if r == ' ' {
			spaces[i+1]++
		}
	}
	var out []opportunity
	address := inAddresses(t.shown)
	s.breaks.Init(t.shown)
	for it := s.breaks.LineIterator(); it.Next(); {
		l := it.Line()
		inside := len(out)
		if (t.p.Hyphens || t.tight) && s.hyphens != nil {
			hyphen := t.size * hyphenWidth
			for _, at := range s.syllables(l.Text) {
				if at += l.Offset; address[at] {
					continue
				}
				out = append(out, opportunity{at: at, end: at, width: before[at] + hyphen, begins: before[at], spaces: spaces[at],
					hyphen: true})
			}
		}
		if t.torn && before[l.Offset+len(l.Text)]-before[l.Offset] > t.width {
			for i := 1; i < len(l.Text); i++ {
				if at := l.Offset + i; before[at] > before[at-1] && !unicode.Is(unicode.M, t.shown[at]) {
					out = append(out, opportunity{at: at, end: at, width: before[at], begins: before[at], spaces: spaces[at], torn: true})
				}
			}
		}
		for i := 1; t.tight && i < len(l.Text); i++ {
			if l.Text[i-1] == noBreak { // rather between its words than inside them
				at := l.Offset + i
				end := t.cut(0, at).trimmed()
				out = append(out, opportunity{at: at, end: end, width: before[end], begins: before[at], spaces: spaces[end]})
				continue
			}
			if at := l.Offset + i; inWord(l.Text[i]) && addressSign(l.Text[i-1]) && !(i > 1 && figures(l.Text[i-2], l.Text[i])) {
				out = append(out, opportunity{at: at, end: at, width: before[at], begins: before[at], spaces: spaces[at]})
			}
		}
		// In the order of the text; of two at one place the one that tears nothing comes last and is the better.
		slices.SortStableFunc(out[inside:], func(a, b opportunity) int { return a.at - b.at })
		at := l.Offset + len(l.Text)
		end := t.cut(0, at).trimmed()
		last := opportunity{at: at, end: end, width: before[end], begins: before[at], spaces: spaces[end]}
		if at < len(t.shown) && t.shown[at-1] == softHyphen {
			last.width, last.hyphen = last.width+t.size*hyphenWidth, true
		}
		out = append(out, last)
	}
	return out
}

// inAddresses marks the characters of addresses: of what stands between spaces and holds the signs of one. A hyphen in them
// would be read as a part of the address.
func inAddresses(text []rune) []bool {
	out := make([]bool, len(text))
	for from := 0; from < len(text); from++ {
		to, address := from, false
		for to < len(text) && !unicode.IsSpace(text[to]) {
			address = address || addressSign(text[to]) && text[to] != '-' && to+1 < len(text) && (inWord(text[to+1]) || text[to+1] == '/')
			to++
		}
		for i := from; i < to; i++ {
			out[i] = address
		}
		from = to
	}
	return out
}

// syllables finds where the words of a stretch of text may be parted.
func (s *setter) syllables(text []rune) []int {
	var out []int
	for from := 0; from < len(text); {
		to := from
		for to < len(text) && unicode.IsLetter(text[to]) {
			to++
		}
		if to > from && (to == len(text) || !unicode.IsDigit(text[to])) {
			for _, p := range s.hyphens.Points(text[from:to]) {
				out = append(out, from+p)
			}
		}
		from = to + 1
	}
	return out
}

// Demerits of hyphens: one costs as much as a line that is noticeably short, two in a row much more. A torn word costs
// more than anything else.
const (
	tornDemerits   = 1e6
	hyphenDemerits = 60
	doubleHyphen   = 400
	shrinkable     = 0.12 // of a space's width, in justified lines
)

// fewestDemerits chooses the places at which lines end; the last place always is one. It gives nil where none fit.
func fewestDemerits(places []opportunity, width float64, justified bool, space float64) []opportunity {
	n := len(places)
	cost, from := make([]float64, n), make([]int, n)
	earliest := -1 // the first place after which a line can begin and still reach the present one; -1 is the beginning
	for j := range places {
		cost[j], from[j] = math.Inf(1), -2
		for i := earliest; i < j; i++ {
			begins, spacesBefore, sofar := 0.0, 0, 0.0
			if i >= 0 {
				begins, spacesBefore, sofar = places[i].begins, spacesAt(places, i), cost[i]
			}
			stretch := float64(max(places[j].spaces-spacesBefore, 0)) * space
			free := width - (places[j].width - begins)
			fits := free >= -0.01 || justified && free >= -shrinkable*stretch
			if !fits {
				if i == earliest && !places[j].hyphen {
					earliest++
				}
				continue
			}
			d := sofar + demerits(free, width, stretch, justified, j == n-1)
			if places[j].torn {
				d += tornDemerits
			}
			if places[j].hyphen {
				d += hyphenDemerits
				if i >= 0 && places[i].hyphen {
					d += doubleHyphen
				}
			}
			if d < cost[j] {
				cost[j], from[j] = d, i
			}
		}
	}
	if n == 0 || math.IsInf(cost[n-1], 1) {
		return nil
	}
	var out []opportunity
	for j := n - 1; j >= 0; j = from[j] {
		out = append(out, places[j])
	}
	for i, k := 0, len(out)-1; i < k; i, k = i+1, k-1 {
		out[i], out[k] = out[k], out[i]
	}
	return out
}

// spacesAt is how many spaces lie before the line that begins after a place.
func spacesAt(places []opportunity, i int) int {
	n := places[i].spaces
	if places[i].at > places[i].end {
		n++
	}
	return n
}

// demerits is how bad a line is that leaves room free: by the share of its width in ragged text, by how far its spaces
// stretch in justified text. Fewer lines are better.
func demerits(free, width, stretch float64, justified, last bool) float64 {
	const line = 10
	if last && free >= 0 {
		return line
	}
	if justified {
		r := free / max(stretch*0.5, 0.1)
		if free < 0 {
			r = -free / max(stretch*shrinkable, 0.1)
		}
		b := min(100*math.Abs(r*r*r), 1e5)
		return (line + b) * (line + b) / line
	}
	r := free / width * 10
	return line + r*r*12
}
