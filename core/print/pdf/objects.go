package pdf

import (
	"bytes"
	"crypto/sha256"
	"fmt"
	"math"
	"runtime"
	"slices"
	"strconv"
	"strings"
	"sync"
	"unicode"
	"unicode/utf16"

	"github.com/klauspost/compress/zlib"
)

// file collects numbered objects and writes them out: streams one by one, all others
// packed into object streams (ISO 32000-1 section 7.5.7), with a cross-reference stream
// (section 7.5.8).
type file struct {
	objects []object // object n is objects[n-1]
}

type object struct {
	body   []byte
	stream []byte      // nil for objects that are no streams
	packed chan []byte // of a stream that is packed beside; body has its entries until then
}

// ref is an object's number, written “n 0 R”.
type ref int

func (r ref) String() string { return strconv.Itoa(int(r)) + " 0 R" }

func (r ref) write(b []byte) []byte { return append(strconv.AppendInt(b, int64(r), 10), " 0 R"...) }

// reserve takes the next object number; set or stream must fill it.
func (f *file) reserve() ref {
	f.objects = append(f.objects, object{})
	return ref(len(f.objects))
}

func (f *file) set(r ref, format string, args ...any) {
	f.objects[r-1].body = fmt.Appendf(nil, format, args...)
}

func (f *file) setBytes(r ref, body []byte) { f.objects[r-1].body = body }

func (f *file) add(format string, args ...any) ref {
	r := f.reserve()
	f.set(r, format, args...)
	return r
}

// beside has a place for each processor but the writer's own. Where all are taken a writer packs itself, so that many documents at
// once take no longer together.
var beside = make(chan struct{}, runtime.GOMAXPROCS(0)-1)

// worthBeside is how many bytes take longer to pack than to hand over.
const worthBeside = 2 << 10

// stream adds a stream with the entries of its dictionary. Data is deflated, large ones beside what is written next: it must not
// change any more.
func (f *file) stream(entries string, data []byte) ref {
	entries += " /Filter /FlateDecode"
	if len(data) >= worthBeside {
		select {
		case beside <- struct{}{}:
			packed := make(chan []byte, 1)
			go func() {
				defer func() { <-beside }()
				packed <- deflate(data)
			}()
			f.objects = append(f.objects, object{body: []byte(entries), packed: packed})
			return ref(len(f.objects))
		default:
		}
	}
	return f.rawStream(entries, deflate(data))
}

// rawStream adds a stream whose data is already in the form the entries say.
func (f *file) rawStream(entries string, data []byte) ref {
	f.objects = append(f.objects, streamOf(entries, data))
	return ref(len(f.objects))
}

func streamOf[T string | []byte](entries T, data []byte) object {
	return object{body: fmt.Appendf(nil, "<<%s /Length %d>>", entries, len(data)), stream: data}
}

// settle waits for the streams that are packed beside.
func (f *file) settle() {
	for i := range f.objects {
		if o := &f.objects[i]; o.packed != nil {
			*o = streamOf(o.body, <-o.packed)
		}
	}
}

// packers are shared, since each holds tables of a megabyte.
var packers = sync.Pool{New: func() any {
	w, err := zlib.NewWriterLevel(nil, 1)
	if err != nil {
		panic(err) // the level is a constant
	}
	return w
}}

func deflate(data []byte) []byte {
	var b bytes.Buffer
	b.Grow(len(data)/2 + 64)
	w := packers.Get().(*zlib.Writer)
	defer packers.Put(w)
	w.Reset(&b)
	w.Write(data) // writing to a buffer cannot fail
	w.Close()
	return b.Bytes()
}

// squeeze packs as well as can be, which takes several times as long.
func squeeze(data []byte) []byte {
	var b bytes.Buffer
	w, err := zlib.NewWriterLevel(&b, zlib.BestCompression)
	if err != nil {
		return deflate(data)
	}
	w.Write(data) // writing to a buffer cannot fail
	w.Close()
	return b.Bytes()
}

const perObjectStream = 200

// bytes writes the file with the catalog and information objects given. With a locker every stream is encrypted; all
// other objects lie in object streams, and are so too.
func (f *file) bytes(catalog, info ref, l *locker) ([]byte, error) {
	var out bytes.Buffer
	version := "1.7"
	if l != nil {
		version = "2.0" // the first with AES-256 of revision 6
	}
	out.WriteString("%PDF-" + version + "\n%\xE2\xE3\xCF\xD3\n")
	places := make([][3]int, len(f.objects)+1) // type, offset or container, generation or index
	var plain []int
	for i := range f.objects {
		if o := &f.objects[i]; o.stream == nil && o.packed == nil {
			plain = append(plain, i+1)
		}
	}
	for len(plain) > 0 {
		n := min(len(plain), perObjectStream)
		container := f.pack(plain[:n])
		places = append(places, [3]int{})
		for i, id := range plain[:n] {
			places[id] = [3]int{2, int(container), i}
		}
		plain = plain[n:]
	}
	f.settle()
	size := 1 << 10
	for _, o := range f.objects {
		if o.stream != nil {
			size += len(o.body) + len(o.stream) + 64
		}
	}
	out.Grow(size)
	for i := range f.objects {
		if o := &f.objects[i]; o.stream != nil {
			places[i+1] = [3]int{1, out.Len(), 0}
			body, data := o.body, o.stream
			if l != nil {
				locked, err := l.lock(data)
				if err != nil {
					return nil, err
				}
				body = bytes.Replace(body, fmt.Appendf(nil, "/Length %d>>", len(data)), fmt.Appendf(nil, "/Length %d>>", len(locked)), 1)
				data = locked
			}
			fmt.Fprintf(&out, "%d 0 obj\n%s\nstream\n", i+1, body)
			out.Write(data)
			out.WriteString("\nendstream\nendobj\n")
		}
	}
	encrypt := ""
	if l != nil {
		id := len(f.objects) + 1
		f.objects = append(f.objects, object{})
		places = append(places, [3]int{1, out.Len(), 0})
		fmt.Fprintf(&out, "%d 0 obj\n%s\nendobj\n", id, l.dict)
		encrypt = " /Encrypt " + ref(id).String()
	}
	f.crossReference(&out, places, catalog, info, encrypt)
	return out.Bytes(), nil
}

// classic writes the file as PDF 1.4: each object by itself, with a cross-reference table (section 7.5.4).
func (f *file) classic(catalog, info ref) []byte {
	f.settle()
	var out, table bytes.Buffer
	out.WriteString("%PDF-1.4\n%\xE2\xE3\xCF\xD3\n")
	fmt.Fprintf(&table, "xref\n0 %d\n0000000000 65535 f \n", len(f.objects)+1)
	for i, o := range f.objects {
		fmt.Fprintf(&table, "%010d 00000 n \n", out.Len())
		fmt.Fprintf(&out, "%d 0 obj\n%s\n", i+1, o.body)
		if o.stream != nil {
			out.WriteString("stream\n")
			out.Write(o.stream)
			out.WriteString("\nendstream\n")
		}
		out.WriteString("endobj\n")
	}
	id, start := identity(out.Bytes()), out.Len()
	out.Write(table.Bytes())
	fmt.Fprintf(
		&out, "trailer\n<</Size %d /Root %s /Info %s /ID [%s %s]>>\nstartxref\n%d\n%%%%EOF\n", len(f.objects)+1, catalog, info, id, id,
		start,
	)
	return out.Bytes()
}

// identity is a file's identifier, made of what it holds (section 14.4 asks for a digest and names MD5 as one; processors do
// SHA-256 in half the time).
func identity(data []byte) string {
	sum := sha256.Sum256(data)
	return fmt.Sprintf("<%X>", sum[:16])
}

func (f *file) pack(ids []int) ref {
	var all []byte
	bodies := 0
	for _, id := range ids {
		all = append(strconv.AppendInt(append(strconv.AppendInt(all, int64(id), 10), ' '), int64(bodies), 10), ' ')
		bodies += len(f.objects[id-1].body) + 1
	}
	first := len(all)
	all = slices.Grow(all, bodies)
	for _, id := range ids {
		all = append(append(all, f.objects[id-1].body...), '\n')
	}
	return f.stream(fmt.Sprintf("/Type /ObjStm /N %d /First %d", len(ids), first), all)
}

func (f *file) crossReference(out *bytes.Buffer, places [][3]int, catalog, info ref, encrypt string) {
	start := out.Len()
	self := len(f.objects) + 1
	places = append(places, [3]int{1, start, 0})
	var table bytes.Buffer
	for i, p := range places {
		if i == 0 {
			table.Write([]byte{0, 0, 0, 0, 0, 0xFF, 0xFF})
			continue
		}
		table.Write([]byte{byte(p[0]), byte(p[1] >> 24), byte(p[1] >> 16), byte(p[1] >> 8), byte(p[1]), byte(p[2] >> 8), byte(p[2])})
	}
	id := identity(out.Bytes())
	data := deflate(table.Bytes())
	fmt.Fprintf(out, "%d 0 obj\n<</Type /XRef /Size %d /W [1 4 2] /Root %s /Info %s%s /ID [%s %s] /Filter /FlateDecode /Length "+
		"%d>>\nstream\n",
		self, self+1, catalog, info, encrypt, id, id, len(data))
	out.Write(data)
	fmt.Fprintf(out, "\nendstream\nendobj\nstartxref\n%d\n%%%%EOF\n", start)
}

// TextString writes a text string object (ISO 32000-1 section 7.9.2.2), UTF-16BE unless ASCII.
func TextString(s string) string {
	var b strings.Builder
	ascii := true
	for i := range len(s) {
		if s[i] < ' ' || s[i] > '~' {
			ascii = false
		}
	}
	if ascii {
		b.WriteByte('(')
		for i := range len(s) {
			if s[i] == '(' || s[i] == ')' || s[i] == '\\' {
				b.WriteByte('\\')
			}
			b.WriteByte(s[i])
		}
		b.WriteByte(')')
		return b.String()
	}
	b.WriteString("<FEFF")
	b.Write(appendUTF16(nil, s))
	b.WriteByte('>')
	return b.String()
}

// appendUTF16 writes text in hexadecimal UTF-16BE.
func appendUTF16(b []byte, text string) []byte {
	for _, r := range text {
		if high, low := utf16.EncodeRune(r); high != unicode.ReplacementChar {
			b = appendHex(appendHex(b, uint16(high)), uint16(low))
		} else {
			b = appendHex(b, uint16(r))
		}
	}
	return b
}

func appendHex(b []byte, v uint16) []byte {
	const digits = "0123456789ABCDEF"
	return append(b, digits[v>>12], digits[v>>8&15], digits[v>>4&15], digits[v&15])
}

// num writes a number with at most three decimals.
func num(v float64) string {
	return string(appendNum(nil, v))
}

// appendNum writes a number with at most three decimals. It counts in thousandths, which is three times as fast as
// writing a float, and there are thousands in a document.
func appendNum(b []byte, v float64) []byte {
	n := int64(math.Round(v * 1000))
	if n < 0 {
		b, n = append(b, '-'), -n
	}
	b = strconv.AppendInt(b, n/1000, 10)
	n %= 1000
	if n == 0 {
		return b
	}
	b = append(b, '.', byte('0'+n/100))
	if n %= 100; n > 0 {
		b = append(b, byte('0'+n/10))
		if n %= 10; n > 0 {
			b = append(b, byte('0'+n))
		}
	}
	return b
}
