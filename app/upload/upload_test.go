package upload_test

import (
	"bytes"
	"context"
	"encoding/binary"
	"errors"
	"hash/crc32"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"amberseal/adapter/sqlite"
	"amberseal/app/register"
	"amberseal/app/sweep"
	"amberseal/app/upload"
	"amberseal/app/work"
	"amberseal/core/ask/form"
	"amberseal/core/intake"
)

// taker is one over a real database with one intake, and a clock set by hand.
func taker(t *testing.T) (*upload.Taker, *sqlite.DB, int64, *time.Time) {
	t.Helper()
	db, err := sqlite.Open(t.Context(), filepath.Join(t.TempDir(), "amberseal.db"))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { db.Close() })
	now := time.Date(2026, 11, 25, 12, 0, 0, 0, time.UTC)
	made, err := db.AddIntake(t.Context(), intake.New("Uploads", []form.Field{{Key: "a", Kind: form.Upload, Label: "A"}}), now)
	if err != nil {
		t.Fatal(err)
	}
	return &upload.Taker{Store: db, Now: func() time.Time { return now }}, db, made.ID, &now
}

// corners is a picture whose corners are red, green, blue and white, clockwise from the upper left.
func corners(w, h int) *image.RGBA {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			c := color.RGBA{255, 0, 0, 255}
			switch {
			case x >= w/2 && y < h/2:
				c = color.RGBA{0, 255, 0, 255}
			case x >= w/2:
				c = color.RGBA{0, 0, 255, 255}
			case y >= h/2:
				c = color.RGBA{255, 255, 255, 255}
			}
			img.Set(x, y, c)
		}
	}
	return img
}

// withOrientation is a JPEG with an Exif segment (Exif 2.32 section 4.5) that says how the camera was held, and the name of a
// place.
func withOrientation(t *testing.T, img image.Image, orientation uint16) []byte {
	t.Helper()
	var b bytes.Buffer
	if err := jpeg.Encode(&b, img, &jpeg.Options{Quality: 100}); err != nil {
		t.Fatal(err)
	}
	tiff := []byte("II*\x00\x08\x00\x00\x00\x02\x00")
	entry := func(tag, kind uint16, count, value uint32) {
		tiff = binary.LittleEndian.AppendUint16(binary.LittleEndian.AppendUint16(tiff, tag), kind)
		tiff = binary.LittleEndian.AppendUint32(binary.LittleEndian.AppendUint32(tiff, count), value)
	}
	const place = "Tarn Hollow, behind the mill"
	entry(0x010E, 2, uint32(len(place)+1), 38) // ImageDescription
	entry(0x0112, 3, 1, uint32(orientation))
	tiff = append(append(tiff, 0, 0, 0, 0), place+"\x00"...)
	body := append([]byte("Exif\x00\x00"), tiff...)
	segment := binary.BigEndian.AppendUint16([]byte{0xFF, 0xE1}, uint16(len(body)+2))
	data := b.Bytes()
	return append(append(append(append([]byte{}, data[:2]...), segment...), body...), data[2:]...)
}

// A photo is turned upright however the camera was held, and nothing but its pixels is kept.
func TestPhotosAreTurnedAndCleaned(t *testing.T) {
	d, db, id, _ := taker(t)
	red, green, blue, white := [3]bool{true, false, false}, [3]bool{false, true, false}, [3]bool{false, false, true},
		[3]bool{true, true, true}
	for orientation, want := range map[uint16][4][3]bool{ // of the corners, clockwise from the upper left
		1: {red, green, blue, white}, 2: {green, red, white, blue}, 3: {blue, white, red, green}, 4: {white, blue, green, red},
		5: {red, white, blue, green}, 6: {white, red, green, blue}, 7: {blue, green, red, white}, 8: {green, blue, white, red},
	} {
		sent := withOrientation(t, corners(64, 32), orientation)
		f, err := d.Take(t.Context(), id, form.Field{Kind: form.Photo}, "IMG 1.JPG", "a client", sent)
		if err != nil {
			t.Fatal(orientation, err)
		}
		_, data, err := db.Upload(t.Context(), f.ID)
		if err != nil || bytes.Contains(data, []byte("Exif")) || bytes.Contains(data, []byte("mill")) || int64(len(data)) != f.Size {
			t.Errorf("orientation %d: %d bytes are kept, with what the camera wrote: %v", orientation, len(data), err)
		}
		img, err := jpeg.Decode(bytes.NewReader(data))
		if err != nil {
			t.Fatal(err)
		}
		w, h := img.Bounds().Dx(), img.Bounds().Dy()
		if (w == 64) != (orientation < 5) {
			t.Errorf("orientation %d is %d × %d", orientation, w, h)
		}
		for i, at := range []image.Point{{4, 4}, {w - 5, 4}, {w - 5, h - 5}, {4, h - 5}} {
			r, g, b, _ := img.At(at.X, at.Y).RGBA()
			if got := [3]bool{r > 0x8000, g > 0x8000, b > 0x8000}; got != want[i] {
				t.Errorf("orientation %d: corner %d is %v, want %v", orientation, i, got, want[i])
			}
		}
	}
	// A large one is made as large as a page can show.
	var b bytes.Buffer
	if err := png.Encode(&b, image.NewGray(image.Rect(0, 0, 6000, 30))); err != nil {
		t.Fatal(err)
	}
	f, err := d.Take(t.Context(), id, form.Field{Kind: form.Photo}, "wide.png", "a client", b.Bytes())
	if err != nil {
		t.Fatal(err)
	}
	_, data, err := db.Upload(t.Context(), f.ID)
	if c, _, decoded := image.DecodeConfig(bytes.NewReader(data)); err != nil || decoded != nil || c.Width != 2400 || c.Height != 12 {
		t.Errorf("the large one is %d × %d: %v %v", c.Width, c.Height, err, decoded)
	}
}

// A file is what its bytes say; names cannot lead out of a folder; what does not fit the question is refused in words.
func TestFilesAreLookedAt(t *testing.T) {
	d, db, id, now := taker(t)
	pdf := []byte("%PDF-1.7\n1 0 obj\n<<>>\nendobj\n")
	for sent, want := range map[string]string{
		"../../etc/passwd": "passwd", `C:\Users\me\Note.pdf`: "Note.pdf", "a/b/Zażółć.pdf": "Zażółć.pdf", "": "file", "..": "file",
		"nul\x00byte.pdf": "nulbyte.pdf", "\xff\xfe": "--", "con.pdf": "",
	} {
		f, err := d.Take(t.Context(), id, form.Field{Kind: form.Upload}, sent, "a client", pdf)
		if err != nil || want != "" && f.Name != want || strings.ContainsAny(f.Name, "/\\\x00") || f.Type != "application/pdf" {
			t.Errorf("%q is kept as %+v, want %q: %v", sent, f, want, err)
		}
	}
	seen := map[string]bool{}
	for range 50 {
		f, err := d.Take(t.Context(), id, form.Field{Kind: form.Upload}, "a.pdf", "a client", pdf)
		if err != nil || seen[f.ID] || len(f.ID) < 24 {
			t.Fatalf("the file is called %q: %v", f.ID, err)
		}
		seen[f.ID] = true
	}
	var small bytes.Buffer
	if err := png.Encode(&small, corners(4, 4)); err != nil {
		t.Fatal(err)
	}
	for what, c := range map[string]struct {
		field form.Field
		data  []byte
	}{
		"nothing":             {form.Field{Kind: form.Upload}, nil},
		"words for a photo":   {form.Field{Kind: form.Photo}, []byte("I am a photo.jpg")},
		"a page for a photo":  {form.Field{Kind: form.Photo}, []byte("<html><script>alert(1)</script></html>")},
		"a PDF for a photo":   {form.Field{Kind: form.Photo}, pdf},
		"half a photo":        {form.Field{Kind: form.Photo}, small.Bytes()[:40]},
		"a picture for a PDF": {form.Field{Kind: form.Upload, Settings: form.Settings{Accept: []string{"pdf"}}}, small.Bytes()},
		"too many megabytes": {form.Field{Kind: form.Upload, Settings: form.Settings{Largest: 1}},
			append(bytes.Clone(pdf), make([]byte, 1<<20)...)},
		"an answer in words":      {form.Field{Kind: form.ShortText}, pdf},
		"words for a signature":   {form.Field{Kind: form.Signature}, []byte("X")},
		"a PDF for a signature":   {form.Field{Kind: form.Signature}, pdf},
		"a page called a picture": {form.Field{Kind: form.Signature}, []byte("<svg xmlns='http://www.w3.org/2000/svg'/>")},
	} {
		var refused upload.Refused
		if f, err := d.Take(t.Context(), id, c.field, "x.png", "a client", c.data); !errors.As(err, &refused) || len(refused.Reason) < 12 {
			t.Errorf("%s is kept as %+v: %v", what, f, err)
		}
	}
	// A picture that says it is vast is refused before it is unpacked (PNG, ISO 15948 section 11.2.2).
	vast := bytes.Clone(small.Bytes())
	binary.BigEndian.PutUint32(vast[16:], 40_000)
	binary.BigEndian.PutUint32(vast[20:], 40_000)
	binary.BigEndian.PutUint32(vast[29:], crc32.ChecksumIEEE(vast[12:29]))
	var refused upload.Refused
	if _, err := d.Take(t.Context(), id, form.Field{Kind: form.Photo}, "vast.png", "a client", vast); !errors.As(err, &refused) ||
		!strings.Contains(refused.Reason, "pixels") {
		t.Errorf("a vast picture gives %v", err)
	}
	// What no submission took within thirty days is forgotten.
	old, err := d.Take(t.Context(), id, form.Field{Kind: form.Upload}, "old.pdf", "a client", pdf)
	if err != nil {
		t.Fatal(err)
	}
	*now = now.Add(31 * 24 * time.Hour)
	if _, err := sweep.Hand(db, func() time.Time { return *now }).Do(t.Context(), work.Job{}); err != nil {
		t.Fatal(err)
	}
	if _, _, err := db.Upload(t.Context(), old.ID); !errors.Is(err, register.NotFound) {
		t.Errorf("after 31 days: %v", err)
	}
}

// A photo that goes over its pixels again and again is refused before it is unpacked, and who has cost much waits for an hour,
// while nobody else does.
func TestNobodyShutsOutAnybody(t *testing.T) {
	d, _, id, now := taker(t)
	var b bytes.Buffer
	if err := jpeg.Encode(&b, corners(64, 32), nil); err != nil {
		t.Fatal(err)
	}
	photo := b.Bytes()
	from := bytes.Index(photo, []byte{0xFF, 0xDA})
	scan := photo[from : len(photo)-2]
	many := slices.Concat(photo[:len(photo)-2], bytes.Repeat(scan, 300), photo[len(photo)-2:])
	took := 0
	d.Unpack = func(_ context.Context, data []byte, _ string) ([]byte, time.Duration, error) {
		took++
		return data, 50 * time.Second, nil
	}
	take := func(client string, data []byte) error {
		_, err := d.Take(t.Context(), id, form.Field{Kind: form.Photo}, "x.jpg", client, data)
		return err
	}
	var refused upload.Refused
	if err := take("a", many); !errors.As(err, &refused) || !strings.Contains(refused.Reason, "301 times") || took != 0 {
		t.Errorf("a photo of 301 scans: %v, unpacked %d times", err, took)
	}
	for range 3 {
		if err := take("a", photo); err != nil {
			t.Errorf("one of three photos: %v", err)
		}
	}
	if err := take("a", photo); !errors.Is(err, upload.ErrCostly) {
		t.Errorf("who has cost five minutes: %v", err)
	}
	if err := take("b", photo); err != nil {
		t.Errorf("who has cost one: %v", err)
	}
	*now = now.Add(2 * time.Hour)
	if err := take("a", photo); err != nil {
		t.Errorf("an hour later: %v", err)
	}
}
