package form_test

import (
	"os"
	"strings"
	"testing"

	"amberseal/core/form"
)

// The best kind is guessed for realistic questions of five languages, which were written before the guesser was. Every other
// question was looked at while it was made; the other half tells how it does with what nobody had looked at.
func TestGuessesInFiveLanguages(t *testing.T) {
	for language, least := range map[string]float64{"en": 0.90, "de": 0.85, "fr": 0.85, "es": 0.85, "pl": 0.85} {
		data, err := os.ReadFile("testdata/questions." + language)
		if err != nil {
			t.Fatal(err)
		}
		var right, all [2]int
		for line := range strings.Lines(string(data)) {
			kind, list, _ := strings.Cut(strings.TrimSpace(line), ": ")
			for i, question := range strings.Split(list, "|") {
				x, ok := form.FromQuestion(question, nil)
				all[i%2]++
				if ok && string(x.Kind) == kind {
					right[i%2]++
				} else if i%2 == 0 {
					t.Logf("%s: %q is taken for %s, not %s", language, question, x.Kind, kind)
				}
			}
		}
		t.Logf("%s: of those looked at %d of %d, of the others %d of %d", language, right[0], all[0], right[1], all[1])
		for half := range right {
			if got := float64(right[half]) / float64(all[half]); got < least || all[half] < 95 {
				t.Errorf("%s: of %d questions %.0f%% are guessed, want %.0f%%", language, all[half], 100*got, 100*least)
			}
		}
	}
}
