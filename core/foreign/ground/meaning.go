package ground

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"amberseal/core/ask/form"
	"amberseal/core/foreign/match"
	"amberseal/core/words/finding"
	"amberseal/core/words/phrase"
)

// Meaning is what a field of a form stands for.
type Meaning struct {
	Match  match.Match
	How    match.How
	Row    int    // counted from 0, where the match speaks of a column
	Choice string // of a box to tick: the choice’s value that it stands for; empty where it is found by its words
}

// Place is where a field stands, as people are told.
func (g *Ground) Place(f Field) string {
	if len(f.Widgets) == 0 {
		return "field “" + f.Name + "”"
	}
	return fmt.Sprintf("page %d, field “%s”", f.Widgets[0].Page+1, f.Name)
}

// Meanings are what the fields stand for, in their order: by what was chosen, by their names or by what readers say of them; by such a
// name
// with a part of a day, a name or an address behind it; with the number of a row; or with a choice.
func (g *Ground) Meanings(names *match.Names, asked form.Form) []Meaning {
	m := &meaning{names: names, form: asked, least: map[string]int{}}
	for _, f := range g.Fields {
		if n, ok := rowNumber(f.Name); ok {
			pattern := digitsIn.ReplaceAllString(f.Name, "#")
			if least, ok := m.least[pattern]; !ok || n < least {
				m.least[pattern] = n
			}
		}
	}
	out := make([]Meaning, len(g.Fields))
	for i, f := range g.Fields {
		out[i] = m.of(f)
		if out[i].How == match.None {
			continue
		}
		if _, column := asked.Column(out[i].Match.Field()); column {
			if n, ok := rowNumber(f.Name); ok {
				out[i].Row = n - m.least[digitsIn.ReplaceAllString(f.Name, "#")]
			}
		}
	}
	return out
}

type meaning struct {
	names *match.Names
	form  form.Form
	least map[string]int // the smallest number in names that differ by nothing else
}

var (
	digitsIn = regexp.MustCompile(`[0-9]+`)
	inBraces = regexp.MustCompile(`\[[0-9]+\]`)
)

// rowNumber is the last number in a name.
func rowNumber(name string) (int, bool) {
	all := digitsIn.FindAllString(inBraces.ReplaceAllString(name, ""), -1)
	if len(all) == 0 {
		return 0, false
	}
	n, err := strconv.Atoi(all[len(all)-1])
	return n, err == nil
}

// called are the words by which a field may be known: its name, what readers say of it, the last part of its name.
func called(f Field) []string {
	out := []string{f.Name}
	if f.Label != "" {
		out = append(out, f.Label)
	}
	plain := inBraces.ReplaceAllString(f.Name, "")
	if i := strings.LastIndexByte(plain, '.'); i >= 0 {
		plain = plain[i+1:]
	}
	if plain != f.Name {
		out = append(out, plain)
	}
	return out
}

func (m *meaning) of(f Field) Meaning {
	itself := m.itself(f)
	if found, how := m.names.Find(f.Name); how == match.Chosen {
		if found.String() == itself.Match.String() { // what was kept of a match that the name itself gives is not called chosen
			return itself
		}
		return Meaning{Match: found, How: how, Choice: m.choiceIn(f, found)}
	}
	return itself
}

// itself is what a field stands for by itself.
func (m *meaning) itself(f Field) Meaning {
	words := called(f)
	for _, w := range words {
		if found, how := m.names.Itself(w); how != match.None {
			return Meaning{Match: found, How: how, Choice: m.choiceIn(f, found)}
		}
	}
	if f.Kind == match.Tick || f.Kind == match.Radio {
		if x, ok := m.choice(f, words); ok {
			return x
		}
	}
	for _, w := range words {
		if x, ok := m.part(w); ok {
			return x
		}
	}
	for _, w := range words {
		if !digitsIn.MatchString(w) {
			continue
		}
		found, how := m.names.Itself(digitsIn.ReplaceAllString(inBraces.ReplaceAllString(w, ""), " "))
		if _, column := m.form.Column(found.Field()); how != match.None && column {
			return Meaning{Match: found, How: how}
		}
	}
	return Meaning{}
}

// part finds a field by a name with a part of its answer behind it: “born day”, “address_city”.
func (m *meaning) part(name string) (Meaning, bool) {
	for stem, part := range match.Parts(name) {
		found, how := m.names.Itself(stem)
		if how == match.None {
			continue
		}
		x, _ := m.form.Field(found.Field())
		for _, format := range x.Kind.Formats() {
			if format == part {
				return Meaning{Match: match.Match{Words: phrase.Phrase{{Field: found.Field(), Format: format}}}, How: how}, true
			}
		}
	}
	return Meaning{}, false
}

// choice finds the field of which a box to tick is one choice: by the field’s name and the choice’s, or by the choice’s words where no
// other field has it.
func (m *meaning) choice(f Field, words []string) (Meaning, bool) {
	var alone []Meaning
	for _, x := range m.form.Fields {
		if !x.Kind.Choosy() {
			continue
		}
		for _, w := range words {
			plain := match.Plain(w)
			for _, stem := range []string{match.Plain(x.Key), match.Plain(x.Label)} {
				rest, ok := strings.CutPrefix(plain, stem)
				if c, found := choiceNamed(x, rest); ok && rest != "" && found {
					return Meaning{one(x.Key), match.SameKey, 0, c}, true
				}
			}
			if c, ok := choiceNamed(x, plain); ok && f.Kind == match.Tick {
				alone = append(alone, Meaning{one(x.Key), match.SameLabel, 0, c})
				break
			}
		}
	}
	if len(alone) == 1 {
		return alone[0], true
	}
	return Meaning{}, false
}

func one(key string) match.Match { return match.Match{Words: phrase.Phrase{{Field: key}}} }

// choiceNamed finds a choice by its value or words.
func choiceNamed(x form.Field, plain string) (string, bool) {
	for _, c := range x.Choices {
		if plain != "" && (match.Plain(c.Value) == plain || match.Plain(c.Label) == plain) {
			return c.Value, true
		}
	}
	return "", false
}

// choiceIn is the choice of a match’s field that a box to tick stands for, found by the box’s words.
func (m *meaning) choiceIn(f Field, found match.Match) string {
	x, ok := m.form.Field(found.Field())
	if f.Kind != match.Tick || !ok || !x.Kind.Choosy() {
		return ""
	}
	words := called(f)
	for _, o := range f.Options {
		words = append(words, o.Words, o.Value)
	}
	for _, w := range words {
		plain := match.Plain(w)
		if c, ok := choiceNamed(x, plain); ok {
			return c
		}
		for _, stem := range []string{match.Plain(x.Key), match.Plain(x.Label)} {
			if rest, ok := strings.CutPrefix(plain, stem); ok {
				if c, ok := choiceNamed(x, rest); ok {
					return c
				}
			}
		}
	}
	return ""
}

// Inspect finds what is to be filled in a form and what is wrong with it. Places of findings are those of placeholders.
func (g *Ground) Inspect(names *match.Names, asked form.Form) match.Inspection {
	var out match.Inspection
	printed := map[string]bool{}
	meanings := g.Meanings(names, asked)
	for rows, room := range Room(meanings, asked) {
		if x, ok := asked.Field(rows); ok && (x.Most == 0 || x.Most > room) {
			out.Findings.Notice("file", "ground.rows-beyond", "rows", x.Label, "room", room)
		}
	}
	for i, x := range meanings {
		f := g.Fields[i]
		place := g.Place(f)
		name := f.Name
		if name == "" {
			name = f.Label
		}
		p := match.Placeholder{Name: name, Kind: f.Kind, Place: place, Match: x.Match, How: x.How}
		near := match.Match{}
		if x.How == match.None {
			if near = nearly(names, f); !near.Left() {
				p.Match, p.How = near, match.NearLabel
			}
		}
		out.Placeholders = append(out.Placeholders, p)
		for _, key := range x.Match.Fields() {
			if rows, ok := asked.Column(key); ok {
				key = rows
			}
			printed[key] = true
		}
		if !near.Left() {
			out.Findings.Fault(place, "ground.nearly", "name", name, "field", asked.LabelOf(near.Field()))
			continue
		}
		if x.How == match.None && f.Kind != match.Button && f.Kind != match.Signature {
			out.Findings.Notice(place, "ground.no-match", "name", name)
			continue
		}
		out.Findings = append(out.Findings, g.unfit(f, x, asked, place)...)
	}
	for _, x := range g.Findings {
		x.Place = "file"
		out.Findings = append(out.Findings, x)
	}
	for _, x := range asked.Fields {
		if x.Answered() && !printed[x.Key] {
			out.Unprinted = append(out.Unprinted, x.Key)
		}
	}
	return out
}

// nearly is what a field without a match may have been meant for, by whichever of its names.
func nearly(names *match.Names, f Field) match.Match {
	for _, w := range called(f) {
		if found, ok := names.Nearly(w); ok {
			return found
		}
	}
	return match.Match{}
}

// Room is how many rows of each repeating group the form has fields for.
func Room(meanings []Meaning, asked form.Form) map[string]int {
	out := map[string]int{}
	for _, m := range meanings {
		if rows, ok := asked.Column(m.Match.Field()); ok && m.How != match.None {
			out[rows] = max(out[rows], m.Row+1)
		}
	}
	return out
}

// unfit finds choices of the form that a list or its buttons do not have.
func (g *Ground) unfit(f Field, m Meaning, asked form.Form, place string) finding.List {
	var l finding.List
	x, ok := asked.Field(m.Match.Field())
	if !ok || !x.Kind.Choosy() || f.Kind != match.Radio && f.Kind != match.List {
		return nil
	}
	for _, c := range x.Choices {
		if _, ok := f.Option(c.Value, c.Label); !ok && f.Kind == match.Radio {
			l.Notice(place, "ground.no-such-option", "choice", c.Label)
		}
	}
	return l
}

// Option finds one of the options by words: a choice’s value or label.
func (f Field) Option(words ...string) (Option, bool) {
	for _, o := range f.Options {
		for _, w := range words {
			if p := match.Plain(w); p != "" && (match.Plain(o.Value) == p || match.Plain(o.Words) == p) {
				return o, true
			}
		}
	}
	return Option{}, false
}
