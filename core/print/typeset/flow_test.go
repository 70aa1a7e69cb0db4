package typeset_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"amberseal/core/print/typeset"
)

func layout(t testing.TB, body ...typeset.Node) *typeset.Pages {
	t.Helper()
	pages, err := typeset.Set(&typeset.Document{Language: "en", Page: a4, Body: body})
	if err != nil {
		t.Fatal(err)
	}
	return pages
}

func lines(n int, word string) string {
	return strings.TrimSuffix(strings.Repeat(word+"\n", n), "\n")
}

// No paragraph leaves a single line at a page's foot or head (widows and orphans), wherever it begins.
func TestNoLineStandsAlone(t *testing.T) {
	for before := 30; before < 56; before++ {
		pages := layout(t, paragraph(lines(before, "above")), paragraph(lines(7, "below")))
		for i, s := range pages.Pages {
			n := 0
			for _, w := range texts(s) {
				if strings.HasPrefix(w, "below") {
					n++
				}
			}
			if n == 1 {
				t.Errorf("after %d lines one line stands alone on page %d", before, i+1)
			}
		}
	}
}

// Columns go on over pages side by side: every word stands once, in its column, and is read column by column on each page.
func TestColumnsGoOnOverPages(t *testing.T) {
	column := func(word string, n int) []typeset.Node {
		var out []typeset.Node
		for i := range n {
			p := paragraph(fmt.Sprintf("%s-%d is one of many words in this column", word, i))
			p.After = 5
			out = append(out, p)
		}
		inner := &typeset.Table{Columns: []float64{1, 1}, Rows: []typeset.Row{{Cells: cells(word+"-in", "table")}}}
		return append(out, inner)
	}
	pages := layout(
		t,
		&typeset.Table{
			Layout:  true,
			Columns: []float64{2, 1},
			Gap:     20,
			Rows:    []typeset.Row{{Cells: []typeset.Cell{{Nodes: column("left", 40)}, {Nodes: column("right", 25)}}}},
		},
	)
	all := ""
	for _, s := range pages.Pages {
		right := false
		for _, item := range s.Items {
			g := item.(*typeset.Glyphs)
			inRight := g.X > 50+(595-100)*0.6
			if right && !inRight {
				t.Error("a page goes back from the right column to the left")
			}
			right = right || inRight
			if g.Y > a4.Height-a4.Bottom {
				t.Error("a line leaves the page")
			}
		}
		all += strings.Join(texts(s), " ") + " "
	}
	for i := range 40 {
		if n := strings.Count(all, fmt.Sprintf("left-%d ", i)); n != 1 {
			t.Errorf("left-%d stands %d times", i, n)
		}
	}
	if strings.Count(all, "right-") != 26 || !strings.Contains(all, "left-in") || len(pages.Pages) < 2 {
		t.Errorf("%d pages: %s", len(pages.Pages), all)
	}
	var tables int
	var walk func(e *typeset.Element)
	walk = func(e *typeset.Element) {
		if e.Role == "Table" {
			tables++
		}
		for _, k := range e.Kids {
			walk(k)
		}
	}
	walk(pages.Root)
	if tables != 2 {
		t.Errorf("%d tables in the structure: columns are none, those inside them are", tables)
	}
}

// A row that keeps with the next is never the last one of a page: subtotals and totals do not stand without what they add up.
func TestRowsKeepTogether(t *testing.T) {
	for before := 20; before < 45; before++ {
		table := &typeset.Table{Columns: []float64{1}, Pad: 3}
		for i := range before {
			table.Rows = append(table.Rows, typeset.Row{Cells: cells(fmt.Sprint("row ", i))})
		}
		table.Rows[before-1].KeepNext = true
		total := &typeset.Table{Columns: []float64{1}, Pad: 3, Rows: []typeset.Row{{Cells: cells("total")}}}
		pages := layout(t, paragraph("above"), table, total)
		for _, s := range pages.Pages {
			if w := texts(s); w[0] == "total" {
				t.Errorf("of %d rows none stands with the total", before)
			}
		}
	}
}

func TestListsNestInTheStructure(t *testing.T) {
	item := func(text string, depth int) *typeset.Paragraph {
		p := paragraph(text)
		p.Role, p.Marker, p.Depth, p.Indent = typeset.ListItem, "•", depth, 18*float64(depth+1)
		return p
	}
	pages := layout(t, item("a", 0), item("b", 1), item("c", 2), item("d", 1), item("e", 0), paragraph("between"), item("f", 0),
		item("g", 5))
	var tell func(e *typeset.Element) string
	tell = func(e *typeset.Element) string {
		out := e.Role
		if len(e.Kids) > 0 {
			var kids []string
			for _, k := range e.Kids {
				kids = append(kids, tell(k))
			}
			out += "(" + strings.Join(kids, " ") + ")"
		}
		return out
	}
	got := tell(pages.Root)
	want := "Document(L(LI(Lbl LBody(L(LI(Lbl LBody(L(LI(Lbl LBody)))) LI(Lbl LBody)))) LI(Lbl LBody)) P L(LI(Lbl LBody(L(LI(Lbl " +
		"LBody))))))"
	if got != want {
		t.Errorf("the structure is\n%s, want\n%s", got, want)
	}
}

// A mark stands before the words on the side where they begin, keeps off them however wide it is, and so do the words of
// every alignment.
func TestMarksStandBeforeTheWords(t *testing.T) {
	for _, text := range []string{"Words of an item", "كلمات من قائمة"} {
		for _, marker := range []string{"•", "1.", "38.", "xxxviii."} {
			for _, align := range []typeset.Align{typeset.Start, typeset.Center, typeset.End, typeset.Justify} {
				p := paragraph(text)
				p.Role, p.Marker, p.Indent, p.Align = typeset.ListItem, marker, 18, align
				var mark, words []float64 // where each begins and ends
				for _, item := range layout(t, p).Pages[0].Items {
					g, ok := item.(*typeset.Glyphs)
					if !ok || g.Element == nil {
						continue
					}
					at := &words
					if g.Element.Role == "Lbl" {
						at = &mark
					}
					*at = append(*at, g.X, g.X+g.Width)
				}
				slices.Sort(mark)
				slices.Sort(words)
				left, right := mark, words
				if text != "Words of an item" {
					left, right = words, mark
				}
				if len(left) == 0 || len(right) == 0 || left[len(left)-1]+3.9 > right[0] {
					t.Errorf(
						"%q before %q, aligned %d: from %v to %v, then from %v to %v", marker, text, align, left[0], left[len(left)-1],
						right[0],
						right[len(right)-1],
					)
				}
			}
		}
	}
}

func TestHeadersAndFootersOfThePages(t *testing.T) {
	running := func(text string) []typeset.Paragraph {
		p := paragraph(text)
		p.Runs = append(p.Runs, typeset.Run{Counter: typeset.PageNumber}, typeset.Run{Text: "/"}, typeset.Run{Counter: typeset.PageCount})
		return []typeset.Paragraph{*p}
	}
	tall := paragraph(lines(9, "first head"))
	pages, err := typeset.Set(&typeset.Document{
		Language: "en", Page: a4, Running: typeset.Running{Header: running("head "), Footer: running("foot ")},
		First: &typeset.Running{Header: []typeset.Paragraph{*tall}},
		Body:  []typeset.Node{paragraph(lines(150, "body"))},
	})
	if err != nil {
		t.Fatal(err)
	}
	for i, s := range pages.Pages {
		words := texts(s)
		if has := slices.Contains(words, "head "); has != (i > 0) {
			t.Errorf("page %d: its header is %v", i+1, words[len(words)-8:])
		}
		if i > 0 && !strings.Contains(strings.Join(words, ""), fmt.Sprintf("foot %d/%d", i+1, len(pages.Pages))) {
			t.Errorf("page %d has no footer of its own: %v", i+1, words)
		}
		low, high := 0.0, a4.Height
		var head, foot float64 = 0, a4.Height
		for _, item := range s.Items {
			g := item.(*typeset.Glyphs)
			switch text := string(g.Text); {
			case strings.HasPrefix(text, "body"):
				low, high = max(low, g.Y), min(high, g.Y-g.Size)
			case strings.Contains(text, "head"):
				head = max(head, g.Y)
			case strings.Contains(text, "foot"):
				foot = min(foot, g.Y-g.Size)
			}
			if typeset.ElementOf(g) == nil == strings.HasPrefix(string(g.Text), "body") {
				t.Fatalf("page %d: %q is marked wrongly", i+1, string(g.Text))
			}
		}
		if head > high || foot < low {
			t.Errorf("page %d: the body from %.0f to %.0f meets its header at %.0f or footer at %.0f", i+1, high, low, head, foot)
		}
	}
}

func TestTheStripLiesAtThePapersEdge(t *testing.T) {
	strip := &typeset.Strip{Block: "s", Stubs: 5, Height: 120, Words: *paragraph("Call\n01 23")}
	for _, above := range []int{5, 50} { // room for it on the page, and none
		pages := layout(t, paragraph(lines(above, "above")), strip)
		last := pages.Pages[len(pages.Pages)-1]
		turned, read := 0, 0
		for _, item := range last.Items {
			if g, ok := item.(*typeset.Glyphs); ok && g.Turn != 0 {
				turned++
				if typeset.ElementOf(g) != nil {
					read++
				}
				if g.Y < a4.Height-120 || g.Y > a4.Height || g.X < a4.Left || g.X > a4.Width-a4.Right {
					t.Errorf("words of a stub stand at %.0f, %.0f", g.X, g.Y)
				}
			}
		}
		if turned != 10 || read != 2 {
			t.Errorf("%d lines on five stubs, %d of them read", turned, read)
		}
		if p := pages.Placements[len(pages.Placements)-1]; p.Block != "s" || p.Y != a4.Height-120 || p.Page != len(pages.Pages) ||
			(above > 30) != (p.Page == 2) {
			t.Errorf("after %d lines the strip lies at %+v", above, p)
		}
	}
}

func TestSpansCoverTheirColumns(t *testing.T) {
	wide := typeset.Cell{Nodes: []typeset.Node{paragraph(strings.Repeat("wide ", 30))}, Span: 3}
	pages := layout(
		t,
		&typeset.Table{
			Block:   "t",
			Columns: []float64{1, 1, 1, 1},
			Gap:     10,
			Rows:    []typeset.Row{{Cells: []typeset.Cell{wide, cells("last")[0]}}, {Cells: cells("1", "2", "3", "4", "beyond")}},
		},
	)
	starts := map[string]float64{}
	right := 0.0
	for _, item := range pages.Pages[0].Items {
		g := item.(*typeset.Glyphs)
		if text := string(g.Text); strings.HasPrefix(text, "wide") {
			right = max(right, g.X+g.Width)
		} else {
			starts[text] = g.X
		}
	}
	if _, ok := starts["beyond"]; ok || starts["last"] != starts["4"] || right > starts["4"]-9 || right < starts["3"]+20 {
		t.Errorf("cells begin at %v, the wide one ends at %.1f", starts, right)
	}
}

// A header that fills the page leaves the body a place all the same: nothing is lost, and it ends.
func TestAHeaderAsHighAsThePage(t *testing.T) {
	small := typeset.Page{Width: 200, Height: 120, Top: 10, Right: 10, Bottom: 10, Left: 10}
	pages, err := typeset.Set(
		&typeset.Document{
			Language: "en",
			Page:     small,
			Running:  typeset.Running{Header: []typeset.Paragraph{*paragraph(lines(20, "head"))}},
			Body: []typeset.Node{
				paragraph(
					lines(30, "body"),
				), &typeset.Picture{Drawing: &typeset.Drawing{Width: 10, Height: 10, Boxes: [][4]float64{{0, 0, 10, 10}}}, Alt: "x"},
				&typeset.Strip{Stubs: 2, Height: 500, Words: *paragraph("x")},
			},
		},
	)
	if err != nil {
		t.Fatal(err)
	}
	n := 0
	for _, s := range pages.Pages {
		for _, w := range texts(s) {
			if strings.HasPrefix(w, "body") {
				n++
			}
		}
	}
	if n != 30 || len(pages.Pages) > 20 {
		t.Errorf("%d of 30 lines on %d pages", n, len(pages.Pages))
	}
}

// Tiles cover the whole page, one of them stands at its place, and they lie behind everything on every page; a picture that is
// not repeated stands there once.
func TestBackdrops(t *testing.T) {
	img := &typeset.Image{Width: 10, Height: 10, Format: "png"}
	for _, repeat := range []bool{true, false} {
		pages, err := typeset.Set(
			&typeset.Document{
				Language: "en",
				Page:     a4,
				Backdrop: []typeset.Backdrop{{Image: img, X: 70, Y: 130, Width: 90, Height: 110, Repeat: repeat}},
				Body:     []typeset.Node{paragraph(lines(80, "x"))},
			},
		)
		if err != nil {
			t.Fatal(err)
		}
		for i, s := range pages.Pages {
			covered, placed, tiles := 0.0, false, 0
			for k, item := range s.Items {
				at, ok := item.(*typeset.ImageAt)
				if !ok {
					continue
				}
				if k != tiles || typeset.ElementOf(at) != nil {
					t.Fatalf("page %d: a tile lies over other things, or is read", i+1)
				}
				tiles++
				placed = placed || at.X == 70 && at.Y == 130
				w := min(at.X+at.W, a4.Width) - max(at.X, 0)
				h := min(at.Y+at.H, a4.Height) - max(at.Y, 0)
				covered += max(w, 0) * max(h, 0)
			}
			if !placed || repeat && math.Abs(covered-a4.Width*a4.Height) > 1 || !repeat && tiles != 1 {
				t.Errorf("page %d, repeated %v: %d tiles cover %.0f of %.0f", i+1, repeat, tiles, covered, a4.Width*a4.Height)
			}
		}
	}
}

// A cell over several rows: the rows stay on one page, the last is as high as the cell needs, what the cell covers stays free,
// and rows that are higher than a page are set one by one without losing a word.
func TestCellsReachOverRows(t *testing.T) {
	table := func(words, count int) *typeset.Table {
		red := typeset.Colour{R: 255}
		tall := typeset.Cell{Nodes: []typeset.Node{paragraph(lines(words, "tall"))}, Down: count, Fill: &red}
		tb := &typeset.Table{
			Block:   "t",
			Columns: []float64{1, 1},
			Pad:     2,
			Grid:    &red,
			Rows:    []typeset.Row{{Cells: []typeset.Cell{tall, cells("row 0")[0]}}},
		}
		for i := 1; i < count; i++ {
			tb.Rows = append(tb.Rows, typeset.Row{Cells: []typeset.Cell{{Covered: true}, cells(fmt.Sprint("row ", i))[0]}})
		}
		tb.Rows = append(tb.Rows, typeset.Row{Cells: cells("under", "it")})
		return tb
	}
	for before := 0; before < 50; before += 7 {
		pages := layout(t, paragraph(lines(before+1, "above")), table(6, 3))
		page := map[string]int{}
		y := map[string]float64{}
		for i, s := range pages.Pages {
			for _, item := range s.Items {
				if g, ok := item.(*typeset.Glyphs); ok {
					text := string(g.Text)
					page[text], y[text] = i, g.Y
				}
			}
		}
		if page["row 0"] != page["row 2"] || page["tall"] != page["row 0"] {
			t.Errorf("after %d lines the rows stand on pages %d and %d", before, page["row 0"], page["row 2"])
		}
		// Six lines of 14 points and twice the padding are 88 points; three rows of 18 are 54.
		if page["under"] == page["row 0"] && y["under"]-y["row 0"] < 87.9 {
			t.Errorf("after %d lines what follows begins %.1f below", before, y["under"]-y["row 0"])
		}
	}
	all := ""
	for _, s := range layout(t, table(120, 3)).Pages {
		all += strings.Join(texts(s), " ") + " "
	}
	if n := strings.Count(all, "tall"); n != 120 || !strings.Contains(all, "row 2") || !strings.Contains(all, "under") {
		t.Errorf("of 120 lines %d are there", n)
	}
	pages := layout(t, table(2, 2))
	tr := pages.Root.Kids[0].Kids
	if len(tr[0].Kids) != 2 || tr[0].Kids[0].Down != 2 || len(tr[1].Kids) != 1 {
		t.Error("the structure does not say what the cell covers")
	}
}

// What a proof marks of a block reaches over all of its parts on a page: here its rows, of which each is drawn by itself.
func TestABlockIsMarkedAsAWhole(t *testing.T) {
	table := &typeset.Table{Block: "t", Columns: []float64{1}}
	for range 5 {
		row := cells("row")
		row[0].Nodes[0].(*typeset.Paragraph).Block = ""
		table.Rows = append(table.Rows, typeset.Row{Cells: row})
	}
	low := paragraph("one of two lines\nthe other")
	low.Block = "p"
	pages := layout(t, low, table)
	last := 0.0
	for _, item := range pages.Pages[0].Items {
		last = max(last, item.(*typeset.Glyphs).Y)
	}
	marked := map[string]typeset.Placement{}
	for _, p := range pages.Placements {
		if _, twice := marked[p.Block]; twice {
			t.Errorf("%s is marked twice on a page", p.Block)
		}
		marked[p.Block] = p
	}
	p, rows := marked["p"], marked["t"]
	if p.H < 27 || p.H > 29 || rows.Y < p.Y+p.H-0.1 || rows.Y+rows.H < last || rows.H < 5*14-0.1 || rows.H > 5*14+0.1 {
		t.Errorf("the words are marked %+v, the rows %+v; the last line stands at %.1f", p, rows, last)
	}
}
