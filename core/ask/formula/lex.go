package formula

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"amberseal/core/words/finding"
)

// Limits on a formula's source, so that checking one always ends quickly.
const (
	MaxLength = 4_096
	MaxDepth  = 64
	MaxText   = 50_000 // bytes of a text that a formula makes: texts joined again and again double each time
)

// Error is a fault in a formula at a column, counted in characters from 1.
type Error struct {
	Column int
	Said   finding.Finding // without a place
}

func (e *Error) Error() string {
	first, rest, _ := strings.Cut(e.Said.Message, " ")
	return strings.ToLower(first) + " " + strings.TrimSuffix(rest, ".")
}

type tokenKind int

const (
	tokenEnd tokenKind = iota
	tokenNumber
	tokenText
	tokenName
	tokenSign
)

type token struct {
	kind tokenKind
	text string // the number, the name, the sign, or the text without its quotes
	span Span
}

// lex splits the source into tokens. Text stands in double quotes; a doubled quote
// inside is one quote.
func lex(src string) ([]token, error) {
	if len(src) > MaxLength && utf8.RuneCountInString(src) > MaxLength {
		return nil, errorAt(src, len(src), "formula.too-long", "most", MaxLength)
	}
	var out []token
	for i := 0; i < len(src); {
		c := src[i]
		start := i
		switch {
		case spaceAt(src[i:]) > 0:
			i += spaceAt(src[i:])
			continue
		case isDigit(c):
			for i < len(src) && (isDigit(src[i]) || src[i] == '.') {
				i++
			}
			out = append(out, token{tokenNumber, src[start:i], Span{start, i}})
		case isLetter(c):
			for i < len(src) && (isLetter(src[i]) || isDigit(src[i]) || src[i] == '.') {
				i++
			}
			out = append(out, token{tokenName, src[start:i], Span{start, i}})
		case c == '"':
			text, end, ok := quoted(src, i)
			if !ok {
				return nil, errorAt(src, start, "formula.text-not-closed")
			}
			i = end
			out = append(out, token{tokenText, text, Span{start, i}})
		default:
			sign := signAt(src[i:])
			if sign == "" {
				r, _ := utf8.DecodeRuneInString(src[i:])
				return nil, errorAt(src, i, "formula.sign-without-meaning", "sign", string(r))
			}
			i += len(sign)
			out = append(out, token{tokenSign, canonical(sign), Span{start, i}})
		}
	}
	return append(out, token{tokenEnd, "", Span{len(src), len(src)}}), nil
}

// spaceAt is how many bytes of space the text begins with; pasted formulas have no-break spaces in them.
func spaceAt(s string) int {
	r, n := utf8.DecodeRuneInString(s)
	if unicode.IsSpace(r) {
		return n
	}
	return 0
}

func quoted(src string, i int) (text string, end int, ok bool) {
	var b strings.Builder
	for i++; i < len(src); i++ {
		if src[i] != '"' {
			b.WriteByte(src[i])
			continue
		}
		if i+1 < len(src) && src[i+1] == '"' {
			b.WriteByte('"')
			i++
			continue
		}
		return b.String(), i + 1, true
	}
	return "", 0, false
}

var signs = []string{"<=", ">=", "<>", "≤", "≥", "≠", "−", "×", "÷", "+", "-", "*", "/", "=", "<", ">", "(", ")", ",", "&", "%"}

func signAt(s string) string {
	for _, sign := range signs {
		if strings.HasPrefix(s, sign) {
			return sign
		}
	}
	return ""
}

// canonical gives signs that mean the same one spelling.
func canonical(sign string) string {
	switch sign {
	case "≤":
		return "<="
	case "≥":
		return ">="
	case "≠":
		return "<>"
	case "−":
		return "-"
	case "×":
		return "*"
	case "÷":
		return "/"
	}
	return sign
}

func isDigit(c byte) bool  { return c >= '0' && c <= '9' }
func isLetter(c byte) bool { return c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c == '_' }

func errorAt(src string, offset int, code string, values ...any) *Error {
	column := utf8.RuneCountInString(src[:min(offset, len(src))]) + 1
	return &Error{column, finding.Of(code, append(values, "column", column)...)}
}
