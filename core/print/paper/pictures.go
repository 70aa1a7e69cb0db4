package paper

import (
	"strconv"
	"strings"

	"amberseal/core/ask/form"
	"amberseal/core/print/typeset"
)

// FontFile is the name under which the pictures' function finds an uploaded font.
func FontFile(name string) string { return "font/" + name }

// FontName is the name of the uploaded font that a name means, if it means one.
func FontName(name string) (string, bool) { return strings.CutPrefix(name, "font/") }

// BroughtFile is the name by which a document's own file is asked for.
func BroughtFile(name string) string { return "brought/" + name }

// BroughtName is the file that a name means, if it means one of a document's own.
func BroughtName(name string) (string, bool) { return strings.CutPrefix(name, "brought/") }

// GroundFile is the name by which a PDF is asked for as it was taken apart.
func GroundFile(name string) string { return "ground/" + name }

// GroundName is the name of such a PDF.
func GroundName(name string) (string, bool) { return strings.CutPrefix(name, "ground/") }

// File is the name under which the pictures' function finds an uploaded file.
func File(id string) string { return "file/" + id }

// FileID is the id of the uploaded file that a name means, if it means one.
func FileID(name string) (string, bool) { return strings.CutPrefix(name, "file/") }

// valuesOf are the answers of a field: one, or one for each row where it is asked in rows.
func (b *binder) valuesOf(name string) (form.Field, []form.Value) {
	x, ok := b.facts.Form.Field(name)
	if !ok {
		return x, nil
	}
	rows, ok := b.facts.Form.Column(name)
	if !ok {
		return x, []form.Value{b.facts.Answers[name]}
	}
	var out []form.Value
	for _, row := range b.facts.Answers[rows].Rows {
		out = append(out, row[x.Key])
	}
	return x, out
}

// usualPicture is the largest size of an answer's picture in millimetres, where the design says none.
const usualPictureWidth, usualPictureHeight = 80, 60

// pictureBlock prints a picture of the design, or all those of an answer, as a grid where there are several.
func (b *binder) pictureBlock(x Block) {
	caption := x.Caption.Bind(b.facts)
	if x.Field == "" {
		if p := b.art(x.Picture, b.place(x)); p != nil {
			p.Alt, p.Width, p.Height = x.Alt, x.Width*millimetre, x.Height*millimetre
			b.captioned(x, caption, p)
		}
		return
	}
	pictures := b.answered(x)
	switch {
	case len(pictures) == 0:
		height := x.Height
		if height <= 0 {
			height = usualPictureHeight
		}
		b.missing(x, LeaveNothing, height*millimetre)
	case len(pictures) == 1:
		b.captioned(x, caption, pictures[0])
	default:
		b.photoGrid(x, caption, pictures)
	}
}

// answered are the pictures of an answer, each described by its question and number.
func (b *binder) answered(x Block) []*typeset.Picture {
	field, values := b.valuesOf(x.Field)
	width, height := x.Width, x.Height
	if width <= 0 {
		width = usualPictureWidth
	}
	if height <= 0 {
		height = usualPictureHeight
	}
	var out []*typeset.Picture
	put := func(p *typeset.Picture) {
		if p != nil {
			p.Width, p.Height = width*millimetre, height*millimetre
			out = append(out, p)
		}
	}
	for _, v := range values {
		if v.Kind == form.Signature && v.Sign != nil && v.Sign.Typed == "" {
			put(SignatureOf(v.Sign, field.Label, b.pictures))
		}
		for _, f := range v.Files {
			put(PhotoOf(f, field.Label+" "+strconv.Itoa(len(out)+1), b.pictures))
		}
	}
	return out
}

// captioned prints a picture with the words under it.
func (b *binder) captioned(x Block, caption runs, p *typeset.Picture) {
	p.Block, p.Align, p.Before, p.After = x.ID, align(x.Align), 4, 10
	if len(caption) > 0 {
		p.After, p.KeepNext = 4, true
	}
	b.add(p)
	b.caption(x, caption)
}

func (b *binder) caption(x Block, caption runs) {
	if len(caption) == 0 {
		return
	}
	p := b.paragraph(x.ID, typeset.Plain, caption.italic(), b.style.label, softInk)
	p.Align, p.After = align(x.Align), 10
	b.add(p)
}

// mostAcross is how many photos stand beside each other.
const mostAcross = 6

// The rows of photos, in points: room between them, and how high one is at most where the design says nothing.
const (
	photoGap  = 8.0
	mostPhoto = 80 * millimetre
)

// photoGrid prints photos beside each other in rows that fill the width, those of a row equally high and each with its number.
func (b *binder) photoGrid(x Block, caption runs, pictures []*typeset.Picture) {
	across := x.Across
	if across < 1 {
		across = min(len(pictures), 3)
	}
	across = min(across, mostAcross)
	page := b.shared.out.Page
	width, most := page.Width-page.Left-page.Right, mostPhoto
	if x.Height > 0 {
		most = x.Height * millimetre
	}
	if b.within != &b.shared.out.Body { // the room is not known here: columns of equal width
		width = 0
	}
	before := 0.0 // height of the row before, which a last row that is not full has too
	for i := 0; i < len(pictures); i += across {
		row := pictures[i:min(i+across, len(pictures))]
		sum := 0.0
		for _, p := range row {
			sum += shape(p)
		}
		high := min((width-photoGap*float64(len(row)))/sum, most)
		if before > 0 && len(row) < across {
			high = min(high, before)
		}
		before = high
		last := i+across >= len(pictures)
		t := &typeset.Table{Block: x.ID, Layout: true, Gap: photoGap, Pad: 3, Rows: []typeset.Row{{Whole: true}}}
		if i == 0 {
			t.Before = 4
		}
		if last {
			t.After = 4
		}
		t.Rows[0].KeepNext = last && len(caption) > 0
		for k, p := range row {
			if width > 0 {
				p.Width, p.Height = high*shape(p), high
				t.Columns = append(t.Columns, p.Width+photoGap)
			} else {
				t.Columns = append(t.Columns, 1)
			}
			p.KeepNext = true
			number := b.paragraph("", typeset.Plain, plain(strconv.Itoa(i+k+1)), b.style.fixed(7.5), softInk)
			number.Family, number.Before = labelFamily, 1.5
			t.Rows[0].Cells = append(t.Rows[0].Cells, typeset.Cell{Nodes: []typeset.Node{p, number}})
		}
		if t.Exact = width > 0; t.Exact {
			t.Gap = 0
		} else {
			for len(t.Columns) < across {
				t.Columns = append(t.Columns, 1)
			}
		}
		b.add(t)
	}
	b.caption(x, caption)
}

// shape is how wide a picture is of its height.
func shape(p *typeset.Picture) float64 {
	if p.Drawing != nil {
		return p.Drawing.Width / max(p.Drawing.Height, 1)
	}
	return float64(p.Image.Width) / float64(max(p.Image.Height, 1))
}

// SignatureOf is a signature as it was drawn; an uploaded one is a picture, nil where it cannot be printed.
func SignatureOf(m *form.Mark, label string, pictures Pictures) *typeset.Picture {
	if m.File != nil {
		p := PhotoOf(*m.File, label, pictures)
		if p != nil {
			p.Width, p.Height = 60*millimetre, 22*millimetre
		}
		return p
	}
	strokes, w, h := trim(m)
	return &typeset.Picture{
		Drawing: &typeset.Drawing{Width: w, Height: h, Strokes: strokes, Colour: usualInk},
		Width:   60 * millimetre,
		Height:  18 * millimetre,
		Alt:     label,
	}
}

// trim moves the strokes into the corner and gives the size of what was drawn.
func trim(m *form.Mark) (strokes [][]float64, w, h float64) {
	x0, y0, x1, y1 := m.Width, m.Height, 0.0, 0.0
	for _, s := range m.Strokes {
		for i := 0; i+1 < len(s); i += 2 {
			x0, x1 = min(x0, s[i]), max(x1, s[i])
			y0, y1 = min(y0, s[i+1]), max(y1, s[i+1])
		}
	}
	const rim = 2
	for _, s := range m.Strokes {
		moved := make([]float64, len(s))
		for i := range s {
			moved[i] = s[i] - x0 + rim
			if i%2 == 1 {
				moved[i] = s[i] - y0 + rim
			}
		}
		strokes = append(strokes, moved)
	}
	return strokes, x1 - x0 + 2*rim, y1 - y0 + 2*rim
}

// PhotoOf is an uploaded picture, or nil where it cannot be printed.
func PhotoOf(f form.File, alt string, pictures Pictures) *typeset.Picture {
	data, err := pictures(File(f.ID))
	if err != nil {
		return nil
	}
	img, err := typeset.ReadImage(data)
	if err != nil {
		return nil
	}
	return &typeset.Picture{Image: img, Width: usualPictureWidth * millimetre, Height: usualPictureHeight * millimetre, Alt: alt}
}
