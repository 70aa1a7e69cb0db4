package smtp_test

import (
	"context"
	"errors"
	"net"
	"slices"
	"strconv"
	"testing"
	"time"

	"github.com/emersion/go-message/mail"

	"amberseal/adapter/smtp"
	"amberseal/app/notify"
	"amberseal/app/notify/notifytest"
	"amberseal/app/work"
	"amberseal/core/account"
	"amberseal/standin/mailbox"
)

// The post and the mailbox that stands in for a mail server pass the suite together.
func TestPost(t *testing.T) {
	notifytest.TestPost(t, func(t *testing.T) notifytest.Post {
		box, err := mailbox.Open("127.0.0.1:0", t.TempDir())
		if err == nil {
			err = box.Switch(true)
		}
		if err != nil {
			t.Fatal(err)
		}
		t.Cleanup(func() { box.Switch(false) })
		host, port, err := net.SplitHostPort(box.Address())
		if err != nil {
			t.Fatal(err)
		}
		n, err := strconv.Atoi(port)
		if err != nil {
			t.Fatal(err)
		}
		p, err := smtp.New(smtp.Account{Account: account.Account{Host: host, Port: n, Protection: account.None}}, 3)
		if err != nil {
			t.Fatal(err)
		}
		t.Cleanup(p.Close)
		return notifytest.Post{
			Post: p, Busy: "ann@busy.example", Gone: "ann@gone.example",
			Out: func(out bool) {
				if err := box.Switch(!out); err != nil {
					t.Fatal(err)
				}
			},
			Arrived: func() []notifytest.Arrived { return arrived(t, box) },
		}
	})
}

// No more leave in a minute than the account says; who would wait too long is told, and is no outage.
func TestThePaceOfAnAccount(t *testing.T) {
	box, err := mailbox.Open("127.0.0.1:0", t.TempDir())
	if err == nil {
		err = box.Switch(true)
	}
	if err != nil {
		t.Fatal(err)
	}
	defer box.Switch(false)
	host, port, _ := net.SplitHostPort(box.Address())
	n, _ := strconv.Atoi(port)
	p, err := smtp.New(smtp.Account{Account: account.Account{Host: host, Port: n, Protection: account.None, PerMinute: 1}}, 2)
	if err != nil {
		t.Fatal(err)
	}
	defer p.Close()
	l := notify.Letter{ID: "a", From: "desk@house.example", To: []string{"ann@reader.example"}, Subject: "S", Text: "T", HTML: "<p>T</p>",
		Date: time.Unix(1_800_000_000, 0)}
	if err := p.Send(t.Context(), l); err != nil {
		t.Fatal(err)
	}
	short, cancel := context.WithTimeout(t.Context(), 10*time.Second)
	defer cancel()
	var again work.Again
	if err := p.Send(short, l); !errors.As(err, &again) || again.Outage || again.Unsure || len(box.Messages()) != 1 {
		t.Errorf("a second one in the minute: %#v, %d arrived", err, len(box.Messages()))
	}
}

func arrived(t *testing.T, box *mailbox.Mailbox) []notifytest.Arrived {
	t.Helper()
	var out []notifytest.Arrived
	for _, m := range slices.Backward(box.Messages()) { // the newest stands first
		raw, err := box.Raw(m.ID)
		if err != nil {
			t.Fatal(err)
		}
		a := notifytest.Arrived{ID: m.MessageID, To: m.To, Subject: m.Subject, Attached: map[string][]byte{}}
		mailbox.Parts(raw, func(_ mail.Header, name, kind string, body []byte) {
			switch {
			case name != "":
				a.Attached[name] = body
			case kind == "text/plain":
				a.Text = string(body)
			}
		})
		out = append(out, a)
	}
	return out
}
