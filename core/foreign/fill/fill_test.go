package fill_test

import (
	"encoding/json"
	"fmt"
	"testing"

	"amberseal/core/ask/form"
	"amberseal/core/foreign/fill"
	"amberseal/core/words/locale"
)

var asked = form.Form{Fields: []form.Field{
	{
		Key:   "name",
		Kind:  form.ShortText,
		Label: "Name",
	}, {Key: "owner.name", Kind: form.ShortText, Label: "Owner"}, {Key: "story", Kind: form.LongText, Label: "Story"},
	{Key: "price", Kind: form.Money, Label: "Price"}, {Key: "day", Kind: form.Date, Label: "Day"},
	{
		Key:      "kind",
		Kind:     form.OneOf,
		Label:    "Kind",
		Settings: form.Settings{Choices: []form.Choice{{Value: "a b", Label: "A"}, {Value: "c", Label: "C"}}},
	}, {Key: "some", Kind: form.SeveralOf, Label: "Some",
		Settings: form.Settings{Choices: []form.Choice{{Value: "x", Label: "X"}, {Value: "y", Label: "Y"}}}},
	{Key: "ok", Kind: form.Consent, Label: "OK"},
	{
		Key:   "lines",
		Kind:  form.Rows,
		Label: "Lines",
		Settings: form.Settings{
			Fields: []form.Field{{Key: "what", Kind: form.ShortText, Label: "What"}, {Key: "n", Kind: form.WholeNumber, Label: "N"}},
		},
	},
}}

// A file written by hand after ISO 32000-1 section 12.7.7 and its example of fields with kids.
const byHand = `%FDF-1.2
1 0 obj << /FDF << /Fields [
  << /T (name) /V (A \(quoted\) \\ na\155e) >> % octal for m
  << /T (owner) /Kids [ << /T (name) /V <FEFF014100750063006A0061> >> ] >>
  << /T (story) /V (one\rtwo) /F 4 >>
  << /V (1.234,50) /T (price) >>
  << /T (day) /V (24.11.2026) >>
  << /T (kind) /V /a#20b >>
  << /T (some) /Kids [ << /T (x) /V /Yes >> << /T (y) /V /Off >> ] >>
  << /T (ok) /V /Yes >>
  << /T (lines) /Kids [ << /T (1) /Kids [ << /T (what) /V (pegs) >> << /T (n) /V (3) >> ] >> << /T (0) /Kids [ << /T (what) /V (bridge) ` +
	`>> ] >> ] >>
] /F (blank.pdf) >> >> endobj
trailer << /Root 1 0 R >>
%%EOF`

func TestFDFWrittenByHand(t *testing.T) {
	values, err := fill.FDF([]byte(byHand))
	if err != nil || !fill.IsFDF([]byte(byHand)) {
		t.Fatal(err)
	}
	got, err := json.Marshal(fill.Answers(asked, values, locale.For("de-DE"), "EUR"))
	if err != nil {
		t.Fatal(err)
	}
	want := `{"day":"2026-11-24","kind":"a b","lines":[{"what":"bridge"},{"n":"3","what":"pegs"}],"name":"A (quoted) \\ name","ok":true,` +
		`"owner.name":"Łucja","price":"1234.50","some":["x"],"story":"one\ntwo"}`
	if string(got) != want {
		t.Errorf("got  %s\nwant %s", got, want)
	}
}

// What people of each language write, and what nobody of it writes: the second column is left as it is, so that the form tells
// its fault. The grouping and decimal signs are CLDR's (48).
func TestNumbersDaysAndTimesAsTheyAreWritten(t *testing.T) {
	f := form.Form{
		Fields: []form.Field{
			{Key: "n", Kind: form.Decimal},
			{Key: "m", Kind: form.Money},
			{Key: "d", Kind: form.Date},
			{Key: "t", Kind: form.Time},
			{Key: "dt", Kind: form.DateTime},
			{Key: "menu", Kind: form.OneOf, Settings: form.Settings{Choices: []form.Choice{{Value: "a", Label: "Alto"}}}},
		},
	}
	currencies := map[string]string{"de-DE": "EUR", "fr-FR": "EUR", "es-ES": "EUR", "en-GB": "GBP", "en-US": "USD", "pl-PL": "PLN"}
	for _, c := range []struct{ language, key, typed, want string }{
		{"en-GB", "n", "1,234.50", "1234.50"}, {"en-GB", "n", "12,50", "12.50"}, {"en-GB", "n", "0,125", "0.125"},
		{"en-GB", "n", "1,2,3", "1,2,3"}, {"en-GB", "n", "1,234,56", "1,234,56"}, {"en-GB", "n", "1.234,5", "1.234,5"},
		{"de-DE", "n", "1.234,5", "1234.5"}, {"de-DE", "n", "1.234", "1234"}, {"de-DE", "n", "0.125", "0.125"},
		{"de-DE", "n", "12.5", "12.5"}, {"de-DE", "n", "0,125", "0.125"}, {"de-DE", "n", "−3", "-3"},
		{"fr-FR", "n", "1\u202f234,5", "1234.5"}, {"fr-FR", "n", "1.234", "1.234"}, {"pl-PL", "n", "0.125", "0.125"},
		{"pl-PL", "n", "12 345,5", "12345.5"}, {"es-ES", "n", "12.345,5", "12345.5"},
		{"en-GB", "n", "twelve", "twelve"}, {"en-GB", "n", "1e9", "1e9"}, {"en-GB", "n", "12.", "12."}, {"en-GB", "n", ".5", "0.5"},
		{"de-DE", "n", "1'234,5", "1234.5"},
		{"de-DE", "m", "12,50 €", "12.50"}, {"en-GB", "m", "£1,250.50", "1250.50"}, {"pl-PL", "m", "12,50 zł", "12.50"},
		{"fr-FR", "m", "1 250,50 EUR", "1250.50"}, {"de-DE", "n", "12,50 €", "12,50 €"},
		{"en-GB", "d", "3/4/2026", "2026-04-03"}, {"en-US", "d", "3/4/2026", "2026-03-04"}, {"en-GB", "d", "2026-04-03", "2026-04-03"},
		{"de-DE", "d", "3.4.26", "3.4.26"}, {"en-GB", "d", "24 Nov 2026", "2026-11-24"},
		{"en-GB", "d", "24th November 2026", "2026-11-24"}, {"en-US", "d", "November 24, 2026", "2026-11-24"},
		{"de-DE", "d", "24. November 2026", "2026-11-24"}, {"fr-FR", "d", "24 août 2026", "2026-08-24"},
		{"es-ES", "d", "24 de agosto de 2026", "2026-08-24"},
		{"pl-PL", "d", "24 listopada 2026 r.", "2026-11-24"}, {"en-GB", "d", "31/02/2026", "31/02/2026"}, {"en-GB", "d", "soon", "soon"},
		{"en-GB", "d", "1/2", "1/2"}, {"de-DE", "d", "24.11.202", "24.11.202"}, {"de-DE", "d", "24.11.6", "24.11.6"},
		{"de-DE", "d", "12.03.64", "12.03.64"}, {"de-DE", "d", "1.1.99", "1.1.99"}, {"en-GB", "d", "24 Nov 26", "24 Nov 26"},
		{"de-DE", "d", "0202.11.24", "0202.11.24"}, {"en-GB", "d", "2026/11/24", "2026-11-24"}, {"de-DE", "d", "2026.1.5", "2026-01-05"},
		{"de-DE", "m", "$12.50", "$12.50"}, {"de-DE", "m", "GBP 12,50", "GBP 12,50"}, {"de-DE", "m", "£12,50", "£12,50"},
		{"en-US", "m", "$12.50", "12.50"}, {"en-US", "m", "US$12.50", "US$12.50"}, {"en-GB", "m", "12.50 zł", "12.50 zł"},
		{"de-DE", "m", "EUR 12,50 €", "12.50"}, {"de-DE", "m", "€12,50 $", "€12,50 $"},
		{"de-DE", "t", "14.30", "14:30"}, {"de-DE", "t", "14:30 Uhr", "14:30"}, {"fr-FR", "t", "14 h 30", "14:30"},
		{"en-US", "t", "2:30 PM", "14:30"}, {"en-US", "t", "12 am", "00:00"}, {"en-US", "t", "13 pm", "13 pm"},
		{"en-GB", "t", "25:00", "25:00"}, {"en-GB", "t", "14", "14"},
		{"de-DE", "dt", "24.11.2026, 14:30", "2026-11-24T14:30"}, {"en-GB", "dt", "24/11/2026 14:30", "2026-11-24T14:30"},
		{"en-GB", "dt", "2026-11-24T14:30", "2026-11-24T14:30"}, {"en-US", "dt", "Nov 24, 2026, 2:30 PM", "2026-11-24T14:30"},
		{"en-GB", "dt", "24/11/2026", "24/11/2026"},
		{"en-GB", "menu", "Alto", "a"}, {"en-GB", "menu", "a", "a"}, {"en-GB", "menu", "b", "b"},
	} {
		got := fill.Answers(f, map[string]string{c.key: c.typed}, locale.For(c.language), currencies[c.language])
		var s string
		if err := json.Unmarshal(got[c.key], &s); err != nil || s != c.want {
			t.Errorf("%s, %q typed into %s is read as %s, not %q", c.language, c.typed, c.key, got[c.key], c.want)
		}
	}
}

// A No that was chosen in a row is an answer; a box that nobody ticked makes no row.
func TestRowsKeepWhatWasChosen(t *testing.T) {
	f := form.Form{
		Fields: []form.Field{
			{
				Key:  "rows",
				Kind: form.Rows,
				Settings: form.Settings{
					Fields: []form.Field{{Key: "ok", Kind: form.YesNo}, {Key: "agree", Kind: form.Consent},
						{Key: "what", Kind: form.ShortText}},
				},
			},
		},
	}
	got, err := json.Marshal(fill.Answers(f, map[string]string{"rows.0.ok": "no", "rows.2.what": "Off"}, locale.For("en-GB"), "EUR"))
	if want := `{"rows":[{"ok":false},{"what":"Off"}]}`; err != nil || string(got) != want {
		t.Errorf("got %s, want %s (%v)", got, want, err)
	}
}

func FuzzFDF(f *testing.F) {
	f.Add([]byte(byHand))
	f.Add([]byte("%FDF-1.2 /Fields [<</T(a\\777)/V<FEF>>>]"))
	f.Fuzz(func(_ *testing.T, data []byte) { fill.FDF(data) })
}

func ExampleFDF() {
	values, err := fill.FDF([]byte("%FDF-1.2\n1 0 obj<</FDF<</Fields[<</T(name)/V(Ada)>>]>>>>endobj\ntrailer<</Root 1 0 R>>"))
	fmt.Println(values, err)
	// Output: map[name:Ada] <nil>
}
