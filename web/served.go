package web

import (
	"html/template"
	"slices"
	"strings"

	"amberseal/app/receive"
	"amberseal/core/ask/form"
	"amberseal/core/words/house"
)

// servedField is a question that can be answered before the page's script has come.
type servedField struct {
	Key, Label, Help, Type, Mode, Fill, Placeholder, Suffix string
	Long, Short, Heading, Words                             bool
}

// served is the beginning of a form, looking as the script will show it (ui/public/App.vue, ui/shared/sheet). The script takes over
// what was typed by then.
var served = template.Must(template.New("served").Parse(`<div id="served"><main class="mx-auto max-w-[680px] px-3 py-6 sm:py-10">` +
	`{{with .Cover}}<img src="/p/{{.}}" alt="" class="house-cover">{{end}}<div class="house-edge bg-sheet px-5 py-7 sm:px-10 ` +
	`sm:py-9"><div class="mb-3 flex flex-wrap items-center gap-x-4 text-soft">{{if .Logo}}<img src="/p/{{.Logo}}" alt="{{.House}}" ` +
	`class="house-logo">{{else}}<p>{{.House}}</p>{{end}}` +
	`<span class="ms-auto text-[13px]"><select class="min-h-[28px] max-w-full bg-transparent" disabled aria-hidden="true">{{range ` +
	`.Languages}}<option{{if .Here}} selected{{end}}>{{.Name}}</option>{{end}}</select></span></div><h1 class="house-title mb-6 ` +
	`text-[28px] leading-tight">{{.Name}}</h1><p class="-mt-4 mb-6 text-[13px] text-soft">&nbsp;</p>` +
	`{{with .Steps}}<div class="mb-6"><ol class="flex flex-wrap gap-x-5 gap-y-1 pb-2">{{range $i, $s := .}}` +
	`<li class="flex gap-2 {{if $i}}text-soft{{else}}font-semibold{{end}}"><span ` +
	`class="font-title">{{$s.N}}</span><span>{{$s.Name}}</span></li>{{end}}</ol>` +
	`<progress class="house-progress" value="1" max="{{len .}}" aria-hidden="true"></progress></div>{{end}}` +
	`{{with .Intro}}<p class="mb-6 whitespace-pre-line">{{.}}</p>{{end}}<div class="grid grid-cols-1 gap-x-5 gap-y-5 ` +
	`sm:grid-cols-6">{{range .Fields}}` +
	`<div class="min-w-0 sm:col-span-6">{{if .Heading}}<h2 class="mt-3 border-b border-rule pb-1 text-[17px]">{{.Label}}</h2>{{else if ` +
	`.Words}}<p class="whitespace-pre-line">{{.Label}}</p>{{else}}` +
	`<label for="{{.Key}}" class="mb-1 block font-semibold">{{.Label}}</label>{{with .Help}}<p class="mb-1 text-soft">{{.}}</p>{{end}}` +
	`{{if .Long}}<textarea id="{{.Key}}" data-key="{{.Key}}" class="entry" rows="4" dir="auto" ` +
	`placeholder="{{.Placeholder}}"></textarea>{{else}}<div class="flex items-center gap-2">` +
	`<input id="{{.Key}}" data-key="{{.Key}}" class="entry{{if .Short}} max-w-[220px]{{end}}" dir="auto" type="{{.Type}}"{{with .Mode}} ` +
	`inputmode="{{.}}"{{end}}{{with .Fill}} autocomplete="{{.}}"{{end}} placeholder="{{.Placeholder}}">` +
	`{{with .Suffix}}<span class="text-soft">{{.}}</span>{{end}}</div>{{end}}{{end}}</div>{{end}}</div></div></main></div>`))

// servedInputs are the kinds of question that are one plain control, with its type and input mode.
var servedInputs = map[form.Kind][2]string{
	form.ShortText: {"text"}, form.LongText: {}, form.Email: {"email", "email"}, form.Phone: {"tel", "tel"},
	form.WebAddress:  {"url", "url"},
	form.WholeNumber: {"text", "numeric"}, form.Decimal: {"text", "decimal"},
}

// servedForm gives the beginning of a form up to the first question that needs the script, or nothing where that is the first one.
func servedForm(p receive.Published, h house.House) string {
	f := p.Design.Form
	fills := f.Fills()
	var fields []servedField
	asked := false
	for _, x := range f.Fields {
		input, plain := servedInputs[x.Kind]
		heading, words := x.Kind == form.Section, x.Kind == form.Text
		if x.Kind == form.Hidden {
			continue
		}
		if !plain && !heading && !words || x.When != "" || x.Calculated() || x.Default != (form.Default{}) || x.Mask != "" ||
			x.Prefix != "" ||
			x.Width != "" {
			break
		}
		asked = asked || plain
		fields = append(fields, servedField{
			Key: x.Key, Label: x.Label, Help: x.Help, Type: input[0], Mode: input[1], Fill: fills[x.Key], Placeholder: x.Placeholder,
			Suffix: x.Suffix,
			Long:   x.Kind == form.LongText, Short: x.Kind == form.WholeNumber || x.Kind == form.Decimal, Heading: heading, Words: words,
		})
	}
	if !asked {
		return ""
	}
	var b strings.Builder
	err := served.Execute(&b, struct {
		House, Name, Intro string
		Logo, Cover        string
		Languages          []servedLanguage
		Steps              []servedStep
		Fields             []servedField
	}{h.Name, p.Design.Name, f.Intro, h.Logo, p.Design.Opening.Cover, servedLanguages(h.Language), servedSteps(p.Design.Name, f), fields})
	if err != nil {
		return ""
	}
	return b.String()
}

// servedLanguage is one of the menu, which takes its room before it can be used.
type servedLanguage struct {
	Name string
	Here bool
}

func servedLanguages(here string) []servedLanguage {
	var out []servedLanguage
	for _, l := range [][2]string{{"en", "English"}, {"de", "Deutsch"}, {"fr", "Français"}, {"es", "Español"}, {"pl", "Polski"}} {
		out = append(out, servedLanguage{l[1], sameLanguage(l[0], here)})
	}
	return out
}

// servedStep is a page of a form in the list of its pages.
type servedStep struct {
	N    int
	Name string
}

// servedSteps names the pages of a form: by their own name, that of their first section, or the form's. A form of one page, or one
// whose pages depend on answers, has none.
func servedSteps(name string, f form.Form) []servedStep {
	var out []servedStep
	var fields []form.Field
	label := ""
	end := func() {
		if len(fields) == 0 {
			return
		}
		if i := slices.IndexFunc(fields, func(x form.Field) bool { return x.Kind == form.Section }); label == "" && i >= 0 {
			label = fields[i].Label
		}
		if label == "" {
			label = name
		}
		out = append(out, servedStep{len(out) + 1, label})
	}
	for _, x := range f.Fields {
		if x.Kind == form.Page {
			if x.When != "" {
				return nil
			}
			end()
			label, fields = x.Label, nil
			continue
		}
		fields = append(fields, x)
	}
	end()
	if len(out) < 2 {
		return nil
	}
	return out
}
