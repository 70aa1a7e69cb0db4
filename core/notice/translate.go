package notice

import (
	"maps"
	"slices"
	"strings"

	xlanguage "golang.org/x/text/language"

	"amberseal/core/ask/form"
	"amberseal/core/words/finding"
	"amberseal/core/words/phrase"
)

// Wording is what a notice says in another language.
type Wording struct {
	Subject phrase.Phrase `json:"subject"`
	Message phrase.Body   `json:"message"`
}

// In gives the notice in a respondent's language (BCP 47), and whether it is written in that one: one that is not stays as it is. What is
// written in a language of its own speaks that to everybody.
func (n Notice) In(language string) (Notice, bool) {
	base, _, _ := strings.Cut(language, "-")
	w, ok := n.Translations[base]
	ok = ok && n.Language == ""
	if ok {
		n.Subject, n.Message = w.Subject, w.Message
	}
	n.Translations = nil
	return n, ok
}

// spoken is the notice in the language of who reads it, and the facts in the same.
func (n Notice) spoken(facts phrase.Facts) (Notice, phrase.Facts) {
	said, translated := n.In(facts.Language)
	switch {
	case translated:
		facts.House.Language, facts.Form = facts.Language, facts.Form.In(facts.Language)
	case n.Language != "":
		facts.House.Language, facts.Form = n.Language, facts.Form.In(n.Language)
	}
	return said, facts
}

func (n Notice) checkTranslations(place string, f form.Form, scope phrase.Scope) finding.List {
	var l finding.List
	for _, code := range slices.Sorted(maps.Keys(n.Translations)) {
		at, w := place+"/translations/"+code, n.Translations[code]
		if base, err := xlanguage.ParseBase(code); err != nil || base.String() != code {
			l.Fault(at, "notice.no-language", "language", code)
		}
		if len(w.Subject) == 0 {
			l.Fault(at+"/subject", "notice.no-subject")
		}
		l = append(l, w.Subject.Check(at+"/subject", phrase.Scope{Form: f, Message: true})...)
		l = append(l, w.Message.Check(at+"/message", scope)...)
		said := n
		said.Subject, said.Message = w.Subject, w.Message
		l = append(l, said.checkWordsOfMany(at)...)
	}
	return l
}
