package pdf

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"

	"amberseal/core/typeset"
)

// image adds a picture's object. JPEG goes in as it is; PNG too when it has no
// transparency and no interlace, else its pixels are packed anew with a soft mask.
func (f *file) image(img *typeset.Image) (ref, error) {
	if img.Format == "jpeg" {
		return f.jpeg(img)
	}
	if r, ok := f.plainPNG(img); ok {
		return r, nil
	}
	return f.pixels(img)
}

func (f *file) jpeg(img *typeset.Image) (ref, error) {
	c, err := jpeg.DecodeConfig(bytes.NewReader(img.Data))
	if err != nil {
		return 0, fmt.Errorf("the picture is damaged: %w", err)
	}
	space := "/DeviceRGB"
	switch c.ColorModel {
	case color.GrayModel:
		space = "/DeviceGray"
	case color.CMYKModel: // Adobe's files hold the colours inverted
		space = "/DeviceCMYK /Decode [1 0 1 0 1 0 1 0]"
	}
	return f.rawStream(fmt.Sprintf("/Type /XObject /Subtype /Image /Width %d /Height %d /BitsPerComponent 8 /ColorSpace %s /Filter /DCTDecode", img.Width, img.Height, space), img.Data), nil
}

// plainPNG passes the compressed pixels through (ISO 32000-1 section 7.4.4.4: predictors 10
// to 15 are PNG's own filters).
func (f *file) plainPNG(img *typeset.Image) (ref, bool) {
	d := img.Data
	if len(d) < 33 || string(d[12:16]) != "IHDR" {
		return 0, false
	}
	depth, kind, interlace := d[24], d[25], d[28]
	if depth > 8 || interlace != 0 || kind != 0 && kind != 2 && kind != 3 {
		return 0, false
	}
	var data, palette []byte
	for at := 8; at+12 <= len(d); {
		n := int(binary.BigEndian.Uint32(d[at:]))
		if n < 0 || at+12+n > len(d) {
			return 0, false
		}
		body := d[at+8 : at+8+n]
		switch string(d[at+4 : at+8]) {
		case "IDAT":
			data = append(data, body...)
		case "PLTE":
			palette = body
		case "tRNS":
			return 0, false
		}
		at += 12 + n
	}
	// A damaged stream would show as a broken picture in the document.
	if _, err := png.Decode(bytes.NewReader(d)); err != nil {
		return 0, false
	}
	colours, space := 1, "/DeviceGray"
	switch kind {
	case 2:
		colours, space = 3, "/DeviceRGB"
	case 3:
		space = fmt.Sprintf("[/Indexed /DeviceRGB %d <%X>]", len(palette)/3-1, palette)
	}
	return f.rawStream(fmt.Sprintf("/Type /XObject /Subtype /Image /Width %d /Height %d /BitsPerComponent %d /ColorSpace %s /Filter /FlateDecode /DecodeParms <</Predictor 15 /Colors %d /BitsPerComponent %d /Columns %d>>",
		img.Width, img.Height, depth, space, colours, depth, img.Width), data), true
}

func (f *file) pixels(img *typeset.Image) (ref, error) {
	m, _, err := image.Decode(bytes.NewReader(img.Data))
	if err != nil {
		return 0, fmt.Errorf("the picture is damaged: %w", err)
	}
	b := m.Bounds()
	rgb := make([]byte, 0, 3*b.Dx()*b.Dy())
	alpha := make([]byte, 0, b.Dx()*b.Dy())
	for y := b.Min.Y; y < b.Max.Y; y++ {
		for x := b.Min.X; x < b.Max.X; x++ {
			c := color.NRGBAModel.Convert(m.At(x, y)).(color.NRGBA)
			rgb = append(rgb, c.R, c.G, c.B)
			alpha = append(alpha, c.A)
		}
	}
	size := fmt.Sprintf("/Type /XObject /Subtype /Image /Width %d /Height %d /BitsPerComponent 8", b.Dx(), b.Dy())
	mask := f.stream(size+" /ColorSpace /DeviceGray", alpha)
	return f.stream(fmt.Sprintf("%s /ColorSpace /DeviceRGB /SMask %s", size, mask), rgb), nil
}
