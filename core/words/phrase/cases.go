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

// titled begins each word with a capital, where somebody typed small letters or capitals alone. Words with both are their own way to write
// a name, and stay: McDonald, Ludwig van der Berg.
func titled(s string, of language.Tag) string {
	if strings.ToUpper(s) != s && strings.ToLower(s) != s {
		return s
	}
	return cases.Title(of).String(s)
}

// fraction is a number with decimals as formulas have it: documents write it as their language does. Whole ones stay as they were typed,
// since they may be years or numbers of things.
var fraction = regexp.MustCompile(`^-?[0-9]+\.[0-9]+$`)
