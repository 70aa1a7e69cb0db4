// Package blank lays out the empty form on paper: every question with room for its answer, to
// print and write on, or to fill on screen.
//
// In goes a form and the house, out comes a typeset.Document whose entries carry the names of
// fields: KEY, KEY.PART for names and addresses, KEY.VALUE for several choices, ROWS.N.KEY for
// rows counted from 0. Package fill reads them back.
package blank

import (
	"fmt"
	"strconv"
	"strings"

	"amberseal/core/ask/form"
	"amberseal/core/print/paper"
	"amberseal/core/print/typeface"
	"amberseal/core/print/typeset"
	"amberseal/core/words/house"
	"amberseal/core/words/locale"
	"amberseal/core/words/phrase"
)

// Rows is how many empty rows a repeating group gets, within its own least and most.
const Rows = 6

var (
	ink     = typeset.Colour{R: 0x16, G: 0x26, B: 0x2B}
	softInk = typeset.Colour{R: 0x4A, G: 0x5B, B: 0x5F}
	edge    = typeset.Colour{R: 0x7B, G: 0x8C, B: 0x88}
)

type sheet struct {
	out    *typeset.Document
	family string
	locale locale.Locale
}

// Form lays out the form of an intake. The letterhead is the house's; pictures gives its logo.
func Form(name string, f form.Form, h house.House, pictures paper.Pictures) *typeset.Document {
	head := paper.Document{
		Key: "blank", Name: name, Title: phrase.Phrase{{Text: name}},
		Blocks: []paper.Block{
			{ID: "letterhead", Kind: paper.Letterhead},
			{ID: "heading", Kind: paper.Heading, Settings: paper.Settings{Level: 1, Text: phrase.Phrase{{Text: name}}}},
		},
		Footer: phrase.Parse("{{@house}} · {{@intake}} · {{@page}} / {{@pages}}"),
	}
	doc, _, _ := paper.Bind(head, phrase.Facts{House: h, Intake: name, Form: f}, pictures) // two blocks are never too much
	s := &sheet{out: doc, family: h.Font, locale: locale.For(h.Language)}
	if f.Intro != "" {
		s.paragraph(f.Intro, 10.5, ink, false, 8)
	}
	for _, x := range f.Fields {
		s.field(x)
	}
	return s.out
}

func (s *sheet) add(n typeset.Node) { s.out.Body = append(s.out.Body, n) }

func (s *sheet) words(text string, size float64, c typeset.Colour, bold bool) typeset.Paragraph {
	return typeset.Paragraph{
		Role: typeset.Plain, Family: s.family, Size: size, Leading: 1.3,
		Runs: []typeset.Run{{Text: text, Colour: c, Style: typeface.Style{Bold: bold}}},
	}
}

func (s *sheet) cell(text string, size float64, c typeset.Colour) typeset.Cell {
	p := s.words(text, size, c, false)
	return typeset.Cell{Nodes: []typeset.Node{&p}}
}

func (s *sheet) paragraph(text string, size float64, c typeset.Colour, bold bool, after float64) {
	p := s.words(text, size, c, bold)
	p.After, p.KeepNext = after, bold
	s.add(&p)
}

func (s *sheet) field(x form.Field) {
	switch x.Kind {
	case form.Section, form.Page:
		if x.Label != "" {
			p := s.words(x.Label, 13.5, ink, true)
			p.Role, p.Before, p.After, p.KeepNext = typeset.Heading2, 14, 6, true
			s.add(&p)
		}
		return
	case form.Text:
		s.paragraph(x.Label, 10.5, ink, false, 8)
		return
	case form.Hidden, form.Picture:
		return
	}
	if x.Calculated() {
		return // worked out when the copy is read in
	}
	s.label(x)
	if x.Kind == form.Rows {
		s.rows(x)
		return
	}
	s.answer(x, x.Key)
	s.add(&typeset.Space{Height: 9})
}

// label prints the question with its condition in words and what helps to answer it.
func (s *sheet) label(x form.Field) {
	text := x.Label
	if x.Required {
		text += " *"
	}
	p := s.words(text, 10.5, ink, true)
	p.After, p.KeepNext = 1.5, true
	s.add(&p)
	if help := s.help(x); help != "" {
		p := s.words(help, 9, softInk, false)
		p.After, p.KeepNext = 2, true
		s.add(&p)
	}
}

func (s *sheet) help(x form.Field) string {
	hint := strings.NewReplacer("date", s.locale.DateHint(), "time", "00:00").Replace(x.Kind.Room().Hint)
	if x.Mask != "" {
		hint = x.Mask
	}
	switch {
	case x.Help == "":
		return hint
	case hint == "":
		return x.Help
	}
	return x.Help + " (" + hint + ")"
}

// answer makes the room for one answer.
func (s *sheet) answer(x form.Field, name string) {
	switch x.Kind.Shape() {
	case form.One:
		if len(x.Choices) > 24 {
			s.add(s.menu(x, name))
			return
		}
		s.ticks(x, name, x.Choices, typeset.ChoiceEntry)
	case form.Several:
		s.ticks(x, name, x.Choices, typeset.TickEntry)
	case form.Truth:
		if x.Kind == form.Consent {
			s.ticks(x, name, []form.Choice{{Value: "", Label: s.locale.Yes()}}, typeset.TickEntry)
			return
		}
		s.ticks(x, name, []form.Choice{{Value: "yes", Label: s.locale.Yes()}, {Value: "no", Label: s.locale.No()}}, typeset.ChoiceEntry)
	case form.Figure:
		if x.Kind != form.Rating {
			s.add(s.box(x, name))
			return
		}
		var marks []form.Choice
		for n := 1; n <= x.HighestRating(); n++ {
			marks = append(marks, form.Choice{Value: strconv.Itoa(n), Label: strconv.Itoa(n)})
		}
		s.ticks(x, name, marks, typeset.ChoiceEntry)
	case form.Parts:
		for _, part := range x.AskedParts() {
			p := s.words(s.locale.Part(part), 9, softInk, false)
			p.KeepNext = true
			s.add(&p)
			s.add(
				&typeset.Entry{Block: x.Key, Name: name + "." + part, Label: x.Label + ", " + s.locale.Part(part), Height: 19, Line: edge,
					After: 4},
			)
		}
	default:
		s.add(s.box(x, name))
	}
}

// box is as high as the answer is long.
func (s *sheet) box(x form.Field, name string) *typeset.Entry {
	room := x.Kind.Room()
	return &typeset.Entry{Block: x.Key, Name: name, Label: x.Label, Width: room.Width, Height: room.Height, Several: room.Several,
		Line: edge}
}

func (s *sheet) menu(x form.Field, name string) *typeset.Entry {
	e := &typeset.Entry{Block: x.Key, Name: name, Label: x.Label, Kind: typeset.MenuEntry, Height: 19, Width: 260, Line: edge}
	for _, c := range x.Choices {
		e.Options = append(e.Options, [2]string{c.Value, c.Label})
	}
	return e
}

// ticks sets boxes beside words, short ones in columns.
func (s *sheet) ticks(x form.Field, name string, choices []form.Choice, kind typeset.EntryKind) {
	columns, longest := 3, 0
	for _, c := range choices {
		longest = max(longest, len([]rune(c.Label)))
	}
	switch {
	case longest <= 3 && len(choices) > 1:
		columns = min(len(choices), 10)
	case longest > 44:
		columns = 1
	case longest > 24:
		columns = 2
	}
	t := &typeset.Table{Block: x.Key, Layout: true, Gap: 5, Pad: 1.5}
	for range columns {
		t.Columns = append(t.Columns, 11, max(100/float64(columns)*4.2-11, 14))
	}
	for i := 0; i < len(choices); i += columns {
		var row typeset.Row
		for _, c := range choices[i:min(i+columns, len(choices))] {
			e := &typeset.Entry{Name: name, Label: x.Label + ": " + c.Label, Kind: kind, Option: c.Value, Width: 10, Height: 10, Line: edge}
			if kind == typeset.TickEntry && c.Value != "" {
				e.Name += "." + c.Value
			}
			if kind == typeset.ChoiceEntry && c.Value == "Off" {
				e.Option = " Off" // the name Off means that none is chosen (ISO 32000-1, 12.7.4.2.4); spaces fall away when it is read
			}
			row.Cells = append(row.Cells, typeset.Cell{Nodes: []typeset.Node{e}}, s.cell(c.Label, 10, ink))
		}
		row.KeepNext = i+columns < len(choices) && len(t.Rows) < mostTogether
		t.Rows = append(t.Rows, row)
	}
	s.add(t)
}

// mostTogether is how many rows of choices stay on one page with their question.
const mostTogether = 12

// mostColumns is how many columns of rows fit a page; wider groups are set row by row.
const mostColumns = 6

func (s *sheet) rows(x form.Field) {
	n := min(max(Rows, x.Least), x.MostRows())
	var columns []form.Field
	simple := true
	for _, c := range x.Fields {
		if c.Calculated() || c.Kind == form.Hidden {
			continue
		}
		columns = append(columns, c)
		simple = simple && onOneLine(c)
	}
	if !simple || len(columns) > mostColumns {
		for i := range n {
			s.paragraph(fmt.Sprintf("%s %d", x.Label, i+1), 10, softInk, true, 2)
			for _, c := range columns {
				s.label(c)
				s.answer(c, name(x, i, c))
				s.add(&typeset.Space{Height: 5})
			}
		}
		return
	}
	for _, c := range columns {
		if c.Kind.Shape() == form.One {
			words := c.Label + ": "
			for i, choice := range c.Choices {
				if i > 0 {
					words += " · "
				}
				words += choice.Label
			}
			s.paragraph(words, 9, softInk, false, 2)
		}
	}
	t := &typeset.Table{Block: x.Key, Gap: 6, Pad: 2, After: 9}
	header := typeset.Row{}
	for _, c := range columns {
		t.Columns = append(
			t.Columns,
			map[bool]float64{true: 1, false: 2}[c.Kind.Numeric() || c.Kind.Shape() == form.Day || c.Kind.Shape() == form.Hour],
		)
		header.Cells = append(header.Cells, s.cell(c.Label, 9, softInk))
	}
	t.Header = &header
	for i := range n {
		row := typeset.Row{}
		for _, c := range columns {
			e := s.box(c, name(x, i, c))
			if c.Kind.Shape() == form.One {
				e = s.menu(c, name(x, i, c))
			}
			e.Width, e.Height, e.Block = 0, 19, ""
			e.Label = fmt.Sprintf("%s %d, %s", x.Label, i+1, c.Label)
			row.Cells = append(row.Cells, typeset.Cell{Nodes: []typeset.Node{e}})
		}
		t.Rows = append(t.Rows, row)
	}
	s.add(t)
}

// onOneLine reports whether a cell of a table is room enough for an answer.
func onOneLine(x form.Field) bool {
	switch x.Kind.Shape() {
	case form.Several, form.Truth, form.Parts:
		return false
	}
	return x.Kind != form.Rating && !x.Kind.Room().Several
}

func name(rows form.Field, i int, column form.Field) string {
	return rows.Key + "." + strconv.Itoa(i) + "." + column.Key
}
