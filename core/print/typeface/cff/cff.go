// Package cff reads the outlines of OpenType fonts in Adobe's Compact Font Format (Technical Note 5176) as far as a document
// needs them: whether its glyphs are numbered as the font's are, and the same program with the outlines of only some glyphs.
//
// In go a font's CFF table, which may come from anybody, and glyph numbers; out come bytes. Nothing is drawn here.
package cff

import "errors"

// ErrDamaged is the error of a table that is not what it says.
var ErrDamaged = errors.New("the font’s outlines are damaged")

// Program is the outlines of one font.
type Program struct {
	data     []byte
	glyphs   index
	identity bool
}

// index is an INDEX (section 5): objects of any length, one after the other.
type index struct {
	start, base int // of its offsets; the byte before the first object
	count, wide int // how many objects there are, and bytes an offset has
	end         int
}

// Parse reads a CFF table with one font whose glyphs are Type 2 charstrings.
func Parse(data []byte) (*Program, error) {
	if len(data) < 4 || data[0] != 1 {
		return nil, ErrDamaged
	}
	names, err := readIndex(data, int(data[2]))
	if err != nil {
		return nil, err
	}
	tops, err := readIndex(data, names.end)
	if err != nil || tops.count != 1 {
		return nil, ErrDamaged
	}
	top, err := tops.object(data, 0)
	if err != nil {
		return nil, err
	}
	d, err := readDict(top)
	if err != nil {
		return nil, err
	}
	if kind, ok := d[charstringType]; ok && (len(kind) != 1 || kind[0] != 2) {
		return nil, ErrDamaged
	}
	at := d[charStrings]
	if len(at) != 1 {
		return nil, ErrDamaged
	}
	p := &Program{data: data, identity: true}
	if p.glyphs, err = readIndex(data, at[0]); err != nil || p.glyphs.count == 0 {
		return nil, ErrDamaged
	}
	if _, keyed := d[ros]; keyed {
		if p.identity, err = identical(data, d[charset], p.glyphs.count); err != nil {
			return nil, err
		}
	}
	return p, nil
}

// Identity reports whether a document may choose glyphs by their numbers: always in a font without character identifiers of
// its own (ISO 32000-1 section 9.7.4.2), and in one whose identifiers are those numbers.
func (p *Program) Identity() bool { return p.identity }

// Glyphs is how many the font has.
func (p *Program) Glyphs() int { return p.glyphs.count }

// Only is the program with the outlines of the glyphs that are kept and of the one for missing characters; all others are
// empty. Their numbers stay, and so do all places in the table: what is saved is zeros, which packing takes away. A
// program in which a kept glyph is made of others by endchar (Technical Note 5177, appendix C) is given whole.
func (p *Program) Only(keep []uint16) ([]byte, error) {
	kept := make([]bool, p.glyphs.count)
	kept[0] = true
	for _, id := range keep {
		if int(id) < len(kept) {
			kept[id] = true
		}
	}
	out := append([]byte(nil), p.data...)
	to := p.glyphs.base + 1
	for i, keeps := range kept {
		own, err := p.glyphs.object(p.data, i)
		if err != nil {
			return nil, err
		}
		switch {
		case keeps && composed(own):
			return p.data, nil
		case !keeps && len(own) > 0:
			own = []byte{endchar}
		}
		p.glyphs.put(out, i, to-p.glyphs.base)
		if to+len(own) > p.glyphs.end {
			return nil, ErrDamaged // objects that overlap
		}
		to += copy(out[to:], own)
	}
	p.glyphs.put(out, p.glyphs.count, to-p.glyphs.base)
	clear(out[to:p.glyphs.end])
	return out, nil
}

const endchar = 14

// composed reports whether a charstring begins with four numbers or more and endchar: an accent over a letter. Two operators of
// charstrings are numbers here, which is seen only behind the first operator.
func composed(charstring []byte) (is bool) {
	operands(charstring, func(op int, numbers []int) bool { // what is damaged composes nothing
		is = op == endchar && len(numbers) >= 4
		return false
	})
	return is
}

func readIndex(data []byte, start int) (index, error) {
	if start < 0 || start+2 > len(data) {
		return index{}, ErrDamaged
	}
	x := index{count: int(data[start])<<8 | int(data[start+1])}
	if x.count == 0 {
		x.end = start + 2
		return x, nil
	}
	if start+3 > len(data) {
		return index{}, ErrDamaged
	}
	x.wide, x.start = int(data[start+2]), start+3
	x.base = x.start + (x.count+1)*x.wide - 1
	if x.wide < 1 || x.wide > 4 || x.base >= len(data) {
		return index{}, ErrDamaged
	}
	x.end = x.base + x.offset(data, x.count)
	if x.end > len(data) || x.end <= x.base {
		return index{}, ErrDamaged
	}
	return x, nil
}

func (x index) offset(data []byte, i int) (v int) {
	for _, b := range data[x.start+i*x.wide:][:x.wide] {
		v = v<<8 | int(b)
	}
	return v
}

func (x index) put(data []byte, i, v int) {
	at := data[x.start+i*x.wide:][:x.wide]
	for n := len(at) - 1; n >= 0; n-- {
		at[n], v = byte(v), v>>8
	}
}

func (x index) object(data []byte, i int) ([]byte, error) {
	a, b := x.base+x.offset(data, i), x.base+x.offset(data, i+1)
	if a <= x.base || b < a || b > x.end {
		return nil, ErrDamaged
	}
	return data[a:b], nil
}

// Operators of a Top DICT (Technical Note 5176, table 9); those of two bytes are 12 and then the second.
const (
	charset        = 15
	charStrings    = 17
	escape         = 12
	charstringType = escape<<8 | 6
	ros            = escape<<8 | 30
)

// readDict gives the operands of each operator.
func readDict(data []byte) (map[int][]int, error) {
	d := map[int][]int{}
	err := operands(data, func(op int, numbers []int) bool { d[op] = numbers; return true })
	return d, err
}

// operands reads numbers and the operators behind them, as DICTs and the beginnings of charstrings have them, until more says
// no or the data ends. Numbers with a point count as 0.
func operands(data []byte, more func(op int, numbers []int) bool) error {
	var numbers []int
	for at := 0; at < len(data); {
		b := int(data[at])
		need := 1
		switch {
		case b == 28:
			need = 3
		case b == 29, b == 255:
			need = 5
		case b == escape, b >= 247 && b <= 254:
			need = 2
		case b == 30:
			for at+need <= len(data)-1 && data[at+need]&0x0F != 0x0F {
				need++
			}
			need++
		}
		if at+need > len(data) {
			return ErrDamaged
		}
		own := data[at : at+need]
		at += need
		switch {
		case b == 28:
			numbers = append(numbers, int(int16(uint16(own[1])<<8|uint16(own[2]))))
		case b == 29:
			numbers = append(numbers, int(int32(uint32(own[1])<<24|uint32(own[2])<<16|uint32(own[3])<<8|uint32(own[4]))))
		case b == 30, b == 255:
			numbers = append(numbers, 0)
		case b >= 32 && b <= 246:
			numbers = append(numbers, b-139)
		case b >= 247 && b <= 250:
			numbers = append(numbers, (b-247)*256+int(own[1])+108)
		case b >= 251:
			numbers = append(numbers, -(b-251)*256-int(own[1])-108)
		default:
			if b == escape {
				b = escape<<8 | int(own[1])
			}
			if !more(b, numbers) {
				return nil
			}
			numbers = nil
		}
	}
	return nil
}

// identical reports whether a charset (section 13) gives each glyph its own number as its identifier.
func identical(data []byte, at []int, glyphs int) (bool, error) {
	if len(at) != 1 || at[0] <= 2 || at[0] >= len(data) { // the predefined ones are for fonts without identifiers
		return false, ErrDamaged
	}
	format, rest := data[at[0]], data[at[0]+1:]
	wide := map[byte]int{0: 2, 1: 3, 2: 4}[format]
	if wide == 0 {
		return false, ErrDamaged
	}
	for id := 1; id < glyphs; rest = rest[wide:] {
		if len(rest) < wide {
			return false, ErrDamaged
		}
		if int(rest[0])<<8|int(rest[1]) != id {
			return false, nil
		}
		switch id++; format {
		case 1:
			id += int(rest[2])
		case 2:
			id += int(rest[2])<<8 | int(rest[3])
		}
	}
	return true, nil
}
