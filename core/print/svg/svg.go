// Package svg reads SVG pictures, such as logos, into drawings.
//
// In goes a file (W3C, Scalable Vector Graphics 1.1, with what 2 adds to common files: shapes, paths, strokes, groups, parts used by
// reference, nested views, clipping, opacity, gradients, style sheets, and words in fonts that ship or are given), out comes a
// typeset.Drawing of areas and lines, printed as sharp as text. Areas keep their gradients, but for those that repeat, and lines become the
// colour theirs begins with. Files may come from anywhere: scripts, links to other files, patterns, filters and masks are refused, and no
// input makes it panic or run for long.
package svg

import (
	"bytes"
	"errors"
	"fmt"
	"math"

	"amberseal/core/print/typeface"
	"amberseal/core/print/typeset"
)

// Largest is how large a file may be, in bytes.
const Largest = 1 << 20

// Limits of what is drawn: points of polygons, elements, also of parts that are used again, and elements inside each other.
const mostPoints, mostElements, deepest = 200_000, 20_000, 64

// Is reports whether a file looks like an SVG picture.
func Is(data []byte) bool {
	head := data[:min(len(data), 2048)]
	return bytes.Contains(head, []byte("<svg"))
}

// side is how many units the larger side of a drawing has: rounding and chords cannot be seen.
const side = 2000

// Read makes a drawing of a file. own are families besides those that ship, for its words. The error says in plain words why it cannot be
// printed.
func Read(data []byte, own map[string]typeface.Family) (d *typeset.Drawing, err error) {
	if len(data) > Largest {
		return nil, errors.New("the SVG picture has more than 1 MB")
	}
	tree, err := read(data)
	if err != nil {
		return nil, fmt.Errorf("the SVG picture cannot be printed: %w", err)
	}
	defer func() {
		if r := recover(); r != nil { // the bounds of what is drawn are kept at one place
			why, ok := r.(refusal)
			if !ok {
				why = "it is damaged"
			}
			d, err = nil, fmt.Errorf("the SVG picture cannot be printed: %s", string(why))
		}
	}()
	x, y, w, h := tree.view()
	if !(w > 0 && h > 0) || w > 1e6 || h > 1e6 || w/h > 1e3 || h/w > 1e3 {
		return nil, errors.New("the SVG picture has no usual size; give it a viewBox")
	}
	scale := side / math.Max(w, h)
	p := &painter{byID: tree.named(map[string]*node{}), own: own, width: w, height: h}
	p.sheets(tree)
	p.kids(tree, state{
		matrix: matrix{a: scale, d: scale, e: -x * scale, f: -y * scale}, values: tree.values(usualValues), opacity: 1,
	})
	if len(p.shapes) == 0 {
		return nil, errors.New("the SVG picture is empty")
	}
	framed(p.shapes, w*scale, h*scale)
	return &typeset.Drawing{Width: w * scale, Height: h * scale, Shapes: p.shapes}, nil
}

// refusal is the panic of a picture that cannot be printed, with the reason in plain words; Read makes an error of it.
type refusal string

// view is the part of the plane that a picture shows: its viewBox, else its size.
func (n *node) view() (x, y, w, h float64) {
	if v := numbers(n.attr["viewBox"]); len(v) == 4 {
		return v[0], v[1], v[2], v[3]
	}
	return 0, 0, length(n.attr["width"], 0, usualSize), length(n.attr["height"], 0, usualSize)
}

// usualSize is that of letters where nothing says another (CSS, medium).
const usualSize = 16

// matrix maps one plane to another: x' = a·x + c·y + e, y' = b·x + d·y + f.
type matrix struct{ a, b, c, d, e, f float64 }

var identity = matrix{a: 1, d: 1}

func (m matrix) point(x, y float64) (float64, float64) {
	return m.a*x + m.c*y + m.e, m.b*x + m.d*y + m.f
}

// stretch is how much wider lines become.
func (m matrix) stretch() float64 { return math.Sqrt(math.Abs(m.a*m.d - m.b*m.c)) }

// after is the map that does first, then m.
func (m matrix) after(first matrix) matrix {
	return matrix{
		m.a*first.a + m.c*first.b, m.b*first.a + m.d*first.b, m.a*first.c + m.c*first.d, m.b*first.c + m.d*first.d,
		m.a*first.e + m.c*first.f + m.e, m.b*first.e + m.d*first.f + m.f,
	}
}
