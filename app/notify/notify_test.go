package notify_test

import (
	"context"
	"encoding/json"
	"errors"
	"net"
	"strconv"
	"strings"
	"testing"
	"time"

	"amberseal/adapter/smtp"
	"amberseal/app/notify"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/form"
	"amberseal/core/house"
	"amberseal/core/intake"
	"amberseal/core/link"
	"amberseal/core/notice"
	"amberseal/core/phrase"
	"amberseal/standin/mailbox"
)

// archive has every document, and knows how many letters an address had.
type archive struct{ had int }

func (a archive) Document(_ context.Context, _ int64, key string) (register.Document, error) {
	return register.Document{Key: key, FileName: key + ".pdf", PDF: []byte("%PDF-1.7 " + key)}, nil
}
func (a archive) SentTo(context.Context, string, time.Time) (int, error) { return a.had, nil }

// Notices go through a real SMTP server: with what they attach, under an id that is the same at each try; who was written to often
// waits, and what lacks an address is given up.
func TestNoticesGoOut(t *testing.T) {
	box, err := mailbox.Open("127.0.0.1:0", t.TempDir())
	if err != nil {
		t.Fatal(err)
	}
	defer box.Close(context.WithoutCancel(t.Context()))
	if err := box.Switch(true); err != nil {
		t.Fatal(err)
	}
	host, port, _ := net.SplitHostPort(box.Address())
	n, _ := strconv.Atoi(port)
	post, err := smtp.New(smtp.Account{Host: host, Port: n, TLS: smtp.NoTLS}, 1)
	if err != nil {
		t.Fatal(err)
	}
	defer post.Close()
	asked := form.Form{Fields: []form.Field{{Key: "mail", Kind: form.Email, Label: "Your email", Required: true}}}
	h := house.New()
	h.Name, h.Email = "House", "desk@house.example"
	job := work.Job{
		House: h, Secret: link.Secret("0123456789abcdef0123456789abcdef"),
		Step:       register.Step{ID: 3, Key: "respondent", Needs: []string{"receipt"}},
		Submission: register.Submission{ID: 7, Ref: "ref", Number: "B-7", Received: time.Unix(1e9, 0), Answers: form.Raw{"mail": json.RawMessage(`"ann@reader.example"`)}},
		Design: intake.Design{Name: "Booking", Form: asked, Notices: []notice.Notice{
			{Key: "respondent", Name: "To the respondent", To: phrase.Parse("{{mail}}"), Subject: phrase.Parse("Booking {{@number}}"), Message: phrase.ParseBody("Thank you."), Attach: []string{"receipt"}},
		}},
	}
	step := func(a archive) (work.Outcome, error) {
		return notify.Step(post, a, time.Now)(t.Context(), job)
	}
	for range 2 {
		out, err := step(archive{})
		if err != nil || out.Message == nil || out.Message.Subject != "Booking B-7" || strings.Join(out.Message.Attached, "") != "receipt.pdf" {
			t.Fatalf("%+v %v", out, err)
		}
	}
	letters := box.Messages()
	if len(letters) != 2 || letters[0].MessageID == "" || letters[0].MessageID != letters[1].MessageID || letters[0].To[0] != "ann@reader.example" || len(letters[0].Attachments) != 1 {
		t.Errorf("the server has %+v", letters)
	}
	if _, err := step(archive{had: 20}); !errors.As(err, new(work.Again)) {
		t.Errorf("somebody who had twenty letters: %v", err)
	}
	job.Submission.Own = true // the house's own hand is not held back
	if _, err := step(archive{had: 20}); err != nil {
		t.Errorf("the house itself: %v", err)
	}
	job.Submission.Answers = form.Raw{}
	if _, err := step(archive{}); !errors.As(err, new(work.GiveUp)) {
		t.Errorf("a letter to nobody: %v", err)
	}
	if len(box.Messages()) != 3 {
		t.Errorf("%d letters went out", len(box.Messages()))
	}
}
