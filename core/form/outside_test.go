package form_test

import (
	"encoding/json"
	"testing"

	"github.com/nyaruka/phonenumbers"

	"amberseal/core/form"
	"amberseal/core/locale"
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
		if got := locale.For(language).Phone("+442079460123"); got != want {
			t.Errorf("in %s it is shown as %s, want %s", language, got, want)
		}
	}
}

// Addresses of RFC 5322 appendix A.1 and RFC 6531, and forms that their grammars refuse. We also refuse what no mail
// reaches from the outside: literals, quoted local parts and names without a dot.
func TestEmailExamplesOfTheStandards(t *testing.T) {
	f := form.Form{Fields: []form.Field{{Key: "e", Kind: form.Email, Label: "E"}}}
	for address, ok := range map[string]bool{
		"jdoe@machine.example": true, "mary@example.net": true, "john.q.public@example.com": true, "sisters+news@example.org": true, "o'hara@example.com": true, "用户@例子.example": true, "pelé@example.com": true, "a@b.c.d.example": true,
		"plain": false, "@example.com": false, "a@": false, "a@b@c.example": false, ".a@example.com": false, "a.@example.com": false, "a..b@example.com": false, "a b@example.com": false, "John Doe <jdoe@machine.example>": false, "a@[192.0.2.1]": false, `"quoted"@example.com`: false, "a@example": false, "a@example.com\nBcc: x@y.example": false,
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
