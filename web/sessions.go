package web

import (
	"context"
	"net"
	"net/http"
	"strings"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
	"golang.org/x/time/rate"

	"amberseal/web/api"
)

// guard lets only signed-in people past, but for the doors everybody may use.
func (d *desk) guard(c *gin.Context) {
	path := c.Request.URL.Path
	if path == "/api/session" || strings.HasPrefix(path, "/api/public/") {
		return
	}
	d.signedIn(c)
}

func (d *desk) signedIn(c *gin.Context) {
	if !d.sessions.Exists(c.Request.Context(), "person") {
		problem(c, http.StatusUnauthorized, "Sign in first.")
	}
}

// attempts slows down guessing of passwords: each address may fail ten times at once and
// then once every ten seconds.
type attempts struct {
	mu   sync.Mutex
	now  func() time.Time
	from map[string]*rate.Limiter
}

func newAttempts(now func() time.Time) *attempts {
	return &attempts{now: now, from: map[string]*rate.Limiter{}}
}

func (a *attempts) limiter(remote string) *rate.Limiter {
	host, _, err := net.SplitHostPort(remote)
	if err != nil {
		host = remote
	}
	a.mu.Lock()
	defer a.mu.Unlock()
	if len(a.from) > 10_000 { // far more than a house has; start anew rather than grow for ever
		clear(a.from)
	}
	l := a.from[host]
	if l == nil {
		l = rate.NewLimiter(rate.Every(10*time.Second), 10)
		a.from[host] = l
	}
	return l
}

func (a *attempts) allowed(remote string) bool { return a.limiter(remote).TokensAt(a.now()) >= 1 }
func (a *attempts) failed(remote string)       { a.limiter(remote).AllowN(a.now(), 1) }

func (d *desk) GetSession(ctx context.Context, _ api.GetSessionRequestObject) (api.GetSessionResponseObject, error) {
	s, err := d.session(ctx)
	return api.GetSession200JSONResponse(s), err
}

func (d *desk) session(ctx context.Context) (api.Session, error) {
	h, err := d.Office.Store.House(ctx)
	if err != nil {
		return api.Session{}, err
	}
	s := api.Session{House: h.Name, SignedIn: d.sessions.Exists(ctx, "person")}
	if s.SignedIn {
		name := d.sessions.GetString(ctx, "name")
		s.Name = &name
	} else {
		s.Demo = d.Demo
	}
	return s, nil
}

func (d *desk) SignIn(ctx context.Context, r api.SignInRequestObject) (api.SignInResponseObject, error) {
	remote := ctx.(*gin.Context).Request.RemoteAddr
	if !d.attempts.allowed(remote) {
		return api.SignIn429JSONResponse{Message: "Too many attempts. Wait ten seconds and try again."}, nil
	}
	p, err := d.Office.SignIn(ctx, r.Body.Email, r.Body.Password)
	if err != nil {
		d.attempts.failed(remote)
		return api.SignIn401JSONResponse{ProblemJSONResponse: api.ProblemJSONResponse{Message: sentence(err)}}, nil
	}
	if err := d.sessions.RenewToken(ctx); err != nil { // a token from before the sign-in must not work
		return nil, err
	}
	d.sessions.Put(ctx, "person", p.ID)
	d.sessions.Put(ctx, "name", p.Name)
	s, err := d.session(ctx)
	return api.SignIn200JSONResponse(s), err
}

func (d *desk) SignOut(ctx context.Context, _ api.SignOutRequestObject) (api.SignOutResponseObject, error) {
	return api.SignOut204Response{}, d.sessions.Destroy(ctx)
}

// events tells a signed-in page that something changed (server-sent events, HTML standard
// section 9.2). Changes closer than a fifth of a second are told once.
func (d *desk) events(w http.ResponseWriter, r *http.Request) {
	cookie, err := r.Cookie(d.sessions.Cookie.Name)
	if err != nil {
		http.Error(w, "Sign in first.", http.StatusUnauthorized)
		return
	}
	ctx, err := d.sessions.Load(r.Context(), cookie.Value)
	if err != nil || !d.sessions.Exists(ctx, "person") {
		http.Error(w, "Sign in first.", http.StatusUnauthorized)
		return
	}
	changed, end := d.Hub.Listen()
	defer end()
	w.Header().Set("Content-Type", "text/event-stream")
	w.Header().Set("Cache-Control", "no-store")
	out := http.NewResponseController(w)
	out.SetWriteDeadline(time.Time{}) // an event stream stays open
	say := func(what string) bool {
		_, err := w.Write([]byte(what))
		return err == nil && out.Flush() == nil
	}
	if !say("retry: 1000\n\n") {
		return
	}
	alive := time.NewTicker(20 * time.Second)
	defer alive.Stop()
	for {
		select {
		case <-r.Context().Done():
			return
		case <-d.Closing:
			return
		case <-alive.C:
			if !say(": alive\n\n") {
				return
			}
		case <-changed:
			if !say("data: changed\n\n") {
				return
			}
			time.Sleep(200 * time.Millisecond)
		}
	}
}
