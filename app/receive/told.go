package receive

import (
	"encoding/json"
	"strings"

	xlanguage "golang.org/x/text/language"

	"amberseal/core/ask/form"
	"amberseal/core/intake"
	"amberseal/core/words/phrase"
)

// spoken is a language that a page says it is read in; what is none is the house's.
func spoken(language string) string {
	if tag, err := xlanguage.Parse(language); err == nil && language != "" {
		return tag.String()
	}
	return ""
}

// unique lists the answers that no other submission may give.
func unique(d intake.Design, a form.Answers) []Unique {
	var out []Unique
	for _, x := range d.Form.Fields {
		if v := a[x.Key]; !v.Empty() && (x.Unique || x.Key == d.Opening.OnePer) {
			value := v.Text
			if value == "" {
				text, err := json.Marshal(v)
				if err != nil {
					continue
				}
				value = string(text)
			}
			out = append(out, Unique{x.Key, strings.ToLower(value)})
		}
	}
	return out
}

// addresses are the email addresses that were given.
func addresses(f form.Form, a form.Answers) []string {
	var out []string
	for _, x := range f.Fields {
		if v := a[x.Key]; x.Kind == form.Email && v.Text != "" {
			out = append(out, v.Text)
		}
	}
	return out
}

// person is who sent it, as far as the answers tell: a name, else an address.
func person(f form.Form, a form.Answers) string {
	for _, x := range f.Fields {
		if v := a[x.Key]; form.IsName(x) && !v.Empty() {
			return phrase.Facts{}.Answer(x, v, "")
		}
	}
	if x, ok := f.First(form.Email); ok {
		return a[x.Key].Text
	}
	return ""
}

func words(facts phrase.Facts) string {
	var all []byte
	for _, x := range facts.Form.Fields {
		if x.Answered() {
			all = append(all, facts.Text(x)...)
			all = append(all, '\n')
		}
	}
	return string(all)
}
