package work

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"math/rand/v2"
	"sync"
	"sync/atomic"
	"time"

	"amberseal/app/mistake"
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
	Resting func() bool    // the house does nothing outside meanwhile; nil where it never rests
	Log     *slog.Logger

	doors   doors
	under   sync.WaitGroup
	writing chan struct{} // how many are being written down
	unkept  atomic.Int32  // how many ended and could not be written down yet
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
	unkeptPause  = time.Second        // between two tries to write down how a job ended
	mostUnkept   = 3                  // such tries while all else can be written
	mostGoodbyes = 3                  // such tries when the program stops
	clockFell    = time.Minute
	lookAgain    = 100 * time.Millisecond
	breath       = 5 * time.Millisecond // between two looks for work: many arrive at once, and many end
	mostWriting  = 32                   // jobs whose end is being written down at once
	bulkFirst    = 8                    // each so many rounds what is in bulk goes first, so that it is never left for ever
)

// Run works until the context ends, and returns when no job is under way. It gives no error: what cannot be done now is tried again.
func (c *Crew) Run(ctx context.Context) error {
	for err := c.takeUp(ctx); err != nil; err = c.takeUp(ctx) {
		if ctx.Err() != nil { // it was to end before it had begun
			return nil
		}
		c.Log.Error("the work cannot be taken up; it is tried again", "error", err)
		c.pause(ctx, outagePause)
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
		if err != nil && err != errUnkept && ctx.Err() == nil {
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
	if failed != nil {
		return time.Second
	}
	now := c.Now()
	rest := idle
	if since := now.Sub(c.next.looked); since < 0 || since >= lookAgain {
		due, any, err := c.Store.NextDue(ctx, now)
		if err != nil {
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

// within lets nothing out of a house that rests.
func (c *Crew) within(room func(register.Job) bool) func(register.Job) bool {
	if c.Resting == nil || !c.Resting() {
		return room
	}
	return func(j register.Job) bool { return !plan.Outward(j.Kind) && room(j) }
}

// terms are how jobs are leased now, with places taken in a booking.
func (c *Crew) terms(room func(register.Job) bool, bulk bool) Terms {
	now := c.Now()
	lanes := []plan.Lane{plan.Fresh, plan.Bulk}
	if bulk {
		lanes = []plan.Lane{plan.Bulk, plan.Fresh}
	}
	return Terms{
		Now:   now,
		Lanes: lanes,
		Room:  c.within(room),
		Until: func(k plan.Kind) time.Time { return now.Add(c.Hands[k].Longest + grace) },
	}
}

// claim leases what there is room for and begins it. While something that ended could not be written down nothing more leaves the house:
// nobody would know of it.
func (c *Crew) claim(ctx context.Context, bulk bool) (int, error) {
	if c.unkept.Load() > 0 {
		return 0, errUnkept
	}
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
			c.keep(ctx, ended.Job, o, err)
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
	case ctx.Err() != nil || c.Now().Sub(s.leased) > grace/2 || c.unkept.Load() > 0:
		return Outcome{}, errStood
	}
	timed, cancel := context.WithTimeout(ctx, hand.Longest)
	defer cancel()
	return c.guarded(timed, hand, Job{s.Job, s.carried})
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

// keep writes down how a job ended, again and again while nothing can be written down: it alone knows. What cannot be written though all
// else can is given up, with how it ended in the reason.
func (c *Crew) keep(ctx context.Context, j register.Job, o Outcome, ended error) {
	err := c.record(ctx, j, o, ended)
	if err == nil {
		return
	}
	c.Log.Error("how a job ended could not be written down", "about", j.Subject, "key", j.Key, "ended", ended, "error", err)
	c.unkept.Add(1)
	defer c.unkept.Add(-1)
	for n := 1; ; n++ {
		if ctx.Err() != nil && n > mostGoodbyes {
			c.Log.Error("it stays unwritten; it is done again at the next start", "about", j.Subject, "key", j.Key, "ended", ended)
			return
		}
		time.Sleep(unkeptPause) // a program that stops waits so long too: it may find room for this yet
		if err = c.record(ctx, j, o, ended); err == nil {
			return
		}
		if !errors.Is(err, register.ErrUnwritable) && n >= mostUnkept {
			break
		}
	}
	reason := "How this ended could not be written down (" + err.Error() + "). It may have been done; look before you try it again."
	if err := c.Store.Fail(context.WithoutCancel(ctx), j, reason, nil, c.Now()); err != nil {
		c.Log.Error("it could not be given up either; its lease ends by itself", "about", j.Subject, "key", j.Key, "error", err)
	}
}

// errUnkept says that nothing is begun.
var errUnkept = errors.New("nothing is begun while something that ended could not be written down")

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
		if err == nil {
			c.tellOutage(ctx, j.Target)
		}
		return err
	case err == errUnknown:
		reason := fmt.Sprintf("This program does not know jobs of the kind “%s”: a newer one planned it, and will do it.", j.Kind)
		return c.Store.Later(ctx, j, Pause{Again: Again{Reason: reason, Outage: true}, Due: now.Add(longestPause)}, now)
	case (stopping || err == errStood) && !unsure:
		return c.Store.Later(ctx, j, Pause{Again: Again{Outage: true}, Due: now}, now)
	case errors.As(err, &giveUp):
		c.Log.Warn("a job is given up", "about", j.Subject, "kind", j.Kind, "key", j.Key, "attempt", j.Attempts, "reason", giveUp.Reason)
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
		c.tellOutage(ctx, j.Target)
		return c.Store.Later(ctx, j, Pause{Again: again, Due: now}, now)
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

// tellOutage keeps it beside how a job ended, which is written down whether or not this can be.
func (c *Crew) tellOutage(ctx context.Context, target string) {
	if err := c.keepOutage(ctx, target); err != nil {
		c.Log.Error("an outage could not be written down", "target", target, "error", err)
	}
}

// guarded turns a panic in a job into its failure, so that one design cannot stop the house.
func (c *Crew) guarded(ctx context.Context, hand Hand, j Job) (o Outcome, err error) {
	defer func() {
		if p := recover(); p != nil {
			number := mistake.Log(c.Log, p, "about", j.Subject, "kind", j.Kind, "key", j.Key)
			err = GiveUp{fmt.Sprintf("The program made a mistake: %v. It stands in the log as %s; please report it.", p, number)}
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
