package web

import (
	"context"
	"crypto/hmac"
	"crypto/rand"
	"encoding/hex"
	"errors"
	"net/http"
	"strings"
	"time"

	"amberseal/app/access"
	"amberseal/app/people"
	"amberseal/app/register"
	"amberseal/core/link"
	"amberseal/web/api"
)

// Sessions end after a week without use, and after a month.
const (
	sessionIdle  = 7 * 24 * time.Hour
	sessionLasts = 30 * 24 * time.Hour
	seenEvery    = time.Hour // a session is written when it was used, at most this often
)

// person is who is signed in, or nobody. A session ends with a new password and with its person.
func (d *handlers) person(ctx context.Context) (people.Person, error) {
	if !d.sessions.Exists(ctx, access.InSession) {
		return people.Person{}, nil
	}
	now, seen := d.Now(), time.UnixMicro(d.sessions.GetInt64(ctx, "seen"))
	p, err := d.People.Store.Person(ctx, d.sessions.GetInt64(ctx, access.InSession))
	if errors.Is(err, register.NotFound) || err == nil && (!p.Signed || p.Generation != d.sessions.GetInt(ctx, "generation")) ||
		now.Sub(seen) > sessionIdle {
		return people.Person{}, d.sessions.Destroy(ctx)
	}
	if err == nil && now.Sub(seen) > seenEvery {
		d.sessions.Put(ctx, "seen", now.UnixMicro())
		if err := d.People.Store.SawPerson(ctx, p.ID, now); err != nil { // looking is possible all the same
			d.Log.Warn("when somebody was here could not be written down", "error", err)
		}
	}
	return p, err
}

func (d *handlers) GetSession(ctx context.Context, _ api.GetSessionRequestObject) (api.GetSessionResponseObject, error) {
	s, err := d.session(ctx)
	return api.GetSession200JSONResponse(s), err
}

func (d *handlers) session(ctx context.Context) (api.Session, error) {
	h, err := d.Office.Store.House(ctx)
	if err != nil {
		return api.Session{}, err
	}
	p, err := d.person(ctx)
	s := api.Session{House: h.Name, SignedIn: p.ID != 0, May: []api.Permission{}, Somewhere: []api.Permission{}}
	if s.SignedIn {
		s.Name, s.Email, s.Language, s.Role = &p.Name, &p.Email, &h.Language, optional(api.Role(p.Role))
		for _, x := range access.Permissions {
			if p.Role.May(x) {
				s.May = append(s.May, api.Permission(x))
			}
			if !p.Who().Scope(x).Empty() {
				s.Somewhere = append(s.Somewhere, api.Permission(x))
			}
		}
	} else {
		s.Demo = d.Demo
	}
	return s, err
}

// deviceCookie names the cookie by which a browser is known in which somebody signed in before: what others guess wrongly does not
// keep its owner out.
const deviceCookie = "amberseal-device"

// deviceLasts is how long a browser is known.
const deviceLasts = 180 * 24 * time.Hour

// device is the key under which the wrong passwords of a known browser are counted, or empty.
func (d *handlers) device(r *http.Request, account string) string {
	c, err := r.Cookie(deviceCookie)
	if err != nil {
		return ""
	}
	name, proof, _ := strings.Cut(c.Value, ".")
	if name == "" || !hmac.Equal([]byte(proof), []byte(d.deviceProof(name, account))) {
		return ""
	}
	return "device " + name
}

func (d *handlers) deviceProof(name, account string) string {
	return hex.EncodeToString(d.Secret.Sum("device", name, account)[:16])
}

// slowed is the answer to too many attempts.
var slowed = api.SignIn429ApplicationProblemPlusJSONResponse(
	problemOf(pTooMany, http.StatusTooManyRequests, "Too many attempts. Wait ten seconds and try again."))

func (d *handlers) SignIn(ctx context.Context, r api.SignInRequestObject) (api.SignInResponseObject, error) {
	req := request(ctx)
	account := strings.ToLower(strings.TrimSpace(r.Body.Email))
	known := d.device(req, account)
	from := known
	if from == "" {
		from = d.client(req)
	}
	// A try is counted before its password is looked at, so that many at once count as many.
	if !d.brakes.signingIn.take(from) {
		d.Log.Warn("a sign-in was slowed down", "account", account, "from", d.client(req))
		return slowed, nil
	}
	leave := func(bool) {}
	if known == "" {
		var ok bool
		if leave, ok = d.brakes.accounts.wait(req.Context(), account); !ok {
			return slowed, nil
		}
	}
	p, err := d.People.SignIn(req.Context(), account, r.Body.Password)
	leave(err != nil)
	if errors.Is(err, people.ErrSignIn) {
		d.Log.Warn("a sign-in failed", "account", account, "from", d.client(req))
		return api.SignIn401ApplicationProblemPlusJSONResponse{
			ProblemApplicationProblemPlusJSONResponse: api.ProblemApplicationProblemPlusJSONResponse(
				problemOf(pPassword, http.StatusUnauthorized, sentence(err)),
			),
		}, nil
	}
	if err != nil {
		return nil, err
	}
	d.brakes.signingIn.giveBack(from)
	d.Log.Info("signed in", "account", account, "from", d.client(req))
	if err := d.begin(ctx, p); err != nil {
		return nil, err
	}
	name := link.NewRef(rand.Reader)
	http.SetCookie(answer(ctx), &http.Cookie{
		Name: deviceCookie, Value: name + "." + d.deviceProof(name, account), Path: "/api/session", MaxAge: int(deviceLasts.Seconds()),
		HttpOnly: true, Secure: d.Secure, SameSite: http.SameSiteStrictMode,
	})
	s, err := d.session(ctx)
	return api.SignIn200JSONResponse(s), err
}

// begin begins a session of somebody.
func (d *handlers) begin(ctx context.Context, p people.Person) error {
	if err := d.sessions.RenewToken(ctx); err != nil { // a token from before the sign-in must not work
		return err
	}
	d.sessions.Put(ctx, access.InSession, p.ID)
	d.sessions.Put(ctx, "generation", p.Generation)
	d.sessions.Put(ctx, "seen", d.Now().UnixMicro())
	return d.People.Store.SawPerson(ctx, p.ID, d.Now())
}

func (d *handlers) SignOut(ctx context.Context, _ api.SignOutRequestObject) (api.SignOutResponseObject, error) {
	answer(ctx).Header().Set("Clear-Site-Data", `"cache"`)
	return api.SignOut204Response{}, d.sessions.Destroy(ctx)
}

// events tells a signed-in page that something changed (server-sent events, HTML standard
// section 9.2). Changes closer than a fifth of a second are told once.
func (d *handlers) events(w http.ResponseWriter, r *http.Request) {
	cookie, err := r.Cookie(d.sessions.Cookie.Name)
	if err != nil {
		refuse(w, pSignIn, http.StatusUnauthorized, "Sign in first.")
		return
	}
	signedIn := func() bool {
		ctx, err := d.sessions.Load(r.Context(), cookie.Value)
		if err != nil {
			return false
		}
		p, err := d.person(ctx)
		return err == nil && p.ID != 0
	}
	if !signedIn() {
		refuse(w, pSignIn, http.StatusUnauthorized, "Sign in first.")
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
			if !signedIn() || !say(": alive\n\n") {
				return
			}
		case <-changed:
			if !say("data: changed\n\n") {
				return
			}
			select {
			case <-time.After(200 * time.Millisecond):
			case <-r.Context().Done():
				return
			}
		}
	}
}
