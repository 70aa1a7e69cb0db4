// Package typeset sets words on pages: it shapes text, breaks lines by Unicode's rules,
// lays out tables and pictures, fills pages, and remembers where everything landed.
//
// In goes a Document of plain elements with exact sizes, out come Pages of positioned
// glyphs, boxes and pictures, the tree of their meaning for tagged PDF, an outline and
// a map from blocks to places. It knows nothing of designs, answers or PDF. All lengths
// are points (1/72 inch); y grows downwards from the page's top. Set may be called by
// many goroutines at once; the same Document gives the same Pages.
package typeset

import "amberseal/core/typeface"

// Document is what is to be set.
type Document struct {
	Title    string
	Language string // BCP 47
	Page     Page
	Footer   []Paragraph // at the foot of each page, inside the bottom margin
	Body     []Node
	Ground   *Colour    // behind everything on each page
	Stamp    *Paragraph // one line set across each page, from its lower left to its upper right
}

// Page is the paper and its margins.
type Page struct{ Width, Height, Top, Right, Bottom, Left float64 }

// Node is an element of the body: *Paragraph, *Table, *Picture, *Entry, *Rule, *Space or *Break.
type Node interface{ block() string }

// Role is what a paragraph is in the document's structure.
type Role string

// The roles, named by ISO 32000-1 section 14.8.4.
const (
	Plain    Role = "P"
	Heading1 Role = "H1"
	Heading2 Role = "H2"
	Heading3 Role = "H3"
	ListItem Role = "LI"
)

// Align is where lines stand. Start is the left for text that runs to the right.
type Align int

// The alignments.
const (
	Start Align = iota
	Center
	End
)

// Colour is sRGB.
type Colour struct{ R, G, B uint8 }

// Paragraph is runs of text broken into lines. A newline in a run forces a break.
type Paragraph struct {
	Block    string
	Role     Role
	Runs     []Run
	Family   string
	Size     float64 // rounded to 1/16 point
	Leading  float64 // line height as a multiple of Size
	Align    Align
	Before   float64
	After    float64
	KeepNext bool
	Marker   string  // list mark, set in the indent
	Indent   float64 // from the edge at which the lines begin; from the other one where they end there
}

// Run is text of one look.
type Run struct {
	Text      string
	Style     typeface.Style
	Colour    Colour
	Underline bool
	Link      string
	Counter   Counter
}

// Counter is a number that is known only when all pages are set.
type Counter int

// The counters. They have meaning in the footer.
const (
	NoCounter Counter = iota
	PageNumber
	PageCount
)

// Table is rows of cells. With Header its first row is repeated on each page. A table for
// arrangement only, such as a letterhead, has Layout set and no table meaning.
type Table struct {
	Block   string
	Columns []float64 // shares of the width
	Header  *Row
	Rows    []Row
	Layout  bool
	Gap     float64 // between columns
	Pad     float64 // above and below the text of a row
	Line    *Colour // hairline under each row, nil for none
	Before  float64
	After   float64
}

// Row is the cells of a row, one for each column.
type Row struct {
	Cells []Cell
	Fill  *Colour
}

// Cell is paragraphs, a picture or an entry.
type Cell struct {
	Paragraphs []Paragraph
	Picture    *Picture
	Entry      *Entry
	Heads      bool // the cell is the heading of its row
}

// Picture is an image or a drawing fitted into a width and height, never enlarged beyond them.
type Picture struct {
	Block         string
	Image         *Image
	Drawing       *Drawing // instead of Image
	Width, Height float64  // the largest; 0 for the width of the text
	Align         Align
	Alt           string // what it shows, for those who cannot see it
	Before, After float64
}

// Drawing is strokes of a pen and filled rectangles, in a box of its own units.
type Drawing struct {
	Width, Height float64
	Strokes       [][]float64  // x, y, x, y, … y downwards
	Boxes         [][4]float64 // filled: x, y, width, height
	Colour        Colour
}

// Rule is a line across the text.
type Rule struct {
	Block         string
	Thickness     float64
	Colour        Colour
	Before, After float64
}

// Space is room left empty.
type Space struct {
	Block  string
	Height float64
}

// Break begins a new page.
type Break struct{ Block string }

func (b *Break) block() string     { return b.Block }
func (p *Paragraph) block() string { return p.Block }
func (t *Table) block() string     { return t.Block }
func (p *Picture) block() string   { return p.Block }
func (r *Rule) block() string      { return r.Block }
func (s *Space) block() string     { return s.Block }
