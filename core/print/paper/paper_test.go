package paper_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"strings"
	"testing"
	"time"

	"amberseal/core/ask/form"
	"amberseal/core/print/paper"
	"amberseal/core/print/typeset"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

var asked = form.Form{Fields: []form.Field{
	{Key: "name", Kind: form.ShortText, Label: "Name"},
	{Key: "due", Kind: form.Money, Label: "Due"},
	{Key: "stars", Kind: form.Rating, Label: "Stars"},
	{Key: "sign", Kind: form.Signature, Label: "Signature"},
	{Key: "shots", Kind: form.Photo, Label: "Photos"},
	{
		Key:   "work",
		Kind:  form.Rows,
		Label: "Work",
		Settings: form.Settings{
			Fields: []form.Field{{Key: "what", Kind: form.ShortText, Label: "What"}, {Key: "cost", Kind: form.Money, Label: "Cost"}},
		},
	},
}}

func facts(t testing.TB, answers string) phrase.Facts {
	var raw form.Raw
	if err := json.Unmarshal([]byte(answers), &raw); err != nil {
		t.Fatal(err)
	}
	at := time.Date(2026, 11, 24, 9, 0, 0, 0, time.UTC)
	return phrase.Facts{House: house.New(), Form: asked, Answers: form.Load(asked, raw), Number: "N-1", Received: at, Made: at}
}

func nothing(string) ([]byte, error) { return nil, errors.New("there are none") }

// said is all the text of nodes, in their order.
func said(nodes []typeset.Node) string {
	var b strings.Builder
	row := func(r typeset.Row) {
		for _, c := range r.Cells {
			b.WriteString(said(c.Nodes) + "|")
		}
	}
	for _, n := range nodes {
		switch n := n.(type) {
		case *typeset.Paragraph:
			if n.Marker != "" {
				b.WriteString(n.Marker + " ")
			}
			for _, r := range n.Runs {
				b.WriteString(r.Text)
			}
			b.WriteString("/")
		case *typeset.Table:
			if n.Header != nil {
				row(*n.Header)
			}
			for _, r := range n.Rows {
				row(r)
			}
		case *typeset.Picture:
			b.WriteString("[" + n.Alt + "]")
		}
	}
	return b.String()
}

func bind(t testing.TB, f phrase.Facts, blocks ...paper.Block) string {
	t.Helper()
	for i := range blocks {
		blocks[i].ID = fmt.Sprint("b", i)
	}
	out, findings, err := paper.Bind(paper.Document{Key: "d", Name: "D", Blocks: blocks}, f, nothing)
	if err != nil || len(findings) > 0 {
		t.Fatal(findings, err)
	}
	return said(out.Body)
}

func ExampleBind() {
	d := paper.Document{
		Key:    "letter",
		Name:   "Letter",
		Blocks: []paper.Block{{ID: "h", Kind: paper.Heading, Settings: paper.Settings{Level: 1, Text: phrase.Parse("For {{name}}")}}},
	}
	f := phrase.Facts{House: house.New(), Form: asked, Answers: form.Load(asked, form.Raw{"name": []byte(`"Ada"`)})}
	out, findings, err := paper.Bind(d, f, nothing)
	h := out.Body[0].(*typeset.Paragraph)
	fmt.Println(h.Role, h.Runs[0].Text+h.Runs[1].Text, h.KeepNext, len(findings), err)
	// Output: H1 For Ada true 0 <nil>
}

const two = `{"name":"Ada","due":"12.5","stars":4,"work":[{"what":"reed","cost":"3"},{"what":"reed","cost":"4.50"},{"what":"bow",` +
	`"cost":"60"}]}`

func TestWhatBlocksPrint(t *testing.T) {
	f := facts(t, two)
	for _, c := range []struct {
		want  string
		block paper.Block
	}{
		{"1. a/a. b/b. c/i. d/2. e/plain/1. f/", paper.Block{Kind: paper.Text, Settings: paper.Settings{Body: phrase.Body{
			{Spans: phrase.Parse("a"), List: "number"}, {Spans: phrase.Parse("b"), List: "number", Depth: 1},
			{Spans: phrase.Parse("c"), List: "number", Depth: 1}, {Spans: phrase.Parse("d"), List: "number", Depth: 2},
			{Spans: phrase.Parse("e"), List: "number"}, {Spans: phrase.Parse("plain")}, {Spans: phrase.Parse("f"), List: "number"}}}}},
		{"reed/|€3.00/|reed/|€4.50/|Subtotal reed/|€7.50/|bow/|€60.00/|Subtotal bow/|€60.00/|",
			paper.Block{Kind: paper.Lines, Settings: paper.Settings{Rows: "work",
				Columns: []paper.Column{{Field: "what"}, {Field: "cost"}}, Subtotal: &paper.Subtotal{By: "what", Of: []string{"cost"}}}}},
		{"Twice/|6/|9.00/|120/|", paper.Block{Kind: paper.Lines,
			Settings: paper.Settings{Rows: "work", Columns: []paper.Column{{Label: "Twice", Formula: "cost * 2"}}}}},
		{"1. reed/2. reed/3. bow/", paper.Block{Kind: paper.Text, Each: "work",
			Settings: paper.Settings{Body: phrase.ParseBody("{{@row}}. {{work.what}}")}}},
		{"bow/", paper.Block{Kind: paper.Text, Each: "work", When: "cost > 10",
			Settings: paper.Settings{Body: phrase.ParseBody("{{work.what}}")}}},
		{"x/|reed/|reed/|bow/|", paper.Block{Kind: paper.FixedTable, Settings: paper.Settings{Grid: &paper.Grid{Rows: []paper.GridRow{
			{Cells: []paper.GridCell{{Body: phrase.ParseBody("x")}}},
			{When: "due > 100", Cells: []paper.GridCell{{Body: phrase.ParseBody("never")}}},
			{Each: "work", Cells: []paper.GridCell{{Body: phrase.ParseBody("{{work.what}}")}}}}}}}},
		{"a/|b/||c/|d/|e/|", paper.Block{Kind: paper.FixedTable, Settings: paper.Settings{Grid: &paper.Grid{Rows: []paper.GridRow{
			{Cells: []paper.GridCell{{Body: phrase.ParseBody("a"), Down: 2}, {Body: phrase.ParseBody("b")}}},
			{Cells: []paper.GridCell{{Body: phrase.ParseBody("c")}}},
			{Cells: []paper.GridCell{{Body: phrase.ParseBody("d")}, {Body: phrase.ParseBody("e")}}}}}}}},
		{"left/|right/|", paper.Block{Kind: paper.Columns,
			Settings: paper.Settings{Sides: []paper.Side{{Blocks: []paper.Block{{ID: "l", Kind: paper.Text,
				Settings: paper.Settings{Body: phrase.ParseBody("left")}}}},
				{Blocks: []paper.Block{{ID: "r", Kind: paper.Text, Settings: paper.Settings{Body: phrase.ParseBody("right")}}}}}}}},
		{"[Chart. reed: €3.00; reed: €4.50; bow: €60.00]",
			paper.Block{Kind: paper.Graph, Settings: paper.Settings{Rows: "work",
				Series: &paper.Series{Kind: paper.Pie, Label: "what", Value: "cost"}}}},
		{"[Chart. Stars: 4 of 5]under it/", paper.Block{Kind: paper.Graph,
			Settings: paper.Settings{Fields: []string{"stars"}, Series: &paper.Series{Kind: paper.HorizontalBars},
				Caption: phrase.Parse("under it")}}},
		{"Name/Ada/|Due/€12.50/|", paper.Block{Kind: paper.Answers, Settings: paper.Settings{Fields: []string{"name", "due"}, Across: 2}}},
		{"none yet/", paper.Block{Kind: paper.Picture,
			Settings: paper.Settings{Field: "shots", Missing: &paper.Missing{Words: "none yet"}}}},
		{"", paper.Block{Kind: paper.Picture, Settings: paper.Settings{Field: "shots"}}},
	} {
		c.block.Borders = "none"
		got := bind(t, f, c.block)
		if i := strings.Index(got, "reed"); c.block.Kind == paper.Lines && c.block.Subtotal != nil && i >= 0 {
			got = got[i:] // after the header
		}
		if got != c.want {
			t.Errorf("%s prints\n%q, want\n%q", c.block.Kind, got, c.want)
		}
	}
}

func TestChartsDrawTheirNumbers(t *testing.T) {
	drawing := func(kind paper.ChartKind, answers string) *typeset.Drawing {
		out, _, err := paper.Bind(
			paper.Document{
				Key:  "d",
				Name: "D",
				Blocks: []paper.Block{
					{ID: "c", Kind: paper.Graph, Settings: paper.Settings{Rows: "work",
						Series: &paper.Series{Kind: kind, Label: "what", Value: "cost"}}},
				},
			},
			facts(t, answers),
			nothing,
		)
		if err != nil {
			t.Fatal(err)
		}
		if len(out.Body) == 0 {
			return nil
		}
		return out.Body[0].(*typeset.Picture).Drawing
	}
	size := func(s typeset.Shape) (w, h float64) {
		o := s.Outlines[0]
		return o[2] - o[0], o[5] - o[1]
	}
	bars := drawing(paper.Bars, two).Shapes
	_, first := size(bars[0])
	_, third := size(bars[2])
	if r := third / first; math.Abs(r-20) > 0.01 {
		t.Errorf("the bar of 60 is %.2f times as high as that of 3", r)
	}
	lying := drawing(paper.HorizontalBars, `{"work":[{"what":"a","cost":"-5"},{"what":"b","cost":"10"}]}`).Shapes
	back, _ := size(lying[0])
	forth, _ := size(lying[1])
	if math.Abs(forth/back-2) > 0.01 || lying[0].Outlines[0][2] > lying[1].Outlines[0][0]+0.01 {
		t.Errorf("bars of −5 and 10 are %.1f and %.1f long, or do not meet at 0", back, forth)
	}
	// Slices of a pie cover their shares of the circle, by the shoelace formula.
	area := func(s typeset.Shape) float64 {
		o, sum := s.Outlines[0], 0.0
		for i := 0; i+1 < len(o); i += 2 {
			j := (i + 2) % len(o)
			sum += o[i]*o[j+1] - o[j]*o[i+1]
		}
		return math.Abs(sum) / 2
	}
	pie := drawing(paper.Pie, two).Shapes
	if r := area(pie[6]) / area(pie[0]); math.Abs(r-20) > 0.1 {
		t.Errorf("the slice of 60 is %.2f times that of 3", r)
	}
	for _, answers := range []string{`{"work":[{"what":"a","cost":"-5"}]}`, `{"work":[{"what":"a","cost":"0"}]}`} { // they become bars
		if d, bars := drawing(paper.Pie, answers), drawing(paper.Bars, answers); len(d.Shapes) != len(bars.Shapes) {
			t.Errorf("a pie of %s has %d shapes, bars have %d", answers, len(d.Shapes), len(bars.Shapes))
		}
	}
	if d := drawing(paper.Pie, `{}`); d != nil {
		t.Error("a pie of no numbers was drawn")
	}
}

// Each design has one mistake; the finding names its place.
func TestMistakesAreFoundAtTheirPlace(t *testing.T) {
	exists := func(name string) bool { return name == "there.png" }
	for _, c := range []struct {
		place string
		block paper.Block
	}{
		{"", paper.Block{Kind: paper.Graph, Settings: paper.Settings{Rows: "work", Series: &paper.Series{Kind: "towers"}}}},
		{"/field what", paper.Block{Kind: paper.Graph,
			Settings: paper.Settings{Rows: "work", Series: &paper.Series{Kind: paper.Pie, Value: "what"}}}},
		{"/field name", paper.Block{Kind: paper.Graph,
			Settings: paper.Settings{Fields: []string{"name"}, Series: &paper.Series{Kind: paper.Pie}}}},
		{"", paper.Block{Kind: paper.FixedTable}},
		{"", paper.Block{Kind: paper.FixedTable, Settings: paper.Settings{Grid: &paper.Grid{Shares: []float64{1},
			Rows: []paper.GridRow{{Cells: []paper.GridCell{{}, {}}}}}}}},
		{"/row 1/placeholder gone", paper.Block{Kind: paper.FixedTable,
			Settings: paper.Settings{Grid: &paper.Grid{Rows: []paper.GridRow{{Cells: []paper.GridCell{
				{Body: phrase.ParseBody("{{gone}}")}}}}}}}},
		{"/row 1/when", paper.Block{Kind: paper.FixedTable,
			Settings: paper.Settings{Grid: &paper.Grid{Rows: []paper.GridRow{{When: "gone > 1", Cells: []paper.GridCell{{}}}}}}}},
		{"/row 1", paper.Block{Kind: paper.FixedTable,
			Settings: paper.Settings{Grid: &paper.Grid{Rows: []paper.GridRow{{Cells: []paper.GridCell{{Down: 5000}}}}}}}},
		{"", paper.Block{Kind: paper.Columns, Settings: paper.Settings{Sides: []paper.Side{{}}}}},
		{"", paper.Block{Kind: paper.Strip, Settings: paper.Settings{Stubs: 99}}},
		{"/field name", paper.Block{Kind: paper.Text, Each: "name", Settings: paper.Settings{Body: phrase.ParseBody("x")}}},
		{"/when", paper.Block{Kind: paper.Text, When: "what = 1", Settings: paper.Settings{Body: phrase.ParseBody("x")}}},
		{"/placeholder @row", paper.Block{Kind: paper.Text, Settings: paper.Settings{Body: phrase.ParseBody("{{@row}}")}}},
		{"/field what", paper.Block{Kind: paper.Lines,
			Settings: paper.Settings{Rows: "work", Subtotal: &paper.Subtotal{By: "what", Of: []string{"what"}},
				Columns: []paper.Column{{Field: "what"}}}}},
		{"/formula", paper.Block{Kind: paper.Lines, Settings: paper.Settings{Rows: "work", Columns: []paper.Column{{Formula: "cost *"}}}}},
		{"/field name", paper.Block{Kind: paper.Picture, Settings: paper.Settings{Field: "name"}}},
		{"", paper.Block{Kind: paper.Picture, Settings: paper.Settings{Picture: "gone.png"}}},
		{"", paper.Block{Kind: paper.Heading, Settings: paper.Settings{Level: 9, Text: phrase.Parse("x")}}},
		{"", paper.Block{Kind: paper.Text, Settings: paper.Settings{Borders: "thick", Body: phrase.ParseBody("x")}}},
	} {
		c.block.ID = "b"
		// The same mistake is found inside a group too.
		for _, blocks := range [][]paper.Block{{c.block},
			{{ID: "g", Kind: paper.Group, Settings: paper.Settings{Blocks: []paper.Block{c.block}}}}} {
			l := paper.Document{Key: "d", Name: "D", Blocks: blocks}.Check(asked, exists)
			want := "documents/d/blocks/b" + c.place
			if l.Faults() != 1 || l[0].Place != want || l[0].Mend == "" && c.place != "/formula" {
				t.Errorf("%s %+v: %v, want one at %s", c.block.Kind, c.block, l, want)
			}
		}
	}
	page := func(change func(d *paper.Document)) int {
		d := paper.Document{Key: "d", Name: "D", Blocks: []paper.Block{{ID: "r", Kind: paper.Rule}}}
		change(&d)
		return d.Check(asked, exists).Faults()
	}
	for name, change := range map[string]func(d *paper.Document){
		"paper": func(d *paper.Document) { d.Page.Paper = "A0" }, "ground": func(d *paper.Document) { d.Page.Ground = "red" },
		"margins":  func(d *paper.Document) { d.Page.Margins = &paper.Margins{Left: 120, Right: 120} },
		"type":     func(d *paper.Document) { d.Page.Type = &paper.Type{Size: 90} },
		"backdrop": func(d *paper.Document) { d.Page.Backdrop = &paper.Backing{Picture: "gone"} },
		"place":    func(d *paper.Document) { d.Page.Mark = &paper.Backing{Picture: "there.png", Place: "nowhere"} },
		"tile": func(d *paper.Document) {
			d.Page.Backdrop = &paper.Backing{Picture: "there.png", Repeat: true, Width: 1}
		}, "header": func(d *paper.Document) { d.First = &paper.Running{Header: phrase.Parse("{{gone}}")} },
		"carries":  func(d *paper.Document) { d.Data, d.Archival = true, paper.A1b },
		"attach":   func(d *paper.Document) { d.Attach = []string{"name"} },
		"keywords": func(d *paper.Document) { d.Keywords = phrase.Parse("{{gone}}") },
		"look":     func(d *paper.Document) { d.Look = "poster" },
	} {
		if n := page(change); n != 1 {
			t.Errorf("%s: %d faults", name, n)
		}
	}
}

func contrast(a, b typeset.Colour) float64 {
	hex := func(c typeset.Colour) string { return fmt.Sprintf("#%02X%02X%02X", c.R, c.G, c.B) }
	return house.Contrast(hex(a), hex(b))
}

// Every run of every look has at least 4.5 to 1 of contrast with what it stands on: the paper, its row or its cell.
func TestContrastOfTheLooks(t *testing.T) {
	f := facts(t, two)
	f.House.Name, f.House.Address, f.House.Phone, f.House.Accent = "House", []string{"Lane 1"}, "1", "#1F4F4A"
	for _, look := range paper.Looks() {
		d := paper.Document{Key: "d", Name: "D", Look: look, Footer: phrase.Parse("foot"), Header: phrase.Parse("head"),
			Blocks: []paper.Block{
				{
					ID:   "a",
					Kind: paper.Letterhead,
				}, {ID: "b", Kind: paper.Heading, Settings: paper.Settings{Level: 1, Text: phrase.Parse("x")}},
				{ID: "c", Kind: paper.Text, Settings: paper.Settings{Body: phrase.Body{{Spans: phrase.Phrase{{Text: "x",
					Style: phrase.Style{Link: "https://x.example"}}}}}}},
				{
					ID:       "e",
					Kind:     paper.Answers,
					Settings: paper.Settings{Headed: true, Shading: "rows"},
				}, {ID: "f", Kind: paper.Lines, Settings: paper.Settings{Rows: "work", Subtotal: &paper.Subtotal{By: "what"}}},
				{ID: "g", Kind: paper.Graph, Settings: paper.Settings{Rows: "work",
					Series: &paper.Series{Kind: paper.Line, Value: "cost"}}},
			}}
		out, _, err := paper.Bind(d, f, nothing)
		if err != nil {
			t.Fatal(err)
		}
		white, runs := typeset.Colour{R: 255, G: 255, B: 255}, 0
		var check func(nodes []typeset.Node, on typeset.Colour)
		words := func(p *typeset.Paragraph, on typeset.Colour) {
			for _, r := range p.Runs {
				if runs++; contrast(r.Colour, on) < 4.5 {
					t.Errorf("%s: %q has %.2f to 1", look, r.Text, contrast(r.Colour, on))
				}
			}
		}
		check = func(nodes []typeset.Node, on typeset.Colour) {
			for _, n := range nodes {
				switch n := n.(type) {
				case *typeset.Paragraph:
					words(n, on)
				case *typeset.Picture:
					for i := range n.Drawing.Labels {
						words(&n.Drawing.Labels[i].Words, on)
					}
				case *typeset.Table:
					rows := n.Rows
					if n.Header != nil {
						rows = append([]typeset.Row{*n.Header}, rows...)
					}
					for _, r := range rows {
						ground := on
						if r.Fill != nil {
							ground = *r.Fill
						}
						for _, c := range r.Cells {
							under := ground
							if c.Fill != nil {
								under = *c.Fill
							}
							check(c.Nodes, under)
						}
					}
				}
			}
		}
		check(out.Body, white)
		for i := range out.Running.Footer {
			words(&out.Running.Footer[i], white)
		}
		if runs < 20 {
			t.Errorf("%s: only %d runs", look, runs)
		}
	}
}

// Wherever the text before it ends, a signature stands on one page with its line, its name and day, and two lines of the text;
// drawn, typed, or left to be written by hand.
func TestASignatureIsNeverParted(t *testing.T) {
	for name, answer := range map[string]string{
		"drawn": `{"sign":{"strokes":[[10,10,90,60]],"width":200,"height":80}}`, "typed": `{"sign":{"typed":"Ada Marsh"}}`, "empty": `{}`,
	} {
		for n := 36; n < 60; n++ {
			words := strings.TrimSuffix(strings.Repeat("line\n", n), "\n")
			d := paper.Document{Key: "d", Name: "D", Blocks: []paper.Block{
				{ID: "words", Kind: paper.Text, Settings: paper.Settings{Body: phrase.Body{{Spans: phrase.Phrase{{Text: words}}}}}},
				{ID: "sign", Kind: paper.Signature, Settings: paper.Settings{Field: "sign", Text: phrase.Phrase{{Text: "Ada Marsh"}}}},
			}}
			doc, _, err := paper.Bind(d, facts(t, answer), nothing)
			if err != nil {
				t.Fatal(err)
			}
			pages, err := typeset.Set(doc)
			if err != nil {
				t.Fatal(err)
			}
			on := map[string]map[int]float64{}
			for _, p := range pages.Placements {
				if on[p.Block] == nil {
					on[p.Block] = map[int]float64{}
				}
				on[p.Block][p.Page] += p.H
			}
			for page, h := range on["sign"] {
				if lines := on["words"][page] / (on["words"][1] / float64(min(n, 40))); len(on["sign"]) > 1 || lines < 1 {
					t.Errorf("%s after %d lines: the signature stands on pages %v, the words on %v", name, n, on["sign"], on["words"])
				} else if h < 30 {
					t.Errorf("%s after %d lines: only %.0f points are left to sign", name, n, h)
				}
			}
		}
	}
}

// However many and however large the numbers, none of them is cut in any chart, and all names are in one piece where they can be.
func TestChartsCutNoNumber(t *testing.T) {
	for _, n := range []int{1, 2, 7, 14, 60, 200} {
		var rows []string
		for i := range n {
			rows = append(rows, fmt.Sprintf(`{"what":"Category %d","cost":"%d.50"}`, i+1, 1_000_000+i*12_345*(i%7)))
		}
		f := facts(t, `{"work":[`+strings.Join(rows, ",")+`]}`)
		for _, kind := range paper.ChartKinds() {
			d := paper.Document{
				Key:  "d",
				Name: "D",
				Blocks: []paper.Block{
					{ID: "c", Kind: paper.Graph, Settings: paper.Settings{Rows: "work",
						Series: &paper.Series{Kind: kind, Label: "what", Value: "cost"}}},
				},
			}
			doc, _, err := paper.Bind(d, f, nothing)
			if err != nil {
				t.Fatal(err)
			}
			pages, err := typeset.Set(doc)
			if err != nil {
				t.Fatal(err)
			}
			for _, sheet := range pages.Pages {
				for _, item := range sheet.Items {
					g, ok := item.(*typeset.Glyphs)
					if !ok {
						continue
					}
					if text := string(g.Text); strings.Contains(text, "…") {
						t.Errorf("%s of %d: %q is cut", kind, n, text)
					}
					if g.X < doc.Page.Left-1 || g.X+g.Width > doc.Page.Width-doc.Page.Right+1 {
						t.Errorf("%s of %d: %q lies from %.0f to %.0f", kind, n, string(g.Text), g.X, g.X+g.Width)
					}
				}
			}
		}
	}
}

// A fact without an answer leaves no hole, and no hairline of one; without any there is no block.
func TestFactsWithoutAnswers(t *testing.T) {
	block := paper.Block{ID: "facts", Kind: paper.Facts, Settings: paper.Settings{Tiles: []paper.Tile{
		{Label: "Number", Text: phrase.Parse("{{@number}}")}, {Label: "Name", Text: phrase.Parse("{{name}}")},
		{Label: "Due", Text: phrase.Parse("{{due}}"), Accent: true},
	}}}
	for answers, want := range map[string]string{
		`{"name": "Wanda", "due": "12.50"}`: "Number/N-1/|Name/Wanda/|Due/€12.50/|",
		`{"due": "12.50"}`:                  "Number/N-1/|Due/€12.50/|",
		`{}`:                                "Number/N-1/|",
	} {
		doc, l, err := paper.Bind(paper.Document{Key: "d", Blocks: []paper.Block{block}}, facts(t, answers), nothing)
		if err != nil || len(l) > 0 {
			t.Fatal(l, err)
		}
		table := doc.Body[0].(*typeset.Table)
		if got := said(doc.Body); !strings.HasPrefix(got, want) || len(table.Columns) != strings.Count(want, "|") {
			t.Errorf("%s: %q in %d columns, wanted %q", answers, got, len(table.Columns), want)
		}
	}
	block.Tiles = block.Tiles[1:]
	doc, _, err := paper.Bind(paper.Document{Key: "d", Blocks: []paper.Block{block}}, facts(t, `{}`), nothing)
	if err != nil || len(doc.Body) > 0 {
		t.Errorf("%d nodes, %v", len(doc.Body), err)
	}
}
