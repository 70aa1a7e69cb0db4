// Package web is the HTTP side: routes, sessions, and the pages' files. It turns requests
// into calls of app and answers into JSON, nothing more.
package web

import (
	"context"
	"io/fs"
	"log/slog"
	"net/http"
	"net/netip"
	"path"
	"slices"
	"strings"
	"sync"
	"time"
	"unicode"
	"unicode/utf8"

	"github.com/alexedwards/scs/v2"
	"github.com/gin-gonic/gin"
	"github.com/gin-gonic/gin/binding"

	"amberseal/app/access"
	"amberseal/app/accounts"
	"amberseal/app/administer"
	"amberseal/app/bounces"
	"amberseal/app/destinations"
	"amberseal/app/file"
	"amberseal/app/handing"
	"amberseal/app/invite"
	"amberseal/app/mistake"
	"amberseal/app/notify"
	"amberseal/app/people"
	"amberseal/app/produce"
	"amberseal/app/receive"
	"amberseal/app/register"
	"amberseal/app/rest"
	"amberseal/app/sheets"
	"amberseal/app/upload"
	"amberseal/app/watch"
	"amberseal/app/workshop"
	"amberseal/core/ask/form"
	"amberseal/core/intake"
	"amberseal/core/link"
	"amberseal/core/plan"
	"amberseal/core/words/house"
	"amberseal/web/api"
)

// Records is what the pages read. Look-ups of nothing give register.NotFound.
type Records interface {
	Entries(ctx context.Context, q register.Query) ([]register.Entry, error)
	Count(ctx context.Context, scope access.Scope) (register.Counts, error)
	IntakeOf(ctx context.Context, submission int64) (int64, error)
	IntakeOfUpload(ctx context.Context, id string) (int64, error)
	Submission(ctx context.Context, id int64) (register.Submission, intake.Design, error)
	Answered(ctx context.Context, intake, after int64, limit int) ([]register.Submission, error)
	AmissIn(ctx context.Context, scope access.Scope) (int, error)
	UnsentInvitations(ctx context.Context, scope access.Scope) (int, error)
	Plan(ctx context.Context, s plan.Subject, share int64, steps []plan.Step, now time.Time) error
	SheetFiles(ctx context.Context, intake int64, register string) ([]sheets.File, error)
	Jobs(ctx context.Context, submission int64) ([]register.Job, error)
	Document(ctx context.Context, submission int64, key string) (register.Document, error)
	DocumentRevision(ctx context.Context, submission int64, key string, revision int) (register.Document, error)
	Documents(ctx context.Context, submission int64) ([]register.Document, error)
	Genuine(ctx context.Context, code, sum string) (register.Genuine, error)
	History(ctx context.Context, submission int64) ([]register.Line, error)
	Messages(ctx context.Context, scope access.Scope, q register.MessageQuery) ([]register.Message, error)
	WaitingMessages(ctx context.Context, scope access.Scope, intake int64, limit int) ([]register.WaitingMessage, error)
	Holds(ctx context.Context, scope access.Scope) ([]notify.Hold, error)
	HandedOf(ctx context.Context, submission int64) ([]handing.Handed, error)
	WithdrawHanded(ctx context.Context, submission, id int64, now time.Time) error
	Stop(ctx context.Context, submission, job int64, now time.Time) error
	Filed(ctx context.Context, scope access.Scope, q register.FiledQuery) ([]register.Filed, error)
	FiledFolders(ctx context.Context, scope access.Scope, q register.FolderQuery) ([]register.FiledFolder, error)
	Retry(ctx context.Context, submission, job int64, now time.Time) error
	RetryAll(ctx context.Context, scope access.Scope, intake int64, now time.Time) (int, error)
	WithdrawLinks(ctx context.Context, submission int64, now time.Time) error
	Alive(ctx context.Context) error
	Upload(ctx context.Context, id string) (form.File, []byte, error)
	Invitations(ctx context.Context, intake, before int64, limit int) ([]invite.Invitation, error)
	SentInvitations(ctx context.Context, scope access.Scope, before int64, limit int) ([]invite.Invitation, error)
	RetryInvitation(ctx context.Context, intake, id int64, letter []plan.Step, now time.Time) error
	WithdrawInvitation(ctx context.Context, intake, id int64, now time.Time) error
}

// Server answers requests. All fields but Closing, Demo and StandIns are needed.
type Server struct {
	Office      *administer.Office
	People      *people.People
	Workshop    *workshop.Workshop
	Counter     *receive.Counter
	Uploads     *upload.Taker
	Rest        *rest.Rest
	Invitations *invite.Inviter

	Destinations *destinations.Depot
	Accounts     *accounts.Book
	Hatch        *handing.Hatch
	Post         *notify.Desk
	Bounces      *bounces.Taker
	Looks        bounces.Looks
	Source       func(notify.Letter) ([]byte, error) // a letter as it is handed over
	Inventory    *file.Inventory
	Shelf        produce.Shelf
	// Apart is what is done in other processes; Copies reads filled copies.
	Apart    func(ctx context.Context) produce.Apart
	Copies   func(ctx context.Context, d intake.Design, h house.House, data []byte) (form.Raw, error)
	Records  Records
	Sessions scs.Store
	Hub      *watch.Hub
	Wake     func() // sends the crew to work
	Now      func() time.Time
	Log      *slog.Logger
	Closing  <-chan struct{}  // closed when the program stops: event streams end then
	Pages    fs.FS            // admin/ and public/ as built by Vite
	Secret   link.Secret      // the house's
	Secure   bool             // cookies for HTTPS only
	Proxies  []netip.Prefix   // whose word about their clients is taken
	Demo     *api.Credentials // shown at the door of the demo
	Examples []intake.Design  // to begin an intake with
	StandIns http.Handler     // the stand-ins' pages under /standin/, nil for none
}

// Handler is the whole site.
func (s *Server) Handler() http.Handler {
	gin.SetMode(gin.ReleaseMode)
	binding.EnableDecoderDisallowUnknownFields = true // a slip in a name is told, not dropped
	sessions := scs.New()
	sessions.Store = s.Sessions
	sessions.Lifetime = sessionLasts
	sessions.Cookie.Name, sessions.Cookie.Secure = "amberseal", s.Secure
	if s.Secure {
		sessions.Cookie.Name = "__Host-amberseal" // set by this host alone (RFC 6265bis, 4.1.3.2)
	}
	sessions.Cookie.HttpOnly, sessions.Cookie.SameSite = true, http.SameSiteLaxMode
	sessions.ErrorFunc = func(w http.ResponseWriter, r *http.Request, err error) {
		s.Log.Error("a session could not be read or written", "error", err)
		if r.Method == http.MethodGet && fullDisk(err) {
			return // only that it was used could not be written down: looking is still possible
		}
		unavailable(w, err)
		if last, ok := w.(*lastWord); ok {
			last.said = true
		}
	}
	d := &handlers{Server: s, sessions: sessions, brakes: newBrakes(s.Now), robots: newRobots(s.Secret, s.Now),
		checked: map[int64]checkedDesign{}}

	r := gin.New()
	r.ContextWithFallback, r.RedirectTrailingSlash = true, false
	r.Use(d.recovered, limitBody, d.need)
	strict := api.NewStrictHandlerWithOptions(d, []api.StrictMiddlewareFunc{ownContext}, api.StrictGinServerOptions{
		RequestErrorHandlerFunc: badRequest, HandlerErrorFunc: d.fail, ResponseErrorHandlerFunc: d.fail,
	})
	api.RegisterHandlersWithOptions(r, strict, api.GinServerOptions{
		ErrorHandler: func(c *gin.Context, err error, status int) { problem(c, pUnread, status, sentence(err)) },
	})
	r.GET("/healthz", d.health)
	r.GET("/d/:token/:key", d.publicDocument)
	r.GET("/o/:token", d.hatch)
	r.HEAD("/o/:token", d.hatch)
	r.POST("/o/:token", d.take)
	r.GET(hatchStyle, d.hatchDress)
	r.POST("/api/public/intakes/:slug/preview", d.preview)
	r.GET("/api/intakes/:id/file", d.designFile)
	r.GET("/api/intakes/:id/schema", d.schemaFile)
	r.GET("/api/intakes/:id/submissions.csv", d.sheet)
	r.GET("/api/pictures/:name", d.picture)
	r.GET(formPictures, d.picture) // their names come from their bytes and cannot be guessed
	r.GET("/api/submissions/:id/documents/:key", d.document)
	r.GET("/api/submissions/:id/filings/:filing/file", d.filedFile)
	if s.StandIns != nil {
		r.Any("/standin/*rest", gin.WrapH(s.StandIns))
	}
	r.GET("/api/uploads/:id", d.upload)
	d.opening(r)
	d.pages(r)
	if open := unnamed(r.Routes()); len(open) > 0 {
		panic("web: openapi.yaml names no permission for " + strings.Join(open, ", "))
	}

	mux := http.NewServeMux()
	signed := sessions.LoadAndSave(r)
	mux.Handle("/", http.HandlerFunc(func(w http.ResponseWriter, req *http.Request) {
		signed.ServeHTTP(&lastWord{ResponseWriter: w},
			req)
	}))
	mux.Handle("POST /api/public/", r)          // respondents have no session
	mux.HandleFunc("GET /api/events", d.events) // outside the session's middleware, which buffers
	ours := http.NewCrossOriginProtection()
	ours.SetDenyHandler(d.secured(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		refuse(w, pElsewhere, http.StatusForbidden, "This came from a page of another site, and was not done. "+
			"Open the house’s own page, and do it there.")
	})))
	return ours.Handler(d.secured(d.logged(packed(mux))))
}

// ownContext gives a handler a context that outlives its request. Gin uses the request's own again for the next one, and the
// database may still look whether it has ended.
func ownContext(next api.StrictHandlerFunc, _ string) api.StrictHandlerFunc {
	return func(c *gin.Context, request any) (any, error) {
		c.Set(answerKey, http.ResponseWriter(c.Writer))
		return next(c.Copy(), request)
	}
}

const answerKey = "answer"

// answer is where a handler that gets a context sets headers.
func answer(ctx context.Context) http.ResponseWriter {
	w, _ := ctx.(*gin.Context).Get(answerKey)
	return w.(http.ResponseWriter)
}

// handlers are the server with what they share.
type handlers struct {
	*Server
	sessions *scs.SessionManager
	brakes   *brakes
	robots   *robots

	alive   sync.Mutex
	lively  time.Time // when the database last took a write for a look at the house's health
	looked  sync.Mutex
	checked map[int64]checkedDesign
}

// livelyFor is how long the answer to a look at the house's health holds: each is a write.
const livelyFor = 5 * time.Second

// health answers well when the house can take something in.
func (d *handlers) health(c *gin.Context) {
	d.alive.Lock()
	defer d.alive.Unlock()
	if d.Now().Sub(d.lively) > livelyFor {
		ctx, cancel := context.WithTimeout(c.Request.Context(), livelyFor)
		defer cancel()
		if err := d.Records.Alive(ctx); err != nil {
			d.Log.Error("the database takes nothing", "error", err)
			c.String(http.StatusServiceUnavailable, "the database takes nothing at present\n")
			return
		}
		d.lively = d.Now()
	}
	c.String(http.StatusOK, "ok\n")
}

// policy is the content policy of every page.
const policy = "default-src 'self'; style-src 'self'; script-src 'self'; img-src 'self' blob:; worker-src 'self'; object-src 'none'; " +
	"base-uri 'none'; form-action 'self'; frame-ancestors 'none'"

// secured sets what every answer carries: the strict content policy and its companions. Nothing of the interface is kept by
// anybody on the way, unless a handler says so.
func (s *Server) secured(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Cross-Origin-Resource-Policy", "same-origin")
		if !inert(r.URL.Path) {
			h.Set("Content-Security-Policy", policy)
			h.Set("Referrer-Policy", "same-origin")
			h.Set("Cross-Origin-Opener-Policy", "same-origin")
			h.Set("Permissions-Policy", "camera=(), geolocation=(), microphone=(), payment=(), usb=()")
		}
		if s.Secure {
			h.Set("Strict-Transport-Security", "max-age=31536000")
		}
		if slices.ContainsFunc([]string{"/api/", "/d/", "/o/", "/p/"}, func(p string) bool { return strings.HasPrefix(r.URL.Path, p) }) {
			h.Set("Cache-Control", "no-store") // also where there is nothing; who gives something says it anew
		}
		next.ServeHTTP(w, r)
	})
}

// inert reports whether a file opens no page and starts no worker by itself, so that a page's policies say nothing in its answer: half
// a kilobyte for each, on a telephone far away.
func inert(of string) bool {
	return strings.HasPrefix(of, "/assets/") && slices.Contains([]string{".js", ".css", ".woff2"}, path.Ext(of))
}

func (d *handlers) logged(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		start := time.Now()
		next.ServeHTTP(w, r)
		if !strings.HasPrefix(r.URL.Path, "/assets/") {
			d.Log.Debug("request", "method", r.Method, "path", masked(r.URL.Path), "from", d.client(r), "ms",
				time.Since(start).Milliseconds())
		}
	})
}

// masked is a path without the tokens that open something.
func masked(path string) string {
	if strings.HasPrefix(path, "/d/") || strings.HasPrefix(path, "/o/") {
		return path[:3] + "…"
	}
	for _, part := range []string{"/sent/", "/drafts/", "/receipts/", "/sendings/", "/welcome/"} {
		if i := strings.Index(path, part); i >= 0 {
			return path[:i+len(part)] + "…"
		}
	}
	return path
}

// limitBody holds a request to what its operation takes, as openapi.yaml says it.
func limitBody(c *gin.Context) {
	c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, mostOf(c.Request.Method, c.FullPath()))
}

// mostOf is how many bytes an operation takes; what is no operation takes little.
func mostOf(method, path string) int64 {
	if needs, ok := api.Permissions[method+" "+path]; ok {
		return needs.Most
	}
	return 64 << 10
}

func (d *handlers) recovered(c *gin.Context) {
	defer func() {
		if p := recover(); p != nil {
			number := mistake.Log(d.Log, p, "path", masked(c.Request.URL.Path))
			problem(c, pMistake, http.StatusInternalServerError, "The program made a mistake. It is written down in the log as "+number+".")
		}
	}()
	c.Next()
}

// lastWord drops what follows an answer that was given in place of the handler's own, as when its session could not be written.
type lastWord struct {
	http.ResponseWriter
	said bool
}

func (w *lastWord) Unwrap() http.ResponseWriter { return w.ResponseWriter }

func (w *lastWord) WriteHeader(status int) {
	if !w.said {
		w.ResponseWriter.WriteHeader(status)
	}
}

func (w *lastWord) Write(b []byte) (int, error) {
	if w.said {
		return len(b), nil
	}
	return w.ResponseWriter.Write(b)
}

// staleStamp is the error of a page whose challenge has lapsed: with a new one it can send again.
type staleStamp struct{ error }

// unprocessable is an error whose words are for the one who asked.
type unprocessable struct{ error }

// sentence is an error as a sentence, with one full stop at its end.
func sentence(err error) string {
	s := strings.TrimRight(err.Error(), ".")
	first, n := utf8.DecodeRuneInString(s)
	return string(unicode.ToUpper(first)) + s[n:] + "."
}
