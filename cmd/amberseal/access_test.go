package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"maps"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"amberseal/app/access"
	"amberseal/app/people"
	"amberseal/app/receive"
	"amberseal/core/ask/form"
	"amberseal/core/words/phrase"
	"amberseal/demo"
	"amberseal/web/api"
)

const accessPassword = "a long enough passphrase"

// intakes of the walk: one that a guest works on and one that a guest knows nothing of, with who sent something to each.
var walked = map[string]string{"guest-book": "Own Sender", "secret-book": "Secret Sender"}

// stage is a house with the two intakes and one submission to each; ids gives the intakes by their addresses.
func stage(t *testing.T) (p *program, site string, ids map[string]int64) {
	t.Helper()
	p, err := wire(t.Context(), filepath.Join(t.TempDir(), "data"), "", "", slog.New(slog.DiscardHandler))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { p.close() })
	if err := demo.Furnish(t.Context(), p.server.Office, p.server.People, "http://127.0.0.1"); err != nil {
		t.Fatal(err)
	}
	ids = map[string]int64{}
	for _, name := range []string{"Guest book", "Secret book"} { // so that their numbers are 1 and 2, and those of their submissions too
		i, err := p.server.Workshop.New(t.Context(), name, "Your name")
		if err == nil {
			_, err = p.server.Workshop.Open(t.Context(), i.ID)
		}
		slug := strings.ToLower(strings.ReplaceAll(name, " ", "-"))
		if err == nil {
			answers := form.Raw{"name": []byte(`"` + walked[slug] + `"`)}
			_, err = p.server.Counter.Submit(t.Context(), slug, receive.Sending{Own: true, Answers: answers})
		}
		if err != nil {
			t.Fatal(err)
		}
		ids[slug] = i.ID
	}
	server := httptest.NewServer(p.server.Handler())
	t.Cleanup(server.Close)
	return p, server.URL, ids
}

// asking is what a request of the walk sends; what is refused is refused before it is read.
var asking = map[string]string{
	"POST /api/proofs/document":      `{"key": "receipt", "answers": "submission", "submission": ID, "design": DESIGN}`,
	"POST /api/proofs/notice/letter": `{"key": "staff", "answers": "submission", "submission": ID, "design": DESIGN}`,
	"POST /api/proofs/notice":        `{"key": "staff", "answers": "submission", "submission": ID, "design": DESIGN}`,
	"POST /api/proofs/filings":       `{"key": "", "answers": "submission", "submission": ID, "design": DESIGN}`,
	"POST /api/proofs/registers":     `{"key": "", "answers": "submission", "submission": ID, "design": DESIGN}`,
}

// walk asks for every operation as somebody, about one of the intakes, and shows each answer.
func walk(
	t *testing.T,
	client *http.Client,
	p *program,
	site string,
	id int64,
	see func(at string, needs api.Needs, status int, body []byte),
) {
	t.Helper()
	i, err := p.db.Intake(t.Context(), id)
	if err != nil {
		t.Fatal(err)
	}
	i.Design.Notices[0].Subject, i.Design.Filings[0].Path = phrase.Parse(
		"{{name}}",
	), phrase.Parse(
		"{{name}}",
	) // so that proofs show who sent it
	design, err := json.Marshal(i.Design)
	if err != nil {
		t.Fatal(err)
	}
	number := fmt.Sprint(id)
	for at, needs := range api.Permissions {
		method, path, _ := strings.Cut(at, " ")
		if path == "/api/events" || strings.HasPrefix(path, "/api/session") && method != http.MethodGet {
			continue // a stream without an end, with nothing in it; the door itself
		}
		path = strings.NewReplacer(":id", number, ":step", "999", ":version", "1", ":invitation", "999", ":slug", i.Address, ":field", "x",
			":token", "x", ":name", "x", ":key", "receipt", ":code", "x").Replace(path)
		if strings.HasPrefix(at, "DELETE /api/people/:id") || strings.HasPrefix(at, "PUT /api/people/:id") {
			path = strings.Replace(path, number, "999", 1) // the walkers stay
		}
		if strings.HasSuffix(path, "/comparison") {
			path += "?from=1&to=1"
		}
		body := "{}"
		if x := asking[at]; x != "" {
			body = strings.NewReplacer("ID", number, "DESIGN", string(design)).Replace(x)
		}
		r, err := http.NewRequest(method, site+path, strings.NewReader(body))
		if err != nil {
			t.Fatal(err)
		}
		r.Header.Set("Content-Type", "application/json")
		answer, err := client.Do(r)
		if err != nil {
			t.Fatal(at, err)
		}
		text, err := io.ReadAll(answer.Body)
		answer.Body.Close()
		if err != nil {
			t.Fatal(err)
		}
		see(at, needs, answer.StatusCode, text)
	}
}

// Every operation of the description is open to who may do it, where they may do it, and to nobody else, as docs/access.md says: all
// operations, by nobody, by all roles, and by guests with each role on one intake, about that intake and about another. What somebody
// may not read stands in nothing that they get.
func TestWhoMayDoWhat(t *testing.T) {
	p, site, ids := stage(t)
	own, other := ids["guest-book"], ids["secret-book"]
	type walker struct {
		name string
		who  access.Who
	}
	walkers := []walker{{"nobody", access.Who{}}}
	for _, role := range access.Roles {
		walkers = append(walkers, walker{string(role), access.Who{Role: role}})
	}
	for _, role := range access.OnIntakes {
		walkers = append(walkers, walker{"guest and " + string(role),
			access.Who{Role: access.Guest, Intakes: map[int64]access.Role{own: role}}})
	}
	for _, w := range walkers {
		client := signedIn(t, p, site, w.who)
		for _, about := range []int64{own, other} {
			walk(t, client, p, site, about, func(at string, needs api.Needs, status int, body []byte) {
				needed, of := access.Permission(needs.Permission), access.About(needs.About)
				may := w.who.May(needed)
				switch of {
				case access.AboutSeveral:
					may = needed == access.Look && w.who.Role != "" || !w.who.Scope(needed).Empty()
				case access.AboutIntake, access.AboutSubmission:
					may = w.who.MayOn(needed, about)
				case access.AboutUpload: // there is none
					may = may || w.who.Role != ""
				}
				refused := status == http.StatusForbidden || status == http.StatusUnauthorized
				if hidden := of == access.AboutIntake || of == access.AboutSubmission; hidden && w.who.Role == access.Guest &&
					!w.who.Sees(about) {
					refused = status == http.StatusNotFound // it is not even told that it is there
				}
				if refused == may {
					t.Errorf("%s about %d, which needs %s on %s, gives %d to %s: %.100s", at, about, needed, of, status, w.name, body)
				}
				for slug, sender := range walked {
					if !w.who.MayOn(access.Records, ids[slug]) && bytes.Contains(body, []byte(sender)) {
						t.Errorf("%s tells %s who sent something to %s", at, w.name, slug)
					}
					title := strings.ToUpper(slug[:1]) + strings.ReplaceAll(slug[1:], "-", " ")
					sent := asking[at] != "" && about == ids[slug] // the design was in the question
					if strings.HasPrefix(needs.About, "public") || sent || w.who.Sees(ids[slug]) {
						continue
					}
					if bytes.Contains(body, []byte(title)) {
						t.Errorf("%s tells %s of %s", at, w.name, slug)
					}
				}
			})
		}
	}
}

// A guest’s lists and counts hold what is theirs, all of it.
func TestGuestsSeeTheirOwn(t *testing.T) {
	p, site, ids := stage(t)
	client := signedIn(t, p, site, access.Who{Role: access.Guest, Intakes: map[int64]access.Role{ids["guest-book"]: access.Staff}})
	get := func(path string, into any) {
		r, err := client.Get(site + path)
		if err != nil {
			t.Fatal(err)
		}
		defer r.Body.Close()
		if err := json.NewDecoder(r.Body).Decode(into); err != nil || r.StatusCode != http.StatusOK {
			t.Fatal(path, r.StatusCode, err)
		}
	}
	var d api.Desk
	get("/api/desk", &d)
	var page api.RegisterPage
	get("/api/submissions", &page)
	var found api.RegisterPage
	get("/api/submissions?words=Sender", &found)
	var intakes api.IntakeLinePage
	get("/api/intakes", &intakes)
	if d.All != 1 || d.Intakes != 1 || page.All != 1 || len(page.Entries) != 1 || page.Entries[0].Person != "Own Sender" ||
		len(found.Entries) != 1 ||
		len(intakes.Entries) != 1 || intakes.Entries[0].Submissions != 1 {
		t.Errorf("%+v\n%+v\n%+v\n%+v", d, page, found, intakes)
	}
}

// signedIn is somebody who may do something, or nobody.
func signedIn(t *testing.T, p *program, site string, who access.Who) *http.Client {
	t.Helper()
	jar, err := cookiejar.New(nil)
	if err != nil {
		t.Fatal(err)
	}
	client := &http.Client{Jar: jar}
	if who.Role == "" {
		return client
	}
	email := fmt.Sprintf("%s%d@walk.example", who.Role, len(who.Intakes))
	for _, role := range who.Intakes {
		email = string(role) + "." + email
	}
	if err := p.server.People.Add(t.Context(), people.Person{Email: email, Name: "N", Role: who.Role}, accessPassword); err != nil {
		t.Fatal(err)
	}
	somebody, _, err := p.db.PersonByEmail(t.Context(), email)
	if err != nil {
		t.Fatal(err)
	}
	somebody.Intakes = who.Intakes
	if err := p.server.People.Set(t.Context(), somebody); err != nil {
		t.Fatal(err)
	}
	body, err := json.Marshal(map[string]string{"email": email, "password": accessPassword})
	if err != nil {
		t.Fatal(err)
	}
	r, err := client.Post(site+"/api/session", "application/json", bytes.NewReader(body))
	if err != nil {
		t.Fatal(err)
	}
	defer r.Body.Close()
	var s api.Session
	if err := json.NewDecoder(r.Body).Decode(&s); err != nil || r.StatusCode != http.StatusOK || string(*s.Role) != string(who.Role) {
		t.Fatalf("the %s signs in with %d: %+v %v", who.Role, r.StatusCode, s, err)
	}
	return client
}

// docs/access.md is what holds. AMBERSEAL_APPROVE=1 writes its tables anew.
func TestAccessIsDocumented(t *testing.T) {
	const file = "../../docs/access.md"
	text, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	head, _, ok := strings.Cut(string(text), "\n## Roles\n")
	if !ok {
		t.Fatal("docs/access.md has no part “Roles”")
	}
	var b strings.Builder
	b.WriteString(head + "\n## Roles\n\n| |")
	for _, r := range access.Roles {
		fmt.Fprintf(&b, " %s |", r)
	}
	b.WriteString("\n|---|" + strings.Repeat("---|", len(access.Roles)) + "\n")
	for _, p := range access.Permissions {
		fmt.Fprintf(&b, "| `%s` |", p)
		for _, r := range access.Roles {
			b.WriteString(map[bool]string{true: " yes |", false: " – |"}[r.May(p)])
		}
		b.WriteByte('\n')
	}
	b.WriteString("\n## Operations\n\n| permission | for | operations |\n|---|---|---|\n")
	for _, p := range append([]access.Permission{access.Public, access.Self}, access.Permissions...) {
		by := map[string][]string{}
		for at, needs := range api.Permissions {
			if needs.Permission == string(p) {
				by[needs.About] = append(by[needs.About], "`"+at+"`")
			}
		}
		for _, about := range slices.Sorted(maps.Keys(by)) {
			slices.Sort(by[about])
			fmt.Fprintf(&b, "| `%s` | %s | %s |\n", p, about, strings.Join(by[about], ", "))
		}
	}
	if b.String() == string(text) {
		return
	}
	if os.Getenv("AMBERSEAL_APPROVE") == "" {
		t.Fatal("docs/access.md is not what holds; AMBERSEAL_APPROVE=1 writes its tables anew")
	}
	if err := os.WriteFile(file, []byte(b.String()), 0o644); err != nil {
		t.Fatal(err)
	}
}
