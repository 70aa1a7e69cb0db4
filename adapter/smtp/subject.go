package smtp

import (
	"fmt"
	"strings"
	"unicode"
)

// Lines of a header and encoded words have 76 signs at most (RFC 2047 section 2).
const longestLine = 76

// subject is a subject as its header has it: plain where it is short and ASCII, else in encoded words (RFC 2047). The first stands on the
// header's own line: one with nothing but a name on it is not for all readers the beginning of what follows.
func subject(s string) string {
	s = strings.Map(func(r rune) rune {
		if unicode.IsControl(r) {
			return ' '
		}
		return r
	}, s)
	plain := !strings.Contains(s, "=?") && !strings.ContainsFunc(s, func(r rune) bool { return r > '~' })
	room := longestLine - len("Subject: ")
	if plain && len(s) <= room {
		return s
	}
	var lines []string
	word := ""
	for _, r := range s {
		next := ""
		for _, b := range []byte(string(r)) { // a sign is never parted (section 5)
			switch {
			case b == ' ':
				next += "_"
			case b < 0x80 && (unicode.IsLetter(rune(b)) || unicode.IsDigit(rune(b))):
				next += string(rune(b))
			default:
				next += fmt.Sprintf("=%02X", b)
			}
		}
		if len("=?UTF-8?q?")+len(word)+len(next)+len("?=") > room {
			lines, word, room = append(lines, word), "", longestLine-1
		}
		word += next
	}
	return "=?UTF-8?q?" + strings.Join(append(lines, word), "?=\r\n =?UTF-8?q?") + "?="
}
