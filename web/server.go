// Package web is the HTTP side: routes, sessions, and the pages' files. It turns requests
// into calls of app and answers into JSON, nothing more.
package web

import (
	"context"
	"errors"
	"io/fs"
	"log/slog"
	"net/http"
	"strings"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/gin-gonic/gin"

	"amberseal/app/administer"
	"amberseal/app/design"
	"amberseal/app/invite"
	"amberseal/app/produce"
	"amberseal/app/receive"
	"amberseal/app/register"
	"amberseal/app/upload"
	"amberseal/app/watch"
	"amberseal/core/fill"
	"amberseal/core/form"
	"amberseal/core/house"
	"amberseal/core/intake"
	"amberseal/core/typeface"
	"amberseal/web/api"
)

// Records is what the pages read. Look-ups of nothing give register.NotFound.
type Records interface {
	Entries(ctx context.Context, q register.Query) ([]register.Entry, error)
	Count(ctx context.Context) (register.Counts, error)
	Submission(ctx context.Context, id int64) (register.Submission, intake.Design, error)
	SubmissionByToken(ctx context.Context, token string) (register.Submission, intake.Design, error)
	Steps(ctx context.Context, submission int64) ([]register.Step, error)
	Document(ctx context.Context, submission int64, key string) (register.Document, error)
	DocumentRevision(ctx context.Context, submission int64, key string, revision int) (register.Document, error)
	Documents(ctx context.Context, submission int64) ([]register.Document, error)
	Genuine(ctx context.Context, code, sum string) (register.Genuine, error)
	Events(ctx context.Context, submission int64) ([]register.Event, error)
	Messages(ctx context.Context, submission, before int64, limit int) ([]register.Message, error)
	Filed(ctx context.Context, before int64, limit int) ([]register.Filed, error)
	Retry(ctx context.Context, submission, step int64, now time.Time) error
	Upload(ctx context.Context, id string) (form.File, []byte, error)
	Invitations(ctx context.Context, intake, before int64, limit int) ([]invite.Invitation, error)
	RetryInvitation(ctx context.Context, intake, id int64, now time.Time) error
}

// Server answers requests. All fields but Closing, Demo and StandIns are needed.
type Server struct {
	Office      *administer.Office
	Workshop    *design.Workshop
	Counter     *receive.Counter
	Uploads     *upload.Desk
	Invitations *invite.Desk
	Shelf       produce.Shelf
	Join        produce.Join                                                                             // adds the pages of PDFs that were sent
	Copies      func(ctx context.Context, d intake.Design, h house.House, data []byte) (form.Raw, error) // reads filled copies
	Records     Records
	Sessions    scs.Store
	Hub         *watch.Hub
	Wake        func() // sends the crew to work
	Now         func() time.Time
	Log         *slog.Logger
	Closing     <-chan struct{}  // closed when the program stops: event streams end then
	Pages       fs.FS            // admin/ and public/ as built by Vite
	Secure      bool             // cookies for HTTPS only
	Demo        *api.Credentials // shown at the door of the demo
	Examples    []intake.Design  // to begin an intake with
	StandIns    http.Handler     // the stand-ins' pages under /standin/, nil for none
}

// Limits of request bodies in bytes.
const (
	mostAnswers = 2 << 20
	mostDesign  = design.MaxDesign
	mostPicture = 10 << 20
	mostPaste   = 1 << 20
	mostChecked = 100 << 20
)

// Handler is the whole site.
func (s *Server) Handler() http.Handler {
	gin.SetMode(gin.ReleaseMode)
	sessions := scs.New()
	sessions.Store = s.Sessions
	sessions.Lifetime, sessions.IdleTimeout = 30*24*time.Hour, 7*24*time.Hour
	sessions.Cookie.Name, sessions.Cookie.Secure = "amberseal", s.Secure
	sessions.Cookie.HttpOnly, sessions.Cookie.SameSite = true, http.SameSiteLaxMode
	d := &desk{Server: s, sessions: sessions, attempts: newAttempts(s.Now), robots: newGuard(s.Now)}

	r := gin.New()
	r.ContextWithFallback = true
	r.Use(d.recovered, limitBody)
	strict := api.NewStrictHandlerWithOptions(d, []api.StrictMiddlewareFunc{ownContext}, api.StrictGinServerOptions{
		RequestErrorHandlerFunc: badRequest, HandlerErrorFunc: d.fail, ResponseErrorHandlerFunc: d.fail,
	})
	api.RegisterHandlersWithOptions(r, strict, api.GinServerOptions{
		Middlewares:  []api.MiddlewareFunc{d.guard},
		ErrorHandler: func(c *gin.Context, err error, status int) { problem(c, status, err.Error()) },
	})
	r.GET("/healthz", func(c *gin.Context) { c.String(http.StatusOK, "ok\n") })
	r.GET("/d/:token/:key", d.publicDocument)
	r.POST("/api/public/intakes/:slug/preview", d.preview)
	r.GET("/api/intakes/:id/file", d.signedIn, d.designFile)
	r.GET("/api/intakes/:id/schema", d.signedIn, d.schemaFile)
	r.GET("/api/intakes/:id/submissions.csv", d.signedIn, d.sheet)
	r.GET("/api/pictures/:name", d.signedIn, d.picture)
	r.GET("/p/:name", d.picture) // pictures of forms; their names come from their bytes and cannot be guessed
	r.GET("/api/submissions/:id/documents/:key", d.signedIn, d.document)
	if s.StandIns != nil {
		r.Any("/standin/*rest", gin.WrapH(s.StandIns))
	}
	r.GET("/api/uploads/:id", d.signedIn, d.upload)
	d.opening(r)
	d.pages(r)

	mux := http.NewServeMux()
	mux.Handle("/", sessions.LoadAndSave(r))
	mux.HandleFunc("GET /api/events", d.events) // outside the session's middleware, which buffers
	return http.NewCrossOriginProtection().Handler(secured(d.logged(mux)))
}

// ownContext gives a handler a context that outlives its request. Gin uses the request's own again for the next one, and the
// database may still look whether it has ended.
func ownContext(next api.StrictHandlerFunc, _ string) api.StrictHandlerFunc {
	return func(c *gin.Context, request any) (any, error) { return next(c.Copy(), request) }
}

// desk is the server with what its handlers share.
type desk struct {
	*Server
	sessions *scs.SessionManager
	attempts *attempts
	robots   *guard
}

// policy is the content policy of every page.
const policy = "default-src 'self'; style-src 'self'; script-src 'self'; img-src 'self' blob:; worker-src 'self'; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"

// secured sets what every answer carries: the strict content policy and its companions.
func secured(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set("Content-Security-Policy", policy)
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "same-origin")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		next.ServeHTTP(w, r)
	})
}

func (d *desk) logged(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		start := time.Now()
		next.ServeHTTP(w, r)
		if !strings.HasPrefix(r.URL.Path, "/assets/") {
			path := r.URL.Path
			if strings.HasPrefix(path, "/d/") {
				path = "/d/…" // its token opens the document
			}
			d.Log.Debug("request", "method", r.Method, "path", path, "ms", time.Since(start).Milliseconds())
		}
	})
}

func limitBody(c *gin.Context) {
	most := int64(64 << 10)
	switch path := c.Request.URL.Path; {
	case strings.HasPrefix(path, "/api/public/") && strings.Contains(path, "/uploads/"):
		most = upload.MostBytes
	case path == "/api/public/checks":
		most = mostChecked
	case strings.HasPrefix(path, "/api/public/"):
		most = mostAnswers
	case strings.HasSuffix(path, "/design"), strings.HasPrefix(path, "/api/proofs/"), strings.HasPrefix(path, "/api/designs/"), path == "/api/formulas",
		path == "/api/intakes", path == "/api/questions", path == "/api/questions/schema":
		most = mostDesign
	case strings.HasSuffix(path, "/copies"):
		most = fill.MaxBytes
	case strings.HasSuffix(path, "/invitations"):
		most = mostPaste
	case path == "/api/questions/table":
		most = design.MaxTable
	case path == "/api/pictures":
		most = mostPicture
	case path == "/api/fonts":
		most = typeface.Largest
	}
	c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, most)
}

func (d *desk) recovered(c *gin.Context) {
	defer func() {
		if p := recover(); p != nil {
			d.Log.Error("a request failed", "path", c.Request.URL.Path, "panic", p)
			problem(c, http.StatusInternalServerError, "The program made a mistake. It is written down in the log.")
		}
	}()
	c.Next()
}

func problem(c *gin.Context, status int, message string, findings ...api.PathFinding) {
	p := api.Problem{Message: message}
	if findings != nil {
		p.Findings = &findings
	}
	c.AbortWithStatusJSON(status, p)
}

func badRequest(c *gin.Context, err error) {
	var large *http.MaxBytesError
	if errors.As(err, &large) {
		problem(c, http.StatusRequestEntityTooLarge, "That is too large: at most "+size(large.Limit)+" can be sent at once.")
		return
	}
	problem(c, http.StatusBadRequest, "The request could not be read: "+err.Error()+".")
}

// fail turns an error of a use case into an answer.
func (d *desk) fail(c *gin.Context, err error) {
	var invalid receive.Invalid
	var faulty design.Faulty
	var unreadable design.Unreadable
	var refused upload.Refused
	switch {
	case errors.As(err, &invalid):
		problem(c, http.StatusUnprocessableEntity, "Some answers need another look.", pathFindings(invalid.Findings)...)
	case errors.As(err, &faulty):
		problem(c, http.StatusUnprocessableEntity, "The intake has faults to mend before it can be opened.", pathFindings(faulty.Findings)...)
	case errors.Is(err, register.NotFound):
		problem(c, http.StatusNotFound, "There is nothing at this address.")
	case errors.Is(err, receive.ErrClosed), errors.Is(err, receive.ErrEarly), errors.Is(err, receive.ErrFull), errors.Is(err, receive.ErrInvitation), errors.Is(err, receive.ErrNoCorrection), errors.Is(err, design.ErrStale), errors.Is(err, design.ErrSlugTaken):
		problem(c, http.StatusConflict, sentence(err))
	case errors.Is(err, tooMany):
		problem(c, http.StatusTooManyRequests, sentence(err))
	case errors.Is(err, receive.ErrOtherBody):
		problem(c, http.StatusUnprocessableEntity, sentence(err), api.PathFinding{Path: "Idempotency-Key", Message: sentence(err)})
	case errors.As(err, &unreadable):
		problem(c, http.StatusUnprocessableEntity, unreadable.Reason)
	case errors.As(err, new(receive.UnreadableCopy)):
		problem(c, http.StatusUnprocessableEntity, sentence(err))
	case errors.As(err, &refused):
		problem(c, http.StatusUnprocessableEntity, refused.Reason)
	case errors.As(err, new(unprocessable)):
		problem(c, http.StatusUnprocessableEntity, sentence(err))
	case c.Request.Context().Err() != nil:
		c.Abort()
	default:
		d.Log.Error("a request failed", "path", c.Request.URL.Path, "error", err)
		problem(c, http.StatusInternalServerError, "The program could not do this. The reason is written down in the log.")
	}
}

// unprocessable is an error whose words are for the one who asked.
type unprocessable struct{ error }

func sentence(err error) string {
	s := err.Error()
	return strings.ToUpper(s[:1]) + s[1:] + "."
}
