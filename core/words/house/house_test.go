package house_test

import (
	"fmt"
	"testing"
	"time"

	"amberseal/core/words/house"
)

func ExampleHouse_Link() {
	h := house.New()
	fmt.Printf("%q\n", h.Link("/f/booking"))
	h.Site = "https://forms.tarnhollow.example/"
	fmt.Printf("%q\n", h.Link("/f/booking"))
	// Output:
	// ""
	// "https://forms.tarnhollow.example/f/booking"
}

func TestWhatWouldNotWorkIsFound(t *testing.T) {
	if l := house.New().Check(); len(l) > 0 {
		t.Errorf("a new house: %v", l)
	}
	for place, change := range map[string]func(h *house.House){
		"house/name": func(h *house.House) { h.Name = "" }, "house/accent": func(h *house.House) { h.Accent = "green" },
		"house/zone":     func(h *house.House) { h.Zone = "Europe/Atlantis" },
		"house/currency": func(h *house.House) { h.Currency = "euro" }, "house/paper": func(h *house.House) { h.Paper = "A0" },
		"house/site": func(h *house.House) { h.Site = "forms.house.example" }, "house/tint": func(h *house.House) { h.Tint = "#556655" },
		"house/font":  func(h *house.House) { h.Font = "Comic" },
		"house/fonts": func(h *house.House) { h.Fonts = []house.Font{{Family: "Literata", Regular: "x"}} },
	} {
		h := house.New()
		change(&h)
		if l := h.Check(); len(l) != 1 || l[0].Place != place || l[0].Mend == "" {
			t.Errorf("%s: %v", place, l)
		}
	}
	h := house.New()
	h.Font, h.Fonts = "Ours", []house.Font{{Family: "Ours", Regular: "a"}, {Family: "Ours", Regular: "b"}, {Family: "None"}}
	if l := h.Check(); l.Faults() != 2 {
		t.Errorf("a family twice and one without a face: %v", l)
	}
	if f, ok := h.Own("Ours"); !ok || f.Regular != "a" {
		t.Error(f, ok)
	}
}

func TestAHandWrittenFileIsCompleted(t *testing.T) {
	h := house.House{Name: "Ours", Zone: "Asia/Kathmandu"}.WithDefaults()
	if h.Currency != "EUR" || h.Address == nil || h.Check().Faults() > 0 {
		t.Errorf("%+v", h)
	}
	// Nepal is 5:45 ahead (IANA time zone database).
	if got := time.Date(2026, 1, 1, 0, 0, 0, 0, time.UTC).In(h.Location()).Format("15:04"); got != "05:45" {
		t.Errorf("midnight is %s there", got)
	}
	if (house.House{Zone: "nowhere"}).Location() != time.UTC {
		t.Error("an unknown zone is not UTC")
	}
}

// The values are those of WCAG's own examples and definition: black on white has 21 to 1, #767676 is the palest grey that
// passes on white.
func TestContrast(t *testing.T) {
	for _, c := range []struct {
		a, b string
		want float64
	}{{"#000000", "#FFFFFF", 21}, {"#767676", "#FFFFFF", 4.54}, {"#777777", "#FFFFFF", 4.48}, {"#FF0000", "#FFFFFF", 4.0},
		{"#123456", "#123456", 1}} {
		if got := house.Contrast(c.a, c.b); got < c.want-0.005 || got > c.want+0.005 {
			t.Errorf("%s on %s has %.3f, want %.2f", c.a, c.b, got, c.want)
		}
	}
	h := house.New()
	h.Accent = "#F2C94C"
	if l := h.Check(); l.Faults() != 0 || len(l) != 1 || l[0].Place != "house/accent" {
		t.Errorf("a yellow for header rows: %v", l)
	}
}
