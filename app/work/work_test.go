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
	"amberseal/app/access"
	"amberseal/app/receive"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/app/workshop"
	"amberseal/core/ask/form"
	"amberseal/core/intake"
	"amberseal/core/plan"
	"amberseal/core/words/phrase"
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
				plan.Document: {Longest: 3 * time.Minute, Do: func(_ context.Context, j work.Job) (work.Outcome, error) {
					made := &register.Document{Key: j.Key, Code: fmt.Sprint(j.Subject), Made: time.Now(), PDF: []byte("%PDF")}
					return work.Outcome{Records: []register.Record{made}, Signals: []plan.Signal{plan.Made(j.Key)}, Carry: made}, nil
				}},
				plan.Notice: {Longest: 20 * time.Minute, Do: func(ctx context.Context, j work.Job) (work.Outcome, error) {
					number := fmt.Sprint("N-", j.Subject.ID)
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
					return work.Outcome{Records: []register.Record{&register.Message{Name: "N", To: []string{"x@y.example"},
						Sent: time.Now()}}}, nil
				}},
			},
			Slots: map[string]int{plan.Press: 2, plan.Mail: 4},
		}
		h.counter.Arrived = h.crew.Wake
		d := intake.New("Guest book", []form.Field{{Key: "who", Kind: form.ShortText, Label: "Who"}})
		d.Notices[0].To, d.Filings = phrase.Parse("x@y.example"), nil
		d.Number = "N-{n}"
		workshop := &workshop.Workshop{Store: db, Now: time.Now}
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
	entries, err := h.Entries(t.Context(), register.Query{Scope: access.Everywhere, Limit: 1000})
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

func (h *house) notice(t *testing.T, submission int64) register.Job {
	t.Helper()
	jobs, err := h.Jobs(t.Context(), submission)
	if err != nil || len(jobs) != 2 {
		t.Fatal(len(jobs), err)
	}
	return jobs[1]
}

// One that panics, one that takes its time and one that can never be done hold up nobody else, and no more hands are at work
// than there are.
func TestJobsStandForThemselves(t *testing.T) {
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
		if n, err := h.RetryAll(t.Context(), access.Everywhere, 0, time.Now()); n != 0 || err != nil {
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

// A job during which the program ends again and again is given up, and the others are done meanwhile, also those that were at
// work beside it.
func TestAJobThatEndsTheProgramIsGivenUp(t *testing.T) {
	inBubble(t, func(*house, string, int) error { return nil }, func(t *testing.T, h *house) {
		h.submit(t, 5)
		make := h.crew.Hands[plan.Document]
		killed := 0
		for h.states(t)[register.Failed] == 0 { // each turn is a program that is killed
			if killed > 6 {
				t.Fatal("it is tried for ever")
			}
			ctx, kill := context.WithTimeout(t.Context(), 2*time.Minute)
			dead := &mute{DB: h.DB}
			crew := &work.Crew{
				Store:   dead,
				Now:     time.Now,
				Changed: func() {},
				Log:     slog.New(slog.DiscardHandler),
				Slots:   h.crew.Slots,
				Hands: map[plan.Kind]work.Hand{
					plan.Notice: h.crew.Hands[plan.Notice],
					plan.Document: {Longest: time.Minute, Do: func(ctx context.Context, j work.Job) (work.Outcome, error) {
						if j.Subject.ID == 3 {
							killed++
							dead.now.Store(true)
							kill()
							return work.Outcome{}, errors.New("killed")
						}
						time.Sleep(time.Duration(j.Subject.ID) * time.Millisecond)
						return make.Do(ctx, j)
					}},
				},
			}
			if err := crew.Run(ctx); err != nil {
				t.Fatal(err)
			}
			kill()
		}
		if killed != 3 {
			t.Errorf("it was given up after %d kills", killed)
		}
		jobs, err := h.Jobs(t.Context(), 3)
		if err != nil || jobs[0].State != register.Failed || !strings.Contains(jobs[0].Reason, "3 times") {
			t.Errorf("%+v: %v", jobs, err)
		}
		defer h.start(t)()
		time.Sleep(time.Minute)
		if got := h.states(t); got[register.Done] != 4 || got[register.Failed] != 1 {
			t.Errorf("at the end: %v", got)
		}
	})
}

// mute is a store that keeps nothing of a program that was killed.
type mute struct {
	*sqlite.DB
	now atomic.Bool
}

func (m *mute) Later(ctx context.Context, j register.Job, p work.Pause, now time.Time) error {
	if m.now.Load() {
		return nil
	}
	return m.DB.Later(ctx, j, p, now)
}

func (m *mute) Finish(ctx context.Context, j register.Job, o work.Outcome, t work.Terms) ([]register.Job, error) {
	if m.now.Load() {
		return nil, register.ErrUnwritable
	}
	return m.DB.Finish(ctx, j, o, t)
}

// A job of a kind that a newer program planned waits for it.
func TestAJobOfAnUnknownKindWaits(t *testing.T) {
	inBubble(t, func(*house, string, int) error { return nil }, func(t *testing.T, h *house) {
		s := plan.Subject{About: "moon", ID: 1}
		if err := h.Plan(t.Context(), s, 0, []plan.Step{{Kind: "landing", Key: "k", Name: "Landing", Target: "moon"}},
			time.Now()); err != nil {
			t.Fatal(err)
		}
		stop := h.start(t)
		time.Sleep(5*24*time.Hour + time.Hour) // longer than anything else is tried
		stop()
		landed := 0
		h.crew.Hands["landing"] = work.Hand{Longest: time.Minute, Do: func(context.Context, work.Job) (work.Outcome, error) {
			landed++
			return work.Outcome{}, nil
		}}
		defer h.start(t)()
		time.Sleep(time.Hour)
		if landed != 1 {
			t.Errorf("the newer program did it %d times", landed)
		}
	})
}

// What was made is handed on in memory to what waited for it.
func TestWhatIsMadeIsHandedOn(t *testing.T) {
	inBubble(t, func(*house, string, int) error { return nil }, func(t *testing.T, h *house) {
		var handed atomic.Int32
		send := h.crew.Hands[plan.Notice].Do
		h.crew.Hands[plan.Notice] = work.Hand{Longest: time.Minute, Do: func(ctx context.Context, j work.Job) (work.Outcome, error) {
			if x, ok := j.Carried.(*register.Document); ok && string(x.PDF) == "%PDF" {
				handed.Add(1)
			}
			return send(ctx, j)
		}}
		defer h.start(t)()
		h.submit(t, 10)
		time.Sleep(5 * time.Second)
		if handed.Load() != 10 {
			t.Errorf("%d of 10 were handed on", handed.Load())
		}
	})
}

// Beside very many letters of one intake those of another go out at once, and those in bulk go on.
func TestLanes(t *testing.T) {
	inBubble(t, func(*house, string, int) error { return nil }, func(t *testing.T, h *house) {
		var bulk, most int
		h.crew.Hands["letter"] = work.Hand{Longest: time.Minute, Do: func(context.Context, work.Job) (work.Outcome, error) {
			h.mu.Lock()
			bulk++
			most = max(most, bulk)
			h.mu.Unlock()
			time.Sleep(100 * time.Millisecond)
			h.mu.Lock()
			bulk--
			h.mu.Unlock()
			return work.Outcome{}, nil
		}}
		for n := range 5_000 {
			steps := []plan.Step{{Kind: "letter", Key: "k", Name: "Letter", Target: plan.Mail, Lane: plan.Bulk}}
			if err := h.Plan(t.Context(), plan.Subject{About: "bulk", ID: int64(n)}, 9, steps, time.Now()); err != nil {
				t.Fatal(err)
			}
		}
		defer h.start(t)()
		time.Sleep(time.Second)
		for range 10 {
			h.submit(t, 1)
			time.Sleep(150 * time.Millisecond)
			if got := h.states(t); got[register.Working] > 0 {
				t.Fatalf("beside a bulk run: %v", got)
			}
		}
		h.mu.Lock()
		defer h.mu.Unlock()
		if most != 3 {
			t.Errorf("%d of 4 places were given to bulk", most)
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

// A crew that is to end before it has begun ends without a fault.
func TestEndedAsItBegins(t *testing.T) {
	inBubble(t, func(*house, string, int) error { return nil }, func(t *testing.T, h *house) {
		ctx, cancel := context.WithCancel(t.Context())
		cancel()
		if err := h.crew.Run(ctx); err != nil {
			t.Error(err)
		}
	})
}

func (f *full) Finish(ctx context.Context, j register.Job, o work.Outcome, t work.Terms) ([]register.Job, error) {
	if err := f.refuses(true); err != nil {
		return nil, err
	}
	return f.Store.Finish(ctx, j, o, t)
}

func (f *full) Later(ctx context.Context, j register.Job, p work.Pause, now time.Time) error {
	if err := f.refuses(true); err != nil {
		return err
	}
	return f.Store.Later(ctx, j, p, now)
}

func (f *full) Reclaim(ctx context.Context, now time.Time, mostLost int) error {
	if err := f.refuses(false); err != nil {
		return err
	}
	return f.Store.Reclaim(ctx, now, mostLost)
}
