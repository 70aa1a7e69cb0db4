package web

import (
	"crypto/sha256"
	"encoding/binary"
	"strconv"
	"testing"
	"time"

	"amberseal/core/link"
)

// solve finds a proof by trying, as a respondent's browser does.
func solve(stamp string) string {
	for n := 0; ; n++ {
		proof := strconv.Itoa(n)
		sum := sha256.Sum256([]byte(stamp + ":" + proof))
		if binary.BigEndian.Uint32(sum[:])>>(32-proofBits) == 0 {
			return proof
		}
	}
}

// A proof is good for its form, for a day, and for one set of answers, which may be sent again.
func TestStampsAgeAndServeOnce(t *testing.T) {
	now := time.Date(2026, 11, 27, 12, 0, 0, 0, time.UTC)
	g := newRobots(link.Secret("0123456789abcdef0123456789abcdef"), func() time.Time { return now })
	stamp := g.stamp("gift")
	proof := solve(stamp)
	for _, x := range []struct {
		name  string
		after time.Duration
		slug  string
		proof string
		once  string
		want  bool
	}{
		{"another form", 0, "other", proof, "a", false},
		{"no work", 0, "gift", proof + "x", "a", false},
		{"from the future", -time.Second, "gift", proof, "a", false},
		{"good", 0, "gift", proof, "a", true},
		{"the same sent again", time.Minute, "gift", proof, "a", true},
		{"other answers", 2 * time.Minute, "gift", proof, "b", false},
		{"just in time", stampLasts, "gift", proof, "a", true},
		{"too old", stampLasts + time.Second, "gift", proof, "a", false},
	} {
		shown := now
		now = now.Add(x.after)
		if got := g.proven(x.slug, stamp, x.proof, x.once); got != x.want {
			t.Errorf("%s: %v", x.name, got)
		}
		now = shown
	}
	fresh := g.stamp("gift")
	now = now.Add(stampLasts + time.Second)
	if g.proven("gift", fresh, solve(fresh), "c") {
		t.Error("a stamp that was never used does not age")
	}
}
