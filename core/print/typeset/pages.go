package typeset

import (
	"slices"
	"strings"

	"amberseal/core/print/typeface"
)

// Pages is a set document.
type Pages struct {
	Title, Language string
	Pages           []Sheet
	Root            *Element // the structure; its role is Document
	Outline         []Heading
	Placements      []Placement
	Overflows       []Overflow
	Names           map[string]Spotted // where links of the document lead
}

// Spotted is a height of a page, counted from 0.
type Spotted struct {
	Page int
	Y    float64
}

// Overflow is what did not fit its room, or has no letters; it was set as well as it could be.
type Overflow struct {
	Block string
	What  Overflowing
	Words string // the ones that do not fit, or the letters with spaces between them
}

// Overflowing is how something does not fit.
type Overflowing int

// The ways.
const (
	WideWord    Overflowing = iota // a word is wider than its room and was broken between letters
	WidePicture                    // a picture asks for more than the width of the text
	SmallStub                      // the words of a stub do not fit it
	NoLetter                       // no face has the letters; boxes stand for them
	SmallPlace                     // words do not fit their box on a page that is there already
	TallRunning                    // a header and footer leave no room between them
)

// Sheet is what stands on one page, in drawing order.
type Sheet struct {
	Width, Height float64
	Items         []Item
	Links         []Link
	Widgets       []Widget
	strip         float64 // height of the tear-off strip at the paper's edge
}

// Item is something drawn: *Glyphs, *Box, *ImageAt or *DrawingAt. Its element says what it means; an
// item without one is decoration or repeats what was said (an artifact).
type Item interface{ element() *Element }

// Glyphs is a line's run of glyphs in one face and look, from left to right.
type Glyphs struct {
	Element   *Element
	X, Y      float64 // of the baseline's left end
	Width     float64
	Face      *typeface.Face
	Size      float64
	Colour    Colour
	Glyphs    []Glyph
	Text      []rune  // what Glyph.Start and Count speak of
	Backwards bool    // text runs from right to left
	Turn      float64 // degrees against the clock about the baseline's left end
}

// Glyph is one glyph and the characters it stands for. Of a cluster of several glyphs
// only the first in drawing order has a Count.
type Glyph struct {
	ID           uint16
	Advance      float32 // points
	DX, DY       float32 // offset, points, y upwards
	Start, Count int32
}

// Box is a filled rectangle.
type Box struct {
	Element    *Element
	X, Y, W, H float64 // top left corner and size
	Colour     Colour
}

// ImageAt is a picture on its place.
type ImageAt struct {
	Element    *Element
	X, Y, W, H float64
	Image      *Image
}

// DrawingAt is a drawing on its place, scaled from its own units to points.
type DrawingAt struct {
	Element *Element
	X, Y    float64
	Scale   float64
	Drawing *Drawing
}

func (g *Glyphs) element() *Element    { return g.Element }
func (b *Box) element() *Element       { return b.Element }
func (i *ImageAt) element() *Element   { return i.Element }
func (d *DrawingAt) element() *Element { return d.Element }

// ElementOf is what an item means, or nil for an artifact.
func ElementOf(i Item) *Element {
	if e := i.element(); e != nil && !e.artifact {
		return e
	}
	return nil
}

// PaginationOf is what an artifact is that belongs to the page: Header, Footer or Watermark; empty for all else
// (ISO 32000-1 section 14.8.2.2.2).
func PaginationOf(i Item) string {
	if e := i.element(); e != nil && e.artifact {
		return e.Role
	}
	return ""
}

// The artifacts of pages.
var (
	headerArtifact    = &Element{Role: "Header", artifact: true}
	footerArtifact    = &Element{Role: "Footer", artifact: true}
	watermarkArtifact = &Element{Role: "Watermark", artifact: true}
)

// Link is a place on a page that leads to an address.
type Link struct {
	Element    *Element
	X, Y, W, H float64
	Address    string // or # and a name
	Words      string // what stands there
}

// Element is a node of the document's structure. It has kids or items; the body of a list item has items and then kids.
type Element struct {
	Role  string // a standard structure type of ISO 32000-1 section 14.8.4
	Kids  []*Element
	Alt   string
	Scope string // of a TH: Row or Column
	Span  int    // of a TH or TD: how many columns it covers, if more than one
	Down  int    // of a TH or TD: how many rows it covers, if more than one
	BBox  *[4]float64
	Page  int // of a Figure: its page, counted from 0

	Lang     string // BCP 47, where it is not the document's
	Numbered bool   // of an L: its marks are numbers
	Entry    *Entry // of a Form: what is written or filled in there
	artifact bool
}

// add makes a kid. What is inside an artifact, or inside nothing, is one too.
func (e *Element) add(role string) *Element {
	if e == nil {
		return &Element{artifact: true}
	}
	if e.artifact {
		return &Element{Role: e.Role, artifact: true}
	}
	kid := &Element{Role: role}
	e.Kids = append(e.Kids, kid)
	return kid
}

// unsaid is the role of elements that are not part of the structure: what they hold takes their place.
const unsaid = ""

// settle puts what unsaid elements hold in their place.
func (e *Element) settle() {
	if !slices.ContainsFunc(e.Kids, func(k *Element) bool { return k.Role == unsaid }) {
		for _, k := range e.Kids {
			k.settle()
		}
		return
	}
	var kids []*Element
	for _, k := range e.Kids {
		k.settle()
		if k.Role == unsaid {
			kids = append(kids, k.Kids...)
		} else {
			kids = append(kids, k)
		}
	}
	e.Kids = kids
}

// Heading is an entry of the outline.
type Heading struct {
	Level int
	Text  string
	Page  int // counted from 0
	Y     float64
}

// Placement is where (part of) a block landed.
type Placement struct {
	Block string  `json:"block"`
	Page  int     `json:"page"` // counted from 1
	X     float64 `json:"x"`
	Y     float64 `json:"y"`
	W     float64 `json:"w"`
	H     float64 `json:"h"`
}

func plainText(runs []Run) string {
	var b strings.Builder
	for _, r := range runs {
		b.WriteString(r.Text)
	}
	return strings.Join(strings.Fields(b.String()), " ")
}
