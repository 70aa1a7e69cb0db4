package form

import (
	"encoding/json"
	"slices"
	"strconv"
	"strings"

	"amberseal/core/words/finding"
)

// Result is what became of answers.
type Result struct {
	Answers  Answers            // understood and kept: without what does not show, with what is calculated
	Visible  []string           // paths of the fields that show, in the form's order; a row's are ROWS/0/KEY
	Required []string           // paths of those that must be answered
	Hidden   map[string]*Hiding // why the others do not show, by path
	Findings finding.List       // at the paths of fields
}

// Check reads raw answers, settles which fields show and what the calculated ones are, and
// finds what is wrong with those that show. Line breaks and control characters in one-line
// answers become spaces, so that an answer can go into a subject or a file name. Keys the form
// does not have are findings: nothing that was typed is dropped in silence. Answers to fields
// that do not show are not kept, and neither is what is sent for a calculated field.
func Check(f Form, raw Raw, c Circumstances) Result {
	k := &checking{c: c, result: Result{Hidden: map[string]*Hiding{}}, problems: map[string]string{}}
	typed := k.readAll(f.Fields, raw, "")
	s := newSheet(f, c, typed, false)
	k.settle(s, "")
	k.result.Answers = s.answers()
	return k.result
}

// Load reads answers that were settled when they were accepted; whatever the form
// no longer understands is left out.
func Load(f Form, raw Raw) Answers {
	k := &checking{problems: map[string]string{}}
	return k.readAll(f.Fields, raw, "")
}

type checking struct {
	c        Circumstances
	result   Result
	problems map[string]string // by path: why an answer could not be understood
}

// readAll types every answer that can be understood.
func (k *checking) readAll(fields []Field, raw Raw, at string) Answers {
	typed := make(Answers, len(raw))
	known := 0
	for _, x := range fields {
		r, given := raw[x.Key]
		if !x.Kind.Asks() || !given {
			continue
		}
		known++
		var v Value
		var problem string
		if x.Kind == Rows {
			v, problem = k.readRows(x, r, at+x.Key)
		} else {
			v, problem = k.c.read(x, r)
		}
		if problem != "" {
			k.problems[at+x.Key] = problem
		} else if !v.Empty() {
			typed[x.Key] = v
		}
	}
	if known < len(raw) {
		k.strange(fields, raw, at)
	}
	return typed
}

// mostStrange is how many answers without a field are told one by one.
const mostStrange = 50

func (k *checking) strange(fields []Field, raw Raw, at string) {
	var strange []string
	for key := range raw {
		if !slices.ContainsFunc(fields, func(x Field) bool { return x.Key == key && x.Kind.Asks() }) {
			strange = append(strange, key)
		}
	}
	slices.Sort(strange)
	if more := len(strange) - mostStrange; more > 0 {
		strange = strange[:mostStrange]
		k.result.Findings.Fault(at+"…", "form.answers-without-fields", "more", more)
	}
	for _, key := range strange {
		k.result.Findings.Fault(at+shorten(key), "form.answer-without-field")
	}
}

func (k *checking) readRows(x Field, raw json.RawMessage, at string) (Value, string) {
	if string(raw) == "null" {
		return Value{}, ""
	}
	var given []Raw
	if json.Unmarshal(raw, &given) != nil {
		return Value{}, "This answer must be a list of rows."
	}
	if len(given) > x.MostRows() {
		return Value{}, k.c.say("These are %d rows; at most %d can be sent.", len(given), x.MostRows())
	}
	if len(given) == 0 {
		return Value{}, ""
	}
	rows := make([]Answers, len(given))
	for i, r := range given {
		rows[i] = k.readAll(x.Fields, r, at+"/"+strconv.Itoa(i)+"/")
	}
	return rowsOf(rows), ""
}

// settle visits every field of a sheet and writes down what became of it.
func (k *checking) settle(s *sheet, at string) {
	for i, x := range s.fields {
		path := at + x.Key
		st := s.at(i)
		if st.hidden != nil {
			k.result.Hidden[path] = st.hidden
			continue
		}
		k.result.Visible = append(k.result.Visible, path)
		if !x.Kind.Asks() || x.Calculated() {
			continue
		}
		required := x.Required || x.RequiredWhen != "" && s.holds(x.RequiredWhen)
		if required {
			k.result.Required = append(k.result.Required, path)
		}
		if x.Kind == Rows {
			k.rows(s, x, st.value, path, required)
			continue
		}
		if problem := k.problem(x, st.value, path, required); problem != "" {
			k.result.Findings.Told(path, problem)
		}
	}
}

func (k *checking) rows(s *sheet, x Field, v Value, path string, required bool) {
	least := x.Least
	if required {
		least = max(least, 1)
	}
	switch n := len(v.Rows); {
	case k.problems[path] != "":
		k.result.Findings.Told(path, k.problems[path])
	case n < least && least == 1:
		k.result.Findings.Told(path, k.c.say("Please add a row."))
	case n < least:
		k.result.Findings.Told(path, k.c.say("At least %d rows are needed.", least))
	}
	for i, row := range s.rowsOf(x.Key) {
		k.settle(row, path+"/"+strconv.Itoa(i)+"/")
	}
}

// problem is what is wrong with one answer.
func (k *checking) problem(x Field, v Value, path string, required bool) string {
	if p := k.problems[path]; p != "" {
		if x.Message != "" {
			return x.Message
		}
		return p
	}
	if v.Empty() || x.Kind == Consent && !v.Yes {
		if required {
			return k.c.missing(x)
		}
		return ""
	}
	switch {
	case x.Kind.Filed() && len(v.Files) < x.Least:
		return k.c.say("At least %d files are needed.", x.Least)
	case required && x.Kind.Shape() == Parts:
		if p := k.c.incomplete(x, v); p != "" {
			return p
		}
	}
	return k.c.fits(x, v)
}

func (c Circumstances) missing(x Field) string {
	if please := x.Kind.nature().please; please != "" {
		return c.say(please)
	}
	return c.say("Please answer this question.")
}

// answers are those that show and are not empty.
func (s *sheet) answers() Answers {
	out := Answers{}
	for i, x := range s.fields {
		st := s.at(i)
		if st.hidden != nil || !x.Kind.Asks() {
			continue
		}
		if x.Kind == Rows {
			if n := len(s.rowsOf(x.Key)); n > 0 {
				rows := make([]Answers, n)
				for r, row := range s.rowsOf(x.Key) {
					rows[r] = row.answers()
				}
				out[x.Key] = rowsOf(rows)
			}
			continue
		}
		if !st.value.Empty() {
			out[x.Key] = st.value
		}
	}
	return out
}

// Calculated gives what the calculated fields came to, by path, as it is kept.
func (r Result) Calculated(f Form) map[string]Value {
	out := map[string]Value{}
	for _, x := range f.Fields {
		if v, ok := r.Answers[x.Key]; ok && x.Calculated() {
			out[x.Key] = v
		}
		for i, row := range r.Answers[x.Key].Rows {
			for _, column := range x.Fields {
				if v, ok := row[column.Key]; ok && column.Calculated() {
					out[x.Key+"/"+strconv.Itoa(i)+"/"+column.Key] = v
				}
			}
		}
	}
	return out
}

// FieldAt finds the field of a path such as lines/0/hours.
func (f Form) FieldAt(path string) (Field, bool) {
	parts := strings.Split(path, "/")
	if len(parts) == 3 {
		return f.Field(parts[0] + "." + parts[2])
	}
	return f.Field(path)
}
