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
	"amberseal/core/form"
	"amberseal/core/house"
	"amberseal/core/intake"
	"amberseal/core/link"
	"amberseal/core/phrase"
	"amberseal/core/plan"
)

// Job is a leased step with all it needs.
type Job struct {
	Step       register.Step
	Submission register.Submission
	Design     intake.Design
	House      house.House
	Secret     link.Secret // the house's, on which personal links hang
}

// Facts are those of the job's submission at a time. The link to correct it is left out: only a message to the respondent may
// carry that.
func (j Job) Facts(now time.Time) phrase.Facts {
	s := j.Submission
	return phrase.Facts{
		House: j.House, Intake: j.Design.Name, Form: j.Design.Form, Answers: form.Load(j.Design.Form, s.Answers),
		Number: s.Number, Received: s.Received, Made: now,
		Revision: s.Revision, Link: j.House.Link(j.Design.ReadPath(j.Secret.Token(link.Read, s.Ref, s.Links))),
	}
}

// CorrectLink is the page on which who sent it may correct it, or empty where that is not allowed.
func (j Job) CorrectLink() string {
	if !j.Design.Opening.Correct {
		return ""
	}
	return j.House.Link(j.Design.CorrectPath(j.Secret.Token(link.Correct, j.Submission.Ref, j.Submission.Links)))
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
	Outage bool // the outside service does not answer at all, or takes nothing from us
	Unsure bool // it may have succeeded: it is repeated a few times only, with long pauses
}

func (e Again) Error() string { return e.Reason }

// GiveUp is the error of a step that needs a hand.
type GiveUp struct{ Reason string }

func (e GiveUp) Error() string { return e.Reason }

// Pause is how a step waits: an outage gives the attempt back.
type Pause struct {
	Again
	Due time.Time
}

// Store keeps steps. Claim leases due steps; Finish, Later and Fail end a lease and do
// nothing when somebody else holds the step by now. Finish releases the steps that waited for what came out. Reclaim takes back
// the leases of a program that ended without finishing its steps, counts how often that happened to a step, and fails one that
// it happened to mostLost times. PullBack makes steps due by latest that a clock which fell has put off.
type Store interface {
	Claim(ctx context.Context, kind plan.Kind, most int, now time.Time, lease time.Duration) ([]Job, error)
	Finish(ctx context.Context, s register.Step, o Outcome, now time.Time) error
	Later(ctx context.Context, s register.Step, p Pause, now time.Time) error
	Fail(ctx context.Context, s register.Step, reason string, now time.Time) error
	EndOutage(ctx context.Context, kind plan.Kind, now time.Time) error
	Reclaim(ctx context.Context, now time.Time, mostLost int) error
	PullBack(ctx context.Context, latest time.Time) error
	NextDue(ctx context.Context, kind plan.Kind) (due time.Time, any bool, err error)
}

// Hand does one kind of step.
type Hand func(ctx context.Context, j Job) (Outcome, error)

// Crew is the hands and how many of each work at once.
type Crew struct {
	Store   Store
	Now     func() time.Time
	Hands   map[plan.Kind]Hand
	Workers map[plan.Kind]int
	Secret  link.Secret
	Changed func() // called after each step
	Log     *slog.Logger

	mu   sync.Mutex
	wake map[plan.Kind]chan struct{}
}

const (
	grace        = time.Minute      // a lease lasts so much longer than its hand may take
	idle         = 20 * time.Second // longest sleep, in case the clock is set forward; hands are woken when there is work
	firstPause   = time.Second
	longestPause = 30 * time.Minute
	outagePause  = 10 * time.Second   // longest time between knocks at a service that is out
	longestTrial = 5 * 24 * time.Hour // weekends are longer than a count of attempts; RFC 5321 section 4.5.4.1 asks for 4 to 5 days
	unsurePause  = time.Minute        // four times longer each time
	mostUnsure   = 3                  // copies that may arrive of one letter, besides the first
	mostLost     = 5                  // times that the program ended during one step
	clockFell    = time.Minute
)

// longest is how long a hand may take. A letter may wait ten minutes for the answer to its end.
func longest(k plan.Kind) time.Duration {
	if k == plan.Notice {
		return 20 * time.Minute
	}
	return 3 * time.Minute
}

// Run works until the context ends, and returns when no step is under way.
func (c *Crew) Run(ctx context.Context) error {
	if err := c.Store.Reclaim(ctx, c.Now(), mostLost); err != nil {
		return err
	}
	if err := c.Store.PullBack(ctx, c.Now().Add(longestPause)); err != nil {
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
	last := c.Now().Round(0) // without the monotonic clock, which never falls
	for {
		now := c.Now().Round(0)
		if last.Sub(now) > clockFell {
			if err := c.Store.PullBack(ctx, now.Add(longestPause)); err != nil && ctx.Err() == nil {
				c.Log.Error("steps could not be pulled back after the clock fell", "error", err)
			}
		}
		last = now
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
			if jobs, err = c.Store.Claim(ctx, kind, free, c.Now(), longest(kind)+grace); err != nil && ctx.Err() == nil {
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
		if len(jobs) == 0 && !sleep(ctx, c.wake[kind], c.rest(ctx, kind, free > 0)) || ctx.Err() != nil {
			return
		}
	}
}

// rest is how long there is nothing to do: until the next step is due. While all hands are busy one that ends wakes the shift.
func (c *Crew) rest(ctx context.Context, kind plan.Kind, free bool) time.Duration {
	if !free {
		return idle
	}
	due, waits, err := c.Store.NextDue(ctx, kind)
	if err != nil {
		return time.Second
	}
	if !waits {
		return idle
	}
	return min(max(due.Sub(c.Now()), 10*time.Millisecond), idle)
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
	j.Secret = c.Secret
	timed, cancel := context.WithTimeout(ctx, longest(j.Step.Kind))
	o, err := guarded(timed, hand, j)
	cancel()
	record := context.WithoutCancel(ctx)
	now := c.Now()
	var again Again
	var giveUp GiveUp
	unsure := errors.As(err, &again) && again.Unsure
	switch {
	case err == nil:
		err = c.Store.Finish(record, j.Step, o, now)
		if err == nil && out.end() {
			err = c.Store.EndOutage(record, j.Step.Kind, now)
		}
	case ctx.Err() != nil && !unsure: // it was interrupted: nothing it says of itself counts
		err = c.Store.Later(record, j.Step, Pause{Again{Outage: true}, now}, now)
	case errors.As(err, &giveUp):
		err = c.Store.Fail(record, j.Step, giveUp.Reason, now)
	default:
		if again.Reason == "" {
			again.Reason = err.Error()
		}
		if errors.Is(err, context.DeadlineExceeded) {
			again.Reason = fmt.Sprintf("It took longer than %d minutes.", int(longest(j.Step.Kind).Minutes()))
		}
		c.Log.Warn("a step is tried again", "number", j.Submission.Number, "kind", j.Step.Kind, "key", j.Step.Key, "attempt", j.Step.Attempts, "reason", again.Reason)
		err = c.putOff(record, j.Step, again, out, now)
	}
	if err != nil {
		c.Log.Error("a step could not be recorded; its lease ends by itself", "number", j.Submission.Number, "key", j.Step.Key, "error", err)
	}
	c.Changed()
}

// putOff lets a step wait, or gives it up when it has been tried for days or may have succeeded often enough. An outage lasts as
// long as it lasts.
func (c *Crew) putOff(ctx context.Context, s register.Step, again Again, out *outage, now time.Time) error {
	switch {
	case again.Outage:
		out.begin(now)
		return c.Store.Later(ctx, s, Pause{again, now.Add(outagePause)}, now)
	case again.Unsure && s.Unsure >= mostUnsure:
		return c.Store.Fail(ctx, s, fmt.Sprintf("%s This happened %d times; the message may have arrived. Ask who it is for before you send it again.", again.Reason, s.Unsure+1), now)
	case again.Unsure:
		return c.Store.Later(ctx, s, Pause{again, now.Add(unsurePause << (2 * s.Unsure))}, now)
	case now.Sub(s.Since) >= longestTrial:
		return c.Store.Fail(ctx, s, again.Reason, now)
	}
	return c.Store.Later(ctx, s, Pause{again, now.Add(pause(s.Attempts, longestPause))}, now)
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
