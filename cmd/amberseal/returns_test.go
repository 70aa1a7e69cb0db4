package main

import (
	"fmt"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"
)

// report is what a mail server sends back, as the example of RFC 3464 section 6.1 is written, about one of our messages.
func report(to, id, address, action string) []byte {
	return []byte(strings.ReplaceAll(`From: MAILER-DAEMON@reader.example
To: `+to+`
Subject: Returned mail: see transcript for details
MIME-Version: 1.0
Content-Type: multipart/report; report-type=delivery-status; boundary="RAA14128.773615765/CS.UTK.EDU"

--RAA14128.773615765/CS.UTK.EDU

The original message was received and could not be delivered.

--RAA14128.773615765/CS.UTK.EDU
Content-Type: message/delivery-status

Reporting-MTA: dns; cs.utk.edu

Original-Recipient: rfc822;`+address+`
Final-Recipient: rfc822;`+address+`
Action: `+action+`
Status: 5.1.1
Diagnostic-Code: smtp; 550 5.1.1 No such user
Last-Attempt-Date: Thu, 7 Jul 1994 17:15:49 -0400

--RAA14128.773615765/CS.UTK.EDU
Content-Type: message/rfc822

Message-ID: <`+id+`>
Subject: What it was

Words.

--RAA14128.773615765/CS.UTK.EDU--
`, "\n", "\r\n"))
}

// Mail that came back marks its message and its submission, by the address of its envelope or by its Message-ID, once however often it is
// reported; a delay, a holiday and a forged address mark nothing.
func TestMailThatComesBack(t *testing.T) {
	t.Parallel()
	h := startProgram(t, "--empty")
	h.signIn()
	var lines []struct{ Account struct{ Port int } }
	h.call("GET", "/api/accounts", nil, &lines)
	account := map[string]any{"key": "second", "name": "Second", "host": "127.0.0.1", "port": lines[0].Account.Port, "protection": "none",
		"returns": "bounces@house.example"}
	h.call("PUT", "/api/accounts/second", map[string]any{"account": account}, nil)
	id, _ := h.desk(`[{"key":"n","name":"N","to":"{{email}}","subject":"{{@number}}","message":"Hello.","attach":[]}]`, `[]`)
	var i struct {
		Revision int
		Design   map[string]any
	}
	at := fmt.Sprintf("/api/intakes/%d", id)
	h.call("GET", at, nil, &i)
	i.Design["account"] = "second"
	h.call("PUT", at+"/design", map[string]any{"design": i.Design, "revision": i.Revision}, nil)
	h.call("PUT", at+"/opening", map[string]bool{"open": true}, nil)
	type envelope struct{ Sender, MessageID string }
	letter := func(to string) (e envelope) {
		h.send(to)
		soon(t, 10*time.Second, "the message to "+to, func() bool {
			var all []struct {
				envelope
				For []string
			}
			h.call("GET", "/standin/mailbox/messages", nil, &all)
			for _, m := range all {
				if slices.Contains(m.For, to) {
					e = m.envelope
				}
			}
			return e.Sender != ""
		})
		return e
	}
	a, b, c := letter("a@reader.example"), letter("b@reader.example"), letter("c@reader.example")
	if a.Sender == b.Sender || !strings.HasPrefix(a.Sender, "bounces+") {
		t.Fatalf("the senders are %q and %q", a.Sender, b.Sender)
	}
	forged := regexp.MustCompile(`-[0-9a-f]`).ReplaceAllStringFunc(c.Sender, func(first string) string {
		if first == "-0" {
			return "-1"
		}
		return "-0"
	})
	for _, x := range []struct {
		raw  []byte
		want int
	}{
		{report(a.Sender, "other@house.example", "a@reader.example", "failed"), 200},
		{report(a.Sender, "other@house.example", "a@reader.example", "failed"), 200},
		{report("bounces@house.example", b.MessageID, "b@reader.example", "failed"), 200},
		{report(c.Sender, c.MessageID, "c@reader.example", "delayed"), 422},
		{report(c.Sender, c.MessageID, "attacker@evil.example", "failed"), 422},
		{report("bounces@house.example", c.MessageID, "attacker@evil.example", "failed"), 422},
		{report(forged, "none@house.example", "c@reader.example", "failed"), 404},
		{[]byte("Subject: On holiday\r\n\r\nBack soon.\r\n"), 422},
	} {
		if status, answer := h.try("POST", "/api/bounces", x.raw, "Content-Type", "application/octet-stream"); status != x.want {
			t.Errorf("a report gives %d, not %d: %s\n%s", status, x.want, answer, x.raw)
		}
	}
	var page struct {
		Entries []struct {
			To       []string
			Returned []struct{ Address, Reason string }
		}
	}
	h.call("GET", "/api/messages", nil, &page)
	for _, m := range page.Entries {
		if want := m.To[0] != "c@reader.example"; (len(m.Returned) == 1) != want || want &&
			m.Returned[0].Reason != "“550 5.1.1 No such user”" {
			t.Errorf("the message to %s came back as %+v", m.To, m.Returned)
		}
	}
	var failed struct{ Failed int }
	h.call("GET", "/api/submissions", nil, &failed)
	if failed.Failed != 2 {
		t.Errorf("%d submissions want a hand", failed.Failed)
	}
}

// A report that comes into the account's mailbox marks its message, and the trial of an account tells whether that mailbox can be read.
func TestReportsAreReadFromAMailbox(t *testing.T) {
	t.Parallel()
	h := startProgram(t, "--empty")
	h.desk(`[{"key":"n","name":"N","to":"{{email}}","subject":"{{@number}}","message":"Hello.","attach":[]}]`, `[]`)
	h.send("ann@late.example")
	soon(t, 20*time.Second, "the message goes", func() bool { return len(h.mailTo("ann@late.example")) == 1 })
	var trial struct {
		Parts []struct{ Part, Reason string }
	}
	var page struct {
		Entries []struct {
			Returned []struct{ Address, Reason string }
		}
	}
	soon(t, 20*time.Second, "the report is read", func() bool { // it may be there before its message is on record
		h.call("POST", "/api/accounts/given/trial", map[string]string{"to": "owner@tarnhollow.example"}, &trial)
		if n := len(trial.Parts); n == 0 || trial.Parts[n-1].Part != "inbox" || trial.Parts[n-1].Reason != "" {
			t.Errorf("the trial says %+v", trial)
		}
		h.call("GET", "/api/messages", nil, &page)
		return len(page.Entries) == 1 && len(page.Entries[0].Returned) == 1
	})
	if len(page.Entries) != 1 || len(page.Entries[0].Returned) != 1 || page.Entries[0].Returned[0].Address != "ann@late.example" ||
		page.Entries[0].Returned[0].Reason != "“552 5.2.2 The mailbox is full”" {
		t.Errorf("the messages are %+v", page)
	}
	var again struct {
		Entries []struct{ ID, SubmissionID int64 }
	}
	h.call("GET", "/api/messages", nil, &again)
	m := again.Entries[0]
	_, source := h.try("GET", fmt.Sprintf("/api/submissions/%d/messages/%d/source", m.SubmissionID, m.ID), nil)
	for _, part := range []string{"To: <ann@late.example>\r\n", "Message-ID: <", "\r\nHello.", "Content-Type: text/html"} {
		if !strings.Contains(string(source), part) {
			t.Errorf("the source has no %q:\n%s", part, source)
		}
	}
	inbox := map[string]any{"host": "127.0.0.1", "port": 1, "protection": "none", "user": "nobody"}
	account := map[string]any{"key": "third", "name": "Third", "host": "127.0.0.1", "protection": "none", "inbox": inbox}
	h.call("PUT", "/api/accounts/third", map[string]any{"account": account, "inboxSecret": "secret"}, nil)
	inbox["host"] = "localhost"
	var p problem
	if status := h.call("PUT", "/api/accounts/third", map[string]any{"account": account}, &p); status != 422 {
		t.Errorf("a mailbox's password went to another server: %d %+v", status, p)
	}
}
