package ground

import (
	"errors"
	"fmt"
	"slices"
	"strconv"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

	"amberseal/core/foreign"
	"amberseal/core/print/pdf"
)

var errTooMany = fmt.Errorf("the PDF has more than %d objects", maxObjects)

// add adds an object and gives its number.
func (t *taking) add(body []byte) int {
	t.out.Base.Objects = append(t.out.Base.Objects, pdf.Object{Body: body})
	return len(t.out.Base.Objects)
}

// reserve gives an object its new number, and notes it for being written.
func (t *taking) reserve(number int) int {
	if n, ok := t.numbers[number]; ok {
		return n
	}
	n := t.add(nil)
	t.numbers[number] = n
	t.queue, t.queued = append(t.queue, number), append(t.queued, n)
	return n
}

// drain writes the objects that were spoken of, and those that they speak of.
func (t *taking) drain() error {
	for len(t.queue) > 0 {
		if len(t.out.Base.Objects) > maxObjects {
			return errTooMany
		}
		number, n := t.queue[0], t.queued[0]
		t.queue, t.queued = t.queue[1:], t.queued[1:]
		o, err := t.Dereference(*types.NewIndirectRef(number, 0))
		if err != nil {
			o = nil
		}
		if s, ok := o.(types.StreamDict); ok {
			t.stream(n, s)
			continue
		}
		t.out.Base.Objects[n-1].Body = t.write(nil, o, 0)
	}
	return nil
}

// stream writes a stream. Strings of its dictionary become objects of their own, since a protected file keeps such ones elsewhere.
func (t *taking) stream(n int, s types.StreamDict) {
	body := []byte("<<")
	for _, key := range keys(s.Dict) {
		switch key {
		case "Length", "PieceInfo", "Metadata", "LastModified", "OPI", "F", "FFilter", "FDecodeParms":
			continue
		}
		body = append(append(append(body, " /"...), types.EncodeName(key)...), ' ')
		if o := s.Dict[key]; holdsString(o, 0) {
			apart := t.add(nil)
			t.out.Base.Objects[apart-1].Body = t.write(nil, o, 0)
			body = append(strconv.AppendInt(body, int64(apart), 10), " 0 R"...)
			continue
		}
		body = t.write(body, s.Dict[key], 0)
	}
	data := s.Raw
	if data == nil {
		data = []byte{}
	}
	t.out.Base.Objects[n-1] = pdf.Object{Body: fmt.Appendf(body, " /Length %d>>", len(data)), Stream: slices.Clone(data)}
}

func holdsString(o types.Object, depth int) bool {
	switch o := o.(type) {
	case types.StringLiteral, types.HexLiteral:
		return true
	case types.Array:
		return depth < maxDepth && slices.ContainsFunc(o, func(x types.Object) bool { return holdsString(x, depth+1) })
	case types.Dict:
		for _, x := range o {
			if depth < maxDepth && holdsString(x, depth+1) {
				return true
			}
		}
	}
	return false
}

func keys(d types.Dict) []string {
	out := make([]string, 0, len(d))
	for k := range d {
		out = append(out, k)
	}
	slices.Sort(out)
	return out
}

// errNested is the panic of objects that are nested too deep; Take makes an error of it.
var errNested = errors.New("its objects are nested too deep")

// write writes an object with the new numbers of what it speaks of. Actions that do more than lead somewhere are left out.
func (t *taking) write(b []byte, o types.Object, depth int) []byte {
	if depth > maxDepth {
		panic(errNested)
	}
	switch o := o.(type) {
	case nil:
		return append(b, "null"...)
	case types.IndirectRef:
		number := foreign.NumberOf(o)
		if t.withheld[number] || t.nothing(number) {
			return append(b, "null"...)
		}
		return append(strconv.AppendInt(b, int64(t.reserve(number)), 10), " 0 R"...)
	case types.Dict:
		if t.acts(o) {
			t.actions = true
			return append(b, "null"...)
		}
		return append(t.entries(append(b, "<<"...), o, depth), ">>"...)
	case types.Array:
		b = append(b, '[')
		for i, x := range o {
			if i > 0 {
				b = append(b, ' ')
			}
			b = t.write(b, x, depth+1)
		}
		return append(b, ']')
	case types.StreamDict: // which is never a part of another object
		return append(b, "null"...)
	case types.Float:
		return strconv.AppendFloat(b, float64(o), 'f', -1, 64)
	default:
		return append(b, o.PDFString()...)
	}
}

// nothing reports whether an object is not there.
func (t *taking) nothing(number int) bool {
	e, ok := t.Table[number]
	return !ok || e == nil || e.Free
}

// entries writes what stands between the signs of a dictionary, without some of it.
func (t *taking) entries(b []byte, d types.Dict, depth int, without ...string) []byte {
	for _, key := range keys(d) {
		if slices.Contains(without, key) {
			continue
		}
		b = append(append(append(b, " /"...), types.EncodeName(key)...), ' ')
		b = t.write(b, d[key], depth+1)
	}
	return b
}

// acts reports whether a dictionary is an action that does more than lead to a page or an address (ISO 32000-1, 12.6.4).
func (t *taking) acts(d types.Dict) bool {
	if d["S"] == nil || d["P"] != nil { // what has a parent is an element of the structure
		return false
	}
	switch t.Name(d["S"]) {
	case "JavaScript", "Launch", "ImportData", "SubmitForm", "ResetForm", "Rendition", "Movie", "Sound", "RichMediaExecute", "GoToE",
		"GoToR",
		"Hide", "SetOCGState", "Trans", "GoTo3DView":
		return true
	}
	return false
}
