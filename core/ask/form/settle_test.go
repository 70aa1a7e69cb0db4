package form_test

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"amberseal/core/ask/form"
)

// hire is a form with everything that depends on something else.
var hire = form.Form{
	Constants: []form.Constant{{Key: "tax_rate", Label: "Tax rate", Value: "10%"}},
	Fields: []form.Field{
		{
			Key:      "kind",
			Kind:     form.OneOf,
			Label:    "Kind",
			Required: true,
			Settings: form.Settings{Choices: []form.Choice{{Value: "strings", Label: "Strings"}, {Value: "brass", Label: "Brass"}}},
		},
		{Key: "for_strings", Kind: form.Section, Label: "Strings", When: "kind is strings"},
		{Key: "size", Kind: form.ShortText, Label: "Size", Required: true},
		{Key: "bow", Kind: form.YesNo, Label: "With a bow", When: `size <> "quarter"`},
		{Key: "money", Kind: form.Page, Label: "Money", When: "not empty(kind)"},
		{Key: "lines", Kind: form.Rows, Label: "Lines", Settings: form.Settings{Least: 1, Most: 3, Fields: []form.Field{
			{Key: "what", Kind: form.ShortText, Label: "What", Required: true},
			{Key: "hours", Kind: form.Decimal, Label: "Hours"},
			{Key: "rate", Kind: form.Money, Label: "Rate", When: "hours > 0", RequiredWhen: "hours > 2"},
			{Key: "amount", Kind: form.Money, Label: "Amount", Formula: "round(hours * rate, 2)"},
		}}},
		{Key: "net", Kind: form.Money, Label: "Net", Formula: "sum(lines.amount)"},
		{Key: "total", Kind: form.Money, Label: "Total", Formula: "round(net * (1 + tax_rate), 2)"},
		{Key: "phone", Kind: form.Phone, Label: "Phone", RequiredWhen: "total > 100"},
		{Key: "from", Kind: form.Date, Label: "From", Settings: form.Settings{Min: "@today"}},
		{Key: "back", Kind: form.Date, Label: "Back", Formula: "add_days(from, 30)"},
	},
}

var now = time.Date(2026, 11, 24, 9, 41, 0, 0, time.UTC)

func answer(t *testing.T, f form.Form, answers string) (form.Result, string) {
	t.Helper()
	var raw form.Raw
	if err := json.Unmarshal([]byte(answers), &raw); err != nil {
		t.Fatal(err)
	}
	r := form.Check(f, raw, form.Circumstances{Now: now, Country: "GB", Currency: "GBP"})
	kept, err := json.Marshal(r.Answers)
	if err != nil {
		t.Fatal(err)
	}
	return r, string(kept)
}

func places(r form.Result) []string {
	var out []string
	for _, f := range r.Findings {
		out = append(out, f.Place)
	}
	return out
}

func TestConditionsAndCalculations(t *testing.T) {
	for name, c := range map[string]struct {
		answers, kept string
		faults        []string
		hidden        []string
	}{
		"all hidden at first": {
			answers: `{}`, kept: `{}`, faults: []string{"kind"},
			hidden: []string{"size", "bow", "lines", "net", "phone", "from"},
		},
		"a section shows and its hidden answers go": {
			answers: `{"kind":"brass","size":"full","bow":true,"lines":[{"what":"a"}]}`,
			kept:    `{"kind":"brass","lines":[{"amount":"0.00","what":"a"}],"net":"0.00","total":"0.00"}`,
			hidden:  []string{"for_strings", "size", "bow", "lines/0/rate"},
		},
		"a field inside it has a condition of its own": {
			answers: `{"kind":"strings","size":"quarter","bow":true,"lines":[{"what":"a"}]}`,
			kept:    `{"kind":"strings","lines":[{"amount":"0.00","what":"a"}],"net":"0.00","size":"quarter","total":"0.00"}`,
			hidden:  []string{"bow", "lines/0/rate"},
		},
		"rows are computed each by itself and summed exactly": {
			answers: `{"kind":"brass","phone":"020 7946 0123","from":"2026-12-01","lines":[{"what":"a","hours":"1.1","rate":"33.33"},` +
				`{"what":"b","hours":"0.1","rate":"0.1"},{"what":"c","hours":"2.5","rate":"48"}],"net":"7","total":1}`,
			kept: `{"back":"2026-12-31","from":"2026-12-01","kind":"brass","lines":[{"amount":"36.66","hours":"1.1","rate":"33.33",` +
				`"what":"a"},{"amount":"0.01","hours":"0.1","rate":"0.1","what":"b"},{"amount":"120.00","hours":"2.5","rate":"48",` +
				`"what":"c"}],"net":"156.67","phone":"+442079460123","total":"172.34"}`,
		},
		"required when": {
			answers: `{"kind":"brass","lines":[{"what":"a","hours":"3"},{"hours":"2","rate":"60"}],"from":"2026-11-23"}`,
			faults:  []string{"lines/0/rate", "lines/1/what", "phone", "from"},
		},
		"too many rows": {answers: `{"kind":"brass","lines":[{},{},{},{}]}`, faults: []string{"lines"}},
		"no rows":       {answers: `{"kind":"brass","lines":[]}`, faults: []string{"lines"}},
		"strange keys": {answers: `{"kind":"brass","lines":[{"what":"x","why":1}],"nothing":2}`,
			faults: []string{"lines/0/why", "nothing"}},
		"rows of a text": {answers: `{"kind":"brass","lines":"x"}`, faults: []string{"lines", "lines"}},
	} {
		r, kept := answer(t, hire, c.answers)
		got := places(r)
		slices.Sort(got)
		want := slices.Clone(c.faults)
		slices.Sort(want)
		if c.kept != "" && kept != c.kept {
			t.Errorf("%s: kept %s, want %s", name, kept, c.kept)
		}
		if !slices.Equal(slices.Compact(got), slices.Compact(want)) {
			t.Errorf("%s: faults at %v, want %v", name, r.Findings, want)
		}
		for _, h := range c.hidden {
			if _, hidden := r.Hidden[h]; !hidden {
				t.Errorf("%s: %s shows", name, h)
			}
		}
		if c.kept != "" {
			again, k := answer(t, hire, kept)
			if k != kept || len(again.Findings) != len(r.Findings) {
				t.Errorf("%s: what was kept is read back as %s (%v)", name, k, again.Findings)
			}
		}
	}
}

func TestHidingIsExplained(t *testing.T) {
	r, _ := answer(t, hire, `{"kind":"brass"}`)
	if h := r.Hidden["size"]; h == nil || h.By != "for_strings" || h.When != "kind is strings" {
		t.Errorf("size is hidden by %+v", h)
	}
}

// A condition that cannot be worked out hides nothing: what should perhaps be asked is better asked.
func TestConditionsWithErrorsShow(t *testing.T) {
	f := form.Form{Fields: []form.Field{
		{Key: "n", Kind: form.Decimal, Label: "N"}, {Key: "x", Kind: form.ShortText, Label: "X", When: "1 / n > 2"},
	}}
	if _, kept := answer(t, f, `{"n":"0","x":"seen"}`); !strings.Contains(kept, `"x":"seen"`) {
		t.Errorf("kept %s", kept)
	}
}

// A chain that refers to itself must end, and is told at design time.
func TestCycles(t *testing.T) {
	f := form.Form{Fields: []form.Field{
		{Key: "a", Kind: form.Decimal, Label: "A", Formula: "b + 1"},
		{Key: "b", Kind: form.Decimal, Label: "B", Formula: "c + 1"},
		{Key: "c", Kind: form.Decimal, Label: "C", Formula: "a + 1"},
		{Key: "part", Kind: form.Section, Label: "Part", When: "inside > 3"},
		{Key: "inside", Kind: form.WholeNumber, Label: "Inside"},
		{Key: "self", Kind: form.ShortText, Label: "Self", When: `self = "x"`},
	}}
	answer(t, f, `{"inside":1,"self":"x"}`)
	text := fmt.Sprint(f.CheckDesign(nil))
	for _, want := range []string{"a → b → c → a", "part → inside → part", "“self” depends on itself"} {
		if !strings.Contains(text, want) {
			t.Errorf("the findings do not say %q:\n%s", want, text)
		}
	}
}

func TestDesignFormulas(t *testing.T) {
	for change, want := range map[string]string{
		`{"key":"x","kind":"money","label":"X","formula":"sum(lines.hour)"}`: "form/fields/x/formula: " +
			"Column 5: there is no field “lines.hour”. Did you mean lines.hours?",
		`{"key":"x","kind":"date","label":"X","formula":"net + 1"}`: "form/fields/x/formula: The " +
			"formula gives a number, which this field cannot hold.",
		`{"key":"x","kind":"money","label":"X","formula":"lines.amount"}`: "form/fields/x/formula: The " +
			"formula gives a value for each row",
		`{"key":"x","kind":"decimal","label":"X","formula":"net / tax_rate / 0"}`: "Column 18: this " +
			"divides by zero",
		`{"key":"x","kind":"decimal","label":"X","formula":"1 / net"}`: "Column 5: where “net” is " +
			"empty or 0 this has no value",
		`{"key":"x","kind":"photo","label":"X","formula":"net"}`: "This kind of field cannot " +
			"be calculated",
		`{"key":"x","kind":"short_text","label":"X","when":"kind is strins"}`: "form/fields/x/when: Column " +
			"9: “strins” is none of the choices. Did you mean strings?",
		`{"key":"x","kind":"short_text","label":"X","requiredWhen":"hours > 2"}`: "“hours” is asked in each " +
			"row. Write lines.hours",
		`{"key":"x","kind":"short_text","label":"X","short_text":{"pattern":"(a+"}}`: "form/fields/x/pattern: The " +
			"pattern cannot be read: missing closing )",
		`{"key":"x","kind":"whole_number","label":"X","whole_number":{"min":"5","max":"3"}}`: "The least value is more " +
			"than the greatest",
		`{"key":"x","kind":"date","label":"X","default":{"value":"tomorrow"}}`: "The default is not an " +
			"answer to this field",
		`{"key":"x","kind":"rows","label":"X","rows":{"fields":[{"key":"y","kind":"rows","label":"Y"}]}}`: "Rows cannot hold this " +
			"kind of line",
		`{"key":"net","kind":"short_text","label":"X"}`:                       "Two fields have the key “net”",
		`{"key":"and","kind":"short_text","label":"X"}`:                       "is a word of formulas",
		`{"key":"x","kind":"upload","label":"X","upload":{"accept":["exe"]}}`: "Files that end in “exe” are not known",
	} {
		f := hire
		var x form.Field
		if err := json.Unmarshal([]byte(change), &x); err != nil {
			t.Fatal(err)
		}
		f.Fields = append(slices.Clone(hire.Fields), x)
		if text := f.CheckDesign(nil); !strings.Contains(fmt.Sprint(text), want) {
			t.Errorf("%s: %v does not say %q", change, text, want)
		}
	}
	if l := hire.CheckDesign(nil); l.Faults() > 0 {
		t.Errorf("a sound form has faults: %v", l)
	}
}

// kinds has one field of every kind that takes an answer, with limits.
var kinds = form.Form{Fields: []form.Field{
	{
		Key:   "web",
		Kind:  form.WebAddress,
		Label: "Web",
	}, {Key: "time", Kind: form.Time, Label: "Time", Settings: form.Settings{Min: "08:00", Max: "18:00"}},
	{
		Key:      "at",
		Kind:     form.DateTime,
		Label:    "At",
		Settings: form.Settings{Max: "2026-12-31T23:59"},
	}, {Key: "rating", Kind: form.Rating, Label: "Rating"},
	{Key: "who", Kind: form.Name, Label: "Who", Required: true}, {Key: "home", Kind: form.Address, Label: "Home"},
	{
		Key:      "files",
		Kind:     form.Upload,
		Label:    "Files",
		Settings: form.Settings{Most: 2, Accept: []string{"pdf"}},
	}, {Key: "photo", Kind: form.Photo, Label: "Photo"},
	{
		Key:   "sign",
		Kind:  form.Signature,
		Label: "Sign",
	}, {Key: "source", Kind: form.Hidden, Label: "Source"}, {Key: "ok", Kind: form.Consent, Label: "OK", Required: true},
	{
		Key:      "plate",
		Kind:     form.ShortText,
		Label:    "Plate",
		Settings: form.Settings{Mask: "AA-###"},
	}, {Key: "code", Kind: form.ShortText, Label: "Code", Message: "Two to four letters.", Settings: form.Settings{Pattern: "[a-z]{2,4}"}},
	{
		Key:      "steps",
		Kind:     form.Decimal,
		Label:    "Steps",
		Settings: form.Settings{Min: "0.5", Step: "0.25"},
	}, {Key: "yen", Kind: form.Money, Label: "Yen", Settings: form.Settings{Currency: "JPY"}},
	{
		Key:      "long",
		Kind:     form.ShortText,
		Label:    "Long",
		Settings: form.Settings{Shortest: 3, Longest: 5},
	}, {Key: "fr", Kind: form.Phone, Label: "Phone", Settings: form.Settings{Country: "FR"}},
	{Key: "yn", Kind: form.YesNo, Label: "Yes or no"},
}}

const sound = `"who":{"given":"Ada","family":"Marsh"},"ok":true`

func TestEveryKindRefuses(t *testing.T) {
	for key, answers := range map[string][]string{
		"web":  {`"javascript:alert(1)"`, `"https://"`, `"https://user:pw@place.example"`, `"no spaces here.example"`, `7`},
		"time": {`"25:00"`, `"07:59"`, `"18:01"`, `"noon"`},
		"at":   {`"2026-11-24"`, `"2027-01-01T00:00"`, `"2026-02-30T10:00"`}, "rating": {`0`, `6`, `"2.5"`, `-1`},
		"who":  {`"Ada"`, `{"given":"Ada"}`, `{"nick":"A"}`, `{"given":7}`, `null`},
		"home": {`{"street":["x"]}`, `[]`, `{"planet":"Earth"}`},
		"files": {`"x"`, `[{"id":"a","name":"a.exe","type":"application/x-msdownload","size":1}]`, `["a","b","c"]`, `[{"name":"no id"}]`,
			`[{"id":"a","name":"a","type":"application/pdf","size":99999999}]`},
		"photo": {`[{"id":"a","name":"a.svg","type":"image/svg+xml","size":1}]`, `{}`},
		"sign": {`{"strokes":[[1]],"width":1,"height":1}`, `{"strokes":[[1,2]]}`, `{"strokes":[["a","b"]],"width":9,"height":9}`,
			`{"strokes":[[1e9,2]],"width":9,"height":9}`, `"me"`},
		"source": {`["x"]`}, "ok": {`false`, `null`, `"yes"`}, "plate": {`"AB-12"`, `"12-ABC"`, `"AB-1234"`},
		"code": {`"a"`, `"abcde"`, `"AB"`}, "steps": {`0.6`, `0.25`, `"0.80"`},
		"yen": {`"10.5"`}, "long": {`"ab"`, `"abcdef"`}, "fr": {`"12"`, `"call"`}, "yn": {`"no"`, `0`},
	} {
		for _, a := range answers {
			body := `{` + strings.ReplaceAll(sound, `"`+key+`":`, `"_":`)
			var fields map[string]json.RawMessage
			if err := json.Unmarshal([]byte(body+`}`), &fields); err != nil {
				t.Fatal(err)
			}
			delete(fields, "_")
			fields[key] = json.RawMessage(a)
			text, err := json.Marshal(fields)
			if err != nil {
				t.Fatal(err)
			}
			if r, _ := answer(t, kinds, string(text)); !slices.Equal(places(r), []string{key}) {
				t.Errorf("%s = %s was answered with %v", key, a, r.Findings)
			}
		}
	}
}

func TestEveryKindIsKept(t *testing.T) {
	_, kept := answer(
		t,
		kinds,
		`{"web":"tarnhollow.example/x","time":"08:00:30","at":"2026-11-24 14:30:20","rating":"5","who":{"given":" Ada `+
			`","family":"Marsh\n"},"home":{"street":"4 Weir Lane","postcode":"TH4","city":"Tarn Hollow"},
		"files":[{"id":"a","name":"a.pdf","type":"application/pdf","size":10}],"photo":["b"],"sign":{"strokes":[[1,2,3,4]],"width":10,`+
			`"height":5},"source":"poster","ok":true,"plate":"AB-123","code":"abc","steps":"0.75","yen":"1200","long":"abcd","fr":"01 `+
			`99 00 12 34","yn":false}`,
	)
	want := `{"at":"2026-11-24T14:30","code":"abc","files":[{"id":"a","name":"a.pdf","type":"application/pdf","size":10}],` +
		`"fr":"+33199001234","home":{"city":"Tarn Hollow","postcode":"TH4","street":"4 Weir Lane"},"long":"abcd","ok":true,` +
		`"photo":[{"id":"b","name":"","type":"","size":0}],"plate":"AB-123","rating":"5","sign":{"strokes":[[1,2,3,4]],"width":10,` +
		`"height":5},"source":"poster","steps":"0.75","time":"08:00","web":"https://tarnhollow.example/x","who":{"family":"Marsh",` +
		`"given":"Ada"},"yen":"1200","yn":false}`
	if kept != want {
		t.Errorf("got  %s\nwant %s", kept, want)
	}
	if _, again := answer(t, kinds, kept); again != want {
		t.Errorf("what was kept is read back as %s", again)
	}
}

func TestSamplesOfEveryKindPass(t *testing.T) {
	forms := map[string]form.Form{"kinds": kinds, "hire": hire}
	files, err := filepath.Glob("../../../demo/intakes/*.json")
	if err != nil || len(files) == 0 {
		t.Fatal(err)
	}
	for _, file := range files {
		data, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		var d struct{ Form form.Form }
		if err := json.Unmarshal(data, &d); err != nil {
			t.Fatal(err)
		}
		forms[filepath.Base(file)] = d.Form
	}
	for name, f := range forms {
		for _, kind := range []form.SampleKind{form.MadeUp, form.Emptest, form.Longest} {
			text, err := json.Marshal(form.Sample(f, kind))
			if err != nil {
				t.Fatal(err)
			}
			r, _ := answer(t, f, string(text))
			for _, p := range r.Findings {
				if !strings.HasPrefix(p.Place, "code") && !strings.HasPrefix(p.Message, "Please") { // a pattern cannot be guessed
					t.Errorf("%s %s: %v", name, kind, p)
				}
			}
		}
	}
}

// large is what the issue names: 200 fields, 50 formulas, 100 rows.
func large() (form.Form, form.Raw) {
	f := form.Form{}
	raw := form.Raw{}
	for i := range 148 {
		key := fmt.Sprintf("f%d", i)
		x := form.Field{Key: key, Kind: form.Decimal, Label: key}
		if i > 0 && i%6 == 0 {
			x.When = fmt.Sprintf("f%d > 0", i-1)
		}
		f.Fields = append(f.Fields, x)
		raw[key] = json.RawMessage(`"12.5"`)
	}
	f.Fields = append(f.Fields, form.Field{Key: "lines", Kind: form.Rows, Label: "Lines", Settings: form.Settings{Fields: []form.Field{
		{
			Key:   "hours",
			Kind:  form.Decimal,
			Label: "H",
		}, {Key: "rate", Kind: form.Money, Label: "R"}, {Key: "amount", Kind: form.Money, Label: "A", Formula: "round(hours * rate, 2)"},
	}}})
	for i := range 25 {
		f.Fields = append(
			f.Fields,
			form.Field{
				Key:     fmt.Sprintf("c%d", i),
				Kind:    form.Decimal,
				Label:   "C",
				Formula: fmt.Sprintf("if(f%d > 10, round(f%d * 1.1 + f%d, 2), sum(lines.amount))", i, i+1, i+2),
			},
		)
	}
	for i := range 24 {
		f.Fields = append(f.Fields, form.Field{Key: fmt.Sprintf("t%d", i), Kind: form.ShortText, Label: "T"})
	}
	rows := make([]string, 100)
	for i := range rows {
		rows[i] = `{"hours":"2.25","rate":"48.00"}`
	}
	raw["lines"] = json.RawMessage("[" + strings.Join(rows, ",") + "]")
	return f, raw
}

func BenchmarkCheck(b *testing.B) {
	f, raw := large()
	b.ReportAllocs()
	for b.Loop() {
		if r := form.Check(f, raw, form.Circumstances{Now: now}); len(r.Findings) > 0 {
			b.Fatal(r.Findings)
		}
	}
}
