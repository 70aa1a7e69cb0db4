package smtp_test

import (
	"net"
	"slices"
	"strconv"
	"testing"

	"github.com/emersion/go-message/mail"

	"amberseal/adapter/smtp"
	"amberseal/app/notify/notifytest"
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
