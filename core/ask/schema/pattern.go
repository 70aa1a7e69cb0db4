package schema

import (
	"fmt"
	"regexp/syntax"
	"strings"
	"unicode"

	"amberseal/core/ask/form"
)

// ecma writes a pattern of the form's (RE2) as ECMA-262 reads it with its u flag, which JSON Schema asks for (core, 6.4): flags
// become sets of letters, named sets become ranges, and nothing is escaped that need not be. ok is false for what has no equal.
func ecma(pattern string) (out string, ok bool) {
	tree, err := syntax.Parse(pattern, syntax.Perl)
	if err != nil {
		return "", false
	}
	var b strings.Builder
	ok = writePattern(&b, tree)
	return b.String(), ok
}

func writePattern(b *strings.Builder, n *syntax.Regexp) bool {
	switch n.Op {
	case syntax.OpEmptyMatch:
	case syntax.OpLiteral:
		for _, r := range n.Rune {
			writeLetter(b, r, n.Flags&syntax.FoldCase != 0)
		}
	case syntax.OpCharClass:
		writeClass(b, n.Rune)
	case syntax.OpAnyChar:
		b.WriteString(`[\s\S]`)
	case syntax.OpAnyCharNotNL:
		b.WriteString(`[^\n]`)
	case syntax.OpBeginText:
		b.WriteByte('^')
	case syntax.OpEndText:
		b.WriteByte('$')
	case syntax.OpWordBoundary:
		b.WriteString(`\b`)
	case syntax.OpNoWordBoundary:
		b.WriteString(`\B`)
	case syntax.OpCapture:
		return writeGroup(b, n.Sub[0])
	case syntax.OpConcat:
		for _, s := range n.Sub {
			if s.Op == syntax.OpAlternate && !writeGroup(b, s) || s.Op != syntax.OpAlternate && !writePattern(b, s) {
				return false
			}
		}
	case syntax.OpAlternate:
		for i, s := range n.Sub {
			if i > 0 {
				b.WriteByte('|')
			}
			if !writePattern(b, s) {
				return false
			}
		}
	case syntax.OpStar, syntax.OpPlus, syntax.OpQuest, syntax.OpRepeat:
		if !writeGroup(b, n.Sub[0]) {
			return false
		}
		switch {
		case n.Op == syntax.OpStar:
			b.WriteByte('*')
		case n.Op == syntax.OpPlus:
			b.WriteByte('+')
		case n.Op == syntax.OpQuest:
			b.WriteByte('?')
		case n.Max == n.Min:
			fmt.Fprintf(b, "{%d}", n.Min)
		case n.Max < 0:
			fmt.Fprintf(b, "{%d,}", n.Min)
		default:
			fmt.Fprintf(b, "{%d,%d}", n.Min, n.Max)
		}
		if n.Flags&syntax.NonGreedy != 0 {
			b.WriteByte('?')
		}
	default:
		return false // line ends inside a text, and what never matches
	}
	return true
}

// writeGroup puts brackets around what is more than one letter or set.
func writeGroup(b *strings.Builder, n *syntax.Regexp) bool {
	if n.Op == syntax.OpCharClass || n.Op == syntax.OpLiteral && len(n.Rune) == 1 || n.Op == syntax.OpAnyChar ||
		n.Op == syntax.OpAnyCharNotNL {
		return writePattern(b, n)
	}
	b.WriteString("(?:")
	ok := writePattern(b, n)
	b.WriteByte(')')
	return ok
}

func writeLetter(b *strings.Builder, r rune, fold bool) {
	if other := unicode.SimpleFold(r); fold && other != r {
		set := []rune{r, r}
		for ; other != r; other = unicode.SimpleFold(other) {
			set = append(set, other, other)
		}
		writeClass(b, set)
		return
	}
	writeRune(b, r, `\^$.*+?()[]{}|/`)
}

func writeClass(b *strings.Builder, ranges []rune) {
	b.WriteByte('[')
	for i := 0; i < len(ranges); i += 2 {
		writeRune(b, ranges[i], `\]^-[`)
		if ranges[i+1] > ranges[i] {
			b.WriteByte('-')
			writeRune(b, ranges[i+1], `\]^-[`)
		}
	}
	b.WriteByte(']')
}

func writeRune(b *strings.Builder, r rune, special string) {
	switch {
	case r < ' ' || r == 0x7F || r >= 0xD800 && r <= 0xDFFF || r > 0xFFFF:
		fmt.Fprintf(b, `\u{%x}`, r)
	case strings.ContainsRune(special, r):
		b.WriteByte('\\')
		b.WriteRune(r)
	default:
		b.WriteRune(r)
	}
}

// masked is a field's mask as a pattern.
func masked(mask string) string {
	var b strings.Builder
	b.WriteByte('^')
	for _, r := range mask {
		switch r {
		case '#':
			b.WriteString("[0-9]")
		case 'A':
			b.WriteString(`\p{L}`)
		case '*':
			b.WriteString(`[0-9\p{L}]`)
		default:
			writeLetter(&b, r, false)
		}
	}
	b.WriteByte('$')
	return b.String()
}

// settings are what the schema itself has no words for; they stand in its comment behind the kind.
type settings struct {
	Mask     string `json:"mask,omitempty"`
	Pattern  string `json:"pattern,omitempty"`
	Currency string `json:"currency,omitempty"`
	Step     string `json:"step,omitempty"`
	Shortest int    `json:"shortest,omitempty"`
}

func settingsOf(x form.Field) settings {
	return settings{x.Mask, x.Pattern, x.Currency, x.Step, x.Shortest}
}

func (s settings) give(x *form.Field) {
	x.Mask, x.Pattern, x.Currency, x.Step, x.Shortest = s.Mask, s.Pattern, s.Currency, s.Step, s.Shortest
}
