package pdf

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"math"
	"slices"
	"strconv"
	"sync"

	"amberseal/core/print/typeface"
	"amberseal/core/print/typeface/cff"
	"amberseal/core/print/typeset"
)

// fontUse is a face as one document uses it. Every code that is shown has a text that it stands for (ISO 14289-1 section
// 7.21.7): one glyph that stands for two texts has two codes, and glyphs that stand for one text together are made one.
type fontUse struct {
	face    *typeface.Face
	tt      *trueType // also of PostScript outlines, which it gives the widths of
	name    string    // resource name
	keep    []taken   // by the new number
	meaning []string  // text of each new number
	index   []uint16  // a new number of each of the face's glyphs, 0 for none; of glyph 0 too
	others  map[drawn]uint16
}

// drawn is what a code shows and stands for.
type drawn struct{ glyphs, text string }

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
	return &fontUse{
		face:    f,
		tt:      tt,
		name:    name,
		keep:    make([]taken, 1, 128),
		index:   make([]uint16, tt.glyphs()),
		meaning: make([]string, 1, 128),
		others:  map[drawn]uint16{},
	}, nil
}

// code gives the number of a glyph that stands for a text. The box for missing characters gets one too, since number 0 must
// not be shown (ISO 19005-2 section 6.2.11.8). read is false where reading it back gives another text.
func (u *fontUse) code(id uint16, text []rune) (n uint16, read bool) {
	if int(id) >= len(u.index) {
		id = 0 // a glyph the font does not have
	}
	n = u.index[id]
	if !u.renumbered() {
		if u.index[id] = id; n == 0 && (id != 0 || u.meaning[0] == "") {
			u.keep = append(u.keep, taken{id: id})
			for len(u.meaning) <= int(id) {
				u.meaning = append(u.meaning, "")
			}
		}
		if u.meaning[id] == "" {
			u.meaning[id] = string(text)
		}
		return id, same(u.meaning[id], text)
	}
	if n == 0 {
		n = u.take(taken{id: id}, string(text))
		u.index[id] = n
		return n, true
	}
	if same(u.meaning[n], text) {
		return n, true
	}
	return u.other(drawn{string(rune(id)), string(text)}, taken{id: id}), true
}

// joined gives the number of a glyph that is made of several and stands for their text together. size is in points.
func (u *fontUse) joined(glyphs []typeset.Glyph, size float64, text []rune) uint16 {
	units := func(v float64) int { return int(math.Round(v / size * float64(u.face.Upem))) }
	var made taken
	var key []byte
	x := 0.0
	for _, g := range glyphs {
		id := g.ID
		if int(id) >= len(u.index) {
			id = 0
		}
		p := part{id, int16(units(x + float64(g.DX))), int16(units(float64(g.DY)))}
		made.parts = append(made.parts, p)
		key = fmt.Appendf(key, "%d %d %d,", p.id, p.x, p.y)
		x += float64(g.Advance)
	}
	made.advance = units(x)
	return u.other(drawn{string(fmt.Appendf(key, "%d", made.advance)), string(text)}, made)
}

func (u *fontUse) other(key drawn, t taken) uint16 {
	n, ok := u.others[key]
	if !ok {
		n = u.take(t, key.text)
		u.others[key] = n
	}
	return n
}

func (u *fontUse) take(t taken, text string) uint16 {
	u.keep, u.meaning = append(u.keep, t), append(u.meaning, text)
	return uint16(len(u.keep) - 1)
}

// same compares without making a string of the runes.
func same(s string, text []rune) bool {
	i := 0
	for _, r := range s {
		if i >= len(text) || text[i] != r {
			return false
		}
		i++
	}
	return i == len(text)
}

// renumbered reports whether glyphs have new numbers in the file: not where the licence forbids subsets, and not in PostScript
// outlines, which keep their places.
func (u *fontUse) renumbered() bool { return !u.face.Whole && u.face.Outlines == nil }

// longestMeaning is how many characters all readers accept for one glyph; MuPDF leaves out what has more than 8 UTF-16 units.
const longestMeaning = 4

// brief is as much of a text as all readers accept for one glyph. Some read several characters beyond the first plane as halves of
// them.
func brief(text []rune) []rune {
	for i, r := range text {
		if r > 0xFFFF {
			return text[:max(i, 1)]
		}
	}
	return text[:min(longestMeaning, len(text))]
}

// unread stands for a glyph that belongs to the text of another, in faces whose glyphs keep their numbers.
const unread = "\uFFFD"

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
				data, err = p.Only(u.plain())
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
	shape := u.tt.shape(u.face.Upem)
	descriptor := f.add(
		"<</Type /FontDescriptor /FontName /%s /Flags %d /FontBBox [%d %d %d %d] /ItalicAngle %s /Ascent %d /Descent %d /CapHeight %d "+
			"/StemV %d %s%s>>",
		name, shape.flags, k(head[36:]), k(head[38:]), k(head[40:]), k(head[42:]), num(shape.angle), k(hhea[4:]), k(hhea[6:]),
		shape.capitals,
		shape.stem, program, present,
	)
	glyphMap := ""
	if kind == "CIDFontType2" {
		glyphMap = " /CIDToGIDMap /Identity"
	}
	cid := f.add(
		"<</Type /Font /Subtype /%s /BaseFont /%s /CIDSystemInfo <</Registry (Adobe) /Ordering (Identity) /Supplement 0>> "+
			"/FontDescriptor %s%s /DW 0 /W [%s]>>",
		kind, name, descriptor, glyphMap, u.widths(),
	)
	toUnicode := f.stream("", u.toUnicode())
	return f.add(
		"<</Type /Font /Subtype /Type0 /BaseFont /%s /Encoding /Identity-H /DescendantFonts [%s] /ToUnicode %s>>", name, cid, toUnicode,
	), nil
}

// shape is what a font's descriptor says of it (ISO 32000-1 section 9.8).
type shape struct {
	flags, capitals, stem int
	angle                 float64 // degrees against the clock
}

// Flags of a descriptor (section 9.8.2).
const flagSerif, flagSymbolic, flagItalic = 1 << 1, 1 << 2, 1 << 6

// shape reads a font's tables post and OS/2 (OpenType 1.9); of fonts without them it says what is usual. The thickness of stems is
// in no table: it is reckoned from the weight, common practice.
func (t *trueType) shape(upem int) shape {
	out := shape{flags: flagSymbolic, stem: 80, capitals: 700}
	if post := t.tables["post"]; len(post) >= 8 {
		if out.angle = float64(int32(binary.BigEndian.Uint32(post[4:]))) / 65536; out.angle != 0 {
			out.flags |= flagItalic
		}
	}
	os2 := t.tables["OS/2"]
	if len(os2) >= 32 {
		weight := float64(binary.BigEndian.Uint16(os2[4:])) / 65
		out.stem = 50 + int(weight*weight)
		if class := os2[30]; class >= 1 && class <= 5 || class == 7 { // sFamilyClass: the serif classes
			out.flags |= flagSerif
		}
	}
	if len(os2) >= 90 && binary.BigEndian.Uint16(os2) >= 2 {
		if capitals := int(int16(binary.BigEndian.Uint16(os2[88:]))); capitals > 0 {
			out.capitals = capitals * 1000 / upem
		}
	}
	return out
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
	wide := func(units int) string { return num(float64(units) * 1000 / float64(u.face.Upem)) }
	if !u.renumbered() {
		for _, id := range slices.Compact(slices.Sorted(slices.Values(u.plain()))) {
			fmt.Fprintf(&b, "%d [%s] ", id, wide(u.tt.advance(id)))
		}
		return bytes.TrimSpace(b.Bytes())
	}
	b.WriteString("0 [")
	for _, t := range u.keep {
		b.WriteString(wide(u.tt.width(t)) + " ")
	}
	return append(bytes.TrimSpace(b.Bytes()), ']')
}

// tag is the six letters that mark a subset, made from its glyphs.
func (u *fontUse) tag() string {
	sum := uint64(14695981039346656037)
	mix := func(v uint16) { sum = (sum ^ uint64(v)) * 1099511628211 }
	for _, t := range u.keep {
		mix(t.id)
		for _, p := range t.parts {
			mix(p.id)
			mix(uint16(p.x))
			mix(uint16(p.y))
		}
	}
	var b [6]byte
	for i := range b {
		b[i] = 'A' + byte(sum%26)
		sum /= 26
	}
	return string(b[:])
}

// plain lists the face's own glyphs that are used.
func (u *fontUse) plain() []uint16 {
	out := make([]uint16, len(u.keep))
	for i, t := range u.keep {
		out[i] = t.id
	}
	return out
}

func (u *fontUse) toUnicode() []byte {
	var b bytes.Buffer
	b.WriteString(
		"/CIDInit /ProcSet findresource begin\n12 dict begin\nbegincmap\n/CIDSystemInfo <</Registry (Adobe) /Ordering (UCS) /Supplement " +
			"0>> def\n/CMapName /Adobe-Identity-UCS def\n/CMapType 2 def\n1 begincodespacerange\n<0000> <FFFF>\nendcodespacerange\n",
	)
	var glyphs []uint16
	for g, text := range u.meaning {
		if text != "" {
			glyphs = append(glyphs, uint16(g))
		}
	}
	line := make([]byte, 0, 64)
	for part := range slices.Chunk(glyphs, 100) {
		fmt.Fprintf(&b, "%d beginbfchar\n", len(part))
		for _, g := range part {
			line = append(appendHex(append(line[:0], '<'), g), "> <"...)
			b.Write(append(appendUTF16(line, u.meaning[g]), ">\n"...))
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
	perEm := 1000 / g.Size
	rise, owed := float32(0), 0.0
	for i := 0; i < len(g.Glyphs); {
		n := 1
		for i+n < len(g.Glyphs) && g.Glyphs[i+n].Count == 0 {
			n++
		}
		cluster := g.Glyphs[i : i+n]
		text := g.Text[cluster[0].Start : cluster[0].Start+cluster[0].Count]
		i += n
		if n > 1 && u.renumbered() && len(text) > 0 && len(brief(text)) == len(text) {
			made := u.joined(cluster, g.Size, text)
			a.rise(&rise, 0)
			a.flush(&owed)
			a.glyph(made)
			wide := float64(u.tt.width(u.keep[made])) * 1000 / float64(u.face.Upem)
			for _, x := range cluster {
				wide -= float64(x.Advance) * perEm
			}
			a.move(&owed, wide)
			continue
		}
		codes := make([]uint16, n)
		actual := len(brief(text)) < len(text)
		for k, x := range cluster {
			share, read := text[min(k, len(text)):], true
			if k+1 < n {
				share = share[:min(1, len(share))]
			}
			share = brief(share)
			if len(share) == 0 {
				share, actual = []rune(unread), true
			}
			codes[k], read = u.code(x.ID, share)
			actual = actual || !read
		}
		if actual {
			a.says(text)
		}
		for k, x := range cluster {
			a.rise(&rise, x.DY)
			dx := float64(x.DX) * perEm
			a.move(&owed, -dx)
			a.glyph(codes[k])
			own := float64(u.tt.advance(x.ID)) * 1000 / float64(u.face.Upem)
			owed += own - float64(x.Advance)*perEm + dx
		}
		a.flush(&owed)
		if actual {
			a.close()
			a.b = append(a.b, "EMC "...)
		}
	}
	a.close()
	a.rise(&rise, 0)
	return append(a.b, "ET\n"...)
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
	a.b = appendUTF16(a.b, string(text))
	a.b = append(a.b, ">>> BDC "...)
}

// rise sets the height of what follows above the line.
func (a *array) rise(from *float32, to float32) {
	if to == *from {
		return
	}
	a.close()
	a.b = appendNum(a.b, float64(to))
	a.b = append(a.b, " Ts "...)
	*from = to
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
	a.b = appendHex(a.b, id)
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
