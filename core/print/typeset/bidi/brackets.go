package bidi

import (
	"slices"

	unicode "golang.org/x/text/unicode/bidi"
)

// alike maps brackets to those that are canonically the same (BD16).
func alike(r rune) rune {
	switch r {
	case 0x2329:
		return 0x3008
	case 0x232A:
		return 0x3009
	}
	return r
}

// pairs finds the bracket pairs of the sequence, in the order of their openers.
func (s *sequence) pairs() [][2]int {
	type opener struct {
		closes rune
		at     int
	}
	var open []opener
	var out [][2]int
	for k, i := range s.at {
		if s.class(k) != unicode.ON {
			continue
		}
		p, _ := unicode.LookupRune(s.text[i])
		switch {
		case !p.IsBracket():
		case p.IsOpeningBracket():
			if len(open) == mostOpen {
				return nil
			}
			closes := []rune(unicode.ReverseString(string(alike(s.text[i]))))
			open = append(open, opener{closes[0], k})
		default:
			for j := len(open) - 1; j >= 0; j-- {
				if open[j].closes == alike(s.text[i]) {
					out = append(out, [2]int{open[j].at, k})
					open = open[:j]
					break
				}
			}
		}
	}
	slices.SortFunc(out, func(a, b [2]int) int { return a[0] - b[0] })
	return out
}

// brackets gives both brackets of a pair one direction (rule N0).
func (s *sequence) brackets() {
	e := direction(s.level)
	for _, pair := range s.pairs() {
		found := unicode.ON
		for k := pair[0] + 1; k < pair[1] && found != e; k++ {
			if c := strong(s.class(k)); c != unicode.ON {
				found = c
			}
		}
		if found == unicode.ON {
			continue
		}
		if found != e {
			context := s.sos
			for k := pair[0] - 1; k >= 0; k-- {
				if c := strong(s.class(k)); c != unicode.ON {
					context = c
					break
				}
			}
			if context != found {
				found = e
			}
		}
		for _, k := range pair {
			s.set(k, k+1, found)
			for k++; k < len(s.at) && s.origin[s.at[k]] == unicode.NSM; k++ {
				s.set(k, k+1, found)
			}
		}
	}
}
