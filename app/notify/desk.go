package notify

import (
	"context"
	"crypto/rand"
	"encoding/json"
	"strings"
	"time"

	"amberseal/app/access"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/intake"
	"amberseal/core/link"
	"amberseal/core/notice"
	"amberseal/core/plan"
	"amberseal/core/words/house"
	"amberseal/core/words/locale"
)

// Hold is that messages are held: of an intake, or of the whole house where it is 0.
type Hold struct {
	Intake int64
	Since  time.Time
}

// Kept is what the desk for messages needs of the store. Look-ups of nothing give register.NotFound.
type Kept interface {
	Submission(ctx context.Context, id int64) (register.Submission, intake.Design, error)
	SentBy(ctx context.Context, submission, message int64) (j register.Job, to []string, err error)
	PlanAgain(ctx context.Context, submission int64, steps []plan.Step, by register.Fact, now time.Time) error
	Hold(ctx context.Context, intake int64, now time.Time) error
	Release(ctx context.Context, intake int64, now time.Time) error
}

// Desk is where people look after messages.
type Desk struct {
	Store Kept
	Now   func() time.Time
	Wake  func()

	Posts  Posts
	Secret link.Secret
}

// Trial sends a message that is none of a submission's to one address, marked as a trial. Its errors say in words why it did not go.
func (d *Desk) Trial(ctx context.Context, h house.House, account string, m notice.Message, attached, inline []Attachment, to string) error {
	post, by, err := d.Posts.Post(ctx, account)
	if err != nil {
		return err
	}
	if by.From == "" {
		by.From = h.Email
	}
	if by.From == "" {
		return work.GiveUp{Reason: NoSender}
	}
	l := Letter{
		ID: d.Secret.MessageID("proof", rand.Text()), FromName: h.Name, From: by.From, To: []string{to},
		Subject: locale.For(h.Language).Trial() + ": " + m.Subject, Text: m.Text, HTML: m.HTML, Date: d.Now().UTC(), Attached: attached,
		Inline: inline,
	}
	if m.SenderName != "" {
		l.FromName = m.SenderName
	}
	return post.Send(ctx, l)
}

// Again sends the notice of a message again: to whom it went, or to others. It is a message of its own, with the answers as they are now,
// and who asked for it, for whom, is on record.
func (d *Desk) Again(ctx context.Context, who access.Who, submission, message int64, to []string) error {
	j, before, err := d.Store.SentBy(ctx, submission, message)
	if err != nil {
		return err
	}
	_, design, err := d.Store.Submission(ctx, submission)
	if err != nil {
		return err
	}
	c := plan.Carries{Rule: j.Key}
	if len(j.Body) > 0 {
		if err := json.Unmarshal(j.Body, &c); err != nil {
			return err
		}
	}
	if c.Rule == "" {
		c.Rule = j.Key
	}
	n, ok := find(design.Notices, c.Rule)
	if !ok {
		return register.NotFound
	}
	if len(to) == 0 {
		to = before
	}
	now := d.Now()
	if c.Collection != 0 {
		submission = j.Subject.ID
	}
	fact := register.Fact{Kind: register.Resent, Body: register.FactBody{Job: j.ID, By: who.Person}, Words: strings.Join(to, ", ")}
	if err := d.Store.PlanAgain(ctx, submission, plan.Again(design, n, c, to, now), fact, now); err != nil {
		return err
	}
	d.Wake()
	return nil
}

// Hold holds the messages of an intake, or of the whole house for 0; or lets them go.
func (d *Desk) Hold(ctx context.Context, intake int64, held bool) error {
	if held {
		return d.Store.Hold(ctx, intake, d.Now())
	}
	err := d.Store.Release(ctx, intake, d.Now())
	d.Wake()
	return err
}
