// Package file puts the documents of submissions where the house files them.
package file

import (
	"context"
	"encoding/json"
	"errors"
	"slices"
	"strconv"
	"strings"
	"time"

	"amberseal/app/dossier"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/destination"
	"amberseal/core/filing"
	"amberseal/core/notice"
	"amberseal/core/plan"
)

// Places opens the house's destinations by their keys. Its error is register.NotFound for one that is not there any more, or work.Again
// for one that cannot be used as it is set.
type Places interface {
	Place(ctx context.Context, key string) (Place, error)
}

// longestFiling is how long filing may take.
const longestFiling = 10 * time.Minute

// Hand files the documents of submissions, and what else a rule files.
func Hand(dossiers *dossier.Opener, places Places, now func() time.Time) work.Hand {
	return work.Hand{Longest: longestFiling, Do: func(ctx context.Context, j work.Job) (work.Outcome, error) {
		d, err := dossiers.Open(ctx, j)
		if err != nil {
			return work.Outcome{}, err
		}
		c := plan.Carries{Rule: j.Key, To: destination.Cabinet}
		if len(j.Body) > 0 {
			if err := json.Unmarshal(j.Body, &c); err != nil {
				return work.Outcome{}, work.GiveUp{Reason: "What is to be filed cannot be read: " + err.Error() + "."}
			}
		}
		at := slices.IndexFunc(d.Design.Filings, func(x filing.Filing) bool { return x.Key == c.Rule })
		if at < 0 {
			return work.Outcome{}, work.GiveUp{Reason: "The design has no filing “" + c.Rule + "” any more."}
		}
		rule := d.Design.Filings[at]
		if len(j.Body) == 0 { // it was planned when a rule filed one document
			for _, e := range rule.What {
				c.Documents = append(c.Documents, e.Document)
			}
		}
		place, err := places.Place(ctx, c.To)
		if errors.Is(err, register.NotFound) {
			return work.Outcome{}, work.GiveUp{Reason: "The house has no destination “" + c.To + "” any more. Set it up again on the " +
				"House page, and try again."}
		}
		if err != nil {
			return work.Outcome{}, err
		}
		pieces, err := d.Pieces(ctx, rule.What, c.Documents)
		if err != nil {
			return work.Outcome{}, err
		}
		return filed(ctx, d, rule, c.To, place, pieces, now().UTC())
	}}
}

// filed files the pieces one after the other. Those that lie there already, from an attempt before, are found to be ours.
func filed(ctx context.Context, d *dossier.Dossier, rule filing.Filing, to string, place Place, pieces []dossier.Piece, now time.Time) (
	work.Outcome, error,
) {
	facts := d.Facts(now)
	named := make([]filing.Piece, len(pieces))
	for i, p := range pieces {
		named[i] = filing.Piece{Title: p.Title, Ext: p.Ext()}
	}
	step := rule.Key
	if len(rule.To) > 0 {
		step += "/" + to
	}
	var o work.Outcome
	if slices.ContainsFunc(d.Design.Notices, func(n notice.Notice) bool { return n.Says(filing.ByFiled) }) ||
		slices.ContainsFunc(d.Design.Registers, func(x filing.Register) bool { return x.Says(filing.ByFiled) }) { // else nobody waits
		o.Signals = []plan.Signal{plan.FiledAs(step)}
	}
	var results []string
	for i, name := range rule.Paths(facts, named) {
		p := pieces[i]
		path, err := Put(ctx, place, name, File{Data: p.Data, Type: p.Type, About: map[string]string{
			"number": d.Submission.Number, "intake": d.Design.Slug, "title": p.Title, "revision": strconv.Itoa(d.Submission.Revision),
			"received": d.Submission.Received.UTC().Format(time.RFC3339),
		}}, rule.Taken)
		if err != nil {
			return work.Outcome{Records: o.Records}, err // where it is given up, what lies there already is on record
		}
		results = append(results, path)
		o.Records = append(o.Records, &register.Filed{
			Destination: to, Title: p.Title, Path: path, Link: place.Link(path), SHA256: register.Sum(p.Data), Size: len(p.Data), At: now,
		})
	}
	o.Result = strings.Join(results, ", ")
	if slices.ContainsFunc(o.Records, func(r register.Record) bool { return r.(*register.Filed).Link != "" }) {
		o.Then = plan.Linked(d.Design, facts, step)
	}
	return o, nil
}
