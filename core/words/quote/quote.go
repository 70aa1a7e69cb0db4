// Package quote repeats the words of a stranger: of a server, or of a report that anybody can write.
package quote

import (
	"regexp"
	"strings"
	"unicode"
)

const most = 200 // letters

// Words are a stranger's words, cleaned and in quotation marks: at most 200 letters on one line, without their own marks and a full stop
// at the end, and without addresses of pages that people or programs would follow.
func Words(s string) string { return "“" + Cut(s) + "”" }

// Cut is as Words, without the marks around.
func Cut(s string) string {
	words := []rune(strings.Join(strings.FieldsFunc(s, func(r rune) bool { return unicode.IsSpace(r) || !unicode.IsPrint(r) }), " "))
	if len(words) > most {
		words = append(words[:most-1], '…')
	}
	plain := strings.NewReplacer("“", "'", "”", "'", "\"", "'").Replace(addressed.ReplaceAllString(string(words), "…"))
	return strings.TrimSuffix(plain, ".")
}

// addressed is an address of a page, as people or programs would follow it.
var addressed = regexp.MustCompile(`(?i)\b(?:[a-z][a-z0-9+.-]*://|www\.)\S*`)
