package web

import (
	"bytes"
	"context"
	"fmt"
	"io"

	"amberseal/app/produce"
	"amberseal/web/api"
)

func (d *handlers) AddFile(ctx context.Context, r api.AddFileRequestObject) (api.AddFileResponseObject, error) {
	data, err := io.ReadAll(r.Body)
	if err != nil {
		return nil, unprocessable{fmt.Errorf("the file is larger than %s", size(mostOf("POST", "/api/files")))}
	}
	file, err := d.Workshop.AddBrought(ctx, r.Params.Name, data)
	if err != nil {
		return nil, unprocessable{err}
	}
	return api.AddFile201JSONResponse{File: file}, nil
}

func (d *handlers) FileIntake(ctx context.Context, r api.FileIntakeRequestObject) (api.FileIntakeResponseObject, error) {
	data, err := io.ReadAll(r.Body)
	if err != nil {
		return nil, unprocessable{fmt.Errorf("the file is larger than %s", size(mostOf("POST", "/api/files/intake")))}
	}
	file, err := d.Workshop.AddBrought(ctx, r.Params.Name, data)
	if err != nil {
		return nil, unprocessable{err}
	}
	x, err := produce.IntakeOf(data, r.Params.Name, file)
	return api.FileIntake200JSONResponse(x), err
}

func (d *handlers) InspectFile(ctx context.Context, r api.InspectFileRequestObject) (api.InspectFileResponseObject, error) {
	found, err := produce.LookInto(r.Body.Design, r.Body.Key, produce.Pictures(ctx, d.Shelf))
	if err != nil {
		return nil, unprocessable{err}
	}
	out := api.InspectFile200JSONResponse{Placeholders: []api.Placeholder{}, Unprinted: append([]string{}, found.Unprinted...)}
	for _, p := range found.Placeholders {
		format := p.Format
		out.Placeholders = append(out.Placeholders, api.Placeholder{
			Name: p.Name, Format: &format, Kind: api.PlaceholderKind(p.Kind), Place: p.Place, Match: p.Match,
			How: api.PlaceholderHow(p.How),
		})
	}
	return out, nil
}

func (d *handlers) AnnotateFile(ctx context.Context, r api.AnnotateFileRequestObject) (api.AnnotateFileResponseObject, error) {
	data, err := produce.Annotate(r.Body.Design, r.Body.Key, produce.Pictures(ctx, d.Shelf))
	if err != nil {
		return nil, unprocessable{err}
	}
	return api.AnnotateFile200ApplicationvndOpenxmlformatsOfficedocumentWordprocessingmlDocumentResponse{
		Body: bytes.NewReader(data), ContentLength: int64(len(data)),
	}, nil
}

func (d *handlers) BeginFile(ctx context.Context, r api.BeginFileRequestObject) (api.BeginFileResponseObject, error) {
	h, err := d.Office.Store.House(ctx)
	if err != nil {
		return nil, err
	}
	data, _, err := produce.Begin(r.Body.Design, value(r.Body.Key), h)
	if err != nil {
		return nil, unprocessable{err}
	}
	return api.BeginFile200ApplicationvndOpenxmlformatsOfficedocumentWordprocessingmlDocumentResponse{
		Body: bytes.NewReader(data), ContentLength: int64(len(data)),
	}, nil
}
