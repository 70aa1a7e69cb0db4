// Package numbering writes the running numbers of submissions: R-2026-00042.
package numbering

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"
	"time"
)

// Pattern is words with {n} for the running number, {n:5} for at least five digits, and
// {year} for the year of receipt. With {year} the numbers restart each year.
type Pattern string

var parts = regexp.MustCompile(`\{(?:year|n(?::([1-9]))?)\}`)

// Usual is a pattern that begins with the first letters of an intake's name.
func Usual(name string) Pattern {
	var initials strings.Builder
	for _, word := range strings.Fields(strings.ToUpper(name)) {
		if c := word[0]; c >= 'A' && c <= 'Z' && initials.Len() < 3 {
			initials.WriteByte(c)
		}
	}
	if initials.Len() == 0 {
		initials.WriteByte('N')
	}
	return Pattern(initials.String() + "-{year}-{n:5}")
}

// Problem is the code of the finding about what is wrong with the pattern, or nothing.
func (p Pattern) Problem() string {
	switch {
	case !strings.Contains(string(p), "{n"):
		return "numbering.no-count"
	case strings.ContainsAny(parts.ReplaceAllString(string(p), ""), "{}"):
		return "numbering.other-braces"
	case len(p) > 60:
		return "numbering.too-long"
	}
	return ""
}

// Series names the counter that a time belongs to; numbers run without gaps in each.
func (p Pattern) Series(t time.Time) string {
	if strings.Contains(string(p), "{year}") {
		return strconv.Itoa(t.Year())
	}
	return "all"
}

// Number writes the n-th number of the series at a time in the house's zone.
func (p Pattern) Number(n int64, t time.Time) string {
	return parts.ReplaceAllStringFunc(string(p), func(part string) string {
		if part == "{year}" {
			return strconv.Itoa(t.Year())
		}
		digits := 1
		if m := parts.FindStringSubmatch(part); m[1] != "" {
			digits = int(m[1][0] - '0')
		}
		return fmt.Sprintf("%0*d", digits, n)
	})
}
