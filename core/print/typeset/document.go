// Package typeset sets words on pages: it shapes text, breaks lines by Unicode's rules,
// lays out tables and pictures, fills pages, and remembers where everything landed.
//
// In goes a Document of plain elements with exact sizes, out come Pages of positioned
// glyphs, boxes and pictures, the tree of their meaning for tagged PDF, an outline and
// a map from blocks to places. It knows nothing of designs, answers or PDF. All lengths
// are points (1/72 inch); y grows downwards from the page's top. Set may be called by
// many goroutines at once; the same Document gives the same Pages.
package typeset

import "amberseal/core/print/typeface"

// Document is what is to be set.
type Document struct {
	Title    string
	Language string // BCP 47
	Page     Page
	Opening  *Page    // the first page, of the same size and with the same margins at its sides; nil for the same
	Running  Running  // on every page
	Closer   bool     // it may be set a little closer where that saves a last page of a few lines
	First    *Running // on the first page instead, nil for the same
	Body     []Node
	Ground   *Colour                    // behind everything on each page
	Backdrop []Backdrop                 // pictures behind the text of each page, over the ground
	Stamp    *Paragraph                 // one line set across each page, from its lower left to its upper right
	Work     int                        // how many characters are shaped at most; MostWork where it is 0
	Done     <-chan struct{}            // stops the setting when it closes; never where it is nil
	Families map[string]typeface.Family // besides those that ship with the program
}

// Running is what stands in the margins: the header at the head of a page, the footer at its foot. Both are artifacts.
type Running struct {
	Header, Footer []Paragraph
	Line           *Colour // a hairline over the footer

	// Of a file that was brought: nodes at distances from the paper's edges, instead of the paragraphs.
	Head, Foot         []Node
	FromTop, FromFloor float64
}

// Backdrop is a picture behind a page's text, an artifact: on one place, or repeated from there over the page.
type Backdrop struct {
	Image         *Image
	Drawing       *Drawing // instead of Image
	X, Y          float64
	Width, Height float64
	Repeat        bool
}

// Page is the paper and its margins.
type Page struct{ Width, Height, Top, Right, Bottom, Left float64 }

// Node is an element of the body or of a cell: *Paragraph, *Table, *Picture, *Entry, *Rule or *Space; of the body also *Break,
// *Section, *Strip, and a *Float that stands on its place of the page while all else goes on as if it were not there.
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

// Align is where lines stand. Start is the left for text that runs to the right. Justify fills all lines but a
// paragraph's last.
type Align int

// The alignments.
const (
	Start Align = iota
	Center
	End
	Justify
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
	KeepEnd  bool    // its last two lines stay on the page of what follows
	Marker   string  // list mark, set in the indent
	Depth    int     // of a list item: 0 for one of the outermost list
	Indent   float64 // from the edge at which the lines begin; from the other one where they end there, unless it is a list’s
	Hyphens  bool    // words may be parted at a line's end, by the patterns of the document's language
	Running  bool    // running text: its figures have heights of their own, and common fractions are set, where the face has them
	Tabular  bool    // figures are of one width and height, so that those of several lines stand below each other
	Point    rune    // of a number in a column: its decimal point, which stands below those of the other rows
	Shrink   float64 // down to what part of their size lines are set that are too long for the width; 0 for never
	Tab      float64 // distance of tab stops; 36 when 0
	Most     float64 // how wide its lines are at most; 0 for the whole width

	// Greedy fills one line after the other, as word processors do, and keeps to the next members; the others know nothing of them.
	Greedy bool
	Right  float64    // how far before the other edge lines end
	First  float64    // how much further in, or out, the first line begins
	Line   LineHeight // instead of Leading
	Stops  []TabStop  // in order, counted from the edge; behind the last they stand at each Tab
	Whole  bool       // its lines stay on one page
	Loose  bool       // a line may stand alone at a page's head or foot
	Frame  *Frame
	Mark   *Run    // how the marker looks; the paragraph’s first run when nil
	Begin  float64 // where the marker begins, from the edge
	Floats []*Float
	Names  []string // by which links of the document lead here
	rooms  *rooms   // of its lines, where boxes stand beside them
}

// LineHeight is how high the lines of a greedy paragraph are.
type LineHeight struct {
	Rule  LineRule
	Value float64
}

// LineRule is what a line's height is counted from (ISO/IEC 29500-1, 17.18.48).
type LineRule int

// The rules.
const (
	Natural LineRule = iota // the faces’ own height, times the value; once when it is 0
	Exactly                 // the value, in points
	AtLeast                 // the faces’ own height, or the value in points where that is more
)

// TabStop is where the words behind a tab stand.
type TabStop struct {
	At     float64
	Align  Align // Center and End bring the middle or the end of the words to the stop
	Point  rune  // instead of Align: their decimal point stands there
	Leader rune  // fills the way to the stop; 0 for nothing
}

// Frame is a ground and rules around a paragraph, outside of its words.
type Frame struct {
	Fill  *Colour
	Edges [4]Edge    // top, right, bottom, left
	Gaps  [4]float64 // between rule and words
}

// Edge is a rule of a frame or cell; none where its width is 0.
type Edge struct {
	Width  float64
	Colour Colour
	Dashed bool
	Double bool
}

// Run is text of one look.
type Run struct {
	Text      string
	Style     typeface.Style
	Colour    Colour
	Size      float64 // the paragraph's when 0
	Underline bool
	Strike    bool
	SmallCaps bool   // small letters are set as small capitals; the text stays what it is
	Link      string // an address, or # and the name of a paragraph
	Counter   Counter

	Family  string   // instead of the paragraph's
	Caps    bool     // set as capitals; the text stays what it is
	Rise    float64  // how far above the baseline
	Spacing float64  // between letters, besides their own
	Kern    bool     // of a greedy paragraph: letters move together as their face says
	Fill    *Colour  // behind the words
	Picture *Picture // stands in the line instead of words; the text is one U+FFFC
	Note    *Note    // stands at the foot of the page on which the run does; of paragraphs of the body
}

// Counter is a number that is known only when all pages are set.
type Counter int

// The counters. The first two have meaning in the footer.
const (
	NoCounter Counter = iota
	PageNumber
	PageCount
	PageOfLink // of the place in the document that the run leads to; in the body
)

// Table is rows of cells. With Header its first row is repeated on each page. A table for
// arrangement only, such as a letterhead or columns, has Layout set and no table meaning.
type Table struct {
	Block   string
	Columns []float64 // shares of the width
	Fit     Fit
	Header  *Row
	Rows    []Row
	Layout  bool
	Gap     float64 // between columns
	Pad     float64 // above and below the text of a row
	Inset   float64 // left and right of the nodes of a cell
	Line    *Colour // hairline under each row, nil for none
	Grid    *Colour // hairlines around each cell, nil for none
	Least   float64 // of rows that cells reach over: how high they are together at least; the first one takes what is left
	Narrow  float64 // its width, at the end of that of the text; all of it when 0
	Before  float64
	After   float64

	Exact     bool       // Columns are points, from Left
	Left      float64    // how far from the edge the first column begins
	Continued *Paragraph // over what goes on on a further page; it repeats what was said
	Headers   int        // 1 where the first of Rows heads the table and is repeated; instead of Header
}

// Row is the cells of a row, from the first column on.
type Row struct {
	Cells    []Cell
	Fill     *Colour
	KeepNext bool // stays on the page of the next row
	Under    Edge // a rule below the row
	Joined   bool // neither a rule nor room parts it from the next one

	Least float64 // its height at least
	Above float64 // room over the cells, for the rules there
	Whole bool    // it is not split between pages
}

// Cell holds nodes one below the other.
type Cell struct {
	Nodes []Node
	Fill  *Colour
	Span  int      // columns it covers; 1 when 0
	Down  int      // rows it covers, from its own downwards; 1 when 0
	Heads bool     // the cell is the heading of its row
	Above *Colour  // a rule over the cell, nil for none
	Edges *[4]Edge // top, right, bottom, left
	Stand Align    // where its nodes stand in a higher row: at the top, in the middle, at the foot

	Covered bool    // a cell of a row above reaches to here; it holds nothing
	Turn    float64 // 90 for paragraphs that run upwards, -90 downwards
}

// Picture is an image or a drawing fitted into a width and height, never enlarged beyond them.
type Picture struct {
	Block         string
	Image         *Image
	Drawing       *Drawing // instead of Image
	Width, Height float64  // the largest; 0 for the width of the text
	Align         Align
	Alt           string  // what it shows, for those who cannot see it
	Ornament      bool    // it says nothing that words beside it do not say
	KeepNext      bool    // stays on the page of what follows, such as its caption
	Hang          float64 // how much of it is quiet at its edges and hangs out of the text, where it begins or ends with it
	Shrink        float64 // down to what part of its size it is set where a page's foot has no more room; 0 for never
	Before, After float64
}

// Drawing is shapes in a box of its own units, y downwards, drawn in the order of its fields.
type Drawing struct {
	Width, Height float64
	Shapes        []Shape
	Strokes       [][]float64  // of a pen: x, y, x, y, …
	Boxes         [][4]float64 // filled: x, y, width, height
	Colour        Colour       // of strokes and boxes
	Labels        []Label      // on top
}

// Shape is the area inside closed polygons, by the non-zero winding rule unless EvenOdd; with a Width it is the line along
// them, which is closed only where it ends where it began.
type Shape struct {
	Outlines [][]float64 // x, y, x, y, …
	Colour   Colour
	Gradient *Gradient // of the area, instead of the colour
	EvenOdd  bool
	Width    float64   // of the line, in the drawing's units
	Join     LineEnd   // the line's corners; pointed unless Round or Flat, which is bevelled
	Cap      LineEnd   // its ends; cut off unless Round, or Flat, which goes on by half its width
	Opacity  float64   // how much it covers what lies below it; all of it when 0
	Clips    []Clip    // it is seen inside of all of them
	Dash     []float64 // lengths of dashes and gaps in turn, in the drawing's units; a whole line when empty
	Phase    float64   // how far into them the line begins
	Group    []Shape   // instead of all but the opacity: shapes that are painted together before it counts
}

// LineEnd is what a line's corners or ends look like.
type LineEnd int

// The ways; plain is that of a line that says nothing.
const (
	Round LineEnd = iota + 1
	Flat
)

// Clip is an area inside of which something is seen.
type Clip struct {
	Outlines [][]float64
	EvenOdd  bool
}

// Gradient goes from colour to colour along a line, or from circle to circle; beyond its ends the last colour goes on.
type Gradient struct {
	Radial bool
	Ends   [6]float64 // x, y and radius of its beginning, then of its end, in units of its own
	Matrix [6]float64 // from those units to the drawing's: x' = a·x + c·y + e, y' = b·x + d·y + f
	Stops  []Stop     // at least two, in order
}

// Stop is a colour of a gradient at a place from 0 to 1.
type Stop struct {
	At     float64
	Colour Colour
}

// Label is one line of words in a drawing. It is set in points whatever the drawing's scale.
type Label struct {
	X, Y  float64 // of the baseline: its left end, middle or right end as Words is aligned
	Words Paragraph
	Room  float64 // the widest it may be, in the drawing's units; words that do not fit are cut short with …
}

// Rule is a line across the text.
type Rule struct {
	Block         string
	Thickness     float64
	Width         float64 // of the text when 0
	Colour        Colour
	KeepNext      bool // stays on the page of what follows
	Before, After float64
}

// Space is room left empty. That which stays with what follows is left at a page's head too.
type Space struct {
	Block    string
	Height   float64
	To       float64 // instead of Height: what follows begins at least so far below the head of the paper
	KeepNext bool
}

// Note is what stands at the foot of the page that speaks of it.
type Note struct{ Nodes []Node }

// Break begins a new page.
type Break struct {
	Block  string
	Always bool // also where nothing stands on the present one
	Column bool // the next column is enough
}

// Section begins a new page of its own size, margins and running words, or goes on with other columns or margins on the page at hand.
type Section struct {
	Block   string
	Page    Page
	Running Running
	First   *Running // on its first page, nil for the same
	Even    *Running // on pages of even number, nil for the same

	From    *int               // the number of its first page; nil to count on
	Numeral func(n int) string // how its pages' numbers are written; nil for figures

	Columns   int          // beside each other; 1 when 0
	Gap       float64      // between them
	Widths    [][2]float64 // of columns of unequal width, each with the gap behind it
	Continues bool         // on the page at hand, where the paper is of the same size
	Balanced  bool         // its columns are filled to the same height, as far as it begins and ends on one page
}

// Strip is a tear-off strip along the foot of a page: equal stubs parted by cutting marks, each with the words set
// sideways.
type Strip struct {
	Block  string
	Stubs  int
	Height float64
	Words  Paragraph
	Line   Colour // of the cutting marks
}

func (b *Break) block() string     { return b.Block }
func (f *Float) block() string     { return f.Block }
func (s *Section) block() string   { return s.Block }
func (s *Strip) block() string     { return s.Block }
func (p *Paragraph) block() string { return p.Block }
func (t *Table) block() string     { return t.Block }
func (p *Picture) block() string   { return p.Block }
func (r *Rule) block() string      { return r.Block }
func (s *Space) block() string     { return s.Block }
