// Package phrase is words with placeholders: the one way in which documents, messages,
// subjects and file names speak of an answer.
//
// A Phrase is plain data. Bound to facts (a form's answers, a number, a house) it
// becomes runs of text, each with the looks of its place. A placeholder names a field
// by its key, so a renamed question changes nothing; names that begin with @ stand for
// what the form does not ask, such as the submission's number.
package phrase

import (
	"bytes"
	"encoding/json"
	"regexp"
	"strings"
)

// Span is words, or a placeholder when Field is set.
type Span struct {
	Text   string `json:"text,omitempty"`
	Field  string `json:"field,omitempty"`  // a field's key or a name with @
	Format string `json:"format,omitempty"` // one of Formats for the field's kind
	Empty  string `json:"empty,omitempty"`  // what stands there when nothing was answered
	Yes    string `json:"yes,omitempty"`    // of yes or no: the word for yes, the language's when empty
	No     string `json:"no,omitempty"`
	When   string `json:"when,omitempty"` // formula; stands there always when empty
	Style
}

// Style is how words look. The zero value is the look of their place.
type Style struct {
	Bold      bool    `json:"bold,omitempty"`
	Italic    bool    `json:"italic,omitempty"`
	Underline bool    `json:"underline,omitempty"`
	Strike    bool    `json:"strike,omitempty"`
	SmallCaps bool    `json:"smallCaps,omitempty"`
	Colour    string  `json:"colour,omitempty"` // #RRGGBB
	Size      float64 `json:"size,omitempty"`   // points
	Link      string  `json:"link,omitempty"`   // https or mailto address, or one of Links
}

// Phrase is one line of words and placeholders. In a file it may also be written as a
// string with placeholders in double braces: "Receipt {{@number}}".
type Phrase []Span

// Paragraph is a phrase with its place in a longer text.
type Paragraph struct {
	Spans Phrase `json:"spans"`
	List  string `json:"list,omitempty"`  // "bullet", "number" or nothing
	Depth int    `json:"depth,omitempty"` // of a list's item: 0 for the outermost list
	Align string `json:"align,omitempty"` // "start", "center", "end", "justify" or nothing
}

// Body is paragraphs. In a file it may also be one string; an empty line parts paragraphs.
type Body []Paragraph

var braces = regexp.MustCompile(`\{\{\s*(@?[a-z][a-z0-9_]*(?:\.[a-z][a-z0-9_]*)*)\s*(?:\|\s*([a-z]+|[^{}|]*/[^{}|]*?)\s*)?\}\}`)

// Parse reads words with placeholders in double braces, with an optional format after
// a bar: {{received|short}}. The format of a number may be the words that count it: {{players|player/players}}.
func Parse(s string) Phrase {
	p := Phrase{}
	at := 0
	for _, m := range braces.FindAllStringSubmatchIndex(s, -1) {
		if m[0] > at {
			p = append(p, Span{Text: s[at:m[0]]})
		}
		span := Span{Field: s[m[2]:m[3]]}
		if m[4] >= 0 {
			span.Format = s[m[4]:m[5]]
		}
		p, at = append(p, span), m[1]
	}
	if at < len(s) {
		p = append(p, Span{Text: s[at:]})
	}
	return p
}

// ParseBody reads paragraphs parted by empty lines.
func ParseBody(s string) Body {
	b := Body{}
	for part := range strings.SplitSeq(strings.ReplaceAll(s, "\r\n", "\n"), "\n\n") {
		if part = strings.TrimSpace(part); part != "" {
			b = append(b, Paragraph{Spans: Parse(part)})
		}
	}
	return b
}

// strictly reads JSON in which no name is unknown: how strict the whole is read does not reach into what reads itself.
func strictly(data []byte, into any) error {
	dec := json.NewDecoder(bytes.NewReader(data))
	dec.DisallowUnknownFields()
	return dec.Decode(into)
}

// UnmarshalJSON reads spans, or a string with double braces.
func (p *Phrase) UnmarshalJSON(data []byte) error {
	if len(data) > 0 && data[0] == '"' {
		var s string
		if err := json.Unmarshal(data, &s); err != nil {
			return err
		}
		*p = Parse(s)
		return nil
	}
	var spans []Span
	if err := strictly(data, &spans); err != nil {
		return err
	}
	*p = spans
	return nil
}

// MarshalJSON writes spans; no phrase is an empty list.
func (p Phrase) MarshalJSON() ([]byte, error) {
	if p == nil {
		return []byte("[]"), nil
	}
	return json.Marshal([]Span(p))
}

// UnmarshalJSON reads paragraphs, or a string.
func (b *Body) UnmarshalJSON(data []byte) error {
	if len(data) > 0 && data[0] == '"' {
		var s string
		if err := json.Unmarshal(data, &s); err != nil {
			return err
		}
		*b = ParseBody(s)
		return nil
	}
	var paragraphs []Paragraph
	if err := strictly(data, &paragraphs); err != nil {
		return err
	}
	*b = paragraphs
	return nil
}

// MarshalJSON writes paragraphs; no body is an empty list.
func (b Body) MarshalJSON() ([]byte, error) {
	if b == nil {
		return []byte("[]"), nil
	}
	return json.Marshal([]Paragraph(b))
}
