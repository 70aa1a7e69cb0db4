package receive_test

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"path/filepath"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"amberseal/adapter/sqlite"
	"amberseal/app/design"
	"amberseal/app/invite"
	"amberseal/app/receive"
	"amberseal/app/register"
	"amberseal/core/form"
	"amberseal/core/house"
	"amberseal/core/intake"
)

// desk is a counter over a real database, with a clock that is set by hand.
type desk struct {
	*receive.Counter
	db       *sqlite.DB
	workshop *design.Workshop
	now      time.Time
}

func newDesk(t *testing.T) *desk {
	t.Helper()
	db, err := sqlite.Open(t.Context(), filepath.Join(t.TempDir(), "amberseal.db"))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { db.Close() })
	d := &desk{db: db, now: time.Date(2026, 11, 25, 12, 0, 0, 0, time.UTC)}
	clock := func() time.Time { return d.now }
	d.Counter = &receive.Counter{Store: db, Now: clock, Arrived: func() {}}
	d.workshop = &design.Workshop{Store: db, Now: clock}
	return d
}

func (d *desk) open(t *testing.T, x intake.Design) design.Intake {
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
	d := newDesk(t)
	i := d.open(t, guests(func(x *intake.Design) { x.Opening.From, x.Opening.Until = "2026-10-25T02:30", "2026-10-25T04:00" }))
	for _, c := range []struct {
		zone, utc string
		want      error
	}{
		{"UTC", "2026-10-25T02:29:59Z", receive.ErrEarly}, {"UTC", "2026-10-25T02:30:00Z", nil}, {"UTC", "2026-10-25T03:59:59Z", nil}, {"UTC", "2026-10-25T04:00:00Z", receive.ErrClosed},
		{"America/New_York", "2026-10-25T06:29:00Z", receive.ErrEarly}, {"America/New_York", "2026-10-25T06:31:00Z", nil}, {"America/New_York", "2026-10-25T08:01:00Z", receive.ErrClosed},
		{"Asia/Kathmandu", "2026-10-24T20:44:00Z", receive.ErrEarly}, {"Asia/Kathmandu", "2026-10-24T20:46:00Z", nil}, // UTC+5:45
		// Berlin's clock shows 02:30 twice that night, at 00:30 and at 01:30 UTC.
		{"Europe/Berlin", "2026-10-25T00:29:00Z", receive.ErrEarly}, {"Europe/Berlin", "2026-10-25T00:31:00Z", nil}, {"Europe/Berlin", "2026-10-25T02:59:00Z", nil}, {"Europe/Berlin", "2026-10-25T03:00:00Z", receive.ErrClosed},
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
	if _, err := d.Submit(t.Context(), i.Design.Slug, receive.Sending{Answers: raw(t, `{"name": "A"}`)}); !errors.Is(err, receive.ErrClosed) {
		t.Errorf("closed by hand: %v", err)
	}
	if _, err := d.Submit(t.Context(), "nowhere", receive.Sending{}); !errors.Is(err, register.NotFound) {
		t.Errorf("a form that is not there: %v", err)
	}
}

// What is hidden is not kept, what is calculated is the house's and not the sender's, and what is wrong is told by its field with nothing
// taken in.
func TestWhatIsKept(t *testing.T) {
	d := newDesk(t)
	i := d.open(t, guests(nil))
	for _, wrong := range []struct{ answers, place string }{
		{`{}`, "name"}, {`{"name": ""}`, "name"}, {`{"name": "A", "car": "perhaps"}`, "car"}, {`{"name": "A", "nobody": 1}`, "nobody"}, {`{"name": ["A"]}`, "name"},
	} {
		var invalid receive.Invalid
		if _, err := d.Submit(t.Context(), i.Design.Slug, receive.Sending{Answers: raw(t, wrong.answers)}); !errors.As(err, &invalid) || invalid.Findings[0].Place != wrong.place {
			t.Errorf("%s gives %v, want a finding at %s", wrong.answers, err, wrong.place)
		}
	}
	if n, err := d.db.Count(t.Context()); err != nil || n.All != 0 {
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
		s, _, err := d.db.SubmissionByToken(t.Context(), r.Token)
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
	d := newDesk(t)
	i := d.open(t, guests(func(x *intake.Design) { x.Opening.Correct = true }))
	first, err := d.Submit(t.Context(), i.Design.Slug, receive.Sending{Answers: raw(t, `{"name": "A", "car": false}`), Once: "k"})
	if err != nil {
		t.Fatal(err)
	}
	again, err := d.Submit(t.Context(), i.Design.Slug, receive.Sending{Answers: raw(t, `{"car": false, "plate": "hidden", "name": "A"}`), Once: "k"})
	if err != nil || again.Number != first.Number || again.Token != first.Token {
		t.Errorf("the same answers again: %+v %v", again, err)
	}
	if _, err := d.Submit(t.Context(), i.Design.Slug, receive.Sending{Answers: raw(t, `{"name": "B"}`), Once: "k"}); !errors.Is(err, receive.ErrOtherBody) {
		t.Errorf("other answers under the same key: %v", err)
	}
	other, err := d.Submit(t.Context(), i.Design.Slug, receive.Sending{Answers: raw(t, `{"name": "A"}`), Once: "l"})
	if err != nil || other.Number == first.Number {
		t.Errorf("another key: %+v %v", other, err)
	}
	// A correction keeps number and token; equal answers are no correction; a token of nobody corrects nothing.
	for n, name := range []string{"A", "C", "C", "D"} {
		r, err := d.Submit(t.Context(), i.Design.Slug, receive.Sending{Answers: raw(t, `{"name": "`+name+`", "car": false}`), Correct: first.Token})
		if err != nil || r.Number != first.Number {
			t.Errorf("correction %d: %+v %v", n, r, err)
		}
	}
	if s, _, err := d.db.SubmissionByToken(t.Context(), first.Token); err != nil || s.Revision != 3 {
		t.Errorf("after two corrections it is revision %d: %v", s.Revision, err)
	}
	if _, err := d.Submit(t.Context(), i.Design.Slug, receive.Sending{Answers: raw(t, `{"name": "A"}`), Correct: "nobody"}); !errors.Is(err, register.NotFound) {
		t.Errorf("a token of nobody: %v", err)
	}
	strict := d.open(t, guests(func(x *intake.Design) { x.Name, x.Slug = "Final", "final" }))
	if _, err := d.Submit(t.Context(), strict.Design.Slug, receive.Sending{Answers: raw(t, `{"name": "A"}`), Correct: first.Token}); !errors.Is(err, receive.ErrNoCorrection) {
		t.Errorf("a form without corrections: %v", err)
	}
	if _, _, err := d.Sent(t.Context(), strict.Design.Slug, first.Token); !errors.Is(err, receive.ErrNoCorrection) {
		t.Errorf("what was sent to a form without corrections: %v", err)
	}
}

// Each invitation is good once, however many hold it at the same moment, and for its own form.
func TestAnInvitationIsGoodOnce(t *testing.T) {
	d := newDesk(t)
	i := d.open(t, guests(func(x *intake.Design) { x.Opening.Invited = true }))
	other := d.open(t, guests(func(x *intake.Design) { x.Opening.Invited, x.Name, x.Slug = true, "Others", "others" }))
	if n, err := d.db.AddInvitations(t.Context(), []invite.Invitation{{IntakeID: i.ID, Token: "one", Email: "a@guest.example"}, {IntakeID: i.ID, Token: "two", Email: "b@guest.example"}, {IntakeID: i.ID, Token: "three", Email: "A@guest.example"}}, d.now); err != nil || n != 2 {
		t.Fatalf("%d were invited: %v", n, err)
	}
	var in, used atomic.Int32
	var all sync.WaitGroup
	for n := range 20 {
		all.Go(func() {
			_, err := d.Submit(context.Background(), i.Design.Slug, receive.Sending{Answers: form.Raw{"name": json.RawMessage(fmt.Sprintf(`"G%d"`, n))}, Invitation: "one"})
			switch {
			case err == nil:
				in.Add(1)
			case errors.Is(err, receive.ErrInvitation):
				used.Add(1)
			default:
				t.Error(err)
			}
		})
	}
	all.Wait()
	if in.Load() != 1 || used.Load() != 19 {
		t.Errorf("one invitation let %d in and %d not", in.Load(), used.Load())
	}
	for _, c := range []struct{ slug, token string }{{i.Design.Slug, ""}, {i.Design.Slug, "never"}, {i.Design.Slug, "one"}, {other.Design.Slug, "two"}} {
		if _, err := d.Submit(t.Context(), c.slug, receive.Sending{Answers: raw(t, `{"name": "A"}`), Invitation: c.token}); !errors.Is(err, receive.ErrInvitation) {
			t.Errorf("%s with the invitation %q: %v", c.slug, c.token, err)
		}
	}
	if _, err := d.Submit(t.Context(), i.Design.Slug, receive.Sending{Answers: raw(t, `{"name": "A"}`), Invitation: "two"}); err != nil {
		t.Errorf("the second invitation: %v", err)
	}
}

// Half a form is kept for thirty days and found by its token alone, whatever state the answers are in.
func TestDrafts(t *testing.T) {
	d := newDesk(t)
	i := d.open(t, guests(nil))
	half := raw(t, `{"name": "", "plate": "½", "unknown": [1,{"a":null}]}`)
	token, err := d.SaveDraft(t.Context(), i.Design.Slug, "", half)
	if err != nil {
		t.Fatal(err)
	}
	if again, err := d.SaveDraft(t.Context(), i.Design.Slug, token, half); err != nil || again != token {
		t.Errorf("kept again it is %s: %v", again, err)
	}
	got, err := d.Draft(t.Context(), i.Design.Slug, token)
	if err != nil || fmt.Sprint(got) != fmt.Sprint(half) {
		t.Errorf("what was kept is %s: %v", got, err)
	}
	other := d.open(t, guests(func(x *intake.Design) { x.Slug = "other" }))
	if _, err := d.Draft(t.Context(), other.Design.Slug, token); !errors.Is(err, register.NotFound) {
		t.Errorf("another form shows it: %v", err)
	}
	d.now = d.now.Add(31 * 24 * time.Hour)
	if _, err := d.SaveDraft(t.Context(), i.Design.Slug, "", half); err != nil { // whoever keeps one clears away the old
		t.Fatal(err)
	}
	if _, err := d.Draft(t.Context(), i.Design.Slug, token); !errors.Is(err, register.NotFound) {
		t.Errorf("after 31 days: %v", err)
	}
}
