package web

import (
	"context"
	"errors"
	"net/mail"
	"time"

	"amberseal/app/accounts"
	"amberseal/app/register"
	"amberseal/core/destination"
	"amberseal/core/words/finding"
	"amberseal/web/api"
)

// entries is the error of entries of the house that have findings.
type entries struct{ finding.List }

func (e entries) Error() string { return "some entries need another look" }

// well is nil where there is no fault among findings.
func well(l finding.List, err error) error {
	if err == nil && l.Faults() > 0 {
		return entries{l}
	}
	return err
}

func (d *handlers) ListDestinations(ctx context.Context, _ api.ListDestinationsRequestObject) (api.ListDestinationsResponseObject, error) {
	all, err := d.Destinations.List(ctx)
	out := api.ListDestinations200JSONResponse{}
	for _, l := range all {
		line := api.DestinationLine{Destination: l.Destination, Secret: l.Secret, Waiting: l.Waiting, Reason: optional(l.Reason)}
		line.Tried, line.FailedAt, line.FailedFor = tried(l.Trial)
		if l.HostKey != "" {
			line.Fingerprint = optional(destination.Fingerprint(l.HostKey))
		}
		out = append(out, line)
	}
	return out, err
}

func (d *handlers) SetDestination(ctx context.Context, r api.SetDestinationRequestObject) (api.SetDestinationResponseObject, error) {
	x := r.Body.Destination
	x.Key = r.Key
	return api.SetDestination204Response{}, well(d.Destinations.Set(ctx, x, r.Body.Secret))
}

func (d *handlers) RemoveDestination(ctx context.Context, r api.RemoveDestinationRequestObject) (api.RemoveDestinationResponseObject,
	error) {
	return api.RemoveDestination204Response{}, d.Destinations.Remove(ctx, r.Key)
}

func (d *handlers) TryDestination(ctx context.Context, r api.TryDestinationRequestObject) (api.TryDestinationResponseObject, error) {
	all, err := d.Destinations.Try(ctx, r.Key)
	out := api.TryDestination200JSONResponse{Parts: []api.TrialPart{}}
	for _, x := range all {
		out.Parts = append(out.Parts, part(string(x.Step), x.Reason))
	}
	return out, err
}

func (d *handlers) ListAccounts(ctx context.Context, _ api.ListAccountsRequestObject) (api.ListAccountsResponseObject, error) {
	all, err := d.Accounts.List(ctx)
	out := api.ListAccounts200JSONResponse{}
	for _, l := range all {
		out = append(out, api.AccountLine{
			Account: l.Account, Given: l.Given, Secret: l.Secret, Record: optional(l.Record), Waiting: l.Waiting,
			Reason: optional(l.Reason), InboxSecret: &l.Inbox, LookFailed: optional(l.Look.Reason),
		})
		line := &out[len(out)-1]
		line.Tried, line.FailedAt, line.FailedFor = tried(l.Trial)
		if at := l.Look.At; !at.IsZero() {
			line.Looked = &at
		}
	}
	return out, err
}

func (d *handlers) SetAccount(ctx context.Context, r api.SetAccountRequestObject) (api.SetAccountResponseObject, error) {
	x := r.Body.Account
	x.Key = r.Key
	return api.SetAccount204Response{}, well(d.Accounts.Set(ctx, x, accounts.Passwords{
		Sending: r.Body.Secret, Inbox: r.Body.InboxSecret,
	}))
}

func (d *handlers) RemoveAccount(ctx context.Context, r api.RemoveAccountRequestObject) (api.RemoveAccountResponseObject, error) {
	return api.RemoveAccount204Response{}, d.Accounts.Remove(ctx, r.Key)
}

func (d *handlers) TryAccount(ctx context.Context, r api.TryAccountRequestObject) (api.TryAccountResponseObject, error) {
	to, err := mail.ParseAddress(r.Body.To)
	if err != nil {
		var l finding.List
		l.Fault("to", "notice.not-an-address", "reason", "“"+r.Body.To+"” is not an email address")
		return nil, entries{l}
	}
	all, err := d.Accounts.Try(ctx, r.Key, to.Address)
	out := api.TryAccount200JSONResponse{Parts: []api.TrialPart{}}
	for _, x := range all {
		out.Parts = append(out.Parts, part(string(x.Step), x.Reason))
	}
	if n := len(all); err != nil || n == 0 || all[n-1].Reason != "" {
		return out, err
	}
	box, err := d.Accounts.Inbox(ctx, r.Key)
	if errors.Is(err, register.NotFound) {
		return out, nil
	}
	if err == nil {
		var reason string
		reason, err = d.Bounces.Look(ctx, box, d.Looks)
		out.Parts = append(out.Parts, part("inbox", reason))
	}
	return out, err
}

// tried is when something was tried last, and at which part that failed and why.
func tried(t register.Trial) (at *time.Time, part, reason *string) {
	if t.At.IsZero() {
		return nil, nil, nil
	}
	return &t.At, optional(t.Part), optional(t.Reason)
}

// part is how a part of a trial ended.
func part(step, reason string) api.TrialPart {
	return api.TrialPart{Part: api.TrialPartPart(step), Reason: optional(reason)}
}
