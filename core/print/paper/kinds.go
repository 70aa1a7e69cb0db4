package paper

import (
	"encoding/json"
	"fmt"
	"reflect"
	"slices"

	"amberseal/core/ask/form"
	"amberseal/core/print/typeset"
	"amberseal/core/settings"
	"amberseal/core/words/finding"
)

// nature is all that is particular to a kind of block. The table of them is where a kind is made.
type nature struct {
	kind     BlockKind
	settings []string // names that stand under the kind's in the format
	check    func(b Block, c checking) finding.List
	bind     func(b *binder, x Block)
}

// table holds every kind in the order in which they are offered.
func table() []nature {
	return []nature{
		{Heading, []string{"level", "text", "align"}, Block.checkHeading, (*binder).headingBlock},
		{Text, []string{"body", "callOut"}, Block.checkText, (*binder).textBlock},
		{Facts, []string{"tiles"}, Block.checkTiles, (*binder).factTiles},
		{Answers, []string{"fields", "hideEmpty", "headed", "across", "flat", "shading", "borders"}, Block.checkAnswers, (*binder).answers},
		{
			Lines, []string{"rows", "columns", "hideEmpty", "totals", "subtotal", "shading", "borders", "missing"},
			Block.checkLines, (*binder).lineTable,
		},
		{
			FixedTable, []string{"grid", "shading", "borders"},
			func(b Block, c checking) finding.List { return b.Grid.check(c.at, c.scope) }, (*binder).fixedTable,
		},
		{
			Picture, []string{"picture", "alt", "field", "across", "caption", "width", "height", "align", "missing"},
			Block.checkPicture, (*binder).pictureBlock,
		},
		{Signature, []string{"field", "text", "missing"}, Block.checkSignature, (*binder).signatureBlock},
		{
			Code, []string{"symbology", "text", "caption", "width", "height", "align", "payee", "field", "missing"},
			Block.checkCode, (*binder).codeBlock,
		},
		{
			Graph, []string{"series", "rows", "fields", "caption", "width", "height", "align", "missing"},
			Block.checkChart, (*binder).chart,
		},
		{Columns, []string{"sides"}, Block.checkColumns, (*binder).columns},
		{Group, []string{"blocks"}, Block.checkGroup, func(b *binder, x Block) { b.blocks(x.Blocks) }},
		{kind: Rule, bind: func(b *binder, x Block) {
			b.add(&typeset.Rule{Block: x.ID, Thickness: 0.75, Colour: hairline, Before: 6, After: 10})
		}},
		{Space, []string{"height", "ruled"}, nil, (*binder).spaceBlock},
		{kind: PageBreak, bind: func(b *binder, x Block) { b.add(&typeset.Break{Block: x.ID}) }},
		{Cover, []string{"text", "caption", "picture", "alt"}, Block.checkCover, (*binder).cover},
		{Contents, []string{"level", "text"}, Block.checkContents, (*binder).contentsBlock},
		{Strip, []string{"stubs", "height", "text"}, Block.checkStrip, (*binder).strip},
		{Letterhead, []string{"to", "tiles"}, Block.checkLetterhead, (*binder).letterheadBlock},
	}
}

// natures are the table, and where each kind is in it.
var (
	natures []nature
	places  map[BlockKind]int
)

func init() {
	natures = table()
	places = make(map[BlockKind]int, len(natures))
	for i, n := range natures {
		places[n.kind] = i
	}
}

// nature of a kind; that of one which is not there prints nothing.
func (k BlockKind) nature() *nature {
	if i, ok := places[k]; ok {
		return &natures[i]
	}
	return &nature{kind: k, bind: func(*binder, Block) {}}
}

// BlockKinds lists the kinds in the order in which they are offered.
func BlockKinds() []BlockKind {
	out := make([]BlockKind, len(natures))
	for i, n := range natures {
		out[i] = n.kind
	}
	return out
}

// Has reports whether blocks of this kind have a setting, by its name in the format.
func (k BlockKind) Has(setting string) bool { return slices.Contains(k.nature().settings, setting) }

// UnmarshalText refuses kinds that are not there.
func (k *BlockKind) UnmarshalText(text []byte) error {
	*k = BlockKind(text)
	if _, ok := places[*k]; !ok {
		return fmt.Errorf("there is no kind of block called “%s”", text)
	}
	return nil
}

// KindSettings tells the names of the settings in the format, and which of them each kind has.
func (Block) KindSettings() (reflect.Type, map[string][]string) {
	of := map[string][]string{}
	for _, n := range natures {
		of[string(n.kind)] = n.settings
	}
	return reflect.TypeFor[Settings](), of
}

// MarshalJSON writes the block with its settings under the name of its kind.
func (b Block) MarshalJSON() ([]byte, error) {
	type plain Block
	object, err := json.Marshal(plain(b))
	if err != nil {
		return nil, err
	}
	return settings.Append(object, string(b.Kind), b.Settings, b.Kind.nature().settings)
}

// UnmarshalJSON reads what MarshalJSON writes.
func (b *Block) UnmarshalJSON(data []byte) error {
	type plain Block
	if err := json.Unmarshal(data, (*plain)(b)); err != nil {
		return err
	}
	return settings.Read(data, string(b.Kind), &b.Settings)
}

func (b Block) checkHeading(c checking) finding.List {
	var l finding.List
	if len(b.Text) == 0 {
		l.Notice(c.at, "paper.heading-empty")
	}
	if b.Level < 1 || b.Level > 3 {
		l.Fault(c.at, "paper.heading-level")
	}
	return l
}

func (b *binder) headingBlock(x Block) {
	b.shared.level = x.Level
	b.heading(x.ID, x.Level, x.Text.Bind(b.facts), align(x.Align))
}

// calloutInset is the room between the edge of a call-out and its words, in points.
const calloutInset = 10

// textBlock prints paragraphs; those of a call-out on the house's tint, with an edge in its colour.
func (b *binder) textBlock(x Block) {
	if !x.CallOut {
		b.body(x.ID, x.Body)
		return
	}
	words := b.inside(func(b *binder) { b.body("", x.Body) })
	if len(words) == 0 {
		return
	}
	tint := b.tint
	edges := [4]typeset.Edge{3: {Width: tileEdge, Colour: b.accent}}
	b.add(&typeset.Table{
		Block: x.ID, Layout: true, Columns: []float64{1}, Pad: calloutInset * 0.7, Inset: calloutInset, Before: 6, After: 12,
		Rows: []typeset.Row{{Cells: []typeset.Cell{{Nodes: words, Fill: &tint, Edges: &edges}}}},
	})
}

// ruledPitch is the distance in millimetres of lines to write on, as in exercise books; common practice.
const ruledPitch = 8

// spaceBlock leaves room empty, or ruled to be written on.
func (b *binder) spaceBlock(x Block) {
	if !x.Ruled {
		b.add(&typeset.Space{Block: x.ID, Height: x.Height * millimetre})
		return
	}
	for y := ruledPitch; float64(y) <= max(x.Height, ruledPitch); y += ruledPitch {
		b.add(&typeset.Rule{Block: x.ID, Before: ruledPitch*millimetre - 0.5, Thickness: 0.5, Colour: hairline})
	}
}

func (b Block) checkText(c checking) finding.List {
	var l finding.List
	if len(b.Body) == 0 {
		l.Notice(c.at, "paper.text-empty")
	}
	return l
}

func (b Block) checkAnswers(c checking) finding.List {
	return b.checkFields(c, "paper.table-prints-no-field")
}

func (b Block) checkSignature(c checking) finding.List {
	var l finding.List
	if x, ok := c.scope.Form.Field(b.Field); !ok || x.Kind != form.Signature {
		l.Fault(c.at, "paper.signature-without-field")
	}
	return l
}

func (b Block) checkColumns(c checking) finding.List {
	var l finding.List
	if len(b.Sides) < 2 || len(b.Sides) > mostSides {
		l.Fault(c.at, "paper.columns-two-to-four")
	}
	return l
}

func (b Block) checkGroup(c checking) finding.List {
	var l finding.List
	if len(b.Blocks) == 0 {
		l.Notice(c.at, "paper.group-empty")
	}
	return l
}

func (b Block) checkStrip(c checking) finding.List {
	var l finding.List
	if b.Stubs < 1 || b.Stubs > mostStubs {
		l.Fault(c.at, "paper.strip-stubs")
	}
	return l
}
