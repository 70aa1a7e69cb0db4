package produce

import (
	"strings"

	"amberseal/core/ask/form"
	"amberseal/core/foreign/match"
	"amberseal/core/foreign/word"
	"amberseal/core/intake"
	"amberseal/core/print/paper"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

// Begin makes a word-processor file to go on with: of a document that was designed here, or of the whole form where the key is empty.
// Everything that is to be filled stands in it as a placeholder. left names the blocks that such a file cannot hold.
func Begin(d intake.Design, key string, h house.House) (file []byte, left []string, err error) {
	b := &beginning{d: d, out: word.Begin(h.Accent, wordFamily(h.Font))}
	title := d.Name
	if key == "" {
		b.out.Paragraph(word.TitleStyle, d.Name+" {{@number}}")
		b.fields(d.Form.Fields)
	} else {
		x, ok := d.Document(key)
		if !ok {
			return nil, nil, NoDocument{key}
		}
		title = x.Name
		b.blocks(x.Blocks)
	}
	file, err = b.out.Bytes(title, "{{@house}} · {{@number}}")
	return file, b.left, err
}

// wordFamily is a family that word processors everywhere have; one of the house's own is asked for by its name.
func wordFamily(font string) string {
	switch font {
	case "", "Literata":
		return "Cambria"
	case "IBM Plex Sans":
		return "Calibri"
	}
	return font
}

type beginning struct {
	d    intake.Design
	out  *word.Beginning
	rows []word.Row // of labels and answers, until something else comes
	left []string
}

func (b *beginning) flush() {
	if len(b.rows) > 0 {
		b.out.Table([]int{2, 3}, b.rows...)
		b.rows = nil
	}
}

// fields lays out the form: sections, labels with their answers, rows as tables.
func (b *beginning) fields(all []form.Field) {
	open := "" // the condition of the section at hand
	end := func() {
		if b.flush(); open != "" {
			b.mark("{{end}}")
			open = ""
		}
	}
	for _, x := range all {
		switch {
		case x.Kind == form.Section:
			end()
			if open = x.When; open != "" {
				b.mark("{{when " + open + "}}")
			}
			b.out.Paragraph(word.SectionStyle, x.Label)
		case !x.Answered():
		case x.Kind == form.Rows:
			b.flush()
			b.out.Paragraph(word.SectionStyle, x.Label)
			b.table(x, nil)
		default:
			b.rows = append(b.rows, word.Row{Cells: []word.CellWords{{Style: word.LabelStyle, Words: x.Label},
				{Style: word.AnswerStyle, Words: placeholder(x)}}})
		}
	}
	end()
}

func placeholder(x form.Field) string {
	switch x.Kind {
	case form.Signature:
		return "{{" + x.Key + "|width 60 mm}}"
	case form.Photo:
		return "{{" + x.Key + "|width 80 mm}}"
	}
	return "{{" + x.Key + "}}"
}

func (b *beginning) mark(words string) { b.out.Paragraph(word.MarkStyle, words) }

// table is a head and one row that repeats itself, and totals under it.
func (b *beginning) table(rows form.Field, totals []paper.Total) {
	var head, row []word.CellWords
	var shares []int
	for _, c := range rows.Fields {
		if c.Answered() {
			head = append(head, word.CellWords{Style: word.HeadStyle, Words: c.Label})
			row = append(row, word.CellWords{Style: word.AnswerStyle, Words: "{{" + rows.Key + "." + c.Key + "}}"})
			shares = append(shares, 1)
		}
	}
	if len(head) == 0 {
		return
	}
	all := []word.Row{{Head: true, Cells: head}, {Cells: row}}
	for _, t := range totals {
		cells := make([]word.CellWords, len(head))
		cells[0] = word.CellWords{Style: word.TotalStyle, Words: words(t.Label)}
		cells[len(cells)-1] = word.CellWords{Style: word.TotalStyle, Words: "{{" + t.Field + "}}"}
		all = append(all, word.Row{Cells: cells})
	}
	b.out.Table(shares, all...)
}

// words are a phrase as it is typed in a file.
func words(p phrase.Phrase) string {
	var out strings.Builder
	for _, s := range p {
		part := s.Text
		if s.Field != "" {
			if part = "{{" + s.Field; s.Format != "" {
				part += "|" + s.Format
			}
			part += "}}"
		}
		if s.When != "" {
			part = "{{when " + s.When + "}}" + part + "{{end}}"
		}
		out.WriteString(part)
	}
	return out.String()
}

func (b *beginning) blocks(all []paper.Block) {
	for _, x := range all {
		if x.When != "" {
			b.mark("{{when " + x.When + "}}")
		}
		if x.Each != "" {
			b.mark("{{rows " + x.Each + "}}")
		}
		b.block(x)
		if x.Each != "" {
			b.mark("{{end}}")
		}
		if x.When != "" {
			b.mark("{{end}}")
		}
	}
}

func (b *beginning) block(x paper.Block) {
	switch x.Kind {
	case paper.Letterhead:
		b.out.Paragraph(word.LabelStyle, "{{@house}}\n{{@house_email}}")
	case paper.Heading:
		style := word.SectionStyle
		if x.Level == 1 {
			style = word.TitleStyle
		}
		b.out.Paragraph(style, words(x.Text))
	case paper.Cover:
		b.out.Paragraph(word.TitleStyle, words(x.Text))
		b.out.Paragraph("", words(x.Caption))
	case paper.Text:
		for _, p := range x.Body {
			mark := map[string]string{"bullet": "• ", "number": ""}[p.List]
			b.out.Paragraph("", mark+words(p.Spans))
		}
	case paper.Facts:
		for _, t := range x.Tiles {
			b.out.Paragraph(word.LabelStyle, t.Label)
			b.out.Paragraph("", words(t.Text))
		}
	case paper.Answers:
		fields := b.d.Form.Fields
		if len(x.Fields) > 0 {
			fields = nil
			for _, key := range x.Fields {
				if f, ok := b.d.Form.Field(key); ok {
					fields = append(fields, f)
				}
			}
		}
		b.fields(fields)
	case paper.Lines:
		if rows, ok := b.d.Form.Field(x.Rows); ok {
			b.table(rows, x.Totals)
		}
	case paper.Signature:
		b.out.Paragraph("", "{{"+x.Field+"|width 60 mm}}")
		b.out.Paragraph(word.LabelStyle, words(x.Text))
	case paper.Code:
		b.out.Paragraph("", "{{qr "+strings.Trim(words(x.Text), "{}")+"|25 mm}}")
	case paper.PageBreak:
		b.out.Break()
	case paper.Group:
		b.blocks(x.Blocks)
	case paper.Columns:
		for _, side := range x.Sides {
			b.blocks(side.Blocks)
		}
	case paper.Picture:
		if x.Field != "" {
			b.out.Paragraph("", "{{"+x.Field+"|width 80 mm}}")
			return
		}
		b.left = append(b.left, string(x.Kind)+" "+x.ID)
	case paper.Rule, paper.Space:
		b.out.Paragraph("", "")
	default:
		b.left = append(b.left, string(x.Kind)+" "+x.ID)
	}
}

// Turn makes a designed document of one that is a word-processor file, as far as blocks reach. left says what they do not hold.
func Turn(d intake.Design, key string, pictures paper.Pictures) (x paper.Document, left []string, err error) {
	x, ok := d.Document(key)
	if !ok || !x.Brought() || x.OnPages() {
		return x, nil, NoDocument{key}
	}
	f, err := openBrought(x, pictures)
	if err != nil {
		return x, nil, err
	}
	turned := f.Turn(match.For(d.Form, x.Matches), d.Form)
	x.File, x.Matches = "", nil
	x.Blocks, x.Header, x.Footer = turned.Blocks, turned.Header, turned.Footer
	return x, turned.Left, nil
}
