// Package administer is the house's own business: who we are, our pictures, the people
// who work here and how they sign in.
package administer

import (
	"bytes"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/base64"
	"encoding/hex"
	"errors"
	"fmt"
	"image"
	"strings"
	"time"

	"golang.org/x/crypto/argon2"

	"amberseal/app/produce"
	"amberseal/core/finding"
	"amberseal/core/house"
	"amberseal/core/svg"
	"amberseal/core/typeface"
	"amberseal/core/typeset"
)

// Person is somebody who works in the house.
type Person struct {
	ID    int64
	Email string
	Name  string
}

// Store is where the house is kept. Look-ups of nothing give register.NotFound.
type Store interface {
	House(ctx context.Context) (house.House, error)
	SetHouse(ctx context.Context, h house.House) error
	AddPerson(ctx context.Context, p Person, hash string, now time.Time) error
	PersonByEmail(ctx context.Context, email string) (Person, string, error)
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

// hashing limits how many passwords are hashed at once: each takes 19 MiB.
var hashing = make(chan struct{}, 2)

// The argon2id parameters are OWASP's recommendation (Password Storage Cheat Sheet):
// 19 MiB, two passes, one lane.
const (
	hashTime, hashMemory, hashLanes, hashLength = 2, 19 * 1024, 1, 32
)

// SignIn finds the person of an address and password. It takes equally long for an
// address nobody has.
func (o *Office) SignIn(ctx context.Context, email, password string) (Person, error) {
	p, hash, err := o.Store.PersonByEmail(ctx, strings.TrimSpace(email))
	if err != nil {
		matches("argon2id$AAAAAAAAAAAAAAAAAAAAAA$AAAA", password)
		return Person{}, ErrSignIn
	}
	if !matches(hash, password) {
		return Person{}, ErrSignIn
	}
	return p, nil
}

// AddPerson lets somebody sign in.
func (o *Office) AddPerson(ctx context.Context, p Person, password string) error {
	if len(password) < 10 {
		return errors.New("a password has at least 10 characters")
	}
	if !strings.Contains(p.Email, "@") {
		return fmt.Errorf("“%s” is not an email address", p.Email)
	}
	salt := make([]byte, 16)
	rand.Read(salt) // never fails
	return o.Store.AddPerson(ctx, p, "argon2id$"+base64.RawStdEncoding.EncodeToString(salt)+"$"+base64.RawStdEncoding.EncodeToString(hashed(password, salt)), o.Now())
}

func hashed(password string, salt []byte) []byte {
	hashing <- struct{}{}
	defer func() { <-hashing }()
	return argon2.IDKey([]byte(password), salt, hashTime, hashMemory, hashLanes, hashLength)
}

func matches(hash, password string) bool {
	parts := strings.Split(hash, "$")
	if len(parts) != 3 {
		return false
	}
	salt, err1 := base64.RawStdEncoding.DecodeString(parts[1])
	want, err2 := base64.RawStdEncoding.DecodeString(parts[2])
	got := hashed(password, salt)
	return err1 == nil && err2 == nil && subtle.ConstantTimeCompare(got, want) == 1
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
		if _, err := svg.Read(data); err != nil {
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
	}
	name := named(data, kind)
	return name, o.Store.AddPicture(ctx, name, data, o.Now())
}

// named is a name that comes from the bytes.
func named(data []byte, kind string) string {
	sum := sha256.Sum256(data)
	return hex.EncodeToString(sum[:8]) + "." + kind
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
