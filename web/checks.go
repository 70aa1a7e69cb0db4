package web

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"io"

	"amberseal/app/register"
	"amberseal/core/print/seal"
	"amberseal/web/api"
)

func (d *handlers) CheckCode(ctx context.Context, r api.CheckCodeRequestObject) (api.CheckCodeResponseObject, error) {
	code, ok := seal.Tidy(r.Code)
	if !ok {
		return nil, register.NotFound
	}
	g, err := d.genuine(ctx, code, "")
	return api.CheckCode200JSONResponse(g), err
}

func (d *handlers) CheckFile(ctx context.Context, r api.CheckFileRequestObject) (api.CheckFileResponseObject, error) {
	sum := sha256.New()
	if _, err := io.Copy(sum, r.Body); err != nil {
		return nil, unprocessable{errors.New("the file could not be read whole, or is larger than documents are")}
	}
	g, err := d.genuine(ctx, "", hex.EncodeToString(sum.Sum(nil)))
	return api.CheckFile200JSONResponse(g), err
}

// genuine is what the house says of a document to anybody who has its code or its bytes.
func (d *handlers) genuine(ctx context.Context, code, sum string) (api.Genuine, error) {
	if d.often(request(ctx)) {
		return api.Genuine{}, tooMany
	}
	g, err := d.Records.Genuine(ctx, code, sum)
	if err != nil {
		return api.Genuine{}, err
	}
	h, err := d.Office.Store.House(ctx)
	return api.Genuine{
		House: h.Name, Zone: h.Zone, Intake: g.Intake, Name: g.Name, Number: g.Number, Made: g.Made, Revision: g.Revision, Latest: g.Latest,
		Pages: g.Pages, Size: g.Size, Code: optional(g.Code), Sha256: g.SHA256,
	}, err
}
