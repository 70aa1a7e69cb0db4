package web

import (
	"crypto/hmac"
	"crypto/sha256"
	"encoding/base64"
	"encoding/binary"
	"sync"
	"time"

	"amberseal/core/link"
	"amberseal/web/api"
)

// robots tells people from robots without asking an outside service: a field people do not see, the time a form
// takes, and a proof of work that is good once.
type robots struct {
	secret link.Secret
	now    func() time.Time

	mu    sync.Mutex
	used  map[string]time.Time // proofs, until their stamps lapse
	swept time.Time
}

func newRobots(secret link.Secret, now func() time.Time) *robots {
	return &robots{secret: secret, now: now, used: map[string]time.Time{}}
}

const (
	proofBits  = 14             // leading zero bits: some 16,000 hashes, a fraction of a second on a phone
	stampLasts = 24 * time.Hour // how long a form may lie open
	leastTime  = 800 * time.Millisecond
)

// stamp is a challenge for one form: when it was shown, signed. It stays good when the program is started anew.
func (g *robots) stamp(slug string) string {
	b := binary.BigEndian.AppendUint64(nil, uint64(g.now().UnixMicro()))
	return base64.RawURLEncoding.EncodeToString(append(b, g.sign(b, slug)...))
}

func (g *robots) sign(at []byte, slug string) []byte {
	return g.secret.Sum("stamp", string(at), slug)[:16]
}

// proven reports whether the stamp is ours and fresh, its proof makes a hash that begins with enough zeros, and neither was used
// for other answers before. once is the sender's key: the same may be sent again.
func (g *robots) proven(slug, stamp, proof, once string) bool {
	b, err := base64.RawURLEncoding.DecodeString(stamp)
	if err != nil || len(b) != 24 || !hmac.Equal(b[8:], g.sign(b[:8], slug)) {
		return false
	}
	shown := time.UnixMicro(int64(binary.BigEndian.Uint64(b)))
	age := g.now().Sub(shown)
	if age < 0 || age > stampLasts || len(proof) > 32 {
		return false
	}
	sum := sha256.Sum256([]byte(stamp + ":" + proof))
	return binary.BigEndian.Uint32(sum[:])>>(32-proofBits) == 0 && g.first(stamp+"\x00"+once, stamp, shown.Add(stampLasts))
}

// first reports whether a stamp is used for the first time, or again with the same key.
func (g *robots) first(key, stamp string, until time.Time) bool {
	g.mu.Lock()
	defer g.mu.Unlock()
	now := g.now()
	if now.Sub(g.swept) > time.Minute {
		g.swept = now
		for k, t := range g.used {
			if now.After(t) {
				delete(g.used, k)
			}
		}
	}
	if _, same := g.used[key]; same {
		return true
	}
	if _, used := g.used[stamp]; used {
		return false
	}
	g.used[stamp], g.used[key] = until, until
	return true
}

// refuse says why a submission looks like a robot's, or nothing. Programs that use the interface send no page token;
// a strict form asks everybody for one. stale says that a new stamp would help.
func (g *robots) refuse(slug string, strict bool, page *api.PageToken, once string) (reason string, stale bool) {
	const sorry = "this could not be taken in, since it looks as if a program had filled it in; please wait a moment and send it again"
	if page != nil && (page.Trap != "" || page.Began < leastTime.Milliseconds()) {
		return sorry, false
	}
	if strict && (page == nil || !g.proven(slug, value(page.Stamp), value(page.Proof), once)) {
		return sorry, page != nil
	}
	return "", false
}
