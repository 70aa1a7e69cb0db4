package administer_test

import (
	"bytes"
	"encoding/base64"
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

	"golang.org/x/crypto/argon2"

	"amberseal/adapter/sqlite"
	"amberseal/app/administer"
	"amberseal/app/register"
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
	return &administer.Office{Store: db, Now: func() time.Time { return time.Unix(1e9, 0) }}, db
}

func TestSigningIn(t *testing.T) {
	o, db := office(t)
	const password = "zażółć gęślą jaźń"
	if err := o.AddPerson(t.Context(), administer.Person{Email: "Ottoline@House.example", Name: "Ottoline"}, password); err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct {
		email, password string
		right           bool
	}{
		{"Ottoline@House.example", password, true}, {" ottoline@house.example\n", password, true}, {"OTTOLINE@HOUSE.EXAMPLE", password, true},
		{"ottoline@house.example", password + " ", false}, {"ottoline@house.example", strings.ToUpper(password), false}, {"ottoline@house.example", "", false},
		{"nobody@house.example", password, false}, {"", "", false}, {"' OR 1=1 --", password, false},
	} {
		p, err := o.SignIn(t.Context(), c.email, c.password)
		if (err == nil) != c.right || err != nil && !errors.Is(err, administer.ErrSignIn) || c.right && p.Name != "Ottoline" {
			t.Errorf("%q with %q gives %+v %v", c.email, c.password, p, err)
		}
	}
	_, hash, err := db.PersonByEmail(t.Context(), "ottoline@house.example")
	if err != nil || strings.Contains(hash, password) || !strings.HasPrefix(hash, "$argon2id$v=19$m=19456,t=2,p=1$") {
		t.Errorf("what is kept of a password is %q: %v", hash, err)
	}
	// The same address again is the same person with another password; equal passwords are kept as different words.
	if err := o.AddPerson(t.Context(), administer.Person{Email: "ottoline@house.example", Name: "Ottoline Marsh"}, password); err != nil {
		t.Fatal(err)
	}
	if _, again, err := db.PersonByEmail(t.Context(), "ottoline@house.example"); err != nil || again == hash {
		t.Errorf("an equal password is kept as the same words: %v", err)
	}
	if n, err := db.People(t.Context()); n != 1 || err != nil {
		t.Errorf("there are %d people: %v", n, err)
	}
	if p, err := o.SignIn(t.Context(), "ottoline@house.example", password); err != nil || p.Generation != 2 {
		t.Errorf("with a new password sessions of before end: %+v %v", p, err)
	}
	// A hash as the first versions kept it.
	old := "argon2id$AAAAAAAAAAAAAAAAAAAAAA$" + base64.RawStdEncoding.EncodeToString(argon2.IDKey([]byte(password), make([]byte, 16), 2, 19*1024, 1, 32))
	if err := db.AddPerson(t.Context(), administer.Person{Email: "old@house.example"}, old, time.Unix(1e9, 0)); err != nil {
		t.Fatal(err)
	}
	if _, err := o.SignIn(t.Context(), "old@house.example", password); err != nil {
		t.Errorf("a hash of before: %v", err)
	}
	for _, c := range []struct{ email, password string }{
		{"no address", "long enough it is"}, {"a@b.example", "too short"}, {"a@b.example", "aaaaaaaaaaaaaa"}, {"a@b.example", "123456789012"}, {"a@b.example", "qwertyuiopas"}, {"a@b.example", "Password1234"}, {"a@b.example", "P@ssw0rd!2026"},
		{"ottoline@b.example", "ottoline2026"}, {"a@b.example", "abababababab"},
	} {
		if err := o.AddPerson(t.Context(), administer.Person{Email: c.email}, c.password); err == nil {
			t.Errorf("%s with %q was added", c.email, c.password)
		}
	}
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
		"nothing": {}, "words": []byte("a picture of a lake"), "half a picture": good[:len(good)/2], "a script": []byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><script>alert(1)</script></svg>`),
		"a GIF": painted(t, func(b *bytes.Buffer, i image.Image) error { return gif.Encode(b, i, nil) }), "a page": []byte("<html><body>hello</body></html>"),
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
		"house/accent": func(h *house.House) { h.Accent = "brown" }, "house/zone": func(h *house.House) { h.Zone = "Mars/Olympus" }, "house/currency": func(h *house.House) { h.Currency = "€" },
		"house/logo": func(h *house.House) { h.Logo = "gone.png" }, "house/site": func(h *house.House) { h.Site = "javascript:alert(1)" }, "house/font": func(h *house.House) { h.Font = "None" },
		"house/paper": func(h *house.House) { h.Paper = "Papyrus" }, "house/fonts": func(h *house.House) { h.Fonts = []house.Font{{Family: "Literata", Regular: "x"}} },
		"house/tint": func(h *house.House) { h.Tint = "#202020" },
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
