package picture_test

import (
	"bytes"
	"errors"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"testing"

	"amberseal/core/foreign/picture"
)

// A large picture is made smaller in proportion and keeps its colours; a small one is left as it is, and what says nonsense of how it was
// held is shown as it lies.
func TestUpright(t *testing.T) {
	flat := func(w, h int) image.Image {
		img := image.NewNRGBA(image.Rect(0, 0, w, h))
		for i := 0; i < len(img.Pix); i += 4 {
			copy(img.Pix[i:], []byte{200, 100, 50, 255})
		}
		return img
	}
	for _, c := range []struct{ w, h, longest, wide, high int }{
		{300, 200, 150, 150, 100}, {200, 300, 150, 100, 150}, {100, 100, 150, 100, 100}, {1000, 1, 100, 100, 1}, {3, 1000, 100, 1, 100},
	} {
		var b bytes.Buffer
		if err := png.Encode(&b, flat(c.w, c.h)); err != nil {
			t.Fatal(err)
		}
		img, err := picture.Upright(b.Bytes(), c.longest)
		if err != nil || img.Bounds().Dx() != c.wide || img.Bounds().Dy() != c.high {
			t.Errorf("%d × %d is %v: %v", c.w, c.h, img.Bounds(), err)
			continue
		}
		if got := color.NRGBAModel.Convert(img.At(c.wide/2, c.high/2)); got != (color.NRGBA{200, 100, 50, 255}) {
			t.Errorf("%d × %d is of the colour %v", c.w, c.h, got)
		}
	}
	var b bytes.Buffer
	if err := jpeg.Encode(&b, flat(20, 10), nil); err != nil {
		t.Fatal(err)
	}
	for what, exif := range map[string]string{
		"nothing": "", "half": "Exif\x00\x00MM\x00", "no directory": "Exif\x00\x00MM\x00*\x00\x00\xff\xff",
		"far away": "Exif\x00\x00II*\x00\xff\xff\xff\xff", "too many entries": "Exif\x00\x00MM\x00*\x00\x00\x00\x08\xff\xff\x01\x12",
		"an orientation of 9": "Exif\x00\x00MM\x00*\x00\x00\x00\x08\x00\x01\x01\x12\x00\x03\x00\x00\x00\x01\x00\x09\x00\x00",
	} {
		head := append([]byte{0xFF, 0xD8, 0xFF, 0xE1, 0, byte(len(exif) + 2)}, exif...)
		if img, err := picture.Upright(append(head, b.Bytes()[2:]...), 100); err != nil || img.Bounds().Dx() != 20 {
			t.Errorf("%s: %v", what, err)
		}
	}
	if _, err := picture.Upright(b.Bytes()[:b.Len()/2], 100); !errors.Is(err, picture.ErrDamaged) {
		t.Errorf("half a picture: %v", err)
	}
}
