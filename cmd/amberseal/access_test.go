package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"amberseal/app/access"
	"amberseal/app/administer"
	"amberseal/app/receive"
	"amberseal/core/ask/form"
	"amberseal/demo"
	"amberseal/web/api"
)

const accessPassword = "a long enough passphrase"

// Every operation of the description is open to the roles that may do it and to no other, as docs/access.md says: all operations by
// all roles, and by nobody.
func TestWhoMayDoWhat(t *testing.T) {
	p, err := wire(t.Context(), filepath.Join(t.TempDir(), "data"), "", "", slog.New(slog.DiscardHandler))
	if err != nil {
		t.Fatal(err)
	}
	defer p.close()
	if err := demo.Furnish(t.Context(), p.server.Office, "http://127.0.0.1"); err != nil {
		t.Fatal(err)
	}
	i, err := p.server.Workshop.New(t.Context(), "Guest book", "Your name")
	if err == nil {
		_, err = p.server.Workshop.Open(t.Context(), i.ID)
	}
	if err == nil {
		_, err = p.server.Counter.Submit(t.Context(), "guest-book", receive.Sending{Own: true, Answers: form.Raw{"name": []byte(`"Secret Sender"`)}})
	}
	if err != nil {
		t.Fatal(err)
	}
	site := httptest.NewServer(p.server.Handler())
	defer site.Close()
	for _, role := range append([]access.Role{""}, access.Roles...) {
		client := signedIn(t, p, site.URL, role)
		for at, needs := range api.Permissions {
			method, path, _ := strings.Cut(at, " ")
			if path == "/api/events" && role != "" || path == "/api/session" && method != http.MethodGet {
				continue // a stream without an end; the door itself
			}
			path = strings.NewReplacer(":id", "1", ":step", "999", ":version", "1", ":invitation", "999", ":slug", "guest-book", ":field", "x", ":token", "x", ":name", "x", ":key", "receipt", ":code", "x").Replace(path)
			if strings.HasSuffix(path, "/comparison") {
				path += "?from=1&to=1"
			}
			r, err := http.NewRequest(method, site.URL+path, strings.NewReader("{}"))
			if err != nil {
				t.Fatal(err)
			}
			r.Header.Set("Content-Type", "application/json")
			answer, err := client.Do(r)
			if err != nil {
				t.Fatal(at, err)
			}
			body, err := io.ReadAll(answer.Body)
			answer.Body.Close()
			if err != nil {
				t.Fatal(err)
			}
			refused := answer.StatusCode == http.StatusForbidden || answer.StatusCode == http.StatusUnauthorized
			if may := role.May(access.Permission(needs)); refused == may {
				t.Errorf("%s, which needs %s, gives %d to the role %q: %.100s", at, needs, answer.StatusCode, role, body)
			}
			// What a role may not read stands in nothing that it gets.
			if !role.May(access.Records) && bytes.Contains(body, []byte("Secret Sender")) {
				t.Errorf("%s tells the role %q who sent something", at, role)
			}
		}
	}
}

// signedIn is somebody with a role, or nobody.
func signedIn(t *testing.T, p *program, site string, role access.Role) *http.Client {
	t.Helper()
	jar, err := cookiejar.New(nil)
	if err != nil {
		t.Fatal(err)
	}
	client := &http.Client{Jar: jar}
	if role == "" {
		return client
	}
	email := string(role) + "@house.example"
	if err := p.server.Office.AddPerson(t.Context(), administer.Person{Email: email, Name: "N", Role: role}, accessPassword); err != nil {
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
	if err := json.NewDecoder(r.Body).Decode(&s); err != nil || r.StatusCode != http.StatusOK || string(*s.Role) != string(role) || (len(s.May) == 0) {
		t.Fatalf("the %s signs in with %d: %+v %v", role, r.StatusCode, s, err)
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
	b.WriteString("\n## Operations\n\n| permission | operations |\n|---|---|\n")
	for _, p := range append([]access.Permission{access.Public, access.Self}, access.Permissions...) {
		var all []string
		for at, needs := range api.Permissions {
			if needs == string(p) {
				all = append(all, "`"+at+"`")
			}
		}
		slices.Sort(all)
		fmt.Fprintf(&b, "| `%s` | %s |\n", p, strings.Join(all, ", "))
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
