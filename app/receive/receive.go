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
	"sync/atomic"
	"time"

	"amberseal/app/design"
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
}

// Receipt acknowledges a submission.
type Receipt struct {
	Number    string
	Token     string
	Documents []Link
}

// Link is a document of a submission that its sender may fetch.
type Link struct{ Key, Name string }

// Errors of a submission that cannot be taken in.
var (
	ErrClosed    = errors.New("this form is closed and takes no answers at present")
	ErrOtherBody = errors.New("this Idempotency-Key was used before with other answers")
)

// Invalid is the error of answers with findings; each finding's place is a field's key.
type Invalid struct{ Findings finding.List }

func (e Invalid) Error() string { return e.Findings.Err().Error() }

// Store is where submissions are kept. Accept gives number and token of the first
// submission when the same Once came before, or ErrOtherBody when its body differs.
type Store interface {
	House(ctx context.Context) (house.House, error)
	Published(ctx context.Context, slug string) (Published, error)
	Accept(ctx context.Context, a Arrival) (number, token string, err error)
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

// Submit checks answers and takes them in. once may be empty.
func (c *Counter) Submit(ctx context.Context, slug string, raw form.Raw, once string) (Receipt, error) {
	c.underWay.Add(1)
	defer c.underWay.Add(-1)
	p, h, err := c.Form(ctx, slug)
	if err != nil {
		return Receipt{}, err
	}
	if p.State != design.Open {
		return Receipt{}, ErrClosed
	}
	now := c.Now().UTC()
	checked := form.Check(p.Design.Form, raw, h.Circumstances(now))
	if checked.Findings.Faults() > 0 {
		return Receipt{}, Invalid{checked.Findings}
	}
	answers := checked.Answers
	local := now.In(h.Location())
	facts := phrase.Facts{House: h, Intake: p.Design.Name, Form: p.Design.Form, Answers: answers, Received: now, Made: now}
	steps := plan.For(p.Design, facts)
	a := Arrival{
		Published: p, Person: person(p.Design.Form, answers), Words: words(facts), Answers: answers, Steps: steps,
		Token: token(), Once: once, BodyHash: hash(answers), Received: now,
		Series: p.Design.Number.Series(local), NumberOf: func(n int64) string { return p.Design.Number.Number(n, local) },
		Happened: "Received",
	}
	number, tok, err := c.Store.Accept(ctx, a)
	if err != nil {
		return Receipt{}, err
	}
	c.Arrived()
	r := Receipt{Number: number, Token: tok}
	for _, s := range steps {
		if s.Kind == plan.Document {
			r.Documents = append(r.Documents, Link{s.Key, s.Name})
		}
	}
	return r, nil
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
