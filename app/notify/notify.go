// Package notify sends the notices of submissions.
package notify

import (
	"context"
	"encoding/json"
	"fmt"
	"strconv"
	"strings"
	"time"

	"amberseal/app/dossier"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/enclosure"
	"amberseal/core/notice"
	"amberseal/core/plan"
)

// Letter is a message ready for the post.
type Letter struct {
	ID       string // the part of the Message-ID before the @; the same each time it is tried
	FromName string
	From     string
	To       []string
	Subject  string
	Text     string
	HTML     string
	Date     time.Time
	Attached []Attachment
}

// Attachment is a file that goes along.
type Attachment struct {
	Name string
	Data []byte
}

// Post delivers letters. Its errors are work.Again and work.GiveUp.
type Post interface {
	Send(ctx context.Context, l Letter) error
}

// Past knows who was written to.
type Past interface {
	SentTo(ctx context.Context, address string, since time.Time) (int, error)
}

// mostAnHour is how many messages an address that respondents name gets in an hour; more wait. Anybody can name anybody.
const mostAnHour = 20

// spare lets a message wait whose reader has had many.
func spare(ctx context.Context, past Past, to []string, now time.Time) error {
	for _, address := range to {
		n, err := past.SentTo(ctx, address, now.Add(-time.Hour))
		if err != nil {
			return err
		}
		if n >= mostAnHour {
			return work.Again{Reason: fmt.Sprintf("%s has had %d messages within an hour; this one goes out later.", address, n)}
		}
	}
	return nil
}

// LongestSending is how long handing a letter over may take: a server may let ten minutes pass before it answers to its end.
const LongestSending = 20 * time.Minute

// Hand sends the notices of submissions.
func Hand(dossiers *dossier.Opener, post Post, past Past, now func() time.Time) work.Hand {
	return work.Hand{Longest: LongestSending, Do: func(ctx context.Context, j work.Job) (work.Outcome, error) {
		d, err := dossiers.Open(ctx, j)
		if err != nil {
			return work.Outcome{}, err
		}
		n, ok := find(d.Design.Notices, j.Key)
		if !ok {
			return work.Outcome{}, work.GiveUp{Reason: "The design has no notice “" + j.Key + "” any more."}
		}
		var carries plan.Carries
		if err := json.Unmarshal(j.Body, &carries); err != nil {
			return work.Outcome{}, work.GiveUp{Reason: "What the message carries cannot be read: " + err.Error() + "."}
		}
		at := now().UTC()
		facts := d.Facts(at)
		respondents := n.ToRespondent(d.Design.Form)
		if respondents {
			facts.Correct = d.CorrectLink()
		}
		m := n.For(facts)
		if m.Problem != "" {
			return work.Outcome{}, work.GiveUp{Reason: m.Problem}
		}
		if d.House.Email == "" {
			return work.Outcome{}, work.GiveUp{Reason: NoSender}
		}
		l := Letter{
			ID: d.Secret.MessageID("notice", d.Submission.Ref, strconv.FormatInt(j.ID, 10)), FromName: d.House.Name, From: d.House.Email,
			To: m.To, Subject: m.Subject, Text: m.Text, HTML: m.HTML, Date: at,
		}
		if respondents && !d.Submission.Own {
			if err := spare(ctx, past, m.To, at); err != nil {
				return work.Outcome{}, err
			}
		}
		record := &register.Message{Name: n.Name, To: m.To, Subject: m.Subject, Text: m.Text, HTML: m.HTML, Sent: at}
		for _, key := range carries.Documents {
			x, err := d.Document(ctx, key)
			if err != nil {
				return work.Outcome{}, fmt.Errorf("the document “%s” could not be attached: %w", key, err)
			}
			for _, form := range enclosure.Forms(n.Attach, key) {
				a := Attachment{x.FileName, x.PDF}
				if form == enclosure.DOCX {
					a = Attachment{x.WordName(), x.Word}
				}
				if len(a.Data) == 0 {
					return work.Outcome{}, work.GiveUp{Reason: "“" + a.Name + "” was not made."}
				}
				l.Attached, record.Attached = append(l.Attached, a), append(record.Attached, a.Name)
			}
		}
		if err := post.Send(ctx, l); err != nil {
			return work.Outcome{}, err
		}
		return work.Outcome{Result: strings.Join(m.To, ", "), Records: []register.Record{record}}, nil
	}}
}

// NoSender is why a house without an address sends nothing.
const NoSender = "The house has no email address to send from. Write it on the House page."

func find(all []notice.Notice, key string) (notice.Notice, bool) {
	for _, n := range all {
		if n.Key == key {
			return n, true
		}
	}
	return notice.Notice{}, false
}
