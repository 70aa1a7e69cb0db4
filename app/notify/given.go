package notify

import (
	"time"

	"amberseal/app/dossier"
	"amberseal/app/handing"
	"amberseal/app/work"
	"amberseal/core/enclosure"
	"amberseal/core/notice"
)

// mostAttached is how many bytes go along with a message; with what encoding adds these are 14 MB, below the 20 to 25 that large providers
// take (common practice). What is more comes by links.
const mostAttached = 10 << 20

// usualDays is how long a link works where a file was too large.
const usualDays = 30

// carried is a file that a message carries, of a submission.
type carried struct {
	dossier.Piece
	of *dossier.Dossier
}

func carry(d *dossier.Dossier, pieces []dossier.Piece) []carried {
	out := make([]carried, len(pieces))
	for i, p := range pieces {
		out[i] = carried{p, d}
	}
	return out
}

// parted divides what a notice carries: what goes along, and what is given by links, as the notice says or since it is too large.
func parted(n notice.Notice, j work.Job, pieces []carried, now time.Time) (attached []Attachment, given []handing.Handed, err error) {
	byLink, total := make([]bool, len(pieces)), 0
	for i, p := range pieces {
		if byLink[i] = p.Of.Link != nil; !byLink[i] {
			total += len(p.Data)
		}
	}
	for total > mostAttached { // the largest first, so that as many as possible go along
		largest := -1
		for i, p := range pieces {
			if !byLink[i] && (largest < 0 || len(p.Data) > len(pieces[largest].Data)) {
				largest = i
			}
		}
		byLink[largest] = true
		total -= len(pieces[largest].Data)
	}
	for i, p := range pieces {
		if !byLink[i] {
			attached = append(attached, Attachment{p.Name, p.Type, p.Data})
			continue
		}
		d := p.of
		if d.House.Site == "" {
			return nil, nil, work.Held{Reason: "A file is to come by a link, and the house does not say where its pages are reached. " +
				"Write it on the House page."}
		}
		l := enclosure.Link{Days: usualDays}
		if p.Of.Link != nil {
			l = *p.Of.Link
		}
		x := handing.Handed{
			Ref: handing.Ref(d.Secret, d.Submission.Ref, j.ID, i), SubmissionID: d.Submission.ID, Run: d.Submission.Revision,
			Links: d.Submission.Links, Made: now, Most: l.Openings,
			What: handing.What{Enclosure: p.Of, File: p.File, Title: p.Title, Name: p.Name, Size: len(p.Data), Notice: n.Name},
		}
		if l.Days > 0 {
			x.Expires = now.AddDate(0, 0, l.Days)
		}
		given = append(given, x)
	}
	return attached, given, nil
}

// linked are files as a message speaks of them.
func linked(d *dossier.Dossier, given []handing.Handed) []notice.Linked {
	var out []notice.Linked
	for _, x := range given {
		out = append(out, notice.Linked{
			Name: x.What.Name, Address: d.House.Link(handing.Path(d.Secret, x)), Until: x.Expires, Times: x.Most,
		})
	}
	return out
}
