package word

import (
	"regexp"
	"slices"
	"strings"

	"github.com/beevik/etree"
)

// A paragraph's words lie in many pieces: writers part them at each correction and each look. A line is its words in one, with the
// piece that each comes from.
type line struct {
	paragraph *etree.Element
	pieces    []piece
	text      string
}

// piece is a part of a line: text, or a sign such as a tab or break.
type piece struct {
	e     *etree.Element // w:t, or the sign's element
	start int            // where it begins in the line's text
	text  string
}

// object stands for a picture or box in a line.
const object = "\uFFFC"

// readLine joins the words of a paragraph. What was deleted, the codes of fields, and text boxes in it are not its words.
func readLine(p *etree.Element) line {
	l := line{paragraph: p}
	var b strings.Builder
	var fields []bool // of each field that is open: whether its code, not its result, is read just now
	var walk func(e *etree.Element)
	walk = func(e *etree.Element) {
		for _, c := range e.Child {
			c, ok := c.(*etree.Element)
			if !ok {
				continue
			}
			if c.Space != "w" {
				switch {
				case c.Space == "mc" && c.Tag == "AlternateContent":
					l.pieces = append(l.pieces, piece{c, b.Len(), object})
					b.WriteString(object)
				case c.Space != "m":
					walk(c)
				}
				continue
			}
			text := ""
			switch c.Tag {
			case "t":
				text = c.Text()
			case "tab", "ptab":
				text = "\t"
			case "br", "cr":
				text = "\n"
			case "noBreakHyphen":
				text = "\u2011"
			case "softHyphen":
				text = "\u00AD"
			case "fldChar":
				switch kind := attr(c, "fldCharType"); {
				case kind == "begin":
					fields = append(fields, true)
				case kind == "separate" && len(fields) > 0:
					fields[len(fields)-1] = false
				case kind == "end" && len(fields) > 0:
					fields = fields[:len(fields)-1]
				}
				continue
			case "drawing", "pict", "object":
				text = object
			case "pPr", "rPr", "sdtPr", "sdtEndPr", "del", "moveFrom", "instrText", "delText":
				continue
			default:
				walk(c)
				continue
			}
			if text == "" || slices.Contains(fields, true) {
				continue
			}
			l.pieces = append(l.pieces, piece{c, b.Len(), text})
			b.WriteString(text)
		}
	}
	walk(p)
	l.text = b.String()
	return l
}

// attr is an attribute of the word-processing namespace.
func attr(e *etree.Element, key string) string {
	if e == nil {
		return ""
	}
	for i := range e.Attr {
		if a := &e.Attr[i]; a.Key == key && (a.Space == "w" || a.Space == "") {
			return a.Value
		}
	}
	return ""
}

// mark is what stands in double braces.
type mark struct {
	start, end int // in the line's text
	verb       verb
	name       string // of what stands there, or the formula of when
	how        string // what follows the bar
}

type verb string

const (
	put       verb = ""          // a value
	when      verb = "when"      // what follows stands there on a condition
	otherwise verb = "otherwise" // … instead
	rows      verb = "rows"      // what follows is repeated
	end       verb = "end"
	encode    verb = "qr"      // a code of a value
	all       verb = "answers" // the table of all answers
)

func (m mark) opens() bool { return m.verb == when || m.verb == rows }

var inBraces = regexp.MustCompile(`(?s)\{\{(.*?)\}\}`)

// marks reads what stands in double braces in a line.
func (l line) marks() []mark {
	if !strings.Contains(l.text, "{{") {
		return nil
	}
	var out []mark
	for _, m := range inBraces.FindAllStringSubmatchIndex(l.text, -1) {
		x := readMark(l.text[m[2]:m[3]])
		x.start, x.end = m[0], m[1]
		out = append(out, x)
	}
	return out
}

// open says where braces are opened that are not closed in the line, or -1.
func (l line) open() int {
	last := strings.LastIndex(l.text, "{{")
	if last >= 0 && !strings.Contains(l.text[last:], "}}") {
		return last
	}
	return -1
}

func readMark(s string) mark {
	s = strings.TrimSpace(straight(s))
	first, rest, _ := strings.Cut(s, " ")
	rest = strings.TrimSpace(rest)
	switch v := verb(strings.ToLower(first)); {
	case v == when && rest != "":
		return mark{verb: when, name: rest}
	case (v == otherwise || v == end) && rest == "":
		return mark{verb: v}
	case v == rows && rest != "":
		return mark{verb: rows, name: rest}
	case v == encode && rest != "":
		name, how, _ := strings.Cut(rest, "|")
		return mark{verb: encode, name: strings.TrimSpace(name), how: strings.TrimSpace(how)}
	case v == all && rest == "":
		return mark{verb: all}
	}
	name, how, _ := strings.Cut(s, "|")
	return mark{name: strings.TrimSpace(name), how: strings.ToLower(strings.TrimSpace(how))}
}

// straight writes the quotes and signs that word processors put in by themselves as formulas have them.
func straight(s string) string { return straighten.Replace(s) }

var straighten = strings.NewReplacer("“", `"`, "”", `"`, "„", `"`, "«", `"`, "»", `"`, "‘", "'", "’", "'", "\u00A0", " ", "\u2011", "-",
	"–", "-",
	"\u00AD", "", "\t", " ", "\n", " ")
