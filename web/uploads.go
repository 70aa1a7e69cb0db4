package web

import (
	"context"
	"fmt"
	"io"
	"mime"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"amberseal/app/receive"
	"amberseal/app/register"
	"amberseal/app/upload"
	"amberseal/core/ask/form"
	"amberseal/web/api"
)

func (d *handlers) UploadFile(ctx context.Context, r api.UploadFileRequestObject) (api.UploadFileResponseObject, error) {
	req := request(ctx)
	if d.often(req) {
		return nil, tooMany
	}
	p, h, err := d.Counter.FormAs(ctx, r.Slug, value(r.Params.Version))
	if err != nil {
		return nil, err
	}
	page := receive.Page{Invitation: value(r.Params.Invitation), Correct: value(r.Params.Correct)}
	if err := d.guessed(req, page, func() error { return d.Counter.May(ctx, p, h, page) }); err != nil {
		return nil, err
	}
	field, ok := p.Design.Form.Field(r.Field)
	if !ok {
		return nil, register.NotFound
	}
	data, err := io.ReadAll(r.Body)
	if err != nil {
		return nil, upload.Refused{Reason: fmt.Sprintf("The file is too large; a file may have %d MB.", field.LargestFile()>>20)}
	}
	f, err := d.Uploads.Take(ctx, p.IntakeID, field, r.Params.Name, d.client(req), data)
	if err != nil {
		return nil, err
	}
	return api.UploadFile201JSONResponse(f), nil
}

// upload serves a respondent's file to staff. Only pictures we packed ourselves are shown in the page; all else is
// a download.
func (d *handlers) upload(c *gin.Context) {
	f, data, err := d.Records.Upload(c.Request.Context(), c.Param("id"))
	if err != nil {
		d.fail(c, err)
		return
	}
	how := "attachment"
	if pictured(f) {
		how = "inline"
	}
	c.Header("Content-Disposition", mime.FormatMediaType(how, map[string]string{"filename": f.Name}))
	c.Header("Cache-Control", "private, no-store")
	c.Data(http.StatusOK, f.Type, data)
}

func pictured(f form.File) bool { return f.Type == "image/jpeg" || f.Type == "image/png" }

// fileLinks are the files of an answer, those of rows too.
func fileLinks(v form.Value) []api.FileLink {
	out := []api.FileLink{}
	for _, f := range (form.Answers{"": v}).Files() {
		out = append(out, api.FileLink{Name: f.Name, Href: "/api/uploads/" + f.ID, Picture: strings.HasPrefix(f.Type, "image/") &&
			pictured(f)})
	}
	return out
}
