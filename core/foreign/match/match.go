// Package match finds which field of a form is meant by a name that somebody has written into a document of their own.
package match

import (
	"bytes"
	"encoding/json"
	"regexp"
	"strings"
	"unicode"

	"golang.org/x/text/cases"
	"golang.org/x/text/language"

	"amberseal/core/ask/form"
	"amberseal/core/ask/formula"
	"amberseal/core/words/finding"
	"amberseal/core/words/phrase"
)

// Match is what stands for a placeholder: words with fields in them, or a formula. In a file it may also be a string: the name of a field
// ("day|short"), a formula after “=” ("=deposit * 2"), or words with fields in double braces ("{{given}} {{family}}").
type Match struct {
	Words   phrase.Phrase `json:"words,omitempty"`
	Formula string        `json:"formula,omitempty"`
	Format  string        `json:"format,omitempty"` // of the formula: “money” or one of a number’s or day’s; “upper” of words
}

// As is the match in a format that the document asks for.
func (m Match) As(format string) Match {
	if m.Formula == "" && len(m.Words) == 1 && m.Words[0].Field != "" && format != "upper" {
		m.Words = phrase.Phrase{m.Words[0]}
		m.Words[0].Format = format
		return m
	}
	m.Format = format
	return m
}

var field = regexp.MustCompile(`^\s*(@?[a-z][a-z0-9_]*(?:\.[a-z][a-z0-9_]*)*)\s*(?:\|\s*([a-z]+|[^{}|]*/[^{}|]*?)\s*)?$`)

// Read reads a match as it is written in a string.
func Read(s string) Match {
	if src, ok := strings.CutPrefix(strings.TrimSpace(s), "="); ok {
		return Match{Formula: strings.TrimSpace(src)}
	}
	if m := field.FindStringSubmatch(s); m != nil {
		return Match{Words: phrase.Phrase{{Field: m[1], Format: m[2]}}}
	}
	return Match{Words: phrase.Parse(s)}
}

// UnmarshalJSON reads the object, or a string.
func (m *Match) UnmarshalJSON(data []byte) error {
	if len(data) > 0 && data[0] == '"' {
		var s string
		if err := json.Unmarshal(data, &s); err != nil {
			return err
		}
		*m = Read(s)
		return nil
	}
	type plain Match
	dec := json.NewDecoder(bytes.NewReader(data))
	dec.DisallowUnknownFields()
	return dec.Decode((*plain)(m))
}

// String is the match as it may be written in a file: the name of a field, a formula after “=”, or words.
func (m Match) String() string {
	if m.Formula != "" {
		return "=" + m.Formula
	}
	if key := m.Field(); key != "" && m.Words[0].Format == "" {
		return key
	}
	var b strings.Builder
	for _, s := range m.Words {
		switch {
		case s.Field == "":
			b.WriteString(s.Text)
		case s.Format != "":
			b.WriteString("{{" + s.Field + "|" + s.Format + "}}")
		default:
			b.WriteString("{{" + s.Field + "}}")
		}
	}
	return b.String()
}

// Field is the only field that the match speaks of, or empty.
func (m Match) Field() string {
	if m.Formula != "" || len(m.Words) != 1 {
		return ""
	}
	return m.Words[0].Field
}

// Fields are the names that the match speaks of.
func (m Match) Fields() []string {
	var out []string
	for _, s := range m.Words {
		if s.Field != "" {
			out = append(out, s.Field)
		}
	}
	if tree, err := formula.Parse(m.Formula); m.Formula != "" && err == nil {
		for _, r := range tree.References() {
			out = append(out, r.Name)
		}
	}
	return out
}

// Text is what stands there, and whether there is a field for all that it speaks of.
func (m Match) Text(f phrase.Facts) (string, bool) {
	if m.Formula != "" {
		return f.Formula(m.Formula, m.Format), true
	}
	var b strings.Builder
	ok := true
	for _, r := range m.Words.Bind(f) {
		ok = ok && !r.Unknown
		b.WriteString(r.Text)
	}
	if m.Format == "upper" {
		return cases.Upper(language.Make(f.House.Language)).String(b.String()), ok
	}
	return b.String(), ok
}

// Check finds what is wrong with a match.
func (m Match) Check(place string, scope phrase.Scope) finding.List {
	l := m.Words.Check(place, scope)
	if m.Formula != "" {
		for _, f := range scope.Form.CheckFormula(m.Formula, scope.Rows) {
			f.Place = place
			l = append(l, f)
		}
	}
	return l
}

// How says why a name got its field.
type How string

// The reasons, the surest first. None is that of a name without a match. A near label is offered and stands for nothing until somebody
// chooses it: one word more, less or other may turn what is meant round.
const (
	Chosen    How = "chosen" // by hand
	Given     How = "given"  // a word with @
	SameKey   How = "same key"
	SameLabel How = "same label"
	NearLabel How = "nearly the same label"
	None      How = ""
)

// Names finds fields by the names that documents use. It is safe for many goroutines.
type Names struct {
	form   form.Form
	chosen map[string]Match // by plain name
	exact  map[string]string
	keys   map[string][]string // by plain name
	labels map[string][]string
	words  []string // plain labels, for what is nearly one of them
}

// For readies the names of a form; chosen are the matches that somebody made by hand, by the names in the document.
func For(f form.Form, chosen map[string]Match) *Names {
	n := &Names{f, map[string]Match{}, map[string]string{}, map[string][]string{}, map[string][]string{}, nil}
	for name, m := range chosen {
		n.chosen[Plain(name)] = m
	}
	for _, g := range phrase.Givens() {
		n.exact[g.Name] = g.Name
		n.keys[Plain(g.Name)] = append(n.keys[Plain(g.Name)], g.Name)
	}
	for _, c := range f.Constants {
		n.exact[c.Key] = c.Key
		n.keys[Plain(c.Key)] = append(n.keys[Plain(c.Key)], c.Key)
	}
	f.Each(func(name string, x form.Field) {
		if !x.Answered() {
			return
		}
		n.exact[name] = name
		n.keys[Plain(name)] = append(n.keys[Plain(name)], name)
		if i := strings.LastIndexByte(name, '.'); i >= 0 {
			n.keys[Plain(name[i+1:])] = append(n.keys[Plain(name[i+1:])], name)
		}
		if label := Plain(x.Label); label != "" {
			n.labels[label] = append(n.labels[label], name)
			n.words = append(n.words, label)
		}
	})
	return n
}

// Plain is a name without what does not matter in it: letters' case, spaces and punctuation.
func Plain(s string) string {
	return strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) || unicode.IsDigit(r) || unicode.IsMark(r) {
			return unicode.ToLower(r)
		}
		return -1
	}, s)
}

// Find is what a name stands for, and why. Without a match it is nothing.
func (n *Names) Find(name string) (Match, How) {
	plain := Plain(name)
	m, ok := n.chosen[plain]
	if !ok {
		return n.itself(name, plain)
	}
	// What was kept of a match that the name itself gives is not called chosen.
	if field := m.Field(); field != "" && m.Words[0] == (phrase.Span{Field: field}) {
		if by, how := n.itself(name, plain); by.Field() == field {
			return m, how
		}
	}
	return m, Chosen
}

// Itself is what a name stands for by itself, whatever was chosen.
func (n *Names) Itself(name string) (Match, How) { return n.itself(name, Plain(name)) }

func (n *Names) itself(name, plain string) (Match, How) {
	if key, ok := n.exact[strings.TrimSpace(name)]; ok {
		return only(key, name)
	}
	if plain == "" || Calculates(name) {
		return Match{}, None
	}
	if all := n.keys[plain]; len(all) == 1 {
		return only(all[0], name)
	}
	if all := n.labels[plain]; len(all) == 1 {
		return Match{Words: phrase.Phrase{{Field: all[0]}}}, SameLabel
	}
	return Match{}, None
}

// Nearly is what a name without a match may have been meant to be, for people to choose.
func (n *Names) Nearly(name string) (Match, bool) {
	plain := Plain(name)
	if len(n.keys[plain])+len(n.labels[plain]) > 1 || len(plain) < 4 || strings.HasPrefix(strings.TrimSpace(name), "@") ||
		Calculates(name) {
		return Match{}, false
	}
	if near := formula.Nearest(plain, n.words); near != "" && len(n.labels[near]) == 1 {
		return Match{Words: phrase.Phrase{{Field: n.labels[near][0]}}}, true
	}
	return Match{}, false
}

var calculating = regexp.MustCompile(`^\s*[=+\-−]|[*=<>^]|[+\-−/%]\s*\d|\d\s*[+\-−/%]|%\s*$|\s[+\-−/]\s`)

// Calculates reports whether a name looks like a formula: it stands for no question, whatever is left of it without its signs.
func Calculates(name string) bool { return calculating.MatchString(name) }

// Left reports whether a match says, on purpose, that what stands there stays.
func (m Match) Left() bool { return m.Formula == "" && len(m.Words) == 0 }

func only(key, name string) (Match, How) {
	how := SameKey
	if strings.HasPrefix(key, "@") {
		if !strings.HasPrefix(strings.TrimSpace(name), "@") {
			return Match{}, None // “number” alone may be a question that is still to be asked
		}
		how = Given
	}
	return Match{Words: phrase.Phrase{{Field: key}}}, how
}

// Group is the repeating group of which the names speak, or empty: a row of a document that names its fields is repeated for it.
func (n *Names) Group(names []string) string {
	for _, name := range names {
		m, _ := n.Find(name)
		if rows := n.form.RowsOf(m.Fields()); rows != "" {
			return rows
		}
	}
	return ""
}
