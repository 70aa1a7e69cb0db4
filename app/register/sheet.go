package register

import (
	"bufio"
	"io"
	"regexp"
	"slices"
	"strings"
	"time"

	"amberseal/core/ask/form"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

// Sheet writes submissions of one intake as CSV (RFC 4180) in UTF-8 with a byte order mark, by which spreadsheets know
// the encoding (common practice). One line is a submission, one column a question of any version, the last form's first.
// Numbers are plain decimals, times RFC 3339 in the house's zone, all other answers as people read them. Every cell is quoted, so
// that a spreadsheet that parts cells at other signs makes no new ones.
type Sheet struct {
	w       *bufio.Writer
	house   house.House
	forms   map[int]form.Form
	columns []form.Field
}

// NewSheet begins a sheet with its header. forms are those of all versions.
func NewSheet(w io.Writer, h house.House, forms map[int]form.Form) (*Sheet, error) {
	s := &Sheet{w: bufio.NewWriter(w), house: h, forms: forms}
	for _, version := range slices.Backward(versions(forms)) {
		for _, x := range forms[version].Fields {
			known := slices.ContainsFunc(s.columns, func(c form.Field) bool { return c.Key == x.Key })
			if x.Answered() && !known {
				s.columns = append(s.columns, x)
			}
		}
	}
	s.w.WriteString("\uFEFF") // an error is kept for Flush
	head := []string{"Number", "Received"}
	for _, c := range s.columns {
		head = append(head, c.Label)
	}
	s.line(head)
	return s, s.w.Flush()
}

// Add writes some submissions.
func (s *Sheet) Add(list []Submission) error {
	for _, x := range list {
		f := s.forms[x.Version]
		facts := phrase.Facts{
			House:    s.house,
			Intake:   x.IntakeName,
			Form:     f,
			Answers:  form.Load(f, x.Answers),
			Received: x.Received,
			Number:   x.Number,
		}
		line := []string{x.Number, x.Received.In(s.house.Location()).Format(time.RFC3339)}
		for _, c := range s.columns {
			text := ""
			if x, ok := f.Field(c.Key); ok {
				if v := facts.Answers[c.Key]; v.Number != nil {
					text = v.Number.Text('f')
				} else {
					text = facts.Text(x)
				}
			}
			line = append(line, text)
		}
		s.line(line)
	}
	return s.w.Flush()
}

func (s *Sheet) line(cells []string) {
	for i, c := range cells {
		if i > 0 {
			s.w.WriteByte(',')
		}
		s.w.WriteString(`"` + strings.ReplaceAll(cell(c), `"`, `""`) + `"`)
	}
	s.w.WriteString("\r\n")
}

func versions(forms map[int]form.Form) []int {
	var out []int
	for v := range forms {
		out = append(out, v)
	}
	slices.Sort(out)
	return out
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
