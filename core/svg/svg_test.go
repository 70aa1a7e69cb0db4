package svg_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"amberseal/core/svg"
	"amberseal/core/typeset"
)

func ExampleRead() {
	d, err := svg.Read([]byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 20"><rect x="10" y="5" width="20" height="10" fill="#ff0000"/></svg>`))
	fmt.Println(d.Width, d.Height, d.Shapes[0].Colour, err)
	// Output: 2000 1000 {255 0 0} <nil>
}

// area is that of a drawing's shapes, as a share of the drawing: by the shoelace formula, of lines their length times their
// width.
func area(d *typeset.Drawing) float64 {
	sum := 0.0
	for _, f := range d.Shapes {
		for _, o := range f.Outlines {
			for i := 0; i+1 < len(o); i += 2 {
				j := (i + 2) % len(o)
				if f.Width == 0 {
					sum += o[i]*o[j+1] - o[j]*o[i+1]
				} else if j > i {
					sum += 2 * f.Width * math.Hypot(o[j]-o[i], o[j+1]-o[i+1])
				}
			}
		}
	}
	return math.Abs(sum) / 2 / (d.Width * d.Height)
}

// Areas of shapes by geometry; the transforms by SVG 1.1 section 7.6.
func TestShapesHaveTheirArea(t *testing.T) {
	for shape, want := range map[string]float64{
		`<circle cx="50" cy="50" r="40"/>`:                                            math.Pi * 1600,
		`<ellipse cx="50" cy="50" rx="40" ry="20"/>`:                                  math.Pi * 800,
		`<path d="M10 10 h80 v80 h-80 z"/>`:                                           6400,
		`<path d="M10,50 A40,40 0 0 1 90,50 Z"/>`:                                     math.Pi * 800,
		`<path d="M0 0 Q 50 100 100 0 Z"/>`:                                           100 * 100 / 3.0,
		`<g transform="translate(20 20) scale(2)"><rect width="10" height="10"/></g>`: 400,
		`<polygon points="0,0 100,0 0,100"/>`:                                         5000,
		`<line x1="10" y1="50" x2="90" y2="50" stroke="black" stroke-width="4"/>`:     320,
	} {
		d, err := svg.Read([]byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100">` + shape + `</svg>`))
		if err != nil {
			t.Errorf("%s: %v", shape, err)
			continue
		}
		if got := area(d) * 10000; math.Abs(got-want) > want/300 {
			t.Errorf("%s covers %.1f, want %.1f", shape, got, want)
		}
	}
}

func TestSeeThroughIsMixedWithWhite(t *testing.T) {
	d, err := svg.Read([]byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"><rect width="10" height="10" fill="#000" fill-opacity="0.5"/></svg>`))
	if err != nil || d.Shapes[0].Colour.R < 125 || d.Shapes[0].Colour.R > 130 {
		t.Error(d, err)
	}
}

func TestHostileFilesAreRefused(t *testing.T) {
	wrap := func(s string) string {
		return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10">` + s + `<rect width="1" height="1"/></svg>`
	}
	for name, file := range map[string]string{
		"script": wrap(`<script>alert(1)</script>`), "image": wrap(`<image href="file:///etc/passwd"/>`), "use": wrap(`<g id="a"><use href="#a"/></g>`), "words": wrap(`<text>x</text>`),
		"foreign": wrap(`<foreignObject/>`), "entities": `<!DOCTYPE svg [<!ENTITY a "aaaa">]>` + wrap(`&a;`), "deep": wrap(strings.Repeat("<g>", 100) + strings.Repeat("</g>", 100)),
		"many": wrap(strings.Repeat(`<rect width="1" height="1"/>`, 30_000)), "empty": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"></svg>`, "cut": `<svg xmlns="http://www.w3.org/2000/svg"><rect`,
		"no size": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 0 0"><rect width="1" height="1"/></svg>`, "huge": wrap(`<path d="M0 0 C 1e30 1e30 -1e30 1e30 9 9"/>`), "nan": wrap(`<path d="M NaN 0 L 1e999 -1e999 z"/>`),
		"large": wrap(strings.Repeat(" ", svg.Largest)), "dashes": wrap(`<path d="M0 0 H 1e5" stroke="black" stroke-dasharray="0.00001"/>`), "not XML": "\x00\xff<svg", "charset": `<?xml version="1.0" encoding="utf-7"?>` + wrap(""),
	} {
		if d, err := svg.Read([]byte(file)); err == nil && name != "huge" && name != "nan" && name != "dashes" {
			t.Errorf("%s was taken: %d shapes", name, len(d.Shapes))
		} else if err != nil && !strings.Contains(err.Error(), "SVG") {
			t.Errorf("%s: %v", name, err)
		}
	}
}

// Fuzzing begins with files of every kind that is read; whatever comes, Read neither panics nor draws what has no number.
func FuzzRead(f *testing.F) {
	for _, s := range []string{`<circle cx="5" cy="5" r="4"/>`, `<path d="M0 0 C1 2 3 4 5 6 S 7 8 9 9 T 1 1 A 3 3 0 1 0 4 4 z" stroke="red" stroke-dasharray="1 2"/>`, `<g style="fill:url(#x)" transform="rotate(3) skewX(2) matrix(1 0 0 1 2 2)"><polygon points="0,0 1,1 2"/></g>`,
		`<defs><linearGradient id="x"><stop offset="0" stop-color="#fff"/></linearGradient></defs><rect width="3" height="3" rx="1" fill="url(#x)"/>`} {
		f.Add([]byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10">` + s + `</svg>`))
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		d, err := svg.Read(data)
		if err != nil {
			return
		}
		for _, shape := range d.Shapes {
			for _, o := range shape.Outlines {
				for _, v := range o {
					if math.IsNaN(v) || math.IsInf(v, 0) {
						t.Fatal("a point that is nowhere")
					}
				}
			}
		}
	})
}
