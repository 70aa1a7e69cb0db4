package paper

import (
	"encoding/json"
	"strings"

	"amberseal/core/print/typeset"
	"amberseal/core/words/finding"
	"amberseal/core/words/phrase"
)

// Overflows are findings of what did not fit its room on the pages, and of letters that no font has: those name the answers
// they stand in.
func Overflows(d Document, facts phrase.Facts, on []typeset.Overflow) finding.List {
	var l finding.List
	for _, o := range on {
		at := "documents/" + d.Key + "/blocks/" + o.Block
		switch o.What {
		case typeset.WideWord:
			l.Notice(
				at, "“"+short(o.Words)+"” is wider than its room and is broken between letters.", "Make its column wider or its letters smaller.",
			)
		case typeset.WidePicture:
			l.Notice(at, "The picture asks for more than the width of the page; it is printed smaller.", "Make it smaller, or the margins.")
		case typeset.SmallStub:
			l.Notice(at, "“"+short(o.Words)+"” does not fit its stub.", "Make the strip higher, the words fewer, or take fewer stubs.")
		case typeset.TallRunning:
			l.Notice(at, "The header and footer leave no room on the page; what does not fit is cut off.", "Make them shorter, or the page larger.")
		case typeset.NoLetter:
			l.Notice(
				at, "No font has “"+o.Words+"”"+in(facts, o.Words)+"; a box is printed instead.",
				"Give the house a font of its own that has the script.",
			)
		}
	}
	return l
}

// in names the fields whose answers hold one of the letters.
func in(facts phrase.Facts, letters string) string {
	var labels []string
	for _, x := range facts.Form.Fields {
		answer, err := json.Marshal(facts.Answers[x.Key])
		if err == nil && strings.ContainsAny(string(answer), strings.ReplaceAll(letters, " ", "")) {
			labels = append(labels, "“"+x.Label+"”")
		}
	}
	if len(labels) == 0 {
		return ""
	}
	return ", which the answer to " + strings.Join(labels, ", ") + " has"
}

func short(words string) string {
	const most = 40
	if r := []rune(words); len(r) > most {
		return string(r[:most]) + "…"
	}
	return words
}
