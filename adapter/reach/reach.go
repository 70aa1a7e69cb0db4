// Package reach is what all adapters to services outside share: how long they wait, and what is said of a connection that fails.
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
)

const (
	dialTime   = 20 * time.Second
	answerTime = 45 * time.Second // for the first byte of an answer
	slowest    = 32 << 10         // bytes a second that a line carries at least
)

// Much is how many bytes are allowed for where nobody knows how many will come.
const Much = 4 << 20

// Within is a context that ends when so many bytes should have crossed a slow line.
func Within(ctx context.Context, bytes int) (context.Context, context.CancelFunc) {
	return context.WithTimeout(ctx, answerTime+time.Duration(bytes/slowest)*time.Second)
}

// Transport is one for HTTP with times of its own.
func Transport() *http.Transport {
	return &http.Transport{
		DialContext: (&net.Dialer{Timeout: dialTime}).DialContext, TLSHandshakeTimeout: dialTime, ResponseHeaderTimeout: answerTime,
		MaxIdleConnsPerHost: 4, IdleConnTimeout: time.Minute, ExpectContinueTimeout: time.Second, Proxy: http.ProxyFromEnvironment,
		TLSClientConfig: &tls.Config{MinVersion: tls.VersionTLS12},
	}
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
	return work.Again{Reason: where + " " + reason(err) + ".", Outage: true}
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

func reason(err error) string {
	var dns *net.DNSError
	var named x509.HostnameError
	var issuer x509.UnknownAuthorityError
	var invalid x509.CertificateInvalidError
	var certificate *tls.CertificateVerificationError
	var record tls.RecordHeaderError
	var timeout net.Error
	switch {
	case errors.As(err, &dns):
		return "is not known by this name"
	case errors.As(err, &invalid) && invalid.Reason == x509.Expired:
		return "shows a certificate that is out of its time: it has expired, or the clock of this machine is wrong"
	case errors.As(err, &named), errors.As(err, &issuer), errors.As(err, &certificate):
		return "shows a certificate that is not to be trusted (" + err.Error() + ")"
	case errors.As(err, &record), errors.Is(err, http.ErrSchemeMismatch):
		return "does not speak TLS at this port"
	case errors.Is(err, syscall.ECONNREFUSED):
		return "does not answer: nothing listens there"
	case errors.Is(err, context.DeadlineExceeded), errors.As(err, &timeout) && timeout.Timeout():
		return "answers too slowly"
	case Broken(err):
		return "broke the connection off"
	}
	return "cannot be reached: " + strings.TrimSuffix(err.Error(), ".")
}
