package form_test

import (
	"encoding/json"
	"strings"
	"testing"
	"time"

	"github.com/nyaruka/phonenumbers"

	"amberseal/core/ask/form"
	"amberseal/core/words/locale"
)

// libphonenumber's own example number of every region, as people there write it, is kept in E.164.
func TestPhoneExamplesOfLibphonenumber(t *testing.T) {
	f := form.Form{Fields: []form.Field{{Key: "p", Kind: form.Phone, Label: "P"}}}
	n := 0
	for region := range phonenumbers.GetSupportedRegions() {
		example := phonenumbers.GetExampleNumber(region)
		if example == nil {
			continue
		}
		n++
		want := phonenumbers.Format(example, phonenumbers.E164)
		for _, how := range []phonenumbers.PhoneNumberFormat{phonenumbers.NATIONAL, phonenumbers.INTERNATIONAL, phonenumbers.E164} {
			typed, err := json.Marshal(phonenumbers.Format(example, how))
			if err != nil {
				t.Fatal(err)
			}
			r := form.Check(f, form.Raw{"p": typed}, form.Circumstances{Country: region})
			if got := r.Answers["p"].Text; got != want {
				t.Errorf("%s: %s is kept as %q (%v), want %s", region, typed, got, r.Findings, want)
			}
		}
	}
	if n < 200 {
		t.Errorf("only %d regions were looked at", n)
	}
	for language, want := range map[string]string{"en-GB": "020 7946 0123", "de-DE": "+44 20 7946 0123", "fr-FR": "+44 20 7946 0123"} {
		if got := locale.Phone("+442079460123", locale.For(language).Region()); got != want {
			t.Errorf("in %s it is shown as %s, want %s", language, got, want)
		}
	}
}

// Addresses of RFC 5322 appendix A.1 and RFC 6531, and forms that their grammars refuse. We also refuse what no mail
// reaches from the outside: literals, quoted local parts and names without a dot.
func TestEmailExamplesOfTheStandards(t *testing.T) {
	f := form.Form{Fields: []form.Field{{Key: "e", Kind: form.Email, Label: "E"}}}
	for address, ok := range map[string]bool{
		"jdoe@machine.example": true, "mary@example.net": true, "john.q.public@example.com": true, "sisters+news@example.org": true,
		"o'hara@example.com": true, "用户@例子.example": true, "pelé@example.com": true, "a@b.c.d.example": true,
		"plain": false, "@example.com": false, "a@": false, "a@b@c.example": false, ".a@example.com": false, "a.@example.com": false,
		"a..b@example.com": false, "a b@example.com": false, "John Doe <jdoe@machine.example>": false, "a@[192.0.2.1]": false,
		`"quoted"@example.com`: false, "a@example": false, "a@example.com\nBcc: x@y.example": false,
		// RFC 5321 4.1.2 and 4.5.3.1.1, RFC 1035 2.3.4, RFC 5892: grammatical, and undeliverable.
		"a@b.co|ls": false, "a@b/c.co": false, "a@b.co?subject=x": false, "a@-b.co": false, "a@b.c!": false, "a@{b}.co": false,
		"a@127.0.0.1": false, "a@" + strings.Repeat("b", 64) + ".example": false,
		strings.Repeat("a", 65) + "@example.com": false, strings.Repeat("a", 64) + "@example.com": true,
		"jürgen@münchen.example": true,
	} {
		typed, err := json.Marshal(address)
		if err != nil {
			t.Fatal(err)
		}
		if r := form.Check(f, form.Raw{"e": typed}, form.Circumstances{}); (len(r.Findings) == 0) != ok {
			t.Errorf("%q: %v", address, r.Findings)
		}
	}
}

// Web addresses by RFC 3986 section 3.2 and the URL standard's hosts; words with a full stop are none.
func TestWebAddresses(t *testing.T) {
	f := form.Form{Fields: []form.Field{{Key: "w", Kind: form.WebAddress, Label: "W"}}}
	for address, ok := range map[string]bool{
		"https://a.example": true, "tarnhollow.example/a?b=c#d": true, "http://a.example:8080/": true, "https://münchen.example": true,
		"https://192.0.2.1/x": true, "https://[2001:db8::1]/": true,
		"https://.": false, "https://a.": false, "https://example..com": false, "https://example.com:99999": false,
		"https://999.999.999.999": false, "1.5": false, "e.g.": false, "hello.": false, "ftp://a.example": false,
		"https://user@a.example": false, "https://-a.example": false,
	} {
		if r := form.Check(f, form.Raw{"w": []byte(`"` + address + `"`)}, form.Circumstances{}); (len(r.Findings) == 0) != ok {
			t.Errorf("%q: %v", address, r.Findings)
		}
	}
}

// @today as a bound of a day with its time is all of the day, and what turns the direction of letters is taken out of answers.
func TestTodayIsTheWholeDay(t *testing.T) {
	f := form.Form{
		Fields: []form.Field{
			{Key: "from", Kind: form.DateTime, Settings: form.Settings{Min: "@today"}},
			{Key: "to", Kind: form.DateTime, Settings: form.Settings{Max: "@today"}},
			{Key: "name", Kind: form.ShortText},
			{Key: "n", Kind: form.Decimal},
		},
	}
	now := form.Circumstances{Now: time.Date(2026, 11, 24, 10, 0, 0, 0, time.UTC)}
	r := form.Check(
		f,
		form.Raw{
			"from": []byte(`"2026-11-24T09:59"`),
			"to":   []byte(`"2026-11-24T23:59"`),
			"name": []byte(`"a\u202egpj.exe"`),
			"n":    []byte(`"-0"`),
		},
		now,
	)
	if len(r.Findings) > 0 || r.Answers["name"].Text != "agpj.exe" || r.Answers["n"].Number.Negative {
		t.Errorf("%v %v %v", r.Findings, r.Answers["name"].Text, r.Answers["n"].Number)
	}
	r = form.Check(f, form.Raw{"from": []byte(`"2026-11-23T23:59"`), "to": []byte(`"2026-11-25T00:00"`)}, now)
	if len(r.Findings) != 2 {
		t.Error(r.Findings)
	}
}

func TestQuestionsOfACopyDoNotShareBoxes(t *testing.T) {
	f := form.Form{Fields: []form.Field{
		{
			Key:   "person",
			Kind:  form.Name,
			Label: "P",
		}, {Key: "person.given", Kind: form.ShortText, Label: "G"},
		{Key: "opt", Kind: form.SeveralOf, Label: "O", Settings: form.Settings{Choices: []form.Choice{{Value: "a", Label: "A"}}}},
		{Key: "opt.b", Kind: form.ShortText, Label: "B"},
	}}
	if l := f.CheckDesign(func(string) bool { return true }); l.Faults() != 1 || l[0].Place != "form/fields/person.given" {
		t.Error(l)
	}
}
