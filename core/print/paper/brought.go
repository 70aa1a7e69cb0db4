package paper

import (
	"maps"
	"slices"
	"strings"

	"amberseal/core/ask/form"
	"amberseal/core/print/typeface"
	"amberseal/core/print/typeset"
	"amberseal/core/words/finding"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

// checkBrought finds what is wrong with what the design says of a file. What is wrong in the file is found where it is read.
func (d Document) checkBrought(f form.Form, exists func(name string) bool) finding.List {
	var l finding.List
	place := "documents/" + d.Key
	switch {
	case !strings.HasSuffix(strings.ToLower(d.File), ".docx") && !d.OnPages():
		l.Fault(place+"/file", "paper.file-of-another-kind", "file", d.File)
	case exists == nil || !exists(BroughtFile(d.File)):
		l.Fault(place+"/file", "paper.file-is-gone", "file", d.File)
	}
	if len(d.Blocks) > 0 {
		l.Fault(place+"/blocks", "paper.file-and-blocks")
	}
	if !d.OnPages() && (len(d.Marks) > 0 || d.Fillable) {
		l.Fault(place+"/marks", "paper.marks-without-pages")
	}
	if d.Setter != "" && (d.Setter != LibreOffice || d.OnPages()) {
		l.Fault(place+"/setter", "paper.setter-unknown", "setter", d.Setter)
	}
	l = append(l, d.checkMarks(f)...)
	// In which rows a placeholder stands is known where the file is read.
	scope := phrase.Scope{Form: f, Document: true, Paged: true, Correctable: true}
	for _, name := range slices.Sorted(maps.Keys(d.Matches)) {
		m := d.Matches[name]
		if rows := f.RowsOf(m.Fields()); rows != "" {
			scope.Rows = rows
		}
		l = append(l, m.Check(place+"/matches/"+name, scope)...)
		scope.Rows = ""
	}
	return l
}

// OnPages reports whether the document is a PDF on whose pages it is printed.
func (d Document) OnPages() bool { return strings.HasSuffix(strings.ToLower(d.File), ".pdf") }

// markBlock begins the names by which placements speak of marks.
const markBlock = "mark "

// Block is the name by which placements speak of a mark.
func (m Mark) Block() string { return markBlock + m.ID }

// PlaceOf is the place of a finding about a part of the document: a block, or a part of its file.
func (d Document) PlaceOf(part string) string {
	if id, ok := strings.CutPrefix(part, markBlock); ok {
		return "documents/" + d.Key + "/marks/" + id
	}
	if d.Brought() {
		return "documents/" + d.Key + "/file/" + part
	}
	return "documents/" + d.Key + "/blocks/" + part
}

// OwnFamilies are the families of the house's own, by name.
func OwnFamilies(h house.House, pictures Pictures) (map[string]typeface.Family, finding.List) {
	var l finding.List
	out := map[string]typeface.Family{}
	for _, own := range h.Fonts {
		if f := readFamily(own, pictures, &l); f.Regular != nil {
			out[own.Family] = f
		}
	}
	return out, l
}

// MarkTrial puts the mark of a trial across the pages of a document that is not made of blocks.
func MarkTrial(doc *typeset.Document, f phrase.Facts) {
	if !f.Trial {
		return
	}
	words := f.Locale().Trial()
	size := min(doc.Page.Width, doc.Page.Height) / max(float64(len([]rune(words))), 5) * 1.5
	doc.Stamp = &typeset.Paragraph{
		Role: typeset.Plain, Size: size, Leading: 1,
		Runs: []typeset.Run{{Text: words, Style: typeface.Style{Bold: true}, Colour: trialInk}},
	}
}
