// Package filing says under which path a document is filed: its design, its checks, and
// the safe path for one submission. It writes no file.
package filing

import (
	"fmt"
	"path"
	"regexp"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"amberseal/core/ask/form"
	"amberseal/core/destination"
	"amberseal/core/enclosure"
	"amberseal/core/words/finding"
	"amberseal/core/words/phrase"

	"golang.org/x/text/unicode/norm"
)

// Filing is one rule of an intake: what goes where, under a path.
type Filing struct {
	Key   string                `json:"key"`
	Name  string                `json:"name"`
	When  string                `json:"when,omitempty"` // formula; filed always when empty
	What  []enclosure.Enclosure `json:"what"`
	To    []string              `json:"to,omitempty"` // keys of the house's destinations; its cabinet when empty
	Path  phrase.Phrase         `json:"path"`         // folders parted by /, without .pdf
	Taken Taken                 `json:"taken,omitempty"`
}

// Taken is what is done where a name is taken; a number is put behind it when empty.
type Taken string

// What can be done.
const (
	Number  Taken = "number"
	Version Taken = "version" // the destination keeps both under one name
	Replace Taken = "replace"
)

// Destinations are the keys of those that the rule files to.
func (x Filing) Destinations() []string {
	if len(x.To) == 0 {
		return []string{destination.Cabinet}
	}
	return x.To
}

// Usual files a document by intake and year.
func Usual(document string) []Filing {
	return []Filing{{
		Key: "cabinet", Name: "Cabinet", What: enclosure.Of(document),
		Path: phrase.Parse("{{@intake}}/{{@year}}/{{@number}}"),
	}}
}

// Check finds what is wrong with the rule. Places begin with filings/KEY.
func (x Filing) Check(f form.Form, documents []string) finding.List {
	var l finding.List
	place := "filings/" + x.Key
	l = append(l, phrase.CheckCondition(place, x.When, phrase.Scope{Form: f})...)
	if len(x.Path) == 0 {
		l.Fault(place+"/path", "filing.no-path", "example", "{{@year}}/{{@number}}")
	}
	l = append(l, x.Path.Check(place+"/path", phrase.Scope{Form: f})...)
	l = append(l, enclosure.Check(place+"/what", x.What, enclosure.Scope{Form: f, Documents: documents})...)
	if slices.ContainsFunc(x.What, func(e enclosure.Enclosure) bool { return e.Link != nil }) {
		l.Fault(place+"/what", "filing.files-are-no-links")
	}
	if !slices.Contains([]Taken{"", Number, Version, Replace}, x.Taken) {
		l.Fault(place+"/taken", "filing.unknown-taken", "taken", string(x.Taken))
	}
	if len(slices.Compact(slices.Sorted(slices.Values(x.To)))) < len(x.To) {
		l.Fault(place+"/to", "filing.destination-twice")
	}
	if len(x.What) == 0 {
		l.Fault(place+"/what", "filing.files-nothing")
	}
	if !slices.ContainsFunc(x.Path, func(s phrase.Span) bool { return s.Field == "@number" }) {
		l.Notice(place+"/path", "filing.path-without-number")
	}
	return l
}

// Longest names in bytes: 255 is what common file systems take; some room is left for a
// count and the ending.
const (
	maxName  = 200
	maxWhole = 240 // of a file with its title and ending; a place puts a count behind it where the name is taken
	maxExt   = 20
	maxDepth = 12
)

// Piece is one of the files that a rule files.
type Piece struct {
	Title string // by which it is told from others under the same path
	Ext   string // pdf, docx, or that of a file that was sent
}

// Paths are those of the pieces of one submission. The first has the rule's path; the others have their titles behind it.
func (x Filing) Paths(facts phrase.Facts, pieces []Piece) []string {
	stem := x.stem(facts)
	var out []string
	for i, p := range pieces {
		name, ext := stem, ""
		if i > 0 {
			name += " – " + Safe(strings.ReplaceAll(p.Title, "/", "-"))
		}
		if p.Ext != "" {
			ext = "." + Safe(p.Ext)
			ext = shortened(ext, maxExt)
		}
		try := fitted(name, ext)
		for n := 2; slices.ContainsFunc(out, func(o string) bool { return strings.EqualFold(o, try) }); n++ {
			try = fitted(name, fmt.Sprintf(" %d%s", n, ext))
		}
		out = append(out, try)
	}
	return out
}

// fitted is a path with something behind it, its last name cut so that the whole of that is no longer than a name may be.
func fitted(name, end string) string {
	folder, last := path.Split(name)
	if len(last)+len(end) > maxWhole {
		last = strings.TrimRight(shortened(last, maxWhole-len(end)), " .–")
	}
	return folder + last + end
}

// shortened is the beginning of a text, of so many bytes at most.
func shortened(s string, most int) string {
	for len(s) > most {
		_, n := utf8.DecodeLastRuneInString(s)
		s = s[:len(s)-n]
	}
	return s
}

// stem is the path for one submission without an ending. Slashes of the pattern part folders; an answer never does: what cannot stand
// in a name on common systems becomes a dash, and no part is empty, “.” or “..”.
func (x Filing) stem(facts phrase.Facts) string {
	var parts []string
	var part strings.Builder
	asked, nameless := false, false // whether the part has a placeholder; whether the last one with a placeholder came to nothing
	end := func() {
		if name := Safe(part.String()); name != "" && len(parts) < maxDepth {
			parts, nameless = append(parts, name), false
		} else if asked {
			nameless = true
		}
		part.Reset()
		asked = false
	}
	for _, s := range x.Path {
		if s.Field != "" {
			asked = true
			part.WriteString(strings.ReplaceAll(phrase.Phrase{s}.Plain(facts), "/", "-"))
			continue
		}
		for i, piece := range strings.Split(s.Text, "/") {
			if i > 0 {
				end()
			}
			part.WriteString(piece)
		}
	}
	end()
	if len(parts) == 0 || nameless { // the last folder must not become the file
		parts = append(parts, "document")
	}
	return strings.Join(parts, "/")
}

// reserved are names of DOS devices, which some systems refuse whatever their ending. Raised figures count as figures there.
var reserved = regexp.MustCompile(`^(CONIN\$|CONOUT\$|CON|PRN|AUX|NUL|COM[0-9]|LPT[0-9])$`)

// Safe makes one file or folder name of any text.
func Safe(s string) string {
	s = strings.Map(func(r rune) rune {
		switch {
		case strings.ContainsRune(`/\:*?"<>|`, r), r == utf8.RuneError:
			return '-'
		case unicode.IsControl(r), unicode.Is(unicode.Cf, r) && r != 0x200D:
			return -1
		case unicode.IsSpace(r):
			return ' '
		}
		return r
	}, norm.NFC.String(s)) // some systems write é as two signs: the same name must not make two folders
	s = strings.Join(strings.Fields(s), " ")
	s = strings.Trim(s, ". ")
	s = shortened(s, maxName)
	stem, _, _ := strings.Cut(s, ".")
	stem = strings.NewReplacer("¹", "1", "²", "2", "³", "3").Replace(strings.ToUpper(strings.TrimSpace(stem)))
	if reserved.MatchString(stem) {
		s = "-" + s
	}
	return strings.TrimRight(s, ". ")
}
