package paper

import (
	"strconv"

	"amberseal/core/ask/form"
	"amberseal/core/words/finding"
	"amberseal/core/words/phrase"
)

// MarkKind is what a mark puts on a page.
type MarkKind string

// The kinds.
const (
	PutWords     MarkKind = "words"
	PutTick      MarkKind = "tick"
	PutCross     MarkKind = "cross"
	PutStrike    MarkKind = "strike" // a line through what the page says
	PutPicture   MarkKind = "picture"
	PutSignature MarkKind = "signature"
	PutCode      MarkKind = "code" // a QR code
)

// MarkKinds lists them.
func MarkKinds() []MarkKind {
	return []MarkKind{PutWords, PutTick, PutCross, PutStrike, PutPicture, PutSignature, PutCode}
}

// Mark is something put at a place of a PDF that the house has already. Lengths are millimetres from the upper left corner of the page as
// it is seen.
type Mark struct {
	ID     string        `json:"id"`
	Kind   MarkKind      `json:"kind"`
	Page   int           `json:"page"` // counted from 1
	Left   float64       `json:"left"`
	Top    float64       `json:"top"`
	Width  float64       `json:"width"`
	Height float64       `json:"height"`
	Text   phrase.Phrase `json:"text,omitempty"`  // of words and codes
	Field  string        `json:"field,omitempty"` // of pictures and signatures
	When   string        `json:"when,omitempty"`  // formula; put there always when empty

	Size  float64 `json:"size,omitempty"`  // of words, in points; as large as fits, up to 12, when 0
	Align string  `json:"align,omitempty"` // start, center, end
	Cells int     `json:"cells,omitempty"` // printed boxes beside each other, one for each letter
	Lines bool    `json:"lines,omitempty"` // words may go on below; otherwise they stay on one line

	Each string  `json:"each,omitempty"` // key of a repeating group: put there once for each row
	Step float64 `json:"step,omitempty"` // how far below it stands for the next row
	Most int     `json:"most,omitempty"` // so many rows at most; as the page has room when 0
}

// largestPage is a bound for places and sizes in millimetres.
const largestPage = 5000

// checkMarks finds what is wrong with what is put on the pages of a file.
func (d Document) checkMarks(f form.Form) finding.List {
	var l finding.List
	place := "documents/" + d.Key + "/marks/"
	ids := map[string]bool{}
	for i, m := range d.Marks {
		at := place + m.ID
		if m.ID == "" || ids[m.ID] {
			l.Fault(place+strconv.Itoa(i+1), "paper.mark-without-id")
			continue
		}
		ids[m.ID] = true
		if m.Page < 1 {
			l.Fault(at+"/page", "paper.mark-without-page")
		}
		if !(m.Left >= 0 && m.Top >= 0 && m.Width > 0 && m.Height > 0 && m.Left+m.Width < largestPage && m.Top+m.Height < largestPage) {
			l.Fault(at+"/left", "paper.mark-without-place")
		}
		if m.Each != "" {
			if x, ok := f.Field(m.Each); !ok || x.Kind != form.Rows {
				l.Fault(at+"/each", "paper.mark-without-rows", "rows", m.Each)
			}
			if m.Step <= 0 {
				l.Fault(at+"/step", "paper.mark-without-step")
			}
		}
		scope := phrase.Scope{Form: f, Document: true, Correctable: true, Rows: m.Each}
		l = append(l, m.Text.Check(at+"/text", scope)...)
		if m.When != "" {
			l = append(l, phrase.CheckCondition(at+"/when", m.When, scope)...)
		}
		switch m.Kind {
		case PutPicture, PutSignature:
			x, ok := f.Field(m.Field)
			signs := ok && (x.Kind == form.Signature || m.Kind == PutPicture && x.Kind.Filed())
			if !signs {
				l.Fault(at+"/field", "paper.mark-without-picture", "field", m.Field)
			}
		case PutWords, PutCode:
			if len(m.Text) == 0 {
				l.Notice(at+"/text", "paper.mark-says-nothing")
			}
		}
	}
	return l
}

// Puts reports whether a mark puts a field on a page.
func (d Document) Puts(key string) bool {
	for _, m := range d.Marks {
		if m.Field == key || m.Each == key {
			return true
		}
		for _, s := range m.Text {
			if s.Field == key {
				return true
			}
		}
	}
	return false
}
