package cff_test

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"os"
	"slices"
	"testing"

	"github.com/go-text/typesetting/font"
	"github.com/klauspost/compress/zlib"

	"amberseal/core/print/typeface/cff"
)

// Fonts with PostScript outlines of Debian's fonts-urw-base35, which Ghostscript needs.
var files = []string{
	"/usr/share/fonts/opentype/urw-base35/NimbusRoman-Regular.otf", "/usr/share/fonts/opentype/urw-base35/NimbusSans-BoldItalic.otf",
	"/usr/share/fonts/opentype/urw-base35/URWBookman-Light.otf",
}

// tables gives the place of a font file's CFF table.
func table(t testing.TB, file []byte) (from, to int) {
	t.Helper()
	for i := range int(binary.BigEndian.Uint16(file[4:])) {
		if e := file[12+16*i:]; string(e[:4]) == "CFF " {
			from = int(binary.BigEndian.Uint32(e[8:]))
			return from, from + int(binary.BigEndian.Uint32(e[12:]))
		}
	}
	t.Fatal("the font has no PostScript outlines")
	return 0, 0
}

func face(t testing.TB, file []byte) *font.Face {
	t.Helper()
	f, err := font.ParseTTF(bytes.NewReader(file))
	if err != nil {
		t.Fatal(err)
	}
	return f
}

func packed(t testing.TB, data []byte) int {
	t.Helper()
	var b bytes.Buffer
	w := zlib.NewWriter(&b)
	if _, err := w.Write(data); err != nil || w.Close() != nil {
		t.Fatal(err)
	}
	return b.Len()
}

func outline(f *font.Face, id font.GID) string {
	o, ok := f.GlyphData(id).(font.GlyphOutline)
	return fmt.Sprint(ok, o.Segments)
}

// go-text, whose reader of outlines shares no code with ours, draws the glyphs that are kept as before and nothing for the others;
// what is left packs to a small part.
func TestOnlySomeGlyphs(t *testing.T) {
	for _, name := range files {
		file, err := os.ReadFile(name)
		if err != nil {
			t.Fatal(err)
		}
		from, to := table(t, file)
		p, err := cff.Parse(file[from:to])
		if err != nil || !p.Identity() {
			t.Fatal(name, err)
		}
		whole := face(t, file)
		var keep []uint16
		for _, r := range "Receipt for Zażółć, 1234.50 €" {
			if g, ok := whole.NominalGlyph(r); ok {
				keep = append(keep, uint16(g))
			}
		}
		only, err := p.Only(keep)
		if err != nil || len(only) != to-from {
			t.Fatalf("%s: %d bytes, %v", name, len(only), err)
		}
		if bytes.Equal(only, file[from:to]) {
			t.Errorf("%s: nothing was left out", name)
		}
		if a, b := packed(t, only), packed(t, file[from:to]); a > b/2 {
			t.Errorf("%s: %d of %d bytes are left", name, a, b)
		}
		part := face(t, slices.Concat(file[:from], only, file[to:]))
		for id := range font.GID(p.Glyphs()) {
			want := outline(whole, id)
			if id != 0 && !slices.Contains(keep, uint16(id)) {
				want = "true []"
			}
			if got := outline(part, id); got != want {
				t.Errorf("%s: glyph %d is %.60s, want %.60s", name, id, got, want)
			}
		}
	}
}

// A program with characters numbered by themselves is read only where those numbers are the glyphs'. The table is written by hand after
// Technical Note 5176.
func TestCharactersWithNumbersOfTheirOwn(t *testing.T) {
	program := func(charset ...byte) []byte {
		// Header, Name INDEX “A”, Top DICT INDEX, empty String and Global Subr INDEX, charset, CharStrings INDEX of three.
		top := []byte{139, 139, 139, 12, 30, 28, 0, 0, 15, 28, 0, 0, 17}
		head := append([]byte{1, 0, 4, 1, 0, 1, 1, 1, 2, 'A', 0, 1, 1, 1, byte(1 + len(top))}, top...)
		head = append(head, 0, 0, 0, 0)
		binary.BigEndian.PutUint16(head[15+6:], uint16(len(head)))
		binary.BigEndian.PutUint16(head[15+10:], uint16(len(head)+len(charset)))
		return append(append(head, charset...), 0, 3, 1, 1, 2, 3, 4, 14, 14, 14)
	}
	for _, c := range []struct {
		charset  []byte
		identity bool
	}{
		{[]byte{0, 0, 1, 0, 2}, true}, {[]byte{0, 0, 1, 0, 3}, false}, {[]byte{1, 0, 1, 1}, true}, {[]byte{2, 0, 1, 0, 1}, true},
		{[]byte{2, 0, 2, 0, 1}, false},
	} {
		p, err := cff.Parse(program(c.charset...))
		if err != nil || p.Glyphs() != 3 || p.Identity() != c.identity {
			t.Errorf("the charset % x: %+v %v", c.charset, p, err)
		}
	}
	if _, err := cff.Parse(program(9, 0, 1)); err == nil {
		t.Error("a charset of a format that is not was read")
	}
}

func FuzzProgram(f *testing.F) {
	file, err := os.ReadFile(files[0])
	if err != nil {
		f.Fatal(err)
	}
	from, to := table(f, file)
	f.Add(file[from:to], uint16(5))
	f.Add(file[from:from+3000], uint16(9))
	f.Fuzz(func(t *testing.T, data []byte, keep uint16) {
		before := bytes.Clone(data)
		p, err := cff.Parse(data)
		if err != nil {
			return
		}
		if only, err := p.Only([]uint16{keep}); err == nil && len(only) != len(data) {
			t.Errorf("%d bytes became %d", len(data), len(only))
		}
		if !bytes.Equal(data, before) {
			t.Error("the font itself was changed")
		}
	})
}
