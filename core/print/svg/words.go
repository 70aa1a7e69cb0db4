package svg

import (
	"strings"
	"unicode"

	"github.com/go-text/typesetting/di"
	"github.com/go-text/typesetting/font"
	"github.com/go-text/typesetting/font/opentype"
	"github.com/go-text/typesetting/language"
	"github.com/go-text/typesetting/shaping"
	"golang.org/x/image/math/fixed"

	"amberseal/core/print/typeface"
)

// words shapes the words of a picture.
type words struct{ shaper shaping.HarfbuzzShaper }

// stretch is a part of words that have one look.
type stretch struct {
	text  string
	state state
	at    *[2]float64 // where it begins, where that is said
	moved [2]float64  // from where it would begin
}

// text sets the words of an element (SVG 1.1, 10): stretches one behind the other, each piece that has a place of its own aligned by
// itself.
func (p *painter) text(n *node, s state) {
	var all []stretch
	p.gather(n, s, &all)
	trimSpaces(all)
	x, y := 0.0, 0.0
	for i := 0; i < len(all); {
		end := i + 1
		for end < len(all) && all[end].at == nil {
			end++
		}
		if at := all[i].at; at != nil {
			x, y = at[0], at[1]
		}
		wide := 0.0
		for _, part := range all[i:end] {
			wide += part.moved[0] + p.set(part, 0, 0, false)
		}
		switch all[i].state.values["text-anchor"] {
		case "middle":
			x -= wide / 2
		case "end":
			x -= wide
		}
		for _, part := range all[i:end] {
			x, y = x+part.moved[0], y+part.moved[1]
			x += p.set(part, x, y, true)
		}
		i = end
	}
}

// gather finds the stretches of an element.
func (p *painter) gather(n *node, s state, all *[]stretch) {
	first := stretch{state: s}
	if xs, ys := numbers(n.attr["x"]), numbers(n.attr["y"]); len(xs) > 0 || len(ys) > 0 || n.name == "text" {
		at := [2]float64{p.across(firstOf(n.attr["x"]), s), p.down(firstOf(n.attr["y"]), s)}
		if n.name != "text" { // what is not said goes on
			if len(xs) == 0 || len(ys) == 0 {
				before := lastPlace(*all)
				if len(xs) == 0 {
					at[0] = before[0]
				}
				if len(ys) == 0 {
					at[1] = before[1]
				}
			}
		}
		first.at = &at
	}
	first.moved = [2]float64{p.across(firstOf(n.attr["dx"]), s), p.down(firstOf(n.attr["dy"]), s)}
	first.text = n.text
	*all = append(*all, first)
	for _, k := range n.kids {
		if p.seen++; p.seen > mostElements {
			panic(refusal("it has too many elements"))
		}
		switch k.name {
		case "textPath":
			panic(refusal("it holds words along a path; turn them into paths"))
		case "tspan", "a":
			inner := s
			inner.values = k.values(s.values)
			inner.opacity *= share(inner.values["opacity"], 1)
			if inner.depth++; inner.depth > deepest {
				panic(refusal("it has too many elements"))
			}
			if inner.values["display"] != "none" {
				p.gather(k, inner, all)
			}
		}
		*all = append(*all, stretch{text: k.tail, state: s})
	}
}

func firstOf(list string) string {
	for _, w := range strings.FieldsFunc(list, func(r rune) bool { return r == ',' || unicode.IsSpace(r) }) {
		return w
	}
	return ""
}

// lastPlace is the last one that was said.
func lastPlace(all []stretch) [2]float64 {
	for i := len(all) - 1; i >= 0; i-- {
		if all[i].at != nil {
			return *all[i].at
		}
	}
	return [2]float64{}
}

// trimSpaces makes one space of several, and none at the beginning and at the end (SVG 1.1, 10.15).
func trimSpaces(all []stretch) {
	space := true
	last := -1
	for i := range all {
		var b strings.Builder
		for _, r := range all[i].text {
			if unicode.IsSpace(r) {
				if r == '\n' || r == '\r' || space {
					if space || r == '\n' || r == '\r' {
						if !space {
							b.WriteByte(' ')
							space = true
						}
						continue
					}
				}
				b.WriteByte(' ')
				space = true
				continue
			}
			b.WriteRune(r)
			space = false
		}
		if all[i].text = b.String(); all[i].text != "" {
			last = i
		}
	}
	if last >= 0 {
		all[last].text = strings.TrimRight(all[last].text, " ")
	}
}

// face is that of a stretch: the first of its families that is there, or what stands in for it.
func (p *painter) face(values map[string]string) *typeface.Face {
	weight := values["font-weight"]
	style := typeface.Style{
		Bold:   weight == "bold" || weight == "bolder" || weight >= "600" && weight <= "900",
		Italic: values["font-style"] == "italic" || values["font-style"] == "oblique",
	}
	for name := range strings.SplitSeq(values["font-family"], ",") {
		name = strings.Trim(strings.TrimSpace(name), `"'`)
		if f, ok := p.own[name]; ok {
			return f.Face(style)
		}
		for _, shipped := range typeface.Families() {
			if strings.EqualFold(shipped, name) {
				return typeface.Primary(shipped, style)
			}
		}
	}
	first, _, _ := strings.Cut(values["font-family"], ",")
	instead, _ := typeface.Substitute(strings.Trim(strings.TrimSpace(first), `"'`))
	return typeface.Primary(instead, style)
}

// set outlines a stretch whose baseline begins at a place, or only measures it, and gives how far it goes.
func (p *painter) set(part stretch, x, y float64, paint bool) float64 {
	if part.text == "" {
		return 0
	}
	text := []rune(part.text)
	points := size(part.state.values)
	spacing := p.along(part.state.values["letter-spacing"], part.state)
	primary := p.face(part.state.values)
	o := p.outlines(part.state.matrix)
	start := x
	for at := 0; at < len(text); {
		face := typeface.For(text[at], primary, typeface.Style{})
		end := at + 1
		for end < len(text) && (text[end] == ' ' || typeface.For(text[end], primary, typeface.Style{}) == face) {
			end++
		}
		own := font.NewFace(face.Font)
		const size = 1000
		direction, script := di.DirectionLTR, language.LookupScript(text[at])
		if script == language.Arabic || script == language.Hebrew {
			direction = di.DirectionRTL
		}
		out := p.setter.shaper.ShapeNoExtents(shaping.Input{
			Text: text, RunStart: at, RunEnd: end, Direction: direction, Face: own, Size: fixed.I(size), Script: script, Language: "en",
		})
		by := points / size / 64
		for _, g := range out.Glyphs {
			if paint {
				p.glyph(o, own, g, x+float64(g.XOffset)*by, y-float64(g.YOffset)*by, points)
			}
			x += float64(g.Advance)*by + spacing
		}
		at = end
	}
	if paint {
		p.paint(o, nil, part.state, true)
	}
	return x - start
}

// glyph outlines one.
func (p *painter) glyph(o *outlines, face *font.Face, g shaping.Glyph, x, y, points float64) {
	outline, ok := face.GlyphDataOutline(g.GlyphID)
	if !ok {
		return
	}
	by := points / float64(face.Upem())
	at := func(p opentype.SegmentPoint) (float64, float64) { return x + float64(p.X)*by, y - float64(p.Y)*by }
	for _, s := range outline.Segments {
		x1, y1 := at(s.Args[0])
		x2, y2 := at(s.Args[1])
		x3, y3 := at(s.Args[2])
		switch s.Op {
		case opentype.SegmentOpMoveTo:
			o.close()
			o.move(x1, y1)
		case opentype.SegmentOpLineTo:
			o.line(x1, y1)
		case opentype.SegmentOpQuadTo:
			o.quadratic(x1, y1, x2, y2)
		case opentype.SegmentOpCubeTo:
			o.cubic(x1, y1, x2, y2, x3, y3)
		}
	}
	o.close()
}
