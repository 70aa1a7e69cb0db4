package ground

import (
	"strings"

	"amberseal/core/ask/form"
	"amberseal/core/foreign/match"
	"amberseal/core/words/phrase"
)

// Questions makes a form of the fields of a PDF: each a question with a kind guessed from its words and from what the field takes.
// Boxes to
// tick that are called alike are the choices of one question, the parts of a day one day, fields that differ by a number one row of
// several.
func (g *Ground) Questions() match.Asked {
	a := &asker{ground: g, out: match.Asked{Matches: map[string]match.Match{}}, known: map[string]string{}, alike: map[string]int{}}
	for _, f := range g.Fields {
		a.alike[stemOf(f)]++
	}
	for i := range g.Fields {
		a.ask(&g.Fields[i])
	}
	return a.out
}

type asker struct {
	ground *Ground
	out    match.Asked
	taken  []string
	known  map[string]string // key by what was asked
	alike  map[string]int    // how many fields have a stem
	rows   int               // where the group of rows is in out.Fields, counted from 1
}

// name is the last part of a field’s name, without the numbers in square brackets that some forms have.
func nameOf(f Field) string {
	all := called(Field{Name: f.Name})
	return all[len(all)-1]
}

// stemOf is what fields have in common that ask for one thing together, or empty.
func stemOf(f Field) string {
	name := inBraces.ReplaceAllString(f.Name, "")
	switch f.Kind {
	case match.Tick:
		if i := strings.LastIndexAny(name, "._- "); i > 0 {
			return "tick " + name[:i]
		}
	case match.Text:
		if _, ok := rowNumber(f.Name); ok {
			return "row " + digitsIn.ReplaceAllString(name, "#")
		}
		stem, e := partOf(f)
		switch e {
		case "dd", "mm", "yyyy", "yy":
			return "day " + stem
		case "given", "family":
			return "name " + stem
		case "street", "postcode", "city", "region", "country":
			return "address " + stem
		}
	}
	return ""
}

// partOf is the name of which a field takes a part, and the part’s format; empty where it takes none.
func partOf(f Field) (stem, format string) {
	parts := strings.Split(inBraces.ReplaceAllString(f.Name, ""), ".")
	for n := 1; n <= min(2, len(parts)); n++ { // “born_day”, or “day” below “born”
		for stem, format := range match.Parts(strings.Join(parts[len(parts)-n:], " ")) {
			return stem, format
		}
	}
	return "", ""
}

func (a *asker) ask(f *Field) {
	stem := stemOf(*f)
	kind, _, _ := strings.Cut(stem, " ")
	if a.alike[stem] > 1 && stem != "" {
		switch kind {
		case "tick":
			a.choice(f, stem)
		case "row":
			a.row(f, stem)
		case "day":
			a.part(f, stem, form.Date)
		case "name":
			a.part(f, stem, form.Name)
		case "address":
			a.part(f, stem, form.Address)
		}
		return
	}
	x := form.Field{Label: a.label(f)}
	switch f.Kind {
	case match.Button:
		if form.GuessKind(x.Label) != form.Photo {
			return
		}
		x.Kind = form.Photo
	case match.Signature:
		x.Kind = form.Signature
	case match.Tick:
		x.Kind = form.YesNo
	case match.Radio, match.List:
		x.Kind, x.Choices = form.OneOf, choicesOf(f.Options)
		if len(x.Choices) == 0 {
			x.Kind = form.ShortText
		}
	default:
		if x.Kind = form.GuessKind(x.Label); x.Kind == "" || x.Kind.Choosy() {
			x.Kind = form.ShortText
		}
		if f.Lines && x.Kind == form.ShortText {
			x.Kind = form.LongText
		}
	}
	a.out.Matches[f.Name] = one(a.add(x))
}

func (a *asker) label(f *Field) string {
	if f.Label != "" {
		return strings.TrimRight(strings.TrimSpace(f.Label), ":*")
	}
	return match.Label(nameOf(*f))
}

func (a *asker) add(x form.Field) string {
	x.Key = form.KeyFor(x.Label, a.taken)
	a.taken = append(a.taken, x.Key)
	a.out.Fields = append(a.out.Fields, x)
	return x.Key
}

func choicesOf(options []Option) (out []form.Choice) {
	var taken []string
	for _, o := range options {
		if label := strings.TrimSpace(o.Words); label != "" {
			value := form.KeyFor(label, taken)
			taken = append(taken, value)
			out = append(out, form.Choice{Value: value, Label: label})
		}
	}
	return out
}

// choice adds a box to tick to the choices of the question that it belongs to.
func (a *asker) choice(f *Field, stem string) {
	name := strings.TrimPrefix(stem, "tick ")
	key, ok := a.known[stem]
	if !ok {
		key = a.add(form.Field{Kind: form.SeveralOf, Label: match.Label(name)})
		a.known[stem] = key
	}
	for i := range a.out.Fields {
		if x := &a.out.Fields[i]; x.Key == key {
			last := strings.Trim(inBraces.ReplaceAllString(f.Name, "")[len(name):], "._- ")
			label := f.Label
			if label == "" {
				label = match.Label(last)
			}
			x.Choices = append(x.Choices, form.Choice{Value: form.KeyFor(last, nil), Label: label})
		}
	}
	a.out.Matches[f.Name] = one(key)
}

// part makes one question of fields that take its parts.
func (a *asker) part(f *Field, stem string, kind form.Kind) {
	key, ok := a.known[stem]
	if !ok {
		_, name, _ := strings.Cut(stem, " ")
		key = a.add(form.Field{Kind: kind, Label: match.Label(name)})
		a.known[stem] = key
	}
	_, format := partOf(*f)
	a.out.Matches[f.Name] = match.Match{Words: phrase.Phrase{{Field: key, Format: format}}}
}

// row adds a field to the group of rows, once for all that differ by their number.
func (a *asker) row(f *Field, stem string) {
	column, ok := a.known[stem]
	if !ok {
		if a.rows == 0 {
			a.add(form.Field{Kind: form.Rows, Label: "Lines"})
			a.rows = len(a.out.Fields)
		}
		group := &a.out.Fields[a.rows-1]
		label := match.Label(strings.Trim(digitsIn.ReplaceAllString(nameOf(*f), ""), "._- "))
		if label == "" {
			label = "Line"
		}
		var taken []string
		for _, x := range group.Fields {
			taken = append(taken, x.Key)
		}
		x := form.Field{Label: label, Kind: form.GuessKind(label), Key: form.KeyFor(label, taken)}
		if x.Kind == "" || !x.Kind.InRows() || x.Kind.Choosy() {
			x.Kind = form.ShortText
		}
		group.Fields = append(group.Fields, x)
		column = group.Key + "." + x.Key
		a.known[stem] = column
	}
	a.out.Matches[f.Name] = one(column)
}
