package paper

import (
	"cmp"
	"math"
	"slices"
	"strings"
	"unicode/utf8"

	"github.com/cockroachdb/apd/v3"

	"amberseal/core/ask/form"
	"amberseal/core/print/typeset"
	"amberseal/core/words/finding"
)

// Series is how numbers are drawn: those of the rows of the block's Rows, or of its Fields.
type Series struct {
	Kind  ChartKind `json:"kind"`
	Label string    `json:"label,omitempty"` // of rows: key of the field that names each; they are counted when empty
	Value string    `json:"value,omitempty"` // of rows: key of the field with the number
}

// ChartKind is the shape of a chart.
type ChartKind string

// The kinds of chart.
const (
	Bars           ChartKind = "bars"
	HorizontalBars ChartKind = "hbars"
	Pie            ChartKind = "pie"
	Line           ChartKind = "line"
)

// ChartKinds lists the kinds.
func ChartKinds() []ChartKind { return []ChartKind{Bars, HorizontalBars, Pie, Line} }

func (x Block) checkChart(c checking) finding.List {
	at, f := c.at, c.scope.Form
	var l finding.List
	known := false
	for _, k := range ChartKinds() {
		known = known || x.Series != nil && x.Series.Kind == k
	}
	if !known {
		l.Fault(at, "paper.chart-no-kind")
		return l
	}
	if x.Rows == "" {
		if len(x.Fields) == 0 {
			l.Fault(at, "paper.chart-without-fields")
		}
		l = append(l, x.checkFields(c, "paper.chart-draws-no-field")...)
		for _, key := range x.Fields {
			if field, ok := f.Field(key); ok && !field.Kind.Numeric() {
				l.Fault(at+"/field "+key, "paper.chart-field-without-number", "label", field.Label)
			}
		}
		return l
	}
	if rows, ok := f.Field(x.Rows); !ok || rows.Kind != form.Rows {
		l.Fault(at+"/field "+x.Rows, "paper.chart-rows-unknown", "rows", x.Rows)
		return l
	}
	if field, ok := f.Field(x.Rows + "." + x.Series.Value); !ok || !field.Kind.Numeric() {
		l.Fault(at+"/field "+x.Series.Value, "paper.chart-rows-without-numbers")
	}
	if _, ok := f.Field(x.Rows + "." + x.Series.Label); !ok && x.Series.Label != "" {
		l.Fault(at+"/field "+x.Series.Label, "paper.chart-names-unknown", "label", x.Series.Label)
	}
	return l
}

// datum is one number of a chart. Drawing needs no exactness: size is a float, words are what is printed.
type datum struct {
	label, words string
	size         float64
	field        form.Field
	value        form.Value
}

func (b *binder) data(x Block) []datum {
	var out []datum
	put := func(label string, field form.Field, v form.Value) {
		if v.Number == nil {
			return
		}
		if size, err := v.Number.Float64(); err == nil && !math.IsInf(size, 0) {
			out = append(out, datum{label, b.facts.Answer(field, v, ""), size, field, v})
		}
	}
	if x.Rows == "" {
		for _, key := range x.Fields {
			if field, values := b.valuesOf(key); len(values) == 1 {
				put(field.Label, field, values[0])
			}
		}
		return out
	}
	value, _ := b.facts.Form.Field(x.Rows + "." + x.Series.Value)
	named, _ := b.facts.Form.Field(x.Rows + "." + x.Series.Label)
	for i, row := range b.facts.Answers[x.Rows].Rows {
		label := ordinal(i+1, 0)
		if x.Series.Label != "" {
			label = strings.Join(strings.Fields(b.facts.Answer(named, row[x.Series.Label], "")), " ")
		}
		put(label, value, row[x.Series.Value])
	}
	return out
}

// mostData is how many numbers can be told apart on a chart: as many as points on a line, as bars below each other on a page,
// and as tints.
var mostData = map[ChartKind]int{Line: 60, HorizontalBars: 40, Pie: 8}

// gathered keeps the largest numbers of rows and joins the others into one, where there are more than a chart can show.
func (b *binder) gathered(data []datum, most int) []datum {
	if len(data) <= most {
		return data
	}
	bySize := make([]int, len(data)) // of equal ones the first come first
	for i := range data {
		bySize[i] = i
	}
	slices.SortStableFunc(bySize, func(a, b int) int { return cmp.Compare(math.Abs(data[b].size), math.Abs(data[a].size)) })
	var out, rest []datum
	for i, d := range data {
		if slices.Contains(bySize[:most-1], i) {
			out = append(out, d)
		} else {
			rest = append(rest, d)
		}
	}
	total, others := apd.New(0, 0), rest[0]
	for _, d := range rest {
		if _, err := exact.Add(total, total, d.value.Number); err != nil {
			return data[:most]
		}
	}
	others.value.Number, others.label = total, b.facts.Locale().Others(len(rest))
	others.words = b.facts.Answer(others.field, others.value, "")
	others.size, _ = total.Float64() // it is the sum of what were floats
	return append(out, others)
}

// The usual size of a chart in millimetres.
const usualChartWidth, usualChartHeight = 150, 70

// chart draws numbers, and says them to those who cannot see it.
func (b *binder) chart(x Block) {
	if x.Series == nil {
		return
	}
	data := b.data(x)
	width, height := x.Width, x.Height
	if width <= 0 {
		width = usualChartWidth
	}
	if height <= 0 {
		height = usualChartHeight
	}
	if len(data) == 0 {
		b.missing(x, LeaveNothing, height*millimetre)
		return
	}
	c := &canvas{binder: b, d: &typeset.Drawing{Width: width * millimetre, Height: height * millimetre, Colour: b.accent}, data: data}
	kind := x.Series.Kind
	if kind == Pie {
		kind = b.sliced(x, data)
	}
	if kind == Bars && !c.stand() {
		kind = HorizontalBars
	}
	if most := mostData[kind]; most > 0 && len(data) > most {
		if kind == Line || x.Rows == "" { // points have an order, and fields may count different things
			b.shared.findings.Notice(b.place(x), "paper.chart-cut", "most", most)
			c.data = data[:most]
		} else {
			c.data = b.gathered(data, most)
		}
	}
	switch kind {
	case HorizontalBars:
		c.horizontal()
	case Pie:
		c.pie()
	case Line:
		c.line()
	default:
		c.bars()
	}
	said := make([]string, len(data)) // all of them
	for i, d := range data {
		said[i] = d.label + ": " + d.words
	}
	b.captioned(x, x.Caption.Bind(b.facts), &typeset.Picture{
		Drawing: c.d, Width: c.d.Width, Height: c.d.Height,
		Alt: b.facts.Locale().ChartOf(strings.ReplaceAll(strings.Join(said, "; "), "\u00A0", " ")),
	})
}

// sliced is how a pie is drawn: as bars, with a finding, where a number below nothing, or nothing at all, has no slice.
func (b *binder) sliced(x Block, data []datum) ChartKind {
	sum := 0.0
	for _, d := range data {
		if d.size < 0 {
			b.shared.findings.Notice(b.place(x), "paper.pie-below-nothing", "label", d.label, "number", d.words)
			return Bars
		}
		sum += d.size
	}
	if sum == 0 {
		b.shared.findings.Notice(b.place(x), "paper.pie-of-nothing")
		return Bars
	}
	return Pie
}

// canvas draws one chart, in points.
type canvas struct {
	*binder
	d    *typeset.Drawing
	data []datum
}

const chartText = 8.5

// chartPitch is how far apart names below each other stand at least.
const chartPitch = 12

// wide is about how wide words on the chart are; nothing is set yet.
func wide(words string) float64 { return float64(utf8.RuneCountInString(words)) * chartText * 0.6 }

// widest is the room for the widest of the numbers: a number that is cut is another one.
func (c *canvas) widest() float64 {
	most := 0.0
	for _, d := range c.data {
		most = max(most, wide(d.words))
	}
	return most
}

// stand reports whether bars beside each other leave room for their numbers and names.
func (c *canvas) stand() bool {
	step := c.d.Width / float64(len(c.data))
	for _, d := range c.data {
		if max(wide(d.words), wide(d.label)) > step {
			return false
		}
	}
	return true
}

func (c *canvas) label(words string, x, y, room float64, a typeset.Align, ink typeset.Colour) {
	p := c.paragraph("", typeset.Plain, plain(words), chartText, ink)
	p.Align = a
	c.d.Labels = append(c.d.Labels, typeset.Label{X: x, Y: y, Words: *p, Room: room})
}

func (c *canvas) box(x, y, w, h float64, ink typeset.Colour) {
	c.d.Shapes = append(c.d.Shapes, typeset.Shape{Colour: ink, Outlines: [][]float64{{x, y, x + w, y, x + w, y + h, x, y + h}}})
}

// span is the least and the greatest number, with 0 between them or at one end.
func (c *canvas) span() (least, most float64) {
	for _, d := range c.data {
		least, most = min(least, d.size), max(most, d.size)
	}
	if most == least {
		most = least + 1
	}
	return least, most
}

// bars stand beside each other; their numbers stand on them and their names under them.
func (c *canvas) bars() {
	least, most := c.span()
	top, foot := 14.0, c.d.Height-16
	y := func(v float64) float64 { return foot - (v-least)/(most-least)*(foot-top) }
	step := c.d.Width / float64(len(c.data))
	for i, d := range c.data {
		x := step * float64(i)
		from, to := y(max(d.size, 0)), y(min(d.size, 0))
		c.box(x+step*0.18, from, step*0.64, max(to-from, 0.5), c.accent)
		c.label(d.words, x+step/2, from-4, step-3, typeset.Center, c.ink)
		c.label(d.label, x+step/2, c.d.Height-4, step-3, typeset.Center, softInk)
	}
	c.box(0, y(0)-0.25, c.d.Width, 0.5, softInk)
}

// horizontal bars lie under each other, names before and numbers after them.
func (c *canvas) horizontal() {
	least, most := c.span()
	c.d.Height = max(c.d.Height, chartPitch*float64(len(c.data)))
	const gap = 6
	names := 0.0 // room for the longest name, as far as it is known without setting it
	for _, d := range c.data {
		names = max(names, float64(utf8.RuneCountInString(d.label))*chartText*0.56)
	}
	names = min(max(names, c.d.Width*0.1), c.d.Width*0.42)
	left, right := names+gap, c.d.Width-c.widest()-gap
	x := func(v float64) float64 { return left + (v-least)/(most-least)*(right-left) }
	step := c.d.Height / float64(len(c.data))
	for i, d := range c.data {
		y := step * float64(i)
		from, to := x(min(d.size, 0)), x(max(d.size, 0))
		c.box(from, y+step*0.2, max(to-from, 0.5), step*0.6, c.accent)
		base := y + step/2 + chartText*0.35
		c.label(d.label, names, base, names, typeset.End, softInk)
		c.label(d.words, to+4, base, c.d.Width-to, typeset.Start, c.ink)
	}
	c.box(x(0)-0.25, 0, 0.5, c.d.Height, softInk)
}

// line joins the numbers; each has its point, its number and, where there is room, its name.
func (c *canvas) line() {
	least, most := c.span()
	top, foot := 16.0, c.d.Height-18
	y := func(v float64) float64 { return foot - (v-least)/(most-least)*(foot-top) }
	step := c.d.Width / float64(len(c.data))
	c.box(0, y(0)-0.25, c.d.Width, 0.5, softInk)
	var stroke []float64
	names := 0.0
	for _, d := range c.data {
		names = max(names, wide(d.label))
	}
	each := 1 + int(max(28, c.widest(), min(names, c.d.Width/4))/step) // names stand so far apart that they can be read
	for i, d := range c.data {
		x := step * (float64(i) + 0.5)
		stroke = append(stroke, x, y(d.size))
		c.box(x-1.8, y(d.size)-1.8, 3.6, 3.6, c.accent)
		if i%each == 0 {
			room := step*float64(each) - 3
			within := func(words string) float64 { // the chart's own width
				half := min(wide(words), room) / 2
				return max(min(x, c.d.Width-half), half)
			}
			c.label(d.words, within(d.words), y(d.size)-6, room, typeset.Center, c.ink)
			c.label(d.label, within(d.label), c.d.Height-4, room, typeset.Center, softInk)
		}
	}
	if len(c.data) > 1 { // straight from number to number: a pen's curve would show some that nobody gave
		c.d.Shapes = append(c.d.Shapes, typeset.Shape{Colour: c.accent, Outlines: [][]float64{stroke}, Width: 1.1, Join: typeset.Round,
			Cap: typeset.Round})
	}
}

// pie is slices of a circle that are lighter and darker in turn, parted by white, with a list of what they are.
func (c *canvas) pie() {
	sum := 0.0
	for _, d := range c.data {
		sum += d.size
	}
	c.d.Height = max(c.d.Height, chartPitch*float64(len(c.data)))
	r := min(c.d.Height, c.d.Width*0.45) / 2
	cx, cy := r, c.d.Height/2
	turn := -math.Pi / 2
	line := min((c.d.Height-4)/float64(len(c.data)), 15)
	at := cy - line*float64(len(c.data))/2
	for i, d := range c.data {
		share := d.size / sum * 2 * math.Pi
		ink := mixed(c.accent, float64(i)/float64(len(c.data))*0.75)
		if share > 0 {
			c.d.Shapes = append(c.d.Shapes, typeset.Shape{Colour: ink, Outlines: [][]float64{slicePoints(cx, cy, r, turn, share)}})
			if len(c.data) > 1 {
				c.d.Shapes = append(c.d.Shapes, spoke(cx, cy, r, turn))
			}
		}
		turn += share
		c.box(2*r+16, at+line/2-4, 8, 8, ink)
		c.label(d.words+"  "+d.label, 2*r+29, at+line/2+chartText*0.35, c.d.Width-2*r-29, typeset.Start, c.ink)
		at += line
	}
}

// slicePoints is the outline of a slice; an arc is chords so short that they look round.
func slicePoints(cx, cy, r, from, share float64) []float64 {
	out := []float64{cx, cy}
	n := int(math.Ceil(share/0.05)) + 1
	for i := range n + 1 {
		sin, cos := math.Sincos(from + share*float64(i)/float64(n))
		out = append(out, cx+r*cos, cy+r*sin)
	}
	return out
}

// spoke is a thin white line from the middle outwards.
func spoke(cx, cy, r, turn float64) typeset.Shape {
	const half = 0.5
	sin, cos := math.Sincos(turn)
	return typeset.Shape{
		Colour: white,
		Outlines: [][]float64{
			{
				cx + half*sin,
				cy - half*cos,
				cx + r*cos + half*sin,
				cy + r*sin - half*cos,
				cx + r*cos - half*sin,
				cy + r*sin + half*cos,
				cx - half*sin,
				cy + half*cos,
			},
		},
	}
}

// mixed is a colour with white, from 0 for none to 1 for white.
func mixed(c typeset.Colour, by float64) typeset.Colour {
	mix := func(v uint8) uint8 { return uint8(float64(v) + (255-float64(v))*by) }
	return typeset.Colour{R: mix(c.R), G: mix(c.G), B: mix(c.B)}
}
