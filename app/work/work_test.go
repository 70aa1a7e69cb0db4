package work_test

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"testing/synctest"
	"time"

	"amberseal/adapter/sqlite"
	"amberseal/app/design"
	"amberseal/app/receive"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/form"
	"amberseal/core/intake"
	"amberseal/core/phrase"
	"amberseal/core/plan"
)

// house is a real database with an intake of one document and one notice that carries it, and the times at which its hands
// were asked. Time is that of the bubble: hours pass in a moment.
type house struct {
	*sqlite.DB
	counter *receive.Counter
	crew    *work.Crew
	slug    string
	mu      sync.Mutex
	asked   map[string][]time.Time // of each submission's notice, by its number
	most    int                    // hands at work at once
	now     int
}

// inBubble gives the test a house whose notices are sent by a hand.
func inBubble(t *testing.T, send func(h *house, number string, attempt int) error, do func(t *testing.T, h *house)) {
	synctest.Test(t, func(t *testing.T) {
		db, err := sqlite.Open(t.Context(), filepath.Join(t.TempDir(), "amberseal.db"))
		if err != nil {
			t.Fatal(err)
		}
		defer db.Close()
		h := &house{DB: db, counter: &receive.Counter{Store: db, Now: time.Now}, asked: map[string][]time.Time{}}
		h.crew = &work.Crew{
			Store: db, Now: time.Now, Changed: func() {}, Log: slog.New(slog.DiscardHandler),
			Hands: map[plan.Kind]work.Hand{
				plan.Document: func(_ context.Context, j work.Job) (work.Outcome, error) {
					return work.Outcome{Happened: "made", Document: &register.Document{Key: j.Step.Key, Code: j.Submission.Number, Made: time.Now(), PDF: []byte("%PDF")}}, nil
				},
				plan.Notice: func(ctx context.Context, j work.Job) (work.Outcome, error) {
					number := j.Submission.Number
					h.mu.Lock()
					h.asked[number] = append(h.asked[number], time.Now())
					attempt := len(h.asked[number])
					h.now++
					h.most = max(h.most, h.now)
					h.mu.Unlock()
					defer func() { h.mu.Lock(); h.now--; h.mu.Unlock() }()
					if err := send(h, number, attempt); err != nil {
						return work.Outcome{}, err
					}
					return work.Outcome{Happened: "Sent", Message: &register.Message{Name: "N", To: []string{"x@y.example"}, Sent: time.Now()}}, nil
				},
			},
			Workers: map[plan.Kind]int{plan.Document: 2, plan.Notice: 4},
		}
		h.counter.Arrived = h.crew.Wake
		d := intake.New("Guest book", []form.Field{{Key: "who", Kind: form.ShortText, Label: "Who"}})
		d.Notices[0].To, d.Filings = phrase.Parse("x@y.example"), nil
		d.Number = "N-{n}"
		workshop := &design.Workshop{Store: db, Now: time.Now}
		made, err := workshop.Add(t.Context(), d)
		if err == nil {
			_, err = workshop.Open(t.Context(), made.ID)
		}
		if err != nil {
			t.Fatal(err)
		}
		h.slug = made.Design.Slug
		do(t, h)
	})
}

// start sends the crew to work; the function ends it and waits until it has gone.
func (h *house) start(t *testing.T) (stop func()) {
	ctx, cancel := context.WithCancel(t.Context())
	ended := make(chan error, 1)
	go func() { ended <- h.crew.Run(ctx) }()
	return func() {
		t.Helper()
		cancel()
		if err := <-ended; err != nil {
			t.Error(err)
		}
	}
}

func (h *house) submit(t *testing.T, n int) {
	t.Helper()
	for range n {
		if _, err := h.counter.Submit(t.Context(), h.slug, receive.Sending{}); err != nil {
			t.Fatal(err)
		}
	}
}

// states counts the submissions in each state.
func (h *house) states(t *testing.T) map[register.State]int {
	t.Helper()
	entries, err := h.Entries(t.Context(), register.Query{Limit: 1000})
	if err != nil {
		t.Fatal(err)
	}
	out := map[register.State]int{}
	for _, e := range entries {
		out[e.State()]++
	}
	return out
}

func (h *house) times(number string) []time.Time {
	h.mu.Lock()
	defer h.mu.Unlock()
	return slices.Clone(h.asked[number])
}

func (h *house) notice(t *testing.T, submission int64) register.Step {
	t.Helper()
	steps, err := h.Steps(t.Context(), submission)
	if err != nil || len(steps) != 2 {
		t.Fatal(len(steps), err)
	}
	return steps[1]
}

// What fails is tried again after pauses that double, up to half an hour and give or take a fifth, for five days; then it
// needs a hand, which is told why, and by hand it is tried again.
func TestPausesGrowUntilItIsGivenUp(t *testing.T) {
	mended := false
	inBubble(t, func(_ *house, _ string, attempt int) error {
		if mended {
			return nil
		}
		return fmt.Errorf("the server says no, %s", []string{"loudly", "quietly"}[attempt%2])
	}, func(t *testing.T, h *house) {
		defer h.start(t)()
		h.submit(t, 1)
		time.Sleep(5*24*time.Hour - time.Hour)
		if s := h.notice(t, 1); s.State == register.Failed {
			t.Errorf("after less than five days the step is %+v", s)
		}
		time.Sleep(2 * time.Hour)
		times := h.times("N-1")
		if len(times) < 200 {
			t.Fatalf("it was tried %d times", len(times))
		}
		for i := 1; i < len(times); i++ {
			pause, want := times[i].Sub(times[i-1]), min(time.Second<<min(i-1, 20), 30*time.Minute)
			if pause < want*4/5 || pause > want*6/5+time.Second { // a step that is due is seen within a second
				t.Errorf("pause %d is %v, want about %v", i, pause, want)
			}
		}
		s := h.notice(t, 1)
		if s.State != register.Failed || s.Reason != "the server says no, loudly" && s.Reason != "the server says no, quietly" {
			t.Errorf("the step is %+v", s)
		}
		mended = true
		time.Sleep(time.Hour)
		if got := h.states(t); got[register.Failed] != 1 {
			t.Errorf("what was given up went on by itself: %v", got)
		}
		if n, err := h.RetryAll(t.Context(), 99, time.Now()); n != 0 || err != nil {
			t.Errorf("another intake has %d failed steps: %v", n, err)
		}
		if n, err := h.RetryAll(t.Context(), 0, time.Now()); n != 1 || err != nil {
			t.Fatal(n, err)
		}
		h.crew.Wake()
		time.Sleep(time.Second)
		if got := h.states(t); got[register.Done] != 1 {
			t.Errorf("after a mend and by hand: %v", got)
		}
	})
}

// While a service is out one step knocks, at most every eight seconds; however long it lasts, no step is given up, and all
// go out once it is back.
func TestAnOutageCostsNoAttempt(t *testing.T) {
	out := true
	inBubble(t, func(h *house, _ string, _ int) error {
		h.mu.Lock()
		defer h.mu.Unlock()
		if out {
			return work.Again{Reason: "The mail server does not answer.", Outage: true}
		}
		return nil
	}, func(t *testing.T, h *house) {
		defer h.start(t)()
		h.submit(t, 30)
		const lasts = 3 * time.Hour
		time.Sleep(lasts)
		h.mu.Lock()
		var knocks []time.Time
		for _, times := range h.asked {
			knocks = append(knocks, times...)
		}
		h.mu.Unlock()
		slices.SortFunc(knocks, time.Time.Compare)
		knows := knocks[0].Add(time.Minute)
		knocks = slices.DeleteFunc(knocks, func(k time.Time) bool { return k.Before(knows) })
		for i := 1; i < len(knocks); i++ {
			if pause := knocks[i].Sub(knocks[i-1]); pause < 8*time.Second || pause > 14*time.Second {
				t.Fatalf("it knocks after %v", pause)
			}
		}
		if got := h.states(t); got[register.Ready] != 30 {
			t.Errorf("during an outage: %v", got)
		}
		if s := h.notice(t, 30); s.Attempts > 1 || s.Reason != "The mail server does not answer." && s.Reason != "" {
			t.Errorf("a waiting step is %+v", s)
		}
		h.mu.Lock()
		out = false
		h.mu.Unlock()
		time.Sleep(20 * time.Second)
		if got := h.states(t); got[register.Done] != 30 {
			t.Errorf("20 seconds after an outage: %v", got)
		}
		if all, err := h.Messages(t.Context(), 0, 0, 100); err != nil || len(all) != 30 {
			t.Errorf("%d letters went out: %v", len(all), err)
		}
	})
}

// One that panics, one that takes its time and one that can never be done hold up nobody else, and no more hands are at work
// than there are.
func TestStepsStandForThemselves(t *testing.T) {
	inBubble(t, func(_ *house, number string, _ int) error {
		switch number {
		case "N-1":
			panic("a hole in the program")
		case "N-2":
			return work.GiveUp{Reason: "There is no such address."}
		case "N-3":
			time.Sleep(90 * time.Second)
		}
		time.Sleep(100 * time.Millisecond)
		return nil
	}, func(t *testing.T, h *house) {
		defer h.start(t)()
		h.submit(t, 40)
		time.Sleep(5 * time.Second)
		if got := h.states(t); got[register.Done] != 37 || got[register.Failed] != 2 {
			t.Errorf("after five seconds: %v", got)
		}
		if h.most > 4 {
			t.Errorf("%d letters were sent at once", h.most)
		}
		for id, want := range map[int64]string{1: "a hole in the program", 2: "There is no such address."} {
			if s := h.notice(t, id); !strings.Contains(s.Reason, want) || s.Attempts != 1 {
				t.Errorf("%+v does not say %q", s, want)
			}
		}
		time.Sleep(2 * time.Minute)
		if times := h.times("N-3"); len(times) != 1 {
			t.Errorf("the slow one was asked %d times", len(times))
		}
		if got := h.states(t); got[register.Done] != 38 {
			t.Errorf("at the end: %v", got)
		}
	})
}

// A stop waits for what is under way; a step that breaks off for it is due again at once at the next start.
func TestAStopLosesNothing(t *testing.T) {
	inBubble(t, func(_ *house, _ string, attempt int) error {
		if attempt == 1 {
			time.Sleep(30 * time.Second)
			return errors.New("broken off")
		}
		return nil
	}, func(t *testing.T, h *house) {
		stop := h.start(t)
		h.submit(t, 1)
		time.Sleep(10 * time.Second)
		begun := time.Now()
		stop()
		if took := time.Since(begun); took < 19*time.Second || took > 21*time.Second {
			t.Errorf("the stop took %v", took)
		}
		if s := h.notice(t, 1); s.State != register.Ready || s.Due.After(time.Now()) {
			t.Errorf("after the stop the step is %+v", s)
		}
		time.Sleep(time.Hour)
		defer h.start(t)()
		time.Sleep(2 * time.Second)
		if got := h.states(t); got[register.Done] != 1 {
			t.Errorf("after the next start: %v", got)
		}
	})
}

// A letter that the server had whole, but did not answer for, may have arrived: it is sent three times more, with long pauses, and
// then somebody decides. Nothing tries it again with all the others.
func TestCopiesHaveABound(t *testing.T) {
	inBubble(t, func(*house, string, int) error {
		return work.Again{Reason: "The server broke off.", Unsure: true}
	}, func(t *testing.T, h *house) {
		defer h.start(t)()
		h.submit(t, 1)
		time.Sleep(7 * 24 * time.Hour)
		times := h.times("N-1")
		if len(times) != 4 {
			t.Fatalf("it was sent %d times", len(times))
		}
		for i := 1; i < len(times); i++ {
			if pause, want := times[i].Sub(times[i-1]), time.Minute<<(2*(i-1)); pause < want || pause > want+2*time.Second {
				t.Errorf("pause %d is %v, want %v", i, pause, want)
			}
		}
		if s := h.notice(t, 1); s.State != register.Failed || !strings.Contains(s.Reason, "may have arrived") {
			t.Errorf("the step is %+v", s)
		}
		if n, err := h.RetryAll(t.Context(), 0, time.Now()); n != 0 || err != nil {
			t.Errorf("%d were tried again with all others: %v", n, err)
		}
	})
}

// What a hand says of a step while the program stops does not count: a step that was interrupted has not failed.
func TestAStopFailsNothing(t *testing.T) {
	inBubble(t, func(_ *house, _ string, attempt int) error {
		if attempt == 1 {
			time.Sleep(5 * time.Second)
			return work.GiveUp{Reason: "There are too many files."}
		}
		return nil
	}, func(t *testing.T, h *house) {
		stop := h.start(t)
		h.submit(t, 1)
		time.Sleep(2 * time.Second)
		stop()
		if s := h.notice(t, 1); s.State != register.Ready || s.Attempts != 0 || s.Reason != "" {
			t.Errorf("after the stop the step is %+v", s)
		}
		defer h.start(t)()
		time.Sleep(2 * time.Second)
		if got := h.states(t); got[register.Done] != 1 {
			t.Errorf("after the next start: %v", got)
		}
	})
}

// A step during which the program ends again and again is given up, and the others are done meanwhile.
func TestAStepThatEndsTheProgramIsGivenUp(t *testing.T) {
	inBubble(t, func(*house, string, int) error { return nil }, func(t *testing.T, h *house) {
		h.submit(t, 2)
		var poison int64
		for n := 1; ; n++ { // each turn is a program that is killed
			if err := h.Reclaim(t.Context(), time.Now(), 5); err != nil {
				t.Fatal(err)
			}
			time.Sleep(time.Minute)
			jobs, err := h.Claim(t.Context(), plan.Document, 2, time.Now(), time.Minute)
			if err != nil {
				t.Fatal(err)
			}
			if len(jobs) == 0 {
				break
			}
			if n > 6 {
				t.Fatal("it is tried for ever")
			}
			for _, j := range jobs {
				switch {
				case poison == 0:
					poison = j.Step.ID
				case j.Step.ID != poison:
					if err := h.Finish(t.Context(), j.Step, work.Outcome{Document: &register.Document{Key: j.Step.Key, Code: j.Submission.Number, Made: time.Now(), PDF: []byte("%PDF")}}, time.Now()); err != nil {
						t.Fatal(err)
					}
				}
			}
		}
		steps, err := h.Steps(t.Context(), 1)
		if err != nil || steps[0].State != register.Failed || !strings.Contains(steps[0].Reason, "5 times") {
			t.Errorf("%+v: %v", steps, err)
		}
		defer h.start(t)()
		time.Sleep(time.Second)
		if got := h.states(t); got[register.Done] != 1 || got[register.Failed] != 1 {
			t.Errorf("at the end: %v", got)
		}
	})
}

// A clock that is set back does not make what waits wait for it.
func TestAClockThatFalls(t *testing.T) {
	var fell atomic.Int64
	inBubble(t, func(_ *house, _ string, attempt int) error {
		if attempt < 3 {
			return errors.New("later")
		}
		return nil
	}, func(t *testing.T, h *house) {
		h.crew.Now = func() time.Time { return time.Now().Add(-time.Duration(fell.Load())) }
		defer h.start(t)()
		h.submit(t, 1)
		time.Sleep(500 * time.Millisecond)
		fell.Store(int64(12 * time.Hour))
		time.Sleep(40 * time.Minute)
		if got := h.states(t); got[register.Done] != 1 {
			t.Errorf("40 minutes after the clock fell: %v", got)
		}
	})
}
