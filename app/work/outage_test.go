package work_test

import (
	"context"
	"fmt"
	"slices"
	"testing"
	"time"

	"amberseal/app/access"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/plan"
)

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
		if n, err := h.RetryAll(t.Context(), access.Everywhere, 99, time.Now()); n != 0 || err != nil {
			t.Errorf("another intake has %d failed steps: %v", n, err)
		}
		if n, err := h.RetryAll(t.Context(), access.Everywhere, 0, time.Now()); n != 1 || err != nil {
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
		if all, err := h.Messages(t.Context(), access.Everywhere, register.MessageQuery{Submission: int64(0),
			Limit: 100}); err != nil || len(all) != 30 {
			t.Errorf("%d letters went out: %v", len(all), err)
		}
	})
}

// One target that is out holds up nothing else, and is known to be out after the next start.
func TestOneDeadTargetStopsNothingElse(t *testing.T) {
	inBubble(t, func(*house, string, int) error { return nil }, func(t *testing.T, h *house) {
		knocks, went := map[string]int{}, map[string]int{}
		h.crew.Hands["hook"] = work.Hand{Longest: time.Minute, Do: func(_ context.Context, j work.Job) (work.Outcome, error) {
			h.mu.Lock()
			defer h.mu.Unlock()
			if knocks[j.Target]++; j.Target == "dead.example" {
				return work.Outcome{}, work.Again{Reason: "It does not answer.", Outage: true}
			}
			went[j.Target]++
			return work.Outcome{}, nil
		}}
		for n := range 60 {
			target := []string{"dead.example", "one.example", "two.example"}[n%3]
			steps := []plan.Step{{Kind: "hook", Key: "hook", Name: "Hook", Target: target}}
			if err := h.Plan(t.Context(), plan.Subject{About: "hook", ID: int64(n)}, 0, steps, time.Now()); err != nil {
				t.Fatal(err)
			}
		}
		stop := h.start(t)
		h.submit(t, 3)
		time.Sleep(2 * time.Second)
		if went["one.example"] != 20 || went["two.example"] != 20 || h.states(t)[register.Done] != 3 {
			t.Errorf("beside a dead target went %v, %v", went, h.states(t))
		}
		time.Sleep(time.Hour)
		stop()
		out, err := h.Outages(t.Context())
		if err != nil || len(out) != 1 || out["dead.example"].Knocks < 100 || out["dead.example"].Reason != "It does not answer." {
			t.Errorf("the outages are %+v: %v", out, err)
		}
		before := knocks["dead.example"]
		defer h.start(t)()
		time.Sleep(time.Millisecond)
		if knocks["dead.example"] > before+1 {
			t.Errorf("after a start %d knock at once", knocks["dead.example"]-before)
		}
	})
}

// What somebody holds waits without an end and without being given up, and goes when it is let go and hurried.
func TestWhatIsHeldWaits(t *testing.T) {
	held := true
	inBubble(t, func(h *house, _ string, _ int) error {
		h.mu.Lock()
		defer h.mu.Unlock()
		if held {
			return work.Held{Reason: "Messages are held."}
		}
		return nil
	}, func(t *testing.T, h *house) {
		defer h.start(t)()
		h.submit(t, 3)
		time.Sleep(5*24*time.Hour + time.Hour + time.Second) // longer than anything else is tried, and not at the moment of a look
		if got := h.states(t); got[register.Done] != 0 || got[register.Failed] != 0 {
			t.Errorf("while they are held: %v", got)
		}
		if s := h.notice(t, 1); s.Reason != "Messages are held." || s.Attempts != 0 {
			t.Errorf("the step is %+v", s)
		}
		h.mu.Lock()
		held = false
		h.mu.Unlock()
		if err := h.crew.Again(t.Context(), plan.Mail); err != nil {
			t.Fatal(err)
		}
		time.Sleep(time.Second)
		if got := h.states(t); got[register.Done] != 3 {
			t.Errorf("when they are let go: %v", got)
		}
	})
}
