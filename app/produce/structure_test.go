package produce_test

import (
	"bytes"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"regexp"
	"slices"
	"strings"
	"testing"

	"amberseal/app/workshop"
	"amberseal/core/intake"
	"amberseal/core/print/paper"
	"amberseal/core/words/phrase"
)

// author writes documents of chance: every word is a number of its own, counted in the order of reading.
type author struct {
	*rand.Rand
	words, ids int
}

func (a *author) one(n int) bool { return a.IntN(n) == 0 }

func (a *author) id() string { a.ids++; return fmt.Sprint("b", a.ids) }

// phrase is up to so many words, some with looks of their own.
func (a *author) phrase(most int) phrase.Phrase {
	var p phrase.Phrase
	for n := 1 + a.IntN(most); n > 0; {
		take := min(1+a.IntN(9), n)
		n -= take
		var s phrase.Span
		for range take {
			a.words++
			s.Text += fmt.Sprintf("%d ", 10000+a.words)
		}
		s.Bold, s.Italic, s.Underline, s.Strike = a.one(4), a.one(4), a.one(8), a.one(12)
		if a.one(9) {
			s.Size = 6 + 10*a.Float64()
		}
		if a.one(12) {
			s.Link = "https://tarnhollow.example/"
		}
		p = append(p, s)
	}
	return p
}

func (a *author) body(most int) phrase.Body {
	var b phrase.Body
	for range 1 + a.IntN(3) {
		para := phrase.Paragraph{Spans: a.phrase(most), Align: []string{"", "center", "end", "justify"}[a.IntN(4)]}
		if a.one(3) {
			para.List, para.Depth = []string{"bullet", "number"}[a.IntN(2)], a.IntN(3)
		}
		b = append(b, para)
	}
	return b
}

func (a *author) grid() *paper.Grid {
	g := &paper.Grid{Header: a.one(2)}
	columns, beside := 1+a.IntN(4), false
	for r := range 1 + a.IntN(12) {
		var row paper.GridRow
		at := 0
		if beside { // the first cell of the row above reaches down
			at = 1
		}
		reaches := !beside && columns > 1 && r > 0 && a.one(3)
		for first := true; at < columns; first = false {
			cell := paper.GridCell{Body: a.body(12)}
			switch {
			case first && reaches:
				cell.Down = 2
			case a.one(5):
				cell.Span = 1 + a.IntN(columns-at)
			}
			row.Cells = append(row.Cells, cell)
			at += max(cell.Span, 1)
		}
		beside = reaches
		g.Rows = append(g.Rows, row)
	}
	if beside {
		g.Rows = append(g.Rows, paper.GridRow{Cells: []paper.GridCell{{Body: a.body(3), Span: columns - 1}}})
	}
	return g
}

func (a *author) blocks(n, depth int) []paper.Block {
	var out []paper.Block
	for range n {
		b := paper.Block{ID: a.id()}
		switch k := a.IntN(12); {
		case k < 2:
			b.Kind, b.Level, b.Text = paper.Heading, 1+a.IntN(3), a.phrase(8)
		case k < 6:
			b.Kind, b.Body = paper.Text, a.body(90)
		case k == 6 && depth > 0:
			b.Kind, b.Grid, b.Borders = paper.FixedTable, a.grid(), []string{"", "rows", "grid", "none"}[a.IntN(4)]
		case k == 7 && depth > 0:
			b.Kind = paper.Columns
			for range 2 + a.IntN(2) {
				b.Sides = append(b.Sides, paper.Side{Share: 1 + float64(a.IntN(3)), Blocks: a.blocks(1+a.IntN(3), 0)})
			}
		case k == 8 && depth > 0:
			b.Kind, b.Blocks = paper.Group, a.blocks(1+a.IntN(4), depth-1)
		case k == 9:
			b.Kind, b.Text, b.Width = paper.Code, phrase.Parse("code"), 10+float64(a.IntN(30))
		case k == 10:
			b.Kind, b.Height = paper.Space, float64(a.IntN(60))
		default:
			b.Kind = []paper.BlockKind{paper.Rule, paper.PageBreak}[a.IntN(2)]
		}
		out = append(out, b)
	}
	return out
}

func (a *author) document() paper.Document {
	d := paper.Document{
		Key:    "sampler",
		Name:   "Chance",
		Blocks: a.blocks(2+a.IntN(6), 2),
		Look:   paper.Looks()[a.IntN(3)],
		Footer: phrase.Parse("page {{@page}} of {{@pages}}"),
	}
	d.Page.Paper = []string{"A4", "A5", "A6", "Letter", "DL"}[a.IntN(5)]
	d.Page.Landscape = a.one(4)
	return d
}

// tagged is a file as qpdf reads it.
type tagged struct {
	t       *testing.T
	objects map[string]struct {
		Value  any
		Stream struct {
			Data string
			Dict map[string]any
		}
	}
	root map[string]any
}

func readTagged(t *testing.T, file string) *tagged {
	t.Helper()
	var out struct{ Qpdf []json.RawMessage }
	if err := json.Unmarshal([]byte(tool(t, "qpdf", "--json=2", "--json-key=qpdf", "--json-stream-data=inline",
		"--decode-level=generalized", file, "-")), &out); err != nil {
		t.Fatal(err)
	}
	f := &tagged{t: t}
	if err := json.Unmarshal(out.Qpdf[1], &f.objects); err != nil {
		t.Fatal(err)
	}
	f.root = f.dict(f.dict(f.objects["trailer"].Value)["/Root"])
	return f
}

var reference = regexp.MustCompile(`^\d+ \d+ R$`)

func (f *tagged) get(v any) any {
	if s, ok := v.(string); ok && reference.MatchString(s) {
		return f.objects["obj:"+s].Value
	}
	return v
}

func (f *tagged) dict(v any) map[string]any { d, _ := f.get(v).(map[string]any); return d }
func (f *tagged) array(v any) []any         { a, _ := f.get(v).([]any); return a }

// pages are the references of all pages, in order.
func (f *tagged) pages(node any) (out []string) {
	for _, kid := range f.array(f.dict(node)["/Kids"]) {
		if f.dict(kid)["/Type"] == "/Page" {
			out = append(out, kid.(string))
		} else {
			out = append(out, f.pages(kid)...)
		}
	}
	return out
}

var marks = regexp.MustCompile(
	`/(\w+) <</MCID (\d+)>> BDC|/Artifact <<[^>]*>> BDC|/Span <</ActualText <[0-9A-F]*>>> BDC|\bEMC\b|\] TJ|\bre f\b|/\w+ Do\b`,
)

// content holds a page's content against ISO 32000-1 section 14.6 and PDF/UA: what is marked is closed again, nothing is painted
// outside a mark, and the marks are numbered. It gives the role of each number.
func (f *tagged) content(page string) (roles []string) {
	data, err := base64.StdEncoding.DecodeString(f.objects["obj:"+f.dict(page)["/Contents"].(string)].Stream.Data)
	if err != nil {
		f.t.Fatal(err)
	}
	depth := 0
	for _, m := range marks.FindAllStringSubmatch(string(data), -1) {
		switch {
		case m[2] != "":
			if depth != 0 || m[2] != fmt.Sprint(len(roles)) {
				f.t.Errorf("mark %s of %s stands at depth %d after %d others", m[2], m[1], depth, len(roles))
			}
			roles = append(roles, m[1])
			depth++
		case strings.HasSuffix(m[0], "BDC"):
			depth++
		case m[0] == "EMC":
			depth--
		case depth == 0:
			f.t.Errorf("%s is painted outside any mark", m[0])
		}
		if depth < 0 || depth > 2 {
			f.t.Fatalf("marks are nested %d deep", depth)
		}
	}
	if depth != 0 {
		f.t.Errorf("%d marks are left open", depth)
	}
	return roles
}

// structure holds the tree against section 14.7: every mark of every page stands in it once and is found by the parent tree, every
// element knows its parent, and the rows of each table cover the same columns.
func (f *tagged) structure() {
	t := f.t
	type mark struct {
		page string
		mcid int
	}
	roles := map[mark]string{}
	tree := f.dict(f.root["/StructTreeRoot"])
	owners := map[float64][]any{}
	for nums := f.array(f.dict(tree["/ParentTree"])["/Nums"]); len(nums) > 1; nums = nums[2:] {
		owners[nums[0].(float64)] = f.array(nums[1])
	}
	pages := f.pages(f.root["/Pages"])
	for _, p := range pages {
		list := f.content(p)
		for i, role := range list {
			roles[mark{p, i}] = role
		}
		if own := owners[f.dict(p)["/StructParents"].(float64)]; len(own) != len(list) {
			t.Errorf("the parent tree knows %d of a page's %d marks", len(own), len(list))
		}
	}
	seen := map[mark]bool{}
	var walk func(ref, parent string)
	walk = func(ref, parent string) {
		e := f.dict(ref)
		if e["/P"] != parent || e["/Type"] != "/StructElem" {
			t.Errorf("element %s of %s says its parent is %v", ref, parent, e["/P"])
		}
		role := e["/S"].(string)
		if role == "/Table" {
			f.table(ref)
		}
		if role == "/Figure" && e["/Alt"] == nil {
			t.Error("a figure says nothing to those who cannot see it")
		}
		for _, k := range f.array(e["/K"]) {
			m := mark{mcid: -1}
			switch k := k.(type) {
			case float64:
				m = mark{e["/Pg"].(string), int(k)}
			case string:
				walk(k, ref)
			case map[string]any:
				if k["/Type"] == "/MCR" {
					m = mark{k["/Pg"].(string), int(k["/MCID"].(float64))}
				} else if f.dict(k["/Obj"])["/Subtype"] != "/Link" {
					t.Errorf("an element holds %v", k)
				}
			}
			if m.mcid < 0 {
				continue
			}
			if seen[m] || "/"+roles[m] != role {
				t.Errorf("mark %v of role %s is in an element %s, once more: %v", m, roles[m], role, seen[m])
			}
			seen[m] = true
			if own := owners[f.dict(m.page)["/StructParents"].(float64)]; own[m.mcid] != ref {
				t.Errorf("the parent tree says mark %v belongs to %v, it is in %s", m, own[m.mcid], ref)
			}
		}
	}
	for _, k := range f.array(tree["/K"]) {
		walk(k.(string), f.root["/StructTreeRoot"].(string))
	}
	if len(seen) != len(roles) {
		t.Errorf("%d of %d marks are in the tree", len(seen), len(roles))
	}
}

// table counts the columns that each row covers, with those that cells of rows above reach into.
func (f *tagged) table(ref string) {
	var reach []int
	width := -1
	for n, tr := range f.array(f.dict(ref)["/K"]) {
		at, next := 0, []int{}
		skip := func() {
			for at < len(reach) && reach[at] > 0 {
				next, at = append(next, reach[at]-1), at+1
			}
		}
		skip()
		for _, td := range f.array(f.dict(tr)["/K"]) {
			a := f.dict(f.dict(td)["/A"])
			span, down := 1, 1
			if v, ok := a["/ColSpan"].(float64); ok {
				span = int(v)
			}
			if v, ok := a["/RowSpan"].(float64); ok {
				down = int(v)
			}
			for range span {
				next, at = append(next, down-1), at+1
			}
			skip()
		}
		if reach = next; width < 0 {
			width = at
		}
		if at != width {
			f.t.Errorf("row %d of a table covers %d columns, the first one %d", n+1, at, width)
		}
	}
}

// again holds that a design written to its file and read is the same: no change is told, and it is written as the same bytes.
func again(t *testing.T, d intake.Design) {
	t.Helper()
	data, err := workshop.Encode(d)
	if err != nil {
		t.Fatal(err)
	}
	read, err := intake.Read(data)
	if err != nil {
		t.Fatal(err)
	}
	twice, err := workshop.Encode(read)
	if err != nil || string(twice) != string(data) {
		t.Errorf("written again the design is another file: %v", err)
	}
	if last, err := intake.Read(twice); err != nil || len(intake.Compare(read, last)) > 0 {
		t.Errorf("read again the design differs: %q %v", intake.Compare(read, last), err)
	}
}

// Documents of chance, in every look and on small paper: whatever stands on a page stands in the structure, once and in the order
// of the script; no word is lost and none is said twice. qpdf and poppler read the files.
func TestDocumentsOfChance(t *testing.T) {
	d, f := sampler(t)
	number := regexp.MustCompile(`\b1\d{4}\b`)
	whole := 0
	for seed := range uint64(20) {
		a := &author{Rand: rand.New(rand.NewPCG(seed, 7))}
		d.Documents = []paper.Document{a.document()}
		if l := d.Documents[0].Check(d.Form, exists); len(l) > 0 {
			t.Errorf("the design has findings: %v", l)
		}
		again(t, d)
		c := compose(t, d, "sampler", f)
		file := write(t, c)
		readTagged(t, file).structure()
		said := number.FindAllString(tool(t, "pdfinfo", "-struct-text", file), -1)
		if !slices.IsSorted(said) {
			at := 0
			for said[at] <= said[at+1] {
				at++
			}
			t.Errorf("after %s comes %s", said[at], said[at+1])
		}
		shown := map[string]bool{}
		for _, w := range number.FindAllString(tool(t, "pdftotext", file, "-"), -1) {
			shown[w] = true
		}
		if len(c.Findings) == 0 { // no word is wider than its room and broken
			whole++
			if len(said) != a.words || len(shown) != a.words {
				t.Errorf("of %d words %d are said and %d shown", a.words, len(said), len(shown))
			}
		}
		for _, p := range c.Placements {
			if p.X < -0.01 || p.Y < -0.01 || p.X+p.W > c.Sheets[p.Page-1].Width+0.01 || p.Y+p.H > c.Sheets[p.Page-1].Height+0.01 {
				t.Errorf("%+v is off the page", p)
			}
		}
		if t.Failed() {
			t.Fatalf("seed %d, %d pages, %+v", seed, c.Pages, d.Documents[0].Page)
		}
	}
	if whole < 8 {
		t.Errorf("only %d documents broke no word", whole)
	}
}

func TestStructureAndLanguage(t *testing.T) {
	d, f := facts(t, "repair-drop-off", nil)
	c := compose(t, d, "receipt", f)
	if c.Pages != 2 {
		t.Errorf("the demo's receipt has %d pages, the benchmark speaks of 2", c.Pages)
	}
	file := write(t, c)
	tree := tool(t, "pdfinfo", "-struct", file)
	for _, want := range []string{"Document", "H1", "H2", "Table", "TR", "TH", "TD", "L (block)", "LI", "Lbl", "LBody", "Figure"} {
		if !strings.Contains(tree, want) {
			t.Errorf("the structure has no %s:\n%s", want, tree)
		}
	}
	if js := tool(t, "qpdf", "--json", file); !strings.Contains(js, `"/Lang": "u:en-GB"`) || !strings.Contains(js, `"/Outlines"`) {
		t.Error("the catalog has no language or no outline")
	}
	blocks := map[string]bool{}
	for _, p := range c.Placements {
		blocks[p.Block] = true
		if p.X < 0 || p.Y < 0 || p.X+p.W > c.Sheets[0].Width || p.Y+p.H > c.Sheets[0].Height+0.01 {
			t.Errorf("block %s is placed outside its page: %+v", p.Block, p)
		}
	}
	for _, b := range d.Documents[0].Blocks {
		if !blocks[b.ID] {
			t.Errorf("block %s has no place", b.ID)
		}
	}
	if again := compose(t, d, "receipt", f); !bytes.Equal(again.PDF, c.PDF) {
		t.Error("the same answers made other bytes")
	}
}
