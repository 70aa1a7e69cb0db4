package typeface

import (
	"bytes"
	"crypto/sha256"
	"encoding/binary"
	"errors"
	"fmt"
	"regexp"
	"sync"
	"unicode"

	"github.com/go-text/typesetting/font"

	"amberseal/core/print/typeface/cff"
)

// Family is the faces of an uploaded family; those that are nil are replaced by Regular.
type Family struct{ Regular, Bold, Italic, BoldItalic *Face }

// Face is the family's face in a style.
func (f Family) Face(s Style) *Face {
	face := map[Style]*Face{{}: f.Regular, {Bold: true}: f.Bold, {Italic: true}: f.Italic, {Bold: true, Italic: true}: f.BoldItalic}[s]
	if face == nil {
		return f.Regular
	}
	return face
}

// Largest is how large an uploaded font may be, in bytes.
const Largest = 20 << 20

// The errors of fonts that cannot be taken, besides damaged ones.
var (
	ErrNoFont     = errors.New("the file is no TrueType or OpenType font, or is damaged")
	ErrCollection = errors.New("the file is a collection of fonts; take one of them out of it")
	ErrRestricted = errors.New("the font’s licence does not allow that documents carry it (its embedding bits say “restricted”)")
	ErrBitmap     = errors.New("the font’s licence allows only its bitmaps in documents, and it has outlines")
	ErrRenumbered = errors.New("the font numbers its characters in a way that documents cannot say; take a TrueType file of it")
	ErrVariable   = errors.New("the font is a variable one; take a file for each of its styles")
)

// The embedding bits of fsType, by the OpenType specification 1.9, table OS/2.
const (
	restrictedLicence = 0x0002
	previewPrint      = 0x0004
	editable          = 0x0008
	noSubsetting      = 0x0100
	bitmapOnly        = 0x0200
)

var (
	readMu sync.Mutex
	read   = map[[32]byte]*Face{}
)

// mostRead is how many uploaded fonts are kept parsed.
const mostRead = 64

// Read parses an uploaded font: TrueType or OpenType, with a licence that lets documents carry it. The same bytes give
// the same face. Whatever the bytes are, it never panics.
func Read(data []byte) (face *Face, err error) {
	if len(data) > Largest {
		return nil, fmt.Errorf("the font has more than %d MB", Largest>>20)
	}
	sum := sha256.Sum256(data)
	readMu.Lock()
	defer readMu.Unlock()
	if f, ok := read[sum]; ok {
		return f, nil
	}
	defer func() {
		if recover() != nil { // the parser met what it does not expect
			face, err = nil, ErrNoFont
		}
	}()
	if face, err = parse(data); err != nil {
		return nil, err
	}
	if len(read) >= mostRead {
		clear(read)
	}
	read[sum] = face
	return face, nil
}

var unsafeName = regexp.MustCompile(`[^A-Za-z0-9-]+`)

func parse(data []byte) (*Face, error) {
	if bytes.HasPrefix(data, []byte("ttcf")) {
		return nil, ErrCollection
	}
	tables, err := tablesOf(data)
	if err != nil {
		return nil, err
	}
	f := &Face{Data: data, Outlines: tables["CFF "]}
	if f.Outlines != nil {
		program, err := cff.Parse(f.Outlines)
		if err != nil {
			return nil, ErrNoFont
		}
		if !program.Identity() {
			return nil, ErrRenumbered
		}
	}
	switch {
	case tables["fvar"] != nil:
		return nil, ErrVariable
	case len(tables["OS/2"]) >= 10:
		bits := binary.BigEndian.Uint16(tables["OS/2"][8:])
		if bits&restrictedLicence != 0 && bits&(previewPrint|editable) == 0 {
			return nil, ErrRestricted
		}
		if bits&bitmapOnly != 0 {
			return nil, ErrBitmap
		}
		f.Whole = bits&noSubsetting != 0
		f.Installable = bits&(restrictedLicence|previewPrint|editable) == 0
	}
	parsed, err := font.ParseTTF(bytes.NewReader(data))
	if err != nil {
		return nil, ErrNoFont
	}
	listCoverages(parsed.Font)
	f.Font, f.Upem = parsed.Font, int(parsed.Font.Upem())
	if f.Upem < 16 || f.Upem > 16384 || tables["glyf"] == nil && f.Outlines == nil {
		return nil, ErrNoFont
	}
	f.Family = parsed.Describe().Family
	f.Name = unsafeName.ReplaceAllString(f.Family, "")
	if f.Name == "" {
		f.Name = "Font"
	}
	if len(f.Name) > 40 {
		f.Name = f.Name[:40]
	}
	letters := 0
	for r := rune('A'); r <= 'z'; r++ {
		if _, ok := f.Font.NominalGlyph(r); ok && unicode.IsLetter(r) {
			letters++
		}
	}
	if letters < 52 {
		return nil, errors.New("the font lacks some of the letters from A to z")
	}
	return f, nil
}

// tablesOf finds the tables of a font file.
func tablesOf(data []byte) (map[string][]byte, error) {
	if len(data) < 12 {
		return nil, ErrNoFont
	}
	switch string(data[:4]) {
	case "\x00\x01\x00\x00", "true", "OTTO":
	default:
		return nil, ErrNoFont
	}
	n := int(binary.BigEndian.Uint16(data[4:]))
	if len(data) < 12+16*n {
		return nil, ErrNoFont
	}
	tables := map[string][]byte{}
	for i := range n {
		e := data[12+16*i:]
		offset, length := uint64(binary.BigEndian.Uint32(e[8:])), uint64(binary.BigEndian.Uint32(e[12:]))
		if offset+length > uint64(len(data)) {
			return nil, ErrNoFont
		}
		tables[string(e[:4])] = data[offset : offset+length]
	}
	return tables, nil
}
