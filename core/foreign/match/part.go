package match

import (
	"iter"
	"strings"
)

// ends are how names of fields end that take a part of an answer, without what does not matter in names; each with the format that gives
// it. The longest come first.
var ends = []struct{ end, format string }{
	{"ddmmyyyy", "ddmmyyyy"}, {"mmddyyyy", "mmddyyyy"}, {"yyyymmdd", "yyyymmdd"}, {"firstname", "given"}, {"givenname", "given"},
	{"lastname", "family"}, {"familyname", "family"}, {"postalcode", "postcode"}, {"miesiąc", "mm"}, {"postcode", "postcode"},
	{"vorname", "given"}, {"nachname", "family"}, {"country", "country"}, {"surname", "family"}, {"prénom", "given"}, {"zipcode",
		"postcode"},
	{"family", "family"}, {"street", "street"}, {"region", "region"}, {"strasse", "street"}, {"straße", "street"}, {"given", "given"},
	{"month", "mm"}, {"monat", "mm"}, {"année", "yyyy"}, {"dzień", "dd"}, {"first", "given"}, {"year", "yyyy"}, {"yyyy", "yyyy"},
	{"jahr", "yyyy"}, {"mois", "mm"}, {"jour", "dd"}, {"city", "city"}, {"town", "city"}, {"last", "family"}, {"ort", "city"},
	{"day", "dd"}, {"tag", "dd"}, {"mes", "mm"}, {"día", "dd"}, {"año", "yyyy"}, {"rok", "yyyy"}, {"zip", "postcode"}, {"plz", "postcode"},
	{"dd", "dd"}, {"mm", "mm"}, {"yy", "yy"},
}

// Parts are the ways in which a name may ask for a part of an answer: what it is called without its end, and the format that gives the
// part.
func Parts(name string) iter.Seq2[string, string] {
	plain := Plain(name)
	return func(yield func(stem, format string) bool) {
		for _, e := range ends {
			if stem, ok := strings.CutSuffix(plain, e.end); ok && stem != "" && !yield(stem, e.format) {
				return
			}
		}
	}
}

// Part is the format of the part that a name asks for in all likelihood, or empty.
func Part(name string) string {
	for _, format := range Parts(name) {
		return format
	}
	return ""
}
