package typeset

import (
	"strings"

	"github.com/go-text/typesetting/language"
)

// spoken are the languages that a script stands for where nothing more is known: enough for a voice that reads it aloud. After
// CLDR's likely subtags; from memory.
var spoken = map[language.Script]string{
	language.Arabic: "ar", language.Hebrew: "he", language.Devanagari: "hi", language.Thai: "th", language.Greek: "el",
	language.Cyrillic: "ru",
	language.Armenian: "hy", language.Georgian: "ka", language.Bengali: "bn", language.Tamil: "ta", language.Telugu: "te",
	language.Gujarati: "gu",
	language.Gurmukhi: "pa", language.Kannada: "kn", language.Malayalam: "ml", language.Sinhala: "si", language.Khmer: "km",
	language.Lao:     "lo",
	language.Myanmar: "my", language.Ethiopic: "am", language.Han: "zh", language.Hiragana: "ja", language.Katakana: "ja",
	language.Hangul: "ko",
}

// written are the languages that are written in a script besides the one above.
var written = map[string]language.Script{
	"fa": language.Arabic, "ur": language.Arabic, "ps": language.Arabic, "yi": language.Hebrew, "mr": language.Devanagari,
	"ne": language.Devanagari,
	"uk": language.Cyrillic, "bg": language.Cyrillic, "sr": language.Cyrillic, "mk": language.Cyrillic, "be": language.Cyrillic,
	"ja": language.Han,
}

// foreign is the language of text in another script than the document's language is written in, or empty.
func (s *setter) foreign(text []rune) string {
	for _, r := range text {
		if r < 0x370 {
			continue
		}
		script := language.LookupScript(r)
		tag := spoken[script]
		if tag == "" {
			continue
		}
		own, _, _ := strings.Cut(string(s.lang), "-")
		if own == tag || written[own] == script {
			return ""
		}
		return tag
	}
	return ""
}

// speaks reports whether a paragraph has words in another script than the document's.
func (s *setter) speaks(p *Paragraph) bool {
	for _, r := range p.Runs {
		if s.foreign([]rune(r.Text)) != "" {
			return true
		}
	}
	return false
}
