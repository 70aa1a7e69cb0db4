package quote_test

import (
	"strings"
	"testing"
	"unicode/utf8"

	"amberseal/core/words/quote"
)

// What a stranger says stands as such: short, on one line, leading nowhere, and unable to end its own quotation.
func TestWords(t *testing.T) {
	for said, want := range map[string]string{
		"mailbox is full.":                    "“mailbox is full”",
		"a\r\nb\x00\u202ec":                   "“a b c”",
		"see https://evil.example/x?y=1 now":  "“see … now”",
		"WWW.evil.example":                    "“…”",
		"call \"us\" ” and “pay”":             "“call 'us' ' and 'pay'”",
		"5.1.1 <ada@reader.example>: unknown": "“5.1.1 <ada@reader.example>: unknown”",
	} {
		if got := quote.Words(said); got != want {
			t.Errorf("%q is quoted as %s, not %s", said, got, want)
		}
	}
	if got := quote.Words(strings.Repeat("é", 5000)); utf8.RuneCountInString(got) != 202 || !strings.HasSuffix(got, "é…”") {
		t.Errorf("a long one has %d letters", utf8.RuneCountInString(got))
	}
}
