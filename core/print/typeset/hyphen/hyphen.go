// Package hyphen finds where words may be parted at a line's end.
//
// It is the algorithm of F. M. Liang, “Word Hy-phen-a-tion by Com-put-er” (Stanford, 1983), with the published patterns
// of the hyph-utf8 project for five languages. In goes a word and a language, out come the places of hyphens. All
// functions are safe for many goroutines; a language's patterns are read once, when first needed.
package hyphen

import (
	"embed"
	"strings"
	"sync"
	"unicode"
)

//go:embed patterns
var files embed.FS

// Hyphenator parts the words of one language.
type Hyphenator struct {
	patterns   map[string][]byte // letters (a point is a word's edge) → a level for each gap
	longest    int
	exceptions map[string][]int
	right      int // letters that stay together at a word's end
}

// left is how many letters stay together at a word's beginning, in all languages.
const left = 2

// shortest is how many letters a word has that is worth parting; common practice of printers.
const shortest = 5

var languages = map[string]func() *Hyphenator{
	"de": once("de", 2), "en-GB": once("en-gb", 3), "en-US": once("en-us", 3), "fr": once("fr", 3), "es": once("es", 2),
	"pl": once("pl", 2),
}

func once(file string, right int) func() *Hyphenator {
	return sync.OnceValue(func() *Hyphenator { return read(file, right) })
}

// For gives the hyphenator of a BCP 47 language, or nil for a language without patterns.
func For(language string) *Hyphenator {
	make, ok := languages[language]
	if !ok {
		base, _, _ := strings.Cut(language, "-")
		if base == "en" {
			base = "en-GB"
		}
		if make, ok = languages[base]; !ok {
			return nil
		}
	}
	return make()
}

// read takes the patterns of a language, one a line; a line that begins with = is an exception. A file that is not there
// is a mistake in the build.
func read(file string, right int) *Hyphenator {
	data, err := files.ReadFile("patterns/" + file + ".txt")
	if err != nil {
		panic(err)
	}
	h := &Hyphenator{patterns: map[string][]byte{}, exceptions: map[string][]int{}, right: right}
	for line := range strings.Lines(string(data)) {
		line = strings.TrimSpace(line)
		if word, ok := strings.CutPrefix(line, "="); ok {
			h.except(word)
			continue
		}
		var letters []rune
		levels := []byte{0}
		for _, r := range line {
			if r >= '0' && r <= '9' {
				levels[len(levels)-1] = byte(r - '0')
				continue
			}
			letters = append(letters, r)
			levels = append(levels, 0)
		}
		h.patterns[string(letters)] = levels
		h.longest = max(h.longest, len(letters))
	}
	return h
}

func (h *Hyphenator) except(word string) {
	var points []int
	n := 0
	for _, r := range word {
		if r == '-' {
			points = append(points, n)
			continue
		}
		n++
	}
	h.exceptions[strings.ReplaceAll(word, "-", "")] = points
}

// Points gives the letters before which a hyphen may stand, counted from 0. The word has letters only; its case is of no
// matter.
func (h *Hyphenator) Points(word []rune) []int {
	if len(word) < shortest {
		return nil
	}
	edged := make([]rune, 0, len(word)+2)
	edged = append(edged, '.')
	for _, r := range word {
		edged = append(edged, unicode.ToLower(r))
	}
	edged = append(edged, '.')
	if points, ok := h.exceptions[string(edged[1:len(edged)-1])]; ok {
		return points
	}
	levels := make([]byte, len(edged)+1)
	for from := range edged {
		for to := from + 1; to <= min(from+h.longest, len(edged)); to++ {
			for i, l := range h.patterns[string(edged[from:to])] {
				levels[from+i] = max(levels[from+i], l)
			}
		}
	}
	var points []int
	for i := left; i <= len(word)-h.right; i++ {
		if levels[i+1]%2 == 1 {
			points = append(points, i)
		}
	}
	return points
}
