package smtp

import (
	"context"
	"crypto/tls"
	"errors"
	"net"
	"net/textproto"
	"slices"
	"strings"

	"github.com/wneessen/go-mail"

	"amberseal/app/accounts"
	"amberseal/app/notify"
)

// Try hands a letter over by a connection of its own and says how each part of that ended; it stops at the one that fails.
func (p *Post) Try(ctx context.Context, l notify.Letter) []accounts.Result {
	err, connected := p.send(ctx, l)
	failed := accounts.Message
	var r refused
	var reason string
	switch {
	case err == nil:
		return results("", "")
	case !connected:
		failed, reason = partOf(err), p.outage(err).Error()
	case errors.As(err, &r):
		failed, reason = map[stage]accounts.Step{atSender: accounts.Sender, atRecipient: accounts.Recipient}[r.at], p.verdict(r).Error()
		if failed == "" {
			failed = accounts.Message
		}
	default:
		reason = err.Error()
	}
	return results(failed, strings.TrimSuffix(reason, " The message goes out when it is back."))
}

// results are the parts up to the one that failed, all of them where none did.
func results(failed accounts.Step, reason string) (out []accounts.Result) {
	for _, step := range accounts.Steps {
		if step == failed {
			return append(out, accounts.Result{Step: step, Reason: reason})
		}
		out = append(out, accounts.Result{Step: step})
	}
	return out
}

// partOf says at which part a connection failed.
func partOf(err error) accounts.Step {
	var dns *net.DNSError
	var certificate *tls.CertificateVerificationError
	var record tls.RecordHeaderError
	var said *textproto.Error
	switch {
	case errors.As(err, &dns):
		return accounts.Name
	case errors.As(err, &certificate), errors.As(err, &record), strings.Contains(err.Error(), "STARTTLS"),
		strings.Contains(err.Error(), "tls:"):
		return accounts.Protected
	case errors.Is(err, mail.ErrNoSupportedAuthDiscovered), errors.As(err, &said) && slices.Contains(signInCodes, said.Code):
		return accounts.SignIn
	}
	return accounts.Connection
}

// signInCodes are the replies to somebody who may not sign in (RFC 4954 section 6).
var signInCodes = []int{432, 454, 534, 535, 538}
