// Package safe keeps what the house must not tell: passwords of mail accounts, keys of destinations, signing keys. They are sealed with a
// key that lies outside the data folder, so that whoever has the folder, or a backup of it, has none of them.
package safe

import (
	"context"
	"crypto/aes"
	"crypto/cipher"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"encoding/hex"
	"errors"
	"fmt"
	"regexp"
	"strings"
	"sync"
	"time"

	"amberseal/app/register"
)

// Key seals: AES-256 in Galois/Counter Mode (NIST SP 800-38D).
type Key [32]byte

// NewKey makes a key of chance.
func NewKey() Key {
	var k Key
	rand.Read(k[:]) // never fails
	return k
}

// ReadKey reads what Text writes.
func ReadKey(text string) (Key, error) {
	data, err := base64.StdEncoding.DecodeString(strings.TrimSpace(text))
	if err != nil || len(data) != len(Key{}) {
		return Key{}, errors.New("a key is 32 bytes in base64, as “amberseal secret --new-key” writes it")
	}
	return Key(data), nil
}

// Text is the key as it lies in its file.
func (k Key) Text() string { return base64.StdEncoding.EncodeToString(k[:]) + "\n" }

// mark names a key without telling it.
func (k Key) mark() string {
	sum := sha256.Sum256(append([]byte("amberseal key\x00"), k[:]...))
	return hex.EncodeToString(sum[:8])
}

// Sealed is a secret as it is kept.
type Sealed struct {
	Name  string
	Key   string // the mark of the key it is sealed with
	Door  string // the server that it was entered for, sealed along with it; empty where it is for none
	Bytes []byte // the nonce, and the sealed words
	At    time.Time
}

// Store keeps sealed secrets. Look-ups of nothing give register.NotFound.
type Store interface {
	Secret(ctx context.Context, name string) (Sealed, error)
	Secrets(ctx context.Context) ([]Sealed, error)
	SetSecret(ctx context.Context, s Sealed) error
	RemoveSecret(ctx context.Context, name string) error
}

// Safe seals and opens. It is safe for many goroutines.
type Safe struct {
	Store Store
	Key   *Key                // nil where there is none
	Make  func() (Key, error) // makes a key and keeps it, for the first secret of a house without one; nil where none is to be made
	Now   func() time.Time

	making sync.Mutex
}

// ErrNoKey is the error of a house without a key.
var ErrNoKey = errors.New("the house has no key for its secrets; say where it lies by AMBERSEAL_KEY, " +
	"or make one with “amberseal secret --new-key”")

// Lost is the error of a secret that the key at hand does not open.
type Lost struct{ Name string }

func (e Lost) Error() string {
	return fmt.Sprintf("the secret “%s” is sealed with another key; bring that key, or enter the secret again", e.Name)
}

var name = regexp.MustCompile(`^[a-z][a-z0-9./-]{0,99}$`)

// Elsewhere is the error of a secret that was entered for another server than the one it is asked for.
type Elsewhere struct{ Name string }

func (e Elsewhere) Error() string {
	return fmt.Sprintf("the secret “%s” was entered for another server; enter it again for this one", e.Name)
}

// InTheClear ends the name of a door whose connection is not protected. What was entered for it opens for the same door when that is
// protected, and not the other way round.
const InTheClear = " in the clear"

// Put seals a secret for a door and keeps it under a name, in place of the one before.
func (s *Safe) Put(ctx context.Context, as, door, secret string) error {
	if !name.MatchString(as) {
		return fmt.Errorf("“%s” cannot name a secret; use small letters, digits, points, slashes and hyphens", as)
	}
	seal, err := s.sealing()
	if err != nil {
		return err
	}
	nonce := make([]byte, seal.NonceSize())
	rand.Read(nonce)
	x := Sealed{Name: as, Key: s.key().mark(), Door: door, At: s.Now()}
	x.Bytes = seal.Seal(nonce, nonce, []byte(secret), x.beside())
	return s.Store.SetSecret(ctx, x)
}

// beside is what is sealed along with a secret, so that none can be put in another's place, nor be kept for another door.
func (x Sealed) beside() []byte {
	if x.Door == "" {
		return []byte(x.Name)
	}
	return []byte(x.Name + "\x00" + x.Door)
}

// Get opens a secret for a door. The error is register.NotFound where there is none, ErrNoKey without a key, Lost, or Elsewhere.
func (s *Safe) Get(ctx context.Context, as, door string) (string, error) {
	kept, err := s.Store.Secret(ctx, as)
	if err != nil {
		return "", err
	}
	if !kept.fits(door) {
		return "", Elsewhere{as}
	}
	return s.open(kept)
}

func (x Sealed) fits(door string) bool {
	return x.Door == door || door != "" && x.Door == door+InTheClear
}

// Fits reports whether a secret is kept that was entered for a door.
func (s *Safe) Fits(ctx context.Context, as, door string) (bool, error) {
	kept, err := s.Store.Secret(ctx, as)
	return err == nil && kept.fits(door), err
}

// Bind keeps a secret that was entered for no door, as they once were, for one. Where there is none, or it cannot be opened, nothing is
// done.
func (s *Safe) Bind(ctx context.Context, as, door string) error { return s.Move(ctx, as, "", door) }

// Move keeps a secret that was entered for one door for another, as when the server's key was seen.
func (s *Safe) Move(ctx context.Context, as, from, to string) error {
	kept, err := s.Store.Secret(ctx, as)
	if err != nil || kept.Door != from {
		return ignored(err)
	}
	words, err := s.open(kept)
	if err != nil {
		return ignored(err)
	}
	return s.Put(ctx, as, to, words)
}

// ignored are errors of secrets that are not there, or do not open.
func ignored(err error) error {
	if errors.Is(err, register.NotFound) || errors.Is(err, ErrNoKey) || errors.As(err, new(Lost)) {
		return nil
	}
	return err
}

// Shut reports whether an error says that a secret does not open: there is no key, not the right one, or it is for another door.
func Shut(err error) bool {
	return errors.Is(err, ErrNoKey) || errors.As(err, new(Lost)) || errors.As(err, new(Elsewhere))
}

func (s *Safe) open(kept Sealed) (string, error) {
	seal, err := s.cipher()
	if err != nil {
		return "", err
	}
	if n := seal.NonceSize(); len(kept.Bytes) > n {
		if words, err := seal.Open(nil, kept.Bytes[:n], kept.Bytes[n:], kept.beside()); err == nil {
			return string(words), nil
		}
	}
	return "", Lost{kept.Name}
}

// sealing is the cipher for a new secret.
func (s *Safe) sealing() (cipher.AEAD, error) {
	s.making.Lock()
	if s.Key == nil && s.Make != nil {
		key, err := s.Make()
		if err != nil {
			s.making.Unlock()
			return nil, err
		}
		s.Key = &key
	}
	s.making.Unlock()
	return s.cipher()
}

func (s *Safe) key() *Key {
	s.making.Lock()
	defer s.making.Unlock()
	return s.Key
}

func (s *Safe) cipher() (cipher.AEAD, error) {
	key := s.key()
	if key == nil {
		return nil, ErrNoKey
	}
	block, err := aes.NewCipher(key[:])
	if err != nil {
		return nil, err
	}
	return cipher.NewGCM(block)
}

// Lost lists the names of secrets that cannot be opened: what must be entered again, or whose key must be brought.
func (s *Safe) Lost(ctx context.Context) ([]string, error) {
	all, err := s.Store.Secrets(ctx)
	var out []string
	for _, kept := range all {
		if _, err := s.open(kept); err != nil {
			out = append(out, kept.Name)
		}
	}
	return out, err
}
