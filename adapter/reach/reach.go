// Package reach is what all adapters to services outside share: how long they wait, how much they take, and what is said of a connection
// that fails.
package reach

import (
	"context"
	"crypto/tls"
	"crypto/x509"
	"errors"
	"io"
	"net"
	"net/http"
	"net/url"
	"strings"
	"syscall"
	"time"

	"amberseal/app/work"
	"amberseal/core/words/quote"
)

const (
	dialTime   = 20 * time.Second
	answerTime = 45 * time.Second // for the first byte of an answer
	slowest    = 32 << 10         // bytes a second that a line carries at least
)

// Within is a context that ends when so many bytes should have crossed a slow line. An answer that is got by Transport has no more than
// these, and some for what stands around them.
func Within(ctx context.Context, bytes int) (context.Context, context.CancelFunc) {
	return context.WithTimeout(allow(ctx, bytes), answerTime+time.Duration(bytes/slowest)*time.Second)
}

// Transport is one for HTTP with times and bounds of its own. It lets itself be sent on by nobody: only for reading, and only to the same
// scheme, host and port.
func Transport() http.RoundTripper {
	return metered{&http.Transport{
		DialContext: (&net.Dialer{Timeout: dialTime}).DialContext, TLSHandshakeTimeout: dialTime, ResponseHeaderTimeout: answerTime,
		MaxIdleConnsPerHost: 4, IdleConnTimeout: time.Minute, ExpectContinueTimeout: time.Second, Proxy: http.ProxyFromEnvironment,
		TLSClientConfig: &tls.Config{MinVersion: tls.VersionTLS12}, MaxResponseHeaderBytes: mostAround,
	}}
}

// Link is the address of a path below another.
func Link(base, path string) string {
	return strings.TrimSuffix(base, "/") + "/" + strings.TrimPrefix((&url.URL{Path: path}).EscapedPath(), "/")
}

// Lies is the error of a place that says it took a file, and has not the file.
func Lies(where, name string) error {
	return work.Again{Reason: where + " said that it took “" + name + "”, but does not hold it whole. It is filed again.", Outage: true}
}

// Told says why there is no connection, or none any more. A stop is given as it is.
func Told(ctx context.Context, where string, err error) error {
	if err == nil {
		return nil
	}
	if errors.Is(ctx.Err(), context.Canceled) {
		return ctx.Err()
	}
	return work.Again{Reason: where + " " + Reason(err) + ".", Outage: true}
}

// Broken reports whether a connection broke off. One that was kept may have been closed long before anybody looked.
func Broken(err error) bool {
	for _, e := range []error{io.EOF, io.ErrUnexpectedEOF, syscall.ECONNRESET, syscall.EPIPE, net.ErrClosed} {
		if errors.Is(err, e) {
			return true
		}
	}
	return false
}

// Reason says what is wrong with a connection, as the end of a sentence that begins with the server.
func Reason(err error) string {
	var elsewhere elsewhere
	var dns *net.DNSError
	var named x509.HostnameError
	var issuer x509.UnknownAuthorityError
	var invalid x509.CertificateInvalidError
	var certificate *tls.CertificateVerificationError
	var record tls.RecordHeaderError
	var timeout net.Error
	switch {
	case errors.Is(err, ErrTooMuch):
		return "sends more than it was asked for; it was hung up"
	case errors.As(err, &elsewhere):
		return elsewhere.Error()
	case errors.As(err, &dns):
		return "is not known by this name"
	case errors.As(err, &invalid) && invalid.Reason == x509.Expired:
		return "shows a certificate that is out of its time: it has expired, or the clock of this machine is wrong"
	case errors.As(err, &named), errors.As(err, &issuer), errors.As(err, &certificate):
		return "shows a certificate that is not to be trusted (" + quote.Cut(err.Error()) + ")"
	case errors.As(err, &record), errors.Is(err, http.ErrSchemeMismatch):
		return "does not speak TLS at this port"
	case errors.Is(err, syscall.ECONNREFUSED):
		return "does not answer: nothing listens there"
	case errors.Is(err, context.DeadlineExceeded), errors.As(err, &timeout) && timeout.Timeout():
		return "answers too slowly"
	case Broken(err):
		return "broke the connection off"
	}
	return "cannot be reached: " + quote.Cut(err.Error())
}
