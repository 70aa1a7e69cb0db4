// Package finding says what is wrong, where, and how to mend it.
//
// Checks in core return every finding they make, worst first, never only the
// first. A finding's place is a path of names from the whole to the part
// ("documents/receipt/blocks/greeting"), which the interface can jump to.
package finding

import (
	"fmt"
	"slices"
	"strings"
)

// Level is how much a finding matters.
type Level string

// A Fault must be mended before an intake can be opened; a Notice is worth a look.
const (
	Fault  Level = "fault"
	Notice Level = "notice"
)

// Finding is one thing that is wrong. Its sentences are those of its code in sentences.json with its values in them, in English; an
// interface in another language writes its own from Code and Values. What was said to a respondent has no code: it is in their language.
type Finding struct {
	Place   string            `json:"place"`
	Level   Level             `json:"level"`
	Code    string            `json:"code,omitempty"`
	Values  map[string]string `json:"values,omitempty"`
	Message string            `json:"message"`
	Mend    string            `json:"mend,omitempty"`
	Write   string            `json:"write,omitempty"` // what the part at the place is to read instead, where that mends it
}

func (f Finding) String() string {
	if f.Mend == "" {
		return fmt.Sprintf("%s: %s", f.Place, f.Message)
	}
	return fmt.Sprintf("%s: %s %s", f.Place, f.Message, f.Mend)
}

// List is what a check found, in the order found until Sort is called.
type List []Finding

// Fault adds a fault at the place. The values are names and values in turn, as in log/slog, for the braces of the code's sentences.
func (l *List) Fault(place, code string, values ...any) {
	*l = append(*l, coded(place, Fault, code, values))
}

// Notice adds something worth a look at the place; its values are those of Fault.
func (l *List) Notice(place, code string, values ...any) {
	*l = append(*l, coded(place, Notice, code, values))
}

// Of makes a finding of a code that has no place yet; its values are those of Fault.
func Of(code string, values ...any) Finding { return coded("", "", code, values) }

// Add adds a finding at a level.
func (l *List) Add(level Level, f Finding) {
	f.Level = level
	*l = append(*l, f)
}

// Told adds a fault in words that were written for a respondent, in their language.
func (l *List) Told(place, words string) {
	*l = append(*l, Finding{Place: place, Level: Fault, Message: words})
}

// Faults counts the faults.
func (l List) Faults() int {
	n := 0
	for _, f := range l {
		if f.Level == Fault {
			n++
		}
	}
	return n
}

// Sort puts faults before notices and keeps the order otherwise.
func (l List) Sort() {
	slices.SortStableFunc(l, func(a, b Finding) int { return strings.Compare(string(a.Level), string(b.Level)) })
}

// Err is the list as an error, one finding a line, or nil when it has no fault.
func (l List) Err() error {
	if l.Faults() == 0 {
		return nil
	}
	return listError{l}
}

type listError struct{ list List }

func (e listError) Error() string {
	lines := make([]string, 0, len(e.list))
	for _, f := range e.list {
		if f.Level == Fault {
			lines = append(lines, f.String())
		}
	}
	return strings.Join(lines, "\n")
}
