package foreign_test

import (
	"testing"

	"amberseal/core/foreign"
)

// Strings without a mark are PDFDocEncoding. The bytes are those that qpdf writes for these words, and the table's of ISO 32000-2, D.2.
func TestTextOfPDFs(t *testing.T) {
	for bytes, want := range map[string]string{
		"\x95ucja": "Łucja", "Wa\x9b\x9csa \x83 40\xa0": "Wałœsa … 40€", "\x8dZitat\x8e \x84 \x8fx\x90": "“Zitat” — ‘x’",
		"caf\xe9 \xa3 \xff": "café £ ÿ", "\x1f\x18": "˜˘", "\xfe\xff\x01\x41": "Ł", "\xef\xbb\xbfŁ": "Ł", "line\nnext\t": "line\nnext\t",
	} {
		if got := foreign.Text([]byte(bytes)); got != want {
			t.Errorf("%q is read as %q, want %q", bytes, got, want)
		}
	}
}
