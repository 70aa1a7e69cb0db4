package intake_test

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"amberseal/core/intake"
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
  "amberseal": 1, "name": "N", "slug": "n",
  "form": {"fields": [{"key": "a", "kind": "short_text", "label": "A"}]},
  "documents": [{"key": "d", "name": "D", "title": "T", "blocks": [{"id": "t", "kind": "text", "body": "B"}]}], "notices": [], "filings": []
}`
	for _, c := range []struct{ from, to, want string }{
		{`"label": "A"`, `"label": 7`, "line 3, column 67 (form.fields[0].label): “label” cannot be a number"},
		{`"short_text"`, `"shorttext"`, "line 3, column 44 (form.fields[0].kind)"},
		{`"body": "B"`, `"body": [{"spans": [{"feild": "a"}]}]`, "(documents[0].blocks[0].body[0].spans[0].feild): the format has no “feild” here"},
		{`"title": "T"`, `"Title": "T"`, "the format has no “Title” here"},
		{`"notices": []`, `"notices": {}`, "“notices” cannot be an object"},
		{`"amberseal": 1`, `"amberseal": 99`, "the design is of version 99"},
		{`"amberseal": 1`, `"amberseal": 0`, "the design is of version 0"},
		{`"amberseal": 1,`, ``, "begins with"},
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
