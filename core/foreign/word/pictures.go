package word

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	_ "image/gif" // of pictures that are sent
	_ "image/jpeg"
	"image/png"
	"math"
	"path"
	"regexp"
	"strconv"
	"strings"

	"github.com/beevik/etree"
	"golang.org/x/image/vector"

	"amberseal/core/ask/form"
	"amberseal/core/print/paper/code"
)

// emu are the units of drawings in a millimetre (ISO/IEC 29500-1, 20.1.2.1: 914,400 in an inch).
const emu = 36_000

// The usual widths of what is printed without a size, in millimetres.
const (
	usualPicture   = 80
	usualSignature = 60
	usualCode      = 25
)

// picture is an image to be put into the file.
type picture struct {
	data          []byte
	kind          string // png, jpeg or gif
	width, height float64
}

func readPicture(data []byte) (picture, bool) {
	c, kind, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil || c.Width == 0 || c.Height == 0 {
		return picture{}, false
	}
	return picture{data, kind, float64(c.Width), float64(c.Height)}, true
}

// pictureOf is an answer as a picture: a photo as it was sent, a signature as it was drawn.
func (w *filler) pictureOf(v form.Value) (picture, bool) {
	file := ""
	switch {
	case v.Sign != nil && v.Sign.File != nil:
		file = v.Sign.File.ID
	case v.Sign != nil && len(v.Sign.Strokes) > 0:
		return drawn(v.Sign), true
	case len(v.Files) > 0:
		file = v.Files[0].ID
	}
	if file == "" || w.with.Picture == nil {
		return picture{}, false
	}
	data, err := w.with.Picture("file/" + file)
	if err != nil {
		return picture{}, false
	}
	return readPicture(data)
}

// size reads a width as it stands behind the bar: “60 mm”, “width 60 mm”.
func size(how string, usual float64) float64 {
	if m := inMillimetres.FindStringSubmatch(how); m != nil {
		if v, err := strconv.ParseFloat(strings.ReplaceAll(m[1], ",", "."), 64); err == nil && v >= 2 && v <= 400 {
			return v
		}
	}
	return usual
}

var inMillimetres = regexp.MustCompile(`^(?:width\s+)?([0-9]+(?:[.,][0-9]+)?)\s*mm$`)

// putPicture prints an answer that is a picture in the place of its mark.
func (w *filler) putPicture(l line, m mark, x form.Field, v form.Value) {
	p, ok := w.pictureOf(v)
	if !ok {
		l.put(m.start, m.end, "")
		return
	}
	usual := float64(usualPicture)
	if x.Kind == form.Signature {
		usual = usualSignature
	}
	w.insert(l, m, p, size(m.how, usual), x.Label)
}

// codePicture prints a code of words.
func (w *filler) codePicture(l line, m mark, words string) {
	if words == "" {
		l.put(m.start, m.end, "")
		return
	}
	symbol, err := code.Make(code.QR, words, 0)
	if err != nil {
		l.put(m.start, m.end, "")
		return
	}
	const scale = 8
	img := image.NewPaletted(image.Rect(0, 0, int(symbol.Width)*scale, int(symbol.Height)*scale), color.Palette{color.White, color.Black})
	for _, b := range symbol.Boxes {
		for y := int(b[1]) * scale; y < int(b[1]+b[3])*scale; y++ {
			for x := int(b[0]) * scale; x < int(b[0]+b[2])*scale; x++ {
				img.SetColorIndex(x, y, 1)
			}
		}
	}
	w.insert(l, m, encoded(img), size(m.how, usualCode), words)
}

func encoded(img image.Image) picture {
	var b bytes.Buffer
	if err := png.Encode(&b, img); err != nil { // a buffer takes all
		return picture{}
	}
	r := img.Bounds()
	return picture{b.Bytes(), "png", float64(r.Dx()), float64(r.Dy())}
}

// insert puts a picture into the line in the place of a mark.
func (w *filler) insert(l line, m mark, p picture, width float64, alt string) {
	at := l.split(m.end)
	l = readLine(l.paragraph)
	first := l.split(m.start)
	run := etree.NewElement("w:r")
	w.drawing(run, p, width, alt)
	switch {
	case at != nil:
		at.Parent().InsertChildAt(at.Index(), run)
	case first != nil:
		first.Parent().InsertChildAt(lastRun(first).Index()+1, run)
	default:
		l.paragraph.AddChild(run)
	}
	l = readLine(l.paragraph)
	l.cut(m.start, m.end)
}

func lastRun(e *etree.Element) *etree.Element {
	last := e
	for _, c := range e.Parent().ChildElements() {
		if c.Space == "w" && c.Tag == "r" && c.Index() >= last.Index() {
			last = c
		}
	}
	return last
}

// drawing writes a picture that stands in the line (20.4.2.8).
func (w *filler) drawing(run *etree.Element, p picture, width float64, alt string) {
	id := w.link(p)
	cx := int(width * emu)
	cy := int(width * emu * p.height / p.width)
	n := len(w.out.added) + 9000
	d := etree.NewDocument()
	err := d.ReadFromString(fmt.Sprintf(`<w:drawing xmlns:w="%s"><wp:inline xmlns:wp="%s" distT="0" distB="0" distL="0" distR="0">`+
		`<wp:extent cx="%d" cy="%d"/>`+
		`<wp:docPr id="%d" name="Picture %d"/><a:graphic xmlns:a="%s"><a:graphicData uri="%s"><pic:pic xmlns:pic="%s"><pic:nvPicPr>`+
		`<pic:cNvPr id="%d" `+
		`name="Picture"/><pic:cNvPicPr/></pic:nvPicPr><pic:blipFill><a:blip xmlns:r="%s" r:embed="%s"/><a:stretch><a:fillRect/>`+
		`</a:stretch>`+
		`</pic:blipFill><pic:spPr><a:xfrm><a:off x="0" y="0"/><a:ext cx="%d" cy="%d"/></a:xfrm><a:prstGeom prst="rect"><a:avLst/>`+
		`</a:prstGeom>`+
		`</pic:spPr></pic:pic></a:graphicData></a:graphic></wp:inline></w:drawing>`,
		w.space("w"), w.space("wp"), cx, cy, n, n, w.space("a"), w.space("pic"), w.space("pic"), n, w.space("r"), id, cx, cy))
	if err != nil {
		return
	}
	d.Root().FindElement("wp:inline/wp:docPr").CreateAttr("descr", alt)
	run.AddChild(d.Root())
}

// space is a namespace as the file writes it: a strict file keeps to its own.
func (w *filler) space(prefix string) string {
	strict := false
	for _, a := range w.out.file.stories[0].tree.Root().Attr {
		strict = strict || a.Space == "xmlns" && a.Key == "w" && strings.HasPrefix(a.Value, "http://purl.oclc.org/")
	}
	for uri, p := range prefixes {
		if p == prefix && strings.HasPrefix(uri, "http://purl.oclc.org/") == strict {
			return uri
		}
	}
	for uri, p := range prefixes {
		if p == prefix {
			return uri
		}
	}
	return ""
}

// link adds an image to the package and gives the name by which the part speaks of it.
func (w *filler) link(p picture) string {
	ending := map[string]string{"jpeg": "jpg"}[p.kind]
	if ending == "" {
		ending = p.kind
	}
	name := fmt.Sprintf("%s/media/filled%d.%s", path.Dir(w.out.file.main), len(w.out.added)+1, ending)
	w.out.added = append(w.out.added, added{name, p.data})
	w.out.types[ending] = "image/" + p.kind
	id := fmt.Sprintf("rIdFilled%d", len(w.out.added))
	w.out.links[w.part] = append(w.out.links[w.part], relationship{id: id, kind: "image", target: name})
	return id
}

// pictures fills the pictures of a paragraph whose description is a mark: they are replaced in their place and box, keeping the
// proportions of what is put in. Without an answer the picture goes, and nothing else.
func (w *filler) pictures(p *etree.Element) {
	for _, d := range drawings(p) {
		pr := d.FindElement(".//wp:docPr")
		if pr == nil {
			continue
		}
		m, ok := described(pr)
		if !ok {
			continue
		}
		_, v, ok := w.pictured(m.name)
		image, found := picture{}, false
		if ok {
			image, found = w.pictureOf(v)
		}
		blip := d.FindElement(".//a:blip")
		if !ok || blip == nil {
			continue
		}
		if !found {
			remove(outermost(d))
			continue
		}
		pr.CreateAttr("descr", w.label(m.name))
		for _, a := range []string{"r:link", "r:embed"} {
			blip.RemoveAttr(a)
		}
		blip.CreateAttr("r:embed", w.link(image))
		if blip.SelectAttr("xmlns:r") == nil {
			blip.CreateAttr("xmlns:r", w.space("r"))
		}
		for _, e := range blip.ChildElements() { // effects and a vector form of the picture that was there
			blip.RemoveChild(e)
		}
		if crop := d.FindElement(".//a:srcRect"); crop != nil {
			remove(crop)
		}
		fit(d, image)
	}
}

func (w *filler) label(name string) string {
	m, _ := w.with.Names.Find(name)
	x, _ := w.with.Facts.Form.Field(m.Field())
	return x.Label
}

// described is the mark in a picture's description.
func described(pr *etree.Element) (mark, bool) {
	for _, key := range []string{"descr", "title"} {
		l := line{text: pr.SelectAttrValue(key, "")}
		if marks := l.marks(); len(marks) > 0 {
			return marks[0], true
		}
	}
	return mark{}, false
}

// fit makes the box of a drawing as narrow or low as its new picture, and keeps it inside the box.
func fit(d *etree.Element, p picture) {
	extent := d.FindElement(".//wp:extent")
	if extent == nil {
		return
	}
	cx, _ := strconv.ParseFloat(extent.SelectAttrValue("cx", ""), 64)
	cy, _ := strconv.ParseFloat(extent.SelectAttrValue("cy", ""), 64)
	if cx <= 0 || cy <= 0 {
		return
	}
	if scale := min(cx/p.width, cy/p.height); true {
		cx, cy = math.Round(p.width*scale), math.Round(p.height*scale)
	}
	for _, e := range append([]*etree.Element{extent}, d.FindElements(".//a:xfrm/a:ext")...) {
		e.CreateAttr("cx", strconv.Itoa(int(cx)))
		e.CreateAttr("cy", strconv.Itoa(int(cy)))
	}
}

// drawings are the pictures of a paragraph, outside its text boxes.
func drawings(p *etree.Element) []*etree.Element {
	var out []*etree.Element
	var walk func(e *etree.Element)
	walk = func(e *etree.Element) {
		for _, c := range e.ChildElements() {
			switch {
			case c.Tag == "txbxContent":
			case c.Space == "w" && c.Tag == "drawing":
				out = append(out, c)
				walk(c)
			default:
				walk(c)
			}
		}
	}
	walk(p)
	return out
}

// outermost is what goes with a drawing: the choice between newer and older readers around it.
func outermost(d *etree.Element) *etree.Element {
	for e := d; e != nil && e.Tag != "p"; e = e.Parent() {
		if e.Space == "mc" && e.Tag == "AlternateContent" {
			return e
		}
	}
	return d
}

// drawn paints a signature: dark ink on nothing.
func drawn(m *form.Mark) picture {
	const width, rim = 900.0, 3.0
	x0, y0, x1, y1 := math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	for _, s := range m.Strokes {
		for i := 0; i+1 < len(s); i += 2 {
			x0, x1 = min(x0, s[i]), max(x1, s[i])
			y0, y1 = min(y0, s[i+1]), max(y1, s[i+1])
		}
	}
	scale := (width - 2*rim) / max(x1-x0, 2.5*(y1-y0), 1)
	w, h := int(math.Ceil((x1-x0)*scale+2*rim)), int(math.Ceil((y1-y0)*scale+2*rim))
	r := vector.NewRasterizer(w, h)
	half := float32(max(1.2, width/300))
	for _, s := range m.Strokes {
		var px, py float32
		for i := 0; i+1 < len(s); i += 2 {
			x, y := float32((s[i]-x0)*scale+rim), float32((s[i+1]-y0)*scale+rim)
			if i == 0 {
				px, py = x, y
			}
			stroke(r, px, py, x, y, half)
			px, py = x, y
		}
	}
	img := image.NewNRGBA(image.Rect(0, 0, w, h))
	r.Draw(img, img.Bounds(), image.NewUniform(color.NRGBA{0x17, 0x21, 0x3A, 0xFF}), image.Point{})
	return encoded(img)
}

// stroke adds a line with round ends.
func stroke(r *vector.Rasterizer, x0, y0, x1, y1, half float32) {
	dx, dy := float64(x1-x0), float64(y1-y0)
	angle := math.Atan2(dy, dx)
	point := func(x, y float32, a float64) (float32, float32) {
		return x + half*float32(math.Cos(a)), y + half*float32(math.Sin(a))
	}
	const steps = 6
	r.MoveTo(point(x0, y0, angle+math.Pi/2))
	for i := 1; i <= steps; i++ {
		r.LineTo(point(x0, y0, angle+math.Pi/2+math.Pi*float64(i)/steps))
	}
	for i := 0; i <= steps; i++ {
		r.LineTo(point(x1, y1, angle-math.Pi/2+math.Pi*float64(i)/steps))
	}
	r.ClosePath()
}
