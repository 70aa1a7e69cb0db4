// Package remind tells respondents who asked for it of answers that they kept and did not send.
package remind

import (
	"context"
	"errors"
	"strconv"
	"time"

	"amberseal/app/invite"
	"amberseal/app/notify"
	"amberseal/app/receive"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/link"
	"amberseal/core/notice"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

// Draft is kept answers of which somebody is to be reminded.
type Draft struct {
	ID       int64
	IntakeID int64
	Ref      string // what the link to it is about; see package link
	Email    string // empty when nobody is to be reminded
	Language string // that the form was read in; empty for the house's
	Invited  string // the ref of the invitation by which the form was reached, or empty
}

// Store has drafts, and the forms to go on with.
type Store interface {
	notify.Past
	House(ctx context.Context) (house.House, error)
	Reminded(ctx context.Context, draft int64) (Draft, error)
	Published(ctx context.Context, slug string) (receive.Published, error)
	InvitationByRef(ctx context.Context, ref string) (invite.Invitation, error)
	Held(ctx context.Context, intake int64) (since time.Time, err error)
}

// Hand sends the reminders. Whom a server does not take is not reminded, and nobody of the house need do anything about it: a stranger
// wrote the address. The same goes for a form that takes no answers any more.
func Hand(store Store, secret link.Secret, posts notify.Posts, names invite.Names, now func() time.Time) work.Hand {
	o := &office{store, secret, posts, names}
	return work.Hand{Longest: notify.LongestSending, Do: func(ctx context.Context, j work.Job) (work.Outcome, error) {
		d, err := store.Reminded(ctx, j.Subject.ID)
		if errors.Is(err, register.NotFound) || err == nil && d.Email == "" {
			return work.Outcome{Result: "nobody was left to be reminded"}, nil
		}
		if err != nil {
			return work.Outcome{}, err
		}
		at := now().UTC()
		sent := &register.ReminderSent{At: at}
		result := d.Email
		err = o.send(ctx, d, j.Subject.Run, at)
		var over work.GiveUp
		switch {
		case errors.As(err, &over):
			result = "it went to nobody: " + over.Reason
		case err != nil:
			return work.Outcome{}, err
		default:
			sent.To = []string{d.Email}
		}
		return work.Outcome{Result: result, Records: []register.Record{sent}}, nil
	}}
}

type office struct {
	store  Store
	secret link.Secret
	posts  notify.Posts
	names  invite.Names
}

func (o *office) send(ctx context.Context, d Draft, run int, at time.Time) error {
	h, err := o.store.House(ctx)
	if err != nil {
		return err
	}
	_, slug, err := o.names(ctx, d.IntakeID)
	if err != nil {
		return err
	}
	p, err := o.store.Published(ctx, slug)
	if err == nil {
		err = p.Standing(at, h)
	}
	if err == nil && h.Site == "" {
		err = invite.ErrNoSite
	}
	if err != nil {
		return work.GiveUp{Reason: err.Error()}
	}
	path := "/f/" + slug + "?go-on=" + o.secret.Token(link.GoOn, d.Ref, 1)
	if d.Invited != "" {
		x, err := o.store.InvitationByRef(ctx, d.Invited)
		if err != nil || x.SubmissionID != 0 || x.State == invite.Withdrawn {
			return work.GiveUp{Reason: "the invitation was answered or withdrawn"}
		}
		path += "&invitation=" + o.secret.Token(link.Invite, x.Ref, x.Links)
	}
	if d.Language != "" {
		path += "&language=" + d.Language
		h.Language = d.Language
	}
	if since, err := o.store.Held(ctx, d.IntakeID); err != nil || !since.IsZero() {
		if err == nil {
			err = work.Held{Reason: "Messages are held."}
		}
		return err
	}
	post, by, err := o.posts.Post(ctx, p.Design.Account)
	if err != nil {
		return err
	}
	if err := notify.Spare(ctx, o.store, by, []string{d.Email}, at); err != nil {
		return err
	}
	if by.From == "" {
		by.From = h.Email
	}
	if by.From == "" {
		return work.Held{Reason: notify.NoSender}
	}
	w := wordsIn(h.Language)
	l := notify.Letter{
		ID: o.secret.MessageID("reminder", d.Ref, strconv.Itoa(run)), FromName: h.Name, From: by.From, To: []string{d.Email},
		Subject: filled(w.subject, p.Design.Name), Date: at,
	}
	var body phrase.Body
	say := func(words string, style phrase.Style) {
		body = append(body, phrase.Paragraph{Spans: phrase.Phrase{{Text: words, Style: style}}})
	}
	say(w.hello, phrase.Style{})
	say(filled(w.asked, p.Design.Name), phrase.Style{})
	say(w.goOn, phrase.Style{Link: h.Link(path)})
	say(w.kept, phrase.Style{})
	say(h.Name, phrase.Style{})
	l.Text, l.HTML = notice.Letter(body, phrase.Facts{House: h})
	return post.Send(ctx, l)
}
