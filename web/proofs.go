package web

import (
	"cmp"
	"context"
	"fmt"
	"path"
	"slices"
	"strings"
	"time"

	"amberseal/app/access"
	"amberseal/app/notify"
	"amberseal/app/produce"
	"amberseal/app/register"
	"amberseal/core/ask/form"
	"amberseal/core/filing"
	"amberseal/core/notice"
	"amberseal/core/print/seal"
	"amberseal/core/words/phrase"
	"amberseal/web/api"
)

// proofFacts are made-up answers, or those of a submission.
func (d *handlers) proofFacts(ctx context.Context, r api.ProofRequest) (phrase.Facts, error) {
	h, err := d.Office.Store.House(ctx)
	if err != nil {
		return phrase.Facts{}, err
	}
	now := d.Now().UTC()
	facts := phrase.Facts{
		House: h, Intake: r.Design.Name, Form: r.Design.Form, Received: now, Made: now,
		Number: r.Design.Number.Number(
			1,
			now.In(h.Location()),
		), Link: h.Link(r.Design.ReadPath("TOKEN")), Check: produce.CheckAddress(h, seal.Trial),
	}
	facts.Language = value(r.Language)
	if r.Answers == "submission" && r.Submission != nil {
		s, _, err := d.Records.Submission(ctx, *r.Submission)
		if err == nil && !whoIs(ctx).MayOn(access.Records, s.IntakeID) { // what came in is not for who only designs
			err = register.NotFound
		}
		if err != nil {
			return facts, err
		}
		facts.Number, facts.Received, facts.Answers = s.Number, s.Received, form.Load(r.Design.Form, s.Answers)
		facts.Language = cmp.Or(facts.Language, s.Language)
		return facts, nil
	}
	facts.Answers = form.Sample(r.Design.Form, form.SampleKind(r.Answers))
	return facts, nil
}

func (d *handlers) ProofDocument(ctx context.Context, r api.ProofDocumentRequestObject) (api.ProofDocumentResponseObject, error) {
	facts, err := d.proofFacts(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	for i := range r.Body.Design.Documents {
		r.Body.Design.Documents[i].Protect = nil // a proof is looked at without its password
	}
	c, err := produce.Compose(r.Body.Design, r.Body.Key, facts, produce.Pictures(ctx, d.Shelf), d.Apart(ctx))
	if err != nil {
		return nil, unprocessable{err}
	}
	return api.ProofDocument200JSONResponse(proofOf(c)), nil
}

// notice is a message of a proof, with the notice that it is of and when it would go.
func (d *handlers) notice(ctx context.Context, r api.ProofRequest) (n notice.Notice, m notice.Message, facts phrase.Facts, due time.Time,
	err error,
) {
	if facts, err = d.proofFacts(ctx, r); err != nil {
		return n, m, facts, due, err
	}
	i := slices.IndexFunc(r.Design.Notices, func(n notice.Notice) bool { return n.Key == r.Key })
	if i < 0 {
		return n, m, facts, due, unprocessable{fmt.Errorf("the design has no notice “%s”", r.Key)}
	}
	n = r.Design.Notices[i]
	if n.ToRespondent(r.Design.Form) && r.Design.Opening.Correct {
		facts.Correct = facts.House.Link(r.Design.CorrectPath("TOKEN"))
	}
	facts.Filed = facts.House.Link("/cabinet") // something to press in the proof
	_, widths, err := notify.Adorn(ctx, d.Office.Store, n)
	if err != nil {
		return n, m, facts, due, err
	}
	with := notice.With{House: n.People, Links: d.linkedOf(r.Design, n, facts), Pictures: widths}
	if n.Collect != nil {
		m = n.OfMany([]notice.Gathered{{Facts: facts, Address: facts.House.Link("/register")}}, with)
		return n, m, facts, n.Collect.Next(d.Now(), facts.House.Location()), nil
	}
	m = n.For(facts, with)
	if m.Problem == "" {
		m.Problem = n.Waits(facts)
	}
	return n, m, facts, n.Due(facts), nil
}

func (d *handlers) ProofNotice(ctx context.Context, r api.ProofNoticeRequestObject) (api.ProofNoticeResponseObject, error) {
	n, m, facts, due, err := d.notice(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	from := facts.House.Name
	if m.SenderName != "" {
		from = m.SenderName
	}
	none := []string{}
	out := api.ProofNotice200JSONResponse{
		From:      from + " <" + facts.House.Email + ">",
		To:        append(none, m.To...),
		Copy:      append(none, m.Copy...),
		BlindCopy: append(none, m.BlindCopy...),
		ReplyTo:   append(none, m.ReplyTo...),
		Subject:   m.Subject,
		Html:      m.HTML,
		Text:      m.Text,
		Attached:  attached(r.Body.Design, n, facts),
		Problem:   optional(m.Problem),
	}
	if !due.IsZero() {
		out.Due = &due
	}
	return out, nil
}

func (d *handlers) SendProof(ctx context.Context, r api.SendProofRequestObject) (api.SendProofResponseObject, error) {
	n, m, facts, _, err := d.notice(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	var files []notify.Attachment
	for _, e := range n.Attach { // what is made of the answers; nobody has sent files for a proof
		x, ok := r.Body.Design.Document(e.Document)
		if !ok || !facts.Condition(x.When) {
			continue
		}
		c, err := produce.Compose(r.Body.Design, e.Document, facts, produce.Pictures(ctx, d.Shelf), d.Apart(ctx))
		if err != nil {
			return nil, unprocessable{err}
		}
		files = append(files, notify.Attachment{Name: c.FileName, Type: "application/pdf", Data: c.PDF})
	}
	inline, _, err := notify.Adorn(ctx, d.Office.Store, n)
	if err != nil {
		return nil, err
	}
	me, err := d.person(ctx)
	if err != nil {
		return nil, err
	}
	to := me.Email
	if err := d.Post.Trial(ctx, facts.House, r.Body.Design.Account, m, files, inline, to); err != nil {
		return nil, unprocessable{err}
	}
	return api.SendProof200JSONResponse{To: to}, nil
}

func (d *handlers) ProofFilings(ctx context.Context, r api.ProofFilingsRequestObject) (api.ProofFilingsResponseObject, error) {
	facts, err := d.proofFacts(ctx, *r.Body)
	if err != nil {
		return nil, err
	}
	out := api.ProofFilings200JSONResponse{}
	for _, x := range r.Body.Design.Filings {
		var pieces []filing.Piece
		for _, p := range carried(r.Body.Design, x.What, facts) {
			pieces = append(pieces, filing.Piece{Title: p.title, Ext: strings.TrimPrefix(path.Ext(p.name), ".")})
		}
		for _, name := range x.Paths(facts, pieces) {
			out = append(out, api.FilingPath{Key: x.Key, Path: name, To: x.Destinations()})
		}
	}
	return out, nil
}
