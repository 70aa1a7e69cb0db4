// Package work does what happens later: the jobs of submissions, of invitations, of the house itself.
//
// A job is leased before it is done, and finished in one commit with what came out, with the history of it, and with the
// release of the jobs that waited for it. Those are handed on in memory, with what their predecessor held in its hands. Whatever
// fails is tried again after a growing pause, or given up with a reason for people. While a target is out, one job knocks at
// it and the others wait; they go out as soon as it answers, and nothing else is held up by it.
package work

import (
	"context"
	"time"

	"amberseal/app/register"
	"amberseal/core/plan"
)

// Job is a leased job. Carried is what the job that released it handed on, or nil.
type Job struct {
	register.Job
	Carried any
}

// Outcome is what came out of a job, all of it kept in one commit.
type Outcome struct {
	Result  string
	Records []register.Record
	Signals []plan.Signal // about the job's own subject: they release what waits for them
	Then    []plan.Step   // to be done next, about the same subject
	Void    []Voided      // not to be done any more, of the same subject and run
	Carry   any           // handed on to what the signals release, where that is done at once
}

// Voided names a job that is not to be done any more, and says why.
type Voided struct {
	Kind   plan.Kind
	Key    string
	Reason string
}

// Again is the error of a job that may succeed later.
type Again struct {
	Reason string
	Outage bool // the target does not answer at all, or takes nothing from us
	Unsure bool // it may have succeeded: it is repeated a few times only, with long pauses
}

func (e Again) Error() string { return e.Reason }

// Held is the error of a job that somebody holds back: it waits, and that counts for nothing.
type Held struct {
	Reason string
	Until  time.Time // zero for half an hour on
}

func (e Held) Error() string { return e.Reason }

// GiveUp is the error of a job that needs a hand.
type GiveUp struct{ Reason string }

func (e GiveUp) Error() string { return e.Reason }

// Pause is how a job waits: an outage gives the attempt back.
type Pause struct {
	Again
	Due     time.Time
	Planned bool // it is to be done then and not before: till then it leaves nothing unfinished
}

// Outage is a target that does not answer. The zero one has ended.
type Outage struct {
	Since  time.Time
	Until  time.Time // nobody knocks before
	Knocks int
	Reason string
}

// Terms are how jobs are leased. Room takes a place for one more job and says whether there was one; it is asked again and
// again, also for jobs that somebody else gets in the end.
type Terms struct {
	Now   time.Time
	Lanes []plan.Lane // in the order in which they are looked at
	Until func(plan.Kind) time.Time
	Room  func(j register.Job) bool
}

// Store keeps jobs. It is safe for many goroutines. Its conformance suite is package worktest.
//
// Plan keeps the steps of a subject as jobs, but for those that it has; share says whose turn they take in their lane. Claim
// leases jobs that are ready and due while there is room for them: lane by lane, turn by turn among the shares of a lane, and
// there the longest due first. A claim counts as an attempt. What is past its time is void.
//
// Finish, Later and Fail end a lease and do nothing when somebody else holds the job by now or it was voided; but what has
// left the house is kept in any case. Finish gives the signals of the outcome, and leases the jobs that they release and for
// which there is room. A job that recurs is ready again at its next time when it is finished or given up.
//
// Signal gives signals about a subject: they are remembered for what waits for them later. A release never brings forward what
// is not to be done before a time. Void ends all jobs of a subject that are not done, up to its run, with a reason.
//
// Hurry ends the outage of a target and makes its jobs due that are put off, but for what may have succeeded.
//
// Reclaim takes back the leases of a program that ended without finishing its jobs, counts how often that happened to a job, and
// fails one that it happened to mostLost times. Lapse takes back leases that ran out. PullBack makes jobs due by latest that a
// clock which fell has put off. NextDue is when the next job becomes due after a time, or is past its time.
type Store interface {
	Plan(ctx context.Context, s plan.Subject, share int64, steps []plan.Step, now time.Time) error
	Claim(ctx context.Context, t Terms) ([]register.Job, error)
	Finish(ctx context.Context, j register.Job, o Outcome, t Terms) (released []register.Job, err error)
	Later(ctx context.Context, j register.Job, p Pause, now time.Time) error
	Fail(ctx context.Context, j register.Job, reason string, left []register.Record, now time.Time) error
	Signal(ctx context.Context, s plan.Subject, signals []plan.Signal, now time.Time) error
	Void(ctx context.Context, s plan.Subject, reason string, now time.Time) error
	Hurry(ctx context.Context, target string, now time.Time) error
	Reclaim(ctx context.Context, now time.Time, mostLost int) error
	Lapse(ctx context.Context, now time.Time) error
	PullBack(ctx context.Context, now, latest time.Time) error
	NextDue(ctx context.Context, after time.Time) (due time.Time, any bool, err error)
	Outages(ctx context.Context) (map[string]Outage, error)
	SetOutage(ctx context.Context, target string, o Outage) error
}

// Hand does one kind of job. What it may take at longest lies below its lease.
type Hand struct {
	Do      func(ctx context.Context, j Job) (Outcome, error)
	Longest time.Duration
}
