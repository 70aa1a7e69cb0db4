package web

import (
	"context"

	"amberseal/app/sheets"
	"amberseal/web/api"
)

func (d *handlers) ProofRegisters(ctx context.Context, r api.ProofRegistersRequestObject) (api.ProofRegistersResponseObject, error) {
	facts, err := d.proofFacts(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	out := api.ProofRegisters200JSONResponse{}
	for _, x := range r.Body.Design.Registers {
		table := sheets.Table{House: facts.House, Columns: x.Heads(facts.Form)}
		p := api.RegisterProof{Key: x.Key, Path: x.FilePath(facts, 1), To: x.Destination(), Heads: table.Head(), Line: []string{}}
		if facts.Condition(x.When) {
			for _, c := range table.OfFacts(facts, facts.House.Link("/cabinet")) {
				p.Line = append(p.Line, c.Words())
			}
		}
		out = append(out, p)
	}
	return out, nil
}

func (d *handlers) ListRegisterFiles(ctx context.Context, r api.ListRegisterFilesRequestObject) (
	api.ListRegisterFilesResponseObject, error,
) {
	all, err := d.Records.SheetFiles(ctx, r.Id, "")
	out := api.ListRegisterFiles200JSONResponse{}
	for _, f := range all {
		if f.At.IsZero() {
			continue // it was begun, and is not written yet
		}
		out = append(out, api.RegisterFile{
			Register: f.Register, Destination: f.Destination, Path: f.Path, Link: optional(f.Link), Lines: f.Lines, Written: f.At,
			Left: optional(f.Left),
		})
	}
	return out, err
}
