// Package sheet is the looks that the stand-ins' pages share.
package sheet

import (
	_ "embed"
	"html/template"
	"net/http"
)

//go:embed style.css
var style []byte

//go:embed script.js
var script []byte

// Handle serves the looks under /standin/sheet/.
func Handle(mux *http.ServeMux) {
	for name, f := range map[string]struct {
		kind string
		data []byte
	}{"style.css": {"text/css", style}, "script.js": {"text/javascript", script}} {
		mux.HandleFunc("GET /standin/sheet/"+name, func(w http.ResponseWriter, _ *http.Request) {
			w.Header().Set("Content-Type", f.kind+"; charset=utf-8")
			w.Write(f.data)
		})
	}
}

// Page is the template of a page: its title, whether it looks for news by itself, and its words.
func Page(title string, news bool, words string) *template.Template {
	script := ""
	if news {
		script = `<script src="/standin/sheet/script.js" defer></script>`
	}
	return template.Must(template.New("page").Parse(`<!doctype html><html lang="en"><head><meta charset="utf-8">` +
		`<meta name="viewport" content="width=device-width"><title>` + title + `</title>` +
		`<link rel="stylesheet" href="/standin/sheet/style.css">` + script + `</head><body><main>` + words + `</main></body></html>`))
}

// Show writes a page.
func Show(w http.ResponseWriter, t *template.Template, data any) {
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	t.Execute(w, data) // a reader that goes away is no fault
}
