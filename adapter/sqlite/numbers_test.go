package sqlite_test

import (
	"crypto/rand"
	"database/sql"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/alexedwards/scs/v2"

	"amberseal/adapter/sqlite"
	"amberseal/app/access"
	"amberseal/app/people"
	"amberseal/app/receive"
	"amberseal/app/sweep"
	"amberseal/core/ask/form"
	"amberseal/core/link"
	"amberseal/core/plan"
)

// Who is removed takes their number along: the next one gets another, is asked in, and no session of the one before is theirs.
func TestANumberIsGivenOnce(t *testing.T) {
	h := furnished(t)
	ctx := t.Context()
	owner := people.Person{Email: "own@house.example", Name: "O", Role: access.Owner, Ref: "own"}
	if err := h.AddPerson(ctx, owner, "hash", noon); err != nil {
		t.Fatal(err)
	}
	sessions := sqlite.Sessions{DB: h.DB}
	seen := map[int64]bool{}
	for _, name := range []string{"a", "b", "c"} {
		letter := plan.Welcome(noon.Add(time.Hour))
		id, err := h.InvitePerson(
			ctx,
			people.Person{Email: name + "@house.example", Name: name, Role: access.Staff, Ref: name},
			letter,
			noon,
		)
		if err != nil || seen[id] {
			t.Fatalf("%s is number %d: %v", name, id, err)
		}
		seen[id] = true
		data, err := scs.GobCodec{}.Encode(time.Now().Add(time.Hour), map[string]any{access.InSession: id})
		if err == nil {
			err = sessions.Commit("token of "+name, data, time.Now().Add(time.Hour))
		}
		if err == nil {
			err = h.RemovePerson(ctx, id, noon)
		}
		if err != nil {
			t.Fatal(err)
		}
		if _, there, err := sessions.Find("token of " + name); there || err != nil {
			t.Errorf("the session of %s outlives them: %v", name, err)
		}
	}
	h.opened(t, nil)
	for _, end := range []string{"sent", "swept", "sent"} {
		token := h.counter.Secret.Token(link.GoOn, link.NewRef(rand.Reader), 1)
		if err := h.SaveDraft(ctx, 1, token, true, form.Raw{"who": quoted("A")}, noon); err != nil {
			t.Fatal(err)
		}
		steps := plan.Remind("", noon.Add(time.Hour), noon.Add(2*time.Hour))
		if err := h.Remind(ctx, 1, token, receive.Reminder{Email: "a" + end + "@reader.example"}, steps, noon); err != nil {
			t.Fatalf("nobody is reminded of what is kept after one was %s: %v", end, err)
		}
		if end == "swept" {
			if err := h.Sweep(ctx, sweep.Before{Drafts: noon.Add(time.Hour)}); err != nil {
				t.Fatal(err)
			}
			continue
		}
		s := answers("A", time.Now().Format("150405.000000"))
		s.Draft = token
		if _, err := h.counter.Submit(ctx, "guest-book", s); err != nil {
			t.Fatal(err)
		}
	}
}

// No table whose rows this room deletes gives a number twice.
func TestTablesWhoseRowsGoGiveNumbersOnce(t *testing.T) {
	h := furnished(t)
	db, err := sql.Open("sqlite", h.file)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	files, err := filepath.Glob("*.go")
	if err != nil {
		t.Fatal(err)
	}
	deleted := map[string]bool{}
	for _, name := range files {
		if strings.HasSuffix(name, "_test.go") {
			continue
		}
		text, err := os.ReadFile(name)
		if err != nil {
			t.Fatal(err)
		}
		for _, m := range regexp.MustCompile(`DELETE FROM (\w+)|REPLACE INTO (\w+)`).FindAllStringSubmatch(string(text), -1) {
			deleted[m[1]+m[2]] = true
		}
	}
	for table := range deleted {
		var made string
		if err := db.QueryRow("SELECT sql FROM sqlite_master WHERE name = ?", table).Scan(&made); err != nil {
			t.Errorf("%s: %v", table, err)
		}
		if strings.Contains(made, "id INTEGER PRIMARY KEY") && !strings.Contains(made, "AUTOINCREMENT") {
			t.Errorf("rows of %s are deleted, and their numbers given again: %s", table, made)
		}
	}
	if len(deleted) < 10 {
		t.Errorf("only %d tables are found: %v", len(deleted), deleted)
	}
}
