package produce_test

import (
	"image"
	"image/color"
	"image/png"
	"math"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"amberseal/app/produce"
	"amberseal/core/ask/form"
	"amberseal/core/intake"
	"amberseal/core/print/paper"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

// sampler is a document with every kind of block, and answers for it.
func sampler(t testing.TB) (intake.Design, phrase.Facts) {
	return asked(t, "testdata/sampler", "S-001")
}

// asked is an intake beside whose file its answers lie.
func asked(t testing.TB, file, number string) (intake.Design, phrase.Facts) {
	var d intake.Design
	var h house.House
	var raw form.Raw
	load(t, file+".json", &d)
	load(t, demo+"house.json", &h)
	load(t, file+"-answers.json", &raw)
	at := time.Date(2026, 11, 24, 10, 0, 0, 0, time.UTC)
	r := form.Check(d.Form, raw, h.Circumstances(at))
	if len(r.Findings) > 0 {
		t.Fatal(r.Findings)
	}
	return d, phrase.Facts{House: h, Intake: d.Name, Form: d.Form, Answers: r.Answers, Number: number, Received: at, Made: at}
}

func exists(string) bool { return true }

func TestTheSamplerHasEveryKindOfBlock(t *testing.T) {
	d, _ := sampler(t)
	if l := d.Documents[0].Check(d.Form, exists); len(l) > 0 {
		t.Error(l)
	}
	kinds := map[paper.BlockKind]bool{}
	d.Documents[0].Walk(func(b *paper.Block, _ string) bool { kinds[b.Kind] = true; return true })
	for _, k := range paper.BlockKinds() {
		if !kinds[k] && k != paper.Rule && k != paper.Space && k != paper.PageBreak {
			t.Errorf("the sampler has no %s", k)
		}
	}
}

// Every look of the sampler, with given, emptest and longest answers: readers find no fault, and PDFBox Preflight finds the
// files valid PDF/A-1b.
func TestEveryBlockInEveryLook(t *testing.T) {
	d, f := sampler(t)
	given := f.Answers
	var files []string
	for _, look := range paper.Looks() {
		for _, answers := range []form.Answers{given, form.Sample(d.Form, form.Emptest), form.Sample(d.Form, form.Longest)} {
			d.Documents[0].Look, d.Documents[0].Archival, f.Answers = look, paper.A1b, answers
			c := compose(t, d, "sampler", f)
			for _, x := range c.Findings { // columns of numbers make room for the longest
				if strings.ContainsAny(x.Message, "0123456789") {
					t.Errorf("%s: %v", look, x)
				}
			}
			file := write(t, c)
			faultless(t, file)
			files = append(files, file)
		}
	}
	if valid := preflight(t, files); slices.Contains(valid, false) {
		t.Error(valid)
	}
}

// The order of reading is that of the script, also in columns and lists; pdftotext -raw gives the order of the content and
// pdfinfo that of the structure.
func TestTheSamplerIsReadInOrder(t *testing.T) {
	d, f := sampler(t)
	c := compose(t, d, "sampler", f)
	file := write(t, c)
	text := strings.Join(strings.Fields(tool(t, "pdftotext", "-raw", "-enc", "UTF-8", file, "-")), " ")
	at := 0
	for _, want := range []string{
		"Every kind of block", "and small, set in Small Capitals, or lead elsewhere", "extraordin\u00AD arily",
		"Tabs: one two three 12 345 6 7",
		"• An item a. with an item inside b. and another", "i. deeper still • Another item", "This one only where the sound was good.",
		"On the left", "also tables and lists.", "Aoife Brannigan",
		"On the right", "with words under it", "A cell over two columns", "1. New strings 1.50 48.00", "4. Polish 3.00 120.00",
		"1 Strings New strings 1.5 €48.00 €52.80", "Subtotal Strings 3.75 €143.50", "Subtotal Wood 9 €430.00",
		"Row 2: SETTING UP It took 2.25 hours and cost €95.50.", "Row 3", "Name Aoife Brannigan", "Cost of each work",
		"No photos were sent.", "page 3 of 4", "01 23 45 67",
	} {
		i := strings.Index(text[at:], want)
		if i < 0 {
			t.Fatalf("%q does not come after %q in\n%s", want, text[max(0, at-60):at], text)
		}
		at += i + len(want)
	}
	for _, never := range []string{"never", "not shown", "Row 1", "[work"} {
		if strings.Contains(text, never) {
			t.Errorf("%q is printed", never)
		}
	}
	var tree []string
	for line := range strings.Lines(tool(t, "pdfinfo", "-struct", file)) {
		tree = append(tree, strings.TrimSuffix(strings.TrimSpace(line), " (block)"))
	}
	shape := strings.Join(tree, " ")
	for _, want := range []string{"L (block): /ListNumbering /Disc LI Lbl LBody L (block): /ListNumbering /Disc LI Lbl LBody LI Lbl " +
		"LBody L (block): /ListNumbering /Disc LI Lbl LBody LI Lbl LBody P", "Table TR TH", "H2 P Table"} {
		if !strings.Contains(shape, want) {
			t.Errorf("the structure has no %s:\n%s", want, shape)
		}
	}
	placed := map[string]bool{}
	for _, p := range c.Placements {
		placed[p.Block] = true
		if p.X < 0 || p.Y < 0 || p.X+p.W > c.Sheets[p.Page-1].Width+0.01 || p.Y+p.H > c.Sheets[p.Page-1].Height+0.01 {
			t.Errorf("%+v is off the page", p)
		}
	}
	d.Documents[0].Walk(func(b *paper.Block, _ string) bool {
		if !placed[b.ID] && b.Kind != paper.Group {
			t.Errorf("block %s is placed nowhere", b.ID)
		}
		return true
	})
}

// blurred is a page in so few pixels that only its composition is seen.
func blurred(t *testing.T, file string, page string) *image.Gray {
	name := filepath.Join(t.TempDir(), "page")
	tool(t, "pdftoppm", "-r", "20", "-gray", "-png", "-singlefile", "-f", page, file, name)
	in, err := os.Open(name + ".png")
	if err != nil {
		t.Fatal(err)
	}
	defer in.Close()
	img, err := png.Decode(in)
	if err != nil {
		t.Fatal(err)
	}
	out := image.NewGray(img.Bounds())
	for y := range out.Rect.Dy() {
		for x := range out.Rect.Dx() {
			out.Set(x, y, color.GrayModel.Convert(img.At(x, y)))
		}
	}
	return out
}

// The approved pictures were looked at; AMBERSEAL_APPROVE=1 makes them anew. Renderers differ a little in how they blur
// edges: less than what moving a line of text by a pixel makes.
func TestPagesLookAsApproved(t *testing.T) {
	d, f := sampler(t)
	for _, look := range paper.Looks() {
		for _, page := range []string{"1", "2"} {
			d.Documents[0].Look = look
			got := blurred(t, write(t, compose(t, d, "sampler", f)), page)
			name := "testdata/approved/" + string(look) + "-" + page + ".png"
			if os.Getenv("AMBERSEAL_APPROVE") != "" {
				out, err := os.Create(name)
				if err == nil {
					err = png.Encode(out, got)
				}
				if err != nil {
					t.Fatal(err)
				}
				out.Close()
				continue
			}
			in, err := os.Open(name)
			if err != nil {
				t.Fatal(err)
			}
			want, err := png.Decode(in)
			in.Close()
			if err != nil || want.Bounds() != got.Bounds() {
				t.Fatal(name, err)
			}
			sum := 0.0
			for y := range got.Rect.Dy() {
				for x := range got.Rect.Dx() {
					w := color.GrayModel.Convert(want.At(x, y)).(color.Gray).Y
					sum += math.Abs(float64(w) - float64(got.GrayAt(x, y).Y))
				}
			}
			if mean := sum / float64(got.Rect.Dx()*got.Rect.Dy()); mean > 1 {
				t.Errorf("%s differs by %.2f of 255 on average", name, mean)
			}
		}
	}
}

func TestMissingThings(t *testing.T) {
	d, f := sampler(t)
	f.Answers = form.Sample(d.Form, form.Emptest)
	block := func(kind paper.BlockKind) paper.Block {
		return map[paper.BlockKind]paper.Block{
			paper.Picture:   {Kind: paper.Picture, Settings: paper.Settings{Field: "shots", Height: 20}},
			paper.Signature: {Kind: paper.Signature, Settings: paper.Settings{Field: "sign"}},
			paper.Code:      {Kind: paper.Code, Settings: paper.Settings{Text: phrase.Parse("{{name}}"), Width: 20}},
			paper.Graph: {Kind: paper.Graph, Settings: paper.Settings{Series: &paper.Series{Kind: paper.Bars},
				Fields: []string{"sound"}, Height: 20}},
			paper.Lines: {Kind: paper.Lines, Settings: paper.Settings{Rows: "work"}},
		}[kind]
	}
	for _, kind := range []paper.BlockKind{paper.Picture, paper.Signature, paper.Code, paper.Graph, paper.Lines} {
		y := map[string]float64{}
		for missing, how := range map[string]paper.Missing{
			"nothing": {Leave: paper.LeaveNothing}, "space": {Leave: paper.LeaveSpace}, "There is none.": {Words: "There is none."},
		} {
			b := block(kind)
			b.ID, b.Missing = "b", &how
			d.Documents[0].Blocks = []paper.Block{
				{ID: "above", Kind: paper.Heading, Settings: paper.Settings{Level: 1, Text: phrase.Parse("Above")}},
				b,
				{ID: "under", Kind: paper.Heading, Settings: paper.Settings{Level: 3, Text: phrase.Parse("Under")}},
			}
			c := compose(t, d, "sampler", f)
			file := write(t, c)
			if said := strings.Contains(tool(t, "pdftotext", file, "-"), "There is none."); said != (missing == "There is none.") {
				t.Errorf("%s, %s: the words stand there: %v", kind, missing, said)
			}
			for _, p := range c.Placements {
				if p.Block == "under" {
					y[missing] = p.Y
				}
			}
		}
		if y["space"] < y["nothing"]+30 || y["There is none."] <= y["nothing"] {
			t.Errorf("%s: what follows stands at %v", kind, y)
		}
	}
}

func TestOverflowIsFound(t *testing.T) {
	d, f := sampler(t)
	word := strings.Repeat("w", 200)
	for block, want := range map[string]paper.Block{
		"broken between letters": {Kind: paper.FixedTable,
			Settings: paper.Settings{Grid: &paper.Grid{Shares: []float64{1, 9},
				Rows: []paper.GridRow{{Cells: []paper.GridCell{{Body: phrase.ParseBody(word)}, {}}}}}}},
		"does not fit its stub": {Kind: paper.Strip,
			Settings: paper.Settings{Stubs: 20, Height: 30, Text: phrase.Parse("A\nB\nC\nD\nE " + word)}},
		"printed smaller": {Kind: paper.Picture, Settings: paper.Settings{Picture: "bench.jpg", Alt: "Bench", Width: 400}},
	} {
		want.ID = "b"
		d.Documents[0].Blocks = []paper.Block{want}
		c, err := produce.Compose(d, "sampler", f, pictures, produce.Apart{})
		if err != nil || len(c.Findings) != 1 || c.Findings[0].Place != "documents/sampler/blocks/b" ||
			!strings.Contains(c.Findings[0].Message, block) {
			t.Errorf("%s: %v %v", block, c.Findings, err)
		}
	}
}

// What the page about documents says of kinds, papers, placeholders and levels is what there is.
func TestThePageAboutDocumentsIsTrue(t *testing.T) {
	about, err := os.ReadFile("../../docs/documents.md")
	if err != nil {
		t.Fatal(err)
	}
	format, err := os.ReadFile("../../docs/design-format.md")
	if err != nil {
		t.Fatal(err)
	}
	for _, k := range paper.BlockKinds() {
		for name, page := range map[string][]byte{"documents.md": about, "design-format.md": format} {
			if !strings.Contains(string(page), "`"+string(k)+"`") {
				t.Errorf("%s says nothing of %s", name, k)
			}
		}
	}
	for _, g := range phrase.Givens() {
		if !strings.Contains(string(about), "`"+g.Name+"`") || !strings.Contains(string(format), "`"+g.Name+"`") {
			t.Errorf("the placeholder %s is not told", g.Name)
		}
	}
	for _, name := range paper.Places() {
		if !strings.Contains(string(format), name) {
			t.Errorf("the place %s is not told", name)
		}
	}
	for _, look := range paper.Looks() {
		if !strings.Contains(strings.ToLower(string(about)), "**"+string(look)+"**") {
			t.Errorf("the look %s is not told", look)
		}
	}
	for _, k := range paper.ChartKinds() {
		if !strings.Contains(string(format), `"`+string(k)+`"`) {
			t.Errorf("the chart %s is not told", k)
		}
	}
}
