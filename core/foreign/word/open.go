// Package word reads word-processor files (.docx, ISO/IEC 29500) that came from anybody, finds what is to be filled in them, and fills
// it. Whatever is not filled stays as it was: parts that nobody touched are copied as they lie in the package.
//
// A File is read once and kept; it may be filled by many goroutines at once. The package reads no file and asks nobody outside.
package word

import (
	"archive/zip"
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"path"
	"slices"
	"strings"

	"github.com/beevik/etree"
)

// Limits of a file that is opened.
const (
	MaxBytes    = 20 << 20
	maxPart     = 32 << 20
	maxUnpacked = 100 << 20
	maxParts    = 2_000
	maxRatio    = 200 // of a part's size to its packed size
	maxElements = 600_000
	maxDepth    = 256
)

// Unreadable is the error of a file that is not opened, with the reason as a sentence.
type Unreadable struct{ Reason string }

func (u Unreadable) Error() string { return u.Reason }

// File is an opened word-processor file.
type File struct {
	zip     *zip.Reader
	members map[string]*zip.File // by name without the leading slash
	types   contentTypes
	main    string          // the name of the part with the body
	stories []*story        // the body first, then headers, footers, notes
	core    *etree.Document // docProps/core.xml, nil where there is none
	coreAt  string
	rels    map[string]relationships // by the part whose they are
	left    int                      // elements that may still be read
	cleaned map[string][]byte        // parts that are written other than they lie in the package

	styles, numbering, theme, settings *etree.Document // nil where the file has none
	listStyles                         map[string]bool // whose paragraphs are items of lists
}

// story is a part with words in it.
type story struct {
	name string
	kind storyKind
	tree *etree.Document
}

type storyKind string

const (
	bodyStory   storyKind = "body"
	headerStory storyKind = "header"
	footerStory storyKind = "footer"
	notesStory  storyKind = "notes"
)

// Open reads a file within the limits. The error is Unreadable.
func Open(data []byte) (*File, error) {
	if len(data) > MaxBytes {
		return nil, Unreadable{fmt.Sprintf("The file has more than %d MB.", MaxBytes>>20)}
	}
	if bytes.HasPrefix(data, []byte{0xD0, 0xCF, 0x11, 0xE0}) { // a compound file: an older format, or one locked with a password
		return nil, Unreadable{"The file is of an older format or locked with a password. Open it in your word processor, take the " +
			"password " +
			"out, and save it as .docx."}
	}
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return nil, Unreadable{"This is no .docx file, or it is damaged: it cannot be unpacked."}
	}
	f := &File{zip: z, members: map[string]*zip.File{}, rels: map[string]relationships{}, left: maxElements}
	if err := f.list(); err != nil {
		return nil, err
	}
	if err := f.read(); err != nil {
		return nil, err
	}
	return f, nil
}

// list looks at the package's members before any is unpacked.
func (f *File) list() error {
	if len(f.zip.File) > maxParts {
		return Unreadable{fmt.Sprintf("The file has more than %d parts.", maxParts)}
	}
	var all uint64
	for _, m := range f.zip.File {
		name := strings.TrimPrefix(m.Name, "/")
		if strings.HasSuffix(name, "/") {
			continue
		}
		if name != path.Clean(name) || strings.HasPrefix(name, "../") || strings.ContainsAny(name, "\\:") {
			return Unreadable{fmt.Sprintf("The file holds a part with the name “%s”, which leads outside of it.", m.Name)}
		}
		if _, twice := f.members[name]; twice {
			return Unreadable{fmt.Sprintf("The file holds the part “%s” twice.", name)}
		}
		if m.Flags&1 != 0 {
			return Unreadable{"The file is locked with a password. Take the password out and bring it again."}
		}
		if m.Method != zip.Store && m.Method != zip.Deflate {
			return Unreadable{fmt.Sprintf("The part “%s” is packed in a way that is not read.", name)}
		}
		if all += m.UncompressedSize64; m.UncompressedSize64 > maxPart || all > maxUnpacked ||
			m.UncompressedSize64 > 1<<20 && m.UncompressedSize64 > maxRatio*max(m.CompressedSize64, 1) {
			return Unreadable{"The file is far larger unpacked than it looks; it is not opened."}
		}
		f.members[name] = m
	}
	return nil
}

// bytes unpacks a part.
func (f *File) bytes(name string) ([]byte, error) {
	m := f.members[name]
	if m == nil {
		return nil, Unreadable{fmt.Sprintf("The file lacks its part “%s”.", name)}
	}
	r, err := m.Open()
	if err != nil {
		return nil, Unreadable{fmt.Sprintf("The part “%s” cannot be unpacked.", name)}
	}
	defer r.Close()
	data, err := io.ReadAll(io.LimitReader(r, int64(m.UncompressedSize64)+1))
	if err != nil || uint64(len(data)) != m.UncompressedSize64 {
		return nil, Unreadable{fmt.Sprintf("The part “%s” is damaged.", name)}
	}
	return data, nil
}

// parse reads a part's XML; its known names get the prefixes that this package speaks of.
func (f *File) parse(name string) (*etree.Document, error) {
	data, err := f.bytes(name)
	if err != nil {
		return nil, err
	}
	return f.parsed(name, data)
}

func (f *File) parsed(name string, data []byte) (*etree.Document, error) {
	if bytes.Contains(data, []byte("<!DOCTYPE")) || bytes.Contains(data, []byte("<!ENTITY")) {
		return nil, Unreadable{fmt.Sprintf("The part “%s” declares a document type, which no word processor writes.", name)}
	}
	// Elements are counted before they are read: each takes hundreds of bytes.
	if f.left -= bytes.Count(data, []byte("<")) - bytes.Count(data, []byte("</")); f.left < 0 {
		return nil, Unreadable{"The file has too many pieces of text to be read: tables of hundreds of thousands of cells, perhaps."}
	}
	d := etree.NewDocument()
	d.ReadSettings = etree.ReadSettings{MaxDepth: maxDepth, CharsetReader: charset}
	d.WriteSettings = etree.WriteSettings{CanonicalText: true, CanonicalAttrVal: true}
	if err := d.ReadFromBytes(data); err != nil {
		if errors.Is(err, etree.ErrMaxDepth) {
			return nil, Unreadable{fmt.Sprintf("The part “%s” is nested more than %d deep.", name, maxDepth)}
		}
		if x, ok := errors.AsType[*xml.SyntaxError](err); ok {
			return nil, Unreadable{fmt.Sprintf("The part “%s” is damaged in line %d.", name, x.Line)}
		}
		return nil, Unreadable{fmt.Sprintf("The part “%s” is damaged.", name)}
	}
	if d.Root() == nil {
		return nil, Unreadable{fmt.Sprintf("The part “%s” is empty.", name)}
	}
	rename(d.Root())
	return d, nil
}

func charset(label string, r io.Reader) (io.Reader, error) {
	if strings.EqualFold(label, "utf-8") || strings.EqualFold(label, "us-ascii") {
		return r, nil
	}
	return nil, fmt.Errorf("text of the kind %s is not read", label)
}

// prefixes are how the package calls the namespaces, transitional and strict (ISO/IEC 29500-1 and -4, annex A), and the extensions that
// writers add.
var prefixes = map[string]string{
	"http://schemas.openxmlformats.org/wordprocessingml/2006/main":           "w",
	"http://purl.oclc.org/ooxml/wordprocessingml/main":                       "w",
	"http://schemas.openxmlformats.org/officeDocument/2006/relationships":    "r",
	"http://purl.oclc.org/ooxml/officeDocument/relationships":                "r",
	"http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing": "wp",
	"http://purl.oclc.org/ooxml/drawingml/wordprocessingDrawing":             "wp",
	"http://schemas.openxmlformats.org/drawingml/2006/main":                  "a",
	"http://purl.oclc.org/ooxml/drawingml/main":                              "a",
	"http://schemas.openxmlformats.org/drawingml/2006/picture":               "pic",
	"http://purl.oclc.org/ooxml/drawingml/picture":                           "pic",
	"http://schemas.openxmlformats.org/markup-compatibility/2006":            "mc",
	"http://schemas.microsoft.com/office/word/2010/wordml":                   "w14",
	"http://schemas.microsoft.com/office/word/2012/wordml":                   "w15",
	"http://schemas.microsoft.com/office/word/2010/wordprocessingShape":      "wps",
	"urn:schemas-microsoft-com:vml":                                          "v",
	"urn:schemas-microsoft-com:office:office":                                "o",
	"http://schemas.openxmlformats.org/officeDocument/2006/math":             "m",
	"http://purl.oclc.org/ooxml/officeDocument/math":                         "m",
}

// rename gives known names the prefixes of this package where a writer chose others.
func rename(root *etree.Element) {
	type scope map[string]string // what a prefix of the file is called here
	var walk func(e *etree.Element, s scope)
	walk = func(e *etree.Element, s scope) {
		var own scope
		for _, a := range e.Attr {
			if a.Space != "xmlns" && (a.Space != "" || a.Key != "xmlns") {
				continue
			}
			from := a.Key
			if a.Space == "" {
				from = ""
			}
			to, known := prefixes[a.Value]
			if !known {
				to = from
			}
			if to != from || s[from] != "" {
				if own == nil {
					own = scope{}
					for k, v := range s {
						own[k] = v
					}
				}
				if own[from] = to; to == from {
					delete(own, from)
				}
			}
		}
		if own != nil {
			s = own
		}
		if len(s) > 0 {
			declare(e, s)
		}
		for _, c := range e.Child {
			if c, ok := c.(*etree.Element); ok {
				walk(c, s)
			}
		}
	}
	walk(root, nil)
}

// declare renames one element and its attributes.
func declare(e *etree.Element, s map[string]string) {
	if to, ok := s[e.Space]; ok {
		e.Space = to
	}
	for i := range e.Attr {
		a := &e.Attr[i]
		switch {
		case a.Space == "xmlns":
			if to, ok := s[a.Key]; ok {
				a.Key = to
			}
		case a.Space == "" && a.Key == "xmlns":
			if to, ok := s[""]; ok {
				a.Space, a.Key = "xmlns", to
			}
		case a.Space != "":
			if to, ok := s[a.Space]; ok {
				a.Space = to
			}
		}
	}
	e.Attr = slices.CompactFunc(e.Attr, func(x, y etree.Attr) bool { return x.Space == "xmlns" && x.Space == y.Space && x.Key == y.Key })
}
