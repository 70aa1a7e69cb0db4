package foreign

import (
	"bytes"
	"unicode/utf16"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/model"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"
)

// Objects reads objects of an opened file. What is not of the asked type is as if it were not there.
type Objects struct{ *model.Context }

// Object is what a reference speaks of, or the object itself.
func (r Objects) Object(o types.Object) types.Object {
	for range 8 { // a reference to a reference
		ref, ok := o.(types.IndirectRef)
		if !ok {
			return o
		}
		var err error
		if o, err = r.Context.Dereference(ref); err != nil {
			return nil
		}
	}
	return nil
}

// Dict is a dictionary, also that of a stream.
func (r Objects) Dict(o types.Object) types.Dict {
	switch d := r.Object(o).(type) {
	case types.Dict:
		return d
	case types.StreamDict:
		return d.Dict
	}
	return nil
}

// Array is an array.
func (r Objects) Array(o types.Object) types.Array {
	a, _ := r.Object(o).(types.Array)
	return a
}

// Name is a name, without the escapes in it.
func (r Objects) Name(o types.Object) string {
	n, _ := r.Object(o).(types.Name)
	if s, err := types.DecodeName(string(n)); err == nil {
		return s
	}
	return string(n)
}

// Number is a number, or 0.
func (r Objects) Number(o types.Object) float64 {
	switch v := r.Object(o).(type) {
	case types.Integer:
		return float64(v)
	case types.Float:
		return float64(v)
	}
	return 0
}

// Numbers are those of an array; nil where there is none.
func (r Objects) Numbers(o types.Object) []float64 {
	a := r.Array(o)
	if a == nil {
		return nil
	}
	out := make([]float64, len(a))
	for i, v := range a {
		out[i] = r.Number(v)
	}
	return out
}

// Text is a text string (ISO 32000-1, 7.9.2.2).
func (r Objects) Text(o types.Object) string {
	switch s := r.Object(o).(type) {
	case types.StringLiteral:
		if b, err := types.Unescape(string(s)); err == nil {
			return Text(b)
		}
	case types.HexLiteral:
		// The library reads escapes in it, of which there are none (ISO 32000-1, 7.3.4.3).
		if b, err := s.Bytes(); err == nil {
			return Text(b)
		}
	}
	return ""
}

// Box is a rectangle with its lower left corner first (7.9.5).
func (r Objects) Box(o types.Object) (b [4]float64, ok bool) {
	v := r.Numbers(o)
	if len(v) != 4 {
		return b, false
	}
	return [4]float64{min(v[0], v[2]), min(v[1], v[3]), max(v[0], v[2]), max(v[1], v[3])}, true
}

// NumberOf is the number of the object that is spoken of, or 0.
func NumberOf(o types.Object) int {
	if ref, ok := o.(types.IndirectRef); ok {
		return int(ref.ObjectNumber)
	}
	return 0
}

// Text reads the bytes of a text string: UTF-16BE, UTF-8, or PDFDocEncoding (ISO 32000-2, 7.9.2.2 and annex D.2).
func Text(b []byte) string {
	switch {
	case bytes.HasPrefix(b, []byte{0xFE, 0xFF}):
		var units []uint16
		for i := 2; i+1 < len(b); i += 2 {
			units = append(units, uint16(b[i])<<8|uint16(b[i+1]))
		}
		return string(utf16.Decode(units))
	case bytes.HasPrefix(b, []byte{0xEF, 0xBB, 0xBF}):
		return string(b[3:])
	}
	runes := make([]rune, len(b))
	for i, c := range b {
		switch {
		case c >= 0x18 && c < 0x20:
			runes[i] = accents[c-0x18]
		case c >= 0x80 && c <= 0xA0:
			runes[i] = signs[c-0x80]
		default:
			runes[i] = rune(c)
		}
	}
	return string(runes)
}

// What PDFDocEncoding has where Latin-1 has controls, and the euro in the place of the no-break space. Two places stand for nothing.
var (
	accents = []rune("\u02D8\u02C7\u02C6\u02D9\u02DD\u02DB\u02DA\u02DC")
	signs   = []rune("•†‡…—–ƒ⁄‹›−‰„“”‘’‚™ﬁﬂŁŒŠŸŽıłœšž\uFFFD€")
)
