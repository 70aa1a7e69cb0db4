// Package receive takes in what respondents send. A submission is acknowledged only after
// it, its number and everything that is to be done with it lie in one commit.
package receive

import (
	"context"
	"crypto/rand"
	"errors"
	"slices"
	"sync/atomic"
	"time"

	"amberseal/app/invite"
	"amberseal/app/register"
	"amberseal/app/workshop"
	"amberseal/core/ask/form"
	"amberseal/core/intake"
	"amberseal/core/link"
	"amberseal/core/plan"
	"amberseal/core/words/finding"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

// Published is an intake as respondents meet it.
type Published struct {
	IntakeID int64
	Version  int
	State    workshop.State
	Design   intake.Design
}

// Arrival is a checked submission on its way into the database.
type Arrival struct {
	Published Published
	Person    string
	Language  string // that the form was read in, as BCP 47; empty for the house's
	Words     string // what the register finds it by
	Answers   form.Answers
	Steps     []plan.Step
	Ref       string   // what its personal links are about
	Once      string   // the sender's key for this submission, so that it is taken in once
	Draft     string   // the token of the draft it began as, which ends with it; or empty
	Reminded  []string // addresses that need not be reminded of answers that they kept for this form: it has come
	Received  time.Time
	Series    string
	NumberOf  func(n int64) string
	Fact      register.Fact
	Void      string // why what is not done of earlier revisions is not done any more
	Unique    []Unique
	Limit     int    // of submissions to the intake; 0 for none
	Own       bool   // the house hands it in itself
	Invited   string // the ref of the invitation it answers, or empty
}

// Unique is an answer that no two submissions of an intake share.
type Unique struct{ Field, Value string }

// Kept is a submission as it lies in the database.
type Kept struct {
	Number string
	Ref    string
	Links  int
}

// Receipt acknowledges a submission. Its tokens open it for reading, and for correcting where that is allowed.
type Receipt struct {
	Number    string
	Read      string
	Correct   string
	Revision  int
	Received  time.Time
	Documents []Link
	Thanks    []string // paragraphs
	Onward    string
}

// Link is a document of a submission that its sender may fetch.
type Link struct{ Key, Name string }

// Errors of a submission that cannot be taken in.
var (
	ErrClosed         = errors.New("this form is closed and takes no answers at present")
	ErrEarly          = errors.New("this form is not open yet")
	ErrFull           = errors.New("this form has taken all the answers it can")
	ErrInvitation     = errors.New("this form is answered by personal invitation")
	ErrInvitationUsed = errors.New("this invitation was used already, was withdrawn, or is not for this form")
	ErrPaused         = errors.New("this form takes no answers for a while")
	ErrChanged        = errors.New("this form has changed since you opened it")
	ErrBusy           = errors.New("too many people send something at this moment; please try again in a moment")
	ErrCorrections    = errors.New("this was corrected as often as it can be; please write to the house")
	ErrNoCorrection   = errors.New("what was sent to this form cannot be corrected by its sender")
	ErrOtherBody      = errors.New("this Idempotency-Key was used before with other answers")
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
	WaitingUpload(ctx context.Context, intake int64, id, once string, corrected int64) (form.File, error)
	House(ctx context.Context) (house.House, error)
	Published(ctx context.Context, slug string) (Published, error)
	Earlier(ctx context.Context, intake int64, version int) (intake.Design, time.Time, error)
	Accept(ctx context.Context, a Arrival) (Kept, error)
	Correct(ctx context.Context, a Arrival, submission int64) (revision int, err error)
	// Went gives the keys of the notices of a submission that were sent, of whichever revision.
	Went(ctx context.Context, submission int64) ([]string, error)
	SubmissionByRef(ctx context.Context, ref string) (register.Submission, intake.Design, error)
	SubmissionByOnce(ctx context.Context, intake int64, once string) (register.Submission, intake.Design, error)
	InvitationByRef(ctx context.Context, ref string) (invite.Invitation, error)
	SaveDraft(ctx context.Context, intake int64, token string, fresh bool, answers form.Raw, now time.Time) error
	Draft(ctx context.Context, intake int64, token string) (form.Raw, error)
	Remind(ctx context.Context, intake int64, token string, r Reminder, letter []plan.Step, now time.Time) error // or ErrReminders
}

// Counter is the place where submissions are handed in.
type Counter struct {
	Store   Store
	Secret  link.Secret
	Now     func() time.Time
	Arrived func()      // called after each commit, so that work begins at once
	Resting func() bool // the house takes nothing in meanwhile; nil where it never rests

	underWay atomic.Int32
}

// Busy reports whether somebody waits for an acknowledgement, so that work that can wait gives
// way.
func (c *Counter) Busy() bool { return c.underWay.Load() > 0 }

// MostCorrections is how often a submission can be corrected by who sent it: each time it mails whom it names.
const MostCorrections = 20

// mostUnderWay is how many submissions wait for their acknowledgement before more are sent away: they would wait longer than a
// browser does.
const mostUnderWay = 600

// Form is what a respondent is asked.
func (c *Counter) Form(ctx context.Context, slug string) (Published, house.House, error) {
	p, err := c.Store.Published(ctx, slug)
	if err != nil {
		return p, house.House{}, err
	}
	if c.Resting != nil && c.Resting() && p.State == workshop.Open {
		p.State = workshop.Paused
	}
	h, err := c.Store.House(ctx)
	return p, h, err
}

// earlierFor is how long answers to an earlier version are taken after it was replaced: a page may lie open over a weekend.
const earlierFor = 7 * 24 * time.Hour

// FormAs is the form as a respondent saw it: by the version of their page, 0 for the present one. The error is ErrChanged for a
// version that was replaced too long ago.
func (c *Counter) FormAs(ctx context.Context, slug string, version int) (Published, house.House, error) {
	p, h, err := c.Form(ctx, slug)
	if err != nil || version == 0 || version == p.Version {
		return p, h, err
	}
	x, until, err := c.Store.Earlier(ctx, p.IntakeID, version)
	if errors.Is(err, register.NotFound) || err == nil && c.Now().Sub(until) > earlierFor {
		return p, h, ErrChanged
	}
	if err != nil {
		return p, h, err
	}
	// What is asked is judged as it was seen; when and by whom it may be answered is the present version's to say.
	x.Opening, x.Slug = p.Design.Opening, p.Design.Slug
	p.Version, p.Design = version, x
	return p, h, nil
}

// Standing says whether a form takes answers now: nil, ErrClosed, ErrPaused or ErrEarly.
func (p Published) Standing(now time.Time, h house.House) error {
	switch p.State {
	case workshop.Open:
	case workshop.Paused:
		return ErrPaused
	default:
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

// Page is what a respondent's page says of itself with each request.
type Page struct {
	Language   string // the respondent's, or empty
	Version    int    // of the form that it shows, 0 for the present one
	Invitation string // the token it was reached by, or empty
	Correct    string // the token of the submission it corrects, or empty
}

// May says whether the page may have the form's answers judged now: as Submit would, but for what is in them.
func (c *Counter) May(ctx context.Context, p Published, h house.House, page Page) error {
	if err := p.Standing(c.Now(), h); err != nil {
		return err
	}
	if page.Correct != "" {
		_, err := c.corrected(ctx, p, page.Correct)
		return err
	}
	return c.Invited(ctx, p, page.Invitation)
}

// Check says what became of answers that are not handed in yet.
func (c *Counter) Check(ctx context.Context, slug string, page Page, raw form.Raw) (Published, form.Result, phrase.Facts, error) {
	p, h, err := c.FormAs(ctx, slug, page.Version)
	if err == nil {
		err = c.May(ctx, p, h, page)
	}
	if err != nil {
		return p, form.Result{}, phrase.Facts{}, err
	}
	var corrected register.Submission
	if page.Correct != "" {
		if corrected, err = c.corrected(ctx, p, page.Correct); err != nil {
			return p, form.Result{}, phrase.Facts{}, err
		}
	}
	r := c.check(ctx, p, h, page.Language, raw, "", corrected)
	now := c.Now().UTC()
	received := now
	if corrected.ID != 0 {
		received = corrected.Received
	}
	return p, r, phrase.Facts{
		House:    h,
		Intake:   p.Design.Name,
		Form:     p.Design.Form.In(page.Language),
		Answers:  r.Answers,
		Received: received,
		Made:     now,
	}, nil
}

// check judges answers by the day on which they came in first: what has become past since hinders no correction, and none makes other
// deadlines unless the intake says that days are worked out anew.
func (c *Counter) check(
	ctx context.Context,
	p Published,
	h house.House,
	language string,
	raw form.Raw,
	once string,
	corrected register.Submission,
) form.Result {
	at := h.Circumstances(c.Now())
	if corrected.ID != 0 {
		first := h.Circumstances(corrected.Received)
		if !p.Design.Opening.Anew {
			at = first
		}
		at.Received = first.Now
	}
	if language != "" {
		at.Language = language
	}
	at.File = func(id string) (form.File, bool) {
		f, err := c.Store.WaitingUpload(ctx, p.IntakeID, id, once, corrected.ID)
		return f, err == nil
	}
	return form.Check(p.Design.Form, raw, at)
}

// Sending is answers on their way in, with what comes along. Only Answers is needed.
type Sending struct {
	Page
	Answers form.Raw
	Own     bool                     // the house hands it in itself, or a program on its machine
	Once    string                   // the sender's key, so that it is taken in once
	Draft   string                   // the token of the draft it began as
	Refuse  func(guard string) error // who asks for it may refuse, by the form's guard; nil refuses nothing
}

// Submit checks answers and takes them in.
func (c *Counter) Submit(ctx context.Context, slug string, in Sending) (Receipt, error) {
	if c.underWay.Add(1) > mostUnderWay {
		c.underWay.Add(-1)
		return Receipt{}, ErrBusy
	}
	defer c.underWay.Add(-1)
	p, h, err := c.FormAs(ctx, slug, in.Version)
	if err != nil {
		return Receipt{}, err
	}
	if err := p.Standing(c.Now(), h); err != nil {
		return Receipt{}, err
	}
	if in.Refuse != nil {
		if err := in.Refuse(p.Design.Opening.Guard); err != nil {
			return Receipt{}, err
		}
	}
	if in.Correct != "" {
		return c.correct(ctx, p, h, in)
	}
	return c.accept(ctx, p, h, in)
}

// accept takes in a new submission.
func (c *Counter) accept(ctx context.Context, p Published, h house.House, in Sending) (Receipt, error) {
	invitation, err := c.Invitation(ctx, p, in.Invitation)
	if err != nil && (invitation.Ref == "" || in.Once == "") { // what was sent before with the same key is sent again
		return Receipt{}, err
	}
	a, facts, err := c.arrival(ctx, p, h, in, register.Submission{})
	if err != nil {
		return Receipt{}, err
	}
	a.Fact, a.Invited, a.Draft = register.Fact{Kind: register.Received}, invitation.Ref, in.Draft
	a.Steps = plan.Start(p.Design, facts)
	if p.Design.Opening.Reminders {
		a.Reminded = addresses(p.Design.Form, a.Answers)
	}
	kept, err := c.Store.Accept(ctx, a)
	if err != nil {
		return Receipt{}, told(err)
	}
	c.Arrived()
	return c.receipt(p, facts, a.Steps, kept, 1), nil
}

// correct puts answers in the place of those that were sent before.
func (c *Counter) correct(ctx context.Context, p Published, h house.House, in Sending) (Receipt, error) {
	s, err := c.corrected(ctx, p, in.Correct)
	if err != nil {
		return Receipt{}, err
	}
	a, facts, err := c.arrival(ctx, p, h, in, s)
	if err != nil {
		return Receipt{}, err
	}
	before := facts
	before.Answers = form.Load(p.Design.Form, s.Answers)
	changed := others(p.Design.Form, before.Answers, a.Answers, facts)
	went, err := c.Store.Went(ctx, s.ID)
	if err != nil {
		return Receipt{}, err
	}
	change := plan.Correct(p.Design, before, facts, func(notice string) bool { return slices.Contains(went, notice) })
	a.Fact = register.Fact{Kind: register.Corrected, Body: register.FactBody{Fields: changed}}
	a.Steps, a.Void = change.Steps, change.Void
	revision, err := c.Store.Correct(ctx, a, s.ID)
	if err != nil {
		return Receipt{}, told(err)
	}
	c.Arrived()
	return c.receipt(p, facts, a.Steps, Kept{s.Number, s.Ref, s.Links}, revision), nil
}

// others lists the keys of the answers that are others than before.
func others(f form.Form, before, after form.Answers, facts phrase.Facts) []string {
	var changed []string
	for _, x := range f.Fields {
		if x.Answered() && facts.Answer(x, before[x.Key], "") != facts.Answer(x, after[x.Key], "") {
			changed = append(changed, x.Key)
		}
	}
	return changed
}

// told turns an answer that can be given once into a finding at its place.
func told(err error) error {
	var taken Taken
	if !errors.As(err, &taken) {
		return err
	}
	var l finding.List
	l.Fault(taken.Field, "receive.given-before")
	return Invalid{l}
}

// arrival checks the answers and plans what follows. The error is Invalid where they are not right.
func (c *Counter) arrival(
	ctx context.Context,
	p Published,
	h house.House,
	in Sending,
	corrected register.Submission,
) (Arrival, phrase.Facts, error) {
	checked := c.check(ctx, p, h, in.Language, in.Answers, in.Once, corrected)
	if checked.Findings.Faults() > 0 {
		return Arrival{}, phrase.Facts{}, Invalid{checked.Findings}
	}
	now := c.Now().UTC()
	local := now.In(h.Location())
	answers := checked.Answers
	facts := phrase.Facts{House: h, Intake: p.Design.Name, Form: p.Design.Form, Answers: answers, Received: now, Made: now}
	if corrected.ID != 0 {
		facts.Received, facts.Revision, facts.Anew = corrected.Received, corrected.Revision+1, p.Design.Opening.Anew
	}
	return Arrival{
		Published: p, Person: person(p.Design.Form, answers), Language: spoken(in.Language), Words: words(facts), Answers: answers,
		Ref: link.NewRef(rand.Reader), Once: in.Once, Own: in.Own, Received: now,
		Series: p.Design.Number.Series(local), NumberOf: func(n int64) string { return p.Design.Number.Number(n, local) },
		Unique: unique(p.Design, answers), Limit: p.Design.Opening.Limit,
	}, facts, nil
}

func (c *Counter) receipt(p Published, facts phrase.Facts, steps []plan.Step, k Kept, revision int) Receipt {
	facts.Number = k.Number
	r := Receipt{
		Number: k.Number, Read: c.Secret.Token(link.Read, k.Ref, k.Links), Revision: revision, Received: facts.Received,
		Documents: handed(p.Design, steps),
	}
	c.further(&r, p, facts, register.Submission{Ref: k.Ref, Links: k.Links})
	return r
}

// further adds what only who has just sent it is told: how to correct it, thanks, and where to go on.
func (c *Counter) further(r *Receipt, p Published, facts phrase.Facts, s register.Submission) {
	r.Onward = p.Design.Opening.Onward
	if p.Design.Opening.Correct {
		r.Correct = c.Secret.Token(link.Correct, s.Ref, s.Links)
	}
	for _, para := range p.Design.Opening.Thanks {
		r.Thanks = append(r.Thanks, para.Spans.Plain(facts))
	}
}
