package intake_test

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"amberseal/core/ask/form"
	"amberseal/core/intake"
	"amberseal/core/print/paper"
	"amberseal/core/words/finding"
)

// Wherever a name of a design is misspelt, stands twice or has a value of another sort, the error is at its line and column.
func TestSlipsAreToldAtTheirPlace(t *testing.T) {
	files, err := filepath.Glob("../../demo/intakes/*.json")
	if err != nil || len(files) < 3 {
		t.Fatal(files, err)
	}
	tried := 0
	for _, file := range files {
		data, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		if _, err := intake.Read(data); err != nil {
			t.Fatalf("%s: %v", file, err)
		}
		for i, at := range names(t, data) {
			if i%7 != 0 && i > 50 { // the first ones, and some of each sort
				continue
			}
			name, _, _ := bytes.Cut(data[at+1:], []byte(`"`))
			line := bytes.Count(data[:at], []byte("\n")) + 1
			column := int(at) - bytes.LastIndexByte(data[:at], '\n')
			inserted := func(text string) []byte { return append(append(bytes.Clone(data[:at]), text...), data[at:]...) }
			for what, c := range map[string]struct {
				data   []byte
				column int
			}{
				"misspelt": {inserted(`"` + string(name) + `_x": 1, `), column},
				"twice":    {inserted(`"` + string(name) + `": null, `), column + len(name) + 10},
			} {
				if free := bytes.Contains(name, []byte("/")) || string(name) == "de"; free && what == "misspelt" {
					continue // places of texts and languages are the design's own
				}
				var m intake.Misread
				if _, err := intake.Read(c.data); !errors.As(err, &m) || m.Line != line || m.Column != c.column || m.Message == "" {
					t.Fatalf("%s: %s %q at line %d, column %d: %v", file, what, name, line, c.column, err)
				}
			}
			tried++
		}
	}
	if tried < 200 {
		t.Errorf("only %d names were tried", tried)
	}
	const text = `{
  "amberseal": 2, "name": "N", "slug": "n",
  "form": {"fields": [{"key": "a", "kind": "short_text", "label": "A", "short_text": {"mask": "##"}}]},
  "documents": [{"key": "d", "name": "D", "title": "T", "blocks": [{"id": "t", "kind": "text", "text": {"body": "B"}}]}], "notices": ` +
		`[], "filings": []
}`
	for _, c := range []struct{ from, to, want string }{
		{`"label": "A"`, `"label": 7`, "line 3, column 67 (form.fields[0].label): “label” cannot be a number"},
		{`"kind": "short_text"`, `"kind": "shorttext"`, "line 3, column 44 (form.fields[0].kind)"},
		{`"body": "B"`, `"body": [{"spans": [{"feild": "a"}]}]`, "(documents[0].blocks[0].text.body[0].spans[0].feild): the format has " +
			"no “feild” here"},
		{`"title": "T"`, `"Title": "T"`, "the format has no “Title” here"},
		{`"notices": []`, `"notices": {}`, "“notices” cannot be an object"},
		{`"mask"`, `"scale"`, "line 3, column 87 (form.fields[0].short_text.scale): the format has no “scale” here"},
		{`"kind": "short_text"`, `"kind": "date"`, "settings of “short_text” stand beside the kind “date”"},
		{`"short_text": {`, `"date": {}, "short_text": {`, "cannot stand beside each other"},
		{`"amberseal": 2`, `"amberseal": 3`, "the design is of version 3 of the format; this program reads up to version 2"},
		{`"amberseal": 2`, `"amberseal": 0`, "the design is of version 0"},
		{`"amberseal": 2,`, ``, "begins with"},
		{`"filings": []`, `"filings": [],`, "line 5, column 1"},
		{`"filings": []`, `"filings": [`, "line 5"},
		{"\n}", "\n} {}", "line 5"},
	} {
		_, err := intake.Read([]byte(strings.Replace(text, c.from, c.to, 1)))
		if err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%s: %v, want %s", c.to, err, c.want)
		}
	}
	if d, err := intake.Read([]byte(text)); err != nil || d.Documents[0].Title[0].Text != "T" {
		t.Error(d, err)
	}
}

// A design of version 1 is the same as one of version 2 that says the same, and its slips are told at its own lines.
func TestPastVersionsAreRead(t *testing.T) {
	past, err := os.ReadFile("testdata/version1.json")
	if err != nil {
		t.Fatal(err)
	}
	present, err := os.ReadFile("testdata/version2.json")
	if err != nil {
		t.Fatal(err)
	}
	was, err := intake.Read(past)
	if err != nil {
		t.Fatal(err)
	}
	is, err := intake.Read(present)
	if err != nil {
		t.Fatal(err)
	}
	if was.Version != intake.Version || text(t, was) != text(t, is) {
		t.Errorf("version 1 is read as\n%s\nand version 2 as\n%s", text(t, was), text(t, is))
	}
	if again, err := intake.Read([]byte(text(t, was))); err != nil || text(t, again) != text(t, was) {
		t.Error("what is written is not read as it was", err)
	}
	at := bytes.Index(past, []byte(`"missing"`))
	for _, c := range []struct{ to, want string }{
		{`"missing": {"leave": "space"}, "gone"`, "“missing” cannot be an object"}, {`"mising"`, "the format has no “mising” here"},
	} {
		_, err := intake.Read(append(append(bytes.Clone(past[:at]), c.to...), past[at+len(`"missing"`):]...))
		line := fmt.Sprintf("line %d,", bytes.Count(past[:at], []byte("\n"))+1)
		if err == nil || !strings.Contains(err.Error(), c.want) || !strings.HasPrefix(err.Error(), line) {
			t.Errorf("%s: %v, want %s %s", c.to, err, line, c.want)
		}
	}
	const strays = `{"amberseal": 1, "name": "N", "slug": "n", "form": {"fields": [
		{"key": "a", "label": "A", "default": "@link:source", "scale": 3, "longest": 9},
		{"key": "b", "kind": "yes_no", "label": "B", "default": "yes", "placeholder": "never shown"}]},
		"documents": [{"key": "d", "name": "D", "blocks": [{"id": "1", "kind": "picture", "field": "a", "missing": "nothing"},
			{"id": "2", "kind": "picture", "field": "a", "missing": "space"},
			{"id": "3", "kind": "picture", "field": "a", "missing": "none yet"}]}]}`
	d, err := intake.Read([]byte(strays))
	if err != nil {
		t.Fatal(err)
	}
	a, b := d.Form.Fields[0], d.Form.Fields[1]
	if a.Default != (form.Default{From: form.FromLink, Name: "source"}) || a.Longest != 9 || a.Scale != 0 || b.Default.Value != "yes" ||
		b.Placeholder != "" {
		t.Errorf("%+v\n%+v", a, b)
	}
	for i, want := range []paper.Missing{{Leave: paper.LeaveNothing}, {Leave: paper.LeaveSpace}, {Words: "none yet"}} {
		if got := d.Documents[0].Blocks[i].Missing; got == nil || *got != want {
			t.Errorf("what is missing in block %d is %+v, not %+v", i+1, got, want)
		}
	}
}

// names are the offsets of all names of members.
func names(t *testing.T, data []byte) (out []int64) {
	t.Helper()
	dec := json.NewDecoder(bytes.NewReader(data))
	type level struct{ object, name bool }
	var levels []level
	for {
		token, err := dec.Token()
		if err != nil {
			return out
		}
		end := dec.InputOffset()
		top := len(levels) - 1
		if d, ok := token.(json.Delim); ok {
			switch d {
			case '{', '[':
				levels = append(levels, level{d == '{', d == '{'})
				continue
			}
			levels, top = levels[:top], top-1
		} else if top >= 0 && levels[top].object && levels[top].name {
			out = append(out, end-int64(len(fmt.Sprintf("%q", token))))
			levels[top].name = false
			continue
		}
		if top >= 0 && levels[top].object {
			levels[top].name = true
		}
	}
}

// What the format says and the program cannot do yet is a fault at its place, so that no design runs as if it were done.
func TestWordsForWhatComesAreFaults(t *testing.T) {
	const design = `{"amberseal": 2, "name": "N", "slug": "n", "number": "{n}", "form": {"fields": [{"key": "a", "kind": "email", ` +
		`"label": "A", "required": true}]},
		"documents": [{"key": "d", "name": "D", "title": "T", "fileName": "F", "page": {}, "footer": [], "blocks": [{"id": "b", "kind": ` +
		`"answers"}]}],
		"notices": [{"key": "n", "name": "N", "to": "{{a}}", "subject": "S", "message": "M", "attach": [{"document": "d"}]}],
		"filings": [{"key": "f", "name": "F", "what": [{"document": "d"}], "path": "{{@number}}"}]}`
	sound, err := intake.Read([]byte(design))
	if err != nil || sound.Check(nil).Faults() > 0 {
		t.Fatal(err, sound.Check(nil))
	}
	for _, c := range []struct{ before, added, place string }{
		{`"page": {}`, `"signers": [{"key": "s", "name": "S", "email": "{{a}}"}]`, "documents/d/signers"},
		{`"subject": "S"`, `"after": "approved"`, "notices/n/after"},
		{`"subject": "S"`, `"collect": {"every": "day"}`, "notices/n/collect"},
		{`"document": "d"}], "path"`, `"as": "docx"`, "filings/f/what"},
		{`"notices"`, `"retention": {"days": 30}`, "retention"},
		{`"notices"`, `"stage": "trial"`, "stage"},
	} {
		d, err := intake.Read([]byte(strings.Replace(design, c.before, c.added+", "+c.before, 1)))
		if err != nil {
			t.Fatal(err)
		}
		l := d.Check(nil)
		if !slices.ContainsFunc(l, func(f finding.Finding) bool { return f.Place == c.place && f.Level == finding.Fault }) {
			t.Errorf("%s: %v has no fault at %s", c.added, l, c.place)
		}
	}
}
