// Package onpage prints the facts of a submission on the pages of a PDF that the house has already: into the fields of its form, and
// wherever the design puts marks.
//
// In go a ground, a document's design and facts, out come places for typeset.SetPlaces, what pdf.WriteOver has to know, and findings.
// Blocks are named like the places of an inspection. Bind may be called by many goroutines at once.
package onpage

import (
	"strings"

	"amberseal/core/ask/form"
	"amberseal/core/foreign/ground"
	"amberseal/core/foreign/match"
	"amberseal/core/print/paper"
	"amberseal/core/print/paper/code"
	"amberseal/core/print/pdf"
	"amberseal/core/print/typeface"
	"amberseal/core/print/typeset"
	"amberseal/core/words/finding"
	"amberseal/core/words/phrase"
)

// Bound is a document that is ready to be set.
type Bound struct {
	Document typeset.Document // its title, language and families
	Pages    []typeset.Page
	Places   []typeset.Place
	Over     pdf.Over
}

const millimetre = 72 / 25.4

// Bind prints the facts. own are the families that the house has of its own.
func Bind(
	g *ground.Ground, x paper.Document, facts phrase.Facts, pictures paper.Pictures, own map[string]typeface.Family,
) (*Bound, finding.List) {
	b := &binder{ground: g, design: x, facts: facts, pictures: pictures}
	b.out.Over.Base, b.out.Over.Fillable = &g.Base, x.Fillable
	b.out.Document = typeset.Document{Title: x.Title.Plain(facts), Language: facts.House.Language, Families: own}
	for _, p := range g.Base.Pages {
		b.out.Pages = append(b.out.Pages, typeset.Page{Width: p.Width, Height: p.Height})
	}
	meanings := g.Meanings(match.For(facts.Form, x.Matches), facts.Form)
	for i, meaning := range meanings {
		b.field(g.Fields[i], meaning)
	}
	for rows, room := range ground.Room(meanings, facts.Form) {
		if given := len(facts.Answers[rows].Rows); given > room {
			b.findings.Fault("documents/"+x.Key, "ground.rows-left", "rows", facts.Form.LabelOf(rows), "left", given-room)
		}
	}
	for _, m := range x.Marks {
		b.mark(m)
	}
	return &b.out, b.findings
}

type binder struct {
	ground   *ground.Ground
	design   paper.Document
	facts    phrase.Facts
	pictures paper.Pictures
	out      Bound
	findings finding.List
}

func (b *binder) notice(block, code string, values ...any) {
	b.findings.Notice(b.design.PlaceOf(block), code, values...)
}

// mark puts a mark on its page, once or for each row.
func (b *binder) mark(m paper.Mark) {
	if m.Page < 1 || m.Page > len(b.out.Pages) {
		b.findings.Fault(b.design.PlaceOf(m.Block()), "paper.mark-off-pages", "page", m.Page, "pages", len(b.out.Pages))
		return
	}
	if m.Each == "" {
		b.put(m, b.facts, 0)
		return
	}
	rows := b.facts.Rows(m.Each)
	page := b.out.Pages[m.Page-1]
	for i, row := range rows {
		down := float64(i) * m.Step * millimetre
		if m.Most > 0 && i >= m.Most || (m.Top+m.Height)*millimetre+down > page.Height {
			b.notice(m.Block(), "paper.mark-rows-left", "left", len(rows)-i)
			return
		}
		b.put(m, row, down)
	}
}

func (b *binder) put(m paper.Mark, facts phrase.Facts, down float64) {
	if m.When != "" && !facts.Condition(m.When) {
		return
	}
	p := typeset.Place{
		Block: m.Block(), Page: m.Page - 1, X: m.Left * millimetre, Y: m.Top*millimetre + down, W: m.Width * millimetre,
		H: m.Height * millimetre, Line: !m.Lines, Cells: m.Cells, Stand: typeset.Center,
	}
	if m.Lines {
		p.Stand = typeset.Start
	}
	switch m.Kind {
	case paper.PutWords:
		words := m.Text.Plain(facts)
		if m.Lines {
			words = lined(m.Text, facts)
		}
		if words == "" {
			return
		}
		p.Words = paragraphs(words, typeset.Paragraph{Family: facts.House.Font, Size: m.Size, Align: alignments[m.Align]}, typeset.Colour{})
	case paper.PutTick, paper.PutCross, paper.PutStrike:
		p.Picture = &typeset.Picture{Drawing: signs[m.Kind](p.W, p.H), Align: typeset.Center, Alt: string(m.Kind)}
	case paper.PutPicture, paper.PutSignature:
		x, v := b.answer(facts, m.Field)
		p = b.shown(p, x, v)
		if p.Picture == nil && p.Words == nil {
			return
		}
		if p.Picture != nil {
			p.Picture.Align = alignments[m.Align]
		}
	case paper.PutCode:
		words := m.Text.Plain(facts)
		if words == "" {
			return
		}
		symbol, err := code.Make(code.QR, words, 1)
		if err != nil {
			b.notice(m.Block(), "paper.code-unmade", "reason", err.Error())
			return
		}
		p.Picture = &typeset.Picture{
			Drawing: &typeset.Drawing{Width: symbol.Width, Height: symbol.Height, Boxes: symbol.Boxes},
			Align:   alignments[m.Align], Alt: facts.Locale().CodeOf(words),
		}
	}
	b.out.Places = append(b.out.Places, p)
}

var alignments = map[string]typeset.Align{"center": typeset.Center, "end": typeset.End}

// lined are words with the ends of lines that answers of several lines have.
func lined(p phrase.Phrase, facts phrase.Facts) string {
	var b strings.Builder
	for _, r := range p.Bind(facts) {
		b.WriteString(r.Text)
	}
	return strings.TrimSpace(b.String())
}

func paragraphs(words string, like typeset.Paragraph, ink typeset.Colour) []*typeset.Paragraph {
	like.Role = typeset.Plain
	like.Runs = []typeset.Run{{Text: words, Colour: ink}}
	return []*typeset.Paragraph{&like}
}

// answer is a field and what was answered; in a row its column’s.
func (b *binder) answer(facts phrase.Facts, name string) (form.Field, form.Value) {
	x, _ := facts.Form.Field(name)
	if rows, ok := facts.Form.Column(name); ok {
		if all := facts.Answers[rows].Rows; len(all) > 0 {
			return x, all[0][x.Key]
		}
		return x, form.Value{}
	}
	return x, facts.Answers[x.Key]
}

// shown is a place with an answer’s picture, or the name of who signed by typing it.
func (b *binder) shown(p typeset.Place, x form.Field, v form.Value) typeset.Place {
	switch {
	case v.Empty():
	case v.Sign != nil && v.Sign.Typed != "":
		p.Words = paragraphs(v.Sign.Typed, typeset.Paragraph{Family: b.facts.House.Font}, typeset.Colour{})
		p.Words[0].Runs[0].Style.Italic = true
		p.Line = true
	case v.Sign != nil:
		p.Picture = paper.SignatureOf(v.Sign, x.Label, b.pictures)
	case len(v.Files) > 0:
		if p.Picture = paper.PhotoOf(v.Files[0], x.Label, b.pictures); p.Picture == nil && v.Files[0].ID != form.SampleFile {
			b.notice(p.Block, "paper.picture-unprinted", "name", v.Files[0].Name)
		}
	}
	return p
}

// signs draw ticks, crosses and lines in a box of points.
var signs = map[paper.MarkKind]func(w, h float64) *typeset.Drawing{
	paper.PutTick: func(w, h float64) *typeset.Drawing {
		side := min(w, h)
		return &typeset.Drawing{Width: side, Height: side, Shapes: []typeset.Shape{{
			Outlines: [][]float64{{side * 0.16, side * 0.55, side * 0.4, side * 0.8, side * 0.86, side * 0.2}},
			Width:    max(side*0.13, 0.9), Join: typeset.Round, Cap: typeset.Round,
		}}}
	},
	paper.PutCross: func(w, h float64) *typeset.Drawing {
		side := min(w, h)
		near, far := side*0.18, side*0.82
		return &typeset.Drawing{Width: side, Height: side, Shapes: []typeset.Shape{{
			Outlines: [][]float64{{near, near, far, far}, {near, far, far, near}}, Width: max(side*0.11, 0.9),
			Join: typeset.Round, Cap: typeset.Round,
		}}}
	},
	paper.PutStrike: func(w, h float64) *typeset.Drawing {
		return &typeset.Drawing{Width: w, Height: h, Shapes: []typeset.Shape{{
			Outlines: [][]float64{{0, h / 2, w, h / 2}}, Width: max(min(h*0.12, 1.4), 0.8),
		}}}
	},
}
