package workshop_test

import (
	"bytes"
	"encoding/csv"
	"math/rand/v2"
	"os"
	"strings"
	"testing"

	"github.com/xuri/excelize/v2"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"

	"amberseal/app/workshop"
	"amberseal/core/ask/form"
)

// A workbook written by excelize, an open-source library of its own.
func TestHeaderRowOfAWorkbook(t *testing.T) {
	f := excelize.NewFile()
	for i, row := range [][]any{{"Name", "Mail", "Born", "Seats"}, {"Ada", "ada@x.example", "1990-01-02", 3},
		{"Bo", "bo@x.example", "1991-03-04", 12}} {
		cell, err := excelize.CoordinatesToCellName(1, i+1)
		if err != nil {
			t.Fatal(err)
		}
		if err := f.SetSheetRow("Sheet1", cell, &row); err != nil {
			t.Fatal(err)
		}
	}
	var b bytes.Buffer
	if err := f.Write(&b); err != nil {
		t.Fatal(err)
	}
	fields, err := workshop.ReadTable(b.Bytes())
	if err != nil || len(fields) != 4 || fields[1].Kind != form.Email || fields[2].Kind != form.Date ||
		fields[3].Kind != form.WholeNumber ||
		!fields[0].Required {
		t.Errorf("%+v %v", fields, err)
	}
}

func TestTablesThatCannotBeRead(t *testing.T) {
	for name, data := range map[string]string{"nothing": "", "blank lines": "\n\n ,\n", "a broken workbook": "PK\x03\x04 and no more"} {
		if fields, err := workshop.ReadTable([]byte(data)); err == nil || !strings.HasSuffix(err.Error(), ".") {
			t.Errorf("%s gave %v %v", name, fields, err)
		}
	}
	if fields, err := workshop.ReadTable([]byte("\uFEFFName\tTel.\nAda\t020 7946 0123")); err != nil || len(fields) != 2 ||
		fields[1].Kind != form.Phone {
		t.Errorf("tabs: %v %v", fields, err)
	}
}

// Tables as people's programs write them: separators, encodings and line ends, and what Excel puts before.
func TestTablesOfAllPrograms(t *testing.T) {
	west, err := charmap.Windows1252.NewEncoder().String("Straße;Größe\r\nHöhe 3;12,50\r\n")
	if err != nil {
		t.Fatal(err)
	}
	middle, err := charmap.Windows1250.NewEncoder().String("Imię i nazwisko;Miejscowość\r\nŁucja Brzęk;Łódź\r\n")
	if err != nil {
		t.Fatal(err)
	}
	wide, err := unicode.UTF16(unicode.LittleEndian, unicode.UseBOM).NewEncoder().String("Name\tGröße\nÅsa\t3\n")
	if err != nil {
		t.Fatal(err)
	}
	for name, c := range map[string]struct{ data, labels string }{
		"the separator inside of quotes": {"\"Street, number, floor\";\"Town, region, country\"\n\"1, 2, 3\";\"a, b, c\"\n",
			"Street, number, floor|Town, region, country"},
		"as many commas":           {"Artikel;Preis (netto, €)\nSchraube;1,50\n", "Artikel|Preis (netto, €)"},
		"a break inside of quotes": {"\"First\nline\",Second\na,b\n", "First line|Second"},
		"ends of an old Mac":       {"Name,Email\rAda,a@b.example\r", "Name|Email"},
		"what Excel puts before":   {"sep=;\r\nName;Note, if any\r\nA;b\r\n", "Name|Note, if any"},
		"the west of Europe":       {west, "Straße|Größe"},
		"the middle of Europe":     {middle, "Imię i nazwisko|Miejscowość"},
		"two bytes a letter":       {wide, "Name|Größe"},
		"a quote that is none":     {"Size,Name\n5\" pipe,x\n", "Size|Name"},
	} {
		fields, err := workshop.ReadTable([]byte(c.data))
		var labels []string
		for _, f := range fields {
			labels = append(labels, f.Label)
		}
		if got := strings.Join(labels, "|"); err != nil || got != c.labels {
			t.Errorf("%s: %q %v, want %q", name, got, err, c.labels)
		}
	}
}

// Whatever the standard library's writer writes (RFC 4180), with any separator, is read with as many columns.
func TestRandomTables(t *testing.T) {
	random := rand.New(rand.NewPCG(4, 180))
	signs := []rune("ab cd,;|\t\"\n'ö1.")
	sheets := 500
	if os.Getenv("AMBERSEAL_THOROUGH") != "" {
		sheets *= 20
	}
	for n := range sheets {
		var b bytes.Buffer
		w := csv.NewWriter(&b)
		w.Comma = []rune{',', ';', '\t', '|'}[n%4]
		columns := 2 + random.IntN(6)
		for row := range 3 + random.IntN(10) {
			cells := make([]string, columns)
			for i := range cells {
				cells[i] = "C" + string(rune('a'+i))
				for range random.IntN(8) {
					cells[i] += string(signs[random.IntN(len(signs))])
				}
				if row == 0 {
					cells[i] = "Column " + string(rune('A'+i)) + cells[i]
				}
			}
			if err := w.Write(cells); err != nil {
				t.Fatal(err)
			}
		}
		w.Flush()
		if fields, err := workshop.ReadTable(b.Bytes()); err != nil || len(fields) != columns {
			t.Errorf("table %d parted by %q has %d columns, read as %d: %v\n%s", n, w.Comma, columns, len(fields), err, b.String())
		}
	}
}

// A workbook with a cell far to the right is refused before it fills the memory.
func TestAWideWorkbook(t *testing.T) {
	f := excelize.NewFile()
	for row := 1; row < 50; row++ {
		cell, err := excelize.CoordinatesToCellName(16_384, row)
		if err != nil {
			t.Fatal(err)
		}
		if err := f.SetCellValue("Sheet1", cell, "x"); err != nil {
			t.Fatal(err)
		}
	}
	var b bytes.Buffer
	if err := f.Write(&b); err != nil {
		t.Fatal(err)
	}
	if _, err := workshop.ReadTable(b.Bytes()); err == nil || !strings.Contains(err.Error(), "column 200") {
		t.Errorf("it gave %v", err)
	}
}
