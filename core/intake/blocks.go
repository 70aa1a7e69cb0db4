package intake

import (
	"strings"

	"amberseal/core/print/paper"
	"amberseal/core/words/phrase"
)

// block visits what a block refers to: in its words and conditions, and by the names it holds.
func (w walker) block(b *paper.Block, place, said, rows string) {
	v := blockWalker{w, place, said}
	v.condition(&b.When, rows)
	v.name(&b.Each)
	for _, p := range []*phrase.Phrase{&b.Text, &b.Caption} {
		w.phrase(Prints, place, said, p, rows)
	}
	for i := range b.Tiles {
		w.phrase(Prints, place, said, &b.Tiles[i].Text, rows)
	}
	w.body(Prints, place, said, b.Body, rows)
	w.body(Prints, place, said, b.To, rows)
	v.name(&b.Field)
	v.lines(b, rows)
	if g := b.Grid; g != nil {
		for i := range g.Rows {
			v.gridRow(&g.Rows[i], rows)
		}
	}
	if b.Kind == paper.Answers || b.Kind == paper.Graph {
		w.list(Place{Use: Prints, Path: place, Words: said + ", answers"}, &b.Fields, b.Kind == paper.Answers && len(b.Fields) == 0)
	}
}

// blockWalker visits the names that one block holds.
type blockWalker struct {
	walker
	place, said string
}

func (v blockWalker) condition(src *string, rows string) { v.when(v.place, v.said, src, rows) }

// name visits a single name; where it is taken out it becomes empty.
func (v blockWalker) name(name *string) (kept bool) {
	return v.walker.name(Place{Use: Prints, Path: v.place, Words: v.said}, name)
}

func (v blockWalker) gridRow(r *paper.GridRow, rows string) {
	if r.Each != "" {
		rows = r.Each
	}
	v.condition(&r.When, rows)
	v.name(&r.Each)
	for i := range r.Cells {
		v.body(Prints, v.place, v.said, r.Cells[i].Body, rows)
	}
}

// lines visits the names of a table or chart of rows. Columns, subtotals and charts hold the keys of fields of the rows.
func (v blockWalker) lines(b *paper.Block, rows string) {
	group := b.Rows
	v.name(&b.Rows)
	key := func(of *string) (kept bool) {
		if *of == "" || *of == "#" {
			return true
		}
		name := group + "." + *of
		if kept = v.name(&name); !v.writes {
			return kept
		}
		if *of, kept = strings.CutPrefix(name, b.Rows+"."); !kept {
			*of = "" // gone, or no longer one of the rows
		}
		return kept
	}
	var columns []paper.Column
	for _, c := range b.Columns {
		v.formula(Prints, v.place+"/formula", v.said+", formula", &c.Formula, group)
		if key(&c.Field) {
			columns = append(columns, c)
		}
	}
	if c := b.Series; c != nil {
		key(&c.Label)
		key(&c.Value)
	}
	var totals []paper.Total
	subtotal := v.subtotal(b, key)
	for _, t := range b.Totals {
		if v.name(&t.Field) {
			totals = append(totals, t)
		}
	}
	if v.writes {
		b.Columns, b.Subtotal, b.Totals = columns, subtotal, totals
	}
	for i := range b.Totals {
		v.phrase(Prints, v.place, v.said, &b.Totals[i].Label, rows)
	}
}

// subtotal visits the names of a table's subtotals and gives what is left of them, nil where there is nothing to part them by.
func (v blockWalker) subtotal(b *paper.Block, key func(*string) bool) *paper.Subtotal {
	if b.Subtotal == nil {
		return nil
	}
	s := *b.Subtotal
	var of []string
	for _, k := range s.Of {
		if key(&k) {
			of = append(of, k)
		}
	}
	s.Of = of
	if !key(&s.By) {
		return nil
	}
	return &s
}
