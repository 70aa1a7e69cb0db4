package filing_test

import (
	"encoding/json"
	"fmt"
	"io/fs"
	"strings"
	"testing"
	"time"
	"unicode/utf8"

	"amberseal/core/ask/form"
	"amberseal/core/filing"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

var asked = form.Form{Fields: []form.Field{{Key: "name", Kind: form.LongText, Label: "Name"}}}

func path(t testing.TB, pattern, answer string) string {
	raw, err := json.Marshal(answer)
	if err != nil {
		t.Fatal(err)
	}
	f := phrase.Facts{
		House:    house.New(),
		Intake:   "Repair / hire",
		Form:     asked,
		Answers:  form.Load(asked, form.Raw{"name": raw}),
		Number:   "R-1",
		Received: time.Unix(1e9, 0),
	}
	return filing.Filing{Path: phrase.Parse(pattern)}.Paths(f, []filing.Piece{{Ext: "pdf"}})[0]
}

// The reserved names and signs are those of Windows (“Naming Files, Paths, and Namespaces”, common
// practice for portable names); a path must always satisfy io/fs.ValidPath.
func TestPathsAreSafe(t *testing.T) {
	for _, c := range []struct{ pattern, answer, want string }{
		{"{{@intake}}/{{@year}}/{{@number}} {{name}}", "Łucja Brzęk", "Repair - hire/2001/R-1 Łucja Brzęk.pdf"},
		{"a/{{name}}/b", "../../etc/passwd", "a/-..-etc-passwd/b.pdf"},
		{"{{name}}", "..", "document.pdf"},
		{"{{name}}", "C:\\Windows\\x", "C--Windows-x.pdf"},
		{"//{{name}}//", "  x  ", "x.pdf"},
		{"{{name}}", "con", "-con.pdf"},
		{"{{name}}", "nul.txt", "-nul.txt.pdf"},
		{"{{name}}", "NUL .x", "-NUL .x.pdf"},
		{"{{name}}", "com²", "-com².pdf"},
		{"{{name}}", "CONIN$", "-CONIN$.pdf"},
		{"{{name}}", "Cafe\u0301", "Café.pdf"},
		{"{{name}}", "a\nb\u202Ec\u0007", "a bc.pdf"},
		{"{{name}}", "what? <now> \"so\"|*", "what- -now- -so---.pdf"},
		{"{{name}}", "", "document.pdf"},
		{"./../{{name}}", "x", "x.pdf"},
		{"Top/{{name}}", "", "Top/document.pdf"},
	} {
		if got := path(t, c.pattern, c.answer); got != c.want {
			t.Errorf("%s with %q: %q, want %q", c.pattern, c.answer, got, c.want)
		}
	}
}

func FuzzPath(f *testing.F) {
	f.Add("a/{{name}}", "x")
	f.Add("{{name}}/{{name}}", "../..\x00/é")
	f.Fuzz(func(t *testing.T, pattern, answer string) {
		got := path(t, pattern, answer)
		if !fs.ValidPath(got) || !strings.HasSuffix(got, ".pdf") || !utf8.ValidString(got) {
			t.Errorf("%q with %q gives %q", pattern, answer, got)
		}
		for part := range strings.SplitSeq(got, "/") {
			if len(part) > 255 || strings.TrimSpace(part) == "" {
				t.Errorf("%q with %q has the part %q", pattern, answer, part)
			}
		}
	})
}

func ExampleSafe() {
	fmt.Println(filing.Safe(`a/b\c: "d"?`), filing.Safe("CON"), filing.Safe("  dots.. "))
	// Output: a-b-c- -d-- -CON dots
}

// However long an answer and the name of a file that was sent, what they are filed as is a name that systems take, each once.
func TestLongNamesFit(t *testing.T) {
	long := func(s string) string { return strings.Repeat(s, 300) }
	for _, answer := range []string{long("a"), long("ł"), long("価"), "short"} {
		f := phrase.Facts{House: house.New(), Form: form.Form{Fields: []form.Field{{Key: "a", Kind: form.ShortText, Label: "A"}}},
			Answers: form.Load(
				form.Form{Fields: []form.Field{{Key: "a", Kind: form.ShortText}}},
				form.Raw{"a": []byte(`"` + answer + `"`)},
			)}
		x := filing.Filing{Path: phrase.Parse("Repairs/{{a}}")}
		paths := x.Paths(f, []filing.Piece{{Ext: "pdf"}, {Title: long("t"), Ext: "pdf"}, {Title: long("t"), Ext: "pdf"}, {Title: long("é"),
			Ext: long("x")}, {Title: "t", Ext: "docx"}})
		seen := map[string]bool{}
		for i, p := range paths {
			name := strings.TrimPrefix(p, "Repairs/")
			if len(name) > 245 || strings.Contains(name, "/") || !utf8.ValidString(name) || seen[p] {
				t.Errorf("piece %d of %.10s is filed as %q, %d bytes", i, answer, p, len(name))
			}
			if ext := []string{".pdf", ".pdf", ".pdf", "", ".docx"}[i]; !strings.HasSuffix(p, ext) {
				t.Errorf("%q has lost its ending %s", p, ext)
			}
			seen[p] = true
		}
	}
}
