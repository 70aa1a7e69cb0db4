package receive_test

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"amberseal/adapter/sqlite"
	"amberseal/app/access"
	"amberseal/app/receive"
	"amberseal/app/register"
	"amberseal/app/workshop"
	"amberseal/core/ask/form"
	"amberseal/core/intake"
	"amberseal/core/link"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

// bench is a counter over a real database, with a clock that is set by hand.
type bench struct {
	*receive.Counter
	db       *sqlite.DB
	workshop *workshop.Workshop
	now      time.Time
	file     string // of the database
}

var secret = link.Secret("0123456789abcdef0123456789abcdef")

func newBench(t *testing.T) *bench {
	t.Helper()
	file := filepath.Join(t.TempDir(), "amberseal.db")
	db, err := sqlite.Open(t.Context(), file)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { db.Close() })
	d := &bench{db: db, file: file, now: time.Date(2026, 11, 25, 12, 0, 0, 0, time.UTC)}
	clock := func() time.Time { return d.now }
	d.Counter = &receive.Counter{Store: db, Secret: secret, Now: clock, Arrived: func() {}}
	d.workshop = &workshop.Workshop{Store: db, Now: clock}
	return d
}

func (d *bench) open(t *testing.T, x intake.Design) workshop.Intake {
	t.Helper()
	made, err := d.workshop.Add(t.Context(), x)
	if err == nil {
		made, err = d.workshop.Open(t.Context(), made.ID)
	}
	if err != nil {
		t.Fatal(err)
	}
	return made
}

func raw(t *testing.T, text string) form.Raw {
	t.Helper()
	var r form.Raw
	if err := json.Unmarshal([]byte(text), &r); err != nil {
		t.Fatal(err)
	}
	return r
}

func guests(change func(*intake.Design)) intake.Design {
	d := intake.New("Guests", []form.Field{
		{Key: "name", Kind: form.ShortText, Label: "Name", Required: true},
		{Key: "car", Kind: form.YesNo, Label: "Car"},
		{Key: "plate", Kind: form.ShortText, Label: "Plate", When: "car"},
		{Key: "seats", Kind: form.WholeNumber, Label: "Seats", Formula: "if(car, 4, 0)"},
	})
	if change != nil {
		change(&d)
	}
	return d
}

// A form opens and closes by the house's clock, wherever the house is and also in the night when the clocks change.
func TestOpeningByTheHousesClock(t *testing.T) {
	d := newBench(t)
	i := d.open(t, guests(func(x *intake.Design) { x.Opening.From, x.Opening.Until = "2026-10-25T02:30", "2026-10-25T04:00" }))
	for _, c := range []struct {
		zone, utc string
		want      error
	}{
		{"UTC", "2026-10-25T02:29:59Z", receive.ErrEarly}, {"UTC", "2026-10-25T02:30:00Z", nil}, {"UTC", "2026-10-25T03:59:59Z", nil},
		{"UTC", "2026-10-25T04:00:00Z", receive.ErrClosed},
		{"America/New_York", "2026-10-25T06:29:00Z", receive.ErrEarly}, {"America/New_York", "2026-10-25T06:31:00Z", nil},
		{"America/New_York", "2026-10-25T08:01:00Z", receive.ErrClosed},
		{"Asia/Kathmandu", "2026-10-24T20:44:00Z", receive.ErrEarly}, {"Asia/Kathmandu", "2026-10-24T20:46:00Z", nil}, // UTC+5:45
		// Berlin's clock shows 02:30 twice that night, at 00:30 and at 01:30 UTC.
		{"Europe/Berlin", "2026-10-25T00:29:00Z", receive.ErrEarly}, {"Europe/Berlin", "2026-10-25T00:31:00Z", nil},
		{"Europe/Berlin", "2026-10-25T02:59:00Z", nil}, {"Europe/Berlin", "2026-10-25T03:00:00Z", receive.ErrClosed},
	} {
		h := house.New()
		h.Zone = c.zone
		if err := d.db.SetHouse(t.Context(), h); err != nil {
			t.Fatal(err)
		}
		var err error
		if d.now, err = time.Parse(time.RFC3339, c.utc); err != nil {
			t.Fatal(err)
		}
		if _, err := d.Submit(t.Context(), i.Design.Slug, receive.Sending{Answers: raw(t, `{"name": "A"}`)}); !errors.Is(err, c.want) {
			t.Errorf("%s in %s: %v, want %v", c.utc, c.zone, err, c.want)
		}
	}
	if _, err := d.workshop.Close(t.Context(), i.ID); err != nil {
		t.Fatal(err)
	}
	d.now = time.Date(2026, 10, 25, 2, 30, 0, 0, time.UTC)
	if _, err := d.Submit(t.Context(), i.Design.Slug, receive.Sending{Answers: raw(t, `{"name": "A"}`)}); !errors.Is(err,
		receive.ErrClosed) {
		t.Errorf("closed by hand: %v", err)
	}
	if _, err := d.Submit(t.Context(), "nowhere", receive.Sending{}); !errors.Is(err, register.NotFound) {
		t.Errorf("a form that is not there: %v", err)
	}
}

// What is hidden is not kept, what is calculated is the house's and not the sender's, and what is wrong is told by its field with nothing
// taken in.
func TestWhatIsKept(t *testing.T) {
	d := newBench(t)
	i := d.open(t, guests(nil))
	for _, wrong := range []struct{ answers, place string }{
		{`{}`, "name"}, {`{"name": ""}`, "name"}, {`{"name": "A", "car": "perhaps"}`, "car"}, {`{"name": "A", "nobody": 1}`, "nobody"},
		{`{"name": ["A"]}`, "name"},
	} {
		var invalid receive.Invalid
		if _, err := d.Submit(t.Context(), i.Design.Slug, receive.Sending{Answers: raw(t, wrong.answers)}); !errors.As(err, &invalid) ||
			invalid.Findings[0].Place != wrong.place {
			t.Errorf("%s gives %v, want a finding at %s", wrong.answers, err, wrong.place)
		}
	}
	if n, err := d.db.Count(t.Context(), access.Everywhere); err != nil || n.All != 0 {
		t.Fatalf("%d were taken in: %v", n.All, err)
	}
	for answers, want := range map[string]string{
		`{"name": "A", "car": false, "plate": "HID-DEN", "seats": 99}`: `{"name":"A","car":false,"seats":"0"}`,
		`{"name": "B", "car": true, "plate": "SHO-WN", "seats": 99}`:   `{"name":"B","car":true,"plate":"SHO-WN","seats":"4"}`,
	} {
		r, err := d.Submit(t.Context(), i.Design.Slug, receive.Sending{Answers: raw(t, answers)})
		if err != nil {
			t.Fatal(err)
		}
		s, _, err := d.Held(t.Context(), link.Read, r.Read)
		if err != nil {
			t.Fatal(err)
		}
		got := map[string]any{}
		for k, v := range s.Answers {
			got[k] = strings.Trim(string(v), `"`)
		}
		wanted := map[string]any{}
		for k, v := range raw(t, want) {
			wanted[k] = strings.Trim(string(v), `"`)
		}
		if fmt.Sprint(got) != fmt.Sprint(wanted) {
			t.Errorf("of %s is kept %v, want %v", answers, got, wanted)
		}
	}
}

// The same key is the same submission, however it is asked for; with other answers it is refused and the first stays as it is.
func TestAKeyIsOneSubmission(t *testing.T) {
	d := newBench(t)
	i := d.open(t, guests(func(x *intake.Design) { x.Opening.Correct = true }))
	first, err := d.Submit(t.Context(), i.Design.Slug, receive.Sending{Answers: raw(t, `{"name": "A", "car": false}`), Once: "k"})
	if err != nil {
		t.Fatal(err)
	}
	again, err := d.Submit(
		t.Context(), i.Design.Slug, receive.Sending{Answers: raw(t, `{"car": false, "plate": "hidden", "name": "A"}`), Once: "k"},
	)
	if err != nil || again.Number != first.Number || again.Read != first.Read || again.Correct != first.Correct {
		t.Errorf("the same answers again: %+v %v", again, err)
	}
	if _, err := d.Submit(t.Context(), i.Design.Slug, receive.Sending{Answers: raw(t, `{"name": "B"}`), Once: "k"}); !errors.Is(
		err,
		receive.ErrOtherBody,
	) {
		t.Errorf("other answers under the same key: %v", err)
	}
	other, err := d.Submit(t.Context(), i.Design.Slug, receive.Sending{Answers: raw(t, `{"name": "A"}`), Once: "l"})
	if err != nil || other.Number == first.Number {
		t.Errorf("another key: %+v %v", other, err)
	}
	// A correction keeps number and token; equal answers are no correction; a token of nobody corrects nothing.
	for n, name := range []string{"A", "C", "C", "D"} {
		r, err := d.Submit(
			t.Context(), i.Design.Slug,
			receive.Sending{Answers: raw(t, `{"name": "`+name+`", "car": false}`), Page: receive.Page{Correct: first.Correct}},
		)
		if err != nil || r.Number != first.Number {
			t.Errorf("correction %d: %+v %v", n, r, err)
		}
	}
	if s, _, err := d.Held(t.Context(), link.Correct, first.Correct); err != nil || s.Revision != 3 {
		t.Errorf("after two corrections it is revision %d: %v", s.Revision, err)
	}
	if _, err := d.Submit(t.Context(), i.Design.Slug,
		receive.Sending{Answers: raw(t, `{"name": "A"}`), Page: receive.Page{Correct: "nobody"}}); !errors.Is(
		err,
		register.NotFound,
	) {
		t.Errorf("a token of nobody: %v", err)
	}
	strict := d.open(t, guests(func(x *intake.Design) { x.Name, x.Slug = "Final", "final" }))
	if _, err := d.Submit(t.Context(), strict.Design.Slug,
		receive.Sending{Answers: raw(t, `{"name": "A"}`), Page: receive.Page{Correct: first.Correct}}); !errors.Is(
		err,
		receive.ErrNoCorrection,
	) {
		t.Errorf("a form without corrections: %v", err)
	}
	if _, err := d.Sent(t.Context(), strict.Design.Slug, first.Correct); !errors.Is(err, receive.ErrNoCorrection) {
		t.Errorf("what was sent to a form without corrections: %v", err)
	}
}

// Who had the page open while a version was published is judged by what they saw, for a week.
func TestAnswersToTheVersionThatWasSeen(t *testing.T) {
	d := newBench(t)
	i := d.open(t, guests(nil))
	x := i.Design
	x.Form.Fields = append(x.Form.Fields[:1:1], form.Field{Key: "hat", Kind: form.ShortText, Label: "Hat", Required: true})
	if _, err := d.workshop.Change(t.Context(), i.ID, i.Revision, x); err != nil {
		t.Fatal(err)
	}
	if _, err := d.workshop.Open(t.Context(), i.ID); err != nil {
		t.Fatal(err)
	}
	send := func(version int, answers string) error {
		r, err := d.Submit(t.Context(), i.Design.Slug, receive.Sending{Answers: raw(t, answers), Page: receive.Page{Version: version}})
		if err == nil {
			if s, _, held := d.Held(t.Context(), link.Read, r.Read); held != nil || s.Version != max(version, 1) {
				t.Errorf("it is kept as of version %d: %v", s.Version, held)
			}
		}
		return err
	}
	const old, fresh = `{"name": "A", "car": true, "plate": "X"}`, `{"name": "A", "hat": "felt"}`
	var invalid receive.Invalid
	if err := send(1, old); err != nil {
		t.Errorf("the version that was seen: %v", err)
	}
	if err := send(2, fresh); err != nil {
		t.Errorf("the present one: %v", err)
	}
	if err := send(2, old); !errors.As(err, &invalid) {
		t.Errorf("old answers to the present one: %v", err)
	}
	if err := send(7, old); !errors.Is(err, receive.ErrChanged) {
		t.Errorf("a version that never was: %v", err)
	}
	d.now = d.now.Add(8 * 24 * time.Hour)
	if err := send(1, old); !errors.Is(err, receive.ErrChanged) {
		t.Errorf("after a week: %v", err)
	}
	if _, err := d.workshop.Pause(t.Context(), i.ID); err != nil {
		t.Fatal(err)
	}
	if err := send(2, fresh); !errors.Is(err, receive.ErrPaused) {
		t.Errorf("paused: %v", err)
	}
}

// A correction weeks later makes no other deadlines and ages than the first arrival did, and a day that has passed since and that nobody
// touched hinders it not. What is new is held against the first day too.
func TestACorrectionKeepsItsDay(t *testing.T) {
	d := newBench(t)
	d.now = time.Date(2026, 12, 20, 12, 0, 0, 0, time.UTC)
	i := d.open(t, func() intake.Design {
		x := intake.New("Loan", []form.Field{
			{Key: "name", Kind: form.ShortText, Label: "Name", Required: true},
			{Key: "born", Kind: form.Date, Label: "Born"},
			{Key: "visit", Kind: form.Date, Label: "Visit", Required: true, Settings: form.Settings{Min: "@today"}},
			{Key: "due", Kind: form.Date, Label: "Due", Formula: "add_days(today(), 14)"},
			{Key: "came", Kind: form.Date, Label: "Came", Formula: "received()"},
			{Key: "age", Kind: form.WholeNumber, Label: "Age", Formula: "years(born, today())"},
			{Key: "late", Kind: form.YesNo, Label: "Late", Formula: "today() > date(2026, 12, 31)"},
		})
		x.Opening.Correct = true
		return x
	}())
	answers := func(name, visit string) form.Raw {
		return raw(t, `{"name": "`+name+`", "born": "2000-12-25", "visit": "`+visit+`"}`)
	}
	first, err := d.Submit(t.Context(), i.Design.Slug, receive.Sending{Answers: answers("Ada", "2026-12-22")})
	if err != nil {
		t.Fatal(err)
	}
	kept := func() string {
		s, design, err := d.Held(t.Context(), link.Correct, first.Correct)
		if err != nil {
			t.Fatal(err)
		}
		a := form.Load(design.Form, s.Answers)
		f := phrase.Facts{Form: design.Form, Answers: a, Received: s.Received, Made: d.now, Revision: s.Revision, Anew: design.Opening.Anew}
		var out []string
		for _, key := range []string{"due", "came", "age", "late"} {
			x, _ := design.Form.Field(key)
			out = append(out, f.Answer(x, a[key], "iso"))
		}
		return strings.Join(append(out, fmt.Sprint(f.Condition("today() > date(2026, 12, 31)"))), " ")
	}
	before := kept()
	if before != "2027-01-03 2026-12-20 25 No false" {
		t.Errorf("at first it is %q", before)
	}
	d.now = time.Date(2027, 1, 7, 12, 0, 0, 0, time.UTC)
	page := receive.Page{Correct: first.Correct}
	if _, r, facts, err := d.Check(t.Context(), i.Design.Slug, page, answers("Ada Marsh", "2026-12-22")); err != nil ||
		len(r.Findings) > 0 || !facts.Received.Equal(time.Date(2026, 12, 20, 12, 0, 0, 0, time.UTC)) {
		t.Errorf("while it is typed: %v %v, received %v", err, r.Findings, facts.Received)
	}
	again, err := d.Submit(t.Context(), i.Design.Slug, receive.Sending{Answers: answers("Ada Marsh", "2026-12-22"), Page: page})
	if err != nil || again.Revision != 2 || !again.Received.Equal(first.Received) {
		t.Fatalf("corrected: %+v %v", again, err)
	}
	if after := kept(); after != before {
		t.Errorf("a corrected name makes %q of %q", after, before)
	}
	if _, err := d.Submit(t.Context(), i.Design.Slug, receive.Sending{Answers: answers("Ada", "2026-12-19"), Page: page}); err == nil {
		t.Error("a day before the first arrival is taken")
	}

	// An intake may say otherwise: days are those of the correction then, while what was not touched hinders it as little.
	x := i.Design
	x.Opening.Anew = true
	if _, err := d.workshop.Change(t.Context(), i.ID, i.Revision, x); err != nil {
		t.Fatal(err)
	}
	if _, err := d.workshop.Open(t.Context(), i.ID); err != nil {
		t.Fatal(err)
	}
	if _, err := d.Submit(t.Context(), i.Design.Slug, receive.Sending{Answers: answers("Ada M", "2026-12-22"), Page: page}); err != nil {
		t.Fatal(err)
	}
	if after := kept(); after != "2027-01-21 2026-12-20 26 Yes true" {
		t.Errorf("worked out anew it is %q", after)
	}
}

// What was kept and then sent otherwise is forgotten: its words are not in the database's files either.
func TestWhatIsForgottenIsWrittenOver(t *testing.T) {
	d := newBench(t)
	i := d.open(t, guests(func(*intake.Design) {}))
	const secret = "Zanzibar-Quarantine"
	kept := raw(t, `{"name": "`+strings.Repeat(secret+" ", 400)+`"}`)
	tok, err := d.SaveDraft(t.Context(), i.Design.Slug, "", receive.Page{}, kept)
	if err != nil {
		t.Fatal(err)
	}
	found := func() (n int) {
		for _, end := range []string{"", "-wal"} {
			data, err := os.ReadFile(d.file + end)
			if err != nil && !errors.Is(err, fs.ErrNotExist) {
				t.Fatal(err)
			}
			n += bytes.Count(data, []byte(secret))
		}
		return n
	}
	if found() == 0 {
		t.Fatal("what was kept is not found while it is kept")
	}
	sent := receive.Sending{Answers: raw(t, `{"name": "Ada"}`), Draft: tok}
	if _, err := d.Submit(t.Context(), i.Design.Slug, sent); err != nil {
		t.Fatal(err)
	}
	if err := d.db.Close(); err != nil {
		t.Fatal(err)
	}
	if n := found(); n > 0 {
		t.Errorf("after sending and a stop its words are there %d times", n)
	}
}

// A reminder comes at the hour at which it was asked for, so many days of the calendar later, though the clock changes meanwhile.
func TestAReminderComesAtItsHour(t *testing.T) {
	d := newBench(t)
	h := house.New()
	h.Zone, h.Email, h.Site = "Europe/Berlin", "desk@house.example", "https://forms.house.example"
	if err := d.db.SetHouse(t.Context(), h); err != nil {
		t.Fatal(err)
	}
	i := d.open(t, guests(func(x *intake.Design) { x.Opening.Reminders = true }))
	for asked, want := range map[string]string{
		"2026-10-23T08:00:00Z": "2026-10-26T09:00:00Z", "2026-03-27T09:00:00Z": "2026-03-30T08:00:00Z",
		"2026-06-01T08:00:00Z": "2026-06-04T08:00:00Z",
	} {
		var err error
		if d.now, err = time.Parse(time.RFC3339, asked); err != nil {
			t.Fatal(err)
		}
		tok, err := d.SaveDraft(t.Context(), i.Design.Slug, "", receive.Page{}, raw(t, `{"name": "Ada"}`))
		if err != nil {
			t.Fatal(err)
		}
		due, err := d.Remind(t.Context(), i.Design.Slug, tok, "ann"+asked[5:7]+"@guest.example", 3, receive.Page{})
		if err != nil || due.Format(time.RFC3339) != want {
			t.Errorf("asked for at %s it comes at %s, not %s: %v", asked, due.Format(time.RFC3339), want, err)
		}
	}
}
