package notice_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"
	"time"

	"amberseal/core/ask/form"
	"amberseal/core/enclosure"
	"amberseal/core/notice"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

var asked = form.Form{Fields: []form.Field{
	{
		Key:   "name",
		Kind:  form.LongText,
		Label: "Name",
	}, {Key: "mail", Kind: form.Email, Label: "Your email", Required: true}, {Key: "other", Kind: form.Email, Label: "Guardian email"},
}}

func there(picture string) bool { return picture != "gone.png" }

func facts(t *testing.T, answers string) phrase.Facts {
	var raw form.Raw
	if err := json.Unmarshal([]byte(answers), &raw); err != nil {
		t.Fatal(err)
	}
	h := house.New()
	h.Email = "desk@house.example"
	return phrase.Facts{
		House:    h,
		Intake:   "Booking",
		Form:     asked,
		Answers:  form.Load(asked, raw),
		Number:   "B-7",
		Received: time.Unix(1e9, 0),
		Made:     time.Unix(1e9, 0),
	}
}

func TestAddresses(t *testing.T) {
	f := facts(t, `{"mail":"a@b.example"}`)
	for to, want := range map[string]string{
		"{{mail}}": "a@b.example", "{{@house_email}}; x@y.example": "desk@house.example x@y.example", "{{mail}}, {{other}}": "a@b.example",
		"{{other}}": "No address in “Guardian email”.", "nobody": "“nobody” is not an email address.",
	} {
		m := notice.Notice{To: phrase.Parse(to)}.For(f, notice.With{})
		if got := strings.Join(m.To, " ") + m.Problem; got != want {
			t.Errorf("%s: %q, want %q", to, got, want)
		}
	}
	f.House.Email = ""
	if m := (notice.Notice{To: phrase.Parse("{{@house_email}}")}).For(f, notice.With{}); !strings.Contains(m.Problem, "House page") {
		t.Errorf("a house without an address: %+v", m)
	}
}

// A correction says that it is one, unless the design does.
func TestCorrectionsSayWhatTheyReplace(t *testing.T) {
	f := facts(t, `{"mail":"a@b.example"}`)
	n := notice.Notice{Subject: phrase.Parse("Booking {{@number}}"), Message: phrase.ParseBody("Thank you.")}
	first := n.For(f, notice.With{})
	f.Revision = 2
	second := n.For(f, notice.With{})
	if first.Subject != "Booking B-7" || strings.Contains(first.Text, "evision") {
		t.Errorf("the first says %q %q", first.Subject, first.Text)
	}
	if second.Subject != "Booking B-7 – revision 2" || !strings.HasPrefix(second.Text, "Revision 2, replaces revision 1.\n\nThank you.") {
		t.Errorf("the second says %q %q", second.Subject, second.Text)
	}
	n.Subject = phrase.Parse("Booking {{@number}}, {{@revision}}")
	if m := n.For(f, notice.With{}); m.Subject != "Booking B-7, 2" || !strings.HasPrefix(m.Text, "Thank you.") {
		t.Errorf("a design that says it: %q %q", m.Subject, m.Text)
	}
}

func TestAnswersStayTextInTheMessage(t *testing.T) {
	n := notice.Notice{Message: phrase.Body{
		{Spans: phrase.Phrase{{Text: "Dear ", Style: phrase.Style{Bold: true}}, {Field: "name"}}},
		{
			Spans: phrase.Phrase{{Text: "one"}},
			List:  "bullet",
		}, {Spans: phrase.Phrase{{Text: "two", Style: phrase.Style{Link: `https://x.example/?a="b"`}}}, List: "bullet"},
		{Spans: phrase.Phrase{{Text: "three"}}, List: "number"},
	}}
	m := n.For(facts(t, `{"name":"<b onload=x>&\nEve","mail":"a@b.example"}`), notice.With{})
	for _, want := range []string{"<b>Dear </b>&lt;b onload=x&gt;&amp;<br>Eve", "<ul><li>one</li><li>",
		`href="https://x.example/?a=&#34;b&#34;"`, "</ul><ol><li>three</li></ol>"} {
		if !strings.Contains(m.HTML, want) {
			t.Errorf("the page has no %s:\n%s", want, m.HTML)
		}
	}
	if want := "Dear <b onload=x>&\nEve\n\n- one\n\n- two <https://x.example/?a=\"b\">\n\n1. three\n"; m.Text != want {
		t.Errorf("the text is %q", m.Text)
	}
}

func TestFindings(t *testing.T) {
	for name, c := range map[string]struct {
		n      notice.Notice
		faults int
	}{
		"usual":         {notice.Usual(asked, "receipt")[0], 0},
		"nothing":       {notice.Notice{Key: "x"}, 3},
		"wrong address": {notice.Notice{Key: "x", Name: "X", To: phrase.Parse("not one"), Subject: phrase.Parse("s")}, 1},
		"wrong field":   {notice.Notice{Key: "x", Name: "X", To: phrase.Parse("{{name}}"), Subject: phrase.Parse("s")}, 1},
		"no document": {notice.Notice{Key: "x", Name: "X", To: phrase.Parse("{{mail}}"), Subject: phrase.Parse("s"),
			Attach: enclosure.Of("gone")}, 1},
	} {
		if l := c.n.Check(asked, []string{"receipt"}, there); l.Faults() != c.faults {
			t.Errorf("%s: %v", name, l)
		}
	}
}

func ExampleNotice_For() {
	n := notice.Notice{
		To:      phrase.Parse("a@b.example, c@d.example"),
		Subject: phrase.Parse("About {{@number}}"),
		Message: phrase.ParseBody("Thank you."),
	}
	m := n.For(phrase.Facts{Number: "N-7"}, notice.With{})
	fmt.Println(m.To, m.Subject, m.Problem == "")
	// Output: [a@b.example c@d.example] About N-7 true
}

// Lists lie in the item before them, looks become plain styles, and a paragraph of which nothing is left is not there; the
// text beside the page says the same.
func TestLooksAndListsInTheMessage(t *testing.T) {
	item := func(text, kind string, depth int) phrase.Paragraph {
		return phrase.Paragraph{Spans: phrase.Phrase{{Text: text}}, List: kind, Depth: depth}
	}
	m := notice.Notice{Message: phrase.Body{
		{
			Spans: phrase.Phrase{
				{Text: "red", Style: phrase.Style{Colour: "#A3262A", Strike: true}},
				{Text: " large", Style: phrase.Style{Size: 21}},
				{Text: " x", Style: phrase.Style{Colour: "red;x"}},
				{Text: " caps", Style: phrase.Style{SmallCaps: true}},
			},
			Align: "center",
		},
		{Spans: phrase.Phrase{{Text: "never", When: "1 > 2"}}},
		item(
			"one", "number", 0,
		), item("inside", "bullet", 1), item("deeper", "number", 2), item("two", "number", 0), item("other", "bullet", 0),
		{Spans: phrase.Phrase{{Text: "end"}}}, item("again", "number", 0),
	}}.For(facts(t, `{}`), notice.With{})
	for _, want := range []string{
		`<p style="text-align:center"><span style="color:#A3262A"><s>red</s></span><span style="font-size:2.00em"> large</span> x<span ` +
			`style="font-variant:small-caps"> caps</span></p>`,
		"<ol><li>one<ul><li>inside<ol><li>deeper</li></ol></li></ul></li><li>two</li></ol><ul><li>other</li></ul><p>end</p><ol>" +
			"<li>again</li></ol>",
	} {
		if !strings.Contains(m.HTML, want) {
			t.Errorf("the page has no %s:\n%s", want, m.HTML)
		}
	}
	if want := "red large x caps\n\n1. one\n\n  - inside\n\n    1. deeper\n\n2. two\n\n- other\n\nend\n\n1. again\n"; m.Text != want {
		t.Errorf("the text is %q, want %q", m.Text, want)
	}
}

// Who read the form in a language gets a notice that is written in it, with days, questions and choices in the same; who read it in another
// gets the words as they stand, and so does everybody of one that speaks a language of its own.
func TestANoticeSpeaksItsReadersLanguage(t *testing.T) {
	f := facts(t, `{"name":"Ann","mail":"a@b.example"}`)
	f.Form.Translations = map[string]form.Texts{"de": {"name/label": "Ihr Name"}, "ar": {"name/label": "الاسم"}}
	n := notice.Notice{
		Key: "n", Name: "N", Subject: phrase.Parse("Booked on {{@received}}"), Message: phrase.ParseBody("Thank you.\n\n{{@answers}}"),
		To: phrase.Parse("{{mail}}"), Translations: map[string]notice.Wording{
			"de": {Subject: phrase.Parse("Gebucht am {{@received}}"), Message: phrase.ParseBody("Danke.\n\n{{@answers}}")},
			"ar": {Subject: phrase.Parse("شكرا"), Message: phrase.ParseBody("شكرا\n\n{{@answers}}")},
		},
	}
	for language, want := range map[string][]string{
		"": {"Booked on 9 September 2001", "Name: Ann", `lang="en-GB" dir="ltr"`}, "fr": {"Booked on 9 September 2001", "Name: Ann"},
		"de-AT": {"Gebucht am 9. September 2001", "Ihr Name: Ann", `lang="de-AT" dir="ltr"`}, "ar": {"شكرا", "الاسم: Ann", `dir="rtl"`},
	} {
		f.Language = language
		m := n.For(f, notice.With{})
		for _, w := range want {
			if !strings.Contains(m.Subject+m.Text+m.HTML, w) {
				t.Errorf("in %q there is no %q in %q %q", language, w, m.Subject, m.Text)
			}
		}
		many := n.OfMany([]notice.Gathered{{Facts: f}, {Facts: f}}, notice.With{})
		if !strings.Contains(many.Text, want[1]) {
			t.Errorf("of many in %q: %q", language, many.Text)
		}
	}
	f.Language = "de"
	other := f
	other.Language = "fr"
	if m := n.OfMany([]notice.Gathered{{Facts: f}, {Facts: other}}, notice.With{}); !strings.Contains(m.Text, "Thank you.") {
		t.Errorf("of readers of two languages: %q", m.Text)
	}
	n.Language = "en-US"
	if m := n.For(f, notice.With{}); m.Subject != "Booked on September 9, 2001" {
		t.Errorf("in a language for everybody it says %q", m.Subject)
	}
	n.Translations["deutsch"] = notice.Wording{Subject: phrase.Parse("{{gone}}")}
	said := fmt.Sprint(n.Check(f.Form, nil, there))
	for _, place := range []string{"notices/n/translations/deutsch:", "notices/n/translations/deutsch/subject/placeholder gone"} {
		if !strings.Contains(said+" ", place) {
			t.Errorf("no finding at %s in %s", place, said)
		}
	}
}

// Pictures stand over the words or below them, as wide as the words at most; one that is not there leaves no hole, and what they show is
// said where nobody sees them.
func TestPicturesStandAroundTheWords(t *testing.T) {
	n := notice.Notice{
		Key: "n", Name: "N", To: phrase.Parse("{{mail}}"), Subject: phrase.Parse("S"), Message: phrase.ParseBody("Words."),
		Pictures: []notice.Picture{{Picture: "wide.png", Alt: `A "lake"`}, {Picture: "gone.png"}, {Picture: "map.png", Below: true}},
	}
	m := n.For(facts(t, `{"mail":"a@b.example"}`), notice.With{Pictures: map[string]int{"wide.png": 1088, "map.png": 90}})
	lake := strings.Index(m.HTML, `src="cid:wide.png@pictures.amberseal" alt="A &#34;lake&#34;" width="544"`)
	words := strings.Index(m.HTML, "Words.")
	below := strings.Index(m.HTML, `src="cid:map.png@pictures.amberseal" alt="" width="90"`)
	if lake < 0 || words < lake || below < words || strings.Contains(m.HTML, "gone") || m.Text != "[A \"lake\"]\n\nWords.\n" {
		t.Errorf("%q %s", m.Text, m.HTML)
	}
	if said := fmt.Sprint(n.Check(asked, nil, there)); strings.Count(said, "notices/n/pictures") != 1 {
		t.Errorf("the findings are %s", said)
	}
}
