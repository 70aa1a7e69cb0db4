package web

import (
	"bytes"
	"context"
	_ "embed" // embed.js
	"errors"
	"fmt"
	"html"
	"image"
	"image/draw"
	"image/png"
	"io"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"amberseal/app/access"
	"amberseal/app/invite"
	"amberseal/app/produce"
	"amberseal/app/receive"
	"amberseal/app/register"
	"amberseal/app/workshop"
	"amberseal/core/foreign/fill"
	"amberseal/core/plan"
	"amberseal/core/print/paper/code"
	"amberseal/web/api"
)

// embedScript shows a form inside another site's page.
//
//go:embed embed.js
var embedScript []byte

// base is the address under which this request reached the house.
func (d *handlers) base(r *http.Request) string {
	scheme := "http"
	if d.Secure || r.TLS != nil {
		scheme = "https"
	}
	return scheme + "://" + r.Host
}

// opening adds the routes by which a form is reached: its code, its script, and a page that shows it embedded.
func (d *handlers) opening(r *gin.Engine) {
	r.GET("/embed.js", func(c *gin.Context) {
		c.Header("Cache-Control", "public, max-age=300")
		c.Header("Cross-Origin-Resource-Policy", "cross-origin")
		c.Data(http.StatusOK, "text/javascript; charset=utf-8", embedScript)
	})
	r.GET("/embedded/:slug", func(c *gin.Context) { d.admit(c, access.Look, access.AboutSeveral) }, func(c *gin.Context) {
		form := html.EscapeString(d.base(c.Request) + "/f/" + c.Param("slug"))
		c.Data(http.StatusOK, "text/html; charset=utf-8", fmt.Appendf(nil, `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>A page of `+
			`another site</title></head>
<body><h1>A page of another site</h1><p>Below is the form, as the two lines of the snippet show it.</p>
<div data-amberseal="%s"></div>
<script src="/embed.js" defer></script>
</body></html>`, form))
	})
	r.GET("/api/intakes/:id/blank.pdf", d.blank)
	r.GET("/api/intakes/:id/code.svg", func(c *gin.Context) { d.code(c, "svg") })
	r.GET("/api/intakes/:id/code.png", func(c *gin.Context) { d.code(c, "png") })
}

// blank is the empty form on paper.
func (d *handlers) blank(c *gin.Context) {
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
func (d *handlers) ReadCopy(ctx context.Context, r api.ReadCopyRequestObject) (api.ReadCopyResponseObject, error) {
	i, err := d.Workshop.Store.Intake(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	p, h, err := d.Counter.Form(ctx, i.Address)
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
	receipt, err := d.Counter.Submit(ctx, i.Address, receive.Sending{Answers: raw, Own: true})
	if err != nil {
		return nil, err
	}
	return api.ReadCopy201JSONResponse{
		Number:    receipt.Number,
		Revision:  receipt.Revision,
		Received:  receipt.Received,
		Documents: []api.DocumentLink{},
		Thanks:    []string{},
	}, nil
}

func (d *handlers) ListInvitations(ctx context.Context, r api.ListInvitationsRequestObject) (api.ListInvitationsResponseObject, error) {
	var before int64
	if err := readCursor("invitations", r.Params.Cursor, &before); err != nil {
		return nil, err
	}
	all, err := d.Records.Invitations(ctx, r.Id, before, pageSize+1)
	if err != nil {
		return nil, err
	}
	all, next := invitationPage(all)
	return api.ListInvitations200JSONResponse{Entries: apiInvitations(all), Next: next}, nil
}

func invitationPage(all []invite.Invitation) ([]invite.Invitation, *string) {
	return pageOf("invitations", all, pageSize, func(x invite.Invitation) []any { return []any{x.ID} })
}

func apiInvitations(all []invite.Invitation) []api.Invitation {
	out := make([]api.Invitation, 0, len(all))
	for _, x := range all {
		i := api.Invitation{
			Id:       x.ID,
			IntakeId: x.IntakeID,
			Email:    x.Email,
			State:    api.InvitationState(x.State),
			Reason:   optional(x.Reason),
			Number:   optional(x.Number),
			Words:    optional(x.Words),
		}
		if x.Sent.UnixMicro() > 0 {
			i.Sent = &x.Sent
		}
		if x.SubmissionID > 0 {
			i.Submission = &x.SubmissionID
		}
		out = append(out, i)
	}
	return out
}

func (d *handlers) ListSentInvitations(
	ctx context.Context,
	r api.ListSentInvitationsRequestObject,
) (api.ListSentInvitationsResponseObject, error) {
	var before int64
	if err := readCursor("invitations", r.Params.Cursor, &before); err != nil {
		return nil, err
	}
	all, err := d.Records.SentInvitations(ctx, whoIs(ctx).Scope(access.Records), before, pageSize+1)
	if err != nil {
		return nil, err
	}
	all, next := invitationPage(all)
	out := apiInvitations(all)
	names := map[int64]string{}
	for n, x := range all {
		if _, known := names[x.IntakeID]; !known {
			i, err := d.Workshop.Store.Intake(ctx, x.IntakeID)
			if err != nil {
				return nil, err
			}
			names[x.IntakeID] = i.Design.Name
		}
		out[n].Intake = optional(names[x.IntakeID])
	}
	return api.ListSentInvitations200JSONResponse{Entries: out, Next: next}, nil
}

func (d *handlers) Invite(ctx context.Context, r api.InviteRequestObject) (api.InviteResponseObject, error) {
	i, err := d.Workshop.Store.Intake(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	if i.State != workshop.Open {
		return nil, receive.ErrClosed
	}
	done, err := d.Invitations.Invite(ctx, r.Id, value(r.Body.Words), r.Body.Addresses)
	if errors.Is(err, invite.ErrTooMany) || errors.Is(err, invite.ErrNoSite) || errors.Is(err, invite.ErrWords) {
		return nil, unprocessable{err}
	}
	if err != nil {
		return nil, err
	}
	return api.Invite201JSONResponse{Added: done.Added, Already: done.Already, Bad: append([]string{}, done.Bad...)}, nil
}

func (d *handlers) RetryInvitation(ctx context.Context, r api.RetryInvitationRequestObject) (api.RetryInvitationResponseObject, error) {
	err := d.Records.RetryInvitation(ctx, r.Id, r.Invitation, plan.Letter(false), d.Now())
	d.Wake()
	return api.RetryInvitation204Response{}, err
}

func (d *handlers) WithdrawInvitation(
	ctx context.Context,
	r api.WithdrawInvitationRequestObject,
) (api.WithdrawInvitationResponseObject, error) {
	return api.WithdrawInvitation204Response{}, d.Records.WithdrawInvitation(ctx, r.Id, r.Invitation, d.Now())
}

// code is the QR code (ISO/IEC 18004) of a form's address.
func (d *handlers) code(c *gin.Context, format string) {
	i, ok := d.intakeOf(c)
	if !ok {
		return
	}
	h, err := d.Office.Store.House(c.Request.Context())
	if err != nil {
		d.fail(c, err)
		return
	}
	if i.Address == "" {
		d.fail(c, unprocessable{errors.New("the form has no address before it is opened")})
		return
	}
	at := h.Link("/f/" + i.Address)
	if at == "" {
		at = d.base(c.Request) + "/f/" + i.Address
	}
	symbol, err := code.Make(code.QR, at, 0)
	if err != nil {
		d.fail(c, err)
		return
	}
	c.Header("Content-Disposition", `inline; filename="`+i.Address+"."+format+`"`)
	if format == "png" {
		picture, err := raster(symbol)
		if err != nil {
			d.fail(c, err)
			return
		}
		c.Data(http.StatusOK, "image/png", picture)
		return
	}
	c.Data(http.StatusOK, "image/svg+xml", []byte(vector(symbol)))
}

// vector draws the code's dark modules, run by run.
func vector(s code.Symbol) string {
	var b strings.Builder
	fmt.Fprintf(
		&b,
		`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %g %g" shape-rendering="crispEdges"><path fill="#fff" d="M0 `+
			`0h%gv%gH0z"/><path d="`,
		s.Width,
		s.Height,
		s.Width,
		s.Height,
	)
	for _, box := range s.Boxes {
		fmt.Fprintf(&b, "M%g %gh%gv%gh-%gz", box[0], box[1], box[2], box[3], box[2])
	}
	b.WriteString(`"/></svg>`)
	return b.String()
}

// pixels are those of a module's side.
const pixels = 12

func raster(s code.Symbol) ([]byte, error) {
	img := image.NewGray(image.Rect(0, 0, int(s.Width)*pixels, int(s.Height)*pixels))
	draw.Draw(img, img.Bounds(), image.White, image.Point{}, draw.Src)
	for _, b := range s.Boxes {
		draw.Draw(
			img, image.Rect(int(b[0])*pixels, int(b[1])*pixels, int(b[0]+b[2])*pixels, int(b[1]+b[3])*pixels), image.Black, image.Point{},
			draw.Src,
		)
	}
	var out bytes.Buffer
	err := png.Encode(&out, img)
	return out.Bytes(), err
}
