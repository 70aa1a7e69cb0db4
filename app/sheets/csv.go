package sheets

import (
	"bufio"
	"io"
	"regexp"
	"strings"
)

// CSV writes lines as CSV (RFC 4180) in UTF-8 with a byte order mark, by which spreadsheets know the encoding (common practice).
// Numbers are plain decimals, times RFC 3339 in the house's zone, all other answers as people read them. Every cell is quoted, so
// that a spreadsheet that parts cells at other signs makes no new ones.
type CSV struct{ w *bufio.Writer }

// NewCSV begins a file with its head.
func NewCSV(w io.Writer, head []string) *CSV {
	s := &CSV{bufio.NewWriter(w)}
	s.w.WriteString("\uFEFF") // an error is kept for Flush
	s.write(head)
	return s
}

// Add writes a line.
func (s *CSV) Add(line []Cell) error {
	cells := make([]string, len(line))
	for i, c := range line {
		cells[i] = c.Words()
	}
	s.write(cells)
	return nil
}

// Close writes what is left; it gives the first error there was.
func (s *CSV) Close() error { return s.w.Flush() }

func (s *CSV) write(cells []string) {
	for i, c := range cells {
		if i > 0 {
			s.w.WriteByte(',')
		}
		s.w.WriteByte('"')
		s.w.WriteString(strings.ReplaceAll(cell(c), `"`, `""`))
		s.w.WriteByte('"')
	}
	s.w.WriteString("\r\n")
}

var harmless = regexp.MustCompile(`^[+-]?[0-9][0-9 .,]*$`)

// begins is what a spreadsheet takes for the beginning of a formula, also in wide letters, behind spaces and signs nobody sees, and
// behind a sign that it parts cells at.
var begins = regexp.MustCompile(`(^|[;\t\n\r|])([\s\p{Cf}"]*[=+\-@＝＋－＠])`)

// cell puts a quote before what a spreadsheet would take for a formula; numbers stay as they are.
func cell(s string) string {
	if harmless.MatchString(s) {
		return s
	}
	return begins.ReplaceAllString(s, "$1'$2")
}
