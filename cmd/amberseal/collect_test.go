package main

import (
	"bytes"
	"context"
	"log/slog"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/emersion/go-message/mail"

	"amberseal/app/access"
	"amberseal/app/receive"
	"amberseal/app/register"
	"amberseal/core/ask/form"
	"amberseal/core/intake"
	"amberseal/core/notice"
	"amberseal/core/plan"
	"amberseal/core/words/phrase"
	"amberseal/demo"
	"amberseal/standin/mailbox"
)

// collecting is a house with a clock of its own and an intake of which the house is told each day at half past one, which the clock of
// 28 March 2027 jumps over.
type collecting struct {
	*program
	t     *testing.T
	clock *atomic.Int64
	box   *mailbox.Mailbox
	slug  string
	id    int64
}

func startCollecting(t *testing.T, data string, box *mailbox.Mailbox, clock *atomic.Int64) *collecting {
	t.Helper()
	now := func() time.Time { return time.Unix(0, clock.Load()).UTC() }
	p, err := wireBy(t.Context(), now, data, "", "smtp+plain://"+box.Address(), slog.New(slog.DiscardHandler))
	if err != nil {
		t.Fatal(err)
	}
	return &collecting{program: p, t: t, clock: clock, box: box}
}

func (c *collecting) furnish(by notice.Collect) {
	d := intake.New("Hours", []form.Field{
		{Key: "name", Kind: form.ShortText, Label: "Name", Required: true}, {Key: "mail", Kind: form.Email, Label: "Mail"},
	})
	d.Notices = d.Notices[1:]
	d.Notices[0].Collect, d.Notices[0].Subject, d.Notices[0].Answers = &by, phrase.Parse("{{@intake}} of the day"), []string{"name"}
	d.Notices[0].Message = phrase.ParseBody("These came in.")
	d.Opening.Correct = true
	err := demo.Furnish(c.t.Context(), c.server.Office, c.server.People, "http://127.0.0.1")
	if err == nil {
		d, err := c.server.Workshop.Add(c.t.Context(), d)
		if err == nil {
			c.slug, c.id = d.Design.Slug, d.ID
			_, err = c.server.Workshop.Open(c.t.Context(), d.ID)
		}
		if err != nil {
			c.t.Fatal(err)
		}
	}
	if err != nil {
		c.t.Fatal(err)
	}
}

func (c *collecting) submit(name, correct string) receive.Receipt {
	c.t.Helper()
	r, err := c.server.Counter.Submit(c.t.Context(), c.slug, receive.Sending{
		Answers: form.Raw{"name": []byte(`"` + name + `"`)}, Page: receive.Page{Correct: correct},
	})
	if err != nil {
		c.t.Fatal(err)
	}
	return r
}

// during lets the crew work until something holds.
func (c *collecting) during(what string, holds func() bool) {
	c.t.Helper()
	ctx, stop := context.WithCancel(c.t.Context())
	ended := make(chan error, 1)
	go func() { ended <- c.crew.Run(ctx) }()
	soon(c.t, 30*time.Second, what, func() bool { c.crew.Wake(); return holds() })
	stop()
	if err := <-ended; err != nil {
		c.t.Fatal(err)
	}
}

// gathered reports whether the first step of every submission is done: they are in the collection.
func (c *collecting) gathered(n int) func() bool {
	return func() bool {
		all, err := c.db.Answered(c.t.Context(), c.id, 0, 100)
		if err != nil || len(all) != n {
			return false
		}
		for _, s := range all {
			jobs, err := c.db.Jobs(c.t.Context(), s.ID)
			if err != nil || !slices.ContainsFunc(jobs, func(j register.Job) bool {
				return j.Kind == plan.Notice && j.Key == "staff" && j.State == register.Done
			}) {
				return false
			}
		}
		return true
	}
}

func (c *collecting) at(when string) {
	t, err := time.Parse(time.RFC3339, when)
	if err != nil {
		c.t.Fatal(err)
	}
	c.clock.Store(t.UnixNano())
}

// raw is the plain part of a message.
func (c *collecting) raw(i int) string {
	m := c.box.Messages()
	if len(m) <= i {
		c.t.Fatalf("there are %d messages, not %d", len(m), i+1)
	}
	slices.SortFunc(m, func(a, b mailbox.Message) int { return a.Received.Compare(b.Received) })
	raw, err := c.box.Raw(m[i].ID)
	if err != nil {
		c.t.Fatal(err)
	}
	plain, _, _ := strings.Cut(string(raw), "text/html")
	return plain
}

// What came in over a day goes in one message at its hour, also where the clock jumps over that and where the program was down at it:
// every submission once, one that was corrected meanwhile as it is then, each message on the record of each. A message that somebody
// stopped takes nothing with it that comes later.
func TestADayIsCollectedIntoOneMessage(t *testing.T) {
	t.Parallel()
	box, err := mailbox.Open("127.0.0.1:0", t.TempDir())
	if err == nil {
		err = box.Switch(true)
	}
	if err != nil {
		t.Fatal(err)
	}
	defer box.Close(context.WithoutCancel(t.Context()))
	data, clock := filepath.Join(t.TempDir(), "data"), &atomic.Int64{}
	clock.Store(time.Date(2027, 3, 27, 12, 0, 0, 0, time.UTC).UnixNano())
	c := startCollecting(t, data, box, clock)
	c.furnish(notice.Collect{Every: notice.Daily, At: "01:30", Joined: true})

	first, second := c.submit("Ada", ""), c.submit("Ben", "")
	c.during("both are gathered", c.gathered(2))
	c.submit("Adele", first.Correct) // the message is a step of the one that is corrected here
	third := c.submit("Cem", "")
	c.during("all are gathered", c.gathered(3))
	if n := len(box.Messages()); n != 0 {
		t.Fatalf("%d messages went before their hour", n)
	}
	c.at("2027-03-28T01:29:00Z")
	c.during("nothing", c.gathered(3))
	if n := len(box.Messages()); n != 0 {
		t.Fatalf("%d messages went before the clock had jumped far enough", n)
	}
	c.at("2027-03-28T01:30:01Z") // 02:30 on the house's clock, which never showed 01:30
	c.during("the message is there", func() bool { return len(box.Messages()) == 1 })
	raw := c.raw(0)
	for word, times := range map[string]int{
		first.Number: 1, second.Number: 1, third.Number: 1, "Adele": 1, "Ben": 1, "Cem": 1, "Ada\r": 0, "revision 2": 1, "These came in": 1,
	} {
		if strings.Count(raw, word) != times {
			t.Errorf("the message says %q %d times, not %d:\n%s", word, strings.Count(raw, word), times, raw)
		}
	}
	if m := box.Messages()[0]; len(m.Attachments) != 1 || m.Attachments[0].Type != "application/pdf" || m.Subject != "Hours of the day" {
		t.Errorf("it carries %+v", m)
	}
	whole, err := box.Raw(box.Messages()[0].ID)
	if err != nil {
		t.Fatal(err)
	}
	mailbox.Parts(whole, func(_ mail.Header, name, kind string, body []byte) {
		if kind != "application/pdf" {
			return
		}
		file := filepath.Join(t.TempDir(), "joined.pdf") // of a page for each
		if err := os.WriteFile(file, body, 0o600); err != nil {
			t.Fatal(err)
		}
		if out, err := exec.Command("qpdf", "--check", file).CombinedOutput(); err != nil {
			t.Errorf("qpdf says of %s: %v\n%s", name, err, out)
		}
		if out, err := exec.Command("qpdf", "--show-npages", file).CombinedOutput(); err != nil || strings.TrimSpace(string(out)) != "3" {
			t.Errorf("qpdf counts %s pages, %v", out, err)
		}
	})
	for _, r := range []receive.Receipt{first, second, third} {
		all, err := c.db.Answered(t.Context(), c.id, 0, 100)
		at := slices.IndexFunc(all, func(s register.Submission) bool { return s.Number == r.Number })
		if err != nil || at < 0 {
			t.Fatal(err)
		}
		m, err := c.db.Messages(t.Context(), access.Everywhere, register.MessageQuery{Submission: all[at].ID, Limit: 9})
		h, err2 := c.db.History(t.Context(), all[at].ID)
		if err != nil || err2 != nil || len(m) != 1 ||
			!slices.ContainsFunc(h, func(l register.Line) bool { return l.Kind == register.Sent }) {
			t.Errorf("%s has %d messages and this history: %+v %v %v", r.Number, len(m), h, err, err2)
		}
	}

	// The program is down at the hour, and for a day more.
	c.submit("Dora", "")
	c.during("it is gathered", c.gathered(4))
	if err := c.close(); err != nil {
		t.Fatal(err)
	}
	slug, id := c.slug, c.id
	c = startCollecting(t, data, box, clock)
	c.slug, c.id = slug, id
	c.at("2027-03-30T09:00:00Z")
	c.during("it goes when the program is back", func() bool { return len(box.Messages()) == 2 })
	if raw := c.raw(1); !strings.Contains(raw, "Dora") || strings.Contains(raw, "Cem") {
		t.Errorf("the second message says:\n%s", raw)
	}

	// One is stopped: what comes later begins another.
	emil := c.submit("Emil", "")
	c.during("it is gathered", c.gathered(5))
	eve := c.submit("Eve", "")
	c.during("both are gathered", c.gathered(6))
	waiting, err := c.db.WaitingMessages(t.Context(), access.Everywhere, 0, 9)
	if err != nil || len(waiting) != 1 || waiting[0].Members != 2 {
		t.Fatalf("%d wait: %+v %v", len(waiting), waiting, err)
	}
	if err := c.db.Stop(t.Context(), waiting[0].Subject.ID, waiting[0].ID, c.now()); err != nil {
		t.Fatal(err)
	}
	all, err := c.db.Answered(t.Context(), c.id, 0, 100)
	if err != nil {
		t.Fatal(err)
	}
	for _, s := range all { // each of them knows that nobody was told of it
		h, err := c.db.History(t.Context(), s.ID)
		stopped := slices.ContainsFunc(h, func(l register.Line) bool {
			return l.Kind == register.Voided && strings.HasSuffix(l.Words, "Somebody of the house stopped it.") &&
				(s.Number == emil.Number || strings.Contains(l.Words, "stands with "+emil.Number))
		})
		if err != nil || stopped != (s.Number == emil.Number || s.Number == eve.Number) {
			t.Errorf("%s was stopped: %v, %v %+v", s.Number, stopped, err, h)
		}
	}
	c.submit("Fay", "")
	c.during("it is gathered", c.gathered(7))
	c.at("2027-03-31T09:00:00Z")
	c.during("the third message is there", func() bool { return len(box.Messages()) == 3 })
	if raw := c.raw(2); !strings.Contains(raw, "Fay") || strings.Contains(raw, "Emil") || strings.Contains(raw, "Eve") {
		t.Errorf("the third message says:\n%s", raw)
	}
	if err := c.close(); err != nil {
		t.Fatal(err)
	}
}

// So many submissions go in one message as soon as there are so many, whoever sends them at once.
func TestSoManyGoInOneMessage(t *testing.T) {
	t.Parallel()
	box, err := mailbox.Open("127.0.0.1:0", t.TempDir())
	if err == nil {
		err = box.Switch(true)
	}
	if err != nil {
		t.Fatal(err)
	}
	defer box.Close(context.WithoutCancel(t.Context()))
	clock := &atomic.Int64{}
	clock.Store(time.Now().UnixNano())
	c := startCollecting(t, filepath.Join(t.TempDir(), "data"), box, clock)
	c.furnish(notice.Collect{Every: notice.Counted, Count: 5})
	for range 22 {
		c.submit("Ada", "")
	}
	c.during("four messages are there", func() bool { return len(box.Messages()) == 4 && c.gathered(22)() })
	told := map[string]int{}
	for i := range 4 {
		m := box.Messages()[i]
		if len(m.Attachments) != 5 {
			t.Errorf("message %d carries %d documents", i, len(m.Attachments))
		}
		names := []string{}
		for _, a := range m.Attachments {
			told[a.Name]++
			names = append(names, a.Name)
		}
		slices.Sort(names)
		if len(slices.Compact(names)) != 5 {
			t.Errorf("two documents have one name: %q", names)
		}
		if raw, err := c.box.Raw(m.ID); err != nil || bytes.Count(raw, []byte("Ada")) < 5 {
			t.Errorf("message %d: %v", i, err)
		}
	}
	if len(told) != 20 {
		t.Errorf("%d documents went in four messages, not 20", len(told))
	}
	waiting, err := c.server.Records.WaitingMessages(t.Context(), access.Everywhere, 0, 10)
	if err != nil || len(waiting) != 1 || waiting[0].State != register.Waits || waiting[0].Members != 2 {
		t.Errorf("there waits %+v: %v", waiting, err)
	}
	if err := c.close(); err != nil {
		t.Fatal(err)
	}
}
