package phrase

import (
	"regexp"
	"strings"

	"golang.org/x/text/cases"
	"golang.org/x/text/language"
)

func (f Facts) cased(s, format string) string {
	language := language.Make(f.House.Language)
	switch format {
	case "upper":
		return cases.Upper(language).String(s)
	case "lower":
		return cases.Lower(language).String(s)
	case "title":
		return titled(s, language)
	case "first":
		first, _, _ := strings.Cut(strings.TrimSpace(s), " ")
		return first
	}
	return s
}

// titled begins each word with a capital. One that has a capital already is somebody's own way to write it: McDonald, van der Berg’s Berg,
// USA; where all are capitals they were typed so, and are made small.
func titled(s string, of language.Tag) string {
	caser := cases.Title(of)
	if strings.ToUpper(s) == s {
		return caser.String(s)
	}
	words := strings.SplitAfter(s, " ")
	for i, w := range words {
		if strings.ToLower(w) == w {
			words[i] = caser.String(w)
		}
	}
	return strings.Join(words, "")
}

// fraction is a number with decimals as formulas have it: documents write it as their language does. Whole ones stay as they were typed,
// since they may be years or numbers of things.
var fraction = regexp.MustCompile(`^-?[0-9]+\.[0-9]+$`)
