package phrase_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"
	"time"

	"amberseal/core/ask/form"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

var asked = form.Form{Fields: []form.Field{
	{Key: "name", Kind: form.ShortText, Label: "Name"},
	{Key: "day", Kind: form.Date, Label: "Day"},
	{Key: "price", Kind: form.Money, Label: "Price"},
	{
		Key:   "needs",
		Kind:  form.SeveralOf,
		Label: "Needs",
		Settings: form.Settings{
			Choices: []form.Choice{{Value: "a", Label: "Piano"}, {Value: "b", Label: "Stands"}, {Value: "c", Label: "Chairs"}},
		},
	},
	{Key: "agree", Kind: form.YesNo, Label: "Agree"},
	{Key: "weight", Kind: form.Decimal, Label: "Weight"},
	{Key: "big", Kind: form.WholeNumber, Label: "Big"},
	{
		Key:   "rows",
		Kind:  form.Rows,
		Label: "Rows",
		Settings: form.Settings{
			Fields: []form.Field{{Key: "what", Kind: form.ShortText, Label: "What"},
				{Key: "many", Kind: form.WholeNumber, Label: "How many"}},
		},
	},
	{Key: "part", Kind: form.Section, Label: "Part"},
}}

func facts(t testing.TB, language, answers string) phrase.Facts {
	var raw form.Raw
	if err := json.Unmarshal([]byte(answers), &raw); err != nil {
		t.Fatal(err)
	}
	h := house.New()
	h.Name, h.Language, h.Zone = "Tarn Hollow", language, "Europe/Berlin"
	// 23:30 in Greenwich is the next day in Berlin.
	at := time.Date(2026, 11, 24, 23, 30, 0, 0, time.UTC)
	return phrase.Facts{House: h, Intake: "Booking", Form: asked, Answers: form.Load(asked, raw), Number: "B-7", Received: at, Made: at}
}

const full = `{"big":"12027","name":"Łucja","day":"2026-12-24","price":"1234.5","needs":["c","a","b"],"agree":true,"weight":"7.5",` +
	`"rows":[{"what":"reed","many":3},{"what":"string","many":1}]}`

func ExampleParse() {
	for _, s := range phrase.Parse("Dear {{name|upper}}, {{@number}}{{ not a key }}") {
		fmt.Printf("%q %q %q\n", s.Text, s.Field, s.Format)
	}
	// Output:
	// "Dear " "" ""
	// "" "name" "upper"
	// ", " "" ""
	// "" "@number" ""
	// "{{ not a key }}" "" ""
}

func TestPlaceholdersInTheirFormats(t *testing.T) {
	for _, c := range []struct{ language, source, want string }{
		{"en-GB", "{{name}} {{name|upper}} {{name|lower}}", "Łucja ŁUCJA łucja"},
		{"en-GB", "{{day}} / {{day|short}} / {{day|iso}}", "24 December 2026 / 24 Dec 2026 / 2026-12-24"},
		{"de-DE", "{{day}} {{price}} {{price|plain}} {{agree}}", "24. Dezember 2026 1.234,50\u00a0€ 1.234,50 Ja"},
		{"en-GB", "{{needs}}", "Piano, Stands and Chairs"},
		{"en-GB", "{{@received}} {{@received|time}} {{@year}}", "25 November 2026 00:30 2026"},
		{"en-GB", "{{@house}}, {{@intake}} {{@number}}", "Tarn Hollow, Booking B-7"},
		{"en-GB", "{{gone}} {{part}}", "[gone] [part]"},
		{"en-GB", "{{needs|commas}}; {{needs|lines}}", "Piano, Stands, Chairs; Piano Stands Chairs"},
		{"en-GB", "{{name|first}} {{name|title}} revision {{@revision}}", "Łucja Łucja revision 1"},
		{"de-DE", "{{weight|hundredths}} {{weight}} {{@row}}", "7,50 7,5 [@row]"},
		{"de-DE", "{{weight|ungrouped}} {{big}} {{big|ungrouped}}", "7,5 12.027 12027"},
	} {
		if got := phrase.Parse(c.source).Plain(facts(t, c.language, full)); got != c.want {
			t.Errorf("%s: %q, want %q", c.source, got, c.want)
		}
	}
	for name, want := range map[string]string{
		"ada lovelace": "Ada Lovelace", "McDonald-O'Neil USA": "McDonald-O'Neil USA", "Ludwig van der Berg": "Ludwig van der Berg",
		"JAN DE VRIES": "Jan De Vries", "d'Arcy": "d'Arcy", "öykü ünal": "Öykü Ünal",
	} {
		f := facts(t, "en-GB", `{"name":"`+name+`"}`)
		if got := phrase.Parse("{{name|title}}").Plain(f); got != want {
			t.Errorf("%q as a title is %q, not %q", name, got, want)
		}
	}
	f := facts(t, "de-DE", `{}`)
	f.Form.Constants = []form.Constant{{Key: "rate", Value: "0.19"}, {Key: "year", Value: "2027"}, {Key: "word", Value: "v1.2"}}
	if got := phrase.Parse("{{rate}} {{year}} {{word}}").Plain(f); got != "0,19 2027 v1.2" {
		t.Errorf("constants are %q", got)
	}
	p := phrase.Phrase{{Text: "For "}, {Field: "name", Empty: "nobody"}}
	if got := p.Plain(facts(t, "en-GB", `{}`)); got != "For nobody" {
		t.Errorf("an empty answer gives %q", got)
	}
}

// Inside a row its own fields come first, as in the formulas of the form; outside, a column is all its answers.
func TestRowsAndWordsOnCondition(t *testing.T) {
	f := facts(t, "en-GB", full)
	p := phrase.Phrase{{Field: "@row"}, {Text: ": "}, {Field: "rows.what"}, {Text: ", several", When: "many > 1"}}
	got := []string{}
	for _, row := range f.Rows("rows") {
		got = append(got, p.Plain(row))
	}
	if fmt.Sprint(got) != "[1: reed, several 2: string]" {
		t.Errorf("rows say %q", got)
	}
	if got := phrase.Parse("{{rows.what}}").Plain(f); got != "reed and string" {
		t.Errorf("the column says %q", got)
	}
	if got := f.Rows("rows")[0].Formula("many * 2.5", "money"); got != "€7.50" {
		t.Errorf("a formula in a row says %q", got)
	}
	words := phrase.Phrase{{Field: "agree", Yes: "has agreed", No: "refuses"}}
	if got := words.Plain(f); got != "has agreed" {
		t.Errorf("yes is %q", got)
	}
	if l := p.Check("p", phrase.Scope{Form: asked}); l.Faults() < 2 {
		t.Error("a row’s number and its fields mean nothing outside:", l)
	}
	if l := p.Check("p", phrase.Scope{Form: asked, Rows: "rows"}); len(l) > 0 {
		t.Error(l)
	}
}

func TestSpansAndStringsAreTheSame(t *testing.T) {
	var p phrase.Phrase
	if err := json.Unmarshal([]byte(`"For {{name}}"`), &p); err != nil {
		t.Fatal(err)
	}
	out, err := json.Marshal(p)
	if want := `[{"text":"For "},{"field":"name"}]`; err != nil || string(out) != want {
		t.Errorf("%s %v", out, err)
	}
	var b phrase.Body
	if err := json.Unmarshal([]byte(`"One\n{{name}}\n\nTwo"`), &b); err != nil || len(b) != 2 || len(b[0].Spans) != 2 {
		t.Errorf("%+v %v", b, err)
	}
	if out, _ := json.Marshal(struct {
		P phrase.Phrase
		B phrase.Body
	}{}); string(out) != `{"P":[],"B":[]}` {
		t.Errorf("nothing is written as %s", out)
	}
}

func TestFindingsNameTheirPlace(t *testing.T) {
	l := phrase.Parse("{{name|iso}} {{gone}} {{@page}} {{@received|upper}} {{day|short}}").
		Check("documents/x/title", phrase.Scope{Form: asked})
	got := []string{}
	for _, f := range l {
		got = append(got, strings.TrimPrefix(f.Place, "documents/x/title/placeholder "))
		if f.Mend == "" {
			t.Errorf("%s has no mend", f.Place)
		}
	}
	if want := "[name gone @page @received]"; fmt.Sprint(got) != want {
		t.Errorf("findings at %v, want %s", got, want)
	}
	if l := (phrase.Phrase{{Text: "x", Style: phrase.Style{Link: "javascript:alert(1)"}}}).Check("p",
		phrase.Scope{Form: asked}); l.Faults() != 1 {
		t.Error("a link that runs a script was let through")
	}
	for src, faults := range map[string]int{`name = "x"`: 0, `price > 1 and gone`: 1, `price >`: 1, `part`: 1, ``: 0} {
		if l := phrase.CheckCondition("p", src, phrase.Scope{Form: asked}); l.Faults() != faults {
			t.Errorf("%q: %v", src, l)
		}
	}
}

// What was asked is what is shown of the answers, however much later something is made of them; a correction that works its days out anew
// was asked by its own day.
func TestWhatWasAskedIsShown(t *testing.T) {
	f := facts(t, "en-GB", `{"name":"Ada"}`)
	f.Form = form.Form{Fields: []form.Field{{Key: "name", Kind: form.ShortText, Label: "Name", When: "today() < date(2026, 12, 1)"}}}
	f.Made = f.Received.AddDate(0, 1, 0)
	for _, c := range []struct {
		revision int
		anew     bool
		shown    bool
	}{{0, false, true}, {1, true, true}, {2, false, true}, {2, true, false}} {
		f.Revision, f.Anew = c.revision, c.anew
		if got := f.Shown()("name"); got != c.shown {
			t.Errorf("%+v: %v", c, got)
		}
	}
}

func TestConditions(t *testing.T) {
	f := facts(t, "en-GB", full)
	for src, want := range map[string]bool{
		"": true, `price > 1000`: true, `needs = "b"`: true, `needs = "z"`: false, `agree and name <> ""`: true, `not agree`: false,
		`name * 2 > 1`: true, `broken (`: true,
	} {
		if got := f.Condition(src); got != want {
			t.Errorf("%q is %v", src, got)
		}
	}
}

// Inside a row a bare column is that row's item, while functions of the whole column see all rows, as in the form's own fields.
func TestFormulasInRowsSeeTheWholeGroup(t *testing.T) {
	f := form.Form{
		Fields: []form.Field{{Key: "lines", Kind: form.Rows,
			Settings: form.Settings{Fields: []form.Field{{Key: "amount", Kind: form.Decimal}}}}},
	}
	r := form.Check(f, form.Raw{"lines": []byte(`[{"amount":"10"},{"amount":"30"},{"amount":"60"}]`)}, form.Circumstances{})
	facts := phrase.Facts{House: house.New(), Form: f, Answers: r.Answers}
	for src, want := range map[string]string{
		"round(amount / sum(lines.amount) * 100, 1)": "10.0 30.0 60.0", "count(lines)": "3 3 3", "lines.amount * 2": "20 60 120",
		"max(lines.amount) - amount":                  "50 30 0",
		"sum(if(lines.amount > 20, lines.amount, 0))": "90 90 90",
	} {
		var got []string
		for _, row := range facts.Rows("lines") {
			got = append(got, row.Formula(src, ""))
		}
		if strings.Join(got, " ") != want {
			t.Errorf("%s is %v in the rows, not %s", src, got, want)
		}
	}
	for i, row := range facts.Rows("lines") {
		if row.Condition("lines.amount > 20") != (i > 0) || !row.Condition("count(lines) > 1") {
			t.Errorf("row %d: %v %v", i+1, row.Condition("lines.amount > 20"), row.Condition("count(lines) > 1"))
		}
	}
}
