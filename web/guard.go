package web

import (
	"crypto/hmac"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"encoding/binary"
	"net"
	"net/http"
	"sync"
	"time"

	"golang.org/x/time/rate"

	"amberseal/web/api"
)

// guard tells people from robots without asking an outside service: a field people do not see, the time a form
// takes, a proof of work, and how often one address sends.
type guard struct {
	secret []byte
	now    func() time.Time
	mu     sync.Mutex
	from   map[string]*rate.Limiter
}

func newGuard(now func() time.Time) *guard {
	secret := make([]byte, 32)
	rand.Read(secret) // never fails
	return &guard{secret: secret, now: now, from: map[string]*rate.Limiter{}}
}

const (
	proofBits  = 14             // leading zero bits: some 16,000 hashes, a fraction of a second on a phone
	stampLasts = 24 * time.Hour // how long a form may lie open
	leastTime  = 800 * time.Millisecond
	sendRate   = rate.Limit(0.5) // submissions a second from one address, after a first burst
	sendBurst  = 60
)

// stamp is a challenge for one form: when it was shown, signed.
func (g *guard) stamp(slug string) string {
	b := binary.BigEndian.AppendUint64(nil, uint64(g.now().Unix()))
	return base64.RawURLEncoding.EncodeToString(append(b, g.sign(b, slug)...))
}

func (g *guard) sign(at []byte, slug string) []byte {
	m := hmac.New(sha256.New, g.secret)
	m.Write(at)
	m.Write([]byte(slug))
	return m.Sum(nil)[:16]
}

// proven reports whether the stamp is ours and fresh and its proof makes a hash that begins with enough zeros.
func (g *guard) proven(slug, stamp, proof string) bool {
	b, err := base64.RawURLEncoding.DecodeString(stamp)
	if err != nil || len(b) != 24 || !hmac.Equal(b[8:], g.sign(b[:8], slug)) {
		return false
	}
	age := g.now().Sub(time.Unix(int64(binary.BigEndian.Uint64(b)), 0))
	if age < 0 || age > stampLasts || len(proof) > 32 {
		return false
	}
	sum := sha256.Sum256([]byte(stamp + ":" + proof))
	return binary.BigEndian.Uint32(sum[:])>>(32-proofBits) == 0
}

// refuse says why a submission looks like a robot's, or nothing. Programs that use the interface send no page token;
// a strict form asks everybody for one.
func (g *guard) refuse(slug string, strict bool, page *api.PageToken) string {
	const sorry = "This could not be taken in, since it looks as if a program had filled it in. Please wait a moment and send it again."
	if page != nil && (page.Trap != "" || page.Began < leastTime.Milliseconds()) {
		return sorry
	}
	if strict && (page == nil || !g.proven(slug, value(page.Stamp), value(page.Proof))) {
		return sorry
	}
	return ""
}

// often reports whether an address sends more than people do. This machine itself is trusted: programs on it, and a
// proxy, which names whom it speaks for.
func (g *guard) often(r *http.Request) bool {
	host, _, err := net.SplitHostPort(r.RemoteAddr)
	if err != nil {
		host = r.RemoteAddr
	}
	if ip := net.ParseIP(host); ip != nil && ip.IsLoopback() {
		host = r.Header.Get("X-Forwarded-For")
		if host == "" {
			return false
		}
	}
	g.mu.Lock()
	defer g.mu.Unlock()
	if len(g.from) > 50_000 {
		clear(g.from)
	}
	l := g.from[host]
	if l == nil {
		l = rate.NewLimiter(sendRate, sendBurst)
		g.from[host] = l
	}
	return !l.AllowN(g.now(), 1)
}
