package web

import (
	"bytes"
	"context"
	"fmt"
	"io"

	"amberseal/app/produce"
	"amberseal/core/foreign/match"
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
	x, err := produce.IntakeOf(data, r.Params.Name, file, produce.Pictures(ctx, d.Shelf))
	if err != nil {
		return nil, unprocessable{err}
	}
	return api.FileIntake200JSONResponse(x), nil
}

func (d *handlers) InspectFile(ctx context.Context, r api.InspectFileRequestObject) (api.InspectFileResponseObject, error) {
	facts, err := d.proofFacts(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	pictures := produce.Pictures(ctx, d.Shelf)
	found, err := produce.LookInto(r.Body.Design, r.Body.Key, pictures)
	if err != nil {
		return nil, unprocessable{err}
	}
	out := api.InspectFile200JSONResponse{Placeholders: []api.Placeholder{}, Unprinted: append([]string{}, found.Unprinted...)}
	for _, p := range found.Placeholders {
		format, value := p.Format, ""
		if p.How != match.None && p.How != match.NearLabel && p.Kind != match.Condition {
			value, _ = p.Match.As(p.Format).Text(facts)
		}
		out.Placeholders = append(out.Placeholders, api.Placeholder{
			Name: p.Name, Format: &format, Kind: api.PlaceholderKind(p.Kind), Place: p.Place, Match: p.Match, Value: &value,
			How: api.PlaceholderHow(p.How), Part: optional(match.Part(p.Name)),
		})
	}
	if d.Apart(ctx).Setter != nil {
		out.Setters = &[]api.InspectionSetters{api.Libreoffice}
	}
	if rules, err := produce.Rules(r.Body.Design, r.Body.Key, pictures); err == nil {
		out.Rules = new([][]api.PageBox)
		for _, page := range rules {
			boxes := []api.PageBox{}
			for _, b := range page {
				boxes = append(boxes, api.PageBox{Left: b.X, Top: b.Y, Width: b.W, Height: b.H})
			}
			*out.Rules = append(*out.Rules, boxes)
		}
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

func (d *handlers) TurnFile(ctx context.Context, r api.TurnFileRequestObject) (api.TurnFileResponseObject, error) {
	x, left, err := produce.Turn(r.Body.Design, r.Body.Key, produce.Pictures(ctx, d.Shelf))
	if err != nil {
		return nil, unprocessable{err}
	}
	return api.TurnFile200JSONResponse{Document: x, Left: append([]string{}, left...)}, nil
}
