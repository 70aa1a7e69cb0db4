package notify

import (
	"context"
	"errors"
	"slices"
	"strconv"
	"strings"
	"time"

	"amberseal/app/dossier"
	"amberseal/app/handing"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/filing"
	"amberseal/core/foreign/annex"
	"amberseal/core/notice"
	"amberseal/core/plan"
)

// gather puts what a submission's notice would say among what others' say, until it goes with them.
func (o *office) gather(d *dossier.Dossier, n notice.Notice, carries plan.Carries) (work.Outcome, error) {
	now := o.now().UTC()
	facts := d.Facts(now)
	whom, problem := n.Whom(facts)
	if problem != "" {
		return work.Outcome{}, unsendable(problem)
	}
	zone, l := d.House.Location(), facts.Locale()
	due := n.Collect.Next(now, zone)
	g := &register.Gathered{
		Intake: d.Submission.IntakeID, Account: d.Design.Account, Notice: n.Key, Name: n.Name, Whom: strings.Join(whom, "\n"), Due: due,
		Most: notice.MostCollected, Documents: carries.Documents,
	}
	result := "with others, on " + l.DateLong(due.In(zone)) + ", " + l.Time(due.In(zone))
	if due.IsZero() {
		g.Most, result = n.Collect.Count, "with others"
	}
	return work.Outcome{Result: result, Records: []register.Record{g}}, nil
}

// collected sends one message for all submissions of a collection. What was corrected since, and waits to be gathered anew, is left out.
func (o *office) collected(ctx context.Context, j work.Job, carries plan.Carries) (work.Outcome, error) {
	told, err := o.store.Collection(ctx, carries.Collection)
	if err != nil {
		return work.Outcome{}, err
	}
	var all []*dossier.Dossier
	var n notice.Notice
	var tells []notice.Gathered
	var pieces []carried
	var of []register.Member
	at := o.now().UTC()
	for _, t := range told {
		d, err := o.dossiers.Of(ctx, t.Submission, t.Run)
		if errors.Is(err, register.NotFound) || err == nil && d.Submission.Revision != t.Run {
			continue
		}
		if err != nil {
			return work.Outcome{}, err
		}
		x, ok := find(d.Design.Notices, carries.Rule)
		if !ok {
			continue
		}
		own, err := d.Pieces(ctx, x.Attach, t.Documents)
		if err != nil {
			return work.Outcome{}, err
		}
		n, all, of = x, append(all, d), append(of, t)
		address := d.House.Link("/register/" + strconv.FormatInt(d.Submission.ID, 10))
		tells = append(tells, notice.Gathered{Facts: d.Facts(at), Address: address})
		pieces = append(pieces, carry(d, own)...)
	}
	if len(all) == 0 {
		return work.Outcome{Result: "nothing was left to be told"}, nil
	}
	d := all[len(all)-1]
	if err := o.unheld(ctx, d); err != nil {
		return work.Outcome{}, err
	}
	house, err := o.staff(ctx, n)
	if err != nil {
		return work.Outcome{}, err
	}
	distinct(pieces)
	attached, given, err := parted(n, j, pieces, at)
	if err != nil {
		return work.Outcome{}, err
	}
	if n.Collect != nil && n.Collect.Joined {
		attached = joined(attached, filing.Safe(d.Design.Name)+" "+at.In(d.House.Location()).Format(time.DateOnly))
	}
	inline, widths, err := Adorn(ctx, o.store, n)
	if err != nil {
		return work.Outcome{}, err
	}
	m := n.OfMany(tells, notice.With{House: house, Links: linkedOf(given, all), Pictures: widths})
	address(&m, carries)
	free := func(Letter, Sender) error { return nil } // one message instead of many is no flood
	return o.deliver(ctx, d, n, j, carries, outgoing{m, attached, inline, given, at, free, of})
}

// linkedOf are files of several submissions as a message speaks of them.
func linkedOf(given []handing.Handed, all []*dossier.Dossier) []notice.Linked {
	var out []notice.Linked
	for _, d := range all {
		out = append(out, linked(d, slices.DeleteFunc(slices.Clone(given), func(x handing.Handed) bool {
			return x.SubmissionID != d.Submission.ID
		}))...)
	}
	return out
}

// distinct puts the number of its submission before a file's name where two have the same.
func distinct(pieces []carried) {
	names := map[string]int{}
	for _, p := range pieces {
		names[strings.ToLower(p.Name)]++
	}
	for i, p := range pieces {
		if names[strings.ToLower(p.Name)] > 1 {
			pieces[i].Name = p.of.Submission.Number + " " + p.Name
		}
	}
}

const pdfType = "application/pdf"

// joined puts all PDFs of a message into one; other files stay as they are.
func joined(attached []Attachment, name string) []Attachment {
	var pdfs [][]byte
	var rest []Attachment
	for _, a := range attached {
		if a.Type == pdfType {
			pdfs = append(pdfs, a.Data)
		} else {
			rest = append(rest, a)
		}
	}
	if len(pdfs) < 2 {
		return attached
	}
	data, err := annex.Bundle(pdfs)
	if err != nil {
		return attached // such as those that are locked, which nobody could read then
	}
	return append([]Attachment{{name + ".pdf", pdfType, data}}, rest...)
}
