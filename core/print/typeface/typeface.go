// Package typeface holds the fonts of documents: the families that ship with the
// program, and for each a chain of fallbacks so that every script has a face.
//
// In go a family, a weight and a slope, out come faces. Fonts are parsed once, when
// first used, and shared; all exported functions are safe for many goroutines. The
// fonts are under the SIL Open Font Licence, the one for Chinese, Japanese and Korean
// under the Apache License; the texts lie beside them.
package typeface

import (
	"bytes"
	"embed"
	"fmt"
	"strings"
	"sync"

	"github.com/go-text/typesetting/font"
	"github.com/go-text/typesetting/language"
)

//go:embed files/*.ttf files/*.txt
var files embed.FS

// Face is one font file, parsed.
type Face struct {
	Name        string     // PostScript-like name, e.g. Literata-Bold
	Font        *font.Font // shared; make a font.Face of it for each goroutine
	Data        []byte     // the file
	Upem        int        // font units an em
	Pictures    bool       // the glyphs are pictures (emoji)
	Family      string     // of an uploaded font, as its file says
	Installable bool       // its licence lets anybody have it (OpenType 1.9, OS/2 fsType)
	Outlines    []byte     // of an OpenType font with PostScript outlines: its table CFF, else nil
	Whole       bool       // its licence forbids to take glyphs out

	once sync.Once
	line Line
}

// Has reports whether the face has every character.
func (f *Face) Has(text []rune) bool {
	for _, r := range text {
		if _, ok := f.Font.NominalGlyph(r); !ok {
			return false
		}
	}
	return true
}

// Families lists the families documents can be set in, the default first.
func Families() []string { return []string{"Literata", "IBM Plex Sans"} }

// Style is the weight and slope of a run of text.
type Style struct {
	Bold, Italic bool
	Japanese     bool // characters that Chinese and Japanese share have their Japanese forms
}

// styles are the files of a family: plain, bold, italic, and both.
type styles [4]string

func stylesOf(stem string) styles {
	return styles{stem + "-Regular", stem + "-Bold", stem + "-Regular_Italic", stem + "-Bold_Italic"}
}

var stems = map[string]styles{
	"Literata": stylesOf("Literata"), "IBM Plex Sans": stylesOf("IBMPlexSans"),
	"Carlito": stylesOf("Carlito"), "Caladea": stylesOf("Caladea"), "Liberation Sans": stylesOf("LiberationSans"),
	"Liberation Serif": stylesOf("LiberationSerif"), "Liberation Mono": stylesOf("LiberationMono"),
}

// substitutes are the families that stand for those of other programs, by lower-case name; those of equal widths come first.
var substitutes = map[string]string{
	"calibri": "Carlito", "cambria": "Caladea", "arial": "Liberation Sans", "helvetica": "Liberation Sans",
	"times new roman": "Liberation Serif", "times": "Liberation Serif", "courier new": "Liberation Mono", "courier": "Liberation Mono",
	"arimo": "Liberation Sans", "tinos": "Liberation Serif", "cousine": "Liberation Mono",
}

// alike are families of other widths: what is set in them breaks its lines elsewhere.
var alike = map[string]string{
	"aptos": "Carlito", "calibri light": "Carlito", "segoe ui": "Carlito", "tahoma": "Liberation Sans", "verdana": "Liberation Sans",
	"trebuchet ms": "Carlito", "georgia": "Liberation Serif", "garamond": "Liberation Serif", "book antiqua": "Liberation Serif",
	"palatino linotype": "Liberation Serif", "consolas": "Liberation Mono", "open sans": "Carlito", "roboto": "Liberation Sans",
	"aptos display": "Carlito", "cambria math": "Caladea", "century": "Liberation Serif", "lucida console": "Liberation Mono",
}

// Substitute is the family that stands for one that a file asks for: itself where it ships, else one of the same widths, else one
// alike. same reports whether lines break where they did.
func Substitute(family string) (instead string, same bool) {
	name := strings.ToLower(strings.TrimSpace(family))
	for shipped := range stems {
		if strings.ToLower(shipped) == name {
			return shipped, true
		}
	}
	if s, ok := substitutes[name]; ok {
		return s, true
	}
	if s, ok := alike[name]; ok {
		return s, false
	}
	for _, x := range []struct{ part, family string }{
		{"mono", "Liberation Mono"}, {"code", "Liberation Mono"}, {"sans", "Liberation Sans"}, {"gothic", "Liberation Sans"},
		{"serif", "Liberation Serif"}, {"times", "Liberation Serif"},
	} {
		if strings.Contains(name, x.part) {
			return x.family, false
		}
	}
	return "Liberation Serif", false
}

// fallback is a face for what the family does not have; one without a bold serves both weights.
type fallback struct {
	name string
	bold bool
}

// scripts are the faces of one script each, so that only those that are met are read.
var scripts = map[language.Script]fallback{
	language.Arabic: {"NotoSansArabic", true}, language.Hebrew: {"NotoSansHebrew", true}, language.Devanagari: {"NotoSansDevanagari", true},
	language.Thai: {"NotoSansThai", true}, language.Armenian: {"NotoSansArmenian", true}, language.Georgian: {"NotoSansGeorgian", true},
	language.Bengali: {"NotoSansBengali", true}, language.Tamil: {"NotoSansTamil", true}, language.Telugu: {"NotoSansTelugu", true},
	language.Gujarati: {"NotoSansGujarati", true}, language.Gurmukhi: {"NotoSansGurmukhi", true},
	language.Kannada:   {"NotoSansKannada", true},
	language.Malayalam: {"NotoSansMalayalam", true}, language.Sinhala: {"NotoSansSinhala", true}, language.Khmer: {"NotoSansKhmer", true},
	language.Lao: {"NotoSansLao", true}, language.Myanmar: {"NotoSansMyanmar", true}, language.Ethiopic: {"NotoSansEthiopic", false},
	language.Han: {
		"DroidSansFallback",
		false,
	}, language.Hiragana: {"DroidSansFallback", false}, language.Katakana: {"DroidSansFallback", false},
	language.Hangul: {"NanumSquare", true}, language.Bopomofo: {"DroidSansFallback", false},
}

// common are asked in this order for all else, such as signs that many scripts share.
var common = []fallback{
	{"NotoSans", true}, {"NotoSansArabic", true}, {"NotoSansHebrew", true}, {"NotoSansDevanagari", true}, {"NotoSansThai", true},
	{"NotoSansSymbols", false}, {"NotoSansSymbols2", false}, {"NotoEmoji", false}, {"NotoSansMath", false}, {"NotoMusic", false},
	{"DroidSansFallback", false},
}

var (
	mu     sync.Mutex
	parsed = map[string]*Face{}
)

// load parses a font that ships with the program; one that cannot be read is a
// mistake in the build.
func load(name string) *Face {
	mu.Lock()
	defer mu.Unlock()
	if f, ok := parsed[name]; ok {
		return f
	}
	data, err := files.ReadFile("files/" + name + ".ttf")
	if err != nil {
		panic(err)
	}
	face, err := font.ParseTTF(bytes.NewReader(data))
	if err != nil {
		panic(fmt.Sprintf("typeface: %s: %v", name, err))
	}
	listCoverages(face.Font)
	f := &Face{Name: name, Font: face.Font, Data: data, Upem: int(face.Font.Upem()), Pictures: name == "NotoEmoji-Regular"}
	parsed[name] = f
	return f
}

// Primary is the family's face in the style. An unknown family is the default one.
func Primary(family string, s Style) *Face {
	files, ok := stems[family]
	if !ok {
		files = stems[Families()[0]]
	}
	at := 0
	if s.Bold {
		at++
	}
	if s.Italic {
		at += 2
	}
	return load(files[at])
}

// japanese has the characters of JIS X 0208 in their Japanese forms; rarer ones are Chinese in form.
var japanese = fallback{"NotoSansJP", false}

// shared reports whether a sign belongs to Chinese and Japanese alike: their punctuation and full-width letters.
func shared(r rune) bool { return r >= 0x3000 && r <= 0x303F || r >= 0xFF00 && r <= 0xFFEF }

// Emoji is the face of pictures that stand for several characters together.
func Emoji() *Face { return load("NotoEmoji-Regular") }

// For finds a face that has the character: the primary one if it can, else the first
// fallback that can, else the primary one, which draws its box for missing characters. Faces with PostScript outlines
// leave that to the default family, since a file may not show their glyph 0 (ISO 19005-2 section 6.2.11.8).
func For(r rune, primary *Face, s Style) *Face {
	if _, ok := primary.Font.NominalGlyph(r); ok {
		return primary
	}
	chain := common
	script := language.LookupScript(r)
	if own, ok := scripts[script]; ok {
		chain = []fallback{own}
	}
	if script == language.Hiragana || script == language.Katakana || s.Japanese && (script == language.Han || shared(r)) {
		chain = append([]fallback{japanese}, chain...)
	}
	for _, fb := range chain {
		name := fb.name + "-Regular"
		if fb.bold && s.Bold {
			name = fb.name + "-Bold"
		}
		f := load(name)
		if _, ok := f.Font.NominalGlyph(r); ok {
			return f
		}
	}
	if primary.Outlines != nil || primary.Whole {
		return Primary("", s)
	}
	return primary
}
