package design_test

import (
	"bytes"
	"strings"
	"testing"

	"github.com/xuri/excelize/v2"

	"amberseal/app/design"
	"amberseal/core/form"
)

// A workbook written by excelize, an open-source library of its own.
func TestHeaderRowOfAWorkbook(t *testing.T) {
	f := excelize.NewFile()
	for i, row := range [][]any{{"Name", "Mail", "Born", "Seats"}, {"Ada", "ada@x.example", "1990-01-02", 3}, {"Bo", "bo@x.example", "1991-03-04", 12}} {
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
	fields, err := design.ReadTable(b.Bytes())
	if err != nil || len(fields) != 4 || fields[1].Kind != form.Email || fields[2].Kind != form.Date || fields[3].Kind != form.WholeNumber || !fields[0].Required {
		t.Errorf("%+v %v", fields, err)
	}
}

func TestTablesThatCannotBeRead(t *testing.T) {
	for name, data := range map[string]string{"nothing": "", "blank lines": "\n\n ,\n", "a broken workbook": "PK\x03\x04 and no more", "another encoding": "Name;Größe\n\xff\xfe"} {
		if fields, err := design.ReadTable([]byte(data)); err == nil || !strings.HasSuffix(err.Error(), ".") {
			t.Errorf("%s gave %v %v", name, fields, err)
		}
	}
	if fields, err := design.ReadTable([]byte("\uFEFFName\tTel.\nAda\t020 7946 0123")); err != nil || len(fields) != 2 || fields[1].Kind != form.Phone {
		t.Errorf("tabs: %v %v", fields, err)
	}
}
