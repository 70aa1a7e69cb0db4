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
		at := d.PlaceOf(o.Block)
		switch o.What {
		case typeset.WideWord:
			l.Notice(at, "paper.word-too-wide", "words", short(o.Words))
		case typeset.WidePicture:
			l.Notice(at, "paper.picture-too-wide")
		case typeset.SmallStub:
			l.Notice(at, "paper.stub-too-small", "words", short(o.Words))
		case typeset.SmallPlace:
			l.Notice(at, "paper.place-too-small", "words", short(o.Words))
		case typeset.TallRunning:
			l.Notice(at, "paper.head-and-foot-too-high")
		case typeset.NoLetter:
			l.Notice(at, "paper.letters-without-font", "words", o.Words, "facts", in(facts, o.Words))
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
