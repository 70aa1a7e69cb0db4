package pdf

import (
	"bytes"
	"encoding/binary"
	"testing"

	"github.com/go-text/typesetting/font"

	"amberseal/core/print/typeface"
)

// A subset must be a font that an independent parser (go-text, which shapes our text) reads, with the
// widths and outlines of the glyphs that were kept.
func TestSubsetsKeepTheirGlyphs(t *testing.T) {
	for _, family := range typeface.Families() {
		for _, style := range []typeface.Style{{}, {Bold: true}, {Italic: true}, {Bold: true, Italic: true}} {
			face := typeface.Primary(family, style)
			tt, err := trueTypeOf(face)
			if err != nil {
				t.Fatal(err)
			}
			keep := []taken{{}}
			for _, r := range "Zażółć gęślą jaźń, Ç Ő fi Ωμέγα" {
				g, ok := face.Font.NominalGlyph(r)
				if !ok {
					t.Fatalf("%s has no %c", face.Name, r)
				}
				keep = append(keep, taken{id: uint16(g)})
			}
			data, _, err := tt.subset(keep)
			if err != nil {
				t.Fatal(err)
			}
			if len(data) > len(face.Data)/4 {
				t.Errorf("%s: the subset has %d bytes of %d", face.Name, len(data), len(face.Data))
			}
			sub, err := parseTrueType(data)
			if err != nil {
				t.Fatal(err)
			}
			for i, x := range keep {
				if sub.advance(uint16(i)) != tt.width(x) {
					t.Errorf("%s: glyph %d is %d wide, was %d", face.Name, x.id, sub.advance(uint16(i)), tt.width(x))
				}
			}
			if checksum(data) != 0xB1B0AFBA {
				t.Errorf("%s: the file's checksum is %X (OpenType 1.9, head.checksumAdjustment)", face.Name, checksum(data))
			}
			if _, err := font.ParseTTF(bytes.NewReader(withCmap(data))); err != nil {
				t.Errorf("%s: go-text refuses the subset: %v", face.Name, err)
			}
		}
	}
}

// withCmap adds the empty character map that a font file outside a PDF needs.
func withCmap(data []byte) []byte {
	tt, err := parseTrueType(data)
	if err != nil {
		return data
	}
	cmap := []byte{0, 0, 0, 1, 0, 3, 0, 1, 0, 0, 0, 12}
	for _, v := range []uint16{4, 24, 0, 2, 2, 0, 0, 0xFFFF, 0, 0xFFFF, 1, 0} {
		cmap = binary.BigEndian.AppendUint16(cmap, v)
	}
	tt.tables["cmap"] = cmap
	return assemble(tt.tables)
}

// Fonts may be uploads: whatever the bytes, there is an error or a result, never a panic.
func FuzzSubset(f *testing.F) {
	whole := typeface.Primary("Literata", typeface.Style{}).Data
	f.Add(whole[:4000], uint16(3))
	f.Add(whole[:200], uint16(70))
	tt, err := parseTrueType(whole)
	if err != nil {
		f.Fatal(err)
	}
	small, _, err := tt.subset([]taken{{}, {id: 40}, {id: 41}, {id: 300}})
	if err != nil {
		f.Fatal(err)
	}
	f.Add(small, uint16(2))
	f.Fuzz(func(t *testing.T, data []byte, glyph uint16) {
		tt, err := parseTrueType(data)
		if err != nil {
			return
		}
		tt.advance(glyph)
		if _, _, err := tt.subset([]taken{{}, {id: glyph}}); err != nil {
			return
		}
	})
}
