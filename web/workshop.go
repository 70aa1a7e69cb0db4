package web

import (
	"context"
	"fmt"
	"io"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"amberseal/app/access"
	"amberseal/app/administer"
	"amberseal/app/produce"
	"amberseal/app/register"
	"amberseal/app/workshop"
	"amberseal/core/ask/form"
	"amberseal/core/ask/schema"
	"amberseal/core/intake"
	"amberseal/core/print/paper"
	"amberseal/core/print/svg"
	"amberseal/core/print/typeface"
	"amberseal/core/print/typeset"
	"amberseal/core/words/finding"
	"amberseal/core/words/phrase"
	"amberseal/web/api"
)

func (d *handlers) GetHouse(ctx context.Context, _ api.GetHouseRequestObject) (api.GetHouseResponseObject, error) {
	h, err := d.Office.Store.House(ctx)
	return api.GetHouse200JSONResponse(h), err
}

func (d *handlers) SetHouse(ctx context.Context, r api.SetHouseRequestObject) (api.SetHouseResponseObject, error) {
	if err := well(d.Office.SetHouse(ctx, *r.Body)); err != nil {
		return nil, err
	}
	h, err := d.Office.Store.House(ctx)
	return api.SetHouse200JSONResponse(h), err
}

func (d *handlers) AddPicture(ctx context.Context, r api.AddPictureRequestObject) (api.AddPictureResponseObject, error) {
	data, err := io.ReadAll(r.Body)
	if err != nil {
		return nil, unprocessable{fmt.Errorf("the picture is larger than %s", size(mostOf("POST", "/api/pictures")))}
	}
	name, err := d.Office.AddPicture(ctx, data)
	if err != nil {
		return nil, unprocessable{err}
	}
	return api.AddPicture201JSONResponse{Name: name}, nil
}

func (d *handlers) AddFont(ctx context.Context, r api.AddFontRequestObject) (api.AddFontResponseObject, error) {
	data, err := io.ReadAll(r.Body)
	if err != nil {
		return nil, unprocessable{fmt.Errorf("the font is larger than %s", size(typeface.Largest))}
	}
	name, family, err := d.Office.AddFont(ctx, data)
	if err != nil {
		return nil, unprocessable{err}
	}
	return api.AddFont201JSONResponse{Name: name, Family: family}, nil
}

func (d *handlers) AddHouseFile(ctx context.Context, r api.AddHouseFileRequestObject) (api.AddHouseFileResponseObject, error) {
	data, err := io.ReadAll(r.Body)
	if err != nil {
		return nil, unprocessable{fmt.Errorf("the file is larger than %s", size(administer.LargestFile))}
	}
	file, err := d.Office.AddFile(ctx, data)
	if err != nil {
		return nil, unprocessable{err}
	}
	return api.AddHouseFile201JSONResponse{File: file}, nil
}

func (d *handlers) ProofHouse(ctx context.Context, r api.ProofHouseRequestObject) (api.ProofHouseResponseObject, error) {
	look := paper.Ledger
	if r.Body.Look != nil {
		look = paper.Look(*r.Body.Look)
	}
	c, err := produce.Letter(r.Body.House.WithDefaults(), look, d.Now().UTC(), produce.Pictures(ctx, d.Shelf))
	if err != nil {
		return nil, unprocessable{err}
	}
	return api.ProofHouse200JSONResponse(proofOf(c)), nil
}

// proofOf is a composed document as its proof shows it.
func proofOf(c produce.Composed) api.DocumentProof {
	return api.DocumentProof{
		Pdf: c.PDF, Pages: c.Pages, Placements: append([]typeset.Placement{}, c.Placements...), FileName: c.FileName,
		Sheets: c.Sheets, Findings: append(finding.List{}, c.Findings...),
	}
}

// formPictures is where the pictures of forms are; the house's logo is there without its rim, as documents print it.
const formPictures = "/p/:name"

// picture serves a picture for proofs and forms; its name changes with its content.
func (d *handlers) picture(c *gin.Context) {
	data, err := d.Office.Store.Picture(c.Request.Context(), c.Param("name"))
	if err != nil {
		d.fail(c, err)
		return
	}
	c.Header("Cache-Control", "private, max-age=3600")
	kind := http.DetectContentType(data)
	if svg.Is(data) {
		kind = "image/svg+xml"
		c.Header("Content-Security-Policy", "sandbox; default-src 'none'") // it shows, and does nothing
	} else if h, err := d.Office.Store.House(c.Request.Context()); err == nil && h.Logo == c.Param("name") && c.FullPath() == formPictures {
		if logo, err := paper.Logo(data); err == nil {
			data = logo.Data
		}
	}
	c.Data(http.StatusOK, kind, data)
}

func (d *handlers) ReadQuestions(_ context.Context, r api.ReadQuestionsRequestObject) (api.ReadQuestionsResponseObject, error) {
	fields := append([]api.Field{}, form.FromLines(r.Body.Text, r.Body.Taken, value(r.Body.Section))...)
	return api.ReadQuestions200JSONResponse{Fields: fields}, nil
}

// checkedDesign is what was found in a revision of a draft: looking through a large one takes a while, and every page asks for all.
type checkedDesign struct {
	revision int
	findings finding.List
	fields   int // questions it asks
}

// look gives what was found in a draft. Its design is read only where it was not looked at before.
func (d *handlers) look(ctx context.Context, s workshop.Standing, design func() (intake.Design, error)) (checkedDesign, error) {
	d.looked.Lock()
	known, ok := d.checked[s.ID]
	d.looked.Unlock()
	if ok && known.revision == s.Revision {
		return known, nil
	}
	x, err := design()
	if err != nil {
		return checkedDesign{}, err
	}
	known = checkedDesign{revision: s.Revision, findings: append(finding.List{}, d.Workshop.Check(ctx, x)...)}
	for _, f := range x.Form.Fields {
		if f.Kind.Asks() {
			known.fields++
		}
	}
	d.looked.Lock()
	defer d.looked.Unlock()
	d.checked[s.ID] = known
	return known, nil
}

func (d *handlers) findings(ctx context.Context, i workshop.Intake) finding.List {
	known, err := d.look(ctx, i.Standing, func() (intake.Design, error) { return i.Design, nil })
	if err != nil {
		return finding.List{}
	}
	return known.findings
}

// counted is an intake without the counts of what came in, for who may not read that.
func counted(who access.Who, i workshop.Standing) workshop.Standing {
	if !who.MayOn(access.Records, i.ID) {
		i.Submissions, i.Unfinished, i.Failed = 0, 0, 0
	}
	return i
}

func (d *handlers) intake(ctx context.Context, i workshop.Intake) api.Intake {
	who := whoIs(ctx)
	i.Standing = counted(who, i.Standing)
	out := api.Intake{
		Id: i.ID, Design: i.Design, Address: optional(i.Address), Revision: i.Revision, Version: i.Version, Changed: i.Changed(),
		State:   api.IntakeState(i.State),
		Updated: i.Updated, Submissions: i.Submissions, Unfinished: i.Unfinished, Failed: i.Failed,
		Findings: d.findings(ctx, i), Givens: phrase.Givens(), May: []api.Permission{},
	}
	for _, p := range access.Permissions {
		if who.MayOn(p, i.ID) {
			out.May = append(out.May, api.Permission(p))
		}
	}
	if !i.Opened.IsZero() {
		out.Opened = &i.Opened
	}
	return out
}

// line is an intake as lists show it.
func (d *handlers) line(ctx context.Context, i workshop.Standing) (api.IntakeLine, error) {
	known, err := d.look(ctx, i, func() (intake.Design, error) {
		full, err := d.Workshop.Store.Intake(ctx, i.ID)
		return full.Design, err
	})
	out := api.IntakeLine{
		Id: i.ID, Name: i.Name, Slug: i.Slug, Changed: i.Changed(), State: api.IntakeState(i.State), Updated: i.Updated,
		Submissions: i.Submissions, Unfinished: i.Unfinished, Failed: i.Failed, Faults: known.findings.Faults(), Fields: known.fields,
	}
	if !i.Opened.IsZero() {
		out.Opened = &i.Opened
	}
	return out, err
}

// intakesPage is how many lines a page of intakes or people has: they are chosen from lists of their names, which are read whole.
const intakesPage = 200

func (d *handlers) ListIntakes(ctx context.Context, r api.ListIntakesRequestObject) (api.ListIntakesResponseObject, error) {
	who := whoIs(ctx)
	var after workshop.Position
	if err := readCursor("intakes", r.Params.Cursor, &after.Updated, &after.ID); err != nil {
		return nil, err
	}
	all, err := d.Workshop.Store.Intakes(ctx, who.Scope(access.Look), after, intakesPage+1)
	if err != nil {
		return nil, err
	}
	all, next := pageOf("intakes", all, intakesPage, func(i workshop.Standing) []any { return []any{i.Updated, i.ID} })
	out := api.ListIntakes200JSONResponse{Entries: []api.IntakeLine{}, Next: next}
	for _, i := range all {
		line, err := d.line(ctx, counted(who, i))
		if err != nil {
			return nil, err
		}
		out.Entries = append(out.Entries, line)
	}
	return out, nil
}

func (d *handlers) AddIntake(ctx context.Context, r api.AddIntakeRequestObject) (api.AddIntakeResponseObject, error) {
	var i workshop.Intake
	var err error
	switch {
	case r.Body.File != nil:
		i, err = d.Workshop.AddFile(ctx, []byte(*r.Body.File))
	case r.Body.Design != nil:
		i, err = d.Workshop.Add(ctx, *r.Body.Design)
	case r.Body.Fields != nil:
		i, err = d.Workshop.NewOf(ctx, r.Body.Name, *r.Body.Fields)
	default:
		i, err = d.Workshop.New(ctx, r.Body.Name, r.Body.Questions)
	}
	if err != nil {
		return nil, err
	}
	return api.AddIntake201JSONResponse(d.intake(ctx, i)), nil
}

func (d *handlers) GetIntake(ctx context.Context, r api.GetIntakeRequestObject) (api.GetIntakeResponseObject, error) {
	i, err := d.Workshop.Store.Intake(ctx, r.Id)
	return api.GetIntake200JSONResponse(d.intake(ctx, i)), err
}

// designFile gives an intake's draft as a file.
func (d *handlers) designFile(c *gin.Context) {
	i, ok := d.intakeOf(c)
	if !ok {
		return
	}
	file, err := workshop.Encode(i.Design)
	if err != nil {
		d.fail(c, err)
		return
	}
	c.Header("Content-Disposition", `attachment; filename="`+i.Design.Slug+`.json"`)
	c.Data(http.StatusOK, "application/json", file)
}

// schemaFile gives the form of an intake's draft as a JSON Schema.
func (d *handlers) schemaFile(c *gin.Context) {
	i, ok := d.intakeOf(c)
	if !ok {
		return
	}
	text, err := schema.Write(i.Design.Name, i.Design.Form)
	if err != nil {
		d.fail(c, err)
		return
	}
	c.Header("Content-Disposition", `attachment; filename="`+i.Design.Slug+`.schema.json"`)
	c.Data(http.StatusOK, "application/schema+json", text)
}

// intakeOf finds the intake of a route's id, or answers that there is none.
func (d *handlers) intakeOf(c *gin.Context) (workshop.Intake, bool) {
	id, err := strconv.ParseInt(c.Param("id"), 10, 64)
	if err != nil {
		d.fail(c, register.NotFound)
		return workshop.Intake{}, false
	}
	i, err := d.Workshop.Store.Intake(c.Request.Context(), id)
	if err != nil {
		d.fail(c, err)
	}
	return i, err == nil
}

func (d *handlers) SetDesign(ctx context.Context, r api.SetDesignRequestObject) (api.SetDesignResponseObject, error) {
	i, err := d.Workshop.Change(ctx, r.Id, r.Body.Revision, r.Body.Design)
	if err != nil {
		return nil, err
	}
	d.Hub.Changed()
	return api.SetDesign200JSONResponse(d.intake(ctx, i)), nil
}

func (d *handlers) SetOpening(ctx context.Context, r api.SetOpeningRequestObject) (api.SetOpeningResponseObject, error) {
	do := d.Workshop.Close
	switch {
	case r.Body.Open:
		do = d.Workshop.Open
	case value(r.Body.Paused):
		do = d.Workshop.Pause
	}
	i, err := do(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	d.Hub.Changed()
	return api.SetOpening200JSONResponse(d.intake(ctx, i)), nil
}

func pathFindings(l finding.List) []api.PathFinding {
	out := make([]api.PathFinding, 0, len(l))
	for _, f := range l {
		if f.Level == finding.Fault {
			out = append(out, api.PathFinding{Path: f.Place, Message: strings.TrimSpace(f.Message + " " + f.Mend)})
		}
	}
	return out
}

func size(bytes int64) string {
	if bytes >= 1<<20 {
		return fmt.Sprintf("%d MB", bytes>>20)
	}
	return fmt.Sprintf("%d kB", bytes>>10)
}

func optional[T ~string](s T) *T {
	if s == "" {
		return nil
	}
	return &s
}

func value[T any](p *T) T {
	if p == nil {
		var zero T
		return zero
	}
	return *p
}
