package svg

import (
	"bytes"
	"cmp"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"maps"
	"regexp"
	"slices"
	"strings"
)

// node is an element without what drawing programs write for themselves.
type node struct {
	name string
	attr map[string]string
	kids []*node
	text string // of a style sheet, and of words that stand before the next kid
	tail string // the words behind it

	up    *node
	rules map[string]string // what style sheets and its own style say of it
}

const (
	svgSpace   = "http://www.w3.org/2000/svg"
	xlinkSpace = "http://www.w3.org/1999/xlink"
)

// refused are elements that run, fetch or move something.
var refused = map[string]string{
	"script": "it holds a script", "foreignObject": "it holds a foreign object", "image": "it refers to another picture",
	"animate": "it moves", "set": "it moves",
}

// worded are elements whose words are seen.
var worded = map[string]bool{"text": true, "tspan": true, "a": true, "textPath": true}

// unseen are elements that paint nothing.
var unseen = map[string]bool{"metadata": true, "title": true, "desc": true}

// read makes a tree of a file, or says why its picture cannot be printed.
func read(data []byte) (*node, error) {
	in := xml.NewDecoder(bytes.NewReader(data))
	in.CharsetReader = func(string, io.Reader) (io.Reader, error) { return nil, errors.New("it is not UTF-8") }
	root := &node{}
	open := []*node{root}
	elements := 0
	for {
		t, err := in.Token()
		if err == io.EOF {
			break
		}
		if err != nil {
			return nil, errors.New("it is damaged")
		}
		here := open[len(open)-1]
		switch t := t.(type) {
		case xml.Directive:
			if bytes.Contains(t, []byte("ENTITY")) {
				return nil, errors.New("it defines entities")
			}
		case xml.StartElement:
			if why, no := refused[t.Name.Local]; no {
				return nil, errors.New(why)
			}
			if elements++; len(open) > deepest || elements > mostElements {
				return nil, errors.New("it has too many elements")
			}
			n := &node{name: t.Name.Local, attr: map[string]string{}}
			for _, a := range t.Attr {
				if a.Name.Space == "" || a.Name.Space == xlinkSpace && a.Name.Local == "href" {
					n.attr[a.Name.Local] = a.Value
				}
			}
			if (t.Name.Space == "" || t.Name.Space == svgSpace) && !unseen[n.name] {
				n.up = here
				here.kids = append(here.kids, n)
			}
			open = append(open, n)
		case xml.EndElement:
			open = open[:len(open)-1]
		case xml.CharData:
			switch {
			case here.name != "style" && !worded[here.name]:
			case len(here.kids) == 0:
				here.text += string(t)
			default:
				here.kids[len(here.kids)-1].tail += string(t)
			}
		}
	}
	if len(root.kids) != 1 || root.kids[0].name != "svg" {
		return nil, errors.New("it is damaged")
	}
	return root.kids[0], nil
}

// Plain writes a picture anew with what paints alone: no document type, no words about it, nothing that runs when something
// happens, and nothing that is fetched from elsewhere. It is drawn like the picture it was made of.
func Plain(data []byte) ([]byte, error) {
	tree, err := read(data)
	if err != nil {
		return nil, fmt.Errorf("the SVG picture cannot be printed: %w", err)
	}
	tree.disarm()
	var b bytes.Buffer
	tree.write(&b)
	return b.Bytes(), nil
}

var (
	imported = regexp.MustCompile(`(?i)@import[^;]*;?`)
	fetched  = regexp.MustCompile(`(?i)[\w-]+\s*:[^;{}]*url\(\s*['"]?[^#'"\s][^;{}]*;?`)
)

// disarm takes out what runs or fetches.
func (n *node) disarm() {
	for key, value := range n.attr {
		switch {
		case strings.HasPrefix(strings.ToLower(key), "on"), key == "href" && !strings.HasPrefix(value, "#"), key == "src":
			delete(n.attr, key)
		case key == "style":
			n.attr[key] = fetched.ReplaceAllString(value, "")
		case strings.Contains(value, "url(") && !reference.MatchString(value):
			delete(n.attr, key)
		}
	}
	n.text = fetched.ReplaceAllString(imported.ReplaceAllString(n.text, ""), "")
	for _, k := range n.kids {
		k.disarm()
	}
}

var reference = regexp.MustCompile(`^\s*url\(\s*['"]?#([^'")]+)['"]?\s*\)\s*(.*)$`)

// named gives the elements that have an id.
func (n *node) named(into map[string]*node) map[string]*node {
	if id := n.attr["id"]; id != "" {
		into[id] = n
	}
	for _, k := range n.kids {
		k.named(into)
	}
	return into
}

// write gives the file of the tree.
func (n *node) write(b *bytes.Buffer) {
	b.WriteString("<" + n.name)
	if n.name == "svg" {
		b.WriteString(` xmlns="` + svgSpace + `"`)
	}
	// What comes later counts: classes more than single properties, and a style most (SVG 1.1 section 6.4).
	weight := map[string]int{"class": 1, "style": 2}
	keys := slices.SortedFunc(maps.Keys(n.attr), func(a, b string) int { return cmp.Or(weight[a]-weight[b], strings.Compare(a, b)) })
	for _, key := range keys {
		if key == "xmlns" {
			continue
		}
		b.WriteString(" " + key + `="`)
		xml.EscapeText(b, []byte(n.attr[key])) // writing to a buffer cannot fail
		b.WriteString(`"`)
	}
	b.WriteString(">")
	xml.EscapeText(b, []byte(n.text))
	for _, k := range n.kids {
		k.write(b)
	}
	b.WriteString("</" + n.name + ">")
	xml.EscapeText(b, []byte(n.tail))
}
