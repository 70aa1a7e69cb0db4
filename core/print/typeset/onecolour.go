package typeset

import (
	"bytes"
	"image"
	"image/color"
	"image/png"
	"slices"
)

// fullest is the part of a picture that may be covered when all of it is of one colour: beyond, it was light on dark, and nothing could be
// told apart.
const fullest = 0.75

// OneColour is a picture as a stamp of it would print: each place as much of the colour as it is seen and dark. It reports whether that can
// be told apart; of a picture that covers its whole ground it cannot.
func (i *Image) OneColour(c Colour) (*Image, bool) {
	if i.Width*i.Height > mostTrimmed {
		return i, false
	}
	img, _, err := image.Decode(bytes.NewReader(i.Data))
	if err != nil {
		return i, false
	}
	box := img.Bounds()
	out := image.NewNRGBA(image.Rect(0, 0, box.Dx(), box.Dy()))
	covered, clear := 0.0, i.seenThrough(img)
	for y := range box.Dy() {
		for x := range box.Dx() {
			p := color.NRGBAModel.Convert(img.At(box.Min.X+x, box.Min.Y+y)).(color.NRGBA)
			ink := float64(p.A)
			if !clear { // the paper is a part of it
				ink *= 1 - (0.299*float64(p.R)+0.587*float64(p.G)+0.114*float64(p.B))/255
			}
			covered += ink / 255
			out.SetNRGBA(x, y, color.NRGBA{c.R, c.G, c.B, uint8(ink + 0.5)})
		}
	}
	if covered > fullest*float64(box.Dx()*box.Dy()) {
		return i, false
	}
	return encoded(out, i)
}

// seenThrough reports whether the corners of a picture are seen through, as those of a picture without paper are.
func (i *Image) seenThrough(img image.Image) bool {
	box := img.Bounds()
	through := 0
	for _, at := range []image.Point{box.Min, {box.Max.X - 1, box.Min.Y}, {box.Min.X, box.Max.Y - 1}, box.Max.Sub(image.Pt(1, 1))} {
		if _, _, _, a := img.At(at.X, at.Y).RGBA(); a < 0x8000 {
			through++
		}
	}
	return through >= 2
}

// Upright is a picture turned a quarter against the clock, so that it reads upwards.
func (i *Image) Upright() *Image {
	img, _, err := image.Decode(bytes.NewReader(i.Data))
	if err != nil {
		return i
	}
	box := img.Bounds()
	out := image.NewNRGBA(image.Rect(0, 0, box.Dy(), box.Dx()))
	for y := range box.Dy() {
		for x := range box.Dx() {
			out.Set(y, box.Dx()-1-x, img.At(box.Min.X+x, box.Min.Y+y))
		}
	}
	turned, _ := encoded(out, i)
	return turned
}

// encoded is a picture that was made of another one, which stands in where it cannot be written.
func encoded(img *image.NRGBA, of *Image) (*Image, bool) {
	var out bytes.Buffer
	if err := png.Encode(&out, img); err != nil {
		return of, false
	}
	return &Image{Data: out.Bytes(), Format: "png", Width: img.Rect.Dx(), Height: img.Rect.Dy()}, true
}

// OneColour is the drawing with all its shapes of one colour. Shapes that are nearly white are paper and left out. It reports whether
// anything is left.
func (d *Drawing) OneColour(c Colour) (*Drawing, bool) {
	p := *d
	p.Shapes, p.Colour = inked(d.Shapes, c), c
	return &p, len(p.Shapes) > 0
}

// inked are the shapes that are no paper, in one colour.
func inked(shapes []Shape, c Colour) (out []Shape) {
	for _, s := range shapes {
		if s.Group != nil {
			if s.Group = inked(s.Group, c); s.Group != nil {
				out = append(out, s)
			}
			continue
		}
		if s.Gradient == nil && min(s.Colour.R, s.Colour.G, s.Colour.B) > 0xF0 {
			continue
		}
		s.Colour, s.Gradient = c, nil
		out = append(out, s)
	}
	return out
}

// turned are shapes of a drawing of a width, each of whose lines is turned.
func turned(shapes []Shape, width float64, turn func([]float64) []float64) []Shape {
	all := func(lines [][]float64) [][]float64 {
		out := make([][]float64, len(lines))
		for i, l := range lines {
			out[i] = turn(l)
		}
		return out
	}
	out := slices.Clone(shapes)
	for i := range out {
		s := &out[i]
		s.Outlines, s.Clips, s.Group = all(s.Outlines), slices.Clone(s.Clips), turned(s.Group, width, turn)
		for k := range s.Clips {
			s.Clips[k].Outlines = all(s.Clips[k].Outlines)
		}
		if s.Gradient != nil {
			g := *s.Gradient
			m := g.Matrix
			g.Matrix = [6]float64{m[1], -m[0], m[3], -m[2], m[5], width - m[4]}
			s.Gradient = &g
		}
	}
	return out
}

// Upright is the drawing turned a quarter against the clock.
func (d *Drawing) Upright() *Drawing {
	p := *d
	p.Width, p.Height = d.Height, d.Width
	turn := func(line []float64) []float64 {
		out := make([]float64, len(line))
		for i := 0; i+1 < len(line); i += 2 {
			out[i], out[i+1] = line[i+1], d.Width-line[i]
		}
		return out
	}
	p.Shapes = turned(d.Shapes, d.Width, turn)
	p.Strokes = make([][]float64, len(d.Strokes))
	for i, s := range d.Strokes {
		p.Strokes[i] = turn(s)
	}
	p.Boxes = make([][4]float64, len(d.Boxes))
	for i, b := range d.Boxes {
		p.Boxes[i] = [4]float64{b[1], d.Width - b[0] - b[2], b[3], b[2]}
	}
	return &p
}
