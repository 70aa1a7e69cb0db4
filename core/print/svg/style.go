package svg

import (
	"image/color"
	"maps"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/image/colornames"
)

// inherited are the properties that parts take from what holds them (SVG 1.1, appendix N).
var inherited = []string{
	"fill", "stroke", "stroke-width", "fill-rule", "clip-rule", "stroke-linejoin", "stroke-linecap", "stroke-dasharray",
	"stroke-dashoffset",
	"stroke-miterlimit", "fill-opacity", "stroke-opacity", "color", "visibility", "font-family", "font-size", "font-weight", "font-style",
	"text-anchor", "letter-spacing", "marker-start", "marker-mid", "marker-end",
}

// own are those that they do not.
var ownOnly = []string{"opacity", "display", "clip-path", "mask", "filter", "stop-color", "stop-opacity", "transform"}

// usualValues are what properties are where nothing is said.
var usualValues = map[string]string{
	"fill": "#000000", "stroke": "none", "stroke-width": "1", "fill-opacity": "1", "stroke-opacity": "1", "color": "#000000",
	"font-size": "16", "font-family": "serif", "font-weight": "400", "font-style": "normal", "text-anchor": "start",
}

// values are the properties of an element: its attributes, under what style sheets say, under its own style (SVG 1.1, 6.4).
func (n *node) values(above map[string]string) map[string]string {
	out := make(map[string]string, len(inherited))
	for _, key := range inherited {
		if v, ok := above[key]; ok {
			out[key] = v
		}
	}
	set := func(key, value string) {
		switch {
		case value == "inherit":
			if v, ok := above[key]; ok {
				out[key] = v
			}
		case key == "font-size":
			out[key] = strconv.FormatFloat(length(value, size(above), size(above)), 'f', -1, 64)
		default:
			out[key] = value
		}
	}
	for _, list := range [][]string{inherited, ownOnly} {
		for _, key := range list {
			if v, ok := n.attr[key]; ok {
				set(key, strings.TrimSpace(v))
			}
		}
	}
	for key, v := range n.rules {
		if key == "font" || key == "marker" {
			continue
		}
		set(key, v)
	}
	for key, v := range declarations(n.attr["style"]) {
		set(key, v)
	}
	return out
}

// size is that of the letters.
func size(values map[string]string) float64 {
	v, err := strconv.ParseFloat(values["font-size"], 64)
	if err != nil || !(v > 0 && v < 1e4) {
		return usualSize
	}
	return v
}

// declarations are those of a style.
func declarations(style string) map[string]string {
	out := map[string]string{}
	for part := range strings.SplitSeq(style, ";") {
		if key, value, ok := strings.Cut(part, ":"); ok {
			value, _, _ = strings.Cut(value, "!important")
			out[strings.ToLower(strings.TrimSpace(key))] = strings.TrimSpace(value)
		}
	}
	return out
}

// rule is one of a style sheet: of a selector, parts inside each other from the outside in.
type rule struct {
	selector []compound
	weight   int
	order    int
	says     map[string]string
}

// compound is what an element must be all of.
type compound struct {
	tag     string
	id      string
	classes []string
}

var (
	comments = regexp.MustCompile(`(?s)/\*.*?\*/`)
	blocks   = regexp.MustCompile(`([^{}]*)\{([^{}]*)\}`)
	simple   = regexp.MustCompile(`^([\w-]+|\*)?((?:[.#][\w-]+)*)$`)
	marks    = regexp.MustCompile(`[.#][\w-]+`)
)

// mostRules is how many rules of style sheets count.
const mostRules = 2_000

// sheets tells all elements what the picture's style sheets say of them.
func (p *painter) sheets(root *node) {
	var rules []rule
	var gather func(n *node)
	gather = func(n *node) {
		if n.name == "style" {
			for _, b := range blocks.FindAllStringSubmatch(comments.ReplaceAllString(n.text, ""), mostRules) {
				says := declarations(b[2])
				for selector := range strings.SplitSeq(b[1], ",") {
					if r, ok := selected(selector); ok && len(rules) < mostRules {
						r.says, r.order = says, len(rules)
						rules = append(rules, r)
					}
				}
			}
		}
		for _, k := range n.kids {
			gather(k)
		}
	}
	gather(root)
	if len(rules) == 0 {
		return
	}
	slices.SortStableFunc(rules, func(a, b rule) int {
		if a.weight != b.weight {
			return a.weight - b.weight
		}
		return a.order - b.order
	})
	var tell func(n *node)
	tell = func(n *node) {
		for i := range rules {
			if rules[i].means(n) {
				if n.rules == nil {
					n.rules = map[string]string{}
				}
				maps.Copy(n.rules, rules[i].says)
			}
		}
		for _, k := range n.kids {
			tell(k)
		}
	}
	tell(root)
}

// selected reads a selector of names, classes and ids inside each other; others mean nothing here.
func selected(s string) (r rule, ok bool) {
	for _, word := range strings.Fields(s) {
		m := simple.FindStringSubmatch(word)
		if m == nil {
			return r, false
		}
		c := compound{tag: strings.TrimPrefix(m[1], "*")}
		if c.tag != "" {
			r.weight++
		}
		for _, mark := range marks.FindAllString(m[2], -1) {
			if mark[0] == '#' {
				c.id, r.weight = mark[1:], r.weight+100
			} else {
				c.classes, r.weight = append(c.classes, mark[1:]), r.weight+10
			}
		}
		r.selector = append(r.selector, c)
	}
	return r, len(r.selector) > 0
}

func (r *rule) means(n *node) bool {
	last := len(r.selector) - 1
	if !r.selector[last].is(n) {
		return false
	}
	for last--; last >= 0; last-- {
		for n = n.up; n != nil && !r.selector[last].is(n); n = n.up {
		}
		if n == nil {
			return false
		}
	}
	return true
}

func (c *compound) is(n *node) bool {
	if c.tag != "" && c.tag != n.name || c.id != "" && c.id != n.attr["id"] {
		return false
	}
	if len(c.classes) == 0 {
		return true
	}
	has := strings.Fields(n.attr["class"])
	return !slices.ContainsFunc(c.classes, func(want string) bool { return !slices.Contains(has, want) })
}

// ink reads a colour; none where nothing is painted. present is the colour of its own place.
func ink(s, present string) (c color.NRGBA, ok bool) {
	s = strings.ToLower(strings.TrimSpace(s))
	switch {
	case s == "none" || s == "transparent" || s == "":
		return c, false
	case s == "currentcolor":
		if present == "" || strings.EqualFold(present, "currentcolor") {
			present = usualValues["color"]
		}
		return ink(present, usualValues["color"])
	case s[0] == '#':
		return hexColour(s[1:])
	}
	if name, inside, ok := strings.Cut(strings.TrimSuffix(s, ")"), "("); ok {
		return function(name, inside)
	}
	named, ok := colornames.Map[s]
	return color.NRGBA(named), ok
}

// hexColour reads three, four, six or eight digits (CSS Color 4, section 5.2).
func hexColour(s string) (color.NRGBA, bool) {
	if len(s) == 3 || len(s) == 4 {
		wide := ""
		for _, r := range s {
			wide += string(r) + string(r)
		}
		s = wide
	}
	if len(s) == 6 {
		s += "ff"
	}
	v, err := strconv.ParseUint(s, 16, 32)
	if len(s) != 8 || err != nil {
		return color.NRGBA{}, false
	}
	return color.NRGBA{R: uint8(v >> 24), G: uint8(v >> 16), B: uint8(v >> 8), A: uint8(v)}, true
}

// function reads rgb() and hsl(), with or without opacity.
func function(name, inside string) (color.NRGBA, bool) {
	words := strings.FieldsFunc(inside, func(r rune) bool { return r == ',' || r == ' ' || r == '/' })
	if len(words) < 3 {
		return color.NRGBA{}, false
	}
	v := func(i int, of float64) float64 {
		if i >= len(words) {
			return of
		}
		n, err := strconv.ParseFloat(strings.TrimRight(words[i], "%deg"), 64)
		if err != nil {
			return 0
		}
		if strings.HasSuffix(words[i], "%") {
			n *= of / 100
		}
		return n
	}
	level := func(x float64) uint8 { return uint8(min(max(math.Round(x), 0), 255)) }
	opacity := level(v(3, 1) * 255)
	switch strings.TrimSuffix(name, "a") {
	case "rgb":
		return color.NRGBA{level(v(0, 255)), level(v(1, 255)), level(v(2, 255)), opacity}, true
	case "hsl": // CSS Color 4, section 7.1
		h, s, l := v(0, 360), v(1, 1), v(2, 1)
		f := func(n float64) uint8 {
			k := math.Mod(n+h/30, 12)
			return level(255 * (l - s*min(l, 1-l)*max(-1, min(k-3, 9-k, 1))))
		}
		return color.NRGBA{f(0), f(8), f(4), opacity}, true
	}
	return color.NRGBA{}, false
}

// share reads an opacity or an offset: a number or a part of hundred.
func share(s string, usual float64) float64 {
	n, err := strconv.ParseFloat(strings.TrimSuffix(strings.TrimSpace(s), "%"), 64)
	if err != nil {
		return usual
	}
	if strings.HasSuffix(s, "%") {
		n /= 100
	}
	return min(max(n, 0), 1)
}

// units are lengths in units of the picture (CSS 2.1, 4.3.2).
var units = map[string]float64{"px": 1, "pt": 4.0 / 3, "pc": 16, "mm": 96 / 25.4, "cm": 96 / 2.54, "in": 96}

// length reads a length; hundred is what 100 % of it are, letters the size of letters.
func length(s string, hundred, letters float64) float64 {
	s = strings.TrimSpace(s)
	by := 1.0
	switch {
	case strings.HasSuffix(s, "%"):
		s, by = s[:len(s)-1], hundred/100
	case strings.HasSuffix(s, "em"):
		s, by = s[:len(s)-2], letters
	case strings.HasSuffix(s, "ex"):
		s, by = s[:len(s)-2], letters/2
	case len(s) > 2 && units[s[len(s)-2:]] != 0:
		s, by = s[:len(s)-2], units[s[len(s)-2:]]
	}
	n, err := strconv.ParseFloat(strings.TrimSpace(s), 64)
	if err != nil || math.IsNaN(n) || math.IsInf(n, 0) {
		return 0
	}
	return n * by
}
