package work_test

import (
	"context"
	"fmt"
	"log/slog"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/plan"
)

// full is a store on a disk that has no room for how jobs end, or for anything.
type full struct {
	work.Store
	ends, all atomic.Bool
	tries     atomic.Int32
}

func (f *full) refuses(end bool) error {
	if f.all.Load() || end && f.ends.Load() {
		f.tries.Add(1)
		return fmt.Errorf("%w: disk full", register.ErrUnwritable)
	}
	return nil
}

// While there is room for a lease and none for how a job ended nothing more leaves the house; each letter goes once, also when that lasts
// longer than its lease. A start with no room at all waits for some.
func TestNothingLeavesThatCannotBeWrittenDown(t *testing.T) {
	inBubble(t, func(*house, string, int) error { return nil }, func(t *testing.T, h *house) {
		disk := &full{Store: h.DB}
		h.crew.Store = disk
		disk.all.Store(true)
		h.submit(t, 20)
		stop := h.start(t)
		time.Sleep(10 * time.Minute)
		if disk.tries.Load() < 10 {
			t.Errorf("on a full disk the work was tried to be taken up %d times", disk.tries.Load())
		}
		disk.all.Store(false)
		for h.states(t)[register.Done] < 2 {
			time.Sleep(time.Millisecond)
		}
		disk.ends.Store(true)
		time.Sleep(time.Minute)
		h.mu.Lock()
		before := len(h.asked)
		h.mu.Unlock()
		h.submit(t, 20)
		time.Sleep(2 * time.Hour)
		h.mu.Lock()
		left := len(h.asked) - before
		h.mu.Unlock()
		if left != 0 {
			t.Errorf("%d letters left while nothing could be written down", left)
		}
		disk.ends.Store(false)
		time.Sleep(time.Hour)
		stop()
		for number, at := range h.asked {
			if len(at) != 1 {
				t.Errorf("%s went out %d times", number, len(at))
			}
		}
		if states := h.states(t); len(h.asked) != 40 || states[register.Done] != 40 {
			t.Errorf("%d letters went out; the submissions are %v", len(h.asked), states)
		}
	})
}

// unknown is a record that no store can keep.
type unknown struct{}

func (unknown) Fact() register.Fact { return register.Fact{Kind: register.Sent} }

// A job whose end cannot be written down for a fault of its own is given up, once, and holds up nothing else.
func TestAnEndThatCannotBeWrittenIsGivenUp(t *testing.T) {
	inBubble(t, func(*house, string, int) error { return nil }, func(t *testing.T, h *house) {
		h.crew.Hands[plan.Notice] = work.Hand{Longest: time.Minute, Do: func(_ context.Context, j work.Job) (work.Outcome, error) {
			h.mu.Lock()
			h.asked[j.Key] = append(h.asked[j.Key], time.Now())
			h.mu.Unlock()
			return work.Outcome{Records: []register.Record{unknown{}}}, nil
		}}
		h.submit(t, 2)
		stop := h.start(t)
		time.Sleep(2 * time.Hour)
		stop()
		var asked int
		for _, at := range h.asked {
			asked += len(at)
		}
		if j := h.notice(t, 1); asked != 2 || j.State != register.Failed || !strings.Contains(j.Reason, "may have been done") {
			t.Errorf("done %d times; it is %s: %s", asked, j.State, j.Reason)
		}
	})
}

// A mistake of the program is found in the log by the number that people are told.
func TestAMistakeStandsInTheLog(t *testing.T) {
	inBubble(t, nil, func(t *testing.T, h *house) {
		var log strings.Builder
		h.crew.Log = slog.New(slog.NewTextHandler(&log, nil))
		h.crew.Hands[plan.Notice] = work.Hand{Longest: time.Minute, Do: func(context.Context, work.Job) (work.Outcome, error) {
			var nobody map[string]int
			nobody["x"] = 1
			return work.Outcome{}, nil
		}}
		h.submit(t, 1)
		stop := h.start(t)
		time.Sleep(time.Minute)
		stop()
		reason := h.notice(t, 1).Reason
		_, number, _ := strings.Cut(reason, "in the log as ")
		number, _, _ = strings.Cut(number, ";")
		if len(number) != 8 || !strings.Contains(log.String(), "number="+number) || !strings.Contains(log.String(), "unwritten_test.go") {
			t.Errorf("people are told %q, and the log says %s", reason, log.String())
		}
	})
}
