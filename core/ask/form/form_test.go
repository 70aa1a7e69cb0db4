package form_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"

	"amberseal/core/ask/form"
)

func ExampleFromQuestions() {
	for _, f := range form.FromQuestions("About you:\n1. Your name *\n2. Your email *\n- Which room: Weir room, Loft\nPhoto of " +
		"the damage") {
		fmt.Println(f.Key, f.Kind, f.Required, len(f.Choices))
	}
	// Output:
	// about_you section false 0
	// name short_text true 0
	// email email true 0
	// which_room one_of false 2
	// photo_of_the_damage photo false 0
}

// A paper form copied from a word processor: indented sections, boxes to tick, lines to write on.
func TestPaperFormsBecomeForms(t *testing.T) {
	var got []string
	for _, f := range form.FromQuestions("1. About you\n   a) Your name * ______\n   b) Telephone ......\n2. Which instrument?\n   - " +
		"Violin\n   - Viola\n   - Cello\n3. What came with it (tick all that apply)\n☐ Case\n☐ Bow\n[ ] Rosin\n4. Date of birth\nDo you " +
		"play in a group?\nDelivery: post / collect\n") {
		got = append(got, fmt.Sprintf("%s %s %v %d", f.Key, f.Kind, f.Required, len(f.Choices)))
	}
	want := []string{
		"about_you section false 0", "name short_text true 0", "telephone phone false 0", "which_instrument one_of false 3",
		"what_came_with_it_tick_all_that_apply several_of false 3",
		"date_of_birth date false 0", "do_you_play_in_a_group yes_no false 0", "delivery one_of false 2",
	}
	if !slices.Equal(got, want) {
		t.Errorf("got  %q\nwant %q", got, want)
	}
}

// Two sections may ask for the same; their keys tell them apart.
func TestEqualQuestionsOfTwoSections(t *testing.T) {
	var keys []string
	for _, f := range form.FromQuestions("Owner:\nName\nEmail\nGuardian:\nName\nEmail\nName") {
		keys = append(keys, f.Key)
	}
	if want := []string{"owner", "name", "email", "guardian", "guardian.name", "guardian.email", "name_2"}; !slices.Equal(keys, want) {
		t.Errorf("got %v, want %v", keys, want)
	}
	f := form.Form{Fields: form.FromQuestions("Owner:\nName *\nGuardian:\nName *")}
	f.Fields = append(f.Fields, form.Field{Key: "both", Kind: form.ShortText, Label: "Both", Formula: `name & " for " & guardian.name`})
	if l := f.CheckDesign(nil); l.Faults() > 0 {
		t.Error(l)
	}
	if _, kept := answer(t, f, `{"name":"A","guardian.name":"B"}`); kept != `{"both":"A for B","guardian.name":"B","name":"A"}` {
		t.Errorf("kept %s", kept)
	}
}

func TestTablesBecomeForms(t *testing.T) {
	rows := [][]string{
		{"a@x.example", "2026-01-02", "12,50 €", "yes", "3", "brass", "020 7946 0123", "14:30"},
		{"b@x.example", "2026-01-03", "9,00 €", "no", "14", "brass", "020 7946 0124", "9:15"},
		{"c@x.example", "2026-02-03", "", "no", "2", "brass", "020 7946 0125", "23:59"},
	}
	var got []form.Kind
	for _, f := range form.FromTable([]string{"Contact", "Day", "Sum", "Member", "Seats", "Family", "Line", "Hour"}, rows) {
		got = append(got, f.Kind)
	}
	if want := []form.Kind{form.Email, form.Date, form.Money, form.YesNo, form.WholeNumber, form.OneOf, form.Phone,
		form.Time}; !slices.Equal(
		got,
		want,
	) {
		t.Errorf("got %v, want %v", got, want)
	}
}

// Columns of numbers, days and codes as programs write them.
func TestColumns(t *testing.T) {
	for label, c := range map[string]struct {
		values []string
		want   form.Kind
	}{
		"Length": {[]string{"1.5", "2"}, form.Decimal}, "Amount": {[]string{"1,300.00", "20.00"}, form.Money},
		"Betrag":         {[]string{"1.300,00", "12,50"}, form.Money},
		"Count of parts": {[]string{"1,000", "20"}, form.WholeNumber}, "Preis": {[]string{"12,50"}, form.Money},
		"PLZ": {[]string{"80331", "10115"}, form.ShortText},
		"ZIP": {[]string{"80331"}, form.ShortText}, "Invoice number": {[]string{"1001", "1002"}, form.ShortText},
		"Day":      {[]string{"1990/02/01"}, form.Date},
		"Card":     {[]string{"4111 1111 1111 1111", "5500 0000 0000 0004"}, form.ShortText},
		"No day":   {[]string{"31/02/2026", "45/99/2026"}, form.ShortText},
		"Received": {[]string{"24.11.2026 14:30", "25.11.2026, 09:00"}, form.DateTime}, "Line": {[]string{"020 7946 0123"}, form.Phone},
	} {
		var rows [][]string
		for _, v := range c.values {
			rows = append(rows, []string{v})
		}
		if f := form.FromTable([]string{label}, rows); len(f) != 1 || f[0].Kind != c.want {
			t.Errorf("%s %q: %+v, want %s", label, c.values, f, c.want)
		}
	}
}

func TestGuessKind(t *testing.T) {
	for label, want := range map[string]form.Kind{
		"Your email": form.Email, "E-mail address": form.Email, "Email us about what?": form.Email,
		"Telephone": form.Phone, "Mobile number": form.Phone, "Tel.": form.Phone,
		"Date of birth": form.Date, "When was it bought?": form.Date, "Needed until": form.Date,
		"How many guests": form.WholeNumber, "Age": form.WholeNumber, "Quantity": form.WholeNumber,
		"Serial number": form.ShortText, "Order number": form.ShortText, "Name": form.ShortText, "Street": form.ShortText,
		"Price": form.Money, "Deposit": form.Money, "Weight in kg": form.Decimal,
		"Describe the fault": form.LongText, "Anything else?": form.LongText, "Remarks": form.LongText,
		"I agree to the terms": form.Consent, "Do you play?": form.YesNo, "Update": form.ShortText, "Package": form.ShortText,
	} {
		if got := form.GuessKind(label); got != want {
			t.Errorf("%q: %s, want %s", label, got, want)
		}
	}
}

var all = form.Form{Fields: []form.Field{
	{Key: "head", Kind: form.Section, Label: "Head"},
	{Key: "name", Kind: form.ShortText, Label: "Name", Required: true},
	{Key: "story", Kind: form.LongText, Label: "Story"},
	{Key: "count", Kind: form.WholeNumber, Label: "Count"},
	{Key: "size", Kind: form.Decimal, Label: "Size"},
	{Key: "price", Kind: form.Money, Label: "Price"},
	{Key: "mail", Kind: form.Email, Label: "Mail"},
	{Key: "phone", Kind: form.Phone, Label: "Phone"},
	{Key: "day", Kind: form.Date, Label: "Day"},
	{
		Key:      "one",
		Kind:     form.OneOf,
		Label:    "One",
		Settings: form.Settings{Choices: []form.Choice{{Value: "a", Label: "A"}, {Value: "b", Label: "B"}}},
	},
	{
		Key:      "some",
		Kind:     form.SeveralOf,
		Label:    "Some",
		Settings: form.Settings{Choices: []form.Choice{{Value: "a", Label: "A"}, {Value: "b", Label: "B"}, {Value: "c", Label: "C"}}},
	},
	{Key: "agree", Kind: form.YesNo, Label: "Agree"},
}}

func check(t *testing.T, answers string) (form.Answers, map[string]string) {
	t.Helper()
	var raw form.Raw
	if err := json.Unmarshal([]byte(answers), &raw); err != nil {
		t.Fatal(err)
	}
	r := form.Check(all, raw, form.Circumstances{Currency: "GBP", Country: "GB"})
	a := r.Answers
	wrong := map[string]string{}
	for _, f := range r.Findings {
		wrong[f.Place] = f.Message
	}
	return a, wrong
}

// The email cases are examples of RFC 5322 section 3.4.1 and RFC 5321 section 4.1.2, or break
// one of their rules.
func TestCheckRefuses(t *testing.T) {
	for key, answers := range map[string][]string{
		"name":  {`null`, `""`, `"  \n "`, `7`, `["x"]`, `{"a":1}`, `true`, `"` + strings.Repeat("x", 1001) + `"`},
		"story": {`"` + strings.Repeat("x", 50_001) + `"`},
		"count": {`"3.5"`, `3.5`, `"three"`, `"1e400"`, `1e3`, `"NaN"`, `"--3"`, `"` + strings.Repeat("9", 31) + `"`, `true`},
		"size":  {`"Infinity"`, `"1,5"`, `"1.2.3"`, `[]`},
		"price": {`"1.234"`, `"12 EUR"`},
		"mail": {`"nobody"`, `"a@b"`, `"a b@c.example"`, `"a@b..example"`, `"Name <a@b.example>"`, `"a@b.example, c@d.example"`,
			`"a@b.example\r\nBcc: x@y.example"`, `"@b.example"`, `"a@.example"`},
		"phone": {`"call me"`, `"12"`, `"1234567890123456789012"`, `"12;34567"`},
		"day":   {`"2026-02-29"`, `"24.11.2026"`, `"2026-13-01"`, `20261124`, `"yesterday"`},
		"one":   {`"c"`, `["a"]`, `1`},
		"some":  {`"a"`, `["a","z"]`, `[1]`},
		"agree": {`"yes"`, `1`},
		"extra": {`"x"`},
	} {
		for _, answer := range answers {
			body := `{"name":"N","` + key + `":` + answer + `}`
			if key == "name" {
				body = `{"name":` + answer + `}`
			}
			a, wrong := check(t, body)
			if len(wrong) != 1 || wrong[key] == "" {
				t.Errorf("%s = %.60s was answered with %v", key, answer, wrong)
			}
			if _, kept := a[key]; kept {
				t.Errorf("%s = %.60s was kept", key, answer)
			}
		}
	}
}

// What is said of a limit is a sentence of the respondent's language, with its numbers, amounts and times; where that language is not
// spoken here all of it is English.
func TestWhatIsSaidOfLimits(t *testing.T) {
	f := form.Form{Fields: []form.Field{
		{Key: "short", Kind: form.ShortText, Label: "S", Settings: form.Settings{Shortest: 3}},
		{Key: "long", Kind: form.ShortText, Label: "L", Settings: form.Settings{Longest: 1}},
		{Key: "hour", Kind: form.Time, Label: "H", Settings: form.Settings{Min: "09:00"}},
		{Key: "day", Kind: form.Date, Label: "D", Settings: form.Settings{Max: "2026-01-05"}},
		{Key: "fee", Kind: form.Money, Label: "F", Settings: form.Settings{Max: "1000.5", Currency: "EUR"}},
		{Key: "step", Kind: form.Decimal, Label: "P", Settings: form.Settings{Step: "0.25"}},
	}}
	var raw form.Raw
	const answers = `{"short":"x","long":"xy","hour":"08:00","day":"2026-01-06","fee":"2000","step":"0.1"}`
	if err := json.Unmarshal([]byte(answers), &raw); err != nil {
		t.Fatal(err)
	}
	for language, want := range map[string][]string{
		"en-GB": {"This is too short: 1 of at least 3 characters.", "This is too long: 2 of at most 1 characters.",
			"This must be at 09:00 or later.", "This must be 5 January 2026 or earlier.", "This must be €1,000.50 or less.",
			"This must go in steps of 0.25."},
		"de-DE": {"Das ist zu kurz: 1 von mindestens 3 Zeichen.", "Das ist zu lang: 2 von höchstens 1 Zeichen.",
			"Das muss 09:00 oder später sein.", "Das muss der 5. Januar 2026 oder früher sein.",
			"Das darf höchstens 1.000,50\u00a0€ sein.", "Das geht in Schritten von 0,25."},
		"fr-FR": {"C’est trop court : longueur 1, au moins 3.", "C’est trop long : longueur 2, au plus 1.",
			"Ce doit être 09:00 ou plus tard.", "Ce doit être le 5 janvier 2026 ou plus tôt.",
			"Ce doit être 1\u202f000,50\u00a0€ ou moins.", "Cela va par pas de 0,25."},
		"es-ES": {"Es demasiado corto: longitud 1, al menos 3.", "Es demasiado largo: longitud 2, como máximo 1.",
			"Debe ser a las 9:00 o después.", "Debe ser el 5 de enero de 2026 o antes.", "", "Va en pasos de 0,25."},
		"pl-PL": {"To za krótkie: długość 1, co najmniej 3.", "To za długie: długość 2, najwyżej 1.",
			"To musi być 09:00 lub później.", "To musi być 5 stycznia 2026 lub wcześniej.", "", "To idzie co 0,25."},
		"ja-JP": {"This is too short: 1 of at least 3 characters.", "", "This must be at 09:00 or later.",
			"This must be 5 January 2026 or earlier.", "This must be €1,000.50 or less.", ""},
	} {
		said := map[string]string{}
		for _, x := range form.Check(f, raw, form.Circumstances{Currency: "GBP", Country: "GB", Language: language}).Findings {
			said[x.Place] = x.Message
		}
		for i, key := range []string{"short", "long", "hour", "day", "fee", "step"} {
			if want[i] != "" && said[key] != want[i] {
				t.Errorf("%s, %s: %q, not %q", language, key, said[key], want[i])
			}
		}
	}
}

// Signs that nobody sees are gone from a line, where they make two names that read alike different; those that join letters stay, and in
// long texts those that let lines end.
func TestSignsThatNobodySees(t *testing.T) {
	a, wrong := check(t, `{"name":"evil\u200bgnp\u2060.e\ufeffxe\u00ad \u202ex","story":"ไทย\u200bไทย می\u200cخواهم"}`)
	if len(wrong) > 0 || a["name"].Text != "evilgnp.exe x" || a["story"].Text != "ไทย\u200bไทย می\u200cخواهم" {
		t.Errorf("%q %q %v", a["name"].Text, a["story"].Text, wrong)
	}
	if a, wrong := check(t, `{"name":"N","mail":"a\u200b@ex\u2060ample.com"}`); len(wrong) > 0 || a["mail"].Text != "a@example.com" {
		t.Errorf("a pasted address is %q, %v", a["mail"].Text, wrong)
	}
	if a, _ := check(t, `{"name":"می\u200cخواهم 👩\u200d🔧"}`); a["name"].Text != "می\u200cخواهم 👩\u200d🔧" {
		t.Errorf("joined letters are %q", a["name"].Text)
	}
}

func TestCheckKeeps(t *testing.T) {
	a, wrong := check(t, `{"name":" Łucja\r\nBcc: x@y.example\u0000 ","story":"one\r\ntwo\tthree","count":"-3","size":37.50,`+
		`"price":"1234.5",
		"mail":"o'brien+tag@mail.tarnhollow.example","phone":"+44 20 7946 0123","day":"2024-02-29","one":"b","some":["c","a"],`+
		`"agree":false}`)
	if len(wrong) > 0 {
		t.Fatal(wrong)
	}
	got, err := json.Marshal(a)
	if err != nil {
		t.Fatal(err)
	}
	want := `{"agree":false,"count":"-3","day":"2024-02-29","mail":"o'brien+tag@mail.tarnhollow.example","name":"Łucja Bcc: ` +
		`x@y.example","one":"b","phone":"+442079460123","price":"1234.5","size":"37.50","some":["a","c"],"story":"one\ntwo\tthree"}`
	if string(got) != want {
		t.Errorf("got  %s\nwant %s", got, want)
	}
	again, wrong := check(t, string(got))
	if text, _ := json.Marshal(again); len(wrong) > 0 || string(text) != want {
		t.Errorf("what was kept is not read back: %v %s", wrong, text)
	}
}

func TestSamplesPassTheirOwnForm(t *testing.T) {
	for _, kind := range []form.SampleKind{form.MadeUp, form.Emptest, form.Longest} {
		text, err := json.Marshal(form.Sample(all, kind))
		if err != nil {
			t.Fatal(err)
		}
		if _, wrong := check(t, string(text)); len(wrong) > 0 {
			t.Errorf("%s: %v", kind, wrong)
		}
	}
}

func TestDesignFindings(t *testing.T) {
	bad := form.Form{Fields: []form.Field{
		{Key: "Bad Key", Kind: form.ShortText, Label: "x"}, {Key: "a", Kind: "riddle", Label: "x"}, {Key: "a", Kind: form.ShortText},
		{
			Key:   "b",
			Kind:  form.OneOf,
			Label: "x",
		}, {Key: "c", Kind: form.OneOf, Label: "x",
			Settings: form.Settings{Choices: []form.Choice{{Value: "1", Label: "1"}, {Value: "1", Label: "2"}}}},
	}}
	if l := bad.CheckDesign(nil); l.Faults() != 6 {
		t.Errorf("%d faults, want 6: %v", l.Faults(), l)
	}
}
