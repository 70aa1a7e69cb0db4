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
	"amberseal/core/plan"
)

// Crew is the hands, and how many jobs of a target are done at once.
type Crew struct {
	Store   Store
	Now     func() time.Time
	Hands   map[plan.Kind]Hand
	Slots   map[string]int // by target; others have two
	Changed func()         // called after each job
	Log     *slog.Logger

	doors   doors
	under   sync.WaitGroup
	writing chan struct{} // how many are being written down
	next    upcoming
	once    sync.Once
	wake    chan struct{}
}

const (
	grace        = time.Minute      // a lease lasts so much longer than its hand may take
	idle         = 20 * time.Second // longest sleep, in case the clock is set forward; the crew is woken when there is work
	firstPause   = time.Second
	longestPause = 30 * time.Minute
	outagePause  = 10 * time.Second   // longest time between knocks at a target that is out
	longestTrial = 5 * 24 * time.Hour // weekends are longer than a count of attempts; RFC 5321 section 4.5.4.1 asks for 4 to 5 days
	unsurePause  = time.Minute        // four times longer each time
	mostUnsure   = 3                  // copies that may arrive of one letter, besides the first
	mostLost     = 3                  // times that the program ended during one job
	clockFell    = time.Minute
	lookAgain    = 100 * time.Millisecond
	breath       = 5 * time.Millisecond // between two looks for work: many arrive at once, and many end
	mostWriting  = 32                   // jobs whose end is being written down at once
	bulkFirst    = 8                    // each so many rounds what is in bulk goes first, so that it is never left for ever
)

// Run works until the context ends, and returns when no job is under way.
func (c *Crew) Run(ctx context.Context) error {
	if err := c.takeUp(ctx); err != nil {
		if ctx.Err() != nil { // it was to end before it had begun
			return nil
		}
		return err
	}
	c.writing = make(chan struct{}, mostWriting)
	defer c.under.Wait()
	last := c.Now().Round(0) // without the monotonic clock, which never falls
	looked := last
	for round := 1; ctx.Err() == nil; round++ {
		now := c.Now().Round(0)
		if last.Sub(now) > clockFell {
			c.clockFell(ctx, now)
			looked = now
		}
		if last = now; now.Sub(looked) > idle {
			looked = now
			if err := c.Store.Lapse(ctx, now); err != nil && ctx.Err() == nil {
				c.Log.Error("leases that ran out could not be taken back", "error", err)
			}
		}
		n, err := c.claim(ctx, round%bulkFirst == 0)
		if err != nil && ctx.Err() == nil {
			c.Log.Error("jobs could not be claimed", "error", err)
		}
		if n == 0 {
			c.sleep(ctx, c.rest(ctx, err))
		}
		if gone := c.Now().Sub(now); gone >= 0 && gone < breath {
			c.pause(ctx, breath-gone)
		}
	}
	return nil
}

// takeUp takes up the work where an earlier run left it.
func (c *Crew) takeUp(ctx context.Context) error {
	if err := c.Store.Reclaim(ctx, c.Now(), mostLost); err != nil {
		return err
	}
	if err := c.Store.PullBack(ctx, c.Now(), c.Now().Add(longestPause)); err != nil {
		return err
	}
	out, err := c.Store.Outages(ctx)
	if err == nil {
		c.doors.open(c.Slots, out)
	}
	return err
}

// pause lets a time go by, whoever wakes the crew.
func (c *Crew) pause(ctx context.Context, d time.Duration) {
	select {
	case <-ctx.Done():
	case <-time.After(d):
	}
}

// clockFell lets nothing wait for the time that the clock has lost.
func (c *Crew) clockFell(ctx context.Context, now time.Time) {
	c.doors.pullBack(now.Add(outagePause))
	if err := c.Store.PullBack(ctx, now, now.Add(longestPause)); err != nil && ctx.Err() == nil {
		c.Log.Error("jobs could not be pulled back after the clock fell", "error", err)
	}
}

// Wake makes the crew look for work now.
func (c *Crew) Wake() {
	select {
	case c.waking() <- struct{}{}:
	default:
	}
}

// Again tries at once what waits for a target, as when somebody has just mended it.
func (c *Crew) Again(ctx context.Context, target string) error {
	c.doors.answered(target)
	err := errors.Join(c.Store.Hurry(ctx, target, c.Now()), c.keepOutage(ctx, target))
	c.Wake()
	return err
}

func (c *Crew) waking() chan struct{} {
	c.once.Do(func() { c.wake = make(chan struct{}, 1) })
	return c.wake
}

func (c *Crew) sleep(ctx context.Context, d time.Duration) {
	t := time.NewTimer(d)
	defer t.Stop()
	select {
	case <-ctx.Done():
	case <-c.waking():
	case <-t.C:
	}
}

// upcoming is when the next job is due, as it was known at a time.
type upcoming struct {
	due    time.Time
	any    bool
	looked time.Time
}

// rest is how long there is nothing to do: until the next job is due, or the next knock at a target that is out. While all hands
// are busy one that ends wakes the crew. Under load it is woken very often, so that what comes is looked up once in a while.
func (c *Crew) rest(ctx context.Context, failed error) time.Duration {
	now := c.Now()
	rest := idle
	if since := now.Sub(c.next.looked); since < 0 || since >= lookAgain {
		due, any, err := c.Store.NextDue(ctx, now)
		if err != nil || failed != nil {
			return time.Second
		}
		c.next = upcoming{due, any, now}
	} else {
		rest = lookAgain - since
	}
	if c.next.any {
		rest = min(rest, c.next.due.Sub(now))
	}
	if knock, out := c.doors.nextKnock(now); out {
		rest = min(rest, knock.Sub(now))
	}
	return max(rest, 10*time.Millisecond)
}

// terms are how jobs are leased now, with places taken in a booking.
func (c *Crew) terms(room func(register.Job) bool, bulk bool) Terms {
	now := c.Now()
	lanes := []plan.Lane{plan.Fresh, plan.Bulk}
	if bulk {
		lanes = []plan.Lane{plan.Bulk, plan.Fresh}
	}
	return Terms{Now: now, Lanes: lanes, Room: room, Until: func(k plan.Kind) time.Time { return now.Add(c.Hands[k].Longest + grace) }}
}

// claim leases what there is room for and begins it.
func (c *Crew) claim(ctx context.Context, bulk bool) (int, error) {
	b := c.doors.book(c.Now(), false)
	t := c.terms(b.room, bulk)
	jobs, err := c.Store.Claim(ctx, t)
	c.begin(ctx, b, jobs, nil, t.Now)
	return len(jobs), err
}

// begin does jobs, or lets them stand before their doors until those who are inside come out.
func (c *Crew) begin(ctx context.Context, b *booking, jobs []register.Job, carried any, leased time.Time) {
	for _, j := range c.doors.enter(b, jobs, carried, leased) {
		c.under.Go(func() { c.through(ctx, j) })
	}
}

// through does a job, and then those that stand before the same door. How each ended is written down while the next one is done:
// many share a commit.
func (c *Crew) through(ctx context.Context, j standing) {
	for again := true; again; {
		ended := j
		o, err := c.do(ctx, ended)
		c.noted(ended.Job, err)
		c.writing <- struct{}{}
		c.under.Go(func() {
			defer func() {
				<-c.writing
				c.Changed()
				c.Wake()
			}()
			if err := c.record(ctx, ended.Job, o, err); err != nil {
				c.Log.Error("a job could not be recorded; its lease ends by itself", "about", ended.Subject, "key", ended.Key, "error", err)
			}
		})
		j, again = c.doors.leave(j)
	}
}

// do does one job.
func (c *Crew) do(ctx context.Context, s standing) (Outcome, error) {
	hand, known := c.Hands[s.Kind]
	switch {
	case !known:
		return Outcome{}, errUnknown
	case ctx.Err() != nil || c.Now().Sub(s.leased) > grace/2:
		return Outcome{}, errStood
	}
	timed, cancel := context.WithTimeout(ctx, hand.Longest)
	defer cancel()
	return guarded(timed, hand, Job{s.Job, s.carried})
}

// noted notes whether a target answers before the next job is let in to it.
func (c *Crew) noted(j register.Job, err error) {
	var again Again
	if err == nil {
		c.doors.answered(j.Target)
	} else if errors.As(err, &again) && again.Outage {
		c.doors.silent(j.Target, again.Reason, c.Now())
	}
}

// Errors of jobs that were not begun: one that stood before its door so long that its lease would end while it is done, and one
// that a newer program has planned.
var (
	errStood   = errors.New("it stood too long")
	errUnknown = errors.New("it is of an unknown kind")
)

// record writes down how a job ended. What a job says of itself while the program stops does not count, unless it may have
// succeeded.
func (c *Crew) record(until context.Context, j register.Job, o Outcome, err error) error {
	ctx, stopping := context.WithoutCancel(until), until.Err() != nil
	now := c.Now()
	var again Again
	var giveUp GiveUp
	var held Held
	unsure := errors.As(err, &again) && again.Unsure
	switch {
	case err == nil:
		b := c.doors.book(now, true)
		room := b.room
		if stopping {
			room = func(register.Job) bool { return false }
		}
		released, err := c.Store.Finish(ctx, j, o, c.terms(room, false))
		c.begin(until, b, released, o.Carry, now)
		return errors.Join(err, c.keepOutage(ctx, j.Target))
	case err == errUnknown:
		reason := fmt.Sprintf("This program does not know jobs of the kind “%s”: a newer one planned it, and will do it.", j.Kind)
		return c.Store.Later(ctx, j, Pause{Again: Again{Reason: reason, Outage: true}, Due: now.Add(longestPause)}, now)
	case (stopping || err == errStood) && !unsure:
		return c.Store.Later(ctx, j, Pause{Again: Again{Outage: true}, Due: now}, now)
	case errors.As(err, &giveUp):
		return c.Store.Fail(ctx, j, giveUp.Reason, o.Records, now)
	case errors.As(err, &held):
		due := now.Add(longestPause)
		if !held.Until.IsZero() {
			due = held.Until
		}
		return c.Store.Later(ctx, j, Pause{Again{Reason: held.Reason, Outage: true}, due, !held.Until.IsZero()}, now)
	}
	if again.Reason == "" {
		again.Reason = err.Error()
	}
	if errors.Is(err, context.DeadlineExceeded) {
		again.Reason = fmt.Sprintf("It took longer than %d minutes.", int(c.Hands[j.Kind].Longest.Minutes()))
	}
	c.Log.Warn("a job is tried again", "about", j.Subject, "kind", j.Kind, "key", j.Key, "attempt", j.Attempts, "reason", again.Reason)
	return c.putOff(ctx, j, again, o.Records, now)
}

// putOff lets a job wait, or gives it up when it has been tried for days or may have succeeded often enough. An outage lasts as
// long as it lasts.
func (c *Crew) putOff(ctx context.Context, j register.Job, again Again, left []register.Record, now time.Time) error {
	switch {
	case again.Outage:
		return errors.Join(c.Store.Later(ctx, j, Pause{Again: again, Due: now}, now), c.keepOutage(ctx, j.Target))
	case again.Unsure && j.Unsure >= mostUnsure:
		return c.Store.Fail(ctx, j, fmt.Sprintf("%s This happened %d times; the message may have arrived. "+
			"Ask who it is for before you send it again.", again.Reason, j.Unsure+1), left, now)
	case again.Unsure:
		return c.Store.Later(ctx, j, Pause{Again: again, Due: now.Add(unsurePause << (2 * j.Unsure))}, now)
	case now.Sub(j.Since) >= longestTrial:
		return c.Store.Fail(ctx, j, again.Reason, left, now)
	}
	return c.Store.Later(ctx, j, Pause{Again: again, Due: now.Add(pause(j.Attempts, longestPause))}, now)
}

// keepOutage keeps what is known of a target's outage, where that has changed.
func (c *Crew) keepOutage(ctx context.Context, target string) error {
	if o, changed := c.doors.news(target); changed {
		return c.Store.SetOutage(ctx, target, o)
	}
	return nil
}

// guarded turns a panic in a job into its failure, so that one design cannot stop the house.
func guarded(ctx context.Context, hand Hand, j Job) (o Outcome, err error) {
	defer func() {
		if p := recover(); p != nil {
			err = GiveUp{fmt.Sprintf("The program made a mistake: %v. Please report it.", p)}
		}
	}()
	return hand.Do(ctx, j)
}

// pause doubles with each attempt up to the longest, give or take a fifth.
func pause(attempt int, longest time.Duration) time.Duration {
	d := firstPause << min(max(attempt-1, 0), 20)
	d = min(d, longest)
	return d*4/5 + rand.N(d*2/5)
}
