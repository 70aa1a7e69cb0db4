package typeset

// EntryKind is how an entry is filled.
type EntryKind int

// The kinds of entry.
const (
	TextEntry   EntryKind = iota
	TickEntry             // on or off
	ChoiceEntry           // one of those with the same name
	MenuEntry             // one of its options; on paper a line to write on
)

// Entry is room for an answer: a box to write in on paper, a field to fill on screen.
type Entry struct {
	Block         string
	Name          string // of the field, parted by points
	Label         string // what it asks, for those who cannot see it
	Kind          EntryKind
	Option        string      // the value that a tick or choice stands for
	Options       [][2]string // of a menu: value and words
	Several       bool        // several lines of text
	Width, Height float64     // 0 wide is the width of the text
	Line          Colour
	Before, After float64
}

func (e *Entry) block() string { return e.Block }

// Widget is an entry's place on a page.
type Widget struct {
	Element    *Element
	Entry      *Entry
	X, Y, W, H float64
}

func (f *flow) entry(e *Entry) {
	f.space(e.Before)
	if e.Height > f.left()+0.01 {
		f.newPage()
	}
	f.entryAt(e, f.out.Root, f.paper.Left, f.width())
	f.placed(e.Block, f.y, e.Height)
	f.y += e.Height
	f.space(e.After)
}

// entryAt draws the box and remembers its place.
func (f *flow) entryAt(e *Entry, parent *Element, x, width float64) {
	w := e.Width
	if w <= 0 || w > width {
		w = width
	}
	const hair = 0.6
	y, h := f.y, e.Height
	f.draw(
		&Box{X: x, Y: y, W: w, H: hair, Colour: e.Line}, &Box{X: x, Y: y + h - hair, W: w, H: hair, Colour: e.Line},
		&Box{X: x, Y: y, W: hair, H: h, Colour: e.Line}, &Box{X: x + w - hair, Y: y, W: hair, H: h, Colour: e.Line},
	)
	s := f.sheet()
	form := parent.add("Form")
	form.Entry = e
	s.Widgets = append(s.Widgets, Widget{form, e, x, y, w, h})
}
