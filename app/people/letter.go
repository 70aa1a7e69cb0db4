package people

import (
	"context"
	"fmt"
	"strconv"
	"time"

	"amberseal/app/notify"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/link"
	"amberseal/core/notice"
	"amberseal/core/words/phrase"
)

// Hand sends the letters by which people are asked in. A letter keeps its Message-ID when it is tried again.
func Hand(store Store, secret link.Secret, post notify.Post, now func() time.Time) work.Hand {
	return work.Hand{Longest: notify.LongestSending, Do: func(ctx context.Context, j work.Job) (work.Outcome, error) {
		p, err := store.Person(ctx, j.Subject.ID)
		if err != nil {
			return work.Outcome{}, err
		}
		if p.Run != j.Subject.Run {
			return work.Outcome{}, work.GiveUp{Reason: "A later letter replaced this one."}
		}
		h, err := store.House(ctx)
		if err != nil {
			return work.Outcome{}, err
		}
		l := notify.Letter{
			ID: secret.MessageID("person", p.Ref, strconv.Itoa(p.Run)), FromName: h.Name, From: h.Email, To: []string{p.Email},
			Subject: "Your key to " + h.Name, Date: now().UTC(),
		}
		at := h.Link("/welcome/" + (&People{Secret: secret}).Token(p))
		switch {
		case h.Email == "":
			return work.Outcome{}, work.Held{Reason: notify.NoSender}
		case at == "":
			return work.Outcome{}, work.Held{Reason: ErrNoSite.Error()}
		}
		var body phrase.Body
		say := func(words string) { body = append(body, phrase.Paragraph{Spans: phrase.Phrase{{Text: words}}}) }
		say(fmt.Sprintf("Good day, %s,", p.Name))
		say(
			fmt.Sprintf(
				"%s asks you to work with its intakes. Choose a password here; the link works once, for %d days:", h.Name,
				int(LinkLasts.Hours()/24),
			),
		)
		body = append(body, phrase.Paragraph{Spans: phrase.Phrase{{Text: at, Style: phrase.Style{Link: at}}}})
		say("If you did not expect this, you need not do anything.")
		say(h.Name)
		facts := phrase.Facts{House: h}
		facts.House.Language = "en-GB" // that our words are in
		l.Text, l.HTML = notice.Letter(body, facts)
		if err := post.Send(ctx, l); err != nil {
			return work.Outcome{}, err
		}
		return work.Outcome{Result: p.Email, Records: []register.Record{&register.InvitationSent{Email: p.Email, At: l.Date}}}, nil
	}}
}
