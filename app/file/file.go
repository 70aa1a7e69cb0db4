// Package file puts the documents of submissions into the cabinet.
package file

import (
	"context"
	"fmt"
	"strings"
	"time"

	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/filing"
)

// Cabinet is a place for files. Put writes a file under a path of folders parted by /, or
// under the path with a count behind it where another file has that name, and gives the
// path used. Equal bytes under the same path are written once, so that a repeated step
// changes nothing. Its errors are work.Again and work.GiveUp.
type Cabinet interface {
	Put(ctx context.Context, path string, data []byte) (string, error)
}

// Archive has the documents of submissions.
type Archive interface {
	Document(ctx context.Context, submission int64, key string) (register.Document, error)
}

// Step files the document of a step.
func Step(cabinet Cabinet, archive Archive, now func() time.Time) work.Hand {
	return func(ctx context.Context, j work.Job) (work.Outcome, error) {
		var rule filing.Filing
		for _, x := range j.Design.Filings {
			if x.Key == j.Step.Key {
				rule = x
			}
		}
		if rule.Key == "" {
			return work.Outcome{}, work.GiveUp{Reason: "The design has no filing “" + j.Step.Key + "” any more."}
		}
		d, err := archive.Document(ctx, j.Submission.ID, rule.Document)
		if err != nil {
			return work.Outcome{}, fmt.Errorf("the document “%s” could not be read: %w", rule.Document, err)
		}
		at := now().UTC()
		path, err := cabinet.Put(ctx, rule.For(j.Facts(at)), d.PDF)
		if err != nil {
			return work.Outcome{}, err
		}
		return work.Outcome{
			Result: path, Happened: "Filed as " + strings.ReplaceAll(path, "/", " / "),
			Filed: &register.Filed{Path: path, Size: d.Size, At: at},
		}, nil
	}
}
