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
	"strconv"
	"strings"
)

// node is an element as the library is given it: without what drawing programs write for themselves, and with what SVG lets
// one leave out written in its place.
type node struct {
	name string
	attr map[string]string
	kids []*node
	text string // of a style sheet
}

const (
	svgSpace   = "http://www.w3.org/2000/svg"
	xlinkSpace = "http://www.w3.org/1999/xlink"
)

// refused are elements that run, fetch or repeat something, or need fonts.
var refused = map[string]string{
	"script": "it holds a script", "foreignObject": "it holds a foreign object", "image": "it refers to another picture",
	"use":    "it uses parts by reference; draw them as paths",
	"symbol": "it uses parts by reference; draw them as paths", "text": "it holds words; turn them into paths", "animate": "it moves",
	"set": "it moves", "pattern": "it holds a pattern",
	"filter": "it holds a filter", "mask": "it holds a mask", "marker": "it holds marks on lines; draw them as paths",
}

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
				here.kids = append(here.kids, n)
			}
			open = append(open, n)
		case xml.EndElement:
			open = open[:len(open)-1]
		case xml.CharData:
			if here.name == "style" {
				here.text += string(t)
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

// plain writes what SVG leaves out in its place: the stops and ends that a gradient has from another (SVG 1.1 section
// 13.2), a stop's colours that stand in a style, the second radius of a rectangle's corners (9.2), the second factor of a scale (7.6).
func (n *node) plain(byID map[string]*node, view [4]float64) error {
	switch n.name {
	case "linearGradient", "radialGradient":
		n.inherit(byID, 0)
	case "stop":
		for _, p := range strings.Split(n.attr["style"], ";") {
			if key, value, ok := strings.Cut(p, ":"); ok {
				n.attr[strings.TrimSpace(key)] = strings.TrimSpace(value)
			}
		}
		delete(n.attr, "style")
	case "rect":
		x, y := n.attr["rx"], n.attr["ry"]
		if x == "" && y != "" {
			n.attr["rx"] = y
		} else if y == "" && x != "" {
			n.attr["ry"] = x
		}
	}
	for _, key := range []string{"transform", "gradientTransform"} {
		if v, ok := n.attr[key]; ok {
			n.attr[key] = scaleOfOne.ReplaceAllString(v, "scale($1 $1)")
		}
	}
	if d := strings.TrimSpace(n.attr["stroke-dasharray"]); d == "none" || d == "" {
		delete(n.attr, "stroke-dasharray")
	}
	if s, ok := n.attr["style"]; ok {
		n.attr["style"] = colourWords.Replace(noDashes.ReplaceAllString(s, ""))
	}
	for _, key := range []string{"fill", "stroke"} {
		if v, ok := n.attr[key]; ok {
			n.attr[key] = colourWords.Replace(v)
		}
	}
	if clip := reference.FindStringSubmatch(n.attr["clip-path"]); clip != nil {
		if c := byID[clip[1]]; c == nil || !c.covers(view) {
			return errors.New("it shows parts of shapes; cut them")
		}
		delete(n.attr, "clip-path")
	}
	kids := n.kids[:0:0]
	for _, k := range n.kids {
		if k.name == "clipPath" {
			continue
		}
		if err := k.plain(byID, view); err != nil {
			return err
		}
		kids = append(kids, k)
	}
	n.kids = kids
	return nil
}

var (
	scaleOfOne = regexp.MustCompile(`\bscale\(\s*([-+.\deE]+)\s*\)`)
	// Nothing around the picture gives it a colour, so that the present one is black.
	colourWords = strings.NewReplacer("currentColor", "#000000", "currentcolor", "#000000", "transparent", "none")
	noDashes    = regexp.MustCompile(`stroke-dasharray\s*:\s*(none)?\s*(;|$)`)
	reference   = regexp.MustCompile(`^\s*url\(\s*['"]?#([^'")]+)['"]?\s*\)\s*$`)
)

// inherit takes from the gradient it names what it does not say itself.
func (n *node) inherit(byID map[string]*node, depth int) {
	from := byID[strings.TrimPrefix(n.attr["href"], "#")]
	delete(n.attr, "href")
	if from == nil || from == n || depth > 8 || !strings.HasSuffix(from.name, "Gradient") {
		return
	}
	from.inherit(byID, depth+1)
	for key, value := range from.attr {
		if _, own := n.attr[key]; !own && key != "id" {
			n.attr[key] = value
		}
	}
	if len(n.kids) == 0 {
		for _, k := range from.kids {
			stop := &node{name: k.name, attr: map[string]string{}}
			for key, value := range k.attr {
				stop.attr[key] = value
			}
			n.kids = append(n.kids, stop)
		}
	}
}

// covers reports whether a clip path is a rectangle around all of the picture, as drawing programs write it: it hides nothing.
func (n *node) covers(view [4]float64) bool {
	if n.name != "clipPath" || len(n.kids) != 1 || n.kids[0].name != "rect" || n.kids[0].attr["transform"] != "" ||
		n.attr["transform"] != "" {
		return false
	}
	number := func(key string) float64 {
		v, err := strconv.ParseFloat(strings.TrimSuffix(n.kids[0].attr[key], "px"), 64)
		if err != nil {
			return 0
		}
		return v
	}
	x, y := number("x"), number("y")
	return x <= view[0] && y <= view[1] && x+number("width") >= view[0]+view[2] && y+number("height") >= view[1]+view[3]
}

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
}
