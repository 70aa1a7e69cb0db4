// Package seal makes documents provable: each carries a code under which anybody can ask the house whether it is
// genuine. It computes only; what the house knows of a code is kept elsewhere.
package seal

import (
	"encoding/base32"
	"strconv"
	"strings"

	"amberseal/core/link"
)

// Trial is the code of documents that are made to try a design.
const Trial = "TRIAL"

// letters are Crockford's base 32: no I, L, O and U, so that a code can be read aloud and typed from paper.
const letters = "0123456789ABCDEFGHJKMNPQRSTVWXYZ"

var encoding = base32.NewEncoding(letters).WithPadding(base32.NoPadding)

// codeLetters is how long a code is: 80 bits, which nobody guesses by asking a server.
const codeLetters = 16

// Code is the code of one document of a submission, named by its ref: four groups of four letters and figures. The same
// document and revision give the same code, so that making a document again after a crash changes nothing; without the house's
// secret it cannot be told from chance.
func Code(secret link.Secret, submission, document string, revision int) string {
	return grouped(encoding.EncodeToString(secret.Sum("document code", submission, document, strconv.Itoa(revision)))[:codeLetters])
}

// Tidy is a code as Code writes it, from what somebody typed: small letters, other groups, and the letters that are
// taken for figures (O, I, L) are understood.
func Tidy(typed string) (code string, ok bool) {
	var b strings.Builder
	for _, r := range strings.ToUpper(typed) {
		switch {
		case r == 'O':
			r = '0'
		case r == 'I' || r == 'L':
			r = '1'
		case r == '-' || r == ' ' || r == '\u00a0' || r == '–':
			continue
		}
		if !strings.ContainsRune(letters, r) {
			return "", false
		}
		b.WriteRune(r)
	}
	if b.Len() != codeLetters {
		return "", false
	}
	return grouped(b.String()), true
}

func grouped(s string) string {
	return s[:4] + "-" + s[4:8] + "-" + s[8:12] + "-" + s[12:]
}
