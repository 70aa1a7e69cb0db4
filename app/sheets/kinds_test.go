package sheets_test

import (
	"bytes"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/xuri/excelize/v2"

	"amberseal/app/register"
	"amberseal/app/sheets"
	"amberseal/core/ask/form"
	"amberseal/core/words/house"
)

// Days, times, amounts and addresses are such in a workbook, and in CSV they are as other programs read them, whatever the language. What
// a spreadsheet cannot count, a day before 1900, is its words.
func TestKindsInSpreadsheets(t *testing.T) {
	f := form.Form{Fields: []form.Field{
		{Key: "at", Kind: form.DateTime, Label: "At"}, {Key: "hour", Kind: form.Time, Label: "Hour"},
		{Key: "midnight", Kind: form.Time, Label: "Midnight"}, {Key: "born", Kind: form.Date, Label: "Born"},
		{Key: "old", Kind: form.Date, Label: "Old"}, {Key: "page", Kind: form.WebAddress, Label: "Page"},
		{
			Key:   "fee",
			Kind:  form.Money,
			Label: "Fee",
		}, {Key: "yen", Kind: form.Money, Label: "Yen", Settings: form.Settings{Currency: "JPY"}},
		{Key: "many", Kind: form.WholeNumber, Label: "Many"}, {Key: "none", Kind: form.Date, Label: "None"},
	}}
	answers := form.Raw{}
	for key, text := range map[string]string{"at": `"2026-03-29T02:30"`, "hour": `"14:05"`, "midnight": `"00:00"`, "born": `"1999-12-31"`,
		"old": `"1899-12-31"`, "page": `"https://place.example/a"`, "fee": `"1234.5"`, "yen": `"1500"`, "many": `"2027"`} {
		answers[key] = []byte(text)
	}
	h := house.New()
	h.Language, h.Currency, h.Zone = "de-DE", "EUR", "Europe/Berlin"
	list := []register.Submission{{Number: "A-1", Version: 1, Answers: answers, Received: time.Date(2026, 12, 1, 18, 0, 0, 0, time.UTC)}}
	table := sheets.Whole(h, map[int]form.Form{1: f})

	var b bytes.Buffer
	if err := write(&b, table, list); err != nil {
		t.Fatal(err)
	}
	lines := strings.Split(strings.TrimSpace(b.String()), "\r\n")
	if want := `"A-1","2026-12-01T19:00:00+01:00","2026-03-29T02:30","14:05","00:00","1999-12-31","1899-12-31",` +
		`"https://place.example/a","1234.5","1500","2027",""`; len(lines) != 2 || lines[1] != want {
		t.Errorf("CSV has %q, not %q", lines[1:], want)
	}

	b.Reset()
	x := sheets.NewXLSX(&b, table.Head())
	for _, s := range list {
		if err := x.Add(table.Line(s, "")); err != nil {
			t.Fatal(err)
		}
	}
	if err := x.Close(); err != nil {
		t.Fatal(err)
	}
	file, err := excelize.OpenReader(&b)
	if err != nil {
		t.Fatal(err)
	}
	defer file.Close()
	shown, err := file.GetRows("Sheet1")
	if err != nil || len(shown) != 2 {
		t.Fatal(shown, err)
	}
	if want := []string{"A-1", "2026-12-01 19:00:00", "2026-03-29 02:30", "14:05", "00:00", "1999-12-31", "1899-12-31",
		"https://place.example/a", "1,234.50 EUR", "1,500 JPY", "2027"}; !slices.Equal(shown[1], want) {
		t.Errorf("the workbook shows %q, not %q", shown[1], want)
	}
	for cell, numeric := range map[string]bool{
		"B2": true, "C2": true, "D2": true, "E2": true, "F2": true, "G2": false, "I2": true, "K2": true,
	} {
		kind, err := file.GetCellType("Sheet1", cell)
		is := kind == excelize.CellTypeUnset || kind == excelize.CellTypeNumber || kind == excelize.CellTypeDate
		if err != nil || is != numeric {
			t.Errorf("%s is of type %v: %v", cell, kind, err)
		}
	}
	if formula, err := file.GetCellFormula("Sheet1", "H2"); err != nil || formula != `HYPERLINK("https://place.example/a")` {
		t.Errorf("the address is %q: %v", formula, err)
	}
}
