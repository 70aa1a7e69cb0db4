package link_test

import (
	"crypto/rand"
	"fmt"
	"strings"
	"testing"

	"amberseal/core/link"
)

func ExampleSecret_Token() {
	house := link.Secret("0123456789abcdef0123456789abcdef")
	token := house.Token(link.Read, "AAAAAAAAAAAA", 1)
	ref, ok := link.Ref(token)
	fmt.Println(len(token), ref, ok, house.Proves(token, link.Read, ref, 1), house.Proves(token, link.Read, ref, 2))
	// Output: 32 AAAAAAAAAAAA true true false
}

// A token is good for its purpose, its submission, its counter and its house alone, and nothing of it stands in a Message-ID.
func TestTokensAreForOneThing(t *testing.T) {
	a, b := link.Secret(strings.Repeat("a", 32)), link.Secret(strings.Repeat("b", 32))
	seen := map[string]string{}
	for _, ref := range []string{link.NewRef(rand.Reader), link.NewRef(rand.Reader)} {
		for _, p := range []link.Purpose{link.Read, link.Correct, link.Invite} {
			for counter := range 12 {
				token := a.Token(p, ref, counter)
				what := fmt.Sprint(p, ref, counter)
				if other := seen[token]; other != "" {
					t.Fatalf("%s and %s share a token", what, other)
				}
				seen[token] = what
				if got, ok := link.Ref(token); !ok || got != ref || !a.Proves(token, p, ref, counter) {
					t.Errorf("%s is not proven", what)
				}
				if b.Proves(token, p, ref, counter) || a.Proves(token[:31]+"!", p, ref, counter) ||
					link.Secret(nil).Proves(token, p, ref, counter) {
					t.Errorf("%s is proven where it must not be", what)
				}
				if id := a.MessageID("notice", ref, "7"); strings.Contains(strings.ToLower(token), id[:12]) ||
					strings.Contains(id, strings.ToLower(token[12:24])) {
					t.Errorf("the Message-ID %s tells of %s", id, token)
				}
			}
		}
	}
	if a.MessageID("x", "yz") == a.MessageID("xy", "z") {
		t.Error("parts run together")
	}
	if _, ok := link.Ref("short"); ok {
		t.Error("no token has five letters")
	}
}

// Only the address that was made for a job brings mail back to it: its proof is of the house's secret and of no other job. Readers of mail
// write addresses in letters of any size.
func TestOnlyOurAddressesComeBack(t *testing.T) {
	a, b := link.Secret(strings.Repeat("a", 32)), link.Secret(strings.Repeat("b", 32))
	for _, job := range []int64{1, 2, 12, 9_223_372_036_854_775_807} {
		ours := a.Return("returns@house.example", job)
		if got, ok := a.Returned(ours); !ok || got != job {
			t.Fatalf("%s is of %d, %v", ours, got, ok)
		}
		if got, ok := a.Returned(strings.ToUpper(ours)); !ok || got != job {
			t.Errorf("%s in capitals is of %d, %v", ours, got, ok)
		}
		local, domain, _ := strings.Cut(ours, "@")
		number, proof, _ := strings.Cut(local[strings.LastIndex(local, "+")+1:], "-")
		forged := []string{
			"", "returns@" + domain, fmt.Sprintf("returns+%s@%s", number, domain), fmt.Sprintf("returns+%s-@%s", number, domain),
			fmt.Sprintf("returns+%s-%s@%s", number, proof[:len(proof)-1], domain), fmt.Sprintf("returns+%s-%s0@%s", number, proof, domain),
			fmt.Sprintf("returns+%s1-%s@%s", number, proof, domain), fmt.Sprintf("returns+-%s-%s@%s", number, proof, domain),
			fmt.Sprintf("returns+%s-%s@%s", number, strings.Repeat("0", len(proof)), domain), b.Return("returns@house.example", job),
		}
		for i := range proof {
			other := []byte(proof)
			other[i] = "0123456789abcdef"[(strings.IndexByte("0123456789abcdef", other[i])+1)%16]
			forged = append(forged, fmt.Sprintf("returns+%s-%s@%s", number, other, domain))
		}
		for _, address := range forged {
			if got, ok := a.Returned(address); ok {
				t.Errorf("%s brings mail back to %d", address, got)
			}
		}
		if _, ok := link.Secret(nil).Returned(link.Secret(nil).Return("returns@house.example", job)); ok {
			t.Error("a house without a secret takes anything")
		}
	}
}
