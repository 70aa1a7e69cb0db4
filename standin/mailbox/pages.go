package mailbox

import (
	"encoding/json"
	"mime"
	"net/http"
	"strconv"

	"github.com/emersion/go-message/mail"

	"amberseal/standin/sheet"
)

var list = sheet.Page("Stand-in mailbox", true, `<h1>Stand-in mailbox</h1><p id="said" role="status"></p>`+
	`<p>Everything this demo sends by mail ends here; nothing leaves this machine. Addresses at busy.example are put off each time, `+
	`as a busy server would; those at gone.example are refused.</p>`+
	`<form method="post" action="/standin/mailbox/switch"><input type="hidden" name="on" value="{{not .On}}">{{if .On}}<p>● The mail `+
	`server answers at {{.Address}}. <button>Stop the mail server</button></p>{{else}}<p><strong>✕ The mail server is stopped.</strong> `+
	`<button>Start the mail server</button></p>{{end}}</form>`+
	`<div id="arrived" class="wide">{{if .Messages}}<table><thead><tr><th scope="col">Received</th><th scope="col">To</th>`+
	`<th scope="col">Subject</th><th scope="col">Attached</th></tr></thead><tbody>{{range .Messages}}<tr>`+
	`<td>{{.Received.Format "15:04:05"}}</td><td>{{range .To}}{{.}} {{end}}</td>`+
	`<td><a href="/standin/mailbox/messages/{{.ID}}/read">{{.Subject}}</a></td><td>{{range .Attachments}}{{.Name}} {{end}}</td></tr>`+
	`{{end}}</tbody></table>{{else}}<p>No message has come yet.</p>{{end}}</div>`)

var read = sheet.Page("{{.Message.Subject}}", false, `<p><a href="/standin/mailbox">All messages</a></p><h1>{{.Message.Subject}}</h1>`+
	`<p>From {{.Message.From}}<br>To {{range .Message.To}}{{.}} {{end}}</p><pre>{{.Text}}</pre>`+
	`{{range $i, $a := .Message.Attachments}}<p><a href="/standin/mailbox/messages/{{$.Message.ID}}/attachments/{{$i}}">{{$a.Name}}</a> `+
	`({{$a.Type}}, {{$a.Size}} bytes)</p>{{end}}`+
	`<p><a href="/standin/mailbox/messages/{{.Message.ID}}">The message as it was received</a></p>`)

// Handle serves the mailbox to people and programs, under /standin/mailbox.
func (b *Mailbox) Handle(mux *http.ServeMux) {
	mux.HandleFunc("GET /standin/mailbox", func(w http.ResponseWriter, _ *http.Request) {
		sheet.Show(w, list, map[string]any{"On": b.On(), "Address": b.Address(), "Messages": b.Messages()})
	})
	mux.HandleFunc("GET /standin/mailbox/messages", func(w http.ResponseWriter, _ *http.Request) {
		messages := b.Messages()
		if messages == nil {
			messages = []Message{}
		}
		w.Header().Set("Content-Type", "application/json")
		json.NewEncoder(w).Encode(messages)
	})
	mux.HandleFunc("GET /standin/mailbox/messages/{id}", func(w http.ResponseWriter, r *http.Request) {
		raw, err := b.Raw(r.PathValue("id"))
		if err != nil {
			http.NotFound(w, r)
			return
		}
		w.Header().Set("Content-Type", "message/rfc822")
		w.Write(raw)
	})
	mux.HandleFunc("GET /standin/mailbox/messages/{id}/read", b.readPage)
	mux.HandleFunc("GET /standin/mailbox/messages/{id}/attachments/{n}", b.attachment)
	mux.HandleFunc("POST /standin/mailbox/switch", func(w http.ResponseWriter, r *http.Request) {
		if err := b.Switch(r.FormValue("on") == "true"); err != nil {
			http.Error(w, err.Error(), http.StatusInternalServerError)
			return
		}
		http.Redirect(w, r, "/standin/mailbox", http.StatusSeeOther)
	})
}

func (b *Mailbox) readPage(w http.ResponseWriter, r *http.Request) {
	for _, m := range b.Messages() {
		if m.ID != r.PathValue("id") {
			continue
		}
		raw, err := b.Raw(m.ID)
		if err != nil {
			break
		}
		text := ""
		Parts(raw, func(_ mail.Header, name, kind string, body []byte) {
			if name == "" && kind == "text/plain" {
				text = string(body)
			}
		})
		sheet.Show(w, read, map[string]any{"Message": m, "Text": text})
		return
	}
	http.NotFound(w, r)
}

func (b *Mailbox) attachment(w http.ResponseWriter, r *http.Request) {
	raw, err := b.Raw(r.PathValue("id"))
	n, err2 := strconv.Atoi(r.PathValue("n"))
	if err != nil || err2 != nil {
		http.NotFound(w, r)
		return
	}
	i := 0
	Parts(raw, func(_ mail.Header, name, kind string, body []byte) {
		if name == "" {
			return
		}
		if i == n {
			w.Header().Set("Content-Type", kind)
			w.Header().Set("Content-Disposition", mime.FormatMediaType("inline", map[string]string{"filename": name}))
			w.Write(body)
		}
		i++
	})
}
