package code_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/cockroachdb/apd/v3"

	"amberseal/core/print/paper/code"
)

// The example that the guideline EPC069-12 prints, from memory and without its last line, which is for the payer's eyes.
func TestTransferOfTheGuideline(t *testing.T) {
	got, err := code.Transfer{
		Name:    "Red Cross of Belgium",
		IBAN:    "BE72 0000 0000 1616",
		BIC:     "BPOTBEB1",
		Amount:  apd.New(1, 0),
		Purpose: "CHAR",
		Text:    "Urgency fund",
	}.Words()
	want := "BCD\n001\n1\nSCT\nBPOTBEB1\nRed Cross of Belgium\nBE72000000001616\nEUR1\nCHAR\n\nUrgency fund"
	if err != nil || got != want {
		t.Errorf("%q, %v", got, err)
	}
}

func TestTransfers(t *testing.T) {
	good := code.Transfer{Name: "Łucja", IBAN: "de89 3704 0044 0532 0130 00"} // the IBAN registry's example for Germany
	if got, err := good.Words(); err != nil || got != "BCD\n002\n1\nSCT\n\nŁucja\nDE89370400440532013000" {
		t.Errorf("%q, %v", got, err)
	}
	for amount, want := range map[string]string{"237.6": "EUR237.60", "0.01": "EUR0.01", "999999999.99": "EUR999999999.99",
		"12.000": "EUR12"} {
		x := good
		x.Amount, _, _ = apd.NewFromString(amount)
		if got, err := x.Words(); err != nil || !strings.HasSuffix(got, "\n"+want) {
			t.Errorf("%s: %q, %v", amount, got, err)
		}
	}
	for name, spoil := range map[string]func(*code.Transfer){
		"a digit":       func(x *code.Transfer) { x.IBAN = "DE88370400440532013000" },
		"nothing":       func(x *code.Transfer) { x.IBAN = "" },
		"no name":       func(x *code.Transfer) { x.Name = " " },
		"a short BIC":   func(x *code.Transfer) { x.BIC = "BPOTB" },
		"zero":          func(x *code.Transfer) { x.Amount = apd.New(0, 0) },
		"a debt":        func(x *code.Transfer) { x.Amount = apd.New(-5, 0) },
		"half a cent":   func(x *code.Transfer) { x.Amount = apd.New(1005, -3) },
		"a billion":     func(x *code.Transfer) { x.Amount = apd.New(1, 9) },
		"many words":    func(x *code.Transfer) { x.Text = strings.Repeat("x", 141) },
		"many bytes":    func(x *code.Transfer) { x.Text = strings.Repeat("語", 140) },
		"small letters": func(x *code.Transfer) { x.Purpose = "char" },
	} {
		x := good
		spoil(&x)
		if got, err := x.Words(); err == nil {
			t.Errorf("%s was taken: %q", name, got)
		}
	}
}

// The examples of SWIFT's IBAN registry (from memory), one a country: each has its country's length and check digits. With a
// sign more or less, and check digits made right again, it is none.
func TestRegistryOfAccountNumbers(t *testing.T) {
	examples := strings.Fields(
		`AD1200012030200359100100 AE070331234567890123456 AL47212110090000000235698741 AT611904300234573201 AZ21NABZ00000000137010001944
		BA391290079401028494 BE68539007547034 BG80BNBG96611020345678 BH67BMAG00001299123456 BR9700360305000010009795493P1 ` +
			`CH9300762011623852957 CR05015202001026284066
		CY17002001280000001200527600 CZ6508000000192000145399 DE89370400440532013000 DK5000400440116243 DO28BAGR00000001212453611324 ` +
			`EE382200221020145685 ES9121000418450200051332
		FI2112345600000785 FO6264600001631634 FR1420041010050500013M02606 GB29NWBK60161331926819 GE29NB0000000101904917 ` +
			`GI75NWBK000000007099453 GL8964710001000206
		GR1601101250000000012300695 GT82TRAJ01020000001210029690 HR1210010051863000160 HU42117730161111101800000000 ` +
			`IE29AIBK93115212345678 IL620108000000099999999
		IS140159260076545510730339 IT60X0542811101000000123456 JO94CBJO0010000000000131000302 KW81CBKU0000000000001234560101 ` +
			`KZ86125KZT5004100100 LB62099900000001001901229114
		LI21088100002324013AA LT121000011101001000 LU280019400644750000 LV80BANK0000435195001 MC5811222000010123456789030 ` +
			`MD24AG000225100013104168 ME25505000012345678951
		MK07250120000058984 MR1300020001010000123456753 MT84MALT011000012345MTLCAST001S MU17BOMM0101101030300200000MUR ` +
			`NL91ABNA0417164300 NO9386011117947 PK36SCBL0000001123456702
		PL61109010140000071219812874 PS92PALS000000000400123456702 PT50000201231234567890154 QA58DOHB00001234567890ABCDEFG ` +
			`RO49AAAA1B31007593840000 RS35260005601001611379
		SA0380000000608010167519 SE4550000000058398257466 SI56263300012039086 SK3112000000198742637541 SM86U0322509800000000270100 ` +
			`TN5910006035183598478831
		TR330006100519786457841326 UA213223130000026007233566001 VA59001123000012345678 VG96VPVG0000012345678901 XK051212012345678906`,
	)
	for _, iban := range examples {
		if !code.IBAN(iban) {
			t.Errorf("%s is the registry's example", iban)
		}
		for _, account := range []string{iban[4:] + "0", iban[4 : len(iban)-1]} {
			for check := range 100 {
				if other := fmt.Sprintf("%s%02d%s", iban[:2], check, account); code.IBAN(other) {
					t.Errorf("%s has %d signs", other, len(other))
				}
			}
		}
	}
}
