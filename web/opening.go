package web

import (
	"context"
	_ "embed" // embed.js
	"errors"
	"fmt"
	"html"
	"io"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"
	"rsc.io/qr"

	"amberseal/app/design"
	"amberseal/app/invite"
	"amberseal/app/produce"
	"amberseal/app/receive"
	"amberseal/app/register"
	"amberseal/core/fill"
	"amberseal/web/api"
)

// embedScript shows a form inside another site's page.
//
//go:embed embed.js
var embedScript []byte

// base is the address under which this request reached the house.
func (d *desk) base(r *http.Request) string {
	scheme := "http"
	if d.Secure || r.TLS != nil {
		scheme = "https"
	}
	return scheme + "://" + r.Host
}

// opening adds the routes by which a form is reached: its code, its script, and a page that shows it embedded.
func (d *desk) opening(r *gin.Engine) {
	r.GET("/embed.js", func(c *gin.Context) {
		c.Header("Cache-Control", "public, max-age=300")
		c.Header("Cross-Origin-Resource-Policy", "cross-origin")
		c.Data(http.StatusOK, "text/javascript; charset=utf-8", embedScript)
	})
	r.GET("/embedded/:slug", d.signedIn, func(c *gin.Context) {
		form := html.EscapeString(d.base(c.Request) + "/f/" + c.Param("slug"))
		c.Data(http.StatusOK, "text/html; charset=utf-8", fmt.Appendf(nil, `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>A page of another site</title></head>
<body><h1>A page of another site</h1><p>Below is the form, as the two lines of the snippet show it.</p>
<div data-amberseal="%s"></div>
<script src="/embed.js" defer></script>
</body></html>`, form))
	})
	r.GET("/api/intakes/:id/blank.pdf", d.signedIn, d.blank)
	r.GET("/api/intakes/:id/code.svg", d.signedIn, func(c *gin.Context) { d.code(c, "svg") })
	r.GET("/api/intakes/:id/code.png", d.signedIn, func(c *gin.Context) { d.code(c, "png") })
}

// blank is the empty form on paper.
func (d *desk) blank(c *gin.Context) {
	i, ok := d.intakeOf(c)
	if !ok {
		return
	}
	ctx := c.Request.Context()
	h, err := d.Office.Store.House(ctx)
	if err != nil {
		d.fail(c, err)
		return
	}
	data, err := produce.Blank(i.Design, h, c.Query("fillable") != "", produce.Pictures(ctx, d.Shelf))
	if err != nil {
		d.fail(c, err)
		return
	}
	sendPDF(c, register.Document{FileName: i.Design.Name + ".pdf", PDF: data})
}

// ReadCopy takes in a filled copy; what is missing or wrong is told and nothing is kept.
func (d *desk) ReadCopy(ctx context.Context, r api.ReadCopyRequestObject) (api.ReadCopyResponseObject, error) {
	i, err := d.Workshop.Store.Intake(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	p, h, err := d.Counter.Form(ctx, i.Design.Slug)
	if err != nil {
		return nil, err
	}
	data, err := io.ReadAll(r.Body)
	if err != nil {
		return nil, unprocessable{fmt.Errorf("the copy is larger than %s", size(fill.MaxBytes))}
	}
	raw, err := d.Copies(ctx, p.Design, h, data)
	if err != nil {
		return nil, err
	}
	receipt, err := d.Counter.Submit(ctx, i.Design.Slug, receive.Sending{Answers: raw})
	if err != nil {
		return nil, err
	}
	return api.ReadCopy201JSONResponse{Number: receipt.Number, Documents: []api.DocumentLink{}, Thanks: []string{}}, nil
}

func (d *desk) ListInvitations(ctx context.Context, r api.ListInvitationsRequestObject) (api.ListInvitationsResponseObject, error) {
	all, err := d.Records.Invitations(ctx, r.Id, value(r.Params.Before), pageSize)
	if err != nil {
		return nil, err
	}
	out := api.ListInvitations200JSONResponse{}
	for _, x := range all {
		i := api.Invitation{Id: x.ID, Email: x.Email, State: api.InvitationState(x.State), Reason: optional(x.Reason), Number: optional(x.Number)}
		if !x.Sent.IsZero() {
			i.Sent = &x.Sent
		}
		if x.SubmissionID > 0 {
			i.Submission = &x.SubmissionID
		}
		out = append(out, i)
	}
	return out, nil
}

func (d *desk) Invite(ctx context.Context, r api.InviteRequestObject) (api.InviteResponseObject, error) {
	i, err := d.Workshop.Store.Intake(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	if i.State != design.Open {
		return nil, receive.ErrClosed
	}
	added, bad, err := d.Invitations.Invite(ctx, r.Id, d.base(ctx.(*gin.Context).Request)+"/f/"+i.Design.Slug, r.Body.Addresses)
	if errors.Is(err, invite.ErrTooMany) {
		return nil, unprocessable{err}
	}
	if err != nil {
		return nil, err
	}
	return api.Invite201JSONResponse{Added: added, Bad: append([]string{}, bad...)}, nil
}

func (d *desk) RetryInvitation(ctx context.Context, r api.RetryInvitationRequestObject) (api.RetryInvitationResponseObject, error) {
	err := d.Records.RetryInvitation(ctx, r.Id, r.Invitation, d.Now())
	d.Invitations.Wake()
	return api.RetryInvitation204Response{}, err
}

// code is the QR code (ISO/IEC 18004) of a form's address.
func (d *desk) code(c *gin.Context, format string) {
	i, ok := d.intakeOf(c)
	if !ok {
		return
	}
	code, err := qr.Encode(d.base(c.Request)+"/f/"+i.Design.Slug, qr.M)
	if err != nil {
		d.fail(c, err)
		return
	}
	c.Header("Content-Disposition", `inline; filename="`+i.Design.Slug+"."+format+`"`)
	if format == "png" {
		code.Scale = 12
		c.Data(http.StatusOK, "image/png", code.PNG())
		return
	}
	c.Data(http.StatusOK, "image/svg+xml", []byte(vector(code)))
}

// quiet is the empty rim that readers need around a code, in modules.
const quiet = 4

// vector draws the code's dark modules, run by run.
func vector(code *qr.Code) string {
	var b strings.Builder
	side := code.Size + 2*quiet
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %d %d" shape-rendering="crispEdges"><path fill="#fff" d="M0 0h%dv%dH0z"/><path d="`, side, side, side, side)
	for y := range code.Size {
		for x := 0; x < code.Size; x++ {
			run := x
			for run < code.Size && code.Black(run, y) {
				run++
			}
			if run > x {
				fmt.Fprintf(&b, "M%d %dh%dv1h-%dz", x+quiet, y+quiet, run-x, run-x)
				x = run
			}
		}
	}
	b.WriteString(`"/></svg>`)
	return b.String()
}
