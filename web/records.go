package web

import (
	"context"
	"errors"
	"fmt"
	"mime"
	"net/http"
	"strconv"
	"time"

	"github.com/gin-gonic/gin"

	"amberseal/app/access"
	"amberseal/app/register"
	"amberseal/app/sheets"
	"amberseal/core/ask/form"
	"amberseal/core/enclosure"
	"amberseal/core/words/phrase"
	"amberseal/web/api"
)

// pageSize is how many lines a page of the register, the post or the cabinet has.
const pageSize = 50

func entry(e register.Entry) api.Entry {
	out := api.Entry{
		Id: e.ID, Number: e.Number, Intake: e.IntakeName, IntakeId: e.IntakeID, Person: e.Person, Received: e.Received,
		State: api.EntryState(e.State()), Steps: make([]api.Step, 0, len(e.Jobs)),
	}
	for _, s := range e.Jobs {
		out.Steps = append(out.Steps, api.Step{
			Id: s.ID, Kind: api.StepKind(s.Kind), Key: s.Key, Name: s.Name, State: api.StepState(s.State), Attempts: s.Attempts,
			Reason: optional(s.Reason), Result: optional(s.Result), Due: s.Due, Updated: s.Updated,
		})
	}
	return out
}

func (d *handlers) GetDesk(ctx context.Context, _ api.GetDeskRequestObject) (api.GetDeskResponseObject, error) {
	records := whoIs(ctx).Scope(access.Records)
	counts, err := d.Records.Count(ctx, records)
	if err != nil {
		return nil, err
	}
	seen, err := d.Records.Count(ctx, whoIs(ctx).Scope(access.Look))
	if err != nil {
		return nil, err
	}
	amiss, err := d.Records.AmissIn(ctx, records)
	if err != nil {
		return nil, err
	}
	unsent, err := d.Records.UnsentInvitations(ctx, records)
	if err != nil {
		return nil, err
	}
	out := api.GetDesk200JSONResponse{
		Amiss: amiss, Unsent: unsent, Entries: []api.Entry{},
		All: counts.All, Failed: counts.Failed, Unfinished: counts.Unfinished, Intakes: seen.Intakes,
	}
	if since := d.Rest.Since(); !since.IsZero() {
		out.Resting = &since
	}
	for _, state := range []string{"failed", "unfinished"} {
		entries, err := d.Records.Entries(ctx, register.Query{Scope: records, State: state, Limit: 12})
		if err != nil {
			return nil, err
		}
		for _, e := range entries {
			out.Entries = append(out.Entries, entry(e))
		}
	}
	return out, nil
}

const mostSkipped = 1_000_000

func (d *handlers) WakeHouse(ctx context.Context, r api.WakeHouseRequestObject) (api.WakeHouseResponseObject, error) {
	if r.Body.Skip < 0 || r.Body.Skip > mostSkipped {
		return nil, unprocessable{errors.New("say how many numbers are passed over: none, or up to a million")}
	}
	return api.WakeHouse204Response{}, d.Rest.Wake(ctx, whoIs(ctx), int64(r.Body.Skip))
}

func (d *handlers) ListSubmissions(ctx context.Context, r api.ListSubmissionsRequestObject) (api.ListSubmissionsResponseObject, error) {
	p, scope := r.Params, whoIs(ctx).Scope(access.Records)
	var before int64
	if err := readCursor("submissions", p.Cursor, &before); err != nil {
		return nil, err
	}
	entries, err := d.Records.Entries(ctx, register.Query{
		Scope: scope, Intake: value(p.Intake), State: string(value(p.State)), Words: value(p.Words), Before: before, Limit: pageSize + 1,
	})
	if err != nil {
		return nil, err
	}
	counts, err := d.Records.Count(ctx, scope)
	if err != nil {
		return nil, err
	}
	entries, next := pageOf("submissions", entries, pageSize, func(e register.Entry) []any { return []any{e.ID} })
	out := api.ListSubmissions200JSONResponse{
		Entries:    []api.Entry{},
		Next:       next,
		All:        counts.All,
		Failed:     counts.Failed,
		Unfinished: counts.Unfinished,
	}
	for _, e := range entries {
		out.Entries = append(out.Entries, entry(e))
	}
	return out, nil
}

func (d *handlers) GetSubmission(ctx context.Context, r api.GetSubmissionRequestObject) (api.GetSubmissionResponseObject, error) {
	s, x, err := d.Records.Submission(ctx, r.Id)
	if err != nil {
		return nil, err
	}
	jobs, err := d.Records.Jobs(ctx, s.ID)
	if err != nil {
		return nil, err
	}
	documents, err := d.Records.Documents(ctx, s.ID)
	if err != nil {
		return nil, err
	}
	history, err := d.Records.History(ctx, s.ID)
	if err != nil {
		return nil, err
	}
	messages, err := d.Records.Messages(ctx, access.Everywhere, register.MessageQuery{Submission: s.ID, Limit: pageSize})
	if err != nil {
		return nil, err
	}
	handed, err := d.Records.HandedOf(ctx, s.ID)
	if err != nil {
		return nil, err
	}
	h, err := d.Office.Store.House(ctx)
	if err != nil {
		return nil, err
	}
	facts := phrase.Facts{House: h, Form: x.Form, Answers: form.Load(x.Form, s.Answers), Received: s.Received, Made: s.Received}
	out := api.GetSubmission200JSONResponse{
		Entry: entry(register.Entry{Submission: s, Jobs: jobs}), Version: s.Version, Language: optional(s.Language),
		Answers: []api.AnswerLine{}, Documents: []api.MadeDocument{}, Events: []api.Event{}, Messages: apiMessages(messages),
		Handed: d.handed(s, handed),
	}
	shown := facts.Shown()
	for _, f := range x.Form.Fields {
		if !shown(f.Key) || f.Kind == form.Text || f.Kind == form.Picture || f.Kind == form.Page && f.Label == "" {
			continue
		}
		out.Answers = append(
			out.Answers,
			api.AnswerLine{
				Key:     f.Key,
				Label:   f.Label,
				Text:    facts.Text(f),
				Section: f.Kind == form.Section || f.Kind == form.Page,
				Files:   fileLinks(facts.Answers[f.Key]),
			},
		)
	}
	for _, doc := range documents {
		made := api.MadeDocument{
			Key: doc.Key, Revision: doc.Revision, Name: doc.Name, FileName: doc.FileName, Pages: doc.Pages, Size: doc.Size, Made: doc.Made,
			Href: fmt.Sprintf("/api/submissions/%d/documents/%s?revision=%d", s.ID, doc.Key, doc.Revision),
		}
		if doc.HasWord {
			made.Word = optional(made.Href + "&as=" + string(enclosure.DOCX))
		}
		if doc.Code != "" {
			made.Check = optional("/check/" + doc.Code)
		}
		out.Documents = append(out.Documents, made)
	}
	for _, l := range history {
		out.Events = append(out.Events, api.Event{At: l.At, Kind: string(l.Kind), What: l.Sentence(x.Form)})
	}
	return out, nil
}

// returned are those from whom a message came back.
func returned(all []register.Returned) []api.ReturnedMail {
	out := []api.ReturnedMail{}
	for _, r := range all {
		out = append(out, api.ReturnedMail{Address: r.Address, Reason: r.Reason})
	}
	return out
}

func apiMessages(all []register.Message) []api.Message {
	none := []string{}
	out := make([]api.Message, 0, len(all))
	for _, m := range all {
		out = append(out, api.Message{
			Id: m.ID, SubmissionId: m.SubmissionID, Number: m.Number, Intake: m.Intake, Name: m.Name, To: m.To, Copy: append(none,
				m.Copy...),
			BlindCopy: append(none, m.Blind...), ReplyTo: append(none, m.ReplyTo...), Subject: m.Subject, Html: m.HTML, Text: m.Text,
			Attached: m.Attached, Sent: m.Sent, Returned: returned(m.Returned),
		})
	}
	return out
}

func (d *handlers) RetryStep(ctx context.Context, r api.RetryStepRequestObject) (api.RetryStepResponseObject, error) {
	if err := d.Records.Retry(ctx, r.Id, r.Step, d.Now()); err != nil {
		return nil, err
	}
	d.Wake()
	d.Hub.Changed()
	return api.RetryStep204Response{}, nil
}

func (d *handlers) RetryAll(ctx context.Context, r api.RetryAllRequestObject) (api.RetryAllResponseObject, error) {
	n, err := d.Records.RetryAll(ctx, whoIs(ctx).Scope(access.Handle), value(r.Body.Intake), d.Now())
	if err != nil {
		return nil, err
	}
	d.Wake()
	d.Hub.Changed()
	return api.RetryAll200JSONResponse{Count: n}, nil
}

func (d *handlers) WithdrawLinks(ctx context.Context, r api.WithdrawLinksRequestObject) (api.WithdrawLinksResponseObject, error) {
	return api.WithdrawLinks204Response{}, d.Records.WithdrawLinks(ctx, r.Id, d.Now())
}

func (d *handlers) ListMessages(ctx context.Context, r api.ListMessagesRequestObject) (api.ListMessagesResponseObject, error) {
	var before int64
	if err := readCursor("messages", r.Params.Cursor, &before); err != nil {
		return nil, err
	}
	all, err := d.Records.Messages(ctx, whoIs(ctx).Scope(access.Records), register.MessageQuery{
		Intake: value(r.Params.Intake), Words: value(r.Params.Words), Before: before, Limit: pageSize + 1,
	})
	all, next := pageOf("messages", all, pageSize, func(m register.Message) []any { return []any{m.ID} })
	return api.ListMessages200JSONResponse{Entries: apiMessages(all), Next: next}, err
}

func (d *handlers) ListFilings(ctx context.Context, r api.ListFilingsRequestObject) (api.ListFilingsResponseObject, error) {
	var before int64
	if err := readCursor("filings", r.Params.Cursor, &before); err != nil {
		return nil, err
	}
	all, err := d.Records.Filed(ctx, whoIs(ctx).Scope(access.Records), register.FiledQuery{
		Destination: value(r.Params.Destination), Folder: value(r.Params.Folder), Here: value(r.Params.Here),
		Words: value(r.Params.Words), Amiss: value(r.Params.Amiss), Before: before, Limit: pageSize + 1,
	})
	if err != nil {
		return nil, err
	}
	all, next := pageOf("filings", all, pageSize, func(f register.Filed) []any { return []any{f.ID} })
	out := api.ListFilings200JSONResponse{Entries: []api.Filed{}, Next: next}
	for _, f := range all {
		out.Entries = append(
			out.Entries,
			api.Filed{
				Id: f.ID, SubmissionId: f.SubmissionID, Number: f.Number, Intake: f.Intake, Destination: f.Destination, Title: f.Title,
				Path: f.Path, Link: optional(f.Link), Size: f.Size, At: f.At,
			},
		)
		if amiss := api.FiledAmiss(f.Standing); amiss != "" {
			out.Entries[len(out.Entries)-1].Amiss = &amiss
		}
	}
	return out, nil
}

func (d *handlers) ListFolders(ctx context.Context, r api.ListFoldersRequestObject) (api.ListFoldersResponseObject, error) {
	var after string
	if err := readCursor("folders", r.Params.Cursor, &after); err != nil {
		return nil, err
	}
	all, err := d.Records.FiledFolders(ctx, whoIs(ctx).Scope(access.Records), register.FolderQuery{
		Destination: value(r.Params.Destination), Folder: value(r.Params.Folder), After: after, Limit: pageSize + 1,
	})
	if err != nil {
		return nil, err
	}
	all, next := pageOf("folders", all, pageSize, func(f register.FiledFolder) []any { return []any{f.Name} })
	out := api.ListFolders200JSONResponse{Entries: []api.Folder{}, Next: next}
	for _, f := range all {
		out.Entries = append(out.Entries, api.Folder{Name: f.Name, Files: f.Files, Amiss: f.Amiss})
	}
	return out, nil
}

// document serves a submission's document to the workshop.
func (d *handlers) document(c *gin.Context) {
	id, err := strconv.ParseInt(c.Param("id"), 10, 64)
	if err != nil {
		d.fail(c, register.NotFound)
		return
	}
	revision, err := strconv.Atoi(c.DefaultQuery("revision", "0"))
	if err != nil {
		d.fail(c, register.NotFound)
		return
	}
	doc, err := d.Records.DocumentRevision(c.Request.Context(), id, c.Param("key"), revision)
	if err != nil {
		d.fail(c, err)
		return
	}
	if c.Query("as") == string(enclosure.DOCX) {
		if len(doc.Word) == 0 {
			d.fail(c, register.NotFound)
			return
		}
		c.Header("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": doc.WordName()}))
		c.Header("Cache-Control", "private, no-store")
		c.Data(http.StatusOK, "application/vnd.openxmlformats-officedocument.wordprocessingml.document", doc.Word)
		return
	}
	sendPDF(c, doc)
}

func sendPDF(c *gin.Context, doc register.Document) {
	c.Header("Content-Disposition", mime.FormatMediaType("inline", map[string]string{"filename": doc.FileName}))
	c.Header("Cache-Control", "private, no-store")
	c.Data(http.StatusOK, "application/pdf", doc.PDF)
}

// sheetPage is how many submissions are read at once for a sheet.
const sheetPage = 500

// sheet gives all submissions of an intake as CSV, the oldest first.
func (d *handlers) sheet(c *gin.Context) {
	ctx := c.Request.Context()
	i, ok := d.intakeOf(c)
	if !ok {
		return
	}
	h, err := d.Office.Store.House(ctx)
	if err != nil {
		d.fail(c, err)
		return
	}
	// The columns are those of all versions that were answered; the rows are read and written page by page.
	versions, err := d.Workshop.Store.Versions(ctx, i.ID)
	if err != nil {
		d.fail(c, err)
		return
	}
	forms := map[int]form.Form{}
	for _, v := range versions {
		forms[v.Number] = v.Design.Form
	}
	c.Header("Content-Type", "text/csv; charset=utf-8")
	c.Header("Content-Disposition", `attachment; filename="`+i.Design.Slug+`.csv"`)
	table := sheets.Whole(h, forms)
	sheet := sheets.NewCSV(c.Writer, table.Head())
	out := http.NewResponseController(c.Writer)
	for after := int64(0); err == nil; {
		var page []register.Submission
		if page, err = d.Records.Answered(ctx, i.ID, after, sheetPage); err != nil || len(page) == 0 {
			break
		}
		after = page[len(page)-1].ID
		out.SetWriteDeadline(time.Now().Add(time.Minute)) // as long as somebody reads
		for _, x := range page {
			err = errors.Join(err, sheet.Add(table.Line(x, "")))
		}
	}
	err = errors.Join(err, sheet.Close())
	if err != nil && ctx.Err() == nil {
		d.Log.Error("a sheet broke off", "intake", i.Design.Slug, "error", err)
		panic(http.ErrAbortHandler) // what has been sent must not look whole
	}
}
