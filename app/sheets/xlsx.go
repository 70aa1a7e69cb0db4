package sheets

import (
	"io"
	"runtime"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"
)

// XLSX writes lines as a workbook (ISO/IEC 29500) with types: numbers, amounts, days and times are such, all else is text, which no
// spreadsheet runs. Lines are streamed: what was written lies in a file of the system's, not in memory.
type XLSX struct {
	w      io.Writer
	file   *excelize.File
	stream *excelize.StreamWriter
	styles map[string]int // by their format of numbers
	row    int
	err    error
}

// mostSigns is how many a cell takes (ISO/IEC 29500-1, common practice of spreadsheets: 32,767).
const mostSigns = 32_767

// tidy is after how many lines what they left behind is collected: the library's own buffer grows to 32 MB, and the collector would let as
// much again lie beside it.
const tidy = 10_000

// NewXLSX begins a workbook with a head.
func NewXLSX(w io.Writer, head []string) *XLSX {
	s := &XLSX{w: w, file: excelize.NewFile(), styles: map[string]int{}}
	s.stream, s.err = s.file.NewStreamWriter("Sheet1")
	bold := 0
	if s.err == nil {
		bold, s.err = s.file.NewStyle(&excelize.Style{Font: &excelize.Font{Bold: true}})
	}
	cells := make([]any, len(head))
	for i, h := range head {
		cells[i] = excelize.Cell{StyleID: bold, Value: text(h)}
		if s.err == nil {
			s.err = s.stream.SetColWidth(i+1, i+1, float64(min(40, max(12, utf8.RuneCountInString(h)+4))))
		}
	}
	if s.err == nil {
		s.err = s.stream.SetPanes(&excelize.Panes{Freeze: true, YSplit: 1, TopLeftCell: "A2", ActivePane: "bottomLeft"})
	}
	s.write(cells)
	return s
}

// Add writes a line.
func (s *XLSX) Add(line []Cell) error {
	cells := make([]any, len(line))
	for i, c := range line {
		cells[i] = s.cell(c)
	}
	s.write(cells)
	return s.err
}

func (s *XLSX) cell(c Cell) any {
	switch {
	case c.Number != nil:
		// A spreadsheet's numbers have fifteen figures: one that has more would be another one.
		v, err := c.Number.Float64()
		if err != nil || c.Number.NumDigits() > 15 {
			return c.Number.Text('f')
		}
		if c.Currency == "" {
			return v
		}
		return excelize.Cell{StyleID: s.style(amount(c)), Value: v}
	case c.As == TimeAlone:
		return excelize.Cell{StyleID: s.style(shown[c.As]), Value: float64(c.At.Hour()*60+c.At.Minute()) / (24 * 60)} // parts of a day
	case !c.At.IsZero() && c.At.Before(firstDay):
		return c.Words()
	case !c.At.IsZero():
		at := c.At // cells have no zone: they show what the house's clock did
		return excelize.Cell{
			StyleID: s.style(shown[c.As]),
			Value:   time.Date(at.Year(), at.Month(), at.Day(), at.Hour(), at.Minute(), at.Second(), 0, time.UTC),
		}
	case c.Link && c.Text != "" && len(c.Text) < 255: // as long as a text inside a formula may be
		return excelize.Cell{Formula: `HYPERLINK("` + strings.ReplaceAll(c.Text, `"`, `""`) + `")`, Value: text(c.Text)}
	}
	return text(c.Text)
}

// firstDay is the first that spreadsheets count rightly: they know none before 1900, and a leap day in it that never was (ISO/IEC 29500-1,
// 18.17.4.1).
var firstDay = time.Date(1900, 3, 1, 0, 0, 0, 0, time.UTC)

// shown is how moments look in a cell.
var shown = map[Moment]string{
	Happened: "yyyy-mm-dd hh:mm:ss", DayAndTime: "yyyy-mm-dd hh:mm", DayAlone: "yyyy-mm-dd", TimeAlone: "hh:mm",
}

// amount is how an amount looks: with the decimals and the code of its currency.
func amount(c Cell) string {
	format := "#,##0"
	if c.Decimals > 0 {
		format += "." + strings.Repeat("0", c.Decimals)
	}
	return format + ` "` + strings.ReplaceAll(c.Currency, `"`, "") + `"`
}

// style is that of a format of numbers.
func (s *XLSX) style(format string) int {
	id, known := s.styles[format]
	if !known && s.err == nil {
		id, s.err = s.file.NewStyle(&excelize.Style{CustomNumFmt: &format})
		s.styles[format] = id
	}
	return id
}

// text is what a cell can hold.
func text(s string) string {
	s = strings.Map(func(r rune) rune {
		if r < ' ' && r != '\n' && r != '\t' {
			return -1
		}
		return r
	}, s)
	if utf8.RuneCountInString(s) > mostSigns {
		s = string([]rune(s)[:mostSigns-1]) + "…"
	}
	return s
}

func (s *XLSX) write(cells []any) {
	if s.row++; s.row%tidy == 0 {
		runtime.GC()
	}
	at, err := excelize.CoordinatesToCellName(1, s.row)
	if s.err == nil {
		s.err = err
	}
	if s.err == nil {
		s.err = s.stream.SetRow(at, cells)
	}
}

// Close writes the workbook; it gives the first error there was.
func (s *XLSX) Close() error {
	defer s.file.Close()
	if s.err == nil {
		s.err = s.stream.Flush()
	}
	if s.err == nil {
		_, s.err = s.file.WriteTo(s.w)
	}
	return s.err
}
