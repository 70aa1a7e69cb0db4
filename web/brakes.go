package web

import (
	"context"
	"net/http"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
	"golang.org/x/time/rate"
)

// brake limits how often something happens for each key, such as a client's address. It is safe for many goroutines.
type brake struct {
	now   func() time.Time
	every rate.Limit
	burst int

	mu sync.Mutex
	of map[string]*rate.Limiter
}

func newBrake(now func() time.Time, every rate.Limit, burst int) *brake {
	return &brake{now: now, every: every, burst: burst, of: map[string]*rate.Limiter{}}
}

// mostKeys is how many keys are kept; those that have rested go first, then all.
const mostKeys = 50_000

func (b *brake) limiter(key string) *rate.Limiter {
	b.mu.Lock()
	defer b.mu.Unlock()
	l := b.of[key]
	if l != nil {
		return l
	}
	if len(b.of) >= mostKeys {
		now := b.now()
		for k, l := range b.of {
			if l.TokensAt(now) >= float64(b.burst) {
				delete(b.of, k)
			}
		}
		if len(b.of) >= mostKeys {
			clear(b.of)
		}
	}
	l = rate.NewLimiter(b.every, b.burst)
	b.of[key] = l
	return l
}

// take counts one and reports whether it is allowed.
func (b *brake) take(key string) bool { return b.limiter(key).AllowN(b.now(), 1) }

// spent reports whether the next one would not be allowed.
func (b *brake) spent(key string) bool { return b.limiter(key).TokensAt(b.now()) < 1 }

// giveBack takes a count back: what was done was right.
func (b *brake) giveBack(key string) {
	l := b.limiter(key)
	l.AllowN(b.now(), -1)
}

// brakes are the limits of the doors.
type brakes struct {
	sending   *brake // submissions, uploads, previews, drafts and questions about documents from one client
	checking  *brake // answers judged while they are typed
	guessing  *brake // personal links that are none, from one client
	signingIn *brake // wrong passwords from one client or one known device
	accounts  *lanes
}

func newBrakes(now func() time.Time) *brakes {
	return &brakes{
		sending: newBrake(now, 0.5, 60), checking: newBrake(now, 20, 200), guessing: newBrake(now, rate.Every(10*time.Second), 30),
		signingIn: newBrake(now, rate.Every(10*time.Second), 10), accounts: &lanes{now: now, of: map[string]*lane{}},
	}
}

// often reports whether a client sends more than people do.
func (d *handlers) often(r *http.Request) bool {
	return !d.own(r) && !d.brakes.sending.take(d.client(r))
}

// asked is a request's client for the brakes of handlers that get a context.
func request(ctx context.Context) *http.Request { return ctx.(*gin.Context).Request }

// opened counts personal links that open nothing, so that nobody finds one by trying: look says whether it does. The error of one
// who tried too many is tooMany.
func (d *handlers) opened(r *http.Request, look func() error, none func(error) bool) error {
	from := d.client(r)
	if d.brakes.guessing.spent(from) {
		return tooMany
	}
	err := look()
	if err != nil && none(err) {
		d.brakes.guessing.take(from)
	}
	return err
}

// lanes slow down the guessing of one account's password from many addresses: after some wrong ones in a row each further try
// waits its turn, alone. Nobody is locked out: a try that waits is only late.
type lanes struct {
	now func() time.Time

	mu sync.Mutex
	of map[string]*lane
}

type lane struct {
	wrong int
	last  time.Time
	turn  chan struct{}
}

const (
	freeTries   = 10
	laneDelay   = 500 * time.Millisecond
	longestLane = 10 * time.Second
	laneForgets = time.Hour
)

// wait lets a try for an account pass, later where there were many wrong ones. leave is called when it is over.
func (l *lanes) wait(ctx context.Context, account string) (leave func(wrong bool), ok bool) {
	l.mu.Lock()
	now := l.now()
	if len(l.of) >= mostKeys {
		clear(l.of)
	}
	a := l.of[account]
	if a == nil || now.Sub(a.last) > laneForgets {
		a = &lane{turn: make(chan struct{}, 1)}
		l.of[account] = a
	}
	a.last = now
	slow := a.wrong >= freeTries
	l.mu.Unlock()
	leave = func(wrong bool) {
		l.mu.Lock()
		defer l.mu.Unlock()
		if a.wrong++; !wrong {
			a.wrong = 0
		}
	}
	if !slow {
		return leave, true
	}
	deadline := time.NewTimer(longestLane)
	defer deadline.Stop()
	select {
	case a.turn <- struct{}{}:
	case <-deadline.C:
		return nil, false
	case <-ctx.Done():
		return nil, false
	}
	defer func() { <-a.turn }()
	select {
	case <-time.After(laneDelay):
	case <-ctx.Done():
		return nil, false
	}
	return leave, true
}
