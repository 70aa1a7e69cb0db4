package fromword

import (
	"math"
	"strconv"
	"strings"

	"github.com/beevik/etree"

	"amberseal/core/foreign/word"
	"amberseal/core/print/typeface"
	"amberseal/core/print/typeset"
)

// looks are how runs look, gathered from the outside in: defaults, table style, paragraph style, character style, own
// (ISO/IEC 29500-1, 17.7.2).
type looks struct {
	family                  string
	size                    float64
	bold, italic            bool
	underline, strike       bool
	caps, smallCaps, hidden bool
	colour                  *typeset.Colour
	fill                    *typeset.Colour
	raised                  string  // superscript or subscript
	rise, spacing, kern     float64 // kern is the least size at which letters are kerned; 0 for never
}

// twips are twentieths of a point.
const twips = 20.0

// on reads a property that is on or off; one without a value is on (17.17.4).
func on(e *etree.Element) bool {
	switch strings.ToLower(word.Attr(e, "val")) {
	case "0", "false", "off", "none":
		return false
	}
	return true
}

// measure reads twentieths of a point, or a number with a unit (17.18.81 and 22.9.2.14).
func measure(s string) (points float64, ok bool) {
	for unit, each := range map[string]float64{"pt": 1, "mm": 72 / 25.4, "cm": 72 / 2.54, "in": 72, "pc": 12, "pi": 12} {
		if v, cut := strings.CutSuffix(s, unit); cut {
			n, ok := figure(v)
			return n * each, ok
		}
	}
	n, ok := figure(s)
	return n / twips, ok
}

// farthest is the largest number that a file may give a length: more than any paper, in the smallest units.
const farthest = 1e9

// figure reads a number; what is no number, or too large for any length, is none.
func figure(s string) (float64, bool) {
	n, err := strconv.ParseFloat(strings.TrimSpace(s), 64)
	if err != nil || !(math.Abs(n) <= farthest) {
		return 0, false
	}
	return n, true
}

func colourOf(s string) *typeset.Colour {
	if len(s) != 6 {
		return nil
	}
	n, err := strconv.ParseUint(s, 16, 32)
	if err != nil {
		return nil
	}
	return &typeset.Colour{R: uint8(n >> 16), G: uint8(n >> 8), B: uint8(n)}
}

// highlights are the colours of the marker pen (17.18.40).
var highlights = map[string]string{
	"yellow": "FFFF00", "green": "00FF00", "cyan": "00FFFF", "magenta": "FF00FF", "blue": "0000FF", "red": "FF0000", "darkBlue": "000080",
	"darkCyan": "008080", "darkGreen": "008000", "darkMagenta": "800080", "darkRed": "800000", "darkYellow": "808000", "darkGray": "808080",
	"lightGray": "C0C0C0", "black": "000000",
}

// read puts the properties of a w:rPr over what is known already.
func (b *binder) read(l *looks, pr *etree.Element) {
	if pr == nil {
		return
	}
	for _, e := range pr.ChildElements() {
		if e.Space != "w" {
			continue
		}
		v := word.Attr(e, "val")
		switch e.Tag {
		case "rFonts":
			if f := b.font(e); f != "" {
				l.family = f
			}
		case "sz":
			if n, ok := figure(v); ok && n > 0 {
				l.size = n / 2
			}
		case "b":
			l.bold = on(e)
		case "i":
			l.italic = on(e)
		case "u":
			l.underline = v != "none" && v != ""
		case "strike", "dstrike":
			l.strike = on(e)
		case "caps":
			l.caps = on(e)
		case "smallCaps":
			l.smallCaps = on(e)
		case "vanish", "webHidden":
			if e.Tag == "vanish" {
				l.hidden = on(e)
			}
		case "color":
			if c := b.themed(e, "val", "themeColor"); c != nil || v == "auto" {
				l.colour = c
			}
		case "highlight":
			l.fill = colourOf(highlights[v])
		case "shd":
			l.fill = b.shade(e)
		case "kern":
			if n, ok := figure(v); ok {
				l.kern = n / 2
			}
		case "vertAlign":
			l.raised = v
		case "position":
			if n, ok := figure(v); ok {
				l.rise = n / 2
			}
		case "spacing":
			if n, ok := measure(v); ok {
				l.spacing = n
			}
		}
	}
}

// shade is the ground of a shading: patterns are taken for what they look like from afar.
func (b *binder) shade(e *etree.Element) *typeset.Colour {
	ground := b.themed(e, "fill", "themeFill")
	share := 0
	switch v := word.Attr(e, "val"); {
	case v == "solid":
		share = 100
	case strings.HasPrefix(v, "pct"):
		share, _ = strconv.Atoi(v[3:])
	}
	if share == 0 {
		return ground
	}
	ink, paper := typeset.Colour{}, typeset.Colour{R: 255, G: 255, B: 255}
	if c := b.themed(e, "color", "themeColor"); c != nil {
		ink = *c
	}
	if ground != nil {
		paper = *ground
	}
	mix := func(a, c uint8) uint8 { return uint8((int(a)*share + int(c)*(100-share)) / 100) }
	return &typeset.Colour{R: mix(ink.R, paper.R), G: mix(ink.G, paper.G), B: mix(ink.B, paper.B)}
}

// run makes a run of the looks.
func (l looks) run(text string) typeset.Run {
	r := typeset.Run{
		Text: text, Style: typeface.Style{Bold: l.bold, Italic: l.italic}, Size: l.size, Underline: l.underline, Strike: l.strike,
		SmallCaps: l.smallCaps && !l.caps, Caps: l.caps, Family: l.family, Rise: l.rise, Spacing: l.spacing, Fill: l.fill,
		Kern: l.kern > 0 && l.size >= l.kern,
	}
	if l.colour != nil {
		r.Colour = *l.colour
	}
	switch l.raised { // as large and as far as is common; the standard leaves both to the program
	case "superscript":
		r.Rise, r.Size = r.Rise+l.size*0.33, l.size*0.65
	case "subscript":
		r.Rise, r.Size = r.Rise-l.size*0.08, l.size*0.65
	}
	return r
}
