package web

import (
	"context"
	"errors"
	"io/fs"
	"net/http"
	"net/url"
	"path"
	"slices"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/klauspost/compress/gzhttp"

	"amberseal/app/produce"
	"amberseal/app/receive"
	"amberseal/app/register"
	"amberseal/core/form"
	"amberseal/core/locale"
	"amberseal/core/plan"
	"amberseal/core/seal"
	"amberseal/web/api"
)

func (d *desk) GetPublicForm(ctx context.Context, r api.GetPublicFormRequestObject) (api.GetPublicFormResponseObject, error) {
	p, h, err := d.Counter.Form(ctx, r.Slug)
	if err != nil {
		return nil, err
	}
	f := p.Design.Form
	language := h.Language
	if wanted := value(r.Params.Language); wanted != "" {
		language = wanted
		f = f.In(wanted)
	}
	f.Translations = nil
	out := api.GetPublicForm200JSONResponse{
		Name: p.Design.Name, House: h.Name, Accent: h.Accent, Language: language, Languages: form.Languages(), Currency: h.Currency, Country: locale.For(h.Language).Region(),
		Form: f, Watches: f.Watched(), Stamp: d.robots.stamp(r.Slug), Strict: p.Design.Opening.Guard == "strict",
	}
	standing := p.Standing(d.Now(), h)
	if standing == nil {
		standing = d.Counter.Invited(ctx, p, value(r.Params.Invitation))
	}
	for l := range p.Design.Form.Translations {
		if !slices.Contains(out.Languages, l) {
			out.Languages = append(out.Languages, l)
		}
	}
	slices.Sort(out.Languages[len(form.Languages()):])
	if d.sessions.Exists(ctx, "person") {
		person := d.sessions.GetString(ctx, "name")
		out.Person = &person
	}
	out.Open, out.Standing = standing == nil, api.PublicFormStandingOpen
	if standing != nil {
		out.Standing = standingOf(standing)
		out.Form.Fields = []api.Field{}
	}
	if s := p.Design.Opening.Shown; s != "" {
		out.Shown = &s
	}
	if out.Open {
		// What shows before anything is answered, so that the page need not ask once more.
		result, facts, err := d.Counter.Check(ctx, r.Slug, language, form.Raw{})
		if err != nil {
			return nil, err
		}
		begin := checked(result, facts)
		out.Begin = &begin
	}
	return out, nil
}

// standingOf names why a form takes no answers; the page says it in the respondent's language.
func standingOf(err error) api.PublicFormStanding {
	switch {
	case errors.Is(err, receive.ErrEarly):
		return api.PublicFormStandingEarly
	case errors.Is(err, receive.ErrInvitation):
		return api.PublicFormStandingInvitation
	}
	return api.PublicFormStandingClosed
}

func (d *desk) CheckAnswers(ctx context.Context, r api.CheckAnswersRequestObject) (api.CheckAnswersResponseObject, error) {
	result, facts, err := d.Counter.Check(ctx, r.Slug, value(r.Body.Language), r.Body.Answers)
	if err != nil {
		return nil, err
	}
	return api.CheckAnswers200JSONResponse(checked(result, facts)), nil
}

func (d *desk) Submit(ctx context.Context, r api.SubmitRequestObject) (api.SubmitResponseObject, error) {
	if d.robots.often(ctx.(*gin.Context).Request) {
		return nil, tooMany
	}
	receipt, err := d.Counter.Submit(ctx, r.Slug, receive.Sending{
		Answers: r.Body.Answers, Language: value(r.Body.Language), Once: value(r.Params.IdempotencyKey), Invitation: value(r.Body.Invitation), Correct: value(r.Body.Correct),
		Refuse: func(guard string) error {
			if reason := d.robots.refuse(r.Slug, guard == "strict", r.Body.Page); reason != "" {
				return unprocessable{errors.New(reason)}
			}
			return nil
		},
	})
	if err != nil {
		return nil, err
	}
	out := api.Submit201JSONResponse{Number: receipt.Number, Documents: []api.DocumentLink{}, Thanks: append([]string{}, receipt.Thanks...), Onward: optional(receipt.Onward)}
	if receipt.Correct {
		link := "/f/" + r.Slug + "?correct=" + receipt.Token
		out.Correct = &link
	}
	for _, l := range receipt.Documents {
		out.Documents = append(out.Documents, api.DocumentLink{Key: l.Key, Name: l.Name, Href: "/d/" + receipt.Token + "/" + l.Key})
	}
	return out, nil
}

// tooMany is the error of an address that sends more than people do.
var tooMany = errors.New("too much came from your address at once; please wait a minute")

func (d *desk) GetSent(ctx context.Context, r api.GetSentRequestObject) (api.GetSentResponseObject, error) {
	number, raw, err := d.Counter.Sent(ctx, r.Slug, r.Token)
	if err != nil {
		return nil, err
	}
	return api.GetSent200JSONResponse{Number: number, Answers: raw}, nil
}

func (d *desk) SaveDraft(ctx context.Context, r api.SaveDraftRequestObject) (api.SaveDraftResponseObject, error) {
	if d.robots.often(ctx.(*gin.Context).Request) {
		return nil, tooMany
	}
	token, err := d.Counter.SaveDraft(ctx, r.Slug, value(r.Body.Token), r.Body.Answers)
	if err != nil {
		return nil, err
	}
	return api.SaveDraft201JSONResponse{Token: token}, nil
}

func (d *desk) GetDraft(ctx context.Context, r api.GetDraftRequestObject) (api.GetDraftResponseObject, error) {
	raw, err := d.Counter.Draft(ctx, r.Slug, r.Token)
	if err != nil {
		return nil, err
	}
	return api.GetDraft200JSONResponse{Answers: raw}, nil
}

// preview composes the document a form shows before sending. Nothing is kept, and it carries no number.
func (d *desk) preview(c *gin.Context) {
	var body struct {
		Answers form.Raw `json:"answers"`
	}
	if err := c.ShouldBindJSON(&body); err != nil {
		badRequest(c, err)
		return
	}
	if d.robots.often(c.Request) {
		d.fail(c, tooMany)
		return
	}
	ctx := c.Request.Context()
	p, _, err := d.Counter.Form(ctx, c.Param("slug"))
	if err != nil {
		d.fail(c, err)
		return
	}
	result, facts, err := d.Counter.Check(ctx, c.Param("slug"), "", body.Answers)
	switch {
	case err != nil:
		d.fail(c, err)
	case p.Design.Opening.Shown == "":
		problem(c, http.StatusNotFound, "This form shows no document before sending.")
	case result.Findings.Faults() > 0:
		d.fail(c, receive.Invalid{Findings: result.Findings})
	default:
		facts.Number, facts.Trial, facts.Check = facts.Locale().Trial(), true, produce.CheckAddress(facts.House, seal.Trial)
		made, err := produce.Compose(p.Design, p.Design.Opening.Shown, facts, produce.Pictures(ctx, d.Shelf), d.Join)
		if err != nil {
			d.fail(c, err)
			return
		}
		sendPDF(c, register.Document{FileName: made.FileName, PDF: made.PDF})
	}
}

// longestWait is how long a respondent's request waits for a document that is being made.
const longestWait = 15 * time.Second

// publicDocument serves a document to whoever holds the submission's token, waiting for it
// when it is still being made.
func (d *desk) publicDocument(c *gin.Context) {
	ctx, cancel := context.WithTimeout(c.Request.Context(), longestWait)
	defer cancel()
	s, _, err := d.Records.SubmissionByToken(ctx, c.Param("token"))
	if err != nil {
		d.fail(c, err)
		return
	}
	changed, end := d.Hub.Listen()
	defer end()
	for {
		doc, err := d.Records.Document(ctx, s.ID, c.Param("key"))
		if err == nil {
			sendPDF(c, doc)
			return
		}
		if !errors.Is(err, register.NotFound) || !d.coming(ctx, s.ID, c.Param("key")) {
			d.fail(c, err)
			return
		}
		select {
		case <-changed:
		case <-ctx.Done():
			c.Header("Retry-After", "5")
			problem(c, http.StatusServiceUnavailable, "The document is still being made. Try again in a moment.")
			return
		}
	}
}

// coming reports whether a document is still to be made.
func (d *desk) coming(ctx context.Context, submission int64, key string) bool {
	steps, err := d.Records.Steps(ctx, submission)
	for _, s := range steps {
		if s.Kind == plan.Document && s.Key == key {
			return s.State != register.Failed
		}
	}
	return err != nil
}

// pages serves the two applications: the respondents' under /f/, the workshop elsewhere.
func (d *desk) pages(r *gin.Engine) {
	assets := gzhttp.GzipHandler(http.StripPrefix("/assets/", http.FileServerFS(d.Pages)))
	r.GET("/assets/*path", func(c *gin.Context) {
		// Vite puts a hash of the content into every name but index.html's.
		c.Header("Cache-Control", "public, max-age=31536000, immutable")
		assets.ServeHTTP(c.Writer, c.Request)
	})
	r.GET("/favicon.ico", func(c *gin.Context) { c.Status(http.StatusNoContent) }) // the pages name their own
	r.GET("/f/:slug", func(c *gin.Context) {
		status := http.StatusOK
		p, _, err := d.Counter.Form(c.Request.Context(), c.Param("slug"))
		if err != nil {
			status = http.StatusNotFound
		}
		// Pages of this house, and of the sites that are listed, may show the form inside them.
		c.Header("Link", "</api/public/intakes/"+url.PathEscape(c.Param("slug"))+">; rel=preload; as=fetch; crossorigin=anonymous")
		frames := strings.Join(append([]string{"'self'"}, p.Design.Opening.Sites...), " ")
		c.Header("Content-Security-Policy", strings.Replace(policy, "frame-ancestors 'none'", "frame-ancestors "+frames, 1))
		d.index(c, status, "public")
	})
	check := func(c *gin.Context) { d.index(c, http.StatusOK, "public") }
	r.GET("/check", check)
	r.GET("/check/:code", check)
	r.NoRoute(func(c *gin.Context) {
		p := c.Request.URL.Path
		if strings.HasPrefix(p, "/api/") || c.Request.Method != http.MethodGet || path.Ext(p) != "" {
			problem(c, http.StatusNotFound, "There is nothing at this address.")
			return
		}
		d.index(c, http.StatusOK, "admin")
	})
}

func (d *desk) index(c *gin.Context, status int, app string) {
	page, err := fs.ReadFile(d.Pages, app+"/index.html")
	if err != nil {
		c.String(http.StatusInternalServerError, "The pages are missing from this program. Build it with “make build”.\n")
		return
	}
	c.Header("Cache-Control", "no-cache")
	c.Data(status, "text/html; charset=utf-8", page)
}
