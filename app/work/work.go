// Package work does the steps of submissions: documents first, then the notices and
// filings that carry them.
//
// A step is leased before it is done and finished in one commit with what came out, which
// also releases the steps that waited for it. Whatever fails is tried again after a
// growing pause, or given up with a reason for people. While an outside service is out,
// only one step knocks at it; the others wait and go out as soon as it answers.
package work

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"math/rand/v2"
	"sync"
	"time"

	"amberseal/app/register"
	"amberseal/core/house"
	"amberseal/core/intake"
	"amberseal/core/phrase"
	"amberseal/core/plan"

	"amberseal/core/form"
)

// Job is a leased step with all it needs.
type Job struct {
	Step       register.Step
	Submission register.Submission
	Design     intake.Design
	House      house.House
}

// Facts are those of the job's submission at a time.
func (j Job) Facts(now time.Time) phrase.Facts {
	return phrase.Facts{
		House: j.House, Intake: j.Design.Name, Form: j.Design.Form, Answers: form.Load(j.Design.Form, j.Submission.Answers),
		Number: j.Submission.Number, Received: j.Submission.Received, Made: now,
		Revision: j.Submission.Revision, Link: j.House.Link(j.Design.Whereto(j.Submission.Token)),
	}
}

// Outcome is what came out of a step: at most one of the records, and a line for the
// history.
type Outcome struct {
	Result   string
	Happened string
	Document *register.Document
	Message  *register.Message
	Filed    *register.Filed
}

// Again is the error of a step that may succeed later.
type Again struct {
	Reason string
	Outage bool // the outside service does not answer at all
}

func (e Again) Error() string { return e.Reason }

// GiveUp is the error of a step that needs a hand.
type GiveUp struct{ Reason string }

func (e GiveUp) Error() string { return e.Reason }

// Store keeps steps. Claim leases due steps; Finish, Later and Fail end a lease and do
// nothing when somebody else holds the step by now.
type Store interface {
	Claim(ctx context.Context, kind plan.Kind, most int, now time.Time, lease time.Duration) ([]Job, error)
	Finish(ctx context.Context, s register.Step, o Outcome, now time.Time) error
	Later(ctx context.Context, s register.Step, reason string, outage bool, due, now time.Time) error
	Fail(ctx context.Context, s register.Step, reason string, now time.Time) error
	EndOutage(ctx context.Context, kind plan.Kind, now time.Time) error
	Reclaim(ctx context.Context, now time.Time) error
}

// Hand does one kind of step.
type Hand func(ctx context.Context, j Job) (Outcome, error)

// Crew is the hands and how many of each work at once.
type Crew struct {
	Store   Store
	Now     func() time.Time
	Hands   map[plan.Kind]Hand
	Workers map[plan.Kind]int
	Changed func() // called after each step
	Log     *slog.Logger

	mu   sync.Mutex
	wake map[plan.Kind]chan struct{}
}

const (
	lease        = 2 * time.Minute
	idle         = time.Second // longest sleep; a due step is seen at most this late
	firstPause   = time.Second
	longestPause = 10 * time.Minute
	outagePause  = 10 * time.Second // longest time between knocks at a service that is out
	mostAttempts = 12
)

// Run works until the context ends, and returns when no step is under way.
func (c *Crew) Run(ctx context.Context) error {
	if err := c.Store.Reclaim(ctx, c.Now()); err != nil {
		return err
	}
	c.mu.Lock()
	c.wake = map[plan.Kind]chan struct{}{}
	for kind := range c.Hands {
		c.wake[kind] = make(chan struct{}, 1)
	}
	c.mu.Unlock()
	var all sync.WaitGroup
	for kind, hand := range c.Hands {
		all.Go(func() { c.shift(ctx, kind, hand) })
	}
	all.Wait()
	return nil
}

// Wake makes idle hands look for work now.
func (c *Crew) Wake() {
	c.mu.Lock()
	defer c.mu.Unlock()
	for _, w := range c.wake {
		select {
		case w <- struct{}{}:
		default:
		}
	}
}

// outage remembers that a service does not answer.
type outage struct {
	mu    sync.Mutex
	count int
	until time.Time
}

func (o *outage) on() bool { o.mu.Lock(); defer o.mu.Unlock(); return o.count > 0 }

func (o *outage) wait(now time.Time) time.Duration {
	o.mu.Lock()
	defer o.mu.Unlock()
	return o.until.Sub(now)
}

func (o *outage) begin(now time.Time) {
	o.mu.Lock()
	defer o.mu.Unlock()
	if now.Before(o.until) {
		return // several steps met the same outage
	}
	o.count++
	o.until = now.Add(pause(o.count, outagePause))
}

func (o *outage) end() (was bool) {
	o.mu.Lock()
	defer o.mu.Unlock()
	was = o.count > 0
	o.count, o.until = 0, time.Time{}
	return was
}

// shift hands out steps of one kind until the context ends.
func (c *Crew) shift(ctx context.Context, kind plan.Kind, hand Hand) {
	workers := max(c.Workers[kind], 1)
	slots := make(chan struct{}, workers)
	var under sync.WaitGroup
	defer under.Wait()
	var out outage
	for {
		if wait := out.wait(c.Now()); wait > 0 {
			if !sleep(ctx, nil, wait) {
				return
			}
		}
		free := cap(slots) - len(slots)
		if out.on() {
			free = min(free, 1-len(slots))
		}
		var jobs []Job
		if free > 0 {
			var err error
			if jobs, err = c.Store.Claim(ctx, kind, free, c.Now(), lease); err != nil && ctx.Err() == nil {
				c.Log.Error("steps could not be claimed", "kind", kind, "error", err)
			}
		}
		for _, j := range jobs {
			slots <- struct{}{}
			under.Go(func() {
				defer func() {
					<-slots
					c.Wake()
				}()
				c.do(ctx, hand, j, &out)
			})
		}
		if len(jobs) == 0 && !sleep(ctx, c.wake[kind], idle) || ctx.Err() != nil {
			return
		}
	}
}

func sleep(ctx context.Context, wake <-chan struct{}, d time.Duration) bool {
	t := time.NewTimer(d)
	defer t.Stop()
	select {
	case <-ctx.Done():
		return false
	case <-wake:
	case <-t.C:
	}
	return true
}

// do does one step and writes down how it ended, even when the program is stopping.
func (c *Crew) do(ctx context.Context, hand Hand, j Job, out *outage) {
	o, err := guarded(ctx, hand, j)
	record := context.WithoutCancel(ctx)
	now := c.Now()
	var again Again
	var giveUp GiveUp
	switch {
	case err == nil:
		err = c.Store.Finish(record, j.Step, o, now)
		if err == nil && out.end() {
			err = c.Store.EndOutage(record, j.Step.Kind, now)
		}
	case errors.As(err, &giveUp):
		err = c.Store.Fail(record, j.Step, giveUp.Reason, now)
	case ctx.Err() != nil:
		err = c.Store.Later(record, j.Step, "", false, now, now)
	default:
		reason := err.Error()
		if errors.As(err, &again) && again.Outage {
			out.begin(now)
			err = c.Store.Later(record, j.Step, reason, true, now.Add(outagePause), now)
		} else if j.Step.Attempts >= mostAttempts {
			err = c.Store.Fail(record, j.Step, reason, now)
		} else {
			err = c.Store.Later(record, j.Step, reason, false, now.Add(pause(j.Step.Attempts, longestPause)), now)
		}
		c.Log.Warn("a step is tried again", "number", j.Submission.Number, "kind", j.Step.Kind, "key", j.Step.Key, "attempt", j.Step.Attempts, "reason", reason)
	}
	if err != nil {
		c.Log.Error("a step could not be recorded; its lease ends by itself", "number", j.Submission.Number, "key", j.Step.Key, "error", err)
	}
	c.Changed()
}

// guarded turns a panic in a step into its failure, so that one design cannot stop the house.
func guarded(ctx context.Context, hand Hand, j Job) (o Outcome, err error) {
	defer func() {
		if p := recover(); p != nil {
			err = GiveUp{fmt.Sprintf("The program made a mistake: %v. Please report it.", p)}
		}
	}()
	return hand(ctx, j)
}

// pause doubles with each attempt up to the longest, give or take a fifth.
func pause(attempt int, longest time.Duration) time.Duration {
	d := firstPause << min(max(attempt-1, 0), 20)
	d = min(d, longest)
	return d*4/5 + rand.N(d*2/5)
}
