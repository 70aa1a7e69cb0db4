// Package dossier is a submission as its hands need it: with the design that it answered, the house that asked, and the documents
// that were made of it. It comes from the store, or from the hand before.
package dossier

import (
	"context"
	"errors"
	"time"

	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/ask/form"
	"amberseal/core/intake"
	"amberseal/core/link"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

// Store has submissions, their documents and the house.
type Store interface {
	House(ctx context.Context) (house.House, error)
	Submission(ctx context.Context, id int64) (register.Submission, intake.Design, error)
	DocumentRevision(ctx context.Context, submission int64, key string, revision int) (register.Document, error)
	Upload(ctx context.Context, id string) (form.File, []byte, error)
	FixedFile(ctx context.Context, file string) ([]byte, error)
	FiledLink(ctx context.Context, submission int64, destination string) (string, error)
}

// Opener opens dossiers.
type Opener struct {
	Store  Store
	Secret link.Secret // the house's, on which personal links hang
}

// Dossier is one submission's. It is for one hand at a time, and handed on whole.
type Dossier struct {
	Submission register.Submission
	Design     intake.Design
	House      house.House
	Secret     link.Secret

	store Store
	run   int
	made  *register.Document
}

// Open gives the dossier that a job is about.
func (d *Opener) Open(ctx context.Context, j work.Job) (*Dossier, error) {
	if x, ok := j.Carried.(*Dossier); ok {
		return x, nil
	}
	x, err := d.Of(ctx, j.Subject.ID, j.Subject.Run)
	if errors.Is(err, register.NotFound) {
		return nil, work.GiveUp{Reason: "The submission is not there any more."}
	}
	if err == nil && x.Submission.Revision != j.Subject.Run {
		return nil, work.GiveUp{Reason: "The answers were corrected meanwhile."}
	}
	return x, err
}

// Of gives the dossier of a submission; its documents are those of a revision.
func (d *Opener) Of(ctx context.Context, submission int64, run int) (*Dossier, error) {
	s, design, err := d.Store.Submission(ctx, submission)
	if err != nil {
		return nil, err
	}
	h, err := d.Store.House(ctx)
	return &Dossier{Submission: s, Design: design, House: h, Secret: d.Secret, store: d.Store, run: run}, err
}

// With is the dossier with a document that was just made, to be handed on.
func (d *Dossier) With(made *register.Document) *Dossier {
	next := *d
	next.made = made
	return &next
}

// Document gives a document of the submission with its bytes.
func (d *Dossier) Document(ctx context.Context, key string) (register.Document, error) {
	if d.made != nil && d.made.Key == key {
		return *d.made, nil
	}
	return d.store.DocumentRevision(ctx, d.Submission.ID, key, d.run)
}

// Facts are those of the submission at a time. The link to correct it is left out: only a message to the respondent may
// carry that.
func (d *Dossier) Facts(now time.Time) phrase.Facts {
	s := d.Submission
	return phrase.Facts{
		House: d.House, Intake: d.Design.Name, Form: d.Design.Form, Answers: form.Load(d.Design.Form, s.Answers),
		Number: s.Number, Received: s.Received, Made: now,
		Revision: s.Revision, Anew: d.Design.Opening.Anew, Language: s.Language,
		Link: d.House.Link(d.Design.ReadPath(d.Secret.Token(link.Read, s.Ref, s.Links))),
	}
}

// CorrectLink is the page on which who sent it may correct it, or empty where that is not allowed.
func (d *Dossier) CorrectLink() string {
	if !d.Design.Opening.Correct {
		return ""
	}
	return d.House.Link(d.Design.CorrectPath(d.Secret.Token(link.Correct, d.Submission.Ref, d.Submission.Links)))
}
