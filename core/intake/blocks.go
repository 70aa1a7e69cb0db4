package intake

import (
	"strings"

	"amberseal/core/paper"
	"amberseal/core/phrase"
)

// spotPhrase visits words and the conditions of parts of them; rows is the group in whose rows they stand.
func spotPhrase(use Use, path, said string, p *phrase.Phrase, rows string, visit func(s spot)) {
	for i := range *p {
		if src := &(*p)[i].When; *src != "" {
			visit(spot{Place: Place{Use: Decides, Path: path + "/when", Words: said + ", condition"}, formula: src, rows: rows})
		}
	}
	visit(spot{Place: Place{Use: use, Path: path, Words: said}, phrase: p})
}

func spotBody(use Use, path, said string, b phrase.Body, rows string, visit func(s spot)) {
	for i := range b {
		spotPhrase(use, path, said, &b[i].Spans, rows, visit)
	}
}

// spotBlock visits what a block refers to: in its words and conditions, and by the names it holds.
func spotBlock(b *paper.Block, place, said, rows string, visit func(s spot)) {
	v := blockSpots{place: place, said: said, visit: visit}
	v.condition(&b.When, rows)
	v.name(&b.Each)
	for _, p := range []*phrase.Phrase{&b.Text, &b.Caption} {
		spotPhrase(Prints, place, said, p, rows, visit)
	}
	spotBody(Prints, place, said, b.Body, rows, visit)
	v.name(&b.Field)
	v.lines(b, rows)
	if g := b.Grid; g != nil {
		for i := range g.Rows {
			v.gridRow(&g.Rows[i], rows)
		}
	}
	if b.Kind == paper.Answers || b.Kind == paper.Graph {
		visit(spot{Place: Place{Use: Prints, Path: place, Words: said + ", answers"}, list: &b.Fields, all: b.Kind == paper.Answers && len(b.Fields) == 0})
	}
}

// blockSpots visits the names that one block holds.
type blockSpots struct {
	place, said string
	visit       func(s spot)
}

func (v blockSpots) condition(src *string, rows string) {
	if *src != "" {
		v.visit(spot{Place: Place{Use: Decides, Path: v.place + "/when", Words: v.said + ", condition"}, formula: src, rows: rows})
	}
}

// name visits a single name; where it is taken out it becomes empty.
func (v blockSpots) name(name *string) (kept bool) {
	if *name == "" {
		return true
	}
	list := []string{*name}
	v.visit(spot{Place: Place{Use: Prints, Path: v.place, Words: v.said}, list: &list})
	*name = strings.Join(list, "")
	return len(list) > 0
}

func (v blockSpots) gridRow(r *paper.GridRow, rows string) {
	if r.Each != "" {
		rows = r.Each
	}
	v.condition(&r.When, rows)
	v.name(&r.Each)
	for i := range r.Cells {
		spotBody(Prints, v.place, v.said, r.Cells[i].Body, rows, v.visit)
	}
}

// lines visits the names of a table or chart of rows. Columns, subtotals and charts hold the keys of fields of the rows.
func (v blockSpots) lines(b *paper.Block, rows string) {
	group := b.Rows
	v.name(&b.Rows)
	key := func(of *string) (kept bool) {
		if *of == "" || *of == "#" {
			return true
		}
		name := group + "." + *of
		v.name(&name)
		if *of, kept = strings.CutPrefix(name, b.Rows+"."); !kept {
			*of = "" // gone, or no longer one of the rows
		}
		return kept
	}
	var columns []paper.Column
	for _, c := range b.Columns {
		if c.Formula != "" {
			v.visit(spot{Place: Place{Use: Prints, Path: v.place + "/formula", Words: v.said + ", formula"}, formula: &c.Formula, rows: group})
		}
		if key(&c.Field) {
			columns = append(columns, c)
		}
	}
	b.Columns = columns
	if c := b.Chart; c != nil {
		key(&c.Label)
		key(&c.Value)
	}
	if s := b.Subtotal; s != nil {
		var of []string
		for _, k := range s.Of {
			if key(&k) {
				of = append(of, k)
			}
		}
		s.Of = of
		if !key(&s.By) {
			b.Subtotal = nil
		}
	}
	var totals []paper.Total
	for _, t := range b.Totals {
		if v.name(&t.Field) {
			totals = append(totals, t)
		}
	}
	b.Totals = totals
	for i := range b.Totals {
		spotPhrase(Prints, v.place, v.said, &b.Totals[i].Label, rows, v.visit)
	}
}
