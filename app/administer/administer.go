// Package administer is the house's own business: who we are, our pictures, the people
// who work here and how they sign in.
package administer

import (
	"bytes"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"image"
	"strings"
	"sync"
	"time"
	"unicode/utf8"

	"github.com/alexedwards/argon2id"
	"golang.org/x/crypto/argon2"

	"amberseal/app/access"
	"amberseal/app/produce"
	"amberseal/app/register"
	"amberseal/app/upload"
	"amberseal/core/print/svg"
	"amberseal/core/print/typeface"
	"amberseal/core/print/typeset"
	"amberseal/core/words/finding"
	"amberseal/core/words/house"
)

// Person is somebody who works in the house.
type Person struct {
	ID    int64
	Email string
	Name  string
	Role  access.Role

	Generation int // counts up with each new password, which ends all sessions
}

// Store is where the house is kept. Look-ups of nothing give register.NotFound.
type Store interface {
	House(ctx context.Context) (house.House, error)
	SetHouse(ctx context.Context, h house.House) error
	AddPerson(ctx context.Context, p Person, hash string, now time.Time) error
	PersonByEmail(ctx context.Context, email string) (Person, string, error)
	Person(ctx context.Context, id int64) (Person, error)
	People(ctx context.Context) (int, error)
	Picture(ctx context.Context, name string) ([]byte, error)
	AddPicture(ctx context.Context, name string, data []byte, now time.Time) error
	AddFont(ctx context.Context, name string, data []byte, now time.Time) error
}

// Office does the house's business.
type Office struct {
	Store Store
	Now   func() time.Time
}

// ErrSignIn is the error of a wrong address or password; it does not say which.
var ErrSignIn = errors.New("the email address or the password is not right")

// ErrBusy is the error of a sign-in for which there is no turn soon.
var ErrBusy = errors.New("many people sign in at this moment; please try again in a moment")

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

// SignIn finds the person of an address and password. It takes equally long for an
// address nobody has.
func (o *Office) SignIn(ctx context.Context, email, password string) (Person, error) {
	p, hash, err := o.Store.PersonByEmail(ctx, strings.TrimSpace(email))
	unknown := errors.Is(err, register.NotFound)
	if err != nil && !unknown {
		return Person{}, err
	}
	leave, err := turn(ctx)
	if err != nil {
		return Person{}, err
	}
	defer leave()
	if unknown {
		hash = nobody()
	}
	right, err := matches(hash, password)
	if err != nil {
		return Person{}, err
	}
	if !right || unknown {
		return Person{}, ErrSignIn
	}
	return p, nil
}

// AddPerson lets somebody sign in, or gives somebody who can a new name, role and password; their sessions end then. Without a role
// it is an owner.
func (o *Office) AddPerson(ctx context.Context, p Person, password string) error {
	if p.Role == "" {
		p.Role = access.Owner
	}
	if !p.Role.Known() {
		return fmt.Errorf("“%s” is no role; there are owner, designer, staff and auditor", p.Role)
	}
	if problem := weak(password, p); problem != "" {
		return errors.New(problem)
	}
	if !strings.Contains(p.Email, "@") {
		return fmt.Errorf("“%s” is not an email address", p.Email)
	}
	leave, err := turn(ctx)
	if err != nil {
		return err
	}
	hash, err := argon2id.CreateHash(password, cost)
	leave()
	if err != nil {
		return err
	}
	return o.Store.AddPerson(ctx, p, hash, o.Now())
}

// shortest is how many characters a password has at least.
const shortest = 12

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
	for _, run := range []string{"01234567890123456789", "98765432109876543210", "abcdefghijklmnopqrstuvwxyz", "qwertyuiopasdfghjklzxcvbnm", "qwertzuiopasdfghjklyxcvbnm", "azertyuiopqsdfghjklmwxcvbn"} {
		if strings.Contains(run+run, lower) {
			return "the password is a row of neighbouring characters; choose another"
		}
	}
	bare := strings.Trim(lower, "0123456789!?.-_ ")
	spelt := strings.NewReplacer("0", "o", "1", "i", "3", "e", "4", "a", "5", "s", "@", "a", "$", "s").Replace(bare)
	for _, word := range []string{"password", "passwort", "motdepasse", "contraseña", "haslo", "letmein", "welcome", "iloveyou", "administrator", "changeme", "qwertyuiop", "qwertzuiop", "amberseal", "amber seal"} {
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
	return argon2id.ComparePasswordAndHash(password, fmt.Sprintf("$argon2id$v=%d$m=%d,t=%d,p=%d$%s$%s", argon2.Version, 19*1024, 2, 1, parts[1], parts[2]))
}

// SetHouse keeps what was said about the house, or gives the findings that stand against it.
func (o *Office) SetHouse(ctx context.Context, h house.House) (finding.List, error) {
	h = h.WithDefaults()
	if l := h.Check(); l.Faults() > 0 {
		return l, nil
	}
	if h.Logo != "" {
		if _, err := o.Store.Picture(ctx, h.Logo); err != nil {
			var l finding.List
			l.Fault("house/logo", "The picture “"+h.Logo+"” is not there.", "Choose another.")
			return l, nil
		}
	}
	return nil, o.Store.SetHouse(ctx, h)
}

// AddPicture keeps a picture under a name made of its content, so that equal files are
// kept once. The error says what is wrong with the file.
func (o *Office) AddPicture(ctx context.Context, data []byte) (string, error) {
	kind := "svg"
	if svg.Is(data) {
		var err error
		if data, err = svg.Plain(data); err == nil {
			_, err = svg.Read(data)
		}
		if err != nil {
			return "", err
		}
	} else {
		img, err := typeset.ReadImage(data)
		if err != nil {
			return "", err
		}
		if _, _, err := image.Decode(bytes.NewReader(data)); err != nil {
			return "", errors.New("the picture is damaged: it breaks off, or its colours cannot be read")
		}
		kind = map[string]string{"png": "png", "jpeg": "jpg"}[img.Format]
		if max(img.Width, img.Height) > upload.LongSide || bytes.Contains(data, []byte("Exif\x00\x00")) {
			if data, err = upload.Upright(ctx, data, "image/"+img.Format); err != nil {
				return "", err
			}
		}
	}
	name := named(data, kind)
	return name, o.Store.AddPicture(ctx, name, data, o.Now())
}

// named is a name that comes from the bytes.
func named(data []byte, kind string) string {
	sum := sha256.Sum256(data)
	return hex.EncodeToString(sum[:16]) + "." + kind
}

// AddFont keeps a TrueType or OpenType font for documents and gives its name and its family's. The error says why it cannot
// be taken, such as a licence that forbids it.
func (o *Office) AddFont(ctx context.Context, data []byte) (name, family string, err error) {
	face, err := typeface.Read(data)
	if err != nil {
		return "", "", err
	}
	kind := "ttf"
	if face.Outlines != nil {
		kind = "otf"
	}
	if err := produce.TryFont(data); err != nil {
		return "", "", err
	}
	name = named(data, kind)
	return name, face.Family, o.Store.AddFont(ctx, name, data, o.Now())
}
