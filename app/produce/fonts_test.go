package produce_test

import (
	"context"
	"encoding/binary"
	"errors"
	"math/rand/v2"
	"os"
	"slices"
	"strings"
	"testing"

	"amberseal/app/produce"
	"amberseal/core/ask/form"
	"amberseal/core/print/paper"
	"amberseal/core/print/typeface"
	"amberseal/core/words/house"
)

// fontFile reads a font that Debian has, or one that ships.
func fontFile(t testing.TB, name string) []byte {
	t.Helper()
	data, err := os.ReadFile(name)
	if err != nil {
		t.Fatal(err)
	}
	return data
}

const (
	shipped    = "../../core/print/typeface/files/IBMPlexSans-Regular.ttf"
	postScript = "/usr/share/fonts/opentype/urw-base35/NimbusRoman-Regular.otf" // of fonts-urw-base35, which Ghostscript needs
)

// withBits is a TrueType font whose licence bits (OS/2, fsType) are set.
func withBits(data []byte, bits uint16) []byte {
	out := slices.Clone(data)
	for i := range int(binary.BigEndian.Uint16(out[4:])) {
		if e := out[12+16*i:]; string(e[:4]) == "OS/2" {
			binary.BigEndian.PutUint16(out[binary.BigEndian.Uint32(e[8:])+8:], bits)
		}
	}
	return out
}

func TestOwnFontsInDocuments(t *testing.T) {
	d, f := sampler(t)
	f.House.Font = "Own"
	files := map[string][]byte{"font/r": nil, "font/b": nil}
	read := func(n string) ([]byte, error) {
		if b, ok := files[n]; ok {
			return b, nil
		}
		return pictures(n)
	}
	var valid []string
	for name, data := range map[string][]byte{"TrueType": fontFile(t, shipped), "PostScript": fontFile(t, postScript),
		"no subsets": withBits(fontFile(t, shipped), 0x0108)} {
		f.House.Fonts = []house.Font{{Family: "Own", Regular: "r"}}
		if name == "TrueType" {
			f.House.Fonts[0].Bold = "b"
		}
		files["font/r"], files["font/b"] = data, fontFile(t, strings.Replace(shipped, "Regular", "Bold", 1))
		for _, level := range []paper.Archival{paper.A2b, paper.A1b} {
			d.Documents[0].Archival = level
			c, err := produce.Compose(d, "sampler", f, read, produce.Apart{})
			if err != nil || len(c.Findings) > 0 {
				t.Fatal(name, err, c.Findings)
			}
			file := write(t, c)
			faultless(t, file)
			if level == paper.A1b {
				valid = append(valid, file)
			}
			kind, embedded, subset := "CID TrueType", "yes", "yes"
			if name == "no subsets" {
				subset = "no"
			}
			if name == "PostScript" {
				kind = "CID Type 0C"
				files["font/r"] = withBits(data, 0x0108)
				whole, err := produce.Compose(d, "sampler", f, read, produce.Apart{})
				if err != nil || len(whole.PDF)-len(c.PDF) < 25_000 { // the font alone packs to 59 kB
					t.Errorf("with some of its glyphs the file has %d bytes, with all %d: %v", len(c.PDF), len(whole.PDF), err)
				}
				files["font/r"] = data
			}
			found := false
			for line := range strings.Lines(tool(t, "pdffonts", file)) {
				w := strings.Fields(line)
				if n := len(w); n > 5 && strings.Contains(line, kind) && w[n-5] == embedded && w[n-4] == subset {
					found = true
				}
			}
			if !found {
				t.Errorf("%s: pdffonts does not list a %s font, embedded %s, subset %s:\n%s", name, kind, embedded, subset,
					tool(t, "pdffonts", file))
			}
			if text := tool(t, "pdftotext", file, "-"); !strings.Contains(text, "Every kind of block") ||
				!strings.Contains(text, "Aoife Brannigan") {
				t.Errorf("%s: the text cannot be read back", name)
			}
		}
	}
	if v := preflight(t, valid); slices.Contains(v, false) {
		t.Error(v)
	}
}

// The bits are those of the OpenType specification 1.9, table OS/2, fsType.
func TestLicencesOfFonts(t *testing.T) {
	for bits, want := range map[uint16]error{0x0000: nil, 0x0002: typeface.ErrRestricted, 0x0004: nil, 0x0008: nil, 0x0100: nil,
		0x0200: typeface.ErrBitmap, 0x0006: nil} {
		if _, err := typeface.Read(withBits(fontFile(t, shipped), bits)); !errors.Is(err, want) {
			t.Errorf("bits %#04x: %v, want %v", bits, err, want)
		}
	}
	for name, data := range map[string][]byte{"empty": {}, "text": []byte("not a font at all"),
		"collection": []byte("ttcf\x00\x01\x00\x00"), "cut": fontFile(t, shipped)[:5000],
		"no Latin": fontFile(t, "../../core/print/typeface/files/NotoEmoji-Regular.ttf")} {
		if _, err := typeface.Read(data); err == nil {
			t.Errorf("%s was taken", name)
		}
	}
}

// Damaged fonts are refused or printed; they bring nothing down. Each is the shipped one with some bytes changed, mostly in
// its tables' heads, by a generator with a set seed.
func TestHostileFonts(t *testing.T) {
	rnd := rand.New(rand.NewPCG(7, 7))
	taken := 0
	for _, name := range []string{shipped, postScript} {
		original := fontFile(t, name)
		for range 120 {
			data := slices.Clone(original)
			for range 1 + rnd.IntN(6) {
				at := rnd.IntN(len(data))
				if rnd.IntN(2) == 0 {
					at = rnd.IntN(2000)
				}
				data[at] = byte(rnd.IntN(256))
			}
			if rnd.IntN(8) == 0 {
				data = data[:rnd.IntN(len(data))]
			}
			if _, err := typeface.Read(data); err != nil {
				continue
			}
			if produce.TryFont(data) == nil {
				taken++
			}
		}
	}
	if taken == 0 {
		t.Error("no font with small damage was taken: the test damages too much")
	}
}

func FuzzFont(f *testing.F) {
	f.Add(fontFile(f, shipped))
	f.Add(fontFile(f, postScript))
	f.Fuzz(func(t *testing.T, data []byte) {
		if _, err := typeface.Read(data); err == nil {
			_ = produce.TryFont(data)
		}
	})
}

// shelf says by which door something was asked for.
type shelf struct{}

func (shelf) Picture(_ context.Context, name string) ([]byte, error) {
	return []byte("picture " + name), nil
}
func (shelf) Font(_ context.Context, name string) ([]byte, error) { return []byte("font " + name), nil }
func (shelf) Brought(_ context.Context, name string) ([]byte, error) {
	return []byte("file " + name), nil
}
func (shelf) Ground(_ context.Context, name string) ([]byte, error) {
	return []byte("ground " + name), nil
}
func (shelf) Upload(_ context.Context, id string) (form.File, []byte, error) {
	return form.File{}, []byte("upload " + id), nil
}

// Pictures, fonts and files of submissions lie in shelves of their own; a document asks for all of them by name.
func TestEachIsAskedForWhereItLies(t *testing.T) {
	of := produce.Pictures(t.Context(), shelf{})
	for name, want := range map[string]string{"logo.svg": "picture logo.svg", paper.FontFile("a.ttf"): "font a.ttf",
		paper.File("7f3a"): "upload 7f3a", paper.BroughtFile("a.docx"): "file a.docx", paper.GroundFile("a.pdf"): "ground a.pdf"} {
		if got, err := of(name); err != nil || string(got) != want {
			t.Errorf("%s is %q, %v", name, got, err)
		}
	}
}
