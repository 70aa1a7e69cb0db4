package phrase

import (
	"strings"

	"golang.org/x/text/unicode/bidi"
)

// RightToLeft reports whether some of the words are written so.
func RightToLeft(s string) bool {
	return strings.ContainsFunc(s, func(c rune) bool {
		p, _ := bidi.LookupRune(c)
		return p.Class() == bidi.R || p.Class() == bidi.AL
	})
}
