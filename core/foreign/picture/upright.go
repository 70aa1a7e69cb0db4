package picture

import (
	"bytes"
	"encoding/binary"
	"image"
	"image/draw"

	scale "golang.org/x/image/draw"
)

// Upright unpacks a PNG or JPEG as it is to be seen: turned as its camera was held, and with no side longer than so many pixels. What it
// costs is looked at by Look before.
func Upright(data []byte, longest int) (image.Image, error) {
	img, format, err := image.Decode(bytes.NewReader(data))
	if err != nil {
		return nil, ErrDamaged
	}
	img = fit(img, longest)
	if format == "jpeg" {
		img = turned(img, orientation(data))
	}
	return img, nil
}

// fit makes a picture smaller in proportion, where it is too large.
func fit(img image.Image, longest int) image.Image {
	b := img.Bounds()
	long := max(b.Dx(), b.Dy())
	if long <= longest {
		return img
	}
	part := float64(longest) / float64(long)
	out := image.NewNRGBA(image.Rect(0, 0, max(int(float64(b.Dx())*part+0.5), 1), max(int(float64(b.Dy())*part+0.5), 1)))
	scale.BiLinear.Scale(out, out.Bounds(), img, b, scale.Src, nil)
	return out
}

// What an orientation does before it changes the sides.
var (
	mirrored = [9]bool{2: true, 3: true, 7: true, 8: true}
	flipped  = [9]bool{3: true, 4: true, 6: true, 7: true}
)

// turned is a picture as it is seen by an orientation of Exif: 2 to 4 are mirrored or upside down, 5 to 8 lie on a side.
func turned(img image.Image, orientation int) image.Image {
	if orientation < 2 || orientation > 8 {
		return img
	}
	b := img.Bounds()
	w, h := b.Dx(), b.Dy()
	in := image.NewNRGBA(image.Rect(0, 0, w, h))
	draw.Draw(in, in.Bounds(), img, b.Min, draw.Src)
	size := image.Rect(0, 0, w, h)
	if orientation > 4 {
		size = image.Rect(0, 0, h, w)
	}
	out := image.NewNRGBA(size)
	for y := range h {
		for x := range w {
			tx, ty := x, y
			if mirrored[orientation] {
				tx = w - 1 - x
			}
			if flipped[orientation] {
				ty = h - 1 - y
			}
			if orientation > 4 {
				tx, ty = ty, tx
			}
			copy(out.Pix[out.PixOffset(tx, ty):][:4], in.Pix[in.PixOffset(x, y):][:4])
		}
	}
	return out
}

// orientation reads how the camera was held from a JPEG's Exif segment (CIPA DC-008-2019, 4.6.4, tag 274; ITU-T T.81, B.1.1.4); 1 where
// nothing is said.
func orientation(data []byte) int {
	for at := 2; at+4 <= len(data) && data[at] == 0xFF && data[at+1] != 0xDA; {
		length := int(binary.BigEndian.Uint16(data[at+2:]))
		end := at + 2 + length
		if length < 2 || end > len(data) {
			break
		}
		if tiff, is := bytes.CutPrefix(data[at+4:end], []byte("Exif\x00\x00")); data[at+1] == 0xE1 && is {
			return held(tiff)
		}
		at = end
	}
	return 1
}

// held reads the orientation from the first directory of a TIFF (TIFF 6.0, section 2).
func held(tiff []byte) int {
	if len(tiff) < 8 {
		return 1
	}
	var order binary.ByteOrder = binary.BigEndian
	if tiff[0] == 'I' {
		order = binary.LittleEndian
	}
	from := int64(order.Uint32(tiff[4:]))
	if from+2 > int64(len(tiff)) {
		return 1
	}
	entries := tiff[from+2:]
	for range order.Uint16(tiff[from:]) {
		if len(entries) < 12 {
			break
		}
		if order.Uint16(entries) == 0x0112 {
			return int(order.Uint16(entries[8:]))
		}
		entries = entries[12:]
	}
	return 1
}
