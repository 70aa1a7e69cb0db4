package paper

import (
	"maps"
	"slices"
	"strings"

	"amberseal/core/ask/form"
	"amberseal/core/words/finding"
	"amberseal/core/words/phrase"
)

// checkBrought finds what is wrong with what the design says of a file. What is wrong in the file is found where it is read.
func (d Document) checkBrought(f form.Form, exists func(name string) bool) finding.List {
	var l finding.List
	place := "documents/" + d.Key
	switch {
	case !strings.HasSuffix(strings.ToLower(d.File), ".docx"):
		l.Fault(place+"/file", "paper.file-of-another-kind", "file", d.File)
	case exists == nil || !exists(BroughtFile(d.File)):
		l.Fault(place+"/file", "paper.file-is-gone", "file", d.File)
	}
	if len(d.Blocks) > 0 {
		l.Fault(place+"/blocks", "paper.file-and-blocks")
	}
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
