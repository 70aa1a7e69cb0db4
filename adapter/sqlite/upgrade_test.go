package sqlite_test

import (
	"database/sql"
	"errors"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/pressly/goose/v3"

	"amberseal/adapter/sqlite"
	"amberseal/app/access"
	"amberseal/app/invite"
	"amberseal/app/receive"
	"amberseal/app/register"
	"amberseal/core/ask/form"
	"amberseal/core/plan"
)

// earlier is a database of an earlier version, and its file.
func earlier(t *testing.T, version int64) (*sql.DB, string) {
	t.Helper()
	file := filepath.Join(t.TempDir(), "old.db")
	old, err := sql.Open("sqlite", file)
	if err != nil {
		t.Fatal(err)
	}
	p, err := goose.NewProvider(goose.DialectSQLite3, old, os.DirFS("migrations"))
	if err == nil {
		_, err = p.UpTo(t.Context(), version)
	}
	if err != nil {
		t.Fatal(err)
	}
	return old, file
}

// A database of an earlier version is brought up to date with all it holds.
func TestAnOldDatabase(t *testing.T) {
	old, file := earlier(t, 1)
	design := `{"amberseal": 1, "slug": "old", "name": "Old", "number": "O-{n}", "form": {"fields": [{"key": "a", "kind": "short_text", ` +
		`"label": "A"}]}, "documents": [], "notices": [], "filings": []}`
	for _, q := range []string{
		`INSERT INTO intake (id, slug, name, design, revision, version, published, state, created, updated) VALUES (1, 'old', 'Old', '` +
			design + `', 1, 1, 1, 'open', 1, 1)`,
		`INSERT INTO version VALUES (1, 1, '` + design + `', 1)`,
		`INSERT INTO submission VALUES (5, 1, 1, 'O-1', 'P', 'TOKEN', '{"a": "x"}', 1, NULL, '')`,
		`INSERT INTO submission_words (rowid, words) VALUES (5, 'O-1 ' || char(10) || 'Łucja wrote wrong')`,
		`DELETE FROM submission_words WHERE rowid = 5`,
		`INSERT INTO submission_words (rowid, words) VALUES (5, 'O-1 ' || char(10) || 'Łucja Brzęk')`,
		`INSERT INTO counter VALUES (1, 'all', 1)`,
		`INSERT INTO step (id, submission, kind, key, name, needs, missing, state, due, updated) VALUES (9, 5, 'document', 'receipt', ` +
			`'Receipt', '[]', 0, 'ready', 1, 1)`,
		`INSERT INTO step (id, submission, kind, key, name, needs, missing, state, due, updated) VALUES (12, 5, 'notice', 'n', ` +
			`'Notice', '["receipt"]', 1, 'waits', 1, 1)`,
		`INSERT INTO event (submission, at, what) VALUES (5, 1, 'Received'), (5, 2, 'Slip made, 1 page')`,
		`INSERT INTO document VALUES (5, 'slip', 'Slip', 'slip.pdf', 1, 3, 1, CAST('abc' AS BLOB))`,
	} {
		if _, err := old.Exec(q); err != nil {
			t.Fatal(q, err)
		}
	}
	if err := old.Close(); err != nil {
		t.Fatal(err)
	}
	var said []int64
	upgraded, err := sqlite.OpenSaying(t.Context(), file, func(from, to int64) { said = append(said, from, to) })
	if err == nil {
		err = upgraded.Close()
	}
	if err != nil || len(said) != 2 || said[0] != 1 || said[1] < 13 {
		t.Fatalf("it said %v: %v", said, err)
	}
	before, err := filepath.Glob(file + ".before-*")
	if err != nil || len(before) != 1 {
		t.Fatalf("copies of before are %q: %v", before, err)
	}
	copied, err := sql.Open("sqlite", before[0])
	if err != nil {
		t.Fatal(err)
	}
	var number string
	if err := copied.QueryRow("SELECT number FROM submission WHERE token = 'TOKEN'").Scan(&number); err != nil || number != "O-1" {
		t.Errorf("the copy of before has %q: %v", number, err)
	}
	if err := copied.Close(); err != nil {
		t.Fatal(err)
	}
	h := open(t, file)
	defer h.Close()
	const abc = "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad" // FIPS 180-2, appendix B.1
	if g, err := h.Genuine(t.Context(), "", abc); err != nil || g.Number != "O-1" || g.Revision != 1 || g.Latest != 1 {
		t.Errorf("the old document is %+v: %v", g, err)
	}
	j := h.claim(t, plan.Document)
	if j.ID != 9 || j.Subject != (plan.Subject{About: plan.Submission, ID: 5, Run: 1}) {
		t.Errorf("the old step is %+v", j)
	}
	if _, err := h.Finish(t.Context(), j, document("receipt", "x"), terms("")); err != nil {
		t.Fatal(err)
	}
	if n := h.claim(t, plan.Notice); n.ID != 12 || string(n.Body) != `{"documents":["receipt"]}` {
		t.Errorf("the old notice is %+v", n)
	}
	history, err := h.History(t.Context(), 5)
	if err != nil || len(history) != 3 || history[1].Sentence(form.Form{}) != "Slip made, 1 page" {
		t.Errorf("the old history is %+v: %v", history, err)
	}
	for words, want := range map[string]int{"łuc": 1, "Brzek": 1, "O-1": 1, "1 O-1 łucja": 1, "wrong": 0} {
		if got := len(h.all(t, register.Query{Scope: access.Everywhere, Intake: 1, Words: words})); got != want {
			t.Errorf("%q finds %d of the old submissions, want %d", words, got, want)
		}
	}
	if err := sqlite.Check(t.Context(), file); err != nil {
		t.Error(err)
	}
	if _, err := h.counter.Submit(t.Context(), "old", receive.Sending{Answers: form.Raw{"a": quoted("y")}}); err != nil {
		t.Errorf("the old intake takes no answers: %v", err)
	}
}

// Invitations that an earlier program sent open nothing, and say so before anybody who was invited meets it.
func TestInvitationsOfAnEarlierProgram(t *testing.T) {
	old, file := earlier(t, 7)
	design := `{"amberseal": 1, "slug": "old", "name": "Old", "number": "O-{n}", "form": {"fields": [{"key": "a", "kind": "short_text", ` +
		`"label": "A"}]}, "documents": [], "notices": [], "filings": [], "opening": {"invited": true}}`
	const token = "sAsLAZWTU1hCuA2yO2uXOOqb" // as they were
	for _, q := range []string{
		`INSERT INTO intake (id, slug, name, design, revision, version, published, state, created, updated) VALUES (1, 'old', 'Old', '` +
			design + `', 1, 1, 1, 'open', 1, 1)`,
		`INSERT INTO version VALUES (1, 1, '` + design + `', 1)`,
		`INSERT INTO invitation (id, intake, token, email, link, state, due, sent) VALUES
			(1, 1, '` + token + `', 'sent@guest.example', 'x', 'sent', 1, 1700000000000000),
			(2, 1, 'b', 'waits@guest.example', 'x', 'waits', 1, 0),
			(3, 1, 'c', 'withdrawn@guest.example', 'x', 'withdrawn', 1, 1700000000000000)`,
	} {
		if _, err := old.Exec(q); err != nil {
			t.Fatal(q, err)
		}
	}
	if err := old.Close(); err != nil {
		t.Fatal(err)
	}
	h := open(t, file)
	defer h.Close()
	all, err := h.Invitations(t.Context(), 1, 0, 9)
	if err != nil || len(all) != 3 {
		t.Fatal(all, err)
	}
	want := []invite.State{invite.Withdrawn, invite.Waits, invite.Failed}
	for n, x := range all {
		if x.State != want[n] {
			t.Errorf("%s is %s, want %s", x.Email, x.State, want[n])
		}
	}
	if n, err := h.UnsentInvitations(t.Context(), access.Everywhere); n != 1 || err != nil {
		t.Errorf("%d must be sent again: %v", n, err)
	}
	published, _, err := h.counter.Form(t.Context(), "old")
	if err != nil {
		t.Fatal(err)
	}
	if _, err := h.counter.Invitation(t.Context(), published, token); !errors.Is(err, receive.ErrInvitationUsed) {
		t.Errorf("the page of a link of before says %v", err)
	}
	if err := h.RetryInvitation(t.Context(), 1, 1, nil, noon); err != nil {
		t.Fatal(err)
	}
	if n, err := h.UnsentInvitations(t.Context(), access.Everywhere); n != 0 || err != nil {
		t.Errorf("%d must be sent again after that: %v", n, err)
	}
}

// A database that a newer program has used is left as it is, with words that say what to do.
func TestADatabaseOfANewerProgram(t *testing.T) {
	h := open(t, filepath.Join(t.TempDir(), "amberseal.db"))
	if err := h.Close(); err != nil {
		t.Fatal(err)
	}
	db, err := sql.Open("sqlite", h.file)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := db.Exec("INSERT INTO goose_db_version (version_id, is_applied) VALUES (9999, 1)"); err != nil {
		t.Fatal(err)
	}
	if err := db.Close(); err != nil {
		t.Fatal(err)
	}
	for range 2 {
		if x, err := sqlite.Open(t.Context(), h.file); !errors.Is(err, sqlite.ErrNewer) || !strings.Contains(err.Error(), "newer program") {
			t.Fatalf("it opens: %v, %v", x, err)
		}
	}
}
