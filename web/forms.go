package web

import (
	"context"
	"fmt"
	"io"

	"amberseal/app/workshop"
	"amberseal/core/ask/form"
	"amberseal/core/ask/formula"
	"amberseal/core/words/finding"
	"amberseal/core/words/phrase"
	"amberseal/web/api"
)

// checked is what became of answers as the pages read it; calculated values are as people read them.
func checked(r form.Result, facts phrase.Facts) api.Checked {
	out := api.Checked{
		Visible: append(
			[]string{},
			r.Visible...), Required: append([]string{}, r.Required...), Calculated: map[string]string{}, Hidden: map[string]api.Hiding{},
		Findings: pathFindings(r.Findings),
	}
	for path, v := range r.Calculated(facts.Form) {
		if x, ok := facts.Form.FieldAt(path); ok {
			out.Calculated[path] = facts.Answer(x, v, "")
		}
	}
	for path, h := range r.Hidden {
		out.Hidden[path] = *h
	}
	return out
}

func (d *handlers) TryForm(ctx context.Context, r api.TryFormRequestObject) (api.TryFormResponseObject, error) {
	h, err := d.Office.Store.House(ctx)
	if err != nil {
		return nil, err
	}
	at := h.Circumstances(d.Now())
	if r.Body.Language != nil {
		at.Language = *r.Body.Language
	}
	result := form.Check(r.Body.Design.Form, r.Body.Answers, at)
	return api.TryForm200JSONResponse(
		checked(result, phrase.Facts{House: h, Form: r.Body.Design.Form, Answers: result.Answers, Made: d.Now()}),
	), nil
}

func (d *handlers) Whereabouts(_ context.Context, r api.WhereaboutsRequestObject) (api.WhereaboutsResponseObject, error) {
	return api.Whereabouts200JSONResponse(r.Body.Design.Whereabouts()), nil
}

func (d *handlers) FieldUses(_ context.Context, r api.FieldUsesRequestObject) (api.FieldUsesResponseObject, error) {
	return api.FieldUses200JSONResponse(r.Body.Design.Uses(r.Body.Name)), nil
}

func (d *handlers) RenameField(_ context.Context, r api.RenameFieldRequestObject) (api.RenameFieldResponseObject, error) {
	x, err := r.Body.Design.Rename(r.Body.From, r.Body.To)
	if err != nil {
		return nil, unprocessable{err}
	}
	return api.RenameField200JSONResponse(x), nil
}

func (d *handlers) RemoveField(_ context.Context, r api.RemoveFieldRequestObject) (api.RemoveFieldResponseObject, error) {
	x, err := r.Body.Design.Remove(r.Body.Name, r.Body.Mends)
	if err != nil {
		return nil, unprocessable{err}
	}
	return api.RemoveField200JSONResponse(x), nil
}

func (d *handlers) ListFunctions(context.Context, api.ListFunctionsRequestObject) (api.ListFunctionsResponseObject, error) {
	return api.ListFunctions200JSONResponse(formula.Functions()), nil
}

func (d *handlers) ReadFormula(ctx context.Context, r api.ReadFormulaRequestObject) (api.ReadFormulaResponseObject, error) {
	h, err := d.Office.Store.House(ctx)
	if err != nil {
		return nil, err
	}
	f, rows := r.Body.Form, value(r.Body.Rows)
	out := api.ReadFormula200JSONResponse{Findings: append([]finding.Finding{}, f.CheckFormula(r.Body.Source, rows)...)}
	tree, err := formula.Parse(r.Body.Source)
	if err != nil {
		return out, nil
	}
	isField := func(name string) bool { _, ok := f.Resolve(name, rows); return ok }
	join, clauses, ok := tree.Clauses(isField)
	if ok {
		how := api.ReadFormulaJoin(join)
		out.Sentence, out.Join, out.Clauses = true, &how, &clauses
	}
	at := h.Circumstances(d.Now())
	answers := form.Check(f, r.Body.Answers, at).Answers
	if len(r.Body.Answers) == 0 || rows != "" && len(answers[rows].Rows) == 0 {
		answers, out.MadeUp = form.Sample(f, form.MadeUp), true
	}
	laid := f.Lay(answers, at.Now, at.Received)
	scope := laid.Scope()
	if rows != "" {
		scope = laid.Row(rows, 0)
	}
	if v, err := tree.Evaluate(scope); err == nil {
		out.Value = v.String()
	}
	return out, nil
}

func (d *handlers) ReadSchema(_ context.Context, r api.ReadSchemaRequestObject) (api.ReadSchemaResponseObject, error) {
	data, err := io.ReadAll(r.Body)
	if err != nil {
		return nil, unprocessable{fmt.Errorf("the schema is larger than %s", size(mostOf("POST", "/api/questions/schema")))}
	}
	name, fields, err := workshop.ReadSchema(data)
	if err != nil {
		return nil, err
	}
	return api.ReadSchema200JSONResponse{Name: name, Fields: fields}, nil
}

func (d *handlers) ReadTable(_ context.Context, r api.ReadTableRequestObject) (api.ReadTableResponseObject, error) {
	data, err := io.ReadAll(r.Body)
	if err != nil {
		return nil, unprocessable{fmt.Errorf("the table is larger than %s", size(workshop.MaxTable))}
	}
	fields, err := workshop.ReadTable(data)
	if err != nil {
		return nil, err
	}
	return api.ReadTable200JSONResponse{Fields: fields}, nil
}

func (d *handlers) CopyIntake(ctx context.Context, r api.CopyIntakeRequestObject) (api.CopyIntakeResponseObject, error) {
	i, err := d.Workshop.Copy(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	return api.CopyIntake201JSONResponse(d.intake(ctx, i)), nil
}

func (d *handlers) ListVersions(ctx context.Context, r api.ListVersionsRequestObject) (api.ListVersionsResponseObject, error) {
	all, err := d.Workshop.History(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	out := make(api.ListVersions200JSONResponse, len(all))
	for i, v := range all {
		out[i] = api.Version{Version: v.Number, Changes: append([]string{}, v.Changes...)}
		if v.Number > 0 {
			out[i].Published = &all[i].Published
		}
	}
	return out, nil
}

func (d *handlers) GetVersion(ctx context.Context, r api.GetVersionRequestObject) (api.GetVersionResponseObject, error) {
	x, err := d.Workshop.Version(ctx, r.Id, r.Version)
	if err != nil {
		return nil, err
	}
	return api.GetVersion200JSONResponse(x), nil
}

func (d *handlers) ListExamples(context.Context, api.ListExamplesRequestObject) (api.ListExamplesResponseObject, error) {
	return api.ListExamples200JSONResponse(d.Examples), nil
}

func (d *handlers) CompareVersions(ctx context.Context, r api.CompareVersionsRequestObject) (api.CompareVersionsResponseObject, error) {
	said, err := d.Workshop.Compare(ctx, r.Id, r.Params.From, r.Params.To)
	if err != nil {
		return nil, err
	}
	return api.CompareVersions200JSONResponse(append([]string{}, said...)), nil
}
