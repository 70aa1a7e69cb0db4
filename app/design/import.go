package design

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strings"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"

	"amberseal/core/form"
	"amberseal/core/schema"
)

// Limits of a table whose header is read.
const (
	MaxTable     = 10 << 20
	mostTableRow = 2_000 // rows looked at
	mostUnzipped = 64 << 20
)

// Unreadable is the error of a file that cannot be read, in words for the one who sent it.
type Unreadable struct{ Reason string }

func (u Unreadable) Error() string { return u.Reason }

// ReadTable makes fields of the header row of a CSV or XLSX file, their kinds guessed from the values.
func ReadTable(data []byte) ([]form.Field, error) {
	var rows [][]string
	var err error
	if bytes.HasPrefix(data, []byte("PK")) {
		rows, err = readWorkbook(data)
	} else {
		rows, err = readCSV(data)
	}
	if err != nil {
		return nil, err
	}
	for len(rows) > 0 && strings.TrimSpace(strings.Join(rows[0], "")) == "" {
		rows = rows[1:]
	}
	if len(rows) == 0 {
		return nil, Unreadable{"The table is empty; its first row should name the columns."}
	}
	return form.FromTable(rows[0], rows[1:]), nil
}

func readWorkbook(data []byte) ([][]string, error) {
	f, err := excelize.OpenReader(bytes.NewReader(data), excelize.Options{UnzipSizeLimit: mostUnzipped, UnzipXMLSizeLimit: mostUnzipped})
	if err != nil {
		return nil, Unreadable{"This is not a spreadsheet that can be read, or it is too large unpacked."}
	}
	defer f.Close()
	sheets := f.GetSheetList()
	if len(sheets) == 0 {
		return nil, nil
	}
	lines, err := f.Rows(sheets[0])
	if err != nil {
		return nil, Unreadable{"The first sheet cannot be read."}
	}
	defer lines.Close()
	var rows [][]string
	for lines.Next() && len(rows) < mostTableRow {
		cells, err := lines.Columns()
		if err != nil {
			return nil, Unreadable{fmt.Sprintf("Row %d cannot be read.", len(rows)+1)}
		}
		rows = append(rows, cells)
	}
	return rows, nil
}

// readCSV takes commas, semicolons or tabs between cells, whichever the first line has most of.
func readCSV(data []byte) ([][]string, error) {
	data = bytes.TrimPrefix(data, []byte("\uFEFF"))
	if !utf8.Valid(data) {
		return nil, Unreadable{"The file is not a table in UTF-8. Save it as CSV (UTF-8) or XLSX."}
	}
	first, _, _ := bytes.Cut(data, []byte("\n"))
	r := csv.NewReader(bytes.NewReader(data))
	for _, sep := range ";\t" {
		if strings.Count(string(first), string(sep)) > strings.Count(string(first), string(r.Comma)) {
			r.Comma = sep
		}
	}
	r.FieldsPerRecord, r.LazyQuotes = -1, true
	var rows [][]string
	for len(rows) < mostTableRow {
		cells, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, Unreadable{"The table cannot be read: " + err.Error() + "."}
		}
		rows = append(rows, cells)
	}
	return rows, nil
}

// ReadSchema makes fields of a JSON Schema.
func ReadSchema(data []byte) (name string, fields []form.Field, err error) {
	name, fields, err = schema.Read(data)
	if err != nil {
		return "", nil, Unreadable{strings.ToUpper(err.Error()[:1]) + err.Error()[1:] + "."}
	}
	return name, fields, nil
}
