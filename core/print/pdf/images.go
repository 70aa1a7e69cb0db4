package pdf

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"hash/maphash"
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"
	"image/png"
	"sync"

	"amberseal/core/print/typeset"
)

// picture is an image as PDF streams hold it. A house prints the same logo on every document,
// so that the last ones made are kept.
type picture struct {
	entries string
	data    []byte
	mask    *picture
}

type pictureKey struct {
	sum   uint64 // by a hash whose seed nobody knows, so that no two pictures can be made to share it
	size  int
	level Archival
	pale  bool
}

// mostSqueezed is up to how many pixels a picture is packed as well as can be.
const mostSqueezed = 1_000_000

const mostPictures, mostPictureBytes = 64, 32 << 20

var (
	picturesMu    sync.Mutex
	pictures      = map[pictureKey]*picture{}
	picturesSeed  = maphash.MakeSeed()
	picturesBytes int
)

// image adds a picture's objects. JPEG goes in as it is; PNG too when it has no
// transparency and no interlace, else its pixels are packed anew with a soft mask. Archival
// files have no CMYK, since their intent is sRGB, and A-1b has no transparency: it lies on white.
func (f *file) image(img *typeset.Image, level Archival) (ref, error) {
	key := pictureKey{maphash.Bytes(picturesSeed, img.Data), len(img.Data), level, img.Pale}
	picturesMu.Lock()
	p, ok := pictures[key]
	picturesMu.Unlock()
	if !ok {
		var err error
		if p, err = makePicture(img, level); err != nil {
			return 0, err
		}
		keep(key, p)
	}
	entries := p.entries
	if p.mask != nil {
		entries += " /SMask " + f.rawStream(p.mask.entries, p.mask.data).String()
	}
	return f.rawStream(entries, p.data), nil
}

func keep(key pictureKey, p *picture) {
	size := len(p.data)
	if p.mask != nil {
		size += len(p.mask.data)
	}
	picturesMu.Lock()
	defer picturesMu.Unlock()
	if len(pictures) >= mostPictures || picturesBytes+size > mostPictureBytes {
		clear(pictures)
		picturesBytes = 0
	}
	if size <= mostPictureBytes {
		pictures[key] = p
		picturesBytes += size
	}
}

func makePicture(img *typeset.Image, level Archival) (*picture, error) {
	if img.Pale {
		return pixels(img, level)
	}
	if img.Format == "jpeg" {
		return jpegPicture(img, level)
	}
	if p := plainPNG(img); p != nil {
		return p, nil
	}
	return pixels(img, level)
}

func jpegPicture(img *typeset.Image, level Archival) (*picture, error) {
	c, err := jpeg.DecodeConfig(bytes.NewReader(img.Data))
	if err != nil {
		return nil, fmt.Errorf("the picture is damaged: %w", err)
	}
	space := "/DeviceRGB"
	switch c.ColorModel {
	case color.GrayModel:
		space = "/DeviceGray"
	case color.CMYKModel: // Adobe's files hold the colours inverted
		if level != NotArchival {
			return pixels(img, level)
		}
		space = "/DeviceCMYK /Decode [1 0 1 0 1 0 1 0]"
	}
	return &picture{
		entries: fmt.Sprintf(
			"/Type /XObject /Subtype /Image /Width %d /Height %d /BitsPerComponent 8 /ColorSpace %s /Filter /DCTDecode", img.Width,
			img.Height,
			space,
		),
		data: img.Data,
	}, nil
}

// plainPNG passes the compressed pixels through (ISO 32000-1 section 7.4.4.4: predictors 10
// to 15 are PNG's own filters). It gives nil for a file that must be decoded.
func plainPNG(img *typeset.Image) *picture {
	d := img.Data
	if len(d) < 33 || string(d[12:16]) != "IHDR" {
		return nil
	}
	depth, kind, interlace := d[24], d[25], d[28]
	if depth > 8 || interlace != 0 || kind != 0 && kind != 2 && kind != 3 {
		return nil
	}
	var data, palette []byte
	for at := 8; at+12 <= len(d); {
		n := int(binary.BigEndian.Uint32(d[at:]))
		if n < 0 || at+12+n > len(d) {
			return nil
		}
		body := d[at+8 : at+8+n]
		switch string(d[at+4 : at+8]) {
		case "IDAT":
			data = append(data, body...)
		case "PLTE":
			palette = body
		case "tRNS":
			return nil
		}
		at += 12 + n
	}
	// A damaged stream would show as a broken picture in the document.
	if _, err := png.Decode(bytes.NewReader(d)); err != nil {
		return nil
	}
	colours, space := 1, "/DeviceGray"
	switch kind {
	case 2:
		colours, space = 3, "/DeviceRGB"
	case 3:
		space = fmt.Sprintf("[/Indexed /DeviceRGB %d <%X>]", len(palette)/3-1, palette)
	}
	return &picture{
		entries: fmt.Sprintf(
			"/Type /XObject /Subtype /Image /Width %d /Height %d /BitsPerComponent %d /ColorSpace %s /Filter /FlateDecode /DecodeParms "+
				"<</Predictor 15 /Colors %d /BitsPerComponent %d /Columns %d>>",
			img.Width, img.Height, depth, space, colours, depth, img.Width,
		),
		data: data,
	}
}

func pixels(img *typeset.Image, level Archival) (*picture, error) {
	m, _, err := image.Decode(bytes.NewReader(img.Data))
	if err != nil {
		return nil, fmt.Errorf("the picture is damaged: %w", err)
	}
	b := m.Bounds()
	flat := image.NewNRGBA(image.Rect(0, 0, b.Dx(), b.Dy()))
	if level == A1b {
		draw.Draw(flat, flat.Bounds(), image.White, image.Point{}, draw.Src)
		draw.Draw(flat, flat.Bounds(), m, b.Min, draw.Over)
	} else {
		draw.Draw(flat, flat.Bounds(), m, b.Min, draw.Src)
	}
	most := commonest(flat.Pix)
	rgb := make([]byte, 0, 3*b.Dx()*b.Dy())
	alpha := make([]byte, 0, b.Dx()*b.Dy())
	for i := 0; i < len(flat.Pix); i += 4 {
		if img.Pale {
			for j := i; j < i+3; j++ {
				flat.Pix[j] = 255 - (255-flat.Pix[j])/typeset.Paleness
			}
		}
		if near(flat.Pix[i:i+4], most) { // what nobody sees needs no room
			copy(flat.Pix[i:i+3], most[:])
		}
		rgb = append(rgb, flat.Pix[i:i+3]...)
		alpha = append(alpha, flat.Pix[i+3])
	}
	size := fmt.Sprintf("/Type /XObject /Subtype /Image /Width %d /Height %d /BitsPerComponent 8 /Filter /FlateDecode", b.Dx(), b.Dy())
	pack := deflate
	if len(alpha) <= mostSqueezed { // once for all documents that have it
		pack = squeeze
	}
	p := &picture{entries: size + " /ColorSpace /DeviceRGB", data: pack(rgb)}
	if !flat.Opaque() {
		p.mask = &picture{entries: size + " /ColorSpace /DeviceGray", data: pack(alpha)}
	}
	return p, nil
}

// commonest is the colour of most opaque pixels. Logos are of one colour and lie in rims of it that are seen through.
func commonest(pix []byte) (most [3]byte) {
	const looked = 4096 // colours
	count, best := map[[3]byte]int{}, 0
	for i := 0; i < len(pix); i += 4 {
		if pix[i+3] != 0xFF {
			continue
		}
		c := [3]byte(pix[i : i+3])
		if len(count) >= looked && count[c] == 0 {
			continue
		}
		if count[c]++; count[c] > best {
			best, most = count[c], c
		}
	}
	return most
}

// near reports whether a pixel that is seen through looks, by one step of 255 at most, like one of a colour.
func near(p []byte, c [3]byte) bool {
	if p[3] == 0xFF {
		return false
	}
	for i := range c {
		d := int(p[i]) - int(c[i])
		if max(d, -d)*int(p[3]) > 0xFF {
			return false
		}
	}
	return true
}
