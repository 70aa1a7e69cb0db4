package filing

import (
	"slices"
	"strconv"
	"strings"

	"amberseal/core/ask/form"
	"amberseal/core/words/finding"
	"amberseal/core/words/phrase"
)

// Register is a running register: a spreadsheet file at a destination with a line for each submission.
type Register struct {
	Key     string        `json:"key"`
	Name    string        `json:"name"`
	When    string        `json:"when,omitempty"` // formula; every submission has a line when empty
	As      Sheet         `json:"as,omitempty"`   // CSV when empty
	To      string        `json:"to,omitempty"`   // key of a destination of the house; its cabinet when empty
	Path    phrase.Phrase `json:"path"`           // folders parted by /, without the ending
	Columns []Column      `json:"columns"`
}

// Column is one column of a register.
type Column struct {
	Of   string `json:"of"`             // name of a field, or one of the words that begin with @
	Name string `json:"name,omitempty"` // its head; the question when empty
}

// What columns say besides answers.
const (
	ByNumber   = "@number"
	ByArrival  = "@received"
	ByRevision = "@revision"
	ByFiled    = "@filed" // where what was filed first is opened
)

// Sheet is the form of a register's file.
type Sheet string

// The forms.
const (
	CSV  Sheet = "csv"  // RFC 4180
	XLSX Sheet = "xlsx" // ISO/IEC 29500
)

// Form is the form of its file, which is its ending too.
func (x Register) Form() Sheet {
	if x.As == "" {
		return CSV
	}
	return x.As
}

// Destination is the key of the destination where it lies.
func (x Register) Destination() string { return Filing{To: given(x.To)}.Destinations()[0] }

func given(s string) []string {
	if s == "" {
		return nil
	}
	return []string{s}
}

// Says reports whether a column says something.
func (x Register) Says(of string) bool {
	return slices.ContainsFunc(x.Columns, func(c Column) bool { return c.Of == of })
}

// Check finds what is wrong with it. Places begin with registers/KEY. Its path is that of many submissions, and speaks of none.
func (x Register) Check(f form.Form) finding.List {
	var l finding.List
	place := "registers/" + x.Key
	l = append(l, phrase.CheckCondition(place, x.When, phrase.Scope{Form: f})...)
	if len(x.Path) == 0 {
		l.Fault(place+"/path", "filing.no-path", "example", "{{@intake}}/Register")
	}
	for _, s := range x.Path {
		if s.Field != "" && s.Field != "@intake" && s.Field != "@house" || s.When != "" {
			l.Fault(place+"/path", "filing.register-path-of-one")
		}
	}
	if !slices.Contains([]Sheet{"", CSV, XLSX}, x.As) {
		l.Fault(place+"/as", "filing.unknown-sheet", "as", string(x.As))
	}
	if len(x.Columns) == 0 {
		l.Fault(place+"/columns", "filing.no-columns")
	}
	for _, c := range x.Columns {
		if slices.Contains([]string{ByNumber, ByArrival, ByRevision, ByFiled}, c.Of) {
			continue
		}
		if y, ok := f.Field(c.Of); !ok || !y.Answered() || strings.Contains(c.Of, ".") {
			l.Fault(place+"/columns", "filing.column-is-gone", "field", c.Of)
		}
	}
	return l
}

// heads are the usual heads of what is no answer.
var heads = map[string]string{ByNumber: "Number", ByArrival: "Received", ByRevision: "Revision", ByFiled: "Filed"}

// Heads are the columns, each with a head.
func (x Register) Heads(f form.Form) []Column {
	out := slices.Clone(x.Columns)
	for i, c := range out {
		if c.Name != "" {
			continue
		}
		if y, ok := f.Field(c.Of); ok {
			out[i].Name = y.Label
		} else {
			out[i].Name = heads[c.Of]
		}
	}
	return out
}

// FilePath is the path of its nth file, counted from 1.
func (x Register) FilePath(facts phrase.Facts, n int) string {
	stem := Filing{Path: x.Path}.stem(facts)
	if n > 1 {
		stem += " " + strconv.Itoa(n)
	}
	return stem + "." + string(x.Form())
}
