package paper

import (
	"amberseal/core/finding"
	"amberseal/core/typeset"
)

// Overflows are findings of what did not fit its room on the pages.
func Overflows(d Document, on []typeset.Overflow) finding.List {
	var l finding.List
	for _, o := range on {
		at := "documents/" + d.Key + "/blocks/" + o.Block
		switch o.What {
		case typeset.WideWord:
			l.Notice(at, "“"+short(o.Words)+"” is wider than its room and is broken between letters.", "Make its column wider or its letters smaller.")
		case typeset.WidePicture:
			l.Notice(at, "The picture asks for more than the width of the page; it is printed smaller.", "Make it smaller, or the margins.")
		case typeset.SmallStub:
			l.Notice(at, "“"+short(o.Words)+"” does not fit its stub.", "Make the strip higher, the words fewer, or take fewer stubs.")
		}
	}
	return l
}

func short(words string) string {
	const most = 40
	if r := []rune(words); len(r) > most {
		return string(r[:most]) + "…"
	}
	return words
}
