package typeset

import (
	"bytes"
	"errors"
	"image"
	"image/color"
	_ "image/jpeg" // the two formats documents take
	"image/png"
	"slices"

	"amberseal/core/foreign/picture"
)

// headRoom is how far into a file its marker by Adobe is looked for.
const headRoom = 256 << 10

// Image is a picture file that was looked at and can be placed.
type Image struct {
	Data          []byte
	Format        string // "jpeg" or "png"
	Width, Height int    // pixels
	Pale          bool   // printed as a watermark
}

// ReadImage looks at a PNG or JPEG file without decoding its pixels. The error says in
// plain words what is wrong with it.
func ReadImage(data []byte) (*Image, error) {
	c, format, err := picture.Look(data)
	if errors.Is(err, picture.ErrDamaged) {
		return nil, errors.New("the picture is neither PNG nor JPEG, or is damaged")
	}
	if err != nil {
		return nil, err
	}
	if format == "jpeg" && c.ColorModel == color.CMYKModel && !bytes.Contains(data[:min(len(data), headRoom)], []byte("Adobe")) {
		return nil, errors.New("the picture is a CMYK JPEG that does not say how its colours are written; save it as RGB")
	}
	return &Image{Data: data, Format: format, Width: c.Width, Height: c.Height}, nil
}

// mostTrimmed is up to how many pixels a picture is looked through for its rim.
const mostTrimmed = 8_000_000

// seen is the least opacity, of 255, that counts as a part of a picture.
const seen = 10

// Trimmed is a PNG without the rim that is seen through, the same picture where it has none.
func (i *Image) Trimmed() *Image {
	if i.Format != "png" || i.Width*i.Height > mostTrimmed {
		return i
	}
	img, err := png.Decode(bytes.NewReader(i.Data))
	if err != nil {
		return i
	}
	all := img.Bounds()
	var box image.Rectangle
	for y := all.Min.Y; y < all.Max.Y; y++ {
		for x := all.Min.X; x < all.Max.X; x++ {
			if _, _, _, a := img.At(x, y).RGBA(); a>>8 >= seen {
				box = box.Union(image.Rect(x, y, x+1, y+1))
			}
		}
	}
	sub, ok := img.(interface {
		SubImage(image.Rectangle) image.Image
	})
	if box.Empty() || box == all || !ok {
		return i
	}
	var out bytes.Buffer
	if err := png.Encode(&out, sub.SubImage(box)); err != nil {
		return i
	}
	return &Image{Data: out.Bytes(), Format: i.Format, Width: box.Dx(), Height: box.Dy()}
}

// Paled is the drawing as a watermark.
func (d *Drawing) Paled() *Drawing {
	p := *d
	p.Shapes, p.Colour = recoloured(d.Shapes, Colour.paled), d.Colour.paled()
	return &p
}

// recoloured are shapes with other colours.
func recoloured(shapes []Shape, other func(Colour) Colour) []Shape {
	out := slices.Clone(shapes)
	for i := range out {
		s := &out[i]
		s.Colour = other(s.Colour)
		if s.Gradient != nil {
			g := *s.Gradient
			g.Stops = slices.Clone(g.Stops)
			for j := range g.Stops {
				g.Stops[j].Colour = other(g.Stops[j].Colour)
			}
			s.Gradient = &g
		}
		s.Group = recoloured(s.Group, other)
	}
	return out
}

// OnWhite is the shape as it is seen over white, with colours that cover all instead of its opacity. In a group what lies below
// others shows through them then.
func (s Shape) OnWhite() Shape {
	if s.Opacity > 0 && s.Opacity < 1 {
		s = recoloured([]Shape{s}, func(c Colour) Colour { return c.OnWhite(s.Opacity) })[0]
	}
	s.Opacity = 0
	return s
}

// Paleness is what part of its darkness a watermark keeps: an eighth, on which black text has more than 7 to 1 of contrast.
const Paleness = 8

func (c Colour) paled() Colour {
	pale := func(v uint8) uint8 { return 255 - (255-v)/Paleness }
	return Colour{pale(c.R), pale(c.G), pale(c.B)}
}

// OnWhite is the colour as it looks where so much of it covers white paper.
func (c Colour) OnWhite(opacity float64) Colour {
	mix := func(v uint8) uint8 { return uint8(255 - (255-float64(v))*opacity + 0.5) }
	return Colour{mix(c.R), mix(c.G), mix(c.B)}
}

// Paled is the picture as a watermark: its colours mixed with much white, so that text can be read on it.
func (i *Image) Paled() *Image {
	p := *i
	p.Pale = true
	return &p
}
