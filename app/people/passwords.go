package people

import (
	"context"
	"crypto/rand"
	"fmt"
	"strings"
	"sync"
	"time"
	"unicode/utf8"

	"github.com/alexedwards/argon2id"
	"golang.org/x/crypto/argon2"
)

// hashing limits how many passwords are hashed at once: each takes 19 MiB.
var hashing = make(chan struct{}, 2)

// longestTurn is how long somebody waits for it.
const longestTurn = 10 * time.Second

// cost are the argon2id parameters of new hashes: OWASP's recommendation (Password Storage Cheat Sheet), 19 MiB, two passes, one
// lane. A hash says with which it was made, so that they can be raised.
var cost = &argon2id.Params{Memory: 19 * 1024, Iterations: 2, Parallelism: 1, SaltLength: 16, KeyLength: 32}

// nobody is a hash that no password has, so that an address nobody has takes as long as any other.
var nobody = sync.OnceValue(func() string {
	hash, err := argon2id.CreateHash(rand.Text(), cost)
	if err != nil {
		return ""
	}
	return hash
})

// turn waits for one of the places where passwords are hashed.
func turn(ctx context.Context) (leave func(), err error) {
	deadline := time.NewTimer(longestTurn)
	defer deadline.Stop()
	select {
	case hashing <- struct{}{}:
		return func() { <-hashing }, nil
	case <-deadline.C:
		return nil, ErrBusy
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}

// hash makes the hash of a password.
func hash(ctx context.Context, password string) (string, error) {
	leave, err := turn(ctx)
	if err != nil {
		return "", err
	}
	defer leave()
	return argon2id.CreateHash(password, cost)
}

// shortest is how many characters a password has at least.
const shortest = 12

// neighbours are rows of characters that stand beside each other, and firstTried what anybody tries first.
var (
	neighbours = []string{
		"01234567890123456789", "98765432109876543210", "abcdefghijklmnopqrstuvwxyz",
		"qwertyuiopasdfghjklzxcvbnm", "qwertzuiopasdfghjklyxcvbnm", "azertyuiopqsdfghjklmwxcvbn",
	}
	firstTried = []string{
		"password", "passwort", "motdepasse", "contraseña", "haslo", "letmein", "welcome", "iloveyou", "administrator", "changeme",
		"qwertyuiop", "qwertzuiop", "amberseal", "amber seal",
	}
)

// weak says what is wrong with a password, or nothing (NIST SP 800-63B, 5.1.1.2: length, and what is commonly used or about
// oneself; no rules of composition).
func weak(password string, p Person) string {
	lower := strings.ToLower(password)
	distinct := map[rune]bool{}
	for _, r := range lower {
		distinct[r] = true
	}
	switch local, _, _ := strings.Cut(strings.ToLower(p.Email), "@"); {
	case utf8.RuneCountInString(password) < shortest:
		return fmt.Sprintf("a password has at least %d characters", shortest)
	case len(distinct) < 5:
		return "the password repeats the same few characters; choose another"
	case lower == strings.ToLower(p.Email) || len(local) > 4 && strings.Contains(lower, local):
		return "the password is made of the address; choose another"
	}
	for _, run := range neighbours {
		if strings.Contains(run+run, lower) {
			return "the password is a row of neighbouring characters; choose another"
		}
	}
	bare := strings.Trim(lower, "0123456789!?.-_ ")
	spelt := strings.NewReplacer("0", "o", "1", "i", "3", "e", "4", "a", "5", "s", "@", "a", "$", "s").Replace(bare)
	for _, word := range firstTried {
		for _, plain := range []string{bare, spelt} {
			if rest := strings.ReplaceAll(plain, word, ""); utf8.RuneCountInString(rest) < 4 && rest != plain {
				return "the password is one of the first that anybody tries; choose another"
			}
		}
	}
	return ""
}

// matches holds a password against a hash: of today's form (PHC string), or of the first one, whose parameters were fixed.
func matches(hash, password string) (bool, error) {
	if strings.HasPrefix(hash, "$") {
		return argon2id.ComparePasswordAndHash(password, hash)
	}
	parts := strings.Split(hash, "$")
	if len(parts) != 3 {
		return false, nil
	}
	first := fmt.Sprintf("$argon2id$v=%d$m=%d,t=%d,p=%d$%s$%s", argon2.Version, 19*1024, 2, 1, parts[1], parts[2])
	return argon2id.ComparePasswordAndHash(password, first)
}
