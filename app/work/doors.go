package work

import (
	"maps"
	"slices"
	"sync"
	"time"

	"amberseal/app/register"
	"amberseal/core/plan"
)

// doors are those of the targets: how many jobs are inside, which stand before them, and which targets are out. They are safe for
// many goroutines.
type doors struct {
	mu       sync.Mutex
	slots    map[string]int
	of       map[string]*door
	suspects int // at work, or expected: jobs during which the program ended before
}

// usualSlots is how many jobs of a target are done at once.
const usualSlots = 2

// door is one target's.
type door struct {
	slots    int
	inside   int
	bulk     int        // of those inside, standing and expected
	expected int        // places that a booking holds
	standing []standing // leased; the fresh ones first
	outage   Outage
	news     bool // the outage has changed and is not kept yet
}

// standing is a leased job that is done as soon as there is a place for it.
type standing struct {
	register.Job
	carried any
	leased  time.Time
}

// open begins a day's work: nothing is inside.
func (d *doors) open(slots map[string]int, out map[string]Outage) {
	d.mu.Lock()
	defer d.mu.Unlock()
	d.slots, d.of, d.suspects = slots, map[string]*door{}, 0
	for target, o := range out {
		d.at(target).outage = o
	}
}

// at is called with the lock held.
func (d *doors) at(target string) *door {
	x := d.of[target]
	if d.of == nil {
		d.of = map[string]*door{}
	}
	if x == nil {
		x = &door{slots: usualSlots}
		if n := d.slots[target]; n > 0 {
			x.slots = n
		}
		d.of[target] = x
	}
	return x
}

// booking holds places for jobs that are being leased.
type booking struct {
	d      *doors
	now    time.Time
	onward bool // for what is handed on by a job that ended
	held   []register.Job
}

func (d *doors) book(now time.Time, onward bool) *booking {
	return &booking{d: d, now: now, onward: onward}
}

// room takes a place for a job, if there is one. Of many slots one is kept for what somebody waits for. Where a target is out one
// job knocks. Jobs during which the program ended are done one at a time, so that none is blamed for another. What is handed on, and
// what is leased when nobody stands before the door, may stand there, unless it is one of very many: those would stand before what
// somebody waits for.
func (b *booking) room(j register.Job) bool {
	b.d.mu.Lock()
	defer b.d.mu.Unlock()
	x := b.d.at(j.Target)
	free := x.slots - x.inside - len(x.standing) - x.expected
	switch {
	case x.outage.Knocks > 0:
		if b.onward || b.now.Before(x.outage.Until) {
			return false
		}
		free = min(free, 1-x.inside-len(x.standing)-x.expected)
	case j.Lane < plan.Bulk && (b.onward || len(x.standing) == 0):
		free += x.slots
	case j.Lane >= plan.Bulk && x.slots > 2:
		free = min(free-1, x.slots-1-x.bulk)
	}
	if free <= 0 || j.Lost > 0 && b.d.suspects > 0 {
		return false
	}
	b.hold(x, j, 1)
	b.held = append(b.held, j)
	return true
}

// hold counts a job in at a door, or out. The lock is held.
func (b *booking) hold(x *door, j register.Job, n int) {
	x.expected += n
	b.d.count(x, j, n)
}

// count counts what a job is. The lock is held.
func (d *doors) count(x *door, j register.Job, n int) {
	if j.Lane >= plan.Bulk {
		x.bulk += n
	}
	if j.Lost > 0 {
		d.suspects += n
	}
}

// enter ends a booking with the jobs that were leased and gives those that can be done now; the others stand before their doors.
func (d *doors) enter(b *booking, jobs []register.Job, carried any, leased time.Time) []standing {
	d.mu.Lock()
	defer d.mu.Unlock()
	for _, j := range b.held {
		b.hold(d.at(j.Target), j, -1)
	}
	var now []standing
	for _, j := range jobs {
		x, s := d.at(j.Target), standing{j, carried, leased}
		d.count(x, j, 1)
		if x.inside < x.slots {
			x.inside++
			now = append(now, s)
			continue
		}
		at := len(x.standing)
		for at > 0 && x.standing[at-1].Lane > j.Lane {
			at--
		}
		x.standing = slices.Insert(x.standing, at, s)
	}
	return now
}

// leave counts a job out and lets the next one in that stands before its door.
func (d *doors) leave(s standing) (next standing, any bool) {
	d.mu.Lock()
	defer d.mu.Unlock()
	x := d.at(s.Target)
	d.count(x, s.Job, -1)
	if len(x.standing) == 0 {
		x.inside--
		return standing{}, false
	}
	next = x.standing[0]
	x.standing = slices.Delete(x.standing, 0, 1)
	return next, true
}

// silent notes that a target does not answer, unless somebody has noted this knock before.
func (d *doors) silent(target, reason string, now time.Time) {
	d.mu.Lock()
	defer d.mu.Unlock()
	x := d.at(target)
	if now.Before(x.outage.Until) {
		return
	}
	if x.outage.Knocks == 0 {
		x.outage.Since = now
	}
	x.outage.Knocks++
	x.outage.Until = now.Add(pause(x.outage.Knocks, outagePause))
	x.outage.Reason = reason
	x.news = true
}

// answered ends a target's outage.
func (d *doors) answered(target string) {
	d.mu.Lock()
	defer d.mu.Unlock()
	x := d.at(target)
	x.news = x.news || x.outage.Knocks > 0
	x.outage = Outage{}
}

// news is a target's outage, and whether it has changed since it was asked for.
func (d *doors) news(target string) (o Outage, changed bool) {
	d.mu.Lock()
	defer d.mu.Unlock()
	x := d.at(target)
	changed, x.news = x.news, false
	return x.outage, changed
}

// nextKnock is when the first target that is out is knocked at again.
func (d *doors) nextKnock(now time.Time) (at time.Time, any bool) {
	d.mu.Lock()
	defer d.mu.Unlock()
	for x := range maps.Values(d.of) {
		if x.outage.Until.After(now) && (!any || x.outage.Until.Before(at)) {
			at, any = x.outage.Until, true
		}
	}
	return at, any
}

// pullBack lets no outage last beyond a time before the next knock.
func (d *doors) pullBack(latest time.Time) {
	d.mu.Lock()
	defer d.mu.Unlock()
	for x := range maps.Values(d.of) {
		if x.outage.Until.After(latest) {
			x.outage.Until = latest
		}
	}
}
