// Package worktest holds stores of jobs against what package work asks of them.
package worktest

import (
	"fmt"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/plan"
)

// Opener gives a store that is empty, and opens the same one again as after the end of the program.
type Opener func(t *testing.T) (s work.Store, again func() work.Store)

// TestStore runs the suite. Every store must pass it.
func TestStore(t *testing.T, open Opener) {
	for name, test := range map[string]func(*house){
		"leases":      leases,
		"signals":     signals,
		"handing on":  handingOn,
		"times":       times,
		"recurring":   recurring,
		"voiding":     voiding,
		"outcomes":    outcomes,
		"turns":       turns,
		"lost leases": lostLeases,
		"clock":       clock,
		"outages":     outages,
		"hurrying":    hurrying,
		"many hands":  manyHands,
	} {
		t.Run(name, func(t *testing.T) {
			s, again := open(t)
			test(&house{t, s, again, time.Date(2026, 11, 27, 12, 0, 0, 0, time.UTC)})
		})
	}
}

// house is a store with a clock.
type house struct {
	*testing.T
	work.Store
	again func() work.Store
	now   time.Time
}

const lease = 5 * time.Minute

// terms lease up to so many jobs.
func (h *house) terms(most int) work.Terms {
	room := most
	return work.Terms{
		Now: h.now, Lanes: []plan.Lane{plan.Fresh, plan.Bulk}, Until: func(plan.Kind) time.Time { return h.now.Add(lease) },
		Room: func(register.Job) bool { room--; return room >= 0 },
	}
}

var one = plan.Subject{About: plan.Submission, ID: 1, Run: 1}

func (h *house) plan(s plan.Subject, share int64, steps ...plan.Step) {
	h.Helper()
	for i := range steps {
		if steps[i].Kind == "" {
			steps[i].Kind = "chore"
		}
		if steps[i].Target == "" {
			steps[i].Target = "target"
		}
		steps[i].Name = "Name of " + steps[i].Key
	}
	h.must(h.Plan(h.Context(), s, share, steps, h.now))
}

func (h *house) must(err error) {
	h.Helper()
	if err != nil {
		h.Fatal(err)
	}
}

// claim leases up to so many jobs and wants those with some keys, in this order.
func (h *house) claim(most int, want ...string) []register.Job {
	h.Helper()
	jobs, err := h.Claim(h.Context(), h.terms(most))
	h.must(err)
	h.want(jobs, want...)
	return jobs
}

func (h *house) want(jobs []register.Job, want ...string) {
	h.Helper()
	var got []string
	for _, j := range jobs {
		got = append(got, j.Key)
		if j.State != register.Working || j.Attempts < 1 || j.Name != "Name of "+j.Key {
			h.Errorf("leased is %+v", j)
		}
	}
	if !slices.Equal(got, want) {
		h.Fatalf("leased are %q, want %q", got, want)
	}
}

func (h *house) finish(j register.Job, o work.Outcome) {
	h.Helper()
	released, err := h.Finish(h.Context(), j, o, h.terms(0))
	h.must(err)
	h.want(released)
}

// leases: one holder at a time; who came too late changes nothing; what is planned twice is there once.
func leases(h *house) {
	h.plan(one, 1, plan.Step{Key: "a", Body: []byte(`{"x":1}`)}, plan.Step{Key: "b"})
	h.plan(one, 1, plan.Step{Key: "a"})
	a := h.claim(1, "a")[0]
	if string(a.Body) != `{"x":1}` || a.Subject != one || a.Share != 1 || a.Kind != "chore" || a.Target != "target" || a.Attempts != 1 {
		h.Errorf("leased is %+v", a)
	}
	h.claim(9, "b")
	h.claim(9)
	h.now = h.now.Add(lease + time.Second)
	h.must(h.Lapse(h.Context(), h.now))
	again := h.claim(1, "a")[0]
	if again.Attempts != 2 {
		h.Errorf("the second attempt is the %d.", again.Attempts)
	}
	h.must(h.Later(h.Context(), a, work.Pause{Due: h.now}, h.now))
	h.must(h.Fail(h.Context(), a, "late", nil, h.now))
	h.finish(a, work.Outcome{Then: []plan.Step{{Kind: "chore", Key: "late", Target: "target"}}})
	h.claim(9, "b")
	h.must(h.Later(h.Context(), again, work.Pause{Again: work.Again{Reason: "Not now."}, Due: h.now.Add(time.Minute)}, h.now))
	h.claim(9)
	h.now = h.now.Add(time.Minute)
	third := h.claim(9, "a")[0]
	if third.Attempts != 3 || third.Reason != "Not now." || !third.Since.Equal(a.Since) {
		h.Errorf("the third attempt is %+v", third)
	}
	h.must(h.Later(h.Context(), third, work.Pause{Again: work.Again{Outage: true}, Due: h.now}, h.now))
	fourth := h.claim(9, "a")[0]
	if fourth.Attempts != 3 || !fourth.Since.Equal(h.now) {
		h.Errorf("after an outage the attempt is %+v", fourth)
	}
	h.must(h.Later(h.Context(), fourth, work.Pause{Again: work.Again{Unsure: true}, Due: h.now}, h.now))
	fifth := h.claim(9, "a")[0]
	if fifth.Unsure != 1 {
		h.Errorf("it may have succeeded %d times", fifth.Unsure)
	}
	h.must(h.Fail(h.Context(), fifth, "Never.", nil, h.now))
	h.claim(9)
}

// signals release what waits for all of them, also when they were given before; those of another run or subject release nothing.
func signals(h *house) {
	h.plan(one, 1, plan.Step{Key: "both", Needs: []plan.Signal{"x", "y"}}, plan.Step{Key: "house", Needs: []plan.Signal{"house:mail"}})
	h.must(h.Signal(h.Context(), plan.Subject{About: plan.Submission, ID: 1, Run: 2}, []plan.Signal{"x", "y"}, h.now))
	h.must(h.Signal(h.Context(), plan.Subject{About: plan.Invited, ID: 1, Run: 1}, []plan.Signal{"x", "y"}, h.now))
	h.must(h.Signal(h.Context(), one, []plan.Signal{"x", "x"}, h.now))
	h.claim(9)
	h.must(h.Signal(h.Context(), one, []plan.Signal{"x"}, h.now))
	h.claim(9)
	h.Store = h.again()
	h.must(h.Signal(h.Context(), one, []plan.Signal{"y"}, h.now))
	h.claim(9, "both")
	h.plan(one, 1, plan.Step{Key: "after", Needs: []plan.Signal{"y", "x"}})
	h.claim(9, "after")
	h.must(h.Signal(h.Context(), plan.Subject{About: plan.House}, []plan.Signal{"house:mail"}, h.now))
	h.claim(9, "house")
	h.plan(plan.Subject{About: plan.Invited, ID: 7}, 1, plan.Step{Key: "later", Needs: []plan.Signal{"house:mail"}})
	h.claim(9, "later")
}

// handingOn: what a job releases is leased in the same commit where there is room, and ready otherwise.
func handingOn(h *house) {
	h.plan(
		one, 1, plan.Step{Key: "first"}, plan.Step{Key: "second", Needs: []plan.Signal{"made"}},
		plan.Step{Key: "third", Needs: []plan.Signal{"made"}},
		plan.Step{Key: "day", Needs: []plan.Signal{"made"}, NotBefore: h.now.Add(24 * time.Hour)},
	)
	released, err := h.Finish(h.Context(), h.claim(9, "first")[0], work.Outcome{Signals: []plan.Signal{"made"}}, h.terms(1))
	h.must(err)
	if len(released) != 1 || released[0].Attempts != 1 || released[0].State != register.Working {
		h.Fatalf("released are %+v", released)
	}
	rest := h.claim(9, map[string]string{"second": "third", "third": "second"}[released[0].Key])
	h.finish(released[0], work.Outcome{})
	h.finish(rest[0], work.Outcome{})
	h.now = h.now.Add(24*time.Hour - time.Second)
	h.claim(9)
	h.now = h.now.Add(time.Second)
	h.claim(9, "day")
}

// times: nothing is done before its time, whatever releases it or tries it again; what is past its time is void.
func times(h *house) {
	noon := h.now
	h.plan(
		one, 1, plan.Step{Key: "late", NotBefore: noon.Add(time.Hour)},
		plan.Step{Key: "short", Expires: noon.Add(time.Minute), Needs: []plan.Signal{"never"}},
		plan.Step{Key: "offer", NotBefore: noon.Add(2 * time.Hour), Expires: noon.Add(3 * time.Hour)},
	)
	h.claim(9)
	h.next(noon, noon.Add(time.Minute))
	h.now = noon.Add(time.Minute)
	h.claim(9)
	h.must(h.Signal(h.Context(), one, []plan.Signal{"never"}, h.now))
	h.claim(9)
	h.next(h.now, noon.Add(time.Hour))
	h.now = noon.Add(time.Hour)
	late := h.claim(9, "late")[0]
	if !late.NotBefore.Equal(h.now) {
		h.Errorf("it was not to be done before %v", late.NotBefore)
	}
	h.must(h.Later(h.Context(), late, work.Pause{Due: h.now.Add(-2 * time.Hour)}, h.now))
	h.claim(9, "late")
	h.now = noon.Add(3 * time.Hour)
	h.claim(9)
	h.now = noon.Add(9 * time.Hour)
	h.claim(9)
}

func (h *house) next(after, want time.Time) {
	h.Helper()
	due, any, err := h.NextDue(h.Context(), after)
	h.must(err)
	if !any || !due.Equal(want) {
		h.Errorf("the next is due at %v (%t), want %v", due, any, want)
	}
}

// recurring jobs come again at their beat, whether they succeeded or were given up.
func recurring(h *house) {
	begun := h.now
	h.plan(plan.Subject{About: plan.House}, 0, plan.Step{Key: "sweep", Every: time.Hour})
	for n := range 4 {
		sweep := h.claim(9, "sweep")[0]
		h.now = h.now.Add(10 * time.Minute)
		if n%2 == 0 {
			h.finish(sweep, work.Outcome{})
		} else {
			h.must(h.Fail(h.Context(), sweep, "It could not.", nil, h.now))
		}
		h.claim(9)
		h.plan(plan.Subject{About: plan.House}, 0, plan.Step{Key: "sweep", Every: time.Hour}) // as each start of the program does
		h.claim(9)
		h.next(h.now, begun.Add(time.Duration(n+1)*time.Hour))
		h.now = begun.Add(time.Duration(n+1) * time.Hour)
	}
}

// voiding ends what is not done of a subject up to a run, whatever its state; a hand that is at it finishes nothing.
func voiding(h *house) {
	two := plan.Subject{About: plan.Submission, ID: 1, Run: 2}
	h.plan(one, 1, plan.Step{Key: "working"}, plan.Step{Key: "failed"})
	jobs := h.claim(9, "working", "failed")
	h.must(h.Fail(h.Context(), jobs[1], "No.", nil, h.now))
	h.plan(one, 1, plan.Step{Key: "ready"}, plan.Step{Key: "waits", Needs: []plan.Signal{"x"}})
	h.plan(two, 1, plan.Step{Key: "next"}, plan.Step{Key: "waits", Needs: []plan.Signal{"x"}})
	h.plan(plan.Subject{About: plan.Invited, ID: 1, Run: 1}, 1, plan.Step{Key: "invited"})
	h.must(h.Void(h.Context(), one, "Corrected.", h.now))
	h.finish(jobs[0], work.Outcome{Signals: []plan.Signal{"x"}})
	h.must(h.Signal(h.Context(), one, []plan.Signal{"x"}, h.now))
	h.claim(9, "next", "invited")
	h.must(h.Signal(h.Context(), two, []plan.Signal{"x"}, h.now))
	h.claim(9, "waits")
}

// outcomes: a hand may plan more and void others in the commit of its end.
func outcomes(h *house) {
	h.plan(
		one, 1, plan.Step{Key: "sign"}, plan.Step{Key: "remind", NotBefore: h.now.Add(time.Hour)},
		plan.Step{Key: "other", NotBefore: h.now.Add(time.Hour)},
	)
	h.finish(h.claim(1, "sign")[0], work.Outcome{
		Void: []work.Voided{{Kind: "chore", Key: "remind", Reason: "It was signed."}},
		Then: []plan.Step{{Kind: "chore", Key: "thanks", Name: "Name of thanks", Target: "target"}},
	})
	h.claim(9, "thanks")
	h.now = h.now.Add(time.Hour)
	h.claim(9, "other")
}

// turns: fresh before bulk, and in a lane each share in its turn, however many another has; bulk first where that is asked.
func turns(h *house) {
	for n := range 50 {
		h.plan(plan.Subject{About: plan.Submission, ID: int64(n), Run: 1}, 1, plan.Step{Key: "many"})
		h.plan(plan.Subject{About: "bulk", ID: int64(n), Run: 1}, 5, plan.Step{Key: "bulk", Lane: plan.Bulk})
	}
	h.plan(plan.Subject{About: plan.Submission, ID: 100, Run: 1}, 2, plan.Step{Key: "second"})
	h.plan(plan.Subject{About: plan.Submission, ID: 101, Run: 1}, 3, plan.Step{Key: "third"})
	got := ""
	for range 4 {
		jobs, err := h.Claim(h.Context(), h.terms(1))
		h.must(err)
		got += jobs[0].Key + " "
	}
	if !strings.Contains(got, "second") || !strings.Contains(got, "third") || strings.Contains(got, "bulk") {
		h.Errorf("in turn came %s", got)
	}
	h.plan(plan.Subject{About: plan.Submission, ID: 102, Run: 1}, 4, plan.Step{Key: "elsewhere", Target: "another"})
	first := h.terms(1)
	first.Lanes = []plan.Lane{plan.Bulk, plan.Fresh}
	jobs, err := h.Claim(h.Context(), first)
	h.must(err)
	h.want(jobs, "bulk")
	full := h.terms(9)
	full.Room = func(j register.Job) bool { return j.Target == "another" }
	jobs, err = h.Claim(h.Context(), full)
	h.must(err)
	h.want(jobs, "elsewhere")
}

// lostLeases of a program that ended are taken back; a job that was lost too often is given up, but not for starts at which it
// had not begun.
func lostLeases(h *house) {
	h.plan(one, 1, plan.Step{Key: "poison"}, plan.Step{Key: "good"})
	for n := range 3 {
		h.must(h.Reclaim(h.Context(), h.now, 3))
		h.now = h.now.Add(time.Minute)
		jobs, err := h.Claim(h.Context(), h.terms(9))
		h.must(err)
		for _, j := range jobs {
			if j.Lost != n {
				h.Errorf("%s was lost %d times, want %d", j.Key, j.Lost, n)
			}
			if j.Key == "good" && n == 1 {
				h.finish(j, work.Outcome{})
			}
		}
		h.Store = h.again()
	}
	h.must(h.Reclaim(h.Context(), h.now, 3))
	h.now = h.now.Add(time.Hour)
	h.claim(9)
	h.plan(one, 1, plan.Step{Key: "unlucky"})
	h.claim(9, "unlucky")
	for range 20 {
		h.must(h.Reclaim(h.Context(), h.now, 3))
		h.now = h.now.Add(5 * time.Second)
		h.claim(9)
	}
	h.now = h.now.Add(5 * time.Second)
	h.claim(9, "unlucky")
}

// clock: what a clock that fell has put off is due soon, and what was never tried at once; what was planned for a time is not.
func clock(h *house) {
	h.plan(one, 1, plan.Step{Key: "planned", NotBefore: h.now.Add(time.Hour)}, plan.Step{Key: "tried"})
	h.must(h.Later(h.Context(), h.claim(9, "tried")[0], work.Pause{Due: h.now.Add(time.Minute)}, h.now))
	h.must(h.SetOutage(h.Context(), "target", work.Outage{Since: h.now, Until: h.now.Add(time.Minute), Knocks: 1, Reason: "No."}))
	h.plan(plan.Subject{About: plan.Submission, ID: 2, Run: 1}, 1, plan.Step{Key: "fresh"})
	h.now = h.now.Add(-12 * time.Hour)
	h.must(h.PullBack(h.Context(), h.now, h.now.Add(time.Second)))
	h.claim(9, "fresh")
	h.now = h.now.Add(time.Second)
	h.claim(9, "tried")
	if out, err := h.Outages(h.Context()); err != nil || out["target"].Until.After(h.now) {
		h.Errorf("the outage is %+v: %v", out, err)
	}
	h.now = h.now.Add(13 * time.Hour)
	h.claim(9, "planned")
}

// outages outlive the program.
func outages(h *house) {
	want := work.Outage{Since: h.now, Until: h.now.Add(time.Minute), Knocks: 3, Reason: "It does not answer."}
	h.must(h.SetOutage(h.Context(), "a", work.Outage{Since: h.now, Until: h.now, Knocks: 1}))
	h.must(h.SetOutage(h.Context(), "a", want))
	h.must(h.SetOutage(h.Context(), "b", want))
	h.must(h.SetOutage(h.Context(), "b", work.Outage{}))
	h.Store = h.again()
	if out, err := h.Outages(h.Context()); err != nil || len(out) != 1 || out["a"] != want {
		h.Errorf("the outages are %+v: %v", out, err)
	}
}

// manyHands: however many claim at once, each job has one holder, and none is left.
func manyHands(h *house) {
	for n := range 200 {
		h.plan(plan.Subject{About: plan.Submission, ID: int64(n), Run: 1}, int64(n%7), plan.Step{Key: fmt.Sprint(n)})
	}
	var mu sync.Mutex
	held := map[int64]int{}
	var all sync.WaitGroup
	for range 8 {
		all.Go(func() {
			for none := 0; none < 3; {
				jobs, err := h.Claim(h.Context(), h.terms(3))
				if err != nil {
					h.Error(err)
					return
				}
				if len(jobs) == 0 {
					none++
				}
				mu.Lock()
				for _, j := range jobs {
					held[j.ID]++
				}
				mu.Unlock()
			}
		})
	}
	all.Wait()
	for id, n := range held {
		if n != 1 {
			h.Errorf("job %d has %d holders", id, n)
		}
	}
	if len(held) != 200 {
		h.Errorf("%d of 200 are held", len(held))
	}
}

// hurrying: what is put off before a target is due at once and its outage is over; what was planned for later, what may have succeeded and
// what is before another target stay as they are.
func hurrying(h *house) {
	h.plan(one, 1, plan.Step{Key: "a", Target: "there"}, plan.Step{Key: "b", Target: "elsewhere"}, plan.Step{Key: "c", Target: "there"},
		plan.Step{Key: "d", Target: "there", NotBefore: h.now.Add(2 * time.Hour)})
	for _, j := range h.claim(9, "b", "a", "c") {
		h.must(h.Later(h.Context(), j, work.Pause{Again: work.Again{Reason: "out", Unsure: j.Key == "c"}, Due: h.now.Add(time.Hour)},
			h.now))
	}
	h.must(h.SetOutage(h.Context(), "there", work.Outage{Since: h.now, Until: h.now.Add(time.Hour), Knocks: 3, Reason: "out"}))
	h.must(h.Hurry(h.Context(), "there", h.now))
	if out, err := h.Outages(h.Context()); err != nil || len(out) > 0 {
		h.Errorf("outages are %v %v", out, err)
	}
	h.claim(9, "a")
}
