package typeset

import (
	"math"
	"strings"

	"github.com/go-text/typesetting/language"
	"github.com/go-text/typesetting/segmenter"

	"amberseal/core/print/typeset/hyphen"
)

// Place is a box on a page that is there already, and what is set in it: words that are made smaller until they fit, pictures, shapes.
type Place struct {
	Block      string
	Page       int // counted from 0
	X, Y, W, H float64
	Turn       int // degrees against the clock: 0, 90, 180 or 270
	Fill       *Colour
	Edge       Edge // around the box

	Words    []*Paragraph // one below the other; of a size of 0 they are as large as the box lets them be
	Line     bool         // the words stay on one line
	Cells    int          // each letter stands in a box of its own, so many beside each other; 0 for none
	Stand    Align        // where the words stand in the height: at the top, in the middle, at the foot
	Picture  *Picture     // fitted into the box, in its middle; instead of words
	Element  *Element     // what stands there; nil for an element of its own
	Artifact bool         // it means nothing
}

// The sizes that words in places are given: none is set smaller than the least; those that are free to be as large as they can be stay
// below the largest, which is that of a form’s usual type.
const (
	leastPlaced   = 4.0
	largestPlaced = 12.0
	placedLeading = 1.2
	capital       = 0.72 // how high capitals are, of the type’s size; those of most text faces are
	placedGap     = 2.0  // between a box’s edge and its words
)

// SetPlaces sets what stands at places on pages of the given sizes; of doc only its title, language and families count.
func SetPlaces(doc *Document, pages []Page, places []Place) (*Pages, error) {
	s := setters.Get().(*setter)
	s.lang = language.NewLanguage(doc.Language)
	s.hyphens, s.japanese = hyphen.For(doc.Language), strings.HasPrefix(doc.Language, "ja")
	s.cut, s.lacking, s.own, s.closer = "", nil, doc.Families, 1
	f := &flow{
		setter: s, doc: doc, cache: map[*Paragraph][]line{}, rows: map[*Row]rowLines{}, fits: map[*Table]fittedTo{},
		out: &Pages{Title: doc.Title, Language: doc.Language, Root: &Element{Role: "Document"}},
	}
	for i, page := range pages {
		f.paper = page
		f.out.Pages = append(f.out.Pages, Sheet{Width: page.Width, Height: page.Height})
		f.bottom = page.Height
		f.stamp()
		for j := range places {
			if places[j].Page == i {
				f.place(&places[j])
			}
		}
	}
	setters.Put(s) // only one that came through: a damaged font may have left it in any state
	return f.out, nil
}

func (f *flow) place(p *Place) {
	s := f.sheet()
	from := len(s.Items)
	x, y, w, h := p.X, p.Y, p.W, p.H
	turned := p.Turn%180 != 0
	if turned {
		w, h = h, w
	}
	if p.Turn != 0 {
		x, y = 0, 0
	}
	if p.Fill != nil {
		f.draw(&Box{Element: p.Element, X: x, Y: y, W: w, H: h, Colour: *p.Fill})
	}
	if p.Edge.Width > 0 {
		half := p.Edge.Width / 2
		first := len(s.Items)
		f.ruled(x+half, y+half, x+w-half, y+h-half, [4]Edge{p.Edge, p.Edge, p.Edge, p.Edge})
		for _, item := range s.Items[first:] {
			item.(*Box).Element = p.Element
		}
	}
	gap := placedGap
	if p.Edge.Width > 0 {
		gap += p.Edge.Width
	}
	gap = min(gap, w/8, h/8)
	switch {
	case p.Picture != nil:
		f.pictured(p, x, y, w, h)
	case p.Cells > 0:
		f.combed(p, x, y, w, h)
	case len(p.Words) > 0:
		f.worded(p, x+gap, y, w-2*gap, h)
	}
	f.overflows(p.Block)
	if p.Turn != 0 {
		turn(s.Items[from:], p, w, h)
	}
	f.out.Placements = append(f.out.Placements, Placement{p.Block, p.Page + 1, p.X, p.Y, p.W, p.H})
}

// turn brings items of an upright box to a turned one.
func turn(items []Item, p *Place, w, h float64) {
	point := func(x, y float64) (float64, float64) {
		switch p.Turn {
		case 90:
			return p.X + y, p.Y + w - x
		case 270:
			return p.X + h - y, p.Y + x
		}
		return p.X + w - x, p.Y + h - y
	}
	for _, item := range items {
		switch g := item.(type) {
		case *Glyphs:
			g.X, g.Y = point(g.X, g.Y)
			g.Turn += float64(p.Turn)
		case *Box:
			x0, y0 := point(g.X, g.Y)
			x1, y1 := point(g.X+g.W, g.Y+g.H)
			g.X, g.Y, g.W, g.H = min(x0, x1), min(y0, y1), math.Abs(x1-x0), math.Abs(y1-y0)
		case *ImageAt:
			x0, y0 := point(g.X, g.Y)
			x1, y1 := point(g.X+g.W, g.Y+g.H)
			cx, cy := (x0+x1)/2, (y0+y1)/2
			g.X, g.Y = cx-g.W/2, cy-g.H/2
		case *DrawingAt:
			wide, high := g.Drawing.Width*g.Scale, g.Drawing.Height*g.Scale
			x0, y0 := point(g.X, g.Y)
			x1, y1 := point(g.X+wide, g.Y+high)
			g.X, g.Y = (x0+x1-wide)/2, (y0+y1-high)/2
		}
	}
}

// pictured fits a picture into the box.
func (f *flow) pictured(p *Place, x, y, w, h float64) {
	pic := *p.Picture
	pic.Width, pic.Height = w, h
	wide, high := f.fit(&pic, w)
	if pic.Drawing != nil && wide < w && high < h { // a drawing has no size of its own
		grown := min(w/wide, h/high)
		wide, high = wide*grown, high*grown
	}
	x, f.y = x+shifted(pic.Align, w-wide), y+(h-high)/2
	switch {
	case p.Artifact, p.Element != nil:
		if pic.Drawing != nil {
			f.drawing(pic.Drawing, p.Element, x, wide/pic.Drawing.Width)
			return
		}
		f.draw(&ImageAt{p.Element, x, f.y, wide, high, pic.Image})
	default:
		f.pictureAt(&pic, f.out.Root, x, wide, high)
	}
}

// worded sets words in a box, as large as they are meant to be or as they fit.
func (f *flow) worded(p *Place, x, y, w, h float64) {
	paragraphs := make([]*Paragraph, len(p.Words))
	size := 0.0
	for _, words := range p.Words {
		size = max(size, words.Size)
	}
	if size == 0 {
		size = largestPlaced
		if p.Line {
			size = min(size, h*0.72)
		}
	}
	at := func(size float64) []*Paragraph {
		for i, words := range p.Words {
			own := *words
			own.Size, own.Leading = size, placedLeading
			paragraphs[i] = &own
		}
		return paragraphs
	}
	size = f.fitted(p, at, size, w, h)
	lines, high := f.placedLines(p, at(size), w)
	if p.Line && widest(lines) > w+0.5 || high > h+size*placedLeading*0.4 {
		f.over(p.Block, SmallPlace, begins(p.Words))
	}
	f.cut = ""
	f.y = y + shifted(p.Stand, h-high)
	if p.Line && p.Stand == Center && len(lines) == 1 && len(lines[0]) == 1 { // capitals stand in the middle
		f.y += capital/2*size + high/2 - lines[0][0].ascent
	}
	if p.Stand == Start {
		f.y += min(placedGap, h/8)
	}
	for i, all := range lines {
		own := paragraphs[i]
		leaf := f.placeLeaf(p, own)
		for _, l := range all {
			at := x
			if p.Line { // it was measured without an edge to stand at
				at += shifted(sideOf(own, l), w-l.width)
			}
			f.line(l, own, at, leaf)
			f.y += l.height
		}
	}
}

// fitted is the largest size, down to the least, at which words fit a box.
func (f *flow) fitted(p *Place, at func(float64) []*Paragraph, size, w, h float64) float64 {
	fits := func(size float64) bool {
		f.cut = ""
		lines, high := f.placedLines(p, at(size), w)
		if p.Line {
			return widest(lines) <= w+0.1 && high <= max(h*1.25, size*placedLeading)
		}
		return high <= h+0.1 && f.cut == ""
	}
	const step = 0.25
	for size > leastPlaced && !fits(size) {
		if p.Line { // the width of a line is in proportion to its size
			if lines, _ := f.placedLines(p, at(size), w); widest(lines) > w {
				size = max(leastPlaced, min(size-step, math.Floor(size*w/widest(lines)/step)*step))
				continue
			}
		}
		size = max(leastPlaced, size-2*step)
	}
	return size
}

func (f *flow) placedLines(p *Place, words []*Paragraph, w float64) (all [][]line, high float64) {
	if p.Line {
		w = endless
	}
	for _, own := range words {
		measured := own
		if p.Line {
			free := *own
			free.Align = Start
			measured = &free
		}
		lines := f.lines(measured, w)
		if p.Line {
			for i := range lines {
				lines[i] = lines[i].flush()
			}
		}
		all = append(all, lines)
		high += height(lines)
	}
	return all, high
}

func widest(all [][]line) float64 {
	w := 0.0
	for _, lines := range all {
		for _, l := range lines {
			w = max(w, l.width)
		}
	}
	return w
}

// sideOf is where a line of words stands: the left, for those that run to the right.
func sideOf(p *Paragraph, l line) Align {
	if len(l.pieces) > 0 && l.pieces[0].glyphs.Backwards && p.Align == Start {
		return End
	}
	return p.Align
}

// placeLeaf is the element of words at a place.
func (f *flow) placeLeaf(p *Place, own *Paragraph) leaves {
	switch {
	case p.Artifact:
		return nil
	case p.Element != nil:
		return func(*piece) *Element { return p.Element }
	}
	return f.leafOf(f.out.Root.add(string(Plain)), own)
}

// combed sets each letter in the middle of its cell.
func (f *flow) combed(p *Place, x, y, w, h float64) {
	if len(p.Words) == 0 {
		return
	}
	var letters []string
	var cut segmenter.Segmenter
	cut.Init([]rune(plainText(p.Words[0].Runs)))
	for g := cut.GraphemeIterator(); g.Next(); {
		letters = append(letters, string(g.Grapheme().Text))
	}
	if len(letters) > p.Cells {
		f.over(p.Block, SmallPlace, begins(p.Words))
		letters = letters[:p.Cells]
	}
	cell := w / float64(p.Cells)
	own := *p.Words[0]
	if own.Size == 0 {
		own.Size = min(largestPlaced, h*0.72)
	}
	own.Size, own.Leading, own.Align = max(leastPlaced, min(own.Size, cell*1.3)), 1, Start
	leaf := f.placeLeaf(p, &own)
	first := 0
	switch own := p.Words[0]; own.Align {
	case End:
		first = p.Cells - len(letters)
	case Center:
		first = (p.Cells - len(letters)) / 2
	}
	for i, letter := range letters {
		one := own
		one.Runs = []Run{own.Runs[0]}
		one.Runs[0].Text = letter
		lines := f.lines(&one, endless)
		if len(lines) == 0 || strings.TrimSpace(letter) == "" {
			continue
		}
		l := lines[0].flush()
		f.y = y + h/2 + capital/2*own.Size - l.ascent
		f.line(l, &one, x+float64(first+i)*cell+(cell-l.width)/2, leaf)
	}
}

func begins(words []*Paragraph) string {
	var b strings.Builder
	for _, p := range words {
		b.WriteString(plainText(p.Runs) + " ")
	}
	return strings.TrimSpace(b.String())
}
