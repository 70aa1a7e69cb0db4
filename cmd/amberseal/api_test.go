package main

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"maps"
	"net/http"
	"os"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers"
	"github.com/getkin/kin-openapi/routers/legacy"

	"amberseal/demo"
)

// description is the API's description, read by a library of its own, and stricter than it was written: an answer may have
// no member that the description does not name, since the pages would not know of it.
func description(t *testing.T) *openapi3.T {
	t.Helper()
	doc, err := openapi3.NewLoader().LoadFromFile("../../web/api/openapi.yaml")
	if err == nil {
		err = doc.Validate(t.Context())
	}
	if err != nil {
		t.Fatal(err)
	}
	for _, s := range doc.Components.Schemas {
		if s.Value.Type.Is("object") && s.Value.AdditionalProperties.Schema == nil && len(s.Value.Properties) > 0 {
			no := false
			s.Value.AdditionalProperties.Has = &no
		}
	}
	return doc
}

// operations are those of the description, by name.
func operations(doc *openapi3.T) map[string]struct{ method, path string } {
	out := map[string]struct{ method, path string }{}
	for path, item := range doc.Paths.Map() {
		for method, op := range item.Operations() {
			out[op.OperationID] = struct{ method, path string }{method, path}
		}
	}
	return out
}

// visitor calls operations and holds every answer against the description.
type visitor struct {
	*running
	doc    *openapi3.T
	router routers.Router
	seen   map[string]bool
}

func (h *running) visitor(t *testing.T) *visitor {
	t.Helper()
	for _, file := range []string{"application/vnd.openxmlformats-officedocument.wordprocessingml.document", "application/pdf",
		"image/svg+xml", "image/png", "text/csv"} {
		openapi3filter.RegisterBodyDecoder(file, openapi3filter.FileBodyDecoder)
	}
	openapi3filter.RegisterBodyDecoder("application/schema+json", openapi3filter.RegisteredBodyDecoder("application/json"))
	doc := description(t)
	doc.Servers = openapi3.Servers{{URL: h.url}}
	router, err := legacy.NewRouter(doc)
	if err != nil {
		t.Fatal(err)
	}
	return &visitor{h, doc, router, map[string]bool{}}
}

// visit sends a body as JSON, or bytes as they are, and gives the answer's status and body.
func (v *visitor) visit(method, path string, body any) (int, []byte) {
	v.t.Helper()
	kind, data := "application/json", []byte(nil)
	switch b := body.(type) {
	case nil:
	case []byte:
		kind, data = "application/octet-stream", b
	default:
		var err error
		if data, err = json.Marshal(b); err != nil {
			v.t.Fatal(err)
		}
	}
	req, err := http.NewRequest(method, v.url+path, bytes.NewReader(data))
	if err != nil {
		v.t.Fatal(err)
	}
	req.Header.Set("Content-Type", kind)
	r, err := v.client.Do(req)
	if err != nil {
		v.t.Fatal(method, path, err)
	}
	defer r.Body.Close()
	answer, err := io.ReadAll(r.Body)
	if err != nil {
		v.t.Fatal(err)
	}
	route, parameters, err := v.router.FindRoute(req)
	if err != nil {
		v.t.Fatal(method, path, err)
	}
	v.seen[route.Operation.OperationID] = true
	in := &openapi3filter.ResponseValidationInput{
		RequestValidationInput: &openapi3filter.RequestValidationInput{Request: req, Route: route, PathParams: parameters},
		Status:                 r.StatusCode, Header: r.Header, Body: io.NopCloser(bytes.NewReader(answer)),
		Options: &openapi3filter.Options{IncludeResponseStatus: true},
	}
	if err := openapi3filter.ValidateResponse(context.Background(), in); err != nil {
		v.t.Errorf("%s %s gives %d, which is not as described: %v\n%.400s", method, path, r.StatusCode, err, answer)
	}
	return r.StatusCode, answer
}

// well is a visit that must succeed; its answer is read into a value.
func (v *visitor) well(method, path string, body, into any) {
	v.t.Helper()
	status, answer := v.visit(method, path, body)
	if status >= 300 {
		v.t.Errorf("%s %s gives %d %.300s", method, path, status, answer)
	}
	if into != nil {
		if err := json.Unmarshal(answer, into); err != nil {
			v.t.Fatal(method, path, err)
		}
	}
}

// refused is a visit that must be refused with words.
func (v *visitor) refused(want int, method, path string, body any) {
	v.t.Helper()
	status, answer := v.visit(method, path, body)
	var p problem
	if json.Unmarshal(answer, &p); status != want || p.Message == "" {
		v.t.Errorf("%s %s gives %d %.200s, want %d and words", method, path, status, answer, want)
	}
}

type object = map[string]any

// Every operation of the description is called, and what the program answers is what the description says, member for member.
func TestAnswersAreAsDescribed(t *testing.T) {
	h := startProgram(t)
	v := h.visitor(t)
	v.well("GET", "/api/session", nil, nil)
	v.refused(401, "POST", "/api/session", object{"email": "nobody@one.example", "password": "x"})
	h.signIn()
	v.well("POST", "/api/session", object{"email": "owner@tarnhollow.example", "password": "amber-and-paper"}, nil)

	var house object
	v.well("GET", "/api/house", nil, &house)
	v.well("PUT", "/api/house", house, nil)
	bad := maps.Clone(house)
	bad["accent"], bad["zone"] = "green", "Nowhere/Here"
	v.refused(422, "PUT", "/api/house", bad)
	for _, look := range []string{"ledger", "letter", "ticket"} {
		v.well("POST", "/api/proofs/house", object{"house": house, "look": look}, nil)
	}
	picture, err := os.ReadFile("../../demo/pictures/tarn-hollow.png")
	if err != nil {
		t.Fatal(err)
	}
	font, err := os.ReadFile("../../core/print/typeface/files/IBMPlexSans-Bold.ttf")
	if err != nil {
		t.Fatal(err)
	}
	v.well("POST", "/api/pictures", picture, nil)
	v.refused(422, "POST", "/api/pictures", []byte("no picture"))
	v.well("POST", "/api/fonts", font, nil)
	v.refused(422, "POST", "/api/fonts", picture)
	v.well("POST", "/api/house/files", font, nil)
	brought, err := os.ReadFile("../../e2e/files/thanks.docx")
	if err != nil {
		t.Fatal(err)
	}
	var filed struct{ File string }
	v.well("POST", "/api/files?name=thanks.docx", brought, &filed)
	v.refused(422, "POST", "/api/files?name=picture.docx", picture)
	own := object{"key": "own", "name": "Own", "title": []any{}, "fileName": []any{}, "page": object{}, "footer": []any{},
		"blocks": []any{},
		"file":   filed.File}
	asks := object{"amberseal": 2, "name": "Own", "slug": "own", "number": "{n}", "form": object{"fields": []any{}},
		"documents": []any{own}, "notices": []any{}, "filings": []any{}}
	v.well("POST", "/api/files/inspection", object{"design": asks, "key": "own", "answers": "made-up"}, nil)
	v.refused(422, "POST", "/api/files/inspection", object{"design": asks, "key": "other", "answers": "made-up"})
	v.well("POST", "/api/files/intake?name=thanks.docx", brought, nil)
	v.refused(422, "POST", "/api/files/intake?name=picture.docx", picture)
	v.well("POST", "/api/files/notes", object{"design": asks, "key": "own"}, nil)
	v.well("POST", "/api/files/beginning", object{"design": asks}, nil)
	v.well("POST", "/api/files/blocks", object{"design": asks, "key": "own"}, nil)
	v.refused(422, "POST", "/api/files/blocks", object{"design": asks, "key": "other"})

	v.well("GET", "/api/desk", nil, nil)
	v.well("GET", "/api/examples", nil, nil)
	v.well("GET", "/api/formulas/functions", nil, nil)
	v.well("POST", "/api/questions", object{"text": "Your name\nYour email *\n", "taken": []string{"name"}}, nil)
	v.well("POST", "/api/questions/table", []byte("Name,Born\nA,2001-02-03\n"), nil)
	v.refused(422, "POST", "/api/questions/table", []byte("PK\x03\x04 no sheet"))
	v.refused(422, "POST", "/api/questions/schema", []byte("{"))

	type intake struct {
		ID       int
		Revision int
		Design   object
	}
	var known struct{ Entries []intake }
	v.well("GET", "/api/intakes", nil, &known)
	all := known.Entries
	if len(all) != 6 {
		t.Fatalf("there are %d intakes", len(all))
	}
	slug := func(i intake) string { return i.Design["slug"].(string) }
	for n, i := range all {
		at := fmt.Sprintf("/api/intakes/%d", i.ID)
		v.well("GET", at, nil, &i)
		all[n] = i
		v.well("GET", at+"/versions", nil, nil)
		v.well("GET", at+"/versions/1", nil, nil)
		v.refused(404, "GET", at+"/versions/99", nil)
		v.well("GET", at+"/comparison?from=0&to=1", nil, nil)
		v.well("GET", at+"/invitations", nil, nil)
		v.well("POST", "/api/designs/whereabouts", object{"design": i.Design}, nil)
		v.well("POST", "/api/designs/check", object{"design": i.Design, "answers": object{}}, nil)
		v.well("GET", "/api/public/intakes/"+slug(i), nil, nil)
		for _, language := range []string{"de", "ar", "xx"} {
			v.well("GET", "/api/public/intakes/"+slug(i)+"?language="+language, nil, nil)
		}
		v.well("POST", "/api/public/intakes/"+slug(i)+"/check", object{"answers": object{}}, nil)
		v.refused(422, "POST", "/api/public/intakes/"+slug(i)+"/submissions", object{"answers": object{}})
		for _, x := range i.Design["documents"].([]any) {
			for _, answers := range []string{"made-up", "emptest", "longest"} {
				v.well("POST", "/api/proofs/document", object{"design": i.Design, "key": x.(object)["key"], "answers": answers}, nil)
			}
		}
		for _, x := range i.Design["notices"].([]any) {
			v.well("POST", "/api/proofs/notice", object{"design": i.Design, "key": x.(object)["key"], "answers": "made-up"}, nil)
		}
		v.well("POST", "/api/proofs/filings", object{"design": i.Design, "key": "", "answers": "made-up"}, nil)
		v.well("POST", "/api/proofs/registers", object{"design": i.Design, "key": "", "answers": "made-up"}, nil)
		_, schema := h.try("GET", at+"/schema", nil)
		v.well("POST", "/api/questions/schema", schema, nil)
	}
	room := all[slices.IndexFunc(all, func(i intake) bool { return slug(i) == "practice-room" })]
	at := fmt.Sprintf("/api/intakes/%d", room.ID)
	v.well("PUT", at+"/design", object{"revision": room.Revision, "design": room.Design}, nil)
	v.refused(409, "PUT", at+"/design", object{"revision": room.Revision, "design": room.Design})
	v.well("PUT", at+"/opening", object{"open": true}, nil)
	v.well("POST", at+"/copy", nil, nil)
	v.well("POST", "/api/designs/rename", object{"design": room.Design, "from": "players", "to": "musicians"}, nil)
	v.refused(422, "POST", "/api/designs/rename", object{"design": room.Design, "from": "players", "to": "room"})
	v.well("POST", "/api/designs/uses", object{"design": room.Design, "name": "room"}, nil)
	v.refused(422, "POST", "/api/designs/remove", object{"design": room.Design, "name": "gone", "mends": []any{}})
	v.well("POST", "/api/designs/remove", object{"design": room.Design, "name": "needs", "mends": []any{}}, nil)
	v.well("POST", "/api/formulas", object{"form": room.Design["form"], "source": "players * 2", "answers": object{"players": 3}}, nil)
	v.well("POST", "/api/formulas", object{"form": room.Design["form"], "source": "players * (", "answers": object{}}, nil)
	v.well("POST", "/api/intakes", object{"name": "Described", "questions": "One\nTwo\n"}, nil)

	v.well("POST", at+"/invitations", object{"addresses": "one@guest.example\nnot an address"}, nil)
	var list struct{ Entries []struct{ ID int } }
	v.well("GET", at+"/invitations", nil, &list)
	invited := list.Entries
	if len(invited) != 1 {
		t.Fatalf("%d were invited", len(invited))
	}
	v.refused(404, "POST", at+"/invitations/9999/retry", nil)
	v.refused(404, "POST", at+"/invitations/9999/withdrawal", nil)
	soon(t, 20*time.Second, "the invitation went out", func() bool {
		var sent struct {
			Entries []struct{ Intake, Email string }
		}
		v.well("GET", "/api/invitations", nil, &sent)
		return len(sent.Entries) == 1 && sent.Entries[0].Email == "one@guest.example" && sent.Entries[0].Intake != ""
	})
	v.well("POST", fmt.Sprintf("%s/invitations/%d/withdrawal", at, invited[0].ID), nil, nil)

	public := "/api/public/intakes/practice-room"
	var r receipt
	v.well("POST", public+"/submissions", booking("described@one.example"), &r)
	asksAfter(t, h, v, public)
	v.well("GET", public+"/receipts/"+strings.Split(r.Documents[0].Href, "/")[2], nil, nil)
	v.refused(404, "GET", public+"/receipts/none", nil)
	_, pdf := h.try("GET", r.Documents[0].Href, nil)
	var g genuine
	v.well("POST", "/api/public/checks", pdf, &g)
	v.refused(404, "POST", "/api/public/checks", pdf[1:])
	v.well("GET", "/api/public/checks/"+g.Code, nil, nil)
	v.refused(404, "GET", "/api/public/checks/0000000000000000", nil)
	keeps(v, public)
	v.refused(409, "GET", public+"/sent/none", nil)
	v.refused(404, "POST", "/api/public/intakes/none/check", object{"answers": object{}})
	v.well("POST", "/api/public/intakes/repair-drop-off/uploads/arrival?name=a.png", picture, nil)
	v.refused(422, "POST", "/api/public/intakes/repair-drop-off/uploads/arrival?name=a.png", []byte("no picture"))
	v.refused(422, "POST", at+"/copies", []byte("%PDF-1.7 broken"))

	soon(t, 20*time.Second, "the demo's work is done", func() bool {
		var page struct{ Unfinished int }
		h.call("GET", "/api/submissions", nil, &page)
		return page.Unfinished <= 1
	})
	var page struct {
		Entries []struct {
			ID    int
			Steps []struct {
				ID    int
				State string
			}
		}
	}
	for _, query := range []string{"", "?state=unfinished", "?words=Brz", "?before=9"} {
		v.well("GET", "/api/submissions"+query, nil, nil)
	}
	v.well("GET", "/api/submissions?state=failed", nil, &page)
	for _, e := range page.Entries {
		for _, s := range e.Steps {
			if s.State == "failed" {
				v.well("POST", fmt.Sprintf("/api/submissions/%d/steps/%d/retry", e.ID, s.ID), nil, nil)
			}
		}
	}
	for id := 1; id <= 8; id++ {
		v.well("GET", fmt.Sprintf("/api/submissions/%d", id), nil, nil)
	}
	v.refused(404, "GET", "/api/submissions/99999", nil)
	v.well("POST", "/api/steps/retry", object{"intake": 99999}, nil)
	v.well("DELETE", "/api/submissions/1/links", nil, nil)
	v.refused(404, "DELETE", "/api/submissions/99999/links", nil)
	v.well("GET", "/api/messages", nil, nil)
	v.well("GET", "/api/filings?destination=cabinet&words=PR", nil, nil)
	outside(v)
	for _, path := range []string{"file", "schema", "blank.pdf", "code.svg", "code.png", "submissions.csv"} {
		v.well("GET", "/api/intakes/1/"+path, nil, nil)
	}
	var entry struct {
		Documents []struct{ Href string }
	}
	v.well("GET", "/api/submissions/1", nil, &entry)
	v.well("GET", entry.Documents[0].Href, nil, nil)
	v.refused(404, "GET", "/api/pictures/none.png", nil)
	v.refused(404, "GET", "/api/uploads/none", nil)
	v.refused(404, "POST", "/api/public/intakes/nowhere/preview", object{"answers": object{}})
	visitPeople(t, h, v)
	v.well("DELETE", "/api/session", nil, nil)
	for name := range operations(v.doc) {
		// Only a letter that failed is tried again: e2e/form.spec.ts. The stream of events has no end: house_test.go.
		if !v.seen[name] && name != "retryInvitation" && name != "events" {
			t.Errorf("no answer of %s was looked at", name)
		}
	}
}

// Without signing in every operation is refused, but for those of respondents and the door itself; so are addresses that the
// description does not name.
func TestEveryDoorIsLocked(t *testing.T) {
	h := startProgram(t)
	for name, op := range operations(description(t)) {
		if strings.HasPrefix(op.path, "/api/public/") || strings.HasPrefix(op.path, "/api/welcome/") || op.path == "/api/session" {
			continue
		}
		path := strings.NewReplacer("{id}", "1", "{step}", "1", "{version}", "1", "{invitation}", "1").Replace(op.path)
		if strings.HasSuffix(path, "/comparison") {
			path += "?from=0&to=1"
		}
		if status, answer := h.try(op.method, path, []byte("{}")); status != 401 {
			t.Errorf("%s gives %d %.80s to a stranger", name, status, answer)
		}
	}
	for _, path := range []string{
		"/api/intakes/1/file", "/api/intakes/1/schema", "/api/intakes/1/submissions.csv", "/api/pictures/tarn-hollow.png",
		"/api/submissions/1/documents/receipt",
		"/api/uploads/1", "/api/events", "/api/intakes/1/code.svg", "/api/intakes/1/blank",
	} {
		if status, answer := h.try("GET", path, nil); status != 401 && status != 404 {
			t.Errorf("%s gives %d %.80s to a stranger", path, status, answer)
		}
	}
}

// Whatever is sent in place of a body is refused with words, or taken for what it says; the program makes no mistake of its own.
func TestBodiesThatMeanNothing(t *testing.T) {
	h := startProgram(t, "--empty")
	h.signIn()
	h.openIntake("Guest book", "Your name\nYour email\n")
	deep := strings.Repeat(`{"design":`, 2000) + "1" + strings.Repeat("}", 2000)
	nested := `{"design": {"amberseal": 1, "slug": "x", "name": "x", "form": {"fields": [` + strings.Repeat(
		`{"key": "a", "kind": "rows", "label": "A", "fields": [`,
		500,
	) +
		strings.Repeat(
			`]}`,
			500,
		) + `]}, "documents": [], "notices": [], "filings": []}, "key": "a", "answers": "made-up", "from": "a", "to": "b", "name": "a", ` +
		`"mends": []}`
	bodies := []string{
		"", "null", "[]", "{}", "1", `"x"`, "{", "\x00\xFF", `{"design": null}`, `{"design": {}, "key": "x", "answers": "made-up", ` +
			`"name": "a", "from": "a", "to": "b", "mends": []}`,
		`{"design": {"amberseal": 1, "form": {"fields": [{"kind": "nothing"}]}, "documents": [{"blocks": [{}]}], "notices": [{}], ` +
			`"filings": [{}]}, "key": "", "answers": "longest", "name": "", "from": "", "to": "", "mends": [{}]}`,
		`{"answers": {"name": {"given": 5}, "your_name": [[[[1]]]], "email": null, "": ""}}`, `{"answers": []}`, `{"open": "yes"}`,
		`{"revision": -1, "design": {}}`,
		`{"house": {"name": 5}}`, `{"form": {"fields": null}, "source": "` + strings.Repeat("(", 4000) + `", "answers": {}}`,
		`{"name": 1e999, "questions": null}`, deep, nested,
	}
	for name, op := range operations(description(t)) {
		if op.method == "GET" || op.method == "DELETE" {
			continue
		}
		path := strings.NewReplacer("{id}", "1", "{step}", "1", "{version}", "1", "{invitation}", "1", "{slug}", "guest-book", "{field}",
			"your_name").
			Replace(op.path)
		if name == "uploadFile" {
			path += "?name=x"
		}
		for _, body := range bodies {
			status, answer := h.try(op.method, path, []byte(body))
			var p problem
			if status == 0 || status >= 500 ||
				status >= 400 &&
					(json.Unmarshal(answer, &p) != nil || p.Message == "" || p.Status != status ||
						!strings.HasPrefix(p.Type, "tag:amberseal.example,2026:problem/")) {
				t.Errorf("%s with %.60q gives %d %.200s", name, body, status, answer)
			}
		}
		if name == "signIn" { // ten wrong passwords close the door for a while, not the house
			if status, _ := h.try("GET", "/api/desk", nil); status != 200 {
				t.Fatalf("after nonsense at the door the desk gives %d", status)
			}
		}
	}
	if status, _ := h.try("GET", "/healthz", nil); status != 200 {
		t.Errorf("the program is not well: %d", status)
	}
}

// visitPeople asks somebody in, who chooses a password by the letter's link, changes it, and is let go.
func visitPeople(t *testing.T, h *running, v *visitor) {
	t.Helper()
	type object = map[string]any
	entry := object{"name": "Wanda Reed", "role": "guest", "intakes": []object{{"intake": 1, "role": "staff"}}}
	var p struct {
		ID    int
		State string
	}
	v.well("POST", "/api/people", object{"email": "wanda@reed.example", "entry": entry}, &p)
	v.refused(409, "POST", "/api/people", object{"email": "wanda@reed.example", "entry": entry})
	v.refused(422, "POST", "/api/people", object{"email": "nobody", "entry": entry})
	at := fmt.Sprintf("/api/people/%d", p.ID)
	v.well("POST", at+"/letter", nil, nil)
	var token string
	link := regexp.MustCompile(`/welcome/([\w-]{32})`)
	soon(t, 20*time.Second, "the later letter came", func() bool {
		for _, m := range h.mailTo("wanda@reed.example") {
			_, raw := h.try("GET", "/standin/mailbox/messages/"+m.ID, nil)
			if found := link.FindSubmatch(raw); found != nil {
				if status, _ := h.try("GET", "/api/welcome/"+string(found[1]), nil); status == 200 {
					token = string(found[1])
				}
			}
		}
		return token != ""
	})
	v.well("GET", "/api/welcome/"+token, nil, nil)
	v.refused(409, "GET", "/api/welcome/none", nil)
	entry["role"] = "auditor"
	v.well("PUT", at, entry, &p)
	v.refused(404, "PUT", "/api/people/9999", entry)
	v.well("DELETE", at+"/sessions", nil, nil) // which makes the letter's link void, too
	v.refused(409, "POST", "/api/welcome/"+token, object{"password": "a long enough phrase"})
	var all struct {
		Entries []struct {
			ID   int
			Self bool
			Role string
		}
	}
	v.well("GET", "/api/people", nil, &all)
	for _, x := range all.Entries {
		if x.Self {
			v.refused(409, "PUT", fmt.Sprintf("/api/people/%d", x.ID),
				object{"name": "Ottoline Marsh", "role": "staff", "intakes": []any{}})
		}
	}
	v.well("DELETE", at, nil, nil)
	v.refused(422, "PUT", "/api/session/password", object{"present": "not it", "next": "another long password"})
	v.well("PUT", "/api/session/password", object{"present": demo.Password, "next": "another long password"}, nil)
	v.well("PUT", "/api/session/password", object{"present": "another long password", "next": demo.Password}, nil)
	v.well("DELETE", "/api/session/others", nil, nil)
	v.well("GET", "/api/session", nil, nil)
}
