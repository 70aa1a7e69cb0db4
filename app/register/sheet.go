package register

import (
	"encoding/csv"
	"io"
	"regexp"
	"slices"
	"strings"
	"time"

	"amberseal/core/form"
	"amberseal/core/house"
	"amberseal/core/phrase"
)

// Sheet writes submissions of one intake as CSV (RFC 4180) in UTF-8 with a byte order mark, by which spreadsheets know
// the encoding (common practice). One line is a submission, one column a question of any version, the last form's first.
// Numbers are plain decimals, times RFC 3339 in the house's zone, all other answers as people read them.
func Sheet(w io.Writer, h house.House, list []Submission, forms map[int]form.Form) error {
	var columns []form.Field
	for _, version := range slices.Backward(versions(forms)) {
		for _, x := range forms[version].Fields {
			known := slices.ContainsFunc(columns, func(c form.Field) bool { return c.Key == x.Key })
			if x.Answered() && !known {
				columns = append(columns, x)
			}
		}
	}
	if _, err := io.WriteString(w, "\uFEFF"); err != nil {
		return err
	}
	out := csv.NewWriter(w)
	out.UseCRLF = true
	head := []string{"Number", "Received"}
	for _, c := range columns {
		head = append(head, cell(c.Label))
	}
	if err := out.Write(head); err != nil {
		return err
	}
	for _, s := range list {
		f := forms[s.Version]
		facts := phrase.Facts{House: h, Intake: s.IntakeName, Form: f, Answers: form.Load(f, s.Answers), Received: s.Received, Number: s.Number}
		line := []string{cell(s.Number), s.Received.In(h.Location()).Format(time.RFC3339)}
		for _, c := range columns {
			text := ""
			if x, ok := f.Field(c.Key); ok {
				if v := facts.Answers[c.Key]; v.Number != nil {
					text = v.Number.Text('f')
				} else {
					text = facts.Text(x)
				}
			}
			line = append(line, cell(text))
		}
		if err := out.Write(line); err != nil {
			return err
		}
	}
	out.Flush()
	return out.Error()
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

// cell puts a quote before what a spreadsheet would take for a formula; numbers stay as they are.
func cell(s string) string {
	if s != "" && strings.ContainsRune("=+-@\t\r", rune(s[0])) && !harmless.MatchString(s) {
		return "'" + s
	}
	return s
}
