package code

import (
	"fmt"
	"regexp"
	"strings"
	"unicode/utf8"

	"github.com/cockroachdb/apd/v3"
)

// Transfer is a SEPA credit transfer that a banking app reads from a QR code (EPC069-12, Quick Response Code guidelines
// of the European Payments Council). Amounts are euros.
type Transfer struct {
	Name    string       // of the payee, at most 70 characters
	IBAN    string       // spaces do not matter
	BIC     string       // may be empty in the European Economic Area
	Amount  *apd.Decimal // 0.01 to 999,999,999.99; nil lets the payer write it
	Purpose string       // ISO 20022 code of up to four letters, or nothing
	Text    string       // what the payee reads, at most 140 characters
}

var (
	ibanForm    = regexp.MustCompile(`^[A-Z]{2}[0-9]{2}[A-Z0-9]{11,30}$`)
	bicForm     = regexp.MustCompile(`^[A-Z]{6}[A-Z0-9]{2}([A-Z0-9]{3})?$`)
	purposeForm = regexp.MustCompile(`^[A-Z]{0,4}$`)
	cents       = apd.BaseContext.WithPrecision(12)
)

// mostTransferBytes is how much a code may hold, so that it is at most of version 13.
const mostTransferBytes = 331

// Words are what the code says, lines parted by line feeds. The error says in plain words what is wrong.
func (t Transfer) Words() (string, error) {
	iban := bare(t.IBAN)
	switch {
	case !IBAN(iban):
		return "", fmt.Errorf("“%s” is no IBAN; one of its signs is wrong or missing", t.IBAN)
	case bare(t.BIC) != "" && !bicForm.MatchString(bare(t.BIC)):
		return "", fmt.Errorf("“%s” is no BIC, which has 8 or 11 letters and digits", t.BIC)
	case strings.TrimSpace(t.Name) == "" || utf8.RuneCountInString(t.Name) > 70:
		return "", fmt.Errorf("the payee’s name must have 1 to 70 characters")
	case !purposeForm.MatchString(t.Purpose):
		return "", fmt.Errorf("“%s” is no purpose, which has up to four capital letters", t.Purpose)
	case utf8.RuneCountInString(t.Text) > 140:
		return "", fmt.Errorf("the words for the payee have more than 140 characters")
	}
	version := "001"
	if bare(t.BIC) == "" {
		version = "002"
	}
	amount := ""
	if t.Amount != nil {
		var d apd.Decimal
		exact, err := cents.Quantize(&d, t.Amount, -2)
		if err != nil || exact.Inexact() || d.Sign() <= 0 || d.NumDigits() > 11 {
			return "", fmt.Errorf("an amount of %s cannot be transferred; it must be 0.01 to 999999999.99 euros", t.Amount.Text('f'))
		}
		amount = "EUR" + strings.TrimSuffix(d.Text('f'), ".00")
	}
	line := strings.NewReplacer("\r\n", " ", "\n", " ", "\r", " ")
	words := strings.TrimRight(strings.Join([]string{
		"BCD", version, "1", "SCT", bare(t.BIC), line.Replace(strings.TrimSpace(t.Name)), iban, amount, t.Purpose, "", line.Replace(t.Text),
	}, "\n"), "\n")
	if len(words) > mostTransferBytes {
		return "", fmt.Errorf("the payment has %d bytes, at most %d fit its code; shorten its words", len(words), mostTransferBytes)
	}
	return words, nil
}

func bare(s string) string { return strings.ToUpper(strings.Join(strings.Fields(s), "")) }

// ibanLengths are how many signs the account numbers of each country have, as SWIFT's registry of ISO 13616 lists them (from
// memory; the tests hold the registry's examples against them).
var ibanLengths = map[int]string{
	15: "NO", 16: "BE", 18: "DK FI FK FO GL NL SD", 19: "MK SI", 20: "AT BA EE KZ LT LU MN XK", 21: "CH HR LI LV",
	22: "BG BH CR DE GB GE IE ME RS VA",
	23: "AE GI IL IQ OM SO TL", 24: "AD CZ ES MD PK RO SA SE SK TN VG", 25: "LY PT ST", 26: "IS TR", 27: "BI DJ FR GR IT MC MR SM",
	28: "AL AZ BY CY DO GT HN HU LB NI PL SV",
	29: "BR EG PS QA UA", 30: "JO KW MU YE", 31: "MT SC", 32: "LC", 33: "RU",
}

// IBAN reports whether an account number in capitals without spaces has its country's length, the form and the check digits of
// ISO 13616 (ISO 7064, MOD 97-10).
func IBAN(s string) bool {
	if !ibanForm.MatchString(s) || !strings.Contains(ibanLengths[len(s)], s[:2]) {
		return false
	}
	rest := 0
	for _, c := range s[4:] + s[:4] {
		if c >= 'A' {
			rest = (rest*100 + int(c-'A') + 10) % 97
		} else {
			rest = (rest*10 + int(c-'0')) % 97
		}
	}
	return rest == 1
}
