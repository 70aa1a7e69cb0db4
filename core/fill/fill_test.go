package fill_test

import (
	"encoding/json"
	"fmt"
	"testing"

	"amberseal/core/fill"
	"amberseal/core/form"
)

var asked = form.Form{Fields: []form.Field{
	{Key: "name", Kind: form.ShortText, Label: "Name"}, {Key: "owner.name", Kind: form.ShortText, Label: "Owner"}, {Key: "story", Kind: form.LongText, Label: "Story"}, {Key: "price", Kind: form.Money, Label: "Price"}, {Key: "day", Kind: form.Date, Label: "Day"},
	{Key: "kind", Kind: form.OneOf, Label: "Kind", Choices: []form.Choice{{Value: "a b", Label: "A"}, {Value: "c", Label: "C"}}}, {Key: "some", Kind: form.SeveralOf, Label: "Some", Choices: []form.Choice{{Value: "x", Label: "X"}, {Value: "y", Label: "Y"}}}, {Key: "ok", Kind: form.Consent, Label: "OK"},
	{Key: "lines", Kind: form.Rows, Label: "Lines", Fields: []form.Field{{Key: "what", Kind: form.ShortText, Label: "What"}, {Key: "n", Kind: form.WholeNumber, Label: "N"}}},
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
  << /T (lines) /Kids [ << /T (1) /Kids [ << /T (what) /V (pegs) >> << /T (n) /V (3) >> ] >> << /T (0) /Kids [ << /T (what) /V (bridge) >> ] >> ] >>
] /F (blank.pdf) >> >> endobj
trailer << /Root 1 0 R >>
%%EOF`

func TestFDFWrittenByHand(t *testing.T) {
	values, err := fill.FDF([]byte(byHand))
	if err != nil || !fill.IsFDF([]byte(byHand)) {
		t.Fatal(err)
	}
	got, err := json.Marshal(fill.Answers(asked, values, "DD.MM.YYYY", ","))
	if err != nil {
		t.Fatal(err)
	}
	want := `{"day":"2026-11-24","kind":"a b","lines":[{"what":"bridge"},{"n":"3","what":"pegs"}],"name":"A (quoted) \\ name","ok":true,"owner.name":"Łucja","price":"1234.50","some":["x"],"story":"one\ntwo"}`
	if string(got) != want {
		t.Errorf("got  %s\nwant %s", got, want)
	}
}

func TestNumbersAndDaysAsTheyAreWritten(t *testing.T) {
	for _, c := range []struct{ typed, pattern, decimal, price, day string }{
		{"1,234.50", "DD/MM/YYYY", ".", "1234.50", ""}, {"12,50", "DD/MM/YYYY", ".", "12.50", ""}, {"1 234,5", "DD.MM.YYYY", ",", "1234.5", ""}, {"1.234", "DD.MM.YYYY", ",", "1234", ""}, {"twelve", "DD.MM.YYYY", ",", "twelve", ""},
		{"3/4/2026", "DD/MM/YYYY", ".", "", "2026-04-03"}, {"3/4/2026", "MM/DD/YYYY", ".", "", "2026-03-04"}, {"2026-04-03", "DD/MM/YYYY", ".", "", "2026-04-03"}, {"3.4.26", "DD.MM.YYYY", ",", "", "2026-04-03"}, {"soon", "DD.MM.YYYY", ",", "", "soon"},
	} {
		raw := fill.Answers(asked, map[string]string{"price": c.typed, "day": c.typed}, c.pattern, c.decimal)
		if c.price != "" && string(raw["price"]) != `"`+c.price+`"` || c.day != "" && string(raw["day"]) != `"`+c.day+`"` {
			t.Errorf("%s in %s: %s %s", c.typed, c.pattern, raw["price"], raw["day"])
		}
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
