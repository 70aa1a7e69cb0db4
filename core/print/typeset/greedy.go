package typeset

import (
	"math"
	"slices"

	"github.com/go-text/typesetting/di"
	"github.com/go-text/typesetting/font"
	"github.com/go-text/typesetting/shaping"

	"amberseal/core/print/typeface"
)

// greedy fills one line after the other, as word processors do. It gives nil where part of the text runs to the left.
func (s *setter) greedy(t passage, outs []shaping.Output) []line {
	for _, o := range outs {
		if o.Direction != di.DirectionLTR {
			return nil
		}
	}
	places := s.opportunities(t, outs)
	ends := fill(places, t)
	if ends == nil { // a word is wider than the room
		t.torn = true
		if ends = fill(s.opportunities(t, outs), t); ends == nil {
			return nil
		}
	}
	return s.ended(t, ends)
}

// fill takes for each line the last place that fits; nil where none does.
func fill(places []opportunity, t passage) []opportunity {
	var out []opportunity
	begins, last := 0.0, -1
	width := t.beyond(0)
	if t.offset == 0 {
		width -= t.p.First
	}
	for i := 0; i < len(places); i++ {
		if places[i].width-begins <= width+0.1 {
			last = i
			if i+1 < len(places) {
				continue
			}
			return append(out, places[i])
		}
		if last < 0 || len(out) > 0 && out[len(out)-1].at == places[last].at {
			return nil
		}
		out = append(out, places[last])
		begins, width = places[last].begins, t.beyond(len(out))
		i, last = last, -1
	}
	return out
}

// beyond is the width of a line: up to the last tab stop where that stands outside of the paragraph and tabs lead there.
func (t passage) beyond(i int) float64 {
	if n := len(t.p.Stops); n > 0 && t.p.rooms == nil && slices.Contains(t.tabs, true) {
		return max(t.width, t.p.Stops[n-1].At-t.p.Indent)
	}
	return t.room(i).width
}

// placed moves a greedy line, counted from 0, to where it stands beside boxes.
func (s *setter) placed(l line, t passage, i int) line {
	if t.p.rooms != nil && t.p.Greedy {
		l.into(t.room(i))
		t.p.rooms.used++
	}
	return l
}

// naturally is an empty line as high as the faces on it are, or as the paragraph asks for. Of a line that is higher than its faces by a
// multiple what is more lies below; of one that is high by itself it lies above.
func (s *setter) naturally(t passage, w []shaping.Output) line {
	p := t.p
	up, down := 0.0, 0.0
	taller := func(f *font.Face, size, rise float64) {
		e := s.files[f.Font].Line()
		up = max(up, e.Up*size+max(rise, 0))
		down = max(down, (e.Down+e.Gap)*size-min(rise, 0))
	}
	for _, o := range w {
		run := &p.Runs[t.run(min(o.Runes.Offset, len(t.meant)-1))]
		if run.Picture != nil {
			up = max(up, run.Picture.Height)
			continue
		}
		size := float64(o.Size) / (64 * unit)
		if run.SmallCaps && size < t.size {
			size = t.size
		}
		taller(o.Face, size, run.Rise)
	}
	if up == 0 {
		size := t.size
		family := p.Family
		if len(p.Runs) > 0 {
			at := min(t.run(0), len(p.Runs)-1)
			if p.Runs[at].Size > 0 {
				size = p.Runs[at].Size
			}
			if p.Runs[at].Family != "" {
				family = p.Runs[at].Family
			}
		}
		taller(s.face(s.primary(family, typeface.Style{})), size, 0)
	}
	height := up + down
	switch v := p.Line.Value; {
	case v <= 0:
	case p.Line.Rule == Exactly:
		return line{height: v, ascent: v - (v * 0.2)}
	case p.Line.Rule == AtLeast:
		return line{height: max(height, v), ascent: up + max(v-height, 0)}
	default:
		return line{height: height * v, ascent: up + min(height*v-height, 0)}
	}
	return line{height: height, ascent: up}
}

// stopTabs makes each tab as wide as is left to its stop. Places are counted from the edge.
func stopTabs(t passage, outs []shaping.Output) {
	from := t.p.Indent
	if t.offset == 0 {
		from += t.p.First
	}
	x := from
	for i := range outs {
		for j := range outs[i].Glyphs {
			g := &outs[i].Glyphs[j]
			if t.tabs[g.TextIndex()] {
				stop := t.p.stop(x)
				wide := stop.At - x
				if stop.Align != Start || stop.Point != 0 {
					wide = max(wide-behind(t, outs, i, j, stop), 0)
				}
				more := toFixed(wide) - g.Advance
				outs[i].Advance += more
				g.Advance, g.Width = g.Advance+more, 1
			}
			x += points(g.Advance)
		}
	}
}

// stop is the tab stop behind a place.
func (p *Paragraph) stop(x float64) TabStop {
	for _, s := range p.Stops {
		if s.At > x+0.05 {
			return s
		}
	}
	if p.Indent > x+0.05 { // a hanging line's words begin where the others do
		return TabStop{At: p.Indent}
	}
	every := p.Tab
	if every <= 0 {
		every = 36
	}
	return TabStop{At: (math.Floor((x+0.05)/every) + 1) * every}
}

// behind is how far the words behind a tab reach before its stop.
func behind(t passage, outs []shaping.Output, i, j int, stop TabStop) float64 {
	w := 0.0
	for k := i; k < len(outs); k++ {
		first := 0
		if k == i {
			first = j + 1
		}
		for _, g := range outs[k].Glyphs[first:] {
			at := g.TextIndex()
			if t.tabs[at] || stop.Point != 0 && t.meant[at] == stop.Point {
				return along(w, stop)
			}
			w += points(g.Advance)
		}
	}
	return along(w, stop)
}

func along(w float64, stop TabStop) float64 {
	if stop.Point == 0 && stop.Align == Center {
		return w / 2
	}
	return w
}
