package svg_test

import (
	"bytes"
	"encoding/xml"
	"fmt"
	"io"
	"math"
	"reflect"
	"strings"
	"testing"

	"amberseal/core/print/svg"
	"amberseal/core/print/typeset"
)

func ExampleRead() {
	d, err := svg.Read([]byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 20"><rect x="10" y="5" width="20" height="10" `+
		`fill="#ff0000"/></svg>`), nil)
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
		`<rect width="100" height="60" rx="20"/>`:                                     6000 - (4-math.Pi)*400,
		`<rect width="100" height="60" ry='20'/>`:                                     6000 - (4-math.Pi)*400,
		`<line x1="10" y1="50" x2="90" y2="50" stroke="black" stroke-width="4"/>`:     320,
	} {
		d, err := svg.Read([]byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100">`+shape+`</svg>`), nil)
		if err != nil {
			t.Errorf("%s: %v", shape, err)
			continue
		}
		if got := area(d) * 10000; math.Abs(got-want) > want/300 {
			t.Errorf("%s covers %.1f, want %.1f", shape, got, want)
		}
	}
}

// The opacity of what holds a shape, of itself, of its paint and of its colour count together.
func TestOpacity(t *testing.T) {
	for shape, want := range map[string]float64{
		`<rect width="10" height="10" fill-opacity="0.5"/>`:                                            0.5,
		`<g opacity="50%"><rect width="10" height="10" opacity=".5" style="fill:rgba(0,0,0,.5)"/></g>`: 0.125,
		`<g fill-opacity=".5"><rect width="10" height="10" fill="#000000ff"/></g>`:                     0.5,
		`<rect width="10" height="10"/>`:                                                               1,
		`<style>g rect.half{opacity:.5}</style><g><rect class="x half" width="10" height="10"/></g>`:   0.5,
	} {
		d, err := svg.Read([]byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10">`+shape+`</svg>`), nil)
		if err != nil || math.Abs(d.Shapes[0].Opacity-want) > 0.005 {
			t.Errorf("%s: %+v %v", shape, d, err)
		}
	}
}

// Gradients keep their stops, ends and units; those that repeat become the colour they begin with.
func TestGradients(t *testing.T) {
	of := func(gradient, shape string) typeset.Shape {
		t.Helper()
		file := `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100"><defs>` + gradient + `</defs>` + shape + `</svg>`
		d, err := svg.Read([]byte(file), nil)
		if err != nil {
			t.Fatal(err)
		}
		return d.Shapes[0]
	}
	at := func(g *typeset.Gradient, x, y float64) [2]float64 { // a place of the gradient's, in hundredths of the drawing
		m := g.Matrix
		return [2]float64{math.Round((m[0]*x + m[2]*y + m[4]) / 20), math.Round((m[1]*x + m[3]*y + m[5]) / 20)}
	}
	const stops = `<stop offset="0.25" stop-color="#ff0000"/><stop offset="1" stop-color="#0000ff" stop-opacity="0.5"/>`
	g := of(`<linearGradient id="g">`+stops+`</linearGradient>`, `<rect x="10" y="20" width="40" height="30" fill="url(#g)"/>`).Gradient
	if g == nil || g.Radial || at(g, g.Ends[0], g.Ends[1]) != [2]float64{10, 20} || at(g, g.Ends[3], g.Ends[4]) != [2]float64{50, 20} {
		t.Fatalf("the gradient is %+v", g)
	}
	if len(g.Stops) != 2 || g.Stops[0] != (typeset.Stop{At: 0.25, Colour: typeset.Colour{R: 255}}) || g.Stops[1].Colour.B != 255 ||
		g.Stops[1].Colour.R < 126 ||
		g.Stops[1].Colour.R > 129 {
		t.Errorf("its stops are %+v", g.Stops)
	}
	g = of(
		`<linearGradient id="g" gradientUnits="userSpaceOnUse" x1="5" y1="6" x2="70" y2="80">`+stops+`</linearGradient>`,
		`<g transform="translate(10 0)"><rect width="40" height="30" fill="url(#g)"/></g>`,
	).Gradient
	if at(g, g.Ends[0], g.Ends[1]) != [2]float64{15, 6} || at(g, g.Ends[3], g.Ends[4]) != [2]float64{80, 80} {
		t.Errorf("in the picture's own units it goes from %v to %v", at(g, g.Ends[0], g.Ends[1]), at(g, g.Ends[3], g.Ends[4]))
	}
	g = of(
		`<radialGradient id="g" cx="0.5" cy="0.5" r="0.25" fx="0.4" fy="0.6">`+stops+`</radialGradient>`,
		`<rect width="40" height="80" fill="url(#g)"/>`,
	).Gradient
	if !g.Radial || g.Ends != [6]float64{0.4, 0.6, 0, 0.5, 0.5, 0.25} || at(g, 0.5, 0.5) != [2]float64{20, 40} {
		t.Errorf("from circle to circle it is %+v", g)
	}
	if s := of(`<linearGradient id="g" spreadMethod="repeat">`+stops+`</linearGradient>`,
		`<rect width="40" height="30" fill="url(#g)"/>`); s.Gradient != nil ||
		s.Colour.R != 255 {
		t.Errorf("one that repeats is %+v", s)
	}
	pale := (&typeset.Drawing{Shapes: []typeset.Shape{{Gradient: g}}}).Paled().Shapes[0].Gradient
	if pale.Stops[0].Colour.G < 220 || g.Stops[0].Colour.G != 0 {
		t.Errorf("as a watermark it is %+v, and itself %+v", pale.Stops, g.Stops)
	}
}

// What drawing programs write besides what is seen, and what SVG lets one leave out, is taken as it is meant. By SVG 1.1, sections
// 6.4 (styles), 13.2 (gradients that name others) and 14.3 (clipping).
func TestFilesAsDrawingProgramsWriteThem(t *testing.T) {
	const red, blue = "{255 0 0}", "{0 0 255}"
	for shape, want := range map[string]string{
		`<metadata><rdf:RDF xmlns:rdf="http://r"><rdf:x/></rdf:RDF></metadata><title>T</title><desc>D</desc><rect width="5" height="5" ` +
			`fill="red"/>`: red,
		`<s:namedview xmlns:s="http://s" id="base"><s:grid/></s:namedview><g xmlns:i="http://i" i:label="Layer"><rect width="5" ` +
			`height="5" style="fill:#ff0000;paint-order:normal"/></g>`: red,
		`<style type="text/css"><![CDATA[ .a{fill:#0000ff;} ]]></style><rect class="a" fill="red" width="5" ` +
			`height="5"/>`: blue,
		`<rect style="fill:#0000ff" class="a" fill="red" width="5" ` +
			`height="5"/>`: blue,
		`<rect fill="currentColor" width="5" ` +
			`height="5"/>`: "{0 0 0}",
		`<rect fill="transparent" width="9" height="9"/><rect fill="red" width="5" ` +
			`height="5"/>`: red,
		`<g clip-path="url(#c)"><rect width="5" height="5" fill="red"/></g><defs><clipPath id="c"><rect width="10" height="10" ` +
			`fill="white"/></clipPath></defs>`: red,
		`<defs><linearGradient id="s"><stop offset="0" style="stop-color:#ff0000;stop-opacity:1"/><stop offset="100%" ` +
			`style="stop-color:#0000ff"/></linearGradient><linearGradient id="g" xlink:href="#s" x1="0" x2="10" ` +
			`gradientUnits="userSpaceOnUse"/></defs><rect width="5" height="5" fill="url(#g)"/>`: red + " to " + blue,
		`<linearGradient id="a" href="#b"/><linearGradient id="b" href="#a"><stop offset="0" stop-color="red"/><stop offset="1" ` +
			`stop-color="blue"/></linearGradient><rect width="5" height="5" fill="url(#a)"/>`: red + " to " + blue,
	} {
		const head = `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 10 10">`
		d, err := svg.Read([]byte(head+shape+`</svg>`), nil)
		if err != nil || len(d.Shapes) != 1 {
			t.Errorf("%s: %+v %v", shape, d, err)
			continue
		}
		got := fmt.Sprint(d.Shapes[0].Colour)
		if g := d.Shapes[0].Gradient; g != nil {
			got += " to " + fmt.Sprint(g.Stops[len(g.Stops)-1].Colour)
		}
		if got != want {
			t.Errorf("%s is %s, want %s", shape, got, want)
		}
	}
}

func TestDashes(t *testing.T) {
	for dash, want := range map[string]string{`4 2`: "[80 40] 20", `4,2,1`: "[80 40 20] 20", `0.00001`: "[] 0", `none`: "[] 0",
		``: "[] 0"} {
		d, err := svg.Read([]byte(
			`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100"><line x1="0" y1="5" x2="90" y2="5" stroke="black" `+
				`stroke-width="2" stroke-dasharray="`+dash+`" stroke-dashoffset="1"/></svg>`,
		), nil)
		if err != nil {
			t.Fatal(dash, err)
		}
		s := d.Shapes[len(d.Shapes)-1]
		if got := fmt.Sprint(s.Dash, " ", s.Phase); got != want {
			t.Errorf("%q is %s, want %s", dash, got, want)
		}
	}
}

func TestHostileFilesAreRefused(t *testing.T) {
	wrap := func(s string) string {
		return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10">` + s + `<rect width="1" height="1"/></svg>`
	}
	for name, file := range map[string]string{
		"script": wrap(`<script>alert(1)</script>`), "image": wrap(`<image href="file:///etc/passwd"/>`),
		"circle": wrap(`<g id="a"><use href="#a"/></g>`), "twice": wrap(laughs(14)),
		"filtered": wrap(`<g filter="url(#f)"><rect width="1" height="1"/></g>`),
		"marked":   wrap(`<path d="M0 0h5" marker-end="url(#m)"/>`), "along": wrap(`<text><textPath href="#p">x</textPath></text>`),
		"patterned": wrap(`<pattern id="p"/><rect width="1" height="1" fill="url(#p)"/>`),
		"foreign":   wrap(`<foreignObject/>`), "entities": `<!DOCTYPE svg [<!ENTITY a "aaaa">]>` + wrap(`&a;`),
		"deep": wrap(strings.Repeat("<g>", 100) + strings.Repeat("</g>", 100)),
		"many": wrap(strings.Repeat(`<rect width="1" height="1"/>`, 30_000)), "empty": `<svg xmlns="http://www.w3.org/2000/svg" ` +
			`viewBox="0 0 10 10"></svg>`, "cut": `<svg xmlns="http://www.w3.org/2000/svg"><rect`,
		"no size": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 0 0"><rect width="1" height="1"/></svg>`,
		"huge":    wrap(`<path d="M0 0 C 1e30 1e30 -1e30 1e30 9 9"/>`), "nan": wrap(`<path d="M NaN 0 L 1e999 -1e999 z"/>`),
		"large":  wrap(strings.Repeat(" ", svg.Largest)),
		"dashes": wrap(`<path d="M0 0 H 1e5" stroke="black" stroke-dasharray="0.00001"/>`), "not XML": "\x00\xff<svg",
		"charset": `<?xml version="1.0" encoding="utf-7"?>` + wrap(""),
	} {
		if d, err := svg.Read([]byte(file), nil); err == nil && name != "huge" && name != "nan" && name != "dashes" {
			t.Errorf("%s was taken: %d shapes", name, len(d.Shapes))
		} else if err != nil && !strings.Contains(err.Error(), "SVG") {
			t.Errorf("%s: %v", name, err)
		}
	}
}

// laughs uses a part twice in a part that is used twice, and so on.
func laughs(n int) string {
	s := `<defs><rect id="l0" width="1" height="1"/>`
	for i := 1; i <= n; i++ {
		s += fmt.Sprintf(`<g id="l%d"><use href="#l%d"/><use href="#l%d"/></g>`, i, i-1, i-1)
	}
	return s + fmt.Sprintf(`</defs><use href="#l%d"/>`, n)
}

// Fuzzing begins with files of every kind that is read; whatever comes, Read neither panics nor draws what has no number.
func FuzzRead(f *testing.F) {
	for _, s := range []string{`<circle cx="5" cy="5" r="4"/>`, `<path d="M0 0 C1 2 3 4 5 6 S 7 8 9 9 T 1 1 A 3 3 0 1 0 4 4 z" ` +
		`stroke="red" stroke-dasharray="1 2"/>`, `<g style="fill:url(#x)" transform="rotate(3) skewX(2) matrix(1 0 0 1 2 2)"><polygon ` +
		`points="0,0 1,1 2"/></g>`,
		`<defs><linearGradient id="x"><stop offset="0" stop-color="#fff"/></linearGradient></defs><rect width="3" height="3" rx="1" ` +
			`fill="url(#x)"/>`,
		`<symbol id="s" viewBox="0 0 2 2"><text x="1" dy=".5em">a<tspan font-weight="700">b</tspan></text></symbol><clipPath ` +
			`id="c"><circle r="3"/></clipPath><use href="#s" width="9" clip-path="url(#c)"/>`} {
		f.Add([]byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10">` + s + `</svg>`))
	}
	for _, s := range drawings(f) {
		f.Add([]byte(s))
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		d, err := svg.Read(data, nil)
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

// What is kept of a picture paints the same and does nothing else: looked for by an XML reader, not by words.
func TestWhatIsKeptPaintsAndDoesNothing(t *testing.T) {
	armed := `<?xml version="1.0"?><!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "http://evil.example/svg11.dtd">
<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 10 10" onload="alert(1)" OnClick="alert(2)">
<title>Logo</title><style>@import url("http://evil.example/a.css"); .a { fill: #ff0000; background: url(http://evil.example/b.png) }</style>
<defs><linearGradient id="g"><stop offset="0" stop-color="#00ff00"/><stop offset="1" stop-color="#0000ff"/></linearGradient></defs>
<rect class="a" width="5" height="5" style="stroke:none;cursor:url('http://evil.example/c.cur')"/><a href="javascript:alert(3)"><rect ` +
		`x="5" width="5" height="5" fill="url(#g)"/></a></svg>`
	kept, err := svg.Plain([]byte(armed))
	if err != nil {
		t.Fatal(err)
	}
	in := xml.NewDecoder(bytes.NewReader(kept))
	for {
		tok, err := in.Token()
		if err == io.EOF {
			break
		}
		if err != nil {
			t.Fatal(err)
		}
		switch tok := tok.(type) {
		case xml.Directive, xml.ProcInst, xml.Comment:
			t.Errorf("it keeps %v", tok)
		case xml.StartElement:
			for _, a := range tok.Attr {
				if strings.HasPrefix(strings.ToLower(a.Name.Local), "on") || strings.Contains(a.Value, "evil") ||
					strings.Contains(a.Value, "javascript") {
					t.Errorf("it keeps %s=%q", a.Name.Local, a.Value)
				}
			}
		case xml.CharData:
			if s := string(tok); strings.Contains(s, "import") || strings.Contains(s, "evil") {
				t.Errorf("it keeps %q", s)
			}
		}
	}
	again, err := svg.Plain(kept)
	if err != nil || !bytes.Equal(again, kept) {
		t.Errorf("writing it anew changes it: %v", err)
	}
	for _, clean := range []string{
		`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"><style>.a{fill:#ff0000}</style><g transform="translate(1 1)"><path ` +
			`class="a" d="M0 0h5v5z"/></g></svg>`,
	} {
		kept, err := svg.Plain([]byte(clean))
		if err != nil {
			t.Fatal(err)
		}
		before, err1 := svg.Read([]byte(clean), nil)
		after, err2 := svg.Read(kept, nil)
		if err1 != nil || err2 != nil || !reflect.DeepEqual(before, after) {
			t.Errorf("it is drawn otherwise: %v %v", err1, err2)
		}
	}
}
