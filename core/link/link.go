// Package link makes the tokens of personal links. A token is derived from the house's secret, what it is about, its purpose and
// a counter: it can be written again at any time and withdrawn by counting up, and stands nowhere in the database. Whoever has
// the database but not the secret can make none.
package link

import (
	"crypto/hmac"
	"crypto/sha256"
	"encoding/base32"
	"encoding/base64"
	"encoding/hex"
	"fmt"
	"io"
	"strconv"
	"strings"
)

// Secret is the house's; all personal links and all check codes hang on it. It has 32 bytes.
type Secret []byte

// Purpose is what the holder of a link may do. A token for one purpose is none for another.
type Purpose string

// The purposes.
const (
	Read    Purpose = "read"    // read what was sent, and the documents that are for the respondent
	Correct Purpose = "correct" // change what was sent
	Invite  Purpose = "invite"  // answer a form once
	Welcome Purpose = "welcome" // choose a password
	Hand    Purpose = "hand"    // get one file
	GoOn    Purpose = "go on"   // go on with answers that were kept
)

// refBytes and proofBytes are the lengths of a token's two parts: what it is about, which is no secret, and the proof.
const refBytes, proofBytes = 9, 15

// NewRef makes a name of chance for something that links can be about: 12 letters, unlike any other. Reading from random must
// not fail.
func NewRef(random io.Reader) string {
	b := make([]byte, refBytes)
	if _, err := io.ReadFull(random, b); err != nil {
		panic("link: there is no chance: " + err.Error())
	}
	return base64.RawURLEncoding.EncodeToString(b)
}

// Token is the token for a purpose: 32 letters of base64url. counter goes up to withdraw all tokens before.
func (s Secret) Token(p Purpose, ref string, counter int) string {
	return ref + base64.RawURLEncoding.EncodeToString(s.sum("link", string(p), ref, fmt.Sprint(counter))[:proofBytes])
}

// Ref is what a token says it is about; only Proves tells whether it is one.
func Ref(token string) (ref string, ok bool) {
	n := base64.RawURLEncoding.EncodedLen(refBytes)
	if len(token) != n+base64.RawURLEncoding.EncodedLen(proofBytes) {
		return "", false
	}
	return token[:n], true
}

// Proves reports whether a token is the one for the purpose, in a time that tells nothing.
func (s Secret) Proves(token string, p Purpose, ref string, counter int) bool {
	return len(s) > 0 && hmac.Equal([]byte(token), []byte(s.Token(p, ref, counter)))
}

// Return is the address to which mail of a job comes back: the house's, with the job and its proof behind a plus (RFC 5233 section 1 tells
// of such details of addresses).
func (s Secret) Return(address string, job int64) string {
	local, domain, _ := strings.Cut(address, "@")
	return fmt.Sprintf("%s+%d-%s@%s", local, job, s.returnProof(job), domain)
}

// Returned is the job of an address that Return made.
func (s Secret) Returned(address string) (job int64, ok bool) {
	local, _, _ := strings.Cut(address, "@")
	number, proof, _ := strings.Cut(local[strings.LastIndex(local, "+")+1:], "-")
	job, err := strconv.ParseInt(number, 10, 64)
	return job, err == nil && len(s) > 0 && hmac.Equal([]byte(strings.ToLower(proof)), []byte(s.returnProof(job)))
}

func (s Secret) returnProof(job int64) string {
	return hex.EncodeToString(s.sum("return", fmt.Sprint(job))[:8])
}

// MessageID is the part of a Message-ID before the @ for a letter about something: the same each time it is tried, and nothing
// can be learned from it.
func (s Secret) MessageID(about ...string) string {
	sum := s.sum(append([]string{"message"}, about...)...)
	return strings.ToLower(base32.StdEncoding.WithPadding(base32.NoPadding).EncodeToString(sum[:20]))
}

// Sum is a keyed sum of something for a use of its own, such as a document's code: 32 bytes.
func (s Secret) Sum(use string, of ...string) []byte { return s.sum(append([]string{use}, of...)...) }

// sum is HMAC-SHA-256 (RFC 2104) of the parts, each behind its length so that no two lists of parts are alike.
func (s Secret) sum(parts ...string) []byte {
	m := hmac.New(sha256.New, s)
	for _, p := range parts {
		fmt.Fprintf(m, "%d:%s", len(p), p)
	}
	return m.Sum(nil)
}
