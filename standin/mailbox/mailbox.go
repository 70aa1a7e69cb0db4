// Package mailbox is a stand-in for the post: a real SMTP server that keeps what it is
// given, with a switch to turn it off, so that everything can be tried without sending
// anything outside.
package mailbox

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"

	"github.com/emersion/go-message/mail"
	"github.com/emersion/go-smtp"

	_ "github.com/emersion/go-message/charset" // messages in any character set
)

// Mailbox is the server and what it received. It is safe for many goroutines.
type Mailbox struct {
	address string

	mu      sync.Mutex
	server  *smtp.Server
	letters *os.File
	kept    []kept
	returns *returns
}

// Message is what was received, without its bytes.
type Message struct {
	ID          string       `json:"id"`
	From        string       `json:"from"`
	Sender      string       `json:"sender"` // of the envelope, where it comes back to
	For         []string     `json:"for"`    // those of the envelope
	To          []string     `json:"to"`
	Subject     string       `json:"subject"`
	MessageID   string       `json:"messageId"`
	Received    time.Time    `json:"received"`
	Size        int          `json:"size"`
	Attachments []Attachment `json:"attachments"`
}

// Attachment is a file in a message.
type Attachment struct {
	Name string `json:"name"`
	Type string `json:"type"`
	Size int    `json:"size"`
}

// Open makes a mailbox that keeps its messages in a folder and reads back those that lie
// there. It is off until Switch turns it on. A port of 0 takes a free one.
func Open(address, dir string) (*Mailbox, error) {
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, err
	}
	f, all, err := openLetters(filepath.Join(dir, "letters.mbox"))
	return &Mailbox{address: address, letters: f, kept: all}, err
}

// Address is where the server listens, or listened last.
func (b *Mailbox) Address() string {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.address
}

// On reports whether the server answers.
func (b *Mailbox) On() bool {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.server != nil
}

// Switch turns the server on or off. Turned off, it drops its connections.
func (b *Mailbox) Switch(on bool) error {
	b.mu.Lock()
	defer b.mu.Unlock()
	if on == (b.server != nil) {
		return nil
	}
	if !on {
		err := b.server.Close()
		b.server = nil
		return err
	}
	l, err := net.Listen("tcp", b.address)
	if err != nil {
		return fmt.Errorf("the stand-in for mail cannot listen: %w", err)
	}
	b.address = l.Addr().String()
	s := smtp.NewServer(smtp.BackendFunc(func(*smtp.Conn) (smtp.Session, error) { return &session{box: b}, nil }))
	s.Domain, s.MaxMessageBytes, s.MaxRecipients = "mailbox.localhost", 64<<20, 100
	s.ReadTimeout, s.WriteTimeout = 5*time.Minute, time.Minute
	s.EnableSMTPUTF8 = true
	b.server = s
	go s.Serve(l) // ends when the server is closed; the switch tells whether it is on
	return nil
}

// Messages lists what was received, the newest first.
func (b *Mailbox) Messages() []Message {
	b.mu.Lock()
	defer b.mu.Unlock()
	out := make([]Message, 0, len(b.kept))
	for i := range b.kept {
		k := &b.kept[i]
		if k.read == nil {
			raw, err := k.raw(b.letters)
			if err != nil {
				continue // its file was taken away
			}
			m := describe(id(i), raw, k.at)
			k.read = &m
		}
		out = append(out, *k.read)
	}
	slices.Reverse(out)
	return out
}

// Raw gives a message as it was received (RFC 5322).
func (b *Mailbox) Raw(of string) ([]byte, error) {
	b.mu.Lock()
	defer b.mu.Unlock()
	n, err := strconv.Atoi(of)
	if err != nil || n < 1 || n > len(b.kept) || id(n-1) != of {
		return nil, os.ErrNotExist
	}
	return b.kept[n-1].raw(b.letters)
}

// id is what a message is called by its place.
func id(i int) string { return fmt.Sprintf("%06d", i+1) }

func (b *Mailbox) keep(raw []byte) error {
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.server == nil {
		return errors.New("the mailbox was turned off")
	}
	k, err := add(b.letters, raw, time.Now().UTC())
	if err == nil {
		b.kept = append(b.kept, k)
	}
	return err
}

// describe reads what a list of messages shows.
func describe(id string, raw []byte, at time.Time) Message {
	m := Message{ID: id, Received: at, Size: len(raw), To: []string{}, For: []string{}, Attachments: []Attachment{}}
	Parts(raw, func(h mail.Header, name, kind string, body []byte) {
		if h.Len() > 0 {
			m.Subject, _ = h.Subject()
			m.MessageID, _ = h.MessageID()
			m.Sender = strings.Trim(h.Get("Return-Path"), "<>")
			m.For = strings.Fields(h.Get(envelope))
			if from, err := h.AddressList("From"); err == nil && len(from) > 0 {
				m.From = from[0].String()
			}
			if to, err := h.AddressList("To"); err == nil {
				for _, a := range to {
					m.To = append(m.To, a.Address)
				}
			}
			return
		}
		if name != "" {
			m.Attachments = append(m.Attachments, Attachment{name, kind, len(body)})
		}
	})
	return m
}

// Parts calls visit with the message's header, then with each part's name (empty for the
// text), media type and decoded body. What cannot be read is left out.
func Parts(raw []byte, visit func(h mail.Header, name, kind string, body []byte)) {
	r, err := mail.CreateReader(strings.NewReader(string(raw)))
	if err != nil && r == nil {
		return
	}
	visit(r.Header, "", "", nil)
	for {
		p, err := r.NextPart()
		if err != nil {
			return
		}
		body, err := io.ReadAll(p.Body)
		if err != nil {
			return
		}
		switch h := p.Header.(type) {
		case *mail.InlineHeader:
			kind, _, _ := h.ContentType()
			visit(mail.Header{}, "", kind, body)
		case *mail.AttachmentHeader:
			name, _ := h.Filename()
			kind, _, _ := h.ContentType()
			visit(mail.Header{}, name, kind, body)
		}
	}
}

// envelope is the header in which whom a message was handed in for is kept.
const envelope = "X-Envelope-To"

// session takes one sender's messages.
type session struct {
	box  *Mailbox
	from string
	to   []string
}

func (s *session) Mail(from string, _ *smtp.MailOptions) error {
	s.from, s.to = from, nil
	return nil
}

// Rcpt puts off addresses at busy.example, as a busy server does, and knows none at gone.example (RFC 5321 section 4.2.2).
func (s *session) Rcpt(to string, _ *smtp.RcptOptions) error {
	switch _, host, _ := strings.Cut(strings.ToLower(to), "@"); host {
	case "busy.example":
		return &smtp.SMTPError{Code: 451, EnhancedCode: smtp.EnhancedCode{4, 7, 1}, Message: "The mailbox is busy, try again later"}
	case "gone.example":
		return &smtp.SMTPError{Code: 550, EnhancedCode: smtp.EnhancedCode{5, 1, 1}, Message: "There is no such mailbox"}
	}
	s.to = append(s.to, to)
	return nil
}

func (s *session) Reset()        { s.from, s.to = "", nil }
func (s *session) Logout() error { return nil }

func (s *session) Data(r io.Reader) error {
	raw, err := io.ReadAll(r)
	if err != nil {
		return err
	}
	// RFC 5321 section 4.4: who delivers a message writes down where it comes back to.
	err = s.box.keep(append(fmt.Appendf(nil, "Return-Path: <%s>\r\n%s: %s\r\n", s.from, envelope, strings.Join(s.to, " ")), raw...))
	for _, to := range s.to {
		// A server that takes a message and finds out later that it cannot deliver it says so by a report.
		if _, host, _ := strings.Cut(strings.ToLower(to), "@"); host == "late.example" && err == nil && s.from != "" {
			err = s.box.Deliver(report(s.from, to, raw))
		}
	}
	return err
}

// Close turns the server off and waits no longer than the context allows.
func (b *Mailbox) Close(ctx context.Context) error {
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.server == nil {
		return nil
	}
	err := b.server.Shutdown(ctx)
	b.server = nil
	return err
}
