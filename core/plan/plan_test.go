package plan_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"amberseal/core/ask/form"
	"amberseal/core/enclosure"
	"amberseal/core/filing"
	"amberseal/core/intake"
	"amberseal/core/notice"
	"amberseal/core/plan"
	"amberseal/core/print/paper"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

func design() (intake.Design, phrase.Facts) {
	d := intake.New("Gift", []form.Field{{Key: "email", Kind: form.Email, Label: "Email"},
		{Key: "value", Kind: form.Money, Label: "Value"}})
	f := phrase.Facts{
		House:   house.New(),
		Form:    d.Form,
		Answers: form.Load(d.Form, form.Raw{"email": []byte(`"a@b.example"`), "value": []byte(`"5"`)}),
		Made:    time.Unix(0, 0),
	}
	return d, f
}

func told(steps []plan.Step) string {
	var out []string
	for _, s := range steps {
		out = append(out, fmt.Sprint(s.Kind, " ", s.Key))
	}
	return strings.Join(out, ", ")
}

func ExampleStart() {
	d, f := design()
	for _, s := range plan.Start(d, f)[:2] {
		fmt.Println(s.Kind, s.Key)
	}
	// Output:
	// document receipt
	// notice respondent
}

// What is made depends on the answers: a document whose condition does not hold is neither made, attached nor filed; a
// notice whose condition does not hold is not sent.
func TestStepsFollowTheConditions(t *testing.T) {
	d, f := design()
	d.Documents = append(
		d.Documents,
		paper.Document{Key: "big", Name: "Big gift", When: "value > 100", Blocks: []paper.Block{{ID: "r", Kind: paper.Rule}}},
	)
	d.Notices = []notice.Notice{
		{Key: "always", Name: "Always", To: phrase.Parse("{{email}}"), Attach: enclosure.Of("receipt", "big")},
		{Key: "never", Name: "Never", When: "value < 0"},
	}
	d.Filings = []filing.Filing{
		{Key: "small", Name: "Small", What: enclosure.Of("receipt")},
		{Key: "large", Name: "Large", What: enclosure.Of("big")},
	}
	if got := told(plan.Start(d, f)); got != "document receipt, notice always, filing small" {
		t.Errorf("a small gift gives %s", got)
	}
	f.Answers = form.Load(d.Form, form.Raw{"email": []byte(`"a@b.example"`), "value": []byte(`"500"`)})
	if got := told(plan.Start(d, f)); got != "document receipt, document big, notice always, filing small, filing large" {
		t.Errorf("a large gift gives %s", got)
	}
}

// What recurs keeps its beat: the next time lies after now, by less than a period, a whole number of periods after the last.
func TestWhatRecursKeepsItsBeat(t *testing.T) {
	due := time.Unix(1_800_000_000, 0)
	for _, late := range []time.Duration{0, time.Second, time.Hour - 1, time.Hour, 90 * 24 * time.Hour, 90*24*time.Hour + 17*time.Minute} {
		now := due.Add(late)
		next := plan.Next(due, time.Hour, now)
		if !next.After(now) || next.Sub(now) > time.Hour || next.Sub(due)%time.Hour != 0 {
			t.Errorf("%v late, the next is after %v", late, next.Sub(now))
		}
	}
	if next := plan.Next(due, time.Hour, due.Add(-time.Minute)); !next.Equal(due) {
		t.Errorf("what is not due yet is put off to %v", next)
	}
}

// A correction voids what is open and plans anew. What goes at a time of its own goes once: not again for a correction, but again when its
// day has moved and is still to come; and what is to go before a day does not go after its time.
func TestWhatFollowsACorrection(t *testing.T) {
	f0 := form.Form{Fields: []form.Field{{Key: "v", Kind: form.Date, Label: "Visit"}, {Key: "n", Kind: form.ShortText, Label: "Name"}}}
	d := intake.New("Visit", f0.Fields)
	d.Documents, d.Filings = d.Documents[:1], nil
	to := phrase.Parse("a@b.example")
	d.Notices = []notice.Notice{
		{Key: "at-once", Name: "At once", To: to},
		{Key: "before", Name: "Before", To: to, Delay: &notice.Delay{Field: "v", Days: -2, At: "09:00"}},
		{Key: "after", Name: "After", To: to, Delay: &notice.Delay{Days: 1}},
		{Key: "soon", Name: "Soon", To: to, Delay: &notice.Delay{Minutes: 30}},
	}
	day := func(s string) time.Time {
		at, err := time.Parse("2006-01-02 15:04", s)
		if err != nil {
			t.Fatal(err)
		}
		return at
	}
	facts := func(visit, now string) phrase.Facts {
		return phrase.Facts{House: house.New(), Form: d.Form, Received: day("2026-03-30 08:00"), Made: day(now), Revision: 2,
			Answers: form.Load(d.Form, form.Raw{"v": []byte(`"` + visit + `"`)})}
	}
	lapsed := func(steps []plan.Step) (out []string) {
		for _, s := range steps {
			mark := ""
			if !s.Expires.IsZero() {
				mark = " (too late)"
			}
			if s.Kind == plan.Notice {
				out = append(out, s.Key+mark)
			}
		}
		return out
	}
	for _, c := range []struct{ what, was, is, now, went, want string }{
		{"all went", "2026-04-10", "2026-04-10", "2026-04-08 09:01", "at-once before after soon", "at-once"},
		{"nothing went yet", "2026-04-10", "2026-04-10", "2026-03-30 08:10", "", "at-once before after soon"},
		{"one waits still, as in an outage", "2026-04-10", "2026-04-10", "2026-04-08 09:01", "at-once before soon", "at-once after"},
		{"its day moved", "2026-04-10", "2026-04-20", "2026-04-09 12:00", "at-once before after soon", "at-once before"},
		{"its day moved into what has been", "2026-04-10", "2026-04-09", "2026-04-09 12:00", "at-once before after soon", "at-once"},
		{"its time has passed without it", "2026-04-10", "2026-04-10", "2026-04-09 12:00", "at-once after soon",
			"at-once before (too late)"},
	} {
		got := plan.Correct(d, facts(c.was, c.now), facts(c.is, c.now), func(key string) bool {
			return slices.Contains(strings.Fields(c.went), key)
		})
		if s := strings.Join(lapsed(got.Steps), " "); got.Void == "" || s != c.want {
			t.Errorf("%s: it plans %q, want %q", c.what, s, c.want)
		}
		for _, s := range got.Steps {
			if s.Key == "after" && !s.NotBefore.Equal(day("2026-03-31 08:00")) {
				t.Errorf("%s: a day after the arrival is %v", c.what, s.NotBefore)
			}
		}
	}
	first := facts("2026-03-10", "2026-03-30 08:00")
	first.Revision = 1
	if s := strings.Join(lapsed(plan.Start(d, first)), " "); s != "at-once before (too late) after soon" {
		t.Errorf("of a day that has been %q is planned", s)
	}
}

// What tells where something was filed waits for a filing that has an address, and a register's line is written again when one comes.
func TestWhatIsOpenedByALinkIsWaitedFor(t *testing.T) {
	d, f := design()
	d.Notices = nil
	d.Filings = []filing.Filing{{Key: "f", Name: "F", What: enclosure.Of("receipt"), To: []string{"cabinet", "records", "office"}}}
	d.Registers = []filing.Register{
		{Key: "all", Name: "All", Columns: []filing.Column{{Of: filing.ByFiled}}},
		{Key: "plain", Name: "Plain", Columns: []filing.Column{{Of: filing.ByNumber}}},
		{Key: "never", Name: "Never", Columns: []filing.Column{{Of: filing.ByFiled}}, When: "value < 0"},
	}
	needs := map[string]string{}
	keys := map[string]bool{}
	for _, s := range plan.Start(d, f) {
		needs[s.Key], keys[s.Key] = fmt.Sprint(s.Needs), true
	}
	if needs["register all"] != "[filed:f/records]" || needs["register plain"] != "[]" {
		t.Errorf("the lines wait for %v", needs)
	}
	again := plan.Linked(d, f, "f/records")
	if told(again) != "filing register all f/records" || keys[again[0].Key] ||
		string(again[0].Body) != `{"documents":[],"register":"all"}` {
		t.Errorf("again goes %s: %s", told(again), again[0].Body)
	}
	d.Filings[0].To = []string{"cabinet"}
	for _, s := range plan.Start(d, f) {
		if s.Key == "register all" && fmt.Sprint(s.Needs) != "[filed:f/cabinet]" {
			t.Errorf("where there is no other place it waits for %v", s.Needs)
		}
	}
}
