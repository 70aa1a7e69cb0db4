package notify

import (
	"bytes"
	"context"
	"errors"
	"image"
	"image/jpeg"
	"image/png"
	"net/http"

	"golang.org/x/image/draw"

	"amberseal/app/register"
	"amberseal/core/foreign"
	"amberseal/core/notice"
)

// Pictures has the house's.
type Pictures interface {
	Picture(ctx context.Context, name string) ([]byte, error)
}

// mostPixels is how wide a picture goes along: twice as wide as it is shown, for screens with small pixels.
const mostPixels = 2 * 544

// small is a picture as it goes along with a message.
type small struct {
	data  []byte
	width int // as it is shown, in pixels of CSS
}

// smalls are those that were sent before.
var smalls = foreign.Kept[small]{Most: 8 << 20, Open: func(data []byte) (small, error) {
	img, format, err := image.Decode(bytes.NewReader(data))
	if err != nil {
		return small{}, err
	}
	size := img.Bounds()
	if size.Dx() <= mostPixels {
		return small{data, size.Dx()}, nil
	}
	less := image.NewNRGBA(image.Rect(0, 0, mostPixels, max(1, size.Dy()*mostPixels/size.Dx())))
	draw.CatmullRom.Scale(less, less.Bounds(), img, size, draw.Src, nil)
	var out bytes.Buffer
	if format == "jpeg" {
		err = jpeg.Encode(&out, less, &jpeg.Options{Quality: 85})
	} else {
		err = png.Encode(&out, less)
	}
	return small{out.Bytes(), mostPixels}, err
}}

// Adorn gives the pictures of a notice as they go along with its message, each under the name that the message speaks of it by, and how
// wide each is shown, in pixels of CSS. One that is not there any more is left out.
func Adorn(ctx context.Context, from Pictures, n notice.Notice) (inline []Attachment, widths map[string]int, err error) {
	for _, p := range n.Pictures {
		if _, there := widths[p.Picture]; there {
			continue
		}
		data, err := from.Picture(ctx, p.Picture)
		if errors.Is(err, register.NotFound) {
			continue
		}
		if err != nil {
			return nil, nil, err
		}
		s, err := smalls.Get(data)
		if err != nil {
			continue // a drawing, which mail readers do not show
		}
		if widths == nil {
			widths = map[string]int{}
		}
		widths[p.Picture] = s.width
		inline = append(inline, Attachment{Name: notice.ContentID(p.Picture), Type: http.DetectContentType(s.data), Data: s.data})
	}
	return inline, widths, nil
}
