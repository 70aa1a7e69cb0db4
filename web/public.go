package web

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"html"
	"io/fs"
	"net/http"
	"net/url"
	"path"
	"slices"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"amberseal/app/invite"
	"amberseal/app/produce"
	"amberseal/app/receive"
	"amberseal/app/register"
	"amberseal/app/workshop"
	"amberseal/core/ask/form"
	"amberseal/core/plan"
	"amberseal/core/print/seal"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
	"amberseal/web/api"
)

func (d *handlers) GetPublicForm(ctx context.Context, r api.GetPublicFormRequestObject) (api.GetPublicFormResponseObject, error) {
	p, h, err := d.Counter.Form(ctx, r.Slug)
	if err != nil {
		return nil, err
	}
	standing := p.Standing(d.Now(), h)
	var invitation invite.Invitation
	if standing == nil {
		standing = d.opened(request(ctx), func() error {
			invitation, err = d.Counter.Invitation(ctx, p, value(r.Params.Invitation))
			return err
		}, func(err error) bool { return errors.Is(err, receive.ErrInvitationUsed) })
		if errors.Is(standing, tooMany) {
			return nil, tooMany
		}
	}
	out := d.publicForm(p, h, value(r.Params.Language))
	if s, err := d.session(ctx); err == nil && s.SignedIn {
		out.Person = s.Name
	}
	out.Logo, out.Cover = optional(h.Logo), optional(p.Design.Opening.Cover)
	out.Email, out.HouseEmail, out.Phone = optional(invitation.Email), optional(h.Email), optional(h.Phone)
	out.Open, out.Standing = standing == nil, api.PublicFormStandingOpen
	if standing != nil {
		out.Standing = standingOf(standing)
		out.Form.Fields = []api.Field{}
		for _, para := range p.Design.Opening.Paused {
			if p.State == workshop.Paused {
				out.Paused = append(out.Paused, para.Spans.Plain(phrase.Facts{House: h, Intake: p.Design.Name, Made: d.Now()}))
			}
		}
		return out, nil
	}
	// What shows before anything is answered, so that the page need not ask once more.
	_, result, facts, err := d.Counter.Check(
		ctx, r.Slug, receive.Page{Language: out.Language, Invitation: value(r.Params.Invitation)}, form.Raw{},
	)
	if err != nil {
		return nil, err
	}
	begin := checked(result, facts)
	out.Begin = &begin
	return out, nil
}

// publicForm is what is asked, in the language that is wanted as far as it is translated.
func (d *handlers) publicForm(p receive.Published, h house.House, wanted string) api.GetPublicForm200JSONResponse {
	f := p.Design.Form
	language, translated := h.Language, true
	if wanted != "" {
		language = wanted
		translated = f.Translated(wanted) || sameLanguage(wanted, h.Language)
		f = f.In(wanted)
	}
	f.Translations = nil
	out := api.GetPublicForm200JSONResponse{
		Name: p.Design.Name, House: h.Name, Accent: h.Accent, Language: language, Translated: translated, Words: language,
		Languages: form.Languages(), Currency: h.Currency,
		Country: h.CountryOrUsual(), Version: p.Version, Paused: []string{},
		Form: f, Watches: f.Watched(), Fills: f.Fills(), Stamp: d.robots.stamp(p.Design.Slug), Strict: p.Design.Opening.Guard == "strict",
		Shown: optional(p.Design.Opening.Shown), Reminders: p.Design.Opening.Reminders && h.Site != "",
	}
	if !translated {
		out.Words = h.Language
	}
	for l := range p.Design.Form.Translations {
		if !slices.Contains(out.Languages, l) {
			out.Languages = append(out.Languages, l)
		}
	}
	slices.Sort(out.Languages[len(form.Languages()):])
	return out
}

func sameLanguage(a, b string) bool {
	a, _, _ = strings.Cut(a, "-")
	b, _, _ = strings.Cut(b, "-")
	return strings.EqualFold(a, b)
}

// standingOf names why a form takes no answers; the page says it in the respondent's language.
func standingOf(err error) api.PublicFormStanding {
	switch {
	case errors.Is(err, receive.ErrEarly):
		return api.PublicFormStandingEarly
	case errors.Is(err, receive.ErrPaused):
		return api.PublicFormStandingPaused
	case errors.Is(err, receive.ErrInvitation):
		return api.PublicFormStandingInvitation
	case errors.Is(err, receive.ErrInvitationUsed):
		return api.PublicFormStandingUsed
	}
	return api.PublicFormStandingClosed
}

// linkless reports whether an error says that a personal link opens nothing.
func linkless(err error) bool {
	return errors.Is(err, register.NotFound) || errors.Is(err, receive.ErrInvitationUsed)
}

// guessed limits what is done with the personal links of a page.
func (d *handlers) guessed(r *http.Request, page receive.Page, do func() error) error {
	if page.Invitation == "" && page.Correct == "" {
		return do()
	}
	return d.opened(r, do, linkless)
}

func (d *handlers) CheckAnswers(ctx context.Context, r api.CheckAnswersRequestObject) (api.CheckAnswersResponseObject, error) {
	req := request(ctx)
	if !d.own(req) && !d.brakes.checking.take(d.client(req)) {
		return nil, tooMany
	}
	page := receive.Page{
		Language:   value(r.Body.Language),
		Version:    value(r.Body.Version),
		Invitation: value(r.Body.Invitation),
		Correct:    value(r.Body.Correct),
	}
	var out api.CheckAnswers200JSONResponse
	err := d.guessed(req, page, func() error {
		_, result, facts, err := d.Counter.Check(ctx, r.Slug, page, r.Body.Answers)
		out = api.CheckAnswers200JSONResponse(checked(result, facts))
		return err
	})
	if err != nil {
		return nil, err
	}
	return out, nil
}

func (d *handlers) Submit(ctx context.Context, r api.SubmitRequestObject) (api.SubmitResponseObject, error) {
	req := request(ctx)
	if d.often(req) {
		return nil, tooMany
	}
	once := value(r.Params.IdempotencyKey)
	page := receive.Page{
		Language:   value(r.Body.Language),
		Version:    value(r.Body.Version),
		Invitation: value(r.Body.Invitation),
		Correct:    value(r.Body.Correct),
	}
	var receipt receive.Receipt
	err := d.guessed(req, page, func() (err error) {
		receipt, err = d.Counter.Submit(ctx, r.Slug, receive.Sending{
			Page: page, Answers: r.Body.Answers, Once: once, Own: d.own(req), Draft: value(r.Body.Draft),
			Refuse: func(guard string) error {
				reason, stale := d.robots.refuse(r.Slug, guard == "strict", r.Body.Page, once)
				switch {
				case stale:
					return staleStamp{errors.New(reason)}
				case reason != "":
					return unprocessable{errors.New(reason)}
				}
				return nil
			},
		})
		return err
	})
	if err != nil {
		return nil, err
	}
	return api.Submit201JSONResponse(apiReceipt(r.Slug, receipt)), nil
}

func apiReceipt(slug string, r receive.Receipt) api.Receipt {
	out := api.Receipt{
		Number:    r.Number,
		Revision:  r.Revision,
		Received:  r.Received,
		Documents: []api.DocumentLink{},
		Thanks:    append([]string{}, r.Thanks...),
		Onward:    optional(r.Onward),
	}
	if r.Correct != "" {
		out.Correct = optional("/f/" + slug + "?correct=" + r.Correct)
	}
	out.Read = optional("/f/" + slug + "?sent=" + r.Read)
	for _, l := range r.Documents {
		out.Documents = append(out.Documents, api.DocumentLink{Key: l.Key, Name: l.Name, Href: "/d/" + r.Read + "/" + l.Key})
	}
	return out
}

// tooMany is the error of an address that sends more than people do.
var tooMany = errors.New("too much came from your address at once; please wait a minute")

func (d *handlers) GetSent(ctx context.Context, r api.GetSentRequestObject) (api.GetSentResponseObject, error) {
	var s register.Submission
	err := d.opened(request(ctx), func() (err error) { s, err = d.Counter.Sent(ctx, r.Slug, r.Token); return err }, linkless)
	if err != nil {
		return nil, err
	}
	return api.GetSent200JSONResponse{Number: s.Number, Answers: s.Answers, Revision: s.Revision, Received: s.Received}, nil
}

func (d *handlers) ReadAgain(ctx context.Context, r api.ReadAgainRequestObject) (api.ReadAgainResponseObject, error) {
	var receipt receive.Receipt
	err := d.opened(request(ctx), func() (err error) { receipt, err = d.Counter.ReadAgain(ctx, r.Slug, r.Token); return err }, linkless)
	if err != nil {
		return nil, err
	}
	return api.ReadAgain200JSONResponse(apiReceipt(r.Slug, receipt)), nil
}

func (d *handlers) Arrived(ctx context.Context, r api.ArrivedRequestObject) (api.ArrivedResponseObject, error) {
	var receipt receive.Receipt
	err := d.opened(request(ctx), func() (err error) { receipt, err = d.Counter.Sending(ctx, r.Slug, r.Once); return err }, linkless)
	if err != nil {
		return nil, err
	}
	return api.Arrived200JSONResponse(apiReceipt(r.Slug, receipt)), nil
}

func (d *handlers) SaveDraft(ctx context.Context, r api.SaveDraftRequestObject) (api.SaveDraftResponseObject, error) {
	req := request(ctx)
	if d.often(req) {
		return nil, tooMany
	}
	page := receive.Page{Version: value(r.Body.Version), Invitation: value(r.Body.Invitation), Correct: value(r.Body.Correct)}
	var token string
	err := d.guessed(req, page, func() (err error) {
		token, err = d.Counter.SaveDraft(ctx, r.Slug, value(r.Body.Token), page, r.Body.Answers)
		return err
	})
	if err != nil {
		return nil, err
	}
	return api.SaveDraft201JSONResponse{Token: token}, nil
}

func (d *handlers) RemindOfDraft(ctx context.Context, r api.RemindOfDraftRequestObject) (api.RemindOfDraftResponseObject, error) {
	req := request(ctx)
	if d.often(req) {
		return nil, tooMany
	}
	page := receive.Page{Language: value(r.Body.Language), Invitation: value(r.Body.Invitation)}
	var due time.Time
	err := d.opened(req, func() (err error) {
		due, err = d.Counter.Remind(ctx, r.Slug, r.Token, r.Body.Email, r.Body.Days, page)
		return err
	}, linkless)
	if err != nil {
		return nil, err
	}
	return api.RemindOfDraft200JSONResponse{Due: due}, nil
}

func (d *handlers) GetDraft(ctx context.Context, r api.GetDraftRequestObject) (api.GetDraftResponseObject, error) {
	var raw form.Raw
	err := d.opened(request(ctx), func() (err error) { raw, err = d.Counter.Draft(ctx, r.Slug, r.Token); return err }, linkless)
	if err != nil {
		return nil, err
	}
	return api.GetDraft200JSONResponse{Answers: raw}, nil
}

// preview composes the document a form shows before sending. Nothing is kept, and it carries no number.
func (d *handlers) preview(c *gin.Context) {
	var body struct {
		Answers    form.Raw `json:"answers"`
		Language   string   `json:"language"`
		Version    int      `json:"version"`
		Invitation string   `json:"invitation"`
		Correct    string   `json:"correct"`
	}
	if err := c.ShouldBindJSON(&body); err != nil {
		badRequest(c, err)
		return
	}
	if d.often(c.Request) {
		d.fail(c, tooMany)
		return
	}
	ctx := c.Request.Context()
	page := receive.Page{Language: body.Language, Version: body.Version, Invitation: body.Invitation, Correct: body.Correct}
	var p receive.Published
	var result form.Result
	var facts phrase.Facts
	err := d.guessed(c.Request, page, func() (err error) {
		p, result, facts, err = d.Counter.Check(ctx, c.Param("slug"), page, body.Answers)
		return err
	})
	switch {
	case err != nil:
		d.fail(c, err)
	case !p.Design.ForRespondent(p.Design.Opening.Shown):
		problem(c, pNothing, http.StatusNotFound, "This form shows no document before sending.")
	case result.Findings.Faults() > 0:
		d.fail(c, receive.Invalid{Findings: result.Findings})
	default:
		facts.Form = p.Design.Form
		facts.Number, facts.Trial, facts.Check = facts.Locale().Trial(), true, produce.CheckAddress(facts.House, seal.Trial)
		made, err := produce.Compose(p.Design, p.Design.Opening.Shown, facts, produce.Pictures(ctx, d.Shelf), d.Apart(ctx))
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
func (d *handlers) publicDocument(c *gin.Context) {
	ctx, cancel := context.WithTimeout(c.Request.Context(), longestWait)
	defer cancel()
	var s register.Submission
	err := d.opened(c.Request, func() (err error) { s, err = d.Counter.Document(ctx, c.Param("token"), c.Param("key")); return err },
		linkless)
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
			problem(c, pBusy, http.StatusServiceUnavailable, "The document is still being made. Try again in a moment.")
			return
		}
	}
}

// coming reports whether a document is still to be made.
func (d *handlers) coming(ctx context.Context, submission int64, key string) bool {
	jobs, err := d.Records.Jobs(ctx, submission)
	for _, j := range jobs {
		if j.Kind == plan.Document && j.Key == key {
			return j.State != register.Failed
		}
	}
	return err != nil
}

// pages serves the two applications: the respondents' under /f/, the workshop elsewhere.
func (d *handlers) pages(r *gin.Engine) {
	r.GET("/assets/*path", d.asset)
	r.HEAD("/assets/*path", d.asset)
	r.GET("/favicon.ico", func(c *gin.Context) { c.Status(http.StatusNoContent) }) // the pages name their own
	r.GET(dressFile, d.dress)
	r.GET("/house-font/:face", d.face)
	r.GET("/f/:slug", d.formPage)
	r.GET("/f/:slug/blank.pdf", d.printable)
	check := func(c *gin.Context) { d.index(c, http.StatusOK, "public", nil) }
	r.GET("/check", check)
	r.GET("/check/:code", check)
	r.NoRoute(func(c *gin.Context) {
		p := c.Request.URL.Path
		if strings.HasPrefix(p, "/api/") || c.Request.Method != http.MethodGet || path.Ext(p) != "" {
			problem(c, pNothing, http.StatusNotFound, "There is nothing at this address.")
			return
		}
		d.index(c, http.StatusOK, "admin", nil)
	})
}

// formPage is the page of a form: a shell with the form's name, which is all that who has no scripts needs to go on: the form to
// print, and how the house is reached.
func (d *handlers) formPage(c *gin.Context) {
	status := http.StatusOK
	p, h, err := d.Counter.Form(c.Request.Context(), c.Param("slug"))
	if err != nil && !errors.Is(err, register.NotFound) {
		d.fail(c, err)
		return
	}
	shell := map[string]string{}
	if err != nil {
		status = http.StatusNotFound
	} else {
		shell = d.shellOf(c.Request.Context(), p, h, c.Param("slug"))
		if c.Request.URL.RawQuery == "" {
			c.Header("Link", "</api/public/intakes/"+url.PathEscape(c.Param("slug"))+">; rel=preload; as=fetch; crossorigin=anonymous")
			if p.Standing(d.Now(), h) == nil && !p.Design.Opening.Invited {
				shell[app] = servedForm(p, h) + shell[app]
			}
		}
	}
	// Pages of this house, and of the sites that are listed, may show the form inside them.
	frames := strings.Join(append([]string{"'self'"}, p.Design.Opening.Sites...), " ")
	c.Header("Content-Security-Policy", strings.Replace(policy, "frame-ancestors 'none'", "frame-ancestors "+frames, 1))
	d.index(c, status, "public", shell)
}

// app is where the script puts its page.
const app = `<div id="app"></div>`

// shellOf is what is put into the page in the place of what stands in its file.
func (d *handlers) shellOf(ctx context.Context, p receive.Published, h house.House, slug string) map[string]string {
	name, at := html.EscapeString(p.Design.Name), html.EscapeString(h.Name)
	words := `<main><p>` + at + `</p><h1>` + name + `</h1><p>This form needs JavaScript to be filled in here. ` +
		`<a href="/f/` + url.PathEscape(slug) + `/blank.pdf">The form to print, or to fill in as a PDF</a></p>`
	if h.Email != "" {
		words += `<p><a href="mailto:` + html.EscapeString(h.Email) + `">` + html.EscapeString(h.Email) + `</a></p>`
	}
	if h.Phone != "" {
		words += `<p>` + html.EscapeString(h.Phone) + `</p>`
	}
	return map[string]string{
		`<html lang="en">`:    `<html lang="` + html.EscapeString(h.Language) + `">`,
		`<link rel="icon"`:    `<link rel="stylesheet" href="` + d.dressLink(ctx, h) + `"><link rel="icon"`,
		`<title>Form</title>`: `<title>` + name + ` · ` + at + `</title>`,
		app:                   `<noscript lang="en">` + words + `</main></noscript><div id="app"></div>`,
	}
}

// printable is the empty form, to print or to fill on screen, for everybody who may see the form.
func (d *handlers) printable(c *gin.Context) {
	if d.often(c.Request) {
		d.fail(c, tooMany)
		return
	}
	ctx := c.Request.Context()
	p, h, err := d.Counter.Form(ctx, c.Param("slug"))
	if err == nil {
		err = p.Standing(d.Now(), h)
	}
	if err == nil && p.Design.Opening.Invited {
		err = receive.ErrInvitation
	}
	if err != nil {
		d.fail(c, err)
		return
	}
	data, err := produce.Blank(p.Design, h, true, produce.Pictures(ctx, d.Shelf))
	if err != nil {
		d.fail(c, err)
		return
	}
	c.Header("Cache-Control", "private, max-age=300")
	sendPDF(c, register.Document{FileName: p.Design.Name + ".pdf", PDF: data})
}

func (d *handlers) index(c *gin.Context, status int, app string, shell map[string]string) {
	page, err := fs.ReadFile(d.Pages, app+"/index.html")
	if err != nil {
		c.String(http.StatusInternalServerError, "The pages are missing from this program. Build it with “make build”.\n")
		return
	}
	for from, to := range shell {
		page = bytes.Replace(page, []byte(from), []byte(to), 1)
	}
	sum := sha256.Sum256(page)
	tag := `"` + hex.EncodeToString(sum[:12]) + `"`
	c.Header("Cache-Control", "no-cache")
	c.Header("ETag", tag)
	if c.GetHeader("If-None-Match") == tag && status == http.StatusOK {
		c.Status(http.StatusNotModified)
		return
	}
	c.Data(status, "text/html; charset=utf-8", page)
}
