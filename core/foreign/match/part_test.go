package match_test

import (
	"testing"

	"amberseal/core/foreign/match"
)

// Names end as people and programs write the parts of days, names and addresses.
func TestPartsOfAnswers(t *testing.T) {
	for name, want := range map[string]string{
		"birth_dd": "dd", "Birth.MM": "mm", "birth yyyy": "yyyy", "Geburtstag Jahr": "yyyy", "address_city": "city",
		"owner_lastname": "family",
		"dd":             "", "remarks": "", "date": "",
	} {
		if got := match.Part(name); got != want {
			t.Errorf("%s asks for %q, want %q", name, got, want)
		}
	}
}
