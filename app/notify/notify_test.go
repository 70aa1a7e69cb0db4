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
	"amberseal/app/dossier"
	"amberseal/app/handing"
	"amberseal/app/notify"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/account"
	"amberseal/core/ask/form"
	"amberseal/core/enclosure"
	"amberseal/core/intake"
	"amberseal/core/link"
	"amberseal/core/notice"
	"amberseal/core/plan"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
	"amberseal/standin/mailbox"
)

// archive has one submission with every document, and knows how many letters an address had.
type archive struct {
	handed     []handing.Handed
	house      house.House
	submission register.Submission
	design     intake.Design
	had        int
}

func (a *archive) House(context.Context) (house.House, error) { return a.house, nil }
func (a *archive) Submission(context.Context, int64) (register.Submission, intake.Design, error) {
	return a.submission, a.design, nil
}

func (a *archive) AddHanded(_ context.Context, all []handing.Handed) error {
	a.handed = append(a.handed, all...)
	return nil
}

func (a *archive) Held(context.Context, int64) (time.Time, error) { return time.Time{}, nil }

func (a *archive) Collection(context.Context, int64) ([]register.Member, error) { return nil, nil }

// oneAccount is a house with one mail account.
type oneAccount struct {
	post notify.Post
	by   *notify.Sender
}

func (o oneAccount) Post(context.Context, string) (notify.Post, notify.Sender, error) {
	return o.post, *o.by, nil
}

func (a *archive) StaffAddresses(context.Context, []string, []string) ([]string, error) {
	return []string{"staff@house.example"}, nil
}

func (a *archive) Upload(context.Context, string) (form.File, []byte, error) {
	return form.File{}, nil, register.NotFound
}

func (a *archive) FixedFile(context.Context, string) ([]byte, error) { return nil, register.NotFound }

func (a *archive) Picture(context.Context, string) ([]byte, error) { return nil, register.NotFound }

func (a *archive) FiledLink(context.Context, int64, string) (string, error) { return "", nil }

func (a *archive) DocumentRevision(_ context.Context, _ int64, key string, _ int) (register.Document, error) {
	return register.Document{Key: key, FileName: key + ".pdf", PDF: []byte("%PDF-1.7 " + key)}, nil
}
func (a *archive) SentTo(context.Context, string, time.Time) (int, error) { return a.had, nil }

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
	post, err := smtp.New(smtp.Account{Account: account.Account{Host: host, Port: n, Protection: account.None}}, 1)
	if err != nil {
		t.Fatal(err)
	}
	defer post.Close()
	asked := form.Form{Fields: []form.Field{{Key: "mail", Kind: form.Email, Label: "Your email", Required: true}}}
	h := house.New()
	h.Name, h.Email = "House", "desk@house.example"
	a := &archive{
		house: h,
		submission: register.Submission{
			ID:       7,
			Ref:      "ref",
			Number:   "B-7",
			Received: time.Unix(1e9, 0),
			Revision: 1,
			Answers:  form.Raw{"mail": json.RawMessage(`"ann@reader.example"`)},
		},
		design: intake.Design{Name: "Booking", Form: asked, Notices: []notice.Notice{
			{
				Key:     "respondent",
				Name:    "To the respondent",
				To:      phrase.Parse("{{mail}}"),
				Subject: phrase.Parse("Booking {{@number}}"),
				Message: phrase.ParseBody("Thank you."),
				Attach:  enclosure.Of("receipt"),
			},
		}},
	}
	by := &notify.Sender{}
	hand := notify.Hand(&dossier.Opener{Store: a, Secret: link.Secret("0123456789abcdef0123456789abcdef")}, oneAccount{post, by}, a,
		time.Now)
	job := work.Job{Job: register.Job{
		ID: 3, Key: "respondent", Subject: plan.Subject{About: plan.Submission, ID: 7, Run: 1}, Body: []byte(`{"documents":["receipt"]}`),
	}}
	send := func(had int) (work.Outcome, error) {
		a.had = had
		return hand.Do(t.Context(), job)
	}
	for range 2 {
		out, err := send(0)
		if err != nil || len(out.Records) != 1 {
			t.Fatalf("%+v %v", out, err)
		}
		if m := out.Records[0].(*register.Message); m.Subject != "Booking B-7" || strings.Join(m.Attached, "") != "receipt.pdf" {
			t.Errorf("on record is %+v", m)
		}
	}
	letters := box.Messages()
	if len(letters) != 2 || letters[0].MessageID == "" || letters[0].MessageID != letters[1].MessageID ||
		letters[0].To[0] != "ann@reader.example" ||
		len(letters[0].Attachments) != 1 {
		t.Errorf("the server has %+v", letters)
	}
	if _, err := send(20); !errors.As(err, new(work.Again)) {
		t.Errorf("somebody who had twenty letters: %v", err)
	}
	by.PerReader = 2
	if _, err := send(2); !errors.As(err, new(work.Again)) {
		t.Errorf("somebody who had two letters, where one gets two: %v", err)
	}
	a.submission.Own = true // the house's own hand is not held back
	if _, err := send(20); err != nil {
		t.Errorf("the house itself: %v", err)
	}
	usual := job.Body
	job.Body = []byte(`{"documents":["receipt"],"rule":"respondent","only":["attacker@evil.example"]}`)
	if _, err := send(0); !errors.As(err, new(work.GiveUp)) || !strings.Contains(err.Error(), "attacker@evil.example") {
		t.Errorf("a step for somebody whom the message does not go to: %v", err)
	}
	job.Body = []byte(`{"documents":[],"rule":"respondent","whom":["cy@reader.example","di@reader.example"],"only":["DI@reader.example"]}`)
	if _, err := send(0); err != nil {
		t.Errorf("a step for one of those whom a person named: %v", err)
	}
	if last := box.Messages()[0]; strings.Join(last.For, " ") != "di@reader.example" {
		t.Errorf("it went to %v", last.For)
	}
	job.Body = usual
	a.submission.Answers = form.Raw{}
	if _, err := send(0); !errors.As(err, new(work.GiveUp)) {
		t.Errorf("a letter to nobody: %v", err)
	}
	if len(box.Messages()) != 4 {
		t.Errorf("%d letters went out", len(box.Messages()))
	}
}
