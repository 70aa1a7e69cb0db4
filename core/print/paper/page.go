package paper

import (
	"slices"
	"strings"

	"amberseal/core/print/typeset"
	"amberseal/core/words/finding"
)

// Page is the paper and its margins.
type Page struct {
	Paper     string   `json:"paper,omitempty"`  // one of Papers; the house's when empty
	Width     float64  `json:"width,omitempty"`  // millimetres, of a size of one's own; Paper is empty then
	Height    float64  `json:"height,omitempty"` // millimetres
	Landscape bool     `json:"landscape,omitempty"`
	Margins   *Margins `json:"margins,omitempty"`   // those of the look when absent
	Type      *Type    `json:"type,omitempty"`      // that of the look when absent
	Ground    string   `json:"ground,omitempty"`    // colour #RRGGBB behind everything
	Backdrop  *Backing `json:"backdrop,omitempty"`  // picture behind the text
	Watermark string   `json:"watermark,omitempty"` // words across the page
	Mark      *Backing `json:"mark,omitempty"`      // picture as a watermark: pale, behind the text
	Printed   *Printed `json:"printed,omitempty"`   // letter paper behind all of it
}

// Printed is the house's letter paper, and the room that it leaves on the first page. Its files are PDFs among those of documents.
type Printed struct {
	First  string  `json:"first,omitempty"`  // behind the first page; its second page lies behind the rest where they have no other
	Rest   string  `json:"rest,omitempty"`   // behind all other pages
	Top    float64 `json:"top,omitempty"`    // millimetres from the head of the first page; as on the rest when 0
	Bottom float64 `json:"bottom,omitempty"` // from its foot
}

// files reports whether there is a file.
func (p *Printed) files() bool { return p != nil && (p.First != "" || p.Rest != "") }

// opening is the first page where letter paper, or a look made for it, leaves it other room.
func (p Page) opening(page typeset.Page, s style) *typeset.Page {
	first := page
	if s.firstTop > 0 && p.Margins == nil && min(page.Width, page.Height) >= usualSide*millimetre {
		first.Top = s.firstTop * millimetre
	}
	if x := p.Printed; x != nil {
		if x.Top > 0 {
			first.Top = x.Top * millimetre
		}
		if x.Bottom > 0 {
			first.Bottom = x.Bottom * millimetre
		}
	}
	if first == page {
		return nil
	}
	return &first
}

// Type is how the text of a page is set. What is absent is the look's.
type Type struct {
	Family  string  `json:"family,omitempty"`
	Size    float64 `json:"size,omitempty"`    // of plain text, points; all other sizes keep their proportion to it
	Colour  string  `json:"colour,omitempty"`  // #RRGGBB of plain text
	Leading float64 `json:"leading,omitempty"` // line height as a multiple of the size
	Hyphens bool    `json:"hyphens,omitempty"` // words are parted at line ends; in justified text they always are
}

// Backing is a picture behind the text.
type Backing struct {
	Picture string  `json:"picture"`
	Width   float64 `json:"width,omitempty"`  // millimetres; that of the page when 0
	Repeat  bool    `json:"repeat,omitempty"` // as tiles over the whole page
	Place   string  `json:"place,omitempty"`  // one of Places; the middle when empty
}

// Places are where a picture stands on a page.
func Places() []string {
	return []string{"middle", "top", "bottom", "left", "right", "top_left", "top_right", "bottom_left", "bottom_right"}
}

// corner gives the place as shares of the free room, from the left and from the top.
func corner(place string) (x, y float64) {
	x, y = 0.5, 0.5
	if strings.Contains(place, "left") {
		x = 0
	}
	if strings.Contains(place, "right") {
		x = 1
	}
	if strings.HasPrefix(place, "top") {
		y = 0
	}
	if strings.HasPrefix(place, "bottom") {
		y = 1
	}
	return x, y
}

// Margins are millimetres.
type Margins struct {
	Top    float64 `json:"top"`
	Right  float64 `json:"right"`
	Bottom float64 `json:"bottom"`
	Left   float64 `json:"left"`
}

// millimetre in points.
const millimetre = 72 / 25.4

// papers are sizes in millimetres: A and B by ISO 216, envelopes by ISO 269, North American ones by
// ANSI/ASME Y14.1 (8.5 × 11 in, 8.5 × 14 in, 11 × 17 in). Labels are of sizes that rolls and sheets have; common practice.
var papers = map[string][2]float64{
	"A3": {297, 420}, "A4": {210, 297}, "A5": {148, 210}, "A6": {105, 148}, "A7": {74, 105}, "A8": {52, 74},
	"B4": {250, 353}, "B5": {176, 250}, "B6": {125, 176}, "B7": {88, 125},
	"Label 100 × 62": {100, 62}, "Label 99 × 67": {99.1, 67.7}, "Label 89 × 41": {89, 41},
	"C5": {162, 229}, "C6": {114, 162}, "DL": {110, 220},
	"Letter": {215.9, 279.4}, "Legal": {215.9, 355.6}, "Tabloid": {279.4, 431.8},
}

// Papers lists the sizes by name, in the order in which they are offered.
func Papers() []string {
	return []string{
		"A4",
		"Letter",
		"A3",
		"A5",
		"A6",
		"A7",
		"A8",
		"B4",
		"B5",
		"B6",
		"B7",
		"Legal",
		"Tabloid",
		"C5",
		"C6",
		"DL",
		"Label 100 × 62",
		"Label 99 × 67",
		"Label 89 × 41",
	}
}

// The smallest and largest side of a page, in millimetres.
const (
	minSide = 30
	maxPage = 1200
)

// usualSide is the shorter side in millimetres from which on a page has the look's margins.
const usualSide = 148

// size gives the page in points.
func (p Page) size(usual string, m Margins) typeset.Page {
	size, ok := papers[p.Paper]
	switch {
	case p.Width >= minSide && p.Height >= minSide:
		size = [2]float64{min(p.Width, maxPage), min(p.Height, maxPage)}
	case !ok:
		if size, ok = papers[usual]; !ok {
			size = papers["A4"]
		}
	}
	if p.Landscape {
		size[0], size[1] = size[1], size[0]
	}
	if p.Margins != nil {
		m = *p.Margins
	} else if k := min(size[0], size[1]) / usualSide; k < 1 { // small pages have small margins
		m = Margins{m.Top * k, m.Right * k, m.Bottom * k, m.Left * k}
	}
	return typeset.Page{
		Width: size[0] * millimetre, Height: size[1] * millimetre,
		Top: m.Top * millimetre, Right: m.Right * millimetre, Bottom: m.Bottom * millimetre, Left: m.Left * millimetre,
	}
}

func (p Page) check(place string, exists func(string) bool) finding.List {
	var l finding.List
	if p.Paper != "" && !slices.Contains(Papers(), p.Paper) {
		l.Fault(place, "paper.size-unknown")
	}
	if own := p.Width != 0 || p.Height != 0; own && (min(p.Width, p.Height) < minSide || max(p.Width, p.Height) > maxPage) {
		l.Fault(place, "paper.page-sides")
	}
	size := p.size("A4", Margins{})
	if m := p.Margins; m != nil {
		across, down := size.Width/millimetre-m.Left-m.Right, size.Height/millimetre-m.Top-m.Bottom
		if min(m.Top, m.Right, m.Bottom, m.Left) < 0 || min(across, down) < 15 {
			l.Fault(place, "paper.margins-too-wide")
		}
	}
	if p.Ground != "" && !hex.MatchString(p.Ground) {
		l.Fault(place, "paper.ground-unusable")
	}
	for _, b := range []*Backing{p.Backdrop, p.Mark} {
		switch {
		case b == nil:
		case !exists(b.Picture):
			l.Fault(place, "paper.backing-is-gone", "picture", b.Picture)
		case b.Place != "" && !slices.Contains(Places(), b.Place):
			l.Fault(place, "paper.backing-place-unknown", "place", b.Place)
		case b.Width < 0 || b.Width > MaxSide || b.Repeat && b.Width < smallestTile:
			l.Fault(place, "paper.backing-size")
		}
	}
	if x := p.Printed; x != nil {
		for _, file := range []string{x.First, x.Rest} {
			switch {
			case file == "":
			case !strings.HasSuffix(strings.ToLower(file), ".pdf"):
				l.Fault(place, "paper.printed-no-pdf", "file", file)
			case !exists(BroughtFile(file)):
				l.Fault(place, "paper.printed-is-gone", "file", file)
			}
		}
		if x.Top < 0 || x.Bottom < 0 || size.Height/millimetre-x.Top-x.Bottom < 15 {
			l.Fault(place, "paper.printed-room")
		}
	}
	if t := p.Type; t != nil {
		if t.Size != 0 && (t.Size < 5 || t.Size > 40) || t.Leading != 0 && (t.Leading < 0.8 || t.Leading > 3) {
			l.Fault(place, "paper.text-size")
		}
		if t.Colour != "" && !hex.MatchString(t.Colour) {
			l.Fault(place, "paper.text-colour-unusable")
		}
	}
	return l
}

// smallestTile is the least width of a repeated picture in millimetres.
const smallestTile = 5
