package pdf

import (
	"encoding/binary"
	"errors"
	"slices"
)

// A TrueType file with only some of its glyphs. Table layouts are those of the OpenType
// specification 1.9 (head, hhea, hmtx, maxp, loca, glyf). Fonts may be uploads, so every
// offset is checked before it is followed.

var errFont = errors.New("the font file is damaged")

type trueType struct {
	data    []byte
	tables  map[string][]byte
	glyf    []byte // of tables, as is hmtx: each glyph asks for them
	hmtx    []byte
	loca    []uint32
	metrics int // number of full entries in hmtx
}

func parseTrueType(data []byte) (*trueType, error) {
	if len(data) < 12 {
		return nil, errFont
	}
	t := &trueType{data: data, tables: map[string][]byte{}}
	n := int(binary.BigEndian.Uint16(data[4:]))
	if len(data) < 12+16*n {
		return nil, errFont
	}
	for i := range n {
		e := data[12+16*i:]
		offset, length := uint64(binary.BigEndian.Uint32(e[8:])), uint64(binary.BigEndian.Uint32(e[12:]))
		if offset+length > uint64(len(data)) {
			return nil, errFont
		}
		t.tables[string(e[:4])] = data[offset : offset+length]
	}
	if len(t.tables["head"]) < 54 || len(t.tables["hhea"]) < 36 || len(t.tables["maxp"]) < 6 {
		return nil, errFont
	}
	glyphs := t.glyphs()
	t.metrics = int(binary.BigEndian.Uint16(t.tables["hhea"][34:]))
	t.glyf, t.hmtx = t.tables["glyf"], t.tables["hmtx"]
	if t.metrics < 1 || len(t.hmtx) < 4*t.metrics {
		return nil, errFont
	}
	if t.tables["CFF "] != nil {
		return t, nil // only the widths are needed
	}
	loca, long := t.tables["loca"], binary.BigEndian.Uint16(t.tables["head"][50:]) == 1
	t.loca = make([]uint32, glyphs+1)
	for i := range t.loca {
		switch {
		case long && len(loca) >= 4*i+4:
			t.loca[i] = binary.BigEndian.Uint32(loca[4*i:])
		case !long && len(loca) >= 2*i+2:
			t.loca[i] = 2 * uint32(binary.BigEndian.Uint16(loca[2*i:]))
		default:
			return nil, errFont
		}
	}
	return t, nil
}

// glyphs is how many the font has.
func (t *trueType) glyphs() int { return int(binary.BigEndian.Uint16(t.tables["maxp"][4:])) }

func (t *trueType) glyph(id uint16) ([]byte, error) {
	if int(id)+1 >= len(t.loca) {
		return nil, errFont
	}
	a, b := t.loca[id], t.loca[id+1]
	if a > b || uint64(b) > uint64(len(t.glyf)) {
		return nil, errFont
	}
	return t.glyf[a:b], nil
}

// advance is a glyph's width in font units, from hmtx.
func (t *trueType) advance(id uint16) int {
	i := min(int(id), t.metrics-1)
	return int(binary.BigEndian.Uint16(t.hmtx[4*i:]))
}

func (t *trueType) bearing(id uint16) uint16 {
	if int(id) < t.metrics {
		return binary.BigEndian.Uint16(t.hmtx[4*int(id)+2:])
	}
	at := 4*t.metrics + 2*(int(id)-t.metrics)
	if at+2 > len(t.hmtx) {
		return 0
	}
	return binary.BigEndian.Uint16(t.hmtx[at:])
}

// parts calls yield with the place of each component's glyph number in a composite glyph.
func parts(g []byte, yield func(at int)) error {
	if len(g) < 10 || int16(binary.BigEndian.Uint16(g)) >= 0 {
		return nil
	}
	const (
		words, haveScale, more, haveXY, have2x2 = 0x1, 0x8, 0x20, 0x40, 0x80
	)
	for at := 10; ; {
		if at+4 > len(g) {
			return errFont
		}
		flags := binary.BigEndian.Uint16(g[at:])
		yield(at + 2)
		at += 6
		if flags&words != 0 {
			at += 2
		}
		switch {
		case flags&haveScale != 0:
			at += 2
		case flags&haveXY != 0:
			at += 4
		case flags&have2x2 != 0:
			at += 8
		}
		if flags&more == 0 {
			return nil
		}
	}
}

// taken is a glyph of a subset: one of the font's, or one that is made of several.
type taken struct {
	id      uint16
	parts   []part
	advance int // of one that is made, in font units
}

// part is a glyph at a place, in font units.
type part struct {
	id   uint16
	x, y int16
}

// width is the advance of a glyph of a subset in font units.
func (t *trueType) width(x taken) int {
	if x.parts != nil {
		return x.advance
	}
	return t.advance(x.id)
}

// compose writes a composite glyph (OpenType 1.9, glyf: composite glyph description) and gives its left edge. Its components
// have the font's numbers.
func (t *trueType) compose(x taken) (g []byte, left int16, err error) {
	const words, offsets, more = 0x1, 0x2, 0x20
	var box [4]int16
	last := -1 // where the flags of the last component lie
	for _, p := range x.parts {
		own, err := t.glyph(p.id)
		if err != nil {
			return nil, 0, err
		}
		if len(own) < 10 {
			continue // nothing is drawn
		}
		at := func(i int) int16 { return int16(binary.BigEndian.Uint16(own[i:])) }
		own4 := [4]int16{at(2) + p.x, at(4) + p.y, at(6) + p.x, at(8) + p.y}
		if last < 0 {
			box, g = own4, make([]byte, 10)
		} else {
			box = [4]int16{min(box[0], own4[0]), min(box[1], own4[1]), max(box[2], own4[2]), max(box[3], own4[3])}
			binary.BigEndian.PutUint16(g[last:], words|offsets|more)
		}
		last = len(g)
		for _, v := range []uint16{words | offsets, p.id, uint16(p.x), uint16(p.y)} {
			g = binary.BigEndian.AppendUint16(g, v)
		}
	}
	if last < 0 {
		return nil, 0, nil
	}
	binary.BigEndian.PutUint16(g, 0xFFFF)
	for i, v := range box {
		binary.BigEndian.PutUint16(g[2+2*i:], uint16(v))
	}
	return g, box[0], nil
}

// subset builds a font file of the glyphs in order; glyph i of the result is keep[i].
// Glyphs that composites need are appended; count is how many there are then.
func (t *trueType) subset(keep []taken) (data []byte, count int, err error) {
	keep = slices.Clone(keep)
	index := make(map[uint16]uint16, len(keep))
	most := 1
	for i, x := range keep {
		if x.parts == nil {
			index[x.id] = uint16(i)
		}
		most = max(most, len(x.parts))
	}
	lefts := make([]uint16, 0, len(keep))
	glyf := make([]byte, 0, 128*len(keep))
	loca := make([]byte, 4, 4*len(keep)+64)
	for i := 0; i < len(keep); i++ {
		var g []byte
		var left uint16
		if keep[i].parts != nil {
			var edge int16
			g, edge, err = t.compose(keep[i])
			left = uint16(edge)
		} else {
			g, err = t.glyph(keep[i].id)
			left = t.bearing(keep[i].id)
		}
		if err != nil {
			return nil, 0, err
		}
		lefts = append(lefts, left)
		begin := len(glyf)
		glyf = append(glyf, g...)
		own := glyf[begin:]
		err = parts(own, func(at int) {
			id := binary.BigEndian.Uint16(own[at:])
			to, ok := index[id]
			if !ok {
				to = uint16(len(keep))
				keep, index[id] = append(keep, taken{id: id}), to
			}
			binary.BigEndian.PutUint16(own[at:], to)
		})
		if err != nil || len(keep) > 0xFFFE {
			return nil, 0, errFont
		}
		for len(glyf)%4 != 0 {
			glyf = append(glyf, 0)
		}
		loca = binary.BigEndian.AppendUint32(loca, uint32(len(glyf)))
	}
	var hmtx []byte
	for i, x := range keep {
		hmtx = binary.BigEndian.AppendUint16(hmtx, uint16(t.width(x)))
		hmtx = binary.BigEndian.AppendUint16(hmtx, lefts[i])
	}
	head, hhea, maxp := slices.Clone(t.tables["head"]), slices.Clone(t.tables["hhea"]), slices.Clone(t.tables["maxp"])
	binary.BigEndian.PutUint16(head[50:], 1)
	binary.BigEndian.PutUint32(head[8:], 0)
	binary.BigEndian.PutUint16(hhea[34:], uint16(len(keep)))
	binary.BigEndian.PutUint16(maxp[4:], uint16(len(keep)))
	if len(maxp) >= 32 && most > 1 { // a made glyph may be of several that are composites themselves
		grow := func(at, from int, by int) {
			binary.BigEndian.PutUint16(
				maxp[at:],
				uint16(min(max(int(binary.BigEndian.Uint16(maxp[at:])), int(binary.BigEndian.Uint16(maxp[from:])))*by, 0xFFFF)),
			)
		}
		grow(10, 6, most) // points
		grow(12, 8, most) // contours
		binary.BigEndian.PutUint16(maxp[28:], max(binary.BigEndian.Uint16(maxp[28:]), uint16(most)))
		binary.BigEndian.PutUint16(maxp[30:], binary.BigEndian.Uint16(maxp[30:])+1)
	}
	return assemble(map[string][]byte{
		"cvt ": t.tables["cvt "], "fpgm": t.tables["fpgm"], "prep": t.tables["prep"],
		"glyf": glyf, "head": head, "hhea": hhea, "hmtx": hmtx, "loca": loca, "maxp": maxp,
	}), len(keep), nil
}

func assemble(tables map[string][]byte) []byte {
	var tags []string
	for tag, data := range tables {
		if len(data) > 0 {
			tags = append(tags, tag)
		}
	}
	slices.Sort(tags)
	n := len(tags)
	power := 0
	for 1<<(power+1) <= n {
		power++
	}
	size := 12 + 16*n
	for _, tag := range tags {
		size += len(tables[tag]) + 3
	}
	out := append(make([]byte, 0, size), 0, 1, 0, 0)
	for _, v := range []int{n, 16 << power, power, 16*n - 16<<power} {
		out = binary.BigEndian.AppendUint16(out, uint16(v))
	}
	offset := 12 + 16*n
	for _, tag := range tags {
		data := tables[tag]
		out = append(out, tag...)
		out = binary.BigEndian.AppendUint32(out, checksum(data))
		out = binary.BigEndian.AppendUint32(out, uint32(offset))
		out = binary.BigEndian.AppendUint32(out, uint32(len(data)))
		offset += (len(data) + 3) &^ 3
	}
	headAt := 0
	for _, tag := range tags {
		if tag == "head" {
			headAt = len(out)
		}
		out = append(out, tables[tag]...)
		for len(out)%4 != 0 {
			out = append(out, 0)
		}
	}
	binary.BigEndian.PutUint32(out[headAt+8:], 0xB1B0AFBA-checksum(out))
	return out
}

func checksum(data []byte) uint32 {
	var sum uint32
	for len(data) >= 4 {
		sum += binary.BigEndian.Uint32(data)
		data = data[4:]
	}
	var last [4]byte
	copy(last[:], data)
	return sum + binary.BigEndian.Uint32(last[:])
}
