package accounts

import (
	"context"
	"crypto/ed25519"
	"crypto/rand"
	"crypto/rsa"
	"crypto/x509"
	"encoding/base64"
	"encoding/pem"
	"errors"
	"strings"

	"amberseal/app/register"
	"amberseal/core/account"
)

// Signing is the key by which messages are signed (DKIM, RFC 6376).
type Signing struct {
	Domain, Selector string
	Key              string // PEM of PKCS #8; empty where nothing is signed
}

// sign makes the key by which an account signs, where it has none.
func (b *Book) sign(ctx context.Context, a account.Account) error {
	if _, err := b.Safe.Get(ctx, a.KeyName(), ""); !errors.Is(err, register.NotFound) {
		return err
	}
	key, err := rsa.GenerateKey(rand.Reader, signingBits)
	if err != nil {
		return err
	}
	der, err := x509.MarshalPKCS8PrivateKey(key)
	if err != nil {
		return err
	}
	return b.Safe.Put(ctx, a.KeyName(), "", string(pem.EncodeToMemory(&pem.Block{Type: "PRIVATE KEY", Bytes: der})))
}

// Record is what the DNS is to say of a signing key (RFC 6376 section 3.6.1), as a line of a zone's file.
func Record(selector, domain, key string) (string, error) {
	block, _ := pem.Decode([]byte(key))
	if block == nil {
		return "", errors.New("the signing key is damaged")
	}
	private, err := x509.ParsePKCS8PrivateKey(block.Bytes)
	if err != nil {
		return "", err
	}
	kind := "rsa"
	var der []byte
	switch k := private.(type) {
	case *rsa.PrivateKey:
		der, err = x509.MarshalPKIXPublicKey(&k.PublicKey)
	case ed25519.PrivateKey: // RFC 8463
		kind, der = "ed25519", k.Public().(ed25519.PublicKey)
	default:
		err = errors.New("the signing key is of an unknown kind")
	}
	words := "v=DKIM1; k=" + kind + "; p=" + base64.StdEncoding.EncodeToString(der)
	var quoted []string
	for len(words) > 0 { // RFC 1035 section 3.3: 255 signs a string at most
		n := min(len(words), 250)
		quoted, words = append(quoted, `"`+words[:n]+`"`), words[n:]
	}
	return selector + "._domainkey." + domain + ". TXT " + strings.Join(quoted, " "), err
}
