package hyphen_test

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"amberseal/core/print/typeset/hyphen"
)

func parted(language, word string) string {
	letters := []rune(word)
	out, at := "", 0
	for _, p := range hyphen.For(language).Points(letters) {
		out += string(letters[at:p]) + "-"
		at = p
	}
	return out + string(letters[at:])
}

func ExampleFor() {
	fmt.Println(parted("de-DE", "Silbentrennung"), parted("fr-FR", "enregistrement"), hyphen.For("ja-JP") == nil)
	// Output: Sil-ben-tren-nung en-re-gis-tre-ment true
}

// The published examples: Liang's thesis, page 1 and section 2 (hy-phen-ation), The TeXbook, appendix H (hyphenation of
// “record” is left alone, ta-ble, as-so-ciate by exception); cited from memory, patterns of US English.
func TestThePublishedExamples(t *testing.T) {
	for word, want := range map[string]string{"hyphenation": "hy-phen-ation", "concatenation": "con-cate-na-tion",
		"supercalifragilisticexpialidocious": "su-per-cal-ifrag-ilis-tic-ex-pi-ali-do-cious", "associate": "as-so-ciate",
		"project": "project", "Computer": "Com-puter"} {
		if got := parted("en-US", word); got != want {
			t.Errorf("%s is parted %s, want %s", word, got, want)
		}
	}
}

// The words of testdata were parted by another implementation of the algorithm; it leaves two letters at a word's end in
// every language, where English and French print at least three. Of words on the lists of exceptions it counts the letters
// wrongly; those are left out.
func TestAnotherImplementationPartsTheSame(t *testing.T) {
	data, err := os.ReadFile("testdata/words.txt")
	if err != nil {
		t.Fatal(err)
	}
	language, checked := "", 0
	for line := range strings.Lines(string(data)) {
		line = strings.TrimRight(line, "\n")
		switch {
		case strings.HasPrefix(line, "#"):
		case !strings.HasPrefix(line, " "):
			language = line
		default:
			want := strings.TrimSpace(line)
			if at := strings.LastIndex(want, "-"); at >= 0 && len([]rune(want[at+1:])) == 2 &&
				(language[:2] == "en" || language[:2] == "fr") {
				want = want[:at] + want[at+1:]
			}
			word := strings.ReplaceAll(want, "-", "")
			if len([]rune(word)) < 5 {
				continue
			}
			checked++
			if got := parted(language, word); got != want {
				t.Errorf("%s: %s, want %s", language, got, want)
			}
		}
	}
	if checked < 150 {
		t.Errorf("only %d words were compared", checked)
	}
}
