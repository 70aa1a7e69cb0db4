package code_test

import (
	"strings"
	"testing"

	"github.com/cockroachdb/apd/v3"

	"amberseal/core/code"
)

// The example that the guideline EPC069-12 prints, from memory and without its last line, which is for the payer's eyes.
func TestTransferOfTheGuideline(t *testing.T) {
	got, err := code.Transfer{Name: "Red Cross of Belgium", IBAN: "BE72 0000 0000 1616", BIC: "BPOTBEB1", Amount: apd.New(1, 0), Purpose: "CHAR", Text: "Urgency fund"}.Words()
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
	for amount, want := range map[string]string{"237.6": "EUR237.60", "0.01": "EUR0.01", "999999999.99": "EUR999999999.99", "12.000": "EUR12"} {
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
