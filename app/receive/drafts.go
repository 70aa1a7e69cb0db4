package receive

import (
	"context"
	"crypto/rand"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"amberseal/app/register"
	"amberseal/core/ask/form"
	"amberseal/core/link"
	"amberseal/core/notice"
	"amberseal/core/plan"
)

// DraftsKept is how long answers that were not handed in are kept.
const DraftsKept = 30 * 24 * time.Hour

// SaveDraft keeps answers to go on with elsewhere, under a token that the house makes: one that it made before and still has is
// used again. What the form does not ask is not kept.
func (c *Counter) SaveDraft(ctx context.Context, slug, tok string, page Page, raw form.Raw) (string, error) {
	p, h, err := c.FormAs(ctx, slug, page.Version)
	if err == nil {
		err = c.May(ctx, p, h, page)
	}
	if err != nil {
		return "", err
	}
	known := form.Raw{}
	for _, x := range p.Design.Form.Fields {
		if v, ok := raw[x.Key]; ok && x.Kind.Asks() {
			known[x.Key] = v
		}
	}
	now := c.Now()
	if _, ours := link.Ref(tok); ours {
		err := c.Store.SaveDraft(ctx, p.IntakeID, tok, false, known, now)
		if !errors.Is(err, register.NotFound) {
			return tok, err
		}
	}
	tok = c.Secret.Token(link.GoOn, link.NewRef(rand.Reader), 1)
	return tok, c.Store.SaveDraft(ctx, p.IntakeID, tok, true, known, now)
}

// Draft gives answers that were kept.
func (c *Counter) Draft(ctx context.Context, slug, tok string) (form.Raw, error) {
	p, _, err := c.Form(ctx, slug)
	if err != nil {
		return nil, err
	}
	return c.Store.Draft(ctx, p.IntakeID, tok)
}

// Reminder is who is to be reminded of kept answers, and how.
type Reminder struct {
	Email    string
	Language string // that the form was read in; empty for the house's
	Invited  string // the ref of the invitation by which the page was reached, or empty
}

// MostReminders is how many reminders wait for one address: anybody can name anybody.
const MostReminders = 3

// LatestReminder is in how many days at most a reminder goes: the answers are still there then.
const LatestReminder = 14

// Errors of a reminder that is not to be had.
var (
	ErrNoReminder = errors.New("this form reminds nobody of answers that were kept")
	ErrReminders  = fmt.Errorf("this address is reminded of %d things already; please take another, or keep the link", MostReminders)
)

// Remind plans one message to an address with the link to answers that were kept, in so many days, and tells when it goes; one that was
// asked for before is not sent. The error is Invalid where the address is none.
func (c *Counter) Remind(ctx context.Context, slug, tok, email string, days int, page Page) (time.Time, error) {
	p, h, err := c.Form(ctx, slug)
	if err == nil {
		err = c.May(ctx, p, h, page)
	}
	switch {
	case err != nil:
		return time.Time{}, err
	case !p.Design.Opening.Reminders:
		return time.Time{}, ErrNoReminder
	}
	typed, err := json.Marshal(email)
	if err != nil {
		return time.Time{}, err
	}
	at := h.Circumstances(c.Now())
	if page.Language != "" {
		at.Language = page.Language
	}
	asked := form.Form{Fields: []form.Field{{Key: "email", Kind: form.Email, Label: "Email", Required: true}}}
	checked := form.Check(asked, form.Raw{"email": typed}, at)
	if checked.Findings.Faults() > 0 {
		return time.Time{}, Invalid{checked.Findings}
	}
	r := Reminder{Email: checked.Answers["email"].Text, Language: spoken(page.Language)}
	if page.Invitation != "" {
		r.Invited, _ = link.Ref(page.Invitation)
	}
	now := c.Now().UTC()
	on := now.In(h.Location()) // days are counted on the house's calendar: the hour is the same, also where the clock changes meanwhile
	wall := time.Date(on.Year(), on.Month(), on.Day()+min(max(days, 1), LatestReminder), on.Hour(), on.Minute(), on.Second(), 0, time.UTC)
	due := notice.OnClock(wall, h.Location()).UTC()
	letter := plan.Remind(p.Design.Account, due, now.Add(DraftsKept))
	if err := c.Store.Remind(ctx, p.IntakeID, tok, r, letter, now); err != nil {
		return time.Time{}, err
	}
	c.Arrived()
	return due, nil
}
