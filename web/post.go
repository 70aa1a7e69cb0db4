package web

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/mail"
	"time"

	"amberseal/app/access"
	"amberseal/app/bounces"
	"amberseal/app/handing"
	"amberseal/app/notify"
	"amberseal/app/register"
	"amberseal/core/plan"
	"amberseal/core/words/finding"
	"amberseal/web/api"
)

// mostWaiting is how many messages that wait are shown at once.
const mostWaiting = 200

func (d *handlers) ListWaitingMessages(ctx context.Context, r api.ListWaitingMessagesRequestObject) (
	api.ListWaitingMessagesResponseObject, error,
) {
	all, err := d.Records.WaitingMessages(ctx, whoIs(ctx).Scope(access.Records), value(r.Params.Intake), mostWaiting+1)
	out := api.ListWaitingMessages200JSONResponse{Entries: []api.WaitingMessage{}, More: len(all) > mostWaiting}
	for _, w := range all[:min(len(all), mostWaiting)] {
		x := api.WaitingMessage{
			Step: w.ID, SubmissionId: w.Subject.ID, Number: w.Number, Intake: w.Intake, IntakeId: w.Share, Name: w.Name,
			State: api.WaitingMessageState(w.State), Due: w.Due, Reason: optional(w.Reason),
		}
		if w.Members > 0 {
			x.Collected = &w.Members
		}
		var c plan.Carries
		if err := json.Unmarshal(w.Body, &c); err == nil && len(c.Whom)+len(c.Only) > 0 {
			whom := c.Only
			if len(whom) == 0 {
				whom = c.Whom
			}
			x.Only = &whom
		}
		out.Entries = append(out.Entries, x)
	}
	return out, err
}

func (d *handlers) SendAgain(ctx context.Context, r api.SendAgainRequestObject) (api.SendAgainResponseObject, error) {
	var l finding.List
	var to []string
	for _, s := range value(r.Body.To) {
		a, err := mail.ParseAddress(s)
		if err != nil {
			l.Fault("to", "notice.not-an-address", "reason", "“"+s+"” is not an email address")
			continue
		}
		to = append(to, a.Address)
	}
	if err := well(l, nil); err != nil {
		return nil, err
	}
	if err := d.Post.Again(ctx, whoIs(ctx), r.Id, r.Message, to); err != nil {
		return nil, err
	}
	d.Hub.Changed()
	return api.SendAgain204Response{}, nil
}

func (d *handlers) GetMessageSource(ctx context.Context, r api.GetMessageSourceRequestObject) (api.GetMessageSourceResponseObject, error) {
	all, err := d.Records.Messages(ctx, whoIs(ctx).Scope(access.Records), register.MessageQuery{Submission: r.Id, ID: r.Message, Limit: 1})
	if err == nil && len(all) == 0 {
		err = register.NotFound
	}
	if err != nil {
		return nil, err
	}
	source, err := d.Source(notify.As(all[0]))
	return api.GetMessageSource200TextResponse(source), err
}

func (d *handlers) StopStep(ctx context.Context, r api.StopStepRequestObject) (api.StopStepResponseObject, error) {
	if err := d.Records.Stop(ctx, r.Id, r.Step, d.Now()); err != nil {
		return nil, err
	}
	d.Hub.Changed()
	return api.StopStep204Response{}, nil
}

func (d *handlers) WithdrawHanded(ctx context.Context, r api.WithdrawHandedRequestObject) (api.WithdrawHandedResponseObject, error) {
	if err := d.Records.WithdrawHanded(ctx, r.Id, r.Handed, d.Now()); err != nil {
		return nil, err
	}
	d.Hub.Changed()
	return api.WithdrawHanded204Response{}, nil
}

// handed are the files of a submission that were given by links.
func (d *handlers) handed(s register.Submission, all []handing.Handed) []api.HandedFile {
	when := func(t time.Time) *time.Time {
		if t.IsZero() {
			return nil
		}
		return &t
	}
	out := []api.HandedFile{}
	for _, x := range all {
		f := api.HandedFile{
			Id: x.ID, Name: x.What.Name, Notice: x.What.Notice, Made: x.Made, Expires: when(x.Expires), Opened: x.Opened,
			Last:     when(x.Last),
			Standing: api.HandedFileStandingOpen,
		}
		if x.Most > 0 {
			f.Most = &x.Most
		}
		switch {
		case x.Withdrawn || x.Links != s.Links:
			f.Standing = api.HandedFileStandingWithdrawn
		case !x.Expires.IsZero() && !d.Now().Before(x.Expires), x.Most > 0 && x.Opened >= x.Most:
			f.Standing = api.HandedFileStandingOver
		}
		out = append(out, f)
	}
	return out
}

func (d *handlers) ListHolds(ctx context.Context, _ api.ListHoldsRequestObject) (api.ListHoldsResponseObject, error) {
	all, err := d.Records.Holds(ctx, whoIs(ctx).Scope(access.Records))
	out := api.ListHolds200JSONResponse{}
	for _, h := range all {
		x := api.Hold{Since: h.Since}
		if h.Intake != 0 {
			x.Intake = &h.Intake
		}
		out = append(out, x)
	}
	return out, err
}

func (d *handlers) HoldHouse(ctx context.Context, r api.HoldHouseRequestObject) (api.HoldHouseResponseObject, error) {
	return api.HoldHouse204Response{}, d.hold(ctx, 0, r.Body.Held)
}

func (d *handlers) HoldIntake(ctx context.Context, r api.HoldIntakeRequestObject) (api.HoldIntakeResponseObject, error) {
	if _, err := d.Workshop.Store.Intake(ctx, r.Id); err != nil {
		return nil, err
	}
	return api.HoldIntake204Response{}, d.hold(ctx, r.Id, r.Body.Held)
}

func (d *handlers) hold(ctx context.Context, intake int64, held bool) error {
	err := d.Post.Hold(ctx, intake, held)
	d.Hub.Changed()
	return err
}

func (d *handlers) TakeBounce(ctx context.Context, r api.TakeBounceRequestObject) (api.TakeBounceResponseObject, error) {
	raw, err := io.ReadAll(r.Body)
	if err != nil {
		return nil, unprocessable{fmt.Errorf("the report is larger than %s", size(mostOf("POST", "/api/bounces")))}
	}
	number, err := d.Bounces.Take(ctx, raw)
	if errors.Is(err, bounces.ErrNoReport) || errors.Is(err, bounces.ErrOthers) {
		return nil, unprocessable{err}
	}
	if err != nil {
		return nil, err
	}
	d.Hub.Changed()
	return api.TakeBounce200JSONResponse{Number: number}, nil
}
