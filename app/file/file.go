// Package file puts the documents of submissions into the cabinet.
package file

import (
	"context"
	"fmt"
	"slices"
	"time"

	"amberseal/app/dossier"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/enclosure"
	"amberseal/core/filing"
)

// Cabinet is a place for files. Put writes a file under a path of folders parted by /, or
// under the path with a count behind it where another file has that name, and gives the
// path used. Equal bytes under the same path are written once, so that a repeated step
// changes nothing. Its errors are work.Again and work.GiveUp.
type Cabinet interface {
	Put(ctx context.Context, path string, data []byte) (string, error)
}

// longestFiling is how long filing a document may take.
const longestFiling = 3 * time.Minute

// Hand files the documents of submissions.
func Hand(dossiers *dossier.Opener, cabinet Cabinet, now func() time.Time) work.Hand {
	return work.Hand{Longest: longestFiling, Do: func(ctx context.Context, j work.Job) (work.Outcome, error) {
		d, err := dossiers.Open(ctx, j)
		if err != nil {
			return work.Outcome{}, err
		}
		at := slices.IndexFunc(d.Design.Filings, func(x filing.Filing) bool { return x.Key == j.Key })
		if at < 0 {
			return work.Outcome{}, work.GiveUp{Reason: "The design has no filing “" + j.Key + "” any more."}
		}
		rule := d.Design.Filings[at]
		x, err := d.Document(ctx, rule.Document())
		if err != nil {
			return work.Outcome{}, fmt.Errorf("the document “%s” could not be read: %w", rule.Document(), err)
		}
		data := x.PDF
		if rule.Form() == enclosure.DOCX {
			data = x.Word
		}
		if len(data) == 0 {
			return work.Outcome{}, work.GiveUp{Reason: "“" + x.Name + "” was not made in the form that is filed."}
		}
		filed := now().UTC()
		path, err := cabinet.Put(ctx, rule.For(d.Facts(filed)), data)
		if err != nil {
			return work.Outcome{}, err
		}
		return work.Outcome{Result: path, Records: []register.Record{&register.Filed{Path: path, Size: len(data), At: filed}}}, nil
	}}
}
