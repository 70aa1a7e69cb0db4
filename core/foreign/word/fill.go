package word

import (
	"amberseal/core/foreign/match"
	"amberseal/core/words/phrase"
	"github.com/beevik/etree"
)

// Filling is what a file is filled with.
type Filling struct {
	Names    *match.Names
	Facts    phrase.Facts
	Picture  func(name string) ([]byte, error) // of photos and uploaded signatures, as they were sent
	Title    string                            // of the file's properties, as are the next three; what is empty stays
	Author   string
	Subject  string
	Keywords string
}

// Filled is a file with answers in it.
type Filled struct {
	file    *File
	stories []*story
	core    *etree.Document
	added   []added
	types   map[string]string // of endings that the file did not have
	links   map[string]relationships
}

// added is a part that the file did not have.
type added struct {
	name string
	data []byte
}

// Fill puts answers into a copy of the file. A name that has no field stands there in square brackets.
func (f *File) Fill(with Filling) *Filled {
	x := &Filled{file: f, types: map[string]string{}, links: map[string]relationships{}}
	with.Facts.Unbroken = false
	for _, s := range f.stories {
		copied := &story{s.name, s.kind, s.tree.Copy()}
		x.stories = append(x.stories, copied)
		w := &filler{out: x, with: with, part: s.name}
		w.story(copied)
	}
	if f.core != nil {
		x.core = f.core.Copy()
		properties(x.core.Root(), with)
	}
	return x
}

// filler fills one part.
type filler struct {
	out   *Filled
	with  Filling
	part  string
	group []string // the groups whose row is filled just now
}

// story fills a part from its outermost level in.
func (w *filler) story(s *story) {
	root := s.tree.Root()
	switch s.kind {
	case bodyStory:
		w.level(root.SelectElement("w:body"))
	case notesStory:
		for _, note := range root.ChildElements() {
			w.level(note)
		}
	default:
		w.level(root)
	}
}

// level fills the blocks of one level.
func (w *filler) level(parent *etree.Element) {
	for {
		all := blocks(parent)
		regions, _ := amongBlocks(all)
		if len(regions) == 0 {
			break
		}
		w.region(parent, all, regions[0])
	}
	for _, e := range blocks(parent) {
		w.block(e)
	}
	if parent.Tag == "tc" {
		if last := parent.ChildElements(); len(last) == 0 || last[len(last)-1].Tag != "p" {
			parent.CreateElement("w:p") // a cell ends with a paragraph (ISO/IEC 29500-1, 17.4.65)
		}
	}
}

func (w *filler) block(e *etree.Element) {
	switch e.Tag {
	case "p":
		if group := w.listed(e); group != "" {
			w.repeat([]*etree.Element{e}, group, w.blockOnly)
			return
		}
		w.paragraph(e)
	case "tbl":
		w.table(e)
	case "sdt":
		w.control(e)
	default:
		w.level(e)
	}
}

func (w *filler) blockOnly(parent *etree.Element) {
	for _, e := range blocks(parent) {
		if e.Tag == "p" {
			w.paragraph(e)
		} else {
			w.block(e)
		}
	}
}

// region decides about what stands between two marks among blocks, and takes the marks out.
func (w *filler) region(parent *etree.Element, all []*etree.Element, r region) {
	if r.open.verb == rows {
		w.repeatRegion(all, r)
		return
	}
	first, second := r.close, r.close // of the part that stands there on the condition
	if r.other != nil {
		first = *r.other
	}
	if w.with.Facts.Condition(r.open.name) {
		if r.other != nil {
			w.drop(all, first, second)
		}
	} else {
		w.drop(all, r.open, first)
	}
	marks := []event{r.close, r.open}
	if r.other != nil {
		marks = []event{r.close, *r.other, r.open}
	}
	for _, e := range marks {
		w.unmark(e)
	}
}

// drop takes out what stands between two marks: whole blocks, and the words beside the marks.
func (w *filler) drop(all []*etree.Element, from, to event) {
	if from.line.paragraph == to.line.paragraph {
		l := readLine(from.line.paragraph)
		a, b := from.mark, to.mark
		l.cut(l.find(a).end, l.find(b).start)
		return
	}
	// What lies between them inside the same outer block, such as a control, is found by walking from one to the other.
	for e := next(from.line.paragraph); e != nil && e != to.line.paragraph; {
		following := next(e)
		if !holds(e, to.line.paragraph) {
			if endsSection(e) {
				clearWords(e)
			} else {
				remove(e)
			}
			e = following
			continue
		}
		e = firstBlock(e)
	}
	l := readLine(from.line.paragraph)
	l.cut(l.find(from.mark).end, len(l.text))
	l = readLine(to.line.paragraph)
	l.cut(0, l.find(to.mark).start)
}

// find gives a mark where it stands now: marks before it in the line may have gone.
func (l line) find(m mark) mark {
	for _, x := range l.marks() {
		if x.verb == m.verb && x.name == m.name && x.start <= m.start {
			best := x
			for _, y := range l.marks() {
				if y.verb == m.verb && y.name == m.name && y.start <= m.start {
					best = y
				}
			}
			return best
		}
	}
	return m
}

// next is the block behind another, going out of controls where they end.
func next(e *etree.Element) *etree.Element {
	for e != nil && !(e.Space == "w" && (e.Tag == "body" || e.Tag == "tc" || e.Tag == "txbxContent")) {
		parent := e.Parent()
		if parent == nil {
			return nil
		}
		for i := e.Index() + 1; i < len(parent.Child); i++ {
			if x, ok := parent.Child[i].(*etree.Element); ok && x.Space == "w" && (x.Tag == "p" || x.Tag == "tbl" || x.Tag == "sdt") {
				return x
			}
		}
		e = parent
	}
	return nil
}

func firstBlock(e *etree.Element) *etree.Element {
	if c := inner(e); c != nil && e.Tag != "tbl" {
		if all := blocks(c); len(all) > 0 {
			return all[0]
		}
	}
	return next(e)
}

func holds(e, x *etree.Element) bool {
	for ; x != nil; x = x.Parent() {
		if x == e {
			return true
		}
	}
	return false
}

func clearWords(p *etree.Element) {
	l := readLine(p)
	l.cut(0, len(l.text))
}

// unmark takes a mark out, and its paragraph where nothing else stands in it.
func (w *filler) unmark(e event) {
	p := e.line.paragraph
	l := readLine(p)
	m := l.find(e.mark)
	l.cut(m.start, m.end)
	if l = readLine(p); l.empty() && !endsSection(p) {
		remove(p)
	}
}

// repeatRegion repeats what stands between the marks of rows.
func (w *filler) repeatRegion(all []*etree.Element, r region) {
	between := all[r.open.at+1 : max(r.close.at, r.open.at+1)]
	w.unmark(r.close)
	var kept []*etree.Element
	for _, e := range between {
		if e.Parent() != nil {
			kept = append(kept, e)
		}
	}
	// Words beside the opening mark would be repeated too, and are not: whoever wants that puts the marks into one line.
	group := w.groupOf(r.open.name)
	w.unmark(r.open)
	if len(kept) > 0 {
		w.repeat(kept, group, func(parent *etree.Element) { w.level(parent) })
	}
}

// groupOf is the key of the group that a name means.
func (w *filler) groupOf(name string) string {
	m, _ := w.with.Names.Find(name)
	return m.Field()
}

// repeat puts a copy of neighbouring elements there for each row of a group, filled with its answers.
func (w *filler) repeat(all []*etree.Element, group string, fill func(parent *etree.Element)) {
	parent, at := all[0].Parent(), all[0].Index()
	for _, e := range all {
		parent.RemoveChild(e)
	}
	before := w.with.Facts
	w.group = append(w.group, group)
	for _, facts := range before.Rows(group) {
		w.with.Facts = facts
		one := etree.NewElement("w:txbxContent")
		for _, e := range all {
			one.AddChild(e.Copy())
		}
		fill(one)
		for _, e := range one.ChildElements() {
			one.RemoveChild(e)
			parent.InsertChildAt(at, e)
			at++
		}
	}
	w.with.Facts, w.group = before, w.group[:len(w.group)-1]
}

// table fills a table: regions of rows first, then rows that repeat by themselves, then each cell.
func (w *filler) table(table *etree.Element) {
	for {
		all := tableRows(table)
		regions, _ := amongRows(all)
		if len(regions) == 0 {
			break
		}
		w.rowRegion(all, regions[0])
	}
	for _, row := range tableRows(table) {
		if group := w.rowGroup(row); group != "" {
			w.repeat([]*etree.Element{row}, group, func(parent *etree.Element) { w.rowCells(parent.ChildElements()[0]) })
			continue
		}
		w.rowCells(row)
	}
	if len(tableRows(table)) == 0 { // a table has rows (17.4.37)
		remove(table)
	}
}

func (w *filler) rowCells(row *etree.Element) {
	for _, cell := range cells(row) {
		w.level(cell)
	}
}

// rowRegion decides about the rows between two marks.
func (w *filler) rowRegion(all []*etree.Element, r region) {
	from, to := r.open.at, r.close.at
	half := to + 1
	if r.other != nil {
		half = r.other.at
	}
	marks := []event{r.close, r.open}
	if r.other != nil {
		marks = []event{r.close, *r.other, r.open}
	}
	verb, name := r.open.verb, r.open.name
	for _, e := range marks {
		w.unmark(e)
	}
	for _, row := range all[from : to+1] {
		for _, cell := range cells(row) {
			if len(blocks(cell)) == 0 {
				cell.CreateElement("w:p")
			}
		}
	}
	// A row that held nothing but marks goes; the mark’s own row belongs to what it opens.
	var first, second []*etree.Element
	for i := from; i <= to; i++ {
		bare := (i == from || i == to || i == half) && rowEmpty(all[i])
		switch {
		case bare && from != to:
			remove(all[i])
		case i < half:
			first = append(first, all[i])
		default:
			second = append(second, all[i])
		}
	}
	if verb == rows {
		if all := append(first, second...); len(all) > 0 {
			w.repeat(all, w.groupOf(name), func(parent *etree.Element) {
				for _, row := range tableRows(parent) {
					w.rowCells(row)
				}
			})
		}
		return
	}
	gone := first
	if w.with.Facts.Condition(name) {
		gone = second
	}
	for _, row := range gone {
		remove(row)
	}
}

func rowEmpty(row *etree.Element) bool {
	for _, cell := range cells(row) {
		for _, e := range blocks(cell) {
			if e.Tag != "p" || !readLine(e).empty() {
				return false
			}
		}
	}
	return true
}

// rowGroup is the group for which a row repeats by itself: it names its fields and is not inside one of its rows already.
func (w *filler) rowGroup(row *etree.Element) string {
	var names []string
	for _, p := range row.FindElements(".//w:p") {
		names = append(names, namesIn(p)...)
	}
	for _, sdt := range row.FindElements(".//w:sdt") {
		names = append(names, controlNames(sdt)...)
	}
	return w.open(names)
}

// listed is the group for which an item of a list repeats by itself.
func (w *filler) listed(p *etree.Element) string {
	if !w.out.file.isListed(p) {
		return ""
	}
	return w.open(namesIn(p))
}

// open is the group of which the names speak, where its rows are not being filled already.
func (w *filler) open(names []string) string {
	if len(names) == 0 {
		return ""
	}
	group := w.with.Names.Group(names)
	for _, g := range w.group {
		if g == group {
			return ""
		}
	}
	return group
}

// namesIn are the names that a paragraph prints.
func namesIn(p *etree.Element) []string {
	var out []string
	for _, m := range readLine(p).marks() {
		if m.verb == put || m.verb == encode {
			out = append(out, m.name)
		}
	}
	return out
}
