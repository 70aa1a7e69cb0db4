package sheets

import (
	"io"
	"runtime"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"
)

// XLSX writes lines as a workbook (ISO/IEC 29500) with types: numbers, days and moments are such, all else is text, which no spreadsheet
// runs. Lines are streamed: what was written lies in a file of the system's, not in memory.
type XLSX struct {
	w      io.Writer
	file   *excelize.File
	stream *excelize.StreamWriter
	day    int // style
	moment int
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
	s := &XLSX{w: w, file: excelize.NewFile()}
	s.stream, s.err = s.file.NewStreamWriter("Sheet1")
	style := func(format string, bold bool) (id int) {
		if s.err == nil {
			x := &excelize.Style{}
			if format != "" {
				x.CustomNumFmt = &format
			}
			if bold {
				x.Font = &excelize.Font{Bold: true}
			}
			id, s.err = s.file.NewStyle(x)
		}
		return id
	}
	bold := style("", true)
	s.day, s.moment = style("yyyy-mm-dd", false), style("yyyy-mm-dd hh:mm:ss", false)
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
		if v, err := c.Number.Float64(); err == nil && c.Number.NumDigits() <= 15 {
			return v
		}
		return c.Number.Text('f')
	case !c.At.IsZero():
		style := s.moment
		if c.Day {
			style = s.day
		}
		at := c.At // cells have no zone: they show what the house's clock did
		return excelize.Cell{
			StyleID: style,
			Value:   time.Date(at.Year(), at.Month(), at.Day(), at.Hour(), at.Minute(), at.Second(), 0, time.UTC),
		}
	case c.Link && c.Text != "" && len(c.Text) < 255: // as long as a text inside a formula may be
		return excelize.Cell{Formula: `HYPERLINK("` + strings.ReplaceAll(c.Text, `"`, `""`) + `")`, Value: text(c.Text)}
	}
	return text(c.Text)
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
