// Package bounces takes reports of mail that came back (RFC 3464), finds the message that each is about, and marks it.
//
// A message is found by the address to which it comes back, which is another one for each (a variable envelope return path, common
// practice), and else by its Message-ID. An address alone proves nothing: it carries a sum of the house's secret.
package bounces

import (
	"bufio"
	"bytes"
	"context"
	"errors"
	"io"
	"net/mail"
	"net/textproto"
	"slices"
	"strings"
	"time"

	"github.com/emersion/go-message"
	_ "github.com/emersion/go-message/charset" // reports in any character set

	"amberseal/app/register"
	"amberseal/core/link"
	"amberseal/core/notice"
	"amberseal/core/words/quote"
)

// Failure is somebody whom a message did not reach for good.
type Failure struct {
	Address string
	Reason  string // in the words of who reports it
}

// Report is what a report says.
type Report struct {
	To        []string  // to which it was sent
	Date      time.Time // of the report; zero where it is not told
	MessageID string    // of the message that came back, without brackets; empty where it is not told
	Failures  []Failure
}

// ErrNoReport is the error of a message that reports no failure for good, such as one from somebody on holiday, or of a delay.
var ErrNoReport = errors.New("this is no report of mail that came back")

// ErrOthers is the error of a report that names nobody whom its message went to. It proves nothing but that somebody wrote it.
var ErrOthers = errors.New("this report names nobody whom the message went to")

const (
	largest      = 4 << 20 // bytes of a part that are read
	mostFailures = 100     // that one report tells: no message goes to more
)

// Read reads a report.
func Read(raw []byte) (Report, error) {
	m, err := message.Read(bytes.NewReader(raw))
	if err != nil && m == nil {
		return Report{}, ErrNoReport
	}
	r := Report{}
	if at, err := mail.ParseDate(m.Header.Get("Date")); err == nil {
		r.Date = at
	}
	for _, name := range []string{"To", "Delivered-To", "X-Original-To", "X-Envelope-To"} {
		for _, s := range m.Header.Values(name) {
			if all, err := mail.ParseAddressList(s); err == nil {
				for _, a := range all {
					r.To = append(r.To, a.Address)
				}
			}
		}
	}
	err = m.Walk(func(_ []int, part *message.Entity, err error) error {
		if err != nil || part == nil {
			return nil // what cannot be read is left out
		}
		kind, _, _ := part.Header.ContentType()
		switch kind {
		case "message/delivery-status", "message/global-delivery-status":
			data, err := io.ReadAll(io.LimitReader(part.Body, largest))
			if err != nil {
				return nil
			}
			r.Failures = append(r.Failures, failures(data)...)
			r.Failures = r.Failures[:min(len(r.Failures), mostFailures)]
		case "message/rfc822", "text/rfc822-headers", "message/global", "message/global-headers":
			h, _ := textproto.NewReader(bufio.NewReader(io.LimitReader(part.Body, largest))).ReadMIMEHeader()
			if id := strings.Trim(h.Get("Message-Id"), "<> "); id != "" {
				r.MessageID = id
			}
		}
		return nil
	})
	if err != nil || len(r.Failures) == 0 {
		return r, ErrNoReport
	}
	return r, nil
}

// failures reads the fields of each recipient (RFC 3464 section 2.3): of those whose message was given up.
func failures(data []byte) (out []Failure) {
	r := textproto.NewReader(bufio.NewReader(bytes.NewReader(data)))
	for {
		h, err := r.ReadMIMEHeader()
		if strings.EqualFold(strings.TrimSpace(h.Get("Action")), "failed") {
			f := Failure{Address: typed(h.Get("Original-Recipient")), Reason: typed(h.Get("Diagnostic-Code"))}
			if f.Address == "" {
				f.Address = typed(h.Get("Final-Recipient"))
			}
			if f.Reason == "" {
				f.Reason = "status " + strings.TrimSpace(h.Get("Status"))
			}
			f.Reason = quote.Words(f.Reason) // anybody can write a report
			out = append(out, f)
		}
		if err != nil || len(out) == mostFailures {
			return out
		}
	}
}

// Of are the failures of a report that may be true of a message: those of whom it went to, once each, with their addresses as the message
// had them.
func Of(readers []string, all []Failure) []Failure {
	var out []Failure
	for _, reader := range readers {
		i := slices.IndexFunc(all, func(f Failure) bool { return notice.SameAddress(f.Address, reader) })
		if i >= 0 && !slices.ContainsFunc(out, func(f Failure) bool { return notice.SameAddress(f.Address, reader) }) {
			out = append(out, Failure{reader, all[i].Reason})
		}
	}
	return out
}

// typed is the value of a field that begins with its type: “rfc822; ann@reader.example”.
func typed(s string) string {
	_, value, ok := strings.Cut(s, ";")
	if !ok {
		value = s
	}
	return strings.TrimSpace(value)
}

// Store marks messages. Look-ups of nothing give register.NotFound.
//
// Bounced marks the message of a job, or of a Message-ID without its domain where the job is 0: who it came back from, once each, with a
// step of the submission that failed for that reason and can be tried again. Of the failures it takes those that Of gives for its readers;
// where there are none, it is ErrOthers.
type Store interface {
	Bounced(ctx context.Context, job int64, mid string, all []Failure, now time.Time) (number string, err error)
}

// Taker takes reports.
type Taker struct {
	Store  Store
	Secret link.Secret
	Now    func() time.Time
}

// Take reads a report and marks its message. It gives the number of the submission, ErrNoReport, ErrOthers, or register.NotFound
// where the message is none of ours.
func (t *Taker) Take(ctx context.Context, raw []byte) (number string, err error) {
	r, err := Read(raw)
	if err != nil {
		return "", err
	}
	for _, to := range r.To {
		if job, ok := t.Secret.Returned(to); ok {
			return t.Store.Bounced(ctx, job, "", r.Failures, t.Now())
		}
	}
	mid, _, _ := strings.Cut(r.MessageID, "@")
	if mid == "" {
		return "", register.NotFound
	}
	return t.Store.Bounced(ctx, 0, mid, r.Failures, t.Now())
}
