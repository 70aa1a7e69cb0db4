package paper

import (
	"slices"
	"strconv"
	"strings"

	"amberseal/core/print/svg"
	"amberseal/core/print/typeface"
	"amberseal/core/print/typeset"
	"amberseal/core/words/finding"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

// Pictures gives a picture's file by name.
type Pictures func(name string) ([]byte, error)

var (
	softInk  = typeset.Colour{R: 0x4A, G: 0x5B, B: 0x5F}
	hairline = typeset.Colour{R: 0xC4, G: 0xCD, B: 0xC9}
	unknown  = typeset.Colour{R: 0xA3, G: 0x26, B: 0x2A}
	white    = typeset.Colour{R: 0xFF, G: 0xFF, B: 0xFF}
)

// binder carries what every block needs. Inside rows and columns it is a copy with other facts, or with another place for
// what it makes.
type binder struct {
	facts    phrase.Facts
	doc      Document
	pictures Pictures
	ink      typeset.Colour
	palette
	family   string
	style    style
	within   *[]typeset.Node // where nodes go
	inTicket bool            // large tiles without rules between them
	shared   *shared
}

// palette are the house's colours.
type palette struct{ accent, band, words, tint, dark, on, labelInk typeset.Colour }

func paletteOf(h house.House) palette {
	c := h.Colours()
	return palette{
		colour(c.Accent), colour(c.Band), colour(c.Words), colour(c.Tint), colour(c.Dark), colour(c.On), colour(c.Label),
	}
}

// inkOnly are the colours of documents on printed paper, which has colours of its own.
var inkOnly = palette{
	accent: usualInk, band: usualInk, words: usualInk, tint: typeset.Colour{R: 0xEE, G: 0xF0, B: 0xF0}, dark: usualInk, on: white,
	labelInk: softInk,
}

// shared is what all copies of a binder write to.
type shared struct {
	out      typeset.Document
	findings finding.List
	made     int
	full     *TooMuch
	letter   bool   // the first page is a letter's
	level    int    // of the last heading
	heading  string // its words
	contents contents
	point    rune // of decimals, once it was asked for
}

// mostNodes is how many parts a document may have; repetition inside repetition could ask for any number.
const mostNodes = 100_000

// TooMuch is the error of a document of more than 100,000 parts. Block is the one that passed the limit.
type TooMuch struct{ Block string }

func (TooMuch) Error() string { return "the document would have more than 100,000 parts" }

// Bind puts the facts into the design. Blocks whose condition does not hold are left
// out. Findings say which pictures could not be printed; everything else is printed. The error is TooMuch or nil.
func Bind(d Document, facts phrase.Facts, pictures Pictures) (*typeset.Document, finding.List, error) {
	title := d.Title.Plain(facts)
	facts.Unbroken = true
	b := &binder{
		facts: facts, doc: d, pictures: pictures, palette: paletteOf(facts.House), ink: usualInk,
		family: facts.House.Font, style: styleOf(d.Look), shared: &shared{},
	}
	out := &b.shared.out
	*out = typeset.Document{
		Title:    title,
		Closer:   true,
		Language: facts.Locale().Tag(),
		Page:     b.style.paper(d.Page).size(facts.House.Paper, b.style.margins),
	}
	out.Opening = d.Page.opening(out.Page, b.style)
	b.style = b.style.on(out.Page)
	if b.style.colourless {
		b.palette = inkOnly
	}
	b.setType(d.Page.Type)
	b.loadFamily()
	b.within = &out.Body
	b.ground()
	if out.Title == "" {
		out.Title = d.Name
	}
	if facts.Corrects(d) { // who has both must see which one holds
		d.Footer = replaced(d.Footer, facts)
		if d.First != nil {
			d.First = &Running{d.First.Header, replaced(d.First.Footer, facts)}
		}
	}
	b.doc = d
	blocks := d.Blocks
	if b.style.opens != nil {
		blocks = b.style.opens(b, blocks)
	}
	b.blocks(blocks)
	b.appended()
	b.fillContents()
	b.runs(out, d)
	if b.shared.full != nil {
		return nil, b.shared.findings, *b.shared.full
	}
	return out, b.shared.findings, nil
}

// runs sets what stands in the margins.
func (b *binder) runs(out *typeset.Document, d Document) {
	all := Running{d.Header, d.Footer}
	first := all
	if d.First != nil {
		first = *d.First
	}
	if b.shared.out.First != nil { // the look gave the first page its own
		out.Running = b.running(all)
		return
	}
	if b.shared.letter {
		b.letterRunning(out, all, first)
		return
	}
	out.Running = b.running(all)
	if d.First != nil {
		running := b.running(first)
		out.First = &running
	}
}

// setType takes over how the page's text is set, where the design says so.
func (b *binder) setType(t *Type) {
	if t == nil {
		return
	}
	if t.Family != "" {
		b.family = t.Family
	}
	if t.Colour != "" {
		b.ink = colour(t.Colour)
	}
	if t.Size > 0 {
		b.style = b.style.scaled(t.Size / b.style.text)
	}
	if t.Leading > 0 {
		b.style.leading = t.Leading
	}
}

// leastRunning is down to what part of its size a header or footer is set so that it needs no second line.
const leastRunning = 0.8

// replaced is a footer that says what the document replaces.
func replaced(footer phrase.Phrase, facts phrase.Facts) phrase.Phrase {
	out := slices.Clone(footer)
	if len(out) > 0 {
		out = append(out, phrase.Span{Text: " · "})
	}
	return append(out, phrase.Span{Text: facts.Locale().Replaces(facts.Revision)})
}

func (b *binder) running(r Running) typeset.Running {
	set := func(name string, p phrase.Phrase) []typeset.Paragraph {
		if len(p) == 0 {
			return nil
		}
		out := b.paragraph(name, typeset.Plain, p.Bind(b.facts), b.style.fixed(7.5), softInk)
		out.Family, out.Align, out.Shrink = labelFamily, typeset.Center, leastRunning
		return []typeset.Paragraph{*out}
	}
	line := hairline
	return typeset.Running{Header: set("header", r.Header), Footer: set("footer", r.Footer), Line: &line}
}

// pale and trialInk are what stands behind text and must not hide it.
var (
	pale     = typeset.Colour{R: 0xE6, G: 0xE9, B: 0xE7}
	trialInk = typeset.Colour{R: 0xF3, G: 0xD9, B: 0xD6}
)

// ground sets what lies behind the text: a colour, pictures, and words across the page. A trial's mark comes before a
// watermark.
func (b *binder) ground() {
	out := &b.shared.out
	page := b.doc.Page
	if page.Ground != "" {
		c := colour(page.Ground)
		out.Ground = &c
	}
	b.backing(page.Backdrop, false)
	b.backing(page.Mark, true)
	words, c := page.Watermark, pale
	if b.facts.Trial {
		words, c = b.facts.Locale().Trial(), trialInk
	}
	if words == "" {
		return
	}
	size := min(out.Page.Width, out.Page.Height) / max(float64(len([]rune(words))), 5) * 1.5
	out.Stamp = b.paragraph("", typeset.Plain, plain(words).bold(), size, c)
}

func (b *binder) backing(x *Backing, pale bool) {
	if x == nil {
		return
	}
	art := b.art(x.Picture, "documents/"+b.doc.Key+"/page")
	if art == nil {
		return
	}
	back := typeset.Backdrop{Image: art.Image, Drawing: art.Drawing, Repeat: x.Repeat}
	ratio := 0.0 // of height to width
	if art.Drawing != nil {
		ratio = art.Drawing.Height / art.Drawing.Width
	} else {
		ratio = float64(art.Image.Height) / float64(art.Image.Width)
	}
	out := &b.shared.out
	w, h := out.Page.Width, out.Page.Height
	width := x.Width * millimetre
	if width <= 0 {
		width = w
	}
	dx, dy := corner(x.Place)
	back.Width, back.Height = width, width*ratio
	back.X, back.Y = (w-back.Width)*dx, (h-back.Height)*dy
	switch {
	case pale && art.Drawing != nil:
		back.Drawing = art.Drawing.Paled()
	case pale:
		back.Image = art.Image.Paled()
	}
	out.Backdrop = append(out.Backdrop, back)
}

// place is where findings about a block are.
func (b *binder) place(x Block) string { return "documents/" + b.doc.Key + "/blocks/" + x.ID }

func (b *binder) add(n typeset.Node) {
	b.shared.made++
	if b.shared.made < mostNodes {
		*b.within = append(*b.within, n)
	}
}

// inside gives a binder that gathers what it makes.
func (b *binder) inside(make func(b *binder)) []typeset.Node {
	var nodes []typeset.Node
	sub := *b
	sub.within = &nodes
	make(&sub)
	return nodes
}

func (b *binder) blocks(list []Block) {
	for _, x := range list {
		b.block(x)
	}
}

// block prints a block, or one for each row.
func (b *binder) block(x Block) {
	if b.shared.made >= mostNodes {
		if b.shared.full == nil {
			b.shared.full = &TooMuch{x.ID}
		}
		return
	}
	if x.Each == "" {
		b.once(x)
		return
	}
	rows := b.facts.Rows(x.Each)
	x.Each = ""
	for _, row := range rows {
		sub := *b
		sub.facts = row
		sub.block(x)
	}
}

func (b *binder) once(x Block) {
	if !b.facts.Condition(x.When) {
		return
	}
	x.Kind.nature().bind(b, x)
}

// missing prints what stands in the place of what is not there: room of a height, nothing, or words.
func (b *binder) missing(x Block, usual Leave, height float64) {
	how := Missing{Leave: usual}
	if x.Missing != nil {
		how = *x.Missing
	}
	switch {
	case how.Words != "":
		p := b.paragraph(x.ID, typeset.Plain, plain(how.Words).italic(), b.style.text, softInk)
		p.After = 7
		b.add(p)
	case how.Leave == LeaveSpace:
		b.add(&typeset.Space{Block: x.ID, Height: height})
	}
}

// art reads a picture of pixels or of shapes, or notes why it is left out.
func (b *binder) art(name, place string) *typeset.Picture {
	p := &typeset.Picture{}
	data, err := b.pictures(name)
	switch {
	case err != nil:
	case svg.Is(data):
		p.Drawing, err = svg.Read(data, b.shared.out.Families)
	default:
		p.Image, err = typeset.ReadImage(data)
	}
	if err != nil {
		b.shared.findings.Fault(place, "paper.picture-unprintable", "name", name, "reason", err.Error())
		return nil
	}
	return p
}

// loadFamily reads the faces of a family of the house's own. Where one cannot be used, the usual family stands in.
func (b *binder) loadFamily() {
	own, ok := b.facts.House.Own(b.family)
	if !ok {
		missesFamily(b.family, "documents/"+b.doc.Key+"/page/type/family", &b.shared.findings)
		return
	}
	if family := readFamily(own, b.pictures, &b.shared.findings); family.Regular != nil {
		b.shared.out.Families = map[string]typeface.Family{own.Family: family}
	}
}

// missesFamily finds a family that neither ships with the program nor is the house's own.
func missesFamily(family, place string, l *finding.List) {
	if family != "" && !slices.Contains(typeface.Families(), family) {
		l.Fault(place, "paper.font-is-gone", "family", family, "usual", typeface.Families()[0])
	}
}

// CheckFamily finds that the house has no font of the name that a document asks for. Places are documents/KEY/page/type/family.
func (d Document) CheckFamily(h house.House) finding.List {
	var l finding.List
	if t := d.Page.Type; t != nil {
		if _, own := h.Own(t.Family); !own {
			missesFamily(t.Family, "documents/"+d.Key+"/page/type/family", &l)
		}
	}
	return l
}

// readFamily reads the faces of a family; those that cannot be used are findings.
func readFamily(own house.Font, pictures Pictures, l *finding.List) typeface.Family {
	var family typeface.Family
	for _, f := range []struct {
		name string
		face **typeface.Face
	}{{own.Regular, &family.Regular}, {own.Bold, &family.Bold}, {own.Italic, &family.Italic}, {own.BoldItalic, &family.BoldItalic}} {
		if f.name == "" {
			continue
		}
		data, err := pictures(FontFile(f.name))
		if err == nil {
			*f.face, err = typeface.Read(data)
		}
		if err != nil {
			l.Fault("house/fonts", "paper.font-unusable", "family", own.Family, "reason", err.Error())
		}
	}
	return family
}

func align(s string) typeset.Align {
	switch s {
	case "center":
		return typeset.Center
	case "end":
		return typeset.End
	case "justify":
		return typeset.Justify
	}
	return typeset.Start
}

// usualInk is the colour of text.
var usualInk = typeset.Colour{R: 0x16, G: 0x26, B: 0x2B}

func colour(hex string) typeset.Colour {
	v, err := strconv.ParseUint(strings.TrimPrefix(hex, "#"), 16, 24)
	if err != nil {
		return usualInk
	}
	return typeset.Colour{R: uint8(v >> 16), G: uint8(v >> 8), B: uint8(v)}
}
