package administer_test

import (
	"bytes"
	"errors"
	"image"
	"image/color"
	"image/gif"
	"image/png"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"amberseal/adapter/sqlite"
	"amberseal/app/administer"
	"amberseal/app/register"
	"amberseal/app/upload"
	"amberseal/core/print/typeface"
	"amberseal/core/words/house"
)

func office(t *testing.T) (*administer.Office, *sqlite.DB) {
	t.Helper()
	db, err := sqlite.Open(t.Context(), filepath.Join(t.TempDir(), "amberseal.db"))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { db.Close() })
	return &administer.Office{Store: db, Pictures: &upload.Taker{Now: time.Now}, Now: func() time.Time { return time.Unix(1e9, 0) }}, db
}

func painted(t *testing.T, encode func(*bytes.Buffer, image.Image) error) []byte {
	t.Helper()
	img := image.NewRGBA(image.Rect(0, 0, 8, 6))
	img.Set(3, 3, color.RGBA{200, 30, 30, 255})
	var b bytes.Buffer
	if err := encode(&b, img); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

// Pictures and fonts are looked at before they are kept, under names that come from their bytes; what cannot be printed is
// refused in words.
func TestPicturesAndFonts(t *testing.T) {
	o, db := office(t)
	good := painted(t, func(b *bytes.Buffer, i image.Image) error { return png.Encode(b, i) })
	name, err := o.AddPicture(t.Context(), good)
	if err != nil || !strings.HasSuffix(name, ".png") {
		t.Fatal(name, err)
	}
	if again, err := o.AddPicture(t.Context(), good); again != name || err != nil {
		t.Errorf("the same picture is %s and %s: %v", name, again, err)
	}
	if there, err := db.HasPicture(t.Context(), name); !there || err != nil {
		t.Errorf("the picture is there: %v %v", there, err)
	}
	if data, err := db.Picture(t.Context(), name); err != nil || !bytes.Equal(data, good) {
		t.Errorf("the picture is %d bytes: %v", len(data), err)
	}
	drawing := []byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 4 4"><rect width="4" height="4" fill="#8A4B00"/></svg>`)
	if name, err := o.AddPicture(t.Context(), drawing); err != nil || !strings.HasSuffix(name, ".svg") {
		t.Error(name, err)
	}
	for what, data := range map[string][]byte{
		"nothing": {}, "words": []byte("a picture of a lake"), "half a picture": good[:len(good)/2],
		"a script": []byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><script>alert(1)</script></svg>`),
		"a GIF":    painted(t, func(b *bytes.Buffer, i image.Image) error { return gif.Encode(b, i, nil) }),
		"a page":   []byte("<html><body>hello</body></html>"),
	} {
		if name, err := o.AddPicture(t.Context(), data); err == nil {
			t.Errorf("%s is kept as %s", what, name)
		} else if len(err.Error()) < 12 {
			t.Errorf("%s is refused with %q", what, err)
		}
	}
	font, err := os.ReadFile("../../core/print/typeface/files/IBMPlexSans-Regular_Italic.ttf")
	if err != nil {
		t.Fatal(err)
	}
	name, family, err := o.AddFont(t.Context(), font)
	if err != nil || family != "IBM Plex Sans" || !strings.HasSuffix(name, ".ttf") {
		t.Errorf("the font is %s of %q: %v", name, family, err)
	}
	if data, err := db.Font(t.Context(), name); err != nil || !bytes.Equal(data, font) {
		t.Errorf("the font is %d bytes: %v", len(data), err)
	}
	restricted := slices.Clone(font)
	at := bytes.Index(restricted, []byte("OS/2"))
	offset := int(restricted[at+8])<<24 | int(restricted[at+9])<<16 | int(restricted[at+10])<<8 | int(restricted[at+11])
	restricted[offset+8], restricted[offset+9] = 0, 2
	if _, _, err := o.AddFont(t.Context(), restricted); !errors.Is(err, typeface.ErrRestricted) {
		t.Errorf("a restricted font: %v", err)
	}
	if _, _, err := o.AddFont(t.Context(), good); err == nil {
		t.Error("a picture is kept as a font")
	}
	if _, err := db.Font(t.Context(), "none"); !errors.Is(err, register.NotFound) {
		t.Error(err)
	}
}

// A house with faults is not kept, and the one before stays.
func TestTheHouse(t *testing.T) {
	o, db := office(t)
	first := house.New()
	first.Name, first.Zone = "First", "Europe/Warsaw"
	if l, err := o.SetHouse(t.Context(), first); len(l) > 0 || err != nil {
		t.Fatal(l, err)
	}
	for place, change := range map[string]func(*house.House){
		"house/accent": func(h *house.House) { h.Accent = "brown" }, "house/zone": func(h *house.House) { h.Zone = "Mars/Olympus" },
		"house/currency": func(h *house.House) { h.Currency = "€" },
		"house/logo":     func(h *house.House) { h.Logo = "gone.png" },
		"house/site":     func(h *house.House) { h.Site = "javascript:alert(1)" }, "house/font": func(h *house.House) { h.Font = "None" },
		"house/paper": func(h *house.House) { h.Paper = "Papyrus" },
		"house/fonts": func(h *house.House) { h.Fonts = []house.Font{{Family: "Literata", Regular: "x"}} },
		"house/tint":  func(h *house.House) { h.Tint = "#202020" },
	} {
		h := first
		h.Name = "Second"
		change(&h)
		l, err := o.SetHouse(t.Context(), h)
		if err != nil || l.Faults() == 0 || l[0].Place != place || l[0].Mend == "" {
			t.Errorf("%s: %v %v", place, l, err)
		}
	}
	if h, err := db.House(t.Context()); err != nil || h.Name != "First" {
		t.Errorf("the house is %q: %v", h.Name, err)
	}
}
