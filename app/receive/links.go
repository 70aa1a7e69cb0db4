package receive

import (
	"context"
	"errors"

	"amberseal/app/invite"
	"amberseal/app/register"
	"amberseal/core/ask/form"
	"amberseal/core/intake"
	"amberseal/core/link"
	"amberseal/core/plan"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

// Invited says whether a token opens the form: always for a form that needs none.
func (c *Counter) Invited(ctx context.Context, p Published, invitation string) error {
	_, err := c.Invitation(ctx, p, invitation)
	return err
}

// Invitation is the invitation that a page was reached by: none for a form that needs none. The error says what is wrong with it.
func (c *Counter) Invitation(ctx context.Context, p Published, token string) (invite.Invitation, error) {
	if token == "" {
		if p.Design.Opening.Invited {
			return invite.Invitation{}, ErrInvitation
		}
		return invite.Invitation{}, nil
	}
	ref, ok := link.Ref(token)
	if !ok {
		return invite.Invitation{}, ErrInvitationUsed
	}
	x, err := c.Store.InvitationByRef(ctx, ref)
	switch {
	case errors.Is(err, register.NotFound):
		return invite.Invitation{}, ErrInvitationUsed
	case err != nil:
		return invite.Invitation{}, err
	case !c.Secret.Proves(token, link.Invite, ref, x.Links) || x.IntakeID != p.IntakeID || x.State == invite.Withdrawn:
		return invite.Invitation{}, ErrInvitationUsed
	case x.SubmissionID != 0:
		return x, ErrInvitationUsed // it is one, and who holds it may ask again for what was sent with it
	}
	return x, nil
}

// Held is the submission that a personal link is about. The error is register.NotFound where the token is none for the purpose.
func (c *Counter) Held(ctx context.Context, purpose link.Purpose, tok string) (register.Submission, intake.Design, error) {
	ref, ok := link.Ref(tok)
	if !ok {
		return register.Submission{}, intake.Design{}, register.NotFound
	}
	s, d, err := c.Store.SubmissionByRef(ctx, ref)
	if err == nil && !c.Secret.Proves(tok, purpose, ref, s.Links) {
		return register.Submission{}, intake.Design{}, register.NotFound
	}
	return s, d, err
}

// corrected is the submission that a token lets its holder correct, through its own form alone.
func (c *Counter) corrected(ctx context.Context, p Published, tok string) (register.Submission, error) {
	if !p.Design.Opening.Correct {
		return register.Submission{}, ErrNoCorrection
	}
	s, _, err := c.Held(ctx, link.Correct, tok)
	if err == nil && s.IntakeID != p.IntakeID {
		return register.Submission{}, register.NotFound
	}
	return s, err
}

// Sent gives what was sent to a form, for its sender to correct.
func (c *Counter) Sent(ctx context.Context, slug, tok string) (register.Submission, error) {
	p, _, err := c.Form(ctx, slug)
	if err != nil {
		return register.Submission{}, err
	}
	return c.corrected(ctx, p, tok)
}

// ReadAgain is the receipt of a submission for who holds the link to read it.
func (c *Counter) ReadAgain(ctx context.Context, slug, tok string) (Receipt, error) {
	p, h, err := c.Form(ctx, slug)
	if err != nil {
		return Receipt{}, err
	}
	s, d, err := c.Held(ctx, link.Read, tok)
	if err == nil && s.IntakeID != p.IntakeID {
		err = register.NotFound
	}
	if err != nil {
		return Receipt{}, err
	}
	r, _ := c.receiptOf(h, s, d)
	return r, nil
}

// shortestKey is the length of a key by which a sending may be asked after: nobody guesses it.
const shortestKey = 32

// Sending is the receipt of a submission for who sent it with a key and never got the answer. The error is register.NotFound where it did
// not arrive.
func (c *Counter) Sending(ctx context.Context, slug, once string) (Receipt, error) {
	p, h, err := c.Form(ctx, slug)
	if err != nil {
		return Receipt{}, err
	}
	if len(once) < shortestKey {
		return Receipt{}, register.NotFound
	}
	s, d, err := c.Store.SubmissionByOnce(ctx, p.IntakeID, once)
	if err != nil {
		return Receipt{}, err
	}
	r, facts := c.receiptOf(h, s, d)
	c.further(&r, p, facts, s)
	return r, nil
}

// receiptOf is the receipt of a submission as it is read again.
func (c *Counter) receiptOf(h house.House, s register.Submission, d intake.Design) (Receipt, phrase.Facts) {
	facts := phrase.Facts{
		House:    h,
		Intake:   d.Name,
		Form:     d.Form,
		Answers:  form.Load(d.Form, s.Answers),
		Number:   s.Number,
		Received: s.Received,
		Made:     s.Received,
		Revision: s.Revision,
	}
	return Receipt{
		Number: s.Number, Read: c.Secret.Token(link.Read, s.Ref, s.Links), Revision: s.Revision, Received: s.Received,
		Documents: handed(d, plan.Start(d, facts)),
	}, facts
}

// Document is the submission whose document a link opens: one that is for the respondent. The error is register.NotFound for all
// else.
func (c *Counter) Document(ctx context.Context, tok, key string) (register.Submission, error) {
	s, d, err := c.Held(ctx, link.Read, tok)
	if err == nil && !d.ForRespondent(key) {
		return register.Submission{}, register.NotFound
	}
	return s, err
}

// handed are the planned documents that are for the respondent.
func handed(d intake.Design, steps []plan.Step) []Link {
	var out []Link
	for _, s := range steps {
		if s.Kind == plan.Document && d.ForRespondent(s.Key) {
			out = append(out, Link{s.Key, s.Name})
		}
	}
	return out
}
