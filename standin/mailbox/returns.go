package mailbox

import (
	"bytes"
	"fmt"
	"net"
	"strings"
	"time"

	"github.com/emersion/go-imap/v2"
	"github.com/emersion/go-imap/v2/imapserver"
	"github.com/emersion/go-imap/v2/imapserver/imapmemserver"
)

// Who opens the mailbox into which reports come, in the demo.
const (
	ReturnsUser     = "returns"
	ReturnsPassword = "demo-returns"
	Returns         = "returns@tarnhollow.example"
)

// returns is an IMAP server with one mailbox, kept in memory.
type returns struct {
	user   *imapmemserver.User
	server *imapserver.Server
	told   func() // called when a report came; may be nil
}

// OpenReturns serves by IMAP, at a free port, the mailbox into which reports of what could not be delivered come (RFC 3464). It gives the
// host and the port, and calls told when one came.
func (b *Mailbox) OpenReturns(told func()) (host string, port int, err error) {
	user := imapmemserver.NewUser(ReturnsUser, ReturnsPassword)
	if err := user.Create("INBOX", nil); err != nil {
		return "", 0, err
	}
	mem := imapmemserver.New()
	mem.AddUser(user)
	s := imapserver.New(&imapserver.Options{
		NewSession: func(*imapserver.Conn) (imapserver.Session, *imapserver.GreetingData, error) {
			return mem.NewSession(), nil, nil
		},
		Caps: imap.CapSet{imap.CapIMAP4rev1: {}, imap.CapIMAP4rev2: {}}, InsecureAuth: true,
	})
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return "", 0, err
	}
	go s.Serve(l) // ends when the server is closed
	b.mu.Lock()
	b.returns = &returns{user, s, told}
	b.mu.Unlock()
	at := l.Addr().(*net.TCPAddr)
	return at.IP.String(), at.Port, nil
}

// Deliver puts a message into the mailbox of reports.
func (b *Mailbox) Deliver(raw []byte) error {
	b.mu.Lock()
	r := b.returns
	b.mu.Unlock()
	if r == nil {
		return nil // nobody reads it
	}
	_, err := r.user.Append("INBOX", literal{bytes.NewReader(raw)}, &imap.AppendOptions{Time: time.Now()})
	if r.told != nil {
		r.told()
	}
	return err
}

// literal is bytes as the server takes them.
type literal struct{ *bytes.Reader }

// CloseReturns ends the server.
func (b *Mailbox) CloseReturns() error {
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.returns == nil {
		return nil
	}
	return b.returns.server.Close()
}

// report says that a message did not reach somebody (RFC 3464), to where it comes back.
func report(back, to string, message []byte) []byte {
	head, _, _ := bytes.Cut(message, []byte("\r\n\r\n"))
	const edge = "the-report"
	return []byte(strings.ReplaceAll(fmt.Sprintf(`From: Mail Delivery <postmaster@late.example>
To: %s
Subject: Undelivered mail
Date: %s
MIME-Version: 1.0
Content-Type: multipart/report; report-type=delivery-status; boundary=%[3]s

--%[3]s
Content-Type: text/plain; charset=utf-8

%[4]s could not be reached.

--%[3]s
Content-Type: message/delivery-status

Reporting-MTA: dns; late.example

Final-Recipient: rfc822; %[4]s
Action: failed
Status: 5.2.2
Diagnostic-Code: smtp; 552 5.2.2 The mailbox is full

--%[3]s
Content-Type: text/rfc822-headers

`, back, time.Now().Format(time.RFC1123Z), edge, to), "\n", "\r\n") + string(head) + "\r\n\r\n--" + edge + "--\r\n")
}
