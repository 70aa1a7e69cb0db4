package pdf

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"

	"github.com/klauspost/compress/zlib"
)

// Behind are pages of PDFs that lie behind those of a document, such as a house's letter paper. They are scaled to the document's pages.
type Behind struct {
	First Behindmost // behind the first page
	Rest  Behindmost // behind all others
}

// Behindmost is a page of a base, nothing where there is no base.
type Behindmost struct {
	Base *Base
	Page int // counted from 0
}

// laid is the object that shows a page behind, and its size.
type laid struct {
	ref           ref
	width, height float64
}

// mostBehind is how large the content of a page behind may be when it is unpacked.
const mostBehind = 32 << 20

var errPacked = errors.New("the page behind is packed in a way that cannot be read; print it into a new PDF and bring that")

// lay adds what lies behind the pages, with all that it speaks of.
func (w *writer) lay(b *Behind) error {
	if b == nil {
		return nil
	}
	shifts := map[*Base]int{}
	for i, x := range []Behindmost{b.First, b.Rest} {
		if x.Base == nil || x.Page >= len(x.Base.Pages) {
			continue
		}
		shift, known := shifts[x.Base]
		if !known {
			shift = len(w.objects)
			shifts[x.Base] = shift
			for _, o := range x.Base.Objects[:x.Base.Lasting] {
				if len(o.Body) == 0 { // pages and what is written anew: nothing speaks of them here
					o.Body = []byte("null")
				}
				w.objects = append(w.objects, object{body: renumbered(o.Body, shift), stream: o.Stream})
			}
		}
		var err error
		if w.behind[i], err = w.sheetOf(x, shift); err != nil {
			return err
		}
	}
	return nil
}

// sheetOf adds a page of a base as a form object (section 8.10).
func (w *writer) sheetOf(x Behindmost, shift int) (laid, error) {
	page := &x.Base.Pages[x.Page]
	content, err := x.Base.contents(page)
	if err != nil {
		return laid{}, err
	}
	resources := string(renumbered([]byte(page.Resources+resourceNames{}.join(page.Named)), shift))
	m := page.Matrix
	det := m[0]*m[3] - m[1]*m[2]
	if det == 0 {
		return laid{}, errPacked
	}
	// The page's matrix brings points as they are seen to its own: the form needs the way back
	back := [6]float64{m[3] / det, -m[1] / det, -m[2] / det, m[0] / det, (m[2]*m[5] - m[3]*m[4]) / det, (m[1]*m[4] - m[0]*m[5]) / det}
	x1, y1 := m[4], m[5]
	x2, y2 := m[0]*page.Width+m[2]*page.Height+m[4], m[1]*page.Width+m[3]*page.Height+m[5]
	r := w.stream(fmt.Sprintf("/Type /XObject /Subtype /Form /BBox [%s %s %s %s] /Matrix [%s] /Resources <<%s>>",
		num(min(x1, x2)), num(min(y1, y2)), num(max(x1, x2)), num(max(y1, y2)), appendMatrix(nil, back), resources), content)
	return laid{r, page.Width, page.Height}, nil
}

// contents are the instructions of a page, unpacked.
func (b *Base) contents(page *BasePage) ([]byte, error) {
	var out []byte
	for _, n := range page.Contents {
		o := b.Objects[n-1]
		data := o.Stream
		switch filters := filterOf(o.Body); filters {
		case "":
		case "FlateDecode":
			r, err := zlib.NewReader(bytes.NewReader(data))
			if err != nil {
				return nil, errPacked
			}
			if data, err = io.ReadAll(io.LimitReader(r, mostBehind+1)); err != nil {
				return nil, errPacked
			}
		default:
			return nil, errPacked
		}
		if out = append(append(out, data...), '\n'); len(out) > mostBehind {
			return nil, errPacked
		}
	}
	return out, nil
}

// filterOf is the filter of a stream by its dictionary: empty for none, and something else than a name where it is not simple.
func filterOf(dictionary []byte) string {
	_, rest, ok := bytes.Cut(dictionary, []byte("/Filter"))
	if !ok {
		return ""
	}
	if bytes.Contains(dictionary, []byte("/Predictor")) {
		return "predicted"
	}
	rest = bytes.TrimLeft(rest, " [/")
	if end := bytes.IndexAny(rest, " ]/>"); end >= 0 {
		if more := bytes.TrimLeft(rest[end:], " "); bytes.HasPrefix(more, []byte("/")) && bytes.Contains(dictionary, []byte("/Filter [")) {
			return "several"
		}
		return string(rest[:end])
	}
	return string(rest)
}

// renumbered moves the numbers of the objects that a body speaks of. What stands in its strings stays.
func renumbered(body []byte, shift int) []byte {
	if shift == 0 {
		return body
	}
	out := make([]byte, 0, len(body)+32)
	for i := 0; i < len(body); {
		switch c := body[i]; {
		case c == '(':
			end := StringEnd(body, i)
			out = append(out, body[i:end]...)
			i = end
		case c >= '0' && c <= '9' && (i == 0 || !regular(body[i-1])):
			number, end := digitsAt(body, i)
			if tail, ok := refersAt(body, end); ok {
				n, err := strconv.Atoi(string(number))
				if err == nil {
					out = strconv.AppendInt(out, int64(n+shift), 10)
					out = append(out, body[end:tail]...)
					i = tail
					continue
				}
			}
			out = append(out, number...)
			i = end
		default:
			out = append(out, c)
			i++
		}
	}
	return out
}

// regular reports whether a character goes on with what stands before it (section 7.2.2).
func regular(c byte) bool { return !strings.ContainsRune(" \t\r\n\f\x00()<>[]{}/%", rune(c)) }

func digitsAt(b []byte, i int) (digits []byte, end int) {
	end = i
	for end < len(b) && b[end] >= '0' && b[end] <= '9' {
		end++
	}
	return b[i:end], end
}

// refersAt reports whether a generation and an R follow, and where they end.
func refersAt(b []byte, i int) (end int, ok bool) {
	start := i
	for i < len(b) && b[i] == ' ' {
		i++
	}
	if i == start {
		return 0, false
	}
	generation, i := digitsAt(b, i)
	if len(generation) == 0 || i >= len(b) || b[i] != ' ' {
		return 0, false
	}
	for i < len(b) && b[i] == ' ' {
		i++
	}
	if i < len(b) && b[i] == 'R' && (i+1 == len(b) || !regular(b[i+1])) {
		return i + 1, true
	}
	return 0, false
}

// StringEnd is where a literal string of a file or of a page's content ends that begins at i (section 7.3.4.2).
func StringEnd[T string | []byte](b T, i int) int {
	depth := 0
	for ; i < len(b); i++ {
		switch b[i] {
		case '\\':
			i++
		case '(':
			depth++
		case ')':
			if depth--; depth == 0 {
				return i + 1
			}
		}
	}
	return len(b)
}

// under paints what lies behind a page, as a part of the page and not of its words.
func (w *writer) under(b []byte, index int) []byte {
	x := w.behind[min(index, 1)]
	if x.ref == 0 || x.width <= 0 || x.height <= 0 {
		return b
	}
	p := &w.pages.Pages[index]
	b = append(b, "/Artifact <</Type /Background>> BDC\nq "...)
	for _, v := range [6]float64{p.Width / x.width, 0, 0, p.Height / x.height, 0, 0} {
		b = append(strconv.AppendFloat(b, v, 'f', -1, 32), ' ')
	}
	return append(b, "cm "+behindName(min(index, 1))+" Do Q\nEMC\n"...)
}

func behindName(i int) string { return [2]string{"/PaperFirst", "/PaperRest"}[i] }
