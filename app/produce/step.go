package produce

import (
	"context"
	"errors"
	"strconv"
	"strings"
	"time"

	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/form"
	"amberseal/core/house"
	"amberseal/core/paper"
	"amberseal/core/seal"
)

// Shelf is where pictures of designs and the files of submissions lie.
type Shelf interface {
	Picture(ctx context.Context, name string) ([]byte, error)
	Font(ctx context.Context, name string) ([]byte, error)
	Upload(ctx context.Context, id string) (form.File, []byte, error)
}

// Pictures finds what documents print on a shelf: pictures of the design, fonts of the house, photos of the submission.
func Pictures(ctx context.Context, shelf Shelf) paper.Pictures {
	return func(name string) ([]byte, error) {
		if id, ok := paper.FileID(name); ok {
			_, data, err := shelf.Upload(ctx, id)
			return data, err
		}
		if font, ok := paper.FontName(name); ok {
			return shelf.Font(ctx, font)
		}
		return shelf.Picture(ctx, name)
	}
}

// CheckAddress is the page on which anybody can ask whether the document with a code is genuine, or empty where the house
// does not say where its pages are reached.
func CheckAddress(h house.House, code string) string { return h.Link("/check/" + code) }

// longestCourtesy is how long a document waits at most for respondents to be answered first.
const longestCourtesy = 100 * time.Millisecond

// Step makes the document of a step. While busy says that respondents wait for their
// acknowledgement it gives way to them for a moment.
func Step(shelf Shelf, now func() time.Time, busy func() bool, join func(context.Context) Join) work.Hand {
	return func(ctx context.Context, j work.Job) (work.Outcome, error) {
		for waited := time.Duration(0); waited < longestCourtesy && busy(); waited += 5 * time.Millisecond {
			select {
			case <-ctx.Done():
				return work.Outcome{}, ctx.Err()
			case <-time.After(5 * time.Millisecond):
			}
		}
		at := now().UTC()
		facts, code := j.Facts(at), seal.Code(j.Secret, j.Submission.Ref, j.Step.Key, j.Submission.Revision)
		facts.Check = CheckAddress(j.House, code)
		c, err := Compose(j.Design, j.Step.Key, facts, Pictures(ctx, shelf), join(ctx))
		switch {
		case errors.Is(err, ErrBusy):
			return work.Outcome{}, work.Again{Reason: "Others' documents with sent pages are made first."}
		case err != nil:
			return work.Outcome{}, work.GiveUp{Reason: "The document could not be made: " + err.Error() + "."}
		}
		pages := strconv.Itoa(c.Pages) + " page"
		if c.Pages > 1 {
			pages += "s"
		}
		happened := j.Step.Name + " made, " + pages
		for _, f := range c.Findings {
			happened += ". " + strings.TrimSuffix(f.Message, ".")
		}
		return work.Outcome{
			Result:   pages,
			Happened: happened,
			Document: &register.Document{Key: j.Step.Key, Name: j.Step.Name, FileName: c.FileName, Code: code, Pages: c.Pages, Size: len(c.PDF), Made: at, PDF: c.PDF},
		}, nil
	}
}
