// Package notify sends the notices of submissions.
package notify

import (
	"context"
	"fmt"
	"strconv"
	"strings"
	"time"

	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/notice"
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

// Archive has the documents of submissions, and knows who was written to.
type Archive interface {
	Document(ctx context.Context, submission int64, key string) (register.Document, error)
	SentTo(ctx context.Context, address string, since time.Time) (int, error)
}

// mostAnHour is how many messages an address that respondents name gets in an hour; more wait. Anybody can name anybody.
const mostAnHour = 20

// spare lets a message wait whose reader has had many.
func spare(ctx context.Context, archive Archive, to []string, now time.Time) error {
	for _, address := range to {
		n, err := archive.SentTo(ctx, address, now.Add(-time.Hour))
		if err != nil {
			return err
		}
		if n >= mostAnHour {
			return work.Again{Reason: fmt.Sprintf("%s has had %d messages within an hour; this one goes out later.", address, n)}
		}
	}
	return nil
}

// Step sends the notice of a step.
func Step(post Post, archive Archive, now func() time.Time) work.Hand {
	return func(ctx context.Context, j work.Job) (work.Outcome, error) {
		n, ok := find(j.Design.Notices, j.Step.Key)
		if !ok {
			return work.Outcome{}, work.GiveUp{Reason: "The design has no notice “" + j.Step.Key + "” any more."}
		}
		at := now().UTC()
		facts := j.Facts(at)
		respondents := n.ToRespondent(j.Design.Form)
		if respondents {
			facts.Correct = j.CorrectLink()
		}
		m := n.For(facts)
		if m.Problem != "" {
			return work.Outcome{}, work.GiveUp{Reason: m.Problem}
		}
		from := j.House.Email
		if from == "" {
			return work.Outcome{}, work.GiveUp{Reason: "The house has no email address to send from. Write it on the House page."}
		}
		l := Letter{
			ID: j.Secret.MessageID("notice", j.Submission.Ref, strconv.FormatInt(j.Step.ID, 10)), FromName: j.House.Name, From: from,
			To: m.To, Subject: m.Subject, Text: m.Text, HTML: m.HTML, Date: at,
		}
		if respondents && !j.Submission.Own {
			if err := spare(ctx, archive, m.To, at); err != nil {
				return work.Outcome{}, err
			}
		}
		record := &register.Message{Name: n.Name, To: m.To, Subject: m.Subject, Text: m.Text, HTML: m.HTML, Sent: at}
		for _, key := range j.Step.Needs {
			d, err := archive.Document(ctx, j.Submission.ID, key)
			if err != nil {
				return work.Outcome{}, fmt.Errorf("the document “%s” could not be attached: %w", key, err)
			}
			l.Attached = append(l.Attached, Attachment{d.FileName, d.PDF})
			record.Attached = append(record.Attached, d.FileName)
		}
		if err := post.Send(ctx, l); err != nil {
			return work.Outcome{}, err
		}
		to := strings.Join(m.To, ", ")
		return work.Outcome{Result: to, Happened: n.Name + " sent to " + to, Message: record}, nil
	}
}

func find(all []notice.Notice, key string) (notice.Notice, bool) {
	for _, n := range all {
		if n.Key == key {
			return n, true
		}
	}
	return notice.Notice{}, false
}
