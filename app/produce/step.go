package produce

import (
	"context"
	"errors"
	"strings"
	"time"

	"amberseal/app/dossier"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/ask/form"
	"amberseal/core/plan"
	"amberseal/core/print/paper"
	"amberseal/core/print/seal"
	"amberseal/core/words/house"
)

// Shelf is where pictures of designs and the files of submissions lie.
type Shelf interface {
	Picture(ctx context.Context, name string) ([]byte, error)
	Font(ctx context.Context, name string) ([]byte, error)
	Brought(ctx context.Context, name string) ([]byte, error)
	Ground(ctx context.Context, name string) ([]byte, error)
	Upload(ctx context.Context, id string) (form.File, []byte, error)
}

// Pictures finds what documents print on a shelf: pictures and files of the design, fonts of the house, photos of the submission.
func Pictures(ctx context.Context, shelf Shelf) paper.Pictures {
	return func(name string) ([]byte, error) {
		if id, ok := paper.FileID(name); ok {
			_, data, err := shelf.Upload(ctx, id)
			return data, err
		}
		if font, ok := paper.FontName(name); ok {
			return shelf.Font(ctx, font)
		}
		if file, ok := paper.BroughtName(name); ok {
			return shelf.Brought(ctx, file)
		}
		if file, ok := paper.GroundName(name); ok {
			return shelf.Ground(ctx, file)
		}
		return shelf.Picture(ctx, name)
	}
}

// CheckAddress is the page on which anybody can ask whether the document with a code is genuine, or empty where the house
// does not say where its pages are reached.
func CheckAddress(h house.House, code string) string { return h.Link("/check/" + code) }

// longestCourtesy is how long a document waits at most for respondents to be answered first.
const longestCourtesy = 150 * time.Millisecond

// longestMaking is how long making a document may take.
const longestMaking = 3 * time.Minute

// Hand makes the documents of submissions. While busy says that respondents wait for their
// acknowledgement it gives way to them for a moment.
func Hand(dossiers *dossier.Opener, shelf Shelf, now func() time.Time, busy func() bool, apart func(context.Context) Apart) work.Hand {
	return work.Hand{Longest: longestMaking, Do: func(ctx context.Context, j work.Job) (work.Outcome, error) {
		for waited := time.Duration(0); waited < longestCourtesy && busy(); waited += 5 * time.Millisecond {
			select {
			case <-ctx.Done():
				return work.Outcome{}, ctx.Err()
			case <-time.After(5 * time.Millisecond):
			}
		}
		d, err := dossiers.Open(ctx, j)
		if err != nil {
			return work.Outcome{}, err
		}
		at := now().UTC()
		facts, code := d.Facts(at), seal.Code(d.Secret, d.Submission.Ref, j.Key, d.Submission.Revision)
		facts.Check = CheckAddress(d.House, code)
		from := newSources(ctx, shelf)
		c, err := Compose(d.Design, j.Key, facts, from.picture, apart(ctx))
		if err := from.verdict(ctx, facts.Answers); err != nil {
			return work.Outcome{}, err
		}
		var passing Passing
		switch {
		case errors.Is(err, ErrBusy):
			return work.Outcome{}, work.Again{Reason: "Others' documents with sent pages are made first."}
		case errors.As(err, &passing):
			return work.Outcome{}, work.Again{Reason: "The document could not be made now: " + err.Error() + "."}
		case err != nil:
			return work.Outcome{}, work.GiveUp{Reason: "The document could not be made: " + err.Error() + "."}
		}
		var word []byte
		if d.Design.SendsWord(j.Key) {
			word, err = Word(d.Design, j.Key, facts, from.picture)
			if err := from.verdict(ctx, facts.Answers); err != nil {
				return work.Outcome{}, err
			}
			if err != nil {
				return work.Outcome{}, work.GiveUp{Reason: "The word-processor file could not be filled: " + err.Error() + "."}
			}
		}
		var told []string
		for _, f := range c.Findings {
			told = append(told, strings.TrimSuffix(f.Message, "."))
		}
		made := &register.Document{
			Key: j.Key, Name: j.Name, FileName: c.FileName, Code: code, Pages: c.Pages, Size: len(c.PDF), Made: at,
			Told: strings.Join(told, ". "), PDF: c.PDF, Word: word,
		}
		return work.Outcome{
			Result: register.Pages(c.Pages), Records: []register.Record{made}, Signals: []plan.Signal{plan.Made(j.Key)},
			Carry: d.With(made),
		}, nil
	}}
}
