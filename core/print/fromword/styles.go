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

// style is one of the file's, with those that it is based on.
type style struct {
	id, kind, name string
	chain          []*etree.Element // from the one that is based on nothing to itself
}

// readStyles reads the file's styles and defaults.
func (b *binder) readStyles(root *etree.Element) {
	b.styles, b.usual = map[string]*style{}, map[string]string{}
	if root == nil {
		return
	}
	own := map[string]*etree.Element{}
	for _, e := range root.SelectElements("w:style") {
		id, kind := word.Attr(e, "styleId"), word.Attr(e, "type")
		own[id] = e
		b.styles[id] = &style{id: id, kind: kind, name: strings.ToLower(word.Attr(e.SelectElement("w:name"), "val"))}
		if word.Attr(e, "default") == "1" || word.Attr(e, "default") == "true" {
			b.usual[kind] = id
		}
	}
	for id, s := range b.styles {
		for at, n := id, 0; own[at] != nil && n < 30; n++ {
			s.chain = append([]*etree.Element{own[at]}, s.chain...)
			at = word.Attr(own[at].SelectElement("w:basedOn"), "val")
		}
	}
	if d := root.FindElement("w:docDefaults/w:rPrDefault/w:rPr"); d != nil {
		b.read(&b.base, d)
	}
	b.basePara = root.FindElement("w:docDefaults/w:pPrDefault/w:pPr")
}

// of finds a style; the default one of its kind where it is not there.
func (b *binder) of(id, kind string) *style {
	if s := b.styles[id]; s != nil {
		return s
	}
	return b.styles[b.usual[kind]]
}

// runLooks puts a style's run properties over what is known.
func (b *binder) runLooks(l *looks, s *style) {
	if s == nil {
		return
	}
	for _, e := range s.chain {
		b.read(l, e.SelectElement("w:rPr"))
	}
}

// font is the family that a w:rFonts names: by theme or by name.
func (b *binder) font(e *etree.Element) string {
	for _, key := range []string{"asciiTheme", "hAnsiTheme"} {
		if v := word.Attr(e, key); v != "" {
			if strings.HasPrefix(v, "major") {
				return b.major
			}
			return b.minor
		}
	}
	if v := word.Attr(e, "ascii"); v != "" {
		return v
	}
	return word.Attr(e, "hAnsi")
}

// family is the one that stands for a font of the file, and is noted where lines then break elsewhere.
func (b *binder) family(name string) string {
	if name == "" {
		name = "Times New Roman"
	}
	if _, ok := b.own[name]; ok {
		return name
	}
	instead, same := typeface.Substitute(name)
	if !same && !b.told[name] {
		b.told[name] = true
		b.findings.Notice("the document", "fromword.font-instead", "font", name, "instead", instead)
	}
	return instead
}

// readTheme reads fonts and colours of the theme (ISO/IEC 29500-1, 20.1.6).
func (b *binder) readTheme(root *etree.Element) {
	b.major, b.minor, b.theme = "Cambria", "Calibri", map[string]string{}
	if root == nil {
		return
	}
	if e := root.FindElement(".//a:majorFont/a:latin"); e != nil && e.SelectAttrValue("typeface", "") != "" {
		b.major = e.SelectAttrValue("typeface", "")
	}
	if e := root.FindElement(".//a:minorFont/a:latin"); e != nil && e.SelectAttrValue("typeface", "") != "" {
		b.minor = e.SelectAttrValue("typeface", "")
	}
	if scheme := root.FindElement(".//a:clrScheme"); scheme != nil {
		for _, e := range scheme.ChildElements() {
			for _, c := range e.ChildElements() {
				v := c.SelectAttrValue("val", "")
				if c.Tag == "sysClr" {
					v = c.SelectAttrValue("lastClr", "")
				}
				b.theme[e.Tag] = v
			}
		}
	}
}

// themeNames are the names by which text speaks of a theme's colours (17.18.97).
var themeNames = map[string]string{
	"dark1": "dk1", "text1": "dk1", "light1": "lt1", "background1": "lt1", "dark2": "dk2", "text2": "dk2", "light2": "lt2",
	"background2": "lt2", "hyperlink": "hlink", "followedHyperlink": "folHlink",
}

// themed is a colour by its value, or by the theme's.
func (b *binder) themed(e *etree.Element, value, theme string) *typeset.Colour {
	name := word.Attr(e, theme)
	if short, ok := themeNames[name]; ok {
		name = short
	}
	c := colourOf(b.theme[name])
	if c == nil {
		return colourOf(word.Attr(e, value))
	}
	prefix := strings.TrimSuffix(theme, "Color")
	if theme == "themeFill" {
		prefix = "themeFill"
	}
	if v, err := strconv.ParseUint(word.Attr(e, prefix+"Tint"), 16, 8); err == nil {
		return lighter(*c, float64(v)/255)
	}
	if v, err := strconv.ParseUint(word.Attr(e, prefix+"Shade"), 16, 8); err == nil {
		return darker(*c, float64(v)/255)
	}
	return c
}

func lighter(c typeset.Colour, keep float64) *typeset.Colour {
	f := func(v uint8) uint8 { return uint8(math.Round(float64(v)*keep + 255*(1-keep))) }
	return &typeset.Colour{R: f(c.R), G: f(c.G), B: f(c.B)}
}

func darker(c typeset.Colour, keep float64) *typeset.Colour {
	f := func(v uint8) uint8 { return uint8(math.Round(float64(v) * keep)) }
	return &typeset.Colour{R: f(c.R), G: f(c.G), B: f(c.B)}
}
