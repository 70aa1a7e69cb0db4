package pdf

import (
	"crypto/aes"
	"crypto/cipher"
	"crypto/sha256"
	"crypto/sha512"
	"encoding/binary"
	"fmt"
	"io"
)

// Protection locks a file by the standard security handler, revision 6: AES-256 (ISO 32000-2 section 7.6.4).
type Protection struct {
	Password string // opens the file; empty lets everybody read it under the permissions
	Owner    string // lifts the permissions; random when empty
	NoPrint  bool
	NoCopy   bool
	NoChange bool
	Random   io.Reader // 32 random bytes for the key, and more for salts and each stream
}

// Permission bits (ISO 32000-2 table 22); all others are set.
const (
	mayPrint   = 1 << 2
	mayChange  = 1 << 3
	mayCopy    = 1 << 4
	mayNote    = 1 << 5
	mayFill    = 1 << 8
	mayPutUp   = 1 << 10
	mayPrintHi = 1 << 11
)

func (p Protection) permissions() int32 {
	bits := int32(-4) // the two lowest bits are 0; reading aloud (bit 10) is never taken away
	if p.NoPrint {
		bits &^= mayPrint | mayPrintHi
	}
	if p.NoCopy {
		bits &^= mayCopy
	}
	if p.NoChange {
		bits &^= mayChange | mayNote | mayFill | mayPutUp
	}
	return bits
}

// longestPassword is how many bytes of a password count.
const longestPassword = 127

// locker encrypts streams with the file's key.
type locker struct {
	block  cipher.Block
	random io.Reader
	dict   string // the encryption dictionary
}

func newLocker(p Protection) (*locker, error) {
	var fresh [32 + 32 + 4*8 + 4]byte
	if _, err := io.ReadFull(p.Random, fresh[:]); err != nil {
		return nil, err
	}
	key, owner, salts := fresh[:32], []byte(p.Owner), fresh[64:96]
	if len(owner) == 0 {
		owner = fresh[32:64]
	}
	user := []byte(p.Password)
	user, owner = user[:min(len(user), longestPassword)], owner[:min(len(owner), longestPassword)]
	u, ue := verifier(user, salts[:8], salts[8:16], nil, key)
	o, oe := verifier(owner, salts[16:24], salts[24:32], u, key)
	bits := p.permissions()
	perms := binary.LittleEndian.AppendUint32(nil, uint32(bits))
	perms = append(perms, 0xFF, 0xFF, 0xFF, 0xFF, 'T', 'a', 'd', 'b')
	perms = append(perms, fresh[96:]...)
	block, err := aes.NewCipher(key)
	if err != nil {
		return nil, err
	}
	block.Encrypt(perms, perms) // a single block in ECB mode
	return &locker{block, p.Random, fmt.Sprintf(
		"<</Filter /Standard /V 5 /R 6 /Length 256 /CF <</StdCF <</AuthEvent /DocOpen /CFM /AESV3 /Length 32>>>> /StmF /StdCF /StrF "+
			"/StdCF /P %d /U <%X> /UE <%X> /O <%X> /OE <%X> /Perms <%X>>>",
		bits, u, ue, o, oe, perms,
	)}, nil
}

// verifier makes the strings that check a password and give the key back for it (algorithms 8 and 9).
func verifier(password, check, salt, u, key []byte) (hash, encrypted []byte) {
	hash = append(append(hardened(password, check, u), check...), salt...)
	block, err := aes.NewCipher(hardened(password, salt, u))
	if err != nil {
		panic(err) // the hash has 32 bytes
	}
	encrypted = make([]byte, len(key))
	cipher.NewCBCEncrypter(block, make([]byte, aes.BlockSize)).CryptBlocks(encrypted, key)
	return hash, encrypted
}

// hardened is algorithm 2.B: at least 64 rounds of encrypting and hashing.
func hardened(password, salt, u []byte) []byte {
	first := sha256.Sum256(append(append(append([]byte{}, password...), salt...), u...))
	k := first[:]
	for round := 1; ; round++ {
		one := append(append(append([]byte{}, password...), k...), u...)
		all := make([]byte, 0, 64*len(one))
		for range 64 {
			all = append(all, one...)
		}
		block, err := aes.NewCipher(k[:16])
		if err != nil {
			panic(err) // a key of 16 bytes
		}
		cipher.NewCBCEncrypter(block, k[16:32]).CryptBlocks(all, all)
		sum := 0
		for _, b := range all[:16] {
			sum += int(b)
		}
		switch sum % 3 {
		case 0:
			h := sha256.Sum256(all)
			k = h[:]
		case 1:
			h := sha512.Sum384(all)
			k = h[:]
		case 2:
			h := sha512.Sum512(all)
			k = h[:]
		}
		if round >= 64 && int(all[len(all)-1]) <= round-32 {
			return k[:32]
		}
	}
}

// lock encrypts a stream: a random start, then AES in CBC mode with padding (section 7.6.3.1).
func (l *locker) lock(data []byte) ([]byte, error) {
	pad := aes.BlockSize - len(data)%aes.BlockSize
	out := make([]byte, aes.BlockSize+len(data)+pad)
	if _, err := io.ReadFull(l.random, out[:aes.BlockSize]); err != nil {
		return nil, err
	}
	body := out[aes.BlockSize:]
	copy(body, data)
	for i := len(data); i < len(body); i++ {
		body[i] = byte(pad)
	}
	cipher.NewCBCEncrypter(l.block, out[:aes.BlockSize]).CryptBlocks(body, body)
	return out, nil
}
