package house_test

import (
	"fmt"
	"testing"
	"time"

	"amberseal/core/ask/form"
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

// A number without a country's code is one of the house's own country, which its language does not tell; where nothing tells it such a
// number is refused. The numbers are of the ranges that libphonenumber gives as examples.
func TestNationalNumbersAreTheHousesOwn(t *testing.T) {
	f := form.Form{Fields: []form.Field{{Key: "p", Kind: form.Phone, Label: "Telephone"}}}
	for _, c := range []struct{ language, zone, phone, country, number, want string }{
		{"de-CH", "Europe/Zurich", "", "", "044 668 18 00", "+41446681800"},
		{"de-DE", "Europe/Zurich", "", "", "044 668 18 00", "+41446681800"},
		{"de-DE", "Europe/Berlin", "+41 44 668 18 00", "", "044 668 18 00", "+41446681800"},
		{"de-DE", "Europe/Berlin", "+41 44 668 18 00", "DE", "030 123456", "+4930123456"},
		{"de-AT", "Europe/Vienna", "", "", "01 5134567", "+4315134567"}, {"en-IN", "Asia/Kolkata", "", "", "098765 43210", "+919876543210"},
		{"en-IE", "Europe/Dublin", "", "", "01 234 5678", "+35312345678"},
		{"fr-BE", "Europe/Brussels", "", "", "02 512 34 56", "+3225123456"},
		{"en-AU", "Australia/Sydney", "", "", "02 9374 4000", "+61293744000"},
		{"fr-CA", "America/Toronto", "", "", "416 967 1111", "+14169671111"},
		{"es-MX", "America/Mexico_City", "", "", "55 1234 5678", "+525512345678"}, {"pt-BR", "America/Sao_Paulo", "", "", "11 2345 6789",
			"+551123456789"},
		{"ar-EG", "Africa/Cairo", "", "", "02 23456789", "+20223456789"},
		{"en-US", "America/New_York", "", "", "212 736 5000", "+12127365000"},
		{"pl-PL", "Europe/Warsaw", "", "", "12 345 67 89", "+48123456789"}, {"en-GB", "UTC", "", "", "020 7946 0123", "+442079460123"},
		{"en", "UTC", "", "", "020 7946 0123", ""}, {"de-CH", "UTC", "", "", "044 668 18 00", "+41446681800"},
	} {
		h := house.New()
		h.Language, h.Zone, h.Phone, h.Country = c.language, c.zone, c.phone, c.country
		r := form.Check(f, form.Raw{"p": []byte(`"` + c.number + `"`)}, h.Circumstances(time.Unix(1.8e9, 0)))
		if got := r.Answers["p"].Text; got != c.want || (c.want == "") != (len(r.Findings) > 0) {
			t.Errorf("%s in %s: %s is kept as %q, want %q: %v", c.language, c.zone, c.number, got, c.want, r.Findings)
		}
	}
}
