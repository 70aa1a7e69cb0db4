package form

import (
	"slices"
	"strings"
)

// Texts are a form's words in another language, by their place: intro, NAME/label, NAME/help,
// NAME/placeholder, NAME/message, NAME/choice/VALUE.
type Texts map[string]string

// Words lists the places of every text that can be translated, with the words there, in the form's order.
func (f Form) Words() (places []string, words Texts) {
	words = Texts{}
	f.translate(func(place string, text *string) {
		if *text != "" {
			places = append(places, place)
			words[place] = *text
		}
	})
	return places, words
}

// Translated reports whether what is asked is written in a language, too.
func (f Form) Translated(language string) bool {
	language, _, _ = strings.Cut(language, "-")
	return len(f.Translations[language]) > 0
}

// In gives the form in a language; what is not translated stays as it is.
func (f Form) In(language string) Form {
	language, _, _ = strings.Cut(language, "-")
	texts := f.Translations[language]
	if texts == nil {
		return f
	}
	f.Fields = slices.Clone(f.Fields)
	for i := range f.Fields {
		x := &f.Fields[i]
		x.Choices, x.Fields = slices.Clone(x.Choices), slices.Clone(x.Fields)
		for j := range x.Fields {
			x.Fields[j].Choices = slices.Clone(x.Fields[j].Choices)
		}
	}
	f.translate(func(place string, text *string) {
		if t := texts[place]; t != "" && *text != "" {
			*text = t
		}
	})
	return f
}

// translate visits every text of the form.
func (f *Form) translate(visit func(place string, text *string)) {
	visit("intro", &f.Intro)
	var fields func(list []Field, at string)
	fields = func(list []Field, at string) {
		for i := range list {
			x := &list[i]
			name := at + x.Key
			visit(name+"/label", &x.Label)
			visit(name+"/help", &x.Help)
			visit(name+"/placeholder", &x.Placeholder)
			visit(name+"/message", &x.Message)
			for j := range x.Choices {
				visit(name+"/choice/"+x.Choices[j].Value, &x.Choices[j].Label)
			}
			fields(x.Fields, name+".")
		}
	}
	fields(f.Fields, "")
}
