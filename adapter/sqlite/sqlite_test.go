package sqlite_test

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"amberseal/adapter/sqlite"
	"amberseal/app/access"
	"amberseal/app/receive"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/app/workshop"
	"amberseal/core/ask/form"
	"amberseal/core/intake"
	"amberseal/core/link"
	"amberseal/core/plan"
	"amberseal/core/words/phrase"
)

var noon = time.Date(2026, 11, 25, 12, 0, 0, 0, time.UTC)

// house is a database in a file of its own, with what takes submissions in.
type house struct {
	*sqlite.DB
	workshop *workshop.Workshop
	counter  *receive.Counter
	file     string
}

func open(t *testing.T, file string) house {
	t.Helper()
	db, err := sqlite.Open(t.Context(), file)
	if err != nil {
		t.Fatal(err)
	}
	now := func() time.Time { return noon }
	return house{
		db,
		&workshop.Workshop{Store: db, Now: now},
		&receive.Counter{Store: db, Secret: link.Secret("0123456789abcdef0123456789abcdef"), Now: now, Arrived: func() {}},
		file,
	}
}

func furnished(t *testing.T) house {
	h := open(t, filepath.Join(t.TempDir(), "amberseal.db"))
	t.Cleanup(func() { h.Close() })
	return h
}

// opened is an intake that takes answers: who, and a membership number that no two may share.
func (h house) opened(t *testing.T, change func(*intake.Design)) intake.Design {
	t.Helper()
	d := intake.New("Guest book", []form.Field{
		{Key: "who", Kind: form.ShortText, Label: "Who"},
		{Key: "member", Kind: form.ShortText, Label: "Member", Unique: true},
	})
	if change != nil {
		change(&d)
	}
	made, err := h.workshop.Add(t.Context(), d)
	if err == nil {
		_, err = h.workshop.Open(t.Context(), made.ID)
	}
	if err != nil {
		t.Fatal(err)
	}
	return made.Design
}

func answers(name, member string) receive.Sending {
	return receive.Sending{Answers: form.Raw{"who": quoted(name), "member": quoted(member)}}
}

func quoted(s string) json.RawMessage {
	data, err := json.Marshal(s)
	if err != nil {
		panic(err) // a string is always JSON
	}
	return data
}

// all asks for every submission page by page, the newest first.
func (h house) all(t *testing.T, q register.Query) []register.Entry {
	t.Helper()
	var out []register.Entry
	for q.Limit = 7; ; q.Before = out[len(out)-1].ID {
		page, err := h.Entries(t.Context(), q)
		if err != nil {
			t.Fatal(err)
		}
		if out = append(out, page...); len(page) < q.Limit {
			return out
		}
	}
}

// Submissions that share a commit stand for themselves: those that are refused take no number, those that are sent twice get the first
// one's, and a reader never sees a submission without its jobs.
func TestManyAtOnce(t *testing.T) {
	h := furnished(t)
	d := h.opened(t, nil)
	const members, senders = 60, 3
	var accepted, taken atomic.Int32
	var mu sync.Mutex
	numbers := map[string]string{} // of each key
	reading, stop := context.WithCancel(t.Context())
	var readers, all sync.WaitGroup
	readers.Go(func() {
		for reading.Err() == nil {
			for _, e := range h.all(t, register.Query{Scope: access.Everywhere}) {
				if len(e.Jobs) == 0 {
					t.Errorf("%s has no jobs yet", e.Number)
				}
			}
		}
	})
	for m := range members {
		for s := range senders {
			all.Go(func() {
				in := answers(fmt.Sprintf("Sender %d", s), fmt.Sprintf("M-%d", m))
				in.Once = fmt.Sprintf("%d/%d", m, s)
				for range 2 { // each sends twice, as after a lost answer
					r, err := h.counter.Submit(context.Background(), d.Slug, in)
					var invalid receive.Invalid
					switch {
					case err == nil:
						mu.Lock()
						if before, again := numbers[in.Once]; again && before != r.Number {
							t.Errorf("%s was %s and is %s now", in.Once, before, r.Number)
						} else if !again {
							accepted.Add(1)
						}
						numbers[in.Once] = r.Number
						mu.Unlock()
					case errors.As(err, &invalid) && invalid.Findings[0].Place == "member":
						taken.Add(1)
					default:
						t.Error(err)
					}
				}
			})
		}
	}
	all.Wait()
	stop()
	readers.Wait()
	if accepted.Load() != members || taken.Load() != members*(senders-1)*2 {
		t.Errorf("%d were taken in and %d refused", accepted.Load(), taken.Load())
	}
	entries := h.all(t, register.Query{Scope: access.Everywhere})
	slices.Reverse(entries)
	for i, e := range entries {
		if want := fmt.Sprintf("GB-2026-%05d", i+1); e.Number != want {
			t.Fatalf("submission %d is %s: a gap or a double", i+1, e.Number)
		}
	}
	if len(entries) != members {
		t.Errorf("there are %d submissions", len(entries))
	}
}

func TestALimitHoldsHoweverManyCome(t *testing.T) {
	h := furnished(t)
	d := h.opened(t, func(d *intake.Design) { d.Opening.Limit = 10 })
	var in, full atomic.Int32
	var all sync.WaitGroup
	for n := range 80 {
		all.Go(func() {
			_, err := h.counter.Submit(context.Background(), d.Slug, answers("N", fmt.Sprint(n)))
			switch {
			case err == nil:
				in.Add(1)
			case errors.Is(err, receive.ErrFull):
				full.Add(1)
			default:
				t.Error(err)
			}
		})
	}
	all.Wait()
	if in.Load() != 10 || full.Load() != 70 {
		t.Errorf("%d came in, %d did not", in.Load(), full.Load())
	}
}

// terms lease what there is of a kind.
func terms(kind plan.Kind) work.Terms {
	return work.Terms{
		Now: noon, Lanes: []plan.Lane{plan.Fresh}, Until: func(plan.Kind) time.Time { return noon.Add(time.Minute) },
		Room: func(j register.Job) bool { return j.Kind == kind },
	}
}

// claim leases the only job of a kind that is due.
func (h house) claim(t *testing.T, kind plan.Kind) register.Job {
	t.Helper()
	jobs, err := h.Claim(t.Context(), terms(kind))
	if err != nil || len(jobs) != 1 {
		t.Fatalf("%d jobs of kind %s are due: %v", len(jobs), kind, err)
	}
	return jobs[0]
}

func document(key, text string) work.Outcome {
	return work.Outcome{Signals: []plan.Signal{plan.Made(key)}, Records: []register.Record{
		&register.Document{
			Key:      key,
			Name:     key,
			FileName: key + ".pdf",
			Code:     key + text,
			Pages:    1,
			Size:     len(text),
			Made:     noon,
			PDF:      []byte(text),
		},
	}}
}

// A correction that comes while the first document is being made gets a document of its own answers, and a letter that went out
// meanwhile stays on record.
func TestACorrectionOvertakesWork(t *testing.T) {
	h := furnished(t)
	d := h.opened(t, func(d *intake.Design) {
		d.Opening.Correct = true
		d.Notices = d.Notices[:1]
		d.Notices[0].To, d.Notices[0].Attach = phrase.Parse("one@house.example"), nil
		d.Filings = nil
	})
	r, err := h.counter.Submit(t.Context(), d.Slug, answers("Before", ""))
	if err != nil {
		t.Fatal(err)
	}
	slow, letter := h.claim(t, plan.Document), h.claim(t, plan.Notice)
	in := answers("After", "")
	in.Correct = r.Correct
	if _, err := h.counter.Submit(t.Context(), d.Slug, in); err != nil {
		t.Fatal(err)
	}
	quick := h.claim(t, plan.Document)
	s, _, err := h.Submission(t.Context(), quick.Subject.ID)
	if err != nil || quick.ID == slow.ID || s.Revision != 2 || quick.Subject.Run != 2 || string(s.Answers["who"]) != `"After"` {
		t.Errorf("the new job is %+v of %+v: %v", quick, s, err)
	}
	for _, o := range []struct {
		job  register.Job
		made work.Outcome
	}{
		{slow, document(slow.Key, "before")},
		{letter, work.Outcome{Records: []register.Record{&register.Message{Name: "N", To: []string{"one@house.example"},
			Subject: "Before", Sent: noon}}}},
		{quick, document(quick.Key, "after")},
	} {
		if _, err := h.Finish(t.Context(), o.job, o.made, terms("")); err != nil {
			t.Fatal(err)
		}
	}
	if x, err := h.Document(t.Context(), s.ID, quick.Key); err != nil || string(x.PDF) != "after" || x.Revision != 2 {
		t.Errorf("the document is %q of revision %d: %v", x.PDF, x.Revision, err)
	}
	if all, err := h.Messages(t.Context(), access.Everywhere, register.MessageQuery{Submission: int64(s.ID), Limit: 10}); err != nil ||
		len(all) != 1 || all[0].Subject != "Before" {
		t.Errorf("on record are %+v: %v", all, err)
	}
	h.claim(t, plan.Notice) // the corrected one is still to be sent
	history, err := h.History(t.Context(), s.ID)
	var told []string
	for _, l := range history {
		told = append(told, l.Sentence(d.Form))
	}
	name := d.Documents[0].Name
	if want := []string{
		"Received", name + " is not done any more: The answers were corrected.", d.Notices[0].Name + " is not done any more: The " +
			"answers were corrected.",
		"Corrected by who sent it: “Who”", d.Notices[0].Name + " sent to one@house.example", name + " made, 1 page",
	}; err != nil || !slices.Equal(told, want) {
		t.Errorf("the history tells %q: %v", told, err)
	}
	if jobs, err := h.Jobs(t.Context(), s.ID); err != nil || len(jobs) != 2 || jobs[0].ID != quick.ID {
		t.Errorf("shown are %+v: %v", jobs, err)
	}
}

// What happened cannot be changed, taken away or added without being noticed; but what a fact says can be erased.
func TestFactsHoldEachOther(t *testing.T) {
	h := open(t, filepath.Join(t.TempDir(), "amberseal.db"))
	d := h.opened(t, nil)
	for n := range 5 {
		if _, err := h.counter.Submit(t.Context(), d.Slug, answers("A", fmt.Sprint(n))); err != nil {
			t.Fatal(err)
		}
		if _, err := h.counter.Submit(t.Context(), d.Slug, answers("B", fmt.Sprint(n))); err == nil { // refused: it tells nothing
			t.Fatal("what can be given once was given twice")
		}
		j := h.claim(t, plan.Document)
		if _, err := h.Finish(t.Context(), j, document(j.Key, fmt.Sprint(n)), terms("")); err != nil {
			t.Fatal(err)
		}
	}
	if err := h.Close(); err != nil {
		t.Fatal(err)
	}
	for change, broken := range map[string]bool{
		"SELECT 1": false, "UPDATE fact SET body = NULL, salt = NULL WHERE id = 4": false,
		`UPDATE fact SET body = '{"key":"other"}' WHERE id = 4`: true, "UPDATE fact SET at = at + 1 WHERE id = 4": true,
		"UPDATE fact SET subject = 9 WHERE id = 4": true,
		"DELETE FROM fact WHERE id = 4":            true, "UPDATE fact SET kind = 'sent' WHERE id = 10": true,
		"INSERT INTO fact SELECT 11, at, about, subject, run, kind, body, salt, digest, hash FROM fact WHERE id = 10": true,
	} {
		other := filepath.Join(t.TempDir(), "other.db")
		if err := sqlite.Copy(t.Context(), h.file, other); err != nil {
			t.Fatal(err)
		}
		db, err := sql.Open("sqlite", other)
		if err == nil {
			_, err = db.Exec(change)
		}
		if err := errors.Join(err, db.Close()); err != nil {
			t.Fatal(err)
		}
		if err := sqlite.Check(t.Context(), other); (err != nil) != broken || broken && !strings.Contains(err.Error(), "history") {
			t.Errorf("after %s: %v", change, err)
		}
	}
}

func TestTheRegisterFindsWords(t *testing.T) {
	h := furnished(t)
	d := h.opened(t, nil)
	for i, name := range []string{"Łucja Brzęk", "José “Pepe” Núñez", `O"Neill AND NOT *`, "Ågot-Marie Ødegård", "周 小明", "Łucja Nowak"} {
		if _, err := h.counter.Submit(t.Context(), d.Slug, answers(name, fmt.Sprint("K", i))); err != nil {
			t.Fatal(err)
		}
	}
	for words, want := range map[string]int{
		"łucja": 2, "lucja brz": 0, "Łucja brz": 1, "jose nunez": 1, "pepe": 1, `o"neill`: 1, "and not": 1, `"`: 0, "*": 0, "agot": 1,
		"周": 1, "GB-2026-00003": 1,
		"K5": 1, "nobody": 0, "who:x": 0, ") OR (": 0, strings.Repeat("word ", 300): 0,
	} {
		if got := len(h.all(t, register.Query{Scope: access.Everywhere, Words: words})); got != want {
			t.Errorf("%.30q finds %d, want %d", words, got, want)
		}
	}
	other := h.opened(t, func(d *intake.Design) { d.Slug = "another" })
	if _, err := h.counter.Submit(t.Context(), other.Slug, answers("Łucja Lis", "K9")); err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct {
		intake int64
		words  string
		want   int
	}{{0, "łucja", 3}, {1, "łucja", 2}, {2, "łucja", 1}, {1, " \t", 6}, {2, " ", 1}, {0, "1", 0}} {
		if got := len(h.all(t, register.Query{Scope: access.Everywhere, Intake: c.intake, Words: c.words})); got != c.want {
			t.Errorf("%q finds %d in intake %d, want %d", c.words, got, c.intake, c.want)
		}
	}
}

// What a job put outside before it was given up is on record: it lies there.
func TestWhatLiesThereIsOnRecord(t *testing.T) {
	h := furnished(t)
	d := h.opened(t, func(d *intake.Design) { d.Documents, d.Notices[0].Attach = d.Documents[:1], nil })
	if _, err := h.counter.Submit(t.Context(), d.Slug, answers("Ann", "")); err != nil {
		t.Fatal(err)
	}
	j := h.claim(t, plan.Document)
	left := []register.Record{&register.Filed{Destination: "share", Path: "a/first.pdf", SHA256: "00", Size: 1, At: noon}}
	if err := h.Fail(t.Context(), j, "The second has no room.", left, noon); err != nil {
		t.Fatal(err)
	}
	all, err := h.Filed(t.Context(), access.Everywhere, register.FiledQuery{Limit: 9})
	if err != nil || len(all) != 1 || all[0].Path != "a/first.pdf" {
		t.Errorf("on record is %+v: %v", all, err)
	}
}
