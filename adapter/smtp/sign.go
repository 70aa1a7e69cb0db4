package smtp

import (
	"bytes"
	"crypto"
	"crypto/x509"
	"encoding/pem"
	"errors"
	"io"

	"github.com/emersion/go-msgauth/dkim"

	"amberseal/app/accounts"
)

// signedHeaders are those that a signature covers (RFC 6376 section 5.4.1), and those that must not be added on the way.
var signedHeaders = []string{
	"From", "To", "Cc", "Reply-To", "Subject", "Date", "Message-ID", "MIME-Version", "Content-Type", "Auto-Submitted",
}

// signed is a message with a signature in front of it (RFC 6376).
func signed(m io.WriterTo, s accounts.Signing) (io.WriterTo, error) {
	block, _ := pem.Decode([]byte(s.Key))
	if block == nil {
		return nil, errors.New("the signing key is damaged")
	}
	key, err := x509.ParsePKCS8PrivateKey(block.Bytes)
	if err != nil {
		return nil, err
	}
	signer, ok := key.(crypto.Signer)
	if !ok {
		return nil, errors.New("the signing key cannot sign")
	}
	var plain, out bytes.Buffer
	if _, err := m.WriteTo(&plain); err != nil {
		return nil, err
	}
	err = dkim.Sign(&out, &plain, &dkim.SignOptions{
		Domain: s.Domain, Selector: s.Selector, Signer: signer, HeaderKeys: signedHeaders,
		HeaderCanonicalization: dkim.CanonicalizationRelaxed, BodyCanonicalization: dkim.CanonicalizationRelaxed,
	})
	return &out, err
}
