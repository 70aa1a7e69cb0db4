package notice

import (
	"cmp"
	_ "embed"
	"fmt"
	"html"
	"html/template"
	"regexp"
	"slices"
	"strings"

	xlanguage "golang.org/x/text/language"

	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

// bound is a paragraph with the facts in place; one of which nothing is left is not there.
type bound struct {
	phrase.Paragraph
	runs  []phrase.Run
	table []line // instead of words: the answers

	entries []entry // instead of words: many submissions
	picture *shown  // instead of words
}

func bind(b phrase.Body, facts phrase.Facts, chosen []string) []bound {
	var out []bound
	for _, p := range b {
		if slices.ContainsFunc(p.Spans, func(s phrase.Span) bool { return s.Field == "@answers" && facts.Condition(s.When) }) {
			if table := answers(facts, chosen); len(table) > 0 {
				out = append(out, bound{table: table})
			}
			continue
		}
		if runs := p.Spans.Bind(facts); len(runs) > 0 || len(p.Spans) == 0 {
			out = append(out, bound{Paragraph: p, runs: runs})
		}
	}
	return out
}

// plainText is the message without looks; items of lists inside lists are set in.
func plainText(all []bound) string {
	var out []string
	var numbers []int // of the open lists
	for _, p := range all {
		if p.table != nil {
			out = append(out, plainTable(p.table))
			continue
		}
		if p.entries != nil {
			out = append(out, plainEntries(p.entries))
			continue
		}
		if p.picture != nil {
			if p.picture.Alt != "" {
				out = append(out, "["+p.picture.Alt+"]")
			}
			continue
		}
		var line strings.Builder
		depth := p.Depth + 1
		if p.List == "" {
			depth = 0
		}
		for len(numbers) < depth {
			numbers = append(numbers, 0)
		}
		numbers = numbers[:depth]
		switch p.List {
		case "bullet":
			line.WriteString(strings.Repeat("  ", p.Depth) + "- ")
		case "number":
			numbers[p.Depth]++
			fmt.Fprintf(&line, "%s%d. ", strings.Repeat("  ", p.Depth), numbers[p.Depth])
		}
		for _, r := range p.runs {
			line.WriteString(r.Text)
			if r.Link != "" && r.Link != r.Text {
				line.WriteString(" <" + r.Link + ">")
			}
		}
		out = append(out, line.String())
	}
	return strings.Join(out, "\n\n") + "\n"
}

// Letter writes a body as a message: its plain text, and a page without script or anything that is fetched from elsewhere.
func Letter(b phrase.Body, facts phrase.Facts) (text, page string) {
	all := bind(b, facts, nil)
	return plainText(all), sheet(all, facts)
}

//go:embed letter.html
var letter string

// skeleton is the page around a message's words. Its looks stand beside each element, for readers that drop styles, and the rules for dark
// and for narrow readers stand apart, for those that have them; tables arrange it, since some readers know nothing else.
var skeleton = template.Must(template.New("letter").Parse(letter))

func sheet(all []bound, facts phrase.Facts) string {
	words := template.HTML(paragraphs(all, facts.House.Colours())) // each part of it is escaped
	var out strings.Builder
	h, c := facts.House, facts.House.Colours()
	tag := cmp.Or(h.Language, facts.Locale().Tag())
	err := skeleton.Execute(&out, struct {
		Language, Direction, House, Foot, Tint, Band, On, Link string
		Words                                                  template.HTML
	}{tag, direction(tag), h.Name, foot(h), c.Tint, c.Band, c.On, c.Words, words})
	if err != nil {
		return string(words) // nothing of the skeleton can fail but its writing
	}
	return out.String()
}

// direction is how a language is written, as HTML says it: rtl or ltr.
func direction(language string) string {
	script, _ := xlanguage.Make(language).Script()
	if slices.Contains([]string{"Arab", "Hebr", "Syrc", "Thaa", "Nkoo", "Adlm"}, script.String()) {
		return "rtl"
	}
	return "ltr"
}

// foot is how the house is reached.
func foot(h house.House) string {
	lines := append(append([]string{}, h.Address...), h.Phone, h.Website, h.Registration)
	return strings.Join(slices.DeleteFunc(lines, func(l string) bool { return l == "" }), " · ")
}

// paragraphs are the words of a message, escaped, in their elements.
func paragraphs(all []bound, c house.Colours) string {
	var out strings.Builder
	l := &lists{out: &out}
	for _, p := range all {
		l.to(p.List, p.Depth)
		if p.table != nil {
			out.WriteString(table(p.table))
			continue
		}
		if p.entries != nil {
			out.WriteString(listed(p.entries, c))
			continue
		}
		if p.picture != nil {
			out.WriteString(p.picture.img())
			continue
		}
		if r, ok := p.button(); ok {
			out.WriteString(button(r, c))
			continue
		}
		open, shut := "<p", "</p>"
		if p.List != "" {
			open, shut = "<li", "" // closed when the next item begins, so that lists inside it are its own
		}
		out.WriteString(open + alignment[p.Align] + ">")
		l.bare = false
		for _, r := range p.runs {
			out.WriteString(span(r))
		}
		out.WriteString(shut)
	}
	l.to("", 0)
	return out.String()
}

var alignment = map[string]string{
	"center":  ` style="text-align:center"`,
	"end":     ` style="text-align:end"`,
	"justify": ` style="text-align:justify"`,
}

// lists are the open lists of a page, the outermost first.
type lists struct {
	out  *strings.Builder
	open []string
	bare bool // the innermost has no item yet
}

var listTags = map[string]string{"bullet": "ul", "number": "ol"}

// to closes and opens lists so that an item of a kind and depth can follow; without a kind all are closed.
func (l *lists) to(kind string, depth int) {
	want := depth + 1
	if kind == "" {
		want = 0
	}
	for len(l.open) > want || want > 0 && len(l.open) == want && l.open[want-1] != kind {
		last := len(l.open) - 1
		l.out.WriteString("</li></" + listTags[l.open[last]] + ">")
		l.open = l.open[:last]
	}
	if want > 0 && len(l.open) == want {
		l.out.WriteString("</li>")
	}
	for len(l.open) < want {
		if l.bare {
			l.out.WriteString("<li>") // an item without words holds the list inside it
		}
		l.out.WriteString("<" + listTags[kind] + ">")
		l.open, l.bare = append(l.open, kind), true
	}
}

var colour = regexp.MustCompile(`^#[0-9A-Fa-f]{6}$`)

func span(r phrase.Run) string {
	s := strings.ReplaceAll(html.EscapeString(r.Text), "\n", "<br>")
	if r.From != "" && phrase.RightToLeft(r.Text) {
		s = "<bdi>" + s + "</bdi>" // it orders no words around it (HTML, 4.5.25)
	}
	for _, t := range []struct {
		on  bool
		tag string
	}{{r.Bold, "b"}, {r.Italic, "i"}, {r.Underline, "u"}, {r.Strike, "s"}} {
		if t.on {
			s = "<" + t.tag + ">" + s + "</" + t.tag + ">"
		}
	}
	var style []string
	if colour.MatchString(r.Colour) {
		style = append(style, "color:"+r.Colour)
	}
	if r.Size > 0 { // beside the usual size of documents, since a message has one of its own
		style = append(style, fmt.Sprintf("font-size:%.2fem", r.Size/10.5))
	}
	if r.SmallCaps {
		style = append(style, "font-variant:small-caps")
	}
	if len(style) > 0 {
		s = `<span style="` + strings.Join(style, ";") + `">` + s + "</span>"
	}
	if r.Link == "" && slices.Contains(phrase.Links, r.From) {
		r.Link = r.Text // readers that make no links of addresses by themselves
	}
	if r.Link != "" {
		s = `<a href="` + html.EscapeString(r.Link) + `">` + s + "</a>"
	}
	return s
}
