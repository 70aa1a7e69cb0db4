// Package bidi finds in which order the characters of a line stand when some run to the left and some to the right.
//
// In go runes, out come embedding levels (UAX #9, version 15 of Unicode's properties), and from levels the visual order.
// golang.org/x/text/unicode/bidi, which gives the properties, and the shaping library know directions only: a number in
// Hebrew words in an English line has level 2, and without the level it is set on the wrong side. Pure functions, safe
// for many goroutines.
package bidi

import (
	"slices"

	unicode "golang.org/x/text/unicode/bidi"
)

// Level is how deep text is embedded: even levels run to the right, odd ones to the left.
type Level uint8

// deepest is max_depth of BD2.
const deepest Level = 125

// resolver is one paragraph at work.
type resolver struct {
	text    []rune
	base    Level
	classes []unicode.Class // as rules change them
	origin  []unicode.Class
	levels  []Level
	pdi     []int // of isolate initiators: the matching PDI, or the text's length
	opens   []int // of PDIs: the matching initiator, or -1
}

// Base is the level of a paragraph: that of its first strong character outside isolates, 0 when it has none (rules P2, P3).
func Base(text []rune) Level {
	deep := 0
	for _, r := range text {
		switch class(r) {
		case unicode.LRI, unicode.RLI, unicode.FSI:
			deep++
		case unicode.PDI:
			deep = max(deep-1, 0)
		case unicode.L:
			if deep == 0 {
				return 0
			}
		case unicode.R, unicode.AL:
			if deep == 0 {
				return 1
			}
		}
	}
	return 0
}

func class(r rune) unicode.Class {
	p, _ := unicode.LookupRune(r)
	return p.Class()
}

// Levels resolves the level of each character of one line's text in a paragraph of a base level: rules X1 to I2, and L1 for the
// whole text.
func Levels(text []rune, base Level) []Level {
	n := len(text)
	r := &resolver{
		text:    text,
		base:    base,
		classes: make([]unicode.Class, n),
		levels:  make([]Level, n),
		pdi:     make([]int, n),
		opens:   make([]int, n),
	}
	for i, c := range text {
		r.classes[i] = class(c)
	}
	r.origin = slices.Clone(r.classes)
	r.matchIsolates()
	r.explicit()
	for _, s := range r.sequences() {
		s.weak()
		s.brackets()
		s.neutral()
		s.implicit()
	}
	r.finish()
	return r.levels
}

func isolates(c unicode.Class) bool {
	return c == unicode.LRI || c == unicode.RLI || c == unicode.FSI
}

// removed reports whether a character takes no part in what follows (rule X9).
func removed(c unicode.Class) bool {
	switch c {
	case unicode.LRE, unicode.RLE, unicode.LRO, unicode.RLO, unicode.PDF, unicode.BN:
		return true
	}
	return false
}

// matchIsolates pairs isolate initiators with their ends (BD9).
func (r *resolver) matchIsolates() {
	var open []int
	for i, c := range r.origin {
		r.pdi[i], r.opens[i] = -1, -1
		switch {
		case isolates(c):
			r.pdi[i] = len(r.text)
			open = append(open, i)
		case c == unicode.PDI && len(open) > 0:
			last := open[len(open)-1]
			r.pdi[last], r.opens[i] = i, last
			open = open[:len(open)-1]
		}
	}
}

// status is an entry of the directional status stack.
type status struct {
	level    Level
	override unicode.Class // L, R, or ON for none
	isolate  bool
}

// explicit gives the levels that embeddings, overrides and isolates ask for (rules X1 to X8).
func (r *resolver) explicit() {
	stack := []status{{r.base, unicode.ON, false}}
	lost, lostIsolates, isolated := 0, 0, 0
	next := func(odd bool) Level {
		l := stack[len(stack)-1].level + 1
		if (l%2 == 1) != odd {
			l++
		}
		return l
	}
	for i, c := range r.origin {
		top := stack[len(stack)-1]
		set := func(s status) {
			r.levels[i] = s.level
			if s.override != unicode.ON {
				r.classes[i] = s.override
			}
		}
		switch c {
		case unicode.LRE, unicode.RLE, unicode.LRO, unicode.RLO:
			r.levels[i] = top.level
			l := next(c == unicode.RLE || c == unicode.RLO)
			switch {
			case l <= deepest && lost == 0 && lostIsolates == 0:
				stack = append(
					stack,
					status{
						l,
						map[unicode.Class]unicode.Class{unicode.LRO: unicode.L, unicode.RLO: unicode.R, unicode.LRE: unicode.ON,
							unicode.RLE: unicode.ON}[c],
						false,
					},
				)
			case lostIsolates == 0:
				lost++
			}
		case unicode.LRI, unicode.RLI, unicode.FSI:
			set(top)
			left := c == unicode.RLI || c == unicode.FSI && Base(r.text[i+1:r.pdi[i]]) == 1
			if l := next(left); l <= deepest && lost == 0 && lostIsolates == 0 {
				isolated++
				stack = append(stack, status{l, unicode.ON, true})
			} else {
				lostIsolates++
			}
		case unicode.PDI:
			switch {
			case lostIsolates > 0:
				lostIsolates--
			case isolated > 0:
				lost = 0
				for !stack[len(stack)-1].isolate {
					stack = stack[:len(stack)-1]
				}
				stack = stack[:len(stack)-1]
				isolated--
			}
			set(stack[len(stack)-1])
		case unicode.PDF:
			r.levels[i] = top.level
			switch {
			case lostIsolates > 0:
			case lost > 0:
				lost--
			case !top.isolate && len(stack) > 1:
				stack = stack[:len(stack)-1]
			}
		case unicode.B:
			r.levels[i] = r.base
		case unicode.BN:
			r.levels[i] = top.level
		default:
			set(top)
		}
	}
}

// sequence is an isolating run sequence (BD13): the places of its characters, the classes at its ends.
type sequence struct {
	*resolver
	at       []int
	sos, eos unicode.Class
	level    Level
}

// sequences parts the text into isolating run sequences (rule X10).
func (r *resolver) sequences() []*sequence {
	var runs [][]int
	runOf := make([]int, len(r.text))
	for i, c := range r.origin {
		if removed(c) {
			continue
		}
		if k := len(runs) - 1; k >= 0 && r.levels[runs[k][0]] == r.levels[i] {
			runs[k] = append(runs[k], i)
		} else {
			runs = append(runs, []int{i})
		}
		runOf[i] = len(runs) - 1
	}
	var out []*sequence
	for _, run := range runs {
		if first := run[0]; r.origin[first] == unicode.PDI && r.opens[first] >= 0 {
			continue // it goes on from a run before
		}
		s := &sequence{resolver: r, at: slices.Clone(run), level: r.levels[run[0]]}
		for {
			last := s.at[len(s.at)-1]
			if !isolates(r.origin[last]) || r.pdi[last] >= len(r.text) {
				break
			}
			s.at = append(s.at, runs[runOf[r.pdi[last]]]...)
		}
		first, last := s.at[0], s.at[len(s.at)-1]
		before, after := r.base, r.base
		for i := first - 1; i >= 0; i-- {
			if !removed(r.origin[i]) {
				before = r.levels[i]
				break
			}
		}
		if !isolates(r.origin[last]) {
			for i := last + 1; i < len(r.text); i++ {
				if !removed(r.origin[i]) {
					after = r.levels[i]
					break
				}
			}
		}
		s.sos, s.eos = direction(max(s.level, before)), direction(max(s.level, after))
		out = append(out, s)
	}
	return out
}

func direction(l Level) unicode.Class {
	if l%2 == 1 {
		return unicode.R
	}
	return unicode.L
}

func (s *sequence) class(k int) unicode.Class { return s.classes[s.at[k]] }

func (s *sequence) set(from, to int, c unicode.Class) {
	for k := from; k < to; k++ {
		s.classes[s.at[k]] = c
	}
}

// weak resolves numbers and the signs beside them (rules W1 to W7).
func (s *sequence) weak() {
	n := len(s.at)
	before := s.sos
	for k := range n { // W1
		c := s.class(k)
		if c == unicode.NSM {
			c = before
			s.set(k, k+1, c)
		}
		if before = c; isolates(c) || c == unicode.PDI {
			before = unicode.ON
		}
	}
	strong := s.sos
	for k := range n { // W2, W3
		switch s.class(k) {
		case unicode.L, unicode.R, unicode.AL:
			strong = s.class(k)
		case unicode.EN:
			if strong == unicode.AL {
				s.set(k, k+1, unicode.AN)
			}
		}
	}
	for k := range n {
		if s.class(k) == unicode.AL {
			s.set(k, k+1, unicode.R)
		}
	}
	for k := 1; k+1 < n; k++ { // W4
		a, c, b := s.class(k-1), s.class(k), s.class(k+1)
		if a == b && (c == unicode.CS && (a == unicode.EN || a == unicode.AN) || c == unicode.ES && a == unicode.EN) {
			s.set(k, k+1, a)
		}
	}
	for k := 0; k < n; k++ { // W5
		end := k
		for end < n && s.class(end) == unicode.ET {
			end++
		}
		if end > k && (k > 0 && s.class(k-1) == unicode.EN || end < n && s.class(end) == unicode.EN) {
			s.set(k, end, unicode.EN)
		}
		k = max(k, end-1)
	}
	strong = s.sos
	for k := range n { // W6, W7
		switch c := s.class(k); c {
		case unicode.ES, unicode.ET, unicode.CS:
			s.set(k, k+1, unicode.ON)
		case unicode.L, unicode.R:
			strong = c
		case unicode.EN:
			if strong == unicode.L {
				s.set(k, k+1, unicode.L)
			}
		}
	}
}

// strong is the direction of a class for rules N0 to N2, where numbers count as running to the left; ON for none.
func strong(c unicode.Class) unicode.Class {
	switch c {
	case unicode.L:
		return unicode.L
	case unicode.R, unicode.EN, unicode.AN:
		return unicode.R
	}
	return unicode.ON
}

// mostOpen is how many brackets may be open at once (BD16).
const mostOpen = 63

// neutral gives what has no direction that of its surroundings (rules N1, N2).
func (s *sequence) neutral() {
	for k := 0; k < len(s.at); k++ {
		end := k
		for end < len(s.at) && strong(s.class(end)) == unicode.ON {
			end++
		}
		if end == k {
			continue
		}
		before, after := s.sos, s.eos
		if k > 0 {
			before = strong(s.class(k - 1))
		}
		if end < len(s.at) {
			after = strong(s.class(end))
		}
		if before != after {
			before = direction(s.level)
		}
		s.set(k, end, before)
		k = end
	}
}

// implicit raises levels by class (rules I1, I2).
func (s *sequence) implicit() {
	for k, i := range s.at {
		switch c := s.class(k); {
		case s.level%2 == 0 && c == unicode.R, s.level%2 == 1 && c != unicode.R:
			s.levels[i] = s.level + 1
		case s.level%2 == 0 && c != unicode.L:
			s.levels[i] = s.level + 2
		}
	}
}

// finish gives characters that took no part the level of those before them, and separators and the spaces before them and at
// the end that of the paragraph (rule L1).
func (r *resolver) finish() {
	before := r.base
	for i, c := range r.origin {
		if removed(c) {
			r.levels[i] = before
		}
		before = r.levels[i]
	}
	reset := true
	for i := len(r.text) - 1; i >= 0; i-- {
		switch c := r.origin[i]; {
		case c == unicode.B || c == unicode.S:
			reset = true
		case c == unicode.WS || isolates(c) || c == unicode.PDI || removed(c):
		default:
			reset = false
		}
		if reset {
			r.levels[i] = r.base
		}
	}
}

// Order puts things that have levels in the order in which they stand from left to right (rule L2).
func Order[T any](list []T, level func(T) Level) {
	highest, lowest := Level(0), deepest
	for _, x := range list {
		l := level(x)
		highest = max(highest, l)
		if l%2 == 1 {
			lowest = min(lowest, l)
		}
	}
	// Levels go with the things, so that they are read once, before anything moves.
	levels := make([]Level, len(list))
	for i, x := range list {
		levels[i] = level(x)
	}
	for l := highest; l >= lowest && l > 0; l-- {
		for from := 0; from < len(list); from++ {
			to := from
			for to < len(list) && levels[to] >= l {
				to++
			}
			slices.Reverse(list[from:to])
			slices.Reverse(levels[from:to])
			from = max(from, to)
		}
	}
}
