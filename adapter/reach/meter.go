package reach

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/url"
	"sync/atomic"

	"amberseal/core/words/quote"
)

// Listing is how many bytes are allowed for where the names of files are asked for.
const Listing = 16 << 20

// mostAround is how many bytes may stand around what was asked for: heads, and words of a refusal.
const mostAround = 256 << 10

// ErrTooMuch is the error of a service that sends more than it was asked for.
var ErrTooMuch = errors.New("more came than was asked for")

// elsewhere is the error of a service that sends us to another one: what is entered is the only one that is spoken to.
type elsewhere struct{ to *url.URL }

func (e elsewhere) Error() string {
	return fmt.Sprintf("sends us on to “%s”; enter that address if it is the right one", quote.Cut(e.to.Scheme+": "+e.to.Host))
}

type allowedKey struct{}

func allow(ctx context.Context, bytes int) context.Context {
	return context.WithValue(ctx, allowedKey{}, bytes)
}

// metered lets no answer be longer than its request's context allows.
type metered struct{ next http.RoundTripper }

func (m metered) RoundTrip(r *http.Request) (*http.Response, error) {
	a, err := m.next.RoundTrip(r)
	if err != nil {
		return nil, err
	}
	if to, err := a.Location(); err == nil && a.StatusCode/100 == 3 && a.StatusCode != http.StatusNotModified {
		if !reads[r.Method] || to.Scheme != r.URL.Scheme || to.Host != r.URL.Host {
			a.Body.Close()
			return nil, elsewhere{to}
		}
	}
	bytes, _ := r.Context().Value(allowedKey{}).(int)
	a.Body = &body{a.Body, int64(bytes) + mostAround}
	return a, nil
}

// reads are the methods that change nothing (RFC 9110 section 9.2.1, RFC 4918 section 9.1).
var reads = map[string]bool{http.MethodGet: true, http.MethodHead: true, "PROPFIND": true}

type body struct {
	io.ReadCloser
	left int64
}

func (b *body) Read(p []byte) (int, error) {
	if b.left <= 0 {
		return 0, ErrTooMuch
	}
	n, err := b.ReadCloser.Read(p[:min(int64(len(p)), b.left)])
	b.left -= int64(n)
	return n, err
}

// Line is a connection on which no more comes than is allowed. One goroutine may read while another allows.
type Line struct {
	net.Conn
	left atomic.Int64
}

// NewLine makes one on which the first words may come.
func NewLine(c net.Conn) *Line {
	l := &Line{Conn: c}
	l.Allow(0)
	return l
}

// Allow lets so many bytes come from now on, and some for what stands around them: a thirtieth part more covers packets and encryption.
func (l *Line) Allow(bytes int) { l.left.Store(int64(bytes) + int64(bytes)/30 + mostAround) }

// Over reports whether all that was allowed came.
func (l *Line) Over() bool { return l.left.Load() <= 0 }

func (l *Line) Read(p []byte) (int, error) {
	left := l.left.Load()
	if left <= 0 {
		return 0, ErrTooMuch
	}
	n, err := l.Conn.Read(p[:min(int64(len(p)), left)])
	l.left.Add(-int64(n))
	return n, err
}
