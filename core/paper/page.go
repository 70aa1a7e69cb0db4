package paper

import (
	"slices"

	"amberseal/core/finding"
	"amberseal/core/typeset"
)

// Page is the paper and its margins.
type Page struct {
	Paper     string   `json:"paper,omitempty"`  // one of Papers; the house's when empty
	Width     float64  `json:"width,omitempty"`  // millimetres, of a size of one's own; Paper is empty then
	Height    float64  `json:"height,omitempty"` // millimetres
	Landscape bool     `json:"landscape,omitempty"`
	Margins   *Margins `json:"margins,omitempty"`   // those of the look when absent
	Ground    string   `json:"ground,omitempty"`    // colour #RRGGBB behind everything
	Watermark string   `json:"watermark,omitempty"` // words across the page
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
// ANSI/ASME Y14.1 (8.5 × 11 in, 8.5 × 14 in, 11 × 17 in).
var papers = map[string][2]float64{
	"A3": {297, 420}, "A4": {210, 297}, "A5": {148, 210}, "A6": {105, 148},
	"B4": {250, 353}, "B5": {176, 250}, "B6": {125, 176},
	"C5": {162, 229}, "C6": {114, 162}, "DL": {110, 220},
	"Letter": {215.9, 279.4}, "Legal": {215.9, 355.6}, "Tabloid": {279.4, 431.8},
}

// Papers lists the sizes by name, in the order in which they are offered.
func Papers() []string {
	return []string{"A4", "Letter", "A3", "A5", "A6", "B4", "B5", "B6", "Legal", "Tabloid", "C5", "C6", "DL"}
}

// The smallest and largest side of a page, in millimetres.
const (
	minSide = 40
	maxPage = 1200
)

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
	}
	return typeset.Page{
		Width: size[0] * millimetre, Height: size[1] * millimetre,
		Top: m.Top * millimetre, Right: m.Right * millimetre, Bottom: m.Bottom * millimetre, Left: m.Left * millimetre,
	}
}

func (p Page) check(place string) finding.List {
	var l finding.List
	if p.Paper != "" && !slices.Contains(Papers(), p.Paper) {
		l.Fault(place, "This paper size is not known.", "Choose one of the list, or write a width and a height.")
	}
	if own := p.Width != 0 || p.Height != 0; own && (min(p.Width, p.Height) < minSide || max(p.Width, p.Height) > maxPage) {
		l.Fault(place, "A page has sides from 40 to 1,200 millimetres.", "Write a width and a height.")
	}
	size := p.size("A4", Margins{})
	if m := p.Margins; m != nil {
		across, down := size.Width/millimetre-m.Left-m.Right, size.Height/millimetre-m.Top-m.Bottom
		if min(m.Top, m.Right, m.Bottom, m.Left) < 0 || min(across, down) < 20 {
			l.Fault(place, "The margins leave no room for text.", "Make them smaller.")
		}
	}
	if p.Ground != "" && !hex.MatchString(p.Ground) {
		l.Fault(place, "The ground’s colour is not written as #RRGGBB.", "Write six hexadecimal digits, such as #FFF7E6.")
	}
	return l
}
