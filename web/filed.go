package web

import (
	"context"
	"errors"
	"mime"
	"net/http"
	"path"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"amberseal/app/file"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/plan"
	"amberseal/web/api"
)

// standingOf is how a file that was filed lies there.
func (d *handlers) standingOf(ctx context.Context, submission, filing int64) (api.FiledStanding, error) {
	s, reason, err := d.Inventory.Check(ctx, submission, filing)
	return api.FiledStanding{Standing: api.FiledStandingStanding(s), Reason: optional(reason)}, err
}

func (d *handlers) CheckFiled(ctx context.Context, r api.CheckFiledRequestObject) (api.CheckFiledResponseObject, error) {
	s, err := d.standingOf(ctx, r.Id, r.Filing)
	return api.CheckFiled200JSONResponse(s), err
}

func (d *handlers) CompareFilings(ctx context.Context, _ api.CompareFilingsRequestObject) (api.CompareFilingsResponseObject, error) {
	err := d.Records.Plan(ctx, plan.Subject{About: plan.House}, 0, plan.Compare(d.Now()), d.Now())
	d.Wake()
	return api.CompareFilings204Response{}, err
}

func (d *handlers) PutBack(ctx context.Context, r api.PutBackRequestObject) (api.PutBackResponseObject, error) {
	err := d.Inventory.PutBack(ctx, r.Id, r.Filing)
	var again work.Again
	if errors.Is(err, file.ErrNoOriginal) || errors.As(err, &again) {
		return nil, unprocessable{err}
	}
	if err != nil {
		return nil, err
	}
	s, err := d.standingOf(ctx, r.Id, r.Filing)
	return api.PutBack200JSONResponse(s), err
}

// filedFile serves a file as it lies at its destination.
func (d *handlers) filedFile(c *gin.Context) {
	submission, err := strconv.ParseInt(c.Param("id"), 10, 64)
	id, err2 := strconv.ParseInt(c.Param("filing"), 10, 64)
	if err != nil || err2 != nil {
		d.fail(c, register.NotFound)
		return
	}
	x, data, err := d.Inventory.Read(c.Request.Context(), submission, id)
	var again work.Again
	switch {
	case errors.Is(err, file.Gone):
		err = register.NotFound
	case errors.As(err, &again):
		err = unprocessable{again}
	}
	if err != nil {
		d.fail(c, err)
		return
	}
	// What lies outside the house may be anything by now: only a PDF is shown, all else is handed over.
	as, kind := "attachment", "application/octet-stream"
	if strings.HasPrefix(string(data), "%PDF-") {
		as, kind = "inline", "application/pdf"
	}
	c.Header("Content-Disposition", mime.FormatMediaType(as, map[string]string{"filename": path.Base(x.Path)}))
	c.Header("Cache-Control", "private, no-store")
	c.Data(http.StatusOK, kind, data)
}
