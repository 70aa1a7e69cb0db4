package sheets

import (
	"bufio"
	"io"
	"regexp"
	"strings"
)

// CSV writes lines as CSV (RFC 4180) in UTF-8 with a byte order mark, by which spreadsheets know the encoding (common practice).
// Numbers are plain decimals, days and times those of ISO 8601, what happened RFC 3339 in the house's zone, all other answers as people
// read them. Every cell is quoted, so
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

var harmless = regexp.MustCompile(`^[+-]?[0-9][0-9 .,]*%?$`)

// begins is what a spreadsheet takes for the beginning of a formula, also in wide letters, and behind spaces and signs nobody sees.
var begins = regexp.MustCompile(`^[\s\p{Cf}"]*[=+\-@＝＋－＠]`)

// listed is a line of a list as people write them: a stroke, and words that hold nothing which a formula needs to do anything.
var listed = regexp.MustCompile(`^\s*[-+] [^|!()=@＝＠]*$`)

// parts are what a spreadsheet makes cells of that parts them at other signs than commas: it sees no quotation mark but at a cell's
// beginning.
var parts = regexp.MustCompile(`[^;\t\n\r|]*(?:[;\t\n\r|]|$)`)

// cell puts a quote before what a spreadsheet would take for a formula. Numbers stay as they are, and inside of a cell the lines of a list.
func cell(s string) string {
	if harmless.MatchString(s) || !begins.MatchString(s) && !strings.ContainsAny(s, ";\t\n\r|") {
		return s
	}
	var b strings.Builder
	for at := 0; at < len(s); {
		part := parts.FindString(s[at:])
		line, _, _ := strings.Cut(s[at:], "\n")
		plain := harmless.MatchString(strings.TrimSpace(strings.TrimRight(part, ";\t\n\r|"))) || listed.MatchString(line)
		if begins.MatchString(part) && (at == 0 || !plain) {
			lead := len(part) - len(strings.TrimLeft(part, " "))
			b.WriteString(part[:lead] + "'")
			part = part[lead:]
			at += lead
		}
		b.WriteString(part)
		at += len(part)
	}
	return b.String()
}
