// Package receive takes in what respondents send. A submission is acknowledged only after
// it, its number and everything that is to be done with it lie in one commit.
package receive

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"encoding/json"
	"errors"
	"strings"
	"sync/atomic"
	"time"

	"amberseal/app/design"
	"amberseal/app/register"
	"amberseal/core/finding"
	"amberseal/core/form"
	"amberseal/core/house"
	"amberseal/core/intake"
	"amberseal/core/phrase"
	"amberseal/core/plan"
)

// Published is an intake as respondents meet it.
type Published struct {
	IntakeID int64
	Version  int
	State    design.State
	Design   intake.Design
}

// Arrival is a checked submission on its way into the database.
type Arrival struct {
	Published Published
	Person    string
	Words     string // what the register finds it by
	Answers   form.Answers
	Steps     []plan.Step
	Token     string
	Once      string // the sender's key for this submission, so that it is taken in once
	BodyHash  []byte
	Received  time.Time
	Series    string
	NumberOf  func(n int64) string
	Happened  string
	Unique    []Unique
	Limit     int    // of submissions to the intake; 0 for none
	Invited   string // the token of the invitation it answers, or empty
}

// Unique is an answer that no two submissions of an intake share.
type Unique struct{ Field, Value string }

// Receipt acknowledges a submission.
type Receipt struct {
	Number    string
	Token     string
	Documents []Link
	Thanks    []string // paragraphs
	Onward    string
	Correct   bool // by its token
}

// Link is a document of a submission that its sender may fetch.
type Link struct{ Key, Name string }

// Errors of a submission that cannot be taken in.
var (
	ErrClosed       = errors.New("this form is closed and takes no answers at present")
	ErrEarly        = errors.New("this form is not open yet")
	ErrFull         = errors.New("this form has taken all the answers it can")
	ErrInvitation   = errors.New("this form is answered by personal invitation; this one was used already, or is not for it")
	ErrNoCorrection = errors.New("what was sent to this form cannot be corrected by its sender")
	ErrOtherBody    = errors.New("this Idempotency-Key was used before with other answers")
)

// Taken is the error of an answer that another submission has.
type Taken struct{ Field string }

func (t Taken) Error() string { return "somebody has given this answer before: " + t.Field }

// UnreadableCopy is the error of a filled paper copy that cannot be read.
type UnreadableCopy struct{ Reason string }

func (u UnreadableCopy) Error() string { return u.Reason }

// Invalid is the error of answers with findings; each finding's place is a field's key.
type Invalid struct{ Findings finding.List }

func (e Invalid) Error() string { return e.Findings.Err().Error() }

// Store is where submissions are kept. Accept gives number and token of the first
// submission when the same Once came before, ErrOtherBody when its body differs, ErrFull, or Taken.
type Store interface {
	WaitingUpload(ctx context.Context, intake int64, id, once string) (form.File, error)
	House(ctx context.Context) (house.House, error)
	Published(ctx context.Context, slug string) (Published, error)
	Accept(ctx context.Context, a Arrival) (number, token string, err error)
	Correct(ctx context.Context, a Arrival, token string) (number string, err error)
	SubmissionByToken(ctx context.Context, token string) (register.Submission, intake.Design, error)
	InvitationOpen(ctx context.Context, intake int64, token string) (bool, error)
	SaveDraft(ctx context.Context, intake int64, token string, answers form.Raw, now, before time.Time) error
	Draft(ctx context.Context, intake int64, token string) (form.Raw, error)
}

// Counter is the place where submissions are handed in.
type Counter struct {
	Store   Store
	Now     func() time.Time
	Arrived func() // called after each commit, so that work begins at once

	underWay atomic.Int32
}

// Busy reports whether somebody waits for an acknowledgement, so that work that can wait gives
// way.
func (c *Counter) Busy() bool { return c.underWay.Load() > 0 }

// Form is what a respondent is asked.
func (c *Counter) Form(ctx context.Context, slug string) (Published, house.House, error) {
	p, err := c.Store.Published(ctx, slug)
	if err != nil {
		return p, house.House{}, err
	}
	h, err := c.Store.House(ctx)
	return p, h, err
}

// Standing says whether a form takes answers now: nil, ErrClosed or ErrEarly.
func (p Published) Standing(now time.Time, h house.House) error {
	if p.State != design.Open {
		return ErrClosed
	}
	switch p.Design.Opening.At(now.In(h.Location())) {
	case "early":
		return ErrEarly
	case "late":
		return ErrClosed
	}
	return nil
}

// Check says what became of answers that are not handed in yet. language is the respondent's, or empty.
func (c *Counter) Check(ctx context.Context, slug, language string, raw form.Raw) (form.Result, phrase.Facts, error) {
	p, h, err := c.Form(ctx, slug)
	if err != nil {
		return form.Result{}, phrase.Facts{}, err
	}
	r := c.check(ctx, p, h, language, raw, "")
	now := c.Now().UTC()
	return r, phrase.Facts{House: h, Intake: p.Design.Name, Form: p.Design.Form.In(language), Answers: r.Answers, Received: now, Made: now}, nil
}

func (c *Counter) check(ctx context.Context, p Published, h house.House, language string, raw form.Raw, once string) form.Result {
	at := h.Circumstances(c.Now())
	if language != "" {
		at.Language = language
	}
	at.File = func(id string) (form.File, bool) {
		f, err := c.Store.WaitingUpload(ctx, p.IntakeID, id, once)
		return f, err == nil
	}
	return form.Check(p.Design.Form, raw, at)
}

// draftsKept is how long answers that were not handed in are kept.
const draftsKept = 30 * 24 * time.Hour

// SaveDraft keeps answers to go on with elsewhere, under a token that is made when none is given.
func (c *Counter) SaveDraft(ctx context.Context, slug, tok string, raw form.Raw) (string, error) {
	p, _, err := c.Form(ctx, slug)
	if err != nil {
		return "", err
	}
	if tok == "" {
		tok = token()
	}
	now := c.Now()
	return tok, c.Store.SaveDraft(ctx, p.IntakeID, tok, raw, now, now.Add(-draftsKept))
}

// Draft gives answers that were kept.
func (c *Counter) Draft(ctx context.Context, slug, tok string) (form.Raw, error) {
	p, _, err := c.Form(ctx, slug)
	if err != nil {
		return nil, err
	}
	return c.Store.Draft(ctx, p.IntakeID, tok)
}

// Invited says whether a token opens the form: always for a form that needs none.
func (c *Counter) Invited(ctx context.Context, p Published, invitation string) error {
	if invitation == "" && !p.Design.Opening.Invited {
		return nil
	}
	open, err := c.Store.InvitationOpen(ctx, p.IntakeID, invitation)
	if err == nil && !open {
		err = ErrInvitation
	}
	return err
}

// Sent gives what was sent to a form, for its sender to correct.
func (c *Counter) Sent(ctx context.Context, slug, tok string) (number string, raw form.Raw, err error) {
	p, _, err := c.Form(ctx, slug)
	if err != nil {
		return "", nil, err
	}
	if !p.Design.Opening.Correct {
		return "", nil, ErrNoCorrection
	}
	s, _, err := c.Store.SubmissionByToken(ctx, tok)
	if err == nil && s.IntakeID != p.IntakeID {
		err = register.NotFound
	}
	return s.Number, s.Answers, err
}

// Sending is answers on their way in, with what comes along. Only Answers is needed.
type Sending struct {
	Answers    form.Raw
	Language   string
	Once       string // the sender's key, so that it is taken in once
	Invitation string
	Correct    string                   // the token of the submission it corrects
	Refuse     func(guard string) error // who asks for it may refuse, by the form's guard; nil refuses nothing
}

// Submit checks answers and takes them in.
func (c *Counter) Submit(ctx context.Context, slug string, in Sending) (Receipt, error) {
	c.underWay.Add(1)
	defer c.underWay.Add(-1)
	p, h, err := c.Form(ctx, slug)
	if err != nil {
		return Receipt{}, err
	}
	if err := p.Standing(c.Now(), h); err != nil {
		return Receipt{}, err
	}
	now := c.Now().UTC()
	if in.Refuse != nil {
		if err := in.Refuse(p.Design.Opening.Guard); err != nil {
			return Receipt{}, err
		}
	}
	key := in.Once
	switch {
	case in.Correct != "" && !p.Design.Opening.Correct:
		return Receipt{}, ErrNoCorrection
	case in.Correct != "":
		key = in.Correct
	case in.Invitation == "" && p.Design.Opening.Invited:
		return Receipt{}, ErrInvitation
	}
	checked := c.check(ctx, p, h, in.Language, in.Answers, key)
	if checked.Findings.Faults() > 0 {
		return Receipt{}, Invalid{checked.Findings}
	}
	answers := checked.Answers
	local := now.In(h.Location())
	facts := phrase.Facts{House: h, Intake: p.Design.Name, Form: p.Design.Form, Answers: answers, Received: now, Made: now}
	steps := plan.For(p.Design, facts)
	a := Arrival{
		Published: p, Person: person(p.Design.Form, answers), Words: words(facts), Answers: answers, Steps: steps,
		Token: token(), Once: in.Once, Invited: in.Invitation, BodyHash: hash(answers), Received: now,
		Series: p.Design.Number.Series(local), NumberOf: func(n int64) string { return p.Design.Number.Number(n, local) },
		Happened: "Received", Unique: unique(p.Design, answers), Limit: p.Design.Opening.Limit,
	}
	var number, tok string
	if in.Correct != "" {
		a.Happened, tok = "Corrected by who sent it", in.Correct
		number, err = c.Store.Correct(ctx, a, in.Correct)
	} else {
		number, tok, err = c.Store.Accept(ctx, a)
	}
	var taken Taken
	if errors.As(err, &taken) {
		var l finding.List
		l.Fault(taken.Field, "This answer was given before, and can be given once.", "")
		return Receipt{}, Invalid{l}
	}
	if err != nil {
		return Receipt{}, err
	}
	c.Arrived()
	facts.Number = number
	r := Receipt{Number: number, Token: tok, Onward: p.Design.Opening.Onward, Correct: p.Design.Opening.Correct}
	for _, para := range p.Design.Opening.Thanks {
		r.Thanks = append(r.Thanks, para.Spans.Plain(facts))
	}
	for _, s := range steps {
		if s.Kind == plan.Document {
			r.Documents = append(r.Documents, Link{s.Key, s.Name})
		}
	}
	return r, nil
}

// unique lists the answers that no other submission may give.
func unique(d intake.Design, a form.Answers) []Unique {
	var out []Unique
	for _, x := range d.Form.Fields {
		if v := a[x.Key]; !v.Empty() && (x.Unique || x.Key == d.Opening.OnePer) {
			value := v.Text
			if value == "" {
				text, err := json.Marshal(v)
				if err != nil {
					continue
				}
				value = string(text)
			}
			out = append(out, Unique{x.Key, strings.ToLower(value)})
		}
	}
	return out
}

// person is who sent it, as far as the answers tell: a name, else an address.
func person(f form.Form, a form.Answers) string {
	for _, x := range f.Fields {
		if v := a[x.Key]; form.IsName(x) && !v.Empty() {
			return phrase.Facts{}.Answer(x, v, "")
		}
	}
	if x, ok := f.First(form.Email); ok {
		return a[x.Key].Text
	}
	return ""
}

func words(facts phrase.Facts) string {
	var all []byte
	for _, x := range facts.Form.Fields {
		if x.Answered() {
			all = append(all, facts.Text(x)...)
			all = append(all, '\n')
		}
	}
	return string(all)
}

func token() string {
	b := make([]byte, 18)
	rand.Read(b) // never fails
	return base64.RawURLEncoding.EncodeToString(b)
}

// hash tells two bodies apart by their answers' meaning: JSON writes maps in order of keys.
func hash(a form.Answers) []byte {
	body, err := json.Marshal(a)
	if err != nil {
		return nil
	}
	sum := sha256.Sum256(body)
	return sum[:]
}
