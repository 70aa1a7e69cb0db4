package workshop

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strings"
	"sync"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"

	"amberseal/core/ask/form"
	"amberseal/core/ask/schema"
)

// Limits of a table whose header is read.
const (
	MaxTable     = 10 << 20
	mostTableRow = 2_000 // rows looked at
	mostUnzipped = 16 << 20
	mostColumns  = 200
)

// unpacking lets one workbook be unpacked at a time.
var unpacking sync.Mutex

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
	fields := form.FromTable(rows[0], rows[1:])
	if len(fields) == 0 {
		return nil, Unreadable{"The first row names no columns."}
	}
	return fields, nil
}

func readWorkbook(data []byte) ([][]string, error) {
	unpacking.Lock()
	defer unpacking.Unlock()
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
		if len(cells) > mostColumns {
			return nil, Unreadable{
				fmt.Sprintf("Row %d has a cell beyond column %d; a form of so many questions cannot be made of it.", len(rows)+1,
					mostColumns),
			}
		}
		rows = append(rows, cells)
	}
	return rows, nil
}

// separators are those that programs write between cells (RFC 4180 knows the comma only); of two that part a table equally
// well the first is taken.
var separators = []rune{'\t', ';', '|', ','}

// readCSV reads a table by RFC 4180 with the separator that parts its rows into the most equal numbers of cells, or the one that a
// first line “sep=;” names.
func readCSV(data []byte) ([][]string, error) {
	text, err := decoded(data)
	if err != nil {
		return nil, err
	}
	if !strings.Contains(text, "\n") {
		text = strings.ReplaceAll(text, "\r", "\n")
	}
	if rest, ok := strings.CutPrefix(text, "sep="); ok && len(rest) > 1 {
		sep, size := utf8.DecodeRuneInString(rest)
		if _, body, ok := strings.Cut(rest[size:], "\n"); ok && sep != '"' && sep != '\n' && sep != '\r' {
			rows, err := cellsOf(body, sep, true)
			return rows, unreadable(err)
		}
	}
	var best [][]string
	most := -1
	for _, lazy := range []bool{false, true} { // quotes inside of cells are taken as they are only where nothing else helps
		for _, sep := range separators {
			rows, err := cellsOf(text, sep, lazy)
			if err != nil {
				continue
			}
			if n := evenness(rows); n > most {
				best, most = rows, n
			}
		}
		if best != nil {
			return best, nil
		}
	}
	_, err = cellsOf(text, ',', true)
	return nil, unreadable(err)
}

func unreadable(err error) error {
	if err == nil {
		return nil
	}
	return Unreadable{"The table cannot be read: " + err.Error() + "."}
}

func cellsOf(text string, sep rune, lazy bool) ([][]string, error) {
	r := csv.NewReader(strings.NewReader(text))
	r.Comma, r.LazyQuotes, r.FieldsPerRecord = sep, lazy, -1
	var rows [][]string
	for len(rows) < mostTableRow {
		cells, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, err
		}
		rows = append(rows, cells)
	}
	return rows, nil
}

// evenness is how well a separator parts a table: by the number of its columns where all rows have as many, else by few points.
func evenness(rows [][]string) int {
	if len(rows) == 0 {
		return -1
	}
	width, odd := len(rows[0]), 0
	for _, r := range rows {
		if len(r) != width {
			odd++
		}
	}
	if width < 2 {
		return 0
	}
	return 1 + width*1000*(len(rows)-odd)/len(rows)/(1+odd)
}

// decoded is the text of a file in the encodings that people's programs write: UTF-8, UTF-16, and the Windows ones for the west and the
// middle of Europe, which are told apart by the letters that come out.
func decoded(data []byte) (string, error) {
	wide := func(e unicode.Endianness) (string, error) {
		out, err := unicode.UTF16(e, unicode.UseBOM).NewDecoder().Bytes(data)
		return string(out), err
	}
	switch {
	case bytes.HasPrefix(data, []byte("\uFEFF")):
		data = data[3:]
	case bytes.HasPrefix(data, []byte{0xFF, 0xFE}):
		return wide(unicode.LittleEndian)
	case bytes.HasPrefix(data, []byte{0xFE, 0xFF}):
		return wide(unicode.BigEndian)
	case len(data) > 3 && data[1] == 0 && data[3] == 0:
		return wide(unicode.LittleEndian)
	case len(data) > 3 && data[0] == 0 && data[2] == 0:
		return wide(unicode.BigEndian)
	}
	if bytes.IndexByte(data, 0) >= 0 {
		return "", Unreadable{"The file is no table. Save it as CSV or XLSX."}
	}
	if utf8.Valid(data) {
		return string(data), nil
	}
	west, err := charmap.Windows1252.NewDecoder().Bytes(data)
	if err != nil {
		return "", Unreadable{"The file is not a table in a usual encoding. Save it as CSV (UTF-8) or XLSX."}
	}
	middle, err := charmap.Windows1250.NewDecoder().Bytes(data)
	if err == nil && count(middle, "ąćęłńśźżĄĆĘŁŃŚŹŻčďěňřšťůžČĎĚŇŘŠŤŮŽőűŐŰ") > count(west, "àâäæçèéêëîïñòôöùûüßœÀÂÄÆÇÈÉÊËÎÏÑÒÔÖÙÛÜŒ¿¡") {
		return string(middle), nil
	}
	return string(west), nil
}

// count is how often one of the letters stands in a text.
func count(text []byte, letters string) int {
	n := 0
	for _, r := range string(text) {
		if strings.ContainsRune(letters, r) {
			n++
		}
	}
	return n
}

// ReadSchema makes fields of a JSON Schema.
func ReadSchema(data []byte) (name string, fields []form.Field, err error) {
	name, fields, err = schema.Read(data)
	if err != nil {
		return "", nil, Unreadable{strings.ToUpper(err.Error()[:1]) + err.Error()[1:] + "."}
	}
	return name, fields, nil
}
