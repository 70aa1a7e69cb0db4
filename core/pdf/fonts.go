package pdf

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"math"
	"slices"
	"strconv"
	"sync"

	"amberseal/core/cff"
	"amberseal/core/typeface"
	"amberseal/core/typeset"
)

// fontUse is a face as one document uses it.
type fontUse struct {
	face    *typeface.Face
	tt      *trueType // also of PostScript outlines, which it gives the widths of
	name    string    // resource name
	keep    []uint16
	index   []uint16 // new number of each of the face's glyphs, 0 for none; of glyph 0 too
	meaning []string // text of each new number, empty for none
}

var (
	trueTypesMu sync.Mutex
	trueTypes   = map[*typeface.Face]*trueType{}
)

// mostParsed is how many faces are kept parsed; uploaded ones come and go.
const mostParsed = 256

// trueTypeOf parses a face's tables once.
func trueTypeOf(f *typeface.Face) (*trueType, error) {
	trueTypesMu.Lock()
	defer trueTypesMu.Unlock()
	if t, ok := trueTypes[f]; ok {
		return t, nil
	}
	t, err := parseTrueType(f.Data)
	if err != nil {
		return nil, fmt.Errorf("font %s: %w", f.Name, err)
	}
	if len(trueTypes) > mostParsed {
		clear(trueTypes)
	}
	trueTypes[f] = t
	return t, nil
}

func newFontUse(f *typeface.Face, name string) (*fontUse, error) {
	tt, err := trueTypeOf(f)
	if err != nil {
		return nil, err
	}
	return &fontUse{face: f, tt: tt, name: name, keep: []uint16{0}, index: make([]uint16, tt.glyphs()), meaning: make([]string, 1, 128)}, nil
}

// use gives a glyph's number in the subset. The box for missing characters stands there a second time, since number 0
// must not be shown (ISO 19005-2 section 6.2.11.8).
func (u *fontUse) use(id uint16) uint16 {
	if int(id) >= len(u.index) {
		id = 0 // a glyph the font does not have
	}
	if n := u.index[id]; n != 0 {
		return n
	}
	n := uint16(len(u.keep))
	if !u.renumbered() {
		n = id
	}
	u.keep, u.index[id] = append(u.keep, id), n
	for len(u.meaning) <= int(n) {
		u.meaning = append(u.meaning, "")
	}
	return n
}

const softHyphen = '\u00AD'

// renumbered reports whether glyphs have new numbers in the file: not where the licence forbids subsets, and not in PostScript
// outlines, which keep their places.
func (u *fontUse) renumbered() bool { return !u.face.Whole && u.face.Outlines == nil }

// longestMeaning is how many characters some readers accept for one glyph.
const longestMeaning = 4

// says notes that a glyph stands for a text and reports whether reading it back gives
// that text.
func (u *fontUse) says(glyph uint16, text []rune) bool {
	if len(text) == 0 || len(text) > longestMeaning || text[0] == softHyphen {
		return false // a hyphen at a line's end looks like any other
	}
	if u.meaning[glyph] == "" {
		u.meaning[glyph] = string(text)
	}
	return u.meaning[glyph] == string(text)
}

// write adds the font's objects (ISO 32000-1 section 9.7) and gives the Type0 font.
func (u *fontUse) write(f *file, level Archival) (ref, error) {
	name := u.face.Name
	kind, program, present := "CIDFontType2", "", ""
	switch {
	case u.face.Outlines != nil: // glyphs are chosen by their number (section 9.7.4.2)
		data := u.face.Outlines
		if !u.face.Whole {
			p, err := cff.Parse(data)
			if err == nil {
				data, err = p.Only(u.keep)
			}
			if err != nil {
				return 0, fmt.Errorf("font %s: %w", u.face.Name, err)
			}
			name = u.tag() + "+" + name
			present = f.present(level, p.Glyphs())
		}
		kind, program = "CIDFontType0", "/FontFile3 "+f.stream("/Subtype /CIDFontType0C", data).String()
	case u.face.Whole:
		program = "/FontFile2 " + f.stream(fmt.Sprintf("/Length1 %d", len(u.face.Data)), u.face.Data).String()
	default:
		data, count, err := u.tt.subset(u.keep)
		if err != nil {
			return 0, fmt.Errorf("font %s: %w", u.face.Name, err)
		}
		name = u.tag() + "+" + name
		program = "/FontFile2 " + f.stream(fmt.Sprintf("/Length1 %d", len(data)), data).String()
		present = f.present(level, count)
	}
	head, hhea := u.tt.tables["head"], u.tt.tables["hhea"]
	k := func(b []byte) int { return int(int16(binary.BigEndian.Uint16(b))) * 1000 / u.face.Upem }
	ascent, descent := k(hhea[4:]), k(hhea[6:])
	descriptor := f.add("<</Type /FontDescriptor /FontName /%s /Flags 4 /FontBBox [%d %d %d %d] /ItalicAngle 0 /Ascent %d /Descent %d /CapHeight %d /StemV 80 %s%s>>",
		name, k(head[36:]), k(head[38:]), k(head[40:]), k(head[42:]), ascent, descent, ascent*7/10, program, present)
	glyphMap := ""
	if kind == "CIDFontType2" {
		glyphMap = " /CIDToGIDMap /Identity"
	}
	cid := f.add("<</Type /Font /Subtype /%s /BaseFont /%s /CIDSystemInfo <</Registry (Adobe) /Ordering (Identity) /Supplement 0>> /FontDescriptor %s%s /DW 0 /W [%s]>>",
		kind, name, descriptor, glyphMap, u.widths())
	toUnicode := f.stream("", u.toUnicode())
	return f.add("<</Type /Font /Subtype /Type0 /BaseFont /%s /Encoding /Identity-H /DescendantFonts [%s] /ToUnicode %s>>", name, cid, toUnicode), nil
}

// present is the entry that says which glyphs a subset has: all up to a number. A-1b asks for it (ISO 19005-1 section 6.3.5).
func (f *file) present(level Archival, glyphs int) string {
	if level != A1b {
		return ""
	}
	set := make([]byte, (glyphs+7)/8)
	for i := range glyphs {
		set[i/8] |= 0x80 >> (i % 8)
	}
	return " /CIDSet " + f.stream("", set).String()
}

// widths lists the advances of the glyphs that are used (section 9.7.4.3).
func (u *fontUse) widths() []byte {
	var b bytes.Buffer
	wide := func(id uint16) string { return num(float64(u.tt.advance(id)) * 1000 / float64(u.face.Upem)) }
	if !u.renumbered() {
		for _, id := range slices.Compact(slices.Sorted(slices.Values(u.keep))) {
			fmt.Fprintf(&b, "%d [%s] ", id, wide(id))
		}
		return bytes.TrimSpace(b.Bytes())
	}
	b.WriteString("0 [")
	for _, id := range u.keep {
		b.WriteString(wide(id) + " ")
	}
	return append(bytes.TrimSpace(b.Bytes()), ']')
}

// tag is the six letters that mark a subset, made from its glyphs.
func (u *fontUse) tag() string {
	sum := uint64(14695981039346656037)
	for _, id := range u.keep {
		sum = (sum ^ uint64(id)) * 1099511628211
	}
	var b [6]byte
	for i := range b {
		b[i] = 'A' + byte(sum%26)
		sum /= 26
	}
	return string(b[:])
}

func (u *fontUse) toUnicode() []byte {
	var b bytes.Buffer
	b.WriteString("/CIDInit /ProcSet findresource begin\n12 dict begin\nbegincmap\n/CIDSystemInfo <</Registry (Adobe) /Ordering (UCS) /Supplement 0>> def\n/CMapName /Adobe-Identity-UCS def\n/CMapType 2 def\n1 begincodespacerange\n<0000> <FFFF>\nendcodespacerange\n")
	var glyphs []uint16
	for g, text := range u.meaning {
		if text != "" {
			glyphs = append(glyphs, uint16(g))
		}
	}
	for part := range slices.Chunk(glyphs, 100) {
		fmt.Fprintf(&b, "%d beginbfchar\n", len(part))
		for _, g := range part {
			fmt.Fprintf(&b, "<%04X> <%s>\n", g, utf16Hex([]rune(u.meaning[g])))
		}
		b.WriteString("endbfchar\n")
	}
	b.WriteString("endcmap\nCMapName currentdict /CMap defineresource pop\nend\nend\n")
	return b.Bytes()
}

// glyphs writes a run at its place. Where reading a cluster's glyphs back would not give
// its characters, they stand in a span with the actual text (ISO 32000-1 section 14.9.4).
func (u *fontUse) glyphs(b []byte, g *typeset.Glyphs, height float64) []byte {
	b = append(b, "BT /"...)
	b = append(b, u.name...)
	b = append(b, ' ')
	b = appendNum(b, g.Size)
	b = append(b, " Tf "...)
	if g.Turn == 0 {
		b = append(b, "1 0 0 1 "...)
	} else {
		sin, cos := math.Sincos(g.Turn * math.Pi / 180)
		b = fmt.Appendf(b, "%.5f %.5f %.5f %.5f ", cos, sin, -sin, cos)
	}
	b = appendNum(b, g.X)
	b = append(b, ' ')
	b = appendNum(b, height-g.Y)
	b = append(b, " Tm "...)
	a := array{b: b}
	if g.Restated {
		a.says(allText(g))
	}
	perEm := 1000 / g.Size
	rise, owed := float32(0), 0.0
	for i := 0; i < len(g.Glyphs); {
		n := 1
		for i+n < len(g.Glyphs) && g.Glyphs[i+n].Count == 0 {
			n++
		}
		first := g.Glyphs[i]
		text := g.Text[first.Start : first.Start+first.Count]
		actual := !g.Restated && !(n == 1 && first.ID != 0 && u.says(u.use(first.ID), text)) && len(text) > 0
		if actual {
			a.says(text)
		}
		for _, x := range g.Glyphs[i : i+n] {
			if x.DY != rise {
				a.close()
				a.b = appendNum(a.b, float64(x.DY))
				a.b = append(a.b, " Ts "...)
				rise = x.DY
			}
			dx := float64(x.DX) * perEm
			a.move(&owed, -dx)
			a.glyph(u.use(x.ID))
			own := float64(u.tt.advance(x.ID)) * 1000 / float64(u.face.Upem)
			owed += own - float64(x.Advance)*perEm + dx
		}
		a.flush(&owed)
		if actual {
			a.close()
			a.b = append(a.b, "EMC "...)
		}
		i += n
	}
	a.close()
	if g.Restated {
		a.b = append(a.b, "EMC "...)
	}
	if rise != 0 {
		a.b = append(a.b, "0 Ts "...)
	}
	return append(a.b, "ET\n"...)
}

// allText is what a run's glyphs stand for, from the first character to the last.
func allText(g *typeset.Glyphs) []rune {
	from, to := int32(len(g.Text)), int32(0)
	for _, x := range g.Glyphs {
		if x.Count > 0 {
			from, to = min(from, x.Start), max(to, x.Start+x.Count)
		}
	}
	return g.Text[min(from, to):to]
}

// array writes the operand of TJ, opened and closed as needed.
type array struct {
	b         []byte
	open, hex bool
}

// says opens a span of actual text.
func (a *array) says(text []rune) {
	a.close()
	a.b = append(a.b, "/Span <</ActualText <FEFF"...)
	a.b = append(a.b, utf16Hex(text)...)
	a.b = append(a.b, ">>> BDC "...)
}

func (a *array) begin(hex bool) {
	if !a.open {
		a.b, a.open = append(a.b, '['), true
	}
	if hex && !a.hex {
		a.b = append(a.b, '<')
	}
	if !hex && a.hex {
		a.b = append(a.b, '>')
	}
	a.hex = hex
}

func (a *array) glyph(id uint16) {
	a.begin(true)
	const digits = "0123456789ABCDEF"
	a.b = append(a.b, digits[id>>12], digits[id>>8&15], digits[id>>4&15], digits[id&15])
}

// move adds to the adjustment that is owed and writes it when it can be seen: in whole
// thousandths of an em, the rest is carried on.
func (a *array) move(owed *float64, by float64) {
	*owed += by
	whole := int64(math.Round(*owed))
	if whole == 0 {
		return
	}
	a.begin(false)
	if last := a.b[len(a.b)-1]; last >= '0' && last <= '9' {
		a.b = append(a.b, ' ') // two numbers in a row
	}
	a.b = strconv.AppendInt(a.b, whole, 10)
	*owed -= float64(whole)
}

func (a *array) flush(owed *float64) { a.move(owed, 0) }

func (a *array) close() {
	if !a.open {
		return
	}
	if a.hex {
		a.b = append(a.b, '>')
	}
	a.b = append(a.b, "] TJ "...)
	a.open, a.hex = false, false
}
