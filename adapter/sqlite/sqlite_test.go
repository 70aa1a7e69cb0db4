package sqlite_test

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/pressly/goose/v3"

	"amberseal/adapter/sqlite"
	"amberseal/app/design"
	"amberseal/app/receive"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/form"
	"amberseal/core/intake"
	"amberseal/core/link"
	"amberseal/core/phrase"
	"amberseal/core/plan"
)

var noon = time.Date(2026, 11, 25, 12, 0, 0, 0, time.UTC)

// house is a database in a file of its own, with what takes submissions in.
type house struct {
	*sqlite.DB
	workshop *design.Workshop
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
	return house{db, &design.Workshop{Store: db, Now: now}, &receive.Counter{Store: db, Secret: link.Secret("0123456789abcdef0123456789abcdef"), Now: now, Arrived: func() {}}, file}
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
// one's, and a reader never sees a submission without its steps.
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
			for _, e := range h.all(t, register.Query{}) {
				if len(e.Steps) == 0 {
					t.Errorf("%s has no steps yet", e.Number)
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
	entries := h.all(t, register.Query{})
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

// claim leases the only step of a kind that is due.
func (h house) claim(t *testing.T, kind plan.Kind, now time.Time) work.Job {
	t.Helper()
	jobs, err := h.Claim(t.Context(), kind, 10, now, time.Minute)
	if err != nil || len(jobs) != 1 {
		t.Fatalf("%d steps of kind %s are due: %v", len(jobs), kind, err)
	}
	return jobs[0]
}

func (h house) idle(t *testing.T, kind plan.Kind, now time.Time) {
	t.Helper()
	if jobs, err := h.Claim(t.Context(), kind, 10, now, time.Minute); err != nil || len(jobs) > 0 {
		t.Fatalf("%d steps of kind %s are due too early: %v", len(jobs), kind, err)
	}
}

func document(key, text string) work.Outcome {
	return work.Outcome{Happened: key + " made", Document: &register.Document{Key: key, Name: key, FileName: key + ".pdf", Code: key + text, Pages: 1, Size: len(text), Made: noon, PDF: []byte(text)}}
}

// A lease that ran out is somebody else's: what its first holder finishes late changes nothing. What waits for two documents
// is ready after both, and all of it survives the end of the program.
func TestLeasesAndWhatWaits(t *testing.T) {
	h := open(t, filepath.Join(t.TempDir(), "amberseal.db"))
	d := h.opened(t, func(d *intake.Design) {
		second := d.Documents[0]
		second.Key, second.Name = "second", "Second"
		d.Documents = append(d.Documents, second)
		d.Notices = d.Notices[:1]
		d.Notices[0].To, d.Notices[0].Attach = phrase.Parse("one@house.example"), []string{d.Documents[0].Key, "second"}
		d.Filings = nil
	})
	if _, err := h.counter.Submit(t.Context(), d.Slug, answers("A", "")); err != nil {
		t.Fatal(err)
	}
	jobs, err := h.Claim(t.Context(), plan.Document, 10, noon, time.Minute)
	if err != nil || len(jobs) != 2 {
		t.Fatalf("%d documents are due: %v", len(jobs), err)
	}
	h.idle(t, plan.Document, noon.Add(59*time.Second))
	later := noon.Add(61 * time.Second)
	again, err := h.Claim(t.Context(), plan.Document, 1, later, time.Minute)
	if err != nil || len(again) != 1 || again[0].Step.Attempts != 2 {
		t.Fatalf("a lease that ran out gives %+v: %v", again, err)
	}
	first := jobs[slices.IndexFunc(jobs, func(j work.Job) bool { return j.Step.ID == again[0].Step.ID })]
	if err := h.Finish(t.Context(), first.Step, document(first.Step.Key, "late"), later); err != nil {
		t.Fatal(err)
	}
	if err := h.Fail(t.Context(), first.Step, "late", later); err != nil {
		t.Fatal(err)
	}
	if _, err := h.Document(t.Context(), first.Submission.ID, first.Step.Key); !errors.Is(err, register.NotFound) {
		t.Errorf("the first holder's document was kept: %v", err)
	}
	if err := h.Finish(t.Context(), again[0].Step, document(first.Step.Key, "right"), later); err != nil {
		t.Fatal(err)
	}
	h.idle(t, plan.Notice, later)

	if err := h.Close(); err != nil {
		t.Fatal(err)
	}
	h = open(t, h.file)
	defer h.Close()
	h.idle(t, plan.Document, later.Add(-30*time.Second))
	if err := h.Reclaim(t.Context(), later, 5); err != nil {
		t.Fatal(err)
	}
	other := h.claim(t, plan.Document, later)
	if err := h.Finish(t.Context(), other.Step, document(other.Step.Key, "other"), later); err != nil {
		t.Fatal(err)
	}
	notice := h.claim(t, plan.Notice, later)
	if len(notice.Step.Needs) != 2 {
		t.Errorf("the notice needs %v", notice.Step.Needs)
	}
	if x, err := h.Document(t.Context(), first.Submission.ID, first.Step.Key); err != nil || string(x.PDF) != "right" {
		t.Errorf("the document is %q: %v", x.PDF, err)
	}
	if g, err := h.Genuine(t.Context(), "", "e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855"); !errors.Is(err, register.NotFound) {
		t.Errorf("an empty file is taken for %+v: %v", g, err)
	}
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
	slow, letter := h.claim(t, plan.Document, noon), h.claim(t, plan.Notice, noon)
	in := answers("After", "")
	in.Correct = r.Correct
	if _, err := h.counter.Submit(t.Context(), d.Slug, in); err != nil {
		t.Fatal(err)
	}
	quick := h.claim(t, plan.Document, noon)
	if quick.Step.ID == slow.Step.ID || quick.Submission.Revision != 2 || string(quick.Submission.Answers["who"]) != `"After"` {
		t.Errorf("the new step is %+v of %+v", quick.Step, quick.Submission)
	}
	for _, o := range []struct {
		job  work.Job
		made work.Outcome
	}{
		{slow, document(slow.Step.Key, "before")},
		{letter, work.Outcome{Happened: "Sent", Message: &register.Message{Name: "N", To: []string{"one@house.example"}, Subject: "Before", Sent: noon}}},
		{quick, document(quick.Step.Key, "after")},
	} {
		if err := h.Finish(t.Context(), o.job.Step, o.made, noon); err != nil {
			t.Fatal(err)
		}
	}
	if x, err := h.Document(t.Context(), quick.Submission.ID, quick.Step.Key); err != nil || string(x.PDF) != "after" || x.Revision != 2 {
		t.Errorf("the document is %q of revision %d: %v", x.PDF, x.Revision, err)
	}
	if all, err := h.Messages(t.Context(), quick.Submission.ID, 0, 10); err != nil || len(all) != 1 || all[0].Subject != "Before" {
		t.Errorf("on record are %+v: %v", all, err)
	}
	h.claim(t, plan.Notice, noon) // the corrected one is still to be sent
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
		"łucja": 2, "lucja brz": 0, "Łucja brz": 1, "jose nunez": 1, "pepe": 1, `o"neill`: 1, "and not": 1, `"`: 0, "*": 0, "agot": 1, "周": 1, "GB-2026-00003": 1,
		"K5": 1, "nobody": 0, "who:x": 0, ") OR (": 0, strings.Repeat("word ", 300): 0,
	} {
		if got := len(h.all(t, register.Query{Words: words})); got != want {
			t.Errorf("%.30q finds %d, want %d", words, got, want)
		}
	}
}

// A database of an earlier version is brought up to date with all it holds.
func TestAnOldDatabase(t *testing.T) {
	file := filepath.Join(t.TempDir(), "old.db")
	old, err := sql.Open("sqlite", file)
	if err != nil {
		t.Fatal(err)
	}
	p, err := goose.NewProvider(goose.DialectSQLite3, old, os.DirFS("migrations"))
	if err == nil {
		_, err = p.UpTo(t.Context(), 1)
	}
	if err != nil {
		t.Fatal(err)
	}
	design := `{"amberseal": 1, "slug": "old", "name": "Old", "number": "O-{n}", "form": {"fields": [{"key": "a", "kind": "short_text", "label": "A"}]}, "documents": [], "notices": [], "filings": []}`
	for _, q := range []string{
		`INSERT INTO intake (id, slug, name, design, revision, version, published, state, created, updated) VALUES (1, 'old', 'Old', '` + design + `', 1, 1, 1, 'open', 1, 1)`,
		`INSERT INTO version VALUES (1, 1, '` + design + `', 1)`,
		`INSERT INTO submission VALUES (5, 1, 1, 'O-1', 'P', 'TOKEN', '{"a": "x"}', 1, NULL, '')`,
		`INSERT INTO counter VALUES (1, 'all', 1)`,
		`INSERT INTO step (id, submission, kind, key, name, needs, missing, state, due, updated) VALUES (9, 5, 'document', 'receipt', 'Receipt', '[]', 0, 'ready', 1, 1)`,
		`INSERT INTO document VALUES (5, 'slip', 'Slip', 'slip.pdf', 1, 3, 1, CAST('abc' AS BLOB))`,
	} {
		if _, err := old.Exec(q); err != nil {
			t.Fatal(q, err)
		}
	}
	if err := old.Close(); err != nil {
		t.Fatal(err)
	}
	h := open(t, file)
	defer h.Close()
	const abc = "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad" // FIPS 180-2, appendix B.1
	if g, err := h.Genuine(t.Context(), "", abc); err != nil || g.Number != "O-1" || g.Revision != 1 || g.Latest != 1 {
		t.Errorf("the old document is %+v: %v", g, err)
	}
	if j := h.claim(t, plan.Document, noon); j.Step.ID != 9 || j.Submission.Number != "O-1" || j.Submission.Revision != 1 {
		t.Errorf("the old step is %+v of %+v", j.Step, j.Submission)
	}
	if _, err := h.counter.Submit(t.Context(), "old", receive.Sending{Answers: form.Raw{"a": quoted("y")}}); err != nil {
		t.Errorf("the old intake takes no answers: %v", err)
	}
}
